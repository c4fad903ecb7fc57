import { evaluate, namesIn, type Table } from "../expression/index.ts";
import { spaceShapes } from "../geometry/index.ts";
import {
  applyChanges,
  componentName,
  componentsOf,
  ownerName,
  serviceFieldsOf,
  setChange,
  settingOf,
  SIZED,
  unitOfText,
  zonesServed,
  type InputValue,
  type PlacedComponent,
  type Problem,
  type Project,
  type Rule,
} from "../model/index.ts";
import { spaceUses } from "./gains.ts";
import type { Effective } from "./resolve.ts";
import { COMPONENT_QUANTITIES, componentField, oddWords, readRule, ruleProblem, spaceConditions, type Tried } from "./rules.ts";

/** Settings of components that rules fill, as if they were typed. */
export interface RuledComponents {
  /** The project with them typed in: what sizing, checks and runs read. */
  readonly project: Project;
  /** The rule behind a setting, by its address. */
  readonly given: ReadonlyMap<string, Rule>;
  readonly problems: readonly Problem[];
}

/** Quantities of the spaces a component serves, each copy of a multiplied storey counted where the component serves all of them. */
class Served implements Table {
  readonly rows: number;
  private readonly project: Project;
  private readonly components: readonly PlacedComponent[];
  private readonly columns = new Map<string, Float64Array | number>();
  constructor(project: Project, components: readonly PlacedComponent[]) {
    this.project = project;
    this.components = components;
    this.rows = components.length;
  }
  column(name: string): Float64Array | number {
    let found = this.columns.get(name);
    if (found === undefined) this.columns.set(name, (found = this.made(name)));
    return found;
  }
  private made(name: string): Float64Array | number {
    const { project } = this;
    if (!COMPONENT_QUANTITIES.some((q) => q.name === name)) {
      const named = Object.values(project.values).find((v) => v.name === name);
      const unit = named ? unitOfText(named.unit) : null;
      return named ? (unit ? named.value * unit.factor + unit.offset : named.value) : NaN;
    }
    const uses = spaceUses(project);
    const shapes = spaceShapes(project);
    const of = (space: string): number => {
      if (name === "area") return shapes.get(space)?.floorArea ?? 0;
      if (name === "volume") return shapes.get(space)?.volume ?? 0;
      return (name === "people" ? uses.get(space)?.people : uses.get(space)?.outdoorAir.supplied) ?? 0;
    };
    return Float64Array.from(this.components, (c) => {
      const zones = zonesServed(project, c);
      if (name === "zones") return zones.length;
      return Object.entries(project.spaces)
        .filter(([, s]) => s.zone !== null && zones.includes(s.zone))
        .reduce((sum, [id, s]) => sum + of(id) * (c.path[0] === "zones" ? 1 : project.storeys[s.storey].multiplier), 0);
    });
  }
}

/** Whether a rule's conditions hold for a component: of a system or a loop, where they hold for any space it serves. */
export function conditionOfComponent(project: Project, rule: Rule): (c: PlacedComponent) => boolean {
  const holdsOf = spaceConditions(project);
  return (c) => {
    const zones = zonesServed(project, c);
    const members = Object.keys(project.spaces).filter((s) => zones.includes(project.spaces[s].zone ?? ""));
    const systems = c.path[0] === "zones" ? (project.zones[c.path[1]].equipment ?? []).map((e) => e.inputs.system) : [c.path[1]];
    return rule.conditions.every((k) => {
      const holds =
        k.on === "name"
          ? k.is.some((w) => w !== "" && `${componentName(c)} ${ownerName(project, c)}`.toLowerCase().includes(w.toLowerCase()))
          : k.on === "system"
            ? systems.some((s) => typeof s === "string" && k.is.includes(s))
            : members.some((s) => holdsOf(k, s));
      return holds !== k.not;
    });
  };
}

const ruled = new WeakMap<Project, RuledComponents>();

/**
 * Settings that rules fill in components, in the order of the rules, later ones winning; what is typed stands above them.
 * Expressions read the rooms served, never another setting, so that no circle can come about.
 */
export function ruledComponents(project: Project): RuledComponents {
  const known = ruled.get(project);
  if (known) return known;
  const rules = project.rules.filter((r) => r.on && r.target === "component");
  const given = new Map<string, Rule>();
  const problems: Problem[] = [];
  const values = new Map<string, InputValue>();
  const all = rules.length > 0 ? componentsOf(project) : [];
  for (const rule of rules) {
    const read = readRule(project, rule);
    if (!read.ok) {
      problems.push(ruleProblem(rule, `Rule "${rule.name}": ${read.fault.message}`));
      continue;
    }
    const { kind, field } = componentField(rule.field);
    const spec = serviceFieldsOf(kind)[field];
    const unit = unitOfText(spec.unit === "" ? "1" : spec.unit);
    const things = all.filter((c) => c.kind === kind);
    const results = read.value.kind === "expression" ? evaluate(read.value.root, new Served(project, things)) : null;
    const holds = conditionOfComponent(project, rule);
    let odd: { name: string; value: number; count: number } | null = null;
    things.forEach((c, i) => {
      if (c.inputs[field] !== undefined || !holds(c)) return;
      let value: InputValue;
      if (results === null) value = (read.value as { value: string | null }).value;
      else {
        value = unit ? (results[i] - unit.offset) / unit.factor : results[i];
        if (!Number.isFinite(value) || (spec.min !== undefined && value < spec.min) || (spec.max !== undefined && value > spec.max)) {
          odd = { name: `${componentName(c)} of ${ownerName(project, c)}`, value, count: ((odd as { count: number } | null)?.count ?? 0) + 1 };
          return;
        }
      }
      const address = [...c.path, "inputs", field].join("/");
      given.set(address, rule);
      values.set(address, value);
    });
    if (odd !== null) problems.push(ruleProblem(rule, oddWords(rule, spec, odd)));
  }
  const made =
    values.size === 0
      ? { ok: true as const, project }
      : applyChanges(
          project,
          [...values].map(([address, value]) => setChange(project, address.split("/"), value)),
        );
  if (!made.ok) throw new RangeError(made.message);
  const result: RuledComponents = { project: made.project, given, problems };
  ruled.set(project, result);
  if (made.project !== project) ruled.set(made.project, { project: made.project, given, problems });
  return result;
}

/** A rule tried on one component, by its address. */
export function tryComponentRule(project: Project, rule: Rule, address: string): Tried {
  const c = componentsOf(project).find((x) => x.path.join("/") === address);
  const read = readRule(project, rule);
  if (!c) return { used: new Set(), values: new Map(), result: undefined };
  const table = new Served(project, [c]);
  const at = (column: Float64Array | number): number => (typeof column === "number" ? column : column[0]);
  const values = new Map(
    [...COMPONENT_QUANTITIES, ...Object.values(project.values)].map((q): [string, number] => {
      const unit = unitOfText(q.unit);
      const si = at(table.column(q.name));
      return [q.name, unit ? (si - unit.offset) / unit.factor : si];
    }),
  );
  if (!read.ok) return { used: new Set(), values, result: undefined };
  if (read.value.kind === "fixed") return { used: new Set(), values, result: read.value.value };
  const { kind, field } = componentField(rule.field);
  const { unit: text } = serviceFieldsOf(kind)[field];
  const unit = unitOfText(text === "" ? "1" : text);
  const si = at(evaluate(read.value.root, table));
  return { used: namesIn(read.value.root), values, result: Number.isFinite(si) ? (unit ? (si - unit.offset) / unit.factor : si) : undefined };
}

/** A setting of a component as it is in effect, with its origin. @param c as the document holds it */
export function effectiveSetting(project: Project, c: PlacedComponent, field: string): Effective {
  const typed = c.inputs[field];
  const address = [...c.path, "inputs", field].join("/");
  if (typed !== undefined) {
    const kept = Object.hasOwn(project.provenance, address) ? project.provenance[address] : null;
    return { value: typed, origin: kept && kept.value === typed ? { kind: kept.kind, words: kept.words } : { kind: "typed" } };
  }
  const now = ruledComponents(project);
  const rule = now.given.get(address);
  if (rule) {
    const held = componentsOf(now.project).find((x) => x.path.join("/") === address.slice(0, address.lastIndexOf("/inputs/")));
    return { value: settingOf(c.kind, held?.inputs ?? c.inputs, field), origin: { kind: "rule", from: rule.id, name: rule.name } };
  }
  const value = settingOf(c.kind, c.inputs, field);
  return { value, origin: value === SIZED ? { kind: "sized", words: "found by the design days" } : { kind: "default" } };
}
