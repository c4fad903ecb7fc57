"use client";
import { chakra } from "@chakra-ui/react";
import { useEffect, useRef } from "react";
import type { AxesColumn } from "@arroyo/core";
import { domain } from "./currents/filters.ts";
import { figure, roundTicks } from "./format.ts";
import { useCanvasLook } from "./CurrentsBox.tsx";

const PAD = { left: 46, right: 24, top: 8, bottom: 30 };
const SMALL = { left: 6, right: 6, top: 6, bottom: 6 };
/** A point is taken this near, px. */
const NEAR = 10;

/** Points of runs over two columns: those left in water, filtered ones sediment, the chosen one clay, the base a ring, a front as a line. */
export function PointsBox({
  x,
  y,
  left,
  base,
  chosen,
  front = [],
  height,
  small = false,
  label,
  onChoose,
  onCanvas,
}: {
  x: AxesColumn;
  y: AxesColumn;
  /** 1 for a run that is left. */
  left: Uint8Array;
  base: number;
  chosen: number | null;
  /** Rows of a front, in its order. */
  front?: readonly number[];
  height: number;
  /** Without figures on its axes, as one of many. */
  small?: boolean;
  label: string;
  onChoose: (row: number) => void;
  onCanvas?: (c: HTMLCanvasElement | null) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const look = useCanvasLook();
  const pad = small ? SMALL : PAD;
  const place = (c: HTMLCanvasElement): { px: (v: number) => number; py: (v: number) => number } => {
    const [xs, ys] = [domain(x), domain(y)];
    return {
      px: (v) => pad.left + ((v - xs[0]) / (xs[1] - xs[0])) * (c.clientWidth - pad.left - pad.right),
      py: (v) => c.clientHeight - pad.bottom - ((v - ys[0]) / (ys[1] - ys[0])) * (c.clientHeight - pad.top - pad.bottom),
    };
  };
  const value = (c: AxesColumn, row: number): number => c.values[row] ?? NaN;
  useEffect(() => {
    const c = canvas.current;
    const g = c?.getContext("2d");
    if (!c || !g) return;
    const draw = (): void => {
      const dpr = window.devicePixelRatio || 1;
      c.width = Math.round(c.clientWidth * dpr);
      c.height = Math.round(c.clientHeight * dpr);
      g.setTransform(dpr, 0, 0, dpr, 0, 0);
      g.clearRect(0, 0, c.clientWidth, c.clientHeight);
      const { px, py } = place(c);
      g.strokeStyle = look.line;
      g.strokeRect(pad.left, pad.top, c.clientWidth - pad.left - pad.right, c.clientHeight - pad.top - pad.bottom);
      const dot = (row: number, colour: string, r: number, ring = false): void => {
        const [a, b] = [px(value(x, row)), py(value(y, row))];
        if (Number.isNaN(a) || Number.isNaN(b)) return;
        g.beginPath();
        g.arc(a, b, r, 0, 2 * Math.PI);
        if (ring) {
          g.strokeStyle = colour;
          g.lineWidth = 1.6;
          g.stroke();
        } else {
          g.fillStyle = colour;
          g.fill();
        }
      };
      const r = small ? 1.6 : 2.6;
      g.globalAlpha = 0.35;
      for (let i = 0; i < left.length; i++) if (left[i] === 0) dot(i, look.sediment, r);
      g.globalAlpha = 0.65;
      for (let i = 0; i < left.length; i++) if (left[i] === 1) dot(i, look.water, r);
      g.globalAlpha = 1;
      if (front.length > 0) {
        g.beginPath();
        front.forEach((row, i) => (i === 0 ? g.moveTo(px(value(x, row)), py(value(y, row))) : g.lineTo(px(value(x, row)), py(value(y, row)))));
        g.strokeStyle = look.water;
        g.lineWidth = 1.4;
        g.stroke();
        for (const row of front) dot(row, look.water, 4);
      }
      if (base >= 0) dot(base, look.ink, small ? 3 : 5, true);
      if (chosen !== null) dot(chosen, look.clay, small ? 3 : 5);
      if (small) return;
      g.font = look.font;
      g.fillStyle = look.ink2;
      const ticks = (col: AxesColumn): [number, string][] => {
        if (col.levels.length > 0) return col.levels.map((l, i) => [i, l.length > 14 ? `${l.slice(0, 13)}…` : l]);
        const [a, b] = domain(col);
        const { ticks: round, digits } = roundTicks([a, b]);
        return round.filter((v) => v >= a && v <= b).map((v) => [v, figure(v, digits)]);
      };
      g.textAlign = "center";
      g.textBaseline = "top";
      for (const [v, t] of ticks(x)) g.fillText(t, px(v), c.clientHeight - pad.bottom + 5);
      g.textAlign = "right";
      g.textBaseline = "middle";
      for (const [v, t] of ticks(y)) g.fillText(t, pad.left - 5, py(v));
    };
    const observer = new ResizeObserver(draw);
    observer.observe(c);
    onCanvas?.(c);
    return () => {
      observer.disconnect();
      onCanvas?.(null);
    };
    // drawn anew with whatever it is drawn from
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [x, y, left, base, chosen, front, look, small]);
  return (
    <chakra.canvas
      ref={canvas}
      role="img"
      aria-label={label}
      w="100%"
      h={`${height}px`}
      cursor="pointer"
      onClick={(e) => {
        const c = canvas.current;
        if (!c) return;
        const { px, py } = place(c);
        const box = c.getBoundingClientRect();
        let best = -1;
        let least = NEAR;
        for (let i = 0; i < left.length; i++) {
          if (left[i] === 0) continue;
          const d = Math.hypot(px(value(x, i)) - (e.clientX - box.left), py(value(y, i)) - (e.clientY - box.top));
          if (d < least) [least, best] = [d, i];
        }
        if (best >= 0) onChoose(best);
      }}
    />
  );
}
