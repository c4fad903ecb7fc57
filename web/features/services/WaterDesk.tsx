"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import {
  addToList,
  componentName,
  componentWords,
  drawOf,
  freeId,
  fuels,
  ruledComponents,
  settingOf,
  setChange,
  waterPartKinds,
  waterSystemOf,
  zonesOfWater,
  type Component,
  type Project,
  type Summary,
} from "@arroyo/core";
import { Act, firstMessage, Head, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { sum } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { Months } from "../place/Months.tsx";
import { stageAddress, tally, useLiveFigures, useStore } from "../store.ts";
import { useColdWater } from "../use/HotWaterDesk.tsx";
import { showUse } from "../use/useDesk.ts";
import { ZoneChips } from "../ZoneChips.tsx";
import { selectionOf, sizeField } from "./componentPlace.ts";
import { figuresOf } from "./ComponentInspector.tsx";
import { SYSTEM_NAME } from "./systemActions.ts";

type Told = Summary["waterSystems"][number];

/** A hot-water system from the main to the taps: what it serves, cold water, heaters and collectors, and the books of its year. */
export function WaterDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const units = useUnits();
  const { summary } = tally(useLiveFigures());
  const system = project.waterSystems[id];
  const told = summary?.waterSystems.find((x) => x.id === id) ?? null;
  const at = (...path: string[]): string[] => ["waterSystems", id, ...path];
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="2" id={SYSTEM_NAME}>
        <TextInput
          label="Name of the hot-water system"
          title
          width="220px"
          value={system.name}
          onCommit={(t) => firstMessage(edit(`${system.name} is now ${t}`, [setChange(project, at("name"), t)]))}
        />
        <Text color="ink2">hot water for {zonesOfWater(project, id).length} zones</Text>
        <Box ml="auto">
          <SelectInput
            label="Add to the hot-water system"
            width="190px"
            value=""
            options={[{ value: "", label: "+ heater or collectors" }, ...waterPartKinds.map((k) => ({ value: k, label: componentWords[k] }))]}
            onChange={(kind) => {
              const known = waterPartKinds.find((k) => k === kind);
              if (!known) return;
              const made = addToList(project, at("parts"), system.parts as readonly Component[], known);
              if (edit(`${system.name}: ${componentWords[known]}`, [made.change]).length === 0) select([selectionOf(at("parts", made.id))]);
            }}
          />
        </Box>
      </Flex>
      <Course told={told} system={system.name} />
      <Flex gap="8" wrap="wrap" align="flex-start" mt="3">
        <Box flex="1 1 300px" minW="280px">
          <Head mt="0">Heaters and collectors</Head>
          {!system.parts.some((p) => p.kind === "waterHeater") && <Text color="clay">No heater yet: its water is drawn cold.</Text>}
          <Grid
            label={`Heaters of ${system.name}`}
            head={[{ text: "", left: true }, { text: "Size" }, { text: "In the year" }]}
            rows={system.parts.map((p) => {
              const c = { ...p, path: at("parts", p.id) } as Component & { path: string[] };
              const { size, year } = figuresOf(c, summary, units, sizeField[c.kind]);
              return {
                key: p.id,
                active: selection.some((s) => s.id === c.path.join("/")),
                onClick: () => select([selectionOf(c.path)]),
                cells: [componentName(c), size || "—", year || "—"],
              };
            })}
          />
          <Serves id={id} />
          <Cold id={id} told={told} />
        </Box>
        <Box flex="1 1 340px" minW="320px">
          <Drawn id={id} />
          {told && <Books told={told} cost={costOf(project, told, summary)} />}
        </Box>
      </Flex>
    </Box>
  );
}

/** What the fuel of a system's heaters and its water cost in the year, at flat prices; null: not known. */
function costOf(project: Project, told: Told, summary: Summary | null): number | null {
  if (!summary) return null;
  const rows = summary.components.filter((c) => c.address.startsWith(`waterSystems/${told.id}/`));
  const { perKWh, water } = project.prices;
  const parts = ruledComponents(project).project.waterSystems[told.id]?.parts ?? [];
  const spent = rows.reduce((s, c) => {
    const part = parts.find((p) => c.address.endsWith(`/${p.id}`));
    const heat = part?.kind === "waterHeater" ? settingOf("waterHeater", part.inputs, "heat") : null;
    // what burns is called by its fuel; elements and heat pumps have electricity alone
    const fuel = fuels.find((f) => f === heat);
    return s + sum(c.power) * perKWh.electricity + (fuel === undefined ? 0 : sum(c.fuel) * perKWh[fuel]);
  }, 0);
  return spent + sum(told.pumps) * perKWh.electricity + sum(told.volume) * (water ?? 0);
}

/** The way of the water in six stations, each with its figures of the year. */
function Course({ told, system }: { told: Told | null; system: string }) {
  const units = useUnits();
  const kWh = (a: readonly number[] | undefined): string => (a ? units.words(sum(a), "kWh", 0) : "—");
  const mean = told ? sum(told.cold) / 12 : null;
  const stations: readonly (readonly [string, string, string])[] = [
    ["Cold water main", told ? units.words(mean as number, "°C", 1) : "—", "mean of the year"],
    [
      "Sun",
      kWh(told?.solar),
      told && sum(told.sun) > 0
        ? `${units.text((100 * sum(told.solar)) / Math.max(1, sum(told.solar) + sum(told.heated)), "%", 0)} % of the heat`
        : "no collectors",
    ],
    ["Heaters", kWh(told?.heated), "heat into the water"],
    [
      "Store",
      told?.store ? `${units.text(told.store.min, "°C", 0)} to ${units.words(told.store.max, "°C", 0)}` : told ? "none" : "—",
      told?.store ? `mean ${units.words(told.store.mean, "°C", 1)}` : "",
    ],
    ["Circulation", kWh(told?.pipeLoss), "lost by its pipes"],
    ["Taps", told ? units.words(sum(told.volume), "m³", 0) : "—", `${kWh(told?.drawn)} drawn`],
  ];
  return (
    <Flex role="group" aria-label={`Way of the water of ${system}`} borderY="1px solid" borderColor="line" py="2" position="relative">
      <Box position="absolute" left="0" right="0" top="31px" h="10px" background="wash" />
      {stations.map(([name, value, below], i) => (
        <Box key={name} flex="1" minW="0" px="1.5" position="relative" textAlign={i === 0 ? "left" : i === stations.length - 1 ? "right" : "center"}>
          <Text fontSize="11px" color="ink2">
            {name}
          </Text>
          <Text mt="3px" h="24px" fontWeight="600" fontSize="13px" whiteSpace="nowrap" data-testid={`water-${name.toLowerCase().replace(/ /g, "-")}`}>
            <chakra.span px="1" background="sheet" borderRadius="small">
              {value}
            </chakra.span>
          </Text>
          <Text fontSize="11px" color="ink2" whiteSpace="nowrap" overflow="hidden" textOverflow="ellipsis">
            {below}
          </Text>
        </Box>
      ))}
    </Flex>
  );
}

/** All zones that no system before it serves, or those that are ticked. */
function Serves({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const system = project.waterSystems[id];
  const path = ["waterSystems", id, "zones"];
  const own = zonesOfWater(project, id);
  return (
    <>
      <Head>What it serves</Head>
      <Row label="Serves">
        <SelectInput
          label="What the hot-water system serves"
          width="170px"
          value={system.zones === null ? "all" : "chosen"}
          options={[
            { value: "all", label: "all zones" },
            { value: "chosen", label: "chosen zones" },
          ]}
          onChange={(v) => edit(`${system.name} serves ${v === "all" ? "all zones" : "chosen zones"}`, [setChange(project, path, v === "all" ? null : own)])}
        />
      </Row>
      {system.zones !== null && (
        <ZoneChips
          chosen={system.zones}
          change={(zones, name) => edit(`${system.name}: ${name}`, [setChange(project, path, zones)])}
          told={(z) => {
            const other = waterSystemOf(project, z);
            return other !== null && other !== id ? `served by ${project.waterSystems[other].name}` : undefined;
          }}
        />
      )}
    </>
  );
}

/** Cold water by month: from the weather year, or typed. */
function Cold({ id, told }: { id: string; told: Told | null }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const system = project.waterSystems[id];
  const path = ["waterSystems", id, "coldWater"];
  const shown = system.coldWater ?? told?.cold ?? null;
  const rounded = (a: readonly number[]): number[] => a.map((v) => Math.round(10 * v) / 10);
  return (
    <>
      <Head>Cold water main</Head>
      <Row
        label={system.coldWater === null ? "From the weather year" : "Typed by month"}
        note={
          system.coldWater === null ? (
            "by its mean outdoor temperature and the swing of its months (Burch and Christensen 2007); type one to have your own"
          ) : (
            <Act onClick={() => edit(`${system.name}: cold water from the weather year`, [setChange(project, path, null)])}>from the weather year</Act>
          )
        }
      >
        {""}
      </Row>
      {shown && (
        <Months
          label="cold water"
          values={rounded(shown)}
          unit="°C"
          onCommit={(m, v) =>
            firstMessage(
              edit(`${system.name}: cold water typed`, [
                setChange(
                  project,
                  path,
                  rounded(shown).map((x, i) => (i === m ? v : x)),
                ),
              ]),
            )
          }
        />
      )}
    </>
  );
}

/** What is drawn of it, with the way to each draw. */
function Drawn({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const cold = useColdWater();
  const own = new Set(zonesOfWater(project, id));
  const rows = Object.entries(project.drawPoints)
    .map(([key, point]) => ({ key, point, draw: drawOf(project, key, cold) }))
    .filter(({ draw, point }) => [...draw.zones.keys()].some((z) => own.has(z)) || (draw.zones.size === 0 && point.space === null));
  const add = (): void => {
    const key = freeId(project.drawPoints, "taps");
    const value = { kind: "taps", name: "Taps", schedule: null, space: null, sensible: 0.1, latent: 0, taps: [], people: null };
    if (edit("New taps", [{ op: "insert", path: ["drawPoints", key], value }]).length === 0) goTo(key);
  };
  const router = useRouter();
  const goTo = (key: string): void => {
    showUse("drawPoints", key);
    router.push(stageAddress("use"));
  };
  return (
    <>
      <Head mt="0">Drawn from it</Head>
      <Grid
        label="Drawn from it"
        head={[{ text: "", left: true }, { text: "Full draw", unit: units.unit("L/min") }, { text: "In a year", unit: units.unit("m³") }, { text: "" }]}
        rows={[
          ...rows.map(({ key, point, draw }) => ({
            key,
            cells: [
              point.name,
              units.text(draw.flow / 60, "L/min", 1),
              units.text(draw.volume, "m³", 0),
              <Act key="go" onClick={() => goTo(key)} title="Opens it on Use">
                to Use
              </Act>,
            ],
          })),
          { key: "people", cells: ["per person, by space type", "", "on Use", ""] },
        ]}
      />
      <Act onClick={add} title="A set of taps, for the building">
        + taps
      </Act>
    </>
  );
}

/** The books of the year: heat into the water and out of it; both sides are equal but for what the store holds more. */
function Books({ told, cost }: { told: Told; cost: number | null }) {
  const units = useUnits();
  const currency = useStore((s) => s.project?.prices.currency ?? "");
  const unmet = sum(told.unmet);
  const wanted = sum(told.wanted);
  const line = (label: string, v: number, strong = false) => (
    <Row key={label} label={label}>
      {strong ? <b>{units.words(v, "kWh", 0)}</b> : units.words(v, "kWh", 0)}
    </Row>
  );
  return (
    <Box data-testid="water-books">
      <Head>The year’s heat of the water</Head>
      {line("Heaters give", sum(told.heated))}
      {sum(told.sun) > 0 && line("Collectors give", sum(told.solar))}
      {line("Lost by the store", sum(told.storeLoss))}
      {line("Lost by the pipes", sum(told.pipeLoss))}
      {line("Drawn", sum(told.drawn), true)}
      <Row
        label="Wanted and not met"
        note={told.coldHours > 0 ? `water was too cold in ${units.text(told.coldHours, "h", 0)} hours` : "water was warm enough in every hour"}
      >
        <Text as="b" color={unmet > 0.01 * wanted ? "clay" : undefined} data-testid="water-unmet">
          {units.words(unmet, "kWh", 0)}
        </Text>
      </Row>
      {line("Electricity of pumps", sum(told.pumps))}
      {cost !== null && (
        <Row label="What it costs" note="fuel, pumps and water at flat prices; tariffs act in Results">
          <b>
            {units.text(cost, "1", 0)} {currency}
          </b>
        </Row>
      )}
    </Box>
  );
}
