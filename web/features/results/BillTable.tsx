"use client";
import { Box, Text } from "@chakra-ui/react";
import type { Summary } from "@arroyo/core";
import { figure, monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";

/** What the energy of a run costs and emits, by fuel and by month; nothing where an earlier version did not keep it. */
export function BillTable({ summary, currency }: { summary: Summary | null; currency: string }) {
  const units = useUnits();
  const bill = summary?.energy.bill;
  if (!summary || !bill) return null;
  const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
  const whole = (v: number): string => figure(v, 0);
  return (
    <Box>
      <Text as="h2" textStyle="title" mb="1">
        What it costs{" "}
        <Text as="span" color="ink2" fontWeight="400">
          {currency}; prices act at once, no year is run for them
        </Text>
      </Text>
      <Grid
        label="Cost by fuel"
        head={[
          { text: "", left: true },
          { text: "Amount" },
          { text: "By amount", unit: currency },
          { text: "By demand", unit: currency },
          { text: "Standing", unit: currency },
          { text: "In all", unit: currency },
          { text: "Mean price", unit: `${currency}/kWh` },
        ]}
        rows={bill.parts.map((p) => ({
          key: p.of,
          cells: [
            p.of,
            p.of === "water" ? units.words(p.amount, "m³", 0) : units.words(p.amount, "kWh", 0),
            whole(p.energy),
            whole(p.demand),
            whole(p.fixed),
            <b key="all">{whole(p.energy + p.demand + p.fixed)}</b>,
            p.of === "water" || p.amount === 0 ? "—" : figure((p.energy + p.demand + p.fixed) / p.amount, 3),
          ],
        }))}
      />
      <Box mt="3">
        <Grid
          label="Cost and carbon by month"
          head={[{ text: "", left: true }, ...monthNames.map((text) => ({ text })), { text: "Sum" }]}
          rows={[
            { key: "cost", cells: [`Cost, ${currency}`, ...bill.costByMonth.map(whole), <b key="s">{whole(sum(bill.costByMonth))}</b>] },
            ...(bill.value
              ? [
                  {
                    key: "value",
                    cells: [`${bill.value.name}, ${bill.value.unit}`, ...bill.value.byMonth.map(whole), <b key="s">{whole(bill.value.total)}</b>],
                  },
                ]
              : []),
            { key: "carbon", cells: ["Carbon, kg CO₂e", ...bill.carbonByMonth.map(whole), <b key="s">{whole(sum(bill.carbonByMonth))}</b>] },
          ]}
        />
      </Box>
    </Box>
  );
}
