import { airDensity, facadeFlow, leakageAtReference, LEAKAGE_PRESSURE } from "../airflow/index.ts";
import { standardPressure } from "../climate/index.ts";
import { assemblyU, glazingRating } from "../fabric/index.ts";
import {
  daylitAreas,
  effective,
  effectiveServices,
  effectiveSetting,
  faceAssembly,
  kitRole,
  openingConstruction,
  ruledComponents,
  spaceUses,
} from "../inputs/index.ts";
import {
  componentName,
  componentsOf,
  envelopeParts,
  isSized,
  ownerName,
  quantity,
  zonesServed,
  type EnvelopePart,
  type PlacedComponent,
  type Project,
  type SpaceField,
  type SubjectKind,
} from "../model/index.ts";
import { equipmentOf } from "../services/index.ts";
import { checkProject } from "../simulate/index.ts";
import type { Known } from "./formula.ts";
import { floorAreas, isSubmitted, servesSubmitted, submittedZones, packUseOf, type Submission } from "./submission.ts";

/** Sizes that are known, by address of the setting. */
export type KnownSizes = Readonly<Record<string, number>> | null;

/** One thing a check may stand for. */
export interface Subject {
  readonly kind: SubjectKind;
  readonly name: string;
  /** Address of the thing, ids joined by /; null: the building. */
  readonly place: string | null;
  readonly known: Known;
  /** Faces or openings it stands on, for the 3D view. */
  readonly faces?: readonly string[];
}

/** Where the submitted envelope uses what: an assembly may stand in several parts; areas, m². */
export interface EnvelopeUse {
  readonly assemblies: readonly { readonly id: string; readonly part: EnvelopePart; readonly area: number; readonly faces: readonly string[] }[];
  readonly glazings: ReadonlyMap<
    string,
    { readonly area: number; readonly spaces: readonly string[]; readonly openings: readonly string[]; readonly faces: readonly string[] }
  >;
  readonly wallArea: number;
  readonly windowArea: number;
  readonly roofArea: number;
  readonly skylightArea: number;
}

/** Collects what outdoor and ground faces and windows of the spaces submitted are made of. */
export function envelopeUse(project: Project, scope: Pick<Submission, "spaces"> = { spaces: null }): EnvelopeUse {
  const { geometry, openings } = checkProject(project);
  const assemblies = new Map<string, { id: string; part: EnvelopePart; area: number; faces: string[] }>();
  const glazings = new Map<string, { area: number; spaces: string[]; openings: string[]; faces: string[] }>();
  let [wallArea, windowArea, roofArea, skylightArea] = [0, 0, 0, 0];
  for (const f of geometry.faces) {
    const part = kitRole(f);
    // what lets no heat through has no limit to meet
    if (f.contact === "adiabatic" || !isSubmitted(scope, f.space)) continue;
    if (!(envelopeParts as readonly string[]).includes(part)) continue;
    const { id } = faceAssembly(project, f);
    const key = `${id} ${part}`;
    let use = assemblies.get(key);
    if (!use) assemblies.set(key, (use = { id, part: part as EnvelopePart, area: 0, faces: [] }));
    use.area += f.area;
    use.faces.push(f.key);
    if (part === "exteriorWall") wallArea += f.area;
    if (part === "roof") roofArea += f.area;
  }
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (!f || o.use !== "window" || !isSubmitted(scope, f.space)) continue;
    const { id } = openingConstruction(project, o, f);
    let use = glazings.get(id);
    if (!use) glazings.set(id, (use = { area: 0, spaces: [], openings: [], faces: [] }));
    use.area += o.area;
    if (!use.spaces.includes(f.space)) use.spaces.push(f.space);
    if (!use.faces.includes(f.key)) use.faces.push(f.key);
    if (!use.openings.includes(o.record)) use.openings.push(o.record);
    if (f.kind === "wall") windowArea += o.area;
    else skylightArea += o.area;
  }
  return { assemblies: [...assemblies.values()], glazings, wallArea, windowArea, roofArea, skylightArea };
}

/** What expressions of a pack know of the whole building. */
export function buildingFacts(project: Project, s: Submission): Known {
  const areas = floorAreas(project);
  let [area, homes] = [0, 0];
  for (const [id, a] of areas) {
    area += a;
    if (packUseOf(project, s.pack, id).residential) homes += a;
  }
  const use = envelopeUse(project, s);
  const limits = s.pack.climateZones[s.zone];
  const zone = Number(/\d+/.exec(s.zone)?.[0] ?? NaN);
  return {
    climate_zone: Number.isFinite(zone) ? zone : null,
    building_area: area,
    // a storey whose ceiling is no more than a metre above the ground is a basement
    storeys: Object.values(project.storeys).reduce((n, x) => n + (x.elevation + x.height > 1 ? x.multiplier : 0), 0),
    residential_share: area > 0 ? homes / area : 0,
    gas: s.fuels.has("gas") ? 1 : 0,
    district: s.fuels.has("district heat") ? 1 : 0,
    window_share: use.wallArea > 0 ? use.windowArea / use.wallArea : 0,
    skylight_share: use.roofArea > 0 ? use.skylightArea / use.roofArea : 0,
    most_window_share: s.pack.windowShare.value,
    most_skylight_share: s.pack.skylightShare?.value ?? null,
    daylight_over: s.pack.daylight?.over.value ?? null,
    u_wall: limits.u.exteriorWall.value,
    u_roof: limits.u.roof.value,
    u_ground_floor: limits.u.groundFloor.value,
    u_exposed_floor: limits.u.exposedFloor.value,
    u_glazing: limits.glazingU.value,
    g_glazing: limits.glazingG.value,
  };
}

const PART_SUBJECT: Readonly<Record<EnvelopePart, SubjectKind>> = {
  exteriorWall: "outside wall",
  roof: "roof",
  groundFloor: "ground floor",
  exposedFloor: "exposed floor",
};
const PART_NAMES: Readonly<Record<EnvelopePart, string>> = {
  exteriorWall: "outside walls",
  roof: "roofs",
  groundFloor: "ground floors",
  exposedFloor: "floors over air",
};
const COMPONENT_SUBJECT: Readonly<
  Record<string, { readonly kind: SubjectKind; readonly fields: Readonly<Record<string, string>>; readonly when?: readonly [string, string] }>
> = {
  boiler: { kind: "boiler", fields: { efficiency: "efficiency", capacity: "capacity" } },
  chiller: { kind: "chiller", fields: { cop: "cop", capacity: "capacity" }, when: ["condenser", "outdoor air"] },
  heatPump: { kind: "heat pump", fields: { cop: "cop", capacity: "capacity" } },
  coolingCoil: { kind: "cooling coil", fields: { cop: "cop", capacity: "capacity" }, when: ["cold", "direct expansion"] },
  splitUnit: { kind: "split unit", fields: { heating_cop: "heatingCop", cooling_cop: "coolingCop", capacity: "coolingCapacity" } },
  waterHeater: { kind: "water heater", fields: { efficiency: "efficiency", power: "power" } },
};

/** Everything the checks of a pack stand for, with what is known of it. @param sizes null: not known yet */
export function subjectsOf(project: Project, s: Submission, sizes: KnownSizes): Subject[] {
  const out: Subject[] = [];
  const envelope = envelopeUse(project, s);
  for (const { id, part, area, faces } of envelope.assemblies)
    out.push({
      kind: PART_SUBJECT[part],
      name: `${project.assemblies[id].name}, ${quantity(area, "m²", 0)} of ${PART_NAMES[part]}`,
      place: `assemblies/${id}`,
      known: { u: assemblyU(project, project.assemblies[id]), area },
      faces,
    });
  for (const [id, { area, faces }] of envelope.glazings) {
    const { u, g, visibleTransmittance } = glazingRating(project.glazings[id]);
    out.push({
      kind: "glazing",
      name: `${project.glazings[id].name}, ${quantity(area, "m²", 0)}`,
      place: `glazings/${id}`,
      known: { u, g, visible_transmittance: visibleTransmittance, area },
      faces,
    });
  }
  const share = (part: number, whole: number): number => (whole > 0 ? part / whole : 0);
  out.push({
    kind: "building",
    name: "Windows and skylights of the envelope",
    place: null,
    known: { window_share: share(envelope.windowArea, envelope.wallArea), skylight_share: share(envelope.skylightArea, envelope.roofArea) },
  });
  const uses = spaceUses(project);
  const daylit = new Map(daylitAreas(project).map((a) => [a.space, a]));
  for (const [id, space] of Object.entries(project.spaces)) {
    if (!isSubmitted(s, id)) continue;
    const use = packUseOf(project, s.pack, id);
    const own = uses.get(id);
    const area = own?.area ?? 0;
    const people = own?.people ?? 0;
    const day = daylit.get(id);
    out.push({
      kind: "space",
      name: space.name,
      place: `spaces/${id}`,
      known: {
        floor_area: area,
        lighting: lightingPerArea(project, id, area, own?.lighting ?? 0),
        lighting_allowance: use.lighting.value,
        appliances: area > 0 && own ? own.appliances.power / area : 0,
        air_changes: airChanges(project, id),
        people,
        outdoor_air: own ? 1000 * own.outdoorAir.needed : 0,
        outdoor_air_least: people * (use.outdoorAirPerPerson?.value ?? 0) + area * (use.outdoorAirPerArea?.value ?? 0),
        daylit_power: day ? Math.max(day.primaryPower, day.topPower) : 0,
        daylight_control: day?.controlled ? 1 : 0,
        residential: use.residential ? 1 : 0,
      },
    });
  }
  const zones = new Set(submittedZones(project, s));
  const ruled = ruledComponents(project).project;
  const placed = componentsOf(ruled);
  const number = (c: PlacedComponent, field: string): number | null => {
    if (isSized(c.kind, c.inputs, field)) return sizes?.[[...c.path, "inputs", field].join("/")] ?? null;
    const { value } = effectiveSetting(project, c, field);
    return typeof value === "number" ? value : null;
  };
  for (const [id, system] of Object.entries(ruled.airSystems)) {
    if (!servesSubmitted(project, id, zones)) continue;
    const parts = placed.filter((c) => c.path[0] === "airSystems" && c.path[1] === id);
    const of = (kind: string): PlacedComponent | undefined => parts.find((p) => p.kind === kind);
    const [recovery, mixing, supply] = [of("recovery"), of("mixing"), of("supplyFan")];
    const fans = parts.filter((p) => p.kind === "supplyFan" || p.kind === "returnFan");
    out.push({
      kind: "air system",
      name: system.name,
      place: `airSystems/${id}`,
      known: {
        heat_recovery: recovery ? number(recovery, "sensible") : 0,
        economizer: mixing && effectiveSetting(project, mixing, "economizer").value !== "none" ? 1 : 0,
        fan_power: fans.reduce((w, f) => w + (number(f, "pressure") ?? 0) / (number(f, "efficiency") ?? 1), 0),
        flow: supply ? number(supply, "flow") : 0,
        cooled: of("coolingCoil") ? 1 : 0,
      },
    });
  }
  const plain = new Set(Object.keys(project.zones).filter((z) => zones.has(z) && equipmentOf(project, z).length === 0));
  for (const id of [...new Set([...plain].map((z) => effectiveServices(project, z).id))].sort()) {
    const v = project.services[id];
    out.push({
      kind: "plain services",
      name: v.name,
      place: `services/${id}`,
      known: {
        heat_recovery: v.heatRecovery.sensible,
        fan_power: v.fanPower,
        heating_efficiency: v.heating.efficiency,
        cooling_efficiency: v.cooling.efficiency,
        hot_water_efficiency: v.hotWater.efficiency,
      },
    });
  }
  for (const c of placed) {
    const subject = Object.hasOwn(COMPONENT_SUBJECT, c.kind) ? COMPONENT_SUBJECT[c.kind] : null;
    if (!subject || !zonesServed(ruled, c).some((z) => zones.has(z))) continue;
    if (subject.when && effectiveSetting(project, c, subject.when[0]).value !== subject.when[1]) continue;
    out.push({
      kind: subject.kind,
      name: `${componentName(c)} of ${ownerName(project, c)}`,
      place: c.path.join("/"),
      known: Object.fromEntries(Object.entries(subject.fields).map(([n, f]) => [n, number(c, f)])),
    });
  }
  return out;
}

/** Installed lighting of a space, W/m², however it is given. */
function lightingPerArea(project: Project, id: string, area: number, power: number): number {
  if (area <= 0 || effective(project, "space", id, "lightingGiven").value === "per area")
    return effective(project, "space", id, "lightingPower").value as number;
  return power / area;
}

/** Leakage of a space, 1/h: as typed in air changes, else what its façades pass at 4 Pa. */
function airChanges(project: Project, id: string): number {
  const number = (name: SpaceField): number => effective(project, "space", id, name).value as number;
  const model = effective(project, "space", id, "infiltrationModel").value as string;
  if (model === "air changes") return number("infiltration");
  const { geometry } = checkProject(project);
  const volume = geometry.spaces.get(id)?.volume ?? 0;
  if (volume <= 0) return 0;
  const facade = geometry.faces.reduce((a, f) => (f.space === id && f.contact === "outdoors" ? a + f.area : a), 0);
  const density = airDensity(20, standardPressure(project.site.elevation));
  const flow =
    model === "leakage area"
      ? leakageAtReference(facade * number("leakageArea"), density)
      : facadeFlow(facade * number("infiltrationFlow"), LEAKAGE_PRESSURE, number("infiltrationPressure"));
  return (3600 * flow) / volume;
}
