import { daysOf, type WeatherYear } from "../climate/index.ts";
import { assemblyLayers, layersResistance, virtualBasement, virtualCrawlSpace, virtualGround, type SlabInputs, type VirtualGround } from "../fabric/index.ts";
import { footLength, LEAST_DEPTH, type Face, type Geometry } from "../geometry/index.ts";
import { effective, faceAssembly } from "../inputs/index.ts";
import type { Problem, Project } from "../model/index.ts";
import { signalSpan } from "../use/index.ts";

/** Mean inside temperature over the ground taken for a space that is not heated, °C: typical, unverified. */
const UNHEATED_MEAN = 15;
/** A slab wholly inside a building has no exposed perimeter; ISO 13370 divides by it, m. */
const LEAST_PERIMETER = 0.01;
const LEAST_RESISTANCE = 1e-3;
/** Resistance between a typed ground temperature and a floor or wall, m²K/W: contact only. */
const TYPED_CONTACT = 0.01;

/** What a face against the ground has behind its layers. */
export interface GroundBehind {
  /** Row of the monthly temperatures. */
  readonly row: number;
  /** To that temperature, W/m²K. */
  readonly conductance: number;
  /** Soil with mass, m. */
  readonly soil: number;
}

const upright = (f: Face): boolean => f.kind === "wall";

/** Ground floors of one depth as ISO 13370 sees them. */
interface Level {
  readonly area: number;
  readonly perimeter: number;
  readonly wallThickness: number;
  readonly inside: number;
}

/**
 * The ground side of a building: floors on or over the ground and basements (ISO 13370:2017), one group
 * for each depth, or typed temperatures.
 */
export function groundSide(
  project: Project,
  weather: WeatherYear,
  geometry: Geometry,
  warnings: Problem[],
): { of: (face: Face, assembly: string) => GroundBehind; temperature: () => Float64Array } {
  const rows = new Map<string, number>();
  const temperatures: (readonly number[])[] = [];
  const found = new Map<string, GroundBehind>();
  const levels = new Map<number, Level>();
  const { monthDays, monthStart } = daysOf(weather);
  const outside = monthDays.map((d, m) => weather.dryBulb.subarray(monthStart[m] * 24, monthStart[m + 1] * 24).reduce((s, t) => s + t, 0) / (24 * d));
  const wind = weather.windSpeed.reduce((s, v) => s + v, 0) / weather.windSpeed.length;
  const { ground } = project.site;
  const row = (key: string, t: readonly number[]): number => {
    let r = rows.get(key);
    if (r === undefined) {
      r = temperatures.push(t) - 1;
      rows.set(key, r);
    }
    return r;
  };
  /** Depth of a space's floor below the ground, m; 0 for floors on or over it. */
  const depthOf = (face: Face): number => {
    const low = geometry.spaces.get(face.space)?.low ?? 0;
    return low < -LEAST_DEPTH ? Math.round(-low * 100) / 100 : 0;
  };
  const level = (depth: number): Level => {
    let l = levels.get(depth);
    if (!l) levels.set(depth, (l = groundLevel(project, geometry, depth, depthOf)));
    return l;
  };
  const behind = (face: Face, assembly: string): GroundBehind => {
    if (ground.temperature) return { row: row("typed", ground.temperature), conductance: 1 / TYPED_CONTACT, soil: 0 };
    const depth = depthOf(face);
    const l = level(depth);
    const resistance = (id: string): number => layersResistance(assemblyLayers(project, project.assemblies[id]));
    const slab: SlabInputs = {
      ...l,
      floorResistance: resistance(assembly),
      conductivity: ground.conductivity,
      heatCapacity: ground.heatCapacity,
      edge: depth > 0 ? null : ground.edge,
    };
    let v: VirtualGround;
    if (depth > 0) {
      const walls = geometry.faces.find((f) => f.kind === "wall" && f.contact === "ground" && depthOf(f) === depth);
      const floors = geometry.faces.find((f) => f.kind !== "wall" && f.contact === "ground" && depthOf(f) === depth);
      const own = upright(face) ? assembly : walls ? faceAssembly(project, walls).id : assembly;
      const under = upright(face) && floors ? faceAssembly(project, floors).id : assembly;
      const both = virtualBasement({ ...slab, floorResistance: resistance(under) }, { depth, wallResistance: resistance(own) }, outside, l.inside);
      v = upright(face) ? both.walls : both.floor;
    } else if (ground.floor.kind === "suspended") v = virtualCrawlSpace(slab, { ...ground.floor, wind }, outside, l.inside);
    else v = virtualGround(slab, outside, l.inside);
    if (v.clamped)
      warnings.push({
        code: "virtual-ground",
        severity: "warning",
        stage: "fabric",
        path: `assemblies/${assembly}`,
        message: `Behind "${project.assemblies[assembly].name}" the virtual ground layer of ISO 13370 would be negative; it is taken as zero.`,
      });
    const key = `${assembly} ${depth} ${face.kind === "wall" ? "wall" : "floor"}`;
    return { row: row(key, v.temperature), conductance: 1 / Math.max(v.virtualResistance, LEAST_RESISTANCE), soil: v.soilThickness };
  };
  return {
    of: (face, assembly) => {
      const key = `${assembly} ${depthOf(face)} ${face.kind === "wall" ? "wall" : "floor"}`;
      let b = found.get(key);
      if (!b) found.set(key, (b = behind(face, assembly)));
      return b;
    },
    temperature: () => Float64Array.from(temperatures.flatMap((t) => [...t])),
  };
}

/** Area, exposed perimeter, wall thickness and mean inside temperature of the floors of one depth. */
function groundLevel(project: Project, geometry: Geometry, depth: number, depthOf: (f: Face) => number): Level {
  let area = 0;
  let inside = 0;
  const spaces = new Set<string>();
  for (const f of geometry.faces) {
    if (f.contact !== "ground" || f.kind === "wall" || depthOf(f) !== depth) continue;
    area += f.area;
    spaces.add(f.space);
    inside += f.area * (signalSpan(project, effective(project, "space", f.space, "heatingSetpoint").value)?.mean ?? UNHEATED_MEAN);
  }
  let perimeter = 0;
  let thickness = 0;
  for (const f of geometry.faces) {
    // the lowest strip of walls to outdoors, or of a basement to earth, makes the perimeter
    if (f.kind !== "wall" || f.contact !== (depth > 0 ? "ground" : "outdoors") || !spaces.has(f.space)) continue;
    if (f.low > (geometry.spaces.get(f.space)?.low ?? 0) + 0.05) continue;
    const length = footLength(f);
    perimeter += length;
    const layers = project.assemblies[faceAssembly(project, f).id].layers;
    thickness += length * layers.reduce((s, l) => s + (l.kind === "solid" ? l.thickness : 0), 0);
  }
  return {
    // walls to ground of a space whose floor rests on another one: the perimeter alone counts, the unit area keeps B finite
    area: area > 0 ? area : 1,
    perimeter: Math.max(perimeter, LEAST_PERIMETER),
    wallThickness: perimeter > 0 ? thickness / perimeter : 0,
    inside: area > 0 ? inside / area : UNHEATED_MEAN,
  };
}
