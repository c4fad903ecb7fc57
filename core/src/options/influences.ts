import { deriveFaces, deriveOpenings, spaceShapes } from "../geometry/index.ts";
import { effective, effectiveServices, effectiveSetting, faceAssembly, openingConstruction, type Origin } from "../inputs/index.ts";
import {
  applyChanges,
  componentsOf,
  serviceFieldsOf,
  setChange,
  spaceFields,
  type Change,
  type FieldSpec,
  type Project,
  type SpaceField,
} from "../model/index.ts";

/** An input of the model that may move its figures, over the range it usually has. */
export interface Influence {
  /** Its address in the document, or the field of all spaces. */
  readonly id: string;
  readonly words: string;
  readonly unit: string;
  /** Unit it is customarily shown in; absent: its own. */
  readonly shown?: string;
  /** Value in the model now; of many places their mean by floor area. */
  readonly now: number;
  /** Least and most of the usual range; the value now lies within. */
  readonly range: readonly [least: number, most: number];
  /** Places that have it, and how many of them stand on a default. */
  readonly places: number;
  readonly defaults: number;
  readonly origin: Origin;
  /** Where it is edited, ids joined by /. */
  readonly address: string;
}

/** Inputs of spaces, the likeliest first; the level of all spaces together is moved, so that each keeps its place among the others. */
export const likelyFields: readonly SpaceField[] = [
  "infiltration",
  "lightingPower",
  "appliancePower",
  "outdoorAirPerPerson",
  "peopleDensity",
  "heatingSetpoint",
  "coolingSetpoint",
  "heatingSetback",
  "outdoorAirPerArea",
  "innerMass",
  "hotWaterPerPerson",
  "nightVentilation",
  "infiltrationFlow",
  "leakageArea",
  "peopleSensible",
  "coolingSetback",
];
/** Set-points are moved by so much to either side, K. */
const SETPOINT_SWING = 2;
const TEMPERATURES: ReadonlySet<SpaceField> = new Set<SpaceField>(["heatingSetpoint", "coolingSetpoint", "heatingSetback", "coolingSetback"]);

/** So many inputs are looked at unless more are asked for. */
export const LIKELIEST = 20;

const within = (spec: Pick<FieldSpec, "min" | "max">, v: number): number => Math.min(spec.max ?? Infinity, Math.max(spec.min ?? -Infinity, v));

/** A range that holds the value now. */
const holding = (range: readonly [number, number], now: number): readonly [number, number] => [Math.min(range[0], now), Math.max(range[1], now)];

interface SpaceLevel {
  readonly values: readonly { readonly space: string; readonly value: number }[];
  readonly mean: number;
}
/** Numbers a field has in the spaces where it acts, and their mean by floor area; null: nowhere, or nothing there to scale. */
function levelOf(project: Project, field: SpaceField): SpaceLevel | null {
  const spec: FieldSpec = spaceFields[field];
  const shapes = spaceShapes(project);
  const values: { space: string; value: number }[] = [];
  let [area, sum] = [0, 0];
  for (const space of Object.keys(project.spaces)) {
    if (spec.when && !spec.when.is.includes(String(effective(project, "space", space, spec.when.field as SpaceField).value))) continue;
    const { value } = effective(project, "space", space, field);
    if (typeof value !== "number") continue;
    const floor = shapes.get(space)?.floorArea ?? 0;
    values.push({ space, value });
    area += floor;
    sum += floor * value;
  }
  const mean = area > 0 ? sum / area : 0;
  return values.length === 0 || (mean === 0 && !TEMPERATURES.has(field)) ? null : { values, mean };
}

function spaceInfluence(project: Project, field: SpaceField): Influence[] {
  const spec: FieldSpec = spaceFields[field];
  const level = levelOf(project, field);
  if (!level || !spec.usual) return [];
  const { mean, values } = level;
  const range: readonly [number, number] = TEMPERATURES.has(field) ? [mean - SETPOINT_SWING, mean + SETPOINT_SWING] : holding(spec.usual, mean);
  const origins = values.map((v) => effective(project, "space", v.space, field).origin);
  const defaults = origins.filter((o) => o.kind === "default").length;
  return [
    {
      id: `spaces ${field}`,
      words: `${spec.label}, all spaces`,
      unit: spec.unit,
      ...(spec.display ? { shown: spec.display.unit } : {}),
      now: mean,
      range,
      places: values.length,
      defaults,
      origin: origins[defaults > 0 ? origins.findIndex((o) => o.kind === "default") : 0],
      address: `spaces/${values[0].space}/inputs/${field}`,
    },
  ];
}

/** Assemblies and glazings of the envelope with the area each covers, m², and where they come from. */
function envelope(project: Project): { readonly kind: "assemblies" | "glazings"; readonly id: string; readonly area: number; readonly origin: Origin }[] {
  const geometry = deriveFaces(project);
  const { openings } = deriveOpenings(project, geometry);
  const found = new Map<string, { kind: "assemblies" | "glazings"; id: string; area: number; origin: Origin }>();
  const add = (kind: "assemblies" | "glazings", id: string, area: number, origin: Origin): void => {
    const known = found.get(`${kind}/${id}`);
    if (known) known.area += area;
    else found.set(`${kind}/${id}`, { kind, id, area, origin });
  };
  for (const f of geometry.faces) {
    if (f.contact !== "outdoors" && f.contact !== "ground") continue;
    const a = faceAssembly(project, f);
    add("assemblies", a.id, f.area, a.origin);
  }
  for (const o of openings) {
    const face = geometry.byKey.get(o.face);
    if (!face || o.use !== "window") continue;
    const g = openingConstruction(project, o, face);
    add("glazings", g.id, o.area, g.origin);
  }
  return [...found.values()].sort((a, b) => b.area - a.area);
}

/** The layer that insulates most of an assembly. */
function insulation(project: Project, id: string): { readonly layer: string; readonly thickness: number; readonly name: string } | null {
  let best: { layer: string; thickness: number; name: string } | null = null;
  let most = 0.3;
  for (const l of project.assemblies[id].layers) {
    if (l.kind !== "solid") continue;
    const m = project.materials[l.material];
    const resistance = l.thickness / m.conductivity;
    if (resistance > most) {
      most = resistance;
      best = { layer: l.id, thickness: l.thickness, name: m.name };
    }
  }
  return best;
}

/** Units a value of one place is shown in. */
const SHOWN: Readonly<Record<string, string>> = { m: "mm" };
const one = (id: string, words: string, unit: string, now: number, range: readonly [number, number], origin: Origin): Influence => ({
  id,
  words,
  unit,
  ...(Object.hasOwn(SHOWN, unit) ? { shown: SHOWN[unit] } : {}),
  now,
  range: holding(range, now),
  places: 1,
  defaults: origin.kind === "default" ? 1 : 0,
  origin,
  address: id,
});
const TYPED: Origin = { kind: "typed" };

/** Every input that may move the figures, the likeliest first. */
export function influencesOf(project: Project): Influence[] {
  const spaces = likelyFields.flatMap((f) => spaceInfluence(project, f));
  const fabric = envelope(project).flatMap(({ kind, id, origin }): Influence[] => {
    if (kind === "glazings") {
      const g = project.glazings[id];
      if (g.kind !== "rated")
        return g.panes.length === 0 ? [] : [one(`glazings/${id}/frameShare`, `${g.name}: share of the frame`, "1", g.frameShare, [0.1, 0.35], origin)];
      return [
        one(`glazings/${id}/g`, `${g.name}: solar gain, g-value`, "1", g.g, [0.25, 0.65], origin),
        one(`glazings/${id}/u`, `${g.name}: U-value`, "W/m²K", g.u, [0.8, 2.8], origin),
      ];
    }
    const a = project.assemblies[id];
    if (a.rated) return [one(`assemblies/${id}/rated/u`, `${a.name}: U-value`, "W/m²K", a.rated.u, [a.rated.u / 2, a.rated.u * 2], origin)];
    const layer = insulation(project, id);
    return layer
      ? [
          one(
            `assemblies/${id}/layers/${layer.layer}/thickness`,
            `${a.name}: ${layer.name}, thickness`,
            "m",
            layer.thickness,
            [layer.thickness / 2, layer.thickness * 2],
            origin,
          ),
        ]
      : [];
  });
  const openings = Object.entries(project.openings).flatMap(([id, o]): Influence[] =>
    o.kind === "ratio"
      ? [one(`openings/${id}/ratio`, `${o.name}: share of the wall`, "1", o.ratio, [0.6 * o.ratio, Math.min(0.95, 1.4 * o.ratio)], TYPED)]
      : [],
  );
  const shades = Object.entries(project.shades).flatMap(([id, s]): Influence[] =>
    s.kind === "overhang" || s.kind === "fins" ? [one(`shades/${id}/depth`, `${s.name}: depth`, "m", s.depth, [0, Math.max(1, 1.5 * s.depth)], TYPED)] : [],
  );
  return [
    ...spaces.slice(0, 8),
    ...fabric.slice(0, 6),
    ...shades.slice(0, 2),
    ...openings.slice(0, 2),
    ...efficiencies(project),
    ...spaces.slice(8),
    ...fabric.slice(6),
    ...shades.slice(2),
    ...openings.slice(2),
  ];
}

/** Efficiencies of the plain services that are in use, and of components. */
function efficiencies(project: Project): Influence[] {
  const used = new Map<string, Origin>();
  for (const zone of Object.keys(project.zones))
    if (!project.zones[zone].equipment?.length) {
      const s = effectiveServices(project, zone);
      used.set(s.id, s.origin);
    }
  const plain = [...used].flatMap(([id, origin]): Influence[] => {
    const s = project.services[id];
    const boiler = s.heating.efficiency < 1.2;
    return [
      one(
        `services/${id}/heating/efficiency`,
        `${s.name}: ${boiler ? "efficiency" : "COP"} of heating`,
        "1",
        s.heating.efficiency,
        boiler ? [0.75, 0.98] : [2, 5],
        origin,
      ),
      one(`services/${id}/cooling/efficiency`, `${s.name}: COP of cooling`, "1", s.cooling.efficiency, [2.5, 6], origin),
      one(`services/${id}/heatRecovery/sensible`, `${s.name}: heat recovery`, "1", s.heatRecovery.sensible, [0, 0.85], origin),
    ];
  });
  const parts = componentsOf(project).flatMap((c) =>
    Object.entries(serviceFieldsOf(c.kind)).flatMap(([field, spec]): Influence[] => {
      if (spec.kind !== "number" || !spec.usual || (spec.group !== "Efficiency" && field !== "pressure")) return [];
      const { value, origin } = effectiveSetting(project, c, field);
      if (typeof value !== "number" || value <= 0) return [];
      return [one([...c.path, "inputs", field].join("/"), `${c.name}: ${spec.label.toLowerCase()}`, spec.unit, value, spec.usual, origin)];
    }),
  );
  return [...plain, ...parts];
}

/** Changes that put an influence at a value. */
function changesFor(project: Project, influence: Influence, value: number): Change[] {
  if (!influence.id.startsWith("spaces ")) return [setChange(project, influence.id.split("/"), value)];
  const field = influence.id.slice("spaces ".length) as SpaceField;
  const level = levelOf(project, field);
  const spec: FieldSpec = spaceFields[field];
  return (level?.values ?? []).map(({ space, value: own }) => {
    const moved = TEMPERATURES.has(field) ? own + value - influence.now : (own * value) / influence.now;
    return setChange(project, ["spaces", space, "inputs", field], within(spec, moved));
  });
}

/** The model with influences at values of their own; null where that is no model. */
export function movedTo(project: Project, at: readonly (readonly [Influence, number])[]): Project | null {
  const moved = at.flatMap(([i, v]) => (v === i.now ? [] : changesFor(project, i, v)));
  if (moved.length === 0) return project;
  const applied = applyChanges(project, moved);
  return applied.ok ? applied.project : null;
}
