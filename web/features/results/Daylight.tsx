"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Project, Summary } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Sensor points, the light the sky gives there, and the lighting it saves. */
export function Daylight({ summary, source, project }: { summary: Summary; source: string; project: Project }) {
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const saved = summary.zones.map((z) => ({ z, saved: z.lighting.full - z.lighting.used })).filter((r) => r.saved > 0.05);
  const all = saved.reduce((s, r) => s + r.saved, 0);
  const dim = (): void =>
    void edit(
      "Dim the lighting by daylight",
      Object.entries(project.spaceTypes).map(([id, t]) => ({
        op: "set" as const,
        path: ["spaceTypes", id, "inputs", "lightingControl"],
        value: "dimmed",
        ...(t.inputs.lightingControl === undefined ? {} : { old: t.inputs.lightingControl }),
      })),
    );
  if (summary.daylight.length === 0)
    return (
      <Box maxW="560px">
        <Text textStyle="title">No space answers daylight yet</Text>
        <Text color="ink2" mt="1" mb="2">
          Set “Control by daylight” to dimmed or stepped in Use, for a space type or a single space: a sensor point is proposed in the middle of each, its light
          is found from 200 patches of the sky through the windows and their shading, and the lighting follows it.
        </Text>
        <Act onClick={dim}>Dim the lighting of every space type by daylight</Act>
      </Box>
    );
  return (
    <>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Daylight
        </Text>
        <Text color="ink2">{source}</Text>
      </Flex>
      <Grid
        label="Sensor points"
        head={[
          { text: "Sensor point", left: true },
          { text: "Space", left: true },
          { text: "Daylight factor", unit: "%" },
          { text: "Wanted", unit: units.unit("lx") },
          { text: "Enough light", unit: "h" },
          { text: "of hours with people and sun", unit: "%" },
        ]}
        rows={summary.daylight.map((s) => ({
          key: s.id,
          cells: [
            s.proposed ? `${s.name} (proposed)` : s.name,
            project.spaces[s.space]?.name ?? s.space,
            figure(s.factor),
            units.text(s.target, "lx", 0),
            figure(s.hours, 0),
            s.of > 0 ? figure((100 * s.hours) / s.of, 0) : "—",
          ],
        }))}
      />
      <Box mt="4" maxW="560px">
        <Grid
          label="Lighting saved"
          head={[
            { text: "Lighting saved", left: true },
            { text: "Without", unit: "kWh" },
            { text: "With", unit: "kWh" },
            { text: "Saved", unit: "%" },
          ]}
          rows={[
            ...saved.map(({ z, saved: s }) => ({
              key: z.id,
              cells: [z.name, figure(z.lighting.full, 0), figure(z.lighting.used, 0), figure((100 * s) / z.lighting.full, 0)],
            })),
            { key: "all", cells: [<b key="a">all</b>, "", "", <b key="s">{figure(all, 0)} kWh</b>] },
          ]}
        />
      </Box>
    </>
  );
}
