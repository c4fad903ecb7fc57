import { z } from "zod";
import { daysOf, designProfile, usualDesignDays, withDesignDay, type DesignProfile, type WeatherYear } from "../climate/index.ts";
import { dateOfDay, physicsOf, type DesignDay, type Project } from "../model/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";
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
  day: z.string().nullable().describe("Id of the design day it is of, the worst for it; null: no load."),
  components: z.record(z.enum(loadComponents), z.number()).describe("W into the zone at that step; what is left over is heat stored or given up by the air."),
});
export const sizingSchema = z.strictObject({
  formatVersion: z.literal(2),
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
  zones: z.array(z.strictObject({ id: z.string(), name: z.string(), floorArea: z.number(), heating: peakSchema, cooling: peakSchema })),
  building: z.strictObject({ heating: peakSchema, cooling: peakSchema }).describe("Largest sum of all zones at one time."),
});
export type Sizing = z.infer<typeof sizingSchema>;
export type Peak = z.infer<typeof peakSchema>;

const MAX_DAYS = 90;
/** A day is cyclic when no inside face differs by more than this from the day before, K. */
const CYCLIC = 0.01;

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
function runDesignDay(project: Project, weather: WeatherYear, spec: DesignDay, profile: DesignProfile, stepsPerHour: number): DayPeaks {
  const winter = spec.for === "heating";
  const { day } = profile;
  const year = withDesignDay(weather, profile);
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
    day: at[i] < 0 ? null : spec.id,
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

const notCyclic = (name: string): string => `"${name}" did not become cyclic within ${MAX_DAYS} days; its peaks may still change by a little.`;
const two = (n: number): string => String(n).padStart(2, "0");
const clock = (minutes: number): string => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;

/** Design days of a project: those it chooses, else those found in the year. */
export const designDaysOf = (project: Pick<Project, "designDays">, weather: WeatherYear): readonly DesignDay[] =>
  project.designDays && project.designDays.length > 0 ? project.designDays : usualDesignDays(weather);

/** What the sizes of a project depend on, as a hash. */
export const sizingHash = (project: Project): string => hashText(canonicalJson([physicsOf(project), project.designDays ?? null]));

const NO_PEAK: Peak = { power: 0, at: null, day: null, components: Object.fromEntries(loadComponents.map((c) => [c, 0])) as Peak["components"] };

/**
 * Peak heating and cooling of every zone and of the building: the worst of its design days, each repeated to a cyclic
 * state, heating days without gains or setback, cooling days as they are.
 * @throws ProjectError when the project has errors
 */
export function sizeProject(project: Project, weather: WeatherYear, stepsPerHour = 4): Sizing {
  const year = daysOf(weather);
  const runs = designDaysOf(project, weather).map((spec) => {
    const profile = designProfile(weather, spec);
    return { spec, profile, peaks: runDesignDay(project, weather, spec, profile, stepsPerHour) };
  });
  const worst = (load: "heating" | "cooling", of: (d: DayPeaks) => Peak): Peak =>
    runs.filter((r) => r.spec.for === load).reduce<Peak>((best, r) => (of(r.peaks).power > best.power ? of(r.peaks) : best), NO_PEAK);
  const { model } = runs[0].peaks;
  return {
    formatVersion: 2,
    project: project.name,
    warnings: [
      ...(["heating", "cooling"] as const).flatMap((load) =>
        runs.some((r) => r.spec.for === load) ? [] : [`No design day for ${load} is chosen; nothing is sized for it.`],
      ),
      ...runs.filter((r) => !r.peaks.cyclic).map((r) => notCyclic(r.spec.name)),
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
    })),
    building: { heating: worst("heating", (d) => d.building), cooling: worst("cooling", (d) => d.building) },
  };
}
