import { applyChanges, signedArea, type Change, type Orientation, type Point, type Project, type Ring, type Space, quantity } from "../model/index.ts";
import { atan2, cos, PI, sin } from "../numeric/index.ts";
import { trueAzimuth } from "./face.ts";
import { partNames, perimeterAndCore } from "./massing.ts";
import { orientationOf } from "./openings.ts";
import { namedRing } from "./outlineIds.ts";
import {
  differenceOf,
  fault,
  freeId,
  no,
  outlinesOf,
  prism,
  prismOf,
  ringOf,
  round,
  SAME,
  without,
  type Corner,
  type PlanEdit,
  type Prism,
} from "./planBasics.ts";
import { clipLeft, intersection, isConvex, norm, straightened, union, type Polygon } from "./polygon.ts";
import { rehost } from "./rehost.ts";
import { offsetRing } from "./skeleton.ts";

/** A new space on an outline. @param kit its envelope kit; null: the project's */
export function drawSpace(project: Project, storey: string, ring: Ring, name?: string, kit: string | null = null): PlanEdit {
  const said = fault(ring);
  if (said !== null) return no(said);
  const own = name ?? `Space ${Object.keys(project.spaces).length + 1}`;
  const id = freeId(project.spaces, own);
  const types = Object.keys(project.spaceTypes);
  const value: Space = { name: own, storey, zone: null, spaceType: types.length === 1 ? types[0] : null, kit, form: prism(ring), inputs: {} };
  return { ok: true, name: `Draw ${own}`, changes: [{ op: "insert", path: ["spaces", id], value }], select: [id] };
}

/** Corners of an arc from one point to another as facets, the end left out. @param bulge height of the arc over its chord as a share of the chord, positive to the right of the direction */
export function arcFacets(from: Point, to: Point, bulge: number, facets: number): Point[] {
  const cx = to[0] - from[0];
  const cy = to[1] - from[1];
  const chord = Math.sqrt(cx * cx + cy * cy);
  if (chord === 0 || Math.abs(bulge) < 1e-4) return [from];
  const h = Math.abs(bulge) * chord;
  const radius = (chord * chord) / (8 * h) + h / 2;
  const side = bulge > 0 ? 1 : -1;
  // unit vector to the bulge side
  const n: Point = [(side * cy) / chord, (-side * cx) / chord];
  const centre: Point = [(from[0] + to[0]) / 2 + n[0] * (h - radius), (from[1] + to[1]) / 2 + n[1] * (h - radius)];
  const start = atan2(from[1] - centre[1], from[0] - centre[0]);
  let sweep = atan2(to[1] - centre[1], to[0] - centre[0]) - start;
  const full = 2 * PI;
  // right of the direction: counter-clockwise round the centre
  if (side > 0) while (sweep <= 0) sweep += full;
  else while (sweep >= 0) sweep -= full;
  return Array.from({ length: facets }, (_, i): Point => {
    const a = start + (sweep * i) / facets;
    return [round(centre[0] + radius * cos(a)), round(centre[1] + radius * sin(a))];
  });
}

/** New corners where those of other spaces lie in the middle of an edge, so that a move takes both along. */
function withJunctions(project: Project, storey: string, points: readonly Point[]): Project {
  const spaces = { ...project.spaces };
  let any = false;
  for (const [id, form] of outlinesOf(project, storey)) {
    const outline: Corner[] = [];
    let added = false;
    form.outline.forEach((p, i) => {
      const q = form.outline[(i + 1) % form.outline.length];
      outline.push(p);
      const l = norm(q.x - p.x, q.y - p.y);
      const [dx, dy] = [(q.x - p.x) / l, (q.y - p.y) / l];
      const inside = points
        .map((m): [number, Point] => [(m[0] - p.x) * dx + (m[1] - p.y) * dy, m])
        .filter(([s, m]) => s > SAME && s < l - SAME && Math.abs((m[0] - p.x) * dy - (m[1] - p.y) * dx) < SAME)
        .sort(([a], [b]) => a - b)
        .filter(([s], k, all) => k === 0 || s - all[k - 1][0] > SAME);
      for (const [, m] of inside) {
        let n = form.outline.length + 1;
        while ([...form.outline, ...outline].some((c) => c.id === `e${n}`)) n++;
        outline.push({ id: `e${n}`, x: m[0], y: m[1] });
        added = true;
      }
    });
    if (!added) continue;
    any = true;
    spaces[id] = { ...spaces[id], form: { ...form, outline } };
  }
  return any ? rehost(project, { ...project, spaces }) : project;
}

/** Moves all corners of a storey for which `to` gives a place; refuses outlines that come to cross themselves. */
function moveCorners(
  project: Project,
  storey: string,
  name: string,
  select: readonly string[],
  to: (space: string, c: Corner) => Point | null,
  from = project,
): PlanEdit {
  const spaces = { ...project.spaces };
  for (const [id, form] of outlinesOf(project, storey)) {
    let moved = false;
    const outline = form.outline.map((c) => {
      const p = to(id, c);
      if (!p) return c;
      moved = true;
      return { ...c, x: round(p[0]), y: round(p[1]) };
    });
    if (!moved) continue;
    // corners that came together are one
    const kept = outline.filter((c, i) => {
      const q = outline[(i + 1) % outline.length];
      return norm(q.x - c.x, q.y - c.y) > SAME;
    });
    const ring = kept.map((c): Point => [c.x, c.y]);
    if (kept.length < 3 || signedArea(ring) < 0.05) return no(`${project.spaces[id].name} would be left without area.`);
    const said = fault(ring);
    if (said !== null) return no(`${project.spaces[id].name}: ${said}`);
    spaces[id] = { ...project.spaces[id], form: { ...form, outline: kept } };
  }
  const changes = differenceOf(from, { ...project, spaces });
  return changes.length === 0 ? no("Nothing moves.") : { ok: true, name, changes, select };
}

/** Corners of a storey that lie on a wall which a point ends or parts: they hold their place when it moves. */
function holding(project: Project, storey: string, at: Point): Point[] {
  const forms = outlinesOf(project, storey);
  const corners = forms.flatMap(([, f]) => ringOf(f));
  const out: Point[] = [at];
  for (const [, form] of forms)
    form.outline.forEach((p, i) => {
      const q = form.outline[(i + 1) % form.outline.length];
      const l = norm(q.x - p.x, q.y - p.y);
      const [dx, dy] = [(q.x - p.x) / l, (q.y - p.y) / l];
      const on = (c: Point): boolean => {
        const s = (c[0] - p.x) * dx + (c[1] - p.y) * dy;
        return s > -SAME && s < l + SAME && Math.abs((c[0] - p.x) * dy - (c[1] - p.y) * dx) < SAME;
      };
      if (on(at)) out.push(...corners.filter(on));
    });
  return out;
}

/** Moves a corner, with all spaces of the storey that have a corner there or a wall that passes through it. */
export function moveCorner(project: Project, storey: string, at: Point, to: Point): PlanEdit {
  const joined = withJunctions(project, storey, holding(project, storey, at));
  return moveCorners(joined, storey, "Move a corner", [], (_, c) => (norm(c.x - at[0], c.y - at[1]) < SAME ? to : null), project);
}

/** Moves one edge by a step together with every edge that runs back to back with it, and on with theirs. */
export function moveEdge(project: Project, space: string, edge: string, step: Point): PlanEdit {
  const { storey } = project.spaces[space];
  const edges = outlinesOf(project, storey).flatMap(([id, form]) =>
    form.outline.map((p, i) => {
      const q = form.outline[(i + 1) % form.outline.length];
      const l = norm(q.x - p.x, q.y - p.y);
      return { id, edge: p.id, p, q, next: q.id, dx: (q.x - p.x) / l, dy: (q.y - p.y) / l, l };
    }),
  );
  const first = edges.find((e) => e.id === space && e.edge === edge);
  if (!first) return no("This wall is gone.");
  const chain = new Set([first]);
  for (const a of chain)
    for (const b of edges) {
      if (chain.has(b) || a.dx * b.dx + a.dy * b.dy > -0.9999) continue;
      const [rx, ry] = [b.p.x - a.p.x, b.p.y - a.p.y];
      if (Math.abs(rx * a.dy - ry * a.dx) > SAME) continue;
      const s = rx * a.dx + ry * a.dy;
      if (Math.min(a.l, s) - Math.max(0, s - b.l) > SAME) chain.add(b);
    }
  const corners = new Set([...chain].flatMap((e) => [`${e.id} ${e.edge}`, `${e.id} ${e.next}`]));
  return moveCorners(project, storey, "Move a wall", [space], (id, c) => (corners.has(`${id} ${c.id}`) ? [c.x + step[0], c.y + step[1]] : null));
}

/** Gives an edge a length by moving the wall at its end. */
export function setEdgeLength(project: Project, space: string, edge: string, length: number): PlanEdit {
  const form = prismOf(project, space);
  const i = form?.outline.findIndex((p) => p.id === edge) ?? -1;
  if (!form || i < 0) return no("This wall is gone.");
  if (!(length >= 0.05 && length <= 1000)) return no("A wall is between 0.05 and 1,000 m long.");
  const [p, q] = [form.outline[i], form.outline[(i + 1) % form.outline.length]];
  const l = norm(q.x - p.x, q.y - p.y);
  const k = (length - l) / l;
  return moveEdge(project, space, q.id, [(q.x - p.x) * k, (q.y - p.y) * k]);
}

/** Moves whole spaces. */
export function moveSpaces(project: Project, ids: readonly string[], step: Point): PlanEdit {
  const spaces = { ...project.spaces };
  for (const id of ids) {
    const { form } = project.spaces[id];
    spaces[id] = {
      ...project.spaces[id],
      form:
        form.kind === "prism"
          ? { ...form, outline: form.outline.map((c) => ({ ...c, x: round(c.x + step[0]), y: round(c.y + step[1]) })) }
          : {
              ...form,
              faces: Object.fromEntries(
                Object.entries(form.faces).map(([k, f]) => [
                  k,
                  { ring: f.ring.map(([x, y, z]) => [round(x + step[0]), round(y + step[1]), z] as [number, number, number]) },
                ]),
              ),
            },
    };
  }
  const sensors = Object.fromEntries(
    Object.entries(project.sensors).map(([k, s]) => [k, ids.includes(s.space) ? { ...s, x: round(s.x + step[0]), y: round(s.y + step[1]) } : s]),
  );
  const openings = Object.fromEntries(
    Object.entries(project.openings).map(([k, o]) => {
      if (!("host" in o) || !o.host || !ids.includes(o.host.split("/")[0])) return [k, o];
      if (o.kind === "skylight") return [k, { ...o, x: round(o.x + step[0]), y: round(o.y + step[1]) }];
      return [k, o.kind === "outline" ? { ...o, ring: o.ring.map(([x, y, z]) => [round(x + step[0]), round(y + step[1]), z] as [number, number, number]) } : o];
    }),
  );
  return {
    ok: true,
    name: ids.length === 1 ? `Move ${project.spaces[ids[0]].name}` : `Move ${ids.length} spaces`,
    changes: differenceOf(project, { ...project, spaces, sensors, openings }),
    select: ids,
  };
}

/** Spaces in place of others: the first keeps the first one's id; what hung on their walls is hung on the wall that now stands there. */
function replace(
  project: Project,
  name: string,
  old: readonly string[],
  made: readonly { readonly id: string; readonly space: Space }[],
  zones: Project["zones"] = {},
): PlanEdit {
  const spaces = Object.fromEntries(
    Object.entries(project.spaces).flatMap(([id, s]): [string, Space][] => {
      if (id === old[0]) return made.map((m) => [m.id, m.space]);
      return old.includes(id) ? [] : [[id, s]];
    }),
  );
  const next = rehost(project, { ...project, spaces, zones: { ...project.zones, ...zones } });
  const changes = differenceOf(project, next);
  const lost = Object.keys(project.openings).length - Object.keys(next.openings).length;
  return {
    ok: true,
    name: lost > 0 ? `${name}; ${lost} opening${lost > 1 ? "s" : ""} in walls that are gone removed` : name,
    changes,
    select: made.map((m) => m.id),
  };
}

/** Parts a space along the line through two points. */
export function splitSpace(project: Project, id: string, a: Point, b: Point): PlanEdit {
  const form = prismOf(project, id);
  if (!form) return no("Only a space with an outline can be split.");
  if (norm(b[0] - a[0], b[1] - a[1]) < SAME) return no("Two different points make the line along which to split.");
  const ring = ringOf(form);
  const parts = [...cutLeft(ring, a, b), ...cutLeft(ring, b, a)].filter((r) => Math.abs(signedArea(r)) > 0.01);
  if (parts.length < 2) return no(`This line does not cross ${project.spaces[id].name}.`);
  const space = project.spaces[id];
  const taken: Record<string, unknown> = { ...project.spaces };
  const zones: Project["zones"] = {};
  const made = parts.map((r, i) => {
    if (i === 0) return { id, space: { ...space, form: { ...form, outline: namedRing(form.outline, r) } } };
    const name = `${space.name} ${i + 1}`;
    const key = freeId(taken, name);
    taken[key] = true;
    return { id: key, space: { ...space, name, form: { ...form, outline: namedRing(form.outline, r) } } };
  });
  return replace(project, `Split ${space.name}`, [id], made, zones);
}

/** Parts of an outline to the left of a line. */
function cutLeft(ring: Ring, a: Point, b: Point): Ring[] {
  if (isConvex(ring)) return [clipLeft(ring, a, b)].filter((r) => r.length > 2);
  const reach = 4 * Math.max(10, ...ring.flatMap((p) => [Math.abs(p[0] - a[0]), Math.abs(p[1] - a[1])]));
  const l = norm(b[0] - a[0], b[1] - a[1]);
  const d: Point = [((b[0] - a[0]) / l) * reach, ((b[1] - a[1]) / l) * reach];
  const half: Polygon = [
    [
      [a[0] - d[0], a[1] - d[1]],
      [a[0] + d[0], a[1] + d[1]],
      [a[0] + d[0] - d[1], a[1] + d[1] + d[0]],
      [a[0] - d[0] - d[1], a[1] - d[1] + d[0]],
    ],
  ];
  return intersection([[ring]], [half]).map((p) => p[0]);
}

/** Joins spaces that touch into the first of them. */
export function mergeSpaces(project: Project, ids: readonly string[]): PlanEdit {
  if (ids.length < 2) return no("Choose at least two spaces to merge.");
  const forms = ids.map((id) => prismOf(project, id));
  if (forms.some((f) => !f)) return no("Only spaces with an outline can be merged.");
  const first = project.spaces[ids[0]];
  if (ids.some((id) => project.spaces[id].storey !== first.storey))
    return no("Spaces of different storeys cannot be merged; give the lower one the height of both instead.");
  const whole = union((forms as Prism[]).map((f): Polygon => [ringOf(f)]));
  if (whole.length > 1) return no("These spaces do not all touch each other along a wall.");
  if (whole[0].length > 1) return no("Together these spaces enclose a court; a space has one plain outline.");
  const ring = straightened(whole[0][0]);
  const form: Prism = { ...(forms[0] as Prism), outline: namedRing((forms[0] as Prism).outline, ring) };
  return replace(project, `Merge ${ids.length} spaces into ${first.name}`, ids, [{ id: ids[0], space: { ...first, form } }]);
}

/** Moves all walls of a space in (above 0) or out. */
export function offsetSpace(project: Project, id: string, distance: number): PlanEdit {
  const form = prismOf(project, id);
  if (!form) return no("Only a space with an outline can be offset.");
  if (!(Math.abs(distance) >= 0.01 && Math.abs(distance) <= 100)) return no("An offset is between 0.01 and 100 m, inward above 0.");
  const rings = offsetRing(straightened(ringOf(form)), distance);
  if (rings.length !== 1)
    return no(
      rings.length === 0
        ? `Nothing of ${project.spaces[id].name} is left ${quantity(distance, "m")} inward.`
        : `${project.spaces[id].name} falls into ${rings.length} parts ${quantity(distance, "m")} inward.`,
    );
  const ring = rings[0];
  // same number of walls: each keeps its id
  const outline = ring.length === form.outline.length ? matched(form.outline, ring) : namedRing([], ring);
  const spaces = { ...project.spaces, [id]: { ...project.spaces[id], form: { ...form, outline } } };
  const next = ring.length === form.outline.length ? { ...project, spaces } : rehost(project, { ...project, spaces });
  return { ok: true, name: `Offset ${project.spaces[id].name} by ${quantity(distance, "m")}`, changes: differenceOf(project, next), select: [id] };
}

/** Ids of corners of one ring given to the nearest corners, in order, of another. */
function matched(old: readonly Corner[], ring: Ring): Corner[] {
  const n = ring.length;
  let best = 0;
  let least = Infinity;
  for (let k = 0; k < n; k++) {
    const sum = old.reduce((s, c, i) => s + norm(c.x - ring[(i + k) % n][0], c.y - ring[(i + k) % n][1]), 0);
    if (sum < least) [best, least] = [k, sum];
  }
  return old.map((c, i) => ({ id: c.id, x: round(ring[(i + best) % n][0]), y: round(ring[(i + best) % n][1]) }));
}

/** Takes spaces away with what hangs on them. */
export function removeSpaces(project: Project, ids: readonly string[]): PlanEdit {
  const gone = new Set(ids);
  const of = (host: string | null | undefined): boolean => !!host && gone.has(host.split("/")[0]);
  const openings = without(project.openings, (o) => ("host" in o && of(o.host)) || ("space" in o && o.space !== null && gone.has(o.space)));
  const next: Project = {
    ...project,
    spaces: Object.fromEntries(Object.entries(project.spaces).filter(([id]) => !gone.has(id))),
    openings,
    shades: without(project.shades, (s) =>
      s.kind === "plane"
        ? false
        : s.kind === "plate"
          ? of(s.host)
          : s.target.kind === "wall"
            ? of(s.target.host)
            : s.target.kind === "opening" && !Object.hasOwn(openings, s.target.opening),
    ),
    faceOverrides: without(project.faceOverrides, (o) => of(o.host)),
    sensors: without(project.sensors, (s) => gone.has(s.space)),
  };
  return {
    ok: true,
    name: ids.length === 1 ? `Remove ${project.spaces[ids[0]].name}` : `Remove ${ids.length} spaces`,
    changes: differenceOf(project, next),
    select: [],
  };
}

/** Perimeter parts and a core in place of spaces that together have one outline, each a zone of its own. @param depth m, or by side of the outline */
export function perimeterOf(project: Project, ids: readonly string[], depth: number | Readonly<Record<Orientation, number>>): PlanEdit {
  if (ids.length === 0) return no("Choose the space, or all spaces of a storey, to part.");
  const forms = ids.map((id) => prismOf(project, id));
  if (forms.some((f) => !f)) return no("Only spaces with an outline can be parted.");
  const whole = union((forms as Prism[]).map((f): Polygon => [ringOf(f)]));
  if (whole.length > 1) return no("These spaces do not form one outline.");
  const depths = typeof depth === "number" ? depth : whole[0].map((ring) => ring.map((p, i) => depth[sideOf(project, p, ring[(i + 1) % ring.length])]));
  if (typeof depth === "number" ? !(depth > 0 && depth <= 100) : Object.values(depth).some((d) => !(d >= 0 && d <= 100)))
    return no("A perimeter is between 0 and 100 m deep.");
  const cut = perimeterAndCore(whole[0], depths, project.site.planNorth);
  if (!cut.ok) return no(cut.message);
  const source = project.spaces[ids[0]];
  const names = partNames(cut.parts);
  const taken: Record<string, unknown> = { ...project.spaces };
  const zones: Project["zones"] = {};
  const made = cut.parts.map((part, i) => {
    const name = `${source.name}, ${names[i].name.toLowerCase()}`;
    const id = i === 0 ? ids[0] : freeId(taken, `${ids[0]}_${names[i].id}`);
    taken[id] = true;
    const zone = freeId({ ...project.zones, ...zones }, `${ids[0]}_${names[i].id}`);
    zones[zone] = { name, services: source.zone === null ? null : (project.zones[source.zone]?.services ?? null), inputs: {} };
    const form: Prism = { ...(forms[0] as Prism), outline: namedRing([], part.ring) };
    return { id, space: { ...source, name, zone, form } };
  });
  const done = replace(project, `Perimeter and core of ${source.name}`, ids, made, zones);
  if (!done.ok) return done;
  // zones that nothing is left in go with their spaces
  const applied = applyChanges(project, done.changes);
  if (!applied.ok) return no(applied.message);
  const left = new Set(Object.values(applied.project.spaces).map((s) => s.zone));
  const empty = ids
    .flatMap((id) => project.spaces[id].zone ?? [])
    .filter((z) => !left.has(z) && !Object.values(project.airExchanges).some((e) => e.zones.includes(z)));
  return { ...done, changes: [...done.changes, ...[...new Set(empty)].map((z): Change => ({ op: "remove", path: ["zones", z], old: project.zones[z] }))] };
}

/** Quarter of the compass the outer side of an edge looks to. */
const sideOf = (project: Project, p: Point, q: Point): Orientation => orientationOf(trueAzimuth(project, q[1] - p[1], p[0] - q[0]));
