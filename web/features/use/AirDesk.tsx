"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { breathingZoneRates, effective, rateChanges, rateChecks, spaceUses, type Project } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Outdoor air of a type's spaces, term by term, with the rate of the table it follows. */
export function AirDesk({ type }: { type: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const t = project.spaceTypes[type];
  const uses = spaceUses(project);
  const members = Object.entries(project.spaces).filter(([, s]) => s.spaceType === type);
  const checks = new Map(rateChecks(project).map((c) => [c.space, c]));
  const flow = (v: number): string => units.text(1000 * v, "L/s", 1);
  return (
    <Box>
      <Flex align="center" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Outdoor air, term by term
        </Text>
        <SelectInput
          label="Rate of the table"
          align="left"
          width="250px"
          value={t.rate ?? ""}
          options={[
            { value: "", label: "no row of the rates table" },
            ...breathingZoneRates.rows.map((r) => ({
              value: r.id,
              label: `${r.name}: ${units.text(1000 * r.perPerson, "L/s per person", 1)} + ${units.words(1000 * r.perArea, "L/s·m²", 1)}`,
            })),
          ]}
          onChange={(v) =>
            edit(
              `${t.name}: ${v === "" ? "no rate of the table" : (breathingZoneRates.rows.find((r) => r.id === v)?.name ?? v)}`,
              rateChanges(project, type, v === "" ? null : v),
            )
          }
        />
        {t.rate && <Text color="ink2">§ {breathingZoneRates.clause}</Text>}
      </Flex>
      <Grid
        label="Outdoor air, term by term"
        head={[
          { text: "Space", left: true },
          { text: "People" },
          { text: "for people", unit: units.unit("L/s") },
          { text: "for area", unit: units.unit("L/s") },
          { text: "air changes", unit: units.unit("L/s") },
          { text: "Needed", unit: units.unit("L/s") },
          { text: "Ez" },
          { text: "Ev" },
          { text: "Supplied", unit: units.unit("L/s") },
          { text: "Table asks", unit: units.unit("L/s") },
        ]}
        rows={members.map(([id, s]) => {
          const u = uses.get(id);
          const air = u?.outdoorAir;
          const whole = effective(project, "space", id, "outdoorAirPerSpace").value !== null;
          const check = checks.get(id);
          const short = check && check.given < check.asked * (1 - 1e-9) - 1e-9;
          return {
            key: id,
            cells: air
              ? [
                  s.name,
                  units.text(u.people, "1", 1),
                  whole ? "—" : flow(air.people),
                  whole ? "—" : flow(air.area),
                  whole ? "—" : flow(air.changes),
                  <span key="n" title={whole ? "stated for the space as a whole" : String(effective(project, "space", id, "outdoorAirCombined").value)}>
                    {flow(air.needed)}
                  </span>,
                  units.text(effective(project, "space", id, "airDistributionEffectiveness").value as number, "1", 2),
                  units.text(effective(project, "space", id, "ventilationEfficiency").value as number, "1", 2),
                  <b key="s">{flow(air.supplied)}</b>,
                  check ? (
                    <Text key="c" as="span" color={short ? "clay" : "water"}>
                      {short ? "✗" : "✓"} {flow(check.asked)}
                    </Text>
                  ) : (
                    "—"
                  ),
                ]
              : [s.name, "—", "—", "—", "—", "—", "—", "—", "—", "—"],
          };
        })}
      />
      <Text color="ink2" fontSize="12px">
        Needed is the sum or the largest of the terms, in the breathing zone; supplied is needed over the air distribution effectiveness Ez and the ventilation
        efficiency Ev.
      </Text>
    </Box>
  );
}
