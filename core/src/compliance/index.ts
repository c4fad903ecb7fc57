export * from "./submission.ts";
export * from "./facts.ts";
export * from "./atLimit.ts";
export * from "./reference.ts";
export * from "./checks.ts";
export * from "./years.ts";
export * from "./result.ts";
