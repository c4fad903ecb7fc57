import { exp } from "../numeric/index.ts";

/** Sun of a cloudless hour on the horizontal, W/m². */
export interface ClearSky {
  readonly beamNormal: number;
  readonly global: number;
  readonly diffuse: number;
}

/** Elevation up to which Hottel's fit is given, km. */
const HIGHEST = 2.5;

/**
 * Irradiance of a standard clear sky: beam after Hottel 1976 (23 km visibility, mid-latitudes), diffuse after Liu and Jordan 1960.
 * @param cosZenith of the sun; 0 or less: night @param normal extraterrestrial irradiance normal to the sun, W/m² @param elevation m; taken as 2,500 m above that
 */
export function clearSkySun(cosZenith: number, normal: number, elevation: number): ClearSky {
  if (cosZenith <= 0) return { beamNormal: 0, global: 0, diffuse: 0 };
  const a = Math.max(0, Math.min(HIGHEST, elevation / 1000));
  const a0 = 0.4237 - 0.00821 * (6 - a) * (6 - a);
  const a1 = 0.5055 + 0.00595 * (6.5 - a) * (6.5 - a);
  const k = 0.2711 + 0.01858 * (2.5 - a) * (2.5 - a);
  const beam = a0 + a1 * exp(-k / cosZenith);
  const diffuse = Math.max(0, 0.271 - 0.294 * beam) * normal * cosZenith;
  return { beamNormal: beam * normal, diffuse, global: beam * normal * cosZenith + diffuse };
}
