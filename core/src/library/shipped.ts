import type { Assembly, Glazing, Kit, Material, Project, RecordSet, Schedule, SpaceType } from "../model/index.ts";
import { plateauPack, prescriptivePack } from "../packs/index.ts";
import { shippedAssemblies } from "./assemblies.ts";
import { atLimitsOf } from "./byPack.ts";
import { shippedComponents, type ShippedComponent } from "./components.ts";
import { shippedGlazings } from "./glazings.ts";
import { shippedMaterials } from "./materials.ts";
import { shippedDevices, type ShippedDevice } from "./devices.ts";
import { shippedUses } from "./uses.ts";

/** Name of the library that ships, in what was copied from it. */
export const SHIPPED = "Arroyo";

const kit = (
  name: string,
  wall: string,
  roof: string,
  ground: string,
  exposed: string,
  inner: string,
  between: string,
  glazing: string,
  door: string,
): Kit => ({
  name,
  exteriorWall: wall,
  roof,
  groundFloor: ground,
  exposedFloor: exposed,
  interiorWall: inner,
  interiorFloor: between,
  glazing,
  skylight: glazing,
  door,
});

/** Envelope kits that ship: one for each way of building. */
export const shippedKits: Project["kits"] = {
  kit_light: kit(
    "Light",
    "wall_light_panel",
    "roof_light_fabric",
    "ground_steel_cold",
    "exposed_light",
    "inner_stud",
    "between_timber",
    "double_soft_argon",
    "door_insulated",
  ),
  kit_timber: kit(
    "Timber",
    "wall_timber_frame",
    "roof_rafter",
    "ground_timber",
    "exposed_timber",
    "inner_timber",
    "between_timber",
    "triple_soft_argon",
    "door_timber",
  ),
  kit_clt: kit("Solid timber", "wall_clt", "roof_clt", "ground_glass_gravel", "exposed_timber", "inner_clt", "between_clt", "triple_soft_argon", "door_timber"),
  kit_masonry: kit(
    "Masonry",
    "wall_cavity_filled",
    "roof_rafter",
    "ground_beam_block",
    "exposed_concrete",
    "inner_block",
    "between_concrete",
    "double_soft_argon",
    "door_timber",
  ),
  kit_concrete: kit(
    "Concrete",
    "wall_concrete_outside",
    "roof_warm_concrete",
    "ground_slab_under",
    "exposed_concrete",
    "inner_concrete",
    "between_concrete",
    "double_soft_argon_al",
    "door_steel",
  ),
  kit_steel: kit(
    "Steel",
    "wall_steel_panel",
    "roof_steel_deck",
    "ground_steel_cold",
    "exposed_steel",
    "inner_stud_double",
    "between_steel",
    "double_sun_neutral",
    "door_steel",
  ),
  kit_old: kit(
    "Old masonry, as found",
    "wall_solid_brick",
    "roof_loft",
    "ground_slab_bare",
    "exposed_timber",
    "inner_brick",
    "between_timber",
    "single_clear",
    "door_timber",
  ),
};

type Shipped = Required<Pick<RecordSet, "materials" | "assemblies" | "glazings" | "kits" | "schedules" | "spaceTypes">>;
let whole: Shipped | null = null;
/** Everything that ships, with what just meets the prescriptive limits of the packs: read-only. */
export function shippedLibrary(): Shipped {
  if (whole) return whole;
  const limits = [plateauPack, prescriptivePack].map(atLimitsOf);
  whole = {
    materials: shippedMaterials,
    assemblies: Object.assign({}, shippedAssemblies, ...limits.map((l) => l.assemblies)) as Record<string, Assembly>,
    glazings: Object.assign({}, shippedGlazings, ...limits.map((l) => l.glazings)) as Record<string, Glazing>,
    kits: shippedKits,
    ...shippedUses(),
  };
  return whole;
}

/** A shipped thing as files tell it. */
export interface LibraryRow {
  readonly id: string;
  readonly name: string;
  readonly source: string;
}

/** Shipped things as arrays, for files: each with id, name and source, then its own fields. */
export function libraryRows(): Record<
  "materials" | "assemblies" | "glazings" | "kits" | "schedules" | "spaceTypes" | "devices" | "components",
  readonly (LibraryRow & Readonly<Record<string, unknown>>)[]
> {
  const rows = (set: Readonly<Record<string, Material | Assembly | Glazing | Kit | Schedule | SpaceType | ShippedDevice | ShippedComponent>>) =>
    Object.entries(set).map(([id, item]) => {
      const { name, ...rest } = item;
      return { id, name, source: "source" in item && item.source !== undefined ? item.source : "typical, unverified", ...without(rest) };
    });
  const all = shippedLibrary();
  return {
    materials: rows(all.materials),
    assemblies: rows(all.assemblies),
    glazings: rows(all.glazings),
    kits: rows(all.kits),
    schedules: rows(all.schedules),
    spaceTypes: rows(all.spaceTypes),
    devices: rows(Object.fromEntries(shippedDevices.map((d) => [d.id, d]))),
    components: rows(shippedComponents),
  };
}

const without = (rest: Record<string, unknown>): Record<string, unknown> => Object.fromEntries(Object.entries(rest).filter(([k]) => k !== "source"));
