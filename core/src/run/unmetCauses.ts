import type { CompiledModel, YearKernel } from "../simulate/index.ts";

/** Why set-points were missed. */
export const unmetCauses = ["plant", "capacity", "start"] as const;
export type UnmetCause = (typeof unmetCauses)[number];

/** A room that was let go is on its way back for so long after its set-point moved, h. Ours. */
const START_HOURS = 3;
/** A set-point that moves by more than this begins a start, K. */
const MOVED = 0.5;

/**
 * Tells why a zone misses its set-point in a step: a loop it draws on asks more than its sources give (plant); its set-point moved within the
 * last three hours (start); or else what serves it is too small (capacity).
 */
export class UnmetCauses {
  /** Hours by cause, in the order of `unmetCauses`: of each step the first cause in this order that any zone has. */
  readonly hours = new Float64Array(unmetCauses.length);
  private readonly loops: readonly (readonly number[])[];
  private readonly startSteps: number;
  private readonly target: { readonly heat: Float64Array; readonly cool: Float64Array };
  private readonly sinceHeat: Int32Array;
  private readonly sinceCool: Int32Array;
  private first: number = unmetCauses.length;

  constructor(model: CompiledModel) {
    const { services } = model;
    this.startSteps = START_HOURS * model.stepsPerHour;
    this.loops = model.zoneIds.map((_, z) => {
      const own = new Set<number>();
      for (const d of services?.ofZone[z] ?? []) {
        const x = services?.devices[d];
        if (!services || !x) continue;
        if (x.heatLoop >= 0) own.add(x.heatLoop);
        if (x.coldLoop >= 0) own.add(x.coldLoop);
        if (x.kind === "terminal" && x.system >= 0) for (const p of services.systems[x.system].parts) if ("loop" in p && p.loop >= 0) own.add(p.loop);
      }
      return [...own];
    });
    const f = (): Float64Array => new Float64Array(model.zones).fill(NaN);
    this.target = { heat: f(), cool: f() };
    this.sinceHeat = new Int32Array(model.zones).fill(this.startSteps);
    this.sinceCool = new Int32Array(model.zones).fill(this.startSteps);
  }

  /** Before the zones of a step are looked at. */
  begin(kernel: YearKernel): void {
    const { heatTarget, coolTarget } = kernel.record;
    const { heat, cool } = this.target;
    this.first = unmetCauses.length;
    for (let z = 0; z < heat.length; z++) {
      this.sinceHeat[z] = heatTarget[z] > heat[z] + MOVED ? 0 : this.sinceHeat[z] + 1;
      this.sinceCool[z] = coolTarget[z] < cool[z] - MOVED ? 0 : this.sinceCool[z] + 1;
      heat[z] = heatTarget[z];
      cool[z] = coolTarget[z];
    }
  }

  /** A zone that misses its set-point in the step. @param cold whether it is too cold; else too warm */
  missed(kernel: YearKernel, z: number, cold: boolean): void {
    const loops = kernel.state.services?.loops;
    const short = loops !== undefined && this.loops[z].some((l) => loops.demand[l] > 0 && loops.demand[l] >= loops.most[l] * (1 - 1e-6));
    const cause = short ? 0 : (cold ? this.sinceHeat : this.sinceCool)[z] < this.startSteps ? 2 : 1;
    if (cause < this.first) this.first = cause;
  }

  /** After all zones. @param hours of the step, weighted */
  end(hours: number): void {
    if (this.first < this.hours.length) this.hours[this.first] += hours;
  }
}
