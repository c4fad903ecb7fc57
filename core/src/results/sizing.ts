import { z } from "zod";
import { CP_AIR } from "../airflow/index.ts";
import { componentsOf, dateOfDay, isSized, physicsOf, serviceFieldsOf, settingAsked, SIZED, type DesignDay, type Project } from "../model/index.ts";
import { daysOf, designProfile, usualDesignDays, weatherHash, withDesignDay, type DesignProfile, type WeatherYear } from "../climate/index.ts";
import type { Summary } from "./summary.ts";
import { effective, ruledComponents } from "../inputs/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";
import { componentSizes, equipmentOf, isOnAir, type DesignLoads } from "../services/index.ts";
import { compile, elementRoles, flowNames, TERM, YearKernel, type CompiledModel, type Sizes } from "../simulate/index.ts";
import { MAX_DAYS, settleDay } from "./cyclic.ts";

/** What a peak load is made of, in the order it is told. */
export const loadComponents = [
  ...elementRoles,
  "sun",
  "people",
  "lighting",
  "appliances",
  "infiltration",
  "outdoor air",
  "opened windows and night air",
  "air between zones",
  "latent",
] as const;
export type LoadComponent = (typeof loadComponents)[number];

const peakSchema = z.strictObject({
  power: z.number().describe("W, mean of the step; of cooling sensible and latent together."),
  latent: z.number().describe("Part of it that takes moisture out, W."),
  at: z.string().nullable().describe("End of the step, hour:minute of the design day; null: no load."),
  day: z.string().nullable().describe("Id of the design day it is of, the worst for it; null: no load."),
  components: z.record(z.enum(loadComponents), z.number()).describe("W into the zone at that step; what is left over is heat stored or given up by the air."),
});
const capacitySchema = z
  .strictObject({
    power: z.number().describe("What sizing gives the zone, W: the peak times the factor, or what recovery asks for where that is more."),
    factor: z.number().describe("1"),
    recovery: z.number().nullable().describe("Least heating that brings the zone back to its set-point within its recovery time, W; null: not asked for."),
  })
  .describe("Capacity by sizing, whether or not another one is typed.");
export const sizingSchema = z.strictObject({
  formatVersion: z.literal(3),
  project: z.string(),
  days: z
    .array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        for: z.enum(["heating", "cooling"]),
        date: z.string().describe("Month-day whose sun it has."),
        highest: z.number().describe("Highest temperature, °C."),
        lowest: z.number().describe("Lowest temperature, °C."),
        wetBulb: z.number().describe("Wet-bulb temperature at the highest, °C."),
        daysToCyclic: z.number().int(),
        building: z.number().describe("Peak of the building on this day, W."),
      }),
    )
    .describe("Design days."),
  warnings: z.array(z.string()),
  zones: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      floorArea: z.number(),
      heating: peakSchema,
      cooling: peakSchema,
      heatingCapacity: capacitySchema,
      coolingCapacity: capacitySchema,
      supplyAir: z
        .strictObject({ temperature: z.number().describe("°C"), flow: z.number().describe("m³/s of air of 20 °C at the site.") })
        .nullable()
        .describe(
          "Air off the coil that carries the peak of sensible cooling: by-passed and treated air mixed; null: no cooling, or a coil that does not dry.",
        ),
    }),
  ),
  building: z.strictObject({ heating: peakSchema, cooling: peakSchema }).describe("Largest sum of all zones at one time."),
  components: z
    .array(
      z.strictObject({
        address: z.string().describe("Address of the setting, ids joined by /."),
        component: z.string(),
        of: z.string().describe("System, loop or zone it belongs to."),
        field: z.string(),
        value: z.number().describe("What sizing gives, in the unit of the document: W, m³/s."),
        typed: z.number().nullable().describe("What is typed in its place; null: nothing, the size holds."),
        peak: z.number().describe("What the design days ask for, before the factor."),
        factor: z.number(),
        day: z.string().nullable().describe("Id of the design day."),
        at: z.string().nullable().describe("End of the step, hour:minute."),
        parts: z.record(z.string(), z.number()).describe("What a load is made of, W."),
      }),
    )
    .describe("Sizes of systems, equipment and plant, with what is typed in their place."),
});
export type Sizing = z.infer<typeof sizingSchema>;
export type Peak = z.infer<typeof peakSchema>;

/** Steps an hour of design days, whatever the year is run at. */
const STEPS = 4;
const STEPS_A_DAY = 24 * STEPS;
/** A set-point counts as reached this near to it, K. */
const REACHED = 0.1;
/** Capacity for recovery is found to one part in 2^HALVINGS of its range, and sought up to so many times the held load. */
const HALVINGS = 7;
const MOST_TIMES = 16;

/** Kinds of design day: heating at held set-points, cooling likewise, heating with its setback. */
type DayKind = "heating" | "cooling" | "recovery";

/**
 * The document design days run on: every day is a working day, capacity is unlimited, set-points are held round the clock (but
 * for recovery), and on heating days there are no gains.
 */
function designProject(project: Project, kind: DayKind): Project {
  const still = { peopleSensible: 0, peopleLatent: 0, lightingGiven: "per area", lightingPower: 0, applianceGiven: "per area", appliancePower: 0 };
  const inputs = { ...(kind === "cooling" ? {} : still), ...(kind === "recovery" ? {} : { conditioningSchedule: null }), optimumStart: null };
  return {
    ...project,
    calendar: { ...project.calendar, year: null, holidays: [], firstWeekday: 0 },
    schedules: Object.fromEntries(
      Object.entries(project.schedules).map(([id, s]) => [id, { ...s, weeks: s.weeks.map((w) => ({ ...w, days: w.days.map(() => w.days[WORKING_DAY]) })) }]),
    ) as Project["schedules"],
    spaces: Object.fromEntries(Object.entries(project.spaces).map(([id, s]) => [id, { ...s, inputs: { ...s.inputs, ...inputs } }])),
    zones: Object.fromEntries(
      Object.entries(project.zones).map(([id, zone]) => [id, { ...zone, inputs: { ...zone.inputs, heatingCapacity: null, coolingCapacity: null } }]),
    ),
    options: {},
  };
}
/** Wednesday. */
const WORKING_DAY = 2;

interface DayPeaks {
  readonly zones: readonly Peak[];
  readonly building: Peak;
  readonly daysToCyclic: number;
  readonly cyclic: boolean;
  readonly loads: DesignLoads;
}

const COMPONENTS = loadComponents.length;
const LATENT = loadComponents.indexOf("latent");
const FLOW_OF = {
  sun: "sun",
  people: "people",
  lighting: "lighting",
  appliances: "appliances",
  infiltration: "infiltration",
  "outdoor air": "outdoorAir",
  "opened windows and night air": "openedAir",
  "air between zones": "betweenZones",
} as const;

/** A model of one kind of design day, and the states its last one settled at, from which the next begins. */
class DesignModel {
  readonly model: CompiledModel;
  private last: YearKernel | null = null;
  private readonly kind: DayKind;
  private readonly weather: WeatherYear;

  constructor(project: Project, weather: WeatherYear, kind: DayKind) {
    this.kind = kind;
    this.weather = weather;
    this.model = compile(designProject(project, kind), weather, STEPS, undefined, undefined, 1, null, true);
  }

  /** A day settled to its cyclic state, with a function that runs it once more. @param capacity of heating by zone, W; absent: unlimited */
  settle(
    profile: DesignProfile,
    capacity?: Float64Array,
  ): { kernel: YearKernel; once: (each?: (step: number) => void) => void; days: number; cyclic: boolean } {
    const { day } = profile;
    const year = withDesignDay(this.weather, profile);
    const kernel = new YearKernel(capacity ? { ...this.model, heatingCapacity: capacity } : this.model, year);
    const mean = profile.dryBulb.reduce((s, t) => s + t / 24, 0);
    const ratio = kernel.state.derived.humidityRatio[24 * day + 12];
    kernel.start(mean, this.kind === "cooling" ? 25 : 20, ratio);
    if (this.last && this.last.state.melting.length === 0) {
      kernel.state.a.set(this.last.state.a);
      kernel.record.humidityRatio.set(this.last.record.humidityRatio);
      kernel.record.airTemperature.set(this.last.record.airTemperature);
      kernel.record.radiantTemperature.set(this.last.record.radiantTemperature);
    }
    const once = (each?: (step: number) => void): void => {
      for (let s = 0; s < STEPS_A_DAY; s++) {
        kernel.step(24 * day + Math.floor(s / STEPS), s % STEPS);
        each?.(s);
      }
    };
    const found = settleDay(kernel, STEPS_A_DAY, () => void once());
    this.last = kernel;
    return { kernel, once, ...found };
  }
}

/** Peaks of a settled design day. */
function dayPeaks(design: DesignModel, spec: DesignDay, profile: DesignProfile): DayPeaks {
  const { model } = design;
  const { kernel, once, days, cyclic } = design.settle(profile);
  const winter = spec.for === "heating";
  const { zones } = model;
  const best = new Float64Array(zones + 1);
  const latent = new Float64Array(zones + 1);
  const at = new Int32Array(zones + 1).fill(-1);
  const parts = Array.from({ length: zones + 1 }, () => new Float64Array(COMPONENTS));
  const now = new Float64Array(zones * COMPONENTS);
  const { heating, cooling, dehumidification } = kernel.record;
  const loads = noLoads(spec, zones);
  once((s) => {
    readLoads(kernel, loads, s);
    readComponents(kernel, now, winter);
    let total = 0;
    let wet = 0;
    for (let zone = 0; zone < zones; zone++) {
      const moist = winter ? 0 : dehumidification[zone];
      const power = winter ? heating[zone] : cooling[zone] + moist;
      total += power * model.zoneMultiplier[zone];
      wet += moist * model.zoneMultiplier[zone];
      if (power <= best[zone]) continue;
      best[zone] = power;
      latent[zone] = moist;
      at[zone] = s + 1;
      parts[zone].set(now.subarray(zone * COMPONENTS, (zone + 1) * COMPONENTS));
    }
    if (total <= best[zones]) return;
    best[zones] = total;
    latent[zones] = wet;
    at[zones] = s + 1;
    parts[zones].fill(0);
    for (let zone = 0; zone < zones; zone++) for (let c = 0; c < COMPONENTS; c++) parts[zones][c] += now[zone * COMPONENTS + c] * model.zoneMultiplier[zone];
  });
  const peak = (i: number): Peak => ({
    power: best[i],
    latent: latent[i],
    at: at[i] < 0 ? null : clock((at[i] * 60) / STEPS),
    day: at[i] < 0 ? null : spec.id,
    components: Object.fromEntries(loadComponents.map((c, k) => [c, parts[i][k]])) as Peak["components"],
  });
  return { zones: Array.from({ length: zones }, (_, i) => peak(i)), building: peak(zones), daysToCyclic: days, cyclic, loads };
}

const noLoads = (spec: DesignDay, zones: number): DesignLoads & { pressure: number } => {
  const rows = (): Float64Array[] => Array.from({ length: zones }, () => new Float64Array(STEPS_A_DAY));
  return {
    day: spec.id,
    for: spec.for,
    steps: STEPS_A_DAY,
    outdoor: new Float64Array(STEPS_A_DAY),
    ratio: new Float64Array(STEPS_A_DAY),
    pressure: 0,
    heat: rows(),
    cool: rows(),
    latent: rows(),
    air: rows(),
    humidity: rows(),
    outdoorAir: rows(),
  };
};

/** Loads of the rooms in a step of a design day. */
function readLoads(kernel: YearKernel, loads: DesignLoads & { pressure: number }, s: number): void {
  const { zones } = kernel.model;
  const { boundary, hourTerms } = kernel.state;
  const r = kernel.record;
  loads.outdoor[s] = boundary.outdoor;
  loads.ratio[s] = boundary.ratio;
  loads.pressure = boundary.pressure;
  for (let z = 0; z < zones; z++) {
    loads.heat[z][s] = r.heating[z];
    loads.cool[z][s] = r.cooling[z];
    loads.latent[z][s] = r.dehumidification[z];
    loads.air[z][s] = r.airTemperature[z];
    loads.humidity[z][s] = r.humidityRatio[z];
    loads.outdoorAir[z][s] = hourTerms[TERM.outdoorAir * zones + z];
  }
}

function readComponents(kernel: YearKernel, now: Float64Array, winter: boolean): void {
  const m = kernel.model;
  now.fill(0);
  for (let i = 0; i < m.elements; i++) {
    const role = elementRoles.indexOf(m.roles[i]);
    now[m.zone1[i] * COMPONENTS + role] += kernel.elementFlow(i, 1);
    if (m.zone0[i] >= 0) now[m.zone0[i] * COMPONENTS + role] += kernel.elementFlow(i, 0);
  }
  for (const [component, flow] of Object.entries(FLOW_OF)) {
    const c = loadComponents.indexOf(component as LoadComponent);
    const f = flowNames.indexOf(flow);
    for (let zone = 0; zone < m.zones; zone++) now[zone * COMPONENTS + c] = kernel.record.flows[zone * flowNames.length + f];
  }
  if (!winter) for (let zone = 0; zone < m.zones; zone++) now[zone * COMPONENTS + LATENT] = kernel.record.dehumidification[zone];
}

/**
 * Least heating by zone, W, that brings it back to its set-point within its recovery time after use begins, on a heating day with
 * setback; NaN where none is asked for; `missed` where none is enough. All zones are halved toward it together. @param held load at held set-points, W
 */
function recoveryCapacity(design: DesignModel, profile: DesignProfile, held: Float64Array, hours: Float64Array): { capacity: Float64Array; missed: boolean[] } {
  const { model } = design;
  const { zones } = model;
  const low = Float64Array.from(held);
  const high = Float64Array.from(held, (v, z) => (hours[z] === hours[z] ? MOST_TIMES * Math.max(v, 1) : v));
  const out = Float64Array.from(hours, (h) => (h === h ? 0 : NaN));
  const tried = new Float64Array(zones);
  for (let round = 0; round <= HALVINGS; round++) {
    for (let z = 0; z < zones; z++) tried[z] = out[z] !== out[z] ? Infinity : round === 0 ? low[z] : Math.sqrt(low[z] * high[z]);
    const { kernel, once } = design.settle(profile, tried);
    const { heatTarget, airTemperature, radiantTemperature } = kernel.record;
    const met = new Uint8Array(zones).fill(1);
    const since = new Float64Array(zones).fill(Infinity);
    const before = Float64Array.from(heatTarget);
    once((s) => {
      for (let z = 0; z < zones; z++) {
        if (heatTarget[z] > before[z] + REACHED) since[z] = s;
        before[z] = heatTarget[z];
        const due = since[z] + Math.round(hours[z] * STEPS) - 1;
        const sensed = airTemperature[z] + model.radiantWeight[z] * (radiantTemperature[z] - airTemperature[z]);
        if (s === due && sensed < heatTarget[z] - REACHED) met[z] = 0;
      }
    });
    for (let z = 0; z < zones; z++) {
      if (out[z] !== out[z]) continue;
      if (met[z] === 1) {
        high[z] = tried[z];
        out[z] = tried[z];
      } else low[z] = tried[z];
    }
  }
  // none that was tried is enough: the most is given, and told
  const missed = Array.from(out, (v) => v === 0);
  for (let z = 0; z < zones; z++) if (missed[z]) out[z] = high[z];
  return { capacity: out, missed };
}

const notCyclic = (name: string): string => `"${name}" did not become cyclic within ${MAX_DAYS} days; its peaks may still change by a little.`;
const two = (n: number): string => String(n).padStart(2, "0");
const clock = (minutes: number): string => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;

/** Design days of a project: those it chooses, else those found in the year. */
export const designDaysOf = (project: Pick<Project, "designDays">, weather: WeatherYear): readonly DesignDay[] =>
  project.designDays && project.designDays.length > 0 ? project.designDays : usualDesignDays(weather);

/** What sizes do not depend on is taken out: capacities and factors, fuels and efficiencies, the calendar, the period and the step. */
export function sizingHash(project: Project): string {
  const own = physicsOf(project) as unknown as Project;
  const { run } = own;
  const parts = {
    ...own,
    sizingDays: null,
    // loads of rooms depend on systems only by which of them bring the outdoor air
    airSystems: null,
    loops: null,
    run: { ...run, period: null, shortYear: null, stepsPerHour: null, unmetTolerance: null },
    calendar: own.calendar.daylightSaving,
    zones: Object.fromEntries(
      Object.entries(own.zones).map(([id, { inputs, ...zone }]) => {
        const { heatingCapacity: _h, coolingCapacity: _c, heatingFactor: _f, coolingFactor: _g, ...rest } = inputs;
        return [id, { ...zone, inputs: rest, equipment: isOnAir(project, id) }];
      }),
    ),
    services: Object.fromEntries(Object.entries(own.services).map(([id, s]) => [id, { heatRecovery: s.heatRecovery, hotWater: s.hotWater }])),
  };
  return hashText(canonicalJson([parts, project.designDays ?? null]));
}

const NO_PEAK: Peak = { power: 0, latent: 0, at: null, day: null, components: Object.fromEntries(loadComponents.map((c) => [c, 0])) as Peak["components"] };

/** What design days gave, from which sizes follow at no cost. */
interface Found {
  readonly sizing: Omit<Sizing, "project" | "components">;
  readonly days: readonly DesignLoads[];
  /** Peaks of the zones by design day. */
  readonly byDay: ReadonlyMap<string, { readonly for: string; readonly zones: readonly Peak[] }>;
  readonly multiplier: Float64Array;
  readonly area: Float64Array;
  readonly density: number;
}
const known = new Map<string, Found>();
const KEPT = 12;

/**
 * Peak heating and cooling of every zone and of the building: the worst of its design days, each repeated to a cyclic state at
 * held set-points (ASHRAE Fundamentals 2017, ch. 18: constant indoor temperature), heating days without gains; and the
 * capacities that follow. Remembered by what it depends on. Yields after each design day.
 * @throws ProjectError when the project has errors
 */
export function* sizingSteps(project: Project, weather: WeatherYear): Generator<{ done: number; of: number }, Sizing, void> {
  const key = `${sizingHash(project)} ${weatherHash(weather)}`;
  const before = known.get(key);
  const found = before ?? (yield* findSizes(project, weather));
  if (!before) {
    if (known.size >= KEPT) known.delete(known.keys().next().value as string);
    known.set(key, found);
  }
  const { sizing } = found;
  return {
    ...sizing,
    project: project.name,
    components: componentSizes(
      ruledComponents(project).project,
      sizing.zones.map((z) => z.id),
      found.multiplier,
      found.area,
      found.days,
      found.density,
    ).map(({ step, ...c }) => ({ ...c, parts: { ...c.parts }, at: step === null ? null : clock((step * 60) / STEPS) })),
    warnings: [...sizing.warnings, ...lostDays(project, found)],
    zones: sizing.zones.map((z, i) => {
      /** The peak of the design day chosen for a capacity, else the worst of all. */
      const peakOf = (load: "heating" | "cooling"): Peak => {
        const day = found.byDay.get(project.sizingDays?.[`zones/${z.id}/inputs/${load}Capacity`] ?? "");
        return day?.for === load ? day.zones[i] : z[load];
      };
      const [heating, cooling] = [peakOf("heating"), peakOf("cooling")];
      const factor = (name: "heatingFactor" | "coolingFactor"): number => effective(project, "zone", z.id, name).value as number;
      const capacity = (peak: Peak, name: "heatingFactor" | "coolingFactor", recovery: number | null): Sizing["zones"][number]["heatingCapacity"] => ({
        power: Math.max(peak.power * factor(name), recovery ?? 0),
        factor: factor(name),
        recovery,
      });
      return {
        ...z,
        name: project.zones[z.id].name,
        heating,
        cooling,
        heatingCapacity: capacity(heating, "heatingFactor", z.heatingCapacity.recovery),
        coolingCapacity: capacity(cooling, "coolingFactor", null),
      };
    }),
  };
}

/** Design days that are chosen for a quantity and are not among those of the project. */
function lostDays(project: Project, found: Found): string[] {
  const lost = Object.values(project.sizingDays ?? {}).filter((d) => !found.byDay.has(d));
  return lost.length === 0
    ? []
    : [`${lost.length === 1 ? "One quantity is" : `${lost.length} quantities are`} to be sized by a design day that is gone; by the worst of all instead.`];
}

/** As `sizingSteps`, driven to its end. */
export function sizeProject(project: Project, weather: WeatherYear): Sizing {
  const steps = sizingSteps(project, weather);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** Whether anything is left to sizing: a capacity of a zone, or a setting of what serves one. */
export const needsSizes = (project: Project): boolean =>
  Object.keys(project.zones).some((z) => equipmentOf(project, z).length > 0) ||
  Object.keys(project.zones).some((z) => (["heatingCapacity", "coolingCapacity"] as const).some((f) => effective(project, "zone", z, f).value === SIZED));

/** Whether sizes hold all that a project leaves to sizing. */
export const sizesCover = (project: Project, sizes: Sizes): boolean =>
  Object.keys(project.zones).every((z) => Object.hasOwn(sizes.zones, z)) &&
  componentsOf(ruledComponents(project).project).every((c) =>
    Object.keys(serviceFieldsOf(c.kind)).every(
      (f) => !isSized(c.kind, c.inputs, f) || !settingAsked(c.kind, c.inputs, f) || Object.hasOwn(sizes.components, [...c.path, "inputs", f].join("/")),
    ),
  );

/** Capacities by sizing, as a run takes them. */
export const sizesOf = (sizing: Sizing): Sizes => ({
  zones: Object.fromEntries(sizing.zones.map((z) => [z.id, { heatingCapacity: z.heatingCapacity.power, coolingCapacity: z.coolingCapacity.power }])),
  components: Object.fromEntries(sizing.components.filter((c) => c.typed === null).map((c) => [c.address, c.value])),
});

/** The sizes a run had, from its summary: for another run of the same model, or an estimate of one near it. */
export const sizesOfSummary = (s: Pick<Summary, "zones" | "sized">): Sizes => ({
  zones: Object.fromEntries(
    s.zones.map(({ id, capacity }) => [id, { heatingCapacity: capacity.heating.power ?? Infinity, coolingCapacity: capacity.cooling.power ?? Infinity }]),
  ),
  components: s.sized,
});

function* findSizes(project: Project, weather: WeatherYear): Generator<{ done: number; of: number }, Found, void> {
  const year = daysOf(weather);
  const specs = designDaysOf(project, weather);
  const designs: Partial<Record<DayKind, DesignModel>> = {};
  const designOf = (kind: DayKind): DesignModel => (designs[kind] ??= new DesignModel(project, weather, kind));
  const runs: { spec: DesignDay; profile: DesignProfile; peaks: DayPeaks }[] = [];
  for (const spec of specs) {
    const profile = designProfile(weather, spec);
    runs.push({ spec, profile, peaks: dayPeaks(designOf(spec.for), spec, profile) });
    yield { done: runs.length, of: specs.length };
  }
  const worst = (load: "heating" | "cooling", of: (d: DayPeaks) => Peak): Peak =>
    runs.filter((r) => r.spec.for === load).reduce<Peak>((best, r) => (of(r.peaks).power > best.power ? of(r.peaks) : best), NO_PEAK);
  const { model } = designOf(runs[0]?.spec.for ?? "heating");
  const zoneIndex = model.zoneIds.map((_, i) => i);
  const hours = Float64Array.from(model.zoneIds, (z) => (effective(project, "zone", z, "recoveryTime").value as number | null) ?? NaN);
  const recovery = new Float64Array(model.zones).fill(NaN);
  const late: string[] = [];
  if (hours.some((h) => h === h))
    for (const r of runs.filter((x) => x.spec.for === "heating")) {
      const { capacity: needed, missed } = recoveryCapacity(
        designOf("recovery"),
        r.profile,
        Float64Array.from(zoneIndex, (i) => r.peaks.zones[i].power),
        hours,
      );
      for (const i of zoneIndex) {
        if (!(recovery[i] >= needed[i])) recovery[i] = needed[i];
        if (missed[i])
          late.push(
            `${model.zoneNames[i]} is not back at its set-point within its recovery time on "${r.spec.name}", even with ${MOST_TIMES} times what holds it; that much is given.`,
          );
      }
      yield { done: runs.length, of: specs.length };
    }
  const coil = (i: number): Sizing["zones"][number]["supplyAir"] => {
    const { power, latent, day } = worst("cooling", (d) => d.zones[i]);
    const surface = model.coilTemperature[i];
    const room = designs.cooling?.model.coolingSetpoint[i] ?? NaN;
    if (day === null || !(room - surface > 1)) return null;
    const temperature = surface + model.coilBypass[i] * (room - surface);
    return { temperature, flow: (power - latent) / (CP_AIR * model.airDensity * (room - temperature)) };
  };
  const sizing: Found["sizing"] = {
    formatVersion: 3,
    warnings: [
      ...(["heating", "cooling"] as const).flatMap((load) =>
        runs.some((r) => r.spec.for === load) ? [] : [`No design day for ${load} is chosen; nothing is sized for it.`],
      ),
      ...runs.filter((r) => !r.peaks.cyclic).map((r) => notCyclic(r.spec.name)),
      ...late,
    ],
    days: runs.map(({ spec, profile, peaks }) => ({
      id: spec.id,
      name: spec.name,
      for: spec.for,
      date: dateOfDay(profile.day, year).map(two).join("-"),
      highest: profile.highest,
      lowest: profile.highest - profile.range,
      wetBulb: profile.wet,
      daysToCyclic: peaks.daysToCyclic,
      building: peaks.building.power,
    })),
    zones: model.zoneIds.map((id, i) => ({
      id,
      name: model.zoneNames[i],
      floorArea: model.zoneArea[i],
      heating: worst("heating", (d) => d.zones[i]),
      cooling: worst("cooling", (d) => d.zones[i]),
      heatingCapacity: { power: 0, factor: 1, recovery: recovery[i] === recovery[i] ? recovery[i] : null },
      coolingCapacity: { power: 0, factor: 1, recovery: null },
      supplyAir: coil(i),
    })),
    building: { heating: worst("heating", (d) => d.building), cooling: worst("cooling", (d) => d.building) },
  };
  return {
    sizing,
    days: runs.map((r) => r.peaks.loads),
    byDay: new Map(runs.map((r) => [r.spec.id, { for: r.spec.for, zones: r.peaks.zones }])),
    multiplier: model.zoneMultiplier,
    area: model.zoneArea,
    density: model.airDensity,
  };
}
