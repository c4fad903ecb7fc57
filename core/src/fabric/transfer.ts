import { atan2, cos, exp, PI, sin } from "../numeric/index.ts";

/** A layer of an assembly: with mass (thickness, conductivity, density, specific heat) or a resistance only. */
export interface LayerPhysics {
  /** m; 0 for a resistance only. */
  readonly thickness: number;
  /** W/m·K. */
  readonly conductivity: number;
  /** kg/m³. */
  readonly density: number;
  /** J/kg·K. */
  readonly specificHeat: number;
  /** m²K/W. */
  readonly resistance: number;
}

/** Layer with mass. */
export function solidLayer(thickness: number, conductivity: number, density: number, specificHeat: number): LayerPhysics {
  return { thickness, conductivity, density, specificHeat, resistance: thickness / conductivity };
}
/** Layer without mass. @param resistance m²K/W */
export function resistanceLayer(resistance: number): LayerPhysics {
  return { thickness: 0, conductivity: 0, density: 0, specificHeat: 0, resistance };
}

/** Plane of an embedded circuit among the layers: no thickness, no mass, no resistance. */
export const circuitPlane = (): LayerPhysics => resistanceLayer(0);
/** Whether a layer is only the plane of a circuit. */
export const isPlane = (l: LayerPhysics): boolean => l.resistance === 0;

export type Complex = readonly [number, number];
const mul = (a: Complex, b: Complex): Complex => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]];
const add = (a: Complex, b: Complex): Complex => [a[0] + b[0], a[1] + b[1]];
const sub = (a: Complex, b: Complex): Complex => [a[0] - b[0], a[1] - b[1]];
const times = (a: Complex, s: number): Complex => [a[0] * s, a[1] * s];
const over = (a: Complex, b: Complex): Complex => {
  const n = b[0] * b[0] + b[1] * b[1];
  return [(a[0] * b[0] + a[1] * b[1]) / n, (a[1] * b[0] - a[0] * b[1]) / n];
};
export const modulus = (a: Complex): number => Math.sqrt(a[0] * a[0] + a[1] * a[1]);

/** Heat transfer matrix: temperature and heat flow on side 2 from those on side 1. */
export interface TransferMatrix {
  readonly z11: Complex;
  readonly z12: Complex;
  readonly z21: Complex;
  readonly z22: Complex;
}

/** Matrix of one layer for a sinusoid of the given period, s (ISO 13786:2017, clause 7). */
export function layerMatrix(l: LayerPhysics, period: number): TransferMatrix {
  const capacity = l.density * l.specificHeat * l.thickness;
  if (capacity === 0) return { z11: [1, 0], z12: [-l.resistance, 0], z21: [0, 0], z22: [1, 0] };
  const depth = Math.sqrt((l.conductivity * period) / (PI * l.density * l.specificHeat));
  const xi = l.thickness / depth;
  const e = exp(xi);
  const sh = xi < 1e-3 ? xi + (xi * xi * xi) / 6 : (e - 1 / e) / 2;
  const ch = (e + 1 / e) / 2;
  const s = sin(xi);
  const c = cos(xi);
  const diagonal: Complex = [ch * c, sh * s];
  return {
    z11: diagonal,
    z12: times([sh * c + ch * s, ch * s - sh * c], -depth / (2 * l.conductivity)),
    z21: times([sh * c - ch * s, sh * c + ch * s], -l.conductivity / depth),
    z22: diagonal,
  };
}

/** Matrix of layers in order from side 1 to side 2. */
export function transferMatrix(layers: readonly LayerPhysics[], period: number): TransferMatrix {
  let t: TransferMatrix = { z11: [1, 0], z12: [0, 0], z21: [0, 0], z22: [1, 0] };
  for (const l of layers) {
    const m = layerMatrix(l, period);
    t = {
      z11: add(mul(m.z11, t.z11), mul(m.z12, t.z21)),
      z12: add(mul(m.z11, t.z12), mul(m.z12, t.z22)),
      z21: add(mul(m.z21, t.z11), mul(m.z22, t.z21)),
      z22: add(mul(m.z21, t.z12), mul(m.z22, t.z22)),
    };
  }
  return t;
}

/**
 * Complex temperature of each face per unit heat input at each face, K per W/m², for layers listed from
 * outside to inside with films on both sides. Index [face][input], 0 outside, 1 inside.
 */
export function faceResponse(
  layers: readonly LayerPhysics[],
  period: number,
  filmOutside: number,
  filmInside: number,
): readonly [readonly [Complex, Complex], readonly [Complex, Complex]] {
  const z = transferMatrix(layers, period);
  const a = sub(z.z11, times(z.z12, filmOutside));
  const denominator = sub(times(a, filmInside), sub(z.z21, times(z.z22, filmOutside)));
  const outFromIn = over([1, 0], denominator);
  const outFromOut = over(sub(z.z22, times(z.z12, filmInside)), denominator);
  return [
    [outFromOut, outFromIn],
    // the same as outFromIn by reciprocity; computed as a·outFromOut + z12 it would be lost to cancellation in thick walls
    [outFromIn, mul(a, outFromIn)],
  ];
}

/**
 * Complex temperature of the outside face, the inside face and the plane per unit heat input at the plane
 * of an embedded circuit, K per W/m², with films on both sides: the plane sees both parts in parallel.
 */
export function circuitResponse(
  layers: readonly LayerPhysics[],
  period: number,
  filmOutside: number,
  filmInside: number,
): readonly [Complex, Complex, Complex] {
  const at = layers.findIndex(isPlane);
  const part = (list: readonly LayerPhysics[], film: number): { plane: Complex; face: Complex } => {
    if (list.length === 0) return { plane: [1 / film, 0], face: [1 / film, 0] };
    // seen from the plane outward: layers from the face, adiabatic at the plane
    const r = faceResponse(list, period, film, 0);
    return { plane: r[1][1], face: r[0][1] };
  };
  const out = part(layers.slice(0, at), filmOutside);
  const inside = part([...layers.slice(at + 1)].reverse(), filmInside);
  const plane = over(mul(out.plane, inside.plane), add(out.plane, inside.plane));
  return [over(mul(plane, out.face), out.plane), over(mul(plane, inside.face), inside.plane), plane];
}

/** Periodic figures of ISO 13786 for an assembly with surface resistances, layers from outside to inside. */
export function periodicResponse(
  layers: readonly LayerPhysics[],
  period: number,
  rse: number,
  rsi: number,
): { decrement: number; timeShift: number; periodicTransmittance: number; insideAdmittance: number; u: number } {
  const inward = [resistanceLayer(rsi), ...[...layers].reverse(), resistanceLayer(rse)];
  const z = transferMatrix(inward, period);
  const y12 = over([-1, 0], z.z12);
  const u = 1 / inward.reduce((s, l) => s + l.resistance, 0);
  const phase = atan2(y12[1], y12[0]);
  const shift = ((((-phase * period) / (2 * PI)) % period) + period) % period;
  return { decrement: modulus(y12) / u, timeShift: shift, periodicTransmittance: modulus(y12), insideAdmittance: modulus(over(z.z11, z.z12)), u };
}
