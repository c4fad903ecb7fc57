"use client";
import { Text } from "@chakra-ui/react";
import { componentName, setChange, type Project } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { unitOf } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";

/** Copies of a zone's storey. */
const times = (project: Project, zone: string): number => {
  const space = Object.values(project.spaces).find((s) => s.zone === zone);
  return space ? project.storeys[space.storey].multiplier : 1;
};

/** Which services or equipment meet the loads of each zone. */
export function ServiceZones() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const live = useLiveFigures();
  const { summary } = tally(live);
  return (
    <>
      <Text as="h2" textStyle="title">
        Zones and their services
      </Text>
      <Text color="ink2" mb="2">
        Loads of the year as it is now, and what meets them: plain efficiencies, or equipment of systems. Click a zone to see and add its equipment.
      </Text>
      <Grid
        label="Zones and their services"
        head={[
          { text: "Zone", left: true },
          { text: "Services" },
          { text: "Heating", unit: units.unit(unitOf("kWh/a", summary)) },
          { text: "Cooling", unit: units.unit(unitOf("kWh/a", summary)) },
          { text: "Peak heating", unit: units.unit("kW") },
          { text: "Peak cooling", unit: units.unit("kW") },
          { text: "Unmet", unit: "h" },
        ]}
        rows={Object.entries(project.zones).map(([z, zone]) => {
          const row = summary?.zones.find((x) => x.id === z);
          const list = zone.equipment ?? [];
          const words = list.map((c) =>
            c.kind === "terminal" && typeof c.inputs.system === "string" ? (project.airSystems[c.inputs.system]?.name ?? componentName(c)) : componentName(c),
          );
          // heat of slabs reaches the room through its faces, not through its air
          const slab = (kind: "heating" | "cooling"): number =>
            (summary?.components ?? [])
              .filter((x) => x.kind === "slabCircuit" && x.address.startsWith(`zones/${z}/`))
              .reduce((t, x) => t + x[kind].reduce((a, b) => a + b, 0), 0) / (row ? times(project, z) : 1);
          const unmet = row && row.unmetHours.heating !== null && row.unmetHours.cooling !== null ? row.unmetHours.heating + row.unmetHours.cooling : null;
          return {
            key: z,
            active: selection.some((s) => s.kind === "zone" && s.id === z),
            onClick: () => select([{ kind: "zone", id: z }]),
            cells: [
              zone.name,
              list.length > 0 ? (
                <Text key="e" as="span">
                  {words.join(" + ")}
                </Text>
              ) : (
                <SelectInput
                  key="s"
                  label={`Services of ${zone.name}`}
                  width="200px"
                  value={zone.services ?? ""}
                  options={[
                    { value: "", label: `↑ ${project.services[project.defaults.services].name}` },
                    ...Object.entries(project.services).map(([key, x]) => ({ value: key, label: x.name })),
                  ]}
                  onChange={(v) => edit(`Services of ${zone.name}`, [setChange(project, ["zones", z, "services"], v === "" ? null : v)])}
                />
              ),
              units.text(row ? row.heating + slab("heating") : null, "kWh", 0),
              units.text(row ? row.cooling + slab("cooling") : null, "kWh", 0),
              units.text(row ? row.peakHeating / 1000 : null, "kW", 1),
              units.text(row ? row.peakCooling / 1000 : null, "kW", 1),
              units.text(unmet, "h", 0),
            ],
          };
        })}
      />
    </>
  );
}
