/**
 * Wind around blocks by a lattice Boltzmann method: D3Q19, single relaxation time (Qian, d'Humières and Lallemand 1992), the eddies below the grid by
 * Smagorinsky's closure (Hou, Sterling, Chen and Doolen 1996), bounce-back halfway on ground and walls. Lengths are in cells, times in steps.
 */
const Q = 19;
const CX = Int8Array.of(0, 1, -1, 0, 0, 0, 0, 1, -1, 1, -1, 1, -1, 1, -1, 0, 0, 0, 0);
const CY = Int8Array.of(0, 0, 0, 1, -1, 0, 0, 1, -1, -1, 1, 0, 0, 0, 0, 1, -1, 1, -1);
const CZ = Int8Array.of(0, 0, 0, 0, 0, 1, -1, 0, 0, 0, 0, 1, -1, -1, 1, 1, -1, -1, 1);
const WEIGHT = Float64Array.from({ length: Q }, (_, q) => (q === 0 ? 1 / 3 : q < 7 ? 1 / 18 : 1 / 36));
/** The velocity that is turned about, and those mirrored at a plane across y and across z. */
const find = (x: number, y: number, z: number): number => Array.from(CX.keys()).findIndex((q) => CX[q] === x && CY[q] === y && CZ[q] === z);
const BACK = Int8Array.from({ length: Q }, (_, q) => find(-CX[q], -CY[q], -CZ[q]));
const MIRROR_Y = Int8Array.from({ length: Q }, (_, q) => find(CX[q], -CY[q], CZ[q]));
const MIRROR_Z = Int8Array.from({ length: Q }, (_, q) => find(CX[q], CY[q], -CZ[q]));
/** Square of the lattice's speed of sound. */
const SOUND = 1 / 3;
/** Relaxation time of the fluid itself: nearly inviscid, as wind around a building is. */
const TAU = 0.503;
const ROOT2 = Math.sqrt(2);
/** Smagorinsky's constant: 0.1 to 0.2 are in use. */
const EDDIES = 0.15;
const CLOSURE = 18 * ROOT2 * EDDIES * EDDIES;

export interface TunnelSpec {
  /** Cells along the wind, across it and upward; the outermost layer is the boundary. */
  readonly nx: number;
  readonly ny: number;
  readonly nz: number;
  /** 1: solid, [z][y][x]. */
  readonly solid: Uint8Array;
  /** Wind that comes in, by layer, cells a step: at most a tenth. */
  readonly profile: ArrayLike<number>;
}

/** A wind tunnel in the computer: wind comes in at x = 0 with its profile, leaves at the other end, and slips along sides and ceiling. */
export class WindTunnel {
  readonly spec: TunnelSpec;
  /** Steps made. */
  steps = 0;
  private readonly cells: number;
  private now: Float32Array;
  private next: Float32Array;
  /** Places of the cells in which air moves: those with air all around, and those beside ground or walls. */
  private readonly fluid: Int32Array;
  private readonly beside: Int32Array;
  private readonly sumDensity: Float64Array;
  private readonly sumSpeed: Float64Array;
  private averaged = 0;

  /** @throws RangeError for a grid that is too small, or a wind too fast for the method */
  constructor(spec: TunnelSpec) {
    const { nx, ny, nz, solid, profile } = spec;
    if (!(nx >= 8 && ny >= 6 && nz >= 6) || solid.length !== nx * ny * nz || profile.length !== nz)
      throw new RangeError("the grid of the wind tunnel does not fit");
    for (let z = 0; z < nz; z++)
      if (!(profile[z] >= 0 && profile[z] <= 0.12)) throw new RangeError(`the wind of layer ${z} is beyond a tenth of a cell a step`);
    this.spec = spec;
    const cells = nx * ny * nz;
    this.cells = cells;
    this.now = new Float32Array(Q * cells);
    this.next = new Float32Array(Q * cells);
    this.sumDensity = new Float64Array(cells);
    this.sumSpeed = new Float64Array(3 * cells);
    const fluid: number[] = [];
    const beside: number[] = [];
    const plane = nx * ny;
    const wall = (i: number): boolean => solid[i] === 1 || i < plane;
    for (let z = 1; z < nz - 1; z++)
      for (let y = 1; y < ny - 1; y++)
        for (let x = 1; x < nx - 1; x++) {
          const i = (z * ny + y) * nx + x;
          if (solid[i] === 1) continue;
          let near = false;
          for (let q = 1; q < Q; q++) near ||= wall(i - (CX[q] + nx * CY[q] + plane * CZ[q]));
          (near ? beside : fluid).push(i);
        }
    this.fluid = Int32Array.from(fluid);
    this.beside = Int32Array.from(beside);
    for (let z = 0; z < nz; z++) for (let y = 0; y < ny; y++) for (let x = 0; x < nx; x++) this.fill((z * ny + y) * nx + x, 1, profile[z]);
  }

  /** Puts a cell into equilibrium with a wind along x. */
  private fill(i: number, density: number, u: number): void {
    for (let q = 0; q < Q; q++) {
      const cu = CX[q] * u;
      this.now[q * this.cells + i] = WEIGHT[q] * density * (1 + 3 * cu + 4.5 * cu * cu - 1.5 * u * u);
    }
  }

  /** Makes so many steps. */
  run(steps: number): void {
    for (let s = 0; s < steps; s++) this.step();
  }

  private step(): void {
    this.edges();
    this.pullBeside();
    this.pullFluid();
    [this.now, this.next] = [this.next, this.now];
    this.steps++;
    if (this.averaging) this.averaged++;
  }

  private averaging = false;
  /** Begins to average what follows, anew. */
  startMean(): void {
    this.averaging = true;
    this.averaged = 0;
    this.sumDensity.fill(0);
    this.sumSpeed.fill(0);
  }

  /** Cells with air all around: what comes from the neighbours, collided. */
  private pullFluid(): void {
    const { now, cells: n, fluid } = this;
    const { nx, ny } = this.spec;
    const p = nx * ny;
    for (let k = 0; k < fluid.length; k++) {
      const i = fluid[k];
      this.collide(
        i,
        now[i],
        now[n + i - 1],
        now[2 * n + i + 1],
        now[3 * n + i - nx],
        now[4 * n + i + nx],
        now[5 * n + i - p],
        now[6 * n + i + p],
        now[7 * n + i - 1 - nx],
        now[8 * n + i + 1 + nx],
        now[9 * n + i - 1 + nx],
        now[10 * n + i + 1 - nx],
        now[11 * n + i - 1 - p],
        now[12 * n + i + 1 + p],
        now[13 * n + i - 1 + p],
        now[14 * n + i + 1 - p],
        now[15 * n + i - nx - p],
        now[16 * n + i + nx + p],
        now[17 * n + i - nx + p],
        now[18 * n + i + nx - p],
      );
    }
  }

  /** Cells beside ground and walls, which turn back what ran into them. */
  private pullBeside(): void {
    const { now, cells: n, beside } = this;
    const { nx, ny, solid } = this.spec;
    const plane = nx * ny;
    const f = GATHERED;
    for (let k = 0; k < beside.length; k++) {
      const i = beside[k];
      for (let q = 0; q < Q; q++) {
        const from = i - (CX[q] + nx * CY[q] + plane * CZ[q]);
        f[q] = solid[from] === 1 || from < plane ? now[BACK[q] * n + i] : now[q * n + from];
      }
      this.collide(i, f[0], f[1], f[2], f[3], f[4], f[5], f[6], f[7], f[8], f[9], f[10], f[11], f[12], f[13], f[14], f[15], f[16], f[17], f[18]);
    }
  }

  /** What came to a cell, relaxed toward equilibrium; the stress beyond equilibrium tells the eddies below the grid. */
  private collide(
    i: number,
    f0: number,
    f1: number,
    f2: number,
    f3: number,
    f4: number,
    f5: number,
    f6: number,
    f7: number,
    f8: number,
    f9: number,
    f10: number,
    f11: number,
    f12: number,
    f13: number,
    f14: number,
    f15: number,
    f16: number,
    f17: number,
    f18: number,
  ): void {
    const { next: g, cells: n } = this;
    const xy = f7 + f8 + f9 + f10;
    const xz = f11 + f12 + f13 + f14;
    const yz = f15 + f16 + f17 + f18;
    const density = f0 + f1 + f2 + f3 + f4 + f5 + f6 + xy + xz + yz;
    const one = 1 / density;
    const ux = one * (f1 - f2 + f7 - f8 + f9 - f10 + f11 - f12 + f13 - f14);
    const uy = one * (f3 - f4 + f7 - f8 - f9 + f10 + f15 - f16 + f17 - f18);
    const uz = one * (f5 - f6 + f11 - f12 - f13 + f14 + f15 - f16 - f17 + f18);
    // Σ c·c·f less its equilibrium ρ(δ/3 + u·u)
    const third = density / 3;
    const sxx = f1 + f2 + xy + xz - third - density * ux * ux;
    const syy = f3 + f4 + xy + yz - third - density * uy * uy;
    const szz = f5 + f6 + xz + yz - third - density * uz * uz;
    const sxy = f7 + f8 - f9 - f10 - density * ux * uy;
    const sxz = f11 + f12 - f13 - f14 - density * ux * uz;
    const syz = f15 + f16 - f17 - f18 - density * uy * uz;
    const stress = Math.sqrt(sxx * sxx + syy * syy + szz * szz + 2 * (sxy * sxy + sxz * sxz + syz * syz));
    const rate = 2 / (TAU + Math.sqrt(TAU * TAU + CLOSURE * stress * one));
    const keep = 1 - rate;
    const base = 1 - 1.5 * (ux * ux + uy * uy + uz * uz);
    const w1 = rate * density * (1 / 18);
    const w2 = rate * density * (1 / 36);
    g[i] = keep * f0 + rate * density * (1 / 3) * base;
    let c = ux;
    let a = w1 * (base + 4.5 * c * c);
    let b = 3 * w1 * c;
    g[n + i] = keep * f1 + a + b;
    g[2 * n + i] = keep * f2 + a - b;
    c = uy;
    a = w1 * (base + 4.5 * c * c);
    b = 3 * w1 * c;
    g[3 * n + i] = keep * f3 + a + b;
    g[4 * n + i] = keep * f4 + a - b;
    c = uz;
    a = w1 * (base + 4.5 * c * c);
    b = 3 * w1 * c;
    g[5 * n + i] = keep * f5 + a + b;
    g[6 * n + i] = keep * f6 + a - b;
    c = ux + uy;
    a = w2 * (base + 4.5 * c * c);
    b = 3 * w2 * c;
    g[7 * n + i] = keep * f7 + a + b;
    g[8 * n + i] = keep * f8 + a - b;
    c = ux - uy;
    a = w2 * (base + 4.5 * c * c);
    b = 3 * w2 * c;
    g[9 * n + i] = keep * f9 + a + b;
    g[10 * n + i] = keep * f10 + a - b;
    c = ux + uz;
    a = w2 * (base + 4.5 * c * c);
    b = 3 * w2 * c;
    g[11 * n + i] = keep * f11 + a + b;
    g[12 * n + i] = keep * f12 + a - b;
    c = ux - uz;
    a = w2 * (base + 4.5 * c * c);
    b = 3 * w2 * c;
    g[13 * n + i] = keep * f13 + a + b;
    g[14 * n + i] = keep * f14 + a - b;
    c = uy + uz;
    a = w2 * (base + 4.5 * c * c);
    b = 3 * w2 * c;
    g[15 * n + i] = keep * f15 + a + b;
    g[16 * n + i] = keep * f16 + a - b;
    c = uy - uz;
    a = w2 * (base + 4.5 * c * c);
    b = 3 * w2 * c;
    g[17 * n + i] = keep * f17 + a + b;
    g[18 * n + i] = keep * f18 + a - b;
    if (!this.averaging) return;
    this.sumDensity[i] += density;
    this.sumSpeed[3 * i] += ux;
    this.sumSpeed[3 * i + 1] += uy;
    this.sumSpeed[3 * i + 2] += uz;
  }

  /** Boundary cells: wind comes in, leaves, and slips along sides and ceiling. */
  private edges(): void {
    const { now, cells } = this;
    const { nx, ny, nz, profile } = this.spec;
    const at = (x: number, y: number, z: number): number => (z * ny + y) * nx + x;
    for (let z = 1; z < nz - 1; z++)
      for (let x = 1; x < nx - 1; x++)
        for (let q = 0; q < Q; q++) {
          now[q * cells + at(x, 0, z)] = now[MIRROR_Y[q] * cells + at(x, 1, z)];
          now[q * cells + at(x, ny - 1, z)] = now[MIRROR_Y[q] * cells + at(x, ny - 2, z)];
        }
    for (let y = 0; y < ny; y++)
      for (let x = 1; x < nx - 1; x++) for (let q = 0; q < Q; q++) now[q * cells + at(x, y, nz - 1)] = now[MIRROR_Z[q] * cells + at(x, y, nz - 2)];
    // nothing is read of the ground's layer: what comes from there is turned back
    for (let z = 1; z < nz; z++)
      for (let y = 0; y < ny; y++) {
        // with the density of the cell behind, so that no pressure is held there
        let density = 0;
        const inside = at(1, y, z);
        for (let q = 0; q < Q; q++) density += now[q * cells + inside];
        this.fill(at(0, y, z), density, profile[z]);
        // the way out keeps the mean pressure where it is
        const [last, before] = [at(nx - 1, y, z), at(nx - 2, y, z)];
        let out = 0;
        for (let q = 0; q < Q; q++) out += now[q * cells + before];
        for (let q = 0; q < Q; q++) now[q * cells + last] = now[q * cells + before] / out;
      }
  }

  /** Place of a cell. */
  cell(x: number, y: number, z: number): number {
    return (z * this.spec.ny + y) * this.spec.nx + x;
  }
  /** Mean pressure of a cell beyond that of still air, in units of the lattice; NaN before anything was averaged. */
  pressure(cell: number): number {
    return this.averaged > 0 ? SOUND * (this.sumDensity[cell] / this.averaged - 1) : NaN;
  }
  /** Mean velocity of a cell, cells a step. */
  velocity(cell: number): readonly [number, number, number] {
    const n = this.averaged;
    return [this.sumSpeed[3 * cell] / n, this.sumSpeed[3 * cell + 1] / n, this.sumSpeed[3 * cell + 2] / n];
  }
  /** Pressure coefficient of a cell: its pressure beyond that of another, far upstream, over the dynamic pressure of the wind that comes in at a layer. */
  coefficient(cell: number, upstream: number, layer: number): number {
    const u = this.spec.profile[layer];
    return (this.pressure(cell) - this.pressure(upstream)) / (0.5 * u * u);
  }
  /** Whether the air is still air and no number was lost. */
  get sound(): boolean {
    let sum = 0;
    for (let k = 0; k < this.fluid.length; k += 7) sum += this.now[this.fluid[k]];
    return Number.isFinite(sum);
  }
}
const GATHERED = new Float64Array(Q);
