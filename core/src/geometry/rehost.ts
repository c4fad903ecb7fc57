import type { Point, Project, Space } from "../model/index.ts";
import { norm, ringHolds } from "./polygon.ts";

interface Edge {
  readonly host: string;
  readonly start: Point;
  readonly dx: number;
  readonly dy: number;
  readonly length: number;
  readonly low: number;
}

const CLOSE = 0.02;

function edgesOf(project: Project, id: string, space: Space): Edge[] {
  if (space.form.kind !== "prism") return [];
  const { outline } = space.form;
  const low = project.storeys[space.storey].elevation + (space.form.base ?? 0);
  return outline.map((p, i) => {
    const q = outline[(i + 1) % outline.length];
    const length = norm(q.x - p.x, q.y - p.y);
    return { host: `${id}/${p.id}`, start: [p.x, p.y], dx: (q.x - p.x) / length, dy: (q.y - p.y) / length, length, low };
  });
}

const at = (e: Edge, s: number): Point => [e.start[0] + e.dx * s, e.start[1] + e.dy * s];
const along = (e: Edge, p: Point): number => (p[0] - e.start[0]) * e.dx + (p[1] - e.start[1]) * e.dy;
const onEdge = (e: Edge, p: Point): boolean => {
  const s = along(e, p);
  return s > -CLOSE && s < e.length + CLOSE && Math.abs((p[0] - e.start[0]) * e.dy - (p[1] - e.start[1]) * e.dx) < CLOSE;
};

/**
 * Hangs openings, overrides, sensors and plates of walls that changed onto the walls that stand in their
 * place. What finds no wall is taken away; a wall that was parted passes what it is made of to all its parts.
 */
export function rehost(before: Project, after: Project): Project {
  const changed = Object.keys({ ...before.spaces, ...after.spaces }).filter((id) => before.spaces[id]?.form !== after.spaces[id]?.form);
  if (changed.length === 0) return after;
  const old = new Map(changed.flatMap((id) => (before.spaces[id] ? edgesOf(before, id, before.spaces[id]) : [])).map((e) => [e.host, e]));
  const present = changed.flatMap((id) => (after.spaces[id] ? edgesOf(after, id, after.spaces[id]) : []));
  const ofChanged = (host: string): boolean => changed.includes(host.split("/")[0]);
  const stays = (host: string): boolean => {
    const a = old.get(host);
    const b = present.find((e) => e.host === host);
    return !!a && !!b && Math.abs(a.start[0] - b.start[0]) + Math.abs(a.start[1] - b.start[1]) < 1e-9 && Math.abs(a.length - b.length) < 1e-9;
  };
  /** The wall at a point of an old one, looking the same way. */
  const find = (e: Edge, s: number): Edge | undefined => {
    const p = at(e, s);
    return present.find((n) => n.dx * e.dx + n.dy * e.dy > 0.999 && onEdge(n, p) && Math.abs(n.low - e.low) < 0.5);
  };
  /** A floor or ceiling: all spaces now within the old outline. */
  const plates = (host: string): string[] => {
    const [id, part] = host.split("/");
    const form = before.spaces[id]?.form;
    if (form?.kind !== "prism") return [];
    const kind = form.floor === part ? "floor" : form.ceiling === part ? "ceiling" : null;
    if (!kind) return [];
    const ring = form.outline.map((p): Point => [p.x, p.y]);
    return changed.flatMap((k) => {
      const now = after.spaces[k]?.form;
      if (now?.kind !== "prism") return [];
      const middle = now.outline.reduce((m, p): Point => [m[0] + p.x / now.outline.length, m[1] + p.y / now.outline.length], [0, 0]);
      return ringHolds(ring, middle) || k === id ? [`${k}/${now[kind]}`] : [];
    });
  };
  const openings: Project["openings"] = {};
  for (const [key, o] of Object.entries(after.openings)) {
    const host = "host" in o ? o.host : null;
    if ("space" in o && o.space !== null && !after.spaces[o.space]) continue;
    if (!host || !ofChanged(host) || stays(host)) {
      openings[key] = o;
      continue;
    }
    const e = old.get(host);
    if (!e) {
      // skylights and openings of ceilings
      const place = o.kind === "skylight" ? ([o.x, o.y] as Point) : null;
      const to = plates(host).find((h) => {
        const form = after.spaces[h.split("/")[0]].form;
        return (
          !place ||
          (form.kind === "prism" &&
            ringHolds(
              form.outline.map((p): Point => [p.x, p.y]),
              place,
            ))
        );
      });
      if (to) openings[key] = { ...o, host: to } as typeof o;
      continue;
    }
    if (o.kind === "placed") {
      const n = find(e, o.offset + o.width / 2);
      if (n) openings[key] = { ...o, host: n.host, offset: Math.max(0, Math.round(along(n, at(e, o.offset)) * 1e4) / 1e4) };
    } else {
      const n = find(e, e.length / 2);
      if (n) openings[key] = { ...o, host: n.host } as typeof o;
    }
  }
  const faceOverrides: Project["faceOverrides"] = {};
  for (const [key, o] of Object.entries(after.faceOverrides)) {
    if (!ofChanged(o.host) || stays(o.host)) {
      faceOverrides[key] = o;
      continue;
    }
    const e = old.get(o.host);
    const hosts = e
      ? present.filter((n) => n.dx * e.dx + n.dy * e.dy > 0.999 && (onEdge(e, at(n, n.length / 2)) || onEdge(n, at(e, e.length / 2)))).map((n) => n.host)
      : plates(o.host);
    hosts.forEach((host, i) => {
      let id = i === 0 ? key : `${key}_${i + 1}`;
      while (i > 0 && Object.hasOwn(after.faceOverrides, id)) id = `${id}_`;
      faceOverrides[id] = { ...o, host };
    });
  }
  const shades: Project["shades"] = {};
  for (const [key, s] of Object.entries(after.shades)) {
    const host = s.kind === "plate" ? s.host : s.kind !== "plane" && s.target.kind === "wall" ? s.target.host : null;
    if (s.kind !== "plane" && s.kind !== "plate" && s.target.kind === "opening" && !Object.hasOwn(openings, s.target.opening)) continue;
    if (!host || !ofChanged(host) || stays(host)) {
      shades[key] = s;
      continue;
    }
    const e = old.get(host);
    const n = e && find(e, s.kind === "plate" ? (s.from + s.to) / 2 : e.length / 2);
    if (!e || !n) continue;
    if (s.kind === "plate") {
      const from = Math.max(0, along(n, at(e, s.from)));
      shades[key] = { ...s, host: n.host, from, to: Math.max(from + 0.01, along(n, at(e, s.to))) };
    } else if (s.kind !== "plane") shades[key] = { ...s, target: { kind: "wall", host: n.host } };
  }
  const sensors: Project["sensors"] = {};
  for (const [key, s] of Object.entries(after.sensors)) {
    if (!changed.includes(s.space)) {
      sensors[key] = s;
      continue;
    }
    const home = changed.find((id) => {
      const form = after.spaces[id]?.form;
      return (
        form?.kind === "prism" &&
        ringHolds(
          form.outline.map((p): Point => [p.x, p.y]),
          [s.x, s.y],
        )
      );
    });
    const space = home ?? (after.spaces[s.space] ? s.space : null);
    if (space) sensors[key] = { ...s, space };
  }
  return { ...after, openings, faceOverrides, shades, sensors };
}
