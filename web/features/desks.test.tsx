import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  assemblyU,
  equivalentHours,
  noMorph,
  projectWeather,
  runToEnd,
  usualDesignDays,
  type Project,
  type RunResult,
  type Summary,
  type WeatherYear,
} from "@arroyo/core";
import { rendered } from "../ui/rendered.ts";
import { InputRow, TypeInputRow } from "../ui/InputRow.tsx";
import { Tally } from "../ui/Tally.tsx";
import { ProblemsDrawer } from "../ui/ProblemsDrawer.tsx";
import { Fabric } from "./fabric/Fabric.tsx";
import { CalendarSettings } from "./place/CalendarSettings.tsx";
import { DesignDays } from "./place/DesignDays.tsx";
import { Place } from "./place/Place.tsx";
import { PriceDesk } from "./place/PriceDesk.tsx";
import { RunSettings } from "./place/RunSettings.tsx";
import { Services } from "./services/Services.tsx";
import { demo, done, live, show } from "./shown.ts";
import { Use } from "./use/Use.tsx";

const query = vi.hoisted(() => ({ text: "" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(query.text),
  useRouter: () => ({ replace: () => undefined }),
  usePathname: () => "/p/library",
}));

const clinic = demo("clinic");
const weather = projectWeather(clinic) as WeatherYear;
const exact: RunResult = runToEnd(clinic, weather, { stepsPerHour: 1, summaryOnly: true });

beforeEach(() => show(clinic));

describe("an input of a space", () => {
  const ids = Object.keys(clinic.spaces);
  const space = (id: string, inputs: Project["spaces"][string]["inputs"]): Project => ({
    ...clinic,
    spaces: { ...clinic.spaces, [id]: { ...clinic.spaces[id], inputs } },
  });
  it("tells where it comes from: typed, from the space type, or the default", () => {
    const [id] = ids;
    show(space(id, { heatingSetpoint: 19.5 }));
    const typed = rendered(<InputRow kind="space" ids={[id]} field="heatingSetpoint" />);
    expect(typed.value("Heating set-point")).toBe("19.5");
    expect(typed.text).toContain("●");
    expect(typed.text).toContain("back to inherited");
    const type = clinic.spaceTypes[clinic.spaces[id].spaceType as string];
    show(space(id, {}));
    expect(rendered(<InputRow kind="space" ids={[id]} field="heatingSetpoint" />).text).toContain(`from ${type.name}`);
    const bare: Project = { ...clinic, spaceTypes: { ...clinic.spaceTypes, [clinic.spaces[id].spaceType as string]: { ...type, inputs: {} } } };
    show(bare);
    const plain = rendered(<InputRow kind="space" ids={[id]} field="heatingSetpoint" />);
    expect(plain.text).toContain("○");
    expect(plain.text).toContain("default");
  });
  it("is shown in its own unit, with its usual range where it lies outside", () => {
    const [id] = ids;
    show(space(id, { outdoorAirPerPerson: 0.0105 }));
    const row = rendered(<InputRow kind="space" ids={[id]} field="outdoorAirPerPerson" />);
    expect(row.text).toContain("L/s");
    expect(Number(row.value("Outdoor air per person"))).toBeCloseTo(10.5, 9);
    expect(row.text).not.toContain("usual");
    show(space(id, { outdoorAirPerPerson: 0.09 }));
    expect(rendered(<InputRow kind="space" ids={[id]} field="outdoorAirPerPerson" />).text).toMatch(/usual [\d.]+ to [\d.]+/);
  });
  it("of several spaces that differ says so and shows none of them", () => {
    const [a, b] = ids;
    show({
      ...clinic,
      spaces: {
        ...clinic.spaces,
        [a]: { ...clinic.spaces[a], inputs: { heatingSetpoint: 18 } },
        [b]: { ...clinic.spaces[b], inputs: { heatingSetpoint: 21 } },
      },
    });
    const row = rendered(<InputRow kind="space" ids={[a, b]} field="heatingSetpoint" />);
    expect(row.text).toContain("varies");
    expect(row.text).not.toContain("18");
    expect(rendered(<InputRow kind="space" ids={[a]} field="heatingSetpoint" />).value("Heating set-point")).toBe("18.0");
  });
  it("of a space type goes back to the default", () => {
    const [type] = Object.keys(clinic.spaceTypes);
    show({ ...clinic, spaceTypes: { ...clinic.spaceTypes, [type]: { ...clinic.spaceTypes[type], inputs: { coolingSetpoint: 27 } } } });
    expect(rendered(<TypeInputRow type={type} field="coolingSetpoint" />).text).toContain("back to default");
    expect(rendered(<TypeInputRow type={type} field="heatingSetpoint" />).text).toContain("default");
  });
});

describe("the tally", () => {
  const s = exact.summary;
  it("shows the exact year unmarked, with its peaks and how long it took", () => {
    show(clinic, done(s));
    const t = rendered(<Tally />);
    expect(t.text).toContain((s.energy.intensity as number).toFixed(1));
    expect(t.text).not.toContain("≈");
    expect(t.text).toContain(`${(s.peaks.heating.power / 1000).toFixed(1)} kW heat`);
    expect(t.text).toContain("kWh/m²a");
    // 1.25 rounds to even as the platform does
    expect(t.text).toMatch(/year re-run in 1\.[23] s/);
  });
  it("marks the estimate, and follows what is still to come", () => {
    show(clinic, live({ version: 4, estimateVersion: 4, estimate: s, progress: { exact: true, share: 0.42 } }));
    const t = rendered(<Tally />);
    expect(t.text).toContain(`≈ ${(s.energy.intensity as number).toFixed(1)}`);
    expect(t.text).toContain("15-minute year 42 %");
  });
  it("tells the change since the last pin", () => {
    const cheaper: Summary = { ...s, energy: { ...s.energy, intensity: (s.energy.intensity as number) + 7 } };
    show(clinic, { ...done(s), pins: [{ name: "before", summary: cheaper }] });
    expect(rendered(<Tally />).text).toMatch(/−7\.0 since “before”/);
  });
  it("of some days claims no year", () => {
    show(clinic, done(runToEnd(clinic, weather, { stepsPerHour: 1, summaryOnly: true, period: { firstDay: 10, days: 5 } }).summary));
    const t = rendered(<Tally />);
    expect(t.text).toContain("not of a whole year");
    expect(t.text).not.toContain("m²a");
  });
  it("says why there is no figure", () => {
    show(clinic, live({ version: 1, message: "The year cannot run: Lobby belongs to no zone." }));
    expect(rendered(<Tally />).text).toContain("Lobby belongs to no zone.");
  });
});

/** What Place shows of some weather year. */
const glance = {
  name: "x",
  monthly: { meanDryBulb: [], minDryBulb: [], maxDryBulb: [], global: [], diffuse: [], windSpeed: [], relativeHumidity: [] },
  heatingDegreeDays: 1,
  climateZone: 5,
  coolingDegreeDays: 1,
  min: 0,
  max: 1,
  hours: weather,
};

describe("the desks", () => {
  it("Fabric lists every assembly with its U", () => {
    const t = rendered(<Fabric />).text;
    for (const a of Object.values(clinic.assemblies)) {
      expect(t).toContain(a.name);
      expect(t).toContain(assemblyU(clinic, a).toFixed(2));
    }
  });
  it("Fabric's shares of resistance of an assembly add up to a hundred", () => {
    const rows = rendered(<Fabric />).table("Layers");
    const shares = rows.slice(1).map((r) => Number(r[5]));
    expect(shares.length).toBeGreaterThan(3);
    expect(Math.abs(shares.reduce((a, v) => a + v, 0) - 100)).toBeLessThanOrEqual(0.5 * shares.length);
  });
  it("Use lists the schedules with their full-value hours", () => {
    show(clinic, { selection: [{ kind: "schedule", id: Object.keys(clinic.schedules)[0] }] });
    const t = rendered(<Use />).text;
    for (const s of Object.values(clinic.schedules))
      if (s.kind === "fraction")
        expect(t).toContain(`${s.name} ${Math.round(equivalentHours(s, clinic.calendar)).toLocaleString("en-GB").replace(/,/g, "\u202f")} h`);
  });
  it("Services lists every zone with the loads of the year", () => {
    show(clinic, done(exact.summary));
    const rows = rendered(<Services />).table("Zones and their services");
    expect(rows).toHaveLength(1 + Object.keys(clinic.zones).length);
    for (const z of exact.summary.zones) {
      const row = rows.find((r) => r[0] === z.name) as string[];
      expect(Number(row[2].replace(/\u202f/g, ""))).toBe(Math.round(z.heating));
    }
  });
  it("Place tells a typical year from a measured one", () => {
    query.text = "view=run";
    show(clinic, live({ weather: { ...glance, year: null, days: 365 } }));
    expect(rendered(<Place />).text).toContain("typical, 365 days");
    show(clinic, live({ weather: { ...glance, year: 2028, days: 366 } }));
    expect(rendered(<Place />).text).toContain("2028, 366 days");
    query.text = "";
  });
  it("Place lists the weather years with the one in view, and what may be done with it", () => {
    const morph = { kind: "morphed", name: "Mid-century", label: "2060", of: clinic.weather, morph: noMorph() } as const;
    show({ ...clinic, weathers: { ...clinic.weathers, then: morph }, weather: "then" }, live({ weather: { ...glance, year: null, days: 365 } }));
    const place = rendered(<Place />);
    expect(place.text).toContain("Mid-century 2060");
    expect(place.text).toContain("made of another year by monthly changes");
    expect(place.value("Made of")).toBe(clinic.weathers[clinic.weather].name);
    expect(place.value("Jan change")).toBe("0");
  });
  it("Prices tell what each fuel costs, adding up to the bill of the year", () => {
    show(clinic, done(exact.summary));
    const rows = rendered(<PriceDesk />)
      .table("Cost by fuel")
      .slice(1);
    const whole = (t: string): number => Number(t.replace(/\u202f/g, ""));
    expect(Math.abs(rows.reduce((a, r) => a + whole(r[5]), 0) - exact.summary.energy.cost)).toBeLessThanOrEqual(0.5 * rows.length);
    const months = rendered(<PriceDesk />)
      .table("Cost and carbon by month")[1]
      .map(whole);
    expect(Math.abs(months.slice(1, 13).reduce((a, v) => a + v, 0) - months[13])).toBeLessThanOrEqual(6);
  });
  it("Design days are the usual ones of the year until they are changed", () => {
    show(clinic, live({ weather: { ...glance, year: null, days: 365 } }));
    const usual = rendered(<DesignDays />);
    expect(usual.value("Name of Heating 99.6 %")).toBe("Heating 99.6 %");
    expect(usual.text).toContain("these are the usual ones");
    const own = usualDesignDays(weather).slice(1, 3);
    show({ ...clinic, designDays: own }, live({ weather: { ...glance, year: null, days: 365 } }));
    const changed = rendered(<DesignDays />);
    expect(changed.text).toContain("Back to the usual days");
    expect(() => changed.value("Name of Heating 99.6 %")).toThrow();
  });
  it("Calendar has year, summer time and holidays, and says where it is not the weather's", () => {
    const at = (calendar: Partial<Project["calendar"]>, weather: { year: number | null; days: number }) => {
      show({ ...clinic, calendar: { ...clinic.calendar, ...calendar } }, live({ weather: { ...glance, ...weather } }));
      return rendered(<CalendarSettings />);
    };
    const typical = at({ year: null, firstWeekday: 2, daylightSaving: null, holidays: [] }, { year: null, days: 365 });
    expect(typical.value("Kind of year")).toBe("typical");
    expect(typical.value("First weekday")).toBe("Wednesday");
    expect(typical.value("Summer time")).toBe("never");
    expect(typical.text).not.toContain("●");
    expect(at({ year: 2029 }, { year: 2028, days: 366 }).text).toContain("the weather was measured in 2028");
    expect(at({ year: 2028 }, { year: null, days: 365 }).text).toContain("the weather has no 29 February");
    const named = at({ year: 2028 }, { year: 2028, days: 366 });
    expect(named.value("Calendar year")).toBe("2028");
    expect(named.text).not.toMatch(/measured in|no 29 February/);
    const kept = at(
      {
        daylightSaving: { from: [3, 29], to: [10, 24] },
        holidays: [
          { id: "b", name: "Harvest", month: 9, day: 3 },
          { id: "a", name: "New year", month: 1, day: 1 },
        ],
      },
      { year: null, days: 365 },
    );
    expect([kept.value("Summer time from, day"), kept.value("Summer time from, month")]).toEqual(["29", "March"]);
    expect([kept.value("Summer time to, day"), kept.value("Summer time to, month")]).toEqual(["24", "October"]);
    expect(kept.table("Holidays")).toHaveLength(3);
    expect(kept.value("Day of Harvest, month")).toBe("September");
  });
  it("Calculation marks what is not as usual, and only that", () => {
    expect(rendered(<RunSettings />).text).not.toContain("●");
    show({ ...clinic, run: { ...clinic.run, sky: "isotropic", period: { from: [2, 29], days: 3 } } });
    const t = rendered(<RunSettings />);
    expect(t.text.match(/●/g)).toHaveLength(2);
    expect(t.value("Sky")).toBe("isotropic");
    expect(t.value("First day, day")).toBe("29");
    expect(t.value("First day, month")).toBe("February");
  });
  it("problems say whether the year runs, and offer a fix where there is one", () => {
    const fix = { label: "Give it a zone of its own", changes: [] };
    const t = rendered(
      <ProblemsDrawer
        problems={[
          { code: "no-zone", severity: "error", stage: "form", path: "spaces/lobby/zone", message: "Lobby belongs to no zone.", fix },
          { code: "no-type", severity: "warning", stage: "use", path: "spaces/lobby/spaceType", message: "Lobby has no space type." },
        ]}
        outliers={[]}
        onClose={() => undefined}
        onShow={() => undefined}
      />,
    ).text;
    expect(t).toMatch(/Lobby belongs to no zone\. form · the year cannot run .*Give it a zone of its own/);
    expect(t).toMatch(/Lobby has no space type\. use · the year runs/);
    expect(rendered(<ProblemsDrawer problems={[]} outliers={[]} onClose={() => undefined} onShow={() => undefined} />).text).toContain("Nothing is wrong");
  });
});
