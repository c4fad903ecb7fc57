import { cos, exp, log, PI } from "../numeric/index.ts";

/** Insulation at the edge of a slab. */
export interface EdgeInsulation {
  readonly position: "horizontal" | "vertical";
  /** Width (horizontal) or depth (vertical), m. */
  readonly depth: number;
  /** m. */
  readonly thickness: number;
  /** W/m·K. */
  readonly conductivity: number;
}

/** Inputs of a floor on or over the ground. */
export interface SlabInputs {
  /** m². */
  readonly area: number;
  /** Exposed perimeter, m. */
  readonly perimeter: number;
  /** Thickness of the outside walls, m. */
  readonly wallThickness: number;
  /** Resistance of the floor's layers, m²K/W. */
  readonly floorResistance: number;
  /** Ground conductivity, W/m·K. */
  readonly conductivity: number;
  /** Ground heat capacity, J/m³K. */
  readonly heatCapacity: number;
  readonly edge?: EdgeInsulation | null;
}

/** A floor over a ventilated crawl space. */
export interface SuspendedInputs {
  /** Upper side above the ground outside, m. */
  readonly height: number;
  /** U of the crawl space's walls, W/m²K. */
  readonly wallU: number;
  /** Ventilation openings per perimeter, m²/m. */
  readonly vents: number;
  /** Wind shielding factor, 1. */
  readonly shelter: number;
  /** Insulation on the crawl space's ground, m²K/W. */
  readonly groundResistance: number;
  /** Mean wind speed at 10 m, m/s. */
  readonly wind: number;
}

/** A floor below the ground with walls against it. */
export interface BasementInputs {
  /** Of the floor below the ground outside, m. */
  readonly depth: number;
  /** Resistance of the walls' layers, m²K/W. */
  readonly wallResistance: number;
}

const RSI = 0.17;
const RSI_WALL = 0.13;
const RSE = 0.04;

/** Characteristic dimension B, m, and equivalent thickness d_t, m (ISO 13370:2017, 7.1 and 7.2). */
export function slabDimensions(s: SlabInputs): { b: number; dt: number } {
  return { b: s.area / (0.5 * s.perimeter), dt: s.wallThickness + s.conductivity * (RSI + s.floorResistance + RSE) };
}

/** Additional equivalent thickness d′ of edge insulation, m (ISO 13370:2017, annex D). */
export function edgeThickness(e: EdgeInsulation, conductivity: number): number {
  return (e.thickness / e.conductivity - e.thickness / conductivity) * conductivity;
}

/** Linear transmittance of edge insulation, W/m·K, never positive (ISO 13370:2017, annex D, D.2 and D.3). */
export function edgeTransmittance(s: SlabInputs, e: EdgeInsulation): number {
  const { dt } = slabDimensions(s);
  const extra = edgeThickness(e, s.conductivity);
  const d = e.position === "horizontal" ? e.depth : 2 * e.depth;
  return (-s.conductivity / PI) * (log(d / dt + 1) - log(d / (dt + extra) + 1));
}

/** Thermal transmittance of a slab on the ground, W/m²K, with its edge insulation if any (ISO 13370:2017, 7.2 and annex D). */
export function slabTransmittance(s: SlabInputs): number {
  const { b, dt } = slabDimensions(s);
  const u = dt >= b ? s.conductivity / (0.457 * b + dt) : ((2 * s.conductivity) / (PI * b + dt)) * log((PI * b) / dt + 1);
  return s.edge ? u + (2 * edgeTransmittance(s, s.edge)) / b : u;
}

/** Parts of a suspended floor: U of the floor, of the ground under it, of the air between, and of all, W/m²K (ISO 13370:2017, 7.4). */
export function suspendedTransmittance(s: SlabInputs, v: SuspendedInputs): { floor: number; ground: number; air: number; dg: number; u: number } {
  const { b } = slabDimensions(s);
  const dg = s.wallThickness + s.conductivity * (RSI + v.groundResistance + RSE);
  const ground = ((2 * s.conductivity) / (PI * b + dg)) * log((PI * b) / dg + 1);
  const air = (2 * v.height * v.wallU) / b + (1450 * v.vents * v.wind * v.shelter) / b;
  const floor = 1 / (2 * RSI + s.floorResistance);
  return { floor, ground, air, dg, u: 1 / (1 / floor + 1 / (ground + air)) };
}

/** U of the floor and of the walls of a basement, W/m²K, and the walls' equivalent thickness, m (ISO 13370:2017, 7.5). */
export function basementTransmittance(s: SlabInputs, v: BasementInputs): { floor: number; walls: number; dw: number } {
  const { b, dt } = slabDimensions(s);
  const z = v.depth;
  const l = s.conductivity;
  const d = dt + z / 2;
  const floor = d >= b ? l / (0.457 * b + d) : ((2 * l) / (PI * b + d)) * log((PI * b) / d + 1);
  const dw = l * (RSI_WALL + v.wallResistance + RSE);
  const t = Math.min(dt, dw);
  const walls = ((2 * l) / (PI * z)) * (1 + (0.5 * t) / (t + z)) * log(z / dw + 1);
  return { floor, walls, dw };
}

/** Ground behind a floor or wall as the year sees it: soil with mass, a virtual layer, and a virtual temperature by month. */
export interface VirtualGround {
  /** With inside film, W/m²K. */
  readonly u: number;
  /** Soil that stores heat, m; 0 over a crawl space. */
  readonly soilThickness: number;
  /** m²K/W; 0 with a warning where the sum would be negative. */
  readonly virtualResistance: number;
  readonly clamped: boolean;
  /** °C by month, behind the virtual layer. */
  readonly temperature: readonly number[];
}

const SOIL = 0.5;

/** Yearly swing of the outside air, K, its coldest month 0…11, and its mean, °C. */
function yearOf(outside: readonly number[]): { mean: number; amplitude: number; coldest: number } {
  const low = Math.min(...outside);
  return { mean: outside.reduce((a, t) => a + t, 0) / 12, amplitude: (Math.max(...outside) - low) / 2, coldest: outside.indexOf(low) };
}

/** Periodic penetration depth for a year, m (ISO 13370:2017, annex H). */
export const penetrationDepth = (s: Pick<SlabInputs, "conductivity" | "heatCapacity">): number => Math.sqrt((3.15e7 * s.conductivity) / (PI * s.heatCapacity));

/** Periodic transmittance to outside of a slab with its edge insulation, W/K (ISO 13370:2017, annex H). */
export function slabPeriodic(s: SlabInputs): number {
  const { dt } = slabDimensions(s);
  const depth = penetrationDepth(s);
  const plain = log(depth / dt + 1);
  const whole = 0.37 * s.perimeter * s.conductivity;
  if (!s.edge) return whole * plain;
  const insulated = log(depth / (dt + edgeThickness(s.edge, s.conductivity)) + 1);
  const reach = exp(-(s.edge.position === "horizontal" ? s.edge.depth : 2 * s.edge.depth) / depth);
  return whole * ((1 - reach) * insulated + reach * plain);
}

/** Virtual layer and temperature from a U, W/m²K, and a periodic transmittance per area, W/m²K (ISO 13370:2017, annex F and H). */
function virtual(
  u: number,
  periodic: number,
  layers: { readonly film: number; readonly resistance: number; readonly soil: number; readonly conductivity: number },
  delay: number,
  outside: readonly number[],
  inside: number,
): VirtualGround {
  const { mean, amplitude, coldest } = yearOf(outside);
  const raw = 1 / u - layers.film - layers.resistance - (layers.soil > 0 ? layers.soil / layers.conductivity : 0);
  const temperature = outside.map((_, m) => {
    const flow = u * (inside - mean) + periodic * amplitude * cos((2 * PI * (m - coldest - delay)) / 12);
    return inside - flow / u;
  });
  return { u, soilThickness: layers.soil, virtualResistance: Math.max(0, raw), clamped: raw < 0, temperature };
}

/**
 * Slab on the ground: virtual layer and temperature behind 0.5 m of soil (ISO 13370:2017, annex F, as
 * ISO 52016-1:2017 uses them). Monthly heat flow with the inside held at its mean; its swing is stored by the soil.
 * @param outside monthly mean air temperature, °C @param inside mean inside temperature, °C
 */
export function virtualGround(s: SlabInputs, outside: readonly number[], inside: number): VirtualGround {
  const { dt } = slabDimensions(s);
  const delay = 1.5 - 0.42 * log(penetrationDepth(s) / (dt + 1));
  return virtual(
    slabTransmittance(s),
    slabPeriodic(s) / s.area,
    { film: RSI, resistance: s.floorResistance, soil: SOIL, conductivity: s.conductivity },
    delay,
    outside,
    inside,
  );
}

/** Suspended floor: the crawl space and the ground under it as a virtual layer without mass (ISO 13370:2017, 7.4 and annex H.6). @see virtualGround */
export function virtualCrawlSpace(s: SlabInputs, v: SuspendedInputs, outside: readonly number[], inside: number): VirtualGround {
  const p = suspendedTransmittance(s, v);
  const depth = penetrationDepth(s);
  const periodic = (p.floor * ((0.37 * s.perimeter * s.conductivity * log(depth / p.dg + 1)) / s.area + p.air)) / (s.conductivity / depth + p.air + p.floor);
  return virtual(p.u, periodic, { film: RSI, resistance: s.floorResistance, soil: 0, conductivity: s.conductivity }, 0, outside, inside);
}

/** Floor and walls of a basement, each with its virtual layer (ISO 13370:2017, 7.5 and annex H). @see virtualGround */
export function virtualBasement(
  s: SlabInputs,
  v: BasementInputs,
  outside: readonly number[],
  inside: number,
): { readonly floor: VirtualGround; readonly walls: VirtualGround } {
  const p = basementTransmittance(s, v);
  const { dt } = slabDimensions(s);
  const depth = penetrationDepth(s);
  const reach = exp(-v.depth / depth);
  const whole = 0.37 * s.perimeter * s.conductivity;
  const delay = 1.5 - 0.42 * log(depth / (dt + 1));
  // the two terms of the periodic transmittance of annex H belong to the walls and to the floor
  const floor = (whole * reach * log(depth / dt + 1)) / s.area;
  const walls = (2 * whole * (1 - reach) * log(depth / p.dw + 1)) / (v.depth * s.perimeter);
  return {
    floor: virtual(p.floor, floor, { film: RSI, resistance: s.floorResistance, soil: SOIL, conductivity: s.conductivity }, delay, outside, inside),
    walls: virtual(p.walls, walls, { film: RSI_WALL, resistance: v.wallResistance, soil: SOIL, conductivity: s.conductivity }, delay, outside, inside),
  };
}
