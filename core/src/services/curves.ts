/** A curve of two variables with its limits: z = c0 + c1·x + c2·x² + c3·y + c4·y² + c5·x·y. Data, with the range they hold in. */
export interface Biquadratic {
  readonly c: readonly [number, number, number, number, number, number];
  readonly x: readonly [least: number, most: number];
  readonly y: readonly [least: number, most: number];
}

const within = (v: number, [least, most]: readonly [number, number]): number => (v < least ? least : v > most ? most : v);

/** Value of a curve; beyond its limits that of the nearest point within. */
export function biquadratic(curve: Biquadratic, x: number, y: number): number {
  const u = within(x, curve.x);
  const v = within(y, curve.y);
  const { c } = curve;
  return c[0] + u * (c[1] + c[2] * u) + v * (c[3] + c[4] * v) + c[5] * u * v;
}

/** Whether a point lies outside the range a curve holds in. */
export const leftRange = (curve: Biquadratic, x: number, y: number): boolean => x < curve.x[0] || x > curve.x[1] || y < curve.y[0] || y > curve.y[1];

/** How capacity and input of a machine follow its two temperatures, and input its part load. */
export interface MachineCurves {
  /** Capacity over rated capacity. */
  readonly capacity: Biquadratic;
  /** Input over rated input per capacity, at full load. */
  readonly input: Biquadratic;
  /** Input over full-load input by part load r: p0 + p1·r + p2·r². */
  readonly part: readonly [number, number, number];
}

/** Share of the full-load input at a part load, 1. */
export const partLoadInput = (part: MachineCurves["part"], r: number): number => (r > 0 ? part[0] + r * (part[1] + part[2] * r) : 0);

/**
 * Input of a machine, W, at a load: full-load input at the present conditions times the part-load polynomial; where its capacity is
 * unlimited, in proportion to load.
 * @param load W @param capacity at the present conditions, W @param ratio rated input per capacity (1/COP) @param input curve's value now
 */
export function machineInput(load: number, capacity: number, ratio: number, input: number, part: MachineCurves["part"]): number {
  if (!(load > 0)) return 0;
  if (!(capacity < Infinity) || !(capacity > 0)) return load * ratio * input;
  const r = load / capacity;
  return capacity * ratio * input * (r > 1 ? r : partLoadInput(part, r));
}

const anywhere = [-100, 150] as const;
const FLAT: Biquadratic = { c: [1, 0, 0, 0, 0, 0], x: anywhere, y: anywhere };
/** No dependence at all: input in proportion to load. */
export const AS_RATED: MachineCurves = { capacity: FLAT, input: FLAT, part: [0, 1, 0] };

/** A curve through 1 at a rating, by its slopes there: per cent changes an engineer can check against a data sheet. */
function about(x0: number, y0: number, dx: number, dy: number, dxx: number, dyy: number, dxy: number, x: Biquadratic["x"], y: Biquadratic["y"]): Biquadratic {
  return {
    c: [1 - dx * x0 - dy * y0 + dxx * x0 * x0 + dyy * y0 * y0 + dxy * x0 * y0, dx - 2 * dxx * x0 - dxy * y0, dxx, dy - 2 * dyy * y0 - dxy * x0, dyy, dxy],
    x,
    y,
  };
}

/** Curves that ship, by the name a component chooses them by. Typical, unverified. */
export const machineCurves: Readonly<Record<string, MachineCurves>> = {
  "as rated": AS_RATED,
  /** x: leaving chilled water, °C; y: outdoors, °C; rated at 7 and 35. */
  "typical air-cooled": {
    capacity: about(7, 35, 0.03, -0.008, 0, -0.00005, 0, [4, 18], [5, 48]),
    input: about(7, 35, -0.018, 0.021, 0.0003, 0.00025, 0, [4, 18], [5, 48]),
    part: [0.05, 0.75, 0.2],
  },
  /** x: leaving chilled water, °C; y: condenser water that enters, °C; rated at 7 and 30. */
  "typical water-cooled": {
    capacity: about(7, 30, 0.032, -0.009, 0, -0.00005, 0, [4, 18], [12, 40]),
    input: about(7, 30, -0.02, 0.024, 0.0003, 0.0003, 0, [4, 18], [12, 40]),
    part: [0.06, 0.64, 0.3],
  },
  /** x: leaving hot water, °C; y: outdoors, °C; rated at 45 and 7. */
  "typical air-source": {
    capacity: about(45, 7, -0.004, 0.024, 0, 0, 0, [25, 60], [-20, 25]),
    input: about(45, 7, 0.02, -0.022, 0.0001, 0.0004, 0, [25, 60], [-20, 25]),
    part: [0.03, 0.87, 0.1],
  },
  /** x: entering wet bulb, °C; y: outdoors, °C; rated at 19 and 35. */
  "direct expansion": {
    capacity: about(19, 35, 0.024, -0.007, 0, 0, 0, [12, 26], [5, 48]),
    input: about(19, 35, -0.012, 0.022, 0, 0.0002, 0, [12, 26], [5, 48]),
    part: [0.05, 0.85, 0.1],
  },
  /** x: room, °C; y: outdoors, °C; rated at 27 and 35. */
  "split unit, cooling": {
    capacity: about(27, 35, 0.02, -0.006, 0, 0, 0, [18, 32], [5, 48]),
    input: about(27, 35, -0.01, 0.023, 0, 0.0002, 0, [18, 32], [5, 48]),
    part: [0.02, 0.78, 0.2],
  },
  /** x: room, °C; y: outdoors, °C; rated at 20 and 7, defrost included. */
  "split unit, heating": {
    capacity: about(20, 7, -0.006, 0.022, 0, 0, 0, [15, 27], [-20, 20]),
    input: about(20, 7, 0.012, -0.02, 0, 0.0004, 0, [15, 27], [-20, 20]),
    part: [0.02, 0.83, 0.15],
  },
};
