import type { Point, Project } from "../model/index.ts";
import { LEAST_DEPTH, TOLERANCE, trueAzimuth, type Face, type Vector } from "./face.ts";
import { areaOf, boxOf, difference, intersection, type Polygon } from "./polygon.ts";
import { eachNearPair } from "./nearby.ts";
import { uprightBox, type Upright } from "./sides.ts";

/** A part of an upright side that another one covers. */
interface Overlap {
  readonly other: Upright;
  readonly from: number;
  readonly to: number;
  readonly low: number;
  readonly high: number;
  /** Where either of the two is no rectangle. */
  readonly shape: readonly Polygon[] | null;
}

interface Rectangle {
  from: number;
  to: number;
  low: number;
  high: number;
}

const rectangle = (r: Readonly<Rectangle>): Polygon => [
  [
    [r.from, r.low],
    [r.to, r.low],
    [r.to, r.high],
    [r.from, r.high],
  ],
];
const shapeOf = (u: Upright): readonly Polygon[] => u.shape ?? [rectangle({ from: 0, to: u.length, low: u.low, high: u.high })];

/** For each upright side the parts other spaces' sides cover back to back. */
function overlapsOf(uprights: readonly Upright[]): Overlap[][] {
  const overlaps = uprights.map((): Overlap[] => []);
  const meet = (i: number, j: number): void => {
    const first = uprights[i];
    const second = uprights[j];
    const turn = first.direction[0] * second.direction[0] + first.direction[1] * second.direction[1];
    if (turn > -0.98 || first.space === second.space) return;
    // measured on the longer one: what is short is turned by a rounded corner
    const longer = first.length >= second.length;
    const a = longer ? first : second;
    const b = longer ? second : first;
    const m = longer ? i : j;
    const n = longer ? j : i;
    const dx = a.direction[0];
    const dy = a.direction[1];
    const rx = b.start[0] - a.start[0];
    const ry = b.start[1] - a.start[1];
    // where the shorter one starts and ends along the longer, and how far off its line it runs
    const s1 = rx * dx + ry * dy;
    const end = s1 + turn * b.length;
    const from = Math.max(0, end);
    const to = Math.min(a.length, s1);
    const low = Math.max(a.low, b.low);
    const high = Math.min(a.high, b.high);
    if (to - from < TOLERANCE || high - low < TOLERANCE) return;
    const off = rx * dy - ry * dx;
    const slope = (b.direction[0] * dy - b.direction[1] * dx) / turn;
    // both ends of what they share lie on one line
    if (Math.abs(off + slope * (from - s1)) > TOLERANCE || Math.abs(off + slope * (to - s1)) > TOLERANCE) return;
    if (!a.shape && !b.shape) {
      overlaps[m].push({ other: b, from, to, low, high, shape: null });
      overlaps[n].push({ other: a, from: s1 - to, to: s1 - from, low, high, shape: null });
      return;
    }
    const mirror = (polygons: readonly Polygon[]): Polygon[] => polygons.map((p) => p.map((r) => r.map(([s, z]): Point => [s1 - s, z]).reverse()));
    const shape = intersection(shapeOf(a), mirror(shapeOf(b))).filter((p) => areaOf([p]) > 1e-4);
    if (shape.length === 0) return;
    const [x0, z0, x1, z1] = boxOf(shape.flatMap((p) => [...p[0]]));
    overlaps[m].push({ other: b, from: x0, to: x1, low: z0, high: z1, shape });
    overlaps[n].push({ other: a, from: s1 - x1, to: s1 - x0, low: z0, high: z1, shape: mirror(shape) });
  };
  eachNearPair(uprights.map(uprightBox), TOLERANCE, meet, { low: (i) => uprights[i].low, high: (i) => uprights[i].high });
  // in the order of the sides, whatever the index visited first
  const order = new Map(uprights.map((u, i) => [u, i]));
  for (const list of overlaps) list.sort((p, q) => (order.get(p.other) as number) - (order.get(q.other) as number));
  return overlaps;
}

/** What the faces of an upright side follow from, and those faces. */
interface Known {
  readonly others: readonly Upright[];
  readonly byHand: "ground" | "adiabatic" | undefined;
  readonly planNorth: number;
  readonly faces: readonly Face[];
}
const known = new WeakMap<Upright, Known>();

/**
 * Faces of all upright sides: where two run back to back each gets a face to the other, the rest touches outdoors, earth, or what was
 * set by hand. Those of a side are remembered while it meets the same others.
 */
export function wallFaces(project: Project, uprights: readonly Upright[], hand: ReadonlyMap<string, "ground" | "adiabatic">): Face[] {
  const { planNorth } = project.site;
  const all: Face[] = [];
  const overlaps = overlapsOf(uprights);
  uprights.forEach((e, i) => {
    const byHand = hand.get(`${e.space}/${e.id}`);
    const before = known.get(e);
    if (
      before?.byHand === byHand &&
      before?.planNorth === planNorth &&
      before.others.length === overlaps[i].length &&
      overlaps[i].every((o, k) => o.other === before.others[k])
    ) {
      all.push(...before.faces);
      return;
    }
    const faces: Face[] = [];
    facesOfSide(project, e, overlaps[i], byHand, faces);
    known.set(e, { others: overlaps[i].map((o) => o.other), byHand, planNorth, faces });
    all.push(...faces);
  });
  return all;
}

function facesOfSide(project: Project, e: Upright, overlaps: readonly Overlap[], byHand: Known["byHand"], faces: Face[]): void {
  const normal: Vector = [e.direction[1], -e.direction[0], 0];
  const common = {
    space: e.space,
    host: `${e.space}/${e.id}`,
    kind: "wall" as const,
    normal,
    tilt: 90,
    azimuth: trueAzimuth(project, normal[0], normal[1]),
    plate: null,
  };
  const wall = (r: Readonly<Rectangle>, shape: readonly Polygon[] | null) => ({
    low: r.low,
    high: r.high,
    area: shape ? areaOf(shape) : (r.to - r.from) * (r.high - r.low),
    wall: { start: e.start, direction: e.direction, from: r.from, to: r.to, low: r.low, high: r.high, shape },
  });
  for (const o of overlaps) {
    const otherHost = `${o.other.space}/${o.other.id}`;
    faces.push({
      ...common,
      ...wall(o, o.shape),
      key: `${common.host}|${otherHost}|0`,
      contact: "space",
      byHand: false,
      partner: `${otherHost}|${common.host}|0`,
      partnerSpace: o.other.space,
    });
  }
  const piece = (contact: Face["contact"], r: Rectangle, shape: readonly Polygon[] | null, k: number): void => {
    faces.push({
      ...common,
      ...wall(r, shape),
      key: `${common.host}|${contact}|${k}`,
      contact,
      byHand: byHand !== undefined,
      partner: null,
      partnerSpace: null,
    });
  };
  // what lies below the ground stands against earth
  const basement = e.low < -LEAST_DEPTH;
  if (!e.shape && overlaps.every((o) => !o.shape)) {
    const rest = remainder(e, overlaps);
    if (byHand) return rest.forEach((r, k) => piece(byHand, r, null, k));
    rest.filter((r) => !basement || r.high > TOLERANCE).forEach((r, k) => piece("outdoors", basement ? { ...r, low: Math.max(0, r.low) } : r, null, k));
    if (basement) rest.filter((r) => r.low < -TOLERANCE).forEach((r, k) => piece("ground", { ...r, high: Math.min(0, r.high) }, null, k));
    return;
  }
  const rest = difference(
    shapeOf(e),
    overlaps.flatMap((o) => o.shape ?? [rectangle(o)]),
  );
  const pieces = (contact: Face["contact"], polygons: readonly Polygon[]): void =>
    polygons
      .filter((p) => areaOf([p]) > 0.01)
      .map((p) => ({ p, box: boxOf(p[0]) }))
      .sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0])
      .forEach(({ p, box }, k) => {
        const whole = p.length === 1 && Math.abs(areaOf([p]) - (box[2] - box[0]) * (box[3] - box[1])) < 1e-4;
        piece(contact, { from: box[0], to: box[2], low: box[1], high: box[3] }, whole ? null : [p], k);
      });
  if (byHand) return pieces(byHand, rest);
  if (!basement) return pieces("outdoors", rest);
  const band = (low: number, high: number): Polygon => rectangle({ from: -1, to: e.length + 1, low, high });
  pieces("outdoors", intersection(rest, [band(0, Math.max(1, e.high + 1))]));
  pieces("ground", intersection(rest, [band(e.low - 1, 0)]));
}

/** What is left of a wall rectangle once the overlaps are taken out, as few rectangles as row merging gives. */
function remainder(e: Upright, taken: readonly Rectangle[]): Rectangle[] {
  // most walls have no neighbour, or one all along
  if (taken.length === 0) return [{ from: 0, to: e.length, low: e.low, high: e.high }];
  const half = TOLERANCE / 2;
  for (const t of taken) if (t.from < half && t.to > e.length - half && t.low < e.low + half && t.high > e.high - half) return [];
  const cuts = (values: number[]): number[] => {
    const sorted = values.sort((a, b) => a - b);
    return sorted.filter((v, i) => i === 0 || v - sorted[i - 1] > TOLERANCE / 2);
  };
  const s = cuts([0, e.length, ...taken.flatMap((t) => [t.from, t.to])]);
  const z = cuts([e.low, e.high, ...taken.flatMap((t) => [t.low, t.high])]);
  let open: Rectangle[] = [];
  const done: Rectangle[] = [];
  for (let row = 0; row + 1 < z.length; row++) {
    const zm = (z[row] + z[row + 1]) / 2;
    const runs: Rectangle[] = [];
    for (let c = 0; c + 1 < s.length; c++) {
      const sm = (s[c] + s[c + 1]) / 2;
      if (taken.some((t) => sm > t.from && sm < t.to && zm > t.low && zm < t.high)) continue;
      const last = runs[runs.length - 1];
      if (last && last.to === s[c]) last.to = s[c + 1];
      else runs.push({ from: s[c], to: s[c + 1], low: z[row], high: z[row + 1] });
    }
    const next: Rectangle[] = [];
    for (const r of runs) {
      const below = open.find((o) => o.from === r.from && o.to === r.to && o.high === r.low);
      if (below) {
        below.high = r.high;
        next.push(below);
        open = open.filter((o) => o !== below);
      } else next.push(r);
    }
    done.push(...open);
    open = next;
  }
  done.push(...open);
  return done.filter((r) => r.to - r.from > TOLERANCE && r.high - r.low > TOLERANCE).sort((a, b) => a.low - b.low || a.from - b.from);
}
