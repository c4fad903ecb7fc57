"use client";
import { Box, Text } from "@chakra-ui/react";
import { setChange, type Change, type Project, STANDARD_AIR } from "@arroyo/core";
import { Act, SelectInput, Quantity } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Air passed both ways between two zones through open doors or by transfer fans. */
export function AirExchanges() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const zones = Object.entries(project.zones).map(([id, z]) => ({ value: id, label: z.name }));
  const all = Object.entries(project.airExchanges);
  const add = (): void => {
    let n = all.length + 1;
    while (Object.hasOwn(project.airExchanges, `air_${n}`)) n++;
    edit("Air between two zones", [
      {
        op: "insert",
        path: ["airExchanges", `air_${n}`],
        value: { name: `Passage ${n}`, zones: [zones[0].value, zones[1].value], flow: 0.05, schedule: null },
      } as Change,
    ]);
  };
  return (
    <Box maxW="760px">
      <Text as="h2" textStyle="title">
        Air between zones
      </Text>
      <Text color="ink2" mb="2">
        The same flow each way, such as through an open door or a transfer fan; it carries heat and moisture, and is told as a flow of its own in Results.
      </Text>
      {all.length > 0 && (
        <Grid
          label="Air between zones"
          head={[
            { text: "Passage", left: true },
            { text: "Between", left: true },
            { text: "and", left: true },
            { text: "Flow each way", unit: units.unit("L/s") },
            { text: "When", left: true },
            { text: "" },
          ]}
          rows={all.map(([id, e]) => ({
            key: id,
            cells: [
              e.name,
              ...([0, 1] as const).map((side) => (
                <SelectInput
                  key={side}
                  label={`${side === 0 ? "First" : "Second"} zone of ${e.name}`}
                  width="160px"
                  align="left"
                  value={e.zones[side]}
                  options={zones}
                  onChange={(v) =>
                    edit(`${e.name}: zones`, [setChange(project, ["airExchanges", id, "zones"], side === 0 ? [v, e.zones[1]] : [e.zones[0], v])])
                  }
                />
              )),
              <Quantity
                key="f"
                bare
                label={`Flow of ${e.name}`}
                width="60px"
                value={e.flow}
                unit="m³/s"
                shown="L/s"
                digits={0}
                density={STANDARD_AIR}
                onCommit={(v) => edit(`${e.name}: ${units.words(1000 * v, "L/s", 0)}`, [setChange(project, ["airExchanges", id, "flow"], v)])}
              />,
              <SelectInput
                key="s"
                label={`Schedule of ${e.name}`}
                width="130px"
                align="left"
                value={e.schedule ?? ""}
                options={[{ value: "", label: "always" }, ...Object.entries(project.schedules).map(([s, x]) => ({ value: s, label: x.name }))]}
                onChange={(v) => edit(`${e.name}: schedule`, [setChange(project, ["airExchanges", id, "schedule"], v === "" ? null : v)])}
              />,
              <Act key="x" onClick={() => edit(`Remove ${e.name}`, [{ op: "remove", path: ["airExchanges", id], old: e }])}>
                Remove
              </Act>,
            ],
          }))}
        />
      )}
      <Box mt="2">{zones.length > 1 ? <Act onClick={add}>Pass air between two zones</Act> : <Text color="ink2">There is only one zone.</Text>}</Box>
    </Box>
  );
}
