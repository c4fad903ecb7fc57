import type { WeatherYear } from "../climate/index.ts";
import { blockSolve } from "../numeric/index.ts";
import { book } from "./book.ts";
import { coefficients, faceTemperatures } from "./films.ts";
import type { CompiledModel } from "./model.ts";
import { kernelState } from "./state.ts";
import { darken, sunInside, sunOutside } from "./sunlight.ts";
import type { StepKernel } from "./walks.ts";
import { solveZones, sumTerms } from "./zones.ts";

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
    terms: () => sumTerms(m, s),
    darken: () => darken(s),
    sunOutside: () => sunOutside(m, s),
    sunInside: () => sunInside(m, s),
    pass(first, anew, last) {
      coefficients(m, s, first, anew);
      solveZones(m, s, last);
      faceTemperatures(m, s);
    },
    eliminate: () => blockSolve(m.pattern, s.work, s.solution),
    book: () => book(m, s),
  };
}
