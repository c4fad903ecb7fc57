export * from "./parse.ts";
export * from "./check.ts";
export * from "./evaluate.ts";
