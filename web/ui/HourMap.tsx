"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { COMMON_YEAR, dateOfDay, LEAP_YEAR, MONTH_NAMES } from "@arroyo/core";

/** From paper over water to ink: lightness falls evenly, so that as much of a step shows anywhere. */
const STOPS = [
  [246, 242, 234],
  [143, 187, 190],
  [14, 107, 128],
  [21, 46, 66],
] as const;
const CLAY = [178, 78, 43] as const;

function colour(x: number): readonly number[] {
  const at = Math.max(0, Math.min(0.9999, x)) * (STOPS.length - 1);
  const i = Math.floor(at);
  return STOPS[i].map((v, k) => v + (at - i) * (STOPS[i + 1][k] - v));
}

/**
 * Every hour of a year at a glance: days across, hours upward.
 * @param values one an hour; NaN stays blank @param span lowest and highest of the colours @param marked hours shown in clay
 * @param words of the hour under the pointer
 */
export function HourMap({
  values,
  span,
  title,
  label,
  scale,
  words,
  marked,
  height = 96,
  frame,
  onPick,
}: {
  values: Float64Array;
  span: readonly [number, number];
  title: ReactNode;
  label: string;
  scale: ReactNode;
  words: (hour: number) => string;
  marked?: (hour: number) => boolean;
  height?: number;
  /** Stretch of the year that is framed, as shares of it. */
  frame?: readonly [from: number, to: number];
  /** An hour was clicked. */
  onPick?: (hour: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [over, setOver] = useState<number | null>(null);
  const days = Math.floor(values.length / 24);
  const [low, high] = span;
  useEffect(() => {
    const c = canvas.current?.getContext("2d");
    if (!c || days === 0) return;
    const image = c.createImageData(days, 24);
    for (let d = 0; d < days; d++)
      for (let h = 0; h < 24; h++) {
        const v = values[24 * d + h];
        if (v !== v) continue;
        const at = 4 * ((23 - h) * days + d);
        const rgb = marked?.(24 * d + h) ? CLAY : colour(high > low ? (v - low) / (high - low) : 0);
        for (let k = 0; k < 3; k++) image.data[at + k] = Math.round(rgb[k]);
        image.data[at + 3] = 255;
      }
    c.putImageData(image, 0, 0);
  }, [values, low, high, days, marked]);
  const date = over === null ? null : dateOfDay(Math.floor(over / 24), days > 365 ? LEAP_YEAR : COMMON_YEAR);
  return (
    <Box>
      <Flex gap="3" align="baseline" wrap="wrap">
        <Box fontWeight="600">{title}</Box>
        <Box color="ink2" fontSize="12px">
          days across, hours upward; {scale}
          {over !== null && date && (
            <>
              {" · "}
              {date[1]} {MONTH_NAMES[date[0] - 1]}, {over % 24} to {(over % 24) + 1} o’clock: {words(over)}
            </>
          )}
        </Box>
      </Flex>
      <Box position="relative">
        <canvas
          ref={canvas}
          width={Math.max(1, days)}
          height={24}
          role="img"
          aria-label={label}
          style={{ width: "100%", height, imageRendering: "pixelated", border: "1px solid var(--chakra-colors-line)", cursor: onPick ? "pointer" : "default" }}
          onClick={() => over !== null && onPick?.(over)}
          onMouseLeave={() => setOver(null)}
          onMouseMove={(e) => {
            const box = e.currentTarget.getBoundingClientRect();
            const day = Math.max(0, Math.min(days - 1, Math.floor((days * (e.clientX - box.left)) / box.width)));
            setOver(24 * day + Math.max(0, Math.min(23, 23 - Math.floor((24 * (e.clientY - box.top)) / box.height))));
          }}
        />
        {frame && (
          <Box
            position="absolute"
            top="0"
            bottom="5px"
            border="2px solid"
            borderColor="clay"
            pointerEvents="none"
            style={{ left: `${100 * frame[0]}%`, width: `max(4px, ${100 * (frame[1] - frame[0])}%)` }}
          />
        )}
      </Box>
      <Flex>
        {MONTH_NAMES.map((m) => (
          <Text key={m} flex="1" fontSize="10.5px" color="ink2">
            {m.slice(0, 3)}
          </Text>
        ))}
      </Flex>
    </Box>
  );
}
