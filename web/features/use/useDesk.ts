import { create } from "zustand";
import { freeId, type Change, type Project } from "@arroyo/core";
import { useStore, type Selection } from "../store.ts";

/** What the Use desk lists, in the order of its list. */
export const useParts = ["spaceTypes", "schedules", "resets", "deviceLists", "rules", "drawPoints", "siteLights", "airExchanges"] as const;
export type UsePart = (typeof useParts)[number];
interface PartWord {
  readonly one: string;
  readonly many: string;
  /** Kind of selection; absent: the desk shows all of them at once. */
  readonly kind?: Selection["kind"];
  readonly short: string;
}
export const partWord: Readonly<Record<UsePart, PartWord>> = {
  spaceTypes: { one: "space type", many: "Space types", kind: "spaceType", short: "Types" },
  schedules: { one: "schedule", many: "Schedules", kind: "schedule", short: "Schedules" },
  resets: { one: "outdoor reset", many: "Outdoor resets", kind: "reset", short: "Resets" },
  deviceLists: { one: "device list", many: "Device lists", kind: "deviceList", short: "Devices" },
  rules: { one: "rule", many: "Rules", kind: "rule", short: "Rules" },
  drawPoints: { one: "hot-water draw", many: "Hot water", kind: "drawPoint", short: "Hot water" },
  siteLights: { one: "exterior light", many: "Exterior lighting", kind: "siteLight", short: "Outside" },
  airExchanges: { one: "passage", many: "Air between zones", short: "Air" },
};

interface UseState {
  readonly part: UsePart;
  /** What stands in place of the thing chosen: the sheet of all inputs, what is known of the whole building, or the register of values. */
  readonly panel: "sheet" | "building" | "register" | "daylight" | "starter" | "library" | null;
  set(part: Partial<Omit<UseState, "set">>): void;
}
/** What the Use desk shows; not part of the project. */
export const useDesk = create<UseState>()((set) => ({ part: "spaceTypes", panel: null, set }));

/** Things of a part with their ids, in the order of the document. */
export function listed(project: Project, part: UsePart): readonly (readonly [string, { readonly name: string }])[] {
  return part === "rules" ? project.rules.map((r) => [r.id, r] as const) : Object.entries(project[part]);
}
/** One thing of a part. */
export const thingOf = (project: Project, part: UsePart, id: string): { readonly name: string } | undefined =>
  part === "rules" ? project.rules.find((r) => r.id === id) : Object.hasOwn(project[part], id) ? project[part][id] : undefined;

/** Shows one thing of the Use desk. */
export function showUse(part: UsePart, id: string): void {
  useDesk.getState().set({ part, panel: null });
  const { kind } = partWord[part];
  useStore.getState().select(kind ? [{ kind, id }] : []);
}

/** A name nothing of the list has yet. */
function freeName(list: readonly (readonly [string, { readonly name: string }])[], base: string): string {
  const names = new Set(list.map(([, x]) => x.name));
  if (!names.has(base)) return base;
  for (let n = 2; ; n++) if (!names.has(`${base} ${n}`)) return `${base} ${n}`;
}
const idIn = (project: Project, part: UsePart, base: string): string =>
  freeId(part === "rules" ? Object.fromEntries(project.rules.map((r) => [r.id, r])) : project[part], base);

/** A plain thing of its kind to begin from. */
export function newUse(project: Project, part: UsePart): { readonly id: string; readonly change: Change } {
  const { one } = partWord[part];
  const id = idIn(project, part, `new_${one.replace(/[ -]/g, "_")}`);
  const name = freeName(listed(project, part), `New ${one}`);
  const values: Record<UsePart, () => object> = {
    spaceTypes: () => ({ name, inputs: {} }),
    schedules: () => ({
      name,
      kind: "fraction",
      profiles: {
        on: { name: "Working day", values: Array.from({ length: 24 }, (_, h) => (h >= 8 && h < 18 ? 1 : 0)) },
        off: { name: "Day off", values: new Array<number>(24).fill(0) },
      },
      weeks: [{ id: "all", from: [1, 1], to: [12, 31], days: ["on", "on", "on", "on", "on", "off", "off", "off"] }],
    }),
    resets: () => ({ name, cold: { outdoor: -5, value: 22 }, warm: { outdoor: 15, value: 20 } }),
    deviceLists: () => ({ name, devices: [] }),
    rules: () => ({ id, name, on: false, target: "space", field: "outdoorAirPerSpace", conditions: [], value: "3 L/s * people + 0.35 L/s/m² * area" }),
    drawPoints: () => ({ kind: "fixtures", name, schedule: null, space: null, sensible: 0, latent: 0, fixtures: [] }),
    siteLights: () => ({ name, power: 500, control: "dusk", schedule: null }),
    airExchanges: () => ({ name, zones: Object.keys(project.zones).slice(0, 2), flow: 0.05, schedule: null }),
  };
  return { id, change: { op: "insert", path: [part, id], value: values[part]() } };
}

/** A copy of a thing under a name of its own. */
export function copyUse(project: Project, part: UsePart, id: string): { readonly id: string; readonly change: Change } {
  const thing = thingOf(project, part, id) as { readonly name: string };
  const { from: _, ...rest } = structuredClone(thing) as { name: string; from?: unknown };
  const made = idIn(project, part, `${id.slice(0, 55)}_copy`);
  const value = { ...rest, ...(part === "rules" ? { id: made } : {}), name: freeName(listed(project, part), `${thing.name}, copy`) };
  return { id: made, change: { op: "insert", path: [part, made], value } };
}
