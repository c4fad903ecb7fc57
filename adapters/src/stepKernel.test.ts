import { readFileSync } from "node:fs";
import { afterEach, describe, expect, it, vi } from "vitest";
import {
  applyChanges,
  compile,
  componentsOf,
  installKernel,
  isSized,
  projectWeather,
  RunError,
  runToEnd,
  serviceFieldsOf,
  sizeProject,
  sizesOf,
  systemChanges,
  TERM,
  YearKernel,
  type Project,
  type WeatherYear,
} from "@arroyo/core";
import { boxProject, type BoxOptions } from "../../core/src/verification/box.ts";
import { clinic } from "../../demo/clinic.ts";
import { hall } from "../../demo/hall.ts";
import { library } from "../../demo/library.ts";
import { benchProject } from "../../scripts/lib/benchModel.ts";
import { compileKernel, kernelFile } from "../../scripts/lib/kernel.ts";
import { installWebAssembly, webAssemblyKernel } from "./stepKernel.ts";

afterEach(() => {
  installKernel(null);
  vi.restoreAllMocks();
});

const DAYS = 6;

/** Everything that is an array of numbers in an object, and in those it holds. */
function numbersOf(o: object, path = ""): [string, ArrayLike<number>][] {
  return Object.entries(o).flatMap(([k, v]): [string, ArrayLike<number>][] => {
    if (ArrayBuffer.isView(v)) return [[`${path}${k}`, v as unknown as Float64Array]];
    // weather and tables are what goes in, not what a step leaves
    if (v && typeof v === "object" && (k === "record" || k === "books")) return numbersOf(v as object, `${k}.`);
    return [];
  });
}

/** A kernel after some days from 1 May, by the core's walks or in WebAssembly. */
function stepped(p: Project, w: WeatherYear, fast: boolean, steps: number): YearKernel {
  if (fast) installWebAssembly();
  else installKernel(null);
  const k = new YearKernel(compile(p, w, steps, undefined, {}, 1, sizesOf(sizeProject(p, w))), w);
  k.start(12, 20, 0.006);
  for (let h = 24 * 120; h < 24 * (120 + DAYS); h++) for (let s = 0; s < steps; s++) k.step(h, s);
  return k;
}

const box = (o: BoxOptions, edit: (p: Project) => void = () => undefined): Project => {
  const p = JSON.parse(JSON.stringify(boxProject(o))) as Project;
  edit(p);
  return p;
};
const inputs = (p: Project): Record<string, unknown> => p.spaceTypes.box.inputs;
const blind = (p: Project): unknown =>
  (p.glazings.glass.blind = {
    position: "inside",
    solarTransmittance: 0.1,
    solarReflectance: 0.5,
    visibleTransmittance: 0.1,
    control: { kind: "irradiance", above: 150 },
  });

/** A box on a system whose sizes are typed. */
function onAir(choice: "variable" | "fan coils"): Project {
  const p = box({ glass: 0.3, heating: 20, cooling: 24 }, (b) => Object.assign(inputs(b), { peopleDensity: 0.1, outdoorAirPerArea: 0.0008 }));
  const made = applyChanges(p, systemChanges(p, choice, "boiler and chiller", ["a"], "System"));
  if (!made.ok) throw new Error(made.message);
  const q = JSON.parse(JSON.stringify(made.project)) as Project;
  const sizes: Record<string, number> = { flow: 0.4, reheatCapacity: 3000, capacity: 6000, heatingCapacity: 3000, coolingCapacity: 3000 };
  for (const c of componentsOf(q))
    for (const f of Object.keys(serviceFieldsOf(c.kind))) if (isSized(c.kind, c.inputs, f)) (c.inputs as Record<string, number>)[f] = sizes[f];
  return q;
}

describe("the kernel in WebAssembly", () => {
  it("is what its source compiles to: `npm run kernel` makes it anew", async () => {
    expect(readFileSync(kernelFile, "utf8") === (await compileKernel())).toBe(true);
  });

  it.each<[string, () => Project]>([
    ["the library", () => library],
    ["a box on variable air volume", () => onAir("variable")],
    ["a box on fan coils", () => onAir("fan coils")],
    ["the clinic", () => clinic],
    ["the hall with its airflow network", () => hall],
    ["the library in full exchange", () => ({ ...library, run: { ...library.run, radiation: "full" } })],
    ["100 zones by sweeps", () => benchProject(100)],
    ["panes whose gaps answer", () => box({ glass: 0.4, panes: true })],
    ["an isotropic sky and beam by area", () => box({ glass: 0.4, sky: "isotropic", run: { beam: "area" } })],
    ["traced beam", () => box({ glass: 0.4, run: { beam: "traced" } })],
    ["constant films", () => box({ glass: 0.4, run: { insideConvection: { kind: "iso 52016-1" }, outsideConvection: { kind: "iso 52016-1" } } })],
    [
      "typed films",
      () =>
        box({
          glass: 0.4,
          run: {
            insideConvection: { kind: "typed", wall: 3, floor: 2, ceiling: 4, glass: 3.5 },
            outsideConvection: { kind: "typed", wall: 20, roof: 25, floor: 10, glass: 15 },
          },
        }),
    ],
    ["a melting board", () => box({ glass: 0.4, weight: "heavy" }, (p) => (p.materials.block.phaseChange = { from: 21, to: 24, latentHeat: 20000 }))],
    ["a blind", () => box({ glass: 0.6 }, blind)],
    ["operative set-points", () => box({ glass: 0.4 }, (p) => (inputs(p).setpointKind = "operative"))],
    ["too little heating and cooling", () => box({ glass: 0.9, heatingCapacity: 400, gains: 2500 }, (p) => (p.zones.a.inputs.coolingCapacity = 500))],
    ["free-floating", () => box({ glass: 0.4, heating: null, cooling: null })],
    ["night ventilation", () => box({ glass: 0.5, weight: "heavy" }, (p) => Object.assign(inputs(p), { nightVentilation: 8, nightVentilationAbove: 19 }))],
    ["free cooling at its limit", () => box({ glass: 0.9, gains: 2500, cooling: 24 }, (p) => Object.assign(inputs(p), { freeCooling: 2 }))],
    [
      "opened windows",
      () =>
        box({ glass: 0.5 }, (p) => {
          Object.assign(inputs(p), { windowOpenAbove: 22, windowOutdoorLeast: 8 });
          for (const opening of Object.values(p.openings)) opening.operable = 0.3;
        }),
    ],
    ["humidity limits", () => box({}, (p) => Object.assign(inputs(p), { humidifySetpoint: 40, dehumidifySetpoint: 45, peopleDensity: 0.1 }))],
    [
      "air between zones",
      () =>
        box(
          { glass: 0.3, second: { heating: null, cooling: null } },
          (p) => (p.airExchanges.x = { name: "door", zones: ["a", "b"], flow: 0.1, schedule: null }),
        ),
    ],
    [
      "a screen by schedule, and a tree",
      () =>
        box({ glass: 0.5 }, (p) => {
          p.shades.screen = {
            kind: "overhang",
            name: "Awning",
            target: { kind: "opening", opening: "south" },
            depth: 1.5,
            gap: 0,
            extension: 1,
            transmittanceSchedule: "day",
          };
          p.surroundings.tree = { kind: "tree", name: "Tree", x: 4, y: -5, crown: 6, base: 0, height: 8, transmittance: new Array<number>(12).fill(0.4) };
          Object.assign(inputs(p), { lightingPower: 8, lightingControl: "dimmed" });
        }),
    ],
    ["a sunspace", () => box({ weight: "light", sunspace: 0.5, panes: true })],
  ])("leaves the same bits in every array as the core's own: %s", (_, make) => {
    const p = make();
    const w = projectWeather(p) as WeatherYear;
    const own = stepped(p, w, false, 2);
    const fast = stepped(p, w, true, 2);
    expect([own.kind, fast.kind]).toEqual(["TypeScript", "WebAssembly"]);
    const expected = numbersOf(own.state);
    const found = new Map(numbersOf(fast.state));
    expect(expected.length).toBeGreaterThan(100);
    const differing = expected.filter(([name, values]) => {
      const other = found.get(name);
      if (other?.length !== values.length) return true;
      for (let i = 0; i < values.length; i++) if (!Object.is(values[i], other[i])) return true;
      return false;
    });
    expect(differing.map(([name]) => name)).toEqual([]);
    // and something has happened in them
    expect(own.record.faceSum1.some((q) => q !== 0)).toBe(true);
  });

  it("gives the year its fingerprint, and the summary says what walked", () => {
    const p = box({ glass: 0.4, weight: "heavy" });
    const w = projectWeather(p) as WeatherYear;
    const own = runToEnd(p, w, { stepsPerHour: 1 }).summary;
    installWebAssembly();
    const fast = runToEnd(p, w, { stepsPerHour: 1 }).summary;
    expect(fast).toEqual({ ...own, timing: { ...own.timing, kernel: "WebAssembly" } });
  });

  it("leaves the work to the core's own where no memory is to be had, and the run says so", () => {
    const p = box({ glass: 0.3 });
    const w = projectWeather(p) as WeatherYear;
    vi.spyOn(WebAssembly, "Memory").mockImplementation(function () {
      throw new RangeError("could not allocate memory");
    });
    installWebAssembly();
    const r = runToEnd(p, w, { stepsPerHour: 1, period: { firstDay: 0, days: 2 } });
    expect(r.summary.timing.kernel).toBe("TypeScript");
    expect(r.summary.closure).toBeLessThan(1e-9);
  });

  it("walks both ways of solving the zones' system in those buildings: by elimination and by sweeps", () => {
    const sweeps = (p: Project): boolean => compile(p, projectWeather(p) as WeatherYear, 1).sweeps;
    expect([sweeps(box({ second: { heating: 20, cooling: 25 } })), sweeps(benchProject(100))]).toEqual([false, true]);
  });

  it("stops with zone and hour when a value is lost", () => {
    const p = box({ glass: 0.3 });
    const w = projectWeather(p) as WeatherYear;
    const k = stepped(p, w, true, 1);
    k.state.a[3] = NaN;
    expect(() => [0, 1, 2].forEach((h) => k.step(24 * 130 + h, 0))).toThrow(RunError);
  });

  it("will not start where the core no longer has what it asks for", () => {
    const p = box({ glass: 0.3 });
    const w = projectWeather(p) as WeatherYear;
    const m = compile(p, w, 1);
    expect(() => webAssemblyKernel({ ...m, area: undefined as unknown as Float64Array }, w)).toThrow(/asks for m_area/);
  });

  it("reads and writes the core's arrays in place, under all the names they have", () => {
    const p = box({ glass: 0.3 });
    const w = projectWeather(p) as WeatherYear;
    const k = stepped(p, w, true, 1);
    expect(k.record.terms).toBe(k.state.hourTerms);
    expect(k.record.terms.buffer).toBe(k.state.tin.buffer);
    expect(k.model.pattern.rowStart.buffer).toBe(k.state.tin.buffer);
    expect(k.record.terms[TERM.applianceConvective]).toBeGreaterThan(0);
  });
});
