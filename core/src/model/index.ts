export * from "./schema.ts";
export * from "./fields.ts";
export * from "./problem.ts";
export * from "./changes.ts";
export * from "./parse.ts";
export * from "./references.ts";
export * from "./outline.ts";
export * from "./describe.ts";
