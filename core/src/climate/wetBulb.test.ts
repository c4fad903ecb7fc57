import { expect, it } from "vitest";
import { humidityRatio, wetBulb, wetBulbFrom } from "./index.ts";

it("the wet bulb by a few steps from a guess is that by bisection within 0.02 K, from guesses five kelvin off", () => {
  for (let t = 6; t <= 34; t += 4)
    for (const rh of [0.3, 0.5, 0.8, 0.99]) {
      const w = humidityRatio(t, rh, 101325);
      const wet = wetBulb(t, w, 101325);
      for (const off of [-5, 0, 5]) expect(Math.abs(wetBulbFrom(t, w, 101325, wet + off) - wet)).toBeLessThan(0.02);
    }
});
