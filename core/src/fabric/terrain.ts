import { pow } from "../numeric/index.ts";
import type { Project } from "../model/index.ts";

/** Boundary-layer thickness, m, and exponent by terrain (ASHRAE Fundamentals 2017, ch. 24, table 1; open sea: 210 m, 0.10). */
const PROFILE: Record<Project["site"]["terrain"], readonly [number, number]> = {
  "open sea": [210, 0.1],
  "open country": [270, 0.14],
  suburb: [370, 0.22],
  city: [460, 0.33],
};

/** Wind speed at a height over that at 10 m in open country, 1 (ASHRAE Fundamentals 2017, ch. 24, eq. 4). @param height m, at least 1 is taken */
export function windProfile(terrain: Project["site"]["terrain"], height: number): number {
  const [thickness, exponent] = PROFILE[terrain];
  return pow(270 / 10, 0.14) * pow(Math.max(1, height) / thickness, exponent);
}
