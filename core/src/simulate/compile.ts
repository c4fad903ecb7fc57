import { airDensity } from "../airflow/index.ts";
import { standardPressure, type WeatherYear } from "../climate/index.ts";
import { forcedCoefficient, naturalCoefficients, wallStep, windProfile, type ReducedWall } from "../fabric/index.ts";
import type { Face } from "../geometry/index.ts";
import { effective, effectiveServices } from "../inputs/index.ts";
import { ProjectError, type Problem, type Project } from "../model/index.ts";
import { blockPattern, cos, DEG, sin } from "../numeric/index.ts";
import { checkProject } from "./check.ts";
import { buildElements, type Element } from "./elements.ts";
import { radiantNetwork, shortWaveShares, type InsideSurface } from "./enclosure.ts";
import { castShades } from "./litTable.ts";
import type { CompiledModel, ElementRole } from "./model.ts";
import { spaceTerms } from "./terms.ts";

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
