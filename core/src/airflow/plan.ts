import type { Face, Geometry, InnerOpening, PlacedOpening, Vector } from "../geometry/index.ts";
import { effective } from "../inputs/index.ts";
import {
  leakageClasses,
  type AirLink,
  type AirNetworkInput,
  type LeakagePart,
  type LinkEnd,
  type OpeningControl,
  type OpeningRule,
  type OpeningType,
  type Project,
} from "../model/index.ts";
import { pow } from "../numeric/index.ts";
import { orientationOf } from "../geometry/index.ts";
import { Pressures } from "./facadePoints.ts";
import { CRACK_EXPONENT } from "./pressure.ts";
import type { NetworkLink, NetworkNode } from "./network.ts";

/** Pressure at which leakage classes are told, Pa. */
const CLASS_PRESSURE = 50;
/** Discharge coefficient of an opening (ASHRAE Fundamentals 2017, ch. 16). */
const DISCHARGE = 0.6;
/** Gap below a shut inner door, m: typical, unverified. */
const UNDERCUT = 0.008;
/** Openings lower than this see one pressure over their height, m. */
const LEVEL_OPENING = 0.2;
/** Places outside and cracks are told apart by this in height, m. */
const GRAIN = 0.5;
/** Rules without a limit of their own use these: °C, K, ppm. */
export const USUAL_LIMIT: Partial<Record<OpeningRule, number>> = { temperature: 24, "temperature difference": 2, "carbon dioxide": 1000 };

/** What a geometry offers a network. */
export interface AirShape {
  readonly geometry: Geometry;
  readonly openings: readonly PlacedOpening[];
  readonly inner: readonly InnerOpening[];
}

/** A link as readers and drawings have it; the same place in the list as in the network. */
export interface PlannedLink {
  /** Id of the record; null: a crack. */
  readonly record: string | null;
  readonly name: string;
  readonly kind: AirLink["kind"] | "crack";
  /** Zones at its ends; null: outdoors. */
  readonly ends: readonly [string | null, string | null];
  /** Where it is drawn, m, and the way from its first end to its second in plan and up, of length 1. */
  readonly at: Vector;
  readonly way: Vector;
  /** Free area fully open, m²; 0: a crack or a fan. */
  readonly area: number;
  readonly control: OpeningControl;
  /** Share that is open when it is shut: the gap below an inner door. */
  readonly least: number;
  /** Zone whose temperature opens it. */
  readonly senses: string | null;
  /** Schedule of a fan. */
  readonly schedule: string | null;
  /** Two-way exchange through a level opening under no pressure is reckoned for it. */
  readonly level: boolean;
}

/** A network as it is solved: zones first, then places outside. */
export interface AirPlan {
  readonly zones: readonly string[];
  readonly nodes: readonly NetworkNode[];
  readonly links: readonly NetworkLink[];
  readonly planned: readonly PlannedLink[];
  /** Wind pressure of every node by direction, [node][DIRECTIONS], over ½ρv² of the wind at 10 m; nothing for zones. */
  readonly roses: Float64Array;
  readonly pressures: Pressures;
  readonly problems: readonly PlanProblem[];
}

/** What is wrong with a network: at a link, or at all of it. */
export interface PlanProblem {
  readonly code: string;
  readonly severity: "error" | "warning";
  readonly link: string | null;
  readonly message: string;
}

/** Part of the envelope whose leakage class a face has. */
export function leakagePart(face: Face): LeakagePart {
  if (face.contact === "space") return "inside";
  if (face.kind === "wall") return orientationOf(face.azimuth);
  return face.normal[2] > 0 ? "roof" : "floor";
}

/** Leakage of a face, m³/h through each m² at 50 Pa. */
export function faceLeakage(input: AirNetworkInput, face: Face): number {
  const own = Object.values(input.cracks ?? {}).find((c) => c.host === face.host);
  return own ? own.leakage : leakageClasses[input.leakage[leakagePart(face)] ?? "usual"];
}

/** What is usual for an opening that has neither a type nor a rule of its own. */
export function usualControl(kind: PlannedLink["kind"], inside: boolean, use: "window" | "door" | "opening" = "window"): OpeningControl {
  if (kind === "opening" && !inside) return use === "door" ? { rule: "constant", share: 0 } : { rule: "windows of the space" };
  if (kind === "opening" && use === "door") return { rule: "constant", share: 0 };
  return { rule: "constant" };
}

/** What a link opens by: its own rule, its type's, else what is usual; with its discharge coefficient and free share. */
export function openingWay(
  input: AirNetworkInput,
  link: Exclude<AirLink, { kind: "fan" }>,
  usual: OpeningControl,
): { readonly control: OpeningControl; readonly discharge: number; readonly free: number | undefined; readonly from: "own" | "type" | "usual" } {
  const type: OpeningType | undefined = link.type && Object.hasOwn(input.types, link.type) ? input.types[link.type] : undefined;
  return {
    control: link.control ?? type?.control ?? usual,
    discharge: link.discharge ?? type?.discharge ?? DISCHARGE,
    free: (link.kind === "opening" ? link.free : undefined) ?? type?.free,
    from: link.control ? "own" : type ? "type" : "usual",
  };
}

/** What a link names an opening by: its face and its record; equal windows of one record in one face are one. */
export const openingKey = (o: { readonly face: string; readonly record: string }): string => `${o.face}|${o.record}`;

/** Mean of corners. */
const middleOf = (corners: readonly Vector[]): Vector =>
  corners.reduce<[number, number, number]>((m, c) => [m[0] + c[0] / corners.length, m[1] + c[1] / corners.length, m[2] + c[2] / corners.length], [0, 0, 0]);

/** Middle of a face. */
function faceMiddle(face: Face): Vector {
  const w = face.wall;
  if (w) {
    const s = (w.from + w.to) / 2;
    return [w.start[0] + w.direction[0] * s, w.start[1] + w.direction[1] * s, (w.low + w.high) / 2];
  }
  const plate = face.plate as NonNullable<Face["plate"]>;
  const [x, y] = plate.polygons[0][0].reduce(([a, b], p) => [a + p[0] / plate.polygons[0][0].length, b + p[1] / plate.polygons[0][0].length], [0, 0]);
  return [x, y, plate.plane[0] * x + plate.plane[1] * y + plate.plane[2]];
}

/** Lays out the network of a project: nodes, links and what is wrong with them. */
export function airPlan(project: Project, input: AirNetworkInput, { geometry, openings, inner }: AirShape): AirPlan {
  const problems: PlanProblem[] = [];
  const tell = (severity: PlanProblem["severity"], code: string, link: string | null, message: string): void =>
    void problems.push({ severity, code, link, message });
  const zoneOf = (space: string): string | null => project.spaces[space]?.zone ?? null;
  const lows = new Map<string, number>();
  for (const [id, s] of Object.entries(project.spaces)) {
    const g = geometry.spaces.get(id);
    if (s.zone !== null && g) lows.set(s.zone, Math.min(lows.get(s.zone) ?? Infinity, g.low));
  }
  const zones = input.zones.filter((z) => lows.has(z));
  for (const z of input.zones)
    if (!lows.has(z)) tell("warning", "air-zone", null, `The network has zone "${project.zones[z]?.name ?? z}", which has no spaces.`);
  const place = new Map(zones.map((z, i) => [z, i]));
  const nodes: NetworkNode[] = zones.map((z) => ({ height: lows.get(z) as number, outdoors: false }));
  const roses: Float64Array[] = zones.map(() => NOWIND);
  const pressures = new Pressures(project, geometry, input);
  const links: NetworkLink[] = [];
  const planned: PlannedLink[] = [];
  const known = new Map<string, number>();
  /** The place outside a face, at a point of it. */
  const outside = (face: Face | null, at: Vector): number => {
    const height = GRAIN * Math.round(at[2] / GRAIN);
    // by the formula one place serves all points of a direction at one height; a table tells them apart
    const key =
      face === null
        ? `still ${height}`
        : input.pressures === "formula"
          ? `${face.azimuth} ${face.normal[2] > 0.5} ${height}`
          : `${face.host} ${at.map((v) => GRAIN * Math.round(v / GRAIN)).join(" ")}`;
    let node = known.get(key);
    if (node === undefined) {
      node = nodes.push({ height, outdoors: true }) - 1;
      roses.push(face === null ? NOWIND : pressures.rose(face.host, at, face.normal, face.azimuth));
      known.set(key, node);
    }
    return node;
  };
  const add = (link: NetworkLink, plan: PlannedLink): void => {
    links.push(link);
    planned.push(plan);
  };

  // cracks of a zone in one direction at one height are one
  const cracks = new Map<
    string,
    { from: number; to: number; height: number; size: number; at: Vector; way: Vector; ends: PlannedLink["ends"]; name: string }
  >();
  const leak = (
    key: string,
    from: number,
    to: number,
    height: number,
    size: number,
    at: Vector,
    way: Vector,
    ends: PlannedLink["ends"],
    name: string,
  ): void => {
    const before = cracks.get(key);
    if (before) before.size += size;
    else cracks.set(key, { from, to, height, size, at, way, ends, name });
  };
  for (const face of [...geometry.faces].sort((a, b) => (a.key < b.key ? -1 : 1))) {
    const zone = zoneOf(face.space);
    const own = zone === null ? undefined : place.get(zone);
    if (zone === null || own === undefined) continue;
    const size = (faceLeakage(input, face) * face.area) / 3600 / pow(CLASS_PRESSURE, CRACK_EXPONENT);
    if (size <= 0) continue;
    const middle = faceMiddle(face);
    const way: Vector = face.normal;
    if (face.contact === "outdoors") {
      const heights = face.kind === "wall" ? [face.low + (face.high - face.low) / 4, face.high - (face.high - face.low) / 4] : [(face.low + face.high) / 2];
      for (const z of heights) {
        const at: Vector = [middle[0], middle[1], z];
        const to = outside(face, at);
        leak(`${own} ${to}`, own, to, nodes[to].height, size / heights.length, at, way, [zone, null], `Cracks, ${leakagePart(face)}`);
      }
    } else if (face.contact === "space" && face.partnerSpace !== null) {
      const beyond = zoneOf(face.partnerSpace);
      const other = beyond === null ? undefined : place.get(beyond);
      if (beyond === null || other === undefined || other <= own) continue;
      const z = (face.low + face.high) / 2;
      const height = GRAIN * Math.round(z / GRAIN);
      leak(`${own} ${other} ${height}`, own, other, z, size, [middle[0], middle[1], z], way, [zone, beyond], "Cracks, inside");
    }
  }
  for (const c of cracks.values())
    add(
      { kind: "crack", from: c.from, to: c.to, height: c.height, coefficient: c.size, exponent: CRACK_EXPONENT },
      {
        record: null,
        name: c.name,
        kind: "crack",
        ends: c.ends,
        at: c.at,
        way: c.way,
        area: 0,
        control: ALWAYS,
        least: 0,
        senses: null,
        schedule: null,
        level: false,
      },
    );

  const openingsOf = new Map<string, PlacedOpening[]>();
  for (const o of openings) {
    const list = openingsOf.get(openingKey(o));
    if (list) list.push(o);
    else openingsOf.set(openingKey(o), [o]);
  }
  const innerOf = new Map(inner.map((o) => [openingKey(o), o]));
  const facesAt = (host: string): Face[] => geometry.faces.filter((f) => f.host === host);
  /** The node of a zone, or −1 with the reason told. */
  const nodeOf = (zone: string | null, id: string, name: string): number => {
    const node = zone === null ? undefined : place.get(zone);
    if (node !== undefined) return node;
    tell(
      "warning",
      "air-outside-network",
      id,
      `"${name}" leads to ${zone === null ? "a space without a zone" : `"${project.zones[zone]?.name ?? zone}"`}, which is not in the network; it is left out.`,
    );
    return -1;
  };
  const endOf = (end: LinkEnd, level: number, id: string, name: string): { node: number; face: Face | null } => {
    if (end.zone !== null) return { node: nodeOf(end.zone, id, name), face: null };
    const face = end.host === undefined ? null : (facesAt(end.host).find((f) => f.contact === "outdoors") ?? null);
    if (end.host !== undefined && face === null) {
      tell("error", "air-host", id, `"${name}" ends at a face that does not touch outdoors.`);
      return { node: -1, face: null };
    }
    const at: Vector = face ? [...(faceMiddle(face).slice(0, 2) as [number, number]), level] : [0, 0, level];
    return { node: outside(face, at), face };
  };
  const zoneMiddle = (zone: string | null): Vector | null => {
    const all = Object.entries(project.spaces).flatMap(([id, s]) => (s.zone === zone ? [...(geometry.spaces.get(id)?.outline ?? [])] : []));
    return all.length > 0 ? [all.reduce((s, p) => s + p[0], 0) / all.length, all.reduce((s, p) => s + p[1], 0) / all.length, lows.get(zone ?? "") ?? 0] : null;
  };

  for (const [id, l] of Object.entries(input.links)) {
    if (l.kind === "fan") {
      const [a, b] = [endOf(l.from, l.level, id, l.name), endOf(l.to, l.level, id, l.name)];
      if (a.node < 0 || b.node < 0) continue;
      if (a.node === b.node || (l.from.zone === null && l.to.zone === null)) {
        tell("error", "air-loop", id, `"${l.name}" begins and ends in the same place.`);
        continue;
      }
      const middle = zoneMiddle(l.from.zone ?? l.to.zone) ?? [0, 0, 0];
      const face = a.face ?? b.face;
      add(
        { kind: "fan", from: a.node, to: b.node, height: l.level, shutOff: l.pressure, free: l.flow },
        {
          record: id,
          name: l.name,
          kind: "fan",
          ends: [l.from.zone, l.to.zone],
          at: face ? [faceMiddle(face)[0], faceMiddle(face)[1], l.level] : [middle[0], middle[1], l.level],
          way: wayOf(l.from.zone === null ? null : zoneMiddle(l.from.zone), l.to.zone === null ? null : zoneMiddle(l.to.zone), face, a.face !== null),
          area: 0,
          control: ALWAYS,
          least: 0,
          senses: null,
          schedule: l.schedule,
          level: false,
        },
      );
      continue;
    }
    if (l.kind === "opening") {
      const equal = openingsOf.get(l.opening) ?? [];
      const o = equal.length > 0 ? equal[Math.floor(equal.length / 2)] : undefined;
      const i = innerOf.get(l.opening);
      const found = o ?? i;
      if (!found) {
        tell("error", "air-opening-gone", id, `"${l.name}" belongs to a window or door that is no longer there.`);
        continue;
      }
      const face = geometry.byKey.get(found.face) as Face;
      const zone = zoneOf(face.space);
      const from = nodeOf(zone, id, l.name);
      if (from < 0) continue;
      const beyond = i ? zoneOf(i.spaces[1]) : null;
      const to = i ? nodeOf(beyond, id, l.name) : outside(face, middleOf(found.corners));
      if (to < 0) continue;
      // both spaces belong to one zone: their air is one already
      if (to === from) continue;
      const way = openingWay(input, l, usualControl("opening", !!i, found.use));
      const share = way.free ?? (o ? (o.use === "door" ? 1 : o.operable) : 1);
      const area = (o ? equal.reduce((sum, x) => sum + x.area, 0) : found.area) * share;
      if (area <= 0) {
        tell("error", "air-fixed", id, `"${l.name}" cannot be opened: tell the share of it that is free when it is open.`);
        continue;
      }
      const shut = i && i.use === "door" ? Math.min(1, (UNDERCUT * found.width) / area) : 0;
      const level = Math.abs(face.normal[2]) > 0.5 || found.high - found.low < LEVEL_OPENING;
      const common = { from, to };
      add(
        level
          ? { kind: "orifice", ...common, height: (found.low + found.high) / 2, area, discharge: way.discharge }
          : { kind: "opening", ...common, low: found.low, high: found.high, width: area / (found.high - found.low), discharge: way.discharge },
        {
          record: id,
          name: l.name,
          kind: "opening",
          ends: [zone, beyond],
          at: middleOf(found.corners),
          way: face.normal,
          area,
          control: way.control,
          least: shut,
          senses: zone,
          schedule: null,
          level: Math.abs(face.normal[2]) > 0.5,
        },
      );
      continue;
    }
    const way = openingWay(input, l, usualControl(l.kind, false));
    if (l.kind === "grille") {
      const face = facesAt(l.host).find((f) => f.contact === "outdoors" || (f.contact === "space" && f.partnerSpace !== null));
      if (!face) {
        tell("error", "air-host", id, `"${l.name}" lies in a face that touches neither outdoors nor another space.`);
        continue;
      }
      const whole = facesAt(l.host).reduce((s, f) => s + f.area, 0);
      if (l.area > whole + 1e-9) tell("error", "air-larger", id, `"${l.name}" is larger than its wall: ${l.area.toFixed(2)} m² of ${whole.toFixed(2)} m².`);
      const floor = geometry.spaces.get(face.space)?.low ?? 0;
      const level = floor + l.level;
      if (face.wall && (level < face.low - 1e-6 || level > face.high + 1e-6))
        tell("error", "air-level", id, `"${l.name}" at ${l.level.toFixed(2)} m above the floor lies above or below its wall.`);
      const zone = zoneOf(face.space);
      const from = nodeOf(zone, id, l.name);
      if (from < 0) continue;
      const m = faceMiddle(face);
      const at: Vector = face.wall ? [m[0], m[1], level] : m;
      const beyond = face.contact === "space" ? zoneOf(face.partnerSpace as string) : null;
      const to = face.contact === "space" ? nodeOf(beyond, id, l.name) : outside(face, at);
      if (to < 0 || to === from) continue;
      add(
        { kind: "orifice", from, to, height: at[2], area: l.area, discharge: way.discharge },
        {
          record: id,
          name: l.name,
          kind: "grille",
          ends: [zone, beyond],
          at,
          way: face.normal,
          area: l.area,
          control: way.control,
          least: 0,
          senses: zone,
          schedule: null,
          level: !face.wall,
        },
      );
    } else if (l.kind === "floor opening") {
      const face = facesAt(l.host).find((f) => f.kind === "ceiling" && f.contact === "space" && f.partnerSpace !== null);
      if (!face || face.partnerSpace === null) {
        tell("error", "air-host", id, `"${l.name}" goes through a ceiling with no space above it.`);
        continue;
      }
      if (l.area > face.area + 1e-6)
        tell("error", "air-larger", id, `"${l.name}" is larger than the floor it goes through: ${l.area.toFixed(2)} m² of ${face.area.toFixed(2)} m².`);
      const [zone, beyond] = [zoneOf(face.space), zoneOf(face.partnerSpace)];
      const [from, to] = [nodeOf(zone, id, l.name), nodeOf(beyond, id, l.name)];
      if (from < 0 || to < 0 || from === to) continue;
      const at = faceMiddle(face);
      add(
        { kind: "orifice", from, to, height: at[2], area: l.area, discharge: way.discharge },
        {
          record: id,
          name: l.name,
          kind: l.kind,
          ends: [zone, beyond],
          at,
          way: [0, 0, 1],
          area: l.area,
          control: way.control,
          least: 0,
          senses: zone,
          schedule: null,
          level: true,
        },
      );
    } else {
      if (l.top <= l.bottom) {
        tell("error", "air-shaft", id, `The upper end of "${l.name}" is not above its lower end.`);
        continue;
      }
      const [a, b] = [endOf(l.from, l.bottom, id, l.name), endOf(l.to, l.top, id, l.name)];
      if (a.node < 0 || b.node < 0) continue;
      if (a.node === b.node || (l.from.zone === null && l.to.zone === null)) {
        tell("error", "air-loop", id, `"${l.name}" begins and ends in the same place.`);
        continue;
      }
      const m = zoneMiddle(l.from.zone ?? l.to.zone) ?? [0, 0, 0];
      add(
        // Δp = ζ·ρ/2·(V/A)², of air of 1.2 kg/m³
        { kind: "duct", from: a.node, to: b.node, bottom: l.bottom, top: l.top, resistance: (l.loss * 0.6) / (l.area * l.area) },
        {
          record: id,
          name: l.name,
          kind: "shaft",
          ends: [l.from.zone, l.to.zone],
          at: [m[0], m[1], l.top],
          way: [0, 0, 1],
          area: l.area,
          control: way.control,
          least: 0,
          senses: l.from.zone ?? l.to.zone,
          schedule: null,
          level: false,
        },
      );
    }
  }
  if (pressures.missing.size > 0) {
    const hosts = [...pressures.missing];
    tell(
      "error",
      "air-coefficients",
      null,
      `The ${input.pressures === "table" ? "table of wind pressures" : "flow study"} has no coefficients for ${hosts.length} ${hosts.length === 1 ? "face" : "faces"}, such as ${hosts[0]}: ${input.pressures === "table" ? "complete the table" : "run the study again"}, or take the formula.`,
    );
  }
  tellIslands(project, zones, links, nodes, planned, tell);
  tellFans(input, tell);
  return {
    zones,
    nodes,
    links,
    planned,
    roses: Float64Array.from(roses.flatMap((r) => [...r])),
    pressures,
    problems,
  };
}

const NOWIND = new Float64Array(72);
const ALWAYS: OpeningControl = { rule: "constant" };

/** Direction from one end to the other, of length 1. */
function wayOf(from: Vector | null, to: Vector | null, face: Face | null, outIsFirst: boolean): Vector {
  if (from && to) {
    const [x, y, z] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const l = Math.sqrt(x * x + y * y + z * z) || 1;
    return [x / l, y / l, z / l];
  }
  if (!face) return [0, 0, outIsFirst ? -1 : 1];
  const s = outIsFirst ? -1 : 1;
  return [s * face.normal[0], s * face.normal[1], s * face.normal[2]];
}

/** Zones from which no way leads outdoors, however small. */
function tellIslands(
  project: Project,
  zones: readonly string[],
  links: readonly NetworkLink[],
  nodes: readonly NetworkNode[],
  planned: readonly PlannedLink[],
  tell: (severity: PlanProblem["severity"], code: string, link: string | null, message: string) => void,
): void {
  const root = Int32Array.from(nodes, (_, i) => i);
  const of = (i: number): number => {
    while (root[i] !== i) i = root[i] = root[root[i]];
    return i;
  };
  for (const l of links) root[of(l.from)] = of(l.to);
  const free = new Set(nodes.flatMap((n, i) => (n.outdoors ? [of(i)] : [])));
  const cut = zones.filter((_, i) => !free.has(of(i)));
  if (cut.length > 0)
    tell(
      "error",
      "air-island",
      null,
      `No way leads outdoors from ${cut
        .slice(0, 4)
        .map((z) => `"${project.zones[z]?.name ?? z}"`)
        .join(
          ", ",
        )}${cut.length > 4 ? ` and ${cut.length - 4} more` : ""}: give them an opening, a crack or a way to a zone that has one, or take them out of the network.`,
    );
  const open = new Set(planned.flatMap((p) => (p.record === null ? [] : p.ends.flatMap((e) => e ?? []))));
  for (const z of zones)
    if (!open.has(z) && !cut.includes(z))
      tell("warning", "air-cracks-only", null, `"${project.zones[z]?.name ?? z}" has cracks alone: no opening, grille or fan of the network leads into it.`);
}

/** Two fans that blow against each other between the same ends. */
function tellFans(input: AirNetworkInput, tell: (severity: PlanProblem["severity"], code: string, link: string | null, message: string) => void): void {
  const key = (e: LinkEnd): string => (e.zone === null ? `out ${e.host ?? ""}` : e.zone);
  const fans = Object.entries(input.links).flatMap(([id, l]) => (l.kind === "fan" ? [{ id, l }] : []));
  fans.forEach(({ id, l }, i) => {
    const against = fans.slice(0, i).find((f) => key(f.l.from) === key(l.to) && key(f.l.to) === key(l.from));
    if (against) tell("warning", "air-against", id, `"${l.name}" blows against "${against.l.name}" between the same two places.`);
  });
}

/** A window, door or way through without a link. */
export interface Unconnected {
  /** @see openingKey */
  readonly key: string;
  readonly name: string;
  /** Its name with that of its spaces. */
  readonly label: string;
  readonly at: Vector;
  readonly record: string;
  readonly use: "window" | "door" | "opening";
  readonly inside: boolean;
}

/** Windows, doors and ways through that no link of the network has, though their zones take part. */
export function unconnected(project: Project, input: Pick<AirNetworkInput, "links" | "zones">, { geometry, openings, inner }: AirShape): Unconnected[] {
  const linked = new Set(Object.values(input.links).flatMap((l) => (l.kind === "opening" ? [l.opening] : [])));
  const zones = new Set(input.zones);
  const taking = (space: string): boolean => zones.has(project.spaces[space]?.zone ?? "");
  const out: Unconnected[] = [];
  const told = (
    o: { readonly face: string; readonly record: string; readonly name: string; readonly corners: readonly Vector[] },
    use: Unconnected["use"],
    spaces: readonly string[],
  ): void => {
    const key = openingKey(o);
    if (linked.has(key)) return;
    linked.add(key);
    const names = spaces.map((s) => project.spaces[s].name).join(" and ");
    out.push({
      key,
      name: o.name,
      label: names.length > 2 && o.name.includes(names) ? o.name : `${o.name}, ${names}`,
      at: middleOf(o.corners),
      record: o.record,
      use,
      inside: spaces.length > 1,
    });
  };
  for (const o of openings) {
    const face = geometry.byKey.get(o.face);
    if (face && taking(face.space) && (o.use === "door" || o.operable > 0)) told(o, o.use, [face.space]);
  }
  for (const o of inner) if (o.spaces.every(taking) && project.spaces[o.spaces[0]].zone !== project.spaces[o.spaces[1]].zone) told(o, o.use, o.spaces);
  return out;
}

/** Whether the windows of a zone are ruled by an input at all: the temperature above which they open is given. */
export function windowsRuled(project: Project, space: string): boolean {
  return effective(project, "space", space, "windowOpenAbove").value !== null;
}
