import { componentsOf, drawnFrom, zonesOnSystem, type Component, type PlacedComponent, type Project } from "@arroyo/core";
import type { Selection } from "../store.ts";

/** The component a selection names; undefined where it is gone. */
export function selectedComponent(project: Project, selection: readonly Selection[]): PlacedComponent | undefined {
  const s = selection.find((x) => x.kind === "component" || x.kind === "airSystem" || x.kind === "loop");
  if (!s) return undefined;
  const address = s.kind === "component" ? s.id : `${s.kind === "loop" ? "loops" : "airSystems"}/${s.id}`;
  return componentsOf(project).find((c) => c.path.join("/") === address);
}

/** The selection of a component. */
export function selectionOf(path: readonly string[]): Selection {
  if (path.length === 2 && (path[0] === "loops" || path[0] === "airSystems")) return { kind: path[0] === "loops" ? "loop" : "airSystem", id: path[1] };
  return { kind: "component", id: path.join("/") };
}

/** Loops a system or the equipment of its rooms draws on. */
export function loopsOf(project: Project, system: string): string[] {
  const zones = zonesOnSystem(project, system);
  const own = (c: PlacedComponent): boolean => (c.path[0] === "airSystems" && c.path[1] === system) || (c.path[0] === "zones" && zones.includes(c.path[1]));
  return Object.keys(project.loops).filter((l) => drawnFrom(project, l).some(own));
}

/** The setting that tells the size of a component first. */
export const sizeField: Readonly<Partial<Record<Component["kind"], string>>> = {
  heatingCoil: "capacity",
  coolingCoil: "capacity",
  supplyFan: "flow",
  returnFan: "flow",
  terminal: "flow",
  baseboard: "capacity",
  unitHeater: "capacity",
  fanCoil: "coolingCapacity",
  splitUnit: "coolingCapacity",
  pump: "flow",
  boiler: "capacity",
  chiller: "capacity",
  heatPump: "capacity",
  district: "capacity",
  naturalSource: "capacity",
  waterHeater: "power",
  solarCollector: "area",
};
