import { forcedCoefficient, ISO_INSIDE, ISO_OUTSIDE, naturalCoefficients, ROUGHNESS, windProfile } from "../fabric/index.ts";
import { convexPieces, type Face } from "../geometry/index.ts";
import type { Project, RunOptions } from "../model/index.ts";
import type { Element } from "./elements.ts";

/** Convection at one surface: constant part, W/m²K, and part per cube root of the temperature difference, W/m²K^4/3; surface warmer than the air, and colder. */
export interface Film {
  readonly steadyWarm: number;
  readonly steadyCold: number;
  readonly warm: number;
  readonly cold: number;
}

const constant = (v: number): Film => ({ steadyWarm: v, steadyCold: v, warm: 0, cold: 0 });

/** What a surface is to a typed film. @param facing cosine from straight up, seen from its air */
const surfaceOf = (facing: number, glass: boolean): "glass" | "floor" | "ceiling" | "wall" =>
  glass ? "glass" : facing > 0.5 ? "floor" : facing < -0.5 ? "ceiling" : "wall";

/** Inside film of a surface by the run's choice. */
export function insideFilm(choice: RunOptions["insideConvection"], facing: number, glass: boolean): Film {
  switch (choice.kind) {
    case "typed":
      return constant(choice[surfaceOf(facing, glass)]);
    case "iso 52016-1": {
      if (Math.abs(facing) <= 0.5) return constant(ISO_INSIDE.horizontal);
      // a warm floor and a cold ceiling send heat up
      const up = facing > 0;
      return { steadyWarm: up ? ISO_INSIDE.up : ISO_INSIDE.down, steadyCold: up ? ISO_INSIDE.down : ISO_INSIDE.up, warm: 0, cold: 0 };
    }
    default:
      return { steadyWarm: 0, steadyCold: 0, ...naturalCoefficients(facing) };
  }
}

/** Outside film without wind by the run's choice. */
export function outsideFilm(choice: RunOptions["outsideConvection"], facing: number, glass: boolean): Film {
  switch (choice.kind) {
    case "typed":
      return constant(glass ? choice.glass : facing > 0.5 ? choice.roof : facing < -0.5 ? choice.floor : choice.wall);
    case "iso 52016-1":
      return constant(ISO_OUTSIDE.still);
    default:
      return { steadyWarm: 0, steadyCold: 0, ...naturalCoefficients(facing) };
  }
}

const midHeight = (f: Face): number => (f.low + f.high) / 2;
/** Faces within this of each other, m, and in one plane belong to one façade. */
const JOINED = 0.5;

/** Box around a face, m: [least, most] of x, y and height. */
function boxOf(f: Face): [number, number][] {
  const points = convexPieces(f).flat();
  return [0, 1, 2].map((k) => [Math.min(...points.map((p) => p[k])), Math.max(...points.map((p) => p[k]))]);
}

/** Façades and roofs by the faces they are made of: those in one plane whose boxes touch, told by the first of them. */
function facades(faces: readonly Face[]): Map<string, string> {
  const planes = new Map<string, { face: Face; box: [number, number][]; root: number }[]>();
  for (const face of faces) {
    const box = boxOf(face);
    const offset = box.reduce((s, [low, high], k) => s + (face.normal[k] * (low + high)) / 2, 0);
    const plane = `${face.kind} ${face.normal.map((v) => Math.round(20 * v)).join(" ")} ${Math.round(offset / JOINED)}`;
    const list = planes.get(plane) ?? [];
    list.push({ face, box, root: list.length });
    planes.set(plane, list);
  }
  const out = new Map<string, string>();
  for (const list of planes.values()) {
    const rootOf = (i: number): number => (list[i].root === i ? i : (list[i].root = rootOf(list[i].root)));
    for (let i = 0; i < list.length; i++)
      for (let j = 0; j < i; j++)
        if (list[i].box.every(([low, high], k) => low <= list[j].box[k][1] + JOINED && high >= list[j].box[k][0] - JOINED)) {
          const [a, b] = [rootOf(i), rootOf(j)];
          list[Math.max(a, b)].root = Math.min(a, b);
        }
    list.forEach((e, i) => out.set(e.face.key, list[rootOf(i)].face.key));
  }
  return out;
}

/**
 * Part of the outside film that wind drives: per root of the wind at 10 m (Sparrow, Ramsey and Mass 1979), per
 * wind itself for ISO 52016-1, none for typed films.
 */
export function windFilms(project: Project, list: readonly Element[]): Float64Array {
  const choice = project.run.outsideConvection.kind;
  const facadeOf = facades([...new Map(list.filter((e) => e.kind < 2).map((e) => [e.face.key, e.face])).values()]);
  const sizes = facadeSizes(list, facadeOf);
  return Float64Array.from(list, (e) => {
    if (e.kind > 1 || choice === "typed") return 0;
    const profile = windProfile(project.site.terrain, midHeight(e.face));
    if (choice === "iso 52016-1") return ISO_OUTSIDE.wind * profile;
    const [perimeter, area] = sizes.get(facadeOf.get(e.face.key) as string) as [number, number];
    return forcedCoefficient(e.outer.roughness as keyof typeof ROUGHNESS, perimeter, area) * Math.sqrt(profile);
  });
}

/** Perimeter, m, and area, m², of the whole façade or roof each face belongs to. */
function facadeSizes(list: readonly Element[], facadeOf: ReadonlyMap<string, string>): Map<string, [number, number]> {
  const boxes = new Map<string, { area: number; low: number; high: number; faces: Set<string> }>();
  for (const e of list) {
    const key = facadeOf.get(e.face.key);
    if (key === undefined || e.kind > 1) continue;
    const b = boxes.get(key) ?? { area: 0, low: Infinity, high: -Infinity, faces: new Set() };
    if (b.faces.has(e.face.key)) continue;
    b.faces.add(e.face.key);
    b.area += e.face.area;
    if (e.face.wall) {
      b.low = Math.min(b.low, e.face.wall.low);
      b.high = Math.max(b.high, e.face.wall.high);
    }
    boxes.set(key, b);
  }
  return new Map(
    [...boxes].map(([key, b]) => {
      const height = b.high > b.low ? b.high - b.low : Math.sqrt(b.area);
      return [key, [2 * (height + b.area / height), b.area]];
    }),
  );
}
