import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { boxProject, daily, steadyWeather, type BoxOptions } from "../verification/box.ts";
import { compile, EXTRA, YearKernel } from "./index.ts";

const STEPS = 4;

/** A box in air of a steady temperature, from noon of midsummer day on, with what it does by steps. */
function box(o: BoxOptions, outdoors: number, edit: (p: Project) => void = () => undefined, weather: (w: WeatherYear) => void = () => undefined) {
  const p = JSON.parse(JSON.stringify(boxProject(o))) as Project;
  edit(p);
  const w = steadyWeather(outdoors);
  weather(w);
  const kernel = new YearKernel(compile(p, w, STEPS), w);
  kernel.start(outdoors, 20, 0.007);
  let at = 24 * 172 * STEPS;
  return {
    kernel,
    /** So many steps on; `each` sees the state after every one. */
    run(steps: number, each: () => void = () => undefined): void {
      for (let i = 0; i < steps; i++, at++) {
        kernel.step(Math.floor(at / STEPS), at % STEPS);
        each();
      }
    },
    get hour(): number {
      return Math.floor(at / STEPS) % 24;
    },
  };
}
const inputs = (p: Project): Record<string, unknown> => p.spaceTypes.box.inputs;
const air = (k: YearKernel): number => k.record.airTemperature[0];

describe("windows that open", () => {
  const warm: BoxOptions = { glass: 0.4, gains: 1500, heating: null, cooling: null };
  const openable =
    (more: Record<string, unknown> = {}) =>
    (p: Project): void => {
      Object.assign(inputs(p), { windowOpenAbove: 23, ...more });
      for (const o of Object.values(p.openings)) o.operable = 0.5;
    };
  const opened = (outdoors: number, more: Record<string, unknown> = {}, edit: (p: Project) => void = () => undefined, wind = 3): number => {
    const b = box(
      warm,
      outdoors,
      (p) => {
        openable(more)(p);
        edit(p);
      },
      (w) => w.windSpeed.fill(wind),
    );
    let steps = 0;
    b.run(4 * 24 * STEPS, () => (steps += b.kernel.state.extraKind[0] === EXTRA.WINDOWS ? 1 : 0));
    return steps;
  };

  it("open half a kelvin above their limit, let in no more than holds it, and never cool below it", () => {
    const b = box(warm, 12, openable());
    let first = NaN;
    let least = Infinity;
    b.run(6 * 24 * STEPS, () => {
      const open = b.kernel.state.extraKind[0] === EXTRA.WINDOWS;
      if (open && Number.isNaN(first)) first = b.kernel.state.airStart[0];
      if (!Number.isNaN(first)) least = Math.min(least, air(b.kernel));
    });
    expect(first).toBeGreaterThan(23.5);
    expect(least).toBeGreaterThan(23 - 1e-6);
    expect(b.kernel.record.extraFlow[0]).toBeGreaterThan(0);
    expect(b.kernel.record.extraFlow[0]).toBeLessThanOrEqual(b.kernel.state.extraMost[0]);
    expect(air(b.kernel)).toBeCloseTo(23, 6);
  });
  it("stay shut in too cold air, in too much wind, out of hours, and where it is warmer outside", () => {
    expect(opened(12)).toBeGreaterThan(100);
    expect(opened(12, { windowOutdoorLeast: 14 })).toBe(0);
    expect(opened(12, { windowWindMost: 6 }, undefined, 8)).toBe(0);
    expect(opened(12, { windowWindMost: 6 }, undefined, 4)).toBeGreaterThan(100);
    expect(opened(12, { windowSchedule: "never" }, (p) => (p.schedules.never = daily("s", () => 0)))).toBe(0);
    expect(opened(45, {}, (p) => (inputs(p).appliancePower = 0))).toBe(0);
    const byDay = opened(12, { windowSchedule: "day" }, (p) => (p.schedules.day = daily("s", (h) => (h >= 8 && h < 18 ? 1 : 0))));
    expect(byDay).toBeGreaterThan(50);
    expect(byDay).toBeLessThanOrEqual(4 * 10 * STEPS);
  });
  it("close before the cooling set-point, so that the two never work in one step", () => {
    const b = box({ ...warm, cooling: 25, gains: 6000 }, 20, openable());
    let both = 0;
    let windows = 0;
    let cooled = 0;
    b.run(4 * 24 * STEPS, () => {
      const open = b.kernel.record.extraFlow[0] > 0;
      const cooling = b.kernel.record.cooling[0] > 0;
      windows += open ? 1 : 0;
      cooled += cooling ? 1 : 0;
      both += open && cooling ? 1 : 0;
    });
    expect(both).toBe(0);
    expect(cooled).toBeGreaterThan(50);
    expect(air(b.kernel)).toBeLessThan(25 + 1e-6);
    expect(windows + cooled).toBeGreaterThan(100);
  });
});

describe("night ventilation", () => {
  const night = (above: number | null) =>
    box({ gains: 1200, heating: null, cooling: null, weight: "heavy" }, 14, (p) => {
      Object.assign(inputs(p), { nightVentilation: 10, nightVentilationSchedule: "night", nightVentilationAbove: above });
      p.schedules.night = daily("s", (h) => (h < 6 || h >= 22 ? 1 : 0));
    });
  it("runs in its hours only, and without a limit whatever the temperatures are", () => {
    const b = night(null);
    b.run(3 * 24 * STEPS, () => {
      const inside = b.kernel.state.scheduled[b.kernel.model.nightSchedule[0]] >= 0.5;
      expect(b.kernel.state.extraKind[0]).toBe(inside ? EXTRA.NIGHT : EXTRA.NONE);
      // ten changes an hour of 129.6 m³, by the density outdoors
      if (inside) expect(b.kernel.record.extraFlow[0] / b.kernel.state.boundary.density).toBeCloseTo((10 * 129.6) / 3600, 9);
    });
  });
  it("with a limit stops there, and adds nothing where outdoors is no cooler", () => {
    const b = night(21);
    let least = Infinity;
    let held = 0;
    b.run(6 * 24 * STEPS, () => {
      const { state, record, model } = b.kernel;
      if (record.extraFlow[0] > 0) least = Math.min(least, air(b.kernel));
      // air held at the limit is on either side of it by rounding: it runs on all the same
      if (state.scheduled[model.nightSchedule[0]] >= 0.5 && Math.abs(state.airStart[0] - 21) < 1e-9) {
        held++;
        expect(state.extraKind[0]).toBe(EXTRA.NIGHT);
      }
    });
    expect(held).toBeGreaterThan(20);
    expect(least).toBeGreaterThan(21 - 1e-6);
    expect(least).toBeLessThan(22);
    const hot = box({ gains: 0, heating: null, cooling: null }, 60, (p) => Object.assign(inputs(p), { nightVentilation: 10, nightVentilationAbove: 21 }));
    hot.run(24 * STEPS, () => expect(hot.kernel.record.extraFlow[0]).toBe(0));
  });
  it("goes on into cooling where it is not enough, with its fans at full", () => {
    const b = box({ gains: 4000, heating: null, cooling: 26, infiltration: 0 }, 20, (p) => {
      Object.assign(inputs(p), { nightVentilation: 2, nightVentilationAbove: 22 });
    });
    b.run(3 * 24 * STEPS);
    expect(air(b.kernel)).toBeCloseTo(26, 6);
    expect(b.kernel.record.cooling[0]).toBeGreaterThan(500);
    expect(b.kernel.record.extraFlow[0] / b.kernel.state.boundary.density).toBeCloseTo((2 * 129.6) / 3600, 9);
    // and at its limit of power the room floats with both
    const weak = box({ gains: 6000, heating: null, cooling: 26, infiltration: 0 }, 20, (p) => {
      Object.assign(inputs(p), { nightVentilation: 2, nightVentilationAbove: 22 });
      p.zones.a.inputs.coolingCapacity = 800;
    });
    weak.run(3 * 24 * STEPS);
    expect(weak.kernel.record.cooling[0]).toBeCloseTo(800, 6);
    expect(air(weak.kernel)).toBeGreaterThan(26.5);
  });
  it("never takes a room below its heating set-point, nor heating away from it", () => {
    for (const limit of [null, 10]) {
      const b = box({ gains: 0, heating: 20, cooling: null, infiltration: 0.3 }, -10, (p) => {
        Object.assign(inputs(p), { nightVentilation: 2, nightVentilationAbove: limit });
      });
      b.run(4 * 24 * STEPS, () => expect(air(b.kernel)).toBeGreaterThan(20 - 1e-6));
      expect(b.kernel.record.heating[0]).toBeGreaterThan(300);
      expect(b.kernel.record.extraFlow[0]).toBe(0);
    }
  });
});

describe("free cooling", () => {
  it("takes what outdoor air can and leaves the rest to the coil, at the set-point", () => {
    const b = box({ gains: 4000, cooling: 24, infiltration: 0 }, 16, (p) => Object.assign(inputs(p), { freeCooling: 5 }));
    b.run(4 * 24 * STEPS);
    const { record, state } = b.kernel;
    expect(air(b.kernel)).toBeCloseTo(24, 6);
    // five changes an hour and 8 K are not enough for this: all of the air, and the coil for what is left
    expect(record.extraFlow[0]).toBeCloseTo((5 * 129.6 * state.boundary.density) / 3600, 9);
    expect(record.cooling[0]).toBeGreaterThan(100);
    const enough = box({ gains: 700, cooling: 24, infiltration: 0 }, 16, (p) => Object.assign(inputs(p), { freeCooling: 5 }));
    enough.run(4 * 24 * STEPS);
    expect(enough.kernel.record.cooling[0]).toBe(0);
    expect(air(enough.kernel)).toBeCloseTo(24, 6);
    expect(enough.kernel.record.extraFlow[0]).toBeLessThan(record.extraFlow[0]);
  });
  it("rests where outdoors is within half a kelvin of the set-point", () => {
    const b = box({ gains: 3000, cooling: 24 }, 23.7, (p) => Object.assign(inputs(p), { freeCooling: 5 }));
    b.run(2 * 24 * STEPS, () => expect(b.kernel.record.extraFlow[0]).toBe(0));
    expect(b.kernel.record.cooling[0]).toBeGreaterThan(0);
  });
});

describe("heat recovery", () => {
  it("is held back where the exhaust would freeze: it leaves at the limit, not below", () => {
    const exhaust = (limit: number | null): number => {
      const b = box({ infiltration: 0, gains: 0, heating: 20 }, -20, (p) => {
        Object.assign(inputs(p), { outdoorAirPerArea: 0.001 });
        p.services.plain.heatRecovery = { sensible: 0.8, latent: 0, frostLimit: limit };
      });
      b.run(3 * 24 * STEPS);
      const { state } = b.kernel;
      return state.airStart[0] - state.airSupply[0] * (state.airStart[0] + 20);
    };
    // at 80 % it would leave at 20 − 0.8·40 = −12 °C
    expect(exhaust(null)).toBeCloseTo(-12, 6);
    expect(exhaust(2)).toBeCloseTo(2, 6);
    expect(exhaust(-15)).toBeCloseTo(-12, 6);
  });
  const supply = (outdoors: number, o: BoxOptions): { bypassed: boolean } => {
    const b = box({ infiltration: 0, ...o }, outdoors, (p) => {
      Object.assign(inputs(p), { outdoorAirPerArea: 0.001 });
      p.services.plain.heatRecovery = { sensible: 0.75, latent: 0 };
    });
    b.run(3 * 24 * STEPS);
    return { bypassed: b.kernel.state.airSupply[0] === 0 };
  };
  it("runs when it brings the air toward the band between the set-points, else it is passed by", () => {
    // cold outside and a room at its heating set-point: it helps
    expect(supply(0, { gains: 0 }).bypassed).toBe(false);
    // cold outside and a room too warm from its gains: the cold is welcome
    expect(supply(12, { gains: 4000 }).bypassed).toBe(true);
    // hotter outside than a cooled room: it spares cooling
    expect(supply(38, { gains: 500 }).bypassed).toBe(false);
  });
});

describe("blinds", () => {
  const glazed = (control: NonNullable<Project["glazings"][string]["blind"]>["control"], edit: (p: Project) => void = () => undefined) =>
    box(
      { glass: 0.5, heating: null, cooling: null },
      15,
      (p) => {
        p.glazings.glass.blind = { position: "outside", solarTransmittance: 0.1, solarReflectance: 0.5, visibleTransmittance: 0.1, control };
        edit(p);
      },
      // a bright sky that comes and goes: 200 to 600 W/m² on the horizontal, all of it diffuse
      (w) => {
        for (let h = 24 * 150; h < 24 * 200; h++) {
          const day = h % 24;
          const g = day >= 6 && day < 19 ? 200 + 50 * Math.min(day - 6, 18 - day) : 0;
          w.globalHorizontal[h] = g;
          w.diffuseHorizontal[h] = g;
        }
      },
    );
  const window = (k: YearKernel): number => k.model.kind.indexOf(1);
  const down = (k: YearKernel): number => k.state.blindDown[0];

  it("by sun go down above their limit and up again only below four fifths of it", () => {
    const b = glazed({ kind: "irradiance", above: 200 });
    let before = 0;
    let on = 0;
    let moves = 0;
    b.run(3 * 24 * STEPS, () => {
      const now = down(b.kernel);
      // what decided is the sun of the step before
      if (now === 1 && before === 0) expect(on).toBeGreaterThan(200);
      if (now === 0 && before === 1) expect(on).toBeLessThanOrEqual(160);
      moves += Math.abs(now - before);
      before = now;
      on = b.kernel.record.incident[window(b.kernel)];
    });
    expect(moves).toBe(6);
  });
  it("by temperature want sun as well, and hold for half a kelvin", () => {
    const b = glazed({ kind: "temperature", above: 21 });
    let before = 0;
    let last = { t: 0, on: 0 };
    let lowered = 0;
    b.run(4 * 24 * STEPS, () => {
      const now = down(b.kernel);
      if (now === 1 && before === 0) {
        lowered++;
        expect(last.t).toBeGreaterThan(21);
        expect(last.on).toBeGreaterThan(50);
      }
      if (now === 0 && before === 1) expect(last.t <= 20.5 || last.on <= 40).toBe(true);
      before = now;
      last = { t: air(b.kernel), on: b.kernel.record.incident[window(b.kernel)] };
    });
    expect(lowered).toBeGreaterThan(0);
  });
  it("by schedule follow it, and always down they stay down", () => {
    const b = glazed({ kind: "schedule", schedule: "noon" }, (p) => (p.schedules.noon = daily("s", (h) => (h >= 11 && h < 14 ? 1 : 0))));
    b.run(2 * 24 * STEPS, () => expect(down(b.kernel)).toBe(b.kernel.state.scheduled[b.kernel.model.glassSpecs[0].schedule]));
    const always = glazed({ kind: "always" });
    always.run(24 * STEPS, () => expect(down(always.kernel)).toBe(1));
  });
  it("lowered change the window's conductance and what comes through it", () => {
    const up = glazed({ kind: "schedule", schedule: "never" }, (p) => (p.schedules.never = daily("s", () => 0)));
    const low = glazed({ kind: "always" });
    up.run(12 * STEPS);
    low.run(12 * STEPS);
    expect(low.kernel.state.glassG[0]).toBeLessThan(up.kernel.state.glassG[0]);
    const through = (k: YearKernel): number => k.record.transmittedSum[window(k)];
    expect(through(low.kernel)).toBeLessThan(0.2 * through(up.kernel));
    expect(through(low.kernel)).toBeGreaterThan(0);
  });
});

describe("an early start", () => {
  /** Hours it begins before use on the eleventh day, the rate it has learned, K/h, and what is missing when use begins, K. */
  const start = (capacity: number): { lead: number; rate: number; short: number } => {
    const b = box({ setback: 12, cooling: null, weight: "heavy", heatingCapacity: capacity, gains: 0 }, -15, (p) =>
      Object.assign(inputs(p), { optimumStart: 6 }),
    );
    b.run(10 * 24 * STEPS + 12 * STEPS);
    let lead = 0;
    let short = NaN;
    b.run(20 * STEPS, () => {
      const { heatTarget } = b.kernel.record;
      const use = b.kernel.state.scheduled[b.kernel.model.conditioning[0]] >= 0.5;
      if (!use && heatTarget[0] > 15) lead += 1 / STEPS;
      if (use && lead > 0 && Number.isNaN(short)) short = 20 - b.kernel.state.airStart[0];
    });
    return { lead, rate: b.kernel.state.rateHeat[0], short };
  };
  const slow = start(3000);
  const fast = start(4500);
  const whole = start(1e6);
  it("learns how fast the room warms, and begins the later the faster it does", () => {
    expect(slow.rate).toBeLessThan(fast.rate);
    expect(fast.rate).toBeLessThan(whole.rate);
    expect(slow.lead).toBeGreaterThan(fast.lead);
    expect(fast.lead).toBeGreaterThan(whole.lead);
    // heating without limit needs a step or two
    expect(whole.lead).toBeLessThanOrEqual(0.5);
    expect(whole.lead).toBeGreaterThan(0);
  });
  it("meets the set-point when use begins, to half a kelvin, once it has learned", () => {
    for (const s of [fast, whole]) expect(s.short).toBeLessThan(0.5);
  });
});
