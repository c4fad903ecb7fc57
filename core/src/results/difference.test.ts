import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { applyChanges, projectWeather, runToEnd, setChange, type Project, type RunSettings, type Summary, type WeatherYear } from "../index.ts";
import { byDifference } from "./difference.ts";

const base = boxProject({ glass: 0.4, weight: "heavy", gains: 300 });
const weather = projectWeather(base) as WeatherYear;
const short: RunSettings = { stepsPerHour: 1, summaryOnly: true, shortYear: 24 };
const year = (p: Project, settings: RunSettings): Summary => runToEnd(p, weather, settings).summary;
const exact = year(base, { stepsPerHour: 4 });
const before = year(base, short);
const edited = (path: string[], value: unknown): Project => {
  const outcome = applyChanges(base, [setChange(base, path, value)]);
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.project;
};
const total = (s: Summary, use: string): number => s.energy.endUses.filter((u) => u.use === use).reduce((t, u) => t + u.total, 0);

describe("figures by difference of short years", () => {
  it("of an unchanged model are those of the exact year", () => {
    const same = byDifference(exact, before, before, base) as Summary;
    expect(same.energy.intensity).toBeCloseTo(exact.energy.intensity as number, 9);
    expect(same.loads.heating.total).toBeCloseTo(exact.loads.heating.total, 9);
    expect(same.peaks.cooling.power).toBe(exact.peaks.cooling.power);
  });
  it.each([
    ["thinner insulation", ["assemblies", "wall", "layers", "insulation", "thickness"], 0.03],
    ["better glass", ["glazings", "glass", "u"], 1.1],
    ["less sun", ["glazings", "glass", "g"], 0.35],
    ["a warmer set-point", ["spaceTypes", "box", "inputs", "heatingSetpoint"], 22],
    ["more leakage", ["spaceTypes", "box", "inputs", "infiltration"], 1],
  ])("after %s come nearer to the new year than half of what the edit moved", (_, path, value) => {
    const p = edited(path, value);
    const guess = byDifference(exact, before, year(p, short), p) as Summary;
    const truth = year(p, { stepsPerHour: 4 });
    const moved = (truth.energy.intensity as number) - (exact.energy.intensity as number);
    expect(Math.abs(moved)).toBeGreaterThan(0.3);
    expect(Math.abs((guess.energy.intensity as number) - (truth.energy.intensity as number))).toBeLessThan(0.5 * Math.abs(moved));
    expect(Math.sign((guess.energy.intensity as number) - (exact.energy.intensity as number))).toBe(Math.sign(moved));
    expect(guess.energy.cost).toBeCloseTo(
      guess.energy.endUses.reduce((s, u) => s + u.total * p.prices.perKWh[u.fuel], 0),
      6,
    );
    // what the strip along the bottom shows adds up
    expect(guess.energy.endUses.reduce((s, u) => s + u.total, 0) / guess.floorArea).toBeCloseTo(guess.energy.intensity as number, 9);
    for (const u of guess.energy.endUses) {
      expect(u.total).toBeGreaterThanOrEqual(0);
      expect(u.monthly.reduce((s, v) => s + v, 0)).toBeCloseTo(u.total, 6);
    }
  });
  it("follow an efficiency, which moves fuel and no load", () => {
    const p = edited(["services", "plain", "heating", "efficiency"], 2);
    const guess = byDifference(exact, before, year(p, short), p) as Summary;
    expect(guess.loads.heating.total).toBeCloseTo(exact.loads.heating.total, 6);
    expect(total(guess, "heating")).toBeLessThan(0.6 * total(exact, "heating"));
  });
  it("are none where zones or days are others, or there is no whole year", () => {
    const renamed = JSON.parse(JSON.stringify(before)) as Summary;
    renamed.zones[0].id = "other";
    expect(byDifference(exact, before, renamed, base)).toBeNull();
    expect(byDifference(exact, exact, exact, base)).toBeNull();
    expect(byDifference(before, before, before, base)).toBeNull();
    expect(byDifference(exact, before, year(base, { ...short, shortYear: 12 }), base)).toBeNull();
    expect(byDifference(year(base, { stepsPerHour: 1, period: { firstDay: 0, days: 31 } }), before, before, base)).toBeNull();
  });
});
