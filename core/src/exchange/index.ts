export * from "./weatherCsv.ts";
export * from "./records.ts";
export { type MatchRow } from "./importParts.ts";
export * from "./importBuilding.ts";
export * from "./exportBuilding.ts";
export * from "./report.ts";
export * from "./reportText.ts";
export * from "./certificate.ts";
