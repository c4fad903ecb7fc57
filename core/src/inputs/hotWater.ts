import { spaceShapes } from "../geometry/index.ts";
import { settingOf, waterSystemOf, type DrawPoint, type Project } from "../model/index.ts";
import { fullHours, spaceUses } from "./gains.ts";
import { modelledArea } from "./people.ts";
import { expandSchedule, fullestDay } from "../use/index.ts";
import { effective, effectiveServices } from "./resolve.ts";

/** Specific heat of water, J/kg·K; a litre is taken as a kilogram. */
export const WATER_HEAT = 4186;
const J_PER_KWH = 3.6e6;
/** L/h of a m³/s. */
const LITRES_PER_HOUR = 3.6e6;

/** Mean temperature of the cold water main over the year for a hot-water system, °C; undefined: not known yet. */
export type ColdWater = (system: string) => number | undefined;

const mean = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0) / a.length;

/** What a zone's water is warmed from and to, °C: the main's mean over the year, and what is wanted at the tap. @param cold of systems whose main follows the weather; absent: that of the plain services stands for it */
export function waterTemperatures(
  project: Project,
  zone: string,
  point: Pick<DrawPoint, "temperature"> | null = null,
  cold?: ColdWater,
): { readonly cold: number; readonly tap: number } {
  const { deliveryTemperature, mainsTemperature } = project.services[effectiveServices(project, zone).id].hotWater;
  const id = waterSystemOf(project, zone);
  if (id === null) return { cold: mainsTemperature, tap: point?.temperature ?? deliveryTemperature };
  const system = project.waterSystems[id];
  return {
    cold: system.coldWater ? mean(system.coldWater) : (cold?.(id) ?? mainsTemperature),
    tap: point?.temperature ?? (settingOf("waterSystem", system.inputs, "tapTemperature") as number),
  };
}
/** Rise of a zone's water from the cold water main to the tap, K. */
export function waterRise(project: Project, zone: string, point: Pick<DrawPoint, "temperature"> | null = null, cold?: ColdWater): number {
  const t = waterTemperatures(project, zone, point, cold);
  return Math.max(0, t.tap - t.cold);
}

/**
 * Hot water that the people of a space draw in a year, m³, with the storeys it stands for: what is typed per person on the fullest
 * day of their schedule, less on others in proportion.
 */
export function personWater(project: Project, space: string): number {
  const people = spaceUses(project).get(space)?.people ?? 0;
  const perPerson = effective(project, "space", space, "hotWaterPerPerson").value as number;
  const schedule = effective(project, "space", space, "peopleSchedule").value as string | null;
  const row = schedule === null ? null : expandSchedule(project.schedules[schedule], project.calendar);
  const fullest = row === null ? 24 : fullestDay(row);
  const all = fullHours(project, schedule);
  const times = project.storeys[project.spaces[space].storey].multiplier;
  return fullest > 0 ? (people * perPerson * times * all) / fullest / 1000 : 0;
}

/** A draw point worked out for the part that is modelled. */
export interface Draw {
  readonly id: string;
  /** Share of what is known for the whole building that falls to the model, by floor area, 1; null where the draw is built up. */
  readonly share: number | null;
  /** Floor area taken as modelled, m². */
  readonly modelled: number;
  /** Water drawn in a year, m³, and its heat, kWh, with the storeys the spaces stand for. */
  readonly volume: number;
  readonly energy: number;
  /** Hours a year at full draw that give the same volume. */
  readonly hours: number;
  /** Flow at full draw, L/h, of all that is modelled. */
  readonly flow: number;
  /** What it comes to in each zone, L/h at full draw of one of the storeys it stands for. */
  readonly zones: ReadonlyMap<string, number>;
}

/** Spaces a draw acts on, with the floor area they count by and how often they stand there. */
function spacesOf(project: Project, point: DrawPoint): { readonly id: string; readonly zone: string; readonly area: number; readonly times: number }[] {
  return [...spaceShapes(project)].flatMap(([id, g]) => {
    const { zone, storey } = project.spaces[id];
    if (zone === null || (point.space !== null && point.space !== id)) return [];
    return [{ id, zone, area: g.floorArea, times: project.storeys[storey].multiplier }];
  });
}

/** People of the model at full occupancy, with the storeys it stands for. */
export function modelledPeople(project: Project): number {
  let people = 0;
  for (const [id, use] of spaceUses(project)) people += use.people * project.storeys[project.spaces[id].storey].multiplier;
  return people;
}

/** How many times a set of taps stands there: people of its spaces over those it is made for, 1. */
export function tapSets(project: Project, point: Extract<DrawPoint, { kind: "taps" }>): number {
  if (point.people === null) return 1;
  const uses = spaceUses(project);
  const people = spacesOf(project, point).reduce((s, x) => s + (uses.get(x.id)?.people ?? 0) * (point.space === null ? x.times : 1), 0);
  return people / point.people;
}

/**
 * One draw point: the flow at full draw that, over its schedule, gives the year's volume or heat; of taps their flow itself. What is known for
 * the whole building is scaled by floor area to what is modelled; the temperature rise is that of what makes each zone's hot water.
 */
export function drawOf(project: Project, id: string, cold?: ColdWater): Draw {
  const point = project.drawPoints[id];
  const hours = fullHours(project, point.schedule);
  const spaces = spacesOf(project, point);
  const modelled = point.kind === "known" ? (point.modelled ?? modelledArea(project)) : modelledArea(project);
  const share = point.kind === "known" ? modelled / point.area : null;
  const all = spaces.reduce((s, x) => s + x.area * x.times, 0);
  const zones = new Map<string, number>();
  let volume = 0;
  let energy = 0;
  // litres a year of everything, where it does not hang on the rise of a zone
  const yearly =
    point.kind === "fixtures"
      ? 365 * point.fixtures.reduce((s, f) => s + f.litres * f.uses * f.users, 0)
      : point.kind === "taps"
        ? LITRES_PER_HOUR * hours * tapSets(project, point) * point.taps.reduce((s, t) => s + t.number * t.flow, 0)
        : point.of === "volume"
          ? 1000 * point.yearly * (share as number)
          : NaN;
  for (const s of spaces) {
    if (all <= 0 || hours <= 0) continue;
    const rise = waterRise(project, s.zone, point, cold);
    // of one of the storeys this space stands for; what is told of a space is so of each of them
    const part = point.space !== null && point.kind !== "known" ? 1 : s.area / all;
    const litres =
      point.kind === "known" && point.of === "energy"
        ? rise > 0
          ? (point.yearly * (share as number) * part * J_PER_KWH) / (WATER_HEAT * rise)
          : 0
        : yearly * part;
    zones.set(s.zone, (zones.get(s.zone) ?? 0) + litres / hours);
    volume += (litres * s.times) / 1000;
    energy += (litres * s.times * WATER_HEAT * rise) / J_PER_KWH;
  }
  return { id, share, modelled, volume, energy, hours, flow: hours > 0 ? (1000 * volume) / hours : 0, zones };
}

/** All draw points worked out. */
export const drawsOf = (project: Project, cold?: ColdWater): Draw[] => Object.keys(project.drawPoints).map((id) => drawOf(project, id, cold));

const PARTS: readonly (readonly [number, string])[] = [
  [1, "all of the building"],
  [3 / 4, "three quarters of the building"],
  [2 / 3, "two thirds of the building"],
  [1 / 2, "half of the building"],
  [1 / 3, "a third of the building"],
  [1 / 4, "a quarter of the building"],
  [1 / 5, "a fifth of the building"],
  [1 / 6, "a sixth of the building"],
  [1 / 8, "an eighth of the building"],
  [1 / 10, "a tenth of the building"],
  [1 / 20, "a twentieth of the building"],
];

/** A share of a building in words, for a look at whether it can be right. */
export function shareWords(share: number): string {
  if (share > 1 + 1e-9) return "more than all of the building";
  if (share < 0.02) return "next to nothing of the building";
  const [value, words] = PARTS.reduce((a, b) => (Math.abs(b[0] - share) < Math.abs(a[0] - share) ? b : a));
  return `${Math.abs(value - share) < 0.005 ? "" : "about "}${words}`;
}
