"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  assemblyLayers,
  assemblyMass,
  assemblyU,
  condensation,
  factorNeeded,
  humidityClasses,
  layersResistance,
  massClasses,
  periodicResponse,
  setChange,
  stations,
  surfaceResistances,
  temperatureFactor,
  type Assembly,
  type HumidityClass,
  type MassClass,
  type MoistureClimate,
  type Project,
} from "@arroyo/core";
import { Head, Quantity, Row, SelectInput } from "../../ui/fields.tsx";
import { difference, figure, monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits, type Units } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { DayResponse } from "./DayResponse.tsx";
import { LayerExtras } from "./LayerExtras.tsx";
import { Layers } from "./Layers.tsx";
import { Section } from "./Section.tsx";
import { ThingHead } from "./ThingHead.tsx";
import { Told } from "../../ui/Told.tsx";

/** Kinds of element an assembly may be made for. */
const uses: readonly Assembly["use"][] = ["exterior wall", "roof", "ground floor", "exposed floor", "interior wall", "interior floor", "door"];
const humidityNames = Object.keys(humidityClasses) as HumidityClass[];
const INDOORS = 20;

interface FigureRow {
  readonly label: string;
  readonly unit: string;
  readonly digits: number;
  readonly value: number;
}

/** What an assembly is judged by. @throws RangeError where its figures cannot be had */
function figuresOf(project: Project, a: Assembly): FigureRow[] {
  const layers = assemblyLayers(project, a);
  const [rse, rsi] = surfaceResistances(a.use);
  const periodic = periodicResponse(layers, 86400, Math.max(rse, 1e-6), rsi);
  const { mass, capacity } = assemblyMass(project, a);
  return [
    { label: "U", unit: "W/m²K", digits: 3, value: assemblyU(project, a) },
    { label: "R of the layers", unit: "m²K/W", digits: 2, value: layersResistance(layers) },
    { label: "Mass", unit: "kg/m²", digits: 0, value: mass },
    { label: "Heat capacity", unit: "kJ/m²K", digits: 0, value: capacity / 1000 },
    { label: "Decrement factor, 24 h", unit: "1", digits: 2, value: periodic.decrement },
    { label: "Time shift", unit: "h", digits: 1, value: periodic.timeShift / 3600 },
    { label: "Inside admittance", unit: "W/m²K", digits: 2, value: periodic.insideAdmittance },
    { label: "Temperature factor fRsi", unit: "1", digits: 2, value: temperatureFactor(project, a) },
  ];
}

export function AssemblyDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const saved = project.assemblies[id];
  // while a thickness is typed the figures already follow it
  const [draft, setDraft] = useState<{ readonly layer: string; readonly thickness: number } | null>(null);
  const [humidity, setHumidity] = useState<HumidityClass>("3, dwellings");
  const a: Assembly = draft
    ? { ...saved, layers: saved.layers.map((l) => (l.kind === "solid" && l.id === draft.layer ? { ...l, thickness: draft.thickness } : l)) }
    : saved;
  let layers;
  let u = NaN;
  let fault: string | null = null;
  try {
    layers = assemblyLayers(project, a);
    u = assemblyU(project, a);
  } catch (error) {
    layers = [] as ReturnType<typeof assemblyLayers>;
    fault = error instanceof Error ? error.message : String(error);
  }
  const [rse, rsi] = surfaceResistances(a.use);
  return (
    <>
      <ThingHead part="assemblies" id={id}>
        <SelectInput
          label="Kind of element"
          width="128px"
          align="left"
          value={saved.use}
          options={uses.map((x) => ({ value: x, label: x }))}
          onChange={(v) => edit(`${saved.name}: for a ${v}`, [setChange(project, ["assemblies", id, "use"], v)])}
        />
        <Flex ml="auto" align="baseline" gap="2">
          <Text textStyle="figure" data-testid="assembly-u">
            {units.text(u, "W/m²K", 3)}
          </Text>
          <Text color="ink2">{units.unit("W/m²K")}</Text>
        </Flex>
      </ThingHead>
      {fault && (
        <Text role="alert" color="clay">
          This assembly cannot be computed: <Told text={fault} />.
        </Text>
      )}
      <Section assembly={a} project={project} humidity={humidity} />
      {saved.rated && <Rated id={id} rated={saved.rated} />}
      <Layers id={id} shown={a} layers={layers} u={u} onDraft={setDraft} />
      {!fault && (
        <>
          <Flex gap="8" align="flex-start" mt="2" wrap="wrap">
            <Box flex="1 1 380px">
              <Compared id={id} shown={a} project={project} units={units} />
            </Box>
            <Box flex="1 1 250px">
              <Moisture assembly={a} project={project} humidity={humidity} onHumidity={setHumidity} />
            </Box>
          </Flex>
          <DayResponse assembly={a} layers={layers} films={[Math.max(rse, 1e-6), rsi]} project={project} />
        </>
      )}
      {!saved.rated && <LayerExtras id={id} assembly={saved} />}
    </>
  );
}

/** U and class of mass of an assembly that has no layers. */
function Rated({ id, rated }: { id: string; rated: NonNullable<Assembly["rated"]> }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const set = (key: string, value: unknown, words: string) =>
    edit(`${project.assemblies[id].name}: ${words}`, [setChange(project, ["assemblies", id, "rated", key], value)]);
  return (
    <Box maxW="430px" mb="2">
      <Row label="U with both surfaces" title="Thermal transmittance of the whole element.">
        <Quantity
          label="U of the assembly"
          value={rated.u}
          unit="W/m²K"
          digits={3}
          usual={[0.05, 6]}
          onCommit={(v) => set("u", v, `U ${units.words(v, "W/m²K", 3)}`)}
        />
      </Row>
      <Row label="Class of mass" title="Heat capacity per area by ISO 52016-1, table B.14.">
        <SelectInput
          label="Class of mass"
          width="220px"
          value={rated.mass}
          options={(Object.keys(massClasses) as MassClass[]).map((m) => ({ value: m, label: `${m}, ${units.words(massClasses[m] / 1000, "kJ/m²K", 0)}` }))}
          onChange={(v) => set("mass", v, v)}
        />
      </Row>
      <Row label="Where the mass lies">
        <SelectInput
          label="Where the mass lies"
          width="220px"
          value={rated.at}
          options={[
            { value: "inside", label: "inside of the insulation" },
            { value: "outside", label: "outside of the insulation" },
            { value: "spread", label: "spread through it" },
          ]}
          onChange={(v) => set("at", v, `mass ${v}`)}
        />
      </Row>
    </Box>
  );
}

/** The assembly beside what it was when it was opened, or beside another. */
function Compared({ id, shown, project, units }: { id: string; shown: Assembly; project: Project; units: Units }) {
  const [before] = useState(() => ({ project, assembly: project.assemblies[id] }));
  const from = project.assemblies[id].from;
  const origin = from?.library === "this project" && project.assemblies[from.id] ? from.id : "";
  const [other, setOther] = useState(origin);
  const with_ = other !== "" && project.assemblies[other] ? { project, assembly: project.assemblies[other] } : before;
  let rows: [FigureRow, FigureRow][];
  try {
    const now = figuresOf(project, shown);
    const then = figuresOf(with_.project, with_.assembly);
    rows = now.map((r, i) => [r, then[i]]);
  } catch {
    return null;
  }
  return (
    <>
      <Flex align="baseline" gap="2">
        <Head mt="1">Now and before</Head>
        <Box ml="auto">
          <SelectInput
            label="Compared with"
            width="230px"
            value={other}
            options={[
              { value: "", label: "as it was when opened" },
              ...Object.entries(project.assemblies)
                .filter(([k]) => k !== id)
                .map(([k, x]) => ({ value: k, label: x.name })),
            ]}
            onChange={setOther}
          />
        </Box>
      </Flex>
      <Grid
        label="Now and before"
        head={[{ text: "", left: true }, { text: "Now" }, { text: other === "" ? "Before" : "Other" }, { text: "Difference" }, { text: "", left: true }]}
        rows={rows.map(([now, then]) => ({
          key: now.label,
          cells: [
            <Text key="l" color="ink2">
              {now.label}
            </Text>,
            <Text key="n" as="span" fontWeight="600">
              {units.text(now.value, now.unit, now.digits)}
            </Text>,
            units.text(then.value, now.unit, now.digits),
            now.unit === "1" || now.unit === "h"
              ? difference(now.value - then.value, now.digits)
              : units.difference(now.value - then.value, now.unit, now.digits),
            <Text key="u" color="ink2" as="span">
              {now.unit === "1" ? "" : units.unit(now.unit)}
            </Text>,
          ],
        }))}
      />
    </>
  );
}

/** Mould at the inside surface and condensation between layers, by ISO 13788. */
function Moisture({
  assembly,
  project,
  humidity,
  onHumidity,
}: {
  assembly: Assembly;
  project: Project;
  humidity: HumidityClass;
  onHumidity: (h: HumidityClass) => void;
}) {
  const units = useUnits();
  const monthly = useStore((s) => s.live.weather?.monthly ?? null);
  const [rse, rsi] = surfaceResistances(assembly.use);
  if (rse !== 0.04) return null;
  const climate: MoistureClimate | null = monthly && {
    outdoors: monthly.meanDryBulb,
    humidity: monthly.relativeHumidity.map((x) => x / 100),
    indoors: INDOORS,
    kind: humidity,
  };
  const places = stations(project, assembly);
  const needed = climate && factorNeeded(climate);
  const has = temperatureFactor(project, assembly);
  const found = climate && places.ok ? condensation(places.list, rsi, climate) : null;
  const words = (kg: number): string => units.words(kg * 1000, "g/m²", 0);
  return (
    <>
      <Flex align="baseline" gap="2">
        <Head mt="1">Moisture, ISO 13788</Head>
      </Flex>
      <Row label="Rooms behind it" title="Internal humidity class: most excess of vapour pressure indoors.">
        <SelectInput
          label="Humidity of the rooms"
          width="190px"
          value={humidity}
          options={humidityNames.map((n) => ({ value: n, label: n }))}
          onChange={(v) => onHumidity(humidityNames.find((n) => n === v) ?? humidity)}
        />
      </Row>
      {!climate && <Text color="ink2">Told as soon as the weather is read.</Text>}
      {needed && (
        <Row label="Temperature factor fRsi" title="At the inside surface with 0.25 m²K/W before it; mould grows above 80 % relative humidity at the surface.">
          <Text data-testid="mould" color={has < needed.factor ? "clay" : "ink"}>
            {figure(has, 2)}, {has < needed.factor ? "mould: " : ""}at least {figure(needed.factor, 2)} in {monthNames[needed.month]}
          </Text>
        </Row>
      )}
      {climate && !places.ok && (
        <Text color="ink2">
          <Told text={places.message} />
        </Text>
      )}
      {found && (
        <Row label="Condensation inside it">
          <Text data-testid="condensation" color={found.months.length === 0 ? "ink" : found.dries ? "ink" : "clay"}>
            {found.months.length === 0
              ? "none in any month"
              : `at most ${words(found.most)}, ${found.dries ? "dries within the year" : "does not dry within the year"}`}
          </Text>
        </Row>
      )}
      {found && found.months.length > 0 && (
        <Text color="ink2" fontSize="11.5px" lineHeight="1.4">
          {found.months
            .filter((m) => m.held > 0 || m.change !== 0)
            .map((m) => `${monthNames[m.month]} ${words(m.held)}`)
            .join(" · ")}
        </Text>
      )}
    </>
  );
}
