import { exp, log, PI } from "../numeric/index.ts";
import { WATER_CP } from "./pump.ts";

/**
 * Resistance between the water and the layer of the pipes, m²K/W, of the face's area (ISO 11855-2:2012, annex B: the resistance method).
 * R = R_z + R_w + R_r + R_x with R_z of the water that cools along the pipe left to the effectiveness, R_w of the film inside,
 * R_w = T^0.13/8π·((d_a − 2s)/(ṁ·l))^0.87, R_r of the wall, R_r = T·ln(d_a/(d_a − 2s))/(2π·λ_r), and R_x of the layer, R_x = T·ln(T/(π·d_a))/(2π·λ_b).
 * @param spacing m @param diameter outside, m @param wall m @param pipe W/m·K @param layer conductivity around the pipe, W/m·K
 * @param flow water per area of the face, kg/s·m² @param length of one circuit, m
 */
export function pipeResistance(spacing: number, diameter: number, wall: number, pipe: number, layer: number, flow: number, length: number): number {
  const inner = diameter - 2 * wall;
  const film = (powOf(spacing, 0.13) / (8 * PI)) * powOf(inner / (flow * length), 0.87);
  const round = (spacing * log(diameter / inner)) / (2 * PI * pipe);
  const around = Math.max(0, (spacing * log(spacing / (PI * diameter))) / (2 * PI * layer));
  return film + round + around;
}

const powOf = (x: number, y: number): number => exp(y * log(x));

/** Resistance between water and layer, m²K/W, of a circuit whose effectiveness is known: the inverse of `circuitEffectiveness`; 0 where it is 1. */
export const resistanceOf = (effectiveness: number, flow: number): number => (effectiveness >= 1 ? 0 : -1 / (flow * WATER_CP * log(1 - effectiveness)));

/** Effectiveness of water that flows through a layer of one temperature: 1 − e^(−1/(R·ṁ·c)). @param resistance m²K/W @param flow kg/s·m² */
export const circuitEffectiveness = (resistance: number, flow: number): number => (flow > 0 ? 1 - exp(-1 / (resistance * flow * WATER_CP)) : 0);
