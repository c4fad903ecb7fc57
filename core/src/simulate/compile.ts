import { airDensity, leakageCoefficients, type FreeOpening } from "../airflow/index.ts";
import { coldWaterByMonth, daysOf, placeProblems, standardPressure, sunVector, weatherProblems, yearEpoch, type WeatherYear } from "../climate/index.ts";
import { wallStep, windProfile, type ReducedWall, type ReductionOptions } from "../fabric/index.ts";
import type { Face, Geometry } from "../geometry/index.ts";
import { effective, effectiveServices, ruledComponents } from "../inputs/index.ts";
import { buildServices, buildWater, coldOf, isOnAir, type DriveOf } from "../services/index.ts";
import { LEAP_YEAR, ProjectError, SIZED, waterSystemOf, type Problem, type Project, type YearDays } from "../model/index.ts";
import { blockPattern, cos, DEG, sin } from "../numeric/index.ts";
import { dayKinds } from "../use/index.ts";
import { buildArrays, buildTurbines } from "./arrays.ts";
import { airModel, airPairs, planOf } from "./airModel.ts";
import { FLOW } from "./catalogue.ts";
import { checkProject } from "./check.ts";
import { insideFilm, outsideFilm, windFilms } from "./convection.ts";
import { daylightModel } from "./daylight.ts";
import { BETWEEN, buildElements, type Element } from "./elements.ts";
import { greyExchange, radiantNetwork, shortWaveShares, viewFactors, type InsideSurface } from "./enclosure.ts";
import { glassSpecs } from "./glassSpecs.ts";
import { allCasters, castShades, dimGroups, traceBeams } from "./litTable.ts";
import type { CompiledModel, ElementRole, FullExchange, Sizes, SunDirection } from "./model.ts";
import { sunDirections, WIND } from "./model.ts";
import { reflectionTables } from "./reflections.ts";
import { slabFaces } from "./slabFaces.ts";
import { collectorPlanes } from "./collectorPlanes.ts";
import { spaceTerms } from "./terms.ts";

/** Passes of films, faces and zones within a step: usual, with melting walls, with full grey exchange (measured to converge to 0.01 W/m² in every step of the test box). */
const PASSES = 2;
const MELTING_PASSES = 3;
const FULL_PASSES = 6;
/** Updates of an elimination above which sweeps are quicker (measured: 5 % at 180, a third at 5,000). */
const SWEEPS_ABOVE = 150;
export const STEPS_PER_HOUR = [1, 2, 3, 4, 6, 12] as const;

/**
 * Turns a checked project into flat arrays for one length of step.
 * @param clock the driver's clock, s, to tell the shadow cast apart; the core has none of its own
 * @param years on end for which schedules are laid out
 * @param sizes of what is left to sizing; null: zones with plain services are unlimited there
 * @param ideal true: zones get what they need from nowhere, as their loads are found for sizing
 * @param reduction vectors beyond what each assembly needs, for refinement studies
 * @throws ProjectError when the project or the weather has errors, or the step is not offered
 */
export function compile(
  project: Project,
  weather: WeatherYear,
  stepsPerHour: number,
  clock: () => number = () => 0,
  reduction: ReductionOptions = {},
  years = 1,
  sizes: Sizes | null = null,
  ideal = false,
): CompiledModel {
  const checked = checkProject(project);
  const errors: Problem[] = checked.problems.filter((p) => p.severity === "error");
  for (const w of weatherProblems(weather)) errors.push({ code: "weather", severity: "error", stage: "place", ...w });
  if (!(STEPS_PER_HOUR as readonly number[]).includes(stepsPerHour))
    errors.push({
      code: "step",
      severity: "error",
      stage: "place",
      path: "run/stepsPerHour",
      message: `A year runs at 1, 2, 3, 4, 6 or 12 steps an hour, not at ${stepsPerHour}.`,
    });
  if (errors.length > 0) throw new ProjectError(errors);
  const warnings: Problem[] = [...placeProblems(project.site, weather)];
  const year = daysOf(weather);
  const { geometry, openings, inner, shades, surroundings } = checked;

  const zoneIds = Object.keys(project.zones)
    .filter((z) => Object.values(project.spaces).some((s) => s.zone === z))
    .sort();
  const zoneOf = new Map(zoneIds.map((id, i) => [id, i]));
  const zoneOfSpace = new Map(Object.entries(project.spaces).map(([id, s]) => [id, zoneOf.get(s.zone as string) as number]));
  const zones = zoneIds.length;

  const { list, groundTemperature, spaceOf } = buildElements(project, weather, geometry, openings, zoneOfSpace, warnings, reduction, inner);
  for (const [id, storey] of Object.entries(project.storeys))
    if (list.some((e) => e.key.endsWith(BETWEEN) && project.spaces[e.face.space].storey === id))
      warnings.push({
        code: "multiplied-plates",
        severity: "warning",
        stage: "form",
        path: `storeys/${id}`,
        message: `"${storey.name}" stands for ${storey.multiplier} storeys: its roof, its floor to the ground and its contact with other storeys count once, and the plates between its copies pass no heat.`,
      });
  const end = (kinds: readonly number[]): number => {
    const at = list.findIndex((e) => !kinds.includes(e.kind));
    return at < 0 ? list.length : at;
  };
  const opaqueEnd = end([0]);
  const groundEnd = end([0, 2]);
  const exterior = end([0, 1, 2]);
  const n = list.length;
  const dt = 3600 / stepsPerHour;
  const field = (read: (e: Element) => number): Float64Array => Float64Array.from(list, read);

  const exchange = insideExchange(project, list, zones, zoneIds, warnings);
  const casters = allCasters(geometry, shades, surroundings);
  const began = clock();
  const shading = castShades(project, casters, list);
  const castSeconds = clock() - began;

  const partitions = list.slice(exterior);
  const passes = Object.values(project.airExchanges);
  const zoneIndex = (id: string): number => zoneOf.get(id) ?? -1;
  const passing = passes.filter((p) => zoneIndex(p.zones[0]) >= 0 && zoneIndex(p.zones[1]) >= 0 && p.flow > 0);
  const network = planOf(project, checked);
  const pairs = network ? airPairs(network.plan, zoneIndex) : [];
  const networked = new Set(network?.plan.zones ?? []);
  const pattern = blockPattern(zones, [
    ...pairs.map((p): [number, number] => [p.zone0, p.zone1]),
    ...partitions.map((e): [number, number] => [e.zone0, e.zone1]),
    ...passing.map((p): [number, number] => [zoneIndex(p.zones[0]), zoneIndex(p.zones[1])]),
  ]);

  const daylight = daylightModel(project, geometry, casters, list, zoneOfSpace, warnings);
  // of loads for sizing nothing is driven
  const driven = ideal ? {} : repeated(weather.driven ?? {}, years);
  const mains = coldWaterByMonth(weather, project.site.latitude);
  const { project: ruled } = ruledComponents(project);
  const { rowOf, perPerson, ...spaces } = spaceTerms(
    project,
    geometry,
    zoneIds,
    zoneOfSpace,
    daylight.controls,
    years,
    year,
    {
      cold: coldOf(ruled, mains),
      stepped: !ideal,
    },
    driven,
    networked,
  );
  const driveOf: DriveOf = (address, f) => {
    if (!Object.hasOwn(driven, address)) return f;
    const before = (h: number): number => (f.row >= 0 ? spaces.schedules[f.row][h] : f.reset === null ? f.value : NaN);
    return { ...f, row: spaces.schedules.push(driven[address].map((v, h) => (v === v ? v : before(h)))) - 1 };
  };
  const siteLights = Object.values(project.siteLights).map((l) => {
    const row = rowOf(l.schedule);
    if (l.control === "schedule") return { power: l.power, schedule: row };
    const dark = darkHours(project, year.hours, yearEpoch(weather.year, year === LEAP_YEAR));
    return { power: l.power, schedule: spaces.schedules.push(spaces.schedules[row].map((v, h) => v * dark[h % year.hours])) - 1 };
  });
  const services = zoneIds.map((z) => project.services[effectiveServices(project, z).id]);
  const capacity = (name: "heatingCapacity" | "coolingCapacity"): Float64Array =>
    Float64Array.from(zoneIds, (z) => {
      const { value } = effective(project, "zone", z, name);
      return value === SIZED ? (sizes?.zones[z]?.[name] ?? Infinity) : ((value as number | null) ?? Infinity);
    });
  const coolingCapacity = capacity("coolingCapacity");
  const equipment = ideal
    ? null
    : buildServices(ruled, {
        zoneIds,
        multiplier: spaces.zoneMultiplier,
        area: spaces.zoneArea,
        rowOf,
        density: airDensity(20, standardPressure(project.site.elevation)),
        sizes: sizes?.components ?? {},
        driveOf,
      });
  const waterSystems = ideal
    ? []
    : buildWater(ruled, {
        zoneIds,
        multiplier: spaces.zoneMultiplier,
        area: spaces.zoneArea,
        rowOf,
        driveOf,
        cold: mains,
        clock: (day, from, hours) => weeklyHours(project, years, year, day, from, hours),
        perPerson,
      });
  const onAir = Uint8Array.from(zoneIds, (z) => +isOnAir(project, z));
  const multiplier = (zone: string): number => spaces.zoneMultiplier[zoneIndex(zone)];
  /** Of as many copies as a storey stands for one touches a zone of another storey. */
  const passWeight = (own: string, other: string): number => (multiplier(own) === multiplier(other) ? 1 : 1 / multiplier(own));
  // typed exchanges pass the same air both ways; of the network each way is an entry that one of the two zones feels
  const exchanges = [
    ...passing.map((p) => ({
      zone0: zoneIndex(p.zones[0]),
      zone1: zoneIndex(p.zones[1]),
      flow: p.flow,
      weight0: passWeight(p.zones[0], p.zones[1]),
      weight1: passWeight(p.zones[1], p.zones[0]),
      schedule: p.schedule,
    })),
    ...pairs.flatMap(({ zone0, zone1 }) => {
      const of = { zone0, zone1, flow: 0, schedule: null };
      return [
        { ...of, weight0: passWeight(zoneIds[zone0], zoneIds[zone1]), weight1: 0 },
        { ...of, weight0: 0, weight1: passWeight(zoneIds[zone1], zoneIds[zone0]) },
      ];
    }),
  ];

  const inside0 = list.map((e) => insideFilm(project.run.insideConvection, facing0(e), false));
  const outside = list.map((e) => outsideFilm(project.run.outsideConvection, facing0(e), e.kind === 1));
  const side0 = list.map((e, i) => (e.kind === 3 ? inside0[i] : outside[i]));
  const side1 = list.map((e) => insideFilm(project.run.insideConvection, facing1(e), e.kind === 1));
  const classes = orientationClasses(list);
  const glassList = list.slice(groundEnd, exterior);
  const glassNames = [...new Set(glassList.map((e) => e.glazing as string))].sort();
  const glass = glassSpecs(project, glassNames, rowOf);
  const windows = zoneIds.map((): FreeOpening[] => []);
  for (const e of list) {
    const o = e.opening;
    if (networked.has(zoneIds[e.zone1])) continue;
    if (!o || e.frameOf !== null || o.operable <= 0 || effective(project, "space", e.face.space, "windowGiven").value !== "drawn windows") continue;
    const middle = (o.low + o.high) / 2;
    windows[e.zone1].push({
      area: o.area * o.operable,
      azimuth: e.face.azimuth,
      middle,
      height: o.height,
      profile: windProfile(project.site.terrain, middle),
    });
  }
  for (const [id, z] of zoneOfSpace) {
    const typed = freeOpening(project, geometry, id);
    if (typed && !networked.has(zoneIds[z])) windows[z].push(typed);
  }
  const levels = new Set(Object.values(project.spaces).map((s) => project.storeys[s.storey].elevation));
  const leak = leakageCoefficients(project.site.shelter, levels.size);
  const roles = list.map(roleOf);

  return {
    year,
    sunEpoch: yearEpoch(weather.year, year === LEAP_YEAR),
    zones,
    zoneIds,
    zoneNames: zoneIds.map((z) => project.zones[z].name),
    elements: n,
    opaqueEnd,
    groundEnd,
    exterior,
    stepsPerHour,
    dt,
    passes:
      exchange.full.length > 0
        ? FULL_PASSES
        : list.some((e) => e.melting) || network !== null || (equipment?.systems.length ?? 0) > 0
          ? MELTING_PASSES
          : PASSES,
    options: project.run,
    keys: list.map((e) => e.key),
    area: field((e) => e.area),
    area0: field((e) => e.area0),
    ...modesOf(list, dt),
    meltings: list.flatMap((e, element) => (e.melting ? [{ element, spec: e.melting }] : [])),
    zone0: Int32Array.from(list, (e) => e.zone0),
    zone1: Int32Array.from(list, (e) => e.zone1),
    facing0: field(facing0),
    facing1: field(facing1),
    warm0: Float64Array.from(side0, (x) => x.warm),
    cold0: Float64Array.from(side0, (x) => x.cold),
    warm1: Float64Array.from(side1, (x) => x.warm),
    cold1: Float64Array.from(side1, (x) => x.cold),
    steadyWarm0: Float64Array.from(side0, (x) => x.steadyWarm),
    steadyCold0: Float64Array.from(side0, (x) => x.steadyCold),
    steadyWarm1: Float64Array.from(side1, (x) => x.steadyWarm),
    steadyCold1: Float64Array.from(side1, (x) => x.steadyCold),
    naturalInside: project.run.insideConvection.kind === "temperature difference",
    naturalOutside: project.run.outsideConvection.kind === "wind and temperature",
    ...exchange,
    traced: project.run.beam === "traced" ? traceBeams(project, list, spaceOf) : [],
    insideAbsorptance: Float64Array.from(list.flatMap((e) => [e.inner0.absorptance, e.inner1.absorptance])),
    insideTransmittance: Float64Array.from(list.flatMap((e) => [e.inner0.transmittance, e.inner1.transmittance])),
    kind: Uint8Array.from(list, (e) => e.kind),
    roles,
    roleFlow: Int32Array.from(roles, (r) => ROLE_FLOW[r]),
    orientation: classes.of,
    solarAbsorptance: field((e) => e.outer.solarAbsorptance),
    emissivity0: field((e) => e.outer.emissivity),
    forced: windFilms(project, list),
    wind: WINDS[project.run.outsideConvection.kind],
    skyView: Float64Array.from(list, (e, i) => seenShare(shading.sky, i) * skyView((1 + e.face.normal[2]) / 2)),
    reflections: reflectionTables(project, geometry, shades, surroundings, list, rowOf),
    litRow: shading.row,
    skyShare: shading.sky,
    horizonShare: shading.horizon,
    lit: shading.lit,
    scheduledShades: shading.scheduled.map((e) => ({ ...e, takes: e.takes.map((t) => ({ ...t, schedule: rowOf(t.schedule) })) })),
    recast: shading.recast,
    castSeconds,
    glassOf: Int32Array.from(glassList, (e) => glassNames.indexOf(e.glazing as string)),
    glassShare: Float64Array.from(glassList, (e) => 1 - e.frame),
    glassTilt: Float64Array.from(glassList, (e) => e.face.tilt),
    glassHeight: Float64Array.from(glassList, (e) => (e.opening ? e.opening.height : 1)),
    glassDirection: Uint8Array.from(glassList, (e) => sunDirections.indexOf(directionOf(e.face))),
    glassSpecs: glass.specs,
    glassOptics: glass.optics,
    variableGlass: glass.specs.some((g) => g.variable),
    anyBlind: glass.specs.some((g) => g.hasBlind),
    angleTable: glass.table,
    groundRow: Int32Array.from(list, (e) => e.groundRow),
    groundConductance: field((e) => e.groundConductance),
    groundTemperature,
    classNormal: classes.normal,
    classCos: classes.cos,
    classSin: classes.sin,
    classAzimuth: classes.azimuth,
    ...spaces,
    siteLights,
    windows,
    mayOpen: Uint8Array.from(windows, (w, z) => +(spaces.nightFlow[z] > 0 || spaces.freeFlow[z] > 0 || (w.length > 0 && !Number.isNaN(spaces.windowAbove[z])))),
    leak,
    air: network ? airModel(project, network.input, network.plan, zoneIds, pairs, passing.length, rowOf, ideal) : null,
    passZone0: Int32Array.from(exchanges, (x) => x.zone0),
    passZone1: Int32Array.from(exchanges, (x) => x.zone1),
    passFlow: Float64Array.from(exchanges, (x) => x.flow),
    passWeight0: Float64Array.from(exchanges, (x) => x.weight0),
    passWeight1: Float64Array.from(exchanges, (x) => x.weight1),
    passSchedule: Int32Array.from(exchanges, (x) => rowOf(x.schedule)),
    passBlock01: Int32Array.from(exchanges, (x) => pattern.indexOf(x.zone0, x.zone1)),
    passBlock10: Int32Array.from(exchanges, (x) => pattern.indexOf(x.zone1, x.zone0)),
    daylight,
    dimmers: dimGroups(casters).map((g) => ({ transmittance: g.transmittance, schedule: g.schedule === null ? -1 : rowOf(g.schedule) })),
    heatingCapacity: capacity("heatingCapacity"),
    coolingCapacity,
    latentLimits: coolingCapacity.some(
      (c, z) => c < Infinity && (spaces.coilTemperature[z] === spaces.coilTemperature[z] || spaces.dehumidifySetpoint[z] === spaces.dehumidifySetpoint[z]),
    ),
    recoverySensible: Float64Array.from(services, (s) => s.heatRecovery.sensible),
    recoveryLatent: Float64Array.from(services, (s) => s.heatRecovery.latent),
    recoveryFrost: Float64Array.from(services, (s) => s.heatRecovery.frostLimit ?? -Infinity),
    services: equipment,
    water: { systems: waterSystems, planes: collectorPlanes(project, geometry, casters, waterSystems, rowOf) },
    onWater: Uint8Array.from(zoneIds, (z) => +(!ideal && waterSystemOf(project, z) !== null)),
    arrays: ideal ? [] : buildArrays(ruled, checked.arrays, casters, rowOf),
    turbines: ideal ? [] : buildTurbines(ruled),
    onAir,
    slabs: equipment === null ? [] : slabFaces(project, equipment, list, exterior, warnings),
    pattern,
    sweeps: pattern.updateBlock.length > SWEEPS_ABOVE,
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

/** Values of a year, as often one after the other as the run has years. */
const repeated = (rows: Readonly<Record<string, Float64Array>>, years: number): Readonly<Record<string, Float64Array>> =>
  years === 1
    ? rows
    : Object.fromEntries(Object.entries(rows).map(([k, v]) => [k, Float64Array.from({ length: years * v.length }, (_, h) => v[h % v.length])]));

/** Hours of the run, by the clock on the wall, on a day of the week from an hour on: 1 within them. @param day 0: Monday */
function weeklyHours({ calendar }: Project, years: number, year: YearDays, day: number, from: number, hours: number): Uint8Array {
  const out = new Uint8Array(years * year.hours);
  const plain = { ...calendar, holidays: [] };
  for (let y = 0; y < years; y++)
    dayKinds(plain, y, year).forEach((kind, d) => {
      if (kind === day) out.fill(1, y * year.hours + 24 * d + from, Math.min(out.length, y * year.hours + 24 * d + from + Math.round(hours)));
    });
  return out;
}

/** Share of each hour of the year in which the sun is down, 1. */
function darkHours({ site }: Project, hours: number, epoch: number): Float64Array {
  const up = (hour: number): number => sunVector(hour, site.latitude, site.longitude, site.timeZone, epoch)[2];
  let before = up(0);
  return Float64Array.from({ length: hours }, (_, h) => {
    const from = before;
    before = up(h + 1);
    if (from > 0 === before > 0) return from > 0 ? 0 : 1;
    // the sun passes the horizon within the hour
    const passed = from / (from - before);
    return from > 0 ? 1 - passed : passed;
  });
}

/** The opening of a space that is given by its free area: in the middle of the space's height, turned with the plan. */
function freeOpening(project: Project, geometry: Geometry, id: string): FreeOpening | null {
  const number = (field: "windowFreeArea" | "windowFreeHeight" | "windowDirection"): number => effective(project, "space", id, field).value as number;
  const shape = geometry.spaces.get(id);
  if (!shape || effective(project, "space", id, "windowGiven").value !== "free area" || number("windowFreeArea") <= 0) return null;
  const middle = (shape.low + shape.high) / 2;
  const azimuth = (((number("windowDirection") + project.site.planNorth) % 360) + 360) % 360;
  return { area: number("windowFreeArea"), azimuth, middle, height: number("windowFreeHeight"), profile: windProfile(project.site.terrain, middle) };
}

const WINDS = { typed: WIND.NONE, "iso 52016-1": WIND.PLAIN, "wind and temperature": WIND.ROOT } as const;

const ROLE_FLOW: Record<ElementRole, number> = {
  walls: FLOW.walls,
  roof: FLOW.roof,
  "ground floor": FLOW.ground,
  "walls to ground": FLOW.ground,
  "exposed floor": FLOW.exposedFloor,
  doors: FLOW.doors,
  glass: FLOW.glass,
  neighbours: FLOW.partitions,
};

/** Modes of all reduced walls one after another, for one length of step. */
function modesOf(list: readonly Element[], dt: number) {
  const n = list.length;
  const f = (size: number): Float64Array => new Float64Array(size);
  const modeStart = new Int32Array(n + 1);
  list.forEach((e, i) => (modeStart[i + 1] = modeStart[i] + (e.wall?.modes ?? 0)));
  const modes = modeStart[n];
  const out = {
    modeStart,
    walls: list.map((e) => e.wall),
    meanPort0: f(modes),
    meanPort1: f(modes),
    decay: f(modes),
    uptake0: f(modes),
    uptake1: f(modes),
    content: f(modes),
    port0: f(modes),
    port1: f(modes),
    circuitPort: f(modes),
    circuitUptake: f(modes),
    circuitMean: f(modes),
    direct00: f(n),
    direct01: f(n),
    direct11: f(n),
    nominal0: f(n),
    nominal1: f(n),
    circuit0: f(n),
    circuit1: f(n),
    circuit2: f(n),
    circuits: Int32Array.from(list.flatMap((e, i) => (e.wall?.circuit ? [i] : []))),
  };
  const steps = new Map<ReducedWall, ReturnType<typeof wallStep>>();
  list.forEach((e, i) => {
    const w = e.wall;
    const films = w?.films ?? e.melting?.films;
    if (films) [out.nominal0[i], out.nominal1[i]] = films;
    if (!w) return;
    let step = steps.get(w);
    if (!step) steps.set(w, (step = wallStep(w, dt)));
    for (let k = 0; k < w.modes; k++) {
      const m = modeStart[i] + k;
      out.port0[m] = w.port[2 * k];
      out.port1[m] = w.port[2 * k + 1];
      out.meanPort0[m] = step.mean[k] * out.port0[m];
      out.meanPort1[m] = step.mean[k] * out.port1[m];
      out.decay[m] = step.decay[k];
      out.uptake0[m] = (1 - step.decay[k]) * out.port0[m];
      out.uptake1[m] = (1 - step.decay[k]) * out.port1[m];
      out.content[m] = w.content[k];
      if (!w.circuit) continue;
      out.circuitPort[m] = w.circuit[k];
      out.circuitUptake[m] = (1 - step.decay[k]) * w.circuit[k];
      out.circuitMean[m] = step.mean[k] * w.circuit[k];
    }
    [out.direct00[i], out.direct01[i], out.direct11[i]] = step.direct;
    [out.circuit0[i], out.circuit1[i], out.circuit2[i]] = step.circuit;
  });
  return out;
}

/** Exchange of long- and short-wave radiation inside, zone by zone. */
function insideExchange(project: Project, list: readonly Element[], zones: number, zoneIds: readonly string[], warnings: Problem[]) {
  const n = list.length;
  const f = (size: number): Float64Array => new Float64Array(size);
  const out = { exchange0: f(n), exchange1: f(n), beamShare0: f(n), beamShare1: f(n), diffuseShare0: f(n), diffuseShare1: f(n) };
  const full: FullExchange[] = [];
  const members = Array.from({ length: zones }, (): { element: number; side: 0 | 1; surface: InsideSurface }[] => []);
  list.forEach((e, i) => {
    if (e.zone0 >= 0) members[e.zone0].push({ element: i, side: 0, surface: e.inner0 });
    members[e.zone1].push({ element: i, side: 1, surface: e.inner1 });
  });
  for (let z = 0; z < zones; z++) {
    const surfaces = members[z].map((m) => m.surface);
    const report = (code: string, message: string): void =>
      void warnings.push({ code, severity: "warning", stage: "form", path: `zones/${zoneIds[z]}`, message });
    const network = radiantNetwork(surfaces);
    const name = project.zones[zoneIds[z]].name;
    let whole = project.run.radiation === "full";
    // where Carroll's factors do not converge, full exchange takes their place
    if (!network.converged) {
      whole = true;
      report("view-factors", `The radiant exchange factors of ${name} do not converge for its shape; every face exchanges with every other one.`);
    }
    if (whole) {
      const views = viewFactors(surfaces);
      if (!views.converged && surfaces.length > 1) {
        whole = false;
        report(
          "view-factors",
          `No view factors satisfy closure in ${name}: one plane is larger than all others together; factors of one to a mean radiant node are used.`,
        );
      } else if (surfaces.length > 1) {
        const exchange = greyExchange(surfaces, views.factors);
        full.push({ zone: z, members: Int32Array.from(members[z], (m) => 2 * m.element + m.side), exchange });
      }
    }
    const shares = shortWaveShares(surfaces, project.run.beam);
    members[z].forEach((m, k) => {
      const perArea = 1 / m.surface.area;
      (m.side === 0 ? out.exchange0 : out.exchange1)[m.element] = network.exchange[k];
      (m.side === 0 ? out.beamShare0 : out.beamShare1)[m.element] = shares.beam[k] * perArea;
      (m.side === 0 ? out.diffuseShare0 : out.diffuseShare1)[m.element] = shares.diffuse[k] * perArea;
    });
  }
  return { ...out, full };
}

/** Mean over the months of the share of its half sphere's sky that an element sees, 1. */
function seenShare(sky: Float64Array, element: number): number {
  let sum = 0;
  for (let m = 0; m < 12; m++) sum += sky[12 * element + m];
  return sum / 12;
}

/** Cosine from straight up of the surface on side 0 (outside, or in the first zone) and on side 1, seen from its air. */
const facing0 = (e: Element): number => (e.kind === 3 ? -e.face.normal[2] : e.face.normal[2]);
const facing1 = (e: Element): number => (e.kind === 3 ? e.face.normal[2] : -e.face.normal[2]);

/** Part of the sky that radiates at its own temperature to a surface that sees the share `f` of the half sphere, F√F (Walton 1983). */
const skyView = (f: number): number => f * Math.sqrt(f);

/** Kind of element for readers of its heat flow. */
function roleOf(e: Element): ElementRole {
  if (e.kind === 3) return "neighbours";
  if (e.face.contact === "adiabatic") return "neighbours";
  if (e.kind === 2) return e.face.kind === "wall" ? "walls to ground" : "ground floor";
  if (e.kind === 1 || e.frameOf !== null) return "glass";
  if (e.opening) return "doors";
  return e.face.kind === "wall" ? "walls" : e.face.kind === "ceiling" ? "roof" : "exposed floor";
}

/** Direction by which sun through a window is told. */
function directionOf(face: Face): SunDirection {
  if (face.tilt < 45) return "above";
  const a = face.azimuth;
  return a >= 315 || a < 45 ? "north" : a < 135 ? "east" : a < 225 ? "south" : "west";
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
