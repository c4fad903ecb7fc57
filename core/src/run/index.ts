export * from "./fuelMeter.ts";
export * from "./bill.ts";
