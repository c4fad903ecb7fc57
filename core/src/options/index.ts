export * from "./options.ts";
export * from "./differences.ts";
