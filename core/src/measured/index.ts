export * from "./signature.ts";
export * from "./causes.ts";
export * from "./compare.ts";
export * from "./links.ts";
export * from "./suggest.ts";
export * from "./profile.ts";
