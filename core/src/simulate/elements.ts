import type { WeatherYear } from "../climate/index.ts";
import {
  assemblyLayers,
  assemblyU,
  glazingPhysics,
  isPlane,
  reduceWall,
  resistanceLayer,
  ROUGHNESS,
  solidLayer,
  surfaceResistances,
  withBridges,
  type GlazingPhysics,
  type LayerPhysics,
  type Melting,
  type ReducedWall,
  type ReductionOptions,
} from "../fabric/index.ts";
import type { Face, Geometry, InnerOpening, PlacedOpening } from "../geometry/index.ts";
import { addedU, faceAssembly, openingConstruction, thermalBridges } from "../inputs/index.ts";
import type { Problem, Project } from "../model/index.ts";
import type { InsideSurface } from "./enclosure.ts";
import { groundSide } from "./groundSide.ts";

const INSIDE_FILM = 7.7;
const OUTSIDE_FILM = 25;
/** Films of a surface whose innermost or outermost layer has no material: typical, unverified. */
const PLAIN_SURFACE = { solarAbsorptance: 0.6, emissivity: 0.9, roughness: "medium rough" as const };
/** Inside of a frame, short-wave: typical, unverified. */
const FRAME_ABSORPTANCE = 0.5;
const FRAME_EMISSIVITY = 0.9;
/** Least resistance of a frame once its rated films are out, m²K/W. */
const LEAST_FRAME = 0.01;

/** Behind a side set to let no heat through by hand: nothing that its outer surface could give heat to. */
const ADIABATIC = { row: 0, conductance: 1e-6, soil: 0 };

/** A plate between layers of one room that the airflow network has open, share of it from which it is no floor any more, and its resistance, m²K/W: it only hands on radiation and warmth. */
const OPEN_PLATE = 0.9;
const OPEN_RESISTANCE = 0.001;

/** Ends the key of a plate between the copies of a storey. */
export const BETWEEN = "|between";

export type ElementKind = 0 | 1 | 2 | 3;

/** A layer stack that melts in places. */
export interface MeltingSpec {
  readonly layers: readonly LayerPhysics[];
  readonly melting: readonly (Melting | null)[];
  readonly films: readonly [number, number];
}

/** A face or an opening as the year sees it; side 0 is outside or in the first zone, side 1 inside or in the second. */
export interface Element {
  /** 0 opaque, 1 glass, 2 ground, 3 partition. */
  kind: ElementKind;
  /** Name of the element for series and explanations: the face's key, with the opening's record. */
  key: string;
  face: Face;
  area: number;
  /** Area in the first zone of a partition, m². */
  area0: number;
  /** Null for glass, which has no mass, and for melting walls. */
  wall: ReducedWall | null;
  melting: MeltingSpec | null;
  zone0: number;
  zone1: number;
  outer: { solarAbsorptance: number; emissivity: number; roughness: keyof typeof ROUGHNESS };
  inner0: InsideSurface;
  inner1: InsideSurface;
  glass: GlazingPhysics | null;
  /** Glazing record of a window. */
  glazing: string | null;
  frame: number;
  opening: PlacedOpening | null;
  /** Set for the frame of a window of panes: the opening's key. */
  frameOf: string | null;
  groundRow: number;
  groundConductance: number;
}

/** All elements of a building: opaque, ground, glass, then partitions, and the monthly ground temperatures their rows name. */
export function buildElements(
  project: Project,
  weather: WeatherYear,
  geometry: Geometry,
  openings: readonly PlacedOpening[],
  zoneOfSpace: ReadonlyMap<string, number>,
  warnings: Problem[],
  reduction: ReductionOptions = {},
  inner: readonly InnerOpening[] = [],
): { list: Element[]; groundTemperature: Float64Array; spaceOf: (e: Element, side: 0 | 1) => string | null } {
  const surface = (assembly: string, end: "outer" | "inner"): Element["outer"] => {
    const layers = project.assemblies[assembly].layers.filter((l) => l.kind !== "circuit");
    const l = layers.at(end === "outer" ? 0 : -1);
    return l?.kind === "solid" ? project.materials[l.material] : PLAIN_SURFACE;
  };
  const inside = (area: number, s: { solarAbsorptance: number; emissivity: number }, face: Face, flip: boolean): InsideSurface => {
    const w = face.wall;
    const slope = face.plate && (face.plate.plane[0] !== 0 || face.plate.plane[1] !== 0) ? face.plate.plane : null;
    const offset = w ? Math.round((w.start[0] * face.normal[0] + w.start[1] * face.normal[1]) * 100) : Math.round((face.plate?.level ?? 0) * 100);
    // a plane has one mark from either side
    const turn = flip && face.wall ? -1 : 1;
    return {
      area,
      emissivity: s.emissivity,
      absorptance: s.solarAbsorptance,
      transmittance: 0,
      floor: (flip ? -face.normal[2] : face.normal[2]) < -0.5,
      plane: slope
        ? `slope ${slope.map((v) => Math.round(v * 100)).join(" ")}`
        : face.wall
          ? `${(Math.round(face.azimuth * 10) + (flip ? 1800 : 0)) % 3600} 90 ${turn * offset}`
          : `flat ${offset}`,
      normal: face.normal,
    };
  };
  const built = new Map<string, Pick<Element, "wall" | "melting">>();
  /** Wall of an assembly behind given films, reduced or melting; the same for all faces that ask alike. */
  const build = (
    assembly: string,
    before: readonly LayerPhysics[],
    films: readonly [number, number],
    slow = false,
    added = 0,
  ): Pick<Element, "wall" | "melting"> => {
    const key = `${assembly} ${films.join(" ")} ${slow} ${added} ${before.map((l) => `${l.thickness} ${l.resistance}`).join(" ")}`;
    let wall = built.get(key);
    if (!wall) built.set(key, (wall = buildAnew(assembly, before, films, slow, added)));
    return wall;
  };
  const buildAnew = (
    assembly: string,
    before: readonly LayerPhysics[],
    films: readonly [number, number],
    slow: boolean,
    added: number,
  ): Pick<Element, "wall" | "melting"> => {
    const a = project.assemblies[assembly];
    const own = assemblyLayers(project, a);
    const [rse, rsi] = surfaceResistances(a.use);
    const layers = [...before, ...(added === 0 ? own : withBridges(own, rse + rsi, added))];
    const melting = [...before.map(() => null), ...a.layers.map((l) => (l.kind === "solid" ? (project.materials[l.material].phaseChange ?? null) : null))];
    if (melting.some((m) => m !== null)) {
      if (layers.some(isPlane))
        warnings.push({
          code: "melting-circuit",
          severity: "warning",
          stage: "fabric",
          path: `assemblies/${assembly}`,
          message: `"${a.name}" has both a melting layer and a circuit; the circuit is left out.`,
        });
      return { wall: null, melting: { layers, melting, films } };
    }
    return { wall: reduceWall(layers, films, slow, reduction), melting: null };
  };
  const list: Element[] = [];
  const none: InsideSurface = { area: 0, emissivity: 1, absorptance: 0, transmittance: 0, floor: false, plane: "", normal: [0, 0, 1] };
  const byFace = new Map<string, PlacedOpening[]>();
  for (const o of openings) byFace.set(o.face, [...(byFace.get(o.face) ?? []), o]);
  const bridges = thermalBridges(project, geometry, openings);
  const sorted = [...geometry.faces].sort((a, b) => (a.key < b.key ? -1 : 1));
  const common = {
    glass: null,
    glazing: null,
    frame: 0,
    opening: null,
    frameOf: null,
    groundRow: -1,
    groundConductance: 0,
    inner0: none,
    zone0: -1,
    area0: 0,
    melting: null,
  };
  /** Copies a face's storey stands for. */
  const copies = (space: string): number => project.storeys[project.spaces[space].storey].multiplier;
  /** Of a plate between the copies of a storey: what is not the one roof, ground floor or contact with another storey. */
  const between = (face: Face, space: string, area: number): void => {
    const n = copies(space);
    if (n === 1 || area <= 0) return;
    const plate: Face = { ...face, contact: "adiabatic" };
    const assembly = faceAssembly(project, face).id;
    list.push({
      ...common,
      ...build(assembly, [], [ADIABATIC.conductance, INSIDE_FILM], true),
      kind: 2,
      key: `${face.key}${BETWEEN}`,
      face: plate,
      area: area * (1 - 1 / n),
      zone1: zoneOfSpace.get(space) as number,
      outer: PLAIN_SURFACE,
      inner1: inside(area * (1 - 1 / n), surface(assembly, "inner"), face, false),
      groundRow: ADIABATIC.row,
      groundConductance: ADIABATIC.conductance,
    });
  };

  for (const face of sorted) {
    if (face.contact !== "outdoors") continue;
    const zone1 = zoneOfSpace.get(face.space) as number;
    const assembly = faceAssembly(project, face).id;
    // of a storey that stands for several, one copy has the roof or the floor over outdoors
    const part = face.kind === "wall" ? 1 : 1 / copies(face.space);
    let net = face.area * part;
    for (const o of byFace.get(face.key) ?? []) {
      net -= o.area * part;
      const construction = openingConstruction(project, o, face).id;
      if (o.use === "door") {
        list.push({
          ...common,
          ...build(construction, [], [OUTSIDE_FILM, INSIDE_FILM]),
          kind: 0,
          key: o.key,
          face,
          opening: o,
          area: o.area * part,
          zone1,
          outer: surface(construction, "outer"),
          inner1: inside(o.area * part, surface(construction, "inner"), face, false),
        });
        continue;
      }
      const glazing = project.glazings[construction];
      const glass = glazingPhysics(glazing);
      const panes = glazing.kind === "panes";
      const share = glazing.frameShare;
      const area = part * (panes ? o.area * (1 - share) : o.area);
      // of a rated glazing the frame is part of the pane: its U contains it, its sun does not pass
      const frame = panes ? 0 : share;
      list.push({
        ...common,
        kind: 1,
        key: o.key,
        face,
        opening: o,
        area,
        wall: null,
        zone1,
        outer: { solarAbsorptance: 0, emissivity: glass.emissivity[0], roughness: "very smooth" },
        inner1: {
          ...inside(
            area,
            { solarAbsorptance: glass.insideAbsorptance * (1 - frame) + FRAME_ABSORPTANCE * frame, emissivity: glass.emissivity[1] },
            face,
            false,
          ),
          transmittance: glass.insideTransmittance * (1 - frame),
        },
        glass,
        glazing: construction,
        frame,
      });
      if (!panes || share === 0) continue;
      const f = part * o.area * share;
      const edge = part * 2 * (o.width + o.height) * Math.sqrt(1 - share) * glazing.edge;
      const u = glazing.frame.u + edge / f;
      const resistance = Math.max(LEAST_FRAME, 1 / u - 1 / glazing.ratedFilms.inside - 1 / glazing.ratedFilms.outside);
      list.push({
        ...common,
        kind: 0,
        key: `${o.key}|frame`,
        face,
        opening: o,
        frameOf: o.key,
        area: f,
        wall: reduceWall([resistanceLayer(resistance)], [OUTSIDE_FILM, INSIDE_FILM]),
        zone1,
        outer: { solarAbsorptance: glazing.frame.absorptance, emissivity: FRAME_EMISSIVITY, roughness: "smooth" },
        inner1: inside(f, { solarAbsorptance: FRAME_ABSORPTANCE, emissivity: FRAME_EMISSIVITY }, face, false),
      });
    }
    if (net > 1e-6)
      list.push({
        ...common,
        ...build(
          assembly,
          [],
          [OUTSIDE_FILM, INSIDE_FILM],
          false,
          addedU(bridges.get(face.space), bridges.size > 0 ? assemblyU(project, project.assemblies[assembly]) : 0),
        ),
        kind: 0,
        key: face.key,
        face,
        area: net,
        zone1,
        outer: surface(assembly, "outer"),
        inner1: inside(net, surface(assembly, "inner"), face, false),
      });
  }
  for (const face of sorted) if (face.contact === "outdoors" && face.kind !== "wall") between(face, face.space, face.area);
  const ground = groundSide(project, weather, geometry, warnings);
  for (const face of sorted) {
    if (face.contact !== "ground" && face.contact !== "adiabatic") continue;
    const assembly = faceAssembly(project, face).id;
    const g = face.contact === "ground" ? ground.of(face, assembly) : ADIABATIC;
    const own = face.contact === "ground" && face.kind !== "wall" ? face.area / copies(face.space) : face.area;
    if (own < face.area) between(face, face.space, face.area);
    const soil = g.soil > 0 ? [solidLayer(g.soil, project.site.ground.conductivity, project.site.ground.heatCapacity / 1000, 1000)] : [];
    list.push({
      ...common,
      ...build(assembly, soil, [g.conductance, INSIDE_FILM], true),
      kind: 2,
      key: face.key,
      face,
      area: own,
      zone1: zoneOfSpace.get(face.space) as number,
      outer: PLAIN_SURFACE,
      inner1: inside(own, surface(assembly, "inner"), face, false),
      groundRow: g.row,
      groundConductance: g.conductance,
    });
  }
  // one element for each pair of faces: of walls the lower key, of plates the ceiling (layers run from below to above)
  const pairs = sorted.flatMap((face) => {
    if (face.contact !== "space" || face.partner === null || (face.kind === "wall" ? face.key > face.partner : face.kind === "floor")) return [];
    const partner = geometry.byKey.get(face.partner);
    return partner ? [{ face, partner, equal: copies(face.space) === copies(partner.space) }] : [];
  });
  for (const { face, partner, equal } of pairs) {
    if (equal) continue;
    between(face, face.space, face.area);
    between(partner, partner.space, face.area);
  }
  const order: readonly ElementKind[] = [0, 2, 1, 3];
  list.sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind));
  /** Of a floor what the network has open, m². */
  const throughFloor = (face: Face, partner: Face): number =>
    !project.airNetwork?.use
      ? 0
      : Object.values(project.airNetwork.links).reduce(
          (sum, l) => sum + (l.kind === "floor opening" && (l.host === face.host || l.host === partner.host) ? l.area : 0),
          0,
        );
  for (const { face, partner, equal } of pairs) {
    // a way through has no wall; a door's leaf counts as wall
    const ways = inner.reduce(
      (sum, o) => sum + (o.use === "opening" && (o.face === face.key || o.face === partner.key) ? o.area : 0),
      throughFloor(face, partner),
    );
    const openPlate = face.kind !== "wall" && ways >= OPEN_PLATE * face.area;
    const net = openPlate ? face.area : face.area - ways;
    if (net <= 1e-6) continue;
    const area0 = equal ? net : net / copies(face.space);
    const area = equal ? net : net / copies(partner.space);
    const assembly = faceAssembly(project, face, partner.host).id;
    // side 0 lies in this face's own space, side 1 beyond it; normal points from 0 to 1
    list.push({
      ...common,
      ...(openPlate
        ? { wall: reduceWall([resistanceLayer(OPEN_RESISTANCE)], [INSIDE_FILM, INSIDE_FILM]), melting: null }
        : build(assembly, [], [INSIDE_FILM, INSIDE_FILM])),
      kind: 3,
      key: face.key,
      face,
      area,
      area0,
      zone0: zoneOfSpace.get(face.space) as number,
      zone1: zoneOfSpace.get(partner.space) as number,
      outer: surface(assembly, "outer"),
      inner0: inside(area0, surface(assembly, "outer"), face, false),
      inner1: inside(area, surface(assembly, "inner"), face, true),
    });
  }
  const spaceOf = (e: Element, side: 0 | 1): string | null => {
    if (e.kind < 3) return side === 1 ? e.face.space : null;
    return side === 0 ? e.face.space : e.face.partnerSpace;
  };
  const known = ground.temperature();
  // behind adiabatic sides nothing is felt of it, but there must be one
  return { list, groundTemperature: known.length > 0 ? known : new Float64Array(12).fill(20), spaceOf };
}
