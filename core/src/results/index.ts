export * from "./comfort.ts";
export * from "./log.ts";
export * from "./run.ts";
export * from "./summary.ts";
export * from "./sizing.ts";
