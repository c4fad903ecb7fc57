import { z } from "zod";
import { assemblyAtLimitChanges } from "./atLimit.ts";
import { daylightControlChangesOf, effective } from "../inputs/index.ts";
import { setChange, subjects, type Change, type ComplianceInput, type PackCheck, type PackName, type Project } from "../model/index.ts";
import { buildingFacts, subjectsOf, type KnownSizes, type Subject } from "./facts.ts";
import { Formulas } from "./formula.ts";
import { complianceInput, isSubmitted, packUseOf, type Submission } from "./submission.ts";

export const complianceRow = z.strictObject({
  id: z.string().describe("Check and thing."),
  kind: z.enum(["mandatory", "prescriptive", "attested"]),
  clause: z.string(),
  subject: z.string().describe("What is checked, by its name."),
  place: z.string().nullable().describe("Address of the thing, ids joined by /."),
  faces: z.array(z.string()).optional().describe("Faces it stands on."),
  quantity: z.string(),
  unit: z.string(),
  rule: z.enum(["at most", "at least", "attested"]),
  required: z.number().nullable().describe("In the unit; null: not known before sizes are."),
  proposed: z.number().nullable().describe("In the unit; null: not known before sizes are."),
  pass: z.boolean().nullable().describe("null: not known yet."),
  exception: z.string().optional().describe("Reason for which the row is excepted, though it fails."),
  attested: z.string().optional().describe("Who attests it, and when."),
  unverified: z.boolean().optional().describe("Its limit is to be checked against the document it is cited from."),
});
export type ComplianceRow = z.infer<typeof complianceRow>;

/** Whether a row holds a project up: it fails, and no exception is typed. */
export const isOpen = (r: ComplianceRow): boolean => r.pass !== true && r.exception === undefined;

const inScope = (s: Submission, part: PackCheck["part"]): boolean => part === null || s.parts.includes(part);

/** What a person says of a row: by whom it is attested, why it is excepted. */
export function handOf(row: Pick<ComplianceRow, "id" | "kind" | "pass">, input: ComplianceInput): Partial<ComplianceRow> {
  if (row.kind === "attested") {
    const by = input.attested?.[row.id.split(" ")[1]];
    if (by === undefined || by.by.trim() === "") return { pass: false };
    return { pass: true, attested: [by.by, by.date].filter((t) => t !== "").join(", ") };
  }
  const exception = input.exceptions?.[row.id];
  return row.pass !== true && exception !== undefined && exception.trim() !== "" ? { exception } : {};
}

/** Rows of a design: required beside proposed, with the thing each stands for. @param sizes of components; null: not known yet */
export function checkRows(project: Project, s: Submission, sizes: KnownSizes = null): ComplianceRow[] {
  const formulas = new Formulas(s.pack, s.zone, buildingFacts(project, s));
  const byKind = new Map<string, Subject[]>();
  for (const subject of subjectsOf(project, s, sizes)) {
    const list = byKind.get(subject.kind);
    if (list) list.push(subject);
    else byKind.set(subject.kind, [subject]);
  }
  const input = complianceInput(project);
  const rows: ComplianceRow[] = [];
  for (const check of s.pack.checks) {
    if (!inScope(s, check.part)) continue;
    const names: readonly PackName[] = subjects[check.of];
    const asked = names.find((n) => n.name === check.quantity) as PackName;
    for (const subject of byKind.get(check.of) ?? []) {
      if (check.when !== undefined && formulas.holds(check.when, names, subject.known) === false) continue;
      const required = formulas.value(check.limit, asked.unit, names, subject.known);
      const proposed = subject.known[check.quantity] ?? null;
      const id = `${check.id} ${subject.place ?? "building"}`;
      const slack = required === null ? 0 : 1e-6 * Math.max(1, Math.abs(required));
      const pass = required === null || proposed === null ? null : check.rule === "at most" ? proposed <= required + slack : proposed >= required - slack;
      rows.push({
        id,
        kind: check.kind,
        clause: check.clause,
        subject: subject.name,
        place: subject.place,
        ...(subject.faces ? { faces: [...subject.faces] } : {}),
        quantity: asked.words,
        unit: asked.unit,
        rule: check.rule,
        required,
        proposed,
        pass,
        ...handOf({ id, kind: check.kind, pass }, input),
        ...(check.unverified ? { unverified: true } : {}),
      });
    }
  }
  for (const a of s.pack.attested) {
    if (!inScope(s, a.part)) continue;
    const id = `attested ${a.id}`;
    rows.push({
      id,
      kind: "attested",
      clause: a.clause,
      subject: a.words,
      place: null,
      quantity: "attested by hand",
      unit: "1",
      rule: "attested",
      required: null,
      proposed: null,
      pass: false,
      ...handOf({ id, kind: "attested", pass: false }, input),
    });
  }
  return rows;
}

export interface Fix {
  readonly label: string;
  readonly changes: readonly Change[];
}

/** What makes a failed row pass, where one thing does: a copy of the assembly at the limit, glazing at the limit, the allowance, control by daylight. */
export function fixOf(project: Project, s: Submission, row: ComplianceRow): Fix | null {
  if (row.pass !== false || row.place === null || row.required === null) return null;
  const [part, id] = row.place.split("/");
  const check = row.id.split(" ")[0];
  const of = s.pack.checks.find((c) => c.id === check);
  if (!of) return null;
  if (part === "assemblies" && of.quantity === "u") {
    try {
      const changes = assemblyAtLimitChanges(project, s, id, of.of, row.required, `${s.pack.name}, clause ${row.clause}`);
      return changes && { label: "Put a copy at the limit", changes };
    } catch (error) {
      // nothing of it can be changed so: there is no such copy to offer
      if (error instanceof RangeError) return null;
      throw error;
    }
  }
  if (part === "glazings" && (of.quantity === "u" || of.quantity === "g")) {
    const g = project.glazings[id];
    if (g.kind !== "rated") return null;
    return { label: "At the limit", changes: [setChange(project, ["glazings", id, of.quantity], row.required)] };
  }
  if (part === "spaces" && of.quantity === "lighting")
    return {
      label: "At the allowance",
      changes: [
        ...(effective(project, "space", id, "lightingGiven").value === "per area"
          ? []
          : [setChange(project, ["spaces", id, "inputs", "lightingGiven"], "per area")]),
        setChange(project, ["spaces", id, "inputs", "lightingPower"], row.required),
      ],
    };
  if (part === "spaces" && of.quantity === "daylight_control") {
    const changes = daylightControlChangesOf(project, [id]);
    return changes.length > 0 ? { label: "Control by daylight", changes } : null;
  }
  if (part === "spaces" && of.quantity === "outdoor_air") {
    const use = packUseOf(project, s.pack, id);
    return { label: "Outdoor air of the use", changes: outdoorAirChanges(project, id, use.outdoorAirPerPerson?.value ?? 0, use.outdoorAirPerArea?.value ?? 0) };
  }
  if (part === "services" && of.quantity === "heat_recovery")
    return { label: "At the limit", changes: [setChange(project, ["services", id, "heatRecovery", "sensible"], row.required)] };
  const field = { efficiency: "efficiency", cop: "cop", heating_cop: "heatingCop", cooling_cop: "coolingCop" }[of.quantity];
  if (field !== undefined) return { label: "At the limit", changes: [setChange(project, [...row.place.split("/"), "inputs", field], row.required)] };
  return null;
}

/** Changes that give a space the outdoor air of a use, L/s per person and L/s·m². */
export function outdoorAirChanges(project: Project, space: string, perPerson: number, perArea: number): Change[] {
  const set = (field: "outdoorAirPerPerson" | "outdoorAirPerArea" | "outdoorAirCombined", value: number | string): Change[] =>
    effective(project, "space", space, field).value === value ? [] : [setChange(project, ["spaces", space, "inputs", field], value)];
  // a flow stated for the space as a whole would stand above what it gets per person and area
  const whole = effective(project, "space", space, "outdoorAirPerSpace").value;
  return [
    ...(whole === null ? [] : [setChange(project, ["spaces", space, "inputs", "outdoorAirPerSpace"], null)]),
    ...set("outdoorAirPerPerson", perPerson / 1000),
    ...set("outdoorAirPerArea", perArea / 1000),
    ...set("outdoorAirCombined", "sum"),
  ];
}

/** Spaces of a submission. */
export const submittedSpaces = (project: Project, s: Submission): string[] => Object.keys(project.spaces).filter((id) => isSubmitted(s, id));
