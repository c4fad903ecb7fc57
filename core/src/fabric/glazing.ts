import { cos, log, PI, sin } from "../numeric/index.ts";
import type { Glazing } from "../model/index.ts";

/** Angular curves of transmittance by kind of glazing: T(θ)/T(0) = Σ cₙ cosⁿθ, c₄ … c₀ (Arasteh, Kohler and Griffith 2009, table 2). */
const CURVES: Record<string, readonly [number, number, number, number, number]> = {
  A: [1.4703e-2, 1.486, -3.852, 3.355, -1.474e-3],
  B: [5.546e-1, 3.563e-2, -2.416, 2.831, -2.037e-3],
  C: [7.709e-1, -6.383e-1, -1.576, 2.448, -2.042e-3],
  D: [3.462e-1, 3.963e-1, -2.582, 2.845, -2.804e-4],
  E: [2.883, -5.873, 2.489, 1.51, -2.577e-3],
  F: [3.025, -6.366, 3.137, 1.213, -1.367e-3],
  G: [3.229, -6.844, 3.535, 1.088, -2.891e-3],
  H: [3.334, -7.131, 3.829, 9.766e-1, -2.952e-3],
  I: [3.146, -6.855, 3.931, 7.86e-1, -2.934e-3],
  J: [3.744, -8.836, 6.018, 8.407e-2, 4.825e-4],
};

/** Least solar reflectance of a glazing, 1: typical, unverified. */
const LEAST_REFLECTANCE = 0.02;

/** Curves averaged for a glazing, by U and g. Edges of the bins: typical, unverified. */
function curvesOf(u: number, g: number): readonly string[] {
  if (u > 3.9) return g > 0.65 ? ["A"] : g > 0.275 ? ["B", "D", "C", "D"] : ["D"];
  if (u > 1.55) return g > 0.525 ? ["E"] : g > 0.275 ? ["F", "G", "H", "I"] : ["F", "H"];
  return g > 0.45 ? ["E"] : ["J"];
}

/** What the year needs of a glazing. */
export interface GlazingPhysics {
  /** Surface-to-surface resistance with the rated films taken out, m²K/W. */
  readonly resistance: number;
  /** Solar transmittance and absorptance at normal incidence, 1. */
  readonly transmittance: number;
  readonly absorptance: number;
  /** The same for diffuse light (hemispherical), 1. */
  readonly diffuseTransmittance: number;
  readonly diffuseAbsorptance: number;
  /** Coefficients c₄ … c₀ of the angular factor. */
  readonly angular: readonly [number, number, number, number, number];
}

/** Share of the normal-incidence value at an incidence angle, 1. @param c cosine of the angle */
export function angularFactor(a: GlazingPhysics["angular"], c: number): number {
  if (c <= 0) return 0;
  return Math.max(0, Math.min(1, (((a[0] * c + a[1]) * c + a[2]) * c + a[3]) * c + a[4]));
}

/** Solar transmittance at normal incidence from U and g (Arasteh, Kohler and Griffith 2009, step 4). */
export function transmittanceFromGain(u: number, g: number): number {
  const single = g < 0.7206 ? 0.939998 * g * g + 0.20332 * g : 1.30415 * g - 0.30515;
  const double = g <= 0.15 ? 0.4104 * g : 0.085775 * g * g + 0.963954 * g - 0.084958;
  if (u > 4.5) return single;
  if (u < 3.4) return double;
  return double + ((u - 3.4) / 1.1) * (single - double);
}

/**
 * Physics of a glazing from U, g and the films its U contains: the films come out of the resistance, g
 * is split into transmitted and absorbed-inward, and absorption is spread through the resistance. The
 * absorbed part follows the angular curve of the transmitted one.
 * @throws RangeError when the rated films leave no resistance
 */
export function glazingPhysics(glazing: Pick<Glazing, "u" | "g" | "ratedFilms">): GlazingPhysics {
  const { u, g } = glazing;
  const ri = 1 / glazing.ratedFilms.inside;
  const ro = 1 / glazing.ratedFilms.outside;
  const resistance = 1 / u - ri - ro;
  if (resistance < 1e-4) throw new RangeError(`U ${u} W/m²K leaves no resistance between its rated films`);
  const transmittance = Math.min(g, transmittanceFromGain(u, g));
  // summer films of the source, step 4: they turn g − T into absorption
  const dT = g - transmittance;
  const rInside =
    u > 4.5
      ? 1 / (29.436546 * dT * dT * dT - 21.943415 * dT * dT + 9.945872 * dT + 7.426151)
      : 1 / (199.8208128 * dT * dT * dT - 90.639733 * dT * dT + 19.737055 * dT + 6.766575);
  const rOutside = u > 4.5 ? 1 / (2.225824 * dT + 20.57708) : 1 / (5.763355 * dT + 20.541528);
  const inward = (rOutside + 0.5 * resistance) / (rOutside + resistance + rInside);
  // some light is always reflected: a U and g that would need more absorption than that are taken at this limit
  const absorptance = Math.min(dT / inward, Math.max(0, 1 - transmittance - LEAST_REFLECTANCE));
  const names = curvesOf(u, g);
  const angular = [0, 1, 2, 3, 4].map((i) => names.reduce((s, k) => s + CURVES[k][i], 0) / names.length) as unknown as GlazingPhysics["angular"];
  let hemispherical = 0;
  const steps = 90;
  for (let i = 0; i < steps; i++) {
    const theta = ((i + 0.5) * PI) / 2 / steps;
    hemispherical += angularFactor(angular, cos(theta)) * 2 * sin(theta) * cos(theta) * (PI / 2 / steps);
  }
  return {
    resistance,
    transmittance,
    absorptance,
    diffuseTransmittance: hemispherical * transmittance,
    diffuseAbsorptance: hemispherical * absorptance,
    angular,
  };
}

/** Rated winter films, W/m²K, that belong to a U when nothing is known of its rating (Arasteh, Kohler and Griffith 2009, step 1). */
export function typicalRatedFilms(u: number): { inside: number; outside: number } {
  const ri = u < 5.85 ? 1 / (0.359073 * log(u) + 6.949915) : 1 / (1.788041 * u - 2.886625);
  return { inside: 1 / ri, outside: 0.025342 * u + 29.163853 };
}
