import { deflateRawSync, inflateRawSync } from "node:zlib";
import type { Fuel, FuelHours } from "@arroyo/core";

/** Fuel hour by hour as it is kept with a run: numbers as text of full precision, packed. */
export function encodeFuel(fuel: FuelHours): Buffer {
  const plain = {
    yearDays: fuel.yearDays,
    day: Array.from(fuel.day),
    year: Array.from(fuel.year),
    weight: Array.from(fuel.weight),
    hours: fuel.hours,
    water: Array.from(fuel.water),
    ...(fuel.made ? { made: Array.from(fuel.made) } : {}),
    fuels: Object.fromEntries(Object.entries(fuel.fuels).map(([name, values]) => [name, Array.from(values)])),
  };
  return deflateRawSync(Buffer.from(JSON.stringify(plain)));
}

/** What `encodeFuel` kept. */
export function decodeFuel(bytes: Buffer): FuelHours {
  const p = JSON.parse(inflateRawSync(bytes).toString("utf8")) as {
    yearDays: number;
    day: number[];
    year: number[];
    weight: number[];
    hours: number;
    water: number[];
    made?: number[];
    fuels: Partial<Record<Fuel, number[]>>;
  };
  return {
    yearDays: p.yearDays,
    day: Int32Array.from(p.day),
    year: Int32Array.from(p.year),
    weight: Float64Array.from(p.weight),
    hours: p.hours,
    water: Float64Array.from(p.water),
    ...(p.made ? { made: Float64Array.from(p.made) } : {}),
    fuels: Object.fromEntries(Object.entries(p.fuels).map(([name, values]) => [name, Float64Array.from(values)])),
  };
}
