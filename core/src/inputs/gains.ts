import { spaceShapes } from "../geometry/index.ts";
import type { Device, InputValue, Project, Schedule, SpaceField } from "../model/index.ts";
import { equivalentHours } from "../use/index.ts";
import { modelledPart, peopleBySpace } from "./people.ts";
import { resolve } from "./resolve.ts";

/** Power of equipment and where it goes, W: what is not dry and not latent leaves. */
export interface EquipmentPower {
  readonly power: number;
  readonly sensible: number;
  readonly latent: number;
}

/** What happens in one space at full use, whatever way it was given. */
export interface SpaceUse {
  /** Floor area, m², and volume, m³, of one space. */
  readonly area: number;
  readonly volume: number;
  readonly people: number;
  /** Installed lighting, W. */
  readonly lighting: number;
  /** Equipment that follows the schedule; what draws power at all times is not in it. */
  readonly appliances: EquipmentPower;
  /** Standby of listed devices, at all times. */
  readonly standby: EquipmentPower;
  readonly outdoorAir: OutdoorAir;
}

/** Outdoor air of a space term by term, m³/s. */
export interface OutdoorAir {
  readonly people: number;
  readonly area: number;
  readonly changes: number;
  /** The flow stated for the space as a whole, else sum or largest of the three: the breathing-zone flow (ASHRAE 62.1, 6.2.1.1). */
  readonly needed: number;
  /** The same over zone air distribution effectiveness and system ventilation efficiency: what is moved in. */
  readonly supplied: number;
  /** What exhaust draws in from outdoors besides, untreated. */
  readonly makeup: number;
}

type Read = (field: SpaceField) => InputValue;
const number = (read: Read, field: SpaceField): number => (read(field) as number | null) ?? 0;

const hours = new WeakMap<Schedule, { calendar: Project["calendar"]; hours: number }>();
/** Hours a common year at full value of a schedule; all of them without one. */
export function fullHours(project: Project, schedule: string | null): number {
  if (schedule === null) return 8760;
  const s = project.schedules[schedule];
  const known = hours.get(s);
  if (known?.calendar === project.calendar) return known.hours;
  const found = equivalentHours(s, project.calendar);
  hours.set(s, { calendar: project.calendar, hours: found });
  return found;
}

/** Power per area, W/m², that uses the modelled part of a known yearly energy, kWh, in the spaces that ask for their share. */
function powerPerArea(project: Project, energy: number | null, asking: readonly { readonly area: number; readonly hours: number }[]): number {
  const areaHours = asking.reduce((s, a) => s + a.area * a.hours, 0);
  return energy === null || areaHours <= 0 ? 0 : (1000 * energy * Math.min(1, modelledPart(project))) / areaHours;
}

/** Power of a list of devices: what is drawn at all times, and what the schedule adds to it at full use. */
export function devicesPower(devices: readonly Device[]): { readonly always: EquipmentPower; readonly scheduled: EquipmentPower } {
  const sum = (of: (d: Device) => number): EquipmentPower => ({
    power: devices.reduce((s, d) => s + d.number * of(d), 0),
    sensible: devices.reduce((s, d) => s + d.number * of(d) * d.sensible, 0),
    latent: devices.reduce((s, d) => s + d.number * of(d) * d.latent, 0),
  });
  return { always: sum((d) => d.standby), scheduled: sum((d) => d.running * (d.power - d.standby)) };
}

const NOTHING: EquipmentPower = { power: 0, sensible: 0, latent: 0 };
const found = new WeakMap<Project, ReadonlyMap<string, SpaceUse>>();

/** What happens in every space at full use: the one place where the ways an input can be given come together. */
export function spaceUses(project: Project): ReadonlyMap<string, SpaceUse> {
  const known = found.get(project);
  if (known) return known;
  const rows = resolve(project).space;
  const read = (id: string, f: SpaceField): InputValue => (rows.get(id) as NonNullable<ReturnType<typeof rows.get>>)[f].value;
  const shapes = spaceShapes(project);
  const people = peopleBySpace(project, read);
  const perArea = (given: SpaceField, schedule: SpaceField, energy: number | null): number =>
    powerPerArea(
      project,
      energy,
      Object.entries(project.spaces)
        .filter(([id]) => read(id, given) === "share of yearly energy")
        .map(([id, s]) => ({
          area: (shapes.get(id)?.floorArea ?? 0) * project.storeys[s.storey].multiplier,
          hours: fullHours(project, read(id, schedule) as string | null),
        })),
    );
  const lightingShare = perArea("lightingGiven", "lightingSchedule", project.known.lighting);
  const applianceShare = perArea("applianceGiven", "applianceSchedule", project.known.appliances);
  const uses = new Map<string, SpaceUse>();
  for (const id of Object.keys(project.spaces)) {
    const of: Read = (f) => read(id, f);
    const shape = shapes.get(id);
    const area = shape?.floorArea ?? 0;
    const volume = shape?.volume ?? 0;
    const power = (given: SpaceField, each: SpaceField, whole: SpaceField, share: number): number => {
      const how = of(given);
      return how === "per area" ? number(of, each) * area : how === "per space" ? number(of, whole) : how === "share of yearly energy" ? share * area : 0;
    };
    const list = of("applianceGiven") === "device list" ? (of("deviceList") as string | null) : null;
    const devices = list === null ? null : devicesPower(project.deviceLists[list].devices);
    const plain = power("applianceGiven", "appliancePower", "applianceSpacePower", applianceShare);
    const stays = plain * (1 - number(of, "applianceLostShare"));
    const latent = Math.min(stays, plain * number(of, "applianceLatentShare"));
    const count = people.get(id) ?? 0;
    uses.set(id, {
      area,
      volume,
      people: count,
      lighting: power("lightingGiven", "lightingPower", "lightingSpacePower", lightingShare),
      appliances: devices?.scheduled ?? { power: plain, sensible: stays - latent, latent },
      standby: devices?.always ?? NOTHING,
      outdoorAir: outdoorAirOf(of, count, area, volume),
    });
  }
  found.set(project, uses);
  return uses;
}

function outdoorAirOf(of: Read, count: number, floor: number, volume: number): OutdoorAir {
  const people = number(of, "outdoorAirPerPerson") * count;
  const area = number(of, "outdoorAirPerArea") * floor;
  const changes = (number(of, "outdoorAirChanges") * volume) / 3600;
  const whole = of("outdoorAirPerSpace") as number | null;
  const needed = whole ?? (of("outdoorAirCombined") === "largest" ? Math.max(people, area, changes) : people + area + changes);
  const supplied = needed / number(of, "airDistributionEffectiveness") / number(of, "ventilationEfficiency");
  return { people, area, changes, needed, supplied, makeup: Math.max(0, number(of, "exhaustAir") - number(of, "transferAir") - supplied) };
}

/** Outdoor air asked for with a share of the people there, over that with all of them, 1. A flow stated for the space as a whole does not follow them. */
export function outdoorAirAt(project: Project, space: string, use: SpaceUse, present: number): number {
  const { people, area, changes, needed } = use.outdoorAir;
  const row = resolve(project).space.get(space);
  if (!(needed > 0) || (row?.outdoorAirPerSpace.value ?? null) !== null) return 1;
  const now = present * people;
  return (row?.outdoorAirCombined.value === "largest" ? Math.max(now, area, changes) : now + area + changes) / needed;
}
