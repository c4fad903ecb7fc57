import {
  freeId,
  scheduleOfPoint,
  setChange,
  unsetChange,
  writeReadings,
  yearOfReadings,
  type Change,
  type Drive,
  type LoggedPoint,
  type Pair,
  type PointRead,
  type Project,
} from "@arroyo/core";
import { keepReadings } from "../../live/logged.ts";
import { useStore } from "../store.ts";

const edit = (name: string, changes: readonly Change[]): string | null => useStore.getState().edit(name, changes)[0]?.message ?? null;
const document = (): Project => useStore.getState().document as Project;
const view = (): Project => useStore.getState().project as Project;

/** Puts a record of an optional part of a document in place. */
const put = (project: Project, part: "points" | "drives", id: string, value: unknown): Change =>
  project[part] ? setChange(project, [part, id], value) : setChange(project, [part], { [id]: value });

/** Keeps the readings of columns and adds them as points in one edit; a named year of theirs becomes the calendar's where it has none. Answers what refuses it. */
export async function takePoints(read: readonly PointRead[], source: string, tags: readonly string[]): Promise<string | null> {
  const made: Record<string, LoggedPoint> = { ...(document().points ?? {}) };
  for (const r of read) {
    const kept = await keepReadings(writeReadings(r.readings));
    if ("message" in kept) return `${r.name}: ${kept.message}`;
    // the same column read again takes the place of what it was
    const known = Object.entries(made).find(([, p]) => p.name === r.name)?.[0];
    const id = known ?? freeId(made, r.name);
    const { hash } = kept;
    made[id] = {
      ...(known === undefined ? {} : made[known]),
      name: r.name,
      unit: r.unit,
      hash,
      source: `${source}, column ${r.column + 1}`.slice(0, 300),
      ...(r.kind === "reading" ? {} : { kind: r.kind }),
      ...(tags.length > 0 ? { tags: [...tags] } : {}),
    };
  }
  const now = document();
  const changes = [setChange(now, ["points"], made)];
  if (typeof now.calendar.year !== "number" && read.length > 0) changes.push(setChange(now, ["calendar", "year"], yearOfReadings(read[0].readings)));
  return edit(read.length === 1 ? `${read[0].name} brought in` : `${read.length} points brought in`, changes);
}

/** Changes a point; undefined takes a part away. */
export function setPoint(id: string, part: Partial<Record<keyof LoggedPoint, unknown>>, words: string): string | null {
  const before = document().points?.[id];
  if (!before) return "The point is gone.";
  const next = Object.fromEntries(Object.entries({ ...before, ...part }).filter(([, v]) => v !== undefined));
  return edit(`${before.name}: ${words}`, [setChange(document(), ["points", id], next)]);
}

/** Takes a point away with what it drives, what it is compared with, and masks that look at it. */
export function removePoint(id: string): string | null {
  const now = document();
  const name = now.points?.[id]?.name ?? id;
  const changes: Change[] = [];
  const drives = Object.entries(now.drives ?? {}).filter(([, d]) => d.point === id);
  for (const [key] of drives) changes.push(unsetChange(now, ["drives", key]));
  if (now.pairs?.some((p) => p.point === id))
    changes.push(
      setChange(
        now,
        ["pairs"],
        now.pairs.filter((p) => p.point !== id),
      ),
    );
  for (const [key, p] of Object.entries(now.points ?? {}))
    if (key !== id && p.masks?.some((m) => m.point === id))
      changes.push(
        setChange(
          now,
          ["points", key, "masks"],
          p.masks.filter((m) => m.point !== id),
        ),
      );
  changes.push(unsetChange(now, ["points", id]));
  return edit(`${name} removed`, changes);
}

/** Puts the mean days of a point among the project's schedules, from where they can be kept in My library. */
export function scheduleOf(id: string, values: ArrayLike<number>, unit: string, kinds: ArrayLike<number>): string | null {
  const now = document();
  const point = now.points?.[id];
  const schedule = point && scheduleOfPoint(point.name, values, unit, kinds);
  if (!point || !schedule) return "There are too few readings for a schedule.";
  return edit(`Schedule of ${point.name}`, [{ op: "insert", path: ["schedules", freeId(now.schedules, point.name)], value: schedule }]);
}

/** Has a point drive an input. */
export function addDrive(drive: Drive, words: string): string | null {
  const now = view();
  return edit(words, [put(now, "drives", freeId(now.drives ?? {}, drive.input.split("/").slice(-1)[0]), drive)]);
}
export function setDrive(id: string, part: Partial<Record<keyof Drive, unknown>>, words: string): string | null {
  const now = view();
  const next = Object.fromEntries(Object.entries({ ...now.drives?.[id], ...part }).filter(([, v]) => v !== undefined));
  return edit(words, [setChange(now, ["drives", id], next)]);
}
export const removeDrives = (ids: readonly string[]): string | null =>
  edit(
    ids.length === 1 ? "An input is no longer driven" : `${ids.length} inputs are no longer driven`,
    ids.map((id) => unsetChange(view(), ["drives", id])),
  );

/** Adds pairs; each gets an id of its own. */
export function addPairs(list: readonly Omit<Pair, "id">[], words: string): string | null {
  const now = document();
  const all: Record<string, Pair> = Object.fromEntries((now.pairs ?? []).map((p) => [p.id, p]));
  for (const p of list) {
    const id = freeId(all, p.point);
    all[id] = { id, ...p };
  }
  return edit(words, [setChange(now, ["pairs"], Object.values(all))]);
}
export const removePair = (id: string): string | null => {
  const now = document();
  return edit("A pair removed", [
    setChange(
      now,
      ["pairs"],
      (now.pairs ?? []).filter((p) => p.id !== id),
    ),
  ]);
};
