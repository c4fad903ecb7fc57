import { MADE, MADES } from "../electric/index.ts";
import { arrayNow, arrayRoom, turbineNow, type CompiledModel, type YearKernel } from "../simulate/index.ts";

const J_PER_KWH = 3.6e6;

/** What an array made and lost in a run, kWh by month; what the sheet promises of the sun less all losses is what is made. */
export interface ArrayEnergy {
  readonly id: string;
  readonly kind: "pvArray" | "windTurbine";
  readonly modules: number;
  /** kW at 1000 W/m² and 25 °C; of turbines the most of the curve. */
  readonly peak: number;
  readonly made: number[];
  /** Of the sun on the open plane at the sheet's efficiency; of turbines none. */
  readonly nominal: number[];
  readonly losses: Readonly<Record<LossName, number[]>>;
}
export const lossNames = ["shade", "soiling", "reflection", "low light", "temperature", "wiring", "inverter", "limit"] as const;
export type LossName = (typeof lossNames)[number];
const LOSS: Readonly<Record<LossName, number>> = {
  shade: MADE.SHADE,
  soiling: MADE.SOILING,
  reflection: MADE.REFLECTION,
  "low light": MADE.LOW_LIGHT,
  temperature: MADE.TEMPERATURE,
  wiring: MADE.WIRING,
  inverter: MADE.INVERTER,
  limit: MADE.LIMIT,
};

/** Sums what arrays and turbines make while a run goes. */
export class ArrayMeter {
  private readonly model: CompiledModel;
  /** [array][month][MADE], then turbines [month]. */
  private readonly sums: readonly Float64Array[];
  private readonly winds: readonly Float64Array[];
  private readonly now = arrayRoom();
  /** W of each array, then of turbines, in the step. */
  readonly power: Float64Array;
  /** J made since the hour began. */
  private hour = 0;
  readonly any: boolean;

  constructor(model: CompiledModel) {
    this.model = model;
    this.sums = model.arrays.map(() => new Float64Array(12 * MADES));
    this.winds = model.turbines.map(() => new Float64Array(12));
    this.power = new Float64Array(model.arrays.length + model.turbines.length);
    this.any = model.arrays.length + model.turbines.length > 0;
  }

  /** Adds a step. @param weight days that this day stands for */
  take(kernel: YearKernel, month: number, weight: number): void {
    if (!this.any) return;
    const { arrays, turbines, dt } = this.model;
    const { now } = this;
    for (let i = 0; i < arrays.length; i++) {
      arrayNow(kernel.state, arrays[i], now);
      const sums = this.sums[i];
      for (let j = 0; j < MADES; j++) sums[month * MADES + j] += now[j] * dt * weight;
      this.power[i] = now[MADE.GIVEN];
      this.hour += now[MADE.GIVEN] * dt;
    }
    for (let i = 0; i < turbines.length; i++) {
      const power = turbineNow(kernel.state, turbines[i]);
      this.power[arrays.length + i] = power;
      this.winds[i][month] += power * dt * weight;
      this.hour += power * dt;
    }
  }

  /** kWh made in the hour that ends. */
  closeHour(): number {
    const made = this.hour / J_PER_KWH;
    this.hour = 0;
    return made;
  }

  result(): ArrayEnergy[] {
    const monthly = (of: (m: number) => number): number[] => Array.from({ length: 12 }, (_, m) => of(m) / J_PER_KWH);
    const none = monthly(() => 0);
    return [
      ...this.model.arrays.map((a, i): ArrayEnergy => {
        const of = (j: number): number[] => monthly((m) => this.sums[i][m * MADES + j]);
        return {
          id: a.id,
          kind: "pvArray",
          modules: a.electric.modules,
          peak: a.electric.peak / 1000,
          made: of(MADE.GIVEN),
          nominal: of(MADE.NOMINAL),
          losses: Object.fromEntries(lossNames.map((l) => [l, of(LOSS[l])])) as Record<LossName, number[]>,
        };
      }),
      ...this.model.turbines.map((t, i): ArrayEnergy => ({
        id: t.id,
        kind: "windTurbine",
        modules: t.count,
        peak: (t.count * Math.max(...t.turbine.powers)) / 1000,
        made: monthly((m) => this.winds[i][m]),
        nominal: none,
        losses: Object.fromEntries(lossNames.map((l) => [l, none])) as Record<LossName, number[]>,
      })),
    ];
  }
}
