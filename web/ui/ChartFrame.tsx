"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRef, type ReactNode } from "react";
import { Act } from "./fields.tsx";
import { saveBlob } from "./saveCsv.ts";

interface LegendItem {
  readonly key: string;
  readonly label: string;
  readonly colour: string;
  readonly hatched?: boolean;
}
interface Props {
  readonly title: string;
  /** Quantity and unit, and what the figures are per. */
  readonly unit: string;
  readonly legend?: readonly LegendItem[];
  readonly hidden?: ReadonlySet<string>;
  readonly onToggle?: (key: string) => void;
  readonly csv: () => string;
  readonly children: ReactNode;
}

/** A picture on its own knows no tokens: their colours now take their place. */
function withColours(svg: string): string {
  const style = getComputedStyle(document.documentElement);
  return svg.replace(/var\((--[\w-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim());
}

/** Title with unit, a legend that toggles, the chart, and its export as PNG and CSV. */
export function ChartFrame({ title, unit, legend = [], hidden, onToggle, csv, children }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const file = title.toLowerCase().replace(/[^a-z0-9]+/g, "-");
  const png = (): void => {
    const svg = holder.current?.querySelector("svg");
    if (!svg) return;
    const { width, height } = svg.getBoundingClientRect();
    const copy = svg.cloneNode(true) as SVGElement;
    copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
    const image = new Image();
    image.onload = () => {
      const canvas = document.createElement("canvas");
      canvas.width = width * 2;
      canvas.height = height * 2;
      const c = canvas.getContext("2d");
      if (!c) return;
      c.fillStyle = getComputedStyle(document.body).backgroundColor;
      c.fillRect(0, 0, canvas.width, canvas.height);
      c.scale(2, 2);
      c.drawImage(image, 0, 0, width, height);
      canvas.toBlob((b) => b && saveBlob(`${file}.png`, b));
    };
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(withColours(new XMLSerializer().serializeToString(copy)))}`;
  };
  return (
    <Box as="section" aria-label={title}>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          {title}
        </Text>
        <Text color="ink2">{unit}</Text>
        <Flex ml="auto" gap="3">
          <Act onClick={png}>PNG</Act>
          <Act onClick={() => saveBlob(`${file}.csv`, new Blob([csv()], { type: "text/csv" }))}>CSV</Act>
        </Flex>
      </Flex>
      {legend.length > 0 && (
        <Flex wrap="wrap" gap="1" columnGap="3.5" mb="1">
          {legend.map((l) => {
            const off = hidden?.has(l.key) ?? false;
            return (
              <Flex
                as="button"
                key={l.key}
                align="center"
                gap="1.5"
                color={off ? "ink2" : "ink"}
                textDecoration={off ? "line-through" : "none"}
                cursor="pointer"
                fontSize="12px"
                aria-pressed={!off}
                {...{ type: "button", onClick: () => onToggle?.(l.key) }}
              >
                <Box
                  w="11px"
                  h="11px"
                  background={l.hatched ? `repeating-linear-gradient(135deg, ${l.colour} 0 3px, #D08A78 3px 5px)` : l.colour}
                  opacity={off ? 0.3 : 1}
                />
                {l.label}
              </Flex>
            );
          })}
        </Flex>
      )}
      <Box ref={holder}>{children}</Box>
    </Box>
  );
}
