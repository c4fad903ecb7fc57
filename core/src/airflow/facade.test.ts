import { describe, expect, it } from "vitest";
import { blockCoefficient, blockMisfit, readFacadeCsv, tableCoefficient, wallCoefficient, writeFacadeCsv, type FacadeTable } from "./index.ts";

describe("pressure coefficients of a block", () => {
  it("of a square are those the simple leakage uses, and alike from both sides", () => {
    for (const a of [0, 20, 60, 95, 140, 180]) {
      expect(blockCoefficient(a, 1)).toBeCloseTo(wallCoefficient(a), 12);
      expect(blockCoefficient(-a, 2.5)).toBeCloseTo(blockCoefficient(a, 2.5), 12);
    }
  });
  it("press head on and draw at the sides and behind, whatever the plan", () => {
    for (const ratio of [0.3, 1, 3]) {
      expect(blockCoefficient(0, ratio)).toBeGreaterThan(0.55);
      expect(blockCoefficient(90, ratio)).toBeLessThan(-0.2);
      expect(blockCoefficient(180, ratio)).toBeLessThan(0);
    }
  });
});

describe("a table of façade points", () => {
  const table: FacadeTable = {
    reference: 8,
    directions: [0, 45, 90, 135, 180, 225, 270, 315],
    points: [{ name: "South, low", coefficients: [-0.3, -0.4, -0.5, 0.2, 0.6, 0.2, -0.5, -0.4] }],
  };
  it("is read as it was written, and between its directions along a line, over north too", () => {
    const back = readFacadeCsv(writeFacadeCsv(table));
    expect(back).toEqual({ ok: true, table: { ...table, points: [{ ...table.points[0], name: "South  low" }] } });
    expect(tableCoefficient(table, 0, 180)).toBe(0.6);
    expect(tableCoefficient(table, 0, 157.5)).toBeCloseTo(0.4, 12);
    expect(tableCoefficient(table, 0, 337.5)).toBeCloseTo(-0.35, 12);
    expect(tableCoefficient(table, 0, -22.5)).toBeCloseTo(-0.35, 12);
    expect(
      tableCoefficient({ ...table, directions: [30, 90, 150, 210, 270, 330], points: [{ name: "", coefficients: [0, 1, 2, 3, 4, 5] }] }, 0, 0),
    ).toBeCloseTo(2.5, 12);
  });
  it("that lacks a direction, a figure or a name is refused with its line", () => {
    const messages = (text: string): string[] => {
      const r = readFacadeCsv(text);
      return r.ok ? [] : r.problems.map((p) => `${p.line}: ${p.message}`);
    };
    expect(messages("point,0,90,180,270\na,1,0,0,0\n")[0]).toMatch(/^1: Coefficients are missing between 270° and 0°/);
    const head = "point,0,60,120,180,240,300\n";
    expect(messages(`${head}a,0.1,0.2,,0,0,0\n`)).toEqual(['2: "a" has no coefficient for 120°.']);
    expect(messages(`${head}a,0.1,0.2,-40,0,0,0\n`)[0]).toMatch(/-40 at 120° is no pressure coefficient/);
    expect(messages("")).toEqual(["1: The table is empty: it begins with the directions of the wind."]);
    expect(messages("point,0,60,30,180,240,300\nx,0,0,0,0,0,0\n").some((m) => m.includes("The directions rise"))).toBe(true);
  });
});

describe("a footprint", () => {
  it("that is a rectangle, turned or not, fits the formula; an L does not", () => {
    const turned = [
      [0, 0],
      [8, 6],
      [5, 10],
      [-3, 4],
    ] as const;
    expect(blockMisfit(turned)).toBeCloseTo(0, 9);
    const bent = [
      [0, 0],
      [10, 0],
      [10, 5],
      [5, 5],
      [5, 10],
      [0, 10],
    ] as const;
    expect(blockMisfit(bent)).toBeCloseTo(0.25, 9);
  });
});
