import { relativeHumidity, type WeatherYear } from "../climate/index.ts";
import {
  airPathQuantities,
  componentQuantities,
  faceQuantities,
  FLOWS,
  flowNames,
  quantityNames,
  sensorQuantities,
  siteQuantities,
  zoneQuantities,
  type CompiledModel,
  type FaceQuantity,
  type Quantity,
  type StepRecord,
  type YearKernel,
  type ZoneQuantity,
} from "../simulate/index.ts";
import { OUTS } from "../services/index.ts";
import type { Series } from "./summary.ts";

/** Zone quantities read from the state each step; the rest of the named ones are flows. */
const READ = [
  "airTemperature",
  "operativeTemperature",
  "relativeHumidity",
  "heating",
  "cooling",
  "radiantTemperature",
  "humidityRatio",
  "humidification",
  "dehumidification",
  "predictedMeanVote",
  "extraAirFlow",
  "lightingShare",
  "airChanges",
  "carbonDioxide",
  "ageOfAir",
] as const satisfies readonly ZoneQuantity[];
const R = Object.fromEntries(READ.map((n, i) => [n, i])) as Record<(typeof READ)[number], number>;

/** Of a face, with the place it is read at: a side, or a place within its layers. */
interface FaceLine {
  readonly name: FaceQuantity;
  readonly element: number;
  readonly side: 0 | 1;
  readonly place: number;
  readonly values: Float64Array;
}

/**
 * Temperatures within layers: linear in the modes of a wall, so that the hour's mean follows from the hour's mean of the
 * modes, read out once an hour.
 */
class LayerLog {
  private readonly lines: readonly FaceLine[];
  /** First mode and end of each line's wall, and the line's first weight. */
  private readonly from: Int32Array;
  private readonly to: Int32Array;
  private readonly at: Int32Array;
  private readonly weights: Float64Array;
  private readonly sum: Float64Array;

  constructor(model: CompiledModel, lines: readonly FaceLine[]) {
    this.lines = lines;
    this.from = Int32Array.from(lines, (l) => model.modeStart[l.element]);
    this.to = Int32Array.from(lines, (l) => model.modeStart[l.element + 1]);
    this.at = new Int32Array(lines.length);
    const weights: number[] = [];
    lines.forEach((l, i) => {
      const w = model.walls[l.element];
      this.at[i] = weights.length;
      if (w) weights.push(...w.weights.subarray(l.place * w.modes, (l.place + 1) * w.modes));
    });
    this.weights = Float64Array.from(weights);
    this.sum = new Float64Array(lines.length > 0 ? model.modeStart[model.elements] : 0);
  }

  take(modes: Float64Array): void {
    const { sum } = this;
    for (let k = 0; k < sum.length; k++) sum[k] += modes[k];
  }

  closeHour(hour: number, steps: number): void {
    const { lines, from, to, at, weights, sum } = this;
    for (let l = 0; l < lines.length; l++) {
      let t = 0;
      for (let k = from[l]; k < to[l]; k++) t += weights[at[l] + k - from[l]] * sum[k];
      lines[l].values[hour] = t / steps;
    }
    sum.fill(0);
  }
}

/** Hourly series of a run while it goes: means of the steps. */
export class SeriesLog {
  /** Whether the vote of every hour is asked for, people or not. */
  readonly wantsVotes: boolean;
  private readonly model: CompiledModel;
  private readonly weather: WeatherYear;
  private readonly firstDay: number;
  private readonly zoneSpecs: readonly Quantity[];
  /** What each zone line reads: place in READ, or READ.length + flow. */
  private readonly zoneReads: Int32Array;
  private readonly zoneColumns: Float64Array[];
  private readonly zoneSum: Float64Array;
  /** Hours not yet put into the columns, [hour of the buffer][line]: columns are written a day at a time, each at one stretch. */
  private readonly waiting: Float64Array;
  private waits = 0;
  private readonly faceLines: FaceLine[];
  private readonly layerLines: FaceLine[];
  private readonly layers: LayerLog;
  private readonly faceSum: Float64Array;
  private readonly sensorLines: { readonly sensor: number; readonly values: Float64Array }[];
  /** Lines of components: place in a row of outputs, values of each component; sums of the hour so far. */
  private readonly componentLines: { readonly out: number; readonly component: number; readonly values: Float64Array }[];
  private readonly componentSum: Float64Array;
  /** Lines of stores and of what makes electricity: what is read of which one. */
  private readonly siteLines: { readonly name: string; readonly unit: string; readonly scope: string; readonly of: number; readonly values: Float64Array }[];
  private readonly siteSum: Float64Array;
  /** Lines of air paths: what is read of which link. */
  private readonly airLines: {
    readonly name: (typeof airPathQuantities)[number]["name"];
    readonly unit: string;
    readonly link: number;
    readonly values: Float64Array;
  }[];
  private readonly airSum: Float64Array;
  private readonly air: Float64Array;
  private hours = 0;
  private pressure = 101325;

  /** @throws RangeError when a name is not known */
  constructor(model: CompiledModel, weather: WeatherYear, firstDay: number, days: number, asked: ReadonlySet<string>) {
    for (const name of asked) if (!quantityNames.includes(name)) throw new RangeError(`there is no series "${name}"; known: ${quantityNames.join(", ")}`);
    const column = (): Float64Array => new Float64Array(Math.max(1, Math.round(days * 24)));
    this.model = model;
    this.weather = weather;
    this.firstDay = firstDay;
    this.zoneSpecs = zoneQuantities.filter((q) => asked.has(q.name));
    this.zoneReads = Int32Array.from(this.zoneSpecs, (q) => {
      const at = (READ as readonly string[]).indexOf(q.name);
      return at >= 0 ? at : READ.length + (flowNames as readonly string[]).indexOf(q.name);
    });
    this.zoneColumns = Array.from({ length: this.zoneSpecs.length * model.zones }, column);
    this.zoneSum = new Float64Array(this.zoneColumns.length);
    this.waiting = new Float64Array(24 * this.zoneColumns.length);
    this.faceLines = [];
    this.layerLines = [];
    for (const q of faceQuantities) {
      if (!asked.has(q.name)) continue;
      for (let i = 0; i < model.elements; i++)
        for (const [side, place] of places(model, q.name, i))
          (q.name === "layerTemperature" ? this.layerLines : this.faceLines).push({ name: q.name, element: i, side, place, values: column() });
    }
    this.faceSum = new Float64Array(this.faceLines.length);
    this.layers = new LayerLog(model, this.layerLines);
    this.sensorLines = asked.has("daylight") ? model.daylight.sensors.map((_, sensor) => ({ sensor, values: column() })) : [];
    this.componentLines = componentQuantities.flatMap((q, out) =>
      asked.has(q.name) ? (model.services?.components ?? []).map((_, component) => ({ out, component, values: column() })) : [],
    );
    this.componentSum = new Float64Array(this.componentLines.length);
    const stores = model.water.systems.map((x) => `waterSystems/${x.id}`);
    const makers = [...model.arrays, ...model.turbines].map((x) => `onSite/${x.id}`);
    this.siteLines = siteQuantities.flatMap(({ name, unit }) =>
      asked.has(name) ? (name === "madePower" ? makers : stores).map((scope, of) => ({ name, unit, scope, of, values: column() })) : [],
    );
    this.siteSum = new Float64Array(this.siteLines.length);
    this.airLines = airPathQuantities.flatMap(({ name, unit }) =>
      asked.has(name) ? (model.air?.plan.planned ?? []).flatMap((p, link) => (p.record === null ? [] : [{ name, unit, link, values: column() }])) : [],
    );
    this.airSum = new Float64Array(this.airLines.length);
    this.air = new Float64Array(model.zones);
    this.wantsVotes = asked.has("predictedMeanVote");
  }

  /** @param made W of each array and turbine in the step */
  take(kernel: YearKernel, hour: number, made: Float64Array): void {
    const { zones } = this.model;
    const r = kernel.record;
    const sum = this.zoneSum;
    this.pressure = this.weather.pressure[hour];
    const { zoneReads } = this;
    for (let q = 0; q < zoneReads.length; q++) {
      const read = zoneReads[q];
      const at = q * zones;
      const source = read < READ.length ? plainSource(r, read) : null;
      if (source) for (let z = 0; z < zones; z++) sum[at + z] += source[z];
      else if (read >= READ.length) for (let z = 0; z < zones; z++) sum[at + z] += r.flows[z * FLOWS + read - READ.length];
      else if (read === R.operativeTemperature) for (let z = 0; z < zones; z++) sum[at + z] += 0.5 * (r.airTemperature[z] + r.radiantTemperature[z]);
      else for (let z = 0; z < zones; z++) sum[at + z] += this.readZone(kernel, read, z);
    }
    for (let z = 0; z < zones; z++) this.air[z] += r.airTemperature[z];
    for (let l = 0; l < this.faceLines.length; l++) {
      const line = this.faceLines[l];
      this.faceSum[l] += readFace(kernel, line.name, line.element, line.side);
    }
    this.layers.take(kernel.state.a);
    for (let l = 0; l < this.siteLines.length; l++) {
      const { name, of } = this.siteLines[l];
      this.siteSum[l] += name === "madePower" ? made[of] : ((name === "storeLower" ? kernel.water?.lower : kernel.water?.upper)?.[of] ?? NaN);
    }
    const paths = kernel.state.air;
    if (paths)
      for (let l = 0; l < this.airLines.length; l++) {
        const { name, link } = this.airLines[l];
        this.airSum[l] += (name === "airForward" ? paths.forward : name === "airBackward" ? paths.backward : paths.network.open)[link];
      }
    const outputs = kernel.state.services?.out;
    if (outputs)
      for (let l = 0; l < this.componentLines.length; l++)
        this.componentSum[l] += outputs[OUTS * this.componentLines[l].component + this.componentLines[l].out];
  }

  private readZone(kernel: YearKernel, read: number, z: number): number {
    const r = kernel.record;
    switch (read) {
      case R.extraAirFlow:
        return (1000 * r.extraFlow[z]) / kernel.state.boundary.density;
      case R.lightingShare:
        return kernel.lightingShare(z);
      case R.airChanges: {
        const s = kernel.state;
        const fresh = s.infiltrationFlow[z] + s.airFlow[z] + r.extraFlow[z];
        return (3600 * fresh) / (this.model.zoneVolume[z] * this.model.airDensity);
      }
      case R.carbonDioxide:
        return kernel.state.air?.carbonDioxide[z] ?? NaN;
      case R.ageOfAir:
        return (kernel.state.air?.age[z] ?? NaN) / 3600;
      case R.predictedMeanVote:
        // put in whole when the hour closes
        return 0;
      default:
        throw new RangeError(`zone line ${read} has no reader`);
    }
  }

  /** @param votes predicted mean vote of the hour by zone; NaN where it was not asked for */
  closeHour(votes: Float64Array): void {
    const { zones, stepsPerHour: n } = this.model;
    const { zoneReads, zoneSum, waiting, air, pressure } = this;
    const row = this.waits * zoneSum.length;
    for (let q = 0; q < zoneReads.length; q++) {
      const at = q * zones;
      const read = zoneReads[q];
      if (read === R.relativeHumidity)
        for (let z = 0; z < zones; z++) waiting[row + at + z] = 100 * relativeHumidity(air[z] / n, zoneSum[at + z] / n, pressure);
      else if (read === R.predictedMeanVote) for (let z = 0; z < zones; z++) waiting[row + at + z] = votes[z];
      else for (let z = 0; z < zones; z++) waiting[row + at + z] = zoneSum[at + z] / n;
    }
    zoneSum.fill(0);
    air.fill(0);
    this.waits++;
    if (this.waits === 24) this.putDay(this.hours + 1);
    for (let l = 0; l < this.faceLines.length; l++) {
      this.faceLines[l].values[this.hours] = this.faceSum[l] / n;
      this.faceSum[l] = 0;
    }
    for (let l = 0; l < this.componentLines.length; l++) this.componentLines[l].values[this.hours] = this.componentSum[l] / n;
    this.componentSum.fill(0);
    for (let l = 0; l < this.siteLines.length; l++) this.siteLines[l].values[this.hours] = this.siteSum[l] / n;
    this.siteSum.fill(0);
    for (let l = 0; l < this.airLines.length; l++) this.airLines[l].values[this.hours] = this.airSum[l] / n;
    this.airSum.fill(0);
    this.layers.closeHour(this.hours, n);
    this.hours++;
  }

  /** Puts the waiting hours, which end before hour `end` of the run, into the columns. */
  private putDay(end: number): void {
    const { zoneColumns, waiting, waits } = this;
    const lines = zoneColumns.length;
    const first = end - waits;
    for (let l = 0; l < lines; l++) {
      const column = zoneColumns[l];
      for (let h = 0; h < waits; h++) column[first + h] = waiting[h * lines + l];
    }
    this.waits = 0;
  }

  /** Daylight of the hour, one value a sensor. */
  light(daylight: Float64Array): void {
    for (let l = 0; l < this.sensorLines.length; l++) this.sensorLines[l].values[this.hours] = daylight[this.sensorLines[l].sensor];
  }

  series(): Series[] {
    this.putDay(this.hours);
    const { model } = this;
    const { zones, zoneIds } = model;
    const common = { kind: "mean" as const, start: this.firstDay * 24, step: 3600 };
    const zone = this.zoneSpecs.flatMap((spec, i) =>
      zoneIds.map((id, z): Series => ({ scope: id, quantity: spec.name, unit: spec.unit, ...common, values: this.zoneColumns[i * zones + z] })),
    );
    const face = [...this.faceLines, ...this.layerLines].map((l): Series => {
      const unit = faceQuantities.find((q) => q.name === l.name)?.unit ?? "";
      return { scope: faceScope(model, l), quantity: l.name, unit, ...common, values: l.values };
    });
    const sensor = this.sensorLines.map((l): Series => ({
      scope: model.daylight.sensors[l.sensor].id,
      quantity: "daylight",
      unit: sensorQuantities[0].unit,
      ...common,
      values: l.values,
    }));
    const component = this.componentLines.map((l): Series => {
      const { name, unit } = componentQuantities[l.out];
      return { scope: model.services?.components[l.component].path.join("/") ?? "", quantity: name, unit, ...common, values: l.values };
    });
    const site = this.siteLines.map(({ scope, name, unit, values }): Series => ({ scope, quantity: name, unit, ...common, values }));
    const paths = this.airLines.map(({ name, unit, link, values }): Series => ({
      scope: model.air?.plan.planned[link].record ?? "",
      quantity: name,
      unit,
      ...common,
      values,
    }));
    return [...zone, ...face, ...sensor, ...component, ...site, ...paths];
  }
}

/** Array of the record that holds a quantity as it is; relative humidity is made from the humidity ratio of the hour when it closes. */
function plainSource(r: StepRecord, read: number): Float64Array | null {
  switch (read) {
    case R.airTemperature:
      return r.airTemperature;
    case R.relativeHumidity:
    case R.humidityRatio:
      return r.humidityRatio;
    case R.heating:
      return r.heating;
    case R.cooling:
      return r.cooling;
    case R.radiantTemperature:
      return r.radiantTemperature;
    case R.humidification:
      return r.humidification;
    case R.dehumidification:
      return r.dehumidification;
    default:
      return null;
  }
}

/** Sides and places of a face at which a quantity is read. */
function places(m: CompiledModel, name: FaceQuantity, i: number): readonly (readonly [side: 0 | 1, place: number])[] {
  const glass = m.kind[i] === 1;
  const partition = m.zone0[i] >= 0;
  switch (name) {
    case "incidentSun":
    case "litShare":
      return m.orientation[i] >= 0 && !partition ? [[1, 0]] : [];
    case "transmittedSun":
    case "blindDown":
      return glass ? [[1, 0]] : [];
    case "faceFlow":
      return partition
        ? [
            [0, 0],
            [1, 0],
          ]
        : [[1, 0]];
    case "layerTemperature":
      return m.walls[i]?.places.map((_, p) => [1, p] as const) ?? [];
    case "moltenShare":
      return m.meltings.some((w) => w.element === i) ? [[1, 0]] : [];
    default:
      return [[1, 0]];
  }
}

/** Name of a face line: the face's key, its zone for the first side of a partition, the layer for temperatures within. */
function faceScope(m: CompiledModel, l: { readonly name: FaceQuantity; readonly element: number; readonly side: 0 | 1; readonly place: number }): string {
  const key = m.keys[l.element];
  if (l.name === "layerTemperature") {
    const place = m.walls[l.element]?.places[l.place];
    return `${key} layer ${(place?.layer ?? 0) + 1} ${place?.at === 0 ? "outer side" : place?.at === 1 ? "inner side" : "middle"}`;
  }
  return l.name === "faceFlow" && m.zone0[l.element] >= 0 ? `${key} into ${m.zoneIds[l.side === 0 ? m.zone0[l.element] : m.zone1[l.element]]}` : key;
}

function readFace(kernel: YearKernel, name: FaceQuantity, i: number, side: 0 | 1): number {
  const r = kernel.record;
  switch (name) {
    case "incidentSun":
      return r.incident[i];
    case "litShare":
      return r.litShare[i];
    case "transmittedSun":
      return r.transmitted[i];
    case "faceFlow":
      return side === 0 ? r.faceFlow0[i] : r.faceFlow1[i];
    case "insideSurface":
      return kernel.insideFaces[i];
    case "outsideSurface":
      return kernel.outsideFaces[i];
    case "layerTemperature":
      throw new RangeError("temperatures of layers are read by the hour");
    case "moltenShare":
      return kernel.moltenShare(i);
    case "blindDown":
      return kernel.state.blindDown[i - kernel.model.groundEnd];
  }
}
