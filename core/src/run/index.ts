export * from "./fuelMeter.ts";
export * from "./bill.ts";
export * from "./valueFile.ts";
