import { describe, expect, it } from "vitest";
import { fuzzCase, targets } from "../../scripts/lib/fuzz/targets.ts";

/** Cases of a target here; `npm run fuzz` runs 10^5. */
const CASES: Readonly<Record<string, number>> = { project: 60, "JSON text": 100, edits: 100, gbXML: 25, "weather CSV": 20 };

describe("damaged input", () => {
  it.each(targets.map((t) => [t.name, t] as const))("of the kind %s is read or refused with a sentence, and brings no figure that is none", (name, target) => {
    for (let seed = 1; seed <= CASES[name]; seed++) expect(fuzzCase(target, seed), `case ${seed}`).toBeNull();
  });
  it("that went wrong once is met now", () => {
    const once: readonly (readonly [string, number])[] = [["edits", 811]];
    for (const [name, seed] of once) {
      const target = targets.find((t) => t.name === name);
      expect(target && fuzzCase(target, seed), `${name} ${seed}`).toBeNull();
    }
  });
});
