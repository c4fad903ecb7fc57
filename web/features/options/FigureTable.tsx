"use client";
import { Text } from "@chakra-ui/react";
import { endUses, type Summary } from "@arroyo/core";
import { unitOf } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";

/** Energy of an end use, kWh/m²a. */
export const perArea = (s: Summary, u: (typeof endUses)[number]): number =>
  s.energy.endUses.filter((r) => r.use === u).reduce((a, r) => a + r.total, 0) / s.floorArea;

const figures: readonly { readonly label: string; readonly unit: string; readonly digits: number; readonly value: (s: Summary) => number | null }[] = [
  { label: "Site energy", unit: "kWh/m²a", digits: 1, value: (s) => s.energy.intensity },
  ...endUses.map((u) => ({ label: u, unit: "kWh/m²a", digits: 1, value: (s: Summary) => perArea(s, u) })),
  { label: "Peak heating", unit: "kW", digits: 1, value: (s) => s.peaks.heating.power / 1000 },
  { label: "Peak cooling", unit: "kW", digits: 1, value: (s) => s.peaks.cooling.power / 1000 },
  { label: "Hours unmet", unit: "h", digits: 1, value: (s) => s.unmetHours },
  { label: "Cost", unit: "/a", digits: 0, value: (s) => s.energy.cost },
  { label: "Carbon", unit: "t CO₂e/a", digits: 1, value: (s) => s.energy.carbon / 1000 },
  { label: "Primary energy", unit: "kWh/m²a", digits: 1, value: (s) => s.energy.primary / s.floorArea },
  { label: "Electricity made on site", unit: "MWh/a", digits: 1, value: (s) => (s.energy.site ? s.energy.site.made / 1000 : 0) },
  { label: "Net site energy", unit: "kWh/m²a", digits: 1, value: (s) => s.energy.net },
  { label: "Net cost", unit: "/a", digits: 0, value: (s) => s.energy.site?.cost ?? null },
  { label: "Net carbon", unit: "t CO₂e/a", digits: 1, value: (s) => (s.energy.site ? s.energy.site.carbon / 1000 : null) },
  { label: "Hot water not met", unit: "kWh/a", digits: 0, value: (s) => s.waterSystems.reduce((t, w) => t + w.unmet.reduce((a, v) => a + v, 0), 0) },
];

interface FigureColumn {
  readonly key: string;
  readonly name: string;
  readonly summary: Summary | null;
  /** It cannot run. */
  readonly blocked: boolean;
}

/** Headline figures of several years side by side, each with its difference from the first. */
export function FigureTable({ label, columns, currency }: { label: string; columns: readonly FigureColumn[]; currency: string }) {
  const units = useUnits();
  const base = columns[0]?.summary;
  return (
    <Grid
      label={label}
      head={[{ text: "", left: true }, ...columns.map((c) => ({ text: c.name }))]}
      rows={figures
        .filter((f) => columns.some(({ summary: s }) => Math.abs(s ? (f.value(s) ?? 0) : 0) > 0.5 * 10 ** -f.digits))
        .map((f) => ({
          key: f.label,
          cells: [
            <Text key="l">
              {f.label[0].toUpperCase() + f.label.slice(1)}{" "}
              <Text as="span" color="ink2" fontSize="11px">
                {units.unit(unitOf(f.label === "Cost" || f.label === "Net cost" ? `${currency}/a` : f.unit, base ?? null))}
              </Text>
            </Text>,
            ...columns.map(({ key, summary: s, blocked }, i) => {
              const now = s && f.value(s);
              const was = base && f.value(base);
              return (
                <Text key={key} as="span">
                  {i > 0 && typeof now === "number" && typeof was === "number" && Math.abs(now - was) >= 0.5 * 10 ** -f.digits && (
                    <Text as="span" fontSize="11px" color={now > was ? "clay" : "water"} mr="1.5">
                      {units.difference(now - was, f.unit, f.digits)}
                    </Text>
                  )}
                  <Text as="span" data-testid={f.label === "Site energy" ? `intensity-${key}` : undefined}>
                    {blocked ? "—" : units.text(now, f.unit, f.digits)}
                  </Text>
                </Text>
              );
            }),
          ],
        }))}
    />
  );
}
