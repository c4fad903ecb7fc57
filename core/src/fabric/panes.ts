import { asin, cos, DEG, exp, log, pow, sin } from "../numeric/index.ts";
import { STEFAN_BOLTZMANN } from "../climate/index.ts";

/** One pane at one angle: transmittance and reflectances of its sides, 1. */
export interface PaneOptics {
  readonly t: number;
  /** Side to outside, side to inside. */
  readonly rf: number;
  readonly rb: number;
}

/** What a stack of panes does with light from outside: transmitted, reflected, absorbed by pane; and its reflectance from inside, 1. */
export interface StackOptics {
  readonly t: number;
  readonly rf: number;
  readonly rb: number;
  readonly absorbed: readonly number[];
}

/**
 * Reflectance of one air–glass surface and share left by one crossing of a clear pane, from its normal
 * transmittance and reflectance (the inverse of the series of inner reflections; Rubin 1982).
 */
export function paneInterior(t: number, r: number): { surface: number; crossing: number } {
  if (t <= 0) return { surface: Math.min(0.99, r), crossing: 0 };
  const beta = t * t - r * r + 2 * r + 1;
  const surface = (beta - Math.sqrt(Math.max(0, beta * beta - 4 * (2 - r) * r))) / (2 * (2 - r));
  const crossing = surface > 1e-9 ? (r - surface) / (surface * t) : t;
  return { surface, crossing: Math.max(1e-6, Math.min(1, crossing)) };
}

/**
 * A pane at an angle for one polarisation, 1: Fresnel reflectance at the index that its normal
 * reflectance gives, absorption along the refracted path. Sides that reflect differently (coatings)
 * keep the ratio of what they do not reflect.
 * @param angle of incidence, radians @param p polarisation parallel to the plane of incidence
 */
export function paneAt(t0: number, rf0: number, rb0: number, angle: number, p: boolean): PaneOptics {
  const mean = 0.5 * (rf0 + rb0);
  const { surface, crossing } = paneInterior(t0, mean);
  const root = Math.sqrt(Math.max(0, surface));
  const index = (1 + root) / Math.max(1e-9, 1 - root);
  const c1 = cos(angle);
  const refracted = asin(Math.min(1, sin(angle) / Math.max(1, index)));
  const c2 = cos(refracted);
  const amplitude = p ? (index * c1 - c2) / (index * c1 + c2) : (c1 - index * c2) / (c1 + index * c2);
  const r = amplitude * amplitude;
  const a = crossing > 0 && t0 > 0 ? exp(log(crossing) / c2) : 0;
  const inner = 1 - r * r * a * a;
  const t = inner > 1e-12 ? (a * (1 - r) * (1 - r)) / inner : 0;
  const both = r + r * a * t;
  const side = (own: number): number => (mean < 1 ? 1 - Math.min(1, ((1 - both) * (1 - own)) / (1 - mean)) : 1);
  // a side cannot take up less than nothing
  return { t, rf: Math.max(0, Math.min(1 - t, side(rf0))), rb: Math.max(0, Math.min(1 - t, side(rb0))) };
}

/** Panes behind one another, from outside to inside, all inner reflections summed. */
export function stackOptics(panes: readonly PaneOptics[]): StackOptics {
  const n = panes.length;
  const below = new Array<number>(n + 1).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    const p = panes[i];
    below[i] = p.rf + (p.t * p.t * below[i + 1]) / (1 - p.rb * below[i + 1]);
  }
  let flux = 1;
  const absorbed = panes.map((p, i) => {
    const next = (flux * p.t) / (1 - p.rb * below[i + 1]);
    const a = flux * (1 - p.t - p.rf) + next * below[i + 1] * (1 - p.t - p.rb);
    flux = next;
    return Math.max(0, a);
  });
  let back = 0;
  for (const p of panes) back = p.rb + (p.t * p.t * back) / (1 - p.rf * back);
  return { t: flux, rf: below[0], rb: back, absorbed };
}

/** Gas of a gap between panes: linear in kelvin (ISO 15099:2003, annex B). */
const GASES = {
  air: { k: [2.873e-3, 7.76e-5], mu: [3.723e-6, 4.94e-8], cp: [1002.737, 1.2324e-2], mass: 28.97 },
  argon: { k: [2.285e-3, 5.149e-5], mu: [3.379e-6, 6.451e-8], cp: [521.9285, 0], mass: 39.948 },
  krypton: { k: [9.443e-4, 2.826e-5], mu: [2.213e-6, 7.777e-8], cp: [248.0907, 0], mass: 83.8 },
} as const;
export type Gas = keyof typeof GASES;
const GAS_CONSTANT = 8314.462618;

/** A gap between two panes. */
export interface GapPhysics {
  readonly gas: Gas;
  /** m. */
  readonly width: number;
  /** Emissivities of the two sides it has, 1. */
  readonly emissivity: readonly [number, number];
}

/**
 * Conductance of a closed gap, W/m²K: convection of ISO 15099:2003, 5.3.3 and radiation between its sides.
 * @param outer and @param inner temperature of the sides, °C @param tilt of the glazing from horizontal with the gap's
 * lower side heated, degrees: 90 upright, 0 flat and warm below, 180 flat and warm above
 * @param height of the glazing, m @param pressure of the gas, Pa
 */
export function gapConductance(gap: GapPhysics, outer: number, inner: number, tilt: number, height: number, pressure = 101325): number {
  const tm = 0.5 * (outer + inner) + 273.15;
  const g = GASES[gap.gas];
  const k = g.k[0] + g.k[1] * tm;
  const mu = g.mu[0] + g.mu[1] * tm;
  const cp = g.cp[0] + g.cp[1] * tm;
  const density = (pressure * g.mass) / (GAS_CONSTANT * tm);
  const dT = Math.abs(outer - inner);
  const w = gap.width;
  const rayleigh = (density * density * w * w * w * 9.81 * cp * dT) / (mu * k * tm);
  const nu = nusselt(rayleigh, height / w, tilt);
  const [e1, e2] = gap.emissivity;
  return (nu * k) / w + (4 * STEFAN_BOLTZMANN * tm * tm * tm) / (1 / e1 + 1 / e2 - 1);
}

/** Nusselt number of a closed gap (ISO 15099:2003, equations 45 to 53). @param aspect height over width */
export function nusselt(rayleigh: number, aspect: number, tilt: number): number {
  if (tilt > 90) return 1 + (uprightNusselt(rayleigh, aspect) - 1) * sin(tilt * DEG);
  if (tilt === 90) return uprightNusselt(rayleigh, aspect);
  if (rayleigh <= 0) return 1;
  if (tilt >= 60) {
    const sixty = sixtyNusselt(rayleigh, aspect);
    return sixty + ((tilt - 60) / 30) * (uprightNusselt(rayleigh, aspect) - sixty);
  }
  const c = rayleigh * cos(tilt * DEG);
  return 1 + 1.44 * Math.max(0, 1 - 1708 / c) * (1 - (1708 * pow(sin(1.8 * tilt * DEG), 1.6)) / c) + Math.max(0, pow(c / 5830, 1 / 3) - 1);
}

/** Of an upright gap. @see nusselt */
function uprightNusselt(rayleigh: number, aspect: number): number {
  const nu1 =
    rayleigh > 5e4
      ? 0.0673838 * pow(rayleigh, 1 / 3)
      : rayleigh > 1e4
        ? 0.028154 * pow(rayleigh, 0.4134)
        : 1 + (rayleigh > 0 ? 1.7596678e-10 * pow(rayleigh, 2.2984755) : 0);
  const nu2 = rayleigh > 0 ? 0.242 * pow(rayleigh / aspect, 0.272) : 1;
  return Math.max(nu1, nu2);
}

/** Of a gap at 60°. @see nusselt */
function sixtyNusselt(rayleigh: number, aspect: number): number {
  const x = pow(rayleigh / 3160, 20.6);
  const big = 0.5 / pow(1 + x, 0.1);
  const nu1 = pow(1 + pow((0.0936 * pow(rayleigh, 0.314)) / (1 + big), 7), 1 / 7);
  const nu2 = (0.104 + 0.175 / aspect) * pow(rayleigh, 0.283);
  return Math.max(nu1, nu2);
}
