import { signedArea, type Change, type Point, type Project, type Ring } from "../model/index.ts";
import { TOLERANCE } from "./face.ts";
import { norm } from "./polygon.ts";

/** The change that gives a prism a new outline; edges that lie on old ones keep their ids. */
export function outlineChange(project: Project, id: string, ring: Ring): Change {
  const { form } = project.spaces[id];
  if (form.kind !== "prism") throw new RangeError(`space "${id}" has no outline`);
  return { op: "set", path: ["spaces", id, "form"], value: { ...form, outline: namedRing(form.outline, ring) }, old: form };
}

/** Corners with edge ids: an edge that lies on an old edge takes its id, the first time; others get new ones. */
export function namedRing(old: readonly { id: string; x: number; y: number }[], ring: Ring): { id: string; x: number; y: number }[] {
  const given = signedArea(ring) < 0 ? [...ring].reverse() : ring;
  const used = new Set<string>();
  let n = 0;
  const fresh = (): string => {
    do n++;
    while (used.has(`e${n}`) || old.some((p) => p.id === `e${n}`));
    return `e${n}`;
  };
  return given.map((p, i) => {
    const q = given[(i + 1) % given.length];
    const match = old.find((o, k) => {
      if (used.has(o.id)) return false;
      const next = old[(k + 1) % old.length];
      const l = norm(next.x - o.x, next.y - o.y);
      const [dx, dy] = [(next.x - o.x) / l, (next.y - o.y) / l];
      const on = (r: Point): boolean => {
        const s = (r[0] - o.x) * dx + (r[1] - o.y) * dy;
        return Math.abs((r[0] - o.x) * dy - (r[1] - o.y) * dx) < TOLERANCE && s > -TOLERANCE && s < l + TOLERANCE;
      };
      return on(p) && on(q) && (q[0] - p[0]) * dx + (q[1] - p[1]) * dy > 0;
    });
    const id = match?.id ?? fresh();
    used.add(id);
    return { id, x: Math.round(p[0] * 1e4) / 1e4, y: Math.round(p[1] * 1e4) / 1e4 };
  });
}
