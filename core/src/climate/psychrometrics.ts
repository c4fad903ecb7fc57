import { exp, log, pow } from "../numeric/index.ts";

/** Saturation pressure of water vapour, Pa, over ice below 0 °C (Hyland and Wexler 1983; ASHRAE Fundamentals 2017, ch. 1, eq. 5 and 6). @param t °C, −100…200 */
export function saturationPressure(t: number): number {
  const k = t + 273.15;
  if (t < 0) return exp(-5.6745359e3 / k + 6.3925247 + k * (-9.677843e-3 + k * (6.2215701e-7 + k * (2.0747825e-9 - 9.484024e-13 * k))) + 4.1635019 * log(k));
  return exp(-5.8002206e3 / k + 1.3914993 + k * (-4.8640239e-2 + k * (4.1764768e-5 - 1.4452093e-8 * k)) + 6.5459673 * log(k));
}

/** Humidity ratio, kg/kg, from vapour pressure and total pressure, Pa (ASHRAE Fundamentals 2017, ch. 1, eq. 20). */
export function humidityRatioOf(vapourPressure: number, pressure: number): number {
  return (0.621945 * vapourPressure) / (pressure - vapourPressure);
}

/** Humidity ratio, kg/kg. @param t °C @param rh relative humidity 0…1 @param pressure Pa */
export function humidityRatio(t: number, rh: number, pressure: number): number {
  return humidityRatioOf(rh * saturationPressure(t), pressure);
}

/** Vapour pressure, Pa, of air with humidity ratio w, kg/kg. */
export function vapourPressure(w: number, pressure: number): number {
  return (w * pressure) / (0.621945 + w);
}

/** Relative humidity, 0…1 (above 1: fog). @param t °C @param w kg/kg @param pressure Pa */
export function relativeHumidity(t: number, w: number, pressure: number): number {
  return vapourPressure(w, pressure) / saturationPressure(t);
}

/** Specific enthalpy of moist air, J per kg of dry air (eq. 30). @param t °C @param w kg/kg */
export function enthalpy(t: number, w: number): number {
  return 1000 * (1.006 * t + w * (2501 + 1.86 * t));
}

/** Specific volume, m³ per kg of dry air (eq. 26). @param t °C @param w kg/kg @param pressure Pa */
export function specificVolume(t: number, w: number, pressure: number): number {
  return (287.042 * (t + 273.15) * (1 + 1.607858 * w)) / pressure;
}

/** Dew point (frost point below 0 °C), °C: the temperature whose saturation pressure is the vapour pressure, to 1e-9 K. @param pw Pa, above 0 */
export function dewPoint(pw: number): number {
  let t = pw > 611.2 ? (243.5 * log(pw / 611.2)) / (17.67 - log(pw / 611.2)) : (272.62 * log(pw / 611.2)) / (22.46 - log(pw / 611.2));
  const overWater = pw >= saturationPressure(0);
  for (let i = 0; i < 12; i++) {
    if (overWater ? t < 0 : t >= 0) t = overWater ? 0 : -1e-12;
    const f = log(saturationPressure(t) / pw);
    // to one side: the curves over ice and over water do not quite meet at 0 °C
    const side = t < 0 ? -1e-4 : 1e-4;
    const slope = (log(saturationPressure(t + side)) - log(saturationPressure(t))) / side;
    const step = f / slope;
    t -= step;
    if (Math.abs(step) < 1e-10) break;
  }
  return overWater && t < 0 ? 0 : t;
}

/** Pressure of the standard atmosphere, Pa (ASHRAE Fundamentals 2017, ch. 1, eq. 3). @param elevation m */
export function standardPressure(elevation: number): number {
  return 101325 * pow(1 - 2.25577e-5 * elevation, 5.2559);
}

/** Wet-bulb temperature, °C, over ice below 0 °C (eq. 33 and 35 solved by bisection to 1e-9 K). @param t °C @param w kg/kg */
export function wetBulb(t: number, w: number, pressure: number): number {
  let lo = Math.min(dewPoint(Math.max(1e-3, vapourPressure(w, pressure))), t) - 1;
  let hi = t;
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2;
    const at = wetBulbHumidity(t, mid, pressure);
    if (at > w) hi = mid;
    else lo = mid;
  }
  return (lo + hi) / 2;
}

/** The same by three Newton steps from a guess, within 0.02 K between 5 and 35 °C: for what is asked for every step. @param guess °C */
export function wetBulbFrom(t: number, w: number, pressure: number, guess: number): number {
  let wet = guess < t ? guess : t - 0.01;
  for (let i = 0; i < 3; i++) {
    const at = wetBulbHumidity(t, wet, pressure);
    const slope = (wetBulbHumidity(t, wet + 0.01, pressure) - at) / 0.01;
    wet += (w - at) / slope;
    if (wet > t) wet = t;
  }
  return wet;
}

/** Humidity ratio, kg/kg, from dry-bulb and wet-bulb temperature, °C (eq. 33 and 35); below zero where the wet bulb is too low to be. */
export function wetBulbHumidity(t: number, wet: number, pressure: number): number {
  const ws = humidityRatio(wet, 1, pressure);
  return wet >= 0
    ? ((2501 - 2.326 * wet) * ws - 1.006 * (t - wet)) / (2501 + 1.86 * t - 4.186 * wet)
    : ((2830 - 0.24 * wet) * ws - 1.006 * (t - wet)) / (2830 + 1.86 * t - 2.1 * wet);
}
