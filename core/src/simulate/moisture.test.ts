import { describe, expect, it } from "vitest";
import { LATENT_HEAT } from "../airflow/index.ts";
import { relativeHumidity } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { runToEnd, type Summary } from "../results/index.ts";
import { boxProject, steadyWeather, type BoxOptions } from "../verification/box.ts";
import { compile, WATER, WATERS, YearKernel } from "./index.ts";

/** A box with changes to its type's inputs. */
function box(o: BoxOptions, inputs: Record<string, unknown>, edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject(o))) as Project;
  Object.assign(p.spaceTypes.box.inputs, inputs);
  edit(p);
  return p;
}

/** A kernel after days of one weather. */
function settled(p: Project, outside: number, humidity: number, days: number, steps = 4): YearKernel {
  const w = { ...steadyWeather(outside), relativeHumidity: new Float64Array(8760).fill(humidity) };
  const k = new YearKernel(compile(p, w, steps), w);
  k.start(outside, 24, 0.009);
  for (let h = 0; h < 24 * days; h++) for (let s = 0; s < steps; s++) k.step(h, s);
  return k;
}

describe("drying where air passes between zones", () => {
  // 20 people of 72 W of vapour each in one room, which is held at 40 %; the other is sealed but for the door between
  const neighbour = (steps: number) => {
    const p = box({ heating: 24, cooling: 24, gains: 0, infiltration: 0, second: { heating: 24, cooling: 24 } }, { dehumidifySetpoint: null }, (q) => {
      Object.assign(q.spaces.a.inputs, { dehumidifySetpoint: 40 });
      Object.assign(q.spaces.b.inputs, { peopleGiven: "count", peopleCount: 20, peopleLatent: 72, peopleSensible: 0 });
      q.airExchanges.x = { name: "door", zones: ["a", "b"], flow: 0.15, schedule: null };
    });
    return settled(p, 24, 50, 6, steps);
  };

  it.each([1, 4, 12])("takes out exactly what comes in, at %s steps an hour", (steps) => {
    const k = neighbour(steps);
    const [a, b] = ["a", "b"].map((id) => k.model.zoneIds.indexOf(id));
    expect(k.record.dehumidification[a]).toBeCloseTo(1440, 3);
    expect(k.record.dehumidification[b]).toBe(0);
    expect(relativeHumidity(k.record.airTemperature[a], k.record.humidityRatio[a], k.state.boundary.pressure)).toBeCloseTo(0.4, 6);
    // the sealed room stands above by what the door carries
    const carried = k.state.passNow[0] * (k.record.humidityRatio[b] - k.record.humidityRatio[a]) * LATENT_HEAT;
    expect(carried).toBeCloseTo(1440, 3);
    expect(k.books.waterResidual[a] / k.books.waterGross[a]).toBeLessThan(1e-12);
    expect(k.books.waterResidual[b] / k.books.waterGross[b]).toBeLessThan(1e-12);
  });

  it("keeps the capacity that sensible cooling leaves, and the humidity rises instead", () => {
    const p = box(
      { heating: 24, cooling: 24, gains: 500, infiltration: 0 },
      { dehumidifySetpoint: 50, peopleGiven: "count", peopleCount: 20, peopleLatent: 72, peopleSensible: 0 },
      (q) => {
        q.zones.a.inputs.coolingCapacity = 1200;
      },
    );
    const k = settled(p, 24, 50, 3);
    const { cooling, dehumidification, humidityRatio, airTemperature } = k.record;
    expect(cooling[0]).toBeGreaterThan(300);
    expect(cooling[0] + dehumidification[0]).toBeCloseTo(1200, 6);
    expect(relativeHumidity(airTemperature[0], humidityRatio[0], k.state.boundary.pressure)).toBeGreaterThan(0.5);
  });

  it("acts only where the zone may be cooled", () => {
    const people = { dehumidifySetpoint: 50, peopleGiven: "count", peopleCount: 5, peopleLatent: 72, peopleSensible: 0 };
    expect(settled(box({ cooling: null }, people), 24, 50, 3).record.dehumidification[0]).toBe(0);
    expect(settled(box({ cooling: 27 }, people), 24, 50, 3).record.dehumidification[0]).toBeGreaterThan(0);
  });
});

describe("a cooling coil", () => {
  const load = { gains: 3000, infiltration: 0.5, heating: null, cooling: 24 };
  const humid = (coil: number | null) => settled(box(load, { coilTemperature: coil }), 30, 70, 4);

  it("dries along the line from the room's state to its apparatus dew point", () => {
    const k = humid(12);
    const { cooling, dehumidification, airTemperature, humidityRatio } = k.record;
    // saturated air of 12 °C at the test's pressure, from psychrometric tables: 8.7 to 8.8 g/kg
    const apparatus = 0.00875;
    const ratio = (dehumidification[0] / cooling[0]) * (1006 / LATENT_HEAT);
    expect(ratio).toBeCloseTo((humidityRatio[0] - apparatus) / (airTemperature[0] - 12), 4);
    expect(dehumidification[0]).toBeGreaterThan(0.1 * cooling[0]);
  });
  it("takes nothing out where it is colder than the dew point of no air, and leaves the room damper when it only cools", () => {
    const [dry, sensible] = [humid(8), humid(null)];
    expect(sensible.record.dehumidification[0]).toBe(0);
    expect(dry.record.humidityRatio[0]).toBeLessThan(sensible.record.humidityRatio[0] - 0.001);
    // outdoor air of 4 g/kg is under the saturation of any coil
    expect(settled(box(load, { coilTemperature: 11 }), 30, 15, 4).record.dehumidification[0]).toBe(0);
  });
  it("shares its capacity between what it cools and what it dries", () => {
    const free = humid(10).record;
    const limited = settled(
      box(load, { coilTemperature: 10 }, (p) => (p.zones.a.inputs.coolingCapacity = 0.7 * (free.cooling[0] + free.dehumidification[0]))),
      30,
      70,
      4,
    ).record;
    expect(limited.cooling[0] + limited.dehumidification[0]).toBeCloseTo(0.7 * (free.cooling[0] + free.dehumidification[0]), 0);
    expect(limited.airTemperature[0]).toBeGreaterThan(25);
    expect(limited.dehumidification[0]).toBeGreaterThan(0.1 * limited.cooling[0]);
  });
});

describe("air that would stand above saturation", () => {
  const wet = (): YearKernel =>
    settled(
      box({ heating: 15, cooling: null, gains: 0, infiltration: 0.2 }, { peopleGiven: "count", peopleCount: 30, peopleLatent: 80, peopleSensible: 0 }),
      5,
      80,
      4,
    );

  it("loses the rest by condensation, and the water's books close", () => {
    const k = wet();
    const { pressure } = k.state.boundary;
    expect(relativeHumidity(k.record.airTemperature[0], k.record.humidityRatio[0], pressure)).toBeCloseTo(1, 9);
    const water = (name: keyof typeof WATER): number => k.record.water[WATER[name]] * 3600;
    expect(k.record.water).toHaveLength(WATERS);
    expect(water("people")).toBeCloseTo((30 * 80 * 3600) / LATENT_HEAT, 9);
    expect(-water("condensation")).toBeCloseTo(water("people") + water("infiltration"), 6);
    expect(k.books.waterResidual[0] / k.books.waterGross[0]).toBeLessThan(1e-12);
  });
  it("is told with its water in a year's warnings", () => {
    const w = steadyWeather(5);
    const p = box({ heating: 15, cooling: null, gains: 0, infiltration: 0.2 }, { peopleGiven: "count", peopleCount: 30, peopleLatent: 80, peopleSensible: 0 });
    const s: Summary = runToEnd(p, w, { stepsPerHour: 1, period: { firstDay: 0, days: 5 } }).summary;
    expect(s.zones[0].condensed).toBeGreaterThan(1);
    expect(s.warnings.join(" ")).toMatch(/would stand above saturation; .*kg.* of water condensed/);
    expect(s.waterClosure).toBeLessThan(1e-12);
    const months = Object.values(s.water).map((m) => m.reduce((t, v) => t + v, 0));
    expect(Math.abs(months.reduce((t, v) => t + v, 0))).toBeLessThan(1e-9 * Math.max(...months.map(Math.abs)));
  });
});
