export * from "./weatherCsv.ts";
