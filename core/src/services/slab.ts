import { deriveFaces, type Face } from "../geometry/index.ts";
import { faceAssembly, overrideChanges } from "../inputs/index.ts";
import { applyChanges, setChange, type Assembly, type Change, type Component, type Layer, type Project } from "../model/index.ts";
import { equipmentOf } from "./build.ts";
import { freeKey, newLoop, type PlantChoice } from "./starter.ts";

export type SlabWhere = "floor" | "ceiling" | "floor and ceiling";

/** A layer may carry pipes from this thickness, m, and conductivity, W/m·K: no finish, and no insulation. */
const SLAB = 0.02;
const CONDUCTS = 0.1;

/** Faces of a zone that may carry pipes: its floors or ceilings, of one of each pair. */
function facesOf(project: Project, zone: string, where: SlabWhere): Face[] {
  return deriveFaces(project).faces.filter(
    (f) => project.spaces[f.space]?.zone === zone && (f.kind === "floor" || f.kind === "ceiling") && where.includes(f.kind),
  );
}

/**
 * Layers with a circuit: at the outer side of the innermost slab as the room sees it.
 * @param roomLast whether the room's side is that of the last layer
 */
function withCircuit(materials: Project["materials"], layers: readonly Layer[], roomLast: boolean): Layer[] {
  const thick = (l: Layer): boolean => l.kind === "solid" && l.thickness >= SLAB && materials[l.material].conductivity >= CONDUCTS;
  const order = roomLast ? layers.map((_, i) => layers.length - 1 - i) : layers.map((_, i) => i);
  const at = order.find((i) => thick(layers[i])) ?? order[0] ?? 0;
  const circuit: Layer = { kind: "circuit", id: freeKey(Object.fromEntries(layers.map((l) => [l.id, l])), "circuit"), name: "Pipes" };
  const cut = roomLast ? at : at + 1;
  return [...layers.slice(0, cut), circuit, ...layers.slice(cut)];
}

/** What stands in the way of pipes in a zone's faces, as a sentence; null: nothing. */
export function slabFault(project: Project, zone: string, where: SlabWhere): string | null {
  const faces = facesOf(project, zone, where);
  if (faces.length === 0) return `${project.zones[zone].name} has no ${where} that pipes could lie in.`;
  const rated = faces.map((f) => project.assemblies[faceAssembly(project, f).id]).find((a) => a.rated);
  return rated ? `"${rated.name}" is known by its U alone; give it layers first.` : null;
}

/**
 * Changes that heat and cool a zone through its floor, ceiling or both: assemblies with a circuit in these faces (made from those that are
 * there), the equipment first in the zone, and its loops, which are made with the plant where there are none.
 * @throws RangeError where `slabFault` has something to say
 */
export function slabChanges(project: Project, zone: string, where: SlabWhere, plant: PlantChoice = "boiler and chiller"): Change[] {
  const fault = slabFault(project, zone, where);
  if (fault !== null) throw new RangeError(fault);
  const changes: Change[] = [];
  const assemblies: Record<string, Assembly> = { ...project.assemblies };
  /** Assemblies with pipes by what they were made of and the side of the room. */
  const made = new Map<string, string>();
  const hosts = new Map<string, string[]>();
  for (const f of facesOf(project, zone, where)) {
    const { id } = faceAssembly(project, f);
    const own = assemblies[id];
    if (own.layers.some((l) => l.kind === "circuit")) continue;
    // layers of a floor between storeys run upward, all others from outside to the room
    const roomLast = f.contact !== "space" || f.kind === "floor";
    const key = `${id} ${roomLast}`;
    let piped = made.get(key);
    if (piped === undefined) {
      const name = `${own.name} with pipes${roomLast ? "" : " below"}`;
      piped = Object.keys(assemblies).find((a) => assemblies[a].name === name);
      if (piped === undefined) {
        piped = freeKey(assemblies, `${id}_pipes`);
        const { from: _from, ...rest } = own;
        assemblies[piped] = { ...rest, name, layers: withCircuit(project.materials, own.layers, roomLast) };
        changes.push({ op: "insert", path: ["assemblies", piped], value: assemblies[piped] });
      }
      made.set(key, piped);
    }
    hosts.set(piped, [...(hosts.get(piped) ?? []), f.host]);
  }
  let now = project;
  const take = (more: readonly Change[]): void => {
    const next = applyChanges(now, more);
    if (!next.ok) throw new RangeError(next.message);
    now = next.project;
    changes.push(...more);
  };
  const first = applyChanges(project, changes);
  if (!first.ok) throw new RangeError(first.message);
  now = first.project;
  for (const [assembly, list] of hosts) take(overrideChanges(now, list, assembly));
  const loopOf = (kind: "hot water" | "chilled water"): string => {
    const there =
      Object.entries(now.loops).find(([, l]) => l.kind === kind && isMild(l.inputs.supplyTemperature, kind)) ??
      Object.entries(now.loops).find(([, l]) => l.name === slabLoop(kind));
    if (there) return there[0];
    const key = freeKey(now.loops, kind === "hot water" ? "slab_hot" : "slab_cold");
    const loop = newLoop(kind, plant);
    take([
      {
        op: "insert",
        path: ["loops", key],
        value: {
          ...loop,
          name: slabLoop(kind),
          inputs: kind === "hot water" ? { supplyTemperature: 38, difference: 6 } : { supplyTemperature: 17, difference: 4 },
        },
      },
    ]);
    return key;
  };
  const loop = loopOf("hot water");
  const coldLoop = loopOf("chilled water");
  const list = equipmentOf(now, zone);
  const known = list.find((c) => c.kind === "slabCircuit");
  if (known) {
    take([setChange(now, ["zones", zone, "equipment", known.id, "inputs", "where"], where)]);
    return changes;
  }
  const slab: Component = { id: freeKey(Object.fromEntries(list.map((c) => [c.id, c])), "slab"), kind: "slabCircuit", inputs: { where, loop, coldLoop } };
  take([setChange(now, ["zones", zone, "equipment"], [slab, ...list])]);
  return changes;
}

const slabLoop = (kind: string): string => (kind === "hot water" ? "Warm water for slabs" : "Cool water for slabs");
/** Whether a loop's water suits a slab: not hotter than 50 °C, not colder than 14 °C. */
const isMild = (t: unknown, kind: string): boolean => typeof t === "number" && (kind === "hot water" ? t <= 50 : t >= 14);
