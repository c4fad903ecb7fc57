import { airLayerResistance, heatFlowOf } from "../fabric/index.ts";
import type { Assembly, Layer, Project } from "../model/index.ts";

/** A layer by material and thickness in mm, with the material and share that bridge it; "gap" is a still air layer. */
type LayerRow = readonly [material: string, mm: number, bridge?: string, share?: number];
type Use = Assembly["use"];
/** What carries an assembly. */
export type Build = "light" | "timber" | "masonry" | "concrete" | "steel";
type AssemblyRow = readonly [id: string, name: string, build: Build, layers: readonly LayerRow[]];

// prettier-ignore
const rows: Readonly<Record<Use, readonly AssemblyRow[]>> = {
  "exterior wall": [
    ["wall_cavity_filled", "Cavity wall, filled", "masonry", [["brick_facing", 102], ["mineral_wool_035", 120], ["aerated_block", 100], ["plaster_gypsum", 13]]],
    ["wall_cavity_open", "Cavity wall, uninsulated", "masonry", [["brick_facing", 102], ["gap", 50], ["block_medium", 100], ["plaster_gypsum", 13]]],
    ["wall_cavity_part", "Cavity wall, partly filled", "masonry", [["brick_facing", 102], ["gap", 50], ["pir", 60], ["block_light", 100], ["plasterboard", 12.5]]],
    ["wall_solid_brick", "Solid brick wall", "masonry", [["brick_inner", 215], ["plaster_lime", 15]]],
    ["wall_solid_brick_inside", "Solid brick wall, insulated inside", "masonry", [["brick_inner", 215], ["calcium_silicate_board", 80], ["plaster_lime", 10]]],
    ["wall_clay_block", "Monolithic clay block wall", "masonry", [["plaster_insulating", 20], ["clay_block_light", 365], ["plaster_gypsum", 15]]],
    ["wall_render_eps", "Block wall with rendered polystyrene", "masonry", [["render_thin", 8], ["eps_031", 160], ["clay_block", 175], ["plaster_gypsum", 15]]],
    ["wall_render_mineral", "Block wall with rendered mineral wool", "masonry", [["render_thin", 8], ["mineral_wool_dense", 180], ["calcium_silicate", 175], ["plaster_gypsum", 15]]],
    ["wall_stone", "Rubble stone wall", "masonry", [["limestone_hard", 500], ["plaster_lime", 20]]],
    ["wall_adobe", "Adobe wall", "masonry", [["plaster_clay", 20], ["adobe", 400], ["plaster_clay", 20]]],
    ["wall_concrete_sandwich", "Concrete sandwich panel", "concrete", [["concrete_reinforced", 80], ["eps_035", 140], ["concrete_reinforced", 150]]],
    ["wall_concrete_outside", "Concrete wall, insulated outside", "concrete", [["render_thin", 8], ["mineral_wool_dense", 160], ["concrete_reinforced", 200], ["plaster_gypsum", 10]]],
    ["wall_concrete_inside", "Concrete wall, insulated inside", "concrete", [["concrete_reinforced", 200], ["pir", 80], ["plasterboard", 12.5]]],
    ["wall_concrete_rainscreen", "Concrete wall behind a rain screen", "concrete", [["fibre_cement", 8], ["gap", 40], ["mineral_wool_032", 180], ["concrete_reinforced", 200]]],
    ["wall_basement", "Basement wall, insulated outside", "concrete", [["xps", 120], ["bitumen_felt", 5], ["concrete_reinforced", 250]]],
    ["wall_basement_bare", "Basement wall, bare", "concrete", [["bitumen_felt", 5], ["concrete_reinforced", 250]]],
    ["wall_timber_frame", "Timber frame wall", "timber", [["cladding_timber", 22], ["gap", 25, "softwood", 0.1], ["softboard", 22], ["mineral_wool_035", 180, "softwood", 0.15], ["osb", 15], ["plasterboard", 12.5]]],
    ["wall_timber_frame_thick", "Timber frame wall, two layers", "timber", [["cladding_timber", 22], ["gap", 25, "softwood", 0.1], ["wood_fibre_board", 60], ["cellulose", 240, "softwood", 0.1], ["osb", 18], ["wood_fibre_flexible", 50, "softwood", 0.1], ["gypsum_fibre", 12.5]]],
    ["wall_timber_brick", "Timber frame wall, brick outside", "timber", [["brick_facing", 102], ["gap", 50], ["osb", 9], ["mineral_wool_035", 140, "softwood", 0.15], ["vapour_retarder", 0.2], ["plasterboard", 12.5]]],
    ["wall_clt", "Cross-laminated timber wall", "timber", [["cladding_timber", 22], ["gap", 25, "softwood", 0.1], ["mineral_wool_035", 180, "softwood", 0.08], ["clt", 100]]],
    ["wall_straw", "Straw bale wall", "timber", [["plaster_lime", 30], ["straw_bale", 400, "softwood", 0.05], ["plaster_clay", 30]]],
    ["wall_hemp", "Hemp-lime wall", "timber", [["plaster_lime", 20], ["hempcrete", 350, "softwood", 0.05], ["plaster_lime", 15]]],
    ["wall_log", "Log wall", "timber", [["softwood", 200]]],
    ["wall_steel_panel", "Steel panel wall", "steel", [["steel_coated", 0.6], ["pir", 100], ["steel_coated", 0.5]]],
    ["wall_steel_frame", "Light steel frame wall, insulated outside", "steel", [["render_thin", 8], ["eps_031", 100], ["cement_particleboard", 12], ["mineral_wool_035", 100], ["plasterboard", 15]]],
    ["wall_steel_cassette", "Steel liner tray wall", "steel", [["steel_coated", 0.75], ["mineral_wool_035", 160], ["steel_coated", 0.75]]],
    ["wall_light_panel", "Light composite panel", "light", [["fibre_cement", 8], ["mineral_wool_035", 100], ["plasterboard", 12.5]]],
    ["wall_spandrel", "Spandrel panel of a curtain wall", "light", [["glass", 6], ["gap", 25], ["mineral_wool_035", 120], ["steel_coated", 1.5]]]],
  roof: [
    ["roof_warm_concrete", "Warm flat roof on concrete", "concrete", [["pvc_sheet", 1.5], ["pir", 140], ["vapour_retarder", 0.3], ["concrete_reinforced", 200], ["plaster_gypsum", 10]]],
    ["roof_inverted", "Inverted roof on concrete", "concrete", [["gravel_dry", 50], ["xps_thick", 200], ["bitumen_felt", 8], ["concrete_reinforced", 220]]],
    ["roof_planted", "Planted roof on concrete", "concrete", [["growing_medium", 100], ["epdm", 1.5], ["eps_035", 220], ["bitumen_felt", 4], ["concrete_reinforced", 220]]],
    ["roof_bare_concrete", "Flat concrete roof, uninsulated", "concrete", [["bitumen_felt", 8], ["screed_light", 50], ["concrete_reinforced", 150], ["plaster_gypsum", 10]]],
    ["roof_beam_block", "Beam and block roof", "masonry", [["bitumen_felt", 8], ["pir", 120], ["screed_light", 50], ["block_medium", 150], ["plaster_gypsum", 10]]],
    ["roof_aerated", "Aerated concrete roof panel", "concrete", [["bitumen_felt", 8], ["eps_035", 120], ["concrete_aerated", 200]]],
    ["roof_rafter", "Pitched roof, insulated between rafters", "timber", [["softboard", 22], ["mineral_wool_035", 220, "softwood", 0.1], ["vapour_retarder", 0.2], ["plasterboard", 12.5]]],
    ["roof_rafter_thick", "Pitched roof, insulated between and above rafters", "timber", [["wood_fibre_board", 100], ["cellulose", 240, "softwood", 0.1], ["osb", 18], ["plasterboard", 12.5]]],
    ["roof_loft", "Loft floor, insulated", "timber", [["mineral_wool_loose", 200], ["mineral_wool_040", 150, "softwood", 0.08], ["vapour_retarder", 0.2], ["plasterboard", 12.5]]],
    ["roof_clt", "Warm roof on cross-laminated timber", "timber", [["epdm", 1.5], ["wood_fibre_board", 220], ["bitumen_felt", 3], ["clt", 140]]],
    ["roof_steel_deck", "Warm roof on steel deck", "steel", [["pvc_sheet_pale", 1.5], ["mineral_wool_dense", 200], ["vapour_retarder", 0.2], ["steel_coated", 0.9]]],
    ["roof_steel_panel", "Steel panel roof", "steel", [["steel_coated", 0.6], ["pir", 120], ["steel_coated", 0.5]]],
    ["roof_light_fabric", "Light roof panel", "light", [["aluminium_coated", 1], ["pur", 100], ["plywood_500", 12]]]],
  "ground floor": [
    ["ground_slab_under", "Ground slab, insulated below", "concrete", [["xps", 120], ["concrete_reinforced", 200], ["screed_cement", 65], ["linoleum", 3]]],
    ["ground_slab_above", "Ground slab, insulated above", "concrete", [["concrete_reinforced", 150], ["bitumen_felt", 4], ["eps_035", 120], ["screed_cement", 65], ["tile_ceramic", 10]]],
    ["ground_slab_bare", "Ground slab, uninsulated", "concrete", [["concrete_reinforced", 150], ["screed_cement", 50]]],
    ["ground_glass_gravel", "Slab on cellular glass gravel", "concrete", [["cellular_glass_loose", 400], ["concrete_reinforced", 250], ["parquet", 15]]],
    ["ground_beam_block", "Beam and block floor", "masonry", [["block_medium", 100], ["pir", 100], ["screed_cement", 65], ["carpet", 8]]],
    ["ground_timber", "Suspended timber floor", "timber", [["mineral_wool_035", 150, "softwood", 0.12], ["particleboard", 22], ["carpet", 8]]],
    ["ground_steel_cold", "Floor of a steel hall", "steel", [["xps", 60], ["concrete_reinforced_2", 180]]]],
  "exposed floor": [
    ["exposed_concrete", "Concrete floor over outdoor air", "concrete", [["render_thin", 8], ["mineral_wool_dense", 180], ["concrete_reinforced", 220], ["screed_cement", 50]]],
    ["exposed_timber", "Timber floor over outdoor air", "timber", [["fibre_cement", 8], ["mineral_wool_035", 220, "softwood", 0.1], ["osb", 22], ["parquet", 15]]],
    ["exposed_steel", "Composite floor over outdoor air", "steel", [["pir", 120], ["steel", 1], ["concrete_reinforced", 130]]],
    ["exposed_light", "Light floor over outdoor air", "light", [["aluminium_coated", 1], ["pur", 120], ["plywood_700", 21], ["rubber_floor", 4]]]],
  "interior wall": [
    ["inner_stud", "Stud partition", "light", [["plasterboard", 12.5], ["mineral_wool_040", 50], ["plasterboard", 12.5]]],
    ["inner_stud_double", "Stud partition, double boards", "steel", [["plasterboard", 25], ["mineral_wool_040", 75], ["plasterboard", 25]]],
    ["inner_timber", "Timber stud partition", "timber", [["plasterboard", 12.5], ["wood_fibre_flexible", 60, "softwood", 0.12], ["plasterboard", 12.5]]],
    ["inner_block", "Block partition, plastered", "masonry", [["plaster_gypsum", 13], ["block_medium", 100], ["plaster_gypsum", 13]]],
    ["inner_brick", "Brick wall, plastered", "masonry", [["plaster_gypsum", 13], ["brick_inner", 102], ["plaster_gypsum", 13]]],
    ["inner_concrete", "Concrete wall", "concrete", [["concrete_reinforced", 200]]],
    ["inner_clt", "Cross-laminated timber wall, inside", "timber", [["clt", 100]]],
    ["inner_glass", "Glass partition", "light", [["glass", 10]]]],
  "interior floor": [
    ["between_concrete", "Concrete floor with screed", "concrete", [["plaster_gypsum", 10], ["concrete_reinforced", 220], ["eps_035", 20], ["screed_cement", 60], ["linoleum", 3]]],
    ["between_hollow", "Raised floor on concrete", "concrete", [["concrete_reinforced", 250], ["gap", 150], ["particleboard", 38], ["carpet", 8]]],
    ["between_timber", "Timber floor", "timber", [["plasterboard", 12.5], ["mineral_wool_040", 100, "softwood", 0.1], ["particleboard", 22]]],
    ["between_clt", "Cross-laminated timber floor", "timber", [["clt", 160], ["sand_dry", 60], ["mineral_wool_dense", 30], ["screed_anhydrite", 55]]],
    ["between_steel", "Composite steel floor", "steel", [["steel", 1], ["concrete_reinforced", 130], ["carpet", 8]]],
    ["between_ceiling", "Concrete floor with a hung ceiling", "concrete", [["acoustic_board", 20], ["gap", 300], ["concrete_reinforced", 220], ["carpet", 8]]]],
  door: [
    ["door_timber", "Solid timber door", "timber", [["hardwood", 44]]],
    ["door_insulated", "Insulated door", "light", [["softwood", 15], ["pur", 40], ["softwood", 15]]],
    ["door_steel", "Insulated steel door", "steel", [["steel_coated", 1], ["pur", 44], ["steel_coated", 1]]],
    ["door_bare_steel", "Steel sheet door", "steel", [["steel_coated", 2], ["gap", 36], ["steel_coated", 2]]]],
};

const SOURCE = "Layers: typical, unverified; materials by their own sources.";
/** ISO 6946 does not hold for metal that bridges insulation, so none is in the layers. */
const METAL = "Layers: typical, unverified, without what metal bridges them; materials by their own sources.";
const bridgedByMetal = new Set(["wall_concrete_rainscreen", "wall_steel_frame", "wall_steel_cassette", "wall_spandrel", "inner_stud_double"]);

/** A layer of a row; an air layer has the resistance of its thickness and direction of heat flow (ISO 6946:2017, table 8). */
function layer(use: Use, [material, mm, bridge, share]: LayerRow, i: number): Layer {
  const bridged = bridge !== undefined && share !== undefined ? { bridge: { material: bridge, share } } : {};
  const id = `l${i + 1}`;
  if (material === "gap")
    return { kind: "resistance", id, name: "Air gap", thickness: mm / 1000, resistance: airLayerResistance(mm / 1000, heatFlowOf(use)), ...bridged };
  return { kind: "solid", id, material, thickness: mm / 1000, ...bridged };
}

/** Assemblies that ship, by id, with what carries each. */
export const shippedBuilds: Readonly<Record<string, Build>> = Object.fromEntries(
  Object.values(rows).flatMap((list) => list.map(([id, , build]) => [id, build])),
);
export const shippedAssemblies: Project["assemblies"] = Object.fromEntries(
  (Object.keys(rows) as Use[]).flatMap((use) =>
    rows[use].map(([id, name, , layers]): [string, Assembly] => [
      id,
      { name, use, layers: layers.map((l, i) => layer(use, l, i)), source: bridgedByMetal.has(id) ? METAL : SOURCE },
    ]),
  ),
);
