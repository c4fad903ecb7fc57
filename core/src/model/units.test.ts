import { describe, expect, it } from "vitest";
import { randomStream } from "../numeric/index.ts";
import { convert, dimensionOf, quantity, readQuantity, turnQuantities, shownUnit, STANDARD_AIR, turningUnits, unitNames, unitOfText } from "./index.ts";

const read = (text: string, stored: string, shown?: string): number => {
  const r = readQuantity(text, stored, shown);
  if (!r.ok) throw new Error(r.message);
  return r.value;
};
const refusal = (text: string, stored: string): string => {
  const r = readQuantity(text, stored);
  return r.ok ? `taken as ${r.value}` : r.message;
};

describe("a typed quantity", () => {
  it("is taken in any unit of its dimension", () => {
    expect(read("4 in", "m")).toBeCloseTo(0.1016, 15);
    expect(read('3 1/2"', "m")).toBeCloseTo(0.0889, 15);
    expect(read("12 ft 6 in", "m")).toBeCloseTo(3.81, 15);
    expect(read("12' 6 1/2\"", "m")).toBeCloseTo(12 * 0.3048 + 6.5 * 0.0254, 12);
    expect(read("350 cfm", "m³/s")).toBeCloseTo(350 * 0.0004719474432, 12);
    expect(read("68 °F", "°C")).toBeCloseTo(20, 12);
    expect(read("68 F", "°C")).toBeCloseTo(20, 12);
    expect(read("-40 °F", "°C")).toBeCloseTo(-40, 12);
    expect(read("18 °F", "K")).toBeCloseTo(10, 12);
    expect(read("30 %", "1")).toBeCloseTo(0.3, 15);
    expect(read("0.24 Btu/lb·°F", "J/kg·K")).toBeCloseTo(1004.8, 1);
    expect(read("1 W per L/s", "W per m³/s")).toBeCloseTo(1000, 9);
  });
  it("reads resistances and transmittances of North American data sheets", () => {
    // ASHRAE Fundamentals: R-1 = 0.1761 m²K/W, 1 Btu/h·ft²·°F = 5.678 W/m²K
    expect(read("R-19", "m²K/W")).toBeCloseTo(19 * 0.17611, 4);
    expect(read("r19", "m²K/W")).toBeCloseTo(19 * 0.17611, 4);
    expect(read("0.35 Btu/h·ft²·°F", "W/m²K")).toBeCloseTo(0.35 * 5.678263, 5);
    expect(read("0.35 Btu/(h ft2 F)", "W/m²K")).toBeCloseTo(0.35 * 5.678263, 5);
    // 1 Btu·in/h·ft²·°F = 0.1442 W/m·K
    expect(read("0.27 Btu·in/h·ft²·°F", "W/m·K")).toBeCloseTo(0.27 * 0.144228, 5);
  });
  it("without a unit is in the one its field shows, with separators as people type them", () => {
    expect(read("120", "m", "mm")).toBeCloseTo(0.12, 15);
    expect(read("1,234.5", "m")).toBe(1234.5);
    expect(read("0,25", "m")).toBe(0.25);
    expect(read("1\u202f200", "J/kg·K")).toBe(1200);
    expect(read("−5", "°C")).toBe(-5);
    expect(read("50 %", "1", "%")).toBeCloseTo(0.5, 15);
  });
  it("of mass flow is taken as volume flow with the density told", () => {
    const r = readQuantity("0.602 kg/s", "m³/s", "L/s", STANDARD_AIR);
    expect(r).toMatchObject({ ok: true, note: expect.stringContaining("1.204 kg/m³") as unknown });
    expect(r.ok && r.value).toBeCloseTo(0.5, 12);
    // where no fluid is known it is another quantity
    expect(refusal("0.6 kg/s", "m³/s")).toContain("a mass flow");
  });
  it("of another dimension, without a number or in no unit is refused in a sentence", () => {
    expect(refusal("R-19", "m")).toBe("“R-19” is a thermal resistance; a length is needed here, such as m.");
    expect(refusal("5 kg", "m²K/W")).toContain("a mass; a thermal resistance is needed");
    expect(refusal("4 foo", "m")).toContain("“foo” is no unit");
    expect(refusal("thick", "m")).toContain("not a number");
    expect(refusal("", "m")).toContain("Nothing was typed");
    expect(refusal("3/0 in", "m")).toContain("not a number");
    for (const odd of ["1/2/3", "- 4", "4 m m m m m", "e5", "R-", "∞", "0x10"]) expect(typeof refusal(odd, "m²K/W")).toBe("string");
  });
});

describe("units", () => {
  it("divide by all that follows the first slash, as they are written on data sheets", () => {
    expect(dimensionOf("W/m²K")).toEqual(dimensionOf("W/(m²·K)"));
    expect(dimensionOf("W/m·K")).toEqual(dimensionOf("W/(m K)"));
    expect(unitOfText("J/kg·K")?.factor).toBe(1);
    expect(unitOfText("nonsense")).toBeNull();
  });
  it("agree with published conversions", () => {
    const published: [number, string, string, number][] = [
      [1, "Btu", "kJ", 1.055056],
      [1, "therm", "MJ", 105.5056],
      [1, "ton", "kW", 3.516853],
      [1, "hp", "W", 745.6999],
      [1, "gal", "L", 3.785412],
      [1, "lb/ft³", "kg/m³", 16.01846],
      [1, "inH2O", "Pa", 249.0889],
      [1, "psi", "kPa", 6.894757],
      [1, "fc", "lx", 10.76391],
      [1, "mph", "m/s", 0.44704],
      [1, "kWh/m²a", "kBtu/ft²·yr", 0.3169983],
      [1, "gpm", "L/s", 0.0630902],
      [1, "W/cfm", "W per m³/s", 2118.88],
      [7000, "gr/lb", "g/kg", 1000],
    ];
    for (const [value, from, to, expected] of published) expect(convert(value, from, to) / expected, `${from} to ${to}`).toBeCloseTo(1, 5);
  });
  it("turn from SI to IP and back within 1e-12, for 10,000 random strings of any unit", () => {
    const { uniform: random } = randomStream(20261);
    const names = [...turningUnits, ...unitNames.filter((n) => !/["']/.test(n))];
    for (let k = 0; k < 10000; k++) {
      const name = names[Math.floor(random() * names.length)];
      const to = turningUnits.includes(name) ? shownUnit(name, "IP") : name;
      const value = Number((Math.exp((random() - 0.5) * 20) * (random() < 0.2 ? -1 : 1)).toPrecision(12));
      const si = read(`${value} ${name}`, name);
      const ip = convert(si, name, to);
      const back = read(`${ip} ${to}`, name);
      expect(Math.abs(back - value), `${value} ${name} by ${to}`).toBeLessThanOrEqual(1e-12 * Math.max(1, Math.abs(value), name === "°C" ? 500 : 0));
    }
  });
});

describe("a sentence with quantities", () => {
  it("reads the same in SI, and turns its figures but not the names in it", () => {
    const told = `"Wall 240 mm" has U ${quantity(0.5678, "W/m²K", 2)}; it is ${quantity(-12, "°C", 1)}, ${quantity(3, "L/s per person")}.`;
    expect(turnQuantities(told, "SI")).toBe(told);
    expect(told.replace(/\s/g, " ")).toBe('"Wall 240 mm" has U 0.57 W/m²K; it is -12.0 °C, 3 L/s per person.');
    // 0.57 × 0.17611, −12 × 1.8 + 32, 3 × 2.1189
    expect(turnQuantities(told, "IP").replace(/\s/g, " ")).toBe('"Wall 240 mm" has U 0.100 Btu/h·ft²·°F; it is 10.4 °F, 6 cfm/person.');
  });
  it("leaves electric power in W, per ft² where it is per m²", () => {
    expect(turnQuantities(quantity(10, "W/m²", 1, true), "IP").replace(/\s/g, " ")).toBe("0.93 W/ft²");
    expect(turnQuantities(quantity(10, "W/m²", 1), "IP").replace(/\s/g, " ")).toBe("3.2 Btu/h·ft²");
  });
  it("leaves what has no other unit in IP", () => {
    const told = `${quantity(40, "%")}, ${quantity(3, "°")} and ${quantity(2, "h")}`;
    expect(turnQuantities(told, "IP")).toBe(told);
  });
});
