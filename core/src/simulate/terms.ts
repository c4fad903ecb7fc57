import type { Geometry } from "../geometry/index.ts";
import { effective } from "../inputs/index.ts";
import type { Project, SpaceField } from "../model/index.ts";
import { expandSchedule } from "../use/index.ts";
import { TERM } from "./model.ts";

/** What happens in the spaces, by zone: areas, set-points, and the gains and flows that schedules drive. */
export function spaceTerms(project: Project, geometry: Geometry, zoneIds: readonly string[], zoneOfSpace: ReadonlyMap<string, number>) {
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
