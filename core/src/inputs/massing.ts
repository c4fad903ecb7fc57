import { z } from "zod";
import { FORMAT_VERSION, noUse, type Orientation, type Project } from "../model/index.ts";
import { footprintRings, partNames, perimeterAndCore, type Footprint } from "../geometry/index.ts";
import { starterUses, type StarterUse } from "../library/index.ts";
import { fabricLevels, starterFabric, starterServices, starterUse, type FabricLevel } from "./starter.ts";

const length = z.number();
export const massingSchema = z.strictObject({
  name: z.string().trim().min(1).max(200),
  footprint: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("rectangle"), length, width: length }),
    ...(["L", "U", "courtyard"] as const).map((kind) => z.strictObject({ kind: z.literal(kind), length, width: length, cutLength: length, cutWidth: length })),
    z.strictObject({ kind: z.literal("polygon"), points: z.array(z.tuple([z.number(), z.number()])) }),
  ]),
  storeys: z.number().int().min(1).max(30).describe("Number of storeys."),
  storeyHeight: z.number().min(2).max(12).describe("Floor to floor, m."),
  glazing: z.record(z.enum(["north", "east", "south", "west"]), z.number().min(0).max(0.95)).describe("Openings over wall by true orientation, 1."),
  perimeterDepth: z.number().min(0).max(30).describe("Depth of perimeter zones, m; 0: whole storeys."),
  use: z.enum(starterUses),
  level: z.enum(fabricLevels),
});
export type Massing = z.infer<typeof massingSchema>;

/** Where a massing stands and what it costs: taken from the project it starts from. */
export type MassingContext = Pick<Project, "site" | "calendar" | "weather" | "weathers" | "prices" | "factors" | "run">;

export type MassingOutcome = { readonly ok: true; readonly project: Project } | { readonly ok: false; readonly path: string; readonly message: string };

const FIELD_NAMES: Record<string, string> = {
  storeys: "Storeys",
  storeyHeight: "Storey height",
  perimeterDepth: "Perimeter depth",
  glazing: "Glazing",
  name: "Name",
};

/** A complete valid project in one step: storeys of perimeter and core zones named by orientation, with fabric, use and services. */
export function massingProject(massing: unknown, context: MassingContext, id: string): MassingOutcome {
  const parsed = massingSchema.safeParse(massing);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    const path = issue.path.map(String).join("/");
    const field = FIELD_NAMES[String(issue.path[0])] ?? "Footprint";
    const limit =
      issue.code === "too_small" ? `at least ${String(issue.minimum)}` : issue.code === "too_big" ? `at most ${String(issue.maximum)}` : "a proper value";
    return { ok: false, path, message: `${field}: ${limit} is needed.` };
  }
  const m = parsed.data;
  const rings = footprintRings(m.footprint as Footprint);
  if (!rings.ok) return { ok: false, path: "footprint", message: rings.message };
  const cut = perimeterAndCore(rings.polygon, m.perimeterDepth, context.site.planNorth);
  if (!cut.ok) return { ok: false, path: "perimeterDepth", message: cut.message };
  const spaces: Project["spaces"] = {};
  const zones: Project["zones"] = {};
  const storeys: Project["storeys"] = {};
  const names = partNames(cut.parts);
  for (let s = 0; s < m.storeys; s++) {
    const storey = `storey_${s + 1}`;
    const storeyName = s === 0 ? "Ground floor" : `Floor ${s + 1}`;
    storeys[storey] = { name: storeyName, elevation: Math.round(s * m.storeyHeight * 1e4) / 1e4, height: m.storeyHeight, multiplier: 1 };
    cut.parts.forEach((part, i) => {
      const key = `${names[i].id}_${s + 1}`;
      const name = m.storeys > 1 ? `${names[i].name}, ${storeyName.toLowerCase()}` : names[i].name;
      zones[key] = { name, services: null, inputs: {} };
      spaces[key] = {
        name,
        storey,
        zone: key,
        spaceType: "main",
        kit: null,
        form: {
          kind: "prism",
          outline: part.ring.map(([x, y], k) => ({ id: `e${k + 1}`, x: Math.round(x * 1e4) / 1e4, y: Math.round(y * 1e4) / 1e4 })),
          floor: "floor",
          ceiling: "ceiling",
        },
        inputs: {},
      };
    });
  }
  const openings: Project["openings"] = {};
  for (const o of ["south", "east", "north", "west"] as const satisfies readonly Orientation[]) {
    const ratio = m.glazing[o] ?? 0;
    if (ratio > 0)
      openings[o] = {
        kind: "ratio",
        name: `${o[0].toUpperCase()}${o.slice(1)} windows`,
        orientation: o,
        storey: null,
        space: null,
        ratio,
        sill: 0.9,
        height: Math.min(1.8, m.storeyHeight - 1.1),
        glazing: null,
      };
  }
  return {
    ok: true,
    project: { ...starterProject(context, id, m.name, m.use, m.level), storeys, spaces, zones, openings },
  };
}

/** A project with fabric, use and services to start from and no form at all: no storey, no space. */
export function starterProject(context: MassingContext, id: string, name: string, use: StarterUse = "office", level: FabricLevel = "code"): Project {
  const { infiltration, ...fabric } = starterFabric(level);
  // a copy throughout: what is written into one project must not reach the shipped things, and with them the next project
  return fresh({
    formatVersion: FORMAT_VERSION,
    id,
    name,
    site: { ...context.site },
    calendar: context.calendar,
    weathers: context.weathers,
    weather: context.weather,
    prices: context.prices,
    factors: context.factors,
    run: context.run,
    ...noUse(),
    storeys: {},
    spaces: {},
    zones: {},
    roofs: {},
    openings: {},
    shades: {},
    surroundings: {},
    airExchanges: {},
    sensors: {},
    faceOverrides: {},
    ...fabric,
    ...starterUse(use, infiltration),
    services: { main: starterServices },
    defaults: { kit: "envelope", services: "main" },
    options: {},
    evidence: {},
  });
}

const fresh = (project: Project): Project => JSON.parse(JSON.stringify(project)) as Project;

/** A project to draw: one empty storey at the ground. */
export function emptyProject(context: MassingContext, id: string, name: string): Project {
  return { ...starterProject(context, id, name), storeys: { ground: { name: "Ground floor", elevation: 0, height: 3.5, multiplier: 1 } } };
}
