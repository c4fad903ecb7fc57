import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  drawnFrom,
  zonesOnSystem,
  applyChanges,
  componentsOf,
  projectWeather,
  runToEnd,
  setChange,
  systemChanges,
  type Project,
  type WeatherYear,
} from "@arroyo/core";
import { rendered } from "../../ui/rendered.ts";
import { demo, done, show } from "../shown.ts";
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
