import type { Face, InnerOpening, PlacedOpening, Vector } from "../geometry/index.ts";
import type { AirLink, AirNetworkInput, LinkEnd, OpeningControl, Project } from "../model/index.ts";
import { pow } from "../numeric/index.ts";
import { DIRECTIONS, Pressures } from "./facadePoints.ts";
import type { NetworkLink, NetworkNode } from "./linkFlow.ts";
import { faceLeakage, leakagePart, openingWay, usualControl } from "./linkRules.ts";
import { islands } from "./network.ts";
import { faceMiddle, middleOf, openingKey, type AirShape } from "./places.ts";
import { CRACK_EXPONENT } from "./pressure.ts";

/** Pressure at which leakage classes are told, Pa. */
const CLASS_PRESSURE = 50;
/** Gap below a shut inner door, m: typical, unverified. */
const UNDERCUT = 0.008;
/** Openings lower than this see one pressure over their height, m. */
const LEVEL_OPENING = 0.2;
/** Places outside and cracks are told apart by this in height, m. */
const GRAIN = 0.5;
const NOWIND = new Float64Array(DIRECTIONS);
const ALWAYS: OpeningControl = { rule: "constant" };

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

type LinkOf<K extends AirLink["kind"]> = Extract<AirLink, { kind: K }>;
type Crack = { from: number; to: number; height: number; size: number } & Pick<PlannedLink, "at" | "way" | "ends" | "name">;
/** What a planned link is unless it says otherwise. */
const PLAIN = { area: 0, control: ALWAYS, least: 0, senses: null, schedule: null, level: false } as const;

/** Lays out the network of a project: nodes, links and what is wrong with them. */
export function airPlan(project: Project, input: AirNetworkInput, shape: AirShape): AirPlan {
  return new PlanMaker(project, input, shape).made();
}

class PlanMaker {
  private readonly project: Project;
  private readonly input: AirNetworkInput;
  private readonly shape: AirShape;
  private readonly problems: PlanProblem[] = [];
  private readonly zones: readonly string[];
  private readonly place: ReadonlyMap<string, number>;
  /** Lowest floor of each zone, m. */
  private readonly lows = new Map<string, number>();
  private readonly nodes: NetworkNode[];
  private readonly roses: Float64Array[];
  private readonly pressures: Pressures;
  private readonly links: NetworkLink[] = [];
  private readonly planned: PlannedLink[] = [];
  private readonly outdoors = new Map<string, number>();
  private readonly openingsOf = new Map<string, PlacedOpening[]>();
  private readonly innerOf: ReadonlyMap<string, InnerOpening>;

  constructor(project: Project, input: AirNetworkInput, shape: AirShape) {
    const { geometry } = shape;
    this.project = project;
    this.input = input;
    this.shape = shape;
    for (const [id, s] of Object.entries(project.spaces)) {
      const g = geometry.spaces.get(id);
      if (s.zone !== null && g) this.lows.set(s.zone, Math.min(this.lows.get(s.zone) ?? Infinity, g.low));
    }
    this.zones = input.zones.filter((z) => this.lows.has(z));
    for (const z of input.zones)
      if (!this.lows.has(z)) this.tell("warning", "air-zone", null, `The network has zone "${project.zones[z]?.name ?? z}", which has no spaces.`);
    this.place = new Map(this.zones.map((z, i) => [z, i]));
    this.nodes = this.zones.map((z) => ({ height: this.lows.get(z) as number, outdoors: false }));
    this.roses = this.zones.map(() => NOWIND);
    this.pressures = new Pressures(project, geometry, input);
    for (const o of shape.openings) {
      const list = this.openingsOf.get(openingKey(o));
      if (list) list.push(o);
      else this.openingsOf.set(openingKey(o), [o]);
    }
    this.innerOf = new Map(shape.inner.map((o) => [openingKey(o), o]));
  }

  made(): AirPlan {
    const { input, zones, nodes, links, planned, pressures, problems } = this;
    this.cracks();
    for (const [id, l] of Object.entries(input.links))
      if (l.kind === "fan") this.fan(id, l);
      else if (l.kind === "opening") this.opening(id, l);
      else if (l.kind === "grille") this.grille(id, l);
      else if (l.kind === "floor opening") this.floorOpening(id, l);
      else this.shaft(id, l);
    if (pressures.fault !== null) this.tell("error", "air-coefficients", null, pressures.fault);
    else if (pressures.missing.size > 0) {
      const hosts = [...pressures.missing];
      const [what, mend] = input.pressures === "table" ? ["table of wind pressures", "complete the table"] : ["flow study", "run the study again"];
      this.tell(
        "error",
        "air-coefficients",
        null,
        `The ${what} has no coefficients for ${hosts.length} ${hosts.length === 1 ? "face" : "faces"}, such as ${hosts[0]}: ${mend}, or take the formula.`,
      );
    }
    this.tellIslands();
    this.tellFans();
    return { zones, nodes, links, planned, roses: Float64Array.from(this.roses.flatMap((r) => [...r])), pressures, problems };
  }

  private tell(severity: PlanProblem["severity"], code: string, link: string | null, message: string): void {
    this.problems.push({ severity, code, link, message });
  }

  private add(link: NetworkLink, plan: Omit<PlannedLink, keyof typeof PLAIN> & Partial<PlannedLink>): void {
    this.links.push(link);
    this.planned.push({ ...PLAIN, ...plan });
  }

  private zoneOf(space: string): string | null {
    return this.project.spaces[space]?.zone ?? null;
  }

  private zoneName(zone: string): string {
    return this.project.zones[zone]?.name ?? zone;
  }

  /** The place outside a face, at a point of it; null: sheltered from wind. */
  private outside(face: Face | null, at: Vector): number {
    const height = GRAIN * Math.round(at[2] / GRAIN);
    // by the formula one place serves all points of a direction at one height; a table tells them apart
    const key =
      face === null
        ? `still ${height}`
        : this.input.pressures === "formula"
          ? `${face.azimuth} ${Math.round(face.normal[2])} ${height}`
          : `${face.host} ${at.map((v) => GRAIN * Math.round(v / GRAIN)).join(" ")}`;
    let node = this.outdoors.get(key);
    if (node === undefined) {
      node = this.nodes.push({ height, outdoors: true }) - 1;
      this.roses.push(face === null ? NOWIND : this.pressures.rose(face.host, at, face.normal, face.azimuth));
      this.outdoors.set(key, node);
    }
    return node;
  }

  /** The node of a zone, or −1 with the reason told. */
  private nodeOf(zone: string | null, id: string, name: string): number {
    const node = zone === null ? undefined : this.place.get(zone);
    if (node !== undefined) return node;
    const where = zone === null ? "a space without a zone" : `"${this.zoneName(zone)}"`;
    this.tell("warning", "air-outside-network", id, `"${name}" leads to ${where}, which is not in the network; it is left out.`);
    return -1;
  }

  /** Middle of a zone in plan, on its lowest floor. */
  private zoneMiddle(zone: string | null): Vector | null {
    const all = Object.entries(this.project.spaces).flatMap(([id, s]) => (s.zone === zone ? [...(this.shape.geometry.spaces.get(id)?.outline ?? [])] : []));
    if (zone === null || all.length === 0) return null;
    return [all.reduce((s, p) => s + p[0], 0) / all.length, all.reduce((s, p) => s + p[1], 0) / all.length, this.lows.get(zone) ?? 0];
  }

  private facesAt(host: string): Face[] {
    return this.shape.geometry.faces.filter((f) => f.host === host);
  }

  /** Where a shaft or fan ends: its node, −1 with the reason told, and the face outdoors. */
  private endOf(end: LinkEnd, level: number, id: string, name: string): { node: number; face: Face | null } {
    if (end.zone !== null) return { node: this.nodeOf(end.zone, id, name), face: null };
    const face = end.host === undefined ? null : (this.facesAt(end.host).find((f) => f.contact === "outdoors") ?? null);
    if (end.host !== undefined && face === null) {
      this.tell("error", "air-host", id, `"${name}" ends at a face that does not touch outdoors.`);
      return { node: -1, face: null };
    }
    const [x, y] = face ? faceMiddle(face) : [0, 0];
    return { node: this.outside(face, [x, y, level]), face };
  }

  /** Both ends of a shaft or fan; null with the reason told. */
  private bothEnds(
    id: string,
    l: LinkOf<"fan" | "shaft">,
    levels: readonly [number, number],
  ): { a: number; b: number; first: Face | null; second: Face | null } | null {
    const [a, b] = [this.endOf(l.from, levels[0], id, l.name), this.endOf(l.to, levels[1], id, l.name)];
    if (a.node < 0 || b.node < 0) return null;
    if (a.node === b.node || (l.from.zone === null && l.to.zone === null)) {
      this.tell("error", "air-loop", id, `"${l.name}" begins and ends in the same place.`);
      return null;
    }
    return { a: a.node, b: b.node, first: a.face, second: b.face };
  }

  /** Cracks by the leakage of the faces; those of a zone in one direction at one height are one. */
  private cracks(): void {
    const found = new Map<string, Crack>();
    const leak = (key: string, crack: Crack): void => {
      const before = found.get(key);
      if (before) before.size += crack.size;
      else found.set(key, crack);
    };
    for (const face of [...this.shape.geometry.faces].sort((a, b) => (a.key < b.key ? -1 : 1))) {
      const zone = this.zoneOf(face.space);
      const own = zone === null ? undefined : this.place.get(zone);
      if (zone === null || own === undefined) continue;
      const size = (faceLeakage(this.input, face) * face.area) / 3600 / pow(CLASS_PRESSURE, CRACK_EXPONENT);
      if (size <= 0) continue;
      const [x, y] = faceMiddle(face);
      if (face.contact === "outdoors") {
        const quarter = (face.high - face.low) / 4;
        const heights = face.kind === "wall" ? [face.low + quarter, face.high - quarter] : [(face.low + face.high) / 2];
        for (const z of heights) {
          const to = this.outside(face, [x, y, z]);
          leak(`${own} ${to}`, {
            from: own,
            to,
            height: this.nodes[to].height,
            size: size / heights.length,
            at: [x, y, z],
            way: face.normal,
            ends: [zone, null],
            name: `Cracks, ${leakagePart(face)}`,
          });
        }
      } else if (face.contact === "space" && face.partnerSpace !== null) {
        const beyond = this.zoneOf(face.partnerSpace);
        const other = beyond === null ? undefined : this.place.get(beyond);
        if (beyond === null || other === undefined || other <= own) continue;
        const z = (face.low + face.high) / 2;
        const at: Vector = [x, y, z];
        const key = `${own} ${other} ${GRAIN * Math.round(z / GRAIN)}`;
        leak(key, { from: own, to: other, height: z, size, at, way: face.normal, ends: [zone, beyond], name: "Cracks, inside" });
      }
    }
    for (const { from, to, height, size, name, ends, at, way } of found.values())
      this.add({ kind: "crack", from, to, height, coefficient: size, exponent: CRACK_EXPONENT }, { record: null, name, kind: "crack", ends, at, way });
  }

  /** A window or door, outdoors or within. */
  private opening(id: string, l: LinkOf<"opening">): void {
    const equal = this.openingsOf.get(l.opening) ?? [];
    const o = equal.length > 0 ? equal[Math.floor(equal.length / 2)] : undefined;
    const i = this.innerOf.get(l.opening);
    const found = o ?? i;
    if (!found) return this.tell("error", "air-opening-gone", id, `"${l.name}" belongs to a window or door that is no longer there.`);
    const face = this.shape.geometry.byKey.get(found.face) as Face;
    const zone = this.zoneOf(face.space);
    const from = this.nodeOf(zone, id, l.name);
    if (from < 0) return;
    const beyond = i ? this.zoneOf(i.spaces[1]) : null;
    const to = i ? this.nodeOf(beyond, id, l.name) : this.outside(face, middleOf(found.corners));
    // where both spaces belong to one zone, their air is one already
    if (to < 0 || to === from) return;
    const way = openingWay(this.input, l, usualControl("opening", !!i, found.use));
    const share = way.free ?? (o ? (o.use === "door" ? 1 : o.operable) : 1);
    const area = (o ? equal.reduce((sum, x) => sum + x.area, 0) : found.area) * share;
    if (area <= 0) return this.tell("error", "air-fixed", id, `"${l.name}" cannot be opened: tell the share of it that is free when it is open.`);
    const flat = Math.abs(face.normal[2]) > 0.5;
    const { discharge } = way;
    this.add(
      flat || found.high - found.low < LEVEL_OPENING
        ? { kind: "orifice", from, to, height: (found.low + found.high) / 2, area, discharge }
        : { kind: "opening", from, to, low: found.low, high: found.high, width: area / (found.high - found.low), discharge },
      {
        record: id,
        name: l.name,
        kind: "opening",
        ends: [zone, beyond],
        at: middleOf(found.corners),
        way: face.normal,
        area,
        control: way.control,
        least: i && i.use === "door" ? Math.min(1, (UNDERCUT * found.width) / area) : 0,
        senses: zone,
        level: flat,
      },
    );
  }

  private grille(id: string, l: LinkOf<"grille">): void {
    const faces = this.facesAt(l.host);
    const face = faces.find((f) => f.contact === "outdoors" || (f.contact === "space" && f.partnerSpace !== null));
    if (!face) return this.tell("error", "air-host", id, `"${l.name}" lies in a face that touches neither outdoors nor another space.`);
    const whole = faces.reduce((s, f) => s + f.area, 0);
    if (l.area > whole + 1e-9) this.tell("error", "air-larger", id, `"${l.name}" is larger than its wall: ${l.area.toFixed(2)} m² of ${whole.toFixed(2)} m².`);
    const level = (this.shape.geometry.spaces.get(face.space)?.low ?? 0) + l.level;
    if (face.wall && (level < face.low - 1e-6 || level > face.high + 1e-6))
      this.tell("error", "air-level", id, `"${l.name}" at ${l.level.toFixed(2)} m above the floor lies above or below its wall.`);
    const zone = this.zoneOf(face.space);
    const from = this.nodeOf(zone, id, l.name);
    if (from < 0) return;
    const m = faceMiddle(face);
    const at: Vector = face.wall ? [m[0], m[1], level] : m;
    const beyond = face.partnerSpace === null ? null : this.zoneOf(face.partnerSpace);
    const to = face.contact === "space" ? this.nodeOf(beyond, id, l.name) : this.outside(face, at);
    if (to < 0 || to === from) return;
    const { control, discharge } = openingWay(this.input, l, usualControl("grille", false));
    this.add(
      { kind: "orifice", from, to, height: at[2], area: l.area, discharge },
      { record: id, name: l.name, kind: l.kind, ends: [zone, beyond], at, way: face.normal, area: l.area, control, senses: zone, level: !face.wall },
    );
  }

  private floorOpening(id: string, l: LinkOf<"floor opening">): void {
    const face = this.facesAt(l.host).find((f) => f.kind === "ceiling" && f.contact === "space" && f.partnerSpace !== null);
    if (!face || face.partnerSpace === null) return this.tell("error", "air-host", id, `"${l.name}" goes through a ceiling with no space above it.`);
    if (l.area > face.area + 1e-6)
      this.tell("error", "air-larger", id, `"${l.name}" is larger than the floor it goes through: ${l.area.toFixed(2)} m² of ${face.area.toFixed(2)} m².`);
    const [zone, beyond] = [this.zoneOf(face.space), this.zoneOf(face.partnerSpace)];
    const [from, to] = [this.nodeOf(zone, id, l.name), this.nodeOf(beyond, id, l.name)];
    if (from < 0 || to < 0 || from === to) return;
    const at = faceMiddle(face);
    const { control, discharge } = openingWay(this.input, l, usualControl(l.kind, true));
    this.add(
      { kind: "orifice", from, to, height: at[2], area: l.area, discharge },
      { record: id, name: l.name, kind: l.kind, ends: [zone, beyond], at, way: [0, 0, 1], area: l.area, control, senses: zone, level: true },
    );
  }

  private shaft(id: string, l: LinkOf<"shaft">): void {
    if (l.top <= l.bottom) return this.tell("error", "air-shaft", id, `The upper end of "${l.name}" is not above its lower end.`);
    const ends = this.bothEnds(id, l, [l.bottom, l.top]);
    if (!ends) return;
    const m = this.zoneMiddle(l.from.zone ?? l.to.zone) ?? [0, 0, 0];
    const { control } = openingWay(this.input, l, usualControl(l.kind, false));
    this.add(
      // Δp = ζ·ρ/2·(V/A)², of air of 1.2 kg/m³
      { kind: "duct", from: ends.a, to: ends.b, bottom: l.bottom, top: l.top, resistance: (l.loss * 0.6) / (l.area * l.area) },
      {
        record: id,
        name: l.name,
        kind: l.kind,
        ends: [l.from.zone, l.to.zone],
        at: [m[0], m[1], l.top],
        way: [0, 0, 1],
        area: l.area,
        control,
        senses: l.from.zone ?? l.to.zone,
      },
    );
  }

  private fan(id: string, l: LinkOf<"fan">): void {
    const ends = this.bothEnds(id, l, [l.level, l.level]);
    if (!ends) return;
    const face = ends.first ?? ends.second;
    const [x, y] = face ? faceMiddle(face) : (this.zoneMiddle(l.from.zone ?? l.to.zone) ?? [0, 0]);
    this.add(
      { kind: "fan", from: ends.a, to: ends.b, height: l.level, shutOff: l.pressure, free: l.flow },
      {
        record: id,
        name: l.name,
        kind: l.kind,
        ends: [l.from.zone, l.to.zone],
        at: [x, y, l.level],
        way: wayOf(this.zoneMiddle(l.from.zone), this.zoneMiddle(l.to.zone), face, l.from.zone === null),
        schedule: l.schedule,
      },
    );
  }

  /** Zones from which no way leads outdoors, and those whose only ways are cracks. */
  private tellIslands(): void {
    const cut = islands(this.nodes, this.links).flatMap((group) => group.flatMap((n) => (n < this.zones.length ? [this.zones[n]] : [])));
    if (cut.length > 0) {
      const names = cut.slice(0, 4).map((z) => `"${this.zoneName(z)}"`);
      const more = cut.length > 4 ? ` and ${cut.length - 4} more` : "";
      this.tell(
        "error",
        "air-island",
        null,
        `No way leads outdoors from ${names.join(", ")}${more}: give them an opening, a crack or a way to a zone that has one, or take them out of the network.`,
      );
    }
    const open = new Set(this.planned.flatMap((p) => (p.record === null ? [] : p.ends.flatMap((e) => e ?? []))));
    for (const z of this.zones)
      if (!open.has(z) && !cut.includes(z))
        this.tell("warning", "air-cracks-only", null, `"${this.zoneName(z)}" has cracks alone: no opening, grille or fan of the network leads into it.`);
  }

  /** Fans that blow against each other between the same two places. */
  private tellFans(): void {
    const key = (e: LinkEnd): string => (e.zone === null ? `out ${e.host ?? ""}` : e.zone);
    const fans = Object.entries(this.input.links).flatMap(([id, l]) => (l.kind === "fan" ? [{ id, l }] : []));
    fans.forEach(({ id, l }, i) => {
      const against = fans.slice(0, i).find((f) => key(f.l.from) === key(l.to) && key(f.l.to) === key(l.from));
      if (against) this.tell("warning", "air-against", id, `"${l.name}" blows against "${against.l.name}" between the same two places.`);
    });
  }
}

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
