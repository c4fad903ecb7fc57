import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { PI } from "../numeric/index.ts";
import {
  gapConductance,
  glazingPhysics,
  glazingRating,
  nusselt,
  paneAt,
  paneInterior,
  readAngle,
  stackOptics,
  type PanesGlazing,
  type RatedGlazing,
} from "./index.ts";

const clear = {
  name: "clear",
  thickness: 0.004,
  conductivity: 1,
  solarTransmittance: 0.83,
  solarReflectanceOut: 0.075,
  solarReflectanceIn: 0.075,
  visibleTransmittance: 0.9,
  visibleReflectance: 0.08,
  emissivityOut: 0.84,
  emissivityIn: 0.84,
};
const films = { inside: 7.7, outside: 25 };
const panes = (n: number, coated = false, fill: "air" | "argon" = "air"): PanesGlazing => ({
  kind: "panes",
  name: "x",
  panes: Array.from({ length: n }, (_, i) => ({ id: `p${i}`, ...clear, ...(coated && i === n - 1 ? { emissivityOut: 0.04 } : {}) })),
  gaps: Array.from({ length: n - 1 }, (_, i) => ({ id: `g${i}`, fill, width: 0.016 })),
  frameShare: 0,
  frame: { u: 1.5, absorptance: 0.5 },
  edge: 0,
  ratedFilms: films,
  blind: null,
});

describe("one pane", () => {
  it("comes back from its interior at normal incidence", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 0.9, noNaN: true }), fc.double({ min: 0.05, max: 0.09, noNaN: true }), (t, r) => {
        fc.pre(t + r < 0.99);
        const { surface, crossing } = paneInterior(t, r);
        expect(surface).toBeGreaterThan(0);
        expect(crossing).toBeLessThanOrEqual(1);
        const back = paneAt(t, r, r, 0, false);
        expect(Math.abs(back.t - t)).toBeLessThan(1e-9);
        expect(Math.abs(back.rf - r)).toBeLessThan(1e-9);
      }),
    );
  });
  it("reflects one polarisation hardly at all at Brewster's angle, and all of both at grazing", () => {
    const brewster = Math.atan(1.526);
    expect(paneAt(0.9168, 0.0832, 0.0832, brewster, true).rf).toBeLessThan(0.002);
    expect(paneAt(0.9168, 0.0832, 0.0832, brewster, false).rf).toBeGreaterThan(0.2);
    for (const p of [true, false]) expect(paneAt(0.83, 0.075, 0.075, PI / 2 - 1e-4, p).rf).toBeGreaterThan(0.99);
  });
});

describe("panes behind one another", () => {
  it("let through, reflect and absorb all there is, at every angle and polarisation", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: 0.3, max: 0.85, noNaN: true }),
            fc.double({ min: 0.05, max: 0.14, noNaN: true }),
            fc.double({ min: 0.05, max: 0.14, noNaN: true }),
          ),
          { minLength: 1, maxLength: 3 },
        ),
        fc.double({ min: 0, max: 1.5, noNaN: true }),
        fc.boolean(),
        (list, angle, p) => {
          const o = stackOptics(list.map(([t, rf, rb]) => paneAt(t, rf, rb, angle, p)));
          const sum = o.t + o.rf + o.absorbed.reduce((a, b) => a + b, 0);
          expect(Math.abs(sum - 1)).toBeLessThan(1e-9);
          for (const a of o.absorbed) expect(a).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });
  it("two alike are the textbook's two-pane formula", () => {
    const one = paneAt(0.83, 0.075, 0.075, 0, false);
    const two = stackOptics([one, one]);
    expect(two.t).toBeCloseTo((0.83 * 0.83) / (1 - 0.075 * 0.075), 9);
  });
});

describe("a gap", () => {
  it("conducts like still gas when narrow, and more by convection when its sides differ much", () => {
    const gap = { gas: "air" as const, width: 0.004, emissivity: [0.01, 0.01] as const };
    // 0.0243 W/m·K over 4 mm, and hardly any radiation
    expect(gapConductance(gap, 0, 2, 90, 1)).toBeGreaterThan(5.9);
    expect(gapConductance(gap, 0, 2, 90, 1)).toBeLessThan(6.3);
    const wide = { ...gap, width: 0.05 };
    expect(gapConductance(wide, 0, 30, 90, 1)).toBeGreaterThan(1.3 * gapConductance(wide, 14, 16, 90, 1));
  });
  it("holds heat back more with argon and a coating", () => {
    const base = gapConductance({ gas: "air", width: 0.016, emissivity: [0.84, 0.84] }, 5, 15, 90, 1);
    const argon = gapConductance({ gas: "argon", width: 0.016, emissivity: [0.84, 0.84] }, 5, 15, 90, 1);
    const coated = gapConductance({ gas: "argon", width: 0.016, emissivity: [0.84, 0.04] }, 5, 15, 90, 1);
    expect(argon).toBeLessThan(base);
    expect(coated).toBeLessThan(0.5 * argon);
  });
  it("is still where warm lies over cold, and stirs where warm lies below", () => {
    expect(nusselt(20000, 60, 180)).toBeCloseTo(1, 12);
    expect(nusselt(20000, 60, 0)).toBeGreaterThan(nusselt(20000, 60, 90));
    expect(nusselt(0, 60, 0)).toBe(1);
    expect(nusselt(1000, 60, 30)).toBeCloseTo(1, 12);
  });
});

describe("a glazing by panes", () => {
  it("has the U that such panes are sold with: single 5.8, double 2.7, coated with argon 1.1 to 1.3, triple below double", () => {
    expect(glazingRating(panes(1)).u).toBeCloseTo(1 / (1 / 7.7 + 1 / 25 + 0.004), 6);
    const double = glazingRating(panes(2)).u;
    expect(double).toBeGreaterThan(2.5);
    expect(double).toBeLessThan(2.9);
    const coated = glazingRating(panes(2, true, "argon")).u;
    expect(coated).toBeGreaterThan(1.0);
    expect(coated).toBeLessThan(1.35);
    expect(glazingRating(panes(3)).u).toBeLessThan(double);
  });
  it("gains less sun with every pane, absorbs some, and never more than all", () => {
    const g = [1, 2, 3].map((n) => glazingRating(panes(n)).g);
    expect(g[0]).toBeGreaterThan(g[1]);
    expect(g[1]).toBeGreaterThan(g[2]);
    for (const n of [1, 2, 3]) {
      const s = glazingPhysics(panes(n)).up;
      for (let c = 0; c <= 1; c += 0.1) {
        const used = readAngle(s.transmittance, c) + s.absorptance.reduce((a, t) => a + readAngle(t, c), 0);
        expect(used).toBeLessThanOrEqual(1 + 1e-9);
      }
      expect(readAngle(s.transmittance, 0)).toBeLessThan(0.01);
      expect(s.diffuseTransmittance).toBeLessThan(readAngle(s.transmittance, 1));
    }
  });
  it("weighs its frame and edge into the whole U", () => {
    const framed = { ...panes(2), frameShare: 0.2, edge: 0.06 };
    const r = glazingRating(framed);
    expect(r.u).toBeGreaterThan(0.8 * r.glassU + 0.2 * 1.5);
    expect(glazingRating({ ...framed, edge: 0 }).u).toBeCloseTo(0.8 * r.glassU + 0.2 * 1.5, 9);
  });
});

describe("a blind", () => {
  const rated = (position: "outside" | "inside"): RatedGlazing => ({
    kind: "rated",
    name: "x",
    u: 1.3,
    g: 0.55,
    visibleTransmittance: 0.7,
    frameShare: 0,
    ratedFilms: films,
    blind: { position, solarTransmittance: 0.1, solarReflectance: 0.6, visibleTransmittance: 0.05, control: { kind: "always" } },
  });
  it.each(["outside", "inside"] as const)("%s leaves light accounted for, and lets less through", (position) => {
    const { up, down } = glazingPhysics(rated(position));
    expect(down?.nodes).toBe(up.nodes + 1);
    expect(down?.diffuseTransmittance).toBeLessThan(0.2 * up.diffuseTransmittance);
    expect(down?.diffuseVisible).toBeCloseTo(0.05 * up.diffuseVisible, 12);
    const used = (down?.diffuseTransmittance ?? 1) + (down?.diffuseAbsorptance.reduce((a, b) => a + b, 0) ?? 1);
    expect(used).toBeLessThan(1);
  });
  it("outside keeps the heat it absorbs outside: what is absorbed within the glass falls", () => {
    const { up, down } = glazingPhysics(rated("outside"));
    const glass = (s: typeof up): number => s.diffuseAbsorptance.slice(-2).reduce((a, b) => a + b, 0);
    expect(glass(down as typeof up)).toBeLessThan(0.2 * glass(up));
  });
});
