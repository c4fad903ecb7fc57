import type { Assembly, Project } from "../model/index.ts";
import { circuitPlane, resistanceLayer, solidLayer, type LayerPhysics } from "./transfer.ts";

/** Surface resistances by direction of heat flow, m²K/W (ISO 6946:2017, table 7). */
export const SURFACE_RESISTANCE = { horizontal: 0.13, up: 0.1, down: 0.17, outside: 0.04 } as const;

/** Layers of an assembly with their physics, from outside to inside; a circuit is a plane among them. */
export function assemblyLayers(project: Project, assembly: Assembly): LayerPhysics[] {
  return assembly.layers.map((l) => {
    if (l.kind === "resistance") return resistanceLayer(l.resistance);
    if (l.kind === "circuit") return circuitPlane();
    const m = project.materials[l.material];
    return solidLayer(l.thickness, m.conductivity, m.density, m.specificHeat);
  });
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
export function assemblyU(project: Project, assembly: Assembly): number {
  const [rse, rsi] = surfaceResistances(assembly.use);
  return 1 / (rse + layersResistance(assemblyLayers(project, assembly)) + rsi);
}
