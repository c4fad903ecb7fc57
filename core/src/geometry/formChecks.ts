import { signedArea, type Point, type Problem, type Project, quantity } from "../model/index.ts";
import { TOLERANCE, type SpaceGeometry } from "./face.ts";
import { areaOf, type Box, boxOf, difference, intersection, norm } from "./polygon.ts";
import { outlineChange } from "./outlineIds.ts";
import { eachNearPair } from "./nearby.ts";
import { uprightBox, type Upright } from "./sides.ts";

/** Overlaps below this are drawing noise, m². */
const LEAST_OVERLAP = 0.05;
/** Walls of two spaces that face each other across less than this were meant to touch, m. */
const WIDEST_GAP = 0.4;
/** A space with less than this is a sliver: floor, m², and mean width (twice its area over its outline), m. */
const LEAST_FLOOR = 0.5;
const LEAST_WIDTH = 0.25;

const report = (code: string, severity: Problem["severity"], space: string, message: string, fix?: Problem["fix"]): Problem => ({
  code,
  severity,
  stage: "form",
  path: `spaces/${space}/form`,
  message,
  ...(fix ? { fix } : {}),
});

/** What is wrong with how spaces stand to each other: overlaps, gaps, slivers. */
export function formProblems(project: Project, spaces: ReadonlyMap<string, SpaceGeometry>, uprights: readonly Upright[]): Problem[] {
  const list = [...spaces.values()];
  const boxes = list.map((g) => boxOf(g.outline));
  return [...overlaps(project, list, boxes), ...gaps(project, spaces, uprights), ...slivers(project, list)];
}

function overlaps(project: Project, list: readonly SpaceGeometry[], boxes: readonly Box[]): Problem[] {
  const problems: Problem[] = [];
  const meet = (i: number, j: number): void => {
    const [a, b] = [list[i], list[j]];
    if (Math.min(a.high, b.high) - Math.max(a.low, b.low) < TOLERANCE) return;
    const shared = areaOf(intersection([[a.outline]], [[b.outline]]));
    if (shared < LEAST_OVERLAP) return;
    const message = `${project.spaces[a.id].name} and ${project.spaces[b.id].name} stand in the same place over ${quantity(shared, "m²", 1)}.`;
    problems.push(report("overlap", "error", b.id, message, cutFix(project, a, b)));
  };
  eachNearPair(boxes, -TOLERANCE, meet, { low: (i) => list[i].low, high: (i) => list[i].high });
  return problems;
}

/** Cuts from the later space what it shares with the earlier one, where one plain outline is left. */
function cutFix(project: Project, a: SpaceGeometry, b: SpaceGeometry): Problem["fix"] {
  const space = project.spaces[b.id];
  if (space.form.kind !== "prism") return undefined;
  const left = difference([[b.outline]], [[a.outline]]);
  if (left.length !== 1 || left[0].length !== 1 || areaOf(left) < LEAST_FLOOR) return undefined;
  return { label: `Cut it from ${space.name}`, changes: [outlineChange(project, b.id, left[0][0])] };
}

/** Walls of two spaces back to back with a narrow gap between them: both are computed as outdoors. */
function gaps(project: Project, spaces: ReadonlyMap<string, SpaceGeometry>, uprights: readonly Upright[]): Problem[] {
  const problems: Problem[] = [];
  const told = new Set<string>();
  const meet = (i: number, j: number): void => {
    const [a, b] = [uprights[i], uprights[j]];
    const [dx, dy] = a.direction;
    if (a.space === b.space || dx * b.direction[0] + dy * b.direction[1] > -0.9998) return;
    const rx = b.start[0] - a.start[0];
    const ry = b.start[1] - a.start[1];
    // outward of the first is to the right of its direction
    const apart = rx * dy - ry * dx;
    if (apart < TOLERANCE || apart > WIDEST_GAP) return;
    const s1 = rx * dx + ry * dy;
    const along = Math.min(a.length, s1) - Math.max(0, s1 - b.length);
    if (along < 0.3 || Math.min(a.high, b.high) - Math.max(a.low, b.low) < 0.3) return;
    const pair = [a.space, b.space].sort().join(" ");
    if (told.has(pair)) return;
    told.add(pair);
    const [one, two] = [project.spaces[a.space].name, project.spaces[b.space].name];
    const message = `${one} and ${two} leave a gap of ${quantity(apart, "m", 2)} between them; their walls there are computed as outdoors.`;
    problems.push(report("gap", "warning", b.space, message, gapFix(project, spaces, b, a, apart)));
  };
  eachNearPair(uprights.map(uprightBox), WIDEST_GAP, meet, { low: (i) => uprights[i].low, high: (i) => uprights[i].high });
  return problems;
}

/** Moves the second side onto the first one's line. */
function gapFix(project: Project, spaces: ReadonlyMap<string, SpaceGeometry>, moving: Upright, fixed: Upright, apart: number): Problem["fix"] {
  const space = project.spaces[moving.space];
  const g = spaces.get(moving.space);
  if (space.form.kind !== "prism" || !g) return undefined;
  const { outline } = space.form;
  const n = outline.length;
  const k = outline.findIndex((p) => p.id === moving.id);
  if (k < 0) return undefined;
  // outward of the moving side
  const step: Point = [moving.direction[1] * apart, -moving.direction[0] * apart];
  const moved = outline.map((p, i) => (i === k || i === (k + 1) % n ? { ...p, x: round(p.x + step[0]), y: round(p.y + step[1]) } : p));
  return {
    label: `Move ${space.name} up to ${project.spaces[fixed.space].name}`,
    changes: [{ op: "set", path: ["spaces", moving.space, "form"], value: { ...space.form, outline: moved }, old: space.form }],
  };
}

const round = (v: number): number => Math.round(v * 1e4) / 1e4;

function slivers(project: Project, list: readonly SpaceGeometry[]): Problem[] {
  return list.flatMap((g): Problem[] => {
    let around = 0;
    g.outline.forEach((p, i) => {
      const q = g.outline[(i + 1) % g.outline.length];
      around += norm(q[0] - p[0], q[1] - p[1]);
    });
    const width = (2 * Math.abs(signedArea(g.outline))) / around;
    if (g.floorArea === 0 || (g.floorArea >= LEAST_FLOOR && width >= LEAST_WIDTH)) return [];
    const { name } = project.spaces[g.id];
    return [
      report(
        "sliver",
        "warning",
        g.id,
        `${name} is a sliver: ${quantity(g.floorArea, "m²", 2)}, ${quantity(width, "m", 2)} wide. Merge it with a neighbour or remove it.`,
      ),
    ];
  });
}
