import type { WeatherYear } from "../climate/index.ts";
import { ANGLE_STEPS, readAngle } from "../fabric/index.ts";
import type { Project, YearDays } from "../model/index.ts";
import { FLOW, FLOWS, flowNames, OPTIC, OPTICS, type ElementRole, type FlowName, type RunSettings, type YearKernel } from "../simulate/index.ts";
import { expandSchedule } from "../use/index.ts";
import { runProject, type Clock, type RunProgress } from "./run.ts";

/** A zone in one step of an hour. */
export interface ZoneStep {
  /** Heat into the zone, W; all of them add up to nothing. */
  readonly flows: Readonly<Record<FlowName, number>>;
  /** °C; the air at the start of the step too. */
  readonly air: number;
  readonly airBefore: number;
  readonly radiant: number;
  /** kg/kg */
  readonly ratio: number;
  /** Set-points, °C; NaN: none. */
  readonly heatTarget: number;
  readonly coolTarget: number;
  /** Moisture taken out, W. */
  readonly dehumidification: number;
  /** Air from outdoors, kg/s: by leaks, for people, by windows and free cooling. */
  readonly infiltration: number;
  readonly outdoorAir: number;
  readonly openedAir: number;
  /** Share of the heat of the outdoor air for people that recovery keeps. */
  readonly recovered: number;
  /** Supply air of a system, kg/s. */
  readonly supplyAir: number;
  /** Share of lighting that daylight leaves on. */
  readonly lightingLeft: number;
  /** Heat capacity of its air, furniture and inner mass, J/K. */
  readonly capacity: number;
}
/** Air that passes between two zones in one step. */
export interface PassStep {
  readonly from: string;
  readonly to: string;
  /** kg/s, and share of it that each zone counts. */
  readonly flow: number;
  readonly weights: readonly [number, number];
}
/** A face or opening, seen from one of its zones. */
export interface FaceRecord {
  readonly key: string;
  readonly zone: string;
  /** The zone on its other side; null: outdoors or the ground. */
  readonly other: string | null;
  readonly role: ElementRole;
  readonly flow: FlowName;
  /** m² */
  readonly area: number;
  /** Share of a window that is glass; 1 for all else. */
  readonly glassShare: number;
  readonly absorptance: number;
  readonly steps: readonly FaceStep[];
}
export interface FaceStep {
  /** Heat into the zone, W, without the sun that came in through glass. */
  readonly flow: number;
  /** Surface temperatures, °C: to the zone and on the other side. */
  readonly inside: number;
  readonly outside: number;
  /** Convection to the air and radiation to the mean radiant temperature, W/m²K. */
  readonly convection: number;
  readonly radiation: number;
  /** Sun absorbed here that came in through glass, and what full radiant exchange moves, W/m². */
  readonly taken: number;
  /** Sun on the outside, W/m²: beam, sky and reflected; transmittance for each now. */
  readonly beam: number;
  readonly diffuse: number;
  readonly beamTransmittance: number;
  readonly diffuseTransmittance: number;
  /** Sun let through, W, and sun absorbed in panes that flows inward, W. */
  readonly transmitted: number;
  readonly inward: number;
}
/** One hour of a run, step by step, as it was computed. */
export interface HourRecord {
  /** Hour of the run, from 0, and of the weather year. */
  readonly hour: number;
  readonly hourOfYear: number;
  readonly stepsPerHour: number;
  readonly outdoor: readonly { readonly t: number; readonly ratio: number; readonly cp: number; readonly density: number; readonly wind: number }[];
  readonly zones: readonly {
    readonly id: string;
    readonly name: string;
    /** Copies its storey stands for. */
    readonly times: number;
    readonly steps: readonly ZoneStep[];
  }[];
  readonly faces: readonly FaceRecord[];
  readonly passes: readonly (readonly PassStep[])[];
  /** Value of each schedule in the hour, by id. */
  readonly schedules: Readonly<Record<string, number>>;
}

type Grown<T> = { -readonly [K in keyof T]: T[K] };

/** Writes down an hour of a run from what its kernel holds after each step. */
class HourWriter {
  record: (Grown<HourRecord> & { outdoor: Grown<HourRecord["outdoor"][number]>[] }) | null = null;
  private readonly zoneSteps: ZoneStep[][] = [];
  private readonly faceSteps: FaceStep[][] = [];
  private readonly passSteps: PassStep[][] = [];

  take(kernel: YearKernel, hour: number, hourOfYear: number): void {
    const { model: m, state: s, record: r } = kernel;
    const { cp, density, outdoor, ratio, wind } = s.boundary;
    if (!this.record) this.record = this.begun(kernel, hour, hourOfYear);
    this.record.outdoor.push({ t: outdoor, ratio, cp, density, wind });
    for (let z = 0; z < m.zones; z++)
      this.zoneSteps[z].push({
        flows: Object.fromEntries(flowNames.map((n) => [n, r.flows[z * FLOWS + FLOW[n]]])) as Record<FlowName, number>,
        air: r.airTemperature[z],
        airBefore: s.airStart[z],
        radiant: r.radiantTemperature[z],
        ratio: r.humidityRatio[z],
        heatTarget: r.heatTarget[z],
        coolTarget: r.coolTarget[z],
        dehumidification: r.dehumidification[z],
        infiltration: s.infiltrationFlow[z],
        outdoorAir: s.airFlow[z],
        openedAir: r.extraFlow[z],
        recovered: s.airSupply[z],
        supplyAir: s.airIn[z],
        lightingLeft: kernel.lightingShare(z),
        capacity: m.zoneVolume[z] * m.airDensity * cp + m.innerCapacity[z],
      });
    let at = 0;
    for (let i = 0; i < m.elements; i++) {
      this.faceSteps[at++].push(faceStep(kernel, i, 1));
      if (m.zone0[i] >= 0) this.faceSteps[at++].push(faceStep(kernel, i, 0));
    }
    this.passSteps.push(
      Array.from(m.passZone0, (a, p) => ({
        from: m.zoneIds[a],
        to: m.zoneIds[m.passZone1[p]],
        flow: s.passNow[p],
        weights: [m.passWeight0[p], m.passWeight1[p]] as const,
      })),
    );
  }

  private begun({ model: m }: YearKernel, hour: number, hourOfYear: number): NonNullable<HourWriter["record"]> {
    const faces: FaceRecord[] = [];
    for (let i = 0; i < m.elements; i++)
      for (const side of m.zone0[i] >= 0 ? ([1, 0] as const) : ([1] as const)) {
        const steps: FaceStep[] = [];
        this.faceSteps.push(steps);
        const other = side === 1 ? m.zone0[i] : m.zone1[i];
        faces.push({
          key: m.keys[i],
          zone: m.zoneIds[side === 1 ? m.zone1[i] : m.zone0[i]],
          other: other >= 0 ? m.zoneIds[other] : null,
          role: m.roles[i],
          flow: flowNames[m.roleFlow[i]],
          area: side === 1 ? m.area[i] : m.area0[i],
          glassShare: m.kind[i] === 1 ? m.glassShare[i - m.groundEnd] : 1,
          absorptance: m.kind[i] === 0 ? m.solarAbsorptance[i] : 0,
          steps,
        });
      }
    return {
      hour,
      hourOfYear,
      stepsPerHour: m.stepsPerHour,
      outdoor: [],
      zones: m.zoneIds.map((id, z) => {
        const steps: ZoneStep[] = [];
        this.zoneSteps.push(steps);
        return { id, name: m.zoneNames[z], times: m.zoneMultiplier[z], steps };
      }),
      faces,
      passes: this.passSteps,
      schedules: {},
    };
  }
}

function faceStep(kernel: YearKernel, i: number, side: 0 | 1): FaceStep {
  const { model: m, state: s, record: r } = kernel;
  const glass = m.kind[i] === 1;
  const j = i - m.groundEnd;
  const [tb, td] = glass ? transmittances(kernel, i) : [0, 0];
  const [here, there] = side === 1 ? [s.tin[i], s.tout[i]] : [s.tout[i], s.tin[i]];
  return {
    flow: side === 1 ? r.faceFlow1[i] : r.faceFlow0[i],
    inside: here,
    outside: there,
    convection: side === 1 ? s.hc1[i] : s.hc0[i],
    radiation: side === 1 ? s.hr1[i] : s.hr0[i],
    taken: side === 1 ? s.room1[i] : s.room0[i],
    beam: glass ? s.beamOn[i] * +!s.dark : r.incident[i],
    diffuse: glass ? s.diffuseOn[i] * +!s.dark : 0,
    beamTransmittance: tb,
    diffuseTransmittance: td,
    transmitted: r.transmitted[i],
    inward: glass ? m.area[i] * (s.hc1[i] + s.hr1[i]) * (s.g01[i] * s.glassAbsorbed0[j] + s.g11[i] * s.glassAbsorbed1[j]) : 0,
  };
}

/** Solar transmittance of a window's glass (with its blind where that is down) for the beam at its angle now, and for diffuse light. */
function transmittances({ model: m, state: s }: YearKernel, i: number): [beam: number, diffuse: number] {
  const j = i - m.groundEnd;
  const o = (2 * m.glassOf[j] + s.blindDown[j]) * OPTICS;
  const row = m.glassOptics[o + OPTIC.ROW] * (ANGLE_STEPS + 1);
  const cosine = Math.min(1, Math.max(0, s.classCosine[m.orientation[i]]));
  return [readAngle(m.angleTable.subarray(row, row + ANGLE_STEPS + 1), cosine), m.glassOptics[o + OPTIC.DIFFUSE]];
}

const schedulesAt = (project: Project, days: YearDays, year: number, hour: number): Record<string, number> =>
  Object.fromEntries(
    Object.entries(project.schedules).map(([id, s]) => [id, expandSchedule(s, project.calendar, year + 1, days)[year * days.hours + hour] ?? NaN]),
  );

/**
 * Runs a project up to an hour and writes that hour down, step by step: the figures are those of the whole run, which goes the same way there.
 * @param hour of the run, from 0
 * @throws RangeError when the run has no such hour; @see runProject
 */
export function* recordHour(
  project: Project,
  weather: WeatherYear,
  settings: RunSettings,
  hour: number,
  clock?: Clock,
): Generator<RunProgress, HourRecord, void> {
  const writer = new HourWriter();
  let year = 0;
  let days: YearDays | null = null;
  const run = runProject(project, weather, { ...settings, summaryOnly: true }, clock, (kernel, at, _step, hourOfYear, ofRun) => {
    if (at !== hour) return;
    writer.take(kernel, hour, hourOfYear);
    year = ofRun;
    days = kernel.model.year;
  });
  for (;;) {
    const step = run.next();
    const { record } = writer;
    if (record && days && record.outdoor.length === record.stepsPerHour) return { ...record, schedules: schedulesAt(project, days, year, record.hourOfYear) };
    if (step.done) throw new RangeError(`The run has no hour ${hour}.`);
    yield step.value;
  }
}
