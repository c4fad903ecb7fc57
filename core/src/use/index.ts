export * from "./schedules.ts";
export * from "./fromValues.ts";
