import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { boxProject, steadyWeather } from "../verification/box.ts";
import { runToEnd } from "../results/index.ts";
import { extraterrestrial, perezSky, sunVector, type WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { compile, FLOW, greyExchange, parallelRectangles, projectWeather, RunError, SUN, viewFactors, YearKernel, type InsideSurface } from "./index.ts";

const side = (area: number, plane: string, normal: readonly [number, number, number], emissivity = 0.9): InsideSurface => ({
  area,
  emissivity,
  absorptance: 0.5,
  transmittance: 0,
  floor: false,
  plane,
  normal,
});
const room = (w: number, d: number, h: number, e = 0.9): InsideSurface[] => [
  side(w * d, "floor", [0, 0, -1], e),
  side(w * d, "ceiling", [0, 0, 1], e),
  side(w * h, "s", [0, -1, 0], e),
  side(w * h, "n", [0, 1, 0], e),
  side(d * h, "w", [-1, 0, 0], e),
  side(d * h, "e", [1, 0, 0], e),
];

/** Largest misses of reciprocity and of closure. */
function misses(surfaces: readonly InsideSurface[]): { reciprocity: number; closure: number } {
  const { factors } = viewFactors(surfaces);
  const n = surfaces.length;
  let reciprocity = 0;
  let closure = 0;
  for (let i = 0; i < n; i++) {
    let row = 0;
    for (let j = 0; j < n; j++) {
      row += factors[i * n + j];
      reciprocity = Math.max(reciprocity, Math.abs(surfaces[i].area * factors[i * n + j] - surfaces[j].area * factors[j * n + i]));
    }
    closure = Math.max(closure, Math.abs(row - 1));
  }
  return { reciprocity, closure };
}

describe("view factors", () => {
  it("of a box are exact: opposite sides by the formula, the others by what is left", () => {
    const surfaces = room(6, 4, 3);
    const { factors, exact } = viewFactors(surfaces);
    expect(exact).toBe(true);
    expect(factors[1]).toBeCloseTo(parallelRectangles(6, 4, 3), 12);
    // floor to the long and the short wall: perpendicular rectangles with a common edge, by Hamilton and Morgan 1952
    const perpendicular = (h: number, w: number): number => {
      // h: height of the wall, w: depth of the floor, both over the common edge
      const a = h * h + w * w;
      const [h2, w2] = [h * h, w * w];
      const s = Math.sqrt(a);
      return (
        (1 / (Math.PI * w)) *
        (w * Math.atan(1 / w) +
          h * Math.atan(1 / h) -
          s * Math.atan(1 / s) +
          0.25 * Math.log((((1 + w2) * (1 + h2)) / (1 + a)) * ((w2 * (1 + a)) / ((1 + w2) * a)) ** w2 * ((h2 * (1 + a)) / ((1 + h2) * a)) ** h2))
      );
    };
    expect(factors[2]).toBeCloseTo(perpendicular(3 / 6, 4 / 6), 9);
    expect(factors[4]).toBeCloseTo(perpendicular(3 / 4, 6 / 4), 9);
  });
  it("close and are reciprocal for boxes cut into any parts and for other shapes", () => {
    const size = fc.double({ min: 1, max: 20, noNaN: true });
    fc.assert(
      fc.property(size, size, size, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (w, d, h, cut) => {
        const box = room(w, d, h);
        const split = [...box.slice(1), side(w * d * cut, "floor", [0, 0, -1]), side(w * d * (1 - cut), "floor", [0, 0, -1])];
        for (const s of [box, split]) {
          const m = misses(s);
          expect(m.closure).toBeLessThan(1e-9);
          expect(m.reciprocity).toBeLessThan(1e-9 * w * d * h);
        }
      }),
    );
    // a room with a corner cut off has no box's formula
    const prism = [
      side(20, "floor", [0, 0, -1]),
      side(20, "ceiling", [0, 0, 1]),
      side(12, "a", [0, -1, 0]),
      side(15, "b", [0.6, 0.8, 0]),
      side(9, "c", [-1, 0, 0]),
    ];
    expect(viewFactors(prism).exact).toBe(false);
    const m = misses(prism);
    expect(m.closure).toBeLessThan(1e-9);
    expect(m.reciprocity).toBeLessThan(1e-9);
  });
});

describe("grey exchange", () => {
  it("of black faces is area times view factor; of grey ones symmetric and less", () => {
    const black = room(5, 4, 3, 0.999999999);
    const { factors } = viewFactors(black);
    const x = greyExchange(black, factors);
    expect(x[1]).toBeCloseTo(20 * factors[1], 6);
    const grey = greyExchange(room(5, 4, 3, 0.5), factors);
    for (let i = 0; i < 6; i++) for (let j = 0; j < 6; j++) expect(grey[6 * i + j]).toBe(grey[6 * j + i]);
    expect(grey.reduce((a, b) => a + b, 0)).toBeLessThan(0.7 * x.reduce((a, b) => a + b, 0));
  });
  it("between two large plates is the textbook's 1/(1/ε₁ + 1/ε₂ − 1)", () => {
    const plates = [side(10, "a", [0, 0, 1], 0.9), side(10, "b", [0, 0, -1], 0.3)];
    const x = greyExchange(plates, Float64Array.from([0, 1, 1, 0]));
    expect(x[1]).toBeCloseTo(10 / (1 / 0.9 + 1 / 0.3 - 1), 9);
  });
});

describe("a mirrored building under a mirrored sun and wind", () => {
  it("has the same year to nine places", () => {
    const base = JSON.parse(JSON.stringify(boxProject({ eastWest: 4, glass: 0, gains: 300 }))) as Project;
    // a larger window to the east than to the west
    (base.openings.west as { ratio: number }).ratio = 0.1;
    const mirrored = JSON.parse(JSON.stringify(base)) as Project;
    (mirrored.openings.west as { ratio: number }).ratio = (base.openings.east as { ratio: number }).ratio;
    (mirrored.openings.east as { ratio: number }).ratio = 0.1;
    const weather = projectWeather(base) as WeatherYear;
    const wind: WeatherYear = { ...weather, windDirection: weather.windDirection.map((d) => (360 - d) % 360) };
    const a = new YearKernel(compile(base, weather, 2), weather);
    const b = new YearKernel(compile(mirrored, wind, 2), wind);
    const suns = Float64Array.from(b.state.suns);
    for (let i = 0; i < suns.length; i += SUN) suns[i] = -suns[i];
    b.state.suns = suns;
    // what the ground throws onto each face is looked up by the clock, not by the sun: mirrored likewise
    const [from, to] = [a.model.reflections, b.model.reflections];
    const azimuth = (k: YearKernel, i: number): number => k.model.classAzimuth[k.model.orientation[i]];
    const twin = (i: number): number =>
      a.model.roles.findIndex(
        (role, j) =>
          role === b.model.roles[i] && j < a.model.exterior && Math.abs(((azimuth(a, j) + azimuth(b, i) + 180) % 360) - 180) < 1e-6 && to.row[i] >= 0,
      );
    for (let i = 0; i < b.model.exterior; i++) {
      if (to.row[i] < 0) continue;
      const [r, q] = [to.row[i], from.row[twin(i)]];
      for (let m = 0; m < 12; m++) expect(to.groundDiffuse[12 * r + m]).toBeCloseTo(from.groundDiffuse[12 * q + m], 12);
      to.groundBeam.set(from.groundBeam.subarray(288 * q, 288 * q + 288), 288 * r);
      to.thingBeam.set(from.thingBeam.subarray(288 * q, 288 * q + 288), 288 * r);
    }
    for (const k of [a, b]) k.start(5, 20, 0.005);
    for (let h = 4000; h < 4400; h++)
      for (let k = 0; k < 2; k++) {
        a.step(h, k);
        b.step(h, k);
        expect(Math.abs(a.record.airTemperature[0] - b.record.airTemperature[0])).toBeLessThan(1e-9);
        expect(Math.abs(a.record.cooling[0] - b.record.cooling[0])).toBeLessThan(1e-6);
      }
    expect(a.books.zoneGross[0]).toBeGreaterThan(0);
  });
});

describe("sun on a wall by the kernel", () => {
  it("is the Perez model as it is written for a single moment", () => {
    const p = boxProject({ glass: 0.3 });
    // the ground throws nothing back here: its own tests are elsewhere
    p.site.albedo = new Array<number>(12).fill(0);
    const w = projectWeather(p) as WeatherYear;
    const m = compile(p, w, 1);
    const k = new YearKernel(m, w);
    k.start(5, 20, 0.005);
    const south = m.roles.findIndex((role, i) => role === "walls" && Math.abs(m.classAzimuth[m.orientation[i]] - 180) < 1e-6);
    let compared = 0;
    for (let h = 24 * 100; h < 24 * 110; h++) {
      k.step(h, 0);
      const [, north, up] = sunVector(h + 0.5, m.latitude, m.longitude, m.timeZone);
      const global = w.globalHorizontal[h];
      if (global <= 0 || up <= 0.05) continue;
      const outer = extraterrestrial(Math.floor(h / 24));
      let diffuse = w.diffuseHorizontal[h];
      let beam = (global - diffuse) / up;
      if (beam > outer) {
        diffuse += (beam - outer) * up;
        beam = outer;
      }
      const sky = perezSky(diffuse, beam, up, outer);
      const cosine = Math.max(0, -north);
      const onto = (beam + (diffuse * sky.circumsolar) / sky.b) * cosine;
      const background = diffuse * ((1 - sky.circumsolar) / 2 + sky.horizon);
      expect(k.record.incident[south]).toBeCloseTo(onto + background, 6);
      compared++;
    }
    expect(compared).toBeGreaterThan(80);
  });
});

describe("an embedded circuit in the year", () => {
  const p = JSON.parse(JSON.stringify(boxProject({ heating: null, cooling: null, gains: 0 }))) as Project;
  p.assemblies.floor.layers.splice(1, 0, { kind: "circuit", id: "circuit", name: "Circuit" });
  const w = steadyWeather(10);
  const model = compile(p, w, 4);
  const floor = model.circuits[0];
  /** Ten days with a heat at the plane, W/m². */
  const run = (heat: number): YearKernel => {
    const k = new YearKernel(model, w);
    k.start(10, 10, 0.004);
    k.state.circuitHeat[floor] = heat;
    k.openBooks();
    for (let h = 0; h < 240; h++) for (let s = 0; s < 4; s++) k.step(h, s);
    return k;
  };
  it("warms the room by what it gives, found on the room's paths, and the books close", () => {
    expect(model.circuits).toHaveLength(1);
    const before = run(0).contents();
    const k = run(20);
    const [given, found] = [20 * 48, -k.record.flows.slice(0).reduce((s, q, i) => (i === FLOW.ground ? s : s + (q < 0 ? q : 0)), 0)];
    // what the floor gives leaves by walls, roof and air; the insulation below keeps nearly all of it in
    expect(k.record.flows[FLOW.ground] / given).toBeGreaterThan(0.9);
    expect(k.record.flows[FLOW.ground] / given).toBeLessThan(1);
    expect(found / k.record.flows[FLOW.ground]).toBeCloseTo(1, 6);
    const after = k.contents();
    const start = new YearKernel(model, w);
    start.start(10, 10, 0.004);
    const content = start.contents();
    const residual = Math.abs(k.books.elementHeat[floor] - (after[floor] - content[floor])) / k.books.elementGross[floor];
    expect(residual).toBeLessThan(1e-9);
    expect(after[floor]).toBeGreaterThan(before[floor]);
  });
  it("is warmest at its plane, and layers are read between their borders", () => {
    const k = run(20);
    const plane = k.planeTemperature(floor);
    expect(plane).toBeGreaterThan(k.insideFaces[floor]);
    expect(k.insideFaces[floor]).toBeGreaterThan(k.record.airTemperature[0]);
    const places = model.walls[floor]?.places ?? [];
    const at = (layer: number, where: number): number =>
      k.layerTemperature(
        floor,
        places.findIndex((x) => x.layer === layer && x.at === where),
      );
    // the deck above the plane, from its border to the face
    const deck = (model.walls[floor]?.places ?? []).reduce((n, x) => Math.max(n, x.layer), 0);
    expect(at(deck, 0)).toBeCloseTo(plane, 2);
    expect(at(deck, 1)).toBeCloseTo(k.insideFaces[floor], 2);
    expect(at(deck, 0.5)).toBeLessThan(at(deck, 0));
    expect(at(deck, 0.5)).toBeGreaterThan(at(deck, 1));
  });
});

describe("a run that loses a value", () => {
  it("stops with the zone, the hour and the last good state", () => {
    const p = boxProject({ glass: 0.3 });
    const w = projectWeather(p) as WeatherYear;
    const k = new YearKernel(compile(p, w, 4), w);
    k.start(5, 20, 0.005);
    for (let h = 0; h < 5; h++) for (let s = 0; s < 4; s++) k.step(h, s);
    k.state.a[3] = NaN;
    let caught: unknown = null;
    try {
      for (let h = 5; h < 8; h++) for (let s = 0; s < 4; s++) k.step(h, s);
    } catch (e) {
      caught = e;
    }
    expect(caught).toBeInstanceOf(RunError);
    const error = caught as RunError;
    expect(error.zone).toBe("a");
    expect(error.hour).toBe(5);
    expect(error.lastGood.a).toBeCloseTo(20, 0);
    expect(error.message).toMatch(/zone a was lost in hour 6 .* a 20\.\d °C/);
  });
});

describe("bad input", () => {
  const text = (edit: (p: Project) => void, weather?: (w: WeatherYear) => void, steps = 4): string => {
    const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
    edit(p);
    const made = projectWeather(boxProject({})) as WeatherYear;
    const w = { ...made, dryBulb: Float64Array.from(made.dryBulb) };
    weather?.(w);
    try {
      runToEnd(p, w, { stepsPerHour: steps, period: { firstDay: 0, days: 1 } });
    } catch (e) {
      return e instanceof Error ? e.message : String(e);
    }
    return "";
  };
  it("of weather is told by its hour before the run", () => {
    expect(
      text(
        () => undefined,
        (w) => (w.dryBulb[99] = NaN),
      ),
    ).toContain("weather/dryBulb/100: In hour 100");
    expect(
      text(
        () => undefined,
        (w) => (w.dryBulb[7] = 400),
      ),
    ).toContain("400 °C; it must lie between -90 and 70");
  });
  it("of the step is told", () => {
    expect(text(() => undefined, undefined, 5)).toContain("run/stepsPerHour: A year runs at 1, 2, 3, 4, 6 or 12 steps an hour, not at 5.");
  });
  it("of an opening larger than its wall is told by its place", () => {
    expect(
      text((p) => {
        p.openings.big = { kind: "placed", name: "Big", host: "a/n", use: "window", offset: 0, sill: 0, width: 9, height: 2, glazing: null };
      }),
    ).toContain('openings/big: "Big" reaches 1.00\u00a0m past its wall.');
  });
});

describe("sides set by hand", () => {
  const year = (hand: "adiabatic" | "ground" | null) => {
    const p = boxProject({ heating: 20, cooling: 60, infiltration: 0 } as Parameters<typeof boxProject>[0]);
    p.openings = {};
    for (const [id, s] of Object.entries(p.spaces)) {
      s.inputs = { ...s.inputs, infiltration: 0, peopleDensity: 0, lightingPower: 0, appliancePower: 0 };
      if (hand && s.form.kind === "prism")
        for (const part of [...s.form.outline.map((c) => c.id), s.form.ceiling, s.form.floor])
          p.faceOverrides[`${id}_${part}`] = { host: `${id}/${part}`, assembly: null, contact: hand };
    }
    return runToEnd(p, steadyWeather(-10), { stepsPerHour: 2, period: { firstDay: 0, days: 5 } } as Parameters<typeof runToEnd>[2]).summary;
  };
  it("let no heat through where they are adiabatic, and the books close", () => {
    const [open, shut] = [year(null), year("adiabatic")];
    expect(open.loads.heating.total).toBeGreaterThan(10);
    expect(shut.loads.heating.total).toBeLessThan(1e-3 * open.loads.heating.total);
    expect(shut.closure).toBeLessThan(1e-9);
  });
  it("lose less to earth than to a cold sky where they are set to ground", () => {
    const [open, earth] = [year(null), year("ground")];
    expect(earth.loads.heating.total).toBeLessThan(open.loads.heating.total);
    expect(earth.loads.heating.total).toBeGreaterThan(0);
    expect(earth.closure).toBeLessThan(1e-9);
  });
});
