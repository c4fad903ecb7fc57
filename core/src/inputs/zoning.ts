import { deriveFaces, freeId, orientationOf, differenceOf, type PlanEdit } from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { effective } from "./resolve.ts";

/** Ways to propose zones. */
export const zoningRules = ["each space", "storey, side and space type", "set-points and hours"] as const;
export type ZoningRule = (typeof zoningRules)[number];

/** Side on which most of a space's outdoor wall looks; core where it has next to none. */
function sidesOfSpaces(project: Project): Map<string, string> {
  const { faces, spaces } = deriveFaces(project);
  const walls = new Map<string, Map<string, number>>();
  for (const f of faces) {
    if (f.kind !== "wall" || f.contact !== "outdoors") continue;
    const by = walls.get(f.space) ?? new Map<string, number>();
    const side = orientationOf(f.azimuth);
    by.set(side, (by.get(side) ?? 0) + f.area);
    walls.set(f.space, by);
  }
  const out = new Map<string, string>();
  for (const id of Object.keys(project.spaces)) {
    const by = [...(walls.get(id) ?? [])].sort((a, b) => b[1] - a[1]);
    const around = spaces.get(id);
    const enough = around ? 0.05 * Math.sqrt(around.floorArea) * (around.high - around.low) : 0;
    out.set(id, by.length > 0 && by[0][1] > enough ? by[0][0] : "core");
  }
  return out;
}

const title = (s: string): string => `${s[0].toUpperCase()}${s.slice(1)}`;

/**
 * Zones proposed for spaces: each space its own; by storey, main side and space type; or by storey and
 * what their thermostats ask for. A zone that already holds exactly the same spaces keeps its id and inputs; zones left empty go.
 * @param only spaces to zone; all others keep theirs
 */
export function proposeZones(project: Project, rule: ZoningRule, only: readonly string[] = Object.keys(project.spaces)): PlanEdit {
  if (only.length === 0) return { ok: false, message: "There is no space to zone." };
  const sides = rule === "storey, side and space type" ? sidesOfSpaces(project) : null;
  const groups = new Map<string, { name: string; members: string[] }>();
  for (const id of only) {
    const s = project.spaces[id];
    const storey = project.storeys[s.storey].name;
    const type = s.spaceType === null ? "no type" : project.spaceTypes[s.spaceType].name;
    let key = id;
    let { name } = s;
    if (sides) {
      const side = sides.get(id) as string;
      key = `${s.storey}|${side}|${s.spaceType ?? ""}`;
      name = `${storey}, ${side}, ${type.toLowerCase()}`;
    } else if (rule === "set-points and hours") {
      const read = (["heatingSetpoint", "coolingSetpoint", "heatingSetback", "coolingSetback", "conditioningSchedule"] as const).map(
        (f) => effective(project, "space", id, f).value,
      );
      key = `${s.storey}|${JSON.stringify(read)}`;
      name = `${storey}, ${read[0] === null ? "not heated" : `${String(read[0])} °C`} to ${read[1] === null ? "not cooled" : `${String(read[1])} °C`}`;
    }
    const g = groups.get(key);
    if (g) g.members.push(id);
    else groups.set(key, { name: title(name), members: [id] });
  }
  const zones = { ...project.zones };
  const spaces = { ...project.spaces };
  const names = new Set<string>();
  for (const { name, members } of groups.values()) {
    const before = project.spaces[members[0]].zone;
    const same =
      before !== null &&
      members.every((m) => project.spaces[m].zone === before) &&
      Object.entries(project.spaces).every(([id, s]) => s.zone !== before || members.includes(id));
    if (same) continue;
    let own = name;
    for (let n = 2; names.has(own); n++) own = `${name} ${n}`;
    names.add(own);
    const id = freeId(zones, own);
    // a zone that is parted or joined passes its inputs and services on
    const source = before !== null ? project.zones[before] : null;
    zones[id] = { name: own, services: source?.services ?? null, inputs: source?.inputs ?? {} };
    for (const m of members) spaces[m] = { ...spaces[m], zone: id };
  }
  const used = new Set(Object.values(spaces).map((s) => s.zone));
  for (const id of Object.keys(project.zones))
    if (!used.has(id) && Object.values(project.spaces).some((s) => s.zone === id) && !Object.values(project.airExchanges).some((e) => e.zones.includes(id)))
      delete zones[id];
  const changes = differenceOf(project, { ...project, zones, spaces });
  if (changes.length === 0) return { ok: false, message: "The spaces are zoned like this already." };
  return { ok: true, name: `Zones: ${rule}`, changes, select: [] };
}
