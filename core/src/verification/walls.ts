import { atan2, cos, PI } from "../numeric/index.ts";
import { reduceWall, wallStep, type LayerPhysics, type ReducedWall, type WallStep } from "../fabric/index.ts";

/** A wall alone between two films, for checks: the step of the year's own kernel, written for one face. */
export class LoneWall {
  readonly wall: ReducedWall;
  readonly step: WallStep;
  readonly films: readonly [number, number];
  private readonly a: Float64Array;
  /** Step-mean face temperatures, °C. */
  outside = 0;
  inside = 0;

  constructor(layers: readonly LayerPhysics[], films: readonly [number, number], dt: number, initial: number, nominal?: readonly [number, number]) {
    this.wall = reduceWall(layers, nominal);
    this.step = wallStep(this.wall, dt);
    this.films = films;
    this.a = new Float64Array(this.wall.modes);
    for (let k = 0; k < this.wall.modes; k++)
      this.a[k] = initial * (this.wall.port[2 * k] * this.wall.films[0] + this.wall.port[2 * k + 1] * this.wall.films[1]);
    this.outside = this.inside = initial;
  }

  /** One step with environment temperatures and absorbed heat, W/m², held constant over it. */
  advance(tOut: number, tIn: number, sOut = 0, sIn = 0): void {
    const { wall, step, a } = this;
    const v = wall.port;
    let po = 0;
    let pi = 0;
    for (let k = 0; k < wall.modes; k++) {
      po += v[2 * k] * step.mean[k] * a[k];
      pi += v[2 * k + 1] * step.mean[k] * a[k];
    }
    const [oo, oi, ii] = step.direct;
    const xo = this.films[0] - wall.films[0];
    const xi = this.films[1] - wall.films[1];
    const go = this.films[0] * tOut + sOut;
    const gi = this.films[1] * tIn + sIn;
    // (I + D·x) T = P + D·g
    const a11 = 1 + oo * xo;
    const a12 = oi * xi;
    const a21 = oi * xo;
    const a22 = 1 + ii * xi;
    const b1 = po + oo * go + oi * gi;
    const b2 = pi + oi * go + ii * gi;
    const det = a11 * a22 - a12 * a21;
    this.outside = (b1 * a22 - a12 * b2) / det;
    this.inside = (a11 * b2 - a21 * b1) / det;
    const fo = go - xo * this.outside;
    const fi = gi - xi * this.inside;
    for (let k = 0; k < wall.modes; k++) a[k] = step.decay[k] * a[k] + (1 - step.decay[k]) * (v[2 * k] * fo + v[2 * k + 1] * fi);
  }

  /** Heat stored above 0 °C, J/m². */
  get content(): number {
    return this.a.reduce((s, x, k) => s + x * this.wall.content[k], 0);
  }
}

/**
 * Decrement factor and time shift, h, of a wall run step by step with a sinusoidal outside temperature of
 * 24 h and a constant inside one, by Fourier analysis of the step-mean inside flow over the last day.
 */
export function steppedDecrement(layers: readonly LayerPhysics[], rse: number, rsi: number, stepsPerHour: number): { decrement: number; timeShift: number } {
  const dt = 3600 / stepsPerHour;
  const films: [number, number] = [1 / rse, 1 / rsi];
  const w = new LoneWall(layers, films, dt, 0);
  const n = 24 * stepsPerHour;
  let re = 0;
  let im = 0;
  const days = 40;
  const omega = (2 * PI) / n;
  // amplitude of the step mean of a sinusoid over that of the sinusoid
  const half = omega / 2;
  const sinc = 1 - (half * half) / 6 + (half * half * half * half) / 120;
  for (let i = 0; i < days * n; i++) {
    const phase = omega * (i + 0.5);
    w.advance(10 * sinc * cos(phase), 0);
    if (i < (days - 1) * n) continue;
    const q = films[1] * w.inside;
    re += (2 / n) * q * cos(phase);
    im += (2 / n) * q * cos(phase - PI / 2);
  }
  const u = 1 / (rse + rsi + layers.reduce((s, l) => s + l.resistance, 0));
  const amplitude = Math.sqrt(re * re + im * im) / sinc;
  let shift = (atan2(im, re) / (2 * PI)) * 24;
  if (shift < 0) shift += 24;
  return { decrement: amplitude / (10 * u), timeShift: shift };
}
