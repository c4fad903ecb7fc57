export * from "./resolve.ts";
