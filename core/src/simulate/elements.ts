import { MONTH_DAYS, MONTH_START, type WeatherYear } from "../climate/index.ts";
import {
  assemblyLayers,
  glazingPhysics,
  layersResistance,
  reduceWall,
  resistanceLayer,
  ROUGHNESS,
  solidLayer,
  virtualGround,
  type GlazingPhysics,
  type LayerPhysics,
  type ReducedWall,
} from "../fabric/index.ts";
import type { Face, Geometry, PlacedOpening } from "../geometry/index.ts";
import { effective, faceAssembly, openingConstruction } from "../inputs/index.ts";
import type { Problem, Project } from "../model/index.ts";
import type { InsideSurface } from "./enclosure.ts";

const INSIDE_FILM = 7.7;
const OUTSIDE_FILM = 25;
/** Films of a surface whose innermost or outermost layer has no material: typical, unverified. */
const PLAIN_SURFACE = { solarAbsorptance: 0.6, emissivity: 0.9, roughness: "medium rough" as const };
/** Mean inside temperature over the ground taken for a space that is not heated, °C: typical, unverified. */
const UNHEATED_MEAN = 15;
/** A slab wholly inside a building has no exposed perimeter; ISO 13370 divides by it, m. */
const LEAST_PERIMETER = 0.01;
const GLASS_EMISSIVITY = 0.84;
/** Inside of a frame, short-wave: typical, unverified. */
const FRAME_ABSORPTANCE = 0.5;

/** A face or an opening as the year sees it; side 0 is outside or in the first zone, side 1 inside or in the second. */
export interface Element {
  kind: 0 | 1 | 2 | 3;
  face: Face;
  area: number;
  wall: ReducedWall;
  zone0: number;
  zone1: number;
  outer: { solarAbsorptance: number; emissivity: number; roughness: keyof typeof ROUGHNESS };
  inner0: InsideSurface;
  inner1: InsideSurface;
  glass: GlazingPhysics | null;
  frame: number;
  opening: PlacedOpening | null;
  groundRow: number;
  groundConductance: number;
}

/** All elements of a building: exterior ones first, then partitions, and the monthly ground temperatures their rows name. */
export function buildElements(
  project: Project,
  weather: WeatherYear,
  geometry: Geometry,
  openings: readonly PlacedOpening[],
  zoneOfSpace: ReadonlyMap<string, number>,
  warnings: Problem[],
): { list: Element[]; groundTemperature: Float64Array } {
  const walls = new Map<string, ReducedWall>();
  const reduce = (key: string, layers: readonly LayerPhysics[], films: readonly [number, number], slowOutside = false): ReducedWall => {
    const k = `${key} ${films[0]} ${films[1]}`;
    let w = walls.get(k);
    if (!w) walls.set(k, (w = reduceWall(layers, films, slowOutside)));
    return w;
  };
  const surface = (assembly: string, end: "outer" | "inner"): Element["outer"] => {
    const layers = project.assemblies[assembly].layers;
    const l = layers[end === "outer" ? 0 : layers.length - 1];
    return l.kind === "solid" ? project.materials[l.material] : PLAIN_SURFACE;
  };
  const inside = (area: number, s: { solarAbsorptance: number; emissivity: number }, face: Face, flip: boolean): InsideSurface => {
    const w = face.wall;
    const offset = w ? Math.round((w.start[0] * face.normal[0] + w.start[1] * face.normal[1]) * 100) : Math.round((face.plate?.level ?? 0) * 100);
    return {
      area,
      emissivity: s.emissivity,
      absorptance: s.solarAbsorptance,
      transmittance: 0,
      floor: (flip ? -face.normal[2] : face.normal[2]) < -0.5,
      plane: `${Math.round(face.azimuth * 10)} ${face.tilt} ${offset}`,
    };
  };
  const list: Element[] = [];
  const none: InsideSurface = { area: 0, emissivity: 1, absorptance: 0, transmittance: 0, floor: false, plane: "" };
  const ground = groundContext(project, geometry);
  const groundRows: { key: string; temperature: readonly number[] }[] = [];
  const monthly = monthlyMeans(weather);
  const byFace = new Map<string, PlacedOpening[]>();
  for (const o of openings) byFace.set(o.face, [...(byFace.get(o.face) ?? []), o]);
  const sorted = [...geometry.faces].sort((a, b) => (a.key < b.key ? -1 : 1));
  const common = { glass: null, frame: 0, opening: null, groundRow: -1, groundConductance: 0, inner0: none };
  for (const face of sorted) {
    if (face.contact === "space") continue;
    const zone1 = zoneOfSpace.get(face.space) as number;
    const assembly = faceAssembly(project, face).id;
    const layers = assemblyLayers(project, project.assemblies[assembly]);
    if (face.contact === "ground") {
      const slab = {
        area: ground.area,
        perimeter: ground.perimeter,
        wallThickness: ground.wallThickness,
        floorResistance: layersResistance(layers),
        conductivity: project.site.ground.conductivity,
        heatCapacity: project.site.ground.heatCapacity,
      };
      const v = virtualGround(slab, monthly, ground.inside);
      let row = groundRows.findIndex((g) => g.key === assembly);
      if (row < 0) {
        row = groundRows.push({ key: assembly, temperature: v.temperature }) - 1;
        if (v.clamped)
          warnings.push({
            code: "virtual-ground",
            severity: "warning",
            stage: "fabric",
            path: `assemblies/${assembly}`,
            message: `Under "${project.assemblies[assembly].name}" the virtual ground layer of ISO 13370 would be negative; it is taken as zero.`,
          });
      }
      const soil = solidLayer(v.soilThickness, slab.conductivity, slab.heatCapacity / 1000, 1000);
      const conductance = 1 / Math.max(v.virtualResistance, 1e-3);
      list.push({
        ...common,
        kind: 2,
        face,
        area: face.area,
        wall: reduce(`ground ${assembly}`, [soil, ...layers], [conductance, INSIDE_FILM], true),
        zone0: -1,
        zone1,
        outer: PLAIN_SURFACE,
        inner1: inside(face.area, surface(assembly, "inner"), face, false),
        groundRow: row,
        groundConductance: conductance,
      });
      continue;
    }
    let net = face.area;
    for (const o of byFace.get(face.key) ?? []) {
      net -= o.area;
      const construction = openingConstruction(project, o, face.space).id;
      if (o.use === "door") {
        const inner = surface(construction, "inner");
        list.push({
          ...common,
          kind: 0,
          face,
          opening: o,
          area: o.area,
          wall: reduce(construction, assemblyLayers(project, project.assemblies[construction]), [OUTSIDE_FILM, INSIDE_FILM]),
          zone0: -1,
          zone1,
          outer: surface(construction, "outer"),
          inner1: inside(o.area, inner, face, false),
        });
        continue;
      }
      const glazing = project.glazings[construction];
      const glass = glazingPhysics(glazing);
      const plane = inside(
        o.area,
        { solarAbsorptance: glass.diffuseAbsorptance * (1 - glazing.frameShare) + FRAME_ABSORPTANCE * glazing.frameShare, emissivity: GLASS_EMISSIVITY },
        face,
        false,
      );
      list.push({
        ...common,
        kind: 1,
        face,
        opening: o,
        area: o.area,
        wall: reduce(`glass ${glass.resistance}`, [resistanceLayer(glass.resistance)], [OUTSIDE_FILM, INSIDE_FILM]),
        zone0: -1,
        zone1,
        outer: { solarAbsorptance: 0, emissivity: GLASS_EMISSIVITY, roughness: "very smooth" },
        inner1: { ...plane, transmittance: glass.diffuseTransmittance * (1 - glazing.frameShare) },
        glass,
        frame: glazing.frameShare,
      });
    }
    if (net > 1e-6)
      list.push({
        ...common,
        kind: 0,
        face,
        area: net,
        wall: reduce(assembly, layers, [OUTSIDE_FILM, INSIDE_FILM]),
        zone0: -1,
        zone1,
        outer: surface(assembly, "outer"),
        inner1: inside(net, surface(assembly, "inner"), face, false),
      });
  }
  for (const face of sorted) {
    if (face.contact !== "space" || face.partner === null) continue;
    // one element for each pair: of walls the lower key, of plates the ceiling (layers run from below to above)
    if (face.kind === "wall" ? face.key > face.partner : face.kind === "floor") continue;
    const partner = geometry.byKey.get(face.partner);
    if (!partner) continue;
    const assembly = faceAssembly(project, face, partner.host).id;
    const layers = assemblyLayers(project, project.assemblies[assembly]);
    // side 0 lies in this face's own space, side 1 beyond it; normal points from 0 to 1
    list.push({
      ...common,
      kind: 3,
      face,
      area: face.area,
      wall: reduce(`inside ${assembly}`, layers, [INSIDE_FILM, INSIDE_FILM]),
      zone0: zoneOfSpace.get(face.space) as number,
      zone1: zoneOfSpace.get(partner.space) as number,
      outer: surface(assembly, "outer"),
      inner0: inside(face.area, surface(assembly, "outer"), face, false),
      inner1: inside(face.area, surface(assembly, "inner"), face, true),
    });
  }
  return { list, groundTemperature: Float64Array.from(groundRows.flatMap((g) => [...g.temperature])) };
}

function monthlyMeans(w: WeatherYear): number[] {
  return MONTH_DAYS.map((d, m) => w.dryBulb.subarray(MONTH_START[m] * 24, MONTH_START[m + 1] * 24).reduce((s, t) => s + t, 0) / (24 * d));
}

/** The building's ground floor as ISO 13370 sees it: area, exposed perimeter, wall thickness, mean inside temperature. */
function groundContext(project: Project, geometry: Geometry): { area: number; perimeter: number; wallThickness: number; inside: number } {
  let area = 0;
  let inside = 0;
  const onGround = new Set<string>();
  for (const g of geometry.faces)
    if (g.contact === "ground") {
      area += g.area;
      onGround.add(g.space);
      inside += g.area * ((effective(project, "space", g.space, "heatingSetpoint").value as number | null) ?? UNHEATED_MEAN);
    }
  let perimeter = 0;
  let thickness = 0;
  for (const g of geometry.faces) {
    if (!g.wall || g.contact !== "outdoors" || !onGround.has(g.space) || g.wall.low > (geometry.spaces.get(g.space)?.low ?? 0) + 0.05) continue;
    const length = g.wall.to - g.wall.from;
    perimeter += length;
    const layers = project.assemblies[faceAssembly(project, g).id].layers;
    thickness += length * layers.reduce((s, l) => s + (l.kind === "solid" ? l.thickness : 0), 0);
  }
  return {
    area,
    perimeter: Math.max(perimeter, LEAST_PERIMETER),
    wallThickness: perimeter > 0 ? thickness / perimeter : 0,
    inside: area > 0 ? inside / area : UNHEATED_MEAN,
  };
}
