import { effective, roleOfUse, type Effective } from "../inputs/index.ts";
import {
  componentName,
  componentsOf,
  describeChange,
  isGlazed,
  kitRoles,
  roleWords,
  ownerName,
  serviceFieldsOf,
  settingAsked,
  settingOf,
  spaceFieldNames,
  spaceFields,
  valueAt,
  zoneFieldNames,
  zoneFields,
  type FieldSpec,
  type KitRole,
  type Problem,
  type Project,
  type SpaceField,
  type Study,
  type StudyAxis,
  type StudyLevel,
  type ZoneField,
} from "../model/index.ts";
import { plantChoices, systemChanges, systemChoices } from "../services/index.ts";
import { likelyFields } from "./influences.ts";
import { measureOf } from "./staircase.ts";
import { addressesOf, axisStage } from "./study.ts";

/** What can be varied, with the axis it makes: its levels are named by {@link namedAxis}. */
export interface AxisChoice {
  readonly key: string;
  readonly stage: Problem["stage"];
  /** What kind of thing it belongs to. */
  readonly group: string;
  /** As the base has it, in words. */
  readonly now: string;
  readonly axis: Omit<StudyAxis, "id">;
}

const levels = (values: readonly StudyLevel["value"][], name: (v: StudyLevel["value"]) => string | undefined = () => undefined): StudyLevel[] =>
  values.map((value, i) => ({
    id: `l${i + 1}`,
    ...(name(value) === undefined ? {} : { name: (name(value) as string).slice(0, 200) }),
    value: value as number,
  }));
const tidy = (v: number): number => Number(v.toPrecision(3));

/** Units of numbers outside of the registries, by the last part of their address, and those they are shown in. */
const UNITS: Readonly<Record<string, readonly [unit: string, shown?: string]>> = {
  thickness: ["m", "mm"],
  depth: ["m"],
  gap: ["m"],
  height: ["m"],
  sill: ["m"],
  extension: ["m"],
  width: ["m"],
  elevation: ["m"],
  u: ["W/m²K"],
  conductivity: ["W/m·K"],
  density: ["kg/m³"],
  specificHeat: ["J/kg·K"],
  resistance: ["m²K/W"],
  planNorth: ["°"],
  ratio: ["1", "%"],
};

/** How the value of an axis is typed. */
export type AxisValue =
  | { readonly kind: "number"; readonly unit: string; readonly shown: string; readonly electric: boolean; readonly usual?: readonly [number, number] }
  | { readonly kind: "choice"; readonly options: readonly { readonly value: string; readonly label: string }[] }
  | { readonly kind: "text" }
  /** Its levels are changes, which are chosen and not typed. */
  | { readonly kind: "changes" };

/** What a field of a registry is, at an address. */
function specAt(project: Project, path: readonly string[]): FieldSpec | null {
  const field = path[path.length - 1];
  if (path[path.length - 2] !== "inputs") return null;
  if (path[0] === "spaces" || path[0] === "spaceTypes") return (spaceFields as Readonly<Record<string, FieldSpec>>)[field] ?? null;
  if (path[0] === "zones" && path.length === 4) return (zoneFields as Readonly<Record<string, FieldSpec>>)[field] ?? null;
  const owner = path.slice(0, -2).join("/");
  const c = componentsOf(project).find((x) => x.path.join("/") === owner);
  return c ? (serviceFieldsOf(c.kind)[field] ?? null) : null;
}
const firstAddress = (project: Project, axis: Pick<StudyAxis, "addresses">): readonly string[] | null =>
  axis.addresses?.flatMap((a) => addressesOf(project, a))[0] ?? null;

/** How the value of an axis is typed. @param document the base with its options */
export function axisValue(document: Project, project: Project, axis: Pick<StudyAxis, "addresses" | "levels">): AxisValue {
  if (!axis.addresses) return { kind: "changes" };
  const path = firstAddress(project, axis);
  const numbers = axis.levels.some((l) => typeof l.value === "number");
  if (numbers) {
    const spec = path && specAt(project, path);
    const [unit, shown] = spec ? [spec.unit, spec.display?.unit] : (UNITS[path?.[path.length - 1] ?? ""] ?? ["1"]);
    return { kind: "number", unit, shown: shown ?? unit, electric: spec?.electric ?? false, ...(spec?.usual ? { usual: spec.usual } : {}) };
  }
  const known = axisAt(document, project, axis.addresses[0]);
  const options = (known?.axis.levels ?? []).flatMap((l) => (typeof l.value === "string" ? [{ value: l.value, label: l.name ?? l.value }] : []));
  return options.length > 1 ? { kind: "choice", options } : { kind: "text" };
}

/** What a value of an axis is called. */
export function valueName(project: Project, axis: Pick<StudyAxis, "addresses">, value: StudyLevel["value"]): string | undefined {
  const path = firstAddress(project, axis);
  return path === null || value === undefined
    ? undefined
    : describeChange(project, { op: "set", path: [...path], value, old: valueAt(project, path) }).to.slice(0, 200);
}

/** Levels of an axis at some values, each called by its value; ids that are there are left. */
export function axisLevels(project: Project, axis: Pick<StudyAxis, "addresses" | "levels">, values: readonly StudyLevel["value"][]): StudyLevel[] {
  const taken = new Set<string>();
  let n = 0;
  const fresh = (): string => {
    do n++;
    while (taken.has(`l${n}`) || axis.levels.some((l) => l.id === `l${n}`));
    return `l${n}`;
  };
  return values.map((value) => {
    const known = axis.levels.find((l) => l.value === value && !taken.has(l.id));
    const id = known?.id ?? fresh();
    taken.add(id);
    const name = valueName(project, axis, value);
    return { ...known, id, value: value as number, ...(name === undefined ? {} : { name }) };
  });
}

/** Values a number is first varied over: its usual range with what it is now between, within what it may be. */
function spread(now: number | null, spec: Pick<FieldSpec, "usual" | "min" | "max">): number[] {
  const within = (v: number): number => Math.min(spec.max ?? Infinity, Math.max(spec.min ?? -Infinity, v));
  const around = now === null ? [] : now === 0 ? [0] : [tidy(0.75 * now), now, tidy(1.25 * now)];
  const values = spec.usual ? [spec.usual[0], ...(now === null ? [] : [now]), spec.usual[1]] : around;
  return [...new Set(values.map(within))].sort((a, b) => a - b);
}

function make(group: string, now: string, axis: Omit<StudyAxis, "id">): AxisChoice {
  return { key: axis.addresses?.join(" ") ?? axis.name, stage: axisStage({ ...axis, id: "a" }), group, now, axis };
}

/** A field of a registry at an address; null: it is of a kind that cannot be varied here. */
function fieldChoice(project: Project, group: string, name: string, address: string, spec: FieldSpec, now: unknown): AxisChoice | null {
  const words = (v: unknown): string => (v === null || v === undefined ? (spec.nullMeans ?? "none") : typeof v === "number" ? inputValue(spec, v) : String(v));
  if (spec.kind === "choice") return make(group, words(now), { name, addresses: [address], levels: levels(spec.choices ?? []) });
  if (spec.kind === "number") {
    const value = typeof now === "number" ? now : null;
    const values: StudyLevel["value"][] = spread(value, spec);
    if (values.length === 0) values.push(...(typeof spec.default === "number" ? [spec.default] : []));
    return values.length === 0
      ? null
      : make(group, words(now), { name, addresses: [address], ...(spec.unit === "1" ? {} : { unit: spec.unit }), levels: levels(values) });
  }
  const records: Readonly<Record<string, { readonly name: string }>> =
    spec.kind === "schedule" ? project.schedules : spec.kind === "devices" ? project.deviceLists : project[spec.of ?? "loops"];
  const ids = Object.keys(records);
  return ids.length < 2
    ? null
    : make(group, typeof now === "string" ? (records[now]?.name ?? now) : words(now), {
        name,
        addresses: [address],
        levels: levels(ids, (id) => records[id as string].name),
      });
}
const inputValue = (spec: FieldSpec, v: number): string =>
  `${Number((v * (spec.display?.factor ?? 1)).toPrecision(4))}${spec.unit === "1" && !spec.display ? "" : ` ${spec.display?.unit ?? spec.unit}`}`;

function ofSpaces(project: Project): AxisChoice[] {
  const spaces = Object.keys(project.spaces);
  return spaceFieldNames
    .flatMap((field): (AxisChoice | null)[] => {
      const spec: FieldSpec = spaceFields[field];
      const read = (id: string): Effective => effective(project, "space", id, field);
      const asked = (id: string): boolean => !spec.when || spec.when.is.includes(String(effective(project, "space", id, spec.when.field as SpaceField).value));
      const having = spaces.filter((id) => asked(id) && read(id).value !== null);
      if (having.length === 0) return [];
      const numbers = having.flatMap((id) => {
        const { value } = read(id);
        return typeof value === "number" ? [value] : [];
      });
      const mean = numbers.length > 0 ? tidy(numbers.reduce((s, v) => s + v, 0) / numbers.length) : (read(having[0]).value as string);
      return [
        spec.kind === "number" && numbers.length === 0
          ? null
          : fieldChoice(project, "all spaces", `${spec.label}, all spaces`, `spaces/*/inputs/${field}`, spec, mean),
        ...Object.entries(project.spaceTypes).map(([id, t]) =>
          fieldChoice(project, "space type", `${spec.label}, ${t.name}`, `spaceTypes/${id}/inputs/${field}`, spec, t.inputs[field]),
        ),
        ...having.map((id) => fieldChoice(project, "space", `${spec.label}, ${project.spaces[id].name}`, `spaces/${id}/inputs/${field}`, spec, read(id).value)),
      ];
    })
    .filter((x): x is AxisChoice => x !== null);
}

function ofZones(project: Project): AxisChoice[] {
  return zoneFieldNames
    .flatMap((field: ZoneField) =>
      Object.keys(project.zones).map((id) =>
        fieldChoice(
          project,
          "zone",
          `${zoneFields[field].label}, ${project.zones[id].name}`,
          `zones/${id}/inputs/${field}`,
          zoneFields[field],
          effective(project, "zone", id, field).value,
        ),
      ),
    )
    .filter((x): x is AxisChoice => x !== null);
}

function ofComponents(project: Project): AxisChoice[] {
  return componentsOf(project).flatMap((c) =>
    Object.entries(serviceFieldsOf(c.kind)).flatMap(([field, spec]) => {
      if (!settingAsked(c.kind, c.inputs, field)) return [];
      const own = componentName(c);
      const owner = ownerName(project, c);
      const name = `${spec.label}, ${own === owner ? own : `${owner}: ${own.toLowerCase()}`}`;
      const found = fieldChoice(project, "systems and plant", name, [...c.path, "inputs", field].join("/"), spec, settingOf(c.kind, c.inputs, field));
      return found ? [found] : [];
    }),
  );
}

/** Assemblies made for a role, and the one that has it. */
const fitting = (project: Project, role: KitRole, now: string): Project["assemblies"] =>
  Object.fromEntries(Object.entries(project.assemblies).filter(([id, a]) => id === now || roleOfUse[a.use] === role));

/** Which records a reference of the document may name, so that each can be a level. */
function references(project: Project): AxisChoice[] {
  const pick = (group: string, name: string, address: string, records: Readonly<Record<string, { readonly name: string }>>): AxisChoice[] => {
    const ids = Object.keys(records);
    const now = valueAt(project, address.split("/"));
    return ids.length < 2
      ? []
      : [
          make(group, typeof now === "string" ? (records[now]?.name ?? now) : "from its kit", {
            name,
            addresses: [address],
            levels: levels(ids, (id) => records[id as string].name),
          }),
        ];
  };
  return [
    ...pick("envelope", "Envelope kit of the project", "defaults/kit", project.kits),
    ...pick("systems and plant", "Plain services of the project", "defaults/services", project.services),
    ...Object.entries(project.kits).flatMap(([id, kit]) =>
      kitRoles.flatMap((role) =>
        pick("envelope", `Kit ${kit.name}: ${roleWords[role]}`, `kits/${id}/${role}`, isGlazed(role) ? project.glazings : fitting(project, role, kit[role])),
      ),
    ),
    ...Object.entries(project.openings).flatMap(([id, o]) =>
      pick("opening", `Glazing, ${o.name}`, `openings/${id}/glazing`, "use" in o && o.use === "door" ? project.assemblies : project.glazings),
    ),
    ...Object.entries(project.zones).flatMap(([id, z]) => pick("zone", `Plain services, ${z.name}`, `zones/${id}/services`, project.services)),
    ...Object.entries(project.spaces).flatMap(([id, s]) => pick("space", `Space type, ${s.name}`, `spaces/${id}/spaceType`, project.spaceTypes)),
  ];
}

/** Parts of the document whose own numbers can be varied, with the group they are listed in. */
const NUMBERS: Readonly<Partial<Record<keyof Project, string>>> = {
  site: "site",
  surroundings: "site",
  storeys: "storey",
  roofs: "roof",
  openings: "opening",
  shades: "shade",
  materials: "material",
  assemblies: "assembly",
  glazings: "glazing",
  kits: "envelope",
  airExchanges: "air exchange",
  deviceLists: "devices",
  drawPoints: "hot water",
  siteLights: "exterior lighting",
  known: "the whole building",
  services: "plain services",
};
/** Numbers that say where or which, not how much. */
const NOT_AMOUNTS = new Set(["latitude", "longitude", "timeZone", "colour", "x", "y", "seed", "multiplier", "corner"]);
/** Usual ranges of numbers that no registry tells of. */
const USUAL: Readonly<Record<string, Pick<FieldSpec, "usual" | "min" | "max">>> = {
  ratio: { usual: [0.15, 0.6], min: 0, max: 0.95 },
  planNorth: { usual: [0, 270], min: 0, max: 359 },
  depth: { usual: [0, 1.5], min: 0 },
  u: { usual: [0.8, 2.4], min: 0.05 },
  g: { usual: [0.25, 0.6], min: 0.01, max: 0.95 },
};

/** Numbers that are shares of one by what they are. */
const SHARES = /emissivity|absorptance|transmittance|reflectance|share|efficiency$/i;

function numbersIn(project: Project): AxisChoice[] {
  const out: AxisChoice[] = [];
  const visit = (v: unknown, path: readonly string[], group: string): void => {
    if (typeof v === "number") {
      const leaf = path[path.length - 1];
      if (NOT_AMOUNTS.has(leaf)) return;
      const words = describeChange(project, { op: "set", path: [...path], value: v, old: v });
      const spec: Pick<FieldSpec, "usual" | "min" | "max"> =
        USUAL[leaf] ??
        (SHARES.test(leaf) && v <= 1 ? { min: 0, max: 1 } : leaf === "thickness" ? { usual: [tidy(v / 2), tidy(2 * v)] as const, min: 0.001 } : {});
      const values = spread(v, spec);
      const name = words.thing[0].toUpperCase() + words.thing.slice(1);
      out.push(
        make(group, words.from, {
          name,
          addresses: [path.join("/")],
          ...(UNITS[leaf] && UNITS[leaf][0] !== "1" ? { unit: UNITS[leaf][0] } : {}),
          levels: levels(values),
        }),
      );
      return;
    }
    if (typeof v !== "object" || v === null || path.length > 6) return;
    if (Array.isArray(v)) {
      for (const x of v as unknown[])
        if (typeof x === "object" && x !== null && typeof (x as { id?: unknown }).id === "string") visit(x, [...path, (x as { id: string }).id], group);
      return;
    }
    for (const [key, x] of Object.entries(v)) visit(x, [...path, key], group);
  };
  for (const [part, group] of Object.entries(NUMBERS)) visit(project[part as keyof Project], [part], group);
  return out;
}

function rulesAndValues(project: Project): AxisChoice[] {
  return [
    ...project.rules.map((r) => make("rule", r.value, { name: `Rule: ${r.name}`, addresses: [`rules/${r.id}/value`], levels: levels([r.value]) })),
    ...Object.entries(project.values).map(([id, v]) =>
      make("named value", `${v.value} ${v.unit}`, {
        name: `Value: ${v.name}`,
        addresses: [`values/${id}/value`],
        ...(v.unit === "1" ? {} : { unit: v.unit }),
        levels: levels(spread(v.value, {})),
      }),
    ),
  ];
}

/** Whole systems for all zones that are heated or cooled, and the options of the project. */
function wholes(document: Project, project: Project): AxisChoice[] {
  const out: AxisChoice[] = [];
  const zones = Object.keys(project.zones);
  if (zones.length > 0)
    out.push(
      make("systems and plant", "as it is", {
        name: "System of all zones",
        levels: [
          { id: "base", name: "as it is" },
          ...systemChoices.map(({ id, words }): StudyLevel => ({
            id: id.replaceAll(" ", "-"),
            name: words,
            changes: systemChanges(project, id, plantChoices[0].id, zones, "Air"),
          })),
        ],
      }),
    );
  const options = Object.entries(document.options);
  if (options.length > 0)
    out.push(
      make("option", "base", {
        name: "Option",
        levels: [
          { id: "base", name: "base" },
          ...options.map(([id, o]): StudyLevel => ({
            id,
            name: o.name,
            changes: measureOf(document, id).changes,
          })),
        ],
      }),
    );
  for (const [id, o] of options)
    out.push(
      make("option", "without", {
        name: `${o.name} (option)`,
        levels: [
          { id: "without", name: "without" },
          { id, name: "with", changes: measureOf(document, id).changes },
        ],
      }),
    );
  return out;
}

/** The axis of a choice under an id, its levels called by their values. */
export function namedAxis(project: Project, choice: AxisChoice, id: string): StudyAxis {
  const { axis } = choice;
  return {
    ...axis,
    id,
    levels: axis.levels.map((l) => {
      const name = l.name ?? valueName(project, axis, l.value);
      return { ...l, ...(name === undefined ? {} : { name }) };
    }),
  };
}

/**
 * Everything of a model that can be an axis of a study: the inputs of spaces, zones, systems and plant, what references name, the numbers of
 * form, fabric and place, rules, named values, whole systems and options.
 * @param document the base with its options @param project the model the study stands on
 */
export function axisChoices(document: Project, project: Project): AxisChoice[] {
  const all = [
    ...wholes(document, project),
    ...ofSpaces(project),
    ...references(project),
    ...ofComponents(project),
    ...numbersIn(project),
    ...ofZones(project),
    ...rulesAndValues(project),
  ];
  const rank = new Map(all.map((c) => [c, rankOf(c)]));
  const of = (c: AxisChoice): number => rank.get(c) ?? 0;
  return all.sort((a, b) => STAGES.indexOf(a.stage) - STAGES.indexOf(b.stage) || of(a) - of(b));
}
const STAGES: readonly Problem["stage"][] = ["place", "form", "fabric", "use", "services"];
/** Kinds of things by how often they are varied. */
const GROUPS = [
  "option",
  "envelope",
  "opening",
  "shade",
  "assembly",
  "glazing",
  "all spaces",
  "plain services",
  "systems and plant",
  "rule",
  "named value",
  "space type",
  "site",
];
/** What is varied most often stands first in its stage. */
function rankOf(c: AxisChoice): number {
  const at = GROUPS.indexOf(c.group);
  const field = c.axis.addresses?.[0].split("/").pop() ?? "";
  const likely = (likelyFields as readonly string[]).indexOf(field);
  const leaf = ["ratio", "thickness", "u", "g", "depth", "exteriorWall", "roof", "glazing", "kit", "planNorth"].indexOf(field);
  return 1000 * (at < 0 ? GROUPS.length : at) + (likely >= 0 ? likely : leaf >= 0 ? leaf : 100);
}

/** The axis of what stands at an address, as it is picked up where it is edited; null: it cannot be varied. */
export function axisAt(document: Project, project: Project, address: string): AxisChoice | null {
  return axisChoices(document, project).find((c) => c.axis.addresses?.length === 1 && c.axis.addresses[0] === address) ?? null;
}

/** A study to begin with. */
export const emptyStudy = (name: string, base: string | null): Study => ({
  name,
  base,
  axes: [],
  years: [],
  judge: "worst",
  method: { kind: "grid" },
  length: 12,
  stepsPerHour: 1,
  sizing: "once",
  checks: 4,
});

/** Values from one to another in so many steps. */
export const valuesBetween = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => Number((count === 1 ? from : from + ((to - from) * i) / (count - 1)).toPrecision(9)));
