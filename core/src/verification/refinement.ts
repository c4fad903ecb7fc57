import closed from "./closedForms.json" with { type: "json" };
import type { WeatherYear } from "../climate/index.ts";
import { solidLayer } from "../fabric/index.ts";
import type { Project } from "../model/index.ts";
import { runToEnd } from "../results/index.ts";
import { projectWeather } from "../simulate/index.ts";
import type { Row } from "./row.ts";
import { steppedDecrement } from "./walls.ts";

/** Differences of a refinement, relative: 4 against 12 steps, and twice the vectors, of the test box over a year. */
export function refinementRows(project: Project): Row[] {
  const weather = projectWeather(project) as WeatherYear;
  const year = (stepsPerHour: number, furtherVectors = 0): { heating: number; cooling: number } => {
    const s = runToEnd(project, weather, { stepsPerHour, furtherVectors }).summary.loads;
    return { heating: s.heating.total, cooling: s.cooling.total };
  };
  const usual = year(4);
  const fine = year(12);
  const more = year(4, 3);
  const rows: Row[] = [];
  for (const load of ["heating", "cooling"] as const) {
    const near = (name: string, found: number): void =>
      void rows.push({
        group: "refinement",
        source: "itself",
        name: `${project.name}: ${name}`,
        quantity: `${load}, kWh`,
        expected: found,
        found: usual[load],
        within: 0.01 * found,
      });
    near("12 steps an hour against 4", fine[load]);
    near("twice the vectors", more[load]);
  }
  return rows;
}

/** Observed order in the step of the periodic response: error of a coarse step over that of half of it; first order would give 2 and miss the bound. */
export function orderRows(): Row[] {
  const w =
    closed.periodic_wall_response.walls["heavy_wall_900" as keyof typeof closed.periodic_wall_response.walls] ??
    Object.values(closed.periodic_wall_response.walls)[0];
  const layers = w.layers_inside_to_outside.map((l) => solidLayer(l.d, l.lambda, l.rho, l.c)).reverse();
  const error = (steps: number): number =>
    Math.abs(steppedDecrement(layers, w.rse, w.rsi, steps).timeShift - steppedDecrement(layers, w.rse, w.rsi, 60).timeShift);
  const ratio = error(1) / error(2);
  return [
    {
      group: "order",
      source: "second-order mean of a held input",
      name: "time shift of a wall, 60 against 30 minutes",
      quantity: "error ratio",
      expected: 4,
      found: ratio,
      within: 1.2,
    },
  ];
}
