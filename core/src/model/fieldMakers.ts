import { SIZED } from "./fields.ts";
import type { FieldSpec } from "./fieldSpec.ts";

/** What fields of components are made with. Allowed numbers are in the stored unit. */
export const number = (label: string, group: FieldSpec["group"], unit: string, initial: number, min: number, max: number, help: string) =>
  ({ label, group, unit, kind: "number", default: initial, min, max, help }) as const satisfies FieldSpec;
export const sized = (label: string, group: FieldSpec["group"], unit: string, max: number, help: string) =>
  ({ label, group, unit, kind: "number", default: SIZED, min: 0, max, help }) as const satisfies FieldSpec;
export const choice = (label: string, group: FieldSpec["group"], choices: readonly [string, ...string[]], help: string) =>
  ({ label, group, unit: "", kind: "choice", default: choices[0], choices, help }) as const satisfies FieldSpec;
export const loopOf = (label: string, loop: string, help: string) =>
  ({ label, group: "Water", unit: "", kind: "record", of: "loops", ofKind: loop, default: null, nullMeans: "none yet", help }) as const satisfies FieldSpec;
export const KW = { unit: "kW", factor: 0.001 } as const;
export const LS = { unit: "L/s", factor: 1000 } as const;
export const PERCENT = { unit: "%", factor: 100 } as const;
export const factor = (what: string, initial: number) => ({
  ...number("Sizing factor", "Size", "1", initial, 0.1, 10, `${what} is what the design days ask for, times this.`),
  beside: "times",
});
export const when = (field: string, ...is: string[]) => ({ when: { field, is } });
