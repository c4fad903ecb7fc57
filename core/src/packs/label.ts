import { fromMemory } from "./made.ts";
import type { Pack } from "../model/index.ts";
import { plateauPack } from "./plateau.ts";

/** A label by primary energy with a reference building, after the structure of EN ISO 52000-1 and -3-1; its factors and limits are examples, marked to be checked. */
export const labelPack: Pack = {
  ...plateauPack,
  id: "label_52000",
  name: "Label by primary energy after EN ISO 52000",
  edition: "example figures",
  version: "1.0",
  jurisdiction: "where a label after EN ISO 52003-1 is asked for",
  about:
    "Label by non-renewable primary energy against a reference building. The factors and limits are examples and to be checked against the national annex.",
  clauses: {
    ...plateauPack.clauses,
    "9.6": "Primary energy is the delivered energy by carrier times its factor, less what is exported (EN ISO 52000-1, 9.6).",
    R: "Primary energy of the building over that of the reference building decides the class (EN ISO 52003-1).",
  },
  performance: {
    measure: "primary energy",
    clause: "9.6",
    target: "100",
    primary: {
      electricity: fromMemory(2.3, "1", "9.6"),
      gas: fromMemory(1.1, "1", "9.6"),
      oil: fromMemory(1.1, "1", "9.6"),
      propane: fromMemory(1.1, "1", "9.6"),
      "district heat": fromMemory(1.3, "1", "9.6"),
      "district cooling": fromMemory(1.3, "1", "9.6"),
      wood: fromMemory(0.2, "1", "9.6"),
    },
    unmet: { most: fromMemory(300, "h", "R"), apart: fromMemory(50, "h", "R") },
    rating: {
      kind: "letters",
      by: "index",
      steps: (["A", "B", "C", "D", "E", "F"] as const).map((letter, i) => ({ letter, upTo: fromMemory([50, 71, 100, 141, 200, 283][i], "1", "R") })),
    },
  },
};
