import { ALL_ZONES, componentName, componentsOf, groupsOf, quantitiesOf, quantityOf, type Project, type Quantity, type SeriesRef } from "@arroyo/core";
import type { YearSeries } from "../../live/yearSeries.ts";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import { faceName } from "./faceName.ts";

/** Kinds of things series are of, as they are listed, with the class that has to be found before they can be listed. */
export const thingKinds = [
  { kind: "zone", label: "Zones", needs: null },
  { kind: "group", label: "Groups of zones", needs: null },
  { kind: "outdoors", label: "Outdoors", needs: null },
  { kind: "building", label: "Fuels of the building", needs: "zones" },
  { kind: "face", label: "Faces and openings", needs: "faces" },
  { kind: "layer", label: "Within layers", needs: "layers" },
  { kind: "component", label: "Systems and plant", needs: "components" },
  { kind: "store", label: "Hot-water stores", needs: "site" },
  { kind: "maker", label: "Electricity made", needs: "site" },
  { kind: "airPath", label: "Air paths", needs: "airPaths" },
  { kind: "sensor", label: "Sensor points", needs: "sensors" },
  { kind: "derived", label: "Derived series", needs: null },
] as const satisfies readonly { readonly kind: SeriesRef["of"] | "layer"; readonly label: string; readonly needs: SeriesClass | null }[];
export type ThingKind = (typeof thingKinds)[number]["kind"];

/** A thing that has series. */
export interface Thing {
  readonly of: SeriesRef["of"];
  readonly id: string;
  readonly name: string;
  readonly quantities: readonly { readonly name: string; readonly label: string; readonly unit: string }[];
}

/** Name of a face line: its face, and what it adds to the key. */
function faceWords(project: Project, scope: string): string {
  const layer = / layer (\d+) (outer side|inner side|middle)$/.exec(scope);
  const into = / into ([^ ]+)$/.exec(scope);
  const key = layer ? scope.slice(0, layer.index) : into ? scope.slice(0, into.index) : scope;
  const name = faceName(project, key);
  if (layer) return `${name}, layer ${layer[1]} ${layer[2]}`;
  return into ? `${name}, into ${project.zones[into[1]]?.name ?? into[1]}` : name;
}

const nameOf = (project: Project, of: SeriesRef["of"], id: string): string => {
  switch (of) {
    case "zone":
      return project.zones[id]?.name ?? id;
    case "group":
      return id === ALL_ZONES ? "All zones" : (project.groups?.[id]?.name ?? id);
    case "outdoors":
      return "Outdoors";
    case "building":
      return "Building";
    case "face":
      return faceWords(project, id);
    case "component": {
      const c = componentsOf(project).find((x) => x.path.join("/") === id);
      if (!c) return id;
      const [own, owner] = [componentName(c), ownerName(project, c.path)];
      return own === owner ? own : `${own}, ${owner}`;
    }
    case "store":
    case "maker": {
      const [part, key] = id.split("/");
      return (part === "waterSystems" ? project.waterSystems[key]?.name : project.onSite[key]?.name) ?? id;
    }
    case "airPath":
      return project.airNetwork?.links[id]?.name ?? id;
    case "sensor":
      return id;
    case "derived":
      return project.derived?.[id]?.name ?? id;
  }
};
function ownerName(project: Project, path: readonly string[]): string {
  const [part, id] = path;
  return (
    (part === "airSystems" ? project.airSystems[id]?.name : part === "loops" ? project.loops[id]?.name : part === "zones" ? project.zones[id]?.name : null) ??
    id
  );
}

/** "Meeting hall, air temperature". */
export function seriesName(project: Project, ref: SeriesRef): string {
  const spec = quantityOf(project, ref);
  if (ref.of === "derived") return spec?.label ?? "a series that is gone";
  const label = spec?.label ?? ref.quantity;
  if (ref.of === "outdoors" || ref.of === "building") return label;
  return `${nameOf(project, ref.of, ref.id)}, ${label[0].toLowerCase()}${label.slice(1)}`;
}

/** What the flows of an airflow network carry is there only while one is in use. */
const zoneLines = (project: Project): readonly Quantity[] =>
  quantitiesOf.zone.filter((q) => project.airNetwork?.use === true || (q.name !== "carbonDioxide" && q.name !== "ageOfAir"));

/** Things of a kind; those whose series are found by a run from the year at hand. */
export function thingsOf(project: Project, kind: ThingKind, year: YearSeries | null): Thing[] {
  const of: SeriesRef["of"] = kind === "layer" ? "face" : kind;
  const found = (quantities: readonly Quantity[]): Thing[] => {
    const by = new Map<string, Quantity[]>();
    for (const q of quantities)
      for (const id of Object.keys((year?.series[q.name] as YearSeries["series"][string] | undefined) ?? {})) {
        const list = by.get(id);
        if (list) list.push(q);
        else by.set(id, [q]);
      }
    return [...by].map(([id, list]) => ({ of, id, name: nameOf(project, of, id), quantities: list })).sort((a, b) => a.name.localeCompare(b.name));
  };
  switch (kind) {
    case "zone":
      return Object.keys(project.zones).map((id) => ({ of, id, name: project.zones[id].name, quantities: zoneLines(project) }));
    case "group":
      return [ALL_ZONES, ...groupsOf(project).map((g) => g.id)].map((id) => ({ of, id, name: nameOf(project, of, id), quantities: zoneLines(project) }));
    case "outdoors":
      return [{ of, id: "outdoors", name: "Outdoors", quantities: quantitiesOf.outdoors }];
    case "building":
      return [{ of, id: "building", name: "Building", quantities: quantitiesOf.building.filter((q) => year?.series[q.name] !== undefined) }];
    case "derived":
      return Object.entries(project.derived ?? {}).map(([id, d]) => ({ of, id, name: d.name, quantities: [{ name: id, label: d.formula, unit: d.unit }] }));
    case "layer":
      return found(quantitiesOf.face.filter((q) => q.name === "layerTemperature"));
    case "face":
      return found(quantitiesOf.face.filter((q) => q.name !== "layerTemperature"));
    default:
      return found(quantitiesOf[kind]);
  }
}
