export * from "./mapping.ts";
export * from "./guess.ts";
export * from "./read.ts";
export * from "./mend.ts";
export { minutesOf, withoutSaving, yearOfMinutes } from "./times.ts";
