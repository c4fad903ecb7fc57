import { applyChange, setChange, type Change, type Corner, type Glazing, type Project, type SpaceType } from "../model/index.ts";
import { assemblyU, glazingRating, insulatingLayer, thicknessForTarget } from "../fabric/index.ts";
import { effective, effectiveServices, faceAssembly, kitRole, openingConstruction } from "../inputs/index.ts";
import { checkProject } from "../simulate/index.ts";
import { envelopeParts, type EnvelopePart, type Pack } from "../packs/index.ts";

/** Parts of a submission: what is not submitted is equal in both buildings. */
export const scopeParts = ["envelope", "lighting", "services", "hot water"] as const;
export type ScopePart = (typeof scopeParts)[number];

/** One change that makes the reference building, with the clause that asks for it. */
export interface ReferenceChange {
  readonly clause: string;
  readonly change: Change;
}

/** Where the design's envelope uses what: assemblies by part, glazings, areas, m². */
export interface EnvelopeUse {
  readonly assemblies: ReadonlyMap<string, { readonly part: EnvelopePart; readonly area: number; readonly faces: readonly string[] }>;
  readonly glazings: ReadonlyMap<string, { readonly area: number; readonly spaces: readonly string[] }>;
  readonly wallArea: number;
  readonly windowArea: number;
}

/** Collects what outdoor and ground faces and windows are made of. */
export function envelopeUse(project: Project): EnvelopeUse {
  const { geometry, openings } = checkProject(project);
  const assemblies = new Map<string, { part: EnvelopePart; area: number; faces: string[] }>();
  const glazings = new Map<string, { area: number; spaces: string[] }>();
  let wallArea = 0;
  let windowArea = 0;
  for (const f of geometry.faces) {
    const part = kitRole(f);
    // what lets no heat through has no limit to meet
    if (f.contact === "adiabatic") continue;
    if (!(envelopeParts as readonly string[]).includes(part)) continue;
    const id = faceAssembly(project, f).id;
    const use = assemblies.get(id) ?? { part: part as EnvelopePart, area: 0, faces: [] };
    use.area += f.area;
    use.faces.push(f.key);
    assemblies.set(id, use);
    if (part === "exteriorWall") wallArea += f.area;
  }
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (!f || o.use !== "window") continue;
    const id = openingConstruction(project, o, f).id;
    const use = glazings.get(id) ?? { area: 0, spaces: [] };
    use.area += o.area;
    if (!use.spaces.includes(f.space)) use.spaces.push(f.space);
    glazings.set(id, use);
    windowArea += o.area;
  }
  return { assemblies, glazings, wallArea, windowArea };
}

/** The pack's use of a space type by the words in its name. */
export function packUse(pack: Pack, type: Pick<SpaceType, "name"> | null): Pack["uses"][number] {
  const name = (type?.name ?? "").toLowerCase();
  const any = pack.uses.find((u) => u.words.length === 0) as Pack["uses"][number];
  return pack.uses.find((u) => u.words.some((w) => name.includes(w))) ?? any;
}

/** Shares and thicknesses that differ by less than this, relatively, are the same. */
const SAME = 1e-9;
const differs = (a: number, b: number): boolean => Math.abs(a - b) > SAME * Math.max(Math.abs(a), Math.abs(b), 1e-6);

/**
 * The reference building of a design as a list of changes with clauses: insulation for just the limit,
 * glazing at the limit, windows no more than the share, no shading, allowances of the use, the pack's
 * services. The reference of a reference is itself: an empty list.
 * @param zone thermal climate zone as the pack names it @throws RangeError when the pack has no such zone
 */
export function referenceChanges(project: Project, pack: Pack, zone: string, scope: readonly ScopePart[] = scopeParts): ReferenceChange[] {
  const limits = pack.climateZones[zone];
  if (!limits)
    throw new RangeError(`climateZones/${zone}: "${pack.name}" has no limits for climate zone ${zone}; it knows ${Object.keys(pack.climateZones).join(", ")}.`);
  const out: ReferenceChange[] = [];
  const set = (clause: string, path: readonly string[], now: number | string | null | undefined, value: number | string): void => {
    if (typeof now === "number" && typeof value === "number" ? differs(now, value) : now !== value)
      out.push({ clause, change: setChange(project, path, value) });
  };
  if (scope.includes("envelope")) {
    const use = envelopeUse(project);
    for (const [id, { part }] of use.assemblies) {
      const { rated } = project.assemblies[id];
      if (rated) {
        set(limits.u[part].clause, ["assemblies", id, "rated", "u"], rated.u, limits.u[part].value);
        continue;
      }
      const thickness = thicknessForU(project, id, limits.u[part].value);
      if (thickness) set(limits.u[part].clause, ["assemblies", id, "layers", thickness.layer, "thickness"], thickness.now, thickness.wanted);
    }
    for (const id of use.glazings.keys()) {
      const glazing = project.glazings[id];
      if (glazing.kind === "rated") {
        set(limits.glazingU.clause, ["glazings", id, "u"], glazing.u, limits.glazingU.value);
        set(limits.glazingG.clause, ["glazings", id, "g"], glazing.g, limits.glazingG.value);
        continue;
      }
      // panes cannot be set to a U: the reference takes a glazing rated at the limits in their place
      const { name, frameShare, ratedFilms } = glazing;
      const rated: Glazing = {
        kind: "rated",
        name,
        u: limits.glazingU.value,
        g: limits.glazingG.value,
        visibleTransmittance: glazingRating(glazing).visibleTransmittance,
        frameShare,
        ratedFilms,
        blind: glazing.blind,
      };
      out.push({ clause: limits.glazingU.clause, change: setChange(project, ["glazings", id], rated) });
    }
    const share = use.wallArea > 0 ? use.windowArea / use.wallArea : 0;
    if (share > pack.windowShare.value * (1 + SAME)) {
      const factor = pack.windowShare.value / share;
      for (const [id, o] of Object.entries(project.openings)) {
        if (o.kind === "ratio") set(pack.windowShare.clause, ["openings", id, "ratio"], o.ratio, o.ratio * factor);
        else if (o.kind === "outline") {
          if (o.use === "window")
            out.push({ clause: pack.windowShare.clause, change: setChange(project, ["openings", id, "ring"], shrunkRing(o.ring, Math.sqrt(factor))) });
        } else if (o.kind === "repeated" || (o.kind === "placed" && o.use === "window"))
          set(pack.windowShare.clause, ["openings", id, "width"], o.width, o.width * factor);
      }
    }
    for (const [id, shade] of Object.entries(project.shades))
      out.push({ clause: pack.shading.clause, change: { op: "remove", path: ["shades", id], old: shade } });
  }
  if (scope.includes("lighting")) {
    for (const [id, space] of Object.entries(project.spaces)) {
      const use = packUse(pack, space.spaceType === null ? null : project.spaceTypes[space.spaceType]);
      // an allowance is per area, however the design gives its power
      for (const [given, power, limit] of [
        ["lightingGiven", "lightingPower", use.lighting],
        ["applianceGiven", "appliancePower", use.appliances],
      ] as const) {
        set(limit.clause, ["spaces", id, "inputs", given], effective(project, "space", id, given).value, "per area");
        set(limit.clause, ["spaces", id, "inputs", power], effective(project, "space", id, power).value, limit.value);
      }
    }
  }
  // the pack knows no systems yet: its building has plain services of its efficiencies in the place of the design's systems
  if (scope.includes("services"))
    for (const id of Object.keys(project.zones).sort()) {
      const old = project.zones[id].equipment;
      if (old !== undefined && old.length > 0)
        out.push({ clause: pack.services.heating.clause, change: { op: "unset", path: ["zones", id, "equipment"], old } });
    }
  // nor systems of hot water, nor electricity made on site
  if (scope.includes("hot water"))
    for (const id of Object.keys(project.waterSystems).sort())
      out.push({ clause: pack.services.hotWater.clause, change: { op: "remove", path: ["waterSystems", id], old: project.waterSystems[id] } });
  if (scope.includes("services"))
    for (const id of Object.keys(project.onSite).sort())
      out.push({ clause: pack.services.heating.clause, change: { op: "remove", path: ["onSite", id], old: project.onSite[id] } });
  const used = new Set(Object.keys(project.zones).map((z) => effectiveServices(project, z).id));
  for (const id of [...used].sort()) {
    const s = project.services[id];
    const at = (...path: string[]): string[] => ["services", id, ...path];
    if (scope.includes("services")) {
      set(pack.services.heating.clause, at("heating", "fuel"), s.heating.fuel, pack.services.heatingFuel);
      set(pack.services.heating.clause, at("heating", "efficiency"), s.heating.efficiency, pack.services.heating.value);
      set(pack.services.cooling.clause, at("cooling", "fuel"), s.cooling.fuel, pack.services.coolingFuel);
      set(pack.services.cooling.clause, at("cooling", "efficiency"), s.cooling.efficiency, pack.services.cooling.value);
      set(pack.services.fanPower.clause, at("fanPower"), s.fanPower, pack.services.fanPower.value);
      set(pack.services.heatRecovery.clause, at("heatRecovery", "sensible"), s.heatRecovery.sensible, pack.services.heatRecovery.value);
    }
    if (scope.includes("hot water")) {
      set(pack.services.hotWater.clause, at("hotWater", "fuel"), s.hotWater.fuel, pack.services.hotWaterFuel);
      set(pack.services.hotWater.clause, at("hotWater", "efficiency"), s.hotWater.efficiency, pack.services.hotWater.value);
    }
  }
  return out;
}

/** Corners drawn toward their middle by a factor. */
function shrunkRing(ring: readonly Corner[], factor: number): Corner[] {
  const middle = [0, 1, 2].map((k) => ring.reduce((s, p) => s + p[k], 0) / ring.length);
  return ring.map((p): Corner => [0, 1, 2].map((k) => middle[k] + factor * (p[k] - middle[k])) as Corner);
}

/** Thickness, m, of the layer that insulates best for an assembly to have a U, W/m²K; at least 1 mm. Null where no layer has mass. */
export function thicknessForU(project: Project, assembly: string, u: number): { layer: string; now: number; wanted: number } | null {
  const a = project.assemblies[assembly];
  const layer = insulatingLayer(project, a);
  const l = a.layers.find((x) => x.id === layer);
  if (layer === null || l?.kind !== "solid") return null;
  const found = thicknessForTarget(project, a, layer, u);
  if (found.ok) return { layer, now: l.thickness, wanted: Math.max(0.001, found.thickness) };
  return { layer, now: l.thickness, wanted: u < assemblyU(project, a) ? 10 : 0.001 };
}

/** The reference building itself. */
export function referenceProject(project: Project, changes: readonly ReferenceChange[]): Project {
  let current: Project = { ...project, options: {} };
  for (const { change } of changes) {
    const outcome = applyChange(current, change);
    if (!outcome.ok) throw new RangeError(`reference building: ${outcome.message}`);
    current = outcome.project;
  }
  return current;
}
