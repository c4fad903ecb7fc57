import { describe, expect, it } from "vitest";
import { evaluate, parseExpression } from "../expression/index.ts";
import { deriveFaces } from "../geometry/index.ts";
import { applyChanges, componentsOf, type Project } from "../model/index.ts";
import { runToEnd, sizeProject, sizesOf } from "../results/index.ts";
import { systemChanges, type ComponentSizes, type SystemChoice } from "../services/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { curveOf, followers, inputsOf, makeBench, namesOf, withNumbers, type Bench } from "./index.ts";

const on = { heating: 20, cooling: 24, glass: 0.3 };
const base = JSON.parse(JSON.stringify(boxProject({ ...on, second: on }))) as Project;
base.spaceTypes.box.inputs = { ...base.spaceTypes.box.inputs, peopleDensity: 0.1, outdoorAirPerPerson: 0.008, outdoorAirPerArea: 0.0005 };
const zones = Object.keys(base.zones);
const made = (choice: SystemChoice, plant: "boiler and chiller" | "heat pump and chiller" | "district"): { project: Project; sizes: ComponentSizes } => {
  const applied = applyChanges(base, systemChanges(base, choice, plant, zones, "Air"));
  if (!applied.ok) throw new Error(applied.message);
  let { project } = applied;
  // a humidifier of each kind in the path
  const by = { variable: "evaporation", constant: "gas steam", "variable refrigerant": "electric steam" }[choice as string];
  const humid =
    by &&
    applyChanges(project, [
      { op: "insert", path: ["airSystems", "air", "parts", "moist"], value: { id: "moist", kind: "humidifier", inputs: { by } }, before: "fan" },
    ]);
  if (humid) {
    if (!humid.ok) throw new Error(humid.message);
    project = humid.project;
  }
  const weather = projectWeather(project);
  if (!weather) throw new Error("no weather");
  return { project, sizes: sizesOf(sizeProject(project, weather)).components };
};
const kinds = [
  made("variable", "boiler and chiller"),
  made("constant", "heat pump and chiller"),
  made("variable refrigerant", "district"),
  made("fan coils", "district"),
  made("split units", "boiler and chiller"),
];
const of = (project: Project, sizes: ComponentSizes, path: readonly string[], more = 0): Bench => {
  const b = makeBench(project, { kind: "component", path, more }, sizes);
  if (!b.ok) throw new Error(b.message);
  return b.bench;
};
/** Points all over the ranges of the inputs. */
const points = (b: Bench): Record<string, number>[] =>
  Array.from({ length: 24 }, (_, n) =>
    Object.fromEntries(b.inputs.map((i, k) => [i.name, i.min + (i.max - i.min) * (((n * 7 + k * 13 + 3 * n * k) % 24) / 23)])),
  );

/** Every formula shown, with the figures shown, comes to the figure of the calculation. */
function formulasHold(b: Bench): void {
  for (const x of [inputsOf(b), ...points(b)]) {
    const values = namesOf(b, x);
    for (const step of b.run(x)) {
      expect(Number.isFinite(step.value), `${b.title}: ${step.name}`).toBe(true);
      if (step.formula === null) {
        expect(step.source?.length ?? 0).toBeGreaterThan(5);
        continue;
      }
      const parsed = parseExpression(step.formula, [...values.keys()]);
      if (!parsed.ok) throw new Error(`${b.title}: ${step.name} = ${step.formula}: ${parsed.fault.message}`);
      const [found] = evaluate(parsed.root, { rows: 1, column: (name) => values.get(name) ?? NaN });
      const size = Math.max(Math.abs(step.value), step.unit === "W" ? 1 : 1e-3);
      expect(
        Math.abs(found - step.value) / size,
        `${b.title}: ${step.name} = ${step.formula} at ${JSON.stringify(x)}: ${found} and ${step.value}`,
      ).toBeLessThan(1e-6);
    }
  }
}

describe("a component on its own", () => {
  it.each(kinds.map((k, i): [string, (typeof kinds)[number]] => [["variable", "constant", "refrigerant", "fan coils", "split units"][i], k]))(
    "shows formulas that give the calculation's own figures, alone and with what follows: %s",
    (_, { project, sizes }) => {
      let count = 0;
      for (const c of componentsOf(project))
        for (let more = 0; more <= followers(project, c); more++) {
          formulasHold(of(project, sizes, c.path, more));
          count++;
        }
      expect(count).toBeGreaterThan(componentsOf(project).length);
    },
  );

  it("does at the hour of the largest load what the run did there", () => {
    const { project } = kinds[0];
    const weather = projectWeather(project);
    if (!weather) throw new Error("no weather");
    const { summary } = runToEnd(project, weather, { stepsPerHour: 4 });
    const row = (kind: string) => summary.components.find((c) => c.kind === kind);
    const fan = row("supplyFan");
    const state = fan?.atCooling;
    if (!fan || !state) throw new Error("the fan never ran");
    const b = of(project, summary.sized, fan.address.split("/"));
    const rho = b.figures.find((f) => f.name === "rho")?.value ?? NaN;
    const steps = namesOf(b, { flow: state.flow / rho, t0: state.entering });
    expect(steps.get("t_out")).toBeCloseTo(state.leaving, 2);
    const coil = row("coolingCoil");
    const at = coil?.atCooling;
    if (!coil || !at) throw new Error("the coil never cooled");
    const c = of(project, summary.sized, coil.address.split("/"));
    const alone = namesOf(c, { flow: at.flow / rho, t0: at.entering, w0: at.enteringRatio, wanted: at.leaving });
    expect(Math.abs((alone.get("Q") ?? NaN) / -(at.heat + at.latent) - 1)).toBeLessThan(0.01);
    expect(alone.get("w_out")).toBeCloseTo(at.leavingRatio, 5);
  });

  it("draws a curve over the range of what goes in: a fan's power rises with flow, a condensing boiler gains with colder return", () => {
    const { project, sizes } = kinds[0];
    const fan = componentsOf(project).find((c) => c.kind === "supplyFan");
    if (!fan) throw new Error("no fan");
    const b = of(project, sizes, fan.path);
    const curve = curveOf(b, inputsOf(b), "flow", "P");
    expect(curve).toHaveLength(61);
    for (let i = 2; i < curve.length; i++) expect(curve[i][1]).toBeGreaterThan(curve[i - 1][1]);
    const boiler = componentsOf(project).find((c) => c.kind === "boiler");
    if (!boiler) throw new Error("no boiler");
    const applied = applyChanges(project, [{ op: "set", path: [...boiler.path, "inputs", "condensing"], value: "yes" }]);
    if (!applied.ok) throw new Error(applied.message);
    const eta = curveOf(of(applied.project, sizes, boiler.path), { Q: 1000, dt: 10 }, "t_s", "eta");
    expect(eta[0][1]).toBeGreaterThan(eta[60][1] + 0.05);
  });

  it("says what is missing", () => {
    const { project } = kinds[0];
    const fan = componentsOf(project).find((c) => c.kind === "supplyFan");
    expect(makeBench(project, { kind: "component", path: fan?.path ?? [], more: 0 }, {})).toMatchObject({
      ok: false,
      message: expect.stringContaining("size"),
    });
    expect(makeBench(project, { kind: "face", key: "nowhere" }, {})).toMatchObject({ ok: false });
    expect(makeBench(project, { kind: "zone", id: "nowhere" }, {})).toMatchObject({ ok: false });
  });
  it("shows figures in the place of names", () => {
    expect(
      withNumbers(
        "max(0, Q / (m * cp))",
        new Map([
          ["Q", 100],
          ["m", -0.5],
          ["cp", 1006],
        ]),
        String,
      ),
    ).toBe("max(0, 100 / ((-0.5) * 1006))");
  });
});

describe("a face and a zone on their own", () => {
  it("have formulas that hold; a wall's layers lie between both airs, and a zone at its own temperature needs nothing", () => {
    const wall = deriveFaces(base).faces.find((f) => f.kind === "wall" && f.contact === "outdoors");
    const face = makeBench(base, { kind: "face", key: wall?.key ?? "" }, {});
    if (!face.ok) throw new Error(face.message);
    formulasHold(face.bench);
    const temperatures = face.bench.run({ t_o: 0, t_i: 20 }).filter((s) => /^t_\d/.test(s.name));
    for (let i = 1; i < temperatures.length; i++) expect(temperatures[i].value).toBeGreaterThan(temperatures[i - 1].value);
    const zone = makeBench(base, { kind: "zone", id: zones[0] }, {});
    if (!zone.ok) throw new Error(zone.message);
    formulasHold(zone.bench);
    const free = namesOf(zone.bench, { t_o: 3, I: 100, G: 400 }).get("t_f") ?? NaN;
    const held = namesOf(zone.bench, { t_o: 3, I: 100, G: 400, t_i: free });
    expect((held.get("Q_h") ?? NaN) + (held.get("Q_c") ?? NaN)).toBeLessThan(1e-6);
  });
});
