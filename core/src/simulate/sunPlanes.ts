import { cachedLitShares, castersInFront, opaqueCaster, type Caster, type Receiver } from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { dimGroups, LIT_DAYS, LIT_QUARTERS, litMonthOf, skyDirections } from "./litTable.ts";
import type { SunPlane } from "./siteModel.ts";
import { SKY, type KernelState } from "./state.ts";

/** Shadows on a plane, with the casters that the faces of the building have. @param rowOf row of a schedule */
export function sunPlane(site: Project["site"], casters: readonly Caster[], receiver: Receiver, rowOf: (id: string) => number): SunPlane {
  const dome = skyDirections(site);
  const { up, raised, key } = dome;
  const opaque = casters.filter(opaqueCaster).map((c) => c.corners);
  let shares = cachedLitShares(receiver, opaque, raised, key, dome);
  const lit = shares.lit.slice();
  const sky = new Float64Array(12).fill(shares.sky);
  const horizon = new Float64Array(12).fill(shares.horizon);
  const takes: { schedule: number; lit: Float64Array; sky: number; horizon: number }[] = [];
  const grid = (values: Float64Array, elsewhere: number): Float64Array => {
    const out = new Float64Array(LIT_DAYS * LIT_QUARTERS).fill(elsewhere);
    const [nx, ny, nz] = receiver.normal;
    up.forEach((s, k) => {
      const [x, y, z] = raised[k];
      if (x * nx + y * ny + z * nz > 1e-6) out[s] = values[k];
    });
    return out;
  };
  let taken = opaque;
  for (const g of dimGroups(casters)) {
    if (castersInFront(receiver, g.corners).length === 0) continue;
    taken = [...taken, ...g.corners];
    const next = cachedLitShares(receiver, taken, raised, key, dome);
    const drop = shares.lit.map((v, k) => v - next.lit[k]);
    const [dome1, band] = [shares.sky - next.sky, shares.horizon - next.horizon];
    const { transmittance, schedule } = g;
    if (transmittance === null) takes.push({ schedule: rowOf(schedule as string), lit: grid(drop, 0), sky: dome1, horizon: band });
    else {
      up.forEach((s, k) => (lit[k] -= (1 - transmittance[litMonthOf(s)]) * drop[k]));
      for (let m = 0; m < 12; m++) {
        sky[m] -= (1 - transmittance[m]) * dome1;
        horizon[m] -= (1 - transmittance[m]) * band;
      }
    }
    shares = next;
  }
  const table = grid(lit, 1);
  return { normal: receiver.normal, lit: table.some((v) => v < 1) || takes.length > 0 ? table : null, sky, horizon, takes };
}

/** Sun on a plane in a step, W/m²: beam with what comes from about the sun, of the sky, of the ground; each without any shade, and the beam's cosine. */
export interface PlaneSun {
  cosine: number;
  beam: number;
  diffuse: number;
  ground: number;
  /** What is left of beam and of diffuse behind what stands before it. */
  litBeam: number;
  seenDiffuse: number;
}
export const noPlaneSun = (): PlaneSun => ({ cosine: 0, beam: 0, diffuse: 0, ground: 0, litBeam: 0, seenDiffuse: 0 });

const at = (table: Float64Array, sky: Float64Array): number => {
  const qx = sky[SKY.LIT_HOUR];
  const a = table[sky[SKY.LIT_AA]] * (1 - qx) + table[sky[SKY.LIT_AB]] * qx;
  const b = table[sky[SKY.LIT_BA]] * (1 - qx) + table[sky[SKY.LIT_BB]] * qx;
  return a * (1 - sky[SKY.LIT_DAY]) + b * sky[SKY.LIT_DAY];
};

/**
 * Sun on a plane from the sun and sky of the step, as faces have it (Perez et al. 1990 or isotropic); ground by its reflectance and the view of
 * it, (1 − cos β)/2, without shadows on it (Liu and Jordan 1963). @param out filled
 */
export function sunOnPlane(s: KernelState, plane: SunPlane, out: PlaneSun): void {
  out.cosine = 0;
  out.beam = 0;
  out.diffuse = 0;
  out.ground = 0;
  out.litBeam = 0;
  out.seenDiffuse = 0;
  if (s.dark) return;
  const { sky, scheduled } = s;
  const [nx, ny, nz] = plane.normal;
  const cosine = nx * sky[SKY.EAST] + ny * sky[SKY.NORTH] + nz * sky[SKY.UP];
  const diffuse = sky[SKY.DIFFUSE];
  const circumsolar = sky[SKY.CIRCUMSOLAR];
  const month = sky[SKY.MONTH];
  const dome = (diffuse * (1 - circumsolar) * (1 + nz)) / 2;
  const band = diffuse * sky[SKY.HORIZON] * Math.sqrt(Math.max(0, 1 - nz * nz));
  let lit = 1;
  let seen = plane.sky[month];
  let low = plane.horizon[month];
  if (plane.lit !== null) lit = at(plane.lit, sky);
  for (let t = 0; t < plane.takes.length; t++) {
    const held = 1 - scheduled[plane.takes[t].schedule];
    lit -= held * at(plane.takes[t].lit, sky);
    seen -= held * plane.takes[t].sky;
    low -= held * plane.takes[t].horizon;
  }
  out.cosine = cosine > 0 ? cosine : 0;
  out.beam = cosine > 0 ? sky[SKY.DIRECT] * cosine : 0;
  out.litBeam = out.beam * Math.max(0, lit);
  out.diffuse = Math.max(0, dome + band);
  out.seenDiffuse = Math.max(0, dome * seen + band * low);
  // all that falls on level ground: the beam holds what comes from about the sun already
  const level = sky[SKY.DIRECT] * Math.max(0, sky[SKY.UP]) + diffuse * (1 - circumsolar);
  out.ground = (sky[SKY.ALBEDO] * level * (1 - nz)) / 2;
}
