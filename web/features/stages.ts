/** The stages of the job in their order, and those that can be opened. */
export const stages = ["place", "form", "fabric", "use", "services", "results", "options", "compliance", "measured"] as const;
export type Stage = (typeof stages)[number];
export const builtStageNames = [
  "place",
  "form",
  "fabric",
  "use",
  "services",
  "results",
  "options",
  "compliance",
  "measured",
] as const satisfies readonly Stage[];
export const stageName = (s: Stage): string => s[0].toUpperCase() + s.slice(1);
