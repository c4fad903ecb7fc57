import { cos, DEG, exp, log, PI, pow, acos } from "../numeric/index.ts";

/** Brightness coefficients of Perez et al. 1990, table 6: rows by sky clearness, columns F11 F12 F13 F21 F22 F23. */
const PEREZ = [
  [-0.008, 0.588, -0.062, -0.06, 0.072, -0.022],
  [0.13, 0.683, -0.151, -0.019, 0.066, -0.029],
  [0.33, 0.487, -0.221, 0.055, -0.064, -0.026],
  [0.568, 0.187, -0.295, 0.109, -0.152, -0.014],
  [0.873, -0.392, -0.362, 0.226, -0.462, 0.001],
  [1.132, -1.237, -0.412, 0.288, -0.823, 0.056],
  [1.06, -1.6, -0.359, 0.264, -1.127, 0.131],
  [0.678, -0.327, -0.25, 0.156, -1.377, 0.251],
];
const CLEARNESS_LIMITS = [1.065, 1.23, 1.5, 1.95, 2.8, 4.5, 6.2];
const COS_85 = cos(85 * DEG);

/** The coefficients in one row after another, and the limits between the rows, for loops that cannot afford objects. */
export const PEREZ_TABLE = Float64Array.from(PEREZ.flat());
export const PEREZ_LIMITS = Float64Array.from(CLEARNESS_LIMITS);

/** What of the model follows from the sun's height alone: zenith, rad, 1.041·z³, and air mass of Kasten and Young 1989. @param cosZenith above 0 */
export function perezHeight(cosZenith: number): [zenith: number, k: number, airMass: number] {
  const z = acos(Math.min(1, cosZenith));
  return [z, 1.041 * z * z * z, 1 / (cosZenith + 0.50572 * pow(Math.max(0.01, 96.07995 - z / DEG), -1.6364))];
}

/** cos 85°, below which cos z is not divided by. */
export const LEAST_COSINE = COS_85;

/** Circumsolar and horizon brightness of the anisotropic sky. */
export interface SkyBrightness {
  /** F1: circumsolar part of the diffuse horizontal irradiance, 1. */
  circumsolar: number;
  /** F2: horizon brightening, 1. */
  horizon: number;
  /** cos z, not below cos 85°, by which the circumsolar part is divided. */
  b: number;
}

/**
 * Perez, Ineichen, Seals, Michalsky and Stewart 1990.
 * @param diffuse diffuse horizontal irradiance, W/m² @param beam beam normal irradiance, W/m²
 * @param cosZenith cosine of the sun's zenith angle @param extraterrestrial normal, W/m²
 */
export function perezSky(diffuse: number, beam: number, cosZenith: number, extraterrestrial: number): SkyBrightness {
  const b = Math.max(COS_85, cosZenith);
  if (diffuse <= 0 || cosZenith <= 0) return { circumsolar: 0, horizon: 0, b };
  const [z, k, airMass] = perezHeight(cosZenith);
  const epsilon = ((diffuse + beam) / diffuse + k) / (1 + k);
  let bin = 0;
  while (bin < 7 && epsilon > CLEARNESS_LIMITS[bin]) bin++;
  const delta = (diffuse * airMass) / extraterrestrial;
  const f = PEREZ[bin];
  return {
    circumsolar: Math.max(0, f[0] + f[1] * delta + f[2] * z),
    horizon: f[3] + f[4] * delta + f[5] * z,
    b,
  };
}

/**
 * Emissivity of the sky, 1 (Martin and Berdahl 1984): clear-sky part by dew point, hour and pressure,
 * clouds taken as one opaque layer with its base at 2 km.
 * @param dewPoint °C @param hour local hour 0…24 @param pressure Pa @param cloud share of sky 0…1
 */
export function skyEmissivity(dewPoint: number, hour: number, pressure: number, cloud: number): number {
  const t = dewPoint / 100;
  const clear = 0.711 + 0.56 * t + 0.73 * t * t + 0.013 * cos((2 * PI * hour) / 24) + 0.00012 * (pressure / 100 - 1000);
  const e = clear + (1 - clear) * cloud * exp(-2 / 8.2);
  return Math.min(1, e);
}

/**
 * Emissivity of the sky, 1: clear sky of Clark and Allen 1978 with the cloud factor of Walton 1983.
 * @param dewPoint °C @param cloud share of sky 0…1
 */
export function clarkAllenEmissivity(dewPoint: number, cloud: number): number {
  const n = 10 * cloud;
  const clear = 0.787 + 0.764 * log((dewPoint + 273.15) / 273);
  return Math.min(1, clear * (1 + 0.0224 * n - 0.0035 * n * n + 0.00028 * n * n * n));
}

export const STEFAN_BOLTZMANN = 5.670374419e-8;

/** Radiating temperature of the sky, °C, from its downward infrared irradiance, W/m². */
export function skyTemperature(infrared: number): number {
  return Math.sqrt(Math.sqrt(infrared / STEFAN_BOLTZMANN)) - 273.15;
}
