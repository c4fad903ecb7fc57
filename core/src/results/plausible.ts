import { effective, modelledPeople, personWater, spaceUses, type Origin } from "../inputs/index.ts";
import { spaceShapes } from "../geometry/index.ts";
import { spaceFields, waterSystemOf, zonesServed, type FieldSpec, type InputValue, type Problem, type Project, type SpaceField } from "../model/index.ts";
import type { FlowName } from "../simulate/index.ts";
import { isWholeYear, type Summary } from "./summary.ts";

/** A figure of the year that is looked at, and the range in which buildings lie. */
export interface PlausibleRange {
  readonly words: string;
  readonly unit: string;
  readonly range: readonly [least: number, most: number];
}
/** Ranges over all uses and climates: wide, so that what lies outside is worth a look. Typical, unverified. */
export const plausibleRanges = {
  intensity: { words: "Site energy", unit: "kWh/m²a", range: [15, 600] },
  heatingPeak: { words: "Peak heating by floor area", unit: "W/m²", range: [2, 150] },
  coolingPeak: { words: "Peak cooling by floor area", unit: "W/m²", range: [1, 250] },
  heatingHours: { words: "Full-load hours of heating", unit: "h", range: [100, 5500] },
  coolingHours: { words: "Full-load hours of cooling", unit: "h", range: [20, 6500] },
  outdoorAir: { words: "Outdoor air by floor area", unit: "L/s·m²", range: [0.05, 8] },
  hotWater: { words: "Hot water a person and day", unit: "L", range: [1, 120] },
  fanPower: { words: "Fan power by air flow", unit: "W per L/s", range: [0.15, 5] },
  unmet: { words: "Hours unmet", unit: "h", range: [0, 300] },
} as const satisfies Record<string, PlausibleRange>;
export type PlausibleFigure = keyof typeof plausibleRanges;

/** One step from a figure to what made it. */
export interface ChainLink {
  readonly words: string;
  /** In its unit; null: words alone. */
  readonly value: number | null;
  readonly unit: string;
  /** Where it stands in the document, ids joined by /; null: a result. */
  readonly address: string | null;
  readonly origin: Origin | null;
}
/** A figure outside its range, with the chain that made it: figure, what is largest in it, the zone that has most of that, its input with its origin. */
export interface Outlier {
  readonly figure: PlausibleFigure;
  readonly value: number;
  readonly stage: Problem["stage"];
  readonly chain: readonly ChainLink[];
}

/** The input behind a flow, in the space that has most of it. */
const INPUT_OF: Readonly<Partial<Record<FlowName, SpaceField>>> = {
  infiltration: "infiltration",
  outdoorAir: "outdoorAirPerPerson",
  lighting: "lightingPower",
  appliances: "appliancePower",
  people: "peopleDensity",
  openedAir: "nightVentilation",
};
const FLOW_WORDS: Readonly<Partial<Record<FlowName, string>>> = {
  sun: "sun",
  people: "people",
  lighting: "lighting",
  appliances: "appliances",
  walls: "outside walls",
  roof: "the roof",
  ground: "the ground",
  glass: "glass",
  infiltration: "infiltration",
  outdoorAir: "outdoor air",
  openedAir: "windows and night air",
};

const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
const result = (words: string, value: number | null = null, unit = ""): ChainLink => ({ words, value, unit, address: null, origin: null });

/** Largest loss (−1) or gain (+1) of the building, the zone that has most of it by floor area, and the input there. */
function flowChain(project: Project, s: Summary, side: 1 | -1): ChainLink[] {
  const told = Object.keys(FLOW_WORDS) as FlowName[];
  const total = (flows: Summary["flows"], f: FlowName): number => side * sum(flows[f] ?? []);
  const [flow] = [...told].sort((a, b) => total(s.flows, b) - total(s.flows, a));
  if (flow === undefined || !(total(s.flows, flow) > 0)) return [];
  const zones = [...s.zones].filter((z) => z.floorArea > 0).sort((a, b) => total(b.flows, flow) / b.floorArea - total(a.flows, flow) / a.floorArea);
  const [zone] = zones;
  const chain = [result(`${side < 0 ? "most is lost by" : "most comes by"} ${FLOW_WORDS[flow]}`, total(s.flows, flow), "kWh")];
  if (!zone) return chain;
  chain.push(result(`most of it by floor area in ${zone.name}`, total(zone.flows, flow) / zone.floorArea, "kWh/m²"));
  const field = INPUT_OF[flow];
  const space = largestSpace(project, zone.id);
  if (field && space) chain.push(inputLink(project, space, field));
  return chain;
}

function largestSpace(project: Project, zone: string): string | null {
  const shapes = spaceShapes(project);
  return (
    Object.keys(project.spaces)
      .filter((id) => project.spaces[id].zone === zone)
      .sort((a, b) => (shapes.get(b)?.floorArea ?? 0) - (shapes.get(a)?.floorArea ?? 0))[0] ?? null
  );
}

function inputLink(project: Project, space: string, field: SpaceField): ChainLink {
  const spec: FieldSpec = spaceFields[field];
  const found: { readonly value: InputValue; readonly origin: Origin } = effective(project, "space", space, field);
  const value = typeof found.value === "number" ? found.value : null;
  return { words: `${spec.label} of ${project.spaces[space].name}`, value, unit: spec.unit, address: `spaces/${space}/inputs/${field}`, origin: found.origin };
}

/** Outdoor air supplied at full demand over floor area, L/s·m², and the space that has most. */
function outdoorAir(project: Project): { readonly value: number; readonly space: string | null } {
  let [air, area, most] = [0, 0, -1];
  let space: string | null = null;
  for (const [id, use] of spaceUses(project)) {
    if (!(use.area > 0)) continue;
    const times = project.storeys[project.spaces[id].storey].multiplier;
    air += use.outdoorAir.supplied * times;
    area += use.area * times;
    if (use.outdoorAir.supplied / use.area > most) {
      most = use.outdoorAir.supplied / use.area;
      space = id;
    }
  }
  return { value: area > 0 ? (1000 * air) / area : NaN, space };
}

/**
 * Figures of a year that lie outside the range of buildings, with the chain that made each. Nothing where there is no such load at all, and
 * nothing of a run that is not a year.
 */
export function implausible(project: Project, s: Summary): Outlier[] {
  if (!isWholeYear(s) || !(s.floorArea > 0)) return [];
  const out: Outlier[] = [];
  const look = (figure: PlausibleFigure, value: number | null, stage: Problem["stage"], chain: () => readonly ChainLink[]): void => {
    const { range, unit, words } = plausibleRanges[figure];
    if (value === null || !Number.isFinite(value) || (value >= range[0] && value <= range[1])) return;
    out.push({ figure, value, stage, chain: [result(words, value, unit), ...chain()] });
  };
  const heat = s.loads.heating.total;
  const cool = s.loads.cooling.total + s.loads.dehumidification.total;
  const largestUse = (): ChainLink[] => {
    const [use] = [...s.energy.endUses].sort((a, b) => b.total - a.total);
    return use
      ? [result(`largest end use: ${use.use}, ${use.fuel}`, use.total / s.floorArea, "kWh/m²a"), ...flowChain(project, s, use.use === "heating" ? -1 : 1)]
      : [];
  };
  look("intensity", s.energy.intensity, "use", largestUse);
  const worst = (of: (z: Summary["zones"][number]) => number, words: string): ChainLink[] => {
    const [z] = s.zones.filter((x) => x.floorArea > 0).sort((a, b) => of(b) / b.floorArea - of(a) / a.floorArea);
    return z ? [result(`${words} in ${z.name}`, of(z) / z.floorArea, "W/m²")] : [];
  };
  if (heat > 0) {
    look("heatingPeak", s.peaks.heating.power / s.floorArea, "fabric", () => [...worst((z) => z.peakHeating, "largest"), ...flowChain(project, s, -1)]);
    look("heatingHours", s.peaks.heating.power > 0 ? (1000 * heat) / s.peaks.heating.power : null, "use", () => flowChain(project, s, -1));
  }
  if (cool > 0) {
    look("coolingPeak", s.peaks.cooling.power / s.floorArea, "fabric", () => [...worst((z) => z.peakCooling, "largest"), ...flowChain(project, s, 1)]);
    look("coolingHours", s.peaks.cooling.power > 0 ? (1000 * cool) / s.peaks.cooling.power : null, "use", () => flowChain(project, s, 1));
  }
  const people = modelledPeople(project);
  const air = outdoorAir(project);
  if (people > 0)
    look("outdoorAir", air.value, "use", () =>
      air.space === null ? [] : [inputLink(project, air.space, "outdoorAirPerPerson"), inputLink(project, air.space, "outdoorAirPerArea")],
    );
  if (people > 0 && s.hotWater > 0)
    look("hotWater", (1000 * s.hotWater) / 365 / people, "use", () => {
      const [draw] = Object.entries(project.drawPoints);
      const persons = Object.keys(project.spaces)
        .map((id) => ({ id, water: personWater(project, id) }))
        .sort((a, b) => b.water - a.water);
      const most = persons[0];
      const byPeople = persons.reduce((t, p) => t + p.water, 0) > 0.5 * s.hotWater && most !== undefined;
      const [system] = Object.keys(project.zones).flatMap((z) => waterSystemOf(project, z) ?? []);
      return [
        result("drawn in the year", s.hotWater, "m³"),
        ...(byPeople ? [result(`most of it in ${project.spaces[most.id].name}`, most.water, "m³"), inputLink(project, most.id, "hotWaterPerPerson")] : []),
        ...(draw && !byPeople ? [{ ...result(`drawn by ${draw[1].name} and others`), address: `drawPoints/${draw[0]}` }] : []),
        ...(system !== undefined ? [{ ...result(`made by ${project.waterSystems[system].name}`), address: `waterSystems/${system}` }] : []),
      ];
    });
  for (const c of s.components) {
    if (c.kind !== "supplyFan" || !(c.atCooling ?? c.atHeating)) continue;
    const flow = ((c.atCooling ?? c.atHeating)?.flow ?? 0) / AIR_DENSITY;
    const power = (1000 * sum(c.power)) / Math.max(1, c.hours);
    if (flow > 0 && c.hours > 0)
      look("fanPower", power / (1000 * flow), "services", () => [
        { ...result(`${c.name} of ${c.of}`, power, "W"), address: c.address },
        result("rooms it serves", zonesServed(project, { path: c.address.split("/") }).length, "1"),
      ]);
  }
  look("unmet", s.unmetHours, "services", () => {
    const causes = s.unmetCauses;
    const zones = [...s.zones].sort((a, b) => missed(b) - missed(a));
    return [
      ...(causes
        ? [
            result(
              causes.plant >= causes.capacity && causes.plant >= causes.start
                ? "mostly: a loop gives all that its sources have"
                : causes.capacity >= causes.start
                  ? "mostly: what serves a room is too small"
                  : "mostly: rooms on their way after a setback",
            ),
          ]
        : []),
      ...(zones[0] ? [{ ...result(`most in ${zones[0].name}`, missed(zones[0]), "h"), address: `zones/${zones[0].id}` }] : []),
    ];
  });
  return out;
}

const missed = (z: Summary["zones"][number]): number => (z.unmetHours.heating ?? 0) + (z.unmetHours.cooling ?? 0);
/** Air at 20 °C, kg/m³. */
const AIR_DENSITY = 1.2;
