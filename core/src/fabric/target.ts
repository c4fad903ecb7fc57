import { quantity } from "../model/index.ts";
import type { Assembly } from "../model/index.ts";
import { assemblyU, type MaterialSource } from "./assembly.ts";

/** Thinnest and thickest layer that is offered, m. */
const THINNEST = 1e-4;
const THICKEST = 10;

export type ThicknessFound =
  { readonly ok: true; readonly layer: string; readonly now: number; readonly thickness: number } | { readonly ok: false; readonly message: string };

const withThickness = (a: Assembly, layer: string, thickness: number): Assembly => ({
  ...a,
  layers: a.layers.map((l) => (l.kind === "solid" && l.id === layer ? { ...l, thickness } : l)),
});

/**
 * Thickness of one layer for the whole assembly to have a wanted U, W/m²K. Where no layer is bridged it is
 * λ·(1/U − rest), else found by halving: U falls as any layer grows.
 */
export function thicknessForTarget(source: MaterialSource, assembly: Assembly, layer: string, u: number): ThicknessFound {
  const l = assembly.layers.find((x) => x.id === layer);
  if (!l || l.kind !== "solid") return { ok: false, message: "This layer has no thickness to find." };
  if (!(u > 0)) return { ok: false, message: "U must be more than 0." };
  const name = source.materials[l.material].name;
  const uAt = (d: number): number => assemblyU(source, withThickness(assembly, layer, d));
  const [most, least] = [uAt(THINNEST), uAt(THICKEST)];
  if (u > most) return { ok: false, message: `Without ${name} at all the other layers already give U ${quantity(most, "W/m²K", 3)}.` };
  if (u < least)
    return {
      ok: false,
      message: `Even ${quantity(THICKEST, "m")} of ${name} give no less than U ${quantity(least, "W/m²K", 3)}: its bridges or its conductivity decide.`,
    };
  const bridged = assembly.layers.some((x) => x.kind !== "circuit" && x.bridge);
  if (!bridged) {
    const { conductivity } = source.materials[l.material];
    const rest = 1 / assemblyU(source, assembly) - l.thickness / conductivity;
    return { ok: true, layer, now: l.thickness, thickness: Math.min(THICKEST, Math.max(THINNEST, conductivity * (1 / u - rest))) };
  }
  let [thin, thick] = [THINNEST, THICKEST];
  for (let i = 0; i < 60; i++) {
    const middle = (thin + thick) / 2;
    if (uAt(middle) > u) thin = middle;
    else thick = middle;
  }
  return { ok: true, layer, now: l.thickness, thickness: (thin + thick) / 2 };
}

/** Thickness, m, of one layer for it to have a wanted resistance of its own, m²K/W: d = λ·R, of its own material where it is not bridged. */
export function thicknessForResistance(source: MaterialSource, assembly: Assembly, layer: string, resistance: number): ThicknessFound {
  const l = assembly.layers.find((x) => x.id === layer);
  if (!l || l.kind !== "solid") return { ok: false, message: "This layer has no thickness to find." };
  const thickness = source.materials[l.material].conductivity * resistance;
  if (!(thickness >= THINNEST && thickness <= THICKEST))
    return {
      ok: false,
      message: `A resistance of ${quantity(resistance, "m²K/W")} would take ${quantity(Number(thickness.toPrecision(3)), "m")} of ${source.materials[l.material].name}.`,
    };
  return { ok: true, layer, now: l.thickness, thickness };
}

/** The layer of an assembly that insulates best, by its id; null where no layer has mass. */
export function insulatingLayer(source: MaterialSource, assembly: Assembly): string | null {
  let best: string | null = null;
  let conductivity = Infinity;
  for (const l of assembly.layers)
    if (l.kind === "solid" && source.materials[l.material].conductivity < conductivity) {
      conductivity = source.materials[l.material].conductivity;
      best = l.id;
    }
  return best;
}
