import { pow } from "../numeric/index.ts";

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

/** V = C·Δpⁿ, in proportion below the laminar limit; into `out`. @param difference Pa @param up, down density before and behind for a positive difference, kg/m³ */
function powerFlow(coefficient: number, exponent: number, laminar: number, difference: number, up: number, down: number, share: number, out: LinkFlow): void {
  const density = difference >= 0 ? up : down;
  const size = Math.abs(difference);
  const c = share * coefficient * density;
  let flow: number;
  if (size < laminar) {
    const slope = c * pow(laminar, exponent - 1);
    flow = slope * size;
    out.slope = slope;
  } else {
    flow = c * (exponent === 0.5 ? Math.sqrt(size) : pow(size, exponent));
    out.slope = (exponent * flow) / size;
  }
  out.net = difference >= 0 ? flow : -flow;
  out.forward = difference >= 0 ? flow : 0;
  out.backward = difference >= 0 ? 0 : flow;
}

/** ∫ √s from a to b, of what lies above nothing. */
const rootIntegral = (a: number, b: number): number => {
  const [x, y] = [Math.max(0, a), Math.max(0, b)];
  return (2 / 3) * (y * Math.sqrt(y) - x * Math.sqrt(x));
};

/**
 * Flow through a tall opening by the difference at its middle and the difference of densities: dm = C_d·w·√(2ρ·Δp(z))·dz, each way with the density of the
 * air that comes (Brown and Solvason 1962 without a pressure of its own); into `out`.
 * @param difference at mid height, Pa @param up density of the first node @param down of the second, kg/m³
 */
function tallFlow(
  low: number,
  high: number,
  width: number,
  discharge: number,
  difference: number,
  up: number,
  down: number,
  share: number,
  out: LinkFlow,
): void {
  const height = high - low;
  // the difference falls by this from the lower to the upper edge where the first node's air is the heavier
  const rise = (down - up) * GRAVITY * height;
  const about = Math.abs(rise) < LEAST_RISE ? (rise < 0 ? -LEAST_RISE : LEAST_RISE) : rise;
  const [bottom, top] = [difference - about / 2, difference + about / 2];
  const c = (share * discharge * width * height) / about;
  const [rootUp, rootDown] = [Math.sqrt(2 * up), Math.sqrt(2 * down)];
  // the integral runs over the difference; with a negative rise its ends are turned
  const forward = c * rootUp * rootIntegral(bottom, top);
  const backward = c * rootDown * rootIntegral(-top, -bottom);
  out.net = forward - backward;
  const root = (v: number): number => (v > 0 ? Math.sqrt(v) : 0);
  out.slope = c * (rootUp * (root(top) - root(bottom)) - rootDown * (root(-top) - root(-bottom)));
  if (about === rise) {
    out.forward = forward;
    out.backward = backward;
    return;
  }
  // of nearly equal densities nothing passes against the net flow beyond what they themselves drive
  const scale = Math.abs(rise) / LEAST_RISE;
  const against = Math.min(forward, backward) * scale * Math.sqrt(scale);
  out.forward = Math.max(out.net, 0) + against;
  out.backward = out.forward - out.net;
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
  const [a, b] = [nodes[link.from].height, nodes[link.to].height];
  /** Difference at a height: each node's pressure falls upward by the weight of its air. */
  const at = (z: number): number => fromPressure - fromDensity * GRAVITY * (z - a) - (toPressure - toDensity * GRAVITY * (z - b));
  switch (link.kind) {
    case "crack":
      return powerFlow(link.coefficient, link.exponent, LAMINAR_CRACK, at(link.height), fromDensity, toDensity, share, out);
    case "orifice": {
      const d = at(link.height);
      const density = d >= 0 ? fromDensity : toDensity;
      return powerFlow(link.discharge * link.area * Math.sqrt(2 / density), 0.5, LAMINAR_OPENING, d, fromDensity, toDensity, share, out);
    }
    case "opening":
      return tallFlow(link.low, link.high, link.width, link.discharge, at((link.low + link.high) / 2), fromDensity, toDensity, share, out);
    case "duct": {
      const rising = fromPressure - fromDensity * GRAVITY * (link.bottom - a) - (toPressure - toDensity * GRAVITY * (link.top - b));
      const d = rising - 0.5 * (fromDensity + toDensity) * GRAVITY * (link.top - link.bottom);
      return powerFlow(1 / Math.sqrt(link.resistance), 0.5, LAMINAR_OPENING, d, fromDensity, toDensity, share, out);
    }
    case "fan": {
      // against more than its shut-off pressure air is pushed back through it along the same line
      const rise = -at(link.height);
      const shutOff = link.shutOff * share * share;
      const slope = link.free / link.shutOff;
      const flow = slope * (shutOff - rise) * (share > 0 ? 1 / share : 0);
      const density = flow >= 0 ? fromDensity : toDensity;
      out.net = density * flow;
      out.slope = share > 0 ? (density * slope) / share : 0;
      out.forward = Math.max(0, out.net);
      out.backward = Math.max(0, -out.net);
    }
  }
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
  readonly converged: boolean;
  readonly rounds: number;
  /** Largest residual of a node, kg/s, and the node; −1: none. */
  readonly residual: number;
  readonly node: number;
}

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
  private readonly unknown: Int32Array;
  private readonly place: Int32Array;
  private readonly jacobian: Float64Array;
  private readonly right: Float64Array;
  private readonly kept: Float64Array;
  private readonly through: Float64Array;
  private readonly delta: Float64Array;
  private readonly flow: LinkFlow = { net: 0, slope: 0, forward: 0, backward: 0 };

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
    this.forward = f(links.length);
    this.backward = f(links.length);
    this.unknown = Int32Array.from(nodes.flatMap((n, i) => (n.outdoors ? [] : [i])));
    this.place = new Int32Array(nodes.length).fill(-1);
    this.unknown.forEach((node, k) => (this.place[node] = k));
    const n = this.unknown.length;
    this.jacobian = f(n * n);
    this.right = f(n);
    this.kept = f(n);
    this.through = f(n);
    this.delta = f(n);
  }

  /** Residuals of all unknown nodes into `right`, what passes each into `through`; with slopes into the Jacobian where asked. Answers the sum of their squares. */
  private residuals(slopes: boolean): number {
    const { links, nodes, pressure, density, open, place, jacobian, right, through, flow } = this;
    const n = right.length;
    if (slopes) jacobian.fill(0);
    for (let k = 0; k < n; k++) {
      right[k] = this.source[this.unknown[k]];
      through[k] = Math.abs(right[k]);
    }
    for (let i = 0; i < links.length; i++) {
      const l = links[i];
      linkFlow(l, nodes, pressure[l.from], pressure[l.to], density[l.from], density[l.to], open[i], flow);
      this.forward[i] = flow.forward;
      this.backward[i] = flow.backward;
      const [a, b] = [place[l.from], place[l.to]];
      const gross = flow.forward + flow.backward;
      if (a >= 0) {
        right[a] -= flow.net;
        through[a] += gross;
      }
      if (b >= 0) {
        right[b] += flow.net;
        through[b] += gross;
      }
      if (!slopes) continue;
      if (a >= 0) jacobian[a * n + a] += flow.slope;
      if (b >= 0) jacobian[b * n + b] += flow.slope;
      if (a >= 0 && b >= 0) {
        jacobian[a * n + b] -= flow.slope;
        jacobian[b * n + a] -= flow.slope;
      }
    }
    let sum = 0;
    for (let k = 0; k < n; k++) sum += right[k] * right[k];
    return sum;
  }

  /** Largest residual beyond what is allowed, as a share of it; at most 1: the balance is met. */
  private excess(): number {
    let worst = 0;
    for (let k = 0; k < this.right.length; k++) {
      const allowed = Math.max(NODE_RESIDUAL, NODE_SHARE * this.through[k]);
      worst = Math.max(worst, Math.abs(this.right[k]) / allowed);
    }
    return worst;
  }

  /** Finds the pressures at which every node's air balances. */
  solve(): NetworkSolved {
    const { unknown, pressure, right, kept } = this;
    const n = unknown.length;
    let squares = this.residuals(true);
    let rounds = 0;
    while (this.excess() > 1 && rounds < MOST_ROUNDS) {
      rounds++;
      if (!this.step()) break;
      for (let k = 0; k < n; k++) kept[k] = pressure[unknown[k]];
      let length = 1;
      let next = Infinity;
      for (let h = 0; h <= HALVINGS; h++, length /= 2) {
        for (let k = 0; k < n; k++) pressure[unknown[k]] = kept[k] + length * this.delta[k];
        next = this.residuals(false);
        if (next < (1 - 0.1 * length) * squares) break;
      }
      squares = this.residuals(true);
    }
    let [residual, node] = [0, -1];
    for (let k = 0; k < n; k++)
      if (Math.abs(right[k]) > residual) {
        residual = Math.abs(right[k]);
        node = unknown[k];
      }
    return { converged: this.excess() <= 1, rounds, residual, node };
  }

  /** Solves Jacobian·Δ = residuals in place by Cholesky (the Jacobian is symmetric and positive); Δ goes into `delta`. False: a node hangs on nothing. */
  private step(): boolean {
    const { jacobian: a, right, delta: x } = this;
    const n = right.length;
    for (let j = 0; j < n; j++) {
      let d = a[j * n + j];
      for (let k = 0; k < j; k++) d -= a[j * n + k] * a[j * n + k];
      if (!(d > 0)) return false;
      const root = Math.sqrt(d);
      a[j * n + j] = root;
      for (let i = j + 1; i < n; i++) {
        let v = a[i * n + j];
        for (let k = 0; k < j; k++) v -= a[i * n + k] * a[j * n + k];
        a[i * n + j] = v / root;
      }
    }
    for (let i = 0; i < n; i++) {
      let v = right[i];
      for (let k = 0; k < i; k++) v -= a[i * n + k] * x[k];
      x[i] = v / a[i * n + i];
    }
    for (let i = n - 1; i >= 0; i--) {
      let v = x[i];
      for (let k = i + 1; k < n; k++) v -= a[k * n + i] * x[k];
      x[i] = v / a[i * n + i];
    }
    return true;
  }
}
