import type { CompiledModel } from "./model.ts";
import type { KernelState } from "./state.ts";

/**
 * The walks over faces and zones that take most of a step's time, over the arrays of one model and one state. Another
 * implementation may be installed in place of the one here; it must give the same bits, and is tested to.
 */
export interface StepKernel {
  /** What it is written in, for readers of a run. */
  readonly kind: string;
  /** The model and the state with their arrays where this kernel reads and writes them. */
  readonly model: CompiledModel;
  readonly state: KernelState;
  /** Gains and flows that schedules drive, summed by zone for the hour. */
  terms(): void;
  /** Empties everything sun fills. */
  darken(): void;
  /** Sun on and through every outside face, from `state.sky`. */
  sunOutside(): void;
  /** Sun absorbed inside every room. */
  sunInside(): void;
  /** One pass: films (`first`: those of wind and ground; `anew`: those of temperatures), closures, the zones' system, temperatures of faces. `last`: thermostats are settled. */
  pass(first: boolean, anew: boolean, last: boolean): void;
  /** Solves `state.work` for `state.solution`, both in the pattern of the zones and overwritten. */
  eliminate(): void;
  /** Every exchange once, and all modes to the end of the step. */
  book(): void;
}
