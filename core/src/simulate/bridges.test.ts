import { describe, expect, it } from "vitest";
import { assemblyLayers, assemblyU, glazingRating, insulatingLayer, layersResistance, thicknessForTarget, withBridges } from "../fabric/index.ts";
import { deriveFaces, deriveOpenings, junctionLengths } from "../geometry/index.ts";
import { faceAssembly, thermalBridges, transmission } from "../inputs/index.ts";
import type { Kit, Project } from "../model/index.ts";
import { runToEnd } from "../results/index.ts";
import { boxProject, steadyWeather } from "../verification/box.ts";

const box = boxProject({ glass: 0.3, gains: 0, infiltration: 0 });
const withKit = (bridges: Kit["bridges"], p: Project = box): Project => ({ ...p, kits: { kit: { ...p.kits.kit, ...(bridges ? { bridges } : {}) } } });
const formOf = (p: Project) => {
  const geometry = deriveFaces(p);
  return { geometry, openings: deriveOpenings(p, geometry).openings };
};
/** Heat, W, that holds the box at its set-point in an air of 0 °C without sun, at the end of five days. */
function load(p: Project): number {
  const r = runToEnd(p, steadyWeather(0), { stepsPerHour: 1, period: { firstDay: 40, days: 5 }, series: ["heating"] });
  const values = r.series.filter((s) => s.quantity === "heating").map((s) => s.values[s.values.length - 1]);
  return values.reduce((a, b) => a + b, 0);
}

describe("junctions of the box, 8 m by 6 m and 2.7 m high", () => {
  it("are found from its geometry", () => {
    const { geometry, openings } = formOf(box);
    const [lengths] = [...junctionLengths(geometry, openings).values()];
    expect(lengths.eaves).toBeCloseTo(28, 6);
    expect(lengths.ground + lengths.exposed).toBeCloseTo(28, 6);
    expect(lengths.corner).toBeCloseTo(4 * 2.7, 6);
    expect(lengths.reentrant).toBe(0);
    expect(lengths.storey).toBe(0);
    expect(lengths.opening).toBeCloseTo(
      openings.reduce((s, o) => s + 2 * (o.width + o.height), 0),
      9,
    );
    expect(lengths.opening).toBeGreaterThan(5);
  });
  it("of two rooms side by side: the wall between them has none, what is outside stays the same in sum", () => {
    const two = boxProject({ glass: 0.3, second: { heating: 20, cooling: 27 } });
    const { geometry, openings } = formOf(two);
    const all = [...junctionLengths(geometry, openings).values()];
    expect(all.reduce((s, l) => s + l.eaves, 0)).toBeCloseTo(2 * (16 + 6), 6);
    expect(all.reduce((s, l) => s + l.corner, 0)).toBeCloseTo(4 * 2.7, 6);
  });
});

describe("thermal bridges", () => {
  it("are nothing where no kit has any, to the bit", () => {
    expect(thermalBridges(box, formOf(box).geometry, []).size).toBe(0);
    expect(load(withKit({}))).toBe(load(box));
  });
  /** The box with less insulation in its outdoor assemblies, for the U that is asked of each. */
  const thinner = (u: (now: number) => number): Project => {
    const outdoor = new Set(
      formOf(box)
        .geometry.faces.filter((f) => f.contact === "outdoors")
        .map((f) => faceAssembly(box, f).id),
    );
    const assemblies = { ...box.assemblies };
    for (const id of outdoor) {
      const a = assemblies[id];
      const layer = insulatingLayer(box, a) as string;
      const found = thicknessForTarget(box, a, layer, u(assemblyU(box, a)));
      if (!found.ok) throw new Error(found.message);
      assemblies[id] = { ...a, layers: a.layers.map((l) => (l.kind === "solid" && l.id === layer ? { ...l, thickness: found.thickness } : l)) };
    }
    return { ...box, assemblies };
  };
  it("add Σψ·l, spread over the outdoor opaque area: the loss is that of walls with as much less insulation", () => {
    const { geometry, openings } = formOf(box);
    const [l] = [...junctionLengths(geometry, openings).values()];
    const sum = 0.2 * l.eaves + 0.1 * l.corner + 0.05 * l.opening + 0.15 * (l.exposed + l.ground);
    const area = geometry.faces.filter((f) => f.contact === "outdoors").reduce((s, f) => s + f.area, 0) - openings.reduce((s, o) => s + o.area, 0);
    const bridged = load(withKit({ eaves: 0.2, corner: 0.1, opening: 0.05, exposed: 0.15, ground: 0.15 }));
    const expected = load(thinner((u) => u + sum / area));
    expect(bridged / expected).toBeCloseTo(1, 3);
    expect(bridged - load(box)).toBeGreaterThan(100);
  });
  it("as a share raise every U by it", () => {
    const bridged = load(withKit({ share: 0.2 }));
    expect(bridged / load(thinner((u) => 1.2 * u))).toBeCloseTo(1, 3);
  });
  it("stand beside what the faces let through by their U", () => {
    const { geometry, openings } = formOf(box);
    const window = openings.reduce((s, o) => s + o.area, 0);
    const walls = transmission(box, geometry, [], new Set(["a"]));
    const all = transmission(box, geometry, openings, new Set(["a"]));
    const u = assemblyU(box, box.assemblies.wall);
    expect(all - walls).toBeCloseTo(window * (glazingRating(box.glazings.glass).u - u), 9);
  });
  it("never leave layers without resistance, and a negative one insulates", () => {
    const layers = assemblyLayers(box, box.assemblies.wall);
    const r = layersResistance(layers);
    expect(1 / (layersResistance(withBridges(layers, 0.17, 0.1)) + 0.17)).toBeCloseTo(1 / (r + 0.17) + 0.1, 9);
    expect(layersResistance(withBridges(layers, 0.17, 500))).toBeCloseTo(0.01, 9);
    expect(layersResistance(withBridges(layers, 0.17, -0.05))).toBeGreaterThan(r);
    const mass = (ls: typeof layers): number => ls.reduce((s, l) => s + l.thickness * l.density, 0);
    expect(mass(withBridges(layers, 0.17, 0.3))).toBe(mass(layers));
  });
});
