export * from "./polygon.ts";
export * from "./faces.ts";
export * from "./openings.ts";
export * from "./shading.ts";
export * from "./massing.ts";
export * from "./surroundings.ts";
