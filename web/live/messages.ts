import type { Change, MonthlyWeather, Problem, Project, RunResult, Summary, StoredYear, WeatherYear } from "@arroyo/core";

/** To the worker: a document once, then changes. */
export type ToLive =
  | { readonly kind: "open"; readonly project: Project; readonly stored: StoredYear; readonly version: number }
  | { readonly kind: "changes"; readonly changes: readonly Change[]; readonly version: number };

/** From the worker. `version` is that of the document the figure belongs to. */
export type FromLive =
  | { readonly kind: "progress"; readonly version: number; readonly exact: boolean; readonly share: number }
  | {
      readonly kind: "result";
      readonly version: number;
      readonly exact: boolean;
      readonly seconds: number;
      readonly result: RunResult;
      /** An exact year that was computed before, for the same model and weather. */
      readonly kept?: boolean;
    }
  /** Headline figures by difference of short years, until the hourly ones come. */
  | { readonly kind: "glimpse"; readonly version: number; readonly summary: Summary }
  /** All is done; the next edit is answered by difference at once. */
  | { readonly kind: "ready"; readonly version: number }
  | { readonly kind: "blocked"; readonly version: number; readonly problems: readonly Problem[] }
  | { readonly kind: "weather"; readonly version: number; readonly glance: WeatherGlance }
  | { readonly kind: "failed"; readonly version: number; readonly message: string };

/** What Place shows of the weather year in use. */
export interface WeatherGlance {
  readonly name: string;
  /** Year it was measured in; null: typical. */
  readonly year: number | null;
  readonly days: number;
  readonly monthly: MonthlyWeather;
  readonly heatingDegreeDays: number;
  readonly coolingDegreeDays: number;
  /** Thermal climate zone, 0 to 8. */
  readonly climateZone: number;
  readonly min: number;
  /** The year hour by hour. */
  readonly hours: WeatherYear;
  readonly max: number;
}
