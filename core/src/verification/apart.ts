import type { WeatherYear } from "../climate/index.ts";
import { YearKernel, type CompiledModel } from "../simulate/index.ts";

/** How far apart two starts are, K: a billionth. */
const OFF = 1e-9;

/**
 * Most by which air temperatures of two runs differ, K, that start a billionth of a kelvin apart and go through the same
 * stretches of the weather year, [first day, days], one after the other.
 */
export function apart(model: CompiledModel, weather: WeatherYear, outside: number, stretches: readonly (readonly [first: number, days: number])[]): number {
  const [a, b] = [0, OFF].map((off) => {
    const kernel = new YearKernel(model, weather);
    kernel.start(outside + off, 20 + off, 0.004);
    return kernel;
  });
  let worst = 0;
  for (const [first, days] of stretches)
    for (let h = 24 * first; h < 24 * (first + days); h++)
      for (let k = 0; k < model.stepsPerHour; k++) {
        a.step(h, k);
        b.step(h, k);
        for (let z = 0; z < model.zones; z++) worst = Math.max(worst, Math.abs(a.record.airTemperature[z] - b.record.airTemperature[z]));
      }
  return worst;
}
