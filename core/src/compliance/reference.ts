import { freeId } from "../geometry/index.ts";
import { glazingRating } from "../fabric/index.ts";
import { effective, effectiveServices } from "../inputs/index.ts";
import { checkProject } from "../simulate/index.ts";
import {
  applyChange,
  componentsOf,
  serviceFieldsOf,
  setChange,
  sizeNames,
  systemNames,
  valueAt,
  zonesServed,
  type Change,
  type ComponentKind,
  type Corner,
  type EnvelopePart,
  type Glazing,
  type PackSetting,
  type Project,
  type ScopePart,
  type Services,
  type SystemRow,
} from "../model/index.ts";
import { addPart, plainChanges, systemChanges } from "../services/index.ts";
import { assemblyWithU, forU, isShared, swapOnFaces } from "./atLimit.ts";
import { buildingFacts, envelopeUse, type KnownSizes } from "./facts.ts";
import { Formulas, type Known } from "./formula.ts";
import { floorAreas, isSubmitted, submittedZones, packUseOf, type Submission } from "./submission.ts";

/** One change that makes the reference building, with the clause that asks for it. */
export interface ReferenceChange {
  readonly clause: string;
  readonly part: ScopePart;
  readonly change: Change;
  /** The pack marks what it asks for as to be checked. */
  readonly unverified?: boolean;
}
/** A value of the reference that depends on a size that is not known yet. */
export interface PendingChange {
  readonly clause: string;
  /** Address of the setting, ids joined by /. */
  readonly path: string;
  readonly kind: ComponentKind;
  readonly field: string;
}
/** The system the map gives a part of the building. */
export interface MappedSystem {
  readonly row: SystemRow;
  readonly zones: readonly string[];
  readonly name: string;
  /** What its expressions know of the part of the building the row was chosen for. */
  readonly known: Known;
}
export interface ReferenceBuilding {
  readonly project: Project;
  readonly changes: readonly ReferenceChange[];
  readonly pending: readonly PendingChange[];
  readonly systems: readonly MappedSystem[];
}

/** Shares and thicknesses that differ by less than this, relatively, are the same. */
const SAME = 1e-9;
const differs = (a: unknown, b: unknown): boolean =>
  typeof a === "number" && typeof b === "number" ? Math.abs(a - b) > SAME * Math.max(Math.abs(a), Math.abs(b), 1e-6) : JSON.stringify(a) !== JSON.stringify(b);

/** Changes on their way, each applied at once, so that the next is told against what stands. */
class Draft {
  readonly changes: ReferenceChange[] = [];
  project: Project;
  constructor(project: Project) {
    this.project = project;
  }
  add(clause: string, part: ScopePart, change: Change, unverified = false): void {
    const made = applyChange(this.project, change);
    if (!made.ok) throw new RangeError(`reference building: ${made.message}`);
    this.project = made.project;
    this.changes.push({ clause, part, change, ...(unverified ? { unverified } : {}) });
  }
  /** Sets a value where it differs from what stands, or from what is in force there without being typed. */
  set(clause: string, part: ScopePart, path: readonly string[], value: unknown, now: unknown = valueAt(this.project, path), unverified = false): void {
    if (differs(now, value)) this.add(clause, part, setChange(this.project, path, value), unverified);
  }
}

/**
 * The reference building of a design: insulation for just the limit, glazing at the limit, windows no more than the share, no
 * shading, allowances of the use, the systems of the map. What is not submitted stays as designed. It needs no run; values that
 * depend on sizes are pending until sizes are handed in. The reference of a reference is itself: no change.
 * @param sizes settings that sizing found for this very reference building, by address; null: not known yet
 */
export function referenceBuilding(design: Project, s: Submission, sizes: KnownSizes = null): ReferenceBuilding {
  const draft = new Draft({ ...design, options: {} });
  if (s.parts.includes("envelope")) {
    envelope(draft, design, s);
    leakage(draft, design, s);
  }
  if (s.parts.includes("lighting")) lighting(draft, design, s);
  const pending: PendingChange[] = [];
  let systems: MappedSystem[] = [];
  if (s.parts.includes("services")) systems = services(draft, design, s, sizes, pending);
  if (s.parts.includes("hot water")) hotWater(draft, design, s);
  return { project: draft.project, changes: draft.changes, pending, systems };
}

function envelope(draft: Draft, design: Project, s: Submission): void {
  const { pack } = s;
  const limits = pack.climateZones[s.zone];
  const use = envelopeUse(design, s);
  for (const { id, part } of use.assemblies) {
    const { value: u, clause, unverified } = limits.u[part];
    if (isShared(design, s, id, part)) {
      copyAtLimit(draft, s, id, part, u, clause, unverified);
      continue;
    }
    const { path, now, wanted } = forU(design, id, u);
    draft.set(clause, "envelope", ["assemblies", id, ...path], wanted, now, unverified);
  }
  const { glazingU, glazingG } = limits;
  const kept = new Set(s.spaces === null ? [] : unsubmittedGlazings(design, s));
  for (const [id, { openings }] of use.glazings) {
    const glazing = design.glazings[id];
    const at = { u: glazingU.value, g: glazingG.value };
    if (kept.has(id)) {
      if (glazing.kind === "rated" && !differs(glazing.u, at.u) && !differs(glazing.g, at.g)) continue;
      const own = freeId(draft.project.glazings, `${id.slice(0, 50)}_reference`);
      draft.add(glazingU.clause, "envelope", { op: "insert", path: ["glazings", own], value: ratedGlazing(glazing, at) });
      for (const o of openings) draft.set(glazingU.clause, "envelope", ["openings", o, "glazing"], own);
      continue;
    }
    if (glazing.kind === "rated") {
      draft.set(glazingU.clause, "envelope", ["glazings", id, "u"], at.u, glazing.u, glazingU.unverified);
      draft.set(glazingG.clause, "envelope", ["glazings", id, "g"], at.g, glazing.g, glazingG.unverified);
    }
    // panes cannot be set to a U: the reference takes a glazing rated at the limits in their place
    else draft.add(glazingU.clause, "envelope", setChange(draft.project, ["glazings", id], ratedGlazing(glazing, at)), glazingU.unverified);
  }
  shrink(draft, design, s, use.wallArea > 0 ? use.windowArea / use.wallArea : 0, pack.windowShare, false);
  if (pack.skylightShare) shrink(draft, design, s, use.roofArea > 0 ? use.skylightArea / use.roofArea : 0, pack.skylightShare, true);
  if (pack.reference.shading && s.spaces === null)
    for (const [id, shade] of Object.entries(design.shades))
      draft.add(pack.reference.shading.clause, "envelope", { op: "remove", path: ["shades", id], old: shade });
}

/** Infiltration of the reference, where the pack states it, in air changes. */
function leakage(draft: Draft, design: Project, s: Submission): void {
  const limit = s.pack.reference.airChanges;
  if (!limit) return;
  for (const id of Object.keys(design.spaces)) {
    if (!isSubmitted(s, id)) continue;
    const set = (field: "infiltrationModel" | "infiltration", value: string | number): void =>
      draft.set(limit.clause, "envelope", ["spaces", id, "inputs", field], value, effective(design, "space", id, field).value, limit.unverified);
    set("infiltrationModel", "air changes");
    set("infiltration", limit.value);
  }
}

function ratedGlazing(glazing: Glazing, at: { readonly u: number; readonly g: number }): Glazing {
  const { name, frameShare, ratedFilms } = glazing;
  return {
    kind: "rated",
    name,
    ...at,
    visibleTransmittance: glazingRating(glazing).visibleTransmittance,
    frameShare,
    ratedFilms,
    blind: glazing.blind,
  };
}

/** Glazings that spaces which are not submitted have too. */
function unsubmittedGlazings(design: Project, s: Submission): string[] {
  const others = new Set(Object.keys(design.spaces).filter((id) => !isSubmitted(s, id)));
  return [...envelopeUse(design, { spaces: others }).glazings.keys()];
}

/** An assembly that stands elsewhere too stays there; the submitted faces get a copy at the limit. */
function copyAtLimit(draft: Draft, s: Submission, id: string, part: EnvelopePart, u: number, clause: string, unverified?: boolean): void {
  const made = assemblyWithU(draft.project, id, u);
  if (!differs(made, draft.project.assemblies[id])) return;
  const own = freeId(draft.project.assemblies, `${id.slice(0, 50)}_reference`);
  draft.add(clause, "envelope", { op: "insert", path: ["assemblies", own], value: { ...made, name: `${made.name}, reference`.slice(0, 200) } }, unverified);
  for (const change of swapOnFaces(draft.project, s, id, part, own)) draft.add(clause, "envelope", change, unverified);
}

/** Windows, or skylights, made smaller alike until their share of wall or roof is the largest allowed. */
function shrink(draft: Draft, design: Project, s: Submission, share: number, most: { readonly value: number; readonly clause: string }, roof: boolean): void {
  if (share <= most.value * (1 + SAME)) return;
  const factor = most.value / share;
  const records = new Set([...envelopeUse(design, s).glazings.values()].flatMap((g) => g.openings));
  const inRoof = roofRecords(design);
  // a record that makes windows of spaces which are not submitted too stays as designed
  if (s.spaces !== null) {
    const others = new Set(Object.keys(design.spaces).filter((id) => !isSubmitted(s, id)));
    for (const g of envelopeUse(design, { spaces: others }).glazings.values()) for (const o of g.openings) records.delete(o);
  }
  for (const [id, o] of Object.entries(design.openings)) {
    if (!records.has(id) || inRoof.has(id) !== roof) continue;
    if (o.kind === "ratio") draft.set(most.clause, "envelope", ["openings", id, "ratio"], o.ratio * factor, o.ratio);
    else if (o.kind === "outline") {
      if (o.use === "window") draft.add(most.clause, "envelope", setChange(draft.project, ["openings", id, "ring"], shrunkRing(o.ring, Math.sqrt(factor))));
    } else if (o.kind === "repeated" || (o.kind === "placed" && o.use === "window"))
      draft.set(most.clause, "envelope", ["openings", id, "width"], o.width * factor, o.width);
  }
}

/** Records whose openings lie in roofs. */
function roofRecords(design: Project): Set<string> {
  const { geometry, openings } = checkProject(design);
  return new Set(openings.filter((o) => geometry.byKey.get(o.face)?.kind === "ceiling").map((o) => o.record));
}

/** Corners drawn toward their middle by a factor. */
function shrunkRing(ring: readonly Corner[], factor: number): Corner[] {
  const middle = [0, 1, 2].map((k) => ring.reduce((sum, p) => sum + p[k], 0) / ring.length);
  return ring.map((p): Corner => [0, 1, 2].map((k) => middle[k] + factor * (p[k] - middle[k])) as Corner);
}

function lighting(draft: Draft, design: Project, s: Submission): void {
  const { pack } = s;
  for (const id of Object.keys(design.spaces)) {
    if (!isSubmitted(s, id)) continue;
    const use = packUseOf(design, pack, id);
    // an allowance is per area, however the design gives its power
    const asked = [
      ["lightingGiven", "lightingPower", use.lighting],
      ...(pack.reference.equipment === "of the use" ? ([["applianceGiven", "appliancePower", use.appliances]] as const) : []),
    ] as const;
    for (const [given, power, limit] of asked) {
      draft.set(limit.clause, "lighting", ["spaces", id, "inputs", given], "per area", effective(design, "space", id, given).value, limit.unverified);
      draft.set(limit.clause, "lighting", ["spaces", id, "inputs", power], limit.value, effective(design, "space", id, power).value, limit.unverified);
    }
  }
}

const conditioned = (project: Project, zone: string): boolean =>
  Object.entries(project.spaces).some(
    ([id, sp]) => sp.zone === zone && (["heatingSetpoint", "coolingSetpoint"] as const).some((f) => effective(project, "space", id, f).value !== null),
  );

/** What the map gives every conditioned zone that is submitted: one system for the building, a storey or a zone, by the first row that holds. */
export function mapSystems(design: Project, s: Submission, building: Known = buildingFacts(design, s)): MappedSystem[] {
  if (s.pack.reference.systems.length === 0) return [];
  const formulas = new Formulas(s.pack, s.zone, building);
  const areas = floorAreas(design);
  const zones = submittedZones(design, s).filter((z) => conditioned(design, z));
  const spacesOf = (zone: string): string[] => Object.keys(design.spaces).filter((id) => design.spaces[id].zone === zone);
  const areaOf = (zone: string): number => spacesOf(zone).reduce((a, id) => a + (areas.get(id) ?? 0), 0);
  const isHome = (zone: string): boolean =>
    2 * spacesOf(zone).reduce((a, id) => a + (packUseOf(design, s.pack, id).residential ? (areas.get(id) ?? 0) : 0), 0) > areaOf(zone);
  const out: MappedSystem[] = [];
  for (const residential of [true, false]) {
    const mine = zones.filter((z) => isHome(z) === residential);
    if (mine.length === 0) continue;
    const known: Known = { area: mine.reduce((a, z) => a + areaOf(z), 0), residential: residential ? 1 : 0 };
    const row = s.pack.reference.systems.find((r) => r.when === undefined || formulas.holds(r.when, systemNames, known) === true);
    if (!row) throw new RangeError(`reference/systems: no row of "${s.pack.name}" holds for this building.`);
    if (row.per === "storey") {
      const byStorey = new Map<string, string[]>();
      for (const z of mine) {
        const storey = design.spaces[spacesOf(z)[0]].storey;
        byStorey.set(storey, [...(byStorey.get(storey) ?? []), z]);
      }
      const storeys = Object.keys(design.storeys).filter((k) => byStorey.has(k));
      for (const k of storeys) out.push({ row, zones: byStorey.get(k) as string[], name: `Reference, ${design.storeys[k].name}`, known });
    } else if (row.per === "zone") for (const z of mine) out.push({ row, zones: [z], name: `Reference, ${design.zones[z].name}`, known });
    else out.push({ row, zones: mine, name: residential && zones.length > mine.length ? "Reference, homes" : "Reference", known });
  }
  return out;
}

function services(draft: Draft, design: Project, s: Submission, sizes: KnownSizes, pending: PendingChange[]): MappedSystem[] {
  const { pack } = s;
  const building = buildingFacts(design, s);
  const mapped = mapSystems(design, s, building);
  if (mapped.length === 0) return plainServices(draft, design, s);
  const formulas = new Formulas(pack, s.zone, building);
  // what serves these zones is taken away and the systems of the map are made anew; where that leaves what stood, nothing is changed
  const fresh = new Draft(draft.project);
  const zones = mapped.flatMap((m) => m.zones);
  for (const change of plainChanges(fresh.project, zones)) fresh.add(mapped[0].row.clause, "services", change);
  for (const rule of design.rules)
    if (rule.target === "component" && rule.on && s.spaces === null) fresh.set(mapped[0].row.clause, "services", ["rules", rule.id, "on"], false);
  for (const m of mapped) {
    const before = fresh.project;
    for (const change of systemChanges(before, m.row.arrangement, m.row.plant, m.zones, m.name)) fresh.add(m.row.clause, "services", change, m.row.unverified);
    const made = Object.keys(fresh.project.airSystems).filter((id) => !Object.hasOwn(before.airSystems, id));
    if (m.row.recovery)
      for (const id of made)
        if (!fresh.project.airSystems[id].parts.some((p) => p.kind === "recovery"))
          fresh.add(m.row.clause, "services", addPart(fresh.project, id, "recovery", 0).change);
    for (const setting of m.row.set) applySetting(fresh, formulas, setting, m, sizes, pending);
  }
  const { sizing } = pack.reference;
  if (sizing)
    for (const z of zones)
      for (const [field, limit] of [
        ["heatingFactor", sizing.heating],
        ["coolingFactor", sizing.cooling],
      ] as const)
        fresh.set(limit.clause, "services", ["zones", z, "inputs", field], limit.value, effective(design, "zone", z, field).value, limit.unverified);
  for (const [id, sp] of Object.entries(design.spaces))
    if (sp.zone !== null && zones.includes(sp.zone) && ((effective(design, "space", id, "freeCooling").value as number | null) ?? 0) > 0)
      fresh.set(mapped[0].row.clause, "services", ["spaces", id, "inputs", "freeCooling"], 0, effective(design, "space", id, "freeCooling").value);
  if (servicesDiffer(fresh.project, draft.project)) for (const c of fresh.changes) draft.add(c.clause, c.part, c.change, c.unverified);
  withoutOnSite(draft, design, s, mapped[0].row.clause);
  return mapped;
}

/** Whether two buildings are served differently: what is compared is the outcome, not the way to it. */
const servicesDiffer = (a: Project, b: Project): boolean =>
  (["airSystems", "loops", "zones", "rules", "spaces"] as const).some((part) => a[part] !== b[part] && sorted(a[part]) !== sorted(b[part]));
function sorted(v: unknown): string {
  return JSON.stringify(v, (_, x: unknown) =>
    typeof x === "object" && x !== null && !Array.isArray(x) ? Object.fromEntries(Object.entries(x).sort(([p], [q]) => (p < q ? -1 : 1))) : x,
  );
}

/** Puts a setting of the map on every component of its kind in a system; one that depends on a size that is not known yet is left pending. */
function applySetting(fresh: Draft, formulas: Formulas, setting: PackSetting, m: MappedSystem, sizes: KnownSizes, pending: PendingChange[]): void {
  if (setting.when !== undefined && formulas.holds(setting.when, systemNames, m.known) !== true) return;
  const spec = serviceFieldsOf(setting.of)[setting.field];
  for (const path of componentPaths(fresh.project, setting.of, m.zones)) {
    const address = [...path, "inputs", setting.field];
    if (typeof setting.value === "number" || spec.kind === "choice") {
      fresh.set(setting.clause, "services", address, setting.value);
      continue;
    }
    const size = (field: string): number | null => sizes?.[[...path, "inputs", field].join("/")] ?? null;
    const value = formulas.value(setting.value, spec.unit === "" ? "1" : spec.unit, [...systemNames, ...sizeNames], {
      ...m.known,
      capacity: size("capacity"),
      flow: size("flow"),
    });
    if (value === null) {
      if (!pending.some((p) => p.path === address.join("/")))
        pending.push({ clause: setting.clause, path: address.join("/"), kind: setting.of, field: setting.field });
    } else fresh.set(setting.clause, "services", address, value);
  }
}

/** Addresses of the components of a kind that serve zones; air systems and loops count as components of their own. */
function componentPaths(project: Project, kind: ComponentKind, zones: readonly string[]): string[][] {
  return componentsOf(project)
    .filter((c) => c.kind === kind && zonesServed(project, c).some((z) => zones.includes(z)))
    .map((c) => [...c.path]);
}

/** Where the pack maps no system: plain services of its efficiencies. */
function plainServices(draft: Draft, design: Project, s: Submission): MappedSystem[] {
  const v = s.pack.services;
  const zones = submittedZones(design, s);
  for (const change of plainChanges(design, zones)) draft.add(v.heating.clause, "services", change);
  const at = (clause: string, work: (now: Services) => Services): void => changePlain(draft, design, s, clause, "services", work);
  at(v.heating.clause, (now) => ({ ...now, heating: { ...now.heating, fuel: v.heatingFuel, efficiency: v.heating.value } }));
  at(v.cooling.clause, (now) => ({ ...now, cooling: { ...now.cooling, fuel: v.coolingFuel, efficiency: v.cooling.value } }));
  at(v.fanPower.clause, (now) => ({ ...now, fanPower: v.fanPower.value }));
  at(v.heatRecovery.clause, (now) => ({ ...now, heatRecovery: { ...now.heatRecovery, sensible: v.heatRecovery.value } }));
  withoutOnSite(draft, design, s, v.heating.clause);
  return [];
}

/** The reference building makes no electricity; what stands on a site of which a part is submitted stays. */
function withoutOnSite(draft: Draft, design: Project, s: Submission, clause: string): void {
  if (s.spaces === null)
    for (const id of Object.keys(design.onSite).sort()) draft.add(clause, "services", { op: "remove", path: ["onSite", id], old: design.onSite[id] });
}

/** Plain services of the zones submitted, with what they become; where others have them too, the zones submitted get services of their own. */
function changePlain(draft: Draft, design: Project, s: Submission, clause: string, part: ScopePart, change: (now: Services) => Services): void {
  const zones = submittedZones(design, s);
  const served = (z: string): string => effectiveServices(draft.project, z).id;
  for (const id of [...new Set(zones.map(served))].sort()) {
    const now = draft.project.services[id];
    const made = change(now);
    if (!differs(made, now)) continue;
    const others = Object.keys(design.zones).some((z) => !zones.includes(z) && served(z) === id);
    if (!others) {
      for (const [key, value] of Object.entries(made))
        if (typeof value === "object" && value !== null)
          for (const [field, v] of Object.entries(value)) draft.set(clause, part, ["services", id, key, field], v);
        else draft.set(clause, part, ["services", id, key], value);
      continue;
    }
    const own = freeId(draft.project.services, `${id.slice(0, 50)}_reference`);
    draft.add(clause, part, { op: "insert", path: ["services", own], value: { ...made, name: `${made.name}, reference`.slice(0, 200) } });
    for (const z of zones) if (served(z) === id) draft.set(clause, part, ["zones", z, "services"], own);
  }
}

/** Hot water of the reference comes from the plain services, of the pack's fuel and efficiency. */
function hotWater(draft: Draft, design: Project, s: Submission): void {
  const { services } = s.pack;
  const has = s.fuels.has(services.hotWaterFuel);
  const limit = has ? services.hotWater : services.hotWaterElectric;
  const fuel = has ? services.hotWaterFuel : "electricity";
  if (s.spaces === null)
    for (const id of Object.keys(design.waterSystems).sort())
      draft.add(limit.clause, "hot water", { op: "remove", path: ["waterSystems", id], old: draft.project.waterSystems[id] });
  changePlain(draft, design, s, limit.clause, "hot water", (now) => ({ ...now, hotWater: { ...now.hotWater, fuel, efficiency: limit.value } }));
}
