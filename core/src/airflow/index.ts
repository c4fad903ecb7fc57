export * from "./air.ts";
export * from "./infiltration.ts";
export * from "./pressure.ts";
export * from "./windows.ts";
export * from "./network.ts";
export * from "./facade.ts";
export * from "./lattice.ts";
