"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { setChange, type Project } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";

/** Electricity of the site: made, used, fed in and bought by month, with cost and carbon gross and net. */
export function SiteYear() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const { summary } = tally(useLiveFigures());
  const site = summary?.energy.site;
  if (!summary || !site) return null;
  const { currency } = project.prices;
  const { energy } = summary;
  const kWh = (v: number): string => units.text(v, "kWh", 0, true);
  const rows: readonly (readonly [string, number, readonly number[]])[] = [
    ["Made", site.made, site.madeByMonth],
    ["Used on site", site.used, site.usedByMonth],
    ["Fed into the grid", site.exported, site.exportedByMonth],
    ["Bought", site.bought, site.boughtByMonth],
  ];
  const net = (label: string, gross: number, of: number, unit: string, digits = 0) => ({
    key: label,
    cells: [label, units.text(gross, "1", digits), units.text(of, "1", digits), units.text(of - gross, "1", digits), unit],
  });
  return (
    <Box mt="4" data-testid="site-year">
      <Flex align="baseline" gap="3" wrap="wrap">
        <Text fontWeight="600">Electricity of the site in the year, kWh</Text>
        <Flex align="center" gap="1.5" ml="auto">
          <Text color="ink2">feeding in makes up for buying within</Text>
          <SelectInput
            label="Netting"
            width="100px"
            value={project.prices.netting ?? "hour"}
            options={[
              { value: "hour", label: "the hour" },
              { value: "month", label: "the month" },
              { value: "year", label: "the year" },
            ]}
            onChange={(v) => edit(`Netting within the ${v}`, [setChange(project, ["prices", "netting"], v)])}
          />
        </Flex>
      </Flex>
      <Grid
        label="Electricity of the site by month"
        head={[{ text: "", left: true }, { text: "Year" }, ...monthNames.map((m) => ({ text: m }))]}
        rows={rows.map(([label, total, months]) => ({
          key: label,
          cells: [
            label,
            <b key="y" data-testid={`site-${label.toLowerCase().replace(/ /g, "-")}`}>
              {kWh(total)}
            </b>,
            ...months.map(kWh),
          ],
        }))}
      />
      {Math.abs(site.lost) > 0.5 && (
        <Text fontSize="11.5px" color="ink2">
          {units.words(site.lost, "kWh", 0, true)} are lost in batteries.
        </Text>
      )}
      <Box maxW="560px" mt="2">
        <Grid
          label="Gross and net"
          head={[{ text: "", left: true }, { text: "Gross" }, { text: "Net" }, { text: "Difference" }, { text: "", left: true }]}
          rows={[
            ...(energy.net !== null && energy.intensity !== null
              ? [
                  {
                    key: "energy",
                    cells: [
                      "Site energy",
                      units.text(energy.intensity, "kWh/m²a", 1),
                      <span key="n" data-testid="site-net">
                        {units.text(energy.net, "kWh/m²a", 1)}
                      </span>,
                      units.text(energy.net - energy.intensity, "kWh/m²a", 1),
                      units.unit("kWh/m²a"),
                    ],
                  },
                ]
              : []),
            net("Energy cost", energy.cost, site.cost, `${currency}/a`),
            net("Carbon", energy.carbon / 1000, site.carbon / 1000, "t CO₂e", 1),
            net("Primary energy", energy.primary / 1000, site.primary / 1000, "MWh", 1),
          ]}
        />
        <Text fontSize="11.5px" color="ink2" mt="1">
          Gross: as if all were bought. Net: what is bought, less {units.text(site.credit, "1", 0)} {currency} for what is fed in and its carbon. Prices stand
          on Place.
        </Text>
      </Box>
    </Box>
  );
}
