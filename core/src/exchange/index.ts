export * from "./weatherCsv.ts";
export * from "./records.ts";
export * from "./importBuilding.ts";
export * from "./exportBuilding.ts";
