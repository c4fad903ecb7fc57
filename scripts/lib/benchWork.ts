import { projectWeather, runToEnd, type WeatherYear } from "../../core/src/index.ts";
import { installWebAssembly } from "../../adapters/src/stepKernel.ts";
import { benchProject } from "./benchModel.ts";

/** A fixed piece of arithmetic on typed arrays, about as the kernel does: seconds it takes now. */
export function calibrate(): number {
  const a = new Float64Array(4096).fill(1.000001);
  const began = performance.now();
  let s = 0;
  for (let r = 0; r < 6000; r++) for (let i = 0; i < a.length; i++) s = s * 0.999 + a[i] * a[(i * 7) & 4095];
  if (!Number.isFinite(s)) throw new Error("calibration ran away");
  return (performance.now() - began) / 1000;
}

/** About what a year of 20 zones takes. */
const CALIBRATIONS_A_YEAR = 14;

/** Seconds a worker takes for `n` years of 20 zones at 15 minutes after one to warm up, and for calibrations in alternation. */
export function years(n: number): { years: number; calibrations: number } {
  installWebAssembly();
  const p = benchProject(20);
  const w = projectWeather(p) as WeatherYear;
  runToEnd(p, w, { stepsPerHour: 4 });
  calibrate();
  let years = 0;
  let calibrations = 0;
  for (let i = 0; i < n; i++) {
    const began = performance.now();
    runToEnd(p, w, { stepsPerHour: 4 });
    years += (performance.now() - began) / 1000;
    for (let k = 0; k < CALIBRATIONS_A_YEAR; k++) calibrations += calibrate();
  }
  return { years, calibrations };
}
