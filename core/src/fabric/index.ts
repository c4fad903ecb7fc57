export * from "./transfer.ts";
export * from "./reduction.ts";
export * from "./assembly.ts";
export * from "./films.ts";
export * from "./terrain.ts";
export * from "./glazing.ts";
export * from "./ground.ts";
