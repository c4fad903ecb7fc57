import { exp } from "../numeric/index.ts";

/** Refractive index of a module's cover, its extinction, 1/m, and thickness, m (De Soto 2006, section 3). */
const INDEX = 1.526;
const EXTINCTION = 4;
const THICKNESS = 0.002;

/** Share of beam radiation that passes the cover at an angle of incidence, 1: one reflection at its face (Fresnel) and absorption on the way (Bouguer). @param cosine of the angle */
export function coverTransmittance(cosine: number): number {
  if (!(cosine > 0)) return 0;
  const c = cosine > 1 ? 1 : cosine;
  const inner = Math.sqrt(1 - (1 - c * c) / (INDEX * INDEX));
  const across = (c - INDEX * inner) / (c + INDEX * inner);
  const along = (INDEX * c - inner) / (INDEX * c + inner);
  return exp((-EXTINCTION * THICKNESS) / inner) * (1 - 0.5 * (across * across + along * along));
}

/** Incidence-angle modifier of a cover: what passes over what would pass at right angles, 1 (De Soto 2006, eq. 13). */
export const coverModifier = (cosine: number): number => coverTransmittance(cosine) / coverTransmittance(1);

/** Angle of incidence, degrees, at which beam radiation passes as diffuse radiation does: of the sky, and of the ground (Brandemuehl and Beckman 1980). @param tilt degrees */
export function diffuseAngles(tilt: number): { readonly sky: number; readonly ground: number } {
  return { sky: 59.7 - 0.1388 * tilt + 0.001497 * tilt * tilt, ground: 90 - 0.5788 * tilt + 0.002693 * tilt * tilt };
}
