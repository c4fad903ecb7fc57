import { exp } from "../numeric/index.ts";

/** What acts on a mixed store for a step. */
export interface TankStep {
  /** Heat capacity of its water, J/K, and conductance to where it stands, W/K. */
  readonly capacity: number;
  readonly loss: number;
  /** Heat put into it, W. */
  readonly heat: number;
  /** Capacity flow drawn through it, W/K, and the temperature it enters at, °C. */
  readonly draw: number;
  readonly inlet: number;
  /** Where it stands, °C. */
  readonly ambient: number;
  /** s */
  readonly dt: number;
}
/** What became of it: °C at the end and over the step, heat lost and drawn, J; what was put in is what they and the store took. */
export interface TankResult {
  readonly end: number;
  readonly mean: number;
  readonly lost: number;
  readonly drawn: number;
}

/** A store of one temperature over a step of constant conditions: the exact solution of its balance, so that no step is too long. @param start °C */
export function mixedTank(start: number, s: TankStep): TankResult {
  const total = s.loss + s.draw;
  if (!(total > 0)) {
    const end = start + (s.heat * s.dt) / s.capacity;
    return { end, mean: 0.5 * (start + end), lost: 0, drawn: 0 };
  }
  const steady = (s.heat + s.loss * s.ambient + s.draw * s.inlet) / total;
  const turns = (total * s.dt) / s.capacity;
  const decay = exp(-turns);
  const mean = steady + ((start - steady) * (1 - decay)) / turns;
  return {
    end: steady + (start - steady) * decay,
    mean,
    lost: s.loss * (mean - s.ambient) * s.dt,
    drawn: s.draw * (mean - s.inlet) * s.dt,
  };
}

/** One part of a store of two temperatures: heat capacity, J/K, conductance to what is around it, W/K, its temperature, °C (absent: that of the store), and heat put in, W. */
export interface TankNode {
  readonly capacity: number;
  readonly loss: number;
  readonly heat: number;
  readonly ambient?: number;
}
/** What acts on a store of two temperatures. The draw leaves at the top and enters at the bottom. */
export interface TwoNodeStep {
  readonly upper: TankNode;
  readonly lower: TankNode;
  /** Conductance between them, W/K. */
  readonly between: number;
  readonly draw: number;
  readonly inlet: number;
  readonly ambient: number;
  readonly dt: number;
}
export interface TwoNodeResult {
  readonly upper: number;
  readonly lower: number;
  /** Of both parts, J. */
  readonly lost: number;
  readonly drawn: number;
  /** Temperature of the upper part that loss and draw are of, °C. */
  readonly hot: number;
}

/**
 * A store with a warm upper and a cooler lower part, solved together by backward Euler: whatever the step, its books close. Where the lower part
 * would be the warmer one the two mix. @param upper and @param lower °C at the start
 */
export function twoNodeTank(upper: number, lower: number, s: TwoNodeStep): TwoNodeResult {
  const { upper: u, lower: l, between, draw, inlet, ambient, dt } = s;
  // [a b; c d]·[T_u, T_l] = [e, f]
  const a = u.capacity / dt + u.loss + draw + between;
  const b = -(draw + between);
  const c = -between;
  const d = l.capacity / dt + l.loss + draw + between;
  const [aroundUpper, aroundLower] = [u.ambient ?? ambient, l.ambient ?? ambient];
  const e = (u.capacity / dt) * upper + u.heat + u.loss * aroundUpper;
  const f = (l.capacity / dt) * lower + l.heat + l.loss * aroundLower + draw * inlet;
  const det = a * d - b * c;
  const top = (e * d - b * f) / det;
  const bottom = (a * f - c * e) / det;
  const lost = (u.loss * (top - aroundUpper) + l.loss * (bottom - aroundLower)) * dt;
  const drawn = draw * (top - inlet) * dt;
  if (bottom <= top) return { upper: top, lower: bottom, lost, drawn, hot: top };
  const mixed = (u.capacity * top + l.capacity * bottom) / (u.capacity + l.capacity);
  return { upper: mixed, lower: mixed, lost, drawn, hot: top };
}
