import { quantity } from "../model/index.ts";
import { acos, DEG } from "../numeric/index.ts";
import type { Problem, Project } from "../model/index.ts";
import { areaOnPlane, ON_GROUND, SLAB, TOLERANCE, trueAzimuth, type Face, type SpaceGeometry, type Vector } from "./face.ts";
import { eachNearPair } from "./nearby.ts";
import { areaOf, boxOf, intersection, type Box, type Polygon } from "./polygon.ts";
import { remaining, type Flat, type Sides } from "./sides.ts";
import { heightAt } from "./roofs.ts";

interface Part {
  readonly partner: number;
  readonly polygons: readonly Polygon[];
}

/** A floor up to this over a ceiling was meant to rest on it, m, where they share this much, m². */
const WIDEST_VOID = 2.5;
const LEAST_VOID = 0.5;

const level = (f: Flat): boolean => f.plane[0] === 0 && f.plane[1] === 0;

/** Height of a floor over a ceiling where they could rest on each other, m: level ones with a slab between, sloped ones in one plane. */
function gap(floor: Flat, ceiling: Flat): number | null {
  if (level(floor) && level(ceiling)) {
    const g = floor.plane[2] - ceiling.plane[2];
    return g > -TOLERANCE && g < SLAB ? g : null;
  }
  if (Math.abs(floor.plane[0] - ceiling.plane[0]) > 1e-3 || Math.abs(floor.plane[1] - ceiling.plane[1]) > 1e-3) return null;
  const [x, y] = floor.polygons[0][0][0];
  const g = heightAt(floor.plane, x, y) - heightAt(ceiling.plane, x, y);
  return Math.abs(g) < 2 * TOLERANCE ? g : null;
}

/** Faces of floors, ceilings and roofs: where a floor rests on a ceiling each gets a face to the other, the nearest first; the rest touches outdoors, the ground, or what was set by hand. */
export function plateFaces(
  project: Project,
  all: readonly Sides[],
  spaces: ReadonlyMap<string, SpaceGeometry>,
  hand: ReadonlyMap<string, "ground" | "adiabatic">,
  problems: Problem[],
): Face[] {
  const flats = all.flatMap((s) => s.flats);
  const boxes = flats.map((f): Box => boxOf(f.polygons.flatMap((p) => [...p[0]])));
  const areas = flats.map((f) => areaOf(f.polygons));
  const parts = flats.map((): Part[] => []);
  const under = flats.map((): number[] => []);
  eachNearPair(boxes, 0, (i, j) => {
    if (flats[i].up === flats[j].up || flats[i].space === flats[j].space) return;
    if (flats[i].up) under[j].push(i);
    else under[i].push(j);
  });
  flats.forEach((floor, i) => {
    if (floor.up) return;
    const below = under[i]
      .flatMap((c) => {
        const g = gap(floor, flats[c]);
        return g === null ? [] : [{ c, g }];
      })
      .sort((a, b) => a.g - b.g || (flats[a.c].space < flats[b.c].space ? -1 : 1));
    let taken: Polygon[] = [];
    for (const { c } of below) {
      let shared = intersection(floor.polygons, flats[c].polygons);
      // ceilings one above the other: the nearest has it
      if (taken.length > 0 && areaOf(intersection(shared, taken)) > 0.01) shared = remaining(shared, taken);
      const polygons = shared.filter((p) => areaOf([p]) > 0.01);
      if (polygons.length === 0) continue;
      taken = [...taken, ...polygons];
      parts[i].push({ partner: c, polygons });
      parts[c].push({ partner: i, polygons });
      if (areaOf(taken) > areas[i] - 1e-6) break;
    }
  });
  const faces: Face[] = [];
  // sides of one host are told apart by their number
  const count = new Map<string, number>();
  const next = (host: string, to: string): number => {
    const key = `${host}|${to}`;
    const n = count.get(key) ?? 0;
    count.set(key, n + 1);
    return n;
  };
  const pairs = new Map<string, string>();
  const rests: [number, Polygon[]][] = [];
  flats.forEach((f, i) => {
    const make = facesOf(project, f);
    for (const part of parts[i]) {
      const other = flats[part.partner];
      const ids = i < part.partner ? `${i} ${part.partner}` : `${part.partner} ${i}`;
      // both sides of a pair carry the number the first of them got
      const n = pairs.get(ids) ?? String(next(f.host, other.host));
      pairs.set(ids, n);
      faces.push({
        ...make(part.polygons),
        key: `${f.host}|${other.host}|${n}`,
        contact: "space",
        byHand: false,
        partner: `${other.host}|${f.host}|${n}`,
        partnerSpace: other.space,
      });
    }
    const covered = parts[i].reduce((s, p) => s + areaOf(p.polygons), 0);
    const rest =
      parts[i].length === 0
        ? [...f.polygons]
        : covered > areas[i] - 0.01
          ? []
          : remaining(
              f.polygons,
              parts[i].flatMap((p) => [...p.polygons]),
            );
    if (rest.length > 0) rests.push([i, rest]);
  });
  for (const [i, rest] of rests) {
    const f = flats[i];
    const byHand = hand.get(f.host);
    const contact = byHand ?? (!f.up && f.low <= ON_GROUND && level(f) ? "ground" : "outdoors");
    faces.push({
      ...facesOf(project, f)(rest),
      key: `${f.host}|${contact}|${next(f.host, contact)}`,
      contact,
      byHand: byHand !== undefined,
      partner: null,
      partnerSpace: null,
    });
  }
  floating(project, flats, parts, spaces, problems);
  voids(project, flats, under, parts, problems);
  return faces;
}

/** What all faces of one floor, ceiling or roof side have in common. */
function facesOf(project: Project, f: Flat) {
  const [a, b] = f.plane;
  const l = Math.sqrt(1 + a * a + b * b);
  const sign = f.up ? 1 : -1;
  const normal: Vector = level(f) ? [0, 0, sign] : [(-sign * a) / l, (-sign * b) / l, sign / l];
  const kind = Math.abs(normal[2]) < 0.5 ? ("wall" as const) : f.up ? ("ceiling" as const) : ("floor" as const);
  const common = {
    space: f.space,
    host: f.host,
    kind,
    normal,
    tilt: level(f) ? (f.up ? 0 : 180) : acos(normal[2]) / DEG,
    azimuth: level(f) ? 0 : trueAzimuth(project, normal[0], normal[1]),
    wall: null,
    low: f.low,
    high: f.high,
  };
  return (polygons: readonly Polygon[]) => ({ ...common, area: areaOnPlane(polygons, f.plane), plate: { polygons, level: f.low, plane: f.plane } });
}

/** Floors that stand a little too far over a ceiling to rest on it: both sides are computed as outdoors. */
function voids(
  project: Project,
  flats: readonly Flat[],
  under: readonly (readonly number[])[],
  parts: readonly (readonly Part[])[],
  problems: Problem[],
): void {
  const told = new Set<string>();
  flats.forEach((floor, i) => {
    if (floor.up || !level(floor)) return;
    for (const c of under[i]) {
      const ceiling = flats[c];
      const over = floor.low - ceiling.high;
      if (!level(ceiling) || over < SLAB || over > WIDEST_VOID) continue;
      // what rests on something between is carried
      if (parts[i].some((p) => areaOf(intersection(p.polygons, ceiling.polygons)) > LEAST_VOID)) continue;
      if (areaOf(intersection(floor.polygons, ceiling.polygons)) < LEAST_VOID) continue;
      const key = `${floor.space} ${ceiling.space}`;
      if (told.has(key)) continue;
      told.add(key);
      problems.push({
        code: "void",
        severity: "warning",
        stage: "form",
        path: `spaces/${floor.space}/form`,
        message: `${project.spaces[floor.space].name} stands ${quantity(over, "m", 2)} over ${project.spaces[ceiling.space].name}; floor and roof there are computed as outdoors.`,
      });
    }
  });
}

/** Spaces whose lowest floor rests on nothing, and spaces with another one too far above to rest on them. */
function floating(
  project: Project,
  flats: readonly Flat[],
  parts: readonly (readonly Part[])[],
  spaces: ReadonlyMap<string, SpaceGeometry>,
  problems: Problem[],
): void {
  const rests = new Set<string>();
  flats.forEach((f, i) => {
    if (!f.up && (parts[i].length > 0 || f.low <= ON_GROUND)) rests.add(f.space);
  });
  for (const [id, g] of spaces)
    if (g.low > ON_GROUND && !rests.has(id))
      problems.push({
        code: "floats",
        severity: "warning",
        stage: "form",
        path: `spaces/${id}/form`,
        message: `${project.spaces[id].name} has nothing under it; its floor is computed as exposed to outdoor air.`,
      });
}
