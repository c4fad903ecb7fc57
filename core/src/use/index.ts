export * from "./schedules.ts";
export * from "./fromValues.ts";
export * from "./signals.ts";
