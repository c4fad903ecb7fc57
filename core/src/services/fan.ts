/** Polynomials of fan power over design power by flow over design flow. */
const SHAPES = {
  /** ASHRAE 90.1-2016, table G3.1.3.15, part-load performance with a variable-speed drive. */
  "variable-speed drive": [0.0013, 0.147, 0.9506, -0.0998],
  /** Typical, unverified. */
  "inlet vanes": [0.3507, 0.3085, -0.5413, 0.8819],
  "pressure held": [0, 1, 0, 0],
} as const satisfies Record<string, readonly [number, number, number, number]>;
export type PartFlow = keyof typeof SHAPES;
export const partFlowShape = (name: string): readonly [number, number, number, number] => SHAPES[name as PartFlow];

/** Fan power at the design point, W: pressure rise, Pa, times volume flow, m³/s, over the efficiency of fan, drive and motor. */
export const fanDesignPower = (flow: number, pressure: number, efficiency: number): number => (flow * pressure) / efficiency;

/** Share of the design power at a share of the design flow, 1; nothing at rest, and no less than the polynomial's own start. */
export function partFlowPower(shape: readonly [number, number, number, number], share: number): number {
  if (!(share > 0)) return 0;
  const r = share > 1 ? 1 : share;
  const p = shape[0] + r * (shape[1] + r * (shape[2] + r * shape[3]));
  return p < 0 ? 0 : share > 1 ? p * share : p;
}
