import { airDensity } from "../airflow/index.ts";
import { standardPressure } from "../climate/index.ts";
import { ruledComponents } from "../inputs/index.ts";
import { isSource, type PlacedComponent, type Project } from "../model/index.ts";
import { buildServices, supplyParts, undriven, type ComponentSizes, type ServiceModel } from "../services/index.ts";
import { airBench } from "./air.ts";
import { faceBench, zoneBench } from "./envelope.ts";
import { equipmentBench, terminalBench } from "./equipment.ts";
import { plantBench } from "./plant.ts";
import type { Bench, BenchMade, BenchOf } from "./types.ts";

export * from "./inlets.ts";
export * from "./types.ts";

/**
 * A component on its own or with those that follow it, a face, or a zone.
 * @param sizes found for what is left to sizing, by address
 */
export function makeBench(document: Project, of: BenchOf, sizes: ComponentSizes): BenchMade {
  try {
    if (of.kind === "face") return { ok: true, bench: faceBench(document, of.key) };
    if (of.kind === "zone")
      return Object.hasOwn(document.zones, of.id) ? { ok: true, bench: zoneBench(document, of.id) } : { ok: false, message: `There is no zone "${of.id}".` };
    const { project } = ruledComponents(document);
    const pressure = standardPressure(project.site.elevation);
    const density = airDensity(20, pressure);
    const zoneIds = Object.keys(project.zones);
    const ones = new Float64Array(zoneIds.length).fill(1);
    const model = buildServices(project, { zoneIds, multiplier: ones, area: ones, rowOf: () => 0, density, sizes, driveOf: undriven });
    const bench = model && componentBench(project, model, of.path, of.more, { density, pressure });
    return bench ? { ok: true, bench } : { ok: false, message: "This part has nothing that could be looked at alone." };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return {
      ok: false,
      message: error.message.endsWith("has no size") ? "Its size is not found yet; it follows from the design days in a moment." : error.message,
    };
  }
}

function componentBench(
  project: Project,
  model: ServiceModel,
  path: readonly string[],
  more: number,
  site: { readonly density: number; readonly pressure: number },
): Bench | null {
  const index = (c: { readonly path: readonly string[] } | undefined): boolean => c?.path.join("/") === path.join("/");
  const of = model.components.findIndex((c) => index(c));
  if (path[0] === "zones") {
    const device = model.devices.find((d) => d.component === of);
    if (!device) return null;
    return device.kind === "terminal" ? terminalBench(model, device, site) : equipmentBench(model, device, site);
  }
  if (path[0] === "airSystems") {
    const system = model.systems.find((s) => model.components[s.component].path[1] === path[1]);
    if (!system) return null;
    const title = (n: number, first: string): string => (n > 1 ? `${project.airSystems[path[1]].name}: ${n} parts` : first);
    if (system.returnFan && system.returnFan.component === of) return airBench(model, system, [system.returnFan], model.components[of].name, site);
    const order = supplyParts(project.airSystems[path[1]]);
    const at = path.length === 2 ? 0 : order.findIndex((p) => p.id === path[3]);
    const count = path.length === 2 ? order.length : 1 + more;
    const chosen = at < 0 ? [] : system.parts.slice(at, at + count);
    return chosen.length === 0 ? null : airBench(model, system, chosen, title(chosen.length, model.components[chosen[0].component].name), site);
  }
  const loop = model.loops.find((l) => model.components[l.component].path[1] === path[1]);
  if (!loop) return null;
  if (path.length === 2) return plantBench(model, loop, loop.sources, loop.pump !== null, project.loops[path[1]].name);
  const source = loop.sources.findIndex((s) => s.component === of);
  if (source >= 0) {
    const chosen = loop.sources.slice(source, source + 1 + more);
    return plantBench(model, loop, chosen, false, chosen.length > 1 ? `${project.loops[path[1]].name}: ${chosen.length} sources` : model.components[of].name);
  }
  return loop.pump?.component === of ? plantBench(model, loop, [], true, model.components[of].name) : null;
}

/** How many parts follow a component in its path, that may be with it on a bench. */
export function followers(project: Project, c: Pick<PlacedComponent, "path" | "kind">): number {
  const [part, id, , own] = c.path;
  if (part === "zones" || c.path.length === 2 || c.kind === "returnFan" || c.kind === "pump" || c.kind === "tower") return 0;
  const list = part === "airSystems" ? supplyParts(project.airSystems[id]) : project.loops[id].parts.filter((p) => isSource(p.kind));
  return list.length - 1 - list.findIndex((p) => p.id === own);
}
