"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import {
  checkProject,
  diodeOf,
  fitOf,
  lossNames,
  modulePeak,
  openVoltage,
  diodeAt,
  setChange,
  settingOf,
  toldOf,
  type Project,
  type PvArray,
  type Summary,
} from "@arroyo/core";
import { firstMessage, Head, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { monthNames, sum } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { ArrayPlan } from "./ArrayPlan.tsx";
import { CurveTable } from "./CurveTable.tsx";
import { SiteYear } from "./SiteYear.tsx";
import { SYSTEM_NAME } from "./systemActions.ts";

/** What makes or stores electricity: a photovoltaic array where it lies, a turbine with its curve, a battery; with the site's electricity of the year. */
export function OnSiteDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const thing = project.onSite[id];
  const words = thing.kind === "pvArray" ? "photovoltaic array" : thing.kind === "windTurbine" ? "wind turbine" : "battery";
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="2" id={SYSTEM_NAME}>
        <TextInput
          label={`Name of the ${words}`}
          title
          width="220px"
          value={thing.name}
          onCommit={(t) => firstMessage(edit(`${thing.name} is now ${t}`, [setChange(project, ["onSite", id, "name"], t)]))}
        />
        <Text color="ink2">{words}</Text>
        {thing.kind === "pvArray" && <HostSelect id={id} array={thing} />}
      </Flex>
      {thing.kind === "pvArray" && <ArrayDesk id={id} array={thing} />}
      {thing.kind === "windTurbine" && <CurveTable id={id} />}
      <SiteYear />
    </Box>
  );
}

/** Roofs and outdoor walls by name. */
function hostsOf(project: Project): { readonly value: string; readonly label: string; readonly wall: boolean }[] {
  const seen = new Map<string, { label: string; wall: boolean; area: number }>();
  const sides = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"];
  for (const f of checkProject(project).geometry.faces) {
    if (f.contact !== "outdoors" || f.kind === "floor") continue;
    const before = seen.get(f.host);
    if (before && before.area >= f.area) continue;
    const wall = f.kind === "wall";
    const name = project.spaces[f.space].name;
    const side = sides[Math.round(f.azimuth / 45) % 8];
    seen.set(f.host, { label: wall ? `${side} wall of ${name}` : f.tilt > 1 ? `roof of ${name}, ${side}` : `roof of ${name}`, wall, area: f.area });
  }
  return [...seen]
    .map(([value, x]) => ({ value, label: x.label, wall: x.wall }))
    .sort((a, b) => Number(a.wall) - Number(b.wall) || (a.label < b.label ? -1 : 1));
}

function HostSelect({ id, array }: { id: string; array: PvArray }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const place = String(settingOf("pvArray", array.inputs, "place"));
  if (place === "free standing") return null;
  const hosts = hostsOf(project).filter((h) => (place === "as an overhang" ? h.wall : place === "on racks" ? !h.wall : true));
  return (
    <Flex align="center" gap="1.5" ml="auto">
      <Text color="ink2">stands on</Text>
      <SelectInput
        label="Stands on"
        width="230px"
        value={array.host ?? ""}
        options={[{ value: "", label: "nothing yet" }, ...hosts]}
        onChange={(v) =>
          edit(`${array.name} stands on ${hosts.find((h) => h.value === v)?.label ?? "nothing"}`, [
            setChange(project, ["onSite", id, "host"], v === "" ? null : v),
          ])
        }
      />
    </Flex>
  );
}

function ArrayDesk({ id, array }: { id: string; array: PvArray }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const { summary } = tally(useLiveFigures());
  const placed = checkProject(project).arrays.find((a) => a.id === id) ?? null;
  const told = summary?.arrays.find((a) => a.id === id) ?? null;
  const peak = modulePeak(array);
  const series = settingOf("pvArray", array.inputs, "series") as number | null;
  const count = placed?.modules.length ?? 0;
  return (
    <Flex gap="6" wrap="wrap" align="flex-start">
      <Box flex="1 1 380px" minW="340px">
        <ArrayPlan id={id} array={array} placed={placed} />
        <Flex gap="3.5" wrap="wrap" mt="2">
          <Figure
            label="Modules"
            value={String(count)}
            below={placed && placed.asked !== null && placed.asked > count ? `of ${placed.asked} asked for` : "whole ones"}
            test="array-modules"
          />
          <Figure label="Peak power" value={units.words((count * peak) / 1000, "kW", 2, true)} below={`${units.text(peak, "W", 0, true)} W each`} />
          <Figure
            label="Gross area"
            value={units.words(placed?.gross ?? 0, "m²", 1)}
            below={placed?.surface ? `${units.text((100 * placed.gross) / placed.surface, "%", 0)} % of the surface` : "with frames"}
            test="array-gross"
          />
          <Figure
            label="Active area"
            value={units.words(placed?.active ?? 0, "m²", 1)}
            below={placed && placed.gross > 0 ? `${units.text((100 * placed.active) / placed.gross, "%", 0)} % of the gross` : "of the cells"}
            test="array-active"
          />
          {series !== null && (
            <Figure
              label="Strings"
              value={`${Math.floor(count / Math.round(series))} × ${Math.round(series)}`}
              below={`${units.text(stringVoltage(array, Math.round(series), COLD), "1", 0)} V open at −10 °C`}
            />
          )}
        </Flex>
        <Fit array={array} />
      </Box>
      <Box flex="1 1 280px" minW="260px">
        {told && <Losses told={told} />}
      </Box>
    </Flex>
  );
}

/** Cells of a winter morning, °C. */
const COLD = -10;
const stringVoltage = (array: PvArray, series: number, cell: number): number => {
  const diode = diodeOf(array);
  return diode ? series * openVoltage(diodeAt(diode, 1000, cell)) : 0;
};

function Figure({ label, value, below, test }: { label: string; value: string; below: string; test?: string }) {
  return (
    <Box>
      <Text fontSize="11px" color="ink2">
        {label}
      </Text>
      <Text fontWeight="600" fontSize="15px" data-testid={test}>
        {value}
      </Text>
      <Text fontSize="11px" color="ink2">
        {below}
      </Text>
    </Box>
  );
}

/** The module's model against its data sheet, at three points and with temperature. */
function Fit({ array }: { array: PvArray }) {
  const units = useUnits();
  if (settingOf("pvArray", array.inputs, "model") !== "single diode") return null;
  const fit = fitOf(array);
  const diode = diodeOf(array);
  const of = (f: string): number => settingOf("pvArray", array.inputs, f) as number;
  const gamma = settingOf("pvArray", array.inputs, "gamma") as number | null;
  const told = diode ? toldOf(diode) : null;
  const row = (key: string, sheet: string, model: string) => ({ key, cells: [key, sheet, model] });
  const n = (v: number, digits: number): string => units.text(v, "1", digits);
  return (
    <Box mt="3" data-testid="module-fit">
      <Text fontWeight="600">The module against its data sheet</Text>
      {!fit.ok && <Text color="clay">{fit.message}</Text>}
      {told && (
        <Grid
          label="The module against its data sheet"
          head={[{ text: "", left: true }, { text: "Sheet" }, { text: "Model" }]}
          rows={[
            row("Short circuit", `${n(of("isc"), 2)} A`, `${n(told.isc, 2)} A`),
            row("Open circuit", `${n(of("voc"), 2)} V`, `${n(told.voc, 2)} V`),
            row("Most power", `${n(of("vmp") * of("imp"), 1)} W`, `${n(told.vmp * told.imp, 1)} W at ${n(told.vmp, 2)} V`),
            row("Coefficient of power", gamma === null ? "not told" : `${n(100 * gamma, 3)} %/K`, `${n(100 * told.gamma, 3)} %/K`),
            row("At cells of 45 °C", "", `${n(told.warm, 1)} W`),
          ]}
        />
      )}
      <Text fontSize="11.5px" color="ink2" mt="1">
        Single diode by De Soto, Klein and Beckman 2006; shade counts in proportion to the irradiance it takes.
      </Text>
    </Box>
  );
}

/** From the sun on the open plane to alternating current, loss by loss, and by month. */
function Losses({ told }: { told: Summary["arrays"][number] }) {
  const units = useUnits();
  const nominal = sum(told.nominal);
  const made = sum(told.made);
  const most = Math.max(...told.made, 1e-9);
  return (
    <Box data-testid="array-year">
      <Head mt="0">Made in the year</Head>
      <Row label="Alternating current">
        <b data-testid="array-made">{units.words(made, "kWh", 0, true)}</b>
      </Row>
      <Row label="Of each kW of peak power">{told.peak > 0 ? units.words(made / told.peak, "kWh", 0, true) : "—"}</Row>
      <Flex align="flex-end" h="64px" gap="1" mt="2" role="img" aria-label="Made by month">
        {told.made.map((v, m) => (
          <Box key={monthNames[m]} flex="1" textAlign="center" title={`${monthNames[m]}: ${units.words(v, "kWh", 0, true)}`}>
            <Box h={`${Math.max(0, (44 * v) / most)}px`} background="water" opacity="0.75" />
            <Text fontSize="10px" color="ink2">
              {monthNames[m][0]}
            </Text>
          </Box>
        ))}
      </Flex>
      {nominal > 0 && (
        <>
          <Head>What is lost on the way</Head>
          <Row label="Sun at the sheet’s efficiency">{units.words(nominal, "kWh", 0, true)}</Row>
          {lossNames.map((l) => {
            const lost = sum(told.losses[l] ?? []);
            return (
              <Row key={l} label={LOSS_WORDS[l]}>
                {units.words(-lost, "kWh", 0, true)}
                <Text as="span" color="ink2" w="52px" textAlign="right">
                  {units.text((-100 * lost) / nominal, "%", 1)} %
                </Text>
              </Row>
            );
          })}
          <Row label="Made">
            <b>{units.words(made, "kWh", 0, true)}</b>
            <Text as="span" color="ink2" w="52px" textAlign="right">
              {units.text((100 * made) / nominal, "%", 1)} %
            </Text>
          </Row>
        </>
      )}
    </Box>
  );
}
const LOSS_WORDS: Readonly<Record<(typeof lossNames)[number], string>> = {
  shade: "Shade",
  soiling: "Soiling",
  reflection: "Reflection",
  "low light": "Low light",
  temperature: "Temperature",
  wiring: "Wiring and mismatch",
  inverter: "Inverter",
  limit: "Inverter at its limit",
};
