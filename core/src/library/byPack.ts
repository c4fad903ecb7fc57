import { assemblyU, insulatingLayer, thicknessForTarget } from "../fabric/index.ts";
import { envelopeParts, type EnvelopePart, type Pack, type Assembly, type Glazing, type Project } from "../model/index.ts";
import { shippedAssemblies } from "./assemblies.ts";
import { shippedMaterials } from "./materials.ts";

/** Assemblies whose insulation is set so that they just meet a limit, by part of the envelope: one for each way of building. */
const families: Readonly<Record<EnvelopePart, readonly string[]>> = {
  exteriorWall: ["wall_light_panel", "wall_timber_frame", "wall_cavity_filled", "wall_concrete_outside", "wall_steel_frame"],
  roof: ["roof_light_fabric", "roof_rafter", "roof_warm_concrete", "roof_steel_deck"],
  groundFloor: ["ground_slab_under", "ground_timber", "ground_beam_block"],
  exposedFloor: ["exposed_concrete", "exposed_timber", "exposed_steel"],
};

/** An assembly with the layer that insulates best as thick as a U allows, W/m²K; null where no thickness gives it. */
export function assemblyAtLimit(base: Assembly, u: number): Assembly | null {
  const source = { materials: shippedMaterials };
  const layer = insulatingLayer(source, base);
  const found = layer === null ? null : thicknessForTarget(source, base, layer, u);
  if (!found?.ok) return null;
  const { thickness } = found;
  return { ...base, layers: base.layers.map((l) => (l.kind === "solid" && l.id === layer ? { ...l, thickness } : l)) };
}

/** Assemblies and glazings that just meet the limits of each climate zone of a pack, made from the pack. Ids: pack, zone, base. */
export function atLimitsOf(pack: Pack): Pick<Project, "assemblies" | "glazings"> {
  const assemblies: Project["assemblies"] = {};
  const glazings: Project["glazings"] = {};
  for (const [zone, limits] of Object.entries(pack.climateZones)) {
    for (const part of envelopeParts)
      for (const base of families[part]) {
        const { value, clause } = limits.u[part];
        const made = assemblyAtLimit(shippedAssemblies[base], value);
        if (made)
          assemblies[`${pack.id}_${zone}_${base}`] = {
            ...made,
            name: `${made.name}, U ${assemblyU({ materials: shippedMaterials }, made).toFixed(2)}, ${pack.name} zone ${zone}`,
            source: `Just meets ${pack.name}, ${pack.edition}, clause ${clause}, climate zone ${zone}`,
          };
      }
    const glazing: Glazing = {
      kind: "rated",
      name: `Glazing, U ${limits.glazingU.value.toFixed(1)}, g ${limits.glazingG.value.toFixed(2)}, ${pack.name} zone ${zone}`,
      u: limits.glazingU.value,
      g: limits.glazingG.value,
      visibleTransmittance: Math.min(0.8, limits.glazingG.value + 0.2),
      frameShare: 0.2,
      ratedFilms: { inside: 7.7, outside: 25 },
      blind: null,
      source: `Just meets ${pack.name}, ${pack.edition}, clauses ${limits.glazingU.clause} and ${limits.glazingG.clause}, climate zone ${zone}`,
    };
    glazings[`${pack.id}_${zone}_glazing`] = glazing;
  }
  return { assemblies, glazings };
}
