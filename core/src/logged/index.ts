export * from "./clean.ts";
export * from "./readings.ts";
export * from "./hourly.ts";
export * from "./pointFile.ts";
export * from "./errors.ts";
