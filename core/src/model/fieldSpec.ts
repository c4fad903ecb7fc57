/**
 * The registry of inheritable inputs. A field listed here exists at once in the document schema, in
 * inheritance (`inputs`), in the inspector and in the sheets. Values are stored in the unit given by
 * `unit`; `display` says how a screen shows them when another unit is customary. Defaults and usual ranges: typical, unverified.
 */
export interface FieldSpec {
  readonly label: string;
  readonly group:
    | "People"
    | "Lighting"
    | "Daylight"
    | "Appliances"
    | "Outdoor air"
    | "Infiltration"
    | "Window opening"
    | "Set-points"
    | "Humidity"
    | "Inner mass"
    | "Comfort"
    | "Hot water"
    | "Capacity"
    | "Air"
    | "Supply air"
    | "Hours"
    | "Economizer"
    | "Heat"
    | "Cold"
    | "Coil"
    | "Size"
    | "Control"
    | "Fan"
    | "Pump"
    | "Water"
    | "Surface"
    | "Source"
    | "Cold water"
    | "Store"
    | "Circulation"
    | "Disinfection"
    | "Module"
    | "Place"
    | "Layout"
    | "Strings and inverter"
    | "Losses"
    | "Efficiency";
  /** Unit in which the value is stored. */
  readonly unit: string;
  /** schedule, devices, record: the id of a record; null as `nullMeans` says. */
  readonly kind: "number" | "schedule" | "devices" | "choice" | "record";
  /** Of a record: the part of the document it stands in, and its kind there. */
  readonly of?: "airSystems" | "loops" | "zones";
  readonly ofKind?: string;
  /** Asked for only where another field, a choice, has one of these values; elsewhere it does nothing. */
  readonly when?: { readonly field: string; readonly is: readonly string[] };
  readonly default: number | string | null;
  /** Allowed values of a choice. */
  readonly choices?: readonly string[];
  /** Meaning of null: a state of its own, such as "not heated". Absent: null is not allowed. */
  readonly nullMeans?: string;
  readonly min?: number;
  readonly max?: number;
  /** It may follow a temperature schedule or a reset by outdoor temperature in place of a constant. */
  readonly signal?: boolean;
  /** Usual range, stored unit. */
  readonly usual?: readonly [number, number];
  /** Electric power: W stays W in IP. */
  readonly electric?: boolean;
  readonly display?: { readonly unit: string; readonly factor: number; readonly digits?: number };
  /** Words beside a number without unit that is no share. */
  readonly beside?: string;
  readonly help: string;
}
