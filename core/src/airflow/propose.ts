import type { AirLink, AirNetworkInput, Change, OpeningType, Project } from "../model/index.ts";
import type { AirShape } from "./places.ts";
import { unconnected, type Unconnected } from "./unconnected.ts";

/** Opening types a new network begins with. */
export const USUAL_TYPES: Readonly<Record<string, OpeningType>> = {
  windows: { name: "Windows", control: { rule: "windows of the space" } },
  doors_inside: { name: "Doors inside", control: { rule: "constant", share: 0.5 } },
  doors_outside: { name: "Doors to outdoors", control: { rule: "constant", share: 0 } },
  ways: { name: "Ways through", control: { rule: "constant" } },
};

const typeOf = (o: Pick<Unconnected, "use" | "inside">): string =>
  o.use === "opening" ? "ways" : o.use === "door" ? (o.inside ? "doors_inside" : "doors_outside") : "windows";

/** An id that a record does not have yet. */
function fresh(links: Readonly<Record<string, unknown>>, made: Readonly<Record<string, unknown>>, base: string): string {
  const word = base.replace(/[^A-Za-z0-9_-]/g, "_").slice(0, 50) || "path";
  let id = word;
  for (let n = 2; Object.hasOwn(links, id) || Object.hasOwn(made, id); n++) id = `${word}_${n}`;
  return id;
}

const linkOf = (o: Unconnected, types: AirNetworkInput["types"]): AirLink => {
  const type = typeOf(o);
  return { kind: "opening", name: o.label.slice(0, 200), opening: o.key, ...(Object.hasOwn(types, type) ? { type } : {}) };
};

/**
 * A network from the geometry: every zone with spaces, cracks of the usual class in every face, and a path through every window that can be opened,
 * every door and every way through. Replaces one that is there.
 */
export function proposeNetwork(project: Project, shape: AirShape): AirNetworkInput {
  const used = new Set(Object.values(project.spaces).flatMap((s) => s.zone ?? []));
  const zones = Object.keys(project.zones).filter((z) => used.has(z));
  const types = { ...USUAL_TYPES };
  const links: Record<string, AirLink> = {};
  for (const o of unconnected(project, { links: {}, zones }, shape)) links[fresh({}, links, o.record)] = linkOf(o, types);
  return { use: true, zones, leakage: {}, types, links, pressures: "formula" };
}

/** Changes that connect openings, by their keys; all that are unconnected where none are named. */
export function connectChanges(project: Project, shape: AirShape, keys: readonly string[] | null = null): Change[] {
  const input = project.airNetwork;
  if (!input) return [];
  const made: Record<string, AirLink> = {};
  for (const o of unconnected(project, input, shape))
    if (keys === null || keys.includes(o.key)) made[fresh(input.links, made, o.record)] = linkOf(o, input.types);
  return Object.entries(made).map(([id, value]): Change => ({ op: "insert", path: ["airNetwork", "links", id], value }));
}
