import { boxProject, type BoxClimateName } from "../../core/src/verification/box.ts";
import { boxCases, type BoxResult } from "../../core/src/verification/boxCases.ts";
import { projectWeather, runToEnd, type WeatherYear } from "../../core/src/index.ts";

/** Every case of the test box in one climate, at 15 minutes. */
export function runBoxes(climate: BoxClimateName): Record<string, BoxResult> {
  const out: Record<string, BoxResult> = {};
  for (const c of boxCases) {
    const p = boxProject({ ...c.options, climate });
    const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 4 }).summary;
    const z = r.zones.find((x) => x.id === "a") as (typeof r.zones)[number];
    out[c.id] = {
      heating: z.heating,
      cooling: z.cooling,
      peakHeating: z.peakHeating,
      peakCooling: z.peakCooling,
      ...z.temperature,
      closure: r.closure,
      warnings: r.warnings.length,
    };
  }
  return out;
}
