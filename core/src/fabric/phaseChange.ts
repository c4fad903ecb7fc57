import { isPlane, type LayerPhysics } from "./transfer.ts";

/** A layer that melts over a range of temperature. */
export interface Melting {
  /** °C. */
  readonly from: number;
  readonly to: number;
  /** J/kg. */
  readonly latentHeat: number;
}

/** Most cells a layer. */
const MOST_CELLS = 60;
const LEAST_CELLS = 2;
/** Refinements of the enthalpy within one pass. */
const ROUNDS = 12;

/**
 * A wall with melting layers: finite volumes in enthalpy, backward Euler, Newton on enthalpy, cells no
 * wider than √(α·Δt) (Voller 1990). Behind the same two ports as a reduced wall: step-mean face
 * temperatures T = P + D·f with f the heat at a face beyond its nominal film, W/m².
 */
export class MeltingWall {
  readonly films: readonly [number, number];
  /** Parts of T = P + D·f of the present linearisation: P outside and inside, D outside-outside, outside-inside, inside-inside. */
  readonly port = { p0: 0, p1: 0, d00: 0, d01: 0, d11: 0 };
  private readonly n: number;
  private readonly conductance: Float64Array;
  /** Node by node: sensible capacity, J/m²K, and latent heat, J/m², melting between from and to. */
  private readonly capacity: Float64Array;
  private readonly latent: Float64Array;
  private readonly from: Float64Array;
  private readonly to: Float64Array;
  private readonly enthalpy: Float64Array;
  private readonly temperature: Float64Array;
  private readonly known: Float64Array;
  private readonly unit0: Float64Array;
  private readonly unit1: Float64Array;
  private readonly slope: Float64Array;
  private readonly factor: Float64Array;
  private readonly dt: number;
  private readonly middles: readonly number[];

  constructor(layers: readonly LayerPhysics[], melting: readonly (Melting | null)[], films: readonly [number, number], dt: number) {
    const capacity = [0];
    const latent = [0];
    const from = [0];
    const to = [1];
    const conductance: number[] = [];
    const middles: number[] = [];
    layers.forEach((l, i) => {
      if (isPlane(l)) return;
      const mass = l.density * l.thickness;
      if (mass * l.specificHeat === 0) {
        conductance.push(1 / l.resistance);
        capacity.push(0);
        latent.push(0);
        from.push(0);
        to.push(1);
        return;
      }
      const diffusivity = l.conductivity / (l.density * l.specificHeat);
      const cells = Math.max(LEAST_CELLS, Math.min(MOST_CELLS, Math.ceil(l.thickness / Math.sqrt(diffusivity * dt))));
      const m = melting[i] ?? null;
      middles.push(capacity.length + 2 * Math.floor(cells / 2));
      // each cell is a node of its own in the middle between two half resistances, so that one node never melts in two layers
      for (let c = 0; c < cells; c++) {
        conductance.push((2 * cells) / l.resistance, (2 * cells) / l.resistance);
        capacity.push((mass * l.specificHeat) / cells, 0);
        latent.push(m ? (mass * m.latentHeat) / cells : 0, 0);
        from.push(m ? m.from : 0, 0);
        to.push(m ? m.to : 1, 1);
      }
    });
    this.films = films;
    this.dt = dt;
    this.n = capacity.length;
    this.conductance = Float64Array.from(conductance);
    this.capacity = Float64Array.from(capacity);
    this.latent = Float64Array.from(latent);
    this.from = Float64Array.from(from);
    this.to = Float64Array.from(to);
    this.middles = middles;
    const f = (): Float64Array => new Float64Array(this.n);
    this.enthalpy = f();
    this.temperature = f();
    this.known = f();
    this.unit0 = f();
    this.unit1 = f();
    this.slope = f();
    this.factor = f();
  }

  /** Starts on a straight line between two face temperatures, °C. */
  start(outside: number, inside: number): void {
    let whole = 0;
    for (const c of this.conductance) whole += 1 / c;
    let r = 0;
    for (let i = 0; i < this.n; i++) {
      this.temperature[i] = outside + ((inside - outside) * r) / whole;
      this.enthalpy[i] = this.enthalpyAt(i, this.temperature[i]);
      if (i + 1 < this.n) r += 1 / this.conductance[i];
    }
  }

  private enthalpyAt(i: number, t: number): number {
    const { from, to } = this;
    const molten = t <= from[i] ? 0 : t >= to[i] ? 1 : (t - from[i]) / (to[i] - from[i]);
    return this.capacity[i] * t + this.latent[i] * molten;
  }

  private temperatureAt(i: number, h: number): number {
    const c = this.capacity[i];
    const l = this.latent[i];
    if (l === 0) return h / c;
    const low = c * this.from[i];
    const high = c * this.to[i] + l;
    if (h <= low) return h / c;
    if (h >= high) return (h - l) / c;
    return this.from[i] + ((h - low) / (high - low)) * (this.to[i] - this.from[i]);
  }

  /** Heat held above 0 °C and solid, J/m². */
  get content(): number {
    let s = 0;
    for (let i = 0; i < this.n; i++) s += this.enthalpy[i];
    return s;
  }

  /** Share molten of each layer with mass taken at its middle, and its temperature, °C. */
  layerMiddles(): { temperature: number; molten: number }[] {
    return this.middles.map((i) => {
      const t = this.temperature[i];
      const molten = this.latent[i] > 0 ? Math.max(0, Math.min(1, (t - this.from[i]) / (this.to[i] - this.from[i]))) : 0;
      return { temperature: t, molten };
    });
  }

  /** Share of all melting material that is molten, 1. */
  get molten(): number {
    let s = 0;
    let all = 0;
    for (let i = 0; i < this.n; i++) {
      if (this.latent[i] === 0) continue;
      all += this.latent[i];
      s += this.latent[i] * Math.max(0, Math.min(1, (this.temperature[i] - this.from[i]) / (this.to[i] - this.from[i])));
    }
    return all > 0 ? s / all : 0;
  }

  /** Linearises about the present temperatures: fills `port` for the coming solve of the zones. */
  linearise(): void {
    const { n, dt, capacity, latent, from, to, temperature, slope, known, unit0, unit1 } = this;
    for (let i = 0; i < n; i++) {
      const t = temperature[i];
      const melts = latent[i] > 0 && t >= from[i] && t < to[i];
      slope[i] = (capacity[i] + (melts ? latent[i] / (to[i] - from[i]) : 0)) / dt;
      known[i] = slope[i] * t - (this.enthalpyAt(i, t) - this.enthalpy[i]) / dt;
      unit0[i] = 0;
      unit1[i] = 0;
    }
    unit0[0] = 1;
    unit1[n - 1] = 1;
    this.eliminate();
    const { port } = this;
    port.p0 = known[0];
    port.p1 = known[n - 1];
    port.d00 = unit0[0];
    port.d01 = unit1[0];
    port.d11 = unit1[n - 1];
  }

  /** Solves (slope + K + films)·x = rhs for the three right-hand sides in place. */
  private eliminate(): void {
    const { n, conductance: k, slope, known, unit0, unit1, factor, films } = this;
    let d = slope[0] + films[0] + k[0];
    known[0] /= d;
    unit0[0] /= d;
    unit1[0] /= d;
    for (let i = 1; i < n; i++) {
      const a = -k[i - 1];
      factor[i] = a / d;
      d = slope[i] + k[i - 1] + (i + 1 < n ? k[i] : films[1]) - a * factor[i];
      known[i] = (known[i] - a * known[i - 1]) / d;
      unit0[i] = (unit0[i] - a * unit0[i - 1]) / d;
      unit1[i] = (unit1[i] - a * unit1[i - 1]) / d;
    }
    for (let i = n - 2; i >= 0; i--) {
      known[i] -= factor[i + 1] * known[i + 1];
      unit0[i] -= factor[i + 1] * unit0[i + 1];
      unit1[i] -= factor[i + 1] * unit1[i + 1];
    }
  }

  /** Takes the inputs of a solve, W/m², and refines the temperatures with these inputs held. */
  settle(f0: number, f1: number): void {
    const { n, temperature, known, unit0, unit1 } = this;
    for (let round = 0; round < ROUNDS; round++) {
      if (round > 0) this.linearise();
      let change = 0;
      for (let i = 0; i < n; i++) {
        const t = known[i] + f0 * unit0[i] + f1 * unit1[i];
        // a node that would jump over its melting range stops at its border, so that Newton does not cycle
        const before = temperature[i];
        let next = t;
        if (this.latent[i] > 0) {
          if (before < this.from[i] && t > this.from[i]) next = this.from[i];
          else if (before >= this.to[i] && t < this.to[i]) next = this.to[i] - 1e-9;
        }
        change = Math.max(change, Math.abs(next - before));
        temperature[i] = next;
      }
      if (change < 1e-7) break;
    }
  }

  /** Books the step: heat at the faces, W/m² into the wall, and the flows between cells at the settled temperatures. */
  advance(outer: number, inner: number): void {
    const { n, dt, conductance, enthalpy, temperature } = this;
    enthalpy[0] += dt * outer;
    enthalpy[n - 1] += dt * inner;
    for (let i = 0; i + 1 < n; i++) {
      const q = dt * conductance[i] * (temperature[i] - temperature[i + 1]);
      enthalpy[i] -= q;
      enthalpy[i + 1] += q;
    }
    // nodes without mass pass on what the linear solve left with them
    for (let i = 0; i < n; i++) {
      if (this.capacity[i] > 0) continue;
      const to = i + 1 < n && this.capacity[i + 1] > 0 ? i + 1 : i > 0 && this.capacity[i - 1] > 0 ? i - 1 : i + 1 < n ? i + 1 : i - 1;
      enthalpy[to] += enthalpy[i];
      enthalpy[i] = 0;
    }
    for (let i = 0; i < n; i++) if (this.capacity[i] > 0) temperature[i] = this.temperatureAt(i, enthalpy[i]);
  }
}
