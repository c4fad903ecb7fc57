import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  applyChanges,
  complianceInput,
  complySubmission,
  outdoorAirChanges,
  packUseOf,
  plainChanges,
  projectWeather,
  runToEnd,
  referenceBuilding,
  sizeProject,
  submissionOf,
  type Compliance as Result,
  type Project,
  type Sizing,
  type Summary,
  type WeatherYear,
} from "@arroyo/core";
import { rendered } from "../ui/rendered.ts";
import { Compliance } from "./compliance/Compliance.tsx";
import { matchSheet, suggestionChanges } from "./compliance/matchSheets.ts";
import { controlSheet } from "./compliance/controlSheet.ts";
import { cellChanges } from "../ui/sheet.ts";
import { unitsIn } from "../ui/units.ts";
import { Options } from "./options/Options.tsx";
import { variantsOf, type Variant } from "./options/useVariants.ts";
import { SizingTable } from "./services/Sizing.tsx";
import { demo, show } from "./shown.ts";

const query = vi.hoisted(() => ({ text: "" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(query.text),
  useRouter: () => ({ replace: () => undefined, push: () => undefined }),
  usePathname: () => "/p/clinic/compliance",
}));
/** What the workers have answered. */
const found = vi.hoisted(() => ({ result: null as unknown, message: null as string | null }));
vi.mock("../live/useFound.ts", () => ({
  useFound: (key: string) => ({ result: key.endsWith("trade-off") ? null : found.result, current: true, message: found.message }),
}));
const years = vi.hoisted(() => ({ of: new Map<string, unknown>(), busy: 0 }));
vi.mock("./options/useVariants.ts", async (original) => ({
  ...(await original<object>()),
  useVariants: (document: Project) => ({
    variants: variantsOf(document),
    summaryOf: (v: Variant) => (years.of.get(v.id ?? "base") as Summary | undefined) ?? null,
    busy: years.busy,
  }),
}));

const clinic = demo("clinic");
const weather = projectWeather(clinic) as WeatherYear;
const number = (text: string): number =>
  Number(
    text
      .replace(/\u202f/g, "")
      .replace("−", "-")
      .replace("+", ""),
  );
beforeEach(() => {
  found.result = null;
  found.message = null;
  query.text = "";
  years.of.clear();
  show(clinic);
});

describe("peaks of design days", () => {
  const made = applyChanges(clinic, plainChanges(clinic, Object.keys(clinic.zones)));
  if (!made.ok) throw new Error(made.message);
  const plain = made.project;
  const sizing: Sizing = sizeProject(plain, weather);
  it("are those of its equipment where a zone has any, by rule told as such", () => {
    const field = "splitUnit.heatingCapacity";
    const ruled: Project = { ...clinic, rules: [{ id: "r", name: "Two kilowatts", on: true, target: "component", field, conditions: [], value: "2 kW" }] };
    show(ruled);
    found.result = sizeProject(ruled, weather);
    const shown = rendered(<SizingTable />);
    expect(
      new Set(
        shown
          .table("Peaks of design days")
          .slice(1, -1)
          .map((r) => r[2]),
      ),
    ).toEqual(new Set(["equipment"]));
    const units = shown.table("Sizes of components").filter((r) => r[0] === "Split unit");
    expect(units.filter((r) => r[5].startsWith("ƒ 2.0")).length).toBe(Object.keys(clinic.zones).length);
    expect(units.some((r) => r[4].startsWith("⌁"))).toBe(true);
  });
  it("are listed by zone with the building's own at one time, no larger than their sum", () => {
    show(plain);
    found.result = sizing;
    const shown = rendered(<SizingTable />);
    const rows = shown.table("Peaks of design days").slice(1);
    expect(rows).toHaveLength(sizing.zones.length + 1);
    const all = rows[rows.length - 1];
    expect(all[0]).toBe("Building, at one time");
    const zones = rows.slice(0, -1);
    expect(number(all[1])).toBeLessThanOrEqual(zones.reduce((s, r) => s + number(r[1]), 0) + 0.05 * zones.length);
    expect(number(all[3])).toBeLessThanOrEqual(zones.reduce((s, r) => s + number(r[3]), 0) + 0.05 * zones.length);
    // latent cooling is part of cooling
    for (const r of rows) expect(number(r[4])).toBeLessThanOrEqual(number(r[3]));
    for (const d of sizing.days) expect(shown.text).toContain(d.name);
    // without a capacity typed in, every zone has two by sizing
    rows.slice(0, -1).forEach((r, i) => {
      expect(r[2]).toContain("⌁");
      expect(Math.abs(number(r[2].replace(" ⌁", "")) - sizing.zones[i].heatingCapacity.power / 1000)).toBeLessThanOrEqual(0.05 + 1e-9);
      expect(r[6]).toMatch(sizing.zones[i].cooling.power > 0 ? /⌁/ : /^—$/);
    });
  });
  it("components add up to the peak but for what the air stores", () => {
    for (const z of sizing.zones) {
      const sum = Object.values(z.cooling.components).reduce((a, v) => a + v, 0);
      if (z.cooling.power > 0) expect(Math.abs(sum - z.cooling.power)).toBeLessThan(0.1 * z.cooling.power + 20);
    }
  });
  it("mark a capacity that is less than the day needs", () => {
    const [zone] = sizing.zones.filter((z) => z.heating.power > 500);
    const short: Project = { ...plain, zones: { ...plain.zones, [zone.id]: { ...plain.zones[zone.id], inputs: { heatingCapacity: 400 } } } };
    show(short);
    found.result = sizing;
    const shown = rendered(<SizingTable />);
    expect(shown.value(`Heating capacity of ${zone.name}`)).toBe("0.4");
    expect(shown.table("Peaks of design days").find((r) => r[0] === zone.name)?.[2]).toContain("!");
  });
  it("say that they are being found, or why they are not", () => {
    expect(rendered(<SizingTable />).text).toContain("Finding the design days");
    found.message = "There is no space yet.";
    expect(rendered(<SizingTable />).text).toBe("There is no space yet.");
  });
});

describe("compliance", () => {
  const outcome = submissionOf(clinic, weather);
  if (!outcome.ok) throw new Error(outcome.message);
  const { submission } = outcome;
  const { pack } = submission;
  const result: Result = complySubmission(clinic, weather, submission, { stepsPerHour: 4 });
  const answer = { stage: "exact", result, reference: null, building: referenceBuilding(clinic, submission).project };
  const good = (text: string): boolean => /^[✓◇]/.test(text);
  it("shows index, letter and verdict as they were computed, failures first", () => {
    found.result = answer;
    const shown = rendered(<Compliance />);
    expect(shown.text).toContain(`${result.index?.toFixed(1)} index, passes at 100 and below`);
    expect(shown.text).toContain(result.pass ? "✓ passes" : "✗ does not pass");
    expect(shown.text).toContain(`${result.rows.filter((r) => !r.pass).length} open`);
    for (const kind of ["mandatory", "prescriptive"] as const) {
      const rows = shown.table(`${kind} checks`).slice(1);
      expect(rows).toHaveLength(result.rows.filter((r) => r.kind === kind).length);
      const marks = rows.map((r) => r[0]);
      expect(marks).toEqual([...marks].sort((a, b) => Number(good(a)) - Number(good(b))));
      for (const r of rows) {
        const [required, proposed] = [number(r[4].slice(1)), number(r[5])];
        // what reads as met is told as met; at equal digits either may be true
        if (required !== proposed && required === required) expect(good(r[0])).toBe(r[4].startsWith("≤") ? proposed < required : proposed > required);
      }
    }
  });
  it("lists every change that makes the reference building, and every clause it cites", () => {
    found.result = answer;
    query.text = "view=reference";
    const shown = rendered(<Compliance />);
    const parts = [...new Set(result.changes.map((c) => c.part))];
    const rows = parts.flatMap((part) => shown.table(`Changes of the reference building, ${part}`).slice(1));
    expect(rows).toHaveLength(result.changes.length);
    query.text = "view=clauses";
    const clauses = rendered(<Compliance />)
      .table("Clauses")
      .slice(1)
      .map((r) => `§ ${r[0]}`);
    for (const r of rows) expect(clauses).toContain(r[0]);
  });
  it("tells both buildings by end use, adding up to the index", () => {
    found.result = answer;
    query.text = "view=performance";
    const sum = rendered(<Compliance />)
      .table("Both buildings by end use")
      .find((r) => r[0] === "All") as string[];
    expect((100 * number(sum[4])) / number(sum[5])).toBeCloseTo(result.index as number, 1);
  });
  it("matches uses in a sheet: pasted over several rows, and every suggestion at once", () => {
    const sheet = matchSheet(clinic, "Space types", pack);
    const use = sheet.columns.find((c) => c.key === "use");
    if (!use) throw new Error("no column of uses");
    const changes = cellChanges(sheet.rows.map((row) => ({ row, column: use, text: "sales" })));
    if (typeof changes === "string") throw new Error(changes);
    const made = applyChanges(clinic, changes);
    if (!made.ok) throw new Error(made.message);
    expect(Object.values(complianceInput(made.project).uses ?? {})).toEqual(sheet.rows.map(() => "sales"));
    expect(cellChanges([{ row: sheet.rows[0], column: use, text: "spa" }])).toMatch(/“spa” is no use of Plateau Energy Code; it has .* Nothing was changed/);
    const all = applyChanges(clinic, suggestionChanges(clinic, pack));
    if (!all.ok) throw new Error(all.message);
    expect(suggestionChanges(all.project, pack)).toEqual([]);
  });
  it("tells in a sheet which space needs control by daylight and what outdoor air its use asks for", () => {
    const sheet = controlSheet(clinic, "", unitsIn("SI"), pack);
    const read = (key: string) => sheet.rows.map((r) => sheet.columns.find((c) => c.key === key)?.value(r));
    expect(read("primary").some((v) => (v as number) > 3)).toBe(true);
    expect((read("air") as number[]).some((v, i) => Math.abs(v - (read("least") as number[])[i]) > 0.1)).toBe(true);
    // with the outdoor air of its use a space has what is asked for, and no more
    const changes = Object.keys(clinic.spaces).flatMap((id) => {
      const use = packUseOf(clinic, pack, id);
      return outdoorAirChanges(clinic, id, use.outdoorAirPerPerson?.value ?? 0, use.outdoorAirPerArea?.value ?? 0);
    });
    const made = applyChanges(clinic, changes);
    if (!made.ok) throw new Error(made.message);
    const after = controlSheet(made.project, "", unitsIn("SI"), pack);
    const column = (key: string): number[] => after.rows.map((r) => after.columns.find((c) => c.key === key)?.value(r) as number);
    column("air").forEach((v, i) => expect(v).toBeCloseTo(column("least")[i], 6));
  });
  it("tells a refusal in place of a result", () => {
    found.message = "The year cannot run.";
    expect(rendered(<Compliance />).text).toContain("The year cannot run.");
  });
});

describe("options side by side", () => {
  const wall = clinic.assemblies.wall_brick;
  const layer = wall.layers.find((l) => l.id === "insulation") as Extract<(typeof wall.layers)[number], { kind: "solid" }>;
  const thick: Project = {
    ...clinic,
    options: {
      thick: {
        name: "Thick walls",
        changes: [{ id: "c1", op: "set", path: ["assemblies", "wall_brick", "layers", "insulation", "thickness"], value: 0.25, old: layer.thickness }],
      },
      lost: {
        name: "Of another time",
        changes: [{ id: "c2", op: "set", path: ["assemblies", "wall_brick", "layers", "gone", "thickness"], value: 0.1, old: 0.2 }],
      },
    },
  } as Project;
  it("begin with what an option is", () => {
    expect(rendered(<Options />).text).toContain("An option is a list of changes over the base");
  });
  it("show what differs going in and coming out, with the difference from the base", () => {
    show(thick);
    const base = runToEnd(clinic, weather, { stepsPerHour: 1, summaryOnly: true }).summary;
    const better = runToEnd(variantsOf(thick)[1].project, weather, { stepsPerHour: 1, summaryOnly: true }).summary;
    years.of.set("base", base);
    years.of.set("thick", better);
    const shown = rendered(<Options />);
    const site = shown.table("Results that differ").find((r) => r[0].startsWith("Site energy")) as string[];
    expect(site[0]).toBe("Site energy kWh/m²a");
    expect(number(site[1])).toBeCloseTo(base.energy.intensity as number, 1);
    const [step, now] = site[2].split(" ");
    expect(number(now)).toBeCloseTo(better.energy.intensity as number, 1);
    expect(number(step)).toBeLessThan(0);
    expect(number(step)).toBeCloseTo((better.energy.intensity as number) - (base.energy.intensity as number), 1);
    const inputs = shown.table("Inputs that differ");
    expect(inputs.some((r) => r[2] === "250\u00a0mm")).toBe(true);
    // one without a year yet shows a dash, not a zero
    expect(site[3]).toContain("—");
  });
  it("name a change that no longer fits", () => {
    const variants = variantsOf(thick);
    expect(variants.map((v) => v.name)).toEqual(["Base", "Thick walls", "Of another time"]);
    expect(variants[1].stale).toEqual([]);
    expect(variants[2].stale).toHaveLength(1);
  });
});
