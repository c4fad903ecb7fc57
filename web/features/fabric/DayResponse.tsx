"use client";
import { Box, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { periodicResponse, reduceWall, type Assembly, type LayerPhysics, type Project } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, tooltipStyle } from "../../ui/chartStyle.ts";
import { figure } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";

const SWING = 10;

/** What a swing of the outdoor temperature sends through an assembly over a day, and how exactly the year knows it. */
export function DayResponse({
  assembly,
  layers,
  films,
  project,
}: {
  assembly: Assembly;
  layers: readonly LayerPhysics[];
  films: readonly [number, number];
  project: Project;
}) {
  const units = useUnits();
  const melts = assembly.layers.some((l) => l.kind === "solid" && project.materials[l.material].phaseChange);
  const found = useMemo(() => {
    if (melts) return null;
    try {
      const p = periodicResponse(layers, 86400, films[0], films[1]);
      const wall = reduceWall(layers);
      return { p, modes: wall.modes, error: wall.error };
    } catch {
      return null;
    }
  }, [layers, films, melts]);
  if (melts)
    return (
      <Text mt="4" color="ink2">
        A layer melts: the year computes this assembly cell by cell in enthalpy, and its answer to a swing depends on the temperature it swings about.
      </Text>
    );
  if (!found) return null;
  const { p, modes, error } = found;
  const rows = Array.from({ length: 49 }, (_, i) => {
    const hour = i / 2;
    const phase = (2 * Math.PI * (hour - 15)) / 24;
    const late = (2 * Math.PI * (hour - 15 - p.timeShift / 3600)) / 24;
    return { hour, light: units.value(SWING * p.u * Math.cos(phase), "W/m²"), wall: units.value(SWING * p.periodicTransmittance * Math.cos(late), "W/m²") };
  });
  const csv = (): string =>
    [`hour,without mass (${units.unit("W/m²")}),this assembly (${units.unit("W/m²")})`, ...rows.map((r) => [r.hour, r.light, r.wall].join(","))].join("\n");
  return (
    <Box mt="3">
      <ChartFrame
        title="Answer to a day"
        unit={`${units.unit("W/m²")} into the room while outdoors swings by ±${units.words(SWING, "K", 0)}, warmest at 15:00`}
        legend={[
          { key: "light", label: "with the same U and no mass", colour: "var(--chakra-colors-line)" },
          { key: "wall", label: "this assembly", colour: "var(--chakra-colors-water)" },
        ]}
        csv={csv}
      >
        <ResponsiveContainer width="100%" height={112}>
          <LineChart data={rows} margin={{ top: 6, right: 10, left: -18, bottom: 0 }}>
            <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
            <XAxis dataKey="hour" type="number" domain={[0, 24]} ticks={[0, 3, 6, 9, 12, 15, 18, 21, 24]} unit=" h" {...axisStyle} />
            <YAxis {...axisStyle} />
            <Tooltip
              formatter={(v, name) => [`${figure(Number(v), 2)} ${units.unit("W/m²")}`, String(name)]}
              labelFormatter={(h) => `${figure(Number(h), 1)} h`}
              contentStyle={tooltipStyle}
            />
            <Line dataKey="light" name="without mass" stroke="var(--chakra-colors-ink2)" strokeDasharray="4 3" dot={false} isAnimationActive={false} />
            <Line dataKey="wall" name="this assembly" stroke="var(--chakra-colors-water)" strokeWidth={2} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </ChartFrame>
      <Text color="ink2" mt="1">
        In the year: {modes} modes, within {figure(100 * error, 2)} % of its transfer matrix at 24 h and 6 h.
      </Text>
    </Box>
  );
}
