export * from "./options.ts";
