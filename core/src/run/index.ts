export * from "./fuelMeter.ts";
export * from "./componentMeter.ts";
export * from "./bill.ts";
export * from "./valueFile.ts";
export * from "./unmetCauses.ts";
export * from "./arrayMeter.ts";
export * from "./waterMeter.ts";
export * from "./onSite.ts";
