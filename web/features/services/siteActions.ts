import { checkProject, freeId, type Change, type OnSiteKind, type Project } from "@arroyo/core";

interface Made {
  readonly change: Change;
  readonly path: readonly string[];
}
const freeName = (set: Readonly<Record<string, { readonly name: string }>>, base: string): string => {
  const names = new Set(Object.values(set).map((x) => x.name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${n}`;
    if (!names.has(name)) return name;
  }
};

/** A hot-water system for all zones, with nothing in it yet. */
export function newWaterSystem(project: Project): Made {
  const id = freeId(project.waterSystems, "hot_water");
  const value = { name: freeName(project.waterSystems, "Hot water"), zones: null, coldWater: null, inputs: {}, parts: [] };
  return { change: { op: "insert", path: ["waterSystems", id], value }, path: ["waterSystems", id] };
}

/** A small turbine's curve to begin from: cubic to its rated wind. Typical, unverified. */
const CURVE = [
  [3, 0],
  [4, 120],
  [5, 300],
  [6, 600],
  [7, 1000],
  [8, 1550],
  [9, 2250],
  [10, 3000],
  [11, 3600],
  [12, 4000],
  [20, 4000],
] as const;

/** An array on the largest roof, a battery, or a turbine with a small one's curve. */
export function newOnSite(project: Project, kind: OnSiteKind): Made {
  const base = { pvArray: "Array", battery: "Battery", windTurbine: "Wind turbine" }[kind];
  const id = freeId(project.onSite, base.toLowerCase().replace(/ /g, "_"));
  const name = freeName(project.onSite, base);
  const roofs = checkProject(project)
    .geometry.faces.filter((f) => f.kind === "ceiling" && f.contact === "outdoors")
    .sort((a, b) => b.area - a.area);
  const value =
    kind === "pvArray"
      ? { kind, name, host: roofs[0]?.host ?? null, inputs: {} }
      : kind === "battery"
        ? { kind, name, inputs: {} }
        : { kind, name, curve: CURVE.map(([speed, power], i) => ({ id: `p${i + 1}`, speed, power })), inputs: {} };
  return { change: { op: "insert", path: ["onSite", id], value }, path: ["onSite", id] };
}
