import type { Caster, Geometry, Vector } from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { cos, DEG, sin } from "../numeric/index.ts";
import type { WaterSystemModel } from "../services/index.ts";
import type { SunPlane } from "./siteModel.ts";
import { sunPlane } from "./sunPlanes.ts";

/**
 * Planes of the collectors of all systems: a rectangle, twice as wide as high, over the middle of the building at its height, shaded by all
 * that shades faces. It casts no shade itself.
 */
export function collectorPlanes(
  project: Project,
  geometry: Geometry,
  casters: readonly Caster[],
  systems: readonly WaterSystemModel[],
  rowOf: (id: string) => number,
): SunPlane[][] {
  if (systems.every((s) => s.collectors.length === 0)) return systems.map(() => []);
  const points = [...geometry.spaces.values()].flatMap((g) => [...g.outline]);
  const mid = (i: 0 | 1): number => {
    const of = points.map((p) => p[i]);
    return of.length > 0 ? 0.5 * (Math.min(...of) + Math.max(...of)) : 0;
  };
  const [x, y] = [mid(0), mid(1)];
  return systems.map((s) =>
    s.collectors.map((c) => {
      const turn = (c.azimuth - project.site.planNorth) * DEG;
      const tilt = c.tilt * DEG;
      const [fx, fy] = [sin(turn), cos(turn)];
      const half = 0.5 * Math.sqrt(0.5 * c.collector.area);
      const across: Vector = [-fy, fx, 0];
      const up: Vector = [-fx * cos(tilt), -fy * cos(tilt), sin(tilt)];
      const at = (u: number, v: number): Vector => [
        x + 2 * half * u * across[0] + half * v * up[0],
        y + 2 * half * u * across[1] + half * v * up[1],
        c.height + half * v * up[2],
      ];
      const receiver = { pieces: [[at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)]], normal: [fx * sin(tilt), fy * sin(tilt), cos(tilt)] as Vector };
      return sunPlane(project.site, casters, receiver, rowOf);
    }),
  );
}
