export * from "./sun.ts";
export * from "./sky.ts";
export * from "./psychrometrics.ts";
export * from "./weather.ts";
export * from "./synthesis.ts";
export * from "./zone.ts";
export * from "./shortYear.ts";
