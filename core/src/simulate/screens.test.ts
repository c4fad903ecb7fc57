import { describe, expect, it } from "vitest";
import { runToEnd, type RunResult } from "../results/index.ts";
import { checkReferences, type Project, type Shade } from "../model/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import { boxProject, daily } from "../verification/box.ts";
import { projectWeather } from "./index.ts";
import { sunStudy, type FaceSun } from "./sunStudy.ts";

const weather = projectWeather(boxProject()) as WeatherYear;
const winter = { firstDay: 10, days: 6 };

/** A screen before the lower part of the south window, and what drives it. */
const screen = (through: Pick<Shade, "transmittance" | "transmittanceSchedule">): Shade => ({
  kind: "plane",
  name: "Screen",
  ring: [
    [0, -1, 0],
    [8, -1, 0],
    [8, -1, 2],
    [0, -1, 2],
  ],
  ...through,
});

function box(through: Pick<Shade, "transmittance" | "transmittanceSchedule"> | null): Project {
  const p = boxProject({ glass: 0.5 });
  p.schedules.shut = daily("Shut", () => 0);
  p.schedules.away = daily("Away", () => 1);
  p.schedules.third = daily("Third", () => 0.3);
  p.schedules.afternoon = daily("Afternoon", (h) => (h < 12 ? 1 : 0));
  Object.assign(p.spaceTypes.box.inputs, { lightingPower: 10, lightingControl: "dimmed", illuminance: 400, peopleDensity: 0.05 });
  if (through) p.shades.screen = screen(through);
  return p;
}
const run = (through: Parameters<typeof box>[0]): RunResult =>
  runToEnd(box(through), weather, { stepsPerHour: 4, period: winter, series: ["incidentSun", "litShare", "daylight"] });
const values = (r: RunResult, quantity: string, scope?: string): Float64Array =>
  (r.series.find((s) => s.quantity === quantity && (scope === undefined || s.scope.includes(scope))) as RunResult["series"][number]).values;
const GLASS = "south";

describe("a screen that a schedule puts up and takes away", () => {
  const none = run(null);
  const shut = run({ transmittanceSchedule: "shut" });

  it("is an opaque plane where nothing passes, and is not there where all does", () => {
    const plane = run({});
    for (const quantity of ["incidentSun", "litShare", "daylight"]) {
      values(shut, quantity, quantity === "daylight" ? undefined : GLASS).forEach((v, h) =>
        expect(v).toBeCloseTo(values(plane, quantity, quantity === "daylight" ? undefined : GLASS)[h], 6),
      );
    }
    const away = run({ transmittanceSchedule: "away" });
    expect(away.summary.fingerprint).toBe(none.summary.fingerprint);
  });

  it("with a constant share is the same as with that share in every month", () => {
    const by = run({ transmittanceSchedule: "third" });
    const months = run({ transmittance: new Array<number>(12).fill(0.3) });
    values(by, "incidentSun", GLASS).forEach((v, h) => expect(v).toBeCloseTo(values(months, "incidentSun", GLASS)[h], 6));
    values(by, "daylight").forEach((v, h) => expect(v).toBeCloseTo(values(months, "daylight")[h], 6));
  });

  it("takes sun and light in its hours only", () => {
    const half = run({ transmittanceSchedule: "afternoon" });
    let lost = 0;
    for (let h = 0; h < 24 * winter.days; h++) {
      const like = h % 24 < 12 ? none : shut;
      expect(values(half, "incidentSun", GLASS)[h]).toBeCloseTo(values(like, "incidentSun", GLASS)[h], 9);
      expect(values(half, "daylight")[h]).toBeCloseTo(values(like, "daylight")[h], 9);
      lost += values(none, "incidentSun", GLASS)[h] - values(half, "incidentSun", GLASS)[h];
    }
    expect(lost).toBeGreaterThan(1000);
    // less light from outside leaves more to the lamps, less sun more to the heating
    expect(half.summary.zones[0].lighting.used).toBeGreaterThan(none.summary.zones[0].lighting.used);
    expect(shut.summary.zones[0].lighting.used).toBeGreaterThan(half.summary.zones[0].lighting.used);
    expect(half.summary.loads.heating.total).toBeGreaterThan(none.summary.loads.heating.total);
    expect(shut.summary.loads.heating.total).toBeGreaterThan(half.summary.loads.heating.total);
    expect(half.summary.closure).toBeLessThan(1e-10);
  });

  it("is followed by the sun study as well", () => {
    const south = (through: Parameters<typeof box>[0]): FaceSun => {
      const study = sunStudy(box(through), weather, { from: 354, days: 1 });
      for (;;) {
        const step = study.next();
        // the sun of winter stands on the south wall longest
        if (step.done) return step.value.filter((r) => !r.host.endsWith("ceiling")).reduce((a, b) => (b.total > a.total ? b : a));
      }
    };
    const [open, closed, noon] = [null, { transmittanceSchedule: "shut" }, { transmittanceSchedule: "afternoon" }].map(south);
    expect(south({ transmittanceSchedule: "away" }).total).toBeCloseTo(open.total, 9);
    expect(south({}).total).toBeCloseTo(closed.total, 9);
    expect(noon.hours).toBeGreaterThan(closed.hours + 1);
    expect(noon.hours).toBeLessThan(open.hours - 1);
  });

  it("needs a schedule of shares that exists", () => {
    const told = (id: string): string[] => {
      const p = box({ transmittanceSchedule: id });
      p.schedules.warm = { ...p.schedules.shut, name: "Warm", kind: "temperature" };
      return checkReferences(p).map((x) => `${x.path}: ${x.message}`);
    };
    expect(told("shut")).toEqual([]);
    expect(told("nowhere")).toEqual(['shades/screen/transmittanceSchedule: There is no schedule "nowhere" in this project.']);
    expect(told("warm")).toEqual(['shades/screen/transmittanceSchedule: "Warm" holds temperatures; a schedule of shares is needed here.']);
  });
});
