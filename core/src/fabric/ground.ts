import { cos, log, PI } from "../numeric/index.ts";

/** Inputs of a slab on the ground. */
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
}

const RSI = 0.17;
const RSE = 0.04;

/** Characteristic dimension B, m, and equivalent thickness d_t, m (ISO 13370:2017, 7.1 and 7.2). */
export function slabDimensions(s: SlabInputs): { b: number; dt: number } {
  return { b: s.area / (0.5 * s.perimeter), dt: s.wallThickness + s.conductivity * (RSI + s.floorResistance + RSE) };
}

/** Thermal transmittance of a slab on the ground without edge insulation, W/m²K (ISO 13370:2017, 7.2). */
export function slabTransmittance(s: SlabInputs): number {
  const { b, dt } = slabDimensions(s);
  if (dt >= b) return s.conductivity / (0.457 * b + dt);
  return ((2 * s.conductivity) / (PI * b + dt)) * log((PI * b) / dt + 1);
}

/** Ground under a slab as the year sees it: soil with mass, a virtual layer, and a virtual temperature by month. */
export interface VirtualGround {
  readonly u: number;
  /** Soil that stores heat, m. */
  readonly soilThickness: number;
  /** m²K/W; 0 with a warning where the sum would be negative. */
  readonly virtualResistance: number;
  readonly clamped: boolean;
  /** °C by month, behind the virtual layer. */
  readonly temperature: readonly number[];
}

/**
 * Virtual layer and temperature behind 0.5 m of soil (ISO 13370:2017, annex F, as ISO 52016-1:2017 uses
 * them). Monthly heat flow of annex C with the inside held at its mean; its swing is stored by the soil.
 * @param outside monthly mean air temperature, °C @param inside mean inside temperature, °C
 */
export function virtualGround(s: SlabInputs, outside: readonly number[], inside: number): VirtualGround {
  const u = slabTransmittance(s);
  const { dt } = slabDimensions(s);
  const soilThickness = 0.5;
  const raw = 1 / u - RSI - s.floorResistance - soilThickness / s.conductivity;
  const virtualResistance = Math.max(0, raw);
  const mean = outside.reduce((a, t) => a + t, 0) / 12;
  const amplitude = (Math.max(...outside) - Math.min(...outside)) / 2;
  // periodic penetration depth for a year, m
  const depth = Math.sqrt((3.15e7 * s.conductivity) / (PI * s.heatCapacity));
  const hpe = 0.37 * s.perimeter * s.conductivity * log(depth / dt + 1);
  const delay = 1.5 - 0.42 * log(depth / (dt + 1));
  const coldest = outside.indexOf(Math.min(...outside));
  const temperature = outside.map((_, m) => {
    const flow = s.area * u * (inside - mean) + hpe * amplitude * cos((2 * PI * (m - coldest - delay)) / 12);
    return inside - flow / (s.area * u);
  });
  return { u, soilThickness, virtualResistance, clamped: raw < 0, temperature };
}
