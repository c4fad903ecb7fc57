import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { runToEnd, type RunResult } from "../results/index.ts";
import { apart } from "../verification/apart.ts";
import { boxClimates, boxProject, daily, type BoxClimateName, type BoxOptions } from "../verification/box.ts";
import { compile, flowNames, projectWeather } from "./index.ts";

const climates = Object.keys(boxClimates) as BoxClimateName[];
const years = new Map<BoxClimateName, WeatherYear>();
const yearOf = (climate: BoxClimateName): WeatherYear => {
  let w = years.get(climate);
  if (!w) years.set(climate, (w = projectWeather(boxProject({ climate })) as WeatherYear));
  return w;
};

const between = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
/** Rooms of any kind the test bed can be, in any of its climates. */
const anyBox: fc.Arbitrary<BoxOptions & { readonly climate: BoxClimateName }> = fc.record({
  climate: fc.constantFrom(...climates),
  weight: fc.constantFrom("light" as const, "heavy" as const),
  glass: between(0.05, 0.7),
  insulation: between(0.02, 0.3),
  overhang: fc.constantFrom(0, 0.6, 2),
  heating: fc.option(between(16, 22), { nil: null }),
  cooling: fc.option(between(23, 28), { nil: null }),
  gains: between(0, 3000),
  infiltration: between(0, 3),
  planNorth: between(0, 360),
  panes: fc.boolean(),
  sky: fc.constantFrom("perez" as const, "isotropic" as const),
  insideAbsorptance: between(0.1, 0.9),
  outsideAbsorptance: between(0.1, 0.9),
  emissivity: between(0.1, 0.95),
  second: fc.constantFrom(undefined, { heating: null, cooling: null }, { heating: 15, cooling: 30 }),
});
const start = fc.integer({ min: 0, max: 350 });

const run = (o: BoxOptions & { readonly climate: BoxClimateName }, firstDay: number, edit: (p: Project) => void = () => undefined, days = 4): RunResult => {
  const p = boxProject(o);
  edit(p);
  return runToEnd(p, yearOf(o.climate), { stepsPerHour: 2, period: { firstDay, days } });
};
const values = (r: RunResult, quantity: string): readonly Float64Array[] => r.series.filter((s) => s.quantity === quantity).map((s) => s.values);
const sum = (v: readonly number[]): number => v.reduce((a, x) => a + x, 0);

describe("any room in any climate", () => {
  it("keeps its books, its set-points and its numbers", () => {
    fc.assert(
      fc.property(anyBox, start, (o, firstDay) => {
        const r = run(o, firstDay);
        expect(r.summary.closure).toBeLessThan(1e-10);
        expect(r.summary.counted.unsettled).toBe(0);
        for (const s of r.series) expect(s.values.every(Number.isFinite)).toBe(true);
        for (const z of r.summary.zones) {
          // all flows of a zone add up to nothing, month by month
          for (let m = 0; m < 12; m++) expect(Math.abs(sum(flowNames.map((f) => z.flows[f][m])))).toBeLessThan(1e-8);
          expect(z.temperature.min).toBeLessThanOrEqual(z.temperature.mean + 1e-9);
          expect(z.temperature.mean).toBeLessThanOrEqual(z.temperature.max + 1e-9);
        }
        const main = r.summary.zones.find((z) => z.id === "a");
        if (o.heating !== null && o.heating !== undefined) expect(main?.temperature.min).toBeGreaterThan(o.heating - 1e-6);
        if (o.cooling !== null && o.cooling !== undefined) expect(main?.temperature.max).toBeLessThan(o.cooling + 1e-6);
        const [heating, cooling] = [values(r, "heating"), values(r, "cooling")];
        for (const v of [...heating, ...cooling]) expect(v.every((q) => q >= 0)).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  it("without sun, gains and cooling needs no less heat when it leaks more, is colder outside or warmer inside", () => {
    fc.assert(
      fc.property(anyBox, start, (o, firstDay) => {
        const dark = (w: WeatherYear, colder: number): WeatherYear => ({
          ...w,
          globalHorizontal: new Float64Array(8760),
          diffuseHorizontal: new Float64Array(8760),
          dryBulb: w.dryBulb.map((t) => Math.min(t, 12) - colder),
        });
        const heat = (more: Partial<BoxOptions>, colder = 0): number => {
          const p = boxProject({ ...o, second: undefined, gains: 0, heating: 20, cooling: null, ...more });
          return runToEnd(p, dark(yearOf(o.climate), colder), { stepsPerHour: 2, period: { firstDay, days: 3 } }).summary.loads.heating.total;
        };
        const now = heat({});
        expect(now).toBeGreaterThan(0);
        expect(heat({ infiltration: (o.infiltration ?? 0) + 0.5 })).toBeGreaterThan(now);
        expect(heat({}, 2)).toBeGreaterThan(now);
        expect(heat({ heating: 21 })).toBeGreaterThan(now);
        expect(heat({ insulation: (o.insulation ?? 0.1) + 0.1 })).toBeLessThan(now);
      }),
      { numRuns: 12 },
    );
  });

  it("is the same turned with its plan turned back", () => {
    fc.assert(
      fc.property(anyBox, start, fc.constantFrom(90, 180, 270), (o, firstDay, turn) => {
        const plain = { ...o, second: undefined };
        const straight = run(plain, firstDay, undefined, 2);
        const turned = run({ ...plain, planNorth: (o.planNorth ?? 0) + turn }, firstDay, (p) => rotate(p, turn), 2);
        const [a, b] = [straight, turned].map((r) => r.summary.loads);
        for (const load of ["heating", "cooling"] as const) expect(Math.abs(a[load].total - b[load].total)).toBeLessThan(1e-6 * (1 + a[load].total));
      }),
      { numRuns: 12 },
    );
  });
});

/** Everything that decides by a temperature, with limits that meet each other and the temperatures held. */
const anyControls = fc.record({
  steps: fc.constantFrom(1, 4),
  heating: fc.constantFrom(18, 20, 21, null),
  cooling: fc.constantFrom(23, 24, 26, null),
  setback: fc.constantFrom(14, 16, 18, null),
  setup: fc.constantFrom(26, 28, 30, null),
  windows: fc.constantFrom(22, 23, 23.5, 24, null),
  night: fc.constantFrom(20, 22, 24, null),
  nightFlow: fc.constantFrom(0, 5),
  free: fc.constantFrom(0, 4),
  start: fc.constantFrom(null, 4),
  least: fc.constantFrom(0.3, 0.4, null),
  most: fc.constantFrom(0.5, 0.6, null),
  setpointKind: fc.constantFrom("air", "operative"),
  blindAbove: fc.constantFrom(23, 24, null),
  recovery: fc.constantFrom(0, 0.7),
});

describe("any controls of any room", () => {
  it("decide nothing by rounding: starts a billionth of a kelvin apart stay that near", () => {
    fc.assert(
      fc.property(anyBox, anyControls, start, (o, c, firstDay) => {
        const p = boxProject({ ...o, heating: c.heating, cooling: c.cooling });
        p.schedules.use = daily("use", (h) => (h >= 7 && h < 19 ? 1 : 0));
        Object.assign(p.spaceTypes.box.inputs, {
          conditioningSchedule: "use",
          heatingSetback: c.setback,
          coolingSetback: c.setup,
          windowOpenAbove: c.windows,
          nightVentilation: c.nightFlow,
          nightVentilationAbove: c.night,
          freeCooling: c.free,
          optimumStart: c.start,
          humidifySetpoint: c.least,
          dehumidifySetpoint: c.most,
          setpointKind: c.setpointKind,
          outdoorAirPerArea: 0.0005,
        });
        for (const opening of Object.values(p.openings)) opening.operable = 0.4;
        for (const services of Object.values(p.services)) services.heatRecovery = { sensible: c.recovery, latent: 0 };
        if (c.blindAbove !== null)
          for (const glazing of Object.values(p.glazings))
            glazing.blind = {
              position: "inside",
              solarTransmittance: 0.1,
              solarReflectance: 0.5,
              visibleTransmittance: 0.1,
              control: { kind: "temperature", above: c.blindAbove },
            };
        const w = yearOf(o.climate);
        expect(apart(compile(p, w, c.steps), w, 5, [[firstDay, 10]])).toBeLessThan(1e-6);
      }),
      { numRuns: 80 },
    );
  });
});

/** Turns the plan about its origin, degrees counter-clockwise in quarters, with windows by orientation told anew by the wall they lie in. */
function rotate(p: Project, degrees: number): void {
  const quarters = degrees / 90;
  for (const s of Object.values(p.spaces)) {
    if (s.form.kind !== "prism") continue;
    for (const v of s.form.outline)
      for (let q = 0; q < quarters; q++) {
        const { x } = v;
        v.x = -v.y;
        v.y = x;
      }
  }
  // the south window stays in the same wall, which true directions now name otherwise
  const south = p.openings.south;
  if (south?.kind === "ratio") p.openings.south = { ...south, orientation: null, host: "a/s" };
}
