import type { AirPlan, Unconnected, Vector } from "@arroyo/core";

/** An arrow or a mark over the building in three dimensions: where, which way (length 1), how long and wide, m. */
export interface SceneArrow {
  readonly at: Vector;
  readonly way: Vector;
  readonly length: number;
  readonly width: number;
  readonly tint: "water" | "clay";
  /** A ring stands where nothing leads through. */
  readonly ring?: boolean;
}

/** Paths of a network as arrows outward, the chosen in clay, and rings where openings are unconnected. */
export function networkArrows(plan: AirPlan, missing: readonly Unconnected[], chosen: ReadonlySet<string>): SceneArrow[] {
  return [
    ...plan.planned.flatMap((p): SceneArrow[] =>
      p.record === null ? [] : [{ at: p.at, way: p.way, length: 2.4, width: 0.3, tint: chosen.has(p.record) ? "clay" : "water" }],
    ),
    ...missing.map((o): SceneArrow => ({ at: o.at, way: [0, 0, 1], length: 1.2, width: 0.7, tint: "clay", ring: true })),
  ];
}

/** Flows of an hour as arrows: each way one, as wide and long as what passes. */
export function flowArrows(
  plan: AirPlan,
  flow: (record: string) => { readonly forward: number; readonly backward: number } | null,
  most: number,
): SceneArrow[] {
  return plan.planned.flatMap((p): SceneArrow[] => {
    const now = p.record === null ? null : flow(p.record);
    if (!now) return [];
    const arrow = (q: number, back: boolean): SceneArrow[] =>
      q < 0.01 * most
        ? []
        : [
            {
              at: p.at,
              way: back ? [-p.way[0], -p.way[1], -p.way[2]] : p.way,
              length: 1.2 + 3.2 * Math.min(1, q / most),
              width: 0.1 + 0.7 * Math.min(1, q / most),
              tint: back ? "water" : "clay",
            },
          ];
    return [...arrow(now.forward, false), ...arrow(now.backward, true)];
  });
}
