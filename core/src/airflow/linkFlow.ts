import { cos, DEG, pow } from "../numeric/index.ts";

export const GRAVITY = 9.81;
/** Below this difference a crack is laminar: flow in proportion to it, Pa. */
export const LAMINAR_CRACK = 0.1;
/** The same for openings that follow the root of the difference, Pa: it only keeps the slope finite. */
const LAMINAR_OPENING = 0.001;
/** Least rise of the difference over an opening's height, Pa, at which its balance is reckoned: below it air passes one way only. */
const LEAST_RISE = 0.002;

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
export class PowerLaw {
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
export const ROOTS = 32;
export const PER_ROOT = 32;
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
export class LinkRows {
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
