import type { Vector } from "../geometry/index.ts";

/** What a reader or the import says of one thing: read as it is, mended, or left out; and whether the result changes by it. */
export interface ImportMessage {
  readonly kind: "read" | "mended" | "left out";
  /** Whether the computed result depends on it. */
  readonly affects: boolean;
  readonly text: string;
}

/** A building as a file tells it, in SI units and free of the file's format. Ids are the file's own. Lengths m, U W/m²K. */
export interface BuildingRecords {
  readonly format: string;
  readonly name: string;
  readonly site: {
    readonly name: string | null;
    readonly latitude: number | null;
    readonly longitude: number | null;
    readonly elevation: number | null;
    readonly north: number | null;
  };
  readonly storeys: readonly { readonly id: string; readonly name: string; readonly level: number }[];
  readonly zones: readonly { readonly id: string; readonly name: string; readonly heating: number | null; readonly cooling: number | null }[];
  readonly spaces: readonly SpaceRecord[];
  readonly surfaces: readonly SurfaceRecord[];
  readonly constructions: readonly ConstructionRecord[];
  readonly materials: readonly MaterialRecord[];
  readonly windowTypes: readonly WindowTypeRecord[];
  readonly schedules: readonly ScheduleRecord[];
  readonly messages: readonly ImportMessage[];
}

export interface SpaceRecord {
  readonly id: string;
  readonly name: string;
  readonly storey: string | null;
  readonly zone: string | null;
  /** The file's word for what happens here. */
  readonly use: string | null;
  /** m², m³ as the file states them. */
  readonly area: number | null;
  readonly volume: number | null;
  /** Where the file gives no surfaces: an outline at a level, and a height. */
  readonly outline: { readonly ring: readonly Vector[]; readonly height: number } | null;
  /** W/m², and people of the space. */
  readonly lighting: number | null;
  readonly appliances: number | null;
  readonly people: number | null;
  readonly schedules: { readonly people: string | null; readonly lighting: string | null; readonly appliances: string | null };
}

export interface SurfaceRecord {
  readonly id: string;
  readonly name: string;
  /** shade: casts only; air: a boundary without a wall. */
  readonly kind: "wall" | "roof" | "ceiling" | "floor" | "shade" | "air";
  /** Lies in earth, whatever its level. */
  readonly underground: boolean;
  /** Spaces on its inner and its outer side. */
  readonly adjacent: readonly string[];
  readonly ring: readonly Vector[];
  readonly construction: string | null;
  readonly openings: readonly OpeningRecord[];
}

export interface OpeningRecord {
  readonly id: string;
  readonly name: string;
  /** An opening is a way through an inner wall without a door. */
  readonly use: "window" | "door" | "opening";
  readonly operable: boolean;
  readonly ring: readonly Vector[];
  /** Window type or construction. */
  readonly construction: string | null;
}

export interface ConstructionRecord {
  readonly id: string;
  readonly name: string;
  readonly u: number | null;
  /** Materials from outside to inside. */
  readonly materials: readonly string[];
}

export interface MaterialRecord {
  readonly id: string;
  readonly name: string;
  readonly thickness: number | null;
  readonly conductivity: number | null;
  readonly density: number | null;
  readonly specificHeat: number | null;
  /** m²K/W. */
  readonly resistance: number | null;
}

export interface WindowTypeRecord {
  readonly id: string;
  readonly name: string;
  readonly u: number | null;
  readonly g: number | null;
  readonly visible: number | null;
}

export interface ScheduleRecord {
  readonly id: string;
  readonly name: string;
  readonly temperature: boolean;
  /** Day profiles of 24 values by id. */
  readonly profiles: readonly { readonly id: string; readonly name: string; readonly values: readonly number[] }[];
  /** First and last month and day, and the profile for Monday … Sunday, then holidays. */
  readonly weeks: readonly { readonly from: readonly [number, number]; readonly to: readonly [number, number]; readonly days: readonly string[] }[];
}
