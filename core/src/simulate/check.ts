import {
  applyFitting,
  checkReferences,
  dateOfDay,
  dateText,
  isGlazed,
  kitRoles,
  roleWords,
  type InputValue,
  type KitRole,
  type Problem,
  type Project,
  quantity,
} from "../model/index.ts";
import {
  deriveFaces,
  deriveOpenings,
  deriveShades,
  deriveSurroundings,
  freeId,
  type Geometry,
  type InnerOpening,
  type PlacedOpening,
  type ShadePlane,
  type SurroundingPlane,
} from "../geometry/index.ts";
import { BudgetSpent, withinBudget } from "../numeric/index.ts";
import { driveProblems, effective, effectiveKit, kitRole, roleOfUse, ruledComponents } from "../inputs/index.ts";
import { arrayPlanes, arrayProblems, placeArrays, type PlacedArray } from "../electric/index.ts";
import { assemblyLayers, assemblyMass, assemblyU, bridgedResistance, glazingPhysics, reduceWall } from "../fabric/index.ts";
import { signalsCross, signalSpan } from "../use/index.ts";
import { serviceProblems, waterProblems } from "../services/index.ts";
import { airProblems } from "./airModel.ts";
import { useProblems } from "./useChecks.ts";

/** A project's derived geometry and everything found wrong with it. */
export interface Checked {
  readonly problems: readonly Problem[];
  readonly geometry: Geometry;
  readonly openings: readonly PlacedOpening[];
  /** Doors and ways through inner walls. */
  readonly inner: readonly InnerOpening[];
  readonly shades: readonly ShadePlane[];
  readonly surroundings: readonly SurroundingPlane[];
  /** Photovoltaic arrays where they stand; their planes are among the shades. */
  readonly arrays: readonly PlacedArray[];
}

const known = new WeakMap<Project, Checked>();

/** Work a check may take: some seconds on any machine; the largest building of the bench takes a hundredth. */
export const CHECK_BUDGET = 1e9;
const NOTHING: Geometry = { faces: [], byKey: new Map(), spaces: new Map(), problems: [] };

/** Everything that can be told about a document before it runs, remembered by document. A form that is more work than a check may take is told as that. */
export function checkProject(project: Project): Checked {
  const before = known.get(project);
  if (before) return before;
  let checked: Checked;
  try {
    checked = withinBudget(CHECK_BUDGET, () => check(project));
  } catch (error) {
    if (!(error instanceof BudgetSpent)) throw error;
    checked = { problems: [tooMuch(project)], geometry: NOTHING, openings: [], inner: [], shades: [], surroundings: [], arrays: [] };
  }
  known.set(project, checked);
  return checked;
}

function tooMuch(project: Project): Problem {
  const spaces = Object.values(project.spaces);
  const points = spaces.flatMap((s) =>
    s.form.kind === "prism" ? s.form.outline : Object.values(s.form.faces).flatMap((f) => f.ring.map(([x, y]) => ({ x, y }))),
  );
  const wide = (of: (p: { x: number; y: number }) => number): string => {
    const [low, high] = points.reduce(([a, b], p) => [Math.min(a, of(p)), Math.max(b, of(p))], [Infinity, -Infinity]);
    return quantity(high - low, "m", 0);
  };
  return {
    code: "too-much",
    severity: "error",
    stage: "form",
    path: "spaces",
    message: `The form is more than can be checked: ${spaces.length} spaces with ${points.length} corners over ${wide((p) => p.x)} by ${wide((p) => p.y)}. Check the units of the plan, spaces that lie on each other, and openings and shades that are repeated many times.`,
  };
}

function check(project: Project): Checked {
  const problems: Problem[] = [...checkReferences(project)];
  const broken = problems.some((p) => p.severity === "error");
  const geometry: Geometry = broken ? NOTHING : deriveFaces(project);
  problems.push(...geometry.problems);
  const placed = broken ? { openings: [], inner: [], problems: [] } : deriveOpenings(project, geometry);
  problems.push(...placed.problems);
  const { project: ruled } = broken ? { project } : ruledComponents(project);
  const { arrays, problems: misplaced } = broken ? { arrays: [], problems: [] } : placeArrays(ruled, geometry, placed.openings);
  const shades = [...deriveShades(project, geometry, placed.openings), ...arrayPlanes(arrays)];
  if (!broken)
    problems.push(
      ...zoneProblems(project, geometry),
      ...useProblems(project),
      ...airProblems(project, { geometry, openings: placed.openings, inner: placed.inner }),
      ...driveProblems(project),
      ...ruledComponents(project).problems,
      ...serviceProblems(ruled),
      ...waterProblems(ruled),
      ...misplaced,
      ...arrayProblems(ruled, arrays),
      ...constructionProblems(project),
      ...misplacedAssemblies(project, geometry),
      ...optionProblems(project),
    );
  return { problems, geometry, openings: placed.openings, inner: placed.inner, shades, surroundings: deriveSurroundings(project), arrays };
}

function zoneProblems(project: Project, geometry: Geometry): Problem[] {
  const problems: Problem[] = [];
  const report = (severity: Problem["severity"], code: string, path: string, message: string, stage: Problem["stage"] = "form", fix?: Problem["fix"]): void => {
    problems.push({ severity, code, path, message, stage, ...(fix ? { fix } : {}) });
  };
  const spaces = Object.entries(project.spaces);
  if (spaces.length === 0) report("error", "empty", "spaces", "There is no space yet; draw one or start from a massing.");
  const crossings = new Map<string, ReturnType<typeof signalsCross>>();
  const crossingOf = (cool: InputValue, heat: InputValue): ReturnType<typeof signalsCross> => {
    const key = `${String(cool)} ${String(heat)}`;
    if (!crossings.has(key)) crossings.set(key, signalsCross(project, cool, heat));
    return crossings.get(key) ?? null;
  };
  for (const [id, s] of spaces) {
    if (s.zone === null) {
      const zone = freeId(project.zones, id);
      report("error", "no-zone", `spaces/${id}/zone`, `${s.name} belongs to no zone.`, "form", {
        label: "Give it a zone of its own",
        changes: [
          { op: "insert", path: ["zones", zone], value: { name: s.name, services: null, inputs: {} } },
          { op: "set", path: ["spaces", id, "zone"], value: zone, old: null },
        ],
      });
    }
    if (s.spaceType === null) report("warning", "no-type", `spaces/${id}/spaceType`, `${s.name} has no space type; it runs on defaults.`, "use");
    for (const [cooling, heating, when] of [
      ["coolingSetpoint", "heatingSetpoint", ""],
      ["coolingSetback", "heatingSetback", "Out of hours "],
    ] as const) {
      const crossing = crossingOf(effective(project, "space", id, cooling).value, effective(project, "space", id, heating).value);
      if (!crossing) continue;
      const at = [
        ...(crossing.hour === null ? [] : [`on ${dateText(...dateOfDay(Math.floor(crossing.hour / 24)))} at ${crossing.hour % 24}:00`]),
        ...(crossing.outdoor === null ? [] : [`at ${quantity(crossing.outdoor, "°C")} outdoors`]),
      ].join(" ");
      report(
        "error",
        "setpoints",
        `spaces/${id}/inputs/${cooling}`,
        `${when}${s.name} is cooled to ${quantity(crossing.upper, "°C")} and heated to ${quantity(crossing.lower, "°C")} at the same time${at === "" ? "" : `, ${at}`}.`,
        "use",
      );
    }
  }
  for (const [id, e] of Object.entries(project.airExchanges))
    for (const z of e.zones)
      if (!spaces.some(([, s]) => s.zone === z))
        report("warning", "empty-zone", `airExchanges/${id}`, `"${e.name}" passes air to a zone without spaces; it is left out.`, "use");
  const byZone = new Map<string | null, (typeof spaces)[number][]>();
  for (const entry of spaces) {
    const list = byZone.get(entry[1].zone);
    if (list) list.push(entry);
    else byZone.set(entry[1].zone, [entry]);
  }
  for (const [id, z] of Object.entries(project.zones)) {
    const members = byZone.get(id) ?? [];
    if (members.length === 0) report("warning", "empty-zone", `zones/${id}`, `Zone ${z.name} has no space.`);
    for (const [sid, s] of members) {
      const low = effective(project, "space", sid, "humidifySetpoint").value;
      const high = effective(project, "space", sid, "dehumidifySetpoint").value;
      if (typeof low === "number" && typeof high === "number" && low > high)
        report(
          "error",
          "humidity",
          `spaces/${sid}/inputs/dehumidifySetpoint`,
          `${s.name} is humidified to ${low} % and dehumidified to ${high} % at the same time.`,
          "use",
        );
      const opened = effective(project, "space", sid, "windowOpenAbove").value;
      const cool = signalSpan(project, effective(project, "space", sid, "coolingSetpoint").value)?.least;
      if (typeof opened === "number" && cool !== undefined && opened >= cool)
        report(
          "warning",
          "window-limit",
          `spaces/${sid}/inputs/windowOpenAbove`,
          `The windows of ${s.name} open above ${quantity(opened, "°C")}, where it is already cooled to ${quantity(cool, "°C")}; they stay closed.`,
          "use",
        );
    }
    for (const field of ["heatingSetpoint", "coolingSetpoint", "conditioningSchedule"] as const) {
      const values = new Set(members.map(([s]) => effective(project, "space", s, field).value));
      if (values.size > 1) {
        const areas = geometry.spaces;
        const [first] = [...members].sort(([a], [b]) => (areas.get(b)?.floorArea ?? 0) - (areas.get(a)?.floorArea ?? 0) || (a < b ? -1 : 1));
        report(
          "warning",
          "clash",
          `zones/${id}`,
          `The spaces of zone ${z.name} ask for different ${field === "conditioningSchedule" ? "hours in use" : field === "heatingSetpoint" ? "heating set-points" : "cooling set-points"}; ${first[1].name} decides, as its largest space.`,
          "use",
        );
      }
    }
    const multipliers = new Set(members.map(([, s]) => project.storeys[s.storey].multiplier));
    if (multipliers.size > 1) report("error", "multiplier", `zones/${id}`, `Zone ${z.name} spans storeys with different multipliers.`);
  }
  return problems;
}

/** Thickness of a layer that is likely a slip of units, m, and the range of U of what is built, W/m²K. */
const ODD_LAYER = [0.0001, 1] as const;
const ODD_U = [0.05, 6] as const;

/** What can run but is likely a slip: a layer of the wrong unit, no mass at all, a U nobody builds. */
function oddAssembly(project: Project, id: string): Problem[] {
  const a = project.assemblies[id];
  const warn = (code: string, path: string, message: string): Problem => ({
    code,
    severity: "warning",
    stage: "fabric",
    path: `assemblies/${id}${path}`,
    message,
  });
  const problems: Problem[] = [];
  for (const l of a.layers) {
    if (l.kind !== "solid") continue;
    const name = project.materials[l.material].name;
    if (l.thickness > ODD_LAYER[1])
      problems.push(warn("odd-layer", `/layers/${l.id}/thickness`, `${name} in "${a.name}" is ${quantity(l.thickness, "m", 2)} thick; check its unit.`));
    else if (l.thickness < ODD_LAYER[0] * (1 - 1e-9))
      problems.push(
        warn(
          "odd-layer",
          `/layers/${l.id}/thickness`,
          `${name} in "${a.name}" is ${quantity(Number((1000 * l.thickness).toPrecision(2)), "mm")} thick; check its unit.`,
        ),
      );
  }
  if (assemblyMass(project, a).mass === 0)
    problems.push(warn("no-mass", "", `"${a.name}" has no mass: it follows the weather at once. Give it layers, or its U with a class of mass.`));
  const u = assemblyU(project, a);
  if (u < ODD_U[0] || u > ODD_U[1])
    problems.push(
      warn(
        "odd-u",
        "",
        `"${a.name}" has U ${quantity(Number(u.toPrecision(3)), "W/m²K")}; between ${quantity(ODD_U[0], "W/m²K")} and ${quantity(ODD_U[1], "W/m²K")} is usual.`,
      ),
    );
  return problems;
}

/** Assemblies that stand in a kit or on a face for another kind of element than they are made for. */
function misplacedAssemblies(project: Project, geometry: Geometry): Problem[] {
  const problems: Problem[] = [];
  const told = (path: string, assembly: string, role: KitRole, where: string): void => {
    const a = project.assemblies[assembly];
    if (roleOfUse[a.use] !== role)
      problems.push({
        code: "misplaced",
        severity: "warning",
        stage: "fabric",
        path,
        message: `"${a.name}" is made for ${a.use === "interior wall" || a.use === "interior floor" || a.use === "exterior wall" || a.use === "exposed floor" ? `an ${a.use}` : `a ${a.use}`} and stands ${where}: its surface resistances are those of another.`,
      });
  };
  // a role that no face asks a kit for may be filled with anything
  const asked = new Set(geometry.faces.map((f) => `${effectiveKit(project, f.space).id} ${kitRole(f)}`));
  for (const [id, kit] of Object.entries(project.kits))
    for (const role of kitRoles)
      if (!isGlazed(role) && asked.has(`${id} ${role}`)) told(`kits/${id}/${role}`, kit[role], role, `in kit "${kit.name}" as ${roleWords[role]}`);
  const roles = new Map(geometry.faces.map((f) => [f.host, kitRole(f)]));
  for (const [id, o] of Object.entries(project.faceOverrides)) {
    const role = roles.get(o.host);
    if (o.assembly !== null && role)
      told(`faceOverrides/${id}/assembly`, o.assembly, role, `on a face of ${project.spaces[o.host.split("/")[0]]?.name ?? o.host} as ${roleWords[role]}`);
  }
  return problems;
}

/** Largest ratio of the limits of a bridged resistance for which their mean holds (ISO 6946:2017, 6.7.2.1). */
const LIMITS_APART = 1.5;

function bridgeProblems(project: Project, id: string): Problem[] {
  const a = project.assemblies[id];
  const found = bridgedResistance(project, a);
  if (!found || found.upper / found.lower <= LIMITS_APART) return [];
  return [
    {
      code: "bridges",
      severity: "warning",
      stage: "fabric",
      path: `assemblies/${id}`,
      message: `The resistance of "${a.name}" lies between ${quantity(found.lower, "m²K/W", 2)} and ${quantity(found.upper, "m²K/W", 2)}; its bridges conduct too well for the mean of both to hold (ISO 6946). Give it the U of a detailed calculation.`,
    },
  ];
}

function constructionProblems(project: Project): Problem[] {
  const problems: Problem[] = [];
  for (const [id, a] of Object.entries(project.assemblies)) {
    try {
      const layers = assemblyLayers(project, a);
      const melts = a.layers.some((l) => l.kind === "solid" && project.materials[l.material].phaseChange);
      if (layers.every((l) => l.resistance === 0)) throw new RangeError("it has no layer with a resistance");
      if (!melts) reduceWall(layers);
      problems.push(...bridgeProblems(project, id), ...oddAssembly(project, id));
    } catch (e) {
      problems.push({
        code: "reduction",
        severity: "error",
        stage: "fabric",
        path: `assemblies/${id}`,
        message: `"${a.name}": ${e instanceof Error ? e.message : String(e)}.`,
      });
    }
  }
  for (const [id, g] of Object.entries(project.glazings)) {
    try {
      glazingPhysics(g);
    } catch (e) {
      problems.push({
        code: "glazing",
        severity: "error",
        stage: "fabric",
        path: g.kind === "rated" ? `glazings/${id}/u` : `glazings/${id}`,
        message: `"${g.name}": ${e instanceof Error ? e.message : String(e)}.`,
      });
    }
  }
  return problems;
}

function optionProblems(project: Project): Problem[] {
  return Object.entries(project.options).flatMap(([id, o]) =>
    applyFitting(project, o.changes).stale.map((s): Problem => ({
      code: "stale",
      severity: "warning",
      stage: "place",
      path: `options/${id}`,
      message: `Option "${o.name}" has a change that no longer fits: ${s.message}`,
    })),
  );
}
