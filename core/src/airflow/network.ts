import { GRAVITY, LAMINAR_CRACK, LinkRows, PER_ROOT, ROOTS, type NetworkLink, type NetworkNode, type PowerLaw } from "./linkFlow.ts";

/** The balance of a node is met at this, kg/s, or at this share of what passes it. */
export const NODE_RESIDUAL = 1e-6;
export const NODE_SHARE = 1e-5;
const MOST_ROUNDS = 60;
const HALVINGS = 12;
/** Old factors serve while a step leaves less than this of the sum of squares. */
const FALLING = 0.02;

/** Islands: sets of nodes, by their places, that no way leads outdoors from. */
export function islands(nodes: readonly NetworkNode[], links: readonly NetworkLink[]): number[][] {
  const of = new Int32Array(nodes.length).map((_, i) => i);
  const root = (i: number): number => {
    while (of[i] !== i) i = of[i] = of[of[i]];
    return i;
  };
  for (const l of links) of[root(l.from)] = root(l.to);
  const outside = new Set(nodes.flatMap((n, i) => (n.outdoors ? [root(i)] : [])));
  const groups = new Map<number, number[]>();
  nodes.forEach((_, i) => {
    const r = root(i);
    if (outside.has(r)) return;
    const group = groups.get(r);
    if (group) group.push(i);
    else groups.set(r, [i]);
  });
  return [...groups.values()];
}

/** What a solve came to. */
export interface NetworkSolved {
  converged: boolean;
  rounds: number;
  /** Largest residual of a node, kg/s, and the node; −1: none. */
  residual: number;
  node: number;
}
/** One for all solves, filled anew by each. */
const SOLVED: NetworkSolved = { converged: true, rounds: 0, residual: 0, node: -1 };

/**
 * Pressures and flows of a network, solved by Newton's method with an analytic Jacobian and a line search. Made once; a solve allocates nothing. It begins
 * from the pressures of the solve before.
 */
export class AirNetwork {
  readonly nodes: readonly NetworkNode[];
  readonly links: readonly NetworkLink[];
  /** Pa, of every node at its own height; those outdoors are given before a solve. */
  readonly pressure: Float64Array;
  /** kg/m³, of every node; given before a solve. */
  readonly density: Float64Array;
  /** Air brought into each node by systems, kg/s, less what they draw out; given before a solve. */
  readonly source: Float64Array;
  /** Share of each link that is open; given before a solve. */
  readonly open: Float64Array;
  /** Each way through every link, kg/s, of the last solve. */
  readonly forward: Float64Array;
  readonly backward: Float64Array;
  private readonly rows: LinkRows;
  /** Cracks of one exponent, which are most links and go through a loop of their own, and all other links. */
  private readonly cracks: Int32Array;
  private readonly crackLaw: PowerLaw | null;
  /** Slope of a crack of 1 m³/s·Paⁿ below the laminar limit, per density. */
  private readonly laminar: number;
  private readonly rest: Int32Array;
  /** Nodes by their places, and of each link's ends the place among those whose pressure is sought; −1: outdoors. */
  private readonly unknown: Int32Array;
  private readonly from: Int32Array;
  private readonly to: Int32Array;
  private readonly rowFrom: Int32Array;
  private readonly rowTo: Int32Array;
  private readonly jacobian: Float64Array;
  private readonly right: Float64Array;
  private readonly kept: Float64Array;
  private readonly through: Float64Array;
  private readonly delta: Float64Array;

  /** @throws RangeError for a link that is not between two nodes */
  constructor(nodes: readonly NetworkNode[], links: readonly NetworkLink[]) {
    links.forEach((l, i) => {
      if (l.from === l.to || !(l.from in nodes) || !(l.to in nodes)) throw new RangeError(`link ${i} is not between two nodes`);
    });
    this.nodes = nodes;
    this.links = links;
    const f = (n: number): Float64Array => new Float64Array(n);
    this.pressure = f(nodes.length);
    this.density = f(nodes.length).fill(1.2);
    this.source = f(nodes.length);
    this.open = f(links.length).fill(1);
    this.rows = new LinkRows(nodes, links);
    const { law } = this.rows;
    this.crackLaw = law.find((l) => l !== null) ?? null;
    this.laminar = this.crackLaw === null ? 0 : this.crackLaw.at(LAMINAR_CRACK) / LAMINAR_CRACK;
    const fast = (i: number): boolean => law[i] !== null && law[i] === this.crackLaw;
    this.cracks = Int32Array.from(links.flatMap((_, i) => (fast(i) ? [i] : [])));
    this.rest = Int32Array.from(links.flatMap((_, i) => (fast(i) ? [] : [i])));
    this.forward = this.rows.forward;
    this.backward = this.rows.backward;
    this.unknown = Int32Array.from(nodes.flatMap((n, i) => (n.outdoors ? [] : [i])));
    const place = new Int32Array(nodes.length).fill(-1);
    this.unknown.forEach((node, k) => (place[node] = k));
    this.from = Int32Array.from(links, (l) => l.from);
    this.to = Int32Array.from(links, (l) => l.to);
    this.rowFrom = Int32Array.from(links, (l) => place[l.from]);
    this.rowTo = Int32Array.from(links, (l) => place[l.to]);
    const n = this.unknown.length;
    this.jacobian = f(n * n);
    this.right = f(n);
    this.kept = f(n);
    this.through = f(n);
    this.delta = f(n);
  }

  /** Flows of all links, residuals of all unknown nodes into `right`, what passes each into `through`. Answers the sum of their squares. */
  private residuals(): number {
    const { rows, rest, from, to, rowFrom, rowTo, forward, backward, pressure, density, open, right, through, source, unknown } = this;
    const n = right.length;
    for (let k = 0; k < n; k++) {
      const q = source[unknown[k]];
      right[k] = q;
      through[k] = q < 0 ? -q : q;
    }
    if (this.crackLaw !== null) this.passCracks(this.crackLaw);
    for (let j = 0; j < rest.length; j++) {
      const i = rest[j];
      const p = from[i];
      const q = to[i];
      if (open[i] === 0) {
        forward[i] = 0;
        backward[i] = 0;
        rows.slope[i] = 0;
        continue;
      }
      rows.run(i, pressure[p], pressure[q], density[p], density[q], open[i]);
      const a = rowFrom[i];
      const b = rowTo[i];
      const net = forward[i] - backward[i];
      const gross = forward[i] + backward[i];
      if (a >= 0) {
        right[a] -= net;
        through[a] += gross;
      }
      if (b >= 0) {
        right[b] += net;
        through[b] += gross;
      }
    }
    let sum = 0;
    for (let k = 0; k < n; k++) sum += right[k] * right[k];
    return sum;
  }

  /** The cracks' share of the residuals, written out: a call for each would cost more than what it computes. */
  private passCracks(law: PowerLaw): void {
    const { cubic, exponent } = law;
    const { cracks, from, to, rowFrom, rowTo, forward, backward, pressure, density, open, right, through } = this;
    const { aboveFrom, aboveTo, size, slope } = this.rows;
    const laminar = this.laminar;
    for (let j = 0; j < cracks.length; j++) {
      const i = cracks[j];
      const p = from[i];
      const q = to[i];
      const up = density[p];
      const down = density[q];
      const d = pressure[p] - up * GRAVITY * aboveFrom[i] - (pressure[q] - down * GRAVITY * aboveTo[i]);
      const x = d < 0 ? -d : d;
      const k = size[i] * open[i] * (d < 0 ? down : up);
      let flow: number;
      if (x < LAMINAR_CRACK) {
        slope[i] = k * laminar;
        flow = slope[i] * x;
      } else {
        const r = Math.sqrt(x) * PER_ROOT;
        if (r < ROOTS * PER_ROOT) {
          const whole = r | 0;
          const t = r - whole;
          const o = 4 * whole;
          flow = k * (((cubic[o + 3] * t + cubic[o + 2]) * t + cubic[o + 1]) * t + cubic[o]);
        } else flow = k * law.at(x);
        slope[i] = (exponent * flow) / x;
      }
      const a = rowFrom[i];
      const b = rowTo[i];
      if (d < 0) {
        forward[i] = 0;
        backward[i] = flow;
        if (a >= 0) {
          right[a] += flow;
          through[a] += flow;
        }
        if (b >= 0) {
          right[b] -= flow;
          through[b] += flow;
        }
      } else {
        forward[i] = flow;
        backward[i] = 0;
        if (a >= 0) {
          right[a] -= flow;
          through[a] += flow;
        }
        if (b >= 0) {
          right[b] += flow;
          through[b] += flow;
        }
      }
    }
  }

  /** The slopes of the flows at hand, as the Jacobian of the residuals. */
  private assemble(): void {
    const { rows, rowFrom, rowTo, jacobian, right } = this;
    const { slope } = rows;
    const n = right.length;
    jacobian.fill(0);
    for (let i = 0; i < rowFrom.length; i++) {
      const a = rowFrom[i];
      const b = rowTo[i];
      const g = slope[i];
      if (a >= 0) jacobian[a * n + a] += g;
      if (b >= 0) jacobian[b * n + b] += g;
      if (a >= 0 && b >= 0) {
        jacobian[a * n + b] -= g;
        jacobian[b * n + a] -= g;
      }
    }
  }

  /** Largest residual beyond what is allowed, as a share of it; at most 1: the balance is met. */
  private excess(): number {
    const { right, through } = this;
    let worst = 0;
    for (let k = 0; k < right.length; k++) {
      const r = right[k] < 0 ? -right[k] : right[k];
      const allowed = NODE_SHARE * through[k];
      const x = r / (allowed > NODE_RESIDUAL ? allowed : NODE_RESIDUAL);
      if (x > worst) worst = x;
    }
    return worst;
  }

  /** Finds the pressures at which every node's air balances. */
  solve(): NetworkSolved {
    const { unknown, pressure, right, kept, delta } = this;
    const n = unknown.length;
    let squares = this.residuals();
    let rounds = 0;
    // the factors of the solve before serve again as long as they bring the residuals down quickly
    let stale = this.factored;
    while (this.excess() > 1 && rounds < MOST_ROUNDS) {
      rounds++;
      if (!stale) {
        this.assemble();
        if (!this.factor()) break;
      }
      this.substitute();
      for (let k = 0; k < n; k++) kept[k] = pressure[unknown[k]];
      if (stale) {
        for (let k = 0; k < n; k++) pressure[unknown[k]] = kept[k] + delta[k];
        const next = this.residuals();
        if (next < FALLING * squares) {
          squares = next;
          continue;
        }
        for (let k = 0; k < n; k++) pressure[unknown[k]] = kept[k];
        this.residuals();
        stale = false;
        continue;
      }
      let length = 1;
      let next = Infinity;
      for (let h = 0; h <= HALVINGS; h++, length /= 2) {
        for (let k = 0; k < n; k++) pressure[unknown[k]] = kept[k] + length * delta[k];
        next = this.residuals();
        if (next < (1 - 0.1 * length) * squares) break;
      }
      squares = next;
    }
    let residual = 0;
    let node = -1;
    for (let k = 0; k < n; k++)
      if (Math.abs(right[k]) > residual) {
        residual = Math.abs(right[k]);
        node = unknown[k];
      }
    SOLVED.converged = this.excess() <= 1;
    SOLVED.rounds = rounds;
    SOLVED.residual = residual;
    SOLVED.node = node;
    return SOLVED;
  }

  private factored = false;

  /** Cholesky factors of the Jacobian in place (it is symmetric and positive). False: a node hangs on nothing. */
  private factor(): boolean {
    const { jacobian: a } = this;
    const n = this.right.length;
    this.factored = false;
    for (let j = 0; j < n; j++) {
      const rowJ = j * n;
      let d = a[rowJ + j];
      for (let k = 0; k < j; k++) d -= a[rowJ + k] * a[rowJ + k];
      if (!(d > 0)) return false;
      const root = Math.sqrt(d);
      a[rowJ + j] = root;
      const one = 1 / root;
      for (let i = j + 1; i < n; i++) {
        const rowI = i * n;
        let v = a[rowI + j];
        for (let k = 0; k < j; k++) v -= a[rowI + k] * a[rowJ + k];
        a[rowI + j] = v * one;
      }
    }
    this.factored = true;
    return true;
  }

  /** Δ of Jacobian·Δ = residuals by the factors, into `delta`. */
  private substitute(): void {
    const { jacobian: a, right, delta: x } = this;
    const n = right.length;
    for (let i = 0; i < n; i++) {
      const row = i * n;
      let v = right[i];
      for (let k = 0; k < i; k++) v -= a[row + k] * x[k];
      x[i] = v / a[row + i];
    }
    for (let i = n - 1; i >= 0; i--) {
      let v = x[i];
      for (let k = i + 1; k < n; k++) v -= a[k * n + i] * x[k];
      x[i] = v / a[i * n + i];
    }
  }
}
