export * from "./air.ts";
