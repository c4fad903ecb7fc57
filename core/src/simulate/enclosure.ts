import { atan, invert, log, PI } from "../numeric/index.ts";

/** One inside surface of a zone for the exchange of radiation. */
export interface InsideSurface {
  /** m². */
  readonly area: number;
  readonly emissivity: number;
  /** Short-wave absorptance of an opaque surface; what a window absorbs of diffuse light. */
  readonly absorptance: number;
  /** Share of diffuse short-wave that leaves through it (windows), 1. */
  readonly transmittance: number;
  readonly floor: boolean;
  /** Surfaces of one plane carry the same mark. */
  readonly plane: string;
  /** Unit normal, either way. */
  readonly normal: readonly [number, number, number];
}

export interface RadiantNetwork {
  /** View-factor correction with emissivity F′, 1: q = F′ σ (T_i⁴ − T_r⁴). */
  readonly exchange: Float64Array;
  readonly converged: boolean;
}

interface Plane {
  readonly name: string;
  readonly area: number;
  readonly normal: readonly [number, number, number];
}

function planesOf(surfaces: readonly InsideSurface[]): Plane[] {
  const planes = new Map<string, { area: number; normal: readonly [number, number, number] }>();
  for (const s of surfaces) {
    const p = planes.get(s.plane);
    if (p) p.area += s.area;
    else planes.set(s.plane, { area: s.area, normal: s.normal });
  }
  return [...planes].map(([name, p]) => ({ name, ...p }));
}

/**
 * Exchange factors between surfaces and a mean radiant node (Carroll 1980): F = 1 / (1 − A·F / Σ A·F),
 * coplanar surfaces counted as one, then the emissivity in series.
 */
export function radiantNetwork(surfaces: readonly InsideSurface[]): RadiantNetwork {
  const planes = planesOf(surfaces);
  const names = planes.map((p) => p.name);
  const areas = planes.map((p) => p.area);
  const f = new Float64Array(names.length).fill(1);
  let converged = names.length >= 3;
  if (converged) {
    converged = false;
    for (let iteration = 0; iteration < 400; iteration++) {
      let total = 0;
      for (let i = 0; i < f.length; i++) total += areas[i] * f[i];
      let change = 0;
      for (let i = 0; i < f.length; i++) {
        const next = 1 / (1 - (areas[i] * f[i]) / total);
        const damped = 0.5 * (f[i] + next);
        change = Math.max(change, Math.abs(damped - f[i]));
        f[i] = damped;
      }
      if (!f.every((v) => v >= 1 && v < 20)) break;
      if (change < 1e-12) {
        converged = true;
        break;
      }
    }
  }
  if (!converged) f.fill(1);
  const exchange = Float64Array.from(surfaces, (s) => 1 / (1 / f[names.indexOf(s.plane)] + (1 - s.emissivity) / s.emissivity));
  return { exchange, converged };
}

/** View factor between two equal parallel rectangles a × b at a distance c (Howell, Mengüç, Daun and Siegel 2020, C-11). */
export function parallelRectangles(a: number, b: number, c: number): number {
  const x = a / c;
  const y = b / c;
  const x1 = 1 + x * x;
  const y1 = 1 + y * y;
  const root = 0.5 * log((x1 * y1) / (x1 + y * y));
  return (2 / (PI * x * y)) * (root + x * Math.sqrt(y1) * atan(x / Math.sqrt(y1)) + y * Math.sqrt(x1) * atan(y / Math.sqrt(x1)) - x * atan(x) - y * atan(y));
}

/**
 * Factors F_ij between the surfaces of a zone, row by row: exactly between the sides of a box (the rest of
 * unity to the walls at right angles, by its symmetry), shared by area within a plane; of other shapes by
 * areas, scaled to satisfy reciprocity and closure, planes not seeing themselves.
 */
export function viewFactors(surfaces: readonly InsideSurface[]): { factors: Float64Array; exact: boolean; converged: boolean } {
  const planes = planesOf(surfaces);
  const p = planes.length;
  const n = surfaces.length;
  const exchange = boxExchange(planes);
  const byPlane = exchange ?? estimatedExchange(planes);
  const factors = new Float64Array(n * n);
  const at = surfaces.map((s) => planes.findIndex((q) => q.name === s.plane));
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      if (at[i] === at[j]) continue;
      factors[i * n + j] = (byPlane.exchange[at[i] * p + at[j]] / planes[at[i]].area) * (surfaces[j].area / planes[at[j]].area);
    }
  return { factors, exact: exchange !== null, converged: byPlane.converged };
}

/** A_i·F_ij between the six planes of a box, m²; null when the planes are not those of one. */
function boxExchange(planes: readonly Plane[]): { exchange: Float64Array; converged: boolean } | null {
  if (planes.length !== 6) return null;
  const dot = (i: number, j: number): number => planes[i].normal.reduce((s, v, k) => s + v * planes[j].normal[k], 0);
  const partner = planes.map((_, i) => planes.findIndex((_, j) => j !== i && Math.abs(Math.abs(dot(i, j)) - 1) < 1e-9));
  const pairs: [number, number][] = [];
  for (let i = 0; i < 6; i++) {
    const j = partner[i];
    if (j < 0 || Math.abs(planes[i].area - planes[j].area) > 1e-6 * planes[i].area) return null;
    if (i < j) pairs.push([i, j]);
  }
  if (pairs.length !== 3) return null;
  for (const [a, b] of [
    [0, 1],
    [0, 2],
    [1, 2],
  ])
    if (Math.abs(dot(pairs[a][0], pairs[b][0])) > 1e-9) return null;
  const area = pairs.map(([i]) => planes[i].area);
  // sides of the box from the areas of its pairs: pair k stands across side k
  const side = area.map((_, k) => Math.sqrt((area[(k + 1) % 3] * area[(k + 2) % 3]) / area[k]));
  const exchange = new Float64Array(36);
  const facing = area.map((a, k) => a * parallelRectangles(side[(k + 1) % 3], side[(k + 2) % 3], side[k]));
  const rest = area.map((a, k) => a - facing[k]);
  // each side sees the four at right angles; symmetry gives the three exchanges between pairs: x01 + x02 = rest0 and so on, each twice
  const half = rest.map((r) => r / 2);
  const between = (k: number): number => (half[(k + 1) % 3] + half[(k + 2) % 3] - half[k]) / 2;
  for (let a = 0; a < 3; a++)
    for (const i of pairs[a])
      for (let b = 0; b < 3; b++)
        for (const j of pairs[b]) {
          if (i === j) continue;
          exchange[i * 6 + j] = a === b ? facing[a] : between(3 - a - b);
        }
  return { exchange, converged: true };
}

/** A_i·F_ij by areas, scaled symmetrically until every row closes, m². */
function estimatedExchange(planes: readonly Plane[]): { exchange: Float64Array; converged: boolean } {
  const n = planes.length;
  const d = new Float64Array(n).fill(1);
  const total = planes.reduce((s, q) => s + q.area, 0);
  let converged = false;
  for (let iteration = 0; iteration < 2000 && !converged; iteration++) {
    converged = true;
    for (let i = 0; i < n; i++) {
      let row = 0;
      for (let j = 0; j < n; j++) if (j !== i) row += (planes[j].area / total) * d[j];
      const next = row > 0 ? 1 / row : 1;
      // half steps: whole ones swing
      const damped = Math.sqrt(d[i] * next);
      if (Math.abs(damped - d[i]) > 1e-13 * d[i]) converged = false;
      d[i] = damped;
    }
  }
  const exchange = new Float64Array(n * n);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) if (i !== j) exchange[i * n + j] = (planes[i].area * planes[j].area * d[i] * d[j]) / total;
  return { exchange, converged };
}

/**
 * Full grey exchange: X_ij, m², with q_i = Σ_j X_ij·σ·(T_j⁴ − T_i⁴), all reflections included (Gebhart 1961). Symmetric.
 */
export function greyExchange(surfaces: readonly InsideSurface[], factors: Float64Array): Float64Array {
  const n = surfaces.length;
  const system = new Float64Array(n * n);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) system[i * n + j] = (i === j ? 1 : 0) - factors[i * n + j] * (1 - surfaces[j].emissivity);
  const inverse = invert(system, n);
  const x = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      let absorbed = 0;
      for (let k = 0; k < n; k++) absorbed += inverse[i * n + k] * factors[k * n + j];
      x[i * n + j] = surfaces[i].area * surfaces[i].emissivity * absorbed * surfaces[j].emissivity;
    }
  for (let i = 0; i < n; i++)
    for (let j = 0; j < i; j++) {
      const mean = 0.5 * (x[i * n + j] + x[j * n + i]);
      x[i * n + j] = mean;
      x[j * n + i] = mean;
    }
  return x;
}

/** Shares of beam and of diffuse short-wave entering a zone that each surface absorbs; `lost` goes out through glass again. */
export interface ShortWaveShares {
  readonly beam: Float64Array;
  readonly diffuse: Float64Array;
  readonly lostBeam: number;
  readonly lostDiffuse: number;
}

/**
 * Beam falls on the floor, or on all surfaces by area; what it reflects and all diffuse light spread by
 * area and absorptance, part of it out through glass. Traced beam is shared out step by step; here it counts as by area.
 */
export function shortWaveShares(surfaces: readonly InsideSurface[], beamTo: "floor" | "area" | "traced" = "floor"): ShortWaveShares {
  let sink = 0;
  let floor = 0;
  for (const s of surfaces) {
    sink += s.area * (s.absorptance + s.transmittance);
    if (s.floor) floor += s.area;
  }
  const diffuse = Float64Array.from(surfaces, (s) => (s.area * s.absorptance) / sink);
  const lostDiffuse = surfaces.reduce((sum, s) => sum + (s.area * s.transmittance) / sink, 0);
  if (beamTo !== "floor") return { beam: Float64Array.from(diffuse), diffuse, lostBeam: lostDiffuse, lostDiffuse };
  const beam = new Float64Array(surfaces.length);
  let left = 1;
  if (floor > 0)
    surfaces.forEach((s, i) => {
      if (!s.floor) return;
      beam[i] = (s.area / floor) * s.absorptance;
      left -= beam[i];
    });
  for (let i = 0; i < beam.length; i++) beam[i] += left * diffuse[i];
  return { beam, diffuse, lostBeam: left * lostDiffuse, lostDiffuse };
}
