import { airPathQuantities, componentQuantities, faceQuantities, sensorQuantities, siteQuantities, zoneQuantities, type SeriesRef } from "@arroyo/core";

/** Series that are found together: of the zones, of faces, within their layers, of sensor points, of components, of what makes power and of stores, of air paths. */
export const seriesClasses = {
  zones: zoneQuantities.map((q) => q.name),
  faces: faceQuantities.map((q) => q.name).filter((n) => n !== "layerTemperature"),
  layers: ["layerTemperature"],
  sensors: sensorQuantities.map((q) => q.name),
  components: componentQuantities.map((q) => q.name),
  site: siteQuantities.map((q) => q.name),
  airPaths: airPathQuantities.map((q) => q.name),
} as const satisfies Record<string, readonly string[]>;
export type SeriesClass = keyof typeof seriesClasses;

const classOf: Readonly<Record<Exclude<SeriesRef["of"], "derived" | "outdoors" | "building">, SeriesClass>> = {
  zone: "zones",
  group: "zones",
  face: "faces",
  sensor: "sensors",
  component: "components",
  store: "site",
  maker: "site",
  airPath: "airPaths",
};
/** The class a series is found with; null: it comes with any. */
export const seriesClass = (ref: SeriesRef): SeriesClass | null =>
  ref.of === "derived" || ref.of === "outdoors" || ref.of === "building" ? null : ref.quantity === "layerTemperature" ? "layers" : classOf[ref.of];

/** Lists of classes as they are asked for, each the same object every time. */
export const COMPONENTS = ["components"] as const satisfies readonly SeriesClass[];
export const NO_CLASSES = [] as const satisfies readonly SeriesClass[];
