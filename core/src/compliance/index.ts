export * from "./check.ts";
export * from "./reference.ts";
