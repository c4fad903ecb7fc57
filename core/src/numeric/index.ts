export * from "./elementary.ts";
export * from "./linear.ts";
export * from "./sparse.ts";
export * from "./random.ts";
export * from "./hash.ts";
export * from "./budget.ts";
