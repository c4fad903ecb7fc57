import { blockPattern, cos, DEG, sin } from "../numeric/index.ts";
import { ProjectError, type Problem, type Project, type SpaceField } from "../model/index.ts";
import {
  type Face,
  type Geometry,
  type PlacedOpening,
  wallCorners,
  cachedLitShares,
  trapezoids,
  type Receiver,
  type ShadePlane,
  type Vector,
} from "../geometry/index.ts";
import { MONTH_DAYS, MONTH_START, standardPressure, sunVector, type WeatherYear } from "../climate/index.ts";
import {
  assemblyLayers,
  forcedCoefficient,
  glazingPhysics,
  naturalCoefficients,
  layersResistance,
  reduceWall,
  resistanceLayer,
  solidLayer,
  virtualGround,
  wallStep,
  windProfile,
  type GlazingPhysics,
  type LayerPhysics,
  type ReducedWall,
} from "../fabric/index.ts";
import { expandSchedule } from "../use/index.ts";
import { effective, effectiveServices, faceAssembly, openingConstruction } from "../inputs/index.ts";
import { airDensity } from "../airflow/index.ts";
import { checkProject } from "./check.ts";
import { radiantNetwork, shortWaveShares, type InsideSurface } from "./enclosure.ts";
import { TERM, type CompiledModel, type ElementRole } from "./model.ts";

const INSIDE_FILM = 7.7;
const OUTSIDE_FILM = 25;
/** Films of a surface whose innermost or outermost layer has no material: typical, unverified. */
const PLAIN_SURFACE = { solarAbsorptance: 0.6, emissivity: 0.9, roughness: "medium rough" as const };
const GLASS_EMISSIVITY = 0.84;
/** Inside of a frame, short-wave: typical, unverified. */
const FRAME_ABSORPTANCE = 0.5;

interface Element {
  kind: 0 | 1 | 2 | 3;
  face: Face;
  area: number;
  wall: ReducedWall;
  zone0: number;
  zone1: number;
  outer: { solarAbsorptance: number; emissivity: number; roughness: keyof typeof import("../fabric/index.ts").ROUGHNESS };
  inner0: InsideSurface;
  inner1: InsideSurface;
  glass: GlazingPhysics | null;
  frame: number;
  opening: PlacedOpening | null;
  groundRow: number;
  groundConductance: number;
}

/** Compiled lit shares are kept on this grid: two days a month by quarter hours of local standard time. */
export const LIT_DAYS = 24;
export const LIT_QUARTERS = 96;
const litDay = (k: number): number => Math.floor(((k + 0.5) * 365) / LIT_DAYS);

/** Equal-area directions of the upper half sphere (a golden-angle spiral), east, north, up. */
const SKY_PATCHES: readonly Vector[] = Array.from({ length: 200 }, (_, i): Vector => {
  const z = (i + 0.5) / 200;
  const r = Math.sqrt(1 - z * z);
  const angle = ((i * 137.50776405003785) % 360) * DEG;
  return [r * cos(angle), r * sin(angle), z];
});

/**
 * Turns a checked project into flat arrays for one length of step.
 * @throws ProjectError when the project has errors
 */
export function compile(project: Project, weather: WeatherYear, stepsPerHour: number): CompiledModel {
  const checked = checkProject(project);
  const errors = checked.problems.filter((p) => p.severity === "error");
  if (errors.length > 0) throw new ProjectError(errors);
  const warnings: Problem[] = [];
  const { geometry, openings, shades } = checked;

  const zoneIds = Object.keys(project.zones)
    .filter((z) => Object.values(project.spaces).some((s) => s.zone === z))
    .sort();
  const zoneOf = new Map(zoneIds.map((id, i) => [id, i]));
  const zoneOfSpace = new Map(Object.entries(project.spaces).map(([id, s]) => [id, zoneOf.get(s.zone as string) as number]));
  const zones = zoneIds.length;

  const elements = buildElements(project, weather, geometry, openings, zoneOfSpace, warnings);
  const list = elements.list;
  const exterior = list.findIndex((e) => e.kind === 3) < 0 ? list.length : list.findIndex((e) => e.kind === 3);
  const n = list.length;
  const dt = 3600 / stepsPerHour;

  const modeStart = new Int32Array(n + 1);
  list.forEach((e, i) => (modeStart[i + 1] = modeStart[i] + e.wall.modes));
  const modes = modeStart[n];
  const f = (size: number): Float64Array => new Float64Array(size);
  const meanPort0 = f(modes),
    meanPort1 = f(modes),
    decay = f(modes),
    uptake0 = f(modes),
    uptake1 = f(modes),
    content = f(modes),
    port0 = f(modes),
    port1 = f(modes);
  const direct00 = f(n),
    direct01 = f(n),
    direct11 = f(n),
    nominal0 = f(n),
    nominal1 = f(n);
  const steps = new Map<ReducedWall, ReturnType<typeof wallStep>>();
  list.forEach((e, i) => {
    let step = steps.get(e.wall);
    if (!step) steps.set(e.wall, (step = wallStep(e.wall, dt)));
    const w = e.wall;
    for (let k = 0; k < w.modes; k++) {
      const m = modeStart[i] + k;
      port0[m] = w.port[2 * k];
      port1[m] = w.port[2 * k + 1];
      meanPort0[m] = step.mean[k] * port0[m];
      meanPort1[m] = step.mean[k] * port1[m];
      decay[m] = step.decay[k];
      uptake0[m] = (1 - step.decay[k]) * port0[m];
      uptake1[m] = (1 - step.decay[k]) * port1[m];
      content[m] = w.content[k];
    }
    [direct00[i], direct01[i], direct11[i]] = step.direct;
    [nominal0[i], nominal1[i]] = w.films;
  });

  // inside exchange of radiation, zone by zone
  const exchange0 = f(n),
    exchange1 = f(n),
    beamShare0 = f(n),
    beamShare1 = f(n),
    diffuseShare0 = f(n),
    diffuseShare1 = f(n);
  const lostBeam = f(zones),
    lostDiffuse = f(zones);
  for (let z = 0; z < zones; z++) {
    const members: { element: number; side: 0 | 1; surface: InsideSurface }[] = [];
    list.forEach((e, i) => {
      if (e.zone0 === z) members.push({ element: i, side: 0, surface: e.inner0 });
      if (e.zone1 === z) members.push({ element: i, side: 1, surface: e.inner1 });
    });
    const surfaces = members.map((m) => m.surface);
    const network = radiantNetwork(surfaces);
    if (!network.converged)
      warnings.push({
        code: "view-factors",
        severity: "warning",
        stage: "form",
        path: `zones/${zoneIds[z]}`,
        message: `The radiant exchange factors of ${project.zones[zoneIds[z]].name} do not converge for its shape; factors of one are used.`,
      });
    const shares = shortWaveShares(surfaces);
    members.forEach((m, k) => {
      const perArea = 1 / m.surface.area;
      (m.side === 0 ? exchange0 : exchange1)[m.element] = network.exchange[k];
      (m.side === 0 ? beamShare0 : beamShare1)[m.element] = shares.beam[k] * perArea;
      (m.side === 0 ? diffuseShare0 : diffuseShare1)[m.element] = shares.diffuse[k] * perArea;
    });
    lostBeam[z] = shares.lostBeam;
    lostDiffuse[z] = shares.lostDiffuse;
  }

  const classes = orientationClasses(list);
  const facades = facadeSizes(list);
  const shading = castShades(project, geometry, shades, list);

  const partitions = list.slice(exterior);
  const pattern = blockPattern(
    zones,
    partitions.map((e): [number, number] => [e.zone0, e.zone1]),
  );

  const spaces = spaceTerms(project, geometry, zoneIds, zoneOfSpace);
  const field = (read: (e: Element) => number): Float64Array => Float64Array.from(list, read);
  const services = zoneIds.map((z) => project.services[effectiveServices(project, z).id]);
  const capacity = (name: "heatingCapacity" | "coolingCapacity"): Float64Array =>
    Float64Array.from(zoneIds, (z) => (effective(project, "zone", z, name).value as number | null) ?? Infinity);

  return {
    zones,
    zoneIds,
    zoneNames: zoneIds.map((z) => project.zones[z].name),
    elements: n,
    exterior,
    stepsPerHour,
    dt,
    area: field((e) => e.area),
    modeStart,
    meanPort0,
    meanPort1,
    decay,
    uptake0,
    uptake1,
    content,
    port0,
    port1,
    direct00,
    direct01,
    direct11,
    nominal0,
    nominal1,
    zone0: Int32Array.from(list, (e) => e.zone0),
    zone1: Int32Array.from(list, (e) => e.zone1),
    facing0: field(facing0),
    facing1: field(facing1),
    warm0: field((e) => naturalCoefficients(facing0(e)).warm),
    cold0: field((e) => naturalCoefficients(facing0(e)).cold),
    warm1: field((e) => naturalCoefficients(facing1(e)).warm),
    cold1: field((e) => naturalCoefficients(facing1(e)).cold),
    exchange0,
    exchange1,
    beamShare0,
    beamShare1,
    diffuseShare0,
    diffuseShare1,
    kind: Uint8Array.from(list, (e) => e.kind),
    roles: list.map(roleOf),
    orientation: classes.of,
    solarAbsorptance: field((e) => e.outer.solarAbsorptance),
    emissivity0: field((e) => e.outer.emissivity),
    forced: field((e) =>
      e.kind < 2
        ? forcedCoefficient(e.outer.roughness, ...(facades.get(facadeKey(e.face)) as [number, number])) *
          Math.sqrt(windProfile(project.site.terrain, midHeight(e.face)))
        : 0,
    ),
    skyView: field((e) => skyView((1 + e.face.normal[2]) / 2)),
    litRow: shading.row,
    skyShare: shading.sky,
    lit: shading.lit,
    transmittance: field((e) => (e.glass ? e.glass.transmittance * (1 - e.frame) : 0)),
    absorptance: field((e) => (e.glass ? e.glass.absorptance * (1 - e.frame) : 0)),
    diffuseTransmittance: field((e) => (e.glass ? e.glass.diffuseTransmittance * (1 - e.frame) : 0)),
    diffuseAbsorptance: field((e) => (e.glass ? e.glass.diffuseAbsorptance * (1 - e.frame) : 0)),
    angular: Float64Array.from(list.flatMap((e) => (e.glass ? [...e.glass.angular] : [0, 0, 0, 0, 0]))),
    groundRow: Int32Array.from(list, (e) => e.groundRow),
    groundConductance: field((e) => e.groundConductance),
    groundTemperature: elements.groundTemperature,
    classNormal: classes.normal,
    classCos: classes.cos,
    classSin: classes.sin,
    classAzimuth: classes.azimuth,
    ...spaces,
    lostBeam,
    lostDiffuse,
    heatingCapacity: capacity("heatingCapacity"),
    coolingCapacity: capacity("coolingCapacity"),
    recoverySensible: Float64Array.from(services, (s) => s.heatRecovery.sensible),
    recoveryLatent: Float64Array.from(services, (s) => s.heatRecovery.latent),
    pattern,
    block01: Int32Array.from(partitions, (e) => pattern.indexOf(e.zone0, e.zone1)),
    block10: Int32Array.from(partitions, (e) => pattern.indexOf(e.zone1, e.zone0)),
    latitude: project.site.latitude,
    longitude: project.site.longitude,
    timeZone: project.site.timeZone,
    planSine: sin(project.site.planNorth * DEG),
    planCosine: cos(project.site.planNorth * DEG),
    albedo: project.site.albedo,
    isotropic: project.run.sky === "isotropic",
    airDensity: airDensity(20, standardPressure(project.site.elevation)),
    warnings,
  };
}

/** Cosine from straight up of the surface on side 0 (outside, or in the first zone) and on side 1, seen from its air. */
const facing0 = (e: Element): number => (e.kind === 3 ? -1 : 1) * e.face.normal[2];
const facing1 = (e: Element): number => (e.kind === 3 ? 1 : -1) * e.face.normal[2];
function roleOf(e: Element): ElementRole {
  if (e.kind === 3) return "neighbours";
  if (e.kind === 2) return "ground floor";
  if (e.kind === 1) return "glass";
  if (e.opening) return "doors";
  return e.face.kind === "wall" ? "walls" : e.face.kind === "ceiling" ? "roof" : "exposed floor";
}
const skyView = (f: number): number => f * Math.sqrt(f);
const midHeight = (f: Face): number => (f.wall ? (f.wall.low + f.wall.high) / 2 : (f.plate?.level ?? 0));
/** Faces of one plane and height band share a façade for the forced film. */
const facadeKey = (f: Face): string => (f.wall ? `wall ${Math.round(f.azimuth * 10)}` : `${f.kind}`);

/** Perimeter, m, and area, m², of the whole façade or roof each face belongs to. */
function facadeSizes(list: readonly Element[]): Map<string, [number, number]> {
  const boxes = new Map<string, { area: number; width: number; low: number; high: number }>();
  for (const e of list) {
    if (e.kind === 3 || e.opening) continue;
    const key = facadeKey(e.face);
    const b = boxes.get(key) ?? { area: 0, width: 0, low: Infinity, high: -Infinity };
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

function orientationClasses(list: readonly Element[]): { of: Int32Array; normal: Float64Array; cos: Float64Array; sin: Float64Array; azimuth: Float64Array } {
  const keys = new Map<string, Face>();
  const keyOf = (f: Face): string => f.normal.map((v) => Math.round(v * 1e9) / 1e9).join(" ");
  for (const e of list) if (e.kind < 2 && !keys.has(keyOf(e.face))) keys.set(keyOf(e.face), e.face);
  const names = [...keys.keys()];
  const faces = [...keys.values()];
  return {
    of: Int32Array.from(list, (e) => (e.kind < 2 ? names.indexOf(keyOf(e.face)) : -1)),
    normal: Float64Array.from(faces.flatMap((g) => [...g.normal])),
    cos: Float64Array.from(faces, (g) => g.normal[2]),
    sin: Float64Array.from(faces, (g) => Math.sqrt(Math.max(0, 1 - g.normal[2] * g.normal[2]))),
    azimuth: Float64Array.from(faces, (g) => g.azimuth),
  };
}

function castShades(
  project: Project,
  geometry: Geometry,
  shades: readonly ShadePlane[],
  list: readonly Element[],
): { row: Int32Array; sky: Float64Array; lit: Float64Array } {
  const { site } = project;
  const suns: Vector[] = [];
  const cp = cos(site.planNorth * DEG);
  const sp = sin(site.planNorth * DEG);
  const toPlan = ([e, n, u]: Vector): Vector => [e * cp - n * sp, e * sp + n * cp, u];
  const patches = SKY_PATCHES.map(toPlan);
  for (let k = 0; k < LIT_DAYS; k++)
    for (let q = 0; q < LIT_QUARTERS; q++) {
      const [e, nn, u] = sunVector(litDay(k) * 24 + (q + 0.5) / 4, site.latitude, site.longitude, site.timeZone);
      suns.push(toPlan([e, nn, u]));
    }
  const up = suns.map((s, i) => (s[2] > 0 ? i : -1)).filter((i) => i >= 0);
  const raised = up.map((i) => suns[i]);
  const sunsKey = `${site.latitude} ${site.longitude} ${site.timeZone} ${site.planNorth} `;
  const casters: Vector[][] = [
    ...geometry.faces.filter((g) => g.wall && g.contact === "outdoors").map((g) => wallCorners(g, g.wall as NonNullable<Face["wall"]>)),
    ...shades.map((s) => [...s.corners]),
  ];
  const row = new Int32Array(list.length).fill(-1);
  const sky = new Float64Array(list.length).fill(1);
  const tables: Float64Array[] = [];
  list.forEach((e, i) => {
    if (e.kind > 1) return;
    const receiver = receiverOf(e);
    const shares = cachedLitShares(receiver, casters, raised, sunsKey, patches);
    sky[i] = shares.sky;
    const table = new Float64Array(suns.length).fill(1);
    let shaded = false;
    up.forEach((s, k) => {
      const front = raised[k][0] * receiver.normal[0] + raised[k][1] * receiver.normal[1] + raised[k][2] * receiver.normal[2] > 1e-6;
      table[s] = front ? shares.lit[k] : 1;
      if (table[s] < 1) shaded = true;
    });
    if (!shaded) return;
    row[i] = tables.length;
    tables.push(table);
  });
  const lit = new Float64Array(tables.length * suns.length);
  tables.forEach((t, i) => lit.set(t, i * suns.length));
  return { row, sky, lit };
}

function receiverOf(e: Element): Receiver {
  if (e.opening) return { pieces: [wallCorners(e.face, e.opening)], normal: e.face.normal };
  if (e.face.wall) return { pieces: [wallCorners(e.face, e.face.wall)], normal: e.face.normal };
  const plate = e.face.plate as NonNullable<Face["plate"]>;
  return { pieces: trapezoids(plate.polygons).map((r) => r.map(([x, y]): Vector => [x, y, plate.level])), normal: e.face.normal };
}

function buildElements(
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
      inside += g.area * ((effective(project, "space", g.space, "heatingSetpoint").value as number | null) ?? 15);
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
  return { area, perimeter: Math.max(perimeter, 0.01), wallThickness: perimeter > 0 ? thickness / perimeter : 0.3, inside: area > 0 ? inside / area : 20 };
}

function spaceTerms(project: Project, geometry: Geometry, zoneIds: readonly string[], zoneOfSpace: ReadonlyMap<string, number>) {
  const schedules: Float64Array[] = [new Float64Array(8760).fill(1)];
  const rows = new Map<string, number>();
  const rowOf = (id: string | null): number => {
    if (id === null) return 0;
    let r = rows.get(id);
    if (r === undefined) {
      r = schedules.push(expandSchedule(project.schedules[id], project.calendar)) - 1;
      rows.set(id, r);
    }
    return r;
  };
  const zones = zoneIds.length;
  const zoneArea = new Float64Array(zones),
    zoneVolume = new Float64Array(zones),
    infiltration = new Float64Array(zones),
    zoneMultiplier = new Float64Array(zones).fill(1);
  const occupancy = new Int32Array(zones).fill(-1);
  const terms: [zone: number, schedule: number, kind: number, value: number][] = [];
  const largest = new Map<number, string>();
  for (const id of Object.keys(project.spaces).sort()) {
    const z = zoneOfSpace.get(id) as number;
    const g = geometry.spaces.get(id);
    if (!g) continue;
    const number = (name: SpaceField): number => (effective(project, "space", id, name).value as number | null) ?? 0;
    const schedule = (name: SpaceField): number => rowOf(effective(project, "space", id, name).value as string | null);
    zoneArea[z] += g.floorArea;
    zoneVolume[z] += g.volume;
    zoneMultiplier[z] = project.storeys[project.spaces[id].storey].multiplier;
    const best = largest.get(z);
    if (best === undefined || g.floorArea > (geometry.spaces.get(best) as { floorArea: number }).floorArea) largest.set(z, id);
    infiltration[z] += (number("infiltration") * g.volume) / 3600;
    const people = number("peopleDensity") * g.floorArea;
    const peopleRow = schedule("peopleSchedule");
    if (people > 0 && (occupancy[z] < 0 || largest.get(z) === id)) occupancy[z] = peopleRow;
    const add = (row: number, kind: number, value: number): void => {
      if (value !== 0) terms.push([z, row, kind, value]);
    };
    const sensible = people * number("peopleSensible");
    add(peopleRow, TERM.peopleRadiant, sensible * number("peopleRadiantShare"));
    add(peopleRow, TERM.peopleConvective, sensible * (1 - number("peopleRadiantShare")));
    add(peopleRow, TERM.peopleLatent, people * number("peopleLatent"));
    const lighting = number("lightingPower") * g.floorArea;
    add(schedule("lightingSchedule"), TERM.lightingRadiant, lighting * number("lightingRadiantShare"));
    add(schedule("lightingSchedule"), TERM.lightingConvective, lighting * (1 - number("lightingRadiantShare")));
    const appliances = number("appliancePower") * g.floorArea;
    const dry = appliances * (1 - number("applianceLatentShare"));
    add(schedule("applianceSchedule"), TERM.applianceRadiant, dry * number("applianceRadiantShare"));
    add(schedule("applianceSchedule"), TERM.applianceConvective, dry * (1 - number("applianceRadiantShare")));
    add(schedule("applianceSchedule"), TERM.applianceLatent, appliances - dry);
    add(schedule("outdoorAirSchedule"), TERM.outdoorAir, number("outdoorAirPerPerson") * people + number("outdoorAirPerArea") * g.floorArea);
    // litres a day at full occupancy, drawn in proportion to the people present
    const mean = schedules[peopleRow].reduce((s, v) => s + v, 0) / 8760;
    if (mean > 0) add(peopleRow, TERM.hotWater, (number("hotWaterPerPerson") * people) / 24 / mean);
  }
  const setpoint = (name: SpaceField): Float64Array =>
    Float64Array.from({ length: zones }, (_, z) => (effective(project, "space", largest.get(z) as string, name).value as number | null) ?? NaN);
  return {
    zoneArea,
    zoneVolume,
    zoneMultiplier,
    infiltration,
    occupancy,
    heatingSetpoint: setpoint("heatingSetpoint"),
    heatingSetback: setpoint("heatingSetback"),
    coolingSetpoint: setpoint("coolingSetpoint"),
    coolingSetback: setpoint("coolingSetback"),
    conditioning: Int32Array.from({ length: zones }, (_, z) =>
      rowOf(effective(project, "space", largest.get(z) as string, "conditioningSchedule").value as string | null),
    ),
    terms: terms.length,
    termZone: Int32Array.from(terms, (t) => t[0]),
    termSchedule: Int32Array.from(terms, (t) => t[1]),
    termKind: Int32Array.from(terms, (t) => t[2]),
    termValue: Float64Array.from(terms, (t) => t[3]),
    schedules,
  };
}
