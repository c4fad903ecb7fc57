import type { Pack } from "../model/index.ts";
import { plateauPack } from "./plateau.ts";

/** Hourly values of electricity, 24 hours for each month: low at noon in spring, high on winter mornings and summer evenings. */
function electricity(base: number, winter: number, summer: number): number[] {
  const out: number[] = [];
  for (let month = 0; month < 12; month++) {
    const cold = month < 2 || month > 9 ? 1 : month < 4 || month > 8 ? 0.4 : 0;
    const hot = month > 4 && month < 9 ? 1 : month === 4 || month === 9 ? 0.4 : 0;
    for (let hour = 0; hour < 24; hour++) {
      const morning = hour >= 6 && hour < 10 ? 1 : 0;
      const evening = hour >= 17 && hour < 21 ? 1 : 0;
      const noon = hour >= 10 && hour < 15 ? 0.35 : 0;
      out.push(Number((base + winter * cold * (0.7 * morning + evening) + summer * hot * evening - noon).toFixed(3)));
    }
  }
  return out;
}
const gas = (base: number): number[] =>
  Array.from({ length: 288 }, (_, i) => {
    const month = Math.floor(i / 24);
    return Number((base + (month < 3 || month > 9 ? 0.12 : 0)).toFixed(3));
  });

/** The hourly-value edition of the Plateau code: a kWh counts by the hour in which it is used. All factors are invented. */
export const plateauHourlyPack: Pack = {
  ...plateauPack,
  id: "plateau_hourly",
  edition: "hourly-value edition",
  version: "1.0",
  about: "The Plateau code with a value for every hour and fuel in place of yearly factors. Every figure is made up.",
  clauses: {
    ...plateauPack.clauses,
    "7.1": "The index is the hourly value of the design's energy over that of the reference building, in hundredths; it passes at 95 and below.",
    "7.2": "The letter follows the index.",
    "7.4": "A kWh counts by the factor of its hour, fuel and climate zone.",
  },
  performance: {
    ...plateauPack.performance,
    measure: "hourly value",
    target: "95",
    hourly: [
      {
        zones: ["2", "3"],
        name: "warm zones",
        unit: "kWh",
        clause: "7.4",
        byFuel: { electricity: electricity(1.9, 0.5, 2.4), gas: gas(1.15), "district heat": gas(0.9) },
      },
      {
        zones: ["4", "5"],
        name: "temperate zones",
        unit: "kWh",
        clause: "7.4",
        byFuel: { electricity: electricity(2, 1.2, 1.5), gas: gas(1.15), "district heat": gas(0.9) },
      },
      {
        zones: ["6", "7"],
        name: "cold zones",
        unit: "kWh",
        clause: "7.4",
        byFuel: { electricity: electricity(2, 2.2, 0.5), gas: gas(1.15), "district heat": gas(0.9) },
      },
    ],
    rating: {
      kind: "letters",
      by: "index",
      steps: (["A", "B", "C", "D", "E", "F"] as const).map((letter, i) => ({
        letter,
        upTo: { value: [50, 75, 95, 120, 150, 190][i], unit: "1", clause: "7.2" },
      })),
    },
  },
};
