import { beforeEach, describe, expect, it } from "vitest";
import { applyChanges, drawOf, effective, modelledArea, parseProject, spaceFieldNames, spaceUses, type Project } from "@arroyo/core";
import { cellChanges, plainCell, shownCell, type Column, type Row } from "../../ui/sheet.ts";
import { rendered } from "../../ui/rendered.ts";
import { unitsIn } from "../../ui/units.ts";
import { demo, show } from "../shown.ts";
import { BuildingDesk } from "./BuildingDesk.tsx";
import { DaylightDesk } from "./DaylightDesk.tsx";
import { DeviceDesk } from "./DeviceDesk.tsx";
import { HotWaterDesk } from "./HotWaterDesk.tsx";
import { inputSheet, inputSheets } from "./inputSheet.ts";
import { registerSheet } from "./registerSheet.ts";
import { RuleDesk } from "./RuleDesk.tsx";
import { SetpointLine } from "./SetpointLine.tsx";
import { copyUse, newUse, thingOf, useParts } from "./useDesk.ts";

const clinic = demo("clinic");
const SI = unitsIn("SI");
const IP = unitsIn("IP");
const changed = (change: (p: Project) => void): Project => {
  const p = JSON.parse(JSON.stringify(clinic)) as Project;
  change(p);
  const parsed = parseProject(p);
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return parsed.project;
};
beforeEach(() => show(clinic));

describe("things of the Use desk", () => {
  it.each(useParts)("are made and copied whole: %s", (part) => {
    const made = newUse(clinic, part);
    const first = applyChanges(clinic, [made.change]);
    if (!first.ok) throw new Error(first.message);
    const copy = copyUse(first.project, part, made.id);
    const second = applyChanges(first.project, [copy.change]);
    if (!second.ok) throw new Error(second.message);
    expect(parseProject(second.project).ok).toBe(true);
    const names = [made.id, copy.id].map((id) => thingOf(second.project, part, id)?.name);
    expect(new Set(names).size).toBe(2);
  });
});

describe("the sheet of all inputs", () => {
  const at = (p: Project, name = "All inputs", units = SI) => inputSheet(p, name, units);
  const column = (key: string, p = clinic, units = SI): Column => at(p, "All inputs", units).columns.find((c) => c.key === key) as Column;
  const [row] = at(clinic).rows as [Row];
  const typed = (key: string, text: string, units = SI): Project | string => {
    const made = cellChanges([{ row, column: column(key, clinic, units), text }]);
    if (typeof made === "string") return made;
    const applied = applyChanges(clinic, made);
    return applied.ok ? applied.project : applied.message;
  };
  it("has a row for every space and a column for every input, each with its origin", () => {
    const sheet = at(clinic);
    expect(sheet.rows).toHaveLength(Object.keys(clinic.spaces).length);
    for (const f of spaceFieldNames) {
      const c = sheet.columns.find((x) => x.key === f);
      expect(c?.origin?.(row)?.mark, f).toMatch(/[●↑○ƒ§⌁]/);
    }
    expect(inputSheets.length).toBeGreaterThan(8);
    for (const name of inputSheets) expect(at(clinic, name).columns.length).toBeGreaterThan(5);
  });
  it("takes a value in any unit of its dimension, in either system, and the words of what is none", () => {
    const heat = typed("heatingSetpoint", "68 °F") as Project;
    expect(heat.spaces[row.id].inputs.heatingSetpoint).toBeCloseTo(20, 9);
    expect((typed("heatingSetpoint", "68", IP) as Project).spaces[row.id].inputs.heatingSetpoint).toBeCloseTo(20, 9);
    expect((typed("outdoorAirPerPerson", "10 cfm/person") as Project).spaces[row.id].inputs.outdoorAirPerPerson).toBeCloseTo(0.00472, 5);
    expect((typed("coolingSetpoint", "not cooled") as Project).spaces[row.id].inputs.coolingSetpoint).toBeNull();
    expect((typed("peopleGiven", "Count") as Project).spaces[row.id].inputs.peopleGiven).toBe("count");
    expect(typed("heatingSetpoint", "3 m")).toContain("a temperature is needed here");
    expect(typed("peopleSchedule", "Nobody")).toContain("no schedule");
    expect(typed("area", "12")).toContain("cannot be typed");
  });
  it("takes a typed value back when it is blank or cleared, and shows what is inherited again", () => {
    const p = typed("heatingSetpoint", "17") as Project;
    const c = column("heatingSetpoint", p);
    expect(c.origin?.(row)?.mark).toBe("●");
    expect(shownCell(c, row)).toBe("17.00");
    const back = applyChanges(p, (c.clear as NonNullable<Column["clear"]>)(row));
    expect(back.ok && back.project.spaces[row.id].inputs.heatingSetpoint).toBeUndefined();
    expect(cellChanges([{ row, column: c, text: "" }])).toHaveLength(1);
    // what is not typed cannot be taken back
    expect((column("heatingSetpoint").clear as NonNullable<Column["clear"]>)(row)).toEqual([]);
  });
});

describe("the register", () => {
  it("lists every typed value, takes a source and gives it up again", () => {
    const sheet = registerSheet(clinic, "Typed values", SI);
    const typedInputs = Object.values(clinic.spaceTypes).reduce((n, t) => n + Object.keys(t.inputs).length, 0);
    expect(sheet.rows.length).toBeGreaterThan(typedInputs);
    const row = sheet.rows.find((r) => r.id.endsWith("inputs/lightingPower")) as Row;
    const source = sheet.columns.find((c) => c.key === "source") as Column;
    const made = cellChanges([{ row, column: source, text: "lighting plan" }]);
    const p = typeof made === "string" ? null : applyChanges(clinic, made);
    if (!p?.ok) throw new Error("the source is not taken");
    expect(p.project.evidence[row.id]).toEqual({ source: "lighting plan" });
    const after = registerSheet(p.project, "Typed values", SI).columns.find((c) => c.key === "source") as Column;
    expect(plainCell(after, row)).toBe("lighting plan");
    const gone = applyChanges(p.project, (after.clear as NonNullable<Column["clear"]>)(row));
    expect(gone.ok && Object.hasOwn(gone.project.evidence, row.id)).toBe(false);
    const confidence = sheet.columns.find((c) => c.key === "confidence") as Column;
    expect(cellChanges([{ row, column: confidence, text: "sure" }])).toContain("none of measured");
  });
  it("lists the defaults left with how many spaces run on them", () => {
    const sheet = registerSheet(clinic, "Defaults left", SI);
    const row = sheet.rows.find((r) => r.id === "space peopleSensible") as Row;
    const count = Object.keys(clinic.spaces).filter((id) => effective(clinic, "space", id, "peopleSensible").origin.kind === "default").length;
    expect(sheet.columns.find((c) => c.key === "count")?.value(row)).toBe(count);
    // an input for another way of giving people is not asked for
    expect(sheet.rows.some((r) => r.id === "space peopleCount")).toBe(false);
  });
});

describe("the desks", () => {
  it("a rule shows what it would give each space, and what is wrong with it", () => {
    const rule = {
      id: "r",
      name: "Air",
      on: false,
      target: "space" as const,
      field: "outdoorAirPerSpace",
      conditions: [],
      value: "3 L/s * people + 0.35 L/s/m² * area",
    };
    const p = changed((q) => q.rules.push(rule));
    show(p);
    const desk = rendered(<RuleDesk id="r" />);
    const rows = desk.table("What the rule gives");
    expect(rows).toHaveLength(Object.keys(p.spaces).length + 1);
    const [id] = Object.keys(p.spaces);
    const use = spaceUses(p).get(id);
    expect(parseFloat(rows[1][2])).toBeCloseTo(3 * (use?.people ?? 0) + 0.35 * (use?.area ?? 0), 1);
    show(changed((q) => q.rules.push({ ...rule, value: "3 L/s + area" })));
    expect(rendered(<RuleDesk id="r" />).text).toContain("do not go together");
  });
  it("hot water tells the share in per cent and in words, and the flow that adds up", () => {
    const p = changed(
      (q) =>
        (q.drawPoints.taps = {
          kind: "known",
          name: "Taps",
          schedule: null,
          space: null,
          sensible: 0.1,
          latent: 0,
          of: "volume",
          yearly: 400,
          area: Math.round(2 * modelledArea(clinic)),
          modelled: null,
        }),
    );
    show(p);
    const { text } = rendered(<HotWaterDesk id="taps" />);
    expect(text).toContain("half of the building");
    expect(text).toContain(`${drawOf(p, "taps").flow.toFixed(1)} L/h`);
    expect(text).toContain("90 %");
  });
  it("a device list sums its rows, the building its shares, daylight its areas", () => {
    const p = changed((q) => {
      q.deviceLists.list = {
        name: "List",
        devices: [{ id: "a", name: "Kettle", number: 2, power: 2000, standby: 0, running: 0.1, sensible: 0.6, latent: 0.4 }],
      };
      q.known.lighting = 10000;
      for (const t of Object.values(q.spaceTypes)) t.inputs.lightingGiven = "share of yearly energy";
    });
    show(p);
    expect(rendered(<DeviceDesk id="list" />).text.replace(/\s/g, " ")).toContain("Power in use 400 W");
    expect(rendered(<BuildingDesk />).text).toContain("✓ adds up");
    const rows = rendered(<DaylightDesk />).table("Where daylight reaches");
    expect(rows).toHaveLength(Object.keys(p.spaces).length + 1);
    // beside windows there is floor, and never more than the room has
    for (const r of rows.slice(1)) expect(Number(r[2]) + Number(r[3]) + Number(r[4])).toBeLessThanOrEqual(Number(r[1]) + 0.1);
    expect(rows.slice(1).some((r) => Number(r[2]) > 3)).toBe(true);
  });
  it("the line of set-points says when heating, windows and cooling would fight", () => {
    const line = (values: Record<string, number | null>): string => rendered(<SetpointLine read={(f) => values[f] ?? null} />).text;
    expect(line({ heatingSetpoint: 20, coolingSetpoint: 26, windowOpenAbove: 23 })).not.toMatch(/while|stay closed|same time/);
    expect(line({ heatingSetpoint: 22, coolingSetpoint: 26, windowOpenAbove: 20 })).toContain("open while the space is still heated");
    expect(line({ heatingSetpoint: 20, coolingSetpoint: 24, windowOpenAbove: 25 })).toContain("stay closed");
    expect(line({ heatingSetpoint: 24, coolingSetpoint: 22 })).toContain("at the same time");
    expect(line({ heatingSetpoint: null, coolingSetpoint: null })).toMatch(/Not heated.*Not cooled/);
  });
});
