import { arrayElectric, arrayPower, MADES, turbinePower, type PlacedArray } from "../electric/index.ts";
import { windProfile } from "../fabric/index.ts";
import type { Caster } from "../geometry/index.ts";
import { settingOf, type Project } from "../model/index.ts";
import type { ArrayModel, TurbineModel } from "./siteModel.ts";
import type { KernelState } from "./state.ts";
import { noPlaneSun, sunOnPlane, sunPlane } from "./sunPlanes.ts";

/** Rows whose shadows are cast, at most: of more, every so many stands for its neighbours. */
const MOST_ROWS = 8;

/** Arrays with the shadows on their rows, which own rows in front cast too. */
export function buildArrays(project: Project, placed: readonly PlacedArray[], casters: readonly Caster[], rowOf: (id: string) => number): ArrayModel[] {
  return placed.flatMap((p): ArrayModel[] => {
    const a = project.onSite[p.id];
    if (a.kind !== "pvArray") return [];
    const step = Math.max(1, p.rows.length / MOST_ROWS);
    const chosen = Array.from({ length: Math.min(p.rows.length, MOST_ROWS) }, (_, i) => p.rows[Math.floor((i + 0.5) * step)] ?? p.rows[0]);
    const all = chosen.reduce((s, r) => s + r.modules, 0);
    const height = p.modules.reduce((s, m) => s + m[0][2], 0) / p.modules.length;
    return [
      {
        id: p.id,
        electric: arrayElectric(a, p),
        rows: chosen.map((r) => ({ plane: sunPlane(project.site, casters, { pieces: [r.corners], normal: p.normal }, rowOf), share: r.modules / all })),
        wind: windProfile(project.site.terrain, Math.max(1, height)),
      },
    ];
  });
}

/** Wind turbines with a power curve. */
export const buildTurbines = (project: Project): TurbineModel[] =>
  Object.entries(project.onSite).flatMap(([id, x]): TurbineModel[] => {
    if (x.kind !== "windTurbine" || x.curve.length < 2) return [];
    const number = (field: string): number => settingOf("windTurbine", x.inputs, field) as number;
    return [
      {
        id,
        turbine: { speeds: x.curve.map((c) => c.speed), powers: x.curve.map((c) => c.power) },
        count: Math.round(number("count")),
        wind: windProfile(project.site.terrain, number("hub")),
        kept: 1 - number("losses"),
      },
    ];
  });

const row = noPlaneSun();
const mean = noPlaneSun();
/** What an array makes and loses in the step, W by MADE. */
export function arrayNow(s: KernelState, x: ArrayModel, out: Float64Array): void {
  mean.cosine = 0;
  mean.beam = 0;
  mean.diffuse = 0;
  mean.ground = 0;
  mean.litBeam = 0;
  mean.seenDiffuse = 0;
  for (let i = 0; i < x.rows.length; i++) {
    const { plane, share } = x.rows[i];
    sunOnPlane(s, plane, row);
    mean.cosine = row.cosine;
    mean.beam += share * row.beam;
    mean.diffuse += share * row.diffuse;
    mean.ground += share * row.ground;
    mean.litBeam += share * row.litBeam;
    mean.seenDiffuse += share * row.seenDiffuse;
  }
  arrayPower(x.electric, mean, s.boundary.outdoor, s.boundary.wind * x.wind, out);
}
/** Room for what an array makes in a step. */
export const arrayRoom = (): Float64Array => new Float64Array(MADES);

/** What turbines of a kind give in the step, W. */
export const turbineNow = (s: KernelState, x: TurbineModel): number => x.count * x.kept * turbinePower(x.turbine, s.boundary.wind * x.wind, s.boundary.density);
