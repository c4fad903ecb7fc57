export * from "./errors.ts";
export * from "./morris.ts";
export * from "./evolution.ts";
export * from "./signature.ts";
export * from "./causes.ts";
