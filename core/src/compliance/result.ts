import { z } from "zod";
import type { WeatherYear } from "../climate/index.ts";
import { effective } from "../inputs/index.ts";
import {
  compliancePaths,
  componentWords,
  describeChange,
  inputWords,
  letters,
  ratingMeasures,
  scopeParts,
  serviceFieldsOf,
  workKinds,
  type Change,
  type ChangeWords,
  type Pack,
  type Project,
  type ScopePart,
  type SpaceField,
} from "../model/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";
import { sizesOfSummary } from "../results/index.ts";
import { buildingFacts, type KnownSizes } from "./facts.ts";
import { Formulas } from "./formula.ts";
import { checkRows, complianceRow, handOf, isOpen, type ComplianceRow } from "./checks.ts";
import { referenceBuilding, type ReferenceBuilding } from "./reference.ts";
import { complianceInput, type Submission } from "./submission.ts";
import { measureUnit, ratedYear, sizedReference, turned, type RatedYear } from "./years.ts";

const told = z.number().nullable();
export const complianceSchema = z.strictObject({
  formatVersion: z.literal(2),
  project: z.string(),
  projectHash: z.string().describe("Hash of the project's document."),
  pack: z.string(),
  packVersion: z.string(),
  packHash: z.string().describe("Hash of the pack's data."),
  path: z.enum(compliancePaths),
  work: z.enum(workKinds),
  climateZone: z.string(),
  scope: z.array(z.enum(scopeParts)),
  measure: z.enum(ratingMeasures),
  unit: z.string().describe("Unit of the measure, a year."),
  proposed: told.describe("What the design comes to by the measure, a year."),
  reference: told.describe("The same of the reference building, the mean of its turns."),
  perArea: z.strictObject({ proposed: told, reference: told }).describe("Per m² of conditioned floor area."),
  turns: z.array(z.strictObject({ turn: z.number(), total: z.number() })).describe("Of the reference building, by turn of its plan, degrees."),
  index: told.describe("The design over the reference building, hundredths; null: no year is run."),
  target: told.describe("Largest index that passes."),
  letter: z.enum(letters).nullable(),
  points: z.number().nullable(),
  pass: z.boolean().nullable().describe("null: not known before a year is run."),
  reasons: z.array(z.string()).describe("Why it does not pass."),
  unmet: z.strictObject({ proposed: told, reference: told, most: z.number(), apart: z.number(), pass: z.boolean().nullable() }),
  endUses: z.array(
    z.strictObject({
      use: z.string(),
      fuel: z.string(),
      energy: z.strictObject({ proposed: z.number(), reference: z.number() }).describe("kWh."),
      counts: z.strictObject({ proposed: z.number(), reference: z.number() }).describe("In the unit of the measure."),
    }),
  ),
  rows: z.array(complianceRow),
  changes: z.array(
    z.strictObject({
      clause: z.string(),
      part: z.enum(scopeParts),
      path: z.string(),
      thing: z.string(),
      from: z.string(),
      to: z.string(),
      unverified: z.boolean().optional(),
    }),
  ),
  pending: z
    .array(z.strictObject({ clause: z.string(), path: z.string(), words: z.string() }))
    .describe("Values of the reference that follow when sizes are known."),
  systems: z.array(z.strictObject({ row: z.string(), clause: z.string(), name: z.string(), zones: z.array(z.string()) })),
});
export type Compliance = z.infer<typeof complianceSchema>;

export const hashOf = (value: unknown): string => hashText(canonicalJson(value));

/** Hash of a project's document; receipts of a registry are no part of what was submitted. */
function stateHash(project: Project): string {
  const { receipts: _r, ...compliance } = project.compliance ?? complianceInput(project);
  return hashOf({ ...project, compliance });
}

/** An index of 100 computed from two equal years may end a few bits above it. */
const ROUNDING = 1e-9;

/** A change in words; where the design only inherits a value, that value. */
function changeWords(project: Project, change: Change): ChangeWords {
  const words = describeChange(project, change);
  const [part, id, inputs, field] = change.path;
  if (part !== "spaces" || inputs !== "inputs" || change.old !== undefined || !Object.hasOwn(project.spaces, id)) return words;
  const { value } = effective(project, "space", id, field as SpaceField);
  return typeof value === "number" ? { ...words, from: inputWords(field, value) } : words;
}

/** Years the result stands on; absent: none is run yet, so that checks and changes are told alone. */
export interface RatedYears {
  readonly proposed: RatedYear;
  /** Of the reference, by turn. */
  readonly reference: readonly { readonly turn: number; readonly year: RatedYear }[];
}

const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;

/** The result of a submission, from the years of both buildings where they are run. */
export function complianceOf(project: Project, s: Submission, reference: ReferenceBuilding, years: RatedYears | null): Compliance {
  const { pack } = s;
  const sizes: KnownSizes = years ? sizesOfSummary(years.proposed.summary).components : null;
  const rows = checkRows(project, s, sizes);
  const unmetOf = (list: readonly RatedYear[]): number | null => {
    const hours = list.map((y) => y.summary.unmetHours);
    return hours.some((h) => h === null) || hours.length === 0 ? null : Math.max(...(hours as number[]));
  };
  const limits = pack.performance.unmet;
  const unmet = {
    proposed: years && unmetOf([years.proposed]),
    reference: years && unmetOf(years.reference.map((r) => r.year)),
    most: limits.most.value,
    apart: limits.apart.value,
    pass: null as boolean | null,
  };
  if (unmet.proposed !== null && unmet.reference !== null)
    unmet.pass = unmet.proposed <= unmet.most && unmet.reference <= unmet.most && Math.abs(unmet.proposed - unmet.reference) <= unmet.apart;
  const total = years && mean(years.reference.map((r) => r.year.total));
  const index = years && total !== null && total > 0 ? (100 * years.proposed.total) / total : null;
  const endUses = years ? endUsesOf(years) : [];
  const equipment = endUses.reduce((a, u) => a + (u.use === "appliances" ? u.counts.reference : 0), 0);
  const formulas = new Formulas(pack, s.zone, buildingFacts(project, s));
  const target = formulas.value(pack.performance.target, "1", [{ name: "unregulated_share", unit: "1", words: "" }], {
    unregulated_share: total !== null && total > 0 ? Math.min(1, equipment / total) : null,
  });
  const area = years?.proposed.summary.floorArea ?? 0;
  const perArea = { proposed: years && area > 0 ? years.proposed.total / area : null, reference: total !== null && area > 0 ? total / area : null };
  const { rating } = pack.performance;
  const rated = rating.kind === "letters" && rating.by === "measure per area" ? perArea.proposed : index;
  const within = (steps: readonly { readonly upTo: { readonly value: number } }[]): number =>
    rated === null ? -1 : steps.findIndex((x) => rated <= x.upTo.value * (1 + ROUNDING));
  const letter = rating.kind === "letters" && rated !== null ? (rating.steps[within(rating.steps)]?.letter ?? "G") : null;
  const points = rating.kind === "points" && rated !== null ? (rating.steps[within(rating.steps)]?.points ?? 0) : null;
  return judged({
    formatVersion: 2,
    project: project.name,
    projectHash: stateHash(project),
    pack: pack.id,
    packVersion: pack.version,
    packHash: hashOf(pack),
    path: s.path,
    work: s.work,
    climateZone: s.zone,
    scope: [...s.parts],
    measure: pack.performance.measure,
    unit: measureUnit(pack, project, s.zone),
    proposed: years?.proposed.total ?? null,
    reference: total,
    perArea,
    turns: years?.reference.map((r) => ({ turn: r.turn, total: r.year.total })) ?? [],
    index,
    target,
    letter,
    points,
    unmet,
    endUses,
    rows,
    changes: changesInWords(project, reference),
    pending: reference.pending.map((p) => ({
      clause: p.clause,
      path: p.path,
      words: `${componentWords[p.kind]}: ${serviceFieldsOf(p.kind)[p.field].label.toLowerCase()} follows when sizes are known`,
    })),
    systems: reference.systems.map((m) => ({ row: m.row.name, clause: m.row.clause, name: m.name, zones: [...m.zones] })),
  });
}

/** Each change in words against the building as it stands when the change is made. */
function changesInWords(project: Project, reference: ReferenceBuilding): Compliance["changes"] {
  return reference.changes.map(({ clause, part, change, unverified }) => ({
    clause,
    part,
    path: change.path.join("/"),
    // what is made by an earlier change is told by the finished building
    ...changeWords(knows(project, change) ? project : reference.project, change),
    ...(unverified ? { unverified } : {}),
  }));
}
function knows(project: Project, change: Change): boolean {
  const [part, id] = change.path;
  const records = (project as unknown as Record<string, unknown>)[part];
  return typeof records === "object" && records !== null && Object.hasOwn(records, id);
}

/** Whether a result passes, and why not. */
function judged(result: Omit<Compliance, "pass" | "reasons">): Compliance {
  const { rows, index, target, unmet, path } = result;
  const failed = (kind: string): number => rows.filter((r) => r.kind === kind && isOpen(r) && r.pass === false).length;
  const reasons: string[] = [];
  const many = (n: number, what: string): string => `${n} ${what} row${n === 1 ? "" : "s"} failed`;
  if (failed("mandatory") > 0) reasons.push(many(failed("mandatory"), "mandatory"));
  if (failed("attested") > 0) reasons.push(`${failed("attested")} row${failed("attested") === 1 ? " is" : "s are"} not attested`);
  if (path === "prescriptive") {
    if (failed("prescriptive") > 0) reasons.push(many(failed("prescriptive"), "prescriptive"));
  } else {
    if (index !== null && target !== null && index > target * (1 + ROUNDING)) reasons.push("the index is above its target");
    if (unmet.pass === false) reasons.push("hours unmet are too many or too far apart");
  }
  // a mandatory row that waits for a size is not yet passed, whatever the path
  const waits = rows.some((r) => r.pass === null && r.exception === undefined && (path === "prescriptive" || r.kind === "mandatory"));
  const known = !waits && (path === "prescriptive" || (index !== null && target !== null && unmet.pass !== null));
  return { ...result, pass: reasons.length > 0 ? false : known ? true : null, reasons };
}

/** A result with what a person has attested, excepted and signed since it was computed: no figure of it changes. */
export function withAttested(result: Compliance, project: Project): Compliance {
  const input = complianceInput(project);
  const rows = result.rows.map((r): ComplianceRow => {
    const { exception: _e, attested: _a, ...row } = r;
    return { ...row, ...handOf(row, input) };
  });
  return judged({ ...result, rows, projectHash: stateHash(project) });
}

function endUsesOf(years: RatedYears): Compliance["endUses"] {
  const out = new Map<string, Compliance["endUses"][number]>();
  const add = (y: RatedYear, side: "proposed" | "reference", weight: number): void => {
    for (const u of y.endUses) {
      const key = `${u.use} ${u.fuel}`;
      let row = out.get(key);
      if (!row) out.set(key, (row = { use: u.use, fuel: u.fuel, energy: { proposed: 0, reference: 0 }, counts: { proposed: 0, reference: 0 } }));
      row.energy[side] += weight * u.energy;
      row.counts[side] += weight * u.counts;
    }
  };
  add(years.proposed, "proposed", 1);
  for (const r of years.reference) add(r.year, "reference", 1 / years.reference.length);
  return [...out.values()].filter((u) => u.energy.proposed !== 0 || u.energy.reference !== 0);
}

export const turnsOf = (pack: Pack): readonly number[] => pack.reference.orientations?.turns ?? [0];

export interface ComplySettings {
  readonly stepsPerHour: number;
  /** Turns the reference is averaged over; absent: those of the pack. */
  readonly turns?: readonly number[];
  /** Whether the design is averaged over the turns too, as a reference building is. */
  readonly turnDesign?: boolean;
}

/**
 * Checks a design against a pack: reference building with its sizes, both years, index and rating.
 * @throws ProjectError when the project has errors, RangeError where a fuel has no hourly values or a formula gives no number
 */
export function complySubmission(project: Project, weather: WeatherYear, s: Submission, settings: ComplySettings): Compliance {
  const reference = sizedReference(project, weather, s);
  const run = { stepsPerHour: settings.stepsPerHour };
  const turns = settings.turns ?? turnsOf(s.pack);
  const designs = (settings.turnDesign ? turns : [0]).map((turn) => ratedYear(turned(project, turn), weather, s, run));
  const years: RatedYears = {
    proposed: designs.length === 1 ? designs[0] : { ...designs[0], total: mean(designs.map((d) => d.total)) },
    reference: turns.map((turn) => ({ turn, year: ratedYear(turned(reference.project, turn), weather, s, run) })),
  };
  return complianceOf(project, s, reference, years);
}

export interface TradeOff {
  readonly part: ScopePart;
  /** What the design would come to with this part of the reference alone in place of its own, less what it comes to: above 0 the design's part wins. */
  readonly gain: number;
  /** The same over the whole of the reference building, hundredths. */
  readonly share: number;
}

/** Which part of a design wins and loses how much: each part of the reference swapped in alone. */
export function tradeOff(project: Project, weather: WeatherYear, s: Submission, proposed: number, reference: number, stepsPerHour: number): TradeOff[] {
  return s.parts.map((part) => {
    const swapped = sizedReference(project, weather, { ...s, parts: [part] });
    const total = swapped.changes.length === 0 ? proposed : ratedYear(swapped.project, weather, s, { stepsPerHour }).total;
    return { part, gain: total - proposed, share: reference > 0 ? (100 * (total - proposed)) / reference : 0 };
  });
}

/** What another version of a pack would change in a project: rows that turn, limits that move, changes of the reference that come and go. */
export interface PackDifference {
  readonly id: string;
  readonly subject: string;
  readonly before: string;
  readonly after: string;
}
export function packDifference(project: Project, before: Submission, after: Submission): PackDifference[] {
  const say = (r: ComplianceRow | undefined): string =>
    r === undefined
      ? "not asked"
      : `${r.rule} ${r.required === null ? "—" : Number(r.required.toPrecision(4))} ${r.unit === "1" ? "" : r.unit}, ${r.pass === null ? "not known" : r.pass ? "pass" : "fail"}`;
  const [a, b] = [before, after].map((s) => new Map(checkRows(project, s).map((r) => [r.id, r])));
  const rows = [...new Set([...a.keys(), ...b.keys()])].flatMap((id): PackDifference[] => {
    const [x, y] = [a.get(id), b.get(id)];
    const row = { id, subject: `${(y ?? x)?.subject}, ${(y ?? x)?.quantity}`, before: say(x), after: say(y) };
    return row.before === row.after ? [] : [row];
  });
  const made = (s: Submission): Map<string, string> => {
    const r = referenceBuilding(project, s);
    return new Map(changesInWords(project, r).map((c) => [c.path, `${c.thing}\n${c.to}`]));
  };
  const [p, q] = [made(before), made(after)];
  return [
    ...rows,
    ...[...new Set([...p.keys(), ...q.keys()])].flatMap((path): PackDifference[] => {
      const [x, y] = [p.get(path), q.get(path)];
      if (x === y) return [];
      const [thing] = (y ?? x ?? "").split("\n");
      const to = (t: string | undefined): string => (t === undefined ? "as designed" : t.split("\n")[1]);
      return [{ id: `reference ${path}`, subject: `Reference: ${thing}`, before: to(x), after: to(y) }];
    }),
  ];
}
