export * from "./pack.ts";
export * from "./plateau.ts";
