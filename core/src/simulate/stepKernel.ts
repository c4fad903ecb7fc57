import type { WeatherYear } from "../climate/index.ts";
import { book } from "./book.ts";
import { coefficients, faceTemperatures } from "./films.ts";
import type { CompiledModel } from "./model.ts";
import { kernelState, type KernelState } from "./state.ts";
import { darken, sunInside, sunOutside } from "./sunlight.ts";
import { solveZones } from "./zones.ts";

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
  /** Empties everything sun fills. */
  darken(): void;
  /** Sun on and through every outside face, from `state.sky`. */
  sunOutside(): void;
  /** Sun absorbed inside every room. */
  sunInside(): void;
  /** One pass: films (`first`: those of wind and ground; `anew`: those of temperatures), closures, the zones' system, temperatures of faces. `last`: thermostats are settled. */
  pass(first: boolean, anew: boolean, last: boolean): void;
  /** Every exchange once, and all modes to the end of the step. */
  book(): void;
}

/** Makes the walks for a model with fresh states; null: cannot, and the ones written here do. */
export type KernelMaker = (m: CompiledModel, weather: WeatherYear) => StepKernel | null;

let installed: KernelMaker | null = null;

/** Has every coming run walk with what `maker` makes, or again with what is written here (null). Results are the same to the bit. */
export function installKernel(maker: KernelMaker | null): void {
  installed = maker;
}

export const stepKernel = (m: CompiledModel, weather: WeatherYear): StepKernel => installed?.(m, weather) ?? typeScriptKernel(m, weather);

/** The walks as they are written here. */
export function typeScriptKernel(m: CompiledModel, weather: WeatherYear): StepKernel {
  const s = kernelState(m, weather);
  return {
    kind: "TypeScript",
    model: m,
    state: s,
    darken: () => darken(s),
    sunOutside: () => sunOutside(m, s),
    sunInside: () => sunInside(m, s),
    pass(first, anew, last) {
      coefficients(m, s, first, anew);
      solveZones(m, s, last);
      faceTemperatures(m, s);
    },
    book: () => book(m, s),
  };
}
