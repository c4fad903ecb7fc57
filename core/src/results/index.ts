export * from "./comfort.ts";
export * from "./log.ts";
export * from "./run.ts";
export * from "./summary.ts";
export * from "./pricing.ts";
export * from "./difference.ts";
export * from "./sizing.ts";
export * from "./statistics.ts";
