import { forcedCoefficient, ISO_INSIDE, ISO_OUTSIDE, naturalCoefficients, ROUGHNESS, windProfile } from "../fabric/index.ts";
import type { Face } from "../geometry/index.ts";
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
/** Faces of one plane and height band share a façade for the forced film. */
const facadeKey = (f: Face): string => (f.wall ? `wall ${Math.round(f.azimuth * 10)}` : f.kind);

/**
 * Part of the outside film that wind drives: per root of the wind at 10 m (Sparrow, Ramsey and Mass 1979), per
 * wind itself for ISO 52016-1, none for typed films.
 */
export function windFilms(project: Project, list: readonly Element[]): Float64Array {
  const choice = project.run.outsideConvection.kind;
  const facades = facadeSizes(list);
  return Float64Array.from(list, (e) => {
    if (e.kind > 1 || choice === "typed") return 0;
    const profile = windProfile(project.site.terrain, midHeight(e.face));
    if (choice === "iso 52016-1") return ISO_OUTSIDE.wind * profile;
    const [perimeter, area] = facades.get(facadeKey(e.face)) as [number, number];
    return forcedCoefficient(e.outer.roughness as keyof typeof ROUGHNESS, perimeter, area) * Math.sqrt(profile);
  });
}

/** Perimeter, m, and area, m², of the whole façade or roof each face belongs to. */
function facadeSizes(list: readonly Element[]): Map<string, [number, number]> {
  const boxes = new Map<string, { area: number; low: number; high: number; faces: Set<string> }>();
  for (const e of list) {
    if (e.kind === 3) continue;
    const key = facadeKey(e.face);
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
