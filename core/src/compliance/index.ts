export * from "./check.ts";
export * from "./pack.ts";
export * from "./plateau.ts";
export * from "./reference.ts";
