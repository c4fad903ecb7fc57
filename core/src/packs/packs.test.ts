import { describe, expect, it } from "vitest";
import type { Pack } from "../model/index.ts";
import { packs, parsePack, plateauPack } from "./index.ts";

const copy = (p: Pack): Pack => JSON.parse(JSON.stringify(p)) as Pack;
/** The first problem of the Plateau code with one thing changed. */
const broken = (change: (p: Pack) => void) => {
  const own = copy(plateauPack);
  change(own);
  const outcome = parsePack(own);
  if (outcome.ok) throw new Error("accepted");
  return outcome.problems[0];
};

describe.each(Object.values(packs))("the pack $id", (pack) => {
  it("is whole and sound as data", () => {
    const outcome = parsePack(copy(pack));
    expect(outcome.ok ? [] : outcome.problems).toEqual([]);
  });
  it("names no clause that says nothing, and marks what is from memory unless it is invented", () => {
    for (const text of Object.values(pack.clauses)) expect(text.length).toBeGreaterThan(10);
    const invented = pack.jurisdiction.includes("invented") || pack.id === "label_52000";
    for (const zone of Object.values(pack.climateZones))
      for (const limit of [...Object.values(zone.u), zone.glazingU, zone.glazingG]) expect(limit.unverified === true).toBe(!invented);
  });
  it("has a value for every hour, fuel and climate zone where it rates by the hour", () => {
    for (const h of pack.performance.hourly ?? []) for (const values of Object.values(h.byFuel)) for (const v of values) expect(v).toBeGreaterThan(0);
    const covered = new Set((pack.performance.hourly ?? []).flatMap((h) => h.zones));
    if (pack.performance.measure === "hourly value") expect([...covered].sort()).toEqual(Object.keys(pack.climateZones).sort());
  });
});

describe("a pack that is not sound is refused with its place", () => {
  it("an unknown clause, a limit of the wrong dimension, a missing part", () => {
    expect(broken((p) => (p.windowShare.clause = "9.9"))).toMatchObject({ path: "windowShare/clause", message: 'The clause "9.9" is not in this pack.' });
    expect(broken((p) => (p.climateZones["5"].u.roof.unit = "m²K/W"))).toMatchObject({
      path: "climateZones/5/u/roof/unit",
      message: 'This limit is in "m²K/W"; "W/m²K" is needed.',
    });
    expect(broken((p) => delete (p as { reference?: unknown }).reference).path).toBe("reference");
  });
  it("uses without the one for all others, steps that fall", () => {
    expect(broken((p) => p.uses.pop()).message).toContain("Exactly one use");
    expect(broken((p) => p.performance.rating.kind === "letters" && p.performance.rating.steps.reverse()).path).toBe("performance/rating/steps");
  });
  it("an expression with an unknown name, of the wrong dimension, that is no condition", () => {
    expect(broken((p) => (p.checks[0].limit = "most_air_change"))).toMatchObject({
      path: "checks/0/limit",
      message: expect.stringContaining('"most_air_change"'),
    });
    expect(broken((p) => (p.checks[0].limit = "u_wall")).message).toMatch(/^The expression gives .*needed/);
    expect(broken((p) => (p.reference.systems[0].when = "area * 2"))).toMatchObject({
      path: "reference/systems/0/when",
      message: expect.stringContaining("a condition is needed"),
    });
    expect(broken((p) => (p.reference.systems[0].when = "area > 3 K")).message).toContain("one kind");
    expect(broken((p) => (p.checks[3].quantity = "thickness"))).toMatchObject({
      path: "checks/3/quantity",
      message: expect.stringContaining("it has u, area"),
    });
  });
  it("formulas that need each other, a value without a climate zone, a setting no component has", () => {
    const circular = broken((p) => {
      p.values.one = { label: "one", unit: "1", clause: "5.2", formula: "two + 1" };
      p.values.two = { label: "two", unit: "1", clause: "5.2", formula: "one / 2" };
    });
    expect(circular).toMatchObject({ path: "values/one/formula", message: "The formula needs itself: one → two → one." });
    expect(broken((p) => delete p.values.least_heat_pump_cop.byZone?.["4"]).message).toBe("The climate zone 4 has no value.");
    expect(broken((p) => (p.reference.systems[1].set[0].field = "shine"))).toMatchObject({
      path: "reference/systems/1/set/0/field",
      message: 'A heatingCoil has no "shine".',
    });
    expect(broken((p) => (p.reference.systems[1].set[5].value = "sometimes")).message).toContain("is one of none, fixed dry bulb");
    expect(broken((p) => p.reference.systems.pop()).message).toContain("must have no condition");
  });
});
