import type { Face, Geometry } from "../geometry/index.ts";
import {
  drawsOf,
  effective,
  outdoorAirAt,
  spaceUses,
  waterRise,
  WATER_HEAT,
  zoneInput,
  type ColdWater,
  type DrivenOfZone,
  type SpaceUse,
} from "../inputs/index.ts";
import { COMMON_YEAR, signalRef, waterSystemOf, type InputValue, type Project, type SpaceField, type YearDays } from "../model/index.ts";
import { CRACK_EXPONENT, type LeakPlace } from "../airflow/index.ts";
import { windProfile } from "../fabric/index.ts";
import { pow } from "../numeric/index.ts";
import { expandSchedule, fullestDay, signalSpan } from "../use/index.ts";
import { TERM, type CompiledModel, type SetpointField, type SetpointSignal } from "./model.ts";

/** Hot water in what happens in the spaces: the main of systems, and whether their steps bring the heat of the draw into the rooms. */
export interface WaterTerms {
  readonly cold?: ColdWater;
  readonly stepped: boolean;
}

/** What happens in the spaces, by zone: areas, set-points, and the gains and flows that schedules drive. */
export function spaceTerms(
  project: Project,
  geometry: Geometry,
  zoneIds: readonly string[],
  zoneOfSpace: ReadonlyMap<string, number>,
  controls: readonly { readonly space: string }[],
  years = 1,
  days: YearDays = COMMON_YEAR,
  water: WaterTerms = { stepped: false },
  driven: DrivenRows = {},
  networked: ReadonlySet<string> = new Set(),
) {
  const schedules: Float64Array[] = [new Float64Array(days.hours * years).fill(1)];
  const rows = new Map<string, number>();
  const rowOf = (id: string | null): number => {
    if (id === null) return 0;
    let r = rows.get(id);
    if (r === undefined) {
      r = schedules.push(expandSchedule(project.schedules[id], project.calendar, years, days)) - 1;
      rows.set(id, r);
    }
    return r;
  };
  const zones = zoneIds.length;
  /** A row with what drives an input in its place, as a share of what it is at full value; where nothing does, as it was. */
  const drivenRow = (zone: number, what: DrivenOfZone, base: number, full = 1): number => {
    const own = drivenOf(zone, what);
    return own && full > 0 ? schedules.push(own.map((v, h) => (v === v ? v / full : schedules[base][h]))) - 1 : base;
  };
  const drivenOf = (zone: number, what: DrivenOfZone): Float64Array | undefined => {
    const input = zoneInput(zoneIds[zone], what);
    return Object.hasOwn(driven, input) ? driven[input] : undefined;
  };
  const zoneArea = new Float64Array(zones),
    zoneVolume = new Float64Array(zones),
    nightFlow = new Float64Array(zones),
    freeFlow = new Float64Array(zones),
    zoneMultiplier = new Float64Array(zones).fill(1);
  const occupancy = new Int32Array(zones).fill(-1);
  const terms: [zone: number, schedule: number, kind: number, value: number, control: number][] = [];
  const leaks: CompiledModel["leaks"][number][] = [];
  const facade = facadeAreas(geometry);
  const facadeLeaks: CompiledModel["facadeLeaks"][number][] = [];
  const places = new LeakPlaces(project);
  const innerCapacity = new Float64Array(zones);
  /** Hot water drawn per person, by zone: row of the people's schedule, kg/s at its full value. */
  const perPerson: { readonly zone: number; readonly row: number; readonly flow: number }[] = [];
  const largest = new Map<number, string>();
  const uses = spaceUses(project);
  const full = Object.keys(driven).length > 0 ? fullOf(project, geometry, zoneOfSpace, zoneIds.length, uses) : null;
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
    innerCapacity[z] += number("innerMass") * g.floorArea;
    nightFlow[z] += (number("nightVentilation") * g.volume) / 3600;
    freeFlow[z] += (number("freeCooling") * g.volume) / 3600;
    const use = uses.get(id) as SpaceUse;
    const { people } = use;
    const peopleRow = drivenRow(z, "people", schedule("peopleSchedule"), full?.people[z]);
    if (people > 0 && (occupancy[z] < 0 || largest.get(z) === id)) occupancy[z] = peopleRow;
    const control = controls.findIndex((c) => c.space === id);
    const add = (row: number, kind: number, value: number, lighting = -1): void => {
      if (value !== 0) terms.push([z, row, kind, value, lighting]);
    };
    const leakage = effective(project, "space", id, "infiltrationModel").value as string;
    const leakageRow = drivenRow(z, "infiltration", schedule("infiltrationSchedule"), full?.infiltration[z]);
    if (networked.has(project.spaces[id].zone as string)) {
      // it leaks by the cracks of the network
    } else if (leakage === "air changes") add(leakageRow, TERM.airLeakage, (number("infiltration") * g.volume) / 3600);
    else if (leakage === "leakage area") leaks.push({ zone: z, size: (facade.get(id) ?? 0) * number("leakageArea"), schedule: leakageRow });
    else {
      const perArea = number("infiltrationFlow") / pow(number("infiltrationPressure"), CRACK_EXPONENT);
      for (const f of geometry.faces)
        if (f.space === id && f.contact === "outdoors")
          for (const [place, share] of places.of(f)) facadeLeaks.push({ zone: z, place, size: perArea * f.area * share, schedule: leakageRow });
    }
    const sensible = people * number("peopleSensible");
    add(peopleRow, TERM.peopleRadiant, sensible * number("peopleRadiantShare"));
    add(peopleRow, TERM.peopleConvective, sensible * (1 - number("peopleRadiantShare")));
    add(peopleRow, TERM.peopleLatent, people * number("peopleLatent"));
    const { lighting } = use;
    const lightingRow = drivenRow(z, "lighting", schedule("lightingSchedule"), full?.lighting[z]);
    const measured = control < 0 ? undefined : drivenOf(z, "lighting");
    // power that was measured is dimmed already
    const parts = measured
      ? ([
          [schedules.push(schedules[lightingRow].map((v, h) => (measured[h] === measured[h] ? 0 : v))) - 1, control],
          [schedules.push(schedules[lightingRow].map((v, h) => (measured[h] === measured[h] ? v : 0))) - 1, -1],
        ] as const)
      : ([[lightingRow, control]] as const);
    for (const [row, dimmer] of parts) {
      add(row, TERM.lightingRadiant, lighting * number("lightingRadiantShare"), dimmer);
      add(row, TERM.lightingConvective, lighting * (1 - number("lightingRadiantShare")), dimmer);
    }
    add(lightingRow, TERM.lightingFull, lighting);
    const radiant = number("applianceRadiantShare");
    for (const [row, equipment] of [
      [drivenRow(z, "appliances", schedule("applianceSchedule"), full?.appliances[z]), use.appliances],
      [drivenRow(z, "appliances", 0, full?.appliances[z]), use.standby],
    ] as const) {
      add(row, TERM.applianceRadiant, equipment.sensible * radiant);
      add(row, TERM.applianceConvective, equipment.sensible * (1 - radiant));
      add(row, TERM.applianceLatent, equipment.latent);
      add(row, TERM.applianceFull, equipment.power);
    }
    const airRow = schedule("outdoorAirSchedule");
    const byDemand = effective(project, "space", id, "outdoorAirControl").value === "people present" && people > 0;
    add(
      drivenRow(
        z,
        "outdoorAir",
        byDemand ? demandRow(schedules, airRow, peopleRow, (present) => outdoorAirAt(project, id, use, present)) : airRow,
        full?.outdoorAir[z],
      ),
      TERM.outdoorAir,
      use.outdoorAir.supplied,
    );
    add(schedule("outdoorAirSchedule"), TERM.airLeakage, use.outdoorAir.makeup);
    // litres a person on the schedule's fullest day, drawn in proportion to the people present
    const fullest = people > 0 ? fullestDay(schedules[peopleRow]) : 0;
    if (fullest > 0) {
      const litres = (number("hotWaterPerPerson") * people) / fullest;
      add(peopleRow, TERM.hotWater, litres);
      if (litres > 0) perPerson.push({ zone: z, row: peopleRow, flow: litres / 3600 });
    }
  }
  for (const draw of drawsOf(project, water.cold)) {
    const point = project.drawPoints[draw.id];
    const row = rowOf(point.schedule);
    for (const [zone, flow] of draw.zones) {
      const z = zoneIds.indexOf(zone);
      // the heat of the water that stays in the room is booked with the equipment
      const stepped = water.stepped && waterSystemOf(project, zone) !== null;
      const heat = stepped ? 0 : (flow * WATER_HEAT * waterRise(project, zone, point, water.cold)) / 3600;
      for (const [kind, size] of [
        [TERM.hotWater, flow],
        [TERM.applianceConvective, heat * point.sensible],
        [TERM.applianceLatent, heat * point.latent],
      ] as const)
        if (z >= 0 && size !== 0) terms.push([z, row, kind, size, -1]);
    }
  }
  const value = (z: number, name: SpaceField): InputValue => effective(project, "space", largest.get(z) as string, name).value;
  /** Of the zone's largest space; NaN where the input is empty. */
  const ofZone = (name: SpaceField, scale = 1): Float64Array =>
    Float64Array.from({ length: zones }, (_, z) => ((value(z, name) as number | null) ?? NaN) * scale);
  const setpointSignals: SetpointSignal[] = [];
  /** Set-points by zone: a constant, or the mean of what they follow, which each step then puts in its place. */
  const setpointsOf = (name: SetpointField): Float64Array =>
    Float64Array.from({ length: zones }, (_, z) => {
      const v = value(z, name);
      const ref = typeof v === "string" ? signalRef(v) : null;
      const reset = ref?.part === "resets" ? project.resets[ref.id] : null;
      const row = ref && !reset ? rowOf(ref.id) : -1;
      const own = drivenOf(z, name.startsWith("heating") ? "heatingSetpoint" : "coolingSetpoint");
      if (own) {
        // a set-point in force takes the place of the setback too; one that is not driven falls back to what it was
        const before = (h: number): number => (row >= 0 ? schedules[row][h] : typeof v === "number" ? v : NaN);
        setpointSignals.push({ zone: z, field: name, schedule: schedules.push(own.map((x, h) => (x === x ? x : before(h)))) - 1, reset });
      } else if (ref) setpointSignals.push({ zone: z, field: name, schedule: row, reset });
      return signalSpan(project, v)?.mean ?? NaN;
    });
  const setpoints = {
    heatingSetpoint: setpointsOf("heatingSetpoint"),
    heatingSetback: setpointsOf("heatingSetback"),
    coolingSetpoint: setpointsOf("coolingSetpoint"),
    coolingSetback: setpointsOf("coolingSetback"),
  };
  const rowsOf = (name: SpaceField, what: DrivenOfZone | null = null): Int32Array =>
    Int32Array.from({ length: zones }, (_, z) => {
      const row = rowOf(value(z, name) as string | null);
      return what === null ? row : drivenRow(z, what, row);
    });
  return {
    zoneArea,
    zoneVolume,
    innerCapacity,
    facadeLeaks,
    leakPlaces: places.list,
    zoneMultiplier,
    occupancy,
    leaks,
    ...setpoints,
    setpointSignals,
    radiantWeight: Float64Array.from({ length: zones }, (_, z) => (value(z, "setpointKind") === "operative" ? 0.5 : 0)),
    optimumStart: Float64Array.from({ length: zones }, (_, z) => (value(z, "optimumStart") as number | null) ?? 0),
    humidifySetpoint: ofZone("humidifySetpoint", 0.01),
    dehumidifySetpoint: ofZone("dehumidifySetpoint", 0.01),
    moistureCapacity: ofZone("moistureCapacity"),
    coilTemperature: ofZone("coilTemperature"),
    coilBypass: ofZone("coilBypass"),
    nightFlow,
    nightSchedule: rowsOf("nightVentilationSchedule"),
    nightAbove: ofZone("nightVentilationAbove"),
    freeFlow,
    windowAbove: ofZone("windowOpenAbove"),
    windowIndoorMost: ofZone("windowIndoorMost"),
    windowOutdoorMost: ofZone("windowOutdoorMost"),
    windowOutdoor: ofZone("windowOutdoorLeast"),
    windowWind: ofZone("windowWindMost"),
    windowSchedule: rowsOf("windowSchedule", "windows"),
    metabolicRate: ofZone("metabolicRate"),
    clothingWinter: ofZone("clothingWinter"),
    clothingSummer: ofZone("clothingSummer"),
    airSpeed: ofZone("airSpeed"),
    conditioning: rowsOf("conditioningSchedule", "inUse"),
    perPerson,
    terms: terms.length,
    termZone: Int32Array.from(terms, (t) => t[0]),
    termSchedule: Int32Array.from(terms, (t) => t[1]),
    termKind: Int32Array.from(terms, (t) => t[2]),
    termValue: Float64Array.from(terms, (t) => t[3]),
    termControl: Int32Array.from(terms, (t) => t[4]),
    schedules,
    rowOf,
  };
}

/** Values of driven inputs hour by hour, as long as the schedules, by their address. */
export type DrivenRows = Readonly<Record<string, Float64Array>>;

/** What the gains and flows of zones are at the full value of their schedules, in the units of what drives them. */
function fullOf(
  project: Project,
  geometry: Geometry,
  zoneOfSpace: ReadonlyMap<string, number>,
  zones: number,
  uses: ReadonlyMap<string, SpaceUse>,
): Readonly<Record<"people" | "lighting" | "appliances" | "outdoorAir" | "infiltration", Float64Array>> {
  const sums = () => new Float64Array(zones);
  const out = { people: sums(), lighting: sums(), appliances: sums(), outdoorAir: sums(), infiltration: sums() };
  for (const [id, use] of uses) {
    const z = zoneOfSpace.get(id);
    const shape = geometry.spaces.get(id);
    if (z === undefined || !shape) continue;
    out.people[z] += use.people;
    out.lighting[z] += use.lighting;
    out.appliances[z] += use.appliances.power + use.standby.power;
    out.outdoorAir[z] += use.outdoorAir.supplied;
    if (effective(project, "space", id, "infiltrationModel").value === "air changes")
      out.infiltration[z] += ((effective(project, "space", id, "infiltration").value as number) * shape.volume) / 3600;
  }
  return out;
}

/** Outdoor wall and roof of each space, m². */
function facadeAreas(geometry: Geometry): Map<string, number> {
  const out = new Map<string, number>();
  for (const f of geometry.faces) if (f.contact === "outdoors") out.set(f.space, (out.get(f.space) ?? 0) + f.area);
  return out;
}

/** Heights of places that leak are told apart by this, m. */
const LEAK_GRAIN = 0.1;

/** Places on the outside of a building by direction and height: a wall leaks half in its lower and half in its upper half. */
class LeakPlaces {
  readonly list: LeakPlace[] = [];
  private readonly known = new Map<string, number>();
  private readonly project: Project;
  constructor(project: Project) {
    this.project = project;
  }

  of(f: Face): readonly (readonly [place: number, share: number])[] {
    if (f.kind !== "wall") return [[this.place(NaN, (f.low + f.high) / 2), 1]];
    const height = f.high - f.low;
    return [
      [this.place(f.azimuth, f.low + height / 4), 0.5],
      [this.place(f.azimuth, f.high - height / 4), 0.5],
    ];
  }

  private place(azimuth: number, at: number): number {
    const height = LEAK_GRAIN * Math.round(at / LEAK_GRAIN);
    const key = `${azimuth} ${height}`;
    let place = this.known.get(key);
    if (place === undefined) {
      place = this.list.push({ azimuth, height, profile: windProfile(this.project.site.terrain, Math.max(0, height)) }) - 1;
      this.known.set(key, place);
    }
    return place;
  }
}

/** A row of what is asked for now over what is asked for with everybody there: the row of the hours of air, times the demand at the people present. */
function demandRow(schedules: Float64Array[], air: number, people: number, demand: (present: number) => number): number {
  return schedules.push(schedules[air].map((on, h) => on * demand(schedules[people][h]))) - 1;
}
