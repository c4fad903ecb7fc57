import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  applyChanges,
  componentsOf,
  deriveFaces,
  drawnFrom,
  makeBench,
  projectWeather,
  runToEnd,
  setChange,
  systemChanges,
  zonesOnSystem,
  type Project,
  type WeatherYear,
} from "@arroyo/core";
import { rendered } from "../../ui/rendered.ts";
import { demo, done, show } from "../shown.ts";
import type { Column } from "../../ui/sheet.ts";
import type { Units } from "../../ui/units.ts";
import { readLog } from "./BenchCurve.tsx";
import { componentSheet, componentSheets } from "./componentSheet.ts";
import { loopsOf, selectedComponent, selectionOf } from "./componentPlace.ts";
import { Services } from "./Services.tsx";

const query = vi.hoisted(() => ({ text: "" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(query.text),
  useRouter: () => ({ replace: () => undefined }),
  usePathname: () => "/p/clinic",
}));

const plain = demo("clinic");
const zones = Object.keys(plain.zones);
const apply = (p: Project, changes: Parameters<typeof applyChanges>[1]): Project => {
  const made = applyChanges(p, changes);
  if (!made.ok) throw new Error(made.message);
  return made.project;
};
const clinic = apply(plain, systemChanges(plain, "variable", "boiler and chiller", zones, "Clinic air"));
const { summary } = runToEnd(clinic, projectWeather(clinic) as WeatherYear, { stepsPerHour: 1, summaryOnly: true, period: { firstDay: 0, days: 2 } });

beforeEach(() => {
  query.text = "";
  show(clinic, { ...done(summary), selection: [{ kind: "airSystem", id: "clinic_air" }] });
});

describe("an air system on its desk", () => {
  it("is drawn from its parts in order, with sizes found and what its loops serve", () => {
    const { text } = rendered(<Services />);
    const order = ["Mixing box", "Heating coil", "Cooling coil", "Supply fan"].map((n) => text.indexOf(n));
    expect([...order].sort((a, b) => a - b)).toEqual(order);
    expect(text).toMatch(/Boiler\s*⌁ [\d.]+ kW/);
    expect(text).toContain(`Reheat × ${zones.length}`);
    expect(text).toContain("variable volume");
  });
  it("tells a typed setting, a default and a size apart in the inspector of a part", () => {
    const typed = apply(clinic, [setChange(clinic, ["airSystems", "clinic_air", "parts", "fan", "inputs", "pressure"], 640)]);
    show(typed, { ...done(summary), selection: [{ kind: "component", id: "airSystems/clinic_air/parts/fan" }] });
    const r = rendered(<Services />);
    expect(r.value("Pressure rise")).toBe("640");
    expect(r.text).toContain("back to default");
    for (const words of ["typed here", "default", "found by the design days"]) expect(r.marks).toContain(words);
  });
  it("opens loops, rooms and plain services from one list", () => {
    show(clinic, { ...done(summary), selection: [{ kind: "loop", id: "hot" }] });
    expect(rendered(<Services />).table("What draws on Hot water")).toHaveLength(zones.length + 2);
    query.text = "view=services";
    show(clinic, { ...done(summary), selection: [{ kind: "zone", id: zones[0] }] });
    const room = rendered(<Services />);
    expect(room.table("Zones and their services")).toHaveLength(zones.length + 1);
    expect(room.text).toContain("back to plain services");
  });
});

describe("where components are", () => {
  it("is found from a selection and back", () => {
    for (const c of componentsOf(clinic)) expect(selectedComponent(clinic, [selectionOf(c.path)])?.path).toEqual(c.path);
    expect(zonesOnSystem(clinic, "clinic_air")).toHaveLength(zones.length);
    expect(loopsOf(clinic, "clinic_air").sort()).toEqual(["chilled", "hot"]);
    expect(drawnFrom(clinic, "chilled").map((c) => c.kind)).toEqual(["coolingCoil"]);
  });
});

describe("a part on its own", () => {
  const bench = (of: string, p: Project = clinic) => {
    query.text = `view=bench&of=${of}`;
    show(p, { ...done(summary), selection: [] });
    return rendered(<Services />);
  };
  it("shows its equations with their numbers, a slider for what goes in, and its figures", () => {
    const r = bench("component:airSystems/clinic_air/parts/fan");
    const rows = r.table("Equations with their numbers");
    const power = rows.find((row) => row[0] === "P");
    expect(power?.[2]).toContain("P_design");
    // the figures stand where the names stood
    expect(power?.[3]).not.toContain("P_design");
    expect(power?.[4]).toMatch(/k?W$/);
    expect(r.text).toContain("pressure rise / efficiency");
    expect(r.value("air flow")).not.toBe("");
  });
  it("opens whatever there is: a zone, a face, a loop with all of its sources", () => {
    expect(bench(`zone:${zones[0]}`).text).toContain("heat loss coefficient");
    const wall = deriveFaces(clinic).faces.find((f) => f.kind === "wall" && f.contact === "outdoors");
    expect(bench(`face:${encodeURIComponent(wall?.key ?? "")}`).text).toContain("sol-air temperature");
    expect(bench("component:loops/hot").table("Equations with their numbers").length).toBeGreaterThan(8);
    // what is gone gives the first thing there is
    expect(bench("component:loops/gone").text).toContain("Equation");
  });
  it("says that a size is still to be found", () => {
    query.text = "view=bench&of=component:airSystems/clinic_air/parts/fan";
    show(clinic, { selection: [] });
    expect(rendered(<Services />).text).toContain("Its size is not found yet");
  });
  it("reads a log by its heads in the units shown, and says which cell is no number", () => {
    const made = makeBench(clinic, { kind: "component", path: ["airSystems", "clinic_air", "parts", "fan"], more: 0 }, summary.sized);
    if (!made.ok) throw new Error(made.message);
    const si = { value: (v: number) => v };
    const log = readLog(made.bench, "log.csv", "flow;Entering air, temperature\n100;18,5\n120;19\n", si);
    expect(log).toMatchObject({
      rows: [
        { flow: 0.1, t0: 18.5 },
        { flow: 0.12, t0: 19 },
      ],
      taken: ["flow", "t0"],
    });
    expect(log).toMatchObject({ beyond: 0 });
    expect(readLog(made.bench, "log.csv", "t0\n20\n300\n", si)).toMatchObject({ beyond: 1, rows: [{ t0: 20 }, { t0: 45 }] });
    expect(readLog(made.bench, "log.csv", "flow\nabc\n", si)).toBe("Row 2: “abc” under “flow” is not a number.");
    expect(readLog(made.bench, "log.csv", "speed\n1\n", si)).toContain("No head of the log is one of flow");
    expect(readLog(made.bench, "log.csv", "flow\n", si)).toContain("at least one row");
    const steps = made.bench.run({ flow: 0.1, t0: 18.5 });
    expect(steps.find((s) => s.name === "t_out")?.value).toBeGreaterThan(18.5);
  });
});

describe("all components as a sheet", () => {
  it("has a column a setting with its origin; a typed cell is a change, a blank takes it back, a wrong one is refused with its reason", () => {
    const units = { unit: (u: string) => u, value: (v: number) => v } as unknown as Units;
    const data = componentSheet(clinic, "Supply fan", units, summary.sized);
    expect(componentSheets(clinic)).toContain("Terminal");
    const column = (name: string) => data.columns.find((c) => c.name === name) as Column;
    const [row] = data.rows;
    expect(column("Design air flow").origin?.(row)?.mark).toBe("⌁");
    expect(column("Design air flow").value(row)).toBeCloseTo(1000 * summary.sized["airSystems/clinic_air/parts/fan/inputs/flow"], 6);
    expect(column("Efficiency").write?.(row, "55")).toEqual([setChange(clinic, ["airSystems", "clinic_air", "parts", "fan", "inputs", "efficiency"], 0.55)]);
    expect(column("At part flow").write?.(row, "sometimes")).toContain("none of");
    const coils = componentSheet(clinic, "Cooling coil", units, summary.sized);
    // a coil on chilled water has no COP of its own
    const cop = coils.columns.find((c) => c.name === "COP") as Column;
    expect(cop.value(coils.rows[0])).toBeNull();
    expect(cop.write?.(coils.rows[0], "4")).toContain("has no meaning here");
    const loop = coils.columns.find((c) => c.name === "Chilled-water loop") as Column;
    expect(loop.write?.(coils.rows[0], "Hot water")).toContain("There is no loop");
  });
});
