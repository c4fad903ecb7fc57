/** A battery behind one meter. */
export interface Battery {
  /** J that can be used. */
  readonly capacity: number;
  /** Most power into and out of it, W at the meter. */
  readonly charge: number;
  readonly discharge: number;
  /** Energy taken out over energy put in, 1; half of the loss at each way. */
  readonly efficiency: number;
  /** Share of its content lost a day, 1. */
  readonly standing: number;
}
/** What a step came to, W at the meter but for the content, J. */
export interface BatteryStep {
  readonly content: number;
  /** Into the battery, negative: out of it. */
  readonly power: number;
  /** What is left for the grid: fed in, negative: drawn. */
  readonly grid: number;
  /** Lost on the way and standing, J. */
  readonly lost: number;
}

const DAY = 86400;

/**
 * One step by its own-use rule: what is made beyond the use is stored, what is used beyond what is made comes out of it, as far as power and
 * content go; the grid has the rest.
 * @param content J at the start @param surplus made less used, W @param dt s
 */
export function batteryStep(b: Battery, content: number, surplus: number, dt: number): BatteryStep {
  const way = Math.sqrt(b.efficiency);
  const kept = content * (1 - Math.min(1, (b.standing * dt) / DAY));
  const power = surplus > 0 ? Math.min(surplus, b.charge, Math.max(0, b.capacity - kept) / (way * dt)) : -Math.min(-surplus, b.discharge, (kept * way) / dt);
  const next = kept + (power > 0 ? power * way : power / way) * dt;
  return { content: next, power, grid: surplus - power, lost: content + power * dt - next };
}
