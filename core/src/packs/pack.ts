import { checkDimensions, conditionFault, namesIn, parseExpression, unfit, type Node } from "../expression/index.ts";
import {
  buildingNames,
  dimensionsOfNames,
  issueProblem,
  packSchema,
  performanceNames,
  serviceFieldsOf,
  sizeNames,
  subjects,
  systemNames,
  unitOfText,
  type Pack,
  type PackName,
  type Problem,
} from "../model/index.ts";

/** Unit each limit of a pack must have, by its address; * stands for any key. */
const UNITS: readonly (readonly [path: string, unit: string])[] = [
  ["climateZones/*/u/*", "W/m²K"],
  ["climateZones/*/glazingU", "W/m²K"],
  ["climateZones/*/glazingG", "1"],
  ["windowShare", "1"],
  ["skylightShare", "1"],
  ["uses/*/lighting", "W/m²"],
  ["uses/*/appliances", "W/m²"],
  ["uses/*/outdoorAirPerPerson", "L/s"],
  ["uses/*/outdoorAirPerArea", "L/s·m²"],
  ["daylight/over", "W"],
  ["services/heating", "1"],
  ["services/cooling", "1"],
  ["services/fanPower", "W per m³/s"],
  ["services/heatRecovery", "1"],
  ["services/hotWater", "1"],
  ["services/hotWaterElectric", "1"],
  ["reference/airChanges", "1/h"],
  ["reference/sizing/*", "1"],
  ["performance/primary/*", "1"],
  ["performance/carbon/*", "kg/kWh"],
  ["performance/unmet/*", "h"],
];

export type PackOutcome = { readonly ok: true; readonly pack: Pack } | { readonly ok: false; readonly problems: readonly Problem[] };

const problem = (path: string, message: string): Problem => ({ code: "pack", severity: "error", stage: "place", path, message });

/** Names that every expression of a pack may use: those of the building and its own values. */
export const commonNames = (pack: Pack): PackName[] => [
  ...buildingNames,
  ...Object.entries(pack.values).map(([n, v]) => ({ name: n, unit: v.unit, words: v.label })),
];

/** Reads a rule pack: its shape, every clause it names, the dimension of every limit, and every expression. */
export function parsePack(data: unknown): PackOutcome {
  const parsed = packSchema.safeParse(data, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map((i) => ({ ...issueProblem(i), code: "pack", stage: "place" })) };
  const pack = parsed.data;
  const problems: Problem[] = [];
  const tell = (path: string, message: string): void => void problems.push(problem(path, message));
  walk(pack, [], (node, path) => {
    const where = path.join("/");
    if (typeof node.clause === "string" && !Object.hasOwn(pack.clauses, node.clause))
      tell(`${where}/clause`, `The clause "${node.clause}" is not in this pack.`);
    if (typeof node.unit !== "string" || !("value" in node)) return;
    const rule = UNITS.find(([pattern]) => matches(pattern, path));
    if (rule && rule[1] !== node.unit) tell(`${where}/unit`, `This limit is in "${node.unit}"; "${rule[1]}" is needed.`);
  });
  if (pack.uses.filter((u) => u.words.length === 0).length !== 1)
    tell("uses", "Exactly one use must have no words: it takes every space that matches no other.");
  for (const [of, list] of [
    ["uses", pack.uses],
    ["checks", pack.checks],
    ["attested", pack.attested],
    ["reference/systems", pack.reference.systems],
  ] as const) {
    const seen = new Set<string>();
    list.forEach((x, i) => {
      if (seen.has(x.id)) tell(`${of}/${i}/id`, `"${x.id}" stands here twice.`);
      seen.add(x.id);
    });
  }
  const { rating } = pack.performance;
  if (rating.kind !== "none" && rating.steps.some((s, i) => i > 0 && s.upTo.value <= rating.steps[i - 1].upTo.value))
    tell("performance/rating/steps", "The limits of the steps must rise.");
  if (pack.performance.measure === "hourly value" && !pack.performance.hourly)
    tell("performance/hourly", "A rating by hourly value needs its factors by climate zone.");
  for (const [i, h] of (pack.performance.hourly ?? []).entries())
    for (const z of h.zones) if (!Object.hasOwn(pack.climateZones, z)) tell(`performance/hourly/${i}/zones`, `There is no climate zone ${z} in this pack.`);
  checkValues(pack, tell);
  const common = commonNames(pack);
  pack.checks.forEach((c, i) => {
    const own: readonly PackName[] = subjects[c.of];
    const quantity = own.find((n) => n.name === c.quantity);
    if (!quantity) return tell(`checks/${i}/quantity`, `A ${c.of} has no "${c.quantity}"; it has ${own.map((n) => n.name).join(", ")}.`);
    read(c.limit, [common, own], quantity.unit, `checks/${i}/limit`, tell);
    if (c.when !== undefined) condition(c.when, [common, own], `checks/${i}/when`, tell);
  });
  pack.reference.systems.forEach((s, i) => {
    const where = `reference/systems/${i}`;
    if (s.when !== undefined) condition(s.when, [common, systemNames], `${where}/when`, tell);
    s.set.forEach((x, k) => {
      const spec = serviceFieldsOf(x.of)[x.field];
      if (!spec) return tell(`${where}/set/${k}/field`, `A ${x.of} has no "${x.field}".`);
      if (x.when !== undefined) condition(x.when, [common, systemNames], `${where}/set/${k}/when`, tell);
      if (typeof x.value === "number") return;
      if (spec.kind === "choice") {
        if (!spec.choices?.includes(x.value)) tell(`${where}/set/${k}/value`, `${spec.label} is one of ${(spec.choices ?? []).join(", ")}, not "${x.value}".`);
        return;
      }
      read(x.value, [common, systemNames, sizeNames], spec.unit === "" ? "1" : spec.unit, `${where}/set/${k}/value`, tell);
    });
  });
  if (pack.reference.systems.length > 0 && pack.reference.systems.at(-1)?.when !== undefined)
    tell("reference/systems", "The last row of the system map must have no condition, so that every building finds its system.");
  read(pack.performance.target, [common, performanceNames], "1", "performance/target", tell);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, pack };
}

type Tell = (path: string, message: string) => void;
const at = (message: string, from: number): string => `${message} (at character ${from + 1})`;

function read(text: string, names: readonly (readonly PackName[])[], unit: string, path: string, tell: Tell): Node | null {
  const dimensions = dimensionsOfNames(...names);
  const parsed = parseExpression(text, dimensions.keys());
  if (!parsed.ok) return (tell(path, at(parsed.fault.message, parsed.fault.at)), null);
  const checked = checkDimensions(parsed.root, dimensions);
  const fault = checked.ok ? unfit(checked.dimension, unit, parsed.root.at) : checked.fault;
  if (fault) tell(path, at(fault.message, fault.at));
  return parsed.root;
}

function condition(text: string, names: readonly (readonly PackName[])[], path: string, tell: Tell): void {
  const dimensions = dimensionsOfNames(...names);
  const parsed = parseExpression(text, dimensions.keys());
  const fault = parsed.ok ? conditionFault(parsed.root, dimensions) : parsed.fault;
  if (fault) tell(path, at(fault.message, fault.at));
}

/** Each value is given in one way, in a known unit, for known climate zones, and no formula needs itself. */
function checkValues(pack: Pack, tell: Tell): void {
  const common = commonNames(pack);
  const needs = new Map<string, readonly string[]>();
  for (const [n, v] of Object.entries(pack.values)) {
    const path = `values/${n}`;
    if (buildingNames.some((b) => b.name === n)) tell(path, `"${n}" is the name of a quantity of the building; another is needed.`);
    if ([v.value, v.byZone, v.formula].filter((x) => x !== undefined).length !== 1) tell(path, "A value is a number, one for each climate zone, or a formula.");
    if (!unitOfText(v.unit)) tell(`${path}/unit`, `"${v.unit}" is no unit Arroyo knows.`);
    for (const z of Object.keys(v.byZone ?? {}))
      if (!Object.hasOwn(pack.climateZones, z)) tell(`${path}/byZone/${z}`, `There is no climate zone ${z} in this pack.`);
    for (const z of Object.keys(pack.climateZones)) if (v.byZone && !Object.hasOwn(v.byZone, z)) tell(`${path}/byZone`, `The climate zone ${z} has no value.`);
    if (v.formula === undefined) continue;
    const root = read(v.formula, [common], v.unit, `${path}/formula`, tell);
    if (root) needs.set(n, [...namesIn(root)]);
  }
  for (const n of needs.keys()) {
    const round = circle(n, needs);
    if (round) tell(`values/${n}/formula`, `The formula needs itself: ${round.join(" → ")}.`);
  }
}

/** Names by which a formula comes back to itself; null: it does not. */
function circle(from: string, needs: ReadonlyMap<string, readonly string[]>): string[] | null {
  const seen = new Set<string>();
  const visit = (n: string, trail: string[]): string[] | null => {
    for (const m of needs.get(n) ?? []) {
      if (m === from) return [...trail, m];
      if (seen.has(m)) continue;
      seen.add(m);
      const found = visit(m, [...trail, m]);
      if (found) return found;
    }
    return null;
  };
  return visit(from, [from]);
}

function matches(pattern: string, path: readonly string[]): boolean {
  const parts = pattern.split("/");
  return parts.length === path.length && parts.every((p, i) => p === "*" || p === path[i]);
}

function walk(node: unknown, path: readonly string[], visit: (node: Record<string, unknown>, path: readonly string[]) => void): void {
  if (typeof node !== "object" || node === null) return;
  if (!Array.isArray(node)) visit(node as Record<string, unknown>, path);
  for (const [key, child] of Object.entries(node)) walk(child, [...path, key], visit);
}
