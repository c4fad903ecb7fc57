import { deriveFaces, freeId, namedRing, type Face, type Vector } from "../geometry/index.ts";
import { starterUse } from "../inputs/index.ts";
import { starterUses, type StarterUse } from "../library/index.ts";
import { signedArea, type Corner, type Point, type Project, type Space, quantity } from "../model/index.ts";
import { named, round, suggestionFor, type Made, type MatchRow, type Tell } from "./importParts.ts";
import type { BuildingRecords, SurfaceRecord } from "./records.ts";
import { asPrism, cleanRing, closedUp, flattened, ringNormal, turnOutward, type ShellSide } from "./shells.ts";

/** Walls of a file stand within this of the plane of their space's outline, m. */
const NEAR = 0.03;

/** Space types a file's words can be matched with: one of each starter use. */
export function uses(project: Project, records: BuildingRecords, infiltration: number, given: StarterUse): Map<string, string> {
  const out = new Map<string, string>();
  const main = Object.keys(project.spaceTypes)[0];
  if (!records.spaces.some((s) => s.use !== null)) return out;
  for (const u of starterUses) {
    if (u === given) {
      out.set(u, main);
      continue;
    }
    const { spaceTypes, schedules } = starterUse(u, infiltration);
    const [key] = Object.keys(spaceTypes);
    const own = `use_${u}`;
    const rename = (text: string): string => `${u}_${text}`;
    project.spaceTypes[own] = {
      ...spaceTypes[key],
      inputs: Object.fromEntries(
        Object.entries(spaceTypes[key].inputs).map(([f, v]) => [f, typeof v === "string" && Object.hasOwn(schedules, v) ? rename(v) : v]),
      ),
    } as Project["spaceTypes"][string];
    for (const [k, s] of Object.entries(schedules)) project.schedules[rename(k)] = s;
    out.set(u, own);
  }
  out.set("", main);
  return out;
}

/** Spaces of the file with their sides, zones and inputs; told apart where each of their surfaces lies. */
export function spaces(
  records: BuildingRecords,
  project: Project,
  storeyOf: (space: string, low: number) => string,
  zoneOf: ReadonlyMap<string, string>,
  typeOf: ReadonlyMap<string, string>,
  scheduleOf: ReadonlyMap<string, string>,
  matches: Readonly<Record<string, string>>,
  matching: MatchRow[],
  tell: Tell,
): Made {
  const made: Made = new Map();
  const bySpace = new Map<string, SurfaceRecord[]>();
  for (const s of records.surfaces) for (const a of new Set(s.adjacent)) bySpace.set(a, [...(bySpace.get(a) ?? []), s]);
  const words = new Map<string, number>();
  for (const s of records.spaces) if (s.use !== null) words.set(s.use, (words.get(s.use) ?? 0) + 1);
  const useOf = new Map<string, string>();
  for (const [word, count] of words) {
    const key = `use:${word}`;
    const guess = [...typeOf.keys()].find((u) => u !== "" && word.toLowerCase().includes(u.slice(0, 5)));
    const chosen = matches[key] && Object.hasOwn(project.spaceTypes, matches[key]) ? matches[key] : guess ? (typeOf.get(guess) as string) : null;
    useOf.set(word, chosen ?? Object.keys(project.spaceTypes)[0]);
    const options = Object.entries(project.spaceTypes).map(([k, t]) => ({ id: k, name: t.name }));
    matching.push({ key, kind: "use", name: word, count, chosen, options, suggested: suggestionFor(word, options) });
  }
  let turnedAll = 0;
  for (const s of records.spaces) {
    const sides: ShellSide[] = [];
    for (const f of bySpace.get(s.id) ?? []) {
      // a surface is given as seen from outside its first space
      const ring = cleanRing(f.adjacent[0] === s.id ? f.ring : [...f.ring].reverse());
      if (!ring) {
        tell("left out", true, `Surface "${f.id}" of ${s.name} has fewer than three corners or no area; it is left out.`);
        continue;
      }
      const parts = flattened(ring);
      if (parts) {
        tell("mended", true, `Surface "${f.id}" of ${s.name} is not plane; it is taken as ${parts.length} triangles.`);
        for (const part of parts) sides.push({ id: f.id, ring: part });
      } else sides.push({ id: f.id, ring });
    }
    const shape = form(s, sides, tell);
    if (!shape) continue;
    turnedAll += shape.turned;
    const own = freeId(project.spaces, s.id);
    const storey = storeyOf(s.id, shape.low);
    const level = project.storeys[storey];
    const hosts = new Map<string, string[]>();
    let value: Space["form"];
    if (shape.kind === "prism") {
      const base = round(shape.low - level.elevation);
      value = {
        kind: "prism",
        outline: namedRing([], shape.ring).map((p) => ({ ...p, x: round(p.x), y: round(p.y) })),
        floor: "floor",
        ceiling: "ceiling",
        ...(Math.abs(base) > 0.005 ? { base } : {}),
        ...(Math.abs(shape.high - shape.low - (level.height - (Math.abs(base) > 0.005 ? base : 0))) > 0.001 ? { height: round(shape.high - shape.low) } : {}),
      };
    } else {
      const faces: Record<string, { ring: Corner[] }> = {};
      for (const side of shape.sides) {
        const key = freeId(faces, side.id);
        faces[key] = { ring: side.ring.map(([x, y, z]): Corner => [round(x), round(y), round(z)]) };
        hosts.set(side.id, [...(hosts.get(side.id) ?? []), `${own}/${key}`]);
      }
      value = { kind: "faces", faces };
    }
    const inputs: Space["inputs"] = {};
    const floor = s.area ?? shape.area;
    /** A figure within its usual limits, or a message and nothing. */
    const within = (what: string, v: number | null, low: number, high: number, unit: string): number | undefined => {
      if (v === null) return undefined;
      if (v >= low && v <= high) return v;
      tell("left out", true, `${s.name}: ${what} of ${Number(v.toPrecision(4))} ${unit} is not between ${low} and ${high}; the space type's stays.`);
      return undefined;
    };
    const put = (field: "lightingPower" | "appliancePower" | "peopleDensity" | "heatingSetpoint" | "coolingSetpoint", v: number | undefined): void => {
      if (v !== undefined) inputs[field] = v;
    };
    put("lightingPower", within("lighting", s.lighting, 0, 200, "W/m²"));
    put("appliancePower", within("equipment", s.appliances, 0, 2000, "W/m²"));
    put("peopleDensity", within("people", s.people === null || floor === 0 ? null : s.people / floor, 0, 5, "1/m²"));
    for (const [field, ref] of [
      ["peopleSchedule", s.schedules.people],
      ["lightingSchedule", s.schedules.lighting],
      ["applianceSchedule", s.schedules.appliances],
    ] as const) {
      const schedule = ref === null ? undefined : scheduleOf.get(ref);
      if (schedule && project.schedules[schedule].kind === "fraction") (inputs as Record<string, unknown>)[field] = schedule;
    }
    let zone = s.zone === null ? undefined : zoneOf.get(s.zone);
    if (!zone) {
      zone = freeId(project.zones, own);
      project.zones[zone] = { name: named(s.name, s.id), services: null, inputs: {} };
      if (s.zone !== null) tell("mended", true, `${s.name} names a zone "${s.zone}" the file does not have; it gets one of its own.`);
    }
    const told = records.zones.find((z) => z.id === s.zone);
    const heated = within("a heating temperature", told?.heating ?? null, -10, 40, "°C");
    put("heatingSetpoint", heated);
    put("coolingSetpoint", within("a cooling temperature", told?.cooling ?? null, Math.max(5, heated ?? 5), 50, "°C"));
    project.spaces[own] = {
      name: named(s.name, s.id),
      storey,
      zone,
      // the file's own word for its use, by which rules and rule packs find it
      ...(s.use === null ? {} : { tags: [named(s.use, "use").slice(0, 60)] }),
      spaceType: s.use === null ? Object.keys(project.spaceTypes)[0] : (useOf.get(s.use) ?? null),
      kit: null,
      form: value,
      inputs,
    };
    made.set(s.id, { id: own, hosts });
    if (shape.kind === "prism" && s.volume !== null && s.volume > 0 && Math.abs(s.volume / (shape.area * (shape.high - shape.low)) - 1) > 0.02)
      tell(
        "read",
        false,
        `${s.name}: the file states ${quantity(s.volume, "m³", 1)}, its surfaces enclose ${quantity(shape.area * (shape.high - shape.low), "m³", 1)}; the surfaces count.`,
      );
    if (shape.kind === "faces") tell("read", true, `${s.name} is no upright prism; it is kept as ${shape.sides.length} free faces.`);
  }
  if (turnedAll > 0)
    tell("mended", true, `${turnedAll} surface${turnedAll > 1 ? "s" : ""} looked into a space and ${turnedAll > 1 ? "are" : "is"} turned outward.`);
  for (const f of records.surfaces)
    for (const a of f.adjacent)
      if (!records.spaces.some((s) => s.id === a))
        tell("left out", true, `Surface "${f.id}" names a space "${a}" the file does not have; that side of it is left out.`);
  const { faces } = deriveFaces(project);
  for (const f of records.surfaces)
    for (const a of f.adjacent) {
      const m = made.get(a);
      const ring = cleanRing(f.ring);
      const value = m && project.spaces[m.id].form;
      if (!m || !ring || value?.kind !== "prism") continue;
      const host = hostOf(value, faces, m.id, ring);
      if (host) m.hosts.set(f.id, [host]);
    }
  return made;
}

type Shape =
  | { readonly kind: "prism"; readonly ring: readonly Point[]; readonly low: number; readonly high: number; readonly area: number; readonly turned: number }
  | {
      readonly kind: "faces";
      readonly sides: readonly ShellSide[];
      readonly low: number;
      readonly high: number;
      readonly area: number;
      readonly turned: number;
    };

function form(s: BuildingRecords["spaces"][number], sides: readonly ShellSide[], tell: Tell): Shape | null {
  const flatArea = (ring: readonly Point[]): number => Math.abs(signedArea(ring));
  if (sides.length === 0 && s.outline) {
    const closed = closedUp(s.outline.ring.map((p): Point => [p[0], p[1]]));
    if (!closed) {
      tell("left out", true, `${s.name} has an outline of fewer than three edges; it is left out.`);
      return null;
    }
    const { ring } = closed;
    const low = s.outline.ring[0][2];
    return { kind: "prism", ring, low, high: low + s.outline.height, area: flatArea(ring), turned: 0 };
  }
  if (sides.length < 4) {
    tell("left out", true, `${s.name} has ${sides.length} usable surfaces; at least four enclose a space. It is left out.`);
    return null;
  }
  const shell = asPrism(sides);
  const closed = shell && closedUp(shell.ring);
  if (shell && closed) {
    if (closed.closed > 0)
      tell(
        "mended",
        true,
        `${s.name}: ${closed.closed} ${closed.closed === 1 ? "edge" : "edges"} of its outline shorter than 1 cm ${closed.closed === 1 ? "is" : "are"} closed up.`,
      );
    return { kind: "prism", ...shell, ring: closed.ring, area: flatArea(closed.ring), turned: 0 };
  }
  const outward = turnOutward(sides);
  const z = sides.flatMap((f) => f.ring.map((p) => p[2]));
  const floor = outward.sides.filter((f) => ringNormal(f.ring)[2] < -0.9).reduce((a, f) => a + flatArea(f.ring.map((p): Point => [p[0], p[1]])), 0);
  return { kind: "faces", sides: outward.sides, low: Math.min(...z), high: Math.max(...z), area: floor, turned: outward.turned };
}

/** The side of a prism a surface of the file lies on. */
function hostOf(f: Extract<Space["form"], { kind: "prism" }>, faces: readonly Face[], space: string, ring: readonly Vector[]): string | null {
  const n = ringNormal(ring);
  const middle = ring.reduce((s, p): Vector => [s[0] + p[0] / ring.length, s[1] + p[1] / ring.length, s[2] + p[2] / ring.length], [0, 0, 0]);
  if (Math.abs(n[2]) > 0.9) {
    const own = faces.filter((x) => x.space === space && x.plate);
    const best = own.sort((a, b) => Math.abs(a.low - middle[2]) - Math.abs(b.low - middle[2]))[0];
    return best?.host ?? null;
  }
  let host: string | null = null;
  let least = NEAR * 4;
  f.outline.forEach((p, i) => {
    const q = f.outline[(i + 1) % f.outline.length];
    const l = Math.sqrt((q.x - p.x) * (q.x - p.x) + (q.y - p.y) * (q.y - p.y));
    const off = Math.max(...ring.map((c) => Math.abs((c[0] - p.x) * (q.y - p.y) - (c[1] - p.y) * (q.x - p.x)) / l));
    const s = ((middle[0] - p.x) * (q.x - p.x) + (middle[1] - p.y) * (q.y - p.y)) / l;
    if (off < least && s > -NEAR && s < l + NEAR) [least, host] = [off, `${space}/${p.id}`];
  });
  return host;
}
