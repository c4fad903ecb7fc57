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

/** Seconds a worker takes for `n` years of 20 zones at 15 minutes after one to warm up, and for as many calibrations. */
export function years(n: number): { years: number; calibrations: number } {
  installWebAssembly();
  const p = benchProject(20);
  const w = projectWeather(p) as WeatherYear;
  runToEnd(p, w, { stepsPerHour: 4 });
  calibrate();
  const began = performance.now();
  for (let i = 0; i < n; i++) runToEnd(p, w, { stepsPerHour: 4 });
  const middle = performance.now();
  for (let i = 0; i < 20 * n; i++) calibrate();
  return { years: (middle - began) / 1000, calibrations: (performance.now() - middle) / 1000 };
}
