export * from "./options.ts";
export * from "./differences.ts";
export * from "./influences.ts";
export * from "./screening.ts";
