import { airRows } from "./airRows.ts";
import { fabricRows } from "./fabricRows.ts";
import { roomRows } from "./roomRows.ts";
import type { Row } from "./row.ts";
import { siteRows } from "./siteRows.ts";

export { neumannFront, steppedFront } from "./fabricRows.ts";
export { orderRows, refinementRows } from "./refinement.ts";
export type { Row } from "./row.ts";

/** Everything that is compared with a closed form or a published figure. */
export const closedRows = (): Row[] => [...fabricRows(), ...roomRows(), ...siteRows(), ...airRows()];
