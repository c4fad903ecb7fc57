import { z } from "zod";
import { issueProblem, summarySchema, type Summary } from "@arroyo/core";
import { PinRow, ProjectRow, RunRow } from "./models.ts";
import { Refusal } from "./projects.ts";
import { store } from "./store.ts";

/** Pins a project has at most. */
export const MOST_PINS = 8;

/** Figures kept to compare with: of a year as it was seen, or of a stored run. */
const kept = z.array(
  z.union([
    z.strictObject({ name: z.string().min(1).max(80), summary: summarySchema }),
    z.strictObject({ name: z.string().min(1).max(80), run: z.string().max(64) }),
  ]),
);
const sent = z.strictObject({ pins: kept.max(MOST_PINS) });

export interface Pin {
  readonly name: string;
  readonly summary: Summary;
}

/** Pins of a project in order; those of an earlier version, or of a run that is not done, are left out. @throws Refusal (404) for an unknown project */
export async function projectPins(projectId: string): Promise<Pin[]> {
  await store();
  if (!(await ProjectRow.findByPk(projectId, { attributes: ["id"] }))) throw new Refusal(404, `There is no project "${projectId.slice(0, 64)}".`);
  const row = await PinRow.findByPk(projectId);
  const pins = Array.isArray(row?.pins) ? row.pins : [];
  const found = await Promise.all(
    pins.map(async (p): Promise<Pin | null> => {
      const one = kept.safeParse([p]);
      if (!one.success) return null;
      const [pin] = one.data;
      if ("summary" in pin) return pin;
      const run = await RunRow.findByPk(pin.run, { attributes: ["summary"] });
      const summary = summarySchema.safeParse(run?.summary);
      return summary.success ? { name: pin.name, summary: summary.data } : null;
    }),
  );
  return found.filter((p): p is Pin => p !== null);
}

/** Puts a list of pins in place of the one a project has. @throws Refusal (400) where it cannot be read, (404) for an unknown project */
export async function keepPins(projectId: string, body: unknown): Promise<void> {
  await store();
  const parsed = sent.safeParse(body, { reportInput: true });
  if (!parsed.success) {
    const { path, message } = issueProblem(parsed.error.issues[0]);
    throw new Refusal(400, `The pins cannot be read: ${path === "" ? "" : `${path}: `}${message}`);
  }
  if (!(await ProjectRow.findByPk(projectId, { attributes: ["id"] }))) throw new Refusal(404, `There is no project "${projectId.slice(0, 64)}".`);
  await PinRow.upsert({ projectId, pins: parsed.data.pins });
}
