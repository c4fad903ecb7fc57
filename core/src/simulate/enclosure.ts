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
}

export interface RadiantNetwork {
  /** View-factor correction with emissivity F′, 1: q = F′ σ (T_i⁴ − T_r⁴). */
  readonly exchange: Float64Array;
  readonly converged: boolean;
}

/**
 * Exchange factors between surfaces and a mean radiant node (Carroll 1980): F = 1 / (1 − A·F / Σ A·F),
 * coplanar surfaces counted as one, then the emissivity in series.
 */
export function radiantNetwork(surfaces: readonly InsideSurface[]): RadiantNetwork {
  const planes = new Map<string, number>();
  for (const s of surfaces) planes.set(s.plane, (planes.get(s.plane) ?? 0) + s.area);
  const names = [...planes.keys()];
  const areas = names.map((n) => planes.get(n) as number);
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

/** Shares of beam and of diffuse short-wave entering a zone that each surface absorbs; `lost` goes out through glass again. */
export interface ShortWaveShares {
  readonly beam: Float64Array;
  readonly diffuse: Float64Array;
  readonly lostBeam: number;
  readonly lostDiffuse: number;
}

/** Beam falls on the floor; what it reflects and all diffuse light spread by area and absorptance, part of it out through glass. */
export function shortWaveShares(surfaces: readonly InsideSurface[]): ShortWaveShares {
  let sink = 0;
  let floor = 0;
  for (const s of surfaces) {
    sink += s.area * (s.absorptance + s.transmittance);
    if (s.floor) floor += s.area;
  }
  const diffuse = Float64Array.from(surfaces, (s) => (s.area * s.absorptance) / sink);
  const lostDiffuse = surfaces.reduce((sum, s) => sum + (s.area * s.transmittance) / sink, 0);
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
