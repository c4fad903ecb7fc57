import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { glazingPhysics, readAngle } from "../fabric/index.ts";
import type { Project } from "../model/index.ts";
import { runToEnd } from "../results/index.ts";
import { boxProject } from "../verification/box.ts";
import { compile, lightingLeft, overcastSky, projectWeather, skyLuminance, skyPatches, type CompiledModel, type LightingControl } from "./index.ts";

const control = (o: Partial<LightingControl>): LightingControl => ({
  zone: 0,
  space: "a",
  stepped: false,
  target: 500,
  least: 0.2,
  steps: 3,
  sensors: [{ sensor: 0, share: 1 }],
  ...o,
});
const left = (o: Partial<LightingControl>, ...lux: number[]): number => lightingLeft(control(o), Float64Array.from(lux));

describe("lighting that answers daylight", () => {
  it("dimmed falls in a line from all of it in the dark to its least at the target", () => {
    expect(left({}, 0)).toBe(1);
    expect(left({}, 250)).toBeCloseTo(0.6, 12);
    expect(left({}, 500)).toBeCloseTo(0.2, 12);
    expect(left({}, 5000)).toBeCloseTo(0.2, 12);
    expect(left({ least: 0 }, 500)).toBe(0);
  });
  it("stepped goes down by equal steps, each only when daylight alone makes up for it", () => {
    const stepped = (lux: number): number => left({ stepped: true }, lux);
    expect(stepped(0)).toBe(1);
    expect(stepped(166)).toBe(1);
    expect(stepped(167)).toBeCloseTo(2 / 3, 12);
    expect(stepped(333)).toBeCloseTo(2 / 3, 12);
    expect(stepped(334)).toBeCloseTo(1 / 3, 12);
    expect(stepped(500)).toBe(0);
  });
  it("leaves what no sensor controls, and takes each sensor for its share", () => {
    const two = { least: 0, sensors: [0, 1].map((sensor) => ({ sensor, share: sensor === 0 ? 0.5 : 0.3 })) };
    expect(left(two, 1000, 1000)).toBeCloseTo(0.2, 12);
    expect(left(two, 1000, 0)).toBeCloseTo(0.5, 12);
    expect(left(two, 250, 500)).toBeCloseTo(1 - 0.25 - 0.3, 12);
  });
});

describe("luminance of a sky", () => {
  // directions of equal solid angle, as the core takes them
  const n = 400;
  const patches = Array.from({ length: n }, (_, i): [number, number, number] => {
    const z = (i + 0.5) / n;
    const r = Math.sqrt(1 - z * z);
    const a = i * 2.399963229728653;
    return [r * Math.cos(a), r * Math.sin(a), z];
  });
  const sky = skyPatches(patches);
  const horizontal = (l: Float64Array): number => l.reduce((s, v, p) => s + v * patches[p][2] * ((2 * Math.PI) / n), 0);
  it("gives the illuminance it is made for, whatever the clearness and the place of the sun", () => {
    const out = new Float64Array(n);
    for (const clearness of [0, 0.3, 1])
      for (const height of [0.1, 0.5, 0.95]) {
        const r = Math.sqrt(1 - height * height);
        skyLuminance(sky, 12000, clearness, r, 0, height, out);
        expect(horizontal(out)).toBeCloseTo(12000, 6);
        expect(Math.min(...out)).toBeGreaterThan(0);
      }
  });
  it("overcast is three times as bright at the zenith as at the horizon; clear it is brightest about the sun", () => {
    expect(overcastSky(1) / overcastSky(0)).toBeCloseTo(3, 12);
    const out = new Float64Array(n);
    skyLuminance(sky, 10000, 1, 0.8, 0, 0.6, out);
    const brightest = patches[out.indexOf(Math.max(...out))];
    expect(brightest[0] * 0.8 + brightest[2] * 0.6).toBeGreaterThan(0.97);
  });
});

const weather = projectWeather(boxProject()) as WeatherYear;
/** A box with a sensor point, and lights that answer it. */
function lit(edit: (p: Project) => void = () => undefined): Project {
  const p = boxProject({ glass: 0.4 });
  Object.assign(p.spaceTypes.box.inputs, { lightingPower: 10, lightingControl: "dimmed", illuminance: 500, peopleDensity: 0.05 });
  p.sensors.s = { name: "Desk", space: "a", x: 4, y: 3, height: 0.8, share: 0.8 };
  edit(p);
  return p;
}
const model = (p: Project): CompiledModel => compile(p, weather, 4);

describe("a sensor point", () => {
  it("has the daylight factor that an integration over its window gives", () => {
    const m = model(lit());
    const [sensor] = m.daylight.sensors;
    const element = m.kind.indexOf(1);
    const { visible } = glazingPhysics(lit().glazings.glass).up;
    // the window in the wall y = 0, as wide and high as its share makes it
    const area = m.area[element];
    const height = 2;
    const width = area / height;
    let direct = 0;
    const n = 300;
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const r = [4 - width / 2 + ((i + 0.5) * width) / n - 4, -3, 0.2 + ((j + 0.5) * height) / n - 0.8];
        const d = Math.sqrt(r[0] * r[0] + r[1] * r[1] + r[2] * r[2]);
        const [c, up] = [3 / d, r[2] / d];
        if (up <= 0) continue;
        direct += (readAngle(visible, c) * overcastSky(up) * up * c * (area / (n * n))) / (d * d);
      }
    // a horizontal plane in the open gets 7π/9 of the zenith's luminance
    const component = (100 * direct) / ((7 * Math.PI) / 9);
    expect(sensor.factor).toBeGreaterThan(component);
    // what is reflected inside comes on top: split flux with the room's mean reflectance
    const [reflected] = sensor.windows.map((w) => 100 * w.reflected * 0.496);
    expect((sensor.factor - reflected) / component).toBeGreaterThan(0.97);
    expect((sensor.factor - reflected) / component).toBeLessThan(1.03);
  });
  it("is brighter near the window, darker behind an overhang or a block, and blind from another room", () => {
    const factor = (edit?: (p: Project) => void): number => model(lit(edit)).daylight.sensors[0].factor;
    const middle = factor();
    expect(factor((p) => (p.sensors.s.y = 1))).toBeGreaterThan(2 * middle);
    expect(factor((p) => (p.sensors.s.y = 5.5))).toBeLessThan(0.6 * middle);
    expect(
      factor((p) => (p.shades.o = { kind: "overhang", name: "o", target: { kind: "opening", opening: "south" }, depth: 2, gap: 0, extension: 2 })),
    ).toBeLessThan(0.8 * middle);
    expect(factor((p) => (p.surroundings.b = { kind: "block", name: "b", x: 4, y: -8, width: 60, depth: 4, angle: 0, base: 0, height: 20 }))).toBeLessThan(
      0.6 * middle,
    );
  });
  it("sees the sun when it stands in its window", () => {
    const [sensor] = model(lit((p) => (p.sensors.s.y = 2))).daylight.sensors;
    // 2 m behind a window that ends 1.4 m above it: sun below 35° comes in at noon, as in winter, sun at 74° does not
    const noons = (day: number): number => sensor.windows[0].sun[Math.floor((day * 24) / 365) * 96 + 48];
    expect(noons(356)).toBeGreaterThan(0.1);
    expect(noons(172)).toBe(0);
  });
  it("is proposed in the middle where a controlled room has none, and scaled where several control more than all", () => {
    const none = model(lit((p) => (p.sensors = {})));
    expect(none.daylight.sensors).toHaveLength(1);
    expect(none.daylight.sensors[0]).toMatchObject({ proposed: true, place: [4, 3, 0.8] });
    const many = model(
      lit((p) => {
        p.sensors.t = { ...p.sensors.s, name: "Other", x: 2 };
      }),
    );
    expect(many.warnings.some((w) => w.message.includes("160 %"))).toBe(true);
    expect(many.daylight.controls[0].sensors.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 12);
  });
  it("saves light by day only, and the summary's hours are those of its series", () => {
    const r = runToEnd(lit(), weather, { stepsPerHour: 4, period: { firstDay: 100, days: 5 }, series: ["daylight", "lightingShare", "lighting"] });
    const of = (q: string): Float64Array => (r.series.find((s) => s.quantity === q) as { values: Float64Array }).values;
    const [lux, share, power] = [of("daylight"), of("lightingShare"), of("lighting")];
    let enough = 0;
    lux.forEach((v, h) => {
      // 0.8 of the lights answer, and fall by 0.8 to their least
      expect(share[h]).toBeCloseTo(1 - 0.8 * 0.8 * Math.min(1, v / 500), 6);
      expect(power[h]).toBeCloseTo(10 * 48 * share[h], 6);
      if (weather.globalHorizontal[2400 + h] === 0) expect(v).toBe(0);
      if (v >= 500) enough++;
    });
    expect(enough).toBeGreaterThan(10);
    expect(r.summary.daylight[0].hours).toBe(enough);
  });
});
