"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import {
  drawOf,
  freeId,
  modelledArea,
  setChange,
  shareWords,
  waterSystemOf,
  waterTemperatures,
  type ColdWater,
  type DrawPoint,
  type Project,
} from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, Head, NumberInput, Quantity, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { ScheduleSelect } from "./ScheduleSelect.tsx";
import { TapTable } from "./TapTable.tsx";
import { UseHead } from "./UseHead.tsx";

const LEAVES_ROOM = "The rest leaves by the drain.";
const KIND_WORDS = { known: "worked back from a year", fixtures: "built up from fixtures", taps: "by its taps" } as const;

/** Cold water main of each system over the year, from the last run. */
export function useColdWater(): ColdWater {
  const { summary } = tally(useLiveFigures());
  return (system) => {
    const cold = summary?.waterSystems.find((x) => x.id === system)?.cold;
    return cold ? cold.reduce((s, v) => s + v, 0) / 12 : undefined;
  };
}

/** One draw of hot water: its taps, worked back from what is known of a year, or built up from its fixtures. */
export function HotWaterDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const point = project.drawPoints[id];
  const at = (...path: string[]): string[] => ["drawPoints", id, ...path];
  const turn = (kind: string): void => {
    const { name, schedule, space, sensible, latent, temperature } = point;
    const base = { name, schedule, space, sensible, latent, ...(temperature === undefined ? {} : { temperature }) };
    const area = Math.max(1, Math.round(modelledArea(project)));
    const value: DrawPoint =
      kind === "known"
        ? { kind: "known", ...base, of: "energy", yearly: 10000, area, modelled: null }
        : kind === "taps"
          ? { kind: "taps", ...base, taps: [], people: null }
          : { kind: "fixtures", ...base, fixtures: [] };
    edit(`${name}: ${KIND_WORDS[value.kind]}`, [setChange(project, ["drawPoints", id], value)]);
  };
  const share = (field: "sensible" | "latent", label: string) => (
    <Row label={label} title={LEAVES_ROOM}>
      <Quantity
        label={label}
        value={point[field]}
        unit="1"
        shown="%"
        digits={0}
        onCommit={(v) => edit(`${point.name}: ${label.toLowerCase()}`, [setChange(project, at(field), v)])}
      />
    </Row>
  );
  return (
    <Flex direction="column" gap="3">
      <UseHead part="drawPoints" id={id}>
        <SelectInput
          label="How the draw is known"
          align="left"
          width="240px"
          value={point.kind}
          options={[
            { value: "taps", label: "by its taps and their hours" },
            { value: "known", label: "worked back from a year’s figure" },
            { value: "fixtures", label: "built up from fixtures" },
          ]}
          onChange={turn}
        />
      </UseHead>
      <Flex gap="8" align="flex-start" wrap="wrap">
        <Box flex="0 1 380px">
          {point.kind === "known" ? <Known id={id} point={point} /> : null}
          <Head>When and where</Head>
          <Row label="Draw schedule">
            <ScheduleSelect
              label="Draw schedule"
              value={point.schedule}
              none="evenly, all hours"
              onChange={(v) => edit(`${point.name}: schedule`, [setChange(project, at("schedule"), v)])}
            />
          </Row>
          <Row label="Drawn in">
            <SelectInput
              label="Drawn in"
              width="170px"
              value={point.space ?? ""}
              options={[{ value: "", label: "all spaces, by floor area" }, ...Object.entries(project.spaces).map(([k, s]) => ({ value: k, label: s.name }))]}
              onChange={(v) => edit(`${point.name}: where`, [setChange(project, at("space"), v === "" ? null : v)])}
            />
          </Row>
          <Wanted id={id} />
          <Head>Heat of the water</Head>
          {share("sensible", "Stays as heat")}
          {share("latent", "Stays as vapour")}
          <Row label="Leaves by the drain">{Math.round(100 * (1 - point.sensible - point.latent))} %</Row>
        </Box>
        <Outcome id={id} />
      </Flex>
      {point.kind === "fixtures" && <Fixtures id={id} point={point} />}
      {point.kind === "taps" && <TapTable id={id} point={point} />}
    </Flex>
  );
}

/** Temperature wanted at the tap, and what makes the water. */
function Wanted({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const point = project.drawPoints[id];
  const cold = useColdWater();
  const zones = [...drawOf(project, id, cold).zones.keys()];
  const systems = [...new Set(zones.map((z) => waterSystemOf(project, z)))];
  const usual = zones.length > 0 ? waterTemperatures(project, zones[0], null, cold).tap : 45;
  const put = (v: number | null) => edit(`${point.name}: wanted at the tap`, [setChange(project, ["drawPoints", id, "temperature"], v)]);
  return (
    <>
      <Row
        label="Wanted at the tap"
        note={typeof point.temperature === "number" ? <Act onClick={() => put(null)}>as of what makes it</Act> : "of what makes it; type another here"}
      >
        <Quantity label="Wanted at the tap" value={point.temperature ?? usual} unit="°C" digits={0} onCommit={put} />
      </Row>
      <Row label="Made by">
        {systems.length === 0
          ? "nothing: it is drawn in no zone"
          : systems.map((s) =>
              s === null ? (
                <Text key="plain" as="span">
                  plain services
                </Text>
              ) : (
                <Act key={s} onClick={() => select([{ kind: "component", id: `waterSystems/${s}` }])}>
                  {project.waterSystems[s].name}
                </Act>
              ),
            )}
      </Row>
    </>
  );
}

function Known({ id, point }: { id: string; point: Extract<DrawPoint, { kind: "known" }> }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const at = (field: string): string[] => ["drawPoints", id, field];
  const own = modelledArea(project);
  return (
    <>
      <Head mt="0">Known of the whole building</Head>
      <Row label="What is known" title="Heat in the water drawn, without losses of boiler and pipes; or its volume.">
        <SelectInput
          label="What is known"
          value={point.of}
          options={[
            { value: "energy", label: "heat of a year" },
            { value: "volume", label: "volume of a year" },
          ]}
          onChange={(v) => edit(`${point.name}: ${v}`, [setChange(project, at("of"), v)])}
        />
      </Row>
      <Row label={point.of === "energy" ? "Heat in a year" : "Volume in a year"}>
        <Quantity
          key={point.of}
          label={point.of === "energy" ? "Heat in a year" : "Volume in a year"}
          value={point.yearly}
          unit={point.of === "energy" ? "kWh" : "m³"}
          digits={0}
          electric
          width="96px"
          onCommit={(v) => edit(`${point.name}: of a year`, [setChange(project, at("yearly"), v)])}
        />
      </Row>
      <Row label="Floor area of that building">
        <Quantity
          label="Floor area of that building"
          value={point.area}
          unit="m²"
          digits={0}
          width="96px"
          onCommit={(v) => edit(`${point.name}: floor area of the building`, [setChange(project, at("area"), v)])}
        />
      </Row>
      <Row
        label="Floor area modelled"
        note={
          point.modelled === null ? (
            "of the spaces of this model"
          ) : (
            <>
              typed; the model has {units.words(own, "m²", 0)} ·{" "}
              <Act onClick={() => edit(`${point.name}: area of the model`, [setChange(project, at("modelled"), null)])}>take the model’s</Act>
            </>
          )
        }
      >
        <Quantity
          label="Floor area modelled"
          value={point.modelled ?? own}
          unit="m²"
          digits={0}
          width="96px"
          onCommit={(v) => edit(`${point.name}: floor area modelled`, [setChange(project, at("modelled"), v)])}
        />
      </Row>
    </>
  );
}

/** What the draw comes to, with the check that it adds up. */
function Outcome({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const cold = useColdWater();
  const draw = drawOf(project, id, cold);
  const [first] = draw.zones.keys();
  const water = first === undefined ? null : waterTemperatures(project, first, project.drawPoints[id], cold);
  const rise = water ? Math.max(0, water.tap - water.cold) : 0;
  return (
    <Box flex="0 1 360px" data-testid="draw-outcome">
      <Head mt="0">What it comes to here</Head>
      {draw.share !== null && (
        <Row label="Share of the building" note={`${shareWords(draw.share)}, by floor area`}>
          <Text as="b" color={draw.share > 1 || draw.share < 0.02 ? "clay" : undefined}>
            {Number((100 * draw.share).toPrecision(3))} %
          </Text>
        </Row>
      )}
      <Row label="Flow at full draw">
        <b>{units.words(draw.flow, "L/h", 1)}</b>
      </Row>
      <Row label="Hours a year at full draw">{units.text(draw.hours, "h", 0)} h</Row>
      <Row
        label="In a year"
        note={`${units.words(draw.flow, "L/h", 1)} × ${units.text(draw.hours, "h", 0)} h = ${units.words((draw.flow * draw.hours) / 1000, "m³", 1)}`}
      >
        <b>{units.words(draw.volume, "m³", 1)}</b>
      </Row>
      <Row
        label="Heat in a year"
        note={
          rise > 0
            ? `${units.words(draw.volume, "m³", 1)} warmed by ${units.words(rise, "K", 0)} from the main to the tap`
            : "the tap is no warmer than the main"
        }
      >
        <b>{units.words(draw.energy, "kWh", 0, true)}</b>
      </Row>
    </Box>
  );
}

function Fixtures({ id, point }: { id: string; point: Extract<DrawPoint, { kind: "fixtures" }> }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const at = (...path: string[]): string[] => ["drawPoints", id, "fixtures", ...path];
  const add = (): void => {
    const key = freeId(Object.fromEntries(point.fixtures.map((f) => [f.id, f])), "fixture");
    edit(`${point.name}: another fixture`, [{ op: "insert", path: at(key), value: { id: key, name: "Basin", litres: 1, uses: 3, users: 10 } }]);
  };
  return (
    <Box maxW="760px">
      <Flex align="center" gap="2">
        <Text fontWeight="600">Fixtures{point.space === null ? "" : " of each space"}</Text>
        <IconButton label="Add a fixture" icon={Plus} onClick={add} />
      </Flex>
      <Grid
        label="Fixtures"
        head={[
          { text: "Fixture", left: true },
          { text: "A use", unit: units.unit("L") },
          { text: "Uses a day, each" },
          { text: "Users" },
          { text: "A day", unit: units.unit("L") },
          { text: "" },
        ]}
        rows={point.fixtures.map((f) => ({
          key: f.id,
          cells: [
            <TextInput
              key="name"
              label={`Name of ${f.name}`}
              align="left"
              width="190px"
              value={f.name}
              onCommit={(t) => firstMessage(edit(`${f.name} is now ${t}`, [setChange(project, at(f.id, "name"), t)]))}
            />,
            <Quantity
              key="litres"
              bare
              label={`Litres of ${f.name}`}
              value={f.litres}
              unit="L"
              digits={1}
              onCommit={(v) => edit(`${f.name}: litres`, [setChange(project, at(f.id, "litres"), v)])}
            />,
            ...(["uses", "users"] as const).map((field) => (
              <NumberInput
                key={field}
                label={`${field === "uses" ? "Uses a day" : "Users"} of ${f.name}`}
                value={f[field]}
                onCommit={(v) => firstMessage(edit(`${f.name}: ${field}`, [setChange(project, at(f.id, field), v)]))}
              />
            )),
            units.text(f.litres * f.uses * f.users, "L", 0),
            <IconButton
              key="remove"
              label={`Remove ${f.name}`}
              icon={Trash2}
              onClick={() => edit(`Without ${f.name}`, [{ op: "remove", path: at(f.id), old: f }])}
            />,
          ],
        }))}
      />
    </Box>
  );
}
