"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { drivenInputs, driveTarget, type DrivenInput, type LoggedReadings, type PointYears, type Project } from "@arroyo/core";
import { Act, DateInput, NumberInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { removeDrives, setDrive } from "./edits.ts";
import { InputFinder } from "./InputFinder.tsx";

/** Points that take the place of inputs: over which period, for how many hours, and where the model falls back to what it was. */
export function DrivesDesk({ logged, at }: { logged: LoggedReadings | null; at: { readonly points: PointYears } | null }) {
  const project = useStore((s) => s.project) as Project;
  const [adding, setAdding] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const drives = Object.entries(project.drives ?? {});
  const came = useMemo((): readonly DrivenInput[] => {
    if (!logged || !at) return [];
    try {
      return drivenInputs(project, logged, at.points.days);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      return [];
    }
  }, [project, logged, at]);
  const point = adding === null ? null : (project.points?.[adding] ?? null);
  return (
    <Box>
      <Text color="ink2" mb="2" maxW="720px">
        A point drives an input: its hourly values take the place of the set-point, schedule, gain, supply temperature or weather there. Gaps of up to the hours
        in the last column are bridged by a line; beyond them, and outside the period, the input is what it was.
      </Text>
      <Grid
        label="Driven inputs"
        head={[
          { text: "Point", left: true },
          { text: "Drives", left: true },
          { text: "From", left: true },
          { text: "to", left: true },
          { text: "Driven", unit: "h" },
          { text: "bridged", unit: "h" },
          { text: "Falls back", unit: "h" },
          { text: "Bridges", unit: "h" },
          { text: "" },
        ]}
        rows={drives.map(([id, d]) => {
          const t = driveTarget(project, d.input);
          const c = came.find((x) => x.drive === id);
          const date = (end: "from" | "to") => (
            <DateInput
              key={end}
              label={`${end === "from" ? "First" : "Last"} day of ${project.points?.[d.point]?.name ?? d.point}`}
              value={d[end] ?? (end === "from" ? [1, 1] : [12, 31])}
              onCommit={(v) => setDrive(id, { [end]: v }, `Period of ${t?.label.toLowerCase() ?? d.input}`)}
            />
          );
          return {
            key: id,
            cells: [
              project.points?.[d.point]?.name ?? d.point,
              t ? `${t.label}, ${t.of}` : d.input,
              date("from"),
              date("to"),
              c ? figure(c.hours, 0) : "—",
              c ? figure(c.bridged, 0) : "—",
              <Text key="f" as="span" color={c && c.fallback > 0.5 * (c.hours + c.fallback) ? "clay" : "ink"}>
                {c ? figure(c.fallback, 0) : "—"}
              </Text>,
              <NumberInput
                key="b"
                label={`Gap bridged of ${project.points?.[d.point]?.name ?? d.point}`}
                width="44px"
                value={d.bridge ?? 3}
                digits={0}
                onCommit={(v) => setDrive(id, { bridge: v }, "Longest gap bridged")}
              />,
              <Act key="r" onClick={() => setTold(removeDrives([id]))}>
                Stop driving
              </Act>,
            ],
          };
        })}
      />
      {drives.length === 0 && <Text color="ink2">Nothing is driven yet.</Text>}
      <Flex gap="3" mt="2" wrap="wrap" align="baseline">
        {drives.length > 1 && <Act onClick={() => setTold(removeDrives(drives.map(([id]) => id)))}>Stop driving all</Act>}
        <Text color="ink2">Drive an input with</Text>
        {Object.entries(project.points ?? {}).map(([id, p]) => (
          <Act key={id} onClick={() => setAdding(adding === id ? null : id)}>
            {p.name}
          </Act>
        ))}
      </Flex>
      {point && adding !== null && (
        <Box mt="2" maxW="560px">
          <InputFinder key={adding} project={project} id={adding} point={point} close={() => setAdding(null)} />
        </Box>
      )}
      {told && (
        <Text role="alert" color="clay" mt="1">
          {told}
        </Text>
      )}
    </Box>
  );
}
