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
  /** Places of the cells in which air moves, and for each velocity where it comes from; −1: turned back by a wall. */
  private readonly fluid: Int32Array;
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
    for (let z = 1; z < nz - 1; z++)
      for (let y = 1; y < ny - 1; y++)
        for (let x = 1; x < nx - 1; x++) {
          const i = (z * ny + y) * nx + x;
          if (solid[i] === 0) fluid.push(i);
        }
    this.fluid = Int32Array.from(fluid);
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
    this.collide();
    this.edges();
    this.stream();
    [this.now, this.next] = [this.next, this.now];
    this.steps++;
    if (this.averaging) this.average();
  }

  private averaging = false;
  /** Begins to average what follows, anew. */
  startMean(): void {
    this.averaging = true;
    this.averaged = 0;
    this.sumDensity.fill(0);
    this.sumSpeed.fill(0);
  }

  private collide(): void {
    const { now, cells, fluid } = this;
    for (let k = 0; k < fluid.length; k++) {
      const i = fluid[k];
      let [density, ux, uy, uz] = [0, 0, 0, 0];
      for (let q = 0; q < Q; q++) {
        const f = now[q * cells + i];
        density += f;
        ux += CX[q] * f;
        uy += CY[q] * f;
        uz += CZ[q] * f;
      }
      ux /= density;
      uy /= density;
      uz /= density;
      const uu = 1.5 * (ux * ux + uy * uy + uz * uz);
      // stress beyond equilibrium tells the eddies
      let [xx, yy, zz, xy, xz, yz] = [0, 0, 0, 0, 0, 0];
      for (let q = 0; q < Q; q++) {
        const cu = 3 * (CX[q] * ux + CY[q] * uy + CZ[q] * uz);
        const equal = WEIGHT[q] * density * (1 + cu + 0.5 * cu * cu - uu);
        EQUAL[q] = equal;
        const beyond = now[q * cells + i] - equal;
        xx += CX[q] * CX[q] * beyond;
        yy += CY[q] * CY[q] * beyond;
        zz += CZ[q] * CZ[q] * beyond;
        xy += CX[q] * CY[q] * beyond;
        xz += CX[q] * CZ[q] * beyond;
        yz += CY[q] * CZ[q] * beyond;
      }
      const stress = Math.sqrt(xx * xx + yy * yy + zz * zz + 2 * (xy * xy + xz * xz + yz * yz));
      const tau = 0.5 * (TAU + Math.sqrt(TAU * TAU + (18 * ROOT2 * EDDIES * EDDIES * stress) / density));
      const rate = 1 / tau;
      for (let q = 0; q < Q; q++) now[q * cells + i] += rate * (EQUAL[q] - now[q * cells + i]);
    }
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

  private stream(): void {
    const { now, next, cells, fluid } = this;
    const { nx, ny, solid } = this.spec;
    const plane = nx * ny;
    for (let q = 0; q < Q; q++) {
      const shift = CX[q] + nx * CY[q] + plane * CZ[q];
      const back = BACK[q] * cells;
      const own = q * cells;
      for (let k = 0; k < fluid.length; k++) {
        const i = fluid[k];
        const from = i - shift;
        // ground and walls turn back what ran into them
        next[own + i] = solid[from] === 1 || from < plane ? now[back + i] : now[own + from];
      }
    }
  }

  private average(): void {
    const { now, cells, fluid, sumDensity, sumSpeed } = this;
    for (let k = 0; k < fluid.length; k++) {
      const i = fluid[k];
      let [density, x, y, z] = [0, 0, 0, 0];
      for (let q = 0; q < Q; q++) {
        const f = now[q * cells + i];
        density += f;
        x += CX[q] * f;
        y += CY[q] * f;
        z += CZ[q] * f;
      }
      sumDensity[i] += density;
      sumSpeed[3 * i] += x / density;
      sumSpeed[3 * i + 1] += y / density;
      sumSpeed[3 * i + 2] += z / density;
    }
    this.averaged++;
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
const EQUAL = new Float64Array(Q);
