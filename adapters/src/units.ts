/** Factors to SI of the units the gbXML schema (6.01) names. */
const FOOT = 0.3048;
const INCH = 0.0254;
const POUND = 0.45359237;
const BTU = 1055.05585262;

export const lengthUnits: Readonly<Record<string, number>> = {
  Meters: 1,
  Kilometers: 1000,
  Centimeters: 0.01,
  Millimeters: 0.001,
  Feet: FOOT,
  Inches: INCH,
  Yards: 3 * FOOT,
  Miles: 1609.344,
};
export const areaUnits: Readonly<Record<string, number>> = {
  SquareMeters: 1,
  SquareKilometers: 1e6,
  SquareCentimeters: 1e-4,
  SquareMillimeters: 1e-6,
  SquareFeet: FOOT * FOOT,
  SquareInches: INCH * INCH,
  SquareYards: 9 * FOOT * FOOT,
};
export const volumeUnits: Readonly<Record<string, number>> = {
  CubicMeters: 1,
  CubicCentimeters: 1e-6,
  CubicMillimeters: 1e-9,
  CubicFeet: FOOT * FOOT * FOOT,
  CubicInches: INCH * INCH * INCH,
  CubicYards: 27 * FOOT * FOOT * FOOT,
};
export const transmittanceUnits: Readonly<Record<string, number>> = { WPerSquareMeterK: 1, BtuPerHourSquareFtF: 5.678263 };
export const resistanceUnits: Readonly<Record<string, number>> = { SquareMeterKPerW: 1, HrSquareFtFPerBTU: 1 / 5.678263 };
export const conductivityUnits: Readonly<Record<string, number>> = { WPerMeterK: 1, WPerCmC: 100, BtuPerHourFtF: 1.730735, BtuInPerHourSqFtF: 0.1442279 };
export const densityUnits: Readonly<Record<string, number>> = {
  KgPerCubicM: 1,
  GramsPerCubicCm: 1000,
  LbsPerCubicIn: POUND / (INCH * INCH * INCH),
  LbsPerCubicFt: POUND / (FOOT * FOOT * FOOT),
};
export const heatUnits: Readonly<Record<string, number>> = { JPerKgK: 1, BTUPerLbF: BTU / POUND / (5 / 9) };
export const powerUnits: Readonly<Record<string, number>> = {
  WattPerSquareMeter: 1,
  WattPerSquareFoot: 1 / (FOOT * FOOT),
  WattPerSquareFeet: 1 / (FOOT * FOOT),
};

/** °C of a temperature in a unit of the schema. */
export function toCelsius(value: number, unit: string): number {
  if (unit === "F") return ((value - 32) * 5) / 9;
  if (unit === "K") return value - 273.15;
  if (unit === "R") return (value * 5) / 9 - 273.15;
  return value;
}
