import { describe, expect, it } from "vitest";
import known from "./closedForms.json" with { type: "json" };
import { mixedTank, twoNodeTank, type TankStep } from "./tank.ts";

const RHO_C = 4186 * 1000;
const tank = known["tank cooling"];
const cooling: TankStep = { capacity: tank.volume * RHO_C, loss: tank.ua, heat: 0, draw: 0, inlet: 10, ambient: tank.ambient, dt: 3600 };

describe("a store of one temperature", () => {
  it("cools as the closed form says, in one step or in many", () => {
    tank.hours.forEach((h, i) => {
      expect(mixedTank(tank.start, { ...cooling, dt: 3600 * h }).end).toBeCloseTo(tank.t[i], 2);
      let t = tank.start;
      for (let k = 0; k < 4 * h; k++) t = mixedTank(t, { ...cooling, dt: 900 }).end;
      expect(t).toBeCloseTo(mixedTank(tank.start, { ...cooling, dt: 3600 * h }).end, 9);
    });
  });
  it("keeps its books: what is put in is stored, lost or drawn", () => {
    let t = 40;
    let balance = 0;
    let moved = 0;
    for (let k = 0; k < 35040; k++) {
      const step = { ...cooling, heat: k % 96 < 20 ? 4000 : 0, draw: k % 96 > 28 && k % 96 < 36 ? 180 : 0, dt: 900 };
      const r = mixedTank(t, step);
      balance += step.heat * 900 - r.lost - r.drawn - step.capacity * (r.end - t);
      moved += step.heat * 900 + Math.abs(r.lost) + Math.abs(r.drawn);
      t = r.end;
    }
    expect(Math.abs(balance) / moved).toBeLessThan(1e-9);
    expect(t).toBeGreaterThan(10);
  });
  it("ends where heat and losses are equal, and rises evenly where nothing leaves it", () => {
    expect(mixedTank(15, { ...cooling, heat: 100, dt: 1e9 }).end).toBeCloseTo(tank.ambient + 100 / tank.ua, 6);
    expect(mixedTank(15, { ...cooling, loss: 0, heat: 1000, dt: 3600 }).end).toBeCloseTo(15 + 3.6e6 / cooling.capacity, 9);
  });
});

describe("a store of two temperatures", () => {
  const part = { capacity: 0.15 * RHO_C, loss: 1.2, heat: 0 };
  const base = { upper: part, lower: part, between: 2, draw: 0, inlet: 10, ambient: 20, dt: 900 };
  it("keeps its books over a day of heating at the top and draws", () => {
    let [u, l, balance, moved] = [50, 30, 0, 0];
    for (let k = 0; k < 96; k++) {
      const s = { ...base, upper: { ...part, heat: k < 30 ? 3000 : 0 }, draw: k > 40 && k < 60 ? 150 : 0 };
      const r = twoNodeTank(u, l, s);
      balance += s.upper.heat * 900 - r.lost - r.drawn - part.capacity * (r.upper - u + r.lower - l);
      moved += s.upper.heat * 900 + Math.abs(r.lost) + Math.abs(r.drawn);
      expect(r.upper).toBeGreaterThanOrEqual(r.lower - 1e-9);
      [u, l] = [r.upper, r.lower];
    }
    expect(Math.abs(balance) / moved).toBeLessThan(1e-9);
  });
  it("stays warm at the top while cold water comes in below, longer than a mixed one", () => {
    let [u, l, mixed] = [55, 55, 55];
    for (let k = 0; k < 6; k++) {
      const r = twoNodeTank(u, l, { ...base, draw: 120 });
      [u, l] = [r.upper, r.lower];
      mixed = mixedTank(mixed, { capacity: 2 * part.capacity, loss: 2.4, heat: 0, draw: 120, inlet: 10, ambient: 20, dt: 900 }).end;
    }
    expect(u).toBeGreaterThan(mixed + 3);
    expect(l).toBeLessThan(mixed);
  });
  it("mixes when it is heated from below", () => {
    const r = twoNodeTank(30, 30, { ...base, lower: { ...part, heat: 5000 } });
    expect(r.upper).toBe(r.lower);
    expect(r.upper).toBeGreaterThan(30);
  });
});
