import { callsIn, checkDimensions, evaluate, namesIn, parseExpression, unfit, type ExpressionFault, type Node, type Table } from "../expression/index.ts";
import { deriveFaces, spaceShapes, type Face } from "../geometry/index.ts";
import {
  componentWords,
  fieldSpec,
  serviceFields,
  serviceFieldsOf,
  signalRef,
  spaceFieldNames,
  unitOfText,
  zoneFieldNames,
  type ComponentKind,
  type Dimension,
  type FieldSpec,
  type InputValue,
  type Problem,
  type Project,
  type Rule,
  type RuleConditionOn,
  type RuleTarget,
  type SpaceField,
} from "../model/index.ts";
import { PEOPLE_INPUTS, peopleBySpace } from "./people.ts";

/** A quantity of the thing a rule acts on, for its expression. */
export interface RuleQuantity {
  readonly name: string;
  readonly unit: string;
  readonly words: string;
}
const SPACE_QUANTITIES: readonly RuleQuantity[] = [
  { name: "area", unit: "m²", words: "floor area" },
  { name: "volume", unit: "m³", words: "volume" },
  { name: "height", unit: "m", words: "height" },
  { name: "people", unit: "1", words: "people at full occupancy" },
  { name: "level", unit: "m", words: "level of the floor above the ground" },
];
/** Quantities of the rooms a component serves, together. */
export const COMPONENT_QUANTITIES: readonly RuleQuantity[] = [
  { name: "area", unit: "m²", words: "floor area of the rooms served" },
  { name: "volume", unit: "m³", words: "volume of the rooms served" },
  { name: "people", unit: "1", words: "people of the rooms served, at full occupancy" },
  { name: "outdoorAir", unit: "L/s", words: "outdoor air the rooms served ask for, summed" },
  { name: "zones", unit: "1", words: "number of zones served" },
];
const ZONE_QUANTITIES: readonly RuleQuantity[] = [
  { name: "area", unit: "m²", words: "floor area of its spaces" },
  { name: "volume", unit: "m³", words: "volume of its spaces" },
  { name: "people", unit: "1", words: "people of its spaces" },
];

/** Kind and setting of a rule's field on components, "terminal.flow". */
export function componentField(field: string): { readonly kind: ComponentKind; readonly field: string } {
  const [kind, setting] = field.split(".");
  return { kind: kind as ComponentKind, field: setting ?? "" };
}
const COMPONENT_FIELDS = (Object.keys(serviceFields) as ComponentKind[]).flatMap((kind) =>
  Object.entries(serviceFieldsOf(kind))
    .filter(([, spec]) => spec.kind !== "record")
    .map(([field, spec]) => ({ field: `${kind}.${field}`, label: `${capital(componentWords[kind])}: ${spec.label.toLowerCase()}`, spec })),
);

/** What a rule can fill, by the kind of thing. */
export function ruleFields(target: RuleTarget): readonly { readonly field: string; readonly label: string; readonly spec: FieldSpec | null }[] {
  if (target === "space") return spaceFieldNames.map((field) => ({ field, label: fieldSpec("space", field).label, spec: fieldSpec("space", field) }));
  if (target === "zone") return zoneFieldNames.map((field) => ({ field, label: fieldSpec("zone", field).label, spec: fieldSpec("zone", field) }));
  if (target === "component") return COMPONENT_FIELDS;
  return target === "face"
    ? [{ field: "assembly", label: "Assembly", spec: null }]
    : [{ field: "construction", label: "Glazing, or assembly of a door", spec: null }];
}

/** Conditions that make sense for a kind of thing. */
export const ruleConditions: Readonly<Record<RuleTarget, readonly RuleConditionOn[]>> = {
  space: ["spaceType", "storey", "orientation", "name", "tag", "zone"],
  zone: ["name", "storey", "spaceType", "tag"],
  face: ["role", "orientation", "storey", "spaceType", "name", "tag", "zone"],
  opening: ["role", "orientation", "storey", "spaceType", "name", "tag", "zone"],
  component: ["name", "system", "spaceType", "storey", "tag", "zone"],
};

/** Names an expression of a rule may use: the thing's quantities, its inputs that are numbers, and the project's named values. */
export function ruleQuantities(project: Project, target: RuleTarget): RuleQuantity[] {
  const own = target === "zone" ? ZONE_QUANTITIES : target === "component" ? COMPONENT_QUANTITIES : SPACE_QUANTITIES;
  const inputs =
    target === "component"
      ? []
      : target === "zone"
        ? zoneFieldNames.map((f) => [f, fieldSpec("zone", f)] as const)
        : spaceFieldNames.map((f) => [f, fieldSpec("space", f)] as const);
  return [
    ...own,
    ...inputs.filter(([, s]) => s.kind === "number").map(([f, s]) => ({ name: f, unit: s.unit === "" ? "1" : s.unit, words: s.label.toLowerCase() })),
    ...Object.values(project.values).map((v) => ({ name: v.name, unit: v.unit, words: v.note ?? "named value" })),
  ];
}

function capital(words: string): string {
  return words[0].toUpperCase() + words.slice(1);
}

const dimensionsOf = (quantities: readonly RuleQuantity[]): Map<string, Dimension> =>
  new Map(quantities.map((q) => [q.name, unitOfText(q.unit)?.dimension ?? [0, 0, 0, 0, 0, 0, 0]]));

/** A rule as it can be evaluated, or what is wrong with it. */
export type ReadRule =
  | {
      readonly ok: true;
      readonly rule: Rule;
      readonly value: { readonly kind: "expression"; readonly root: Node } | { readonly kind: "fixed"; readonly value: string | null };
    }
  | { readonly ok: false; readonly rule: Rule; readonly fault: ExpressionFault };

const readRules = new WeakMap<Rule, { values: Project["values"]; records: readonly object[]; read: ReadRule }>();
const NONE_WORDS = new Set(["none", "not heated", "not cooled", "unlimited"]);

/** Reads one rule: its field, its expression and the dimension of what it gives. */
export function readRule(project: Project, rule: Rule): ReadRule {
  const records = [project.schedules, project.deviceLists, project.assemblies, project.glazings] as const;
  const known = readRules.get(rule);
  if (known && known.values === project.values && records.every((r, i) => r === known.records[i])) return known.read;
  const read = readAnew(project, rule);
  readRules.set(rule, { values: project.values, records, read });
  return read;
}

function readAnew(project: Project, rule: Rule): ReadRule {
  const fault = (message: string, at = 0): ReadRule => ({ ok: false, rule, fault: { message, at } });
  const found = ruleFields(rule.target).find((f) => f.field === rule.field);
  if (!found) return fault(`A ${rule.target} has no input "${rule.field}".`);
  for (const c of rule.conditions) if (!ruleConditions[rule.target].includes(c.on)) return fault(`A ${rule.target} cannot be told by its ${c.on}.`);
  const text = rule.value.trim();
  const { spec } = found;
  if (!spec) {
    const held =
      rule.target === "face" ? Object.hasOwn(project.assemblies, text) : Object.hasOwn(project.glazings, text) || Object.hasOwn(project.assemblies, text);
    return held
      ? { ok: true, rule, value: { kind: "fixed", value: text } }
      : fault(`There is no ${rule.target === "face" ? "assembly" : "glazing"} "${text}" in this project.`);
  }
  if (spec.nullMeans !== undefined && (NONE_WORDS.has(text) || text === spec.nullMeans)) return { ok: true, rule, value: { kind: "fixed", value: null } };
  if (spec.kind === "choice") {
    if (!spec.choices?.includes(text)) return fault(`${spec.label} is ${spec.choices?.join(", ")}; not "${text}".`);
    return { ok: true, rule, value: { kind: "fixed", value: text } };
  }
  if (spec.kind === "schedule" || spec.kind === "devices") {
    const set = spec.kind === "schedule" ? project.schedules : project.deviceLists;
    if (!Object.hasOwn(set, text)) return fault(`There is no ${spec.kind === "schedule" ? "schedule" : "device list"} "${text}" in this project.`);
    return { ok: true, rule, value: { kind: "fixed", value: text } };
  }
  if (spec.signal) {
    const { part, id } = signalRef(text);
    if (Object.hasOwn(project[part], id)) {
      const record = project[part][id];
      if ("kind" in record && record.kind !== "temperature")
        return fault(`"${record.name}" holds shares; ${spec.label.toLowerCase()} needs a schedule of temperatures.`);
      return { ok: true, rule, value: { kind: "fixed", value: text } };
    }
  }
  const quantities = ruleQuantities(project, rule.target);
  const parsed = parseExpression(
    rule.value,
    quantities.map((q) => q.name),
  );
  if (!parsed.ok) return { ok: false, rule, fault: parsed.fault };
  if (rule.target === "component" && callsIn(parsed.root).has("zoneSum"))
    return fault("zoneSum has no place here: area, volume, people and outdoorAir are sums over the rooms served already.", rule.value.indexOf("zoneSum"));
  const names = dimensionsOf(
    rule.target === "zone" ? [...quantities, ...SPACE_QUANTITIES.filter((q) => !quantities.some((o) => o.name === q.name))] : quantities,
  );
  const checked = checkDimensions(parsed.root, names);
  if (!checked.ok) return { ok: false, rule, fault: checked.fault };
  const misfit = unfit(checked.dimension, spec.unit);
  return misfit ? { ok: false, rule, fault: misfit } : { ok: true, rule, value: { kind: "expression", root: parsed.root } };
}

/** What a rule gave a thing. */
export interface Ruled {
  readonly value: InputValue;
  readonly rule: Rule;
}
export interface RuleOutcome {
  /** By space or zone, then by field; only where a rule acts. */
  readonly space: ReadonlyMap<string, ReadonlyMap<string, Ruled>>;
  readonly zone: ReadonlyMap<string, ReadonlyMap<string, Ruled>>;
  readonly problems: readonly Problem[];
}

type Rows = ReadonlyMap<string, Readonly<Record<string, { readonly value: InputValue; readonly origin: { readonly kind: string } }>>>;

export const ruleProblem = (rule: Rule, message: string): Problem => ({ code: "rule", severity: "warning", path: `rules/${rule.id}`, message, stage: "use" });

/** Fields a field's rules read, by its own names and those of `people`. */
function readBy(root: Node): Set<string> {
  const names = new Set(namesIn(root));
  if (names.delete("people")) for (const f of PEOPLE_INPUTS) names.add(f);
  return names;
}

/**
 * Values that rules give the spaces and zones: field after field in the order they read each other, the last rule that
 * acts on a thing winning. Fields that read each other in a circle are told, and their rules do nothing.
 * @param spaces and zones as they are without rules
 */
export function applyRules(project: Project, spaces: Rows, zones: Rows): RuleOutcome {
  const problems: Problem[] = [];
  const byField = new Map<string, (ReadRule & { ok: true })[]>();
  for (const rule of project.rules) {
    if (!rule.on || (rule.target !== "space" && rule.target !== "zone")) continue;
    const read = readRule(project, rule);
    if (!read.ok) {
      problems.push(ruleProblem(rule, `Rule "${rule.name}": ${read.fault.message}`));
      continue;
    }
    const key = `${rule.target} ${rule.field}`;
    byField.set(key, [...(byField.get(key) ?? []), read]);
  }
  const space = new Map<string, Map<string, Ruled>>();
  const zone = new Map<string, Map<string, Ruled>>();
  if (byField.size === 0) return { space, zone, problems };
  const order = orderOf(byField, problems);
  const spaceTable = new Columns(project, "space", spaces, space);
  const zoneTable = new Columns(project, "zone", zones, zone, spaceTable);
  for (const key of order) {
    const [target, field] = key.split(" ") as ["space" | "zone", string];
    const table = target === "space" ? spaceTable : zoneTable;
    const spec = fieldSpec(target, field as SpaceField);
    const unit = unitOfText(spec.unit === "" ? "1" : spec.unit);
    for (const read of byField.get(key) ?? []) {
      const { rule } = read;
      const values = read.value.kind === "expression" ? evaluate(read.value.root, table) : null;
      const holds = conditionOf(project, rule);
      let odd: { name: string; value: number; count: number } | null = null;
      table.ids.forEach((id, i) => {
        if (table.isTyped(id, field) || !holds(id)) return;
        let value: InputValue;
        if (values === null) value = (read.value as { value: string | null }).value;
        else {
          // SI of the expression in the unit the input is kept in; a temperature with its zero
          value = unit ? (values[i] - unit.offset) / unit.factor : values[i];
          if (!Number.isFinite(value) || (spec.min !== undefined && value < spec.min) || (spec.max !== undefined && value > spec.max)) {
            odd = { name: table.nameOf(id), value, count: ((odd as { count: number } | null)?.count ?? 0) + 1 };
            return;
          }
        }
        table.put(id, field, { value, rule });
      });
      if (odd !== null) problems.push(ruleProblem(rule, oddWords(rule, spec, odd)));
    }
    table.forget(field);
  }
  return { space, zone, problems };
}

/** A value a rule cannot give, as a sentence. */
export function oddWords(rule: Rule, spec: FieldSpec, odd: { readonly name: string; readonly value: number; readonly count: number }): string {
  const others = odd.count > 1 ? ` and ${odd.count - 1} more` : "";
  if (!Number.isFinite(odd.value))
    return `Rule "${rule.name}" gives no number for ${odd.name}${others}: something it reads is none, or divided by nothing. It is left out there.`;
  return `Rule "${rule.name}" gives ${spec.label.toLowerCase()} ${Number(odd.value.toPrecision(4))}${spec.unit ? ` ${spec.unit}` : ""} for ${odd.name}${others}, outside ${spec.min ?? "−∞"} to ${spec.max ?? "∞"}. It is left out there.`;
}

/** Fields in an order in which each comes after those it reads; those in a circle are reported and left out. */
function orderOf(byField: ReadonlyMap<string, readonly (ReadRule & { ok: true })[]>, problems: Problem[]): string[] {
  const needs = new Map<string, string[]>();
  for (const [key, rules] of byField) {
    const [target] = key.split(" ");
    const names = new Set<string>();
    for (const r of rules) if (r.value.kind === "expression") for (const n of readBy(r.value.root)) names.add(n);
    // a zone reads inputs of its own and, in sums, those of its spaces
    const keys = [...names].flatMap((n) => (target === "zone" ? [`zone ${n}`, `space ${n}`] : [`space ${n}`]));
    needs.set(
      key,
      keys.filter((k) => byField.has(k)),
    );
  }
  const order: string[] = [];
  const state = new Map<string, "under way" | "done" | "circle">();
  const visit = (key: string, way: readonly string[]): boolean => {
    const s = state.get(key);
    if (s === "done") return true;
    if (s === "circle") return false;
    if (s === "under way") {
      const circle = way.slice(way.indexOf(key));
      for (const k of circle) {
        state.set(k, "circle");
        for (const r of byField.get(k) ?? [])
          problems.push(
            ruleProblem(r.rule, `Rule "${r.rule.name}" reads what it fills, by way of ${circle.map((c) => c.split(" ")[1]).join(", ")}; it is left out.`),
          );
      }
      return false;
    }
    state.set(key, "under way");
    let sound = true;
    for (const n of needs.get(key) ?? []) if (!visit(n, [...way, key])) sound = false;
    if (state.get(key) === "circle") return false;
    if (!sound) {
      state.set(key, "circle");
      for (const r of byField.get(key) ?? [])
        problems.push(ruleProblem(r.rule, `Rule "${r.rule.name}" reads an input whose rules go round in a circle; it is left out.`));
      return false;
    }
    state.set(key, "done");
    order.push(key);
    return true;
  };
  for (const key of byField.keys()) visit(key, []);
  return order;
}

/** Inputs of all things of a kind as columns in SI, with what rules have given so far. */
class Columns implements Table {
  readonly ids: readonly string[];
  readonly zoneOf?: Int32Array;
  readonly members?: { readonly table: Table; readonly rowOf: Int32Array };
  private readonly project: Project;
  private readonly target: "space" | "zone";
  private readonly base: Rows;
  private readonly ruled: Map<string, Map<string, Ruled>>;
  private readonly spaces: Columns | undefined;
  private readonly columns = new Map<string, Float64Array | number>();
  constructor(project: Project, target: "space" | "zone", base: Rows, ruled: Map<string, Map<string, Ruled>>, spaces?: Columns) {
    this.project = project;
    this.target = target;
    this.base = base;
    this.ruled = ruled;
    this.spaces = spaces;
    this.ids = Object.keys(target === "space" ? project.spaces : project.zones);
    const zones = new Map(Object.keys(project.zones).map((id, i) => [id, i]));
    const rowOf = Int32Array.from(Object.values(project.spaces), (s) => (s.zone === null ? -1 : (zones.get(s.zone) ?? -1)));
    if (target === "space") this.zoneOf = rowOf;
    else if (spaces) this.members = { table: spaces, rowOf };
  }
  get rows(): number {
    return this.ids.length;
  }
  nameOf(id: string): string {
    return (this.target === "space" ? this.project.spaces[id] : this.project.zones[id]).name;
  }
  isTyped(id: string, field: string): boolean {
    return this.base.get(id)?.[field].origin.kind === "typed";
  }
  put(id: string, field: string, ruled: Ruled): void {
    let row = this.ruled.get(id);
    if (!row) this.ruled.set(id, (row = new Map()));
    row.set(field, ruled);
  }
  /** What was computed from a field is no more so once its rules have acted. */
  forget(field: string): void {
    this.columns.delete(field);
    if ((PEOPLE_INPUTS as readonly string[]).includes(field)) this.columns.delete("people");
  }
  value(id: string, field: string): InputValue {
    const given = this.ruled.get(id)?.get(field);
    return given ? given.value : (this.base.get(id)?.[field].value ?? null);
  }
  column(name: string): Float64Array | number {
    let found = this.columns.get(name);
    if (found === undefined) this.columns.set(name, (found = this.made(name)));
    return found;
  }
  private made(name: string): Float64Array | number {
    const named = Object.values(this.project.values).find((v) => v.name === name);
    const own = this.target === "space" ? (spaceFieldNames as readonly string[]) : (zoneFieldNames as readonly string[]);
    if (own.includes(name)) {
      const spec = fieldSpec(this.target, name as SpaceField);
      const unit = unitOfText(spec.unit === "" ? "1" : spec.unit);
      return Float64Array.from(this.ids, (id) => {
        const v = this.value(id, name);
        return typeof v !== "number" ? NaN : unit ? v * unit.factor + unit.offset : v;
      });
    }
    if (this.target === "zone") {
      if (this.spaces && this.members && ZONE_QUANTITIES.some((q) => q.name === name)) {
        const inner = this.spaces.column(name);
        const out = new Float64Array(this.rows);
        this.members.rowOf.forEach((z, i) => z >= 0 && (out[z] += typeof inner === "number" ? inner : inner[i]));
        return out;
      }
    } else {
      const shapes = spaceShapes(this.project);
      const shape = (read: (g: { floorArea: number; volume: number; low: number; high: number }) => number): Float64Array =>
        Float64Array.from(this.ids, (id) => {
          const g = shapes.get(id);
          return g ? read(g) : NaN;
        });
      if (name === "area") return shape((g) => g.floorArea);
      if (name === "volume") return shape((g) => g.volume);
      if (name === "height") return shape((g) => g.high - g.low);
      if (name === "level") return shape((g) => g.low);
      if (name === "people") {
        const people = peopleBySpace(this.project, (id, f) => this.value(id, f));
        return Float64Array.from(this.ids, (id) => people.get(id) ?? 0);
      }
    }
    if (named) {
      const unit = unitOfText(named.unit);
      return unit ? named.value * unit.factor + unit.offset : named.value;
    }
    return NaN;
  }
}

/** Eight directions, the middle of each in degrees clockwise from north. */
export const directionNames = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"] as const;

/** True direction a face looks to; "up" and "down" where it lies. */
export function directionOfFace(face: Pick<Face, "azimuth" | "tilt">): string {
  if (face.tilt < 45) return "up";
  if (face.tilt > 135) return "down";
  return directionNames[Math.round(face.azimuth / 45) % 8];
}

type Condition = Rule["conditions"][number];
/** Whether what a condition asks of a space holds there; null: it asks nothing of the space itself. */
function holdsOfSpace(project: Project, c: Condition, id: string): boolean | null {
  const s = project.spaces[id];
  switch (c.on) {
    case "spaceType":
      return s.spaceType !== null && c.is.includes(s.spaceType);
    case "storey":
      return c.is.includes(s.storey);
    case "zone":
      return s.zone !== null && c.is.includes(s.zone);
    case "tag":
      return (s.tags ?? []).some((t) => c.is.includes(t));
    default:
      return null;
  }
}

/** Whether one condition holds for a space. */
export const spaceConditions =
  (project: Project) =>
  (c: Condition, id: string): boolean => {
    if (c.on === "name") return contains(project.spaces[id].name, c.is);
    if (c.on === "orientation") return (facings(project).get(id) ?? NO_DIRECTIONS).some((d) => c.is.includes(d));
    return holdsOfSpace(project, c, id) ?? false;
  };

/** Whether a rule's conditions hold for a space or a zone. */
export function conditionOf(project: Project, rule: Rule): (id: string) => boolean {
  const ofSpace = spaceConditions(project);
  if (rule.target !== "zone") return (id) => rule.conditions.every((c) => ofSpace(c, id) !== c.not);
  return (id) => {
    const members = Object.keys(project.spaces).filter((s) => project.spaces[s].zone === id);
    return rule.conditions.every((c) => (c.on === "name" ? contains(project.zones[id].name, c.is) : members.some((s) => ofSpace(c, s))) !== c.not);
  };
}

const NO_DIRECTIONS: readonly string[] = [];
const contains = (name: string, words: readonly string[]): boolean => {
  const low = name.toLowerCase();
  return words.some((w) => w !== "" && low.includes(w.toLowerCase()));
};

const looked = new WeakMap<Project, Map<string, string[]>>();
/** Directions the outdoor walls of each space look to. */
function facings(project: Project): Map<string, string[]> {
  const known = looked.get(project);
  if (known) return known;
  const out = new Map<string, string[]>();
  for (const f of deriveFaces(project).faces) {
    if (f.contact !== "outdoors" || f.kind !== "wall") continue;
    const direction = directionOfFace(f);
    const list = out.get(f.space) ?? [];
    if (!list.includes(direction)) out.set(f.space, [...list, direction]);
  }
  looked.set(project, out);
  return out;
}

/** What a rule puts on a face or an opening of a space: the last that acts; null: none does. */
export function ruledConstruction(
  project: Project,
  target: "face" | "opening",
  thing: { readonly space: string; readonly role: string; readonly name: string; readonly direction: () => string },
  allowed: (id: string) => boolean,
): { readonly id: string; readonly rule: Rule } | null {
  let found: { id: string; rule: Rule } | null = null;
  for (const rule of project.rules) {
    if (!rule.on || rule.target !== target) continue;
    const read = readRule(project, rule);
    if (!read.ok || read.value.kind !== "fixed" || read.value.value === null || !allowed(read.value.value)) continue;
    const ofThing = (c: Condition): boolean => {
      if (c.on === "role") return c.is.includes(thing.role);
      if (c.on === "orientation") return c.is.includes(thing.direction());
      if (c.on === "name") return contains(thing.name, c.is);
      return holdsOfSpace(project, c, thing.space) ?? false;
    };
    const holds = rule.conditions.every((c) => ofThing(c) !== c.not);
    if (holds) found = { id: read.value.value, rule };
  }
  return found;
}

/** A rule tried on one thing: the names it uses with their values in their own units, and what it gives there. */
export interface Tried {
  readonly used: ReadonlySet<string>;
  readonly values: ReadonlyMap<string, number>;
  /** In the unit the input is kept in; undefined where the rule cannot be read or gives no number. */
  readonly result: InputValue | undefined;
}

/** Tries a rule on one space or zone, whether its conditions hold there or not. @param rows of inputs as they are in effect */
export function tryRule(project: Project, rule: Rule, id: string, rows: { readonly space: Rows; readonly zone: Rows }): Tried {
  const spaces = new Columns(project, "space", rows.space, new Map());
  const table = rule.target === "zone" ? new Columns(project, "zone", rows.zone, new Map(), spaces) : spaces;
  const at = table.ids.indexOf(id);
  const values = new Map(
    ruleQuantities(project, rule.target).map((q): [string, number] => {
      const column = table.column(q.name);
      const unit = unitOfText(q.unit);
      const si = typeof column === "number" ? column : column[at];
      return [q.name, unit ? (si - unit.offset) / unit.factor : si];
    }),
  );
  const read = readRule(project, rule);
  if (!read.ok || at < 0) return { used: new Set(), values, result: undefined };
  if (read.value.kind === "fixed") return { used: new Set(), values, result: read.value.value };
  const spec = fieldSpec(rule.target === "zone" ? "zone" : "space", rule.field as SpaceField);
  const unit = unitOfText(spec.unit === "" ? "1" : spec.unit);
  const si = evaluate(read.value.root, table)[at];
  return { used: namesIn(read.value.root), values, result: Number.isFinite(si) ? (unit ? (si - unit.offset) / unit.factor : si) : undefined };
}
