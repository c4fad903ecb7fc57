"use client";
import { chakra, Text } from "@chakra-ui/react";
import { useState, type ReactNode } from "react";
import {
  COLD_WATER,
  effective,
  fieldSpec,
  personWater,
  setChange,
  SIZED,
  signalName,
  signalSpan,
  signalText,
  STANDARD_AIR,
  unsetChange,
  type Change,
  type FieldSpec,
  type InputValue,
  type Origin,
  type Problem,
  type Project,
  type SpaceField,
  type ZoneField,
} from "@arroyo/core";
import { useStore } from "../features/store.ts";
import { VaryThis } from "./VaryThis.tsx";
import { Act, originText, OriginMark, Quantity, Row, SelectInput, Unit } from "./fields.tsx";
import { fieldWords, useUnits, type Units } from "./units.ts";

const VARIES = Symbol("varies");
/** Capacities are shown in kW where a field says nothing else. */
const KILOWATTS = { unit: "kW", factor: 0.001, digits: 1 } as const;

interface Shown {
  readonly value: InputValue | typeof VARIES;
  readonly origin: Origin;
}

/** How a stored value reads on screen. */
export function inputText(spec: FieldSpec, value: InputValue, project: Project, units: Units): string {
  if (value === null) return spec.nullMeans ?? "—";
  if (value === SIZED) return "by sizing";
  if (spec.signal && typeof value === "string") return signalName(project, value) ?? value;
  if (typeof value === "string") return spec.kind === "choice" ? value : (recordsFor(spec, project).find(([id]) => id === value)?.[1].name ?? value);
  return fieldWords(units, spec, value);
}

/** One inheritable input of the selected spaces or zones: value, unit, origin, usual range, back to inherited. */
export function InputRow({ kind, ids, field }: { kind: "space" | "zone"; ids: readonly string[]; field: SpaceField | ZoneField }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const capacities = useStore((s) => s.live.exact?.summary.zones);
  const spec = fieldSpec(kind, field);
  const read = (id: string) => (kind === "space" ? effective(project, "space", id, field as SpaceField) : effective(project, "zone", id, field as ZoneField));
  const asks = spec.when;
  if (asks && kind === "space" && !ids.some((id) => asks.is.includes(String(effective(project, "space", id, asks.field as SpaceField).value)))) return null;
  const all = ids.map(read);
  const first = all[0];
  const shown: Shown = all.every((e) => e.value === first.value) ? first : { value: VARIES, origin: first.origin };
  const typed = ids.filter((_, i) => all[i].origin.kind === "typed");
  const found = capacities?.find((z) => z.id === ids[0])?.capacity;
  const sized = kind === "zone" && ids.length === 1 ? ((field === "heatingCapacity" ? found?.heating : found?.cooling)?.power ?? null) : null;
  const part = kind === "space" ? "spaces" : "zones";
  const path = (id: string): string[] => [part, id, "inputs", field];
  const write = (value: InputValue): readonly Problem[] =>
    edit(
      `${spec.label}: ${inputText(spec, value, project, units)}`,
      ids.map((id): Change => setChange(project, path(id), value)),
    );
  const back = (): void =>
    void edit(
      `${spec.label} back to inherited`,
      typed.map((id) => unsetChange(project, path(id))),
    );
  return (
    <InputLine
      spec={spec}
      shown={shown}
      project={project}
      write={write}
      origin={shown.origin}
      back={typed.length > 0 ? back : null}
      backText="back to inherited"
      evidence={ids.length === 1 && typed.length === 1 ? path(ids[0]).join("/") : null}
      sized={sized}
      told={field === "hotWaterPerPerson" ? yearly(project, ids, units) : null}
      vary={ids.map((id) => path(id).join("/"))}
    />
  );
}

/** One input of a space type: typed there, or the default of the field. */
export function TypeInputRow({ type, field }: { type: string; field: SpaceField }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const spec = fieldSpec("space", field);
  const { inputs } = project.spaceTypes[type];
  if (spec.when && !spec.when.is.includes(String(inputs[spec.when.field as SpaceField] ?? fieldSpec("space", spec.when.field as SpaceField).default)))
    return null;
  const typed = inputs[field];
  const path = ["spaceTypes", type, "inputs", field];
  const taken = project.provenance[path.join("/")];
  const origin: Origin =
    typed === undefined ? { kind: "default" } : taken && taken.value === typed ? { kind: taken.kind, words: taken.words } : { kind: "typed" };
  const shown: Shown = { value: typed === undefined ? spec.default : typed, origin };
  const write = (value: InputValue): readonly Problem[] => edit(`${spec.label}: ${inputText(spec, value, project, units)}`, [setChange(project, path, value)]);
  return (
    <InputLine
      spec={spec}
      shown={shown}
      project={project}
      write={write}
      origin={origin}
      back={typed === undefined ? null : () => void edit(`${spec.label} back to default`, [unsetChange(project, path)])}
      backText="back to default"
      vary={[path.join("/")]}
      evidence={typed === undefined ? null : path.join("/")}
      sized={null}
      told={
        field === "hotWaterPerPerson"
          ? yearly(
              project,
              Object.keys(project.spaces).filter((id) => project.spaces[id].spaceType === type),
              units,
            )
          : null
      }
    />
  );
}

/** Hot water of the people of spaces in a year. */
const yearly = (project: Project, ids: readonly string[], units: Units): string =>
  `${units.words(
    ids.reduce((s, id) => s + personWater(project, id), 0),
    "m³",
    1,
  )} a year`;

export function InputLine({
  spec,
  shown,
  project,
  write,
  origin,
  back,
  backText,
  evidence,
  sized,
  told,
  quiet = false,
  more = null,
  vary,
}: {
  spec: FieldSpec;
  shown: Shown;
  project: Project;
  write: (v: InputValue) => readonly Problem[];
  origin: Origin;
  back: (() => void) | null;
  backText: string;
  evidence: string | null;
  /** What sizing gives, in the unit of the document. */
  sized: number | null;
  /** What it comes to. */
  told: string | null;
  /** Defaults and sizes are told by their marks alone. */
  quiet?: boolean;
  /** Further actions on the row. */
  more?: ReactNode;
  /** Where it stands, ids joined by /: it can be taken up as an axis of a study. */
  vary: readonly string[];
}) {
  const units = useUnits();
  const value = shown.value;
  const usual = spec.usual && typeof value === "number" && (value < spec.usual[0] || value > spec.usual[1]) ? spec.usual : null;
  const [typing, setTyping] = useState(false);
  const source = evidence === null ? "" : (project.evidence[evidence]?.source ?? "");
  const note = (
    <>
      {quiet && (origin.kind === "sized" || origin.kind === "default")
        ? null
        : value === SIZED
          ? "by the design days, times its factor"
          : origin.kind !== "typed" && originText(origin).words}
      {usual && (
        <Text as="span" color="clay">
          {origin.kind !== "typed" && " · "}usual {fieldWords(units, spec, usual[0], true)} to {fieldWords(units, spec, usual[1])}
        </Text>
      )}
      {told !== null && ` · ${told}`}
      {source !== "" && ` · source: ${source}`}
      {typing && evidence && <SourceInput address={evidence} known={source} done={() => setTyping(false)} />}
    </>
  );
  return (
    <Row
      label={spec.label}
      title={spec.help}
      note={note}
      actions={
        <>
          {more}
          {back && <Act onClick={back}>{backText}</Act>}
          {evidence && <Act onClick={() => setTyping(true)}>{source === "" ? "add source" : "change source"}</Act>}
          <VaryThis key={vary.join()} addresses={vary} label={spec.label} />
        </>
      }
    >
      <OriginMark origin={origin} />
      {spec.kind === "choice" ? (
        <SelectInput
          label={spec.label}
          value={value === VARIES ? "varies" : String(value)}
          options={[...(value === VARIES ? [{ value: "varies", label: "varies" }] : []), ...(spec.choices ?? []).map((c) => ({ value: c, label: c }))]}
          onChange={(v) => v !== "varies" && write(v)}
          width={wide((spec.choices ?? []).map((c) => c))}
        />
      ) : spec.kind === "schedule" || spec.kind === "devices" || spec.kind === "record" ? (
        <SelectInput
          label={spec.label}
          value={value === VARIES ? "varies" : ((value as string | null) ?? "")}
          options={[
            ...(value === VARIES ? [{ value: "varies", label: "varies" }] : []),
            { value: "", label: spec.nullMeans ?? "none" },
            ...recordsFor(spec, project).map(([id, s]) => ({ value: id, label: s.name })),
          ]}
          onChange={(v) => v !== "varies" && write(v === "" ? null : v)}
          width={wide([spec.nullMeans ?? "", ...(spec.kind === "record" ? recordsFor(spec, project).map(([, x]) => x.name) : [])])}
        />
      ) : spec.signal && typeof value === "string" ? (
        <FollowSelect spec={spec} value={value} project={project} write={write} />
      ) : value === VARIES ? (
        <Varies spec={spec} onCommit={write} />
      ) : value === SIZED ? (
        <Act
          onClick={() => write(Number((sized ?? spec.usual?.[0] ?? (spec.unit === "W" ? 1000 : 1)).toPrecision(3)))}
          title="Found by the design days; type a value instead"
        >
          {sized === null ? "by sizing" : fieldWords(units, spec.unit === "W" ? { ...spec, display: KILOWATTS } : spec, sized)}
          {!quiet && " ⌁"}
        </Act>
      ) : value === null ? (
        <Act onClick={() => write(typeof spec.default === "number" ? spec.default : (spec.usual?.[0] ?? 0))} title="Type a value instead">
          {spec.nullMeans}
        </Act>
      ) : (
        <>
          <FieldInput spec={spec} value={value as number} onCommit={write} />
          {spec.signal && <FollowSelect spec={spec} value={null} project={project} write={write} />}
          {spec.nullMeans && (
            <chakra.button
              type="button"
              title={`Make it: ${spec.nullMeans}`}
              aria-label={`${spec.label}: ${spec.nullMeans}`}
              color="ink2"
              cursor="pointer"
              onClick={() => write(null)}
            >
              ×
            </chakra.button>
          )}
        </>
      )}
    </Row>
  );
}

/** Width of a choice: below its label where its words are long. */
const wide = (words: readonly string[]): string => (words.some((w) => w.length > 17) ? "240px" : "130px");

/** The things a field may name. */
const recordsFor = (spec: FieldSpec, project: Project): [string, { readonly name: string }][] =>
  spec.kind === "record"
    ? Object.entries(project[spec.of ?? "loops"]).filter(([, x]) => !("kind" in x) || x.kind === spec.ofKind)
    : spec.kind === "devices"
      ? Object.entries(project.deviceLists)
      : Object.entries(project.schedules);

/** What a field may follow in place of a constant: schedules of temperatures, and resets by outdoor temperature. */
function FollowSelect({
  spec,
  value,
  project,
  write,
}: {
  spec: FieldSpec;
  value: string | null;
  project: Project;
  write: (v: InputValue) => readonly Problem[];
}) {
  const follow = [
    ...Object.entries(project.schedules)
      .filter(([, s]) => s.kind === "temperature")
      .map(([id, s]) => ({ value: id, label: s.name })),
    ...Object.entries(project.resets).map(([id, r]) => ({ value: signalText({ part: "resets", id }), label: r.name })),
  ];
  if (value === null && follow.length === 0) return null;
  const constant = signalSpan(project, value)?.mean ?? spec.default ?? 20;
  return (
    <SelectInput
      label={`${spec.label} follows`}
      value={value ?? ""}
      width={value === null ? "22px" : "130px"}
      options={[
        { value: "", label: value === null ? "constant" : "constant instead" },
        ...(value !== null && spec.nullMeans ? [{ value: "none", label: spec.nullMeans }] : []),
        ...(value !== null && !follow.some((f) => f.value === value) ? [{ value, label: value }] : []),
        ...follow,
      ]}
      onChange={(v) => write(v === "none" ? null : v === "" ? Math.round(2 * Number(constant)) / 2 : v)}
    />
  );
}

function Varies({ spec, onCommit }: { spec: FieldSpec; onCommit: (n: number) => readonly Problem[] }) {
  const [typing, setTyping] = useState(false);
  return typing ? <FieldInput spec={spec} value={null} onCommit={onCommit} /> : <Act onClick={() => setTyping(true)}>varies</Act>;
}

/** A number of an inheritable input, in any unit of its dimension. */
function FieldInput({ spec, value, onCommit }: { spec: FieldSpec; value: number | null; onCommit: (n: number) => readonly Problem[] }) {
  return (
    <>
      <Quantity
        label={spec.label}
        value={value}
        unit={spec.unit}
        shown={spec.display?.unit ?? spec.unit}
        onCommit={onCommit}
        electric={spec.electric ?? false}
        {...(spec.display?.digits === 0 ? { digits: 0 } : {})}
        {...(spec.group === "Outdoor air" ? { density: STANDARD_AIR } : spec.group === "Hot water" ? { density: COLD_WATER } : {})}
      />
      {spec.unit === "1" && !spec.display && <Unit>{spec.beside ?? "share"}</Unit>}
    </>
  );
}

/** Where a typed value comes from, in the modeler's words. */
function SourceInput({ address, known, done }: { address: string; known: string; done: () => void }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [draft, setDraft] = useState(known);
  const commit = (): void => {
    done();
    if (draft === known) return;
    const path = ["evidence", address];
    edit("Source of a value", draft === "" ? [unsetChange(project, path)] : [setChange(project, path, { ...project.evidence[address], source: draft })]);
  };
  return (
    <chakra.input
      aria-label="Source of this value"
      autoFocus
      placeholder="drawing, data sheet, survey …"
      w="100%"
      background="sheet"
      borderBottom="1px solid"
      borderColor="water"
      fontSize="12px"
      value={draft}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => (e.key === "Enter" ? commit() : e.key === "Escape" && done())}
    />
  );
}
