import { describe, expect, it } from "vitest";
import fc from "fast-check";
import type { Glazing } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import {
  ANGLE_STEPS,
  glazingPhysics,
  glazingRating,
  ratedParts,
  readAngle,
  transmittanceFromGain,
  typicalRatedFilms,
  type GlassState,
  type PanesGlazing,
  type RatedGlazing,
} from "./index.ts";

const films = { inside: 7.7, outside: 25 };
const rated = (u: number, g: number, blind: RatedGlazing["blind"] = null): RatedGlazing => ({
  kind: "rated",
  name: "x",
  u,
  g,
  visibleTransmittance: 0.7,
  frameShare: 0,
  ratedFilms: films,
  blind,
});
/** Two clear panes of the test box. */
const double = boxProject({ glass: 0.4, panes: true }).glazings.glass as PanesGlazing;
type Blind = NonNullable<Glazing["blind"]>;
const blind = (position: Blind["position"], t: number, r: number): Blind => ({
  position,
  solarTransmittance: t,
  solarReflectance: r,
  visibleTransmittance: t,
  control: { kind: "always" },
});
const absorbed = (s: GlassState, at: number): number => s.absorptance.reduce((sum, a) => sum + a[at], 0);

describe("transmittance from g", () => {
  it("follows the source's regressions on both sides of their seams", () => {
    // single glass, U above 4.5: the parabola and the line meet at 0.7206
    expect(transmittanceFromGain(5.6, 0.72059)).toBeCloseTo(transmittanceFromGain(5.6, 0.72061), 3);
    // several panes, U below 3.4: the line and the parabola meet at 0.15
    expect(transmittanceFromGain(1.6, 0.1499)).toBeCloseTo(transmittanceFromGain(1.6, 0.1501), 2);
    expect(transmittanceFromGain(5.8, 0.86)).toBeCloseTo(1.30415 * 0.86 - 0.30515, 12);
    expect(transmittanceFromGain(1.6, 0.6)).toBeCloseTo(0.085775 * 0.36 + 0.963954 * 0.6 - 0.084958, 12);
  });
  it("goes in a straight line between single and several panes", () => {
    const [one, two] = [transmittanceFromGain(4.5001, 0.7), transmittanceFromGain(3.3999, 0.7)];
    expect(transmittanceFromGain(3.95, 0.7)).toBeCloseTo((one + two) / 2, 4);
  });
  it("never falls as g rises, and stays below it", () => {
    for (const u of [1, 2.5, 3.9, 5.7])
      for (let g = 0.05; g < 0.86; g += 0.01) {
        expect(transmittanceFromGain(u, g + 0.01)).toBeGreaterThan(transmittanceFromGain(u, g));
        expect(transmittanceFromGain(u, g)).toBeLessThan(g + 0.01);
      }
  });
});

describe("a glazing by its rating", () => {
  it("gives its g back through the summer films of the source, where the absorption is not at its limit", () => {
    for (const [u, g] of [
      [2.8, 0.72],
      [1.6, 0.52],
      [1.1, 0.45],
    ]) {
      const p = ratedParts({ u, g, ratedFilms: films });
      const d = g - p.transmittance;
      const ri = 1 / (199.8208128 * d ** 3 - 90.639733 * d * d + 19.737055 * d + 6.766575);
      const ro = 1 / (5.763355 * d + 20.541528);
      const inward = (ro + 0.5 * p.resistance) / (ro + p.resistance + ri);
      expect(p.transmittance + inward * p.absorptance).toBeCloseTo(g, 9);
    }
  });
  it("has films of 7.2 to 8.5 inside and about 30 outside by the source, where nothing is known", () => {
    for (const u of [1, 2, 3, 5]) {
      const f = typicalRatedFilms(u);
      expect(f.inside).toBeGreaterThan(6.9);
      expect(f.inside).toBeLessThan(8.6);
      expect(f.outside).toBeCloseTo(29.16 + 0.025 * u, 1);
    }
  });
  it("is rated as it was typed", () => {
    expect(glazingRating(rated(1.3, 0.5))).toEqual({ u: 1.3, glassU: 1.3, g: 0.5, visibleTransmittance: 0.7 });
  });
});

describe("tables over the angle", () => {
  it("are read in a line between their places, at both ends as well", () => {
    const values = Float64Array.from({ length: ANGLE_STEPS + 1 }, (_, i) => i * i);
    expect(readAngle(values, 0)).toBe(0);
    expect(readAngle(values, 1)).toBe(ANGLE_STEPS * ANGLE_STEPS);
    expect(readAngle(values, 10.5 / ANGLE_STEPS)).toBeCloseTo((100 + 121) / 2, 9);
  });
  it("weigh to a diffuse transmittance between that of 55° and that of 65°", () => {
    for (const g of [rated(2.8, 0.72), rated(1.1, 0.5), double]) {
      const { up } = glazingPhysics(g);
      const at = (degrees: number): number => readAngle(up.transmittance, Math.cos((degrees * Math.PI) / 180));
      expect(up.diffuseTransmittance).toBeLessThan(at(52));
      expect(up.diffuseTransmittance).toBeGreaterThan(at(66));
    }
  });
});

describe("blinds", () => {
  it("of any kind leave no more than all light, at every angle, and take some of it", () => {
    fc.assert(
      fc.property(
        fc.constantFrom<Glazing>(rated(2.8, 0.72), rated(1.1, 0.4), double),
        fc.constantFrom<Blind["position"]>("inside", "outside"),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (g, position, t, r) => {
          const { up, down } = glazingPhysics({ ...g, blind: blind(position, t, r) });
          if (!down) throw new Error("a glazing with a blind has a lowered state");
          for (let i = 1; i <= ANGLE_STEPS; i++) {
            expect(down.transmittance[i] + absorbed(down, i)).toBeLessThanOrEqual(1 + 1e-9);
            expect(down.transmittance[i]).toBeGreaterThanOrEqual(0);
          }
          expect(down.diffuseTransmittance).toBeLessThanOrEqual(up.diffuseTransmittance + 1e-12);
          expect(down.diffuseTransmittance + down.diffuseAbsorptance.reduce((s, a) => s + a, 0)).toBeLessThanOrEqual(1 + 1e-9);
          expect(down.scatters).toBe(true);
          // one node and one conductance more
          expect(down.nodes).toBe(up.nodes + 1);
          expect(down.conductance).toHaveLength(up.conductance.length + 1);
        },
      ),
    );
  });
  it("that reflect nothing share what the glass lets through by their own transmittance", () => {
    const { up, down } = glazingPhysics({ ...double, blind: blind("inside", 0.3, 0) });
    for (const i of [30, 60, ANGLE_STEPS]) {
      expect(down?.transmittance[i]).toBeCloseTo(0.3 * up.transmittance[i], 12);
      // the rest stays in the blind, the innermost node
      expect(down?.absorptance[2][i]).toBeCloseTo(0.7 * up.transmittance[i], 12);
      expect(down?.absorptance[0][i]).toBeCloseTo(up.absorptance[0][i], 12);
    }
  });
  it("inside warm the panes a second time with what they throw back; outside they spare them", () => {
    const inside = glazingPhysics({ ...double, blind: blind("inside", 0.1, 0.6) });
    const outside = glazingPhysics({ ...double, blind: blind("outside", 0.1, 0.6) });
    const panes = (s: GlassState | null, first: number): number => (s ? s.absorptance[first][ANGLE_STEPS] + s.absorptance[first + 1][ANGLE_STEPS] : NaN);
    expect(panes(inside.down, 0)).toBeGreaterThan(panes(inside.up, 0));
    expect(panes(outside.down, 1)).toBeLessThan(0.3 * panes(outside.up, 0));
  });
});
