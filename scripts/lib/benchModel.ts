import { boxProject } from "../../core/src/verification/box.ts";
import { airPlan, checkProject, proposeNetwork, type AirNetworkInput, type Project } from "../../core/src/index.ts";

/** Zones in a storey, and storeys, of the buildings of the bench. */
const SHAPES: Record<number, readonly [across: number, deep: number, storeys: number]> = {
  1: [1, 1, 1],
  5: [5, 1, 1],
  20: [5, 1, 4],
  100: [5, 2, 10],
  200: [10, 2, 10],
  500: [10, 2, 25],
};
/** Sizes whose year is run. */
export const benchSizes = [1, 5, 20, 100, 500];

/** A block of like rooms of 5 m × 6 m, each with an outdoor wall and a window; occupied by day, heated and cooled ideally. */
export function benchProject(zones: number): Project {
  const [across, deep, storeys] = SHAPES[zones];
  const p = JSON.parse(JSON.stringify(boxProject({ name: `${zones} zones`, weight: "heavy", glass: 0.3, gains: 400 }))) as Project;
  const room = p.spaces.a;
  p.spaces = {};
  p.zones = {};
  p.storeys = {};
  p.openings = {};
  for (const orientation of ["south", "north"] as const)
    p.openings[orientation] = { kind: "ratio", name: orientation, orientation, storey: null, space: null, ratio: 0.4, sill: 0.9, height: 1.6, glazing: null };
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.08,
    peopleSchedule: "day",
    lightingPower: 8,
    lightingSchedule: "day",
    applianceSchedule: "day",
    outdoorAirPerPerson: 0.005,
    outdoorAirSchedule: "day",
    conditioningSchedule: "day",
    heatingSetback: 16,
    coolingSetback: 30,
    coolingSetpoint: 25,
  });
  for (let k = 0; k < storeys; k++) {
    p.storeys[`l${k}`] = { name: `Storey ${k}`, elevation: 3 * k, height: 3, multiplier: 1 };
    for (let i = 0; i < across; i++)
      for (let j = 0; j < deep; j++) {
        const id = `z${k}_${i}_${j}`;
        const corners: [string, number, number][] = [
          ["s", 5 * i, 6 * j],
          ["e", 5 * i + 5, 6 * j],
          ["n", 5 * i + 5, 6 * j + 6],
          ["w", 5 * i, 6 * j + 6],
        ];
        p.spaces[id] = {
          ...room,
          name: id,
          storey: `l${k}`,
          zone: id,
          form: { kind: "prism", outline: corners.map(([e, x, y]) => ({ id: e, x, y })), floor: "floor", ceiling: "ceiling" },
        };
        p.zones[id] = { name: id, services: null, inputs: {} };
      }
  }
  return p;
}

/** The building of 20 zones with an airflow network of some 80 paths: cracks of its façades to south and north, windows on one storey. */
export function networkedBench(): { readonly project: Project; readonly simple: Project; readonly links: number } {
  const p = benchProject(20);
  p.openings.south = { ...p.openings.south, operable: 0.3, storey: "l0" } as Project["openings"][string];
  Object.assign(p.spaceTypes.box.inputs, { windowOpenAbove: 22 });
  const tight = new Set(
    checkProject(p).geometry.faces.flatMap((f) => (f.contact === "outdoors" && f.kind === "wall" && Math.abs(f.normal[1]) > 0.5 ? [] : [f.host])),
  );
  const network: AirNetworkInput = {
    ...proposeNetwork(p, checkProject(p)),
    cracks: Object.fromEntries([...tight].map((host, i) => [`c${i}`, { host, leakage: 0 }])),
  };
  const project: Project = { ...p, airNetwork: network };
  return { project, simple: { ...p, airNetwork: { ...network, use: false } }, links: airPlan(project, network, checkProject(project)).links.length };
}
