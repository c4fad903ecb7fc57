import { describe, expect, it } from "vitest";
import { dayKinds } from "../use/index.ts";
import { scheduleOfPoint } from "./index.ts";

describe("a schedule of a point", () => {
  const calendar = { firstWeekday: 0, holidays: [{ id: "h", name: "H", month: 7, day: 4 }], daylightSaving: null };
  const kinds = dayKinds(calendar);
  it("has the mean of its working days, of its weekends and of its holidays, as shares of its most", () => {
    const values = Float64Array.from({ length: 8760 }, (_, h) => {
      const k = kinds[Math.floor(h / 24)];
      const open = h % 24 >= 8 && h % 24 < 18;
      return h % 501 === 7 ? NaN : k === 7 ? 1 : k < 5 && open ? 20 : 4;
    });
    const s = scheduleOfPoint("Sockets", values, "kW", kinds);
    expect(s?.kind).toBe("fraction");
    expect([s?.profiles.working.values[12], s?.profiles.working.values[3], s?.profiles.saturday.values[12], s?.profiles.holiday.values[12]]).toEqual([
      1, 0.2, 0.2, 0.05,
    ]);
    expect(s?.weeks[0].days[5]).toBe("saturday");
  });
  it("of a temperature stays in °C, and of nothing there is none", () => {
    const s = scheduleOfPoint("Set-point", new Float64Array(8760).fill(68), "°F", kinds);
    expect([s?.kind, s?.profiles.sunday.values[0]]).toEqual(["temperature", 20]);
    expect(scheduleOfPoint("None", new Float64Array(8760).fill(NaN), "kW", kinds)).toBeNull();
  });
});
