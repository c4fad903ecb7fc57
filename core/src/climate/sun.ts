import { asin, atan2, cos, DEG, sin } from "../numeric/index.ts";

/** Direction to the sun. */
export interface SunPosition {
  /** Angle from the vertical, degrees, geometric (no refraction). */
  zenith: number;
  /** Degrees clockwise from north. */
  azimuth: number;
}

/**
 * Days from 2000-01-01 12:00 UT to 1 January 00:00 UT of a year. A typical year takes the sun of 2001, one with 29 February that of 2000.
 * @param year calendar year; absent: typical @param leap whether a typical year has 29 February
 */
export function yearEpoch(year?: number, leap = false): number {
  const y = (year ?? (leap ? 2000 : 2001)) - 1;
  const days = (n: number): number => 365 * n + Math.floor(n / 4) - Math.floor(n / 100) + Math.floor(n / 400);
  return days(y) - days(1999) - 0.5;
}
const EPOCH_2001 = yearEpoch(2001);

/**
 * Position of the sun to 0.01° over 1950–2050 (Michalsky 1988, the Astronomical Almanac's approximation).
 * @param days days from 2000-01-01 12:00 UT, fractions included
 */
export function sunPosition(days: number, latitude: number, longitude: number): SunPosition {
  const meanLongitude = (280.46 + 0.9856474 * days) % 360;
  const anomaly = ((357.528 + 0.9856003 * days) % 360) * DEG;
  const ecliptic = (meanLongitude + 1.915 * sin(anomaly) + 0.02 * sin(2 * anomaly)) * DEG;
  const obliquity = (23.439 - 4e-7 * days) * DEG;
  const sinEcliptic = sin(ecliptic);
  const rightAscension = atan2(cos(obliquity) * sinEcliptic, cos(ecliptic));
  const declination = asin(sin(obliquity) * sinEcliptic);
  const fraction = days + 0.5;
  const hourUt = (fraction - Math.floor(fraction)) * 24;
  const sidereal = (6.697375 + 0.0657098242 * days + hourUt) % 24;
  const hourAngle = (sidereal * 15 + longitude) * DEG - rightAscension;
  const phi = latitude * DEG;
  const cosDec = cos(declination);
  const east = -cosDec * sin(hourAngle);
  const north = cos(phi) * sin(declination) - sin(phi) * cosDec * cos(hourAngle);
  const up = sin(phi) * sin(declination) + cos(phi) * cosDec * cos(hourAngle);
  const azimuth = atan2(east, north) / DEG;
  return { zenith: 90 - asin(Math.max(-1, Math.min(1, up))) / DEG, azimuth: azimuth < 0 ? azimuth + 360 : azimuth };
}

/**
 * Unit vector to the sun (east, north, up), in the typical year where no other is given.
 * @param hour hours of local standard time since 1 January 00:00 @param epoch of the year (see `yearEpoch`)
 */
export function sunVector(hour: number, latitude: number, longitude: number, timeZone: number, epoch = EPOCH_2001): [number, number, number] {
  const p = sunPosition(epoch + (hour - timeZone) / 24, latitude, longitude);
  const s = sin(p.zenith * DEG);
  return [s * sin(p.azimuth * DEG), s * cos(p.azimuth * DEG), cos(p.zenith * DEG)];
}

/** Extraterrestrial normal irradiance, W/m² (solar constant 1367; Spencer 1971). @param day 0…365 */
export function extraterrestrial(day: number): number {
  const b = ((2 * 180 * day) / 365) * DEG;
  return 1367 * (1.00011 + 0.034221 * cos(b) + 0.00128 * sin(b) + 0.000719 * cos(2 * b) + 0.000077 * sin(2 * b));
}
