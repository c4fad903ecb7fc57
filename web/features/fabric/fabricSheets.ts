import {
  assemblyMass,
  assemblyU,
  checkProject,
  coveredAreas,
  glazingRating,
  isGlazed,
  kitRoles,
  materialKinds,
  periodicResponse,
  assemblyLayers,
  roleWords,
  setChange,
  surfaceResistances,
  whereUsed,
  type Assembly,
  type Project,
} from "@arroyo/core";
import { nameColumn, namedColumn, sheetInView, typedColumn, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import type { Units } from "../../ui/units.ts";
import { fabricParts, partWord, type FabricPart } from "./fabricStore.ts";

export { fabricParts };
const uses: readonly Assembly["use"][] = ["exterior wall", "roof", "ground floor", "exposed floor", "interior wall", "interior floor", "door"];

/** A figure that may not be had, as null. */
const found = (figure: () => number): number | null => {
  try {
    const v = figure();
    return Number.isFinite(v) ? v : null;
  } catch {
    return null;
  }
};

/** A column whose cells are one of a few words. */
function choice(project: Project, key: string, name: string, words: readonly string[], path: (r: Row) => readonly string[], read: (r: Row) => string): Column {
  return {
    key,
    name,
    value: read,
    write: (r, text) => {
      const word = words.find((w) => w === text.trim().toLowerCase());
      return word ? [setChange(project, path(r), word)] : `“${text}” is none of ${words.join(", ")}.`;
    },
  };
}

const count = (project: Project, part: FabricPart): Column => ({
  key: "used",
  name: "Places",
  numeric: true,
  digits: 0,
  value: (r) => whereUsed(project, part, r.id).length,
});

function columns(project: Project, part: FabricPart): readonly Column[] {
  const { geometry, openings } = checkProject(project);
  const covered = coveredAreas(project, geometry.faces, openings);
  const area: Column = { key: "area", name: "In the model", unit: "m²", numeric: true, digits: 0, value: (r) => covered.get(r.id) ?? 0 };
  if (part === "materials") {
    const at = (r: Row) => project.materials[r.id];
    const number = (
      name: string,
      key: "conductivity" | "density" | "specificHeat" | "solarAbsorptance" | "emissivity" | "vapourResistance",
      unit: string | undefined,
      digits: number,
    ): Column => ({
      ...typedColumn(
        project,
        name,
        key,
        unit,
        (r) => ["materials", r.id, key],
        (r) => at(r)[key] ?? null,
      ),
      digits,
    });
    return [
      nameColumn(project, part, (r) => at(r).name),
      choice(
        project,
        "kind",
        "Kind",
        materialKinds,
        (r) => ["materials", r.id, "kind"],
        (r) => at(r).kind ?? "",
      ),
      number("Conductivity", "conductivity", "W/m·K", 3),
      number("Density", "density", "kg/m³", 0),
      number("Specific heat", "specificHeat", "J/kg·K", 0),
      number("Vapour factor", "vapourResistance", undefined, 0),
      number("Absorbs sun", "solarAbsorptance", undefined, 2),
      number("Emissivity", "emissivity", undefined, 2),
      count(project, part),
      { key: "source", name: "Source", value: (r) => at(r).source ?? "" },
    ];
  }
  if (part === "assemblies") {
    const at = (r: Row) => project.assemblies[r.id];
    const shift = (r: Row) => {
      const [rse, rsi] = surfaceResistances(at(r).use);
      return periodicResponse(assemblyLayers(project, at(r)), 86400, Math.max(rse, 1e-6), rsi);
    };
    return [
      nameColumn(project, part, (r) => at(r).name),
      choice(
        project,
        "use",
        "Kind of element",
        uses,
        (r) => ["assemblies", r.id, "use"],
        (r) => at(r).use,
      ),
      {
        key: "u",
        name: "U",
        unit: "W/m²K",
        numeric: true,
        digits: 3,
        value: (r) => found(() => assemblyU(project, at(r))),
        write: (r, text) =>
          at(r).rated
            ? [setChange(project, ["assemblies", r.id, "rated", "u"], Number(text))]
            : "U follows from the layers; type it where an assembly has none.",
      },
      { key: "layers", name: "Layers", numeric: true, digits: 0, value: (r) => at(r).layers.length },
      {
        key: "thickness",
        name: "Thickness",
        unit: "mm",
        numeric: true,
        digits: 0,
        value: (r) => 1000 * at(r).layers.reduce((s, l) => s + (l.kind === "circuit" ? 0 : (l.thickness ?? 0)), 0),
      },
      { key: "mass", name: "Mass", unit: "kg/m²", numeric: true, digits: 0, value: (r) => found(() => assemblyMass(project, at(r)).mass) },
      {
        key: "capacity",
        name: "Heat capacity",
        unit: "kJ/m²K",
        numeric: true,
        digits: 0,
        value: (r) => found(() => assemblyMass(project, at(r)).capacity / 1000),
      },
      { key: "decrement", name: "Decrement", numeric: true, value: (r) => found(() => shift(r).decrement) },
      { key: "shift", name: "Time shift", unit: "h", numeric: true, digits: 1, value: (r) => found(() => shift(r).timeShift / 3600) },
      area,
      count(project, part),
    ];
  }
  if (part === "glazings") {
    const at = (r: Row) => project.glazings[r.id];
    const rating = (name: string, key: "u" | "g" | "visibleTransmittance", unit?: string): Column => ({
      key,
      name,
      ...(unit ? { unit } : {}),
      numeric: true,
      value: (r) => found(() => glazingRating(at(r))[key]),
      write: (r, text) => {
        const v = Number(text.trim().replace(",", "."));
        if (at(r).kind !== "rated") return `${name} of ${at(r).name} follows from its panes.`;
        return text.trim() !== "" && Number.isFinite(v) ? [setChange(project, ["glazings", r.id, key], v)] : `“${text}” is not a number.`;
      },
    });
    return [
      nameColumn(project, part, (r) => at(r).name),
      { key: "kind", name: "Described by", value: (r) => (at(r).kind === "rated" ? "rating" : "panes") },
      rating("U", "u", "W/m²K"),
      rating("g", "g"),
      rating("Visible", "visibleTransmittance"),
      typedColumn(
        project,
        "Frame",
        "frameShare",
        "%",
        (r) => ["glazings", r.id, "frameShare"],
        (r) => at(r).frameShare,
        100,
      ),
      { key: "blind", name: "Blind", value: (r) => at(r).blind?.position ?? "none" },
      area,
      count(project, part),
    ];
  }
  const at = (r: Row) => project.kits[r.id];
  return [
    nameColumn(project, part, (r) => at(r).name),
    ...kitRoles.map((role) =>
      namedColumn(
        project,
        roleWords[role][0].toUpperCase() + roleWords[role].slice(1),
        role,
        isGlazed(role) ? project.glazings : project.assemblies,
        (r) => ["kits", r.id, role],
        (r) => at(r)[role],
        null,
      ),
    ),
    {
      key: "spaces",
      name: "Spaces",
      numeric: true,
      digits: 0,
      value: (r) => Object.values(project.spaces).filter((s) => (s.kit ?? project.defaults.kit) === r.id).length,
    },
  ];
}

/** Materials, assemblies, glazings or kits of a project as a sheet. */
export const fabricSheet = (project: Project, part: FabricPart, units: Units): SheetData =>
  sheetInView({ rows: Object.keys(project[part]).map((id) => ({ id, select: { kind: partWord[part].kind, id } })), columns: columns(project, part) }, units);
