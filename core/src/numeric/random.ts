import { cos, log, PI } from "./elementary.ts";

/** A deterministic stream of random numbers. */
export interface RandomStream {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Standard normal (Box and Muller 1958). */
  normal(): number;
}

/** Stream from a 32-bit seed: a Weyl sequence through an avalanche mix, integer operations only. */
export function randomStream(seed: number): RandomStream {
  let state = seed >>> 0;
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    uniform,
    normal: () => Math.sqrt(-2 * log(1 - uniform())) * cos(2 * PI * uniform()),
  };
}
