import { cos, DEG, pow } from "../numeric/index.ts";

const GRAVITY = 9.81;
/** Below this difference a crack is laminar: flow in proportion to it, Pa. */
export const LAMINAR_CRACK = 0.1;
/** The same for openings that follow the root of the difference, Pa: it only keeps the slope finite. */
const LAMINAR_OPENING = 0.001;
/** Least rise of the difference over an opening's height, Pa, at which its balance is reckoned: below it air passes one way only. */
const LEAST_RISE = 0.002;
/** The balance of a node is met at this, kg/s, or at this share of what passes it. */
export const NODE_RESIDUAL = 1e-6;
export const NODE_SHARE = 1e-5;
const MOST_ROUNDS = 60;
const HALVINGS = 12;
/** Old factors serve while a step leaves less than this of the sum of squares. */
const FALLING = 0.02;

/** A place where air can be: its pressure is found, or it is outdoors at a place of the façade, whose pressure is given. */
export interface NetworkNode {
  /** Height at which its pressure is told, m above the datum. */
  readonly height: number;
  readonly outdoors: boolean;
}

interface Ends {
  /** Places of the two nodes; positive flow goes from the first to the second. */
  readonly from: number;
  readonly to: number;
}
/** How air passes between two nodes. */
export type NetworkLink = Ends &
  (
    | {
        /** A crack or a grille: V = C·Δpⁿ, at one height. */
        readonly kind: "crack";
        readonly height: number;
        /** m³/s at 1 Pa. */
        readonly coefficient: number;
        readonly exponent: number;
      }
    | {
        /** A sharp-edged opening so low that its ends see one pressure: V = C_d·A·√(2Δp/ρ). */
        readonly kind: "orifice";
        readonly height: number;
        readonly area: number;
        readonly discharge: number;
      }
    | {
        /** A window or door whose height matters: air may pass both ways about a neutral level. */
        readonly kind: "opening";
        /** Lower and upper edge, m above the datum, and its clear width, m. */
        readonly low: number;
        readonly high: number;
        readonly width: number;
        readonly discharge: number;
      }
    | {
        /** A shaft or duct from a height of the first node to one of the second: Δp = R·V². The air within weighs as the mean of both; a shaft whose warmth matters is a node of its own. */
        readonly kind: "duct";
        readonly bottom: number;
        readonly top: number;
        /** Pa/(m³/s)². */
        readonly resistance: number;
      }
    | {
        /** A fan that moves air from the first to the second: a straight curve from its shut-off pressure to its free flow. */
        readonly kind: "fan";
        readonly height: number;
        /** Pa at no flow, and m³/s against no pressure. */
        readonly shutOff: number;
        readonly free: number;
      }
  );

/** Flow of a link at a difference of pressure: net, kg/s, and its slope, kg/s·Pa. */
export interface LinkFlow {
  net: number;
  slope: number;
  /** What passes each way, kg/s: net = forward − backward. */
  forward: number;
  backward: number;
}

/** V = C·Δpⁿ by exponent, quickly: 2^(n·e) from a table times a polynomial of the mantissa that goes through the power itself; within 1e-8 of it. */
class PowerLaw {
  readonly exponent: number;
  /** Cubics over the root of Δp, which meet with their slopes: quicker still, within 1e-7 of it above the laminar limit. */
  readonly cubic = new Float64Array(4 * ROOTS * PER_ROOT);
  private readonly scale = new Float64Array(128);
  private readonly c = new Float64Array(TERMS);

  constructor(exponent: number) {
    this.exponent = exponent;
    for (let e = 0; e < 128; e++) this.scale[e] = pow(2, exponent * (e - 64));
    // Newton's divided differences at the nodes of Chebyshev on [1, 2), opened to powers of m − 1.5
    const x = Float64Array.from({ length: TERMS }, (_, k) => 0.5 * cos(((2 * k + 1) / (2 * TERMS)) * (180 * DEG)));
    const d = Float64Array.from(x, (t) => pow(1.5 + t, exponent));
    for (let k = 1; k < TERMS; k++) for (let r = TERMS - 1; r >= k; r--) d[r] = (d[r] - d[r - 1]) / (x[r] - x[r - k]);
    for (let k = TERMS - 1; k >= 0; k--) {
      for (let r = TERMS - 1; r > 0; r--) this.c[r] = this.c[r - 1] - x[k] * this.c[r];
      this.c[0] = d[k] - x[k] * this.c[0];
    }
    this.fillCubics(exponent);
  }

  private fillCubics(exponent: number): void {
    // of the root r: r^(2n), with its slope by a step of the table
    const at = (k: number): [number, number] =>
      k === 0 ? [0, 0] : [pow(k / PER_ROOT, 2 * exponent), (2 * exponent * pow(k / PER_ROOT, 2 * exponent - 1)) / PER_ROOT];
    let [y0, d0] = at(0);
    for (let k = 0; k < ROOTS * PER_ROOT; k++) {
      const [y1, d1] = at(k + 1);
      this.cubic.set([y0, d0, 3 * (y1 - y0) - 2 * d0 - d1, 2 * (y0 - y1) + d0 + d1], 4 * k);
      [y0, d0] = [y1, d1];
    }
  }

  /** Power of a number from 1e-15 to 1e15. */
  at(x: number): number {
    BITS[0] = x;
    const high = WORDS[1];
    const e = ((high >>> 20) & 2047) - 1023;
    WORDS[1] = (high & 0x000fffff) | 0x3ff00000;
    const t = BITS[0] - 1.5;
    const { c } = this;
    const v = (((((((c[8] * t + c[7]) * t + c[6]) * t + c[5]) * t + c[4]) * t + c[3]) * t + c[2]) * t + c[1]) * t + c[0];
    return v * this.scale[e + 64];
  }
}
const TERMS = 9;
/** The table of cubics reaches to this root of a pressure, √Pa, with so many a unit. */
const ROOTS = 32;
const PER_ROOT = 32;
const BITS = new Float64Array(1);
const WORDS = new Uint32Array(BITS.buffer);

const CRACK = 0;
const ORIFICE = 1;
const TALL = 2;
const DUCT = 3;
const FAN = 4;
const KINDS = { crack: CRACK, orifice: ORIFICE, opening: TALL, duct: DUCT, fan: FAN } as const;
const rootOf = (v: number): number => (v > 0 ? Math.sqrt(v) : 0);

/** Links as rows of numbers, and their flows each way, kg/s, with the slope of the net flow by the difference of pressure, kg/s·Pa. */
class LinkRows {
  readonly forward: Float64Array;
  readonly backward: Float64Array;
  readonly slope: Float64Array;
  private readonly kind: Uint8Array;
  /** Heights above the first and above the second node at which its pressures are compared, m (of a duct at either end). */
  readonly aboveFrom: Float64Array;
  readonly aboveTo: Float64Array;
  /** By kind: coefficient; discharge·area; discharge·width; 1/√resistance; free flow. And exponent's laminar slope; height; rise; shut-off pressure. */
  readonly size: Float64Array;
  private readonly extent: Float64Array;
  readonly law: (PowerLaw | null)[];
  private readonly exponent: Float64Array;

  constructor(nodes: readonly NetworkNode[], links: readonly NetworkLink[]) {
    const f = (read: (l: NetworkLink) => number): Float64Array => Float64Array.from(links, read);
    this.forward = f(() => 0);
    this.backward = f(() => 0);
    this.slope = f(() => 0);
    this.kind = Uint8Array.from(links, (l) => KINDS[l.kind]);
    const at = (l: NetworkLink, second: boolean): number =>
      l.kind === "opening" ? (l.low + l.high) / 2 : l.kind === "duct" ? (second ? l.top : l.bottom) : l.height;
    this.aboveFrom = f((l) => at(l, false) - nodes[l.from].height);
    this.aboveTo = f((l) => at(l, true) - nodes[l.to].height);
    this.size = f((l) =>
      l.kind === "crack"
        ? l.coefficient
        : l.kind === "orifice"
          ? l.discharge * l.area
          : l.kind === "opening"
            ? l.discharge * l.width
            : l.kind === "duct"
              ? 1 / Math.sqrt(l.resistance)
              : l.free,
    );
    this.extent = f((l) => (l.kind === "opening" ? l.high - l.low : l.kind === "duct" ? l.top - l.bottom : l.kind === "fan" ? l.shutOff : 0));
    this.exponent = f((l) => (l.kind === "crack" ? l.exponent : 0.5));
    const laws = new Map<number, PowerLaw>();
    this.law = links.map((l) => {
      if (l.kind !== "crack" || l.exponent === 0.5) return null;
      let law = laws.get(l.exponent);
      if (!law) laws.set(l.exponent, (law = new PowerLaw(l.exponent)));
      return law;
    });
  }

  /**
   * Flow of link `i`. @param from and @param to pressures of its nodes, Pa, at their own heights @param up and @param down their densities
   * @param share of it that is open, 0…1 (of a fan: of its speed)
   */
  run(i: number, from: number, to: number, up: number, down: number, share: number): void {
    const kind = this.kind[i];
    // each node's pressure falls upward by the weight of its air
    const d = from - up * GRAVITY * this.aboveFrom[i] - (to - down * GRAVITY * this.aboveTo[i]);
    const size = this.size[i];
    if (kind === CRACK) this.power(i, size * share * (d >= 0 ? up : down), LAMINAR_CRACK, d);
    else if (kind === ORIFICE) this.power(i, size * share * Math.sqrt(2 * (d >= 0 ? up : down)), LAMINAR_OPENING, d);
    else if (kind === TALL) this.tall(i, size * share, d, up, down);
    else if (kind === DUCT) {
      const lifted = d - 0.5 * (up + down) * GRAVITY * this.extent[i];
      this.power(i, size * share * (lifted >= 0 ? up : down), LAMINAR_OPENING, lifted);
    } else this.fan(i, size, d, up, down, share);
  }

  /** m = c·Δpⁿ, in proportion below the laminar limit. */
  private power(i: number, c: number, laminar: number, d: number): void {
    const law = this.law[i];
    const x = d < 0 ? -d : d;
    let flow: number;
    if (x < laminar) {
      const slope = (c * (law === null ? Math.sqrt(laminar) : law.at(laminar))) / laminar;
      flow = slope * x;
      this.slope[i] = slope;
    } else {
      flow = c * (law === null ? Math.sqrt(x) : law.at(x));
      this.slope[i] = (this.exponent[i] * flow) / x;
    }
    this.forward[i] = d >= 0 ? flow : 0;
    this.backward[i] = d >= 0 ? 0 : flow;
  }

  /**
   * A tall opening, by the difference at its middle and the difference of densities: dm = C_d·w·√(2ρ·Δp(z))·dz, each way with the density of the air that
   * comes (Brown and Solvason 1962 without a pressure of its own).
   */
  private tall(i: number, size: number, difference: number, up: number, down: number): void {
    const height = this.extent[i];
    // the difference falls by this from the lower to the upper edge where the first node's air is the heavier
    const rise = (down - up) * GRAVITY * height;
    const about = rise < LEAST_RISE && rise > -LEAST_RISE ? (rise < 0 ? -LEAST_RISE : LEAST_RISE) : rise;
    const bottom = difference - about / 2;
    const top = difference + about / 2;
    const c = (size * height) / about;
    const rootUp = Math.sqrt(2 * up);
    const rootDown = Math.sqrt(2 * down);
    const [rb, rt, nb, nt] = [rootOf(bottom), rootOf(top), rootOf(-bottom), rootOf(-top)];
    // ∫√s from bottom to top of what lies above nothing; with a negative rise its ends are turned
    const forward = (2 / 3) * c * rootUp * ((top > 0 ? top * rt : 0) - (bottom > 0 ? bottom * rb : 0));
    const backward = (2 / 3) * c * rootDown * ((bottom < 0 ? -bottom * nb : 0) - (top < 0 ? -top * nt : 0));
    this.slope[i] = c * (rootUp * (rt - rb) - rootDown * (nt - nb));
    if (about === rise) {
      this.forward[i] = forward;
      this.backward[i] = backward;
      return;
    }
    // of nearly equal densities nothing passes against the net flow beyond what they themselves drive
    const scale = Math.abs(rise) / LEAST_RISE;
    const against = Math.min(forward, backward) * scale * Math.sqrt(scale);
    const net = forward - backward;
    this.forward[i] = (net > 0 ? net : 0) + against;
    this.backward[i] = this.forward[i] - net;
  }

  /** Against more than its shut-off pressure air is pushed back through it along the same line. */
  private fan(i: number, free: number, d: number, up: number, down: number, share: number): void {
    if (share <= 0) {
      this.forward[i] = 0;
      this.backward[i] = 0;
      this.slope[i] = 0;
      return;
    }
    const slope = free / this.extent[i] / share;
    const flow = slope * (this.extent[i] * share * share + d);
    const density = flow >= 0 ? up : down;
    this.forward[i] = flow > 0 ? density * flow : 0;
    this.backward[i] = flow > 0 ? 0 : -density * flow;
    this.slope[i] = density * slope;
  }
}

/**
 * Flow of a link between two nodes. @param pressures of both, Pa, at their own heights @param densities of both, kg/m³
 * @param share of it that is open, 0…1 (of a fan: of its speed)
 */
export function linkFlow(
  link: NetworkLink,
  nodes: readonly NetworkNode[],
  fromPressure: number,
  toPressure: number,
  fromDensity: number,
  toDensity: number,
  share: number,
  out: LinkFlow,
): void {
  const rows = new LinkRows(nodes, [link]);
  rows.run(0, fromPressure, toPressure, fromDensity, toDensity, share);
  out.forward = rows.forward[0];
  out.backward = rows.backward[0];
  out.net = out.forward - out.backward;
  out.slope = rows.slope[0];
}

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
