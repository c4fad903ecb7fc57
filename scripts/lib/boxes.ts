import type { BoxClimateName } from "../../core/src/verification/box.ts";
import { boxCases, boxResult, type BoxResult } from "../../core/src/verification/boxCases.ts";

/** Every case of the test box in one climate, at 15 minutes. */
export const runBoxes = (climate: BoxClimateName): Record<string, BoxResult> => Object.fromEntries(boxCases.map((c) => [c.id, boxResult(c, climate, 4)]));
