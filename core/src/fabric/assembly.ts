import { massClasses, type Assembly, type Layer, type Project, quantity } from "../model/index.ts";
import { circuitPlane, resistanceLayer, solidLayer, type LayerPhysics } from "./transfer.ts";

/** Surface resistances by direction of heat flow, m²K/W (ISO 6946:2017, table 7). */
export const SURFACE_RESISTANCE = { horizontal: 0.13, up: 0.1, down: 0.17, outside: 0.04 } as const;

/** What the physics of an assembly is read from: a project, a library, or either with a draft. */
export type MaterialSource = Pick<Project, "materials">;

/** Conductivity, W/m·K, density, kg/m³, specific heat, J/kg·K, of the mass of a rated assembly, dense concrete: typical, unverified. */
const RATED_MASS = { conductivity: 2, density: 2400, specificHeat: 1000 } as const;

/** Layers of an assembly known by its U and class of mass alone (ISO 52016-1:2017, 6.5.7.2). @throws RangeError where the mass alone resists more than the U allows */
function ratedLayers(use: Assembly["use"], rated: NonNullable<Assembly["rated"]>): LayerPhysics[] {
  const [rse, rsi] = surfaceResistances(use);
  const r = 1 / rated.u - rse - rsi;
  const m = RATED_MASS;
  const capacity = massClasses[rated.mass];
  if (!(r > 0)) throw new RangeError(`its U of ${quantity(rated.u, "W/m²K")} is more than its surfaces alone let through`);
  if (rated.at === "spread") return [solidLayer(0.1, 0.1 / r, capacity / (0.1 * m.specificHeat), m.specificHeat)];
  const thickness = capacity / (m.density * m.specificHeat);
  const rest = r - thickness / m.conductivity;
  if (!(rest > 1e-5))
    throw new RangeError(`its U of ${quantity(rated.u, "W/m²K")} leaves no room for the resistance of its mass; choose a lighter class or spread it`);
  const mass = solidLayer(thickness, m.conductivity, m.density, m.specificHeat);
  return rated.at === "inside" ? [resistanceLayer(rest), mass] : [mass, resistanceLayer(rest)];
}

/** A layer with its bridge side by side, all heat flows parallel: the layer of the lower limit of ISO 6946. */
function mixedLayer(source: MaterialSource, l: Layer): LayerPhysics {
  if (l.kind === "circuit") return circuitPlane();
  const bridge = l.bridge && (l.kind === "solid" || l.thickness !== undefined) ? l.bridge : null;
  if (l.kind === "resistance") {
    if (!bridge) return resistanceLayer(l.resistance);
    const d = l.thickness as number;
    const b = source.materials[bridge.material];
    const conductivity = ((1 - bridge.share) * d) / l.resistance + bridge.share * b.conductivity;
    return solidLayer(d, conductivity, bridge.share * b.density, b.specificHeat);
  }
  const m = source.materials[l.material];
  if (!bridge) return solidLayer(l.thickness, m.conductivity, m.density, m.specificHeat);
  const b = source.materials[bridge.material];
  const f = bridge.share;
  const density = (1 - f) * m.density + f * b.density;
  const capacity = (1 - f) * m.density * m.specificHeat + f * b.density * b.specificHeat;
  return solidLayer(l.thickness, (1 - f) * m.conductivity + f * b.conductivity, density, density > 0 ? capacity / density : 0);
}

/** Resistance, m²K/W, of a layer where it is not bridged and where it is, with the share of each. */
function sections(source: MaterialSource, l: Layer): readonly (readonly [share: number, resistance: number])[] {
  if (l.kind === "circuit") return [[1, 0]];
  const d = l.thickness ?? 0;
  const own = l.kind === "solid" ? l.thickness / source.materials[l.material].conductivity : l.resistance;
  if (!l.bridge || d === 0) return [[1, own]];
  return [
    [1 - l.bridge.share, own],
    [l.bridge.share, d / source.materials[l.bridge.material].conductivity],
  ];
}

/** Upper and lower limit of the total resistance with surfaces, m²K/W, and the mean of both that ISO 6946:2017, 6.7.2, takes. */
export interface BridgedResistance {
  readonly upper: number;
  readonly lower: number;
  readonly total: number;
}

/** Total resistance of an assembly with bridged layers, surfaces included; bridges of different layers cross each other. Null where no layer is bridged. */
export function bridgedResistance(source: MaterialSource, assembly: Assembly): BridgedResistance | null {
  if (!assembly.layers.some((l) => l.kind !== "circuit" && l.bridge)) return null;
  const [rse, rsi] = surfaceResistances(assembly.use);
  let ways: (readonly [number, number])[] = [[1, rse + rsi]];
  for (const l of assembly.layers) {
    const parts = sections(source, l);
    ways = ways.flatMap(([share, r]) => parts.map(([f, own]): readonly [number, number] => [share * f, r + own]));
  }
  const upper = 1 / ways.reduce((s, [share, r]) => s + share / r, 0);
  const lower = rse + rsi + assembly.layers.reduce((s, l) => s + mixedLayer(source, l).resistance, 0);
  return { upper, lower, total: (upper + lower) / 2 };
}

/**
 * Layers of an assembly with their physics, from outside to inside; a circuit is a plane among them. A bridged layer is
 * one homogeneous layer of the same mass and heat capacity, its conductivity such that the whole has the resistance of
 * ISO 6946, so that the year and the U agree. A rated assembly gives the layers that stand for it.
 * @throws RangeError for a rated assembly whose mass does not fit its U
 */
export function assemblyLayers(source: MaterialSource, assembly: Assembly): LayerPhysics[] {
  if (assembly.rated) return ratedLayers(assembly.use, assembly.rated);
  const layers = assembly.layers.map((l) => mixedLayer(source, l));
  const bridged = bridgedResistance(source, assembly);
  if (!bridged) return layers;
  const isBridged = assembly.layers.map((l) => l.kind !== "circuit" && l.bridge !== undefined);
  const of = (which: boolean): number => layers.reduce((s, l, i) => s + (isBridged[i] === which ? l.resistance : 0), 0);
  const [rse, rsi] = surfaceResistances(assembly.use);
  const factor = (bridged.total - rse - rsi - of(false)) / of(true);
  return layers.map((l, i) => (isBridged[i] ? solidLayer(l.thickness, l.conductivity / factor, l.density, l.specificHeat) : l));
}

/** Sum of layer resistances, surface to surface, m²K/W. */
export function layersResistance(layers: readonly LayerPhysics[]): number {
  return layers.reduce((s, l) => s + l.resistance, 0);
}

/** Surface resistances, m²K/W, that go with the use of an assembly: [outside, inside]. */
export function surfaceResistances(use: Assembly["use"]): readonly [number, number] {
  const r = SURFACE_RESISTANCE;
  switch (use) {
    case "roof":
      return [r.outside, r.up];
    case "exposed floor":
      return [r.outside, r.down];
    case "ground floor":
      return [0, r.down];
    case "interior wall":
      return [r.horizontal, r.horizontal];
    case "interior floor":
      return [r.down, r.down];
    default:
      return [r.outside, r.horizontal];
  }
}

/** Thermal transmittance, W/m²K, with the surface resistances of its use (ISO 6946:2017, 6.7.1); a ground floor without the ground. */
export function assemblyU(source: MaterialSource, assembly: Assembly): number {
  const [rse, rsi] = surfaceResistances(assembly.use);
  return 1 / (rse + layersResistance(assemblyLayers(source, assembly)) + rsi);
}

/** Mass, kg/m², and heat capacity, J/m²K, of all layers. */
export function assemblyMass(source: MaterialSource, assembly: Assembly): { readonly mass: number; readonly capacity: number } {
  const layers = assemblyLayers(source, assembly);
  return {
    mass: layers.reduce((s, l) => s + l.thickness * l.density, 0),
    capacity: layers.reduce((s, l) => s + l.thickness * l.density * l.specificHeat, 0),
  };
}

/**
 * Resistance of an unventilated air layer, m²K/W, by its thickness and the direction of heat flow
 * (ISO 6946:2017, table 8), interpolated.
 * @param thickness m, 0 to 0.3
 */
export function airLayerResistance(thickness: number, flow: "up" | "horizontal" | "down"): number {
  const at = [0, 0.005, 0.007, 0.01, 0.015, 0.025, 0.05, 0.1, 0.3];
  const values = {
    up: [0, 0.11, 0.13, 0.15, 0.16, 0.16, 0.16, 0.16, 0.16],
    horizontal: [0, 0.11, 0.13, 0.15, 0.17, 0.18, 0.18, 0.18, 0.18],
    down: [0, 0.11, 0.13, 0.15, 0.17, 0.19, 0.21, 0.22, 0.23],
  }[flow];
  const d = Math.min(0.3, Math.max(0, thickness));
  const i = Math.min(at.length - 2, Math.max(0, at.findIndex((x) => x > d) < 0 ? at.length - 2 : at.findIndex((x) => x > d) - 1));
  return values[i] + ((d - at[i]) / (at[i + 1] - at[i])) * (values[i + 1] - values[i]);
}

/** Direction of heat flow through an assembly in the heating season. */
export const heatFlowOf = (use: Assembly["use"]): "up" | "horizontal" | "down" =>
  use === "roof" || use === "interior floor" ? "up" : use === "ground floor" || use === "exposed floor" ? "down" : "horizontal";

/** Least resistance of the layers that thermal bridges leave, m²K/W. */
const LEAST_LAYERS = 0.01;

/**
 * Layers of the same mass whose U is higher by what thermal bridges add, W/m²K: the layer that resists most gives way
 * first, then all of them alike. A negative addition makes the wall resist more.
 * @param surfaces both surface resistances of the U, m²K/W
 */
export function withBridges(layers: readonly LayerPhysics[], surfaces: number, added: number): LayerPhysics[] {
  const resistance = layersResistance(layers);
  const u = 1 / (resistance + surfaces);
  const wanted = Math.max(LEAST_LAYERS, 1 / Math.max(1e-3, u + added) - surfaces);
  const best = layers.reduce((b, l, i) => (l.resistance > layers[b].resistance ? i : b), 0);
  const left = layers[best].resistance + wanted - resistance;
  const to = (l: LayerPhysics, r: number): LayerPhysics =>
    l.thickness > 0 ? solidLayer(l.thickness, l.thickness / r, l.density, l.specificHeat) : resistanceLayer(r);
  if (left > 0.1 * layers[best].resistance) return layers.map((l, i) => (i === best ? to(l, left) : l));
  return layers.map((l) => (l.resistance > 0 ? to(l, (l.resistance * wanted) / resistance) : l));
}
