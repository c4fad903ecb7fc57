import { describe, expect, it } from "vitest";
import { convert, spaceFieldNames, spaceFields, turningUnits, zoneFieldNames, zoneFields, dimensionOf, type FieldSpec } from "@arroyo/core";
import { fieldWords, unitsIn } from "./units.ts";

const [si, ip] = [unitsIn("SI"), unitsIn("IP")];

describe("figures in the units in view", () => {
  it("stay as they are in SI and turn in IP, with as many digits as they had", () => {
    expect(si.words(0.232, "W/m²K", 3)).toBe("0.232 W/m²K");
    expect(ip.words(0.232, "W/m²K", 3)).toBe("0.0409 Btu/h·ft²·°F");
    expect(ip.words(102, "mm", 0)).toBe("4.0 in");
    expect(ip.words(20, "°C", 1)).toBe("68.0 °F");
    expect(ip.words(87.4, "kWh/m²a", 1)).toBe("27.7 kBtu/ft²·yr");
    expect(ip.text(null, "m")).toBe("—");
  });
  it("turn differences without the zero of a scale", () => {
    expect(ip.difference(5, "°C", 1)).toBe("+9.0");
    expect(ip.difference(-1, "K", 1)).toBe("−1.8");
    expect(si.difference(0.001, "W/m²K", 2)).toBe("±0");
  });
  it("keep electric power in watts in both", () => {
    expect(ip.words(10, "W/m²", 2, true)).toBe("0.929 W/ft²");
    expect(ip.words(10, "W/m²", 1)).toBe("3.2 Btu/h·ft²");
  });
  it("have a unit for every field of spaces and zones, of the field's own dimension", () => {
    const specs: FieldSpec[] = [...spaceFieldNames.map((f) => spaceFields[f] as FieldSpec), ...zoneFieldNames.map((f) => zoneFields[f] as FieldSpec)];
    for (const spec of specs.filter((s) => s.kind === "number")) {
      expect(dimensionOf(spec.unit), spec.label).not.toBeNull();
      // the registry's own factor and the table of units say the same
      if (spec.display) expect(convert(1, spec.unit, spec.display.unit), spec.label).toBeCloseTo(spec.display.factor, 9);
      expect(fieldWords(ip, spec, 1), spec.label).toMatch(/\d/);
    }
  });
  it("go there and back for every unit that turns", () => {
    for (const u of turningUnits) for (const v of [0.123, 45.6, -7]) expect(convert(ip.value(v, u), ip.unit(u), u)).toBeCloseTo(v, 9);
  });
});
