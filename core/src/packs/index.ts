import { appendixGPack } from "./appendixG.ts";
import { labelPack } from "./label.ts";
import type { Pack } from "../model/index.ts";
import { plateauPack } from "./plateau.ts";
import { plateauHourlyPack } from "./plateauHourly.ts";
import { prescriptivePack } from "./prescriptive.ts";

export * from "./pack.ts";
export * from "./plateau.ts";

/** Packs that ship, by id. */
export const packs: Readonly<Record<string, Pack>> = Object.fromEntries(
  [plateauPack, plateauHourlyPack, appendixGPack, prescriptivePack, labelPack].map((p) => [p.id, p]),
);
export { appendixGPack, labelPack, plateauHourlyPack, prescriptivePack };
