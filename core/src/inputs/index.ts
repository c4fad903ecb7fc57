export * from "./massing.ts";
export * from "./resolve.ts";
export * from "./starter.ts";
export * from "./zoning.ts";
export * from "./override.ts";
export * from "./bridges.ts";
