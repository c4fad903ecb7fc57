import { airPlan, flowShapeHash, flowStudySpec, USUAL_LIMIT, type AirPlan, type AirShape } from "../airflow/index.ts";
import { effective, spaceUses } from "../inputs/index.ts";
import { openingRules, type AirNetworkInput, type Problem, type Project } from "../model/index.ts";

/** Numbers of the rules by which openings of the network open. */
export const RULE_OF = Object.fromEntries(openingRules.map((r, i) => [r, i])) as Record<(typeof openingRules)[number], number>;

/** Carbon dioxide outdoors where none is given, ppm: typical. */
const OUTDOOR_CO2 = 420;
/** Carbon dioxide a person gives at 1 met, m³/s: 0.0043 L/s (ASHRAE 62.1-2019, appendix D: 0.0052 L/s at 1.2 met). */
const CO2_PER_MET = 4.3e-6;

/** The pressure network of a compiled model. */
export interface AirModel {
  readonly plan: AirPlan;
  /** Zone of the model by node of the network that is one, and node by zone; −1: it keeps the simple model. */
  readonly zoneOf: Int32Array;
  readonly nodeOf: Int32Array;
  /** Entry of the air passed between zones that a link's flow from its second to its first end, and the other way, is part of; −1: outdoors. */
  readonly passBack: Int32Array;
  readonly passOn: Int32Array;
  /** First entry that is the network's. */
  readonly firstPass: number;
  /** Nodes of each link, and heights of the nodes, m; a level opening whose second end lies above (1) or below (−1) its first; 1: a fan. */
  readonly from: Int32Array;
  readonly to: Int32Array;
  readonly height: Float64Array;
  readonly level: Int8Array;
  readonly fan: Uint8Array;
  /** 1: air through the link from outdoors is infiltration; else it comes through an opening. */
  readonly crack: Uint8Array;
  /** By link: rule, limit, schedule row, limits outdoors and of wind, share open and shut, zone that it senses (−1: none). */
  readonly rule: Uint8Array;
  readonly limit: Float64Array;
  readonly schedule: Int32Array;
  readonly outdoorLeast: Float64Array;
  readonly outdoorMost: Float64Array;
  readonly windMost: Float64Array;
  readonly share: Float64Array;
  readonly least: Float64Array;
  readonly senses: Int32Array;
  readonly outdoors: Uint8Array;
  /** Link that closes each node's balance, in the order from the ends of the tree to outdoors, and the node on its other side. */
  readonly closing: { readonly node: Int32Array; readonly link: Int32Array; readonly other: Int32Array };
  /** Carbon dioxide: outdoors, ppm, and what people give by zone and schedule row at its full value, m³/s. */
  readonly outdoorCarbonDioxide: number;
  readonly sources: readonly { readonly zone: number; readonly row: number; readonly flow: number }[];
}

/** Pairs of zones with a way of the network between them. */
export interface AirPairs {
  readonly zone0: number;
  readonly zone1: number;
}

/** The network in use, laid out; null: the project has none in use. */
export function planOf(project: Project, shape: AirShape): { readonly input: AirNetworkInput; readonly plan: AirPlan } | null {
  const input = project.airNetwork;
  return input?.use && input.zones.length > 0 ? { input, plan: airPlan(project, input, shape) } : null;
}

/** Pairs of zones that links of the network lead between, each once. */
export function airPairs(plan: AirPlan, zoneIndex: (id: string) => number): AirPairs[] {
  const seen = new Map<string, AirPairs>();
  for (const l of plan.links) {
    if (l.from >= plan.zones.length || l.to >= plan.zones.length) continue;
    const [a, b] = [zoneIndex(plan.zones[l.from]), zoneIndex(plan.zones[l.to])].sort((x, y) => x - y);
    seen.set(`${a} ${b}`, { zone0: a, zone1: b });
  }
  return [...seen.values()];
}

/**
 * The network as the step needs it.
 * @param pairs in the order of their entries from `firstPass`, two entries a pair: air to the first zone, air to the second
 * @param rowOf row of a schedule @param sizing openings to outdoors that open by a rule stay shut, so that no capacity counts on them
 */
export function airModel(
  project: Project,
  input: AirNetworkInput,
  plan: AirPlan,
  zoneIds: readonly string[],
  pairs: readonly AirPairs[],
  firstPass: number,
  rowOf: (id: string | null) => number,
  sizing = false,
): AirModel {
  const zoneIndex = (id: string): number => zoneIds.indexOf(id);
  const zoneOf = Int32Array.from(plan.zones, zoneIndex);
  const nodeOf = new Int32Array(zoneIds.length).fill(-1);
  zoneOf.forEach((z, n) => (nodeOf[z] = n));
  const links = plan.links.length;
  const passBack = new Int32Array(links).fill(-1);
  const passOn = new Int32Array(links).fill(-1);
  plan.links.forEach((l, i) => {
    if (l.from >= zoneOf.length || l.to >= zoneOf.length) return;
    const [a, b] = [zoneOf[l.from], zoneOf[l.to]];
    const p = pairs.findIndex((x) => (x.zone0 === a && x.zone1 === b) || (x.zone0 === b && x.zone1 === a));
    const toFirst = firstPass + 2 * p;
    // back is what reaches the link's first end
    passBack[i] = pairs[p].zone0 === a ? toFirst : toFirst + 1;
    passOn[i] = pairs[p].zone0 === a ? toFirst + 1 : toFirst;
  });
  const planned = plan.planned;
  const uses = spaceUses(project);
  const sources = Object.entries(project.spaces).flatMap(([id, s]) => {
    const people = uses.get(id)?.people ?? 0;
    if (people <= 0 || s.zone === null) return [];
    const met = (effective(project, "space", id, "metabolicRate").value as number | null) ?? 1.2;
    return [
      { zone: zoneIndex(s.zone), row: rowOf(effective(project, "space", id, "peopleSchedule").value as string | null), flow: people * met * CO2_PER_MET },
    ];
  });
  const number = (v: number | null | undefined, none: number): number => (typeof v === "number" ? v : none);
  return {
    plan,
    zoneOf,
    nodeOf,
    passBack,
    passOn,
    firstPass,
    from: Int32Array.from(plan.links, (l) => l.from),
    to: Int32Array.from(plan.links, (l) => l.to),
    height: Float64Array.from(plan.nodes, (n) => n.height),
    level: Int8Array.from(planned, (p) => (p.level ? (p.way[2] < 0 ? -1 : 1) : 0)),
    fan: Uint8Array.from(planned, (p) => +(p.kind === "fan")),
    crack: Uint8Array.from(planned, (p) => +(p.kind === "crack")),
    rule: Uint8Array.from(planned, (p) => RULE_OF[p.control.rule]),
    limit: Float64Array.from(planned, (p) => p.control.above ?? USUAL_LIMIT[p.control.rule] ?? 0),
    schedule: Int32Array.from(planned, (p) => rowOf(p.kind === "fan" ? p.schedule : (p.control.schedule ?? null))),
    outdoorLeast: Float64Array.from(planned, (p) => number(p.control.outdoorLeast, -Infinity)),
    outdoorMost: Float64Array.from(planned, (p) => number(p.control.outdoorMost, Infinity)),
    windMost: Float64Array.from(planned, (p) => number(p.control.windMost, Infinity)),
    share: Float64Array.from(planned, (p) =>
      sizing && p.ends.includes(null) && p.control.rule !== "constant" && p.control.rule !== "schedule" ? 0 : (p.control.share ?? 1),
    ),
    least: Float64Array.from(planned, (p) => p.least),
    senses: Int32Array.from(planned, (p) => (p.senses === null ? -1 : zoneIndex(p.senses))),
    outdoors: Uint8Array.from(planned, (p) => +(p.ends[0] === null || p.ends[1] === null)),
    closing: closingLinks(plan),
    outdoorCarbonDioxide: input.outdoorCarbonDioxide ?? OUTDOOR_CO2,
    sources,
  };
}

/** A tree of links that leads every zone outdoors, cracks first, told from its ends. */
function closingLinks(plan: AirPlan): AirModel["closing"] {
  const order: { node: number; link: number; other: number }[] = [];
  const reached = new Set<number>(plan.nodes.flatMap((n, i) => (n.outdoors ? [i] : [])));
  const links = plan.links
    .map((l, i) => ({ ...l, i }))
    .sort((a, b) => +(a.kind === "fan") - +(b.kind === "fan") || +(a.kind !== "crack") - +(b.kind !== "crack"));
  for (let grown = true; grown;) {
    grown = false;
    for (const l of links)
      for (const [node, other] of [
        [l.from, l.to],
        [l.to, l.from],
      ])
        if (!reached.has(node) && reached.has(other)) {
          reached.add(node);
          order.push({ node, link: l.i, other });
          grown = true;
        }
  }
  order.reverse();
  return {
    node: Int32Array.from(order, (o) => o.node),
    link: Int32Array.from(order, (o) => o.link),
    other: Int32Array.from(order, (o) => o.other),
  };
}

/** What is wrong with the network, as problems of the document. */
export function airProblems(project: Project, shape: AirShape): Problem[] {
  const input = project.airNetwork;
  if (!input) return [];
  const plan = airPlan(project, input, shape);
  const stale =
    input.use &&
    input.pressures === "flow study" &&
    input.study?.shape !== undefined &&
    input.study.shape !== flowShapeHash(flowStudySpec(project, shape.geometry, "coarse"));
  const problems: AirPlan["problems"] = stale
    ? [
        ...plan.problems,
        {
          code: "air-stale",
          severity: "warning",
          link: null,
          message: "The flow study is of another shape of the building or of what stands around it; run it again.",
        },
      ]
    : plan.problems;
  return problems.map((p): Problem => {
    const path = p.link === null ? "airNetwork" : `airNetwork/links/${p.link}`;
    const old = p.link === null ? undefined : input.links[p.link];
    return {
      code: p.code,
      // what is not in use stops nothing
      severity: input.use ? p.severity : "warning",
      stage: "form",
      path,
      message: p.message,
      ...(p.code === "air-opening-gone" && p.link !== null
        ? { fix: { label: "Remove it from the network", changes: [{ op: "remove", path: ["airNetwork", "links", p.link], old }] } }
        : {}),
    };
  });
}
