"use client";
import { Box, Text } from "@chakra-ui/react";
import { figure, roundTicks } from "../../ui/format.ts";

/** Mean residual by class, as bars up and down from nothing; classes with few hours are pale. */
export function ClassBars({
  title,
  unit,
  labels,
  mean,
  count,
  small = false,
}: {
  title: string;
  unit: string;
  labels: readonly string[];
  mean: readonly number[];
  count: ArrayLike<number>;
  small?: boolean;
}) {
  const width = small ? 260 : 480;
  const height = small ? 110 : 200;
  const [left, bottom] = [34, 18];
  const there = mean.filter((v, i) => v === v && count[i] > 0);
  const { ticks, digits } = roundTicks([0, ...there]);
  const [low, high] = [ticks[0], ticks[ticks.length - 1]];
  const y = (v: number): number => 6 + ((high - v) / (high - low || 1)) * (height - bottom - 6);
  const step = (width - left) / Math.max(1, labels.length);
  const every = Math.ceil(labels.length / (small ? 8 : 13));
  return (
    <Box>
      <Text fontSize={small ? "12px" : "13px"} fontWeight="600">
        {title}{" "}
        <Text as="span" color="ink2" fontWeight="400">
          mean residual, {unit}
        </Text>
      </Text>
      <svg viewBox={`0 0 ${width} ${height}`} width="100%" role="img" aria-label={`${title}, mean residual in ${unit}`}>
        {ticks.map((t) => (
          <g key={t}>
            <line x1={left} x2={width} y1={y(t)} y2={y(t)} stroke={t === 0 ? "var(--chakra-colors-ink2)" : "var(--chakra-colors-line)"} />
            <text x={left - 4} y={y(t) + 3.5} textAnchor="end" fontSize="10" fill="var(--chakra-colors-ink2)">
              {figure(t, digits)}
            </text>
          </g>
        ))}
        {labels.map((l, i) => (
          <g key={i}>
            {mean[i] === mean[i] && (
              <rect
                x={left + i * step + 1}
                width={Math.max(1, step - 2)}
                y={Math.min(y(0), y(mean[i]))}
                height={Math.abs(y(mean[i]) - y(0))}
                fill="var(--chakra-colors-water)"
                opacity={count[i] < 12 ? 0.3 : 0.85}
              >
                <title>
                  {l}: {figure(mean[i], 2)} {unit}, {figure(count[i], 0)} h
                </title>
              </rect>
            )}
            {i % every === 0 && (
              <text x={left + (i + 0.5) * step} y={height - 5} textAnchor="middle" fontSize="10" fill="var(--chakra-colors-ink2)">
                {l}
              </text>
            )}
          </g>
        ))}
      </svg>
    </Box>
  );
}
