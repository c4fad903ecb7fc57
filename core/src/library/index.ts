export * from "./materials.ts";
export * from "./assemblies.ts";
export * from "./glazings.ts";
export * from "./byPack.ts";
export * from "./shipped.ts";
export * from "./devices.ts";
export * from "./take.ts";
export * from "./mine.ts";
