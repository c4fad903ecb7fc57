import { describe, expect, it } from "vitest";
import { parseProject } from "../model/index.ts";
import { viewOf } from "../index.ts";
import { boxCaseProject, boxCases, boxResult, expectations, type BoxResult } from "./boxCases.ts";
import { closedRows, orderRows, refinementRows } from "./rows.ts";
import { boxProject } from "./box.ts";

const rows = [...closedRows(), ...orderRows()];

describe.each([...new Set(rows.map((r) => r.group))])("%s", (group) => {
  it.each(rows.filter((r) => r.group === group))("$name: $quantity is $expected ($source)", (r) => {
    expect(Math.abs(r.found - r.expected)).toBeLessThanOrEqual(r.within);
  });
});

describe("refinement", () => {
  it.each(refinementRows(boxProject({ name: "heavy box", weight: "heavy", glass: 0.5 })))("$name moves $quantity by less than 1 %", (r) => {
    expect(Math.abs(r.found / r.expected - 1)).toBeLessThan(0.01);
  });
});

describe("the test box in a cold, clear climate, hourly", () => {
  const results = new Map<string, BoxResult>();
  const result = (id: string): BoxResult => {
    const known = results.get(id);
    if (known) return known;
    const c = boxCases.find((b) => b.id === id);
    if (!c) throw new Error(`there is no case ${id}`);
    const found = boxResult(c, "cold clear high", 1);
    results.set(id, found);
    return found;
  };
  it.each(expectations.filter((e) => !e.only || e.only.includes("cold clear high")))("$why", (e) => {
    const more = result(e.more[0]);
    const less = result(e.less[0]);
    expect(more[e.more[1]]).toBeGreaterThan(less[e.less[1]]);
    expect(Math.max(more.closure, less.closure)).toBeLessThan(1e-9);
    expect(more.warnings + less.warnings).toBe(0);
  });
});

describe("every case as a project", () => {
  it.each(boxCases)("$id is a valid document whose options are the other climates", (c) => {
    const p = boxCaseProject(c);
    const parsed = parseProject(JSON.parse(JSON.stringify(p)));
    expect(parsed.ok ? [] : parsed.problems).toEqual([]);
    const { project, stale } = viewOf(p, "warm_humid");
    expect(stale).toEqual([]);
    expect(project.site.latitude).toBe(26);
    expect(Object.keys(p.options)).toHaveLength(2);
  });
});
