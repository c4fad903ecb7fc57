"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRef, useState, type PointerEvent } from "react";
import { figure, readNumber } from "../../ui/format.ts";

/** Steps a drawn share and a drawn temperature snap to. */
const SNAP = { fraction: 0.05, temperature: 0.5 } as const;

/** 24 hours side by side: drawn over with the mouse, or typed into their hour. */
export function HourRow({
  label,
  values,
  kind,
  span,
  onCommit,
}: {
  label: string;
  values: readonly number[];
  kind: "fraction" | "temperature";
  span: readonly [number, number];
  onCommit: (v: number[]) => string | null;
}) {
  const [draft, setDraft] = useState<{ hour: number; text: string } | null>(null);
  const [drawn, setDrawn] = useState<readonly number[] | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [low, high] = span;
  const shown = drawn ?? values;
  const commit = (): void => {
    if (!draft) return;
    const n = readNumber(draft.text);
    const sentence = n === null ? `“${draft.text}” is not a number.` : onCommit(values.map((v, i) => (i === draft.hour ? n : v)));
    setRefusal(sentence);
    if (sentence === null) setDraft(null);
  };
  const last = useRef<number | null>(null);
  const drawAt = (e: PointerEvent, from: readonly number[]): readonly number[] => {
    const box = frame.current?.getBoundingClientRect();
    if (!box) return from;
    const hour = Math.max(0, Math.min(23, Math.floor((24 * (e.clientX - box.left)) / box.width)));
    const share = 1 - Math.max(0, Math.min(1, (e.clientY - box.top) / box.height));
    const step = SNAP[kind];
    const value = Number((Math.round((low + share * (high - low)) / step) * step).toFixed(4));
    // a quick stroke may pass over hours between two events
    const before = last.current ?? hour;
    last.current = hour;
    const [a, b] = [Math.min(before, hour), Math.max(before, hour)];
    return from.map((v, i) => (i >= a && i <= b ? value : v));
  };
  /** The stroke as far as it is drawn: events come faster than the page is drawn anew. */
  const stroke = useRef<readonly number[] | null>(null);
  const draw = (e: PointerEvent, from: readonly number[]): void => {
    stroke.current = drawAt(e, from);
    setDrawn(stroke.current);
  };
  const end = (): void => {
    last.current = null;
    if (stroke.current) setRefusal(onCommit([...stroke.current]));
    stroke.current = null;
    setDrawn(null);
  };
  return (
    <>
      <Flex
        ref={frame}
        mt="1"
        h="64px"
        align="flex-end"
        position="relative"
        cursor="crosshair"
        touchAction="none"
        data-testid={`draw-${label}`}
        title="Draw over the hours"
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          draw(e, values);
        }}
        onPointerMove={(e) => stroke.current && draw(e, stroke.current)}
        onPointerUp={end}
        onPointerCancel={() => {
          last.current = null;
          stroke.current = null;
          setDrawn(null);
        }}
      >
        {shown.map((v, h) => (
          <Flex key={h} flex="1" h="100%" align="flex-end" borderRight="1px solid" borderColor="line" pointerEvents="none">
            <Box
              w="100%"
              background="wash"
              borderTop="2px solid"
              borderColor="water"
              style={{ height: `${Math.max(0, Math.min(1, (v - low) / (high - low))) * 100}%` }}
            />
          </Flex>
        ))}
      </Flex>
      <Flex>
        {shown.map((v, h) => (
          <Box key={h} flex="1" minW="0">
            <input
              aria-label={`${label}, ${h} to ${h + 1} o’clock`}
              value={draft?.hour === h ? draft.text : figure(v, v % 1 === 0 ? 0 : kind === "fraction" ? 2 : 1)}
              onFocus={(e) => e.target.select()}
              onChange={(e) => setDraft({ hour: h, text: e.target.value })}
              onBlur={commit}
              onKeyDown={(e) => (e.key === "Enter" ? commit() : e.key === "Escape" && (setDraft(null), setRefusal(null)))}
              style={{ width: "100%", background: "transparent", textAlign: "center", fontSize: 11, color: "inherit" }}
            />
            <Text fontSize="10px" color="ink2" textAlign="center">
              {h}
            </Text>
          </Box>
        ))}
      </Flex>
      {refusal && (
        <Text role="alert" color="clay" fontSize="12px">
          {refusal}
        </Text>
      )}
    </>
  );
}
