export * from "./plain.ts";
