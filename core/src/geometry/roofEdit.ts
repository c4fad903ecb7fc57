import { applyChanges, type Project, type Roof, type Space } from "../model/index.ts";
import { namedRing } from "./outlineIds.ts";
import { differenceOf, flatTopped, freeId, no, outlinesOf, prism, ringOf, without, type PlanEdit } from "./planBasics.ts";
import { removeSpaces } from "./planEdit.ts";
import { areaOf, centroid, intersection, ringHolds, straightened, union, withoutHoles, type Polygon } from "./polygon.ts";

/** What a roof space is used for: nothing. */
const ROOF_SPACE: Space["inputs"] = {
  heatingSetpoint: null,
  heatingSetback: null,
  coolingSetpoint: null,
  coolingSetback: null,
  peopleDensity: 0,
  lightingPower: 0,
  appliancePower: 0,
  outdoorAirPerPerson: 0,
  outdoorAirPerArea: 0,
};

/** A roof over all of a storey: as the top of its spaces, or over a roof space of its own. */
export function addRoof(
  project: Project,
  storey: string,
  kind: Roof["kind"],
  pitch: number,
  direction: number,
  as: "part of the storey" | "roof space",
): PlanEdit {
  const level = project.storeys[storey];
  const forms = outlinesOf(project, storey).filter(([, f]) => (f.base ?? 0) < level.height - 0.1);
  if (forms.length === 0) return no(`${level.name} has no space to roof.`);
  const whole = union(forms.map(([, f]): Polygon => [ringOf(f)]));
  if (kind === "flat" && as === "roof space") return no("A flat roof leaves no space under it; put it over the storey's own spaces.");
  const top = level.elevation + level.height;
  const above = Object.entries(project.storeys).find(
    ([id, s]) => id !== storey && s.elevation > top - 0.1 && outlinesOf(project, id).some(([, f]) => areaOf(intersection(whole, [[ringOf(f)]])) > 0.05),
  );
  if (above) return no(`${above[1].name} stands on ${level.name}; roof that one.`);
  const rings = whole.flatMap(withoutHoles).map(straightened);
  if (rings.length > 1 && as === "part of the storey" && kind !== "flat" && (kind === "hip" || whole.length > 1))
    return no(`${level.name} has ${whole.length > 1 ? "more than one outline" : "a court"}; roof it part by part with roof spaces, or draw the roof flat.`);
  const name = `${kind[0].toUpperCase()}${kind.slice(1)} roof`;
  const next = { ...project, roofs: { ...project.roofs }, spaces: { ...project.spaces }, zones: { ...project.zones }, spaceTypes: { ...project.spaceTypes } };
  const select: string[] = [];
  rings.forEach((ring, i) => {
    const own = rings.length > 1 ? `${name} ${i + 1}` : name;
    const id = freeId(next.roofs, `${storey}_${own}`);
    next.roofs[id] = { name: own, storey, kind, outline: namedRing([], ring), eaves: level.height, pitch: kind === "flat" ? 0 : pitch, direction };
    if (as === "part of the storey") {
      for (const [key, form] of forms)
        if (ringHolds(ring, centroid(ringOf(form)))) {
          const { height: _, ...rest } = form;
          next.spaces[key] = { ...next.spaces[key], form: { ...rest, roof: id } };
          select.push(key);
        }
      return;
    }
    const space = freeId(next.spaces, `${storey}_roof_space`);
    const zone = freeId(next.zones, `${storey}_roof_space`);
    const label = rings.length > 1 ? `Roof space ${i + 1}` : "Roof space";
    next.zones[zone] = { name: label, services: null, inputs: {} };
    // neither heated nor cooled nor used until it is said otherwise
    next.spaceTypes.roof_space ??= { name: "Roof space", inputs: ROOF_SPACE };
    next.spaces[space] = {
      name: label,
      storey,
      zone,
      spaceType: "roof_space",
      kit: null,
      form: { ...prism(ring), base: level.height, roof: id },
      inputs: {},
    };
    select.push(space);
  });
  return { ok: true, name: `${name} over ${level.name}`, changes: differenceOf(project, next), select };
}

/** Removes a roof; spaces under it get a flat ceiling again, its roof spaces go. */
export function removeRoof(project: Project, roof: string): PlanEdit {
  const r = project.roofs[roof];
  const attics = Object.entries(project.spaces).flatMap(([id, s]) =>
    s.form.kind === "prism" && s.form.roof === roof && (s.form.base ?? 0) >= project.storeys[s.storey].height - 0.01 ? [id] : [],
  );
  const cleared = removeSpaces(project, attics);
  if (!cleared.ok) return cleared;
  const applied = applyChanges(project, cleared.changes);
  if (!applied.ok) return no(applied.message);
  const spaces = Object.fromEntries(
    Object.entries(applied.project.spaces).map(([id, s]) => [id, s.form.kind === "prism" && s.form.roof === roof ? flatTopped(s) : s]),
  );
  const roofs = without(project.roofs, (x) => x === r);
  return { ok: true, name: `Remove ${r.name}`, changes: differenceOf(project, { ...applied.project, spaces, roofs }), select: [] };
}
