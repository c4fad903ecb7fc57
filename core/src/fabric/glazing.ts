import { quantity } from "../model/index.ts";
import { acos, cos, log, PI, sin } from "../numeric/index.ts";
import type { Glazing } from "../model/index.ts";
import { gapConductance, paneAt, stackOptics, type GapPhysics, type StackOptics } from "./panes.ts";

export type RatedGlazing = Extract<Glazing, { kind: "rated" }>;
export type PanesGlazing = Extract<Glazing, { kind: "panes" }>;

/** Angular curves of transmittance by kind of glazing: T(θ)/T(0) = Σ cₙ cosⁿθ, c₄ … c₀ (Arasteh, Kohler and Griffith 2009, table 2). */
const CURVES: Record<string, readonly [number, number, number, number, number]> = {
  A: [1.4703e-2, 1.486, -3.852, 3.355, -1.474e-3],
  B: [5.546e-1, 3.563e-2, -2.416, 2.831, -2.037e-3],
  C: [7.709e-1, -6.383e-1, -1.576, 2.448, -2.042e-3],
  D: [3.462e-1, 3.963e-1, -2.582, 2.845, -2.804e-4],
  E: [2.883, -5.873, 2.489, 1.51, -2.577e-3],
  F: [3.025, -6.366, 3.137, 1.213, -1.367e-3],
  G: [3.229, -6.844, 3.535, 1.088, -2.891e-3],
  H: [3.334, -7.131, 3.829, 9.766e-1, -2.952e-3],
  I: [3.146, -6.855, 3.931, 7.86e-1, -2.934e-3],
  J: [3.744, -8.836, 6.018, 8.407e-2, 4.825e-4],
};

/** Least solar reflectance of a glazing, 1: typical, unverified. */
const LEAST_REFLECTANCE = 0.02;
/** Intervals of the angular tables, uniform in the cosine of the angle of incidence. */
export const ANGLE_STEPS = 90;
/** Conductance between an outside blind and the glass, and between glass and an inside blind, W/m²K (ISO 52022-1: G1; inside film of a rating). */
const OUTSIDE_BLIND = 5;
const INSIDE_BLIND = 7.7;
/** Share of the heat absorbed in an inside blind that the air behind it carries straight to the room, so that with G3 = 30 W/m²K of ISO 52022-1 the same part is lost: typical, unverified. */
const BLIND_TO_AIR = 0.7;

/** Curves averaged for a glazing, by U and g. Edges of the bins: typical, unverified. */
function curvesOf(u: number, g: number): readonly string[] {
  if (u > 3.9) return g > 0.65 ? ["A"] : g > 0.275 ? ["B", "D", "C", "D"] : ["D"];
  if (u > 1.55) return g > 0.525 ? ["E"] : g > 0.275 ? ["F", "G", "H", "I"] : ["F", "H"];
  return g > 0.45 ? ["E"] : ["J"];
}

/** A glazing with its blind up or down, as a chain of thermal nodes from outside to inside that absorb sun. */
export interface GlassState {
  readonly nodes: number;
  /** Between neighbouring nodes, W/m²K; where `gaps` has an entry, a starting value. */
  readonly conductance: readonly number[];
  readonly gaps: readonly (GapPhysics | null)[];
  /** Beam: by cosine of incidence, ANGLE_STEPS + 1 values from 0 to 1. Of the glass area. */
  readonly transmittance: Float64Array;
  readonly absorptance: readonly Float64Array[];
  readonly visible: Float64Array;
  /** The same for diffuse light (hemispherical), 1. */
  readonly diffuseTransmittance: number;
  readonly diffuseAbsorptance: readonly number[];
  readonly diffuseVisible: number;
  /** Share of the heat absorbed in each node that goes straight to the room's air. */
  readonly toAir: readonly number[];
  /** Beam that comes through scattered. */
  readonly scatters: boolean;
}

/** What the year needs of a glazing. */
export interface GlazingPhysics {
  /** Without the blind, and with it; equal where there is none. */
  readonly up: GlassState;
  readonly down: GlassState | null;
  /** Seen from inside: diffuse light let out, and absorbed, 1. */
  readonly insideTransmittance: number;
  readonly insideAbsorptance: number;
  /** Long-wave emissivity outside and inside, 1. */
  readonly emissivity: readonly [number, number];
}

const GLASS_EMISSIVITY = 0.84;

/** Share of the normal-incidence value at an incidence angle, 1. @param c cosine of the angle */
export function angularFactor(a: readonly number[], c: number): number {
  if (c <= 0) return 0;
  return Math.max(0, Math.min(1, (((a[0] * c + a[1]) * c + a[2]) * c + a[3]) * c + a[4]));
}

/** Solar transmittance at normal incidence from U and g (Arasteh, Kohler and Griffith 2009, step 4). */
export function transmittanceFromGain(u: number, g: number): number {
  const single = g < 0.7206 ? 0.939998 * g * g + 0.20332 * g : 1.30415 * g - 0.30515;
  const double = g <= 0.15 ? 0.4104 * g : 0.085775 * g * g + 0.963954 * g - 0.084958;
  if (u > 4.5) return single;
  if (u < 3.4) return double;
  return double + ((u - 3.4) / 1.1) * (single - double);
}

const table = (of: (c: number) => number): Float64Array => Float64Array.from({ length: ANGLE_STEPS + 1 }, (_, i) => of(i / ANGLE_STEPS));

/** Linear reading of an angular table. @param c cosine of incidence, 0…1 */
export function readAngle(values: Float64Array, c: number): number {
  const x = c * ANGLE_STEPS;
  const i = Math.min(ANGLE_STEPS - 1, Math.floor(x));
  return values[i] + (x - i) * (values[i + 1] - values[i]);
}

/** Hemispherical mean of an angular table, weighted by cosine. */
function hemispherical(values: Float64Array): number {
  const steps = 180;
  let sum = 0;
  for (let i = 0; i < steps; i++) {
    const theta = ((i + 0.5) * PI) / 2 / steps;
    const c = cos(theta);
    sum += readAngle(values, c) * 2 * sin(theta) * c * (PI / 2 / steps);
  }
  return sum;
}

/** Figures of a glazing rated by U and g: films taken out, g split into transmitted and absorbed. */
export interface RatedParts {
  /** Surface to surface, m²K/W. */
  readonly resistance: number;
  readonly transmittance: number;
  readonly absorptance: number;
  /** Coefficients c₄ … c₀ of the angular factor. */
  readonly angular: readonly number[];
}

/**
 * Parts of a rated glazing: the films come out of the resistance, g is split into transmitted and
 * absorbed-inward, and absorption is spread through the resistance.
 * @throws RangeError when the rated films leave no resistance
 */
export function ratedParts(glazing: Pick<RatedGlazing, "u" | "g" | "ratedFilms">): RatedParts {
  const { u, g } = glazing;
  const ri = 1 / glazing.ratedFilms.inside;
  const ro = 1 / glazing.ratedFilms.outside;
  const resistance = 1 / u - ri - ro;
  if (resistance < 1e-4) throw new RangeError(`U ${quantity(u, "W/m²K")} leaves no resistance between its rated films`);
  const transmittance = Math.min(g, transmittanceFromGain(u, g));
  // summer films of the source, step 4: they turn g − T into absorption
  const dT = g - transmittance;
  const rInside =
    u > 4.5
      ? 1 / (29.436546 * dT * dT * dT - 21.943415 * dT * dT + 9.945872 * dT + 7.426151)
      : 1 / (199.8208128 * dT * dT * dT - 90.639733 * dT * dT + 19.737055 * dT + 6.766575);
  const rOutside = u > 4.5 ? 1 / (2.225824 * dT + 20.57708) : 1 / (5.763355 * dT + 20.541528);
  const inward = (rOutside + 0.5 * resistance) / (rOutside + resistance + rInside);
  // some light is always reflected: a U and g that would need more absorption than that are taken at this limit
  const absorptance = Math.min(dT / inward, Math.max(0, 1 - transmittance - LEAST_REFLECTANCE));
  const names = curvesOf(u, g);
  const angular = [0, 1, 2, 3, 4].map((i) => names.reduce((s, k) => s + CURVES[k][i], 0) / names.length);
  return { resistance, transmittance, absorptance, angular };
}

/** Known glazings by object: an edit elsewhere does not redo their tables. */
const known = new WeakMap<Glazing, GlazingPhysics>();

/** Physics of a glazing of either depth. @throws RangeError when a rated U leaves no resistance between its films */
export function glazingPhysics(glazing: Glazing): GlazingPhysics {
  let physics = known.get(glazing);
  if (!physics) {
    physics = glazing.kind === "rated" ? ratedPhysics(glazing) : panesPhysics(glazing);
    known.set(glazing, physics);
  }
  return physics;
}

function ratedPhysics(glazing: RatedGlazing): GlazingPhysics {
  const p = ratedParts(glazing);
  const shape = table((c) => angularFactor(p.angular, c));
  const mean = hemispherical(shape);
  const scaled = (v: number): Float64Array => shape.map((x) => x * v);
  const half = scaled(0.5 * p.absorptance);
  const up: GlassState = {
    nodes: 2,
    conductance: [1 / p.resistance],
    gaps: [null],
    transmittance: scaled(p.transmittance),
    absorptance: [half, half],
    visible: scaled(glazing.visibleTransmittance),
    diffuseTransmittance: mean * p.transmittance,
    diffuseAbsorptance: [0.5 * mean * p.absorptance, 0.5 * mean * p.absorptance],
    diffuseVisible: mean * glazing.visibleTransmittance,
    toAir: [0, 0],
    scatters: false,
  };
  const reflectance = Math.max(0, 1 - mean * (p.transmittance + p.absorptance));
  return finish(glazing, up, reflectance, reflectance, [GLASS_EMISSIVITY, GLASS_EMISSIVITY]);
}

function panesPhysics(glazing: PanesGlazing): GlazingPhysics {
  const at = (c: number, visible: boolean): StackOptics => {
    const angle = acos(Math.min(1, Math.max(0.001, c)));
    const one = (p: boolean): StackOptics =>
      stackOptics(
        glazing.panes.map((q) =>
          visible
            ? paneAt(q.visibleTransmittance, q.visibleReflectance, q.visibleReflectance, angle, p)
            : paneAt(q.solarTransmittance, q.solarReflectanceOut, q.solarReflectanceIn, angle, p),
        ),
      );
    const s = one(false);
    const p = one(true);
    return { t: 0.5 * (s.t + p.t), rf: 0.5 * (s.rf + p.rf), rb: 0.5 * (s.rb + p.rb), absorbed: s.absorbed.map((a, i) => 0.5 * (a + p.absorbed[i])) };
  };
  const solar = Array.from({ length: ANGLE_STEPS + 1 }, (_, i) => at(i / ANGLE_STEPS, false));
  const visible = table((c) => at(c, true).t);
  const single = glazing.panes.length === 1;
  // one pane alone has a face on each side; of several, each is one node and its resistance lies in the gaps beside it
  const half = (i: number): number => (0.5 * glazing.panes[i].thickness) / glazing.panes[i].conductivity;
  const share = single ? [0.5, 0.5] : glazing.panes.map(() => 1);
  const absorptance = share.map((s, i) => Float64Array.from(solar, (o) => s * o.absorbed[single ? 0 : i]));
  const gaps = single
    ? [null]
    : glazing.gaps.map((g, i): GapPhysics => ({
        gas: g.fill,
        width: g.width,
        emissivity: [glazing.panes[i].emissivityIn, glazing.panes[i + 1].emissivityOut],
      }));
  const conductance = gaps.map((g, i) => (g ? 1 / (1 / gapConductance(g, 5, 15, 90, 1) + half(i) + half(i + 1)) : 1 / (2 * half(0))));
  const transmittance = Float64Array.from(solar, (o) => o.t);
  const up: GlassState = {
    nodes: share.length,
    conductance,
    gaps,
    transmittance,
    absorptance,
    visible,
    diffuseTransmittance: hemispherical(transmittance),
    diffuseAbsorptance: absorptance.map(hemispherical),
    diffuseVisible: hemispherical(visible),
    toAir: share.map(() => 0),
    scatters: false,
  };
  const rf = hemispherical(Float64Array.from(solar, (o) => o.rf));
  const rb = hemispherical(Float64Array.from(solar, (o) => o.rb));
  const last = glazing.panes[glazing.panes.length - 1];
  return finish(glazing, up, rf, rb, [glazing.panes[0].emissivityOut, last.emissivityIn]);
}

function finish(glazing: Glazing, up: GlassState, front: number, back: number, emissivity: readonly [number, number]): GlazingPhysics {
  const insideTransmittance = up.diffuseTransmittance;
  return {
    up,
    down: glazing.blind ? withBlind(up, glazing.blind, front, back) : null,
    insideTransmittance,
    insideAbsorptance: Math.max(0, 1 - back - insideTransmittance),
    emissivity,
  };
}

/** A glazing with its blind down: one more node, reflections between blind and glass summed as a geometric series (ISO 15099:2003, 7.2 for two layers); what a blind lets through is scattered. */
function withBlind(up: GlassState, blind: NonNullable<Glazing["blind"]>, front: number, back: number): GlassState {
  const { solarTransmittance: t, solarReflectance: r, visibleTransmittance: v } = blind;
  const own = Math.max(0, 1 - t - r);
  if (blind.position === "outside") {
    // the scattering blind sends diffuse light to the glass at every angle of the sun
    const between = 1 / (1 - front * r);
    const at = (x: number): Float64Array => table((c) => (c > 0 ? x : 0));
    const glass = up.diffuseAbsorptance.map((a) => a * t * between);
    const absorbed = own * (1 + t * front * between);
    return {
      nodes: up.nodes + 1,
      conductance: [OUTSIDE_BLIND, ...up.conductance],
      gaps: [null, ...up.gaps],
      transmittance: at(up.diffuseTransmittance * t * between),
      absorptance: [at(absorbed), ...glass.map(at)],
      visible: at(up.diffuseVisible * v),
      diffuseTransmittance: up.diffuseTransmittance * t * between,
      diffuseAbsorptance: [absorbed, ...glass],
      diffuseVisible: up.diffuseVisible * v,
      toAir: [0, ...up.toAir],
      scatters: true,
    };
  }
  const between = 1 / (1 - back * r);
  const backAbsorptance = Math.max(0, 1 - back - up.diffuseTransmittance);
  const glass = (absorbed: number, through: number, i: number): number => absorbed + (i === up.nodes - 1 ? through * r * between * backAbsorptance : 0);
  return {
    nodes: up.nodes + 1,
    conductance: [...up.conductance, INSIDE_BLIND],
    gaps: [...up.gaps, null],
    transmittance: up.transmittance.map((x) => x * t * between),
    absorptance: [...up.absorptance.map((a, i) => a.map((x, k) => glass(x, up.transmittance[k], i))), up.transmittance.map((x) => x * own * between)],
    visible: up.visible.map((x) => x * v),
    diffuseTransmittance: up.diffuseTransmittance * t * between,
    diffuseAbsorptance: [...up.diffuseAbsorptance.map((a, i) => glass(a, up.diffuseTransmittance, i)), up.diffuseTransmittance * own * between],
    diffuseVisible: up.diffuseVisible * v,
    toAir: [...up.toAir, BLIND_TO_AIR],
    scatters: true,
  };
}

/** U, g and visible transmittance of a glazing as a data sheet would tell them. */
export interface GlazingRating {
  /** Glass and frame, W/m²K. */
  readonly u: number;
  /** Glass alone, W/m²K. */
  readonly glassU: number;
  /** Of the glass at normal incidence, 1. */
  readonly g: number;
  readonly visibleTransmittance: number;
}

/** Length of glass edge per window area of a window of 1.23 m × 1.48 m, the size by which windows are rated, 1/m. */
const RATED_EDGE = (2 * (1.23 + 1.48)) / (1.23 * 1.48);

/**
 * Rating of a glazing. Of panes: the chain with 20 °C inside, 0 °C outside and the rated films for U, the same with
 * light at normal incidence for g; frame by area, edge by the length of a window of 1.23 m × 1.48 m.
 */
export function glazingRating(glazing: Glazing): GlazingRating {
  if (glazing.kind === "rated") return { u: glazing.u, glassU: glazing.u, g: glazing.g, visibleTransmittance: glazing.visibleTransmittance };
  const state = glazingPhysics(glazing).up;
  const { outside, inside } = glazing.ratedFilms;
  const half = (i: number): number => (0.5 * glazing.panes[i].thickness) / glazing.panes[i].conductivity;
  let h = [...state.conductance];
  let u = 0;
  for (let round = 0; round < 30; round++) {
    const r = 1 / outside + 1 / inside + h.reduce((s, x) => s + 1 / x, 0);
    u = 1 / r;
    let t = 20 * u * (1 / outside);
    h = h.map((x, i) => {
      const a = t;
      t += (20 * u) / x;
      const gap = state.gaps[i];
      return gap ? 1 / (1 / gapConductance(gap, a, t, 90, 1) + half(i) + half(i + 1)) : x;
    });
  }
  let below = 1 / outside;
  let g = state.transmittance[ANGLE_STEPS];
  for (let i = 0; i < state.nodes; i++) {
    g += state.absorptance[i][ANGLE_STEPS] * below * u;
    below += 1 / h[i];
  }
  const f = glazing.frameShare;
  return {
    u: (1 - f) * u + f * glazing.frame.u + glazing.edge * RATED_EDGE,
    glassU: u,
    g,
    visibleTransmittance: state.visible[ANGLE_STEPS],
  };
}

/** Rated winter films, W/m²K, that belong to a U when nothing is known of its rating (Arasteh, Kohler and Griffith 2009, step 1). */
export function typicalRatedFilms(u: number): { inside: number; outside: number } {
  const ri = u < 5.85 ? 1 / (0.359073 * log(u) + 6.949915) : 1 / (1.788041 * u - 2.886625);
  return { inside: 1 / ri, outside: 0.025342 * u + 29.163853 };
}
