export * from "./errors.ts";
export * from "./clean.ts";
