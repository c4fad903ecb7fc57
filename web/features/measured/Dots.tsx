"use client";
import { useId } from "react";
import { figure, roundTicks } from "../../ui/format.ts";

export interface Cloud {
  readonly key: string;
  readonly label: string;
  readonly colour: string;
  readonly points: readonly (readonly [x: number, y: number])[];
  /** Corners of a line through it. */
  readonly line?: readonly (readonly [x: number, y: number])[];
}

/** Values over others as dots, with lines through them. */
export function Dots({
  clouds,
  x,
  y,
  label,
  width = 640,
  height = 290,
  equal = false,
}: {
  clouds: readonly Cloud[];
  x: string;
  y: string;
  label: string;
  /** Pixels it is laid out for; a narrower place shrinks it. */
  width?: number;
  height?: number;
  /** Both axes run over the same values, with the line of equal ones. */
  equal?: boolean;
}) {
  const clip = useId();
  const [left, right, top, bottom] = [48, 8, 8, 34];
  const all = clouds.flatMap((c) => [...c.points, ...(c.line ?? [])]);
  const xs = all.map((p) => p[0]);
  const ys = all.map((p) => p[1]);
  if (all.length === 0) return null;
  const ends = (v: readonly number[]): [number, number] => [v.reduce((a, b) => Math.min(a, b)), v.reduce((a, b) => Math.max(a, b))];
  const tx = roundTicks(equal ? [...ends(xs), ...ends(ys)] : ends(xs));
  const ty = roundTicks(equal ? [...ends(xs), ...ends(ys)] : ends(ys));
  const scale = (t: readonly number[], a: number, b: number) => {
    const [low, high] = [t[0], t[t.length - 1]];
    return (v: number): number => a + ((v - low) / (high - low || 1)) * (b - a);
  };
  const sx = scale(tx.ticks, left, width - right);
  const sy = scale(ty.ticks, height - bottom, top);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width="100%" style={{ maxWidth: width }} role="img" aria-label={label}>
      <clipPath id={clip}>
        <rect x={left} y={top} width={width - left - right} height={height - top - bottom} />
      </clipPath>
      {ty.ticks.map((t) => (
        <g key={`y${t}`}>
          <line x1={left} x2={width - right} y1={sy(t)} y2={sy(t)} stroke="var(--chakra-colors-line)" />
          <text x={left - 5} y={sy(t) + 3.5} textAnchor="end" fontSize="11" fill="var(--chakra-colors-ink2)">
            {figure(t, ty.digits)}
          </text>
        </g>
      ))}
      {tx.ticks.map((t) => (
        <text key={`x${t}`} x={sx(t)} y={height - bottom + 13} textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
          {figure(t, tx.digits)}
        </text>
      ))}
      <text x={(left + width - right) / 2} y={height - 5} textAnchor="middle" fontSize="11.5" fill="var(--chakra-colors-ink2)">
        {x}
      </text>
      <text
        x={12}
        y={(top + height - bottom) / 2}
        textAnchor="middle"
        fontSize="11.5"
        fill="var(--chakra-colors-ink2)"
        transform={`rotate(-90 12 ${(top + height - bottom) / 2})`}
      >
        {y}
      </text>
      <g clipPath={`url(#${clip})`}>
        {equal && (
          <line
            x1={sx(tx.ticks[0])}
            y1={sy(tx.ticks[0])}
            x2={sx(tx.ticks[tx.ticks.length - 1])}
            y2={sy(tx.ticks[tx.ticks.length - 1])}
            stroke="var(--chakra-colors-ink2)"
            strokeDasharray="4 3"
          />
        )}
        {clouds.map((c) => (
          <g key={c.key}>
            {c.points.map(([a, b], i) => (
              <circle key={i} cx={sx(a)} cy={sy(b)} r="1.9" fill={c.colour} fillOpacity="0.55" />
            ))}
            {c.line && <polyline points={c.line.map(([a, b]) => `${sx(a)},${sy(b)}`).join(" ")} fill="none" stroke={c.colour} strokeWidth="2" />}
          </g>
        ))}
      </g>
    </svg>
  );
}
