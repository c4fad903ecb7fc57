import { describe, expect, it, vi } from "vitest";
import { projectWeather, runToEnd, type Project, type RunResult, type Summary, type WeatherYear } from "@arroyo/core";
import { rendered } from "../../ui/rendered.ts";
import { demo, show } from "../shown.ts";
import { Balance } from "./Balance.tsx";
import { Comfort } from "./Comfort.tsx";
import { Daylight } from "./Daylight.tsx";
import { EnergyByMonth } from "./MonthlyCharts.tsx";
import { ZoneTable } from "./ZoneTable.tsx";

const query = vi.hoisted(() => ({ text: "" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(query.text),
  useRouter: () => ({ replace: () => undefined }),
  usePathname: () => "/p/clinic/results",
}));
const clinic = demo("clinic");
show(clinic);
const weather = projectWeather(clinic) as WeatherYear;
const run = (p: Project, w = weather, period?: { firstDay: number; days: number }): RunResult =>
  runToEnd(p, w, { stepsPerHour: 1, ...(period ? { period } : {}) });
const year = run(clinic).summary;
const january = run(clinic, weather, { firstDay: 0, days: 31 }).summary;

const number = (text: string): number => Number(text.replace(/\u202f/g, "").replace("−", "-"));
const sum = (v: readonly number[]): number => v.reduce((a, x) => a + x, 0);

describe("the table of zones", () => {
  const rows = rendered(<ZoneTable summary={year} source="test" />).table("Zones");
  it("has every zone with its loads over its floor, as the summary tells them", () => {
    expect(rows).toHaveLength(1 + year.zones.length);
    year.zones.forEach((z, i) => {
      const row = rows[i + 1];
      expect(row[0]).toBe(z.name);
      expect(Math.abs(number(row[1]) - z.floorArea)).toBeLessThanOrEqual(0.5);
      expect(Math.abs(number(row[2]) - z.heating / z.floorArea)).toBeLessThanOrEqual(0.05 + 1e-9);
      expect(Math.abs(number(row[4]) - z.peakHeating / z.floorArea)).toBeLessThanOrEqual(0.5 + 1e-9);
      expect(number(row[6])).toBeLessThanOrEqual(number(row[7]));
      expect(number(row[7])).toBeLessThanOrEqual(number(row[8]));
    });
  });
  it("is per year for a year only", () => {
    expect(rows[0][2]).toBe("Heating kWh/m²a");
    const part = rendered(<ZoneTable summary={january} source="test" />);
    expect(part.table("Zones")[0][2]).toBe("Heating kWh/m²");
    expect(part.text).toContain("over the whole period");
  });
});

describe("energy by end use", () => {
  const total = (s: Summary): number => sum(s.energy.endUses.map((u) => u.total));
  it("adds up line by line to the intensity, and its shares to a hundred", () => {
    const rows = rendered(<EnergyByMonth summary={year} source="test" />).table("Energy by end use and fuel");
    const last = rows[rows.length - 1];
    expect(last[0]).toBe("all");
    expect(number(last[2])).toBe(Math.round(total(year)));
    expect(Math.abs(number(last[3]) - (year.energy.intensity as number))).toBeLessThanOrEqual(0.05);
    const lines = rows.slice(1, -1);
    expect(Math.abs(sum(lines.map((r) => number(r[2]))) - total(year))).toBeLessThanOrEqual(0.5 * lines.length + 0.5);
    expect(Math.abs(sum(lines.map((r) => number(r[4]))) - 100)).toBeLessThanOrEqual(0.05 * lines.length);
    expect(rows[0]).toEqual(["End use", "Fuel", "Year kWh", "Intensity kWh/m²a", "Share %"]);
  });
  it("of a month says so", () => {
    expect(rendered(<EnergyByMonth summary={january} source="test" />).table("Energy by end use and fuel")[0]).toContain("Period kWh");
  });
});

describe("gains and losses", () => {
  it("add up to nothing, for the building and for a zone", () => {
    for (const text of ["", `of=${year.zones[0].id}`]) {
      query.text = text;
      const rows = rendered(<Balance summary={year} source="test" spaceNames={(k) => k} />).table("Energy balance of the year by kind");
      expect(rows[rows.length - 1].slice(0, 2)).toEqual(["adds up to", "0.00"]);
      const lines = rows.slice(1, -1);
      expect(lines.length).toBeGreaterThan(5);
      expect(Math.abs(sum(lines.map((r) => number(r[1]))))).toBeLessThanOrEqual(0.005 * lines.length + 1e-9);
      expect(rows[0][0]).toBe(text === "" ? "Whole building" : year.zones[0].name);
    }
    query.text = "";
  });
  it("of an unknown zone are those of the building", () => {
    query.text = "of=nowhere";
    expect(rendered(<Balance summary={year} source="test" spaceNames={(k) => k} />).value("Zone whose heat is shown")).toBe("Whole building");
    query.text = "";
  });
});

describe("comfort", () => {
  it("lists zones with people, hours within those of the year, and says how many are left out", () => {
    const shown = rendered(<Comfort summary={year} source="test" />);
    const rows = shown.table("Comfort").slice(1);
    const peopled = year.zones.filter((z) => z.comfort !== null);
    expect(rows.map((r) => r[0])).toEqual(peopled.map((z) => z.name));
    for (const r of rows) {
      const [hours, coldest, mean, warmest, dissatisfied, cold, warm] = r.slice(1, 8).map(number);
      expect(hours).toBeLessThanOrEqual(8760);
      expect(coldest).toBeLessThanOrEqual(mean);
      expect(mean).toBeLessThanOrEqual(warmest);
      expect(dissatisfied).toBeGreaterThanOrEqual(5);
      expect(cold + warm).toBeLessThanOrEqual(hours);
    }
    const empty = year.zones.length - peopled.length;
    if (empty === 1) expect(shown.text).toContain("One zone never has people and is not listed.");
    else if (empty > 1) expect(shown.text).toContain(`${empty} zones never have people`);
    else expect(shown.text).not.toContain("never ha");
  });
});

describe("daylight", () => {
  it("says what to do where no space answers it, and lists the points where they do", () => {
    const without = {
      ...clinic,
      spaceTypes: Object.fromEntries(
        Object.entries(clinic.spaceTypes).map(([id, t]) => [id, { ...t, inputs: { ...t.inputs, lightingControl: "none" as const } }]),
      ),
    };
    const none = run(without, weather, { firstDay: 100, days: 2 }).summary;
    expect(none.daylight).toEqual([]);
    expect(rendered(<Daylight summary={none} source="test" project={without} />).text).toContain("No space answers daylight yet");
    const dimmed = {
      ...clinic,
      spaceTypes: Object.fromEntries(
        Object.entries(clinic.spaceTypes).map(([id, t]) => [id, { ...t, inputs: { ...t.inputs, lightingControl: "dimmed" as const } }]),
      ),
    };
    const lit = run(dimmed, weather, { firstDay: 100, days: 5 }).summary;
    const rows = rendered(<Daylight summary={lit} source="test" project={dimmed} />)
      .table("Sensor points")
      .slice(1);
    expect(rows).toHaveLength(lit.daylight.length);
    expect(rows.length).toBeGreaterThan(3);
    for (const r of rows) {
      expect(Object.values(dimmed.spaces).map((s) => s.name)).toContain(r[1]);
      expect(number(r[2])).toBeGreaterThanOrEqual(0);
      expect(number(r[2])).toBeLessThan(30);
      if (r[5] !== "—") expect(number(r[5])).toBeLessThanOrEqual(100);
    }
  });
});
