import {
  componentName,
  componentsOf,
  dayOfYear,
  inRange,
  ownerName,
  serviceFieldsOf,
  unitOfText,
  type Drive,
  type Problem,
  type Project,
  type YearDays,
} from "../model/index.ts";
import { gapsOf, hourlyInstants, hourlyMeans, lookedAt, pointUnit, putRight, turnedTo, type LoggedReadings } from "../logged/index.ts";

/** An input that a point may drive. */
export interface DriveTarget {
  /** Its address, by which drives name it. */
  readonly input: string;
  /** What it belongs to: the weather, a zone, a system. */
  readonly of: string;
  readonly label: string;
  /** Unit its values are in within a run. */
  readonly unit: string;
  /** Values at the end of each hour rather than means over it. */
  readonly instant: boolean;
}

/** Quantities of the weather that may be driven, in the unit of the weather year. */
export const drivenWeather = {
  dryBulb: { label: "Outdoor temperature", unit: "°C", instant: true },
  relativeHumidity: { label: "Outdoor relative humidity", unit: "%", instant: true },
  pressure: { label: "Air pressure", unit: "Pa", instant: true },
  windSpeed: { label: "Wind speed at 10 m", unit: "m/s", instant: true },
  windDirection: { label: "Wind direction", unit: "°", instant: true },
  globalHorizontal: { label: "Global horizontal sun", unit: "W/m²", instant: false },
  diffuseHorizontal: { label: "Diffuse horizontal sun", unit: "W/m²", instant: false },
} as const;
export type DrivenWeather = keyof typeof drivenWeather;

/** What may be driven of a zone. */
export const drivenOfZone = {
  heatingSetpoint: { label: "Heating set-point in force", unit: "°C" },
  coolingSetpoint: { label: "Cooling set-point in force", unit: "°C" },
  inUse: { label: "In use", unit: "1" },
  people: { label: "People present", unit: "1" },
  lighting: { label: "Lighting power", unit: "W" },
  appliances: { label: "Power of equipment", unit: "W" },
  outdoorAir: { label: "Outdoor air", unit: "m³/s" },
  infiltration: { label: "Air leakage", unit: "m³/s" },
  windows: { label: "Windows may open", unit: "1" },
} as const;
export type DrivenOfZone = keyof typeof drivenOfZone;
export const zoneInput = (zone: string, what: DrivenOfZone): string => `zones/${zone}/${what}`;

const targets = new WeakMap<Project, readonly DriveTarget[]>();

/** Everything of a project that a point may drive: weather, zones, and signals and schedules of systems, loops and sources. */
export function driveTargets(project: Project): readonly DriveTarget[] {
  const known = targets.get(project);
  if (known) return known;
  const out: DriveTarget[] = Object.entries(drivenWeather).map(([name, x]) => ({ input: `weather/${name}`, of: "Weather", ...x }));
  for (const [id, zone] of Object.entries(project.zones))
    for (const [what, x] of Object.entries(drivenOfZone)) out.push({ input: zoneInput(id, what as DrivenOfZone), of: zone.name, instant: false, ...x });
  for (const c of componentsOf(project))
    for (const [field, spec] of Object.entries(serviceFieldsOf(c.kind)))
      if (spec.signal || spec.kind === "schedule") {
        const owner = ownerName(project, c);
        const name = componentName(c);
        out.push({
          input: [...c.path, "inputs", field].join("/"),
          of: owner,
          label: name === owner ? spec.label : `${name}: ${spec.label[0].toLowerCase()}${spec.label.slice(1)}`,
          unit: spec.kind === "schedule" ? "1" : spec.unit,
          instant: false,
        });
      }
  targets.set(project, out);
  return out;
}
/** What a drive takes the place of; null: there is no such input. */
export const driveTarget = (project: Project, input: string): DriveTarget | null => driveTargets(project).find((t) => t.input === input) ?? null;

const sameDimension = (a: string, b: string): boolean => {
  const [x, y] = [unitOfText(a), unitOfText(b)];
  return x !== null && y !== null && x.dimension.every((d, i) => d === y.dimension[i]);
};

/** Points that fit an input by what they measure. */
export const fitsInput = (target: DriveTarget, unit: string): boolean => sameDimension(target.unit, unit);

/** Problems of drives that are known before any readings are there. */
export function driveProblems(project: Project): Problem[] {
  const out: Problem[] = [];
  const drives = Object.entries(project.drives ?? {});
  const tell = (id: string, code: string, severity: Problem["severity"], message: string): void =>
    void out.push({ code, severity, stage: "measured", path: `drives/${id}`, message });
  for (const [id, d] of drives) {
    const point = project.points && Object.hasOwn(project.points, d.point) ? project.points[d.point] : null;
    const target = driveTarget(project, d.input);
    if (!point) tell(id, "reference", "error", `There is no point "${d.point}" to drive ${target ? words(target) : d.input}.`);
    if (!target) tell(id, "reference", "error", `There is no input "${d.input}" that "${point?.name ?? d.point}" could drive.`);
    if (point && target && !fitsInput(target, pointUnit(point)))
      tell(id, "unit", "error", `"${point.name}" is in ${pointUnit(point)}, and ${words(target)} in ${target.unit}: they measure different things.`);
    if (!point || !target) continue;
    const other = drives.find(([k, x]) => k !== id && x.input === d.input && overlap(d, x));
    if (other && other[0] > id)
      tell(
        id,
        "two-drives",
        "error",
        `${words(target)} is driven twice at once, by "${point.name}" and by "${project.points?.[other[1].point]?.name ?? other[1].point}".`,
      );
    const zone = /^zones\/([^/]+)\/(heating|cooling)Setpoint$/.exec(d.input)?.[1];
    const hides = (project.pairs ?? []).find(
      (p) => p.point === d.point && p.series.of === "zone" && p.series.id === zone && /temperature/i.test(p.series.quantity),
    );
    if (hides)
      tell(
        id,
        "hides-fault",
        "warning",
        `"${point.name}" drives ${words(target)} and is compared with the temperature of the same room: the model then follows the sensor, and a fault of the heating or the cooling does not show.`,
      );
  }
  return out;
}

const words = (t: DriveTarget): string => `${t.label[0].toLowerCase()}${t.label.slice(1)} of ${t.of}`;
const daysOfDrive = (d: Drive): [from: readonly [number, number], to: readonly [number, number]] => [d.from ?? [1, 1], d.to ?? [12, 31]];
function overlap(a: Drive, b: Drive): boolean {
  const [[a0, a1], [b0, b1]] = [daysOfDrive(a), daysOfDrive(b)];
  return inRange(dayOfYear(...a0), b0, b1) || inRange(dayOfYear(...b0), a0, a1);
}

/** Longest gap that is bridged by a line where a drive says nothing, h. */
export const BRIDGED = 3;

/** What a drive came to over the year. */
export interface DrivenInput {
  readonly drive: string;
  readonly input: string;
  /** Hour by hour in the unit of the input; NaN: it falls back to what it was. */
  readonly values: Float64Array;
  /** Hours it drives, those of them bridged by a line, and hours of its period in which it falls back. */
  readonly hours: number;
  readonly bridged: number;
  readonly fallback: number;
}

/**
 * The driven inputs of a project over its year. @param days of the weather year
 * @throws RangeError where readings are not at hand
 */
export function drivenInputs(project: Project, logged: LoggedReadings, days: YearDays): DrivenInput[] {
  return Object.entries(project.drives ?? {}).flatMap(([id, d]): DrivenInput[] => {
    const point = project.points?.[d.point];
    const target = driveTarget(project, d.input);
    if (!point || !target) return [];
    if (!Object.hasOwn(logged, point.hash)) throw new RangeError(`The readings of "${point.name}" are not at hand.`);
    const right = putRight(point, logged[point.hash]);
    const year = lookedAt(project.calendar, right);
    const found = (target.instant ? hourlyInstants : hourlyMeans)(right, year, days);
    const values = turnedTo(found, pointUnit(point), target.unit);
    if (!values) return [];
    const [from, to] = daysOfDrive(d);
    const bridged = bridge(values, d.bridge ?? BRIDGED);
    let [hours, period, first, last] = [0, 0, -1, -1];
    for (let h = 0; h < values.length; h++) {
      if (!inRange(Math.floor(h / 24), from, to, days)) {
        values[h] = NaN;
        continue;
      }
      period++;
      if (values[h] !== values[h]) continue;
      hours++;
      if (first < 0) first = period;
      last = period;
    }
    // without days of its own the period is that of the readings
    const of = d.from || d.to || first < 0 ? period : last - first + 1;
    return [{ drive: id, input: d.input, values, hours, bridged, fallback: of - hours }];
  });
}

/** Fills gaps up to so many hours by lines; answers how many hours were filled. */
function bridge(values: Float64Array, most: number): number {
  let filled = 0;
  for (const { from, to } of gapsOf(values)) {
    if (from === 0 || to === values.length || to - from > most) continue;
    const [a, b] = [values[from - 1], values[to]];
    for (let h = from; h < to; h++) values[h] = a + ((b - a) * (h - from + 1)) / (to - from + 1);
    filled += to - from;
  }
  return filled;
}

/** Values of driven inputs by their address; of several drives of one input each in its own period. */
export function drivenByInput(list: readonly DrivenInput[]): Readonly<Record<string, Float64Array>> {
  const out: Record<string, Float64Array> = {};
  for (const { input, values } of list) {
    const known = (out[input] ??= values.slice());
    for (let h = 0; h < values.length; h++) if (values[h] === values[h]) known[h] = values[h];
  }
  return out;
}
