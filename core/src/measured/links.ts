import { z } from "zod";
import { driveSchema, issueProblem, pairSchema, pointSchema, type LoggedPoint, type Problem, type Project } from "../model/index.ts";
import { pointMappingSchema, readingsHash, yearOfReadings, type LoggedReadings, type PointRead, type Readings } from "../logged/index.ts";

/** Links of a file of trend data with a project: which columns are points, what they drive, what they are compared with. */
export const linksSchema = z.strictObject({
  formatVersion: z.literal(1).describe("Version of this layout, 1."),
  mapping: pointMappingSchema.optional().describe("How the file is read; absent: as it looks."),
  points: z
    .record(
      z.string().regex(/^[A-Za-z0-9_-]{1,64}$/),
      pointSchema.omit({ hash: true, unit: true, name: true }).extend({
        column: z.string().min(1).max(200).describe("Name of the column, as its header has it without the unit."),
        name: z.string().min(1).max(200).optional(),
      }),
    )
    .describe("Points by the ids drives and pairs name them by."),
  drives: z.record(z.string().regex(/^[A-Za-z0-9_-]{1,64}$/), driveSchema).optional(),
  pairs: z.array(pairSchema).max(500).optional(),
});
export type Links = z.infer<typeof linksSchema>;

/** Reads a file of links. */
export function parseLinks(value: unknown): { readonly ok: true; readonly links: Links } | { readonly ok: false; readonly problems: readonly Problem[] } {
  const parsed = linksSchema.safeParse(value, { reportInput: true });
  return parsed.success
    ? { ok: true, links: parsed.data }
    : { ok: false, problems: parsed.error.issues.map((i) => ({ ...issueProblem(i), stage: "measured" })) };
}

/**
 * A project with the points, drives and pairs of a file of links, and their readings.
 * @param read the columns of the file @returns sentences where a column is not there
 */
export function withLinks(
  project: Project,
  links: Links,
  read: readonly PointRead[],
): { readonly ok: true; readonly project: Project; readonly logged: LoggedReadings } | { readonly ok: false; readonly messages: readonly string[] } {
  const logged: Record<string, Readings> = {};
  const points: Record<string, LoggedPoint> = {};
  const messages: string[] = [];
  for (const [id, { column, name, kind, ...rest }] of Object.entries(links.points)) {
    const found = read.find((r) => r.name === column);
    if (!found) {
      messages.push(`points/${id}: The file has no column "${column}"; it has ${read.map((r) => `"${r.name}"`).join(", ") || "none"}.`);
      continue;
    }
    const hash = readingsHash(found.readings);
    logged[hash] = found.readings;
    const as = kind ?? (found.kind === "reading" ? undefined : found.kind);
    points[id] = { ...rest, name: name ?? column, unit: found.unit, hash, ...(as ? { kind: as } : {}) };
  }
  for (const [id, d] of Object.entries(links.drives ?? {}))
    if (!Object.hasOwn(links.points, d.point)) messages.push(`drives/${id}: There is no point "${d.point}".`);
  for (const p of links.pairs ?? []) if (!Object.hasOwn(links.points, p.point)) messages.push(`pairs/${p.id}: There is no point "${p.point}".`);
  if (messages.length > 0) return { ok: false, messages };
  // a measured year brings its calendar along
  const first = Object.values(logged)[0] as Readings | undefined;
  const calendar = typeof project.calendar.year === "number" || !first ? project.calendar : { ...project.calendar, year: yearOfReadings(first) };
  return { ok: true, project: { ...project, calendar, points, drives: links.drives ?? {}, pairs: links.pairs ?? [] }, logged };
}
