import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { runToEnd } from "../results/index.ts";
import { checkProject, clearSky, compile, overcastSky, projectWeather, rayStrikes, skyLuminance, skyPatches } from "../simulate/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { deriveSurroundings, skylineHeight, struckShares, type Vector } from "./index.ts";

const copy = (p: Project): Project => JSON.parse(JSON.stringify(p)) as Project;
const weather = projectWeather(boxProject({})) as WeatherYear;
const winter = { firstDay: 0, days: 20 };
const sun = (edit: (p: Project) => void): number => {
  const p = copy(boxProject({ glass: 0.5 }));
  edit(p);
  return runToEnd(p, weather, { stepsPerHour: 2, period: winter }).summary.zones[0].sun.south.reduce((a, b) => a + b, 0);
};
const block = { kind: "block" as const, name: "Block", x: 4, y: -12, width: 40, depth: 4, angle: 0, base: 0, height: 12 };
const tree = (through: number) => ({
  kind: "tree" as const,
  name: "Tree",
  x: 4,
  y: -4,
  crown: 8,
  base: 0,
  height: 8,
  transmittance: new Array<number>(12).fill(through),
});

describe("surroundings", () => {
  it("are made of closed blocks and crossed crowns", () => {
    const p = copy(boxProject({}));
    p.surroundings = { b: { ...block, angle: 90 }, t: tree(0.5) };
    const planes = deriveSurroundings(p);
    expect(planes.filter((x) => x.record === "b")).toHaveLength(5);
    expect(planes.filter((x) => x.record === "t")).toHaveLength(3);
    // turned by 90°, the wide side lies along y
    const xs = planes.filter((x) => x.record === "b").flatMap((x) => x.corners.map((c) => c[0]));
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(4, 9);
    expect(planes[0].transmittance).toBeNull();
    expect(planes[5].transmittance).toHaveLength(12);
    expect(checkProject(p).surroundings).toHaveLength(8);
  });
  it("take winter sun: a block most of it, a tree by what its leaves let through", () => {
    const free = sun(() => undefined);
    expect(sun((p) => (p.surroundings.b = block))).toBeLessThan(0.5 * free);
    const dense = sun((p) => (p.surroundings.t = tree(0)));
    const half = sun((p) => (p.surroundings.t = tree(0.5)));
    expect(dense).toBeLessThan(free);
    // half the leaves' shade is half the loss
    expect((free - half) / (free - dense)).toBeCloseTo(0.5, 2);
    expect(sun((p) => (p.surroundings.t = tree(1)))).toBeCloseTo(free, 6);
    expect(sun((p) => (p.surroundings.b = { ...block, y: 60 }))).toBeCloseTo(free, 6);
  });
});

describe("a skyline", () => {
  const points = (of: readonly (readonly [azimuth: number, height: number])[]) => of.map(([azimuth, height], i) => ({ id: `h${i}`, azimuth, height }));
  it("is linear between its points, around north as well", () => {
    const h = points([
      [90, 10],
      [180, 20],
      [270, 0],
    ]);
    expect([90, 135, 180, 225, 270, 0, 45].map((a) => skylineHeight(h, a))).toEqual([10, 15, 20, 10, 0, 5, 7.5].map((v) => expect.closeTo(v, 9)));
    expect(skylineHeight(undefined, 20)).toBe(0);
    expect(skylineHeight(points([[40, 7]]), 200)).toBe(7);
  });
  it("lies where the compass says, whatever way the plan is turned", () => {
    for (const planNorth of [0, 30, 200]) {
      const p = copy(boxProject({}));
      p.site.planNorth = planNorth;
      p.site.horizon = points([
        [170, 0],
        [180, 30],
        [190, 0],
      ]);
      const planes = deriveSurroundings(p);
      const top = planes.flatMap((x) => x.corners).reduce((a, b) => (b[2] > a[2] ? b : a));
      const away = Math.hypot(top[0], top[1]);
      expect((Math.atan2(top[2], away) * 180) / Math.PI).toBeCloseTo(30, 1);
      const azimuth = (Math.atan2(top[0], top[1]) * 180) / Math.PI + planNorth;
      expect(Math.cos(((azimuth - 180) * Math.PI) / 180)).toBeCloseTo(1, 5);
    }
  });
  it("takes all beam while the sun is behind it and none above it, and its part of the sky", () => {
    const free = sun(() => undefined);
    const low = sun((p) => (p.site.horizon = points([[0, 5]])));
    const high = sun((p) => (p.site.horizon = points([[0, 60]])));
    expect(low).toBeLessThan(free);
    // early January's sun stays below 30°: behind 60° what is left is diffuse
    expect(high).toBeLessThan(0.35 * low);
    // one only to the north leaves a south window's beam alone
    const north = sun(
      (p) =>
        (p.site.horizon = points([
          [300, 0],
          [0, 40],
          [60, 0],
        ])),
    );
    expect(north).toBeGreaterThan(0.995 * free);
  });
  it("takes the square of the sine of its height of a level roof's sky", () => {
    const p = copy(boxProject({}));
    p.site.horizon = points([[0, 30]]);
    const m = compile(p, weather, 1);
    const roof = m.roles.indexOf("roof");
    // seen share of an isotropic sky above 30° all round: cos² 30°, by patches of the sky
    expect(m.skyShare[12 * roof]).toBeCloseTo(0.75, 1);
    expect(compile(copy(boxProject({})), weather, 1).skyShare[12 * roof]).toBeCloseTo(1, 6);
  });
});

describe("traced beam", () => {
  // a window of 2 m × 2 m in the south wall of a room 6 m deep
  const window: Vector[] = [
    [2, 0, 0.5],
    [4, 0, 0.5],
    [4, 0, 2.5],
    [2, 0, 2.5],
  ];
  const floor: Vector[] = [
    [0, 0, 0],
    [6, 0, 0],
    [6, 6, 0],
    [0, 6, 0],
  ];
  const back: Vector[] = [
    [0, 6, 0],
    [6, 6, 0],
    [6, 6, 3],
    [0, 6, 3],
  ];
  const at = (altitude: number): Vector => [0, -Math.cos((altitude * Math.PI) / 180), Math.sin((altitude * Math.PI) / 180)];
  it("of high sun lies on the floor, of level sun on the wall across, of sun between on both, and nothing is lost", () => {
    const shares = (altitude: number): number[] => struckShares(window, [0, -1, 0], [[floor], [back]], at(altitude));
    expect(shares(60)).toEqual([expect.closeTo(1, 9), 0]);
    expect(shares(3)[0]).toBeCloseTo((6 * Math.tan((3 * Math.PI) / 180) - 0.5 > 0 ? 6 * Math.tan((3 * Math.PI) / 180) - 0.5 : 0) / 2, 9);
    const [f, b] = shares(15);
    expect(f + b).toBeCloseTo(1, 9);
    expect(f).toBeCloseTo((6 * Math.tan((15 * Math.PI) / 180) - 0.5) / 2, 9);
    expect(struckShares(window, [0, -1, 0], [[floor]], [0, 1, 0.2])).toEqual([0]);
  });
});

describe("the sky for daylight", () => {
  const patches: Vector[] = Array.from({ length: 200 }, (_, i) => {
    const z = (i + 0.5) / 200;
    const r = Math.sqrt(1 - z * z);
    const a = 2.399963 * i;
    return [r * Math.cos(a), r * Math.sin(a), z];
  });
  it("gives the horizontal illuminance it was asked for, overcast or clear", () => {
    for (const clearness of [0, 0.4, 1]) {
      const out = new Float64Array(200);
      skyLuminance(skyPatches(patches), 10000, clearness, 0, 0.6, 0.8, out);
      const sum = out.reduce((s, l, p) => s + l * patches[p][2] * ((2 * Math.PI) / 200), 0);
      expect(sum).toBeCloseTo(10000, 6);
      expect(Math.min(...out)).toBeGreaterThan(0);
    }
  });
  it("is the CIE clear sky patch by patch where it is clear, but for its scale", () => {
    const out = new Float64Array(200);
    const sun: Vector = [0.48, 0.36, 0.8];
    skyLuminance(skyPatches(patches), 10000, 1, ...sun, out);
    const zenith = Math.acos(0.8);
    const ratios = patches.map((d, p) => out[p] / clearSky(d[2], Math.acos(d[0] * sun[0] + d[1] * sun[1] + d[2] * sun[2]), zenith));
    for (const r of ratios) expect(r / ratios[0]).toBeCloseTo(1, 9);
  });
  it("is three times as bright overhead as at the horizon when overcast, brightest by the sun when clear", () => {
    expect(overcastSky(1) / overcastSky(0)).toBeCloseTo(3, 12);
    expect(clearSky(0.7, 0.05, 0.8)).toBeGreaterThan(3 * clearSky(0.7, 1.4, 0.8));
    expect(clearSky(1, 0.8, 0.8)).toBeCloseTo(1, 1);
  });
  it("is struck by rays through polygons only within them and ahead", () => {
    const ring: Vector[] = [
      [0, 5, 0],
      [2, 5, 0],
      [2, 5, 2],
      [0, 5, 2],
    ];
    expect(rayStrikes([1, 0, 1], [0, 1, 0], ring)).toBe(true);
    expect(rayStrikes([3, 0, 1], [0, 1, 0], ring)).toBe(false);
    expect(rayStrikes([1, 0, 1], [0, -1, 0], ring)).toBe(false);
    expect(rayStrikes([1, 0, 1], [1, 0, 0], ring)).toBe(false);
  });
});
