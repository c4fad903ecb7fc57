import {
  setChange,
  type AirPartKind,
  type AirSystem,
  type Change,
  type Component,
  type ComponentKind,
  type LoopKind,
  type LoopPartKind,
  type Project,
} from "../model/index.ts";
import { freeKey } from "./starter.ts";

/** Parts of a system on the way to the rooms, in order; what stands on the return air is apart. */
export const supplyParts = (system: Pick<AirSystem, "parts">): AirSystem["parts"] => system.parts.filter((p) => p.kind !== "returnFan");

/**
 * Kinds that may stand in a gap of the supply path: heat recovery before the mixing box, one mixing box, the cooling coil and fans
 * behind it. @param gap parts of the supply path before it
 */
export function allowedAt(system: Pick<AirSystem, "parts">, gap: number): AirPartKind[] {
  const path = supplyParts(system);
  const mixes = path.findIndex((p) => p.kind === "mixing");
  const has = (kind: AirPartKind): boolean => path.some((p) => p.kind === kind);
  const before = mixes >= 0 && gap <= mixes;
  const out: AirPartKind[] = [];
  if (!has("recovery") && (mixes < 0 || before)) out.push("recovery");
  if (
    !has("mixing") &&
    gap <=
      Math.max(
        0,
        path.findIndex((p) => p.kind !== "recovery" && p.kind !== "heatingCoil"),
      )
  )
    out.push("mixing");
  out.push("heatingCoil");
  if (!before && !has("coolingCoil")) out.push("coolingCoil");
  if (!before && !has("humidifier")) out.push("humidifier");
  if (!before && !has("supplyFan")) out.push("supplyFan");
  return out;
}

/** Whether a part may stand in a gap of the supply path without it. */
export function mayMove(system: Pick<AirSystem, "parts">, id: string, gap: number): boolean {
  const path = supplyParts(system);
  const from = path.findIndex((p) => p.id === id);
  if (from < 0 || gap === from || gap === from + 1) return false;
  const rest = { parts: path.filter((p) => p.id !== id) };
  return allowedAt(rest, gap > from ? gap - 1 : gap).includes(path[from].kind);
}

/** The change that puts a new part into a gap, and its id. */
export function addPart(project: Project, system: string, kind: AirPartKind, gap: number): { change: Change; id: string } {
  const { parts } = project.airSystems[system];
  const id = freeKey(Object.fromEntries(parts.map((p) => [p.id, p])), kind);
  const next = supplyParts(project.airSystems[system])[gap];
  return { id, change: { op: "insert", path: ["airSystems", system, "parts", id], value: { id, kind, inputs: {} }, ...(next ? { before: next.id } : {}) } };
}

/** Changes that move a part of a path to a gap. */
export function movePart(project: Project, system: string, id: string, gap: number): Change[] {
  const path = supplyParts(project.airSystems[system]);
  const part = path.find((p) => p.id === id);
  if (!part) return [];
  const next = path.slice(gap).find((p) => p.id !== id);
  return moved(["airSystems", system, "parts"], part, next?.id);
}

const moved = (list: readonly string[], thing: Component, before: string | undefined): Change[] => [
  { op: "remove", path: [...list, thing.id], old: thing },
  { op: "insert", path: [...list, thing.id], value: thing, ...(before === undefined ? {} : { before }) },
];

/** Changes that move a thing of a list one place forward or back: equipment of a zone, parts of a loop. */
export function moveInList(list: readonly Component[], path: readonly string[], id: string, by: -1 | 1): Change[] {
  const at = list.findIndex((c) => c.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= list.length) return [];
  const before = by < 0 ? list[to].id : list[to + 1]?.id;
  return moved(path, list[at], before);
}

/** Sources a loop may have. */
export const sourcesOf: Readonly<Record<LoopKind, readonly LoopPartKind[]>> = {
  "hot water": ["boiler", "heatPump", "district", "naturalSource"],
  "chilled water": ["chiller", "district", "naturalSource"],
};

/** The change that adds a thing at the end of a list of components, which may not be there yet, and its id. */
export function addToList(
  project: Project,
  path: readonly string[],
  list: readonly Component[] | undefined,
  kind: ComponentKind,
  inputs: Component["inputs"] = {},
): { change: Change; id: string } {
  const id = freeKey(Object.fromEntries((list ?? []).map((p) => [p.id, p])), kind);
  const value = { id, kind, inputs };
  return { id, change: list ? { op: "insert", path: [...path, id], value } : setChange(project, path, [value]) };
}

/** Changes that type what sizing found, with where it comes from. @param sizes by address */
export function freezeChanges(project: Project, sizes: Readonly<Record<string, number>>): Change[] {
  return Object.entries(sizes).flatMap(([address, found]) => {
    const path = address.split("/");
    const value = Number(found.toPrecision(4));
    return [setChange(project, path, value), setChange(project, ["provenance", address], { kind: "sized", words: "frozen from the design days", value })];
  });
}
