"use client";
import { Box, Text } from "@chakra-ui/react";
import { Fragment } from "react";
import {
  componentName,
  componentsFor,
  componentsOf,
  componentWords,
  effectiveSetting,
  serviceFieldsOf,
  setChange,
  settingAsked,
  settingOf,
  takeComponent,
  unsetChange,
  type Change,
  type FieldSpec,
  type InputValue,
  type PlacedComponent,
  type Project,
  type Summary,
} from "@arroyo/core";
import { Act, Head, Row, SelectInput, TextInput, Unit, firstMessage } from "../../ui/fields.tsx";
import { InputLine, inputText } from "../../ui/InputRow.tsx";
import { sum } from "../../ui/format.ts";
import { useUnits, type Units } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";

/** All settings of a component by group, each with where its value comes from, and what it does in the year. */
export function ComponentInspector({ component: c }: { component: PlacedComponent }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const groups = new Map<string, string[]>();
  for (const [field, spec] of Object.entries(serviceFieldsOf(c.kind)))
    if (settingAsked(c.kind, c.inputs, field)) groups.set(spec.group, [...(groups.get(spec.group) ?? []), field]);
  const own = c.path.length > 2;
  return (
    <>
      {own && (
        <Row label="Name" note={c.name === undefined ? "what it is; type another to tell it apart" : undefined}>
          <TextInput
            label={`Name of the ${componentWords[c.kind]}`}
            width="150px"
            value={componentName(c)}
            onCommit={(t) => firstMessage(edit(`${componentName(c)} is now ${t}`, [setChange(project, [...c.path, "name"], t)]))}
          />
        </Row>
      )}
      {componentsFor(c.kind).length > 0 && (
        <Row label="From the library" note="generic, typical, unverified; copied to change">
          <SelectInput
            label={`Library of ${componentWords[c.kind]}`}
            width="150px"
            value=""
            options={[{ value: "", label: "take …" }, ...componentsFor(c.kind).map(([id, item]) => ({ value: id, label: item.name }))]}
            onChange={(id) => {
              const item = componentsFor(c.kind).find(([k]) => k === id)?.[1];
              if (item) edit(`${componentName(c)}: ${item.name}`, takeComponent(project, c, id));
            }}
          />
        </Row>
      )}
      {[...groups].map(([group, fields]) => (
        <Fragment key={group}>
          <Head>{group}</Head>
          {fields.map((field) => (
            <SettingRow key={field} component={c} field={field} />
          ))}
        </Fragment>
      ))}
      <InTheYear component={c} />
    </>
  );
}

/** One setting of a component: value, unit, origin, back to default, and the same for all of its kind. */
function SettingRow({ component: c, field }: { component: PlacedComponent; field: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const spec: FieldSpec = serviceFieldsOf(c.kind)[field];
  const path = [...c.path, "inputs", field];
  const address = path.join("/");
  const typed = c.inputs[field] !== undefined;
  const { value, origin } = effectiveSetting(project, c, field);
  const sized = value === "sized" ? (summary?.sized[address] ?? null) : null;
  const name = componentName(c);
  const write = (v: InputValue) => edit(`${name}: ${spec.label.toLowerCase()} ${inputText(spec, v, project, units)}`, [setChange(project, path, v)]);
  const others = componentsOf(project).filter(
    (x) => x.kind === c.kind && x.path.join("/") !== c.path.join("/") && settingAsked(x.kind, x.inputs, field) && x.inputs[field] !== c.inputs[field],
  );
  const toAll = (): void =>
    void edit(
      `${spec.label} of ${name} for ${others.length} more`,
      others.map((x): Change => {
        const at = [...x.path, "inputs", field];
        return typed ? setChange(project, at, c.inputs[field] as InputValue) : unsetChange(project, at);
      }),
    );
  return (
    <InputLine
      spec={spec}
      shown={{ value, origin }}
      project={project}
      write={write}
      origin={origin}
      back={typed ? () => void edit(`${name}: ${spec.label.toLowerCase()} back`, [unsetChange(project, path)]) : null}
      backText={spec.default === "sized" ? "back to sizing" : "back to default"}
      evidence={typed ? address : null}
      sized={sized}
      quiet
      vary={[address]}
      told={null}
      more={
        others.length > 0 && spec.kind !== "record" ? (
          <Act onClick={toAll} title={`Gives this setting to every other ${componentWords[c.kind]}`}>
            for all ({others.length} more)
          </Act>
        ) : null
      }
    />
  );
}

/** What a component did in the year as it is now. */
function InTheYear({ component: c }: { component: PlacedComponent }) {
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const row = summary?.components.find((x) => x.address === c.path.join("/"));
  if (!row) return null;
  const lines = yearLines(row, units);
  if (lines.length === 0) return null;
  return (
    <Box>
      <Head>In the year</Head>
      {lines.map((l) => (
        <Row key={l.label} label={l.label}>
          <Text as="span" fontWeight="600">
            {l.value}
          </Text>
          <Unit>{l.unit}</Unit>
        </Row>
      ))}
    </Box>
  );
}

function yearLines(row: Summary["components"][number], units: Units): { label: string; value: string; unit: string }[] {
  const kwh = (label: string, v: number) => (v >= 0.5 ? [{ label, value: units.text(v, "kWh", 0), unit: units.unit("kWh") }] : []);
  const kw = (label: string, v: number) => (v >= 5 ? [{ label, value: units.text(v / 1000, "kW", 1), unit: units.unit("kW") }] : []);
  const heat = sum(row.heating);
  const cool = sum(row.cooling);
  const spent = sum(row.power) + sum(row.fuel);
  const machine = ["boiler", "chiller", "heatPump", "splitUnit", "district"].includes(row.kind);
  return [
    ...kwh("Heat given", heat),
    ...kwh("Heat taken out", cool),
    ...kwh("Electricity", sum(row.power)),
    ...kwh("Fuel", sum(row.fuel)),
    ...(machine && spent > 1 ? [{ label: "Heat moved over energy used", value: units.text((heat + cool) / spent, "1", 2), unit: "" }] : []),
    ...kw("Largest heat given", row.mostHeating),
    ...kw("Largest heat taken out", row.mostCooling),
    ...(row.hours >= 1 ? [{ label: "Running", value: units.text(row.hours, "h", 0), unit: "h" }] : []),
  ];
}

type State = Summary["components"][number]["atHeating"];
/** What a drawing shows: sizes and the year, the step in which the system or loop cooled or heated most, or a chosen hour by its states. */
export type Moment = "sizes" | "cooling" | "heating" | { readonly state: (path: string) => State };

/** The state of a component at a moment, or null. */
export const stateOf = (path: readonly string[], summary: Summary | null, moment: Moment): State => {
  if (typeof moment === "object") return moment.state(path.join("/"));
  const row = summary?.components.find((x) => x.address === path.join("/"));
  return !row || moment === "sizes" ? null : moment === "cooling" ? row.atCooling : row.atHeating;
};

/** Two short lines of a component for a drawing: size and year, or the state it leaves and its heat at a moment. */
export function linesOf(component: PlacedComponent, summary: Summary | null, units: Units, field: string | undefined, moment: Moment): [string, string] {
  if (moment === "sizes") {
    const { size, year } = figuresOf(component, summary, units, field);
    return [size, year];
  }
  const s = stateOf(component.path, summary, moment);
  if (!s) return ["—", ""];
  const heat = s.heat + s.latent;
  const air = s.leavingRatio > 0 ? ` · ${units.words(1000 * s.leavingRatio, "g/kg", 1)}` : "";
  return [`${units.words(s.leaving, "°C", 1)}${air}`, Math.abs(heat) >= 5 ? units.words(heat / 1000, "kW", 1) : ""];
}

/** A short line of what a component is and what it did, for diagrams and tables. */
export function figuresOf(component: PlacedComponent, summary: Summary | null, units: Units, field: string | undefined): { size: string; year: string } {
  const row = summary?.components.find((x) => x.address === component.path.join("/"));
  let size = "";
  if (field !== undefined) {
    const spec: FieldSpec = serviceFieldsOf(component.kind)[field];
    const value = settingOf(component.kind, component.inputs, field);
    const found = value === "sized" ? summary?.sized[[...component.path, "inputs", field].join("/")] : (value as number | null);
    if (typeof found === "number") {
      const shown = spec.display ?? { unit: spec.unit, factor: 1 };
      size = `${value === "sized" ? "⌁ " : ""}${units.words(found * shown.factor, shown.unit, found * shown.factor >= 100 ? 0 : 1)}`;
    }
  }
  const moved = row ? Math.max(sum(row.heating), sum(row.cooling)) : 0;
  return { size, year: moved >= 1 ? `${units.words(moved / 1000, "MWh", moved >= 99500 ? 0 : 1)}/a` : "" };
}
