import { sunVector } from "../climate/index.ts";
import { cachedLitShares, trapezoids, wallCorners, type Face, type Geometry, type Receiver, type ShadePlane, type Vector } from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { cos, DEG, sin } from "../numeric/index.ts";
import type { Element } from "./elements.ts";

/** Compiled lit shares are kept on this grid: two days a month by quarter hours of local standard time. */
export const LIT_DAYS = 24;
export const LIT_QUARTERS = 96;
const litDay = (k: number): number => Math.floor(((k + 0.5) * 365) / LIT_DAYS);

/** Equal-area directions of the upper half sphere (a golden-angle spiral), east, north, up. */
const SKY_PATCHES: readonly Vector[] = Array.from({ length: 200 }, (_, i): Vector => {
  const z = (i + 0.5) / 200;
  const r = Math.sqrt(1 - z * z);
  const angle = ((i * 137.50776405003785) % 360) * DEG;
  return [r * cos(angle), r * sin(angle), z];
});

/** Lit shares of every outdoor element over the grid, and the share of diffuse sky each sees; row −1: always lit. */
export function castShades(
  project: Project,
  geometry: Geometry,
  shades: readonly ShadePlane[],
  list: readonly Element[],
): { row: Int32Array; sky: Float64Array; lit: Float64Array } {
  const { site } = project;
  const suns: Vector[] = [];
  const cp = cos(site.planNorth * DEG);
  const sp = sin(site.planNorth * DEG);
  const toPlan = ([e, n, u]: Vector): Vector => [e * cp - n * sp, e * sp + n * cp, u];
  const patches = SKY_PATCHES.map(toPlan);
  for (let k = 0; k < LIT_DAYS; k++)
    for (let q = 0; q < LIT_QUARTERS; q++) {
      const [e, nn, u] = sunVector(litDay(k) * 24 + (q + 0.5) / 4, site.latitude, site.longitude, site.timeZone);
      suns.push(toPlan([e, nn, u]));
    }
  const up = suns.map((s, i) => (s[2] > 0 ? i : -1)).filter((i) => i >= 0);
  const raised = up.map((i) => suns[i]);
  const sunsKey = `${site.latitude} ${site.longitude} ${site.timeZone} ${site.planNorth} `;
  const casters: Vector[][] = [
    ...geometry.faces.filter((g) => g.wall && g.contact === "outdoors").map((g) => wallCorners(g, g.wall as NonNullable<Face["wall"]>)),
    ...shades.map((s) => [...s.corners]),
  ];
  const row = new Int32Array(list.length).fill(-1);
  const sky = new Float64Array(list.length).fill(1);
  const tables: Float64Array[] = [];
  list.forEach((e, i) => {
    if (e.kind > 1) return;
    const receiver = receiverOf(e);
    const shares = cachedLitShares(receiver, casters, raised, sunsKey, patches);
    sky[i] = shares.sky;
    const table = new Float64Array(suns.length).fill(1);
    let shaded = false;
    up.forEach((s, k) => {
      const front = raised[k][0] * receiver.normal[0] + raised[k][1] * receiver.normal[1] + raised[k][2] * receiver.normal[2] > 1e-6;
      table[s] = front ? shares.lit[k] : 1;
      if (table[s] < 1) shaded = true;
    });
    if (!shaded) return;
    row[i] = tables.length;
    tables.push(table);
  });
  const lit = new Float64Array(tables.length * suns.length);
  tables.forEach((t, i) => lit.set(t, i * suns.length));
  return { row, sky, lit };
}

function receiverOf(e: Element): Receiver {
  if (e.opening) return { pieces: [wallCorners(e.face, e.opening)], normal: e.face.normal };
  if (e.face.wall) return { pieces: [wallCorners(e.face, e.face.wall)], normal: e.face.normal };
  const plate = e.face.plate as NonNullable<Face["plate"]>;
  return { pieces: trapezoids(plate.polygons).map((r) => r.map(([x, y]): Vector => [x, y, plate.level])), normal: e.face.normal };
}
