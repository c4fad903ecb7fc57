export * from "./pvModule.ts";
export * from "./inverter.ts";
export * from "./battery.ts";
export * from "./wind.ts";
export * from "./layout.ts";
export * from "./cover.ts";
export * from "./place.ts";
export * from "./array.ts";
