import { describe, expect, it } from "vitest";
import { cellTemperature, currentAt, diodeAt, fitModule, maximumPower, openVoltage, type DiodeModel, type ModuleSheet } from "./pvModule.ts";

/** Invented sheets of the usual kinds: 60 crystalline cells, 120 half cells in two halves, 96 cells of high voltage. */
const sheets: [string, ModuleSheet][] = [
  ["sixty cells", { cells: 60, voc: 38.4, isc: 9.1, vmp: 31.2, imp: 8.65, alpha: 0.0046, beta: -0.119 }],
  ["half cells", { cells: 60, voc: 41.2, isc: 11.4, vmp: 34.6, imp: 10.85, alpha: 0.0051, beta: -0.111 }],
  ["high voltage", { cells: 96, voc: 68.2, isc: 6.39, vmp: 57.3, imp: 6.02, alpha: 0.0031, beta: -0.176 }],
];
const modelOf = (s: ModuleSheet): DiodeModel => {
  const fit = fitModule(s);
  if (!fit.ok) throw new Error(fit.message);
  return fit.model;
};

describe.each(sheets)("a module of %s", (_, sheet) => {
  const model = modelOf(sheet);
  const reference = diodeAt(model, 1000, 25);
  it("meets its sheet at short circuit, open circuit and most power", () => {
    expect(currentAt(reference, 0)).toBeCloseTo(sheet.isc, 6);
    expect(openVoltage(reference)).toBeCloseTo(sheet.voc, 6);
    const most = maximumPower(reference);
    expect(most.voltage / sheet.vmp).toBeCloseTo(1, 4);
    expect(most.current / sheet.imp).toBeCloseTo(1, 4);
    expect(model.series).toBeGreaterThan(0);
    expect(model.shunt).toBeGreaterThanOrEqual(-1e-9);
  });
  it("meets its coefficients: current and voltage at 45 °C", () => {
    const warm = diodeAt(model, 1000, 45);
    expect(openVoltage(warm)).toBeCloseTo(sheet.voc + 20 * sheet.beta, 1);
    expect(currentAt(warm, 0)).toBeCloseTo(sheet.isc + 20 * sheet.alpha, 3);
    // crystalline silicon loses 0.3 to 0.5 % of its power a kelvin
    const loss = (1 - maximumPower(warm).power / maximumPower(reference).power) / 20;
    expect(loss).toBeGreaterThan(0.0025);
    expect(loss).toBeLessThan(0.0055);
  });
  it("gives less than in proportion in little sun, more where it is cold, and nothing in the dark", () => {
    const power = (sun: number, cell: number): number => maximumPower(diodeAt(model, sun, cell)).power;
    const full = power(1000, 25);
    expect(power(200, 25)).toBeLessThan(0.2 * full);
    expect(power(200, 25)).toBeGreaterThan(0.17 * full);
    expect(power(1000, 0)).toBeGreaterThan(full);
    expect(power(0, 25)).toBe(0);
    for (let sun = 50; sun < 1000; sun += 50) expect(power(sun + 50, 25)).toBeGreaterThan(power(sun, 25));
  });
});

describe("a sheet that cannot be", () => {
  const [, good] = sheets[0];
  it.each<[string, Partial<ModuleSheet>, string]>([
    ["a voltage at most power above the open circuit", { vmp: 40 }, "is not below V_oc"],
    ["a current at most power above the short circuit", { imp: 9.5 }, "is not below I_sc"],
    ["a voltage that rises with temperature", { beta: 0.1 }, "falls with temperature"],
    ["a corner that is too square", { vmp: 37.4, imp: 8.99 }, "is possible"],
    ["a coefficient no diode has", { beta: -0.5 }, "the nearest has"],
  ])("is refused: %s", (_, more, words) => {
    const fit = fitModule({ ...good, ...more });
    expect(fit.ok).toBe(false);
    if (!fit.ok) expect(fit.message).toContain(words);
  });
  it("has its nearest fit, which meets everything but the coefficient", () => {
    const fit = fitModule({ ...good, beta: -0.5 });
    const near = fit.ok ? null : fit.nearest;
    if (!near) throw new Error("no nearest fit");
    expect(openVoltage(diodeAt(near, 1000, 25))).toBeCloseTo(good.voc, 6);
    expect(maximumPower(diodeAt(near, 1000, 25)).power).toBeCloseTo(good.vmp * good.imp, 2);
  });
});

describe("the temperature of cells", () => {
  it("is the nominal one at its conditions, without load and at 1 m/s; the air's in the dark; lower in wind and under load", () => {
    expect(cellTemperature(20, 800, 1, 45, 0)).toBeCloseTo(45, 9);
    expect(cellTemperature(12, 0, 3, 45, 0.2)).toBe(12);
    expect(cellTemperature(20, 800, 5, 45, 0)).toBeLessThan(35);
    expect(cellTemperature(20, 800, 1, 45, 0.2)).toBeLessThan(45);
  });
});
