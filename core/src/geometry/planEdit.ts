import { atan2, cos, PI, sin } from "../numeric/index.ts";
import { applyChanges, outlineFault, signedArea, type Change, type Point, type Project, type Ring, type Roof, type Space } from "../model/index.ts";
import { namedRing } from "./formChecks.ts";
import { perimeterAndCore, type StoreyPart } from "./massing.ts";
import { areaOf, centroid, clipLeft, intersection, isConvex, norm, type Polygon, ringHolds, straightened, union, withoutHoles } from "./polygon.ts";
import { rehost } from "./rehost.ts";
import { offsetRing } from "./skeleton.ts";

/** What an action on the plan comes to: one undoable step, or the sentence that refuses it. */
export type PlanEdit =
  | { readonly ok: true; readonly name: string; readonly changes: readonly Change[]; /** Spaces to select afterwards. */ readonly select: readonly string[] }
  | { readonly ok: false; readonly message: string };

type Prism = Extract<Space["form"], { kind: "prism" }>;
type Corner = Prism["outline"][number];

/** Corners nearer than this are one, m. */
const SAME = 0.005;

const no = (message: string): PlanEdit => ({ ok: false, message });
const round = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;
const set = (project: Project, id: string, form: Space["form"]): Change => ({
  op: "set",
  path: ["spaces", id, "form"],
  value: form,
  old: project.spaces[id].form,
});

/** An id that a record of things does not have yet. */
export function freeId(things: Readonly<Record<string, unknown>>, base: string): string {
  const clean =
    base
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .replace(/^_+|_+$/g, "")
      .slice(0, 48) || "item";
  if (!Object.hasOwn(things, clean)) return clean;
  for (let n = 2; ; n++) if (!Object.hasOwn(things, `${clean}_${n}`)) return `${clean}_${n}`;
}

/** Outline of a prism in plan. */
const ringOf = (form: Prism): Point[] => form.outline.map((p): Point => [p.x, p.y]);
const prismOf = (project: Project, id: string): Prism | null => {
  const form = project.spaces[id]?.form;
  return form?.kind === "prism" ? form : null;
};

/** Spaces of a storey that have an outline. */
export function outlinesOf(project: Project, storey: string): [string, Prism][] {
  return Object.entries(project.spaces).flatMap(([id, s]): [string, Prism][] => (s.storey === storey && s.form.kind === "prism" ? [[id, s.form]] : []));
}

function fault(ring: Ring): string | null {
  const said = outlineFault(ring);
  if (said !== null) return `This outline cannot be used: ${said}.`;
  return Math.abs(signedArea(ring)) < 0.05 ? "This outline encloses less than 0.05 m²." : null;
}

/** A form with a flat floor and ceiling on an outline. */
function prism(ring: Ring, like?: Prism): Prism {
  const { base, height, roof } = like ?? {};
  return {
    kind: "prism",
    outline: namedRing([], ring),
    floor: "floor",
    ceiling: "ceiling",
    ...(base !== undefined ? { base } : {}),
    ...(height !== undefined ? { height } : {}),
    ...(roof !== undefined ? { roof } : {}),
  };
}

/** A new space on an outline. */
export function drawSpace(project: Project, storey: string, ring: Ring, name?: string): PlanEdit {
  const said = fault(ring);
  if (said !== null) return no(said);
  const own = name ?? `Space ${Object.keys(project.spaces).length + 1}`;
  const id = freeId(project.spaces, own);
  const types = Object.keys(project.spaceTypes);
  const value: Space = { name: own, storey, zone: null, spaceType: types.length === 1 ? types[0] : null, kit: null, form: prism(ring), inputs: {} };
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
  let changes: Change[] = [];
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
    if (added) changes = [...changes, set(project, id, { ...form, outline })];
  }
  if (changes.length === 0) return project;
  const applied = applyChanges(project, changes);
  return applied.ok ? rehost(project, applied.project) : project;
}

/** The changes that turn one document's spaces and what hangs on them into another's. */
export function differenceOf(before: Project, after: Project): Change[] {
  const changes: Change[] = [];
  for (const part of ["storeys", "roofs", "zones", "spaceTypes", "spaces", "openings", "shades", "faceOverrides", "sensors", "airExchanges"] as const) {
    const [a, b] = [before[part] as Record<string, unknown>, after[part] as Record<string, unknown>];
    if (a === b) continue;
    for (const [id, value] of Object.entries(b)) {
      if (!Object.hasOwn(a, id)) changes.push({ op: "insert", path: [part, id], value });
      else if (a[id] !== value) {
        const [x, y] = [a[id] as Record<string, unknown>, value as Record<string, unknown>];
        // a moved outline leaves the rest of its space as it is
        if (part === "spaces" && Object.keys({ ...x, ...y }).every((k) => k === "form" || x[k] === y[k]))
          changes.push({ op: "set", path: [part, id, "form"], value: y.form, old: x.form });
        else changes.push({ op: "set", path: [part, id], value, old: a[id] });
      }
    }
    for (const [id, old] of Object.entries(a)) if (!Object.hasOwn(b, id)) changes.push({ op: "remove", path: [part, id], old });
  }
  return changes;
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
  const old = (forms as Prism[]).flatMap((f) => f.outline);
  const names = new Map<string, Corner>();
  for (const c of old) if (!names.has(c.id)) names.set(c.id, c);
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
        ? `Nothing of ${project.spaces[id].name} is left ${distance} m inward.`
        : `${project.spaces[id].name} falls into ${rings.length} parts ${distance} m inward.`,
    );
  const ring = rings[0];
  // same number of walls: each keeps its id
  const outline = ring.length === form.outline.length ? matched(form.outline, ring) : namedRing([], ring);
  const spaces = { ...project.spaces, [id]: { ...project.spaces[id], form: { ...form, outline } } };
  const next = ring.length === form.outline.length ? { ...project, spaces } : rehost(project, { ...project, spaces });
  return { ok: true, name: `Offset ${project.spaces[id].name} by ${distance} m`, changes: differenceOf(project, next), select: [id] };
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
  const keep = <T>(things: Record<string, T>, drop: (t: T) => boolean): Record<string, T> =>
    Object.fromEntries(Object.entries(things).filter(([, t]) => !drop(t)));
  const openings = keep(project.openings, (o) => ("host" in o && of(o.host)) || ("space" in o && o.space !== null && gone.has(o.space)));
  const next: Project = {
    ...project,
    spaces: keep(project.spaces, () => false),
    openings,
    shades: keep(project.shades, (s) =>
      s.kind === "plane"
        ? false
        : s.kind === "plate"
          ? of(s.host)
          : s.target.kind === "wall"
            ? of(s.target.host)
            : s.target.kind === "opening" && !Object.hasOwn(openings, s.target.opening),
    ),
    faceOverrides: keep(project.faceOverrides, (o) => of(o.host)),
    sensors: keep(project.sensors, (s) => gone.has(s.space)),
  };
  next.spaces = Object.fromEntries(Object.entries(project.spaces).filter(([id]) => !gone.has(id)));
  return {
    ok: true,
    name: ids.length === 1 ? `Remove ${project.spaces[ids[0]].name}` : `Remove ${ids.length} spaces`,
    changes: differenceOf(project, next),
    select: [],
  };
}

/** Perimeter parts and a core in place of spaces that together have one outline, each a zone of its own. @param depth m, or by side of the outline */
export function perimeterOf(project: Project, ids: readonly string[], depth: number | Readonly<Record<"north" | "east" | "south" | "west", number>>): PlanEdit {
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

function sideOf(project: Project, p: Point, q: Point): "north" | "east" | "south" | "west" {
  const a = ((((atan2(q[1] - p[1], -(q[0] - p[0])) * 180) / PI + project.site.planNorth) % 360) + 360) % 360;
  return a >= 315 || a < 45 ? "north" : a < 135 ? "east" : a < 225 ? "south" : "west";
}

/** Ids and names of parts: by orientation, numbered where one comes more than once. */
export function partNames(parts: readonly StoreyPart[]): { id: string; name: string }[] {
  const total = new Map<string, number>();
  for (const p of parts) total.set(p.orientation, (total.get(p.orientation) ?? 0) + 1);
  const seen = new Map<string, number>();
  return parts.map((p) => {
    const n = (seen.get(p.orientation) ?? 0) + 1;
    seen.set(p.orientation, n);
    const many = (total.get(p.orientation) ?? 0) > 1;
    const whole = parts.length === 1;
    const word = whole ? "Storey" : p.orientation === "core" ? "Core" : `${p.orientation[0].toUpperCase()}${p.orientation.slice(1)}`;
    return { id: many ? `${p.orientation}_${n}` : whole ? "storey" : p.orientation, name: many ? `${word} ${n}` : word };
  });
}

/** A storey more, empty: on top of the highest, or a basement below the lowest. */
export function addStorey(project: Project, below = false): PlanEdit {
  const lowest = Object.values(project.storeys).sort((a, b) => a.elevation - b.elevation)[0];
  if (below && lowest) {
    const basements = Object.values(project.storeys).filter((s) => s.elevation < -0.1).length;
    const name = basements > 0 ? `Basement ${basements + 1}` : "Basement";
    const value = { name, elevation: round(lowest.elevation - 3), height: 3, multiplier: 1 };
    return { ok: true, name: `Add ${name}`, changes: [{ op: "insert", path: ["storeys", freeId(project.storeys, name)], value }], select: [] };
  }
  const top = Object.values(project.storeys).sort((a, b) => b.elevation - a.elevation)[0];
  const name = top ? `Floor ${Object.keys(project.storeys).length + 1}` : "Ground floor";
  const id = freeId(project.storeys, name);
  const value = { name, elevation: top ? round(top.elevation + top.height) : 0, height: top?.height ?? 3.5, multiplier: 1 };
  return { ok: true, name: `Add ${name}`, changes: [{ op: "insert", path: ["storeys", id], value }], select: [] };
}

/** A copy of a storey on top of the highest, with its spaces, each in a zone of its own name, their openings and what is set by hand. */
export function copyStorey(project: Project, storey: string): PlanEdit {
  const source = project.storeys[storey];
  const made = addStorey(project);
  if (!made.ok) return made;
  const change = made.changes[0];
  const id = change.path[1];
  const target = { ...(change.value as Project["storeys"][string]), height: source.height };
  const { underlay: _, ...level } = target;
  const next: Project = { ...project, storeys: { ...project.storeys, [id]: level } };
  const spaces = { ...project.spaces };
  const zones = { ...project.zones };
  const renamed = new Map<string, string>();
  const zoneOf = new Map<string, string>();
  for (const [key, s] of Object.entries(project.spaces)) {
    if (s.storey !== storey) continue;
    if (s.form.kind !== "prism") continue;
    const own = freeId(spaces, `${key}_${id}`);
    renamed.set(key, own);
    let zone = s.zone;
    if (zone !== null) {
      const known = zoneOf.get(zone);
      if (known) zone = known;
      else {
        const z = freeId(zones, `${zone}_${id}`);
        zones[z] = { ...project.zones[zone], name: `${project.zones[zone].name}, ${level.name.toLowerCase()}` };
        zoneOf.set(zone, z);
        zone = z;
      }
    }
    const { roof: __, ...form } = s.form;
    spaces[own] = { ...s, name: `${s.name}, ${level.name.toLowerCase()}`, storey: id, zone, form };
  }
  const there = (host: string): string | null => {
    const [s, e] = host.split("/");
    const own = renamed.get(s);
    return own ? `${own}/${e}` : null;
  };
  const openings = { ...project.openings };
  const copied = new Map<string, string>();
  for (const [key, o] of Object.entries(project.openings)) {
    const host = "host" in o && o.host ? there(o.host) : null;
    const space = "space" in o && o.space !== null ? renamed.get(o.space) : undefined;
    const byStorey = "storey" in o && o.storey === storey;
    if ((!host && space === undefined && !byStorey) || o.kind === "outline" || o.kind === "skylight") continue;
    const own = freeId(openings, `${key}_${id}`);
    copied.set(key, own);
    openings[own] = {
      ...o,
      ...(host ? { host } : {}),
      ...(space !== undefined ? { space } : {}),
      ...(byStorey ? { storey: id } : {}),
    } as Project["openings"][string];
  }
  const shades = { ...project.shades };
  for (const [key, s] of Object.entries(project.shades)) {
    if (s.kind === "plane") continue;
    const own = freeId(shades, `${key}_${id}`);
    if (s.kind === "plate") {
      const host = there(s.host);
      if (host) shades[own] = { ...s, host };
    } else if (s.target.kind === "opening" && copied.has(s.target.opening))
      shades[own] = { ...s, target: { kind: "opening", opening: copied.get(s.target.opening) as string } };
    else if (s.target.kind === "wall") {
      const host = there(s.target.host);
      if (host) shades[own] = { ...s, target: { kind: "wall", host } };
    } else if (s.target.kind === "orientation" && s.target.storey === storey) shades[own] = { ...s, target: { ...s.target, storey: id } };
  }
  const faceOverrides = { ...project.faceOverrides };
  for (const [key, o] of Object.entries(project.faceOverrides)) {
    const host = there(o.host);
    if (host) faceOverrides[freeId(faceOverrides, `${key}_${id}`)] = { ...o, host };
  }
  const after = { ...next, spaces, zones, openings, shades, faceOverrides };
  return { ok: true, name: `Copy ${source.name} as ${level.name}`, changes: differenceOf(project, after), select: [...renamed.values()] };
}

/** Takes a storey away with everything on it. */
export function removeStorey(project: Project, storey: string): PlanEdit {
  const ids = Object.entries(project.spaces).flatMap(([id, s]) => (s.storey === storey ? [id] : []));
  if (Object.keys(project.storeys).length < 2) return no("A project keeps at least one storey.");
  const spaces = removeSpaces(project, ids);
  if (!spaces.ok) return spaces;
  const applied = applyChanges(project, spaces.changes);
  if (!applied.ok) return no(applied.message);
  const p = applied.project;
  const keep = <T>(things: Record<string, T>, drop: (t: T) => boolean): Record<string, T> =>
    Object.fromEntries(Object.entries(things).filter(([, t]) => !drop(t)));
  const roofs = keep(p.roofs, (r) => r.storey === storey);
  const next: Project = {
    ...p,
    storeys: keep(p.storeys, (s) => s === project.storeys[storey]),
    roofs,
    openings: keep(p.openings, (o) => "storey" in o && o.storey === storey),
    shades: keep(p.shades, (s) => "target" in s && s.target.kind === "orientation" && s.target.storey === storey),
    spaces: Object.fromEntries(
      Object.entries(p.spaces).map(([id, s]) => {
        if (s.form.kind !== "prism" || s.form.roof === undefined || Object.hasOwn(roofs, s.form.roof)) return [id, s];
        const { roof: _, ...form } = s.form;
        return [id, { ...s, form }];
      }),
    ),
  };
  return { ok: true, name: `Remove ${project.storeys[storey].name}`, changes: differenceOf(project, next), select: [] };
}

/** What a roof space is used for: nothing. */
const ROOF_SPACE: Space["inputs"] = {
  heatingSetpoint: null,
  heatingSetback: null,
  coolingSetpoint: null,
  coolingSetback: null,
  peopleDensity: 0,
  lightingPower: 0,
  appliancePower: 0,
  outdoorAirPerPerson: 0,
  outdoorAirPerArea: 0,
};

/** A roof over all of a storey: as the top of its spaces, or over a roof space of its own. */
export function addRoof(
  project: Project,
  storey: string,
  kind: Roof["kind"],
  pitch: number,
  direction: number,
  as: "part of the storey" | "roof space",
): PlanEdit {
  const level = project.storeys[storey];
  const forms = outlinesOf(project, storey).filter(([, f]) => (f.base ?? 0) < level.height - 0.1);
  if (forms.length === 0) return no(`${level.name} has no space to roof.`);
  const whole = union(forms.map(([, f]): Polygon => [ringOf(f)]));
  if (kind === "flat" && as === "roof space") return no("A flat roof leaves no space under it; put it over the storey's own spaces.");
  const top = level.elevation + level.height;
  const above = Object.entries(project.storeys).find(
    ([id, s]) => id !== storey && s.elevation > top - 0.1 && outlinesOf(project, id).some(([, f]) => areaOf(intersection(whole, [[ringOf(f)]])) > 0.05),
  );
  if (above) return no(`${above[1].name} stands on ${level.name}; roof that one.`);
  const rings = whole.flatMap(withoutHoles).map(straightened);
  if (rings.length > 1 && as === "part of the storey" && (kind === "hip" || whole.length > 1))
    return no(`${level.name} has ${whole.length > 1 ? "more than one outline" : "a court"}; roof it part by part with roof spaces, or draw the roof flat.`);
  const name = `${kind[0].toUpperCase()}${kind.slice(1)} roof`;
  const next = { ...project, roofs: { ...project.roofs }, spaces: { ...project.spaces }, zones: { ...project.zones }, spaceTypes: { ...project.spaceTypes } };
  const select: string[] = [];
  rings.forEach((ring, i) => {
    const own = rings.length > 1 ? `${name} ${i + 1}` : name;
    const id = freeId(next.roofs, `${storey}_${own}`);
    next.roofs[id] = { name: own, storey, kind, outline: namedRing([], ring), eaves: level.height, pitch: kind === "flat" ? 0 : pitch, direction };
    if (as === "part of the storey") {
      for (const [key, form] of forms)
        if (ringHolds(ring, centroid(ringOf(form)))) {
          const { height: _, ...rest } = form;
          next.spaces[key] = { ...next.spaces[key], form: { ...rest, roof: id } };
          select.push(key);
        }
      return;
    }
    const space = freeId(next.spaces, `${storey}_roof_space`);
    const zone = freeId(next.zones, `${storey}_roof_space`);
    const label = rings.length > 1 ? `Roof space ${i + 1}` : "Roof space";
    next.zones[zone] = { name: label, services: null, inputs: {} };
    // neither heated nor cooled nor used until it is said otherwise
    next.spaceTypes.roof_space ??= { name: "Roof space", inputs: ROOF_SPACE };
    next.spaces[space] = {
      name: label,
      storey,
      zone,
      spaceType: "roof_space",
      kit: null,
      form: { ...prism(ring), base: level.height, roof: id },
      inputs: {},
    };
    select.push(space);
  });
  if (areaOf(rings.map((r) => [r])) === 0) return no(`${level.name} has no outline to roof.`);
  return { ok: true, name: `${name} over ${level.name}`, changes: differenceOf(project, next), select };
}

/** Removes a roof; spaces under it get a flat ceiling again, its roof spaces go. */
export function removeRoof(project: Project, roof: string): PlanEdit {
  const r = project.roofs[roof];
  const attics = Object.entries(project.spaces).flatMap(([id, s]) =>
    s.form.kind === "prism" && s.form.roof === roof && (s.form.base ?? 0) >= project.storeys[s.storey].height - 0.01 ? [id] : [],
  );
  const cleared = removeSpaces(project, attics);
  if (!cleared.ok) return cleared;
  const applied = applyChanges(project, cleared.changes);
  if (!applied.ok) return no(applied.message);
  const spaces = Object.fromEntries(
    Object.entries(applied.project.spaces).map(([id, s]) => {
      if (s.form.kind !== "prism" || s.form.roof !== roof) return [id, s];
      const { roof: _, ...form } = s.form;
      return [id, { ...s, form }];
    }),
  );
  const roofs = Object.fromEntries(Object.entries(project.roofs).filter(([id]) => id !== roof));
  return { ok: true, name: `Remove ${r.name}`, changes: differenceOf(project, { ...applied.project, spaces, roofs }), select: [] };
}
