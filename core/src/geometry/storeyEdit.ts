import { applyChanges, type Project } from "../model/index.ts";
import { differenceOf, flatTopped, freeId, no, round, without, type PlanEdit } from "./planBasics.ts";
import { removeSpaces } from "./planEdit.ts";

/** A storey more, empty: on top of the highest, or a basement below the lowest. */
export function addStorey(project: Project, below = false): PlanEdit {
  const lowest = Object.values(project.storeys).sort((a, b) => a.elevation - b.elevation)[0];
  if (below && lowest) {
    const basements = Object.values(project.storeys).filter((s) => s.elevation < -0.1).length;
    const name = basements > 0 ? `Basement ${basements + 1}` : "Basement";
    const value = { name, elevation: round(lowest.elevation - 3), height: 3, multiplier: 1 };
    return { ok: true, name: `Add ${name}`, changes: [{ op: "insert", path: ["storeys", freeId(project.storeys, name)], value }], select: [] };
  }
  const top = Object.values(project.storeys).sort((a, b) => b.elevation - a.elevation)[0];
  const name = top ? `Floor ${Object.keys(project.storeys).length + 1}` : "Ground floor";
  const id = freeId(project.storeys, name);
  const value = { name, elevation: top ? round(top.elevation + top.height) : 0, height: top?.height ?? 3.5, multiplier: 1 };
  return { ok: true, name: `Add ${name}`, changes: [{ op: "insert", path: ["storeys", id], value }], select: [] };
}

/** A copy of a storey on top of the highest, with its spaces, each in a zone of its own name, their openings, sensors and what is set by hand. A roofed storey is refused: the roof would be in the way. */
export function copyStorey(project: Project, storey: string): PlanEdit {
  const source = project.storeys[storey];
  if (Object.values(project.roofs).some((r) => r.storey === storey)) return no(`${source.name} has a roof; remove it, copy the storey, then roof the copy.`);
  const made = addStorey(project);
  if (!made.ok) return made;
  const change = made.changes[0];
  const id = change.path[1];
  const level = { ...(change.value as Project["storeys"][string]), height: source.height };
  const up = level.elevation - source.elevation;
  let free = 0;
  const next: Project = { ...project, storeys: { ...project.storeys, [id]: level } };
  const spaces = { ...project.spaces };
  const zones = { ...project.zones };
  const renamed = new Map<string, string>();
  const zoneOf = new Map<string, string>();
  for (const [key, s] of Object.entries(project.spaces)) {
    if (s.storey !== storey) continue;
    if (s.form.kind !== "prism") {
      free++;
      continue;
    }
    const own = freeId(spaces, `${key}_${id}`);
    renamed.set(key, own);
    let zone = s.zone;
    if (zone !== null) {
      const known = zoneOf.get(zone);
      if (known) zone = known;
      else {
        const z = freeId(zones, `${zone}_${id}`);
        zones[z] = { ...project.zones[zone], name: `${project.zones[zone].name}, ${level.name.toLowerCase()}` };
        zoneOf.set(zone, z);
        zone = z;
      }
    }
    spaces[own] = { ...s, name: `${s.name}, ${level.name.toLowerCase()}`, storey: id, zone };
  }
  const there = (host: string): string | null => {
    const [s, e] = host.split("/");
    const own = renamed.get(s);
    return own ? `${own}/${e}` : null;
  };
  const openings = { ...project.openings };
  const copied = new Map<string, string>();
  for (const [key, o] of Object.entries(project.openings)) {
    const host = "host" in o && o.host ? there(o.host) : null;
    const space = "space" in o && o.space !== null ? renamed.get(o.space) : undefined;
    const byStorey = "storey" in o && o.storey === storey;
    if (!host && space === undefined && !byStorey) continue;
    const own = freeId(openings, `${key}_${id}`);
    copied.set(key, own);
    openings[own] = {
      ...o,
      ...(host ? { host } : {}),
      ...(space !== undefined ? { space } : {}),
      ...(byStorey ? { storey: id } : {}),
      ...(o.kind === "outline" ? { ring: o.ring.map(([x, y, z]) => [x, y, round(z + up)]) } : {}),
    } as Project["openings"][string];
  }
  const shades = { ...project.shades };
  for (const [key, s] of Object.entries(project.shades)) {
    if (s.kind === "plane") continue;
    const own = freeId(shades, `${key}_${id}`);
    if (s.kind === "plate") {
      const host = there(s.host);
      if (host) shades[own] = { ...s, host };
    } else if (s.target.kind === "opening" && copied.has(s.target.opening))
      shades[own] = { ...s, target: { kind: "opening", opening: copied.get(s.target.opening) as string } };
    else if (s.target.kind === "wall") {
      const host = there(s.target.host);
      if (host) shades[own] = { ...s, target: { kind: "wall", host } };
    } else if (s.target.kind === "orientation" && s.target.storey === storey) shades[own] = { ...s, target: { ...s.target, storey: id } };
  }
  const faceOverrides = { ...project.faceOverrides };
  for (const [key, o] of Object.entries(project.faceOverrides)) {
    const host = there(o.host);
    if (host) faceOverrides[freeId(faceOverrides, `${key}_${id}`)] = { ...o, host };
  }
  const sensors = { ...project.sensors };
  for (const [key, s] of Object.entries(project.sensors)) {
    const home = renamed.get(s.space);
    if (home) sensors[freeId(sensors, `${key}_${id}`)] = { ...s, space: home };
  }
  const after = { ...next, spaces, zones, openings, shades, faceOverrides, sensors };
  const left = free > 0 ? `; ${free} space${free > 1 ? "s" : ""} of free faces not copied` : "";
  return { ok: true, name: `Copy ${source.name} as ${level.name}${left}`, changes: differenceOf(project, after), select: [...renamed.values()] };
}

/** Takes a storey away with everything on it. */
export function removeStorey(project: Project, storey: string): PlanEdit {
  const ids = Object.entries(project.spaces).flatMap(([id, s]) => (s.storey === storey ? [id] : []));
  if (Object.keys(project.storeys).length < 2) return no("A project keeps at least one storey.");
  const spaces = removeSpaces(project, ids);
  if (!spaces.ok) return spaces;
  const applied = applyChanges(project, spaces.changes);
  if (!applied.ok) return no(applied.message);
  const p = applied.project;
  const openings = without(p.openings, (o) => "storey" in o && o.storey === storey);
  const next: Project = {
    ...p,
    storeys: without(p.storeys, (s) => s === project.storeys[storey]),
    roofs: without(p.roofs, (r) => r.storey === storey),
    openings,
    shades: without(p.shades, (s) => {
      if (!("target" in s)) return false;
      return s.target.kind === "orientation" ? s.target.storey === storey : s.target.kind === "opening" && !Object.hasOwn(openings, s.target.opening);
    }),
    spaces: Object.fromEntries(
      Object.entries(p.spaces).map(([id, s]) => [
        id,
        s.form.kind === "prism" && s.form.roof !== undefined && p.roofs[s.form.roof].storey === storey ? flatTopped(s) : s,
      ]),
    ),
  };
  return { ok: true, name: `Remove ${project.storeys[storey].name}`, changes: differenceOf(project, next), select: [] };
}
