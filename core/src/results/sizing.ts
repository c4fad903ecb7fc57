import { z } from "zod";
import { dailyMeans, daysOf, type WeatherYear } from "../climate/index.ts";
import { dateOfDay, type Project } from "../model/index.ts";
import { compile, elementRoles, flowNames, YearKernel, type CompiledModel } from "../simulate/index.ts";

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
] as const;
export type LoadComponent = (typeof loadComponents)[number];

const peakSchema = z.strictObject({
  power: z.number().describe("W, mean of the step."),
  at: z.string().nullable().describe("End of the step, hour:minute of the design day; null: no load."),
  components: z.record(z.enum(loadComponents), z.number()).describe("W into the zone at that step; what is left over is heat stored or given up by the air."),
});
export const sizingSchema = z.strictObject({
  formatVersion: z.literal(1),
  project: z.string(),
  winter: z.strictObject({ date: z.string(), mean: z.number().describe("Daily mean, °C."), daysToCyclic: z.number().int() }),
  summer: z.strictObject({ date: z.string(), mean: z.number().describe("Daily mean, °C."), daysToCyclic: z.number().int() }),
  warnings: z.array(z.string()),
  zones: z.array(z.strictObject({ id: z.string(), name: z.string(), floorArea: z.number(), heating: peakSchema, cooling: peakSchema })),
  building: z.strictObject({ heating: peakSchema, cooling: peakSchema }).describe("Largest sum of all zones at one time."),
});
export type Sizing = z.infer<typeof sizingSchema>;
export type Peak = z.infer<typeof peakSchema>;

/** Share of the year's days that may be harder than a design day. */
const PERCENTILE = 0.01;
const MAX_DAYS = 90;
/** A day is cyclic when no inside face differs by more than this from the day before, K. */
const CYCLIC = 0.01;

/** Days of the weather year, from 0, whose mean temperature is colder, or warmer, than 99 % of the year's. */
export function designDays(weather: WeatherYear): { winter: number; summer: number } {
  const means = dailyMeans(weather);
  const order = Array.from(means.keys()).sort((a, b) => means[a] - means[b] || a - b);
  const rank = Math.floor(PERCENTILE * means.length);
  return { winter: order[rank], summer: order[means.length - 1 - rank] };
}

/** The year with one day's weather also before it, so that the day can follow itself; winter days without sun. */
function repeated(weather: WeatherYear, day: number, sun: boolean): WeatherYear {
  const { hours } = daysOf(weather);
  const before = (day * 24 - 1 + hours) % hours;
  const last = day * 24 + 23;
  const wrap = (a: Float64Array): Float64Array => {
    const copy = Float64Array.from(a);
    copy[before] = a[last];
    return copy;
  };
  return {
    ...weather,
    dryBulb: wrap(weather.dryBulb),
    relativeHumidity: wrap(weather.relativeHumidity),
    pressure: wrap(weather.pressure),
    windSpeed: wrap(weather.windSpeed),
    cloudCover: wrap(weather.cloudCover),
    infrared: weather.infrared && wrap(weather.infrared),
    globalHorizontal: sun ? weather.globalHorizontal : new Float64Array(hours),
    diffuseHorizontal: sun ? weather.diffuseHorizontal : new Float64Array(hours),
  };
}

/** The document a design day runs on: a working day, capacity without limit; in winter no gains and no setback. */
function designProject(project: Project, day: number, winter: boolean): Project {
  const still = {
    peopleSensible: 0,
    peopleLatent: 0,
    lightingGiven: "per area",
    lightingPower: 0,
    applianceGiven: "per area",
    appliancePower: 0,
    conditioningSchedule: null,
  };
  return {
    ...project,
    // a named year would fix the weekday of the day
    calendar: { ...project.calendar, year: null, holidays: [], firstWeekday: (((2 - day) % 7) + 7) % 7 },
    spaces: winter ? Object.fromEntries(Object.entries(project.spaces).map(([id, s]) => [id, { ...s, inputs: { ...s.inputs, ...still } }])) : project.spaces,
    zones: Object.fromEntries(
      Object.entries(project.zones).map(([id, zone]) => [id, { ...zone, inputs: { ...zone.inputs, heatingCapacity: null, coolingCapacity: null } }]),
    ),
    options: {},
  };
}

interface DayPeaks {
  readonly zones: readonly Peak[];
  readonly building: Peak;
  readonly daysToCyclic: number;
  readonly cyclic: boolean;
  readonly model: CompiledModel;
}

const COMPONENTS = loadComponents.length;
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

/** Repeats one day until it is cyclic, then reads the peaks of the load asked for. */
function runDesignDay(project: Project, weather: WeatherYear, day: number, load: "heating" | "cooling", stepsPerHour: number): DayPeaks {
  const winter = load === "heating";
  const year = repeated(weather, day, !winter);
  const model = compile(designProject(project, day, winter), year, stepsPerHour);
  const kernel = new YearKernel(model, year);
  let mean = 0;
  for (let h = 0; h < 24; h++) mean += year.dryBulb[day * 24 + h] / 24;
  kernel.start(mean, winter ? 20 : 25, 0.006);
  const { zones, elements } = model;
  let before = new Float64Array(elements).fill(Infinity);
  let days = 0;
  let cyclic = false;
  for (; !cyclic && days < MAX_DAYS; days++) {
    for (let s = 0; s < 24 * stepsPerHour; s++) kernel.step(day * 24 + Math.floor(s / stepsPerHour), s % stepsPerHour);
    cyclic = kernel.insideFaces.every((t, i) => Math.abs(t - before[i]) < CYCLIC);
    before = Float64Array.from(kernel.insideFaces);
  }
  const best = new Float64Array(zones + 1);
  const at = new Int32Array(zones + 1).fill(-1);
  const parts = Array.from({ length: zones + 1 }, () => new Float64Array(COMPONENTS));
  const now = new Float64Array(zones * COMPONENTS);
  for (let s = 0; s < 24 * stepsPerHour; s++) {
    kernel.step(day * 24 + Math.floor(s / stepsPerHour), s % stepsPerHour);
    readComponents(kernel, now);
    const power = winter ? kernel.record.heating : kernel.record.cooling;
    let total = 0;
    for (let zone = 0; zone < zones; zone++) {
      total += power[zone] * model.zoneMultiplier[zone];
      if (power[zone] <= best[zone]) continue;
      best[zone] = power[zone];
      at[zone] = s + 1;
      parts[zone].set(now.subarray(zone * COMPONENTS, (zone + 1) * COMPONENTS));
    }
    if (total <= best[zones]) continue;
    best[zones] = total;
    at[zones] = s + 1;
    parts[zones].fill(0);
    for (let zone = 0; zone < zones; zone++) for (let c = 0; c < COMPONENTS; c++) parts[zones][c] += now[zone * COMPONENTS + c] * model.zoneMultiplier[zone];
  }
  const peak = (i: number): Peak => ({
    power: best[i],
    at: at[i] < 0 ? null : clock((at[i] * 60) / stepsPerHour),
    components: Object.fromEntries(loadComponents.map((c, k) => [c, parts[i][k]])) as Peak["components"],
  });
  return { zones: Array.from({ length: zones }, (_, i) => peak(i)), building: peak(zones), daysToCyclic: days, cyclic, model };
}

function readComponents(kernel: YearKernel, now: Float64Array): void {
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
}

const notCyclic = (season: string): string => `The ${season} day did not become cyclic within ${MAX_DAYS} days; its peaks may still change by a little.`;
const two = (n: number): string => String(n).padStart(2, "0");
const clock = (minutes: number): string => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;

/**
 * Peak heating and cooling of every zone and of the building from a winter and a summer day found in the
 * year, each repeated to a cyclic state: winter without sun, gains or setback, summer as it is.
 * @throws ProjectError when the project has errors
 */
export function sizeProject(project: Project, weather: WeatherYear, stepsPerHour = 4): Sizing {
  const days = designDays(weather);
  const dateOf = (day: number): string => dateOfDay(day, daysOf(weather)).map(two).join("-");
  const means = dailyMeans(weather);
  const winter = runDesignDay(project, weather, days.winter, "heating", stepsPerHour);
  const summer = runDesignDay(project, weather, days.summer, "cooling", stepsPerHour);
  const warnings = [...(winter.cyclic ? [] : [notCyclic("winter")]), ...(summer.cyclic ? [] : [notCyclic("summer")])];
  return {
    formatVersion: 1,
    project: project.name,
    warnings,
    winter: { date: dateOf(days.winter), mean: means[days.winter], daysToCyclic: winter.daysToCyclic },
    summer: { date: dateOf(days.summer), mean: means[days.summer], daysToCyclic: summer.daysToCyclic },
    zones: winter.model.zoneIds.map((id, i) => ({
      id,
      name: winter.model.zoneNames[i],
      floorArea: winter.model.zoneArea[i],
      heating: winter.zones[i],
      cooling: summer.zones[i],
    })),
    building: { heating: winter.building, cooling: summer.building },
  };
}
