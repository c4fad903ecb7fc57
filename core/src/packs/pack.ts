import { z } from "zod";
import { fuels, issueProblem, type Problem } from "../model/index.ts";

/** A value with its unit and the clause it stands in. */
const limit = z.strictObject({ value: z.number(), unit: z.string(), clause: z.string() });
export type Limit = z.infer<typeof limit>;

export const envelopeParts = ["exteriorWall", "roof", "groundFloor", "exposedFloor"] as const;
export type EnvelopePart = (typeof envelopeParts)[number];
export const letters = ["A", "B", "C", "D", "E", "F", "G"] as const;
export type Letter = (typeof letters)[number];

/** A code or rating as data: every value with its clause. */
export const packSchema = z.strictObject({
  formatVersion: z.literal(1),
  id: z.string().min(1),
  name: z.string().min(1),
  edition: z.string().min(1),
  clauses: z.record(z.string(), z.string()).describe("What each clause says, by its number."),
  climateZones: z
    .record(
      z.string(),
      z.strictObject({
        u: z.strictObject({ exteriorWall: limit, roof: limit, groundFloor: limit, exposedFloor: limit }),
        glazingU: limit,
        glazingG: limit,
      }),
    )
    .describe("Envelope limits by thermal climate zone."),
  windowShare: limit.describe("Largest share of the outdoor walls that may be glazed."),
  uses: z
    .array(
      z.strictObject({
        name: z.string(),
        words: z.array(z.string()).describe("Words in the name of a space type that give it this use; none: any other."),
        lighting: limit,
        appliances: limit,
      }),
    )
    .min(1),
  mandatory: z.strictObject({ infiltration: limit, heatRecovery: limit }),
  services: z
    .strictObject({
      heatingFuel: z.enum(fuels),
      heating: limit,
      coolingFuel: z.enum(fuels),
      cooling: limit,
      fanPower: limit,
      heatRecovery: limit,
      hotWaterFuel: z.enum(fuels),
      hotWater: limit,
    })
    .describe("Services of the reference building."),
  shading: z.strictObject({ clause: z.string() }).describe("The reference building has no shading devices."),
  letters: z
    .array(z.strictObject({ letter: z.enum(letters), upTo: limit }))
    .describe("Primary energy up to which a letter is given, in order; beyond the last: G."),
  index: z.strictObject({ clause: z.string() }).describe("Primary energy of the design over that of the reference, 100 being equal."),
});
export type Pack = z.infer<typeof packSchema>;

/** Unit each limit of a pack must have, by its address; * stands for any key. */
const UNITS: readonly (readonly [path: string, unit: string])[] = [
  ["climateZones/*/u/*", "W/m²K"],
  ["climateZones/*/glazingU", "W/m²K"],
  ["climateZones/*/glazingG", "1"],
  ["windowShare", "1"],
  ["uses/*/lighting", "W/m²"],
  ["uses/*/appliances", "W/m²"],
  ["mandatory/infiltration", "1/h"],
  ["mandatory/heatRecovery", "1"],
  ["services/heating", "1"],
  ["services/cooling", "1"],
  ["services/fanPower", "W per m³/s"],
  ["services/heatRecovery", "1"],
  ["services/hotWater", "1"],
  ["letters/*/upTo", "kWh/m²a"],
];

export type PackOutcome = { readonly ok: true; readonly pack: Pack } | { readonly ok: false; readonly problems: readonly Problem[] };

const problem = (path: string, message: string): Problem => ({ code: "pack", severity: "error", stage: "place", path, message });

/** Reads a rule pack: its shape, every clause it names, and the dimension of every limit. */
export function parsePack(data: unknown): PackOutcome {
  const parsed = packSchema.safeParse(data, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map((i) => ({ ...issueProblem(i), code: "pack", stage: "place" })) };
  const pack = parsed.data;
  const problems: Problem[] = [];
  walk(pack, [], (node, path) => {
    const where = path.join("/");
    if (typeof node.clause === "string" && !Object.hasOwn(pack.clauses, node.clause))
      problems.push(problem(`${where}/clause`, `The clause "${node.clause}" is not in this pack.`));
    if (typeof node.unit !== "string") return;
    const rule = UNITS.find(([pattern]) => matches(pattern, path));
    if (rule && rule[1] !== node.unit) problems.push(problem(`${where}/unit`, `This limit is in "${node.unit}"; "${rule[1]}" is needed.`));
  });
  if (pack.uses.filter((u) => u.words.length === 0).length !== 1)
    problems.push(problem("uses", "Exactly one use must have no words: it takes every space that matches no other."));
  const limits = pack.letters.map((l) => l.upTo.value);
  if (limits.some((v, i) => i > 0 && v <= limits[i - 1])) problems.push(problem("letters", "The limits of the letters must rise."));
  return problems.length > 0 ? { ok: false, problems } : { ok: true, pack };
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
