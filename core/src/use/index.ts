export * from "./schedules.ts";
