export * from "./check.ts";
export * from "./compile.ts";
export * from "./enclosure.ts";
export * from "./kernel.ts";
export * from "./model.ts";
export * from "./catalogue.ts";
export * from "./weather.ts";
