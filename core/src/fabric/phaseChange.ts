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
/** What a node that melts is, in a linearisation. */
const SOLID = 0;
const MELTING = 1;
const MOLTEN = 2;

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
  /** °C, kept for the nodes that melt. */
  private readonly temperature: Float64Array;
  private readonly known: Float64Array;
  private readonly unit0: Float64Array;
  private readonly unit1: Float64Array;
  private readonly slope: Float64Array;
  private readonly factor: Float64Array;
  private readonly pivot: Float64Array;
  /** Nodes that melt, and what each is of SOLID, MELTING and MOLTEN in the present linearisation. */
  private readonly meltable: Int32Array;
  private readonly regime: Int8Array;
  private factored = false;
  /** Whether the heat held is what the present linearisation is about. */
  private current = false;
  private readonly input = { outside: 0, inside: 0 };
  private readonly dt: number;
  private readonly middles: readonly number[];

  constructor(layers: readonly LayerPhysics[], melting: readonly (Melting | null)[], films: readonly [number, number], dt: number) {
    const capacity = [0];
    const latent = [0];
    const from = [0];
    const to = [1];
    const conductance: number[] = [];
    const middles: number[] = [];
    /** Resistance since the last node: nodes are the faces and the middles of cells, so that none melts in two layers. */
    let since = 0;
    const node = (heat: number, melt: number, m: Melting | null): void => {
      conductance.push(1 / since);
      capacity.push(heat);
      latent.push(melt);
      from.push(m ? m.from : 0);
      to.push(m ? m.to : 1);
    };
    layers.forEach((l, i) => {
      if (isPlane(l)) return;
      const mass = l.density * l.thickness;
      if (mass * l.specificHeat === 0) {
        since += l.resistance;
        return;
      }
      const diffusivity = l.conductivity / (l.density * l.specificHeat);
      const cells = Math.max(LEAST_CELLS, Math.min(MOST_CELLS, Math.ceil(l.thickness / Math.sqrt(diffusivity * dt))));
      const m = melting[i] ?? null;
      middles.push(capacity.length + Math.floor(cells / 2));
      const half = l.resistance / (2 * cells);
      for (let c = 0; c < cells; c++) {
        since += half;
        node((mass * l.specificHeat) / cells, m ? (mass * m.latentHeat) / cells : 0, m);
        since = half;
      }
    });
    node(0, 0, null);
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
    this.pivot = f();
    this.meltable = Int32Array.from(Array.from(latent.keys()).filter((i) => latent[i] > 0));
    this.regime = new Int8Array(this.meltable.length);
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
    this.current = false;
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
      const t = this.temperatureAt(i, this.enthalpy[i]);
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

  /**
   * Linearises about the present temperatures: fills `port` for the coming solve of the zones. The matrix depends on which
   * nodes are melting alone, and what is known on the heat held: only what has changed is done anew.
   * @returns whether anything was
   */
  linearise(): boolean {
    const { n, dt, capacity, latent, from, to, temperature, slope, known, enthalpy, unit0, unit1, meltable, regime, port } = this;
    let moved = !this.factored;
    for (let j = 0; j < meltable.length; j++) {
      const t = temperature[meltable[j]];
      const now = t < from[meltable[j]] ? SOLID : t < to[meltable[j]] ? MELTING : MOLTEN;
      if (now !== regime[j]) {
        regime[j] = now;
        moved = true;
      }
    }
    if (!moved && this.current) return false;
    if (moved) {
      for (let i = 0; i < n; i++) slope[i] = capacity[i] / dt;
      for (let j = 0; j < meltable.length; j++)
        if (regime[j] === MELTING) slope[meltable[j]] += latent[meltable[j]] / (to[meltable[j]] - from[meltable[j]]) / dt;
      this.factorise();
      this.factored = true;
      unit0.fill(0);
      unit1.fill(0);
      unit0[0] = 1;
      unit1[n - 1] = 1;
      this.solve(unit0);
      this.solve(unit1);
      port.d00 = unit0[0];
      port.d01 = unit1[0];
      port.d11 = unit1[n - 1];
    }
    // the enthalpy's straight line through the present regime, H = slope·Δt·T + rest: what was held less the rest
    for (let i = 0; i < n; i++) known[i] = enthalpy[i] / dt;
    for (let j = 0; j < meltable.length; j++) {
      const i = meltable[j];
      if (regime[j] === MELTING) known[i] += (latent[i] * from[i]) / (to[i] - from[i]) / dt;
      else if (regime[j] === MOLTEN) known[i] -= latent[i] / dt;
    }
    this.solve(known);
    port.p0 = known[0];
    port.p1 = known[n - 1];
    this.current = true;
    return true;
  }

  /** Factors of slope + K + films, a symmetric tridiagonal matrix. */
  private factorise(): void {
    const { n, conductance: k, slope, factor, pivot, films } = this;
    let d = slope[0] + films[0] + k[0];
    pivot[0] = 1 / d;
    for (let i = 1; i < n; i++) {
      factor[i] = -k[i - 1] / d;
      d = slope[i] + k[i - 1] + (i + 1 < n ? k[i] : films[1]) + k[i - 1] * factor[i];
      pivot[i] = 1 / d;
    }
  }

  /** Solves (slope + K + films)·x = rhs in place. */
  private solve(x: Float64Array): void {
    const { n, factor, pivot } = this;
    for (let i = 1; i < n; i++) x[i] -= factor[i] * x[i - 1];
    x[n - 1] *= pivot[n - 1];
    for (let i = n - 2; i >= 0; i--) x[i] = x[i] * pivot[i] - factor[i + 1] * x[i + 1];
  }

  /** Takes the inputs of a solve, W/m², and refines what melts with these inputs held. */
  settle(f0: number, f1: number): void {
    const { temperature, known, unit0, unit1, from, to, meltable, regime } = this;
    this.input.outside = f0;
    this.input.inside = f1;
    for (let round = 0; round < ROUNDS; round++) {
      for (let j = 0; j < meltable.length; j++) {
        const i = meltable[j];
        const t = known[i] + f0 * unit0[i] + f1 * unit1[i];
        // a node that would jump over its melting range stops at its border, so that Newton does not cycle
        temperature[i] = regime[j] === SOLID && t > from[i] ? from[i] : regime[j] === MOLTEN && t < to[i] ? to[i] - 1e-9 : t;
      }
      if (!this.linearise()) break;
    }
  }

  /** Books the step: heat at the faces, W/m² into the wall, and the flows between cells at the settled temperatures. */
  advance(outer: number, inner: number): void {
    const { n, dt, conductance, enthalpy, temperature, known, unit0, unit1, meltable } = this;
    const { outside, inside } = this.input;
    enthalpy[0] = dt * outer;
    enthalpy[n - 1] = dt * inner;
    let t = known[0] + outside * unit0[0] + inside * unit1[0];
    for (let i = 1; i < n; i++) {
      const next = known[i] + outside * unit0[i] + inside * unit1[i];
      const q = dt * conductance[i - 1] * (t - next);
      enthalpy[i - 1] -= q;
      enthalpy[i] += q;
      t = next;
    }
    // faces have no mass: what the linear solve left with them goes to the cell beside
    enthalpy[1] += enthalpy[0];
    enthalpy[0] = 0;
    enthalpy[n - 2] += enthalpy[n - 1];
    enthalpy[n - 1] = 0;
    for (let j = 0; j < meltable.length; j++) temperature[meltable[j]] = this.temperatureAt(meltable[j], enthalpy[meltable[j]]);
    this.current = false;
  }
}
