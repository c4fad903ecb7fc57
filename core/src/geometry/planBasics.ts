import { outlineFault, signedArea, type Change, type Point, type Project, type Ring, type Space } from "../model/index.ts";
import { namedRing } from "./outlineIds.ts";

/** What an action on the plan comes to: one undoable step, or the sentence that refuses it. */
export type PlanEdit =
  | { readonly ok: true; readonly name: string; readonly changes: readonly Change[]; /** Spaces to select afterwards. */ readonly select: readonly string[] }
  | { readonly ok: false; readonly message: string };

export type Prism = Extract<Space["form"], { kind: "prism" }>;
export type Corner = Prism["outline"][number];

/** Corners nearer than this are one, m. */
export const SAME = 0.005;

/** A refusal. */
export const no = (message: string): PlanEdit => ({ ok: false, message });
/** To a tenth of a millimetre. */
export const round = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;
/** An id that a record of things does not have yet. */
export function freeId(things: Readonly<Record<string, unknown>>, base: string): string {
  const clean =
    base
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .replace(/^_+|_+$/g, "")
      .slice(0, 48) || "item";
  // words every object knows are nobody's id
  if (!Object.hasOwn(things, clean) && !(clean in Object.prototype)) return clean;
  for (let n = 2; ; n++) if (!Object.hasOwn(things, `${clean}_${n}`)) return `${clean}_${n}`;
}

/** Outline of a prism in plan. */
export const ringOf = (form: Prism): Point[] => form.outline.map((p): Point => [p.x, p.y]);
/** Form of a space that has an outline; null for others. */
export const prismOf = (project: Project, id: string): Prism | null => {
  const form = project.spaces[id]?.form;
  return form?.kind === "prism" ? form : null;
};

/** Spaces of a storey that have an outline. */
export function outlinesOf(project: Project, storey: string): [string, Prism][] {
  return Object.entries(project.spaces).flatMap(([id, s]): [string, Prism][] => (s.storey === storey && s.form.kind === "prism" ? [[id, s.form]] : []));
}

/** What keeps an outline from bounding a space, as a sentence; null where nothing does. */
export function fault(ring: Ring): string | null {
  const said = outlineFault(ring);
  if (said !== null) return `This outline cannot be used: ${said}.`;
  return Math.abs(signedArea(ring)) < 0.05 ? "This outline encloses less than 0.05 m²." : null;
}

/** A form with a flat floor and ceiling on an outline. */
export function prism(ring: Ring): Prism {
  return { kind: "prism", outline: namedRing([], ring), floor: "floor", ceiling: "ceiling" };
}

/** Records without those a test picks. */
export const without = <T>(things: Record<string, T>, drop: (t: T) => boolean): Record<string, T> =>
  Object.fromEntries(Object.entries(things).filter(([, t]) => !drop(t)));

/** A space whose top no longer follows a roof. */
export function flatTopped(space: Space): Space {
  if (space.form.kind !== "prism" || space.form.roof === undefined) return space;
  const { roof: _, ...form } = space.form;
  return { ...space, form };
}

/** The changes that turn one document's spaces and what hangs on them into another's. */
export function differenceOf(before: Project, after: Project): Change[] {
  const changes: Change[] = [];
  for (const part of ["storeys", "roofs", "zones", "spaceTypes", "spaces", "openings", "shades", "faceOverrides", "sensors", "airExchanges"] as const) {
    const [a, b] = [before[part] as Record<string, unknown>, after[part] as Record<string, unknown>];
    if (a === b) continue;
    for (const [id, value] of Object.entries(b)) {
      if (!Object.hasOwn(a, id)) changes.push({ op: "insert", path: [part, id], value });
      else if (a[id] !== value) {
        const [x, y] = [a[id] as Record<string, unknown>, value as Record<string, unknown>];
        // a moved outline leaves the rest of its space as it is
        if (part === "spaces" && Object.keys({ ...x, ...y }).every((k) => k === "form" || x[k] === y[k]))
          changes.push({ op: "set", path: [part, id, "form"], value: y.form, old: x.form });
        else changes.push({ op: "set", path: [part, id], value, old: a[id] });
      }
    }
    for (const [id, old] of Object.entries(a)) if (!Object.hasOwn(b, id)) changes.push({ op: "remove", path: [part, id], old });
  }
  return changes;
}
