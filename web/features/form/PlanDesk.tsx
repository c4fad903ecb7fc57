"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent, type WheelEvent } from "react";
import {
  applyChanges,
  arcFacets,
  checkProject,
  drawSpace,
  moveCorner,
  moveEdge,
  moveSpaces,
  splitSpace,
  type Opening,
  type PlanEdit,
  type Point,
  type Project,
  convert,
  readQuantity,
} from "@arroyo/core";
import { firstMessage } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { PlanDrawing, type PlanView } from "./PlanDrawing.tsx";
import { unitsNow } from "../../ui/units.ts";
import { PlanCorner, PlanTools } from "./PlanTools.tsx";
import { readPlace, readSize, snap, type Snapped } from "./snap.ts";

const PAD = 40;
/** Pixels within which a place is caught. */
const REACH = 10;

type Drag =
  | { readonly kind: "corner"; readonly at: Point }
  | { readonly kind: "wall"; readonly space: string; readonly edge: string; readonly from: Point; readonly normal: Point }
  | { readonly kind: "space"; readonly ids: readonly string[]; readonly from: Point }
  | { readonly kind: "view"; readonly x: number; readonly y: number; readonly start: PlanView };

/** Applies an action for a look at it, without keeping it. */
function looked(project: Project, e: PlanEdit | null): Project {
  if (!e?.ok) return project;
  const applied = applyChanges(project, e.changes);
  return applied.ok ? applied.project : project;
}

/** The plan of one storey, drawn and changed by pointer or by typing. */
export function PlanDesk({ project, storey, onPick }: { project: Project; storey: string; onPick: (id: string, add: boolean) => void }) {
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const { tool, grid, focus } = useForm();
  const setForm = useForm((s) => s.set);
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 500, height: 600 });
  const [view, setView] = useState<PlanView | null>(null);
  const [points, setPoints] = useState<readonly Point[]>([]);
  const [pointer, setPointer] = useState<Snapped | null>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const [typed, setTyped] = useState("");
  const [said, setSaid] = useState<string | null>(null);
  const [arc, setArc] = useState<{ on: boolean; bulge: number; facets: number }>({ on: false, bulge: 0.5, facets: 8 });
  const { geometry } = checkProject(project);

  const rings = useMemo(
    () =>
      [...geometry.spaces.values()]
        .filter(
          (g) =>
            project.spaces[g.id].storey === storey ||
            Math.abs(g.low - project.storeys[storey].elevation) < 0.5 ||
            g.high <= project.storeys[storey].elevation + 0.01,
        )
        .map((g) => g.outline),
    [geometry, project, storey],
  );

  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const observer = new ResizeObserver(() => setSize({ width: Math.max(200, el.clientWidth), height: Math.max(200, el.clientHeight) }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  const fitted = (what: readonly Point[]): PlanView => {
    const xs = what.map((p) => p[0]);
    const ys = what.map((p) => p[1]);
    const box = what.length > 0 ? [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)] : [-2, -2, 22, 18];
    const scale = Math.min((size.width - 2 * PAD) / Math.max(2, box[2] - box[0]), (size.height - 2 * PAD - 30) / Math.max(2, box[3] - box[1]));
    return { scale, x: (box[0] + box[2]) / 2, y: (box[1] + box[3]) / 2 };
  };
  const everything = [...geometry.spaces.values()].flatMap((g) => [...g.outline]);
  const underlay = project.storeys[storey]?.underlay;
  const frameOf = (): PlanView =>
    fitted(
      everything.length > 0
        ? everything
        : underlay
          ? [
              [underlay.x, underlay.y],
              [underlay.x + underlay.width, underlay.y + underlay.height],
            ]
          : [],
    );
  const now = view ?? frameOf();
  const toPlan = (x: number, y: number): Point => [now.x + (x - size.width / 2) / now.scale, now.y - (y - size.height / 2) / now.scale];

  // a request to show what is selected brings it into the middle
  const lastFocus = useRef(focus);
  useEffect(() => {
    if (focus === lastFocus.current) return;
    lastFocus.current = focus;
    const wanted = selection.flatMap((s) => {
      const id = s.kind === "space" ? s.id : s.kind === "wall" ? s.id.split("/")[0] : s.kind === "opening" ? hostSpace(project.openings[s.id]) : null;
      return id ? [...(geometry.spaces.get(id)?.outline ?? [])] : [];
    });
    if (wanted.length === 0) return;
    const f = fitted(wanted);
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setView({ ...f, scale: Math.min(f.scale * 0.6, 60) });
    // only a new request moves the view
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [focus]);

  const commit = (e: PlanEdit): boolean => {
    if (!e.ok) {
      setSaid(e.message);
      return false;
    }
    const refusal = firstMessage(edit(e.name, e.changes));
    setSaid(refusal);
    if (refusal === null && e.select.length > 0) select(e.select.map((id) => ({ kind: "space" as const, id })));
    return refusal === null;
  };
  const stop = (): void => {
    setPoints([]);
    setTyped("");
    setDrag(null);
  };
  const finish = (ring: readonly Point[]): void => {
    const { kit } = useForm.getState();
    if (commit(drawSpace(project, storey, ring, undefined, kit !== null && Object.hasOwn(project.kits, kit) ? kit : null))) stop();
  };
  const oneSpace = (): string | null => {
    const chosen = selection.filter((s) => s.kind === "space" && project.spaces[s.id]?.storey === storey);
    return chosen.length === 1 ? chosen[0].id : null;
  };

  /** Takes one more point of what is being drawn. */
  const take = (p: Point): void => {
    setSaid(null);
    if (tool === "rectangle") {
      if (points.length === 0) return setPoints([p]);
      const [a] = points;
      finish([
        [Math.min(a[0], p[0]), Math.min(a[1], p[1])],
        [Math.max(a[0], p[0]), Math.min(a[1], p[1])],
        [Math.max(a[0], p[0]), Math.max(a[1], p[1])],
        [Math.min(a[0], p[0]), Math.max(a[1], p[1])],
      ]);
    } else if (tool === "polygon") {
      const close = points.length > 2 && Math.hypot(p[0] - points[0][0], p[1] - points[0][1]) < 0.01;
      const last = points[points.length - 1];
      const added = arc.on && last ? [...points.slice(0, -1), ...arcFacets(last, p, arc.bulge, arc.facets)] : points;
      if (close) finish(added);
      else setPoints([...added, p]);
    } else if (tool === "split") {
      if (points.length === 0) return setPoints([p]);
      const target = oneSpace() ?? [...geometry.spaces.values()].find((g) => project.spaces[g.id].storey === storey && crosses(g.outline, points[0], p))?.id;
      if (!target) return setSaid("This line crosses no space of this storey.");
      if (commit(splitSpace(project, target, points[0], p))) stop();
    } else if (tool === "scale") setPoints(points.length >= 2 ? [p] : [...points, p]);
  };

  const enter = (): void => {
    const text = typed.trim();
    const metres = convert(1, unitsNow().unit("m"), "m");
    const last = points[points.length - 1] ?? null;
    if (text === "") {
      if (tool === "polygon" && points.length > 2) finish(points);
      return;
    }
    if (tool === "rectangle" && last) {
      const s = readSize(text, metres);
      if (!s) return setSaid(`“${text}” is no size; type width and depth in ${unitsNow().unit("m")}, such as 8 5.`);
      setTyped("");
      return take([last[0] + s[0], last[1] + s[1]]);
    }
    if (tool === "scale" && points.length === 2 && underlay) {
      const read = readQuantity(text, "m", unitsNow().unit("m"));
      const wanted = read.ok ? read.value : NaN;
      const measured = Math.hypot(points[1][0] - points[0][0], points[1][1] - points[0][1]);
      if (!(wanted > 0) || measured === 0) return setSaid(`“${text}” is no length in m.`);
      const k = wanted / measured;
      const next = {
        ...underlay,
        width: underlay.width * k,
        height: underlay.height * k,
        x: points[0][0] + (underlay.x - points[0][0]) * k,
        y: points[0][1] + (underlay.y - points[0][1]) * k,
      };
      const refusal = firstMessage(edit("Scale the image", [{ op: "set", path: ["storeys", storey, "underlay"], value: next, old: underlay }]));
      setSaid(refusal);
      stop();
      setForm({ tool: "select" });
      return;
    }
    const p = readPlace(text, last, pointer?.point ?? null, metres);
    if (!p) return setSaid(`“${text}” is no place: type x y, @x y from the last point, or length<angle.`);
    setTyped("");
    take(p);
  };

  const dragged = (to: Point): PlanEdit | null => {
    if (!drag || drag.kind === "view") return null;
    if (drag.kind === "corner") return moveCorner(project, storey, drag.at, to);
    if (drag.kind === "wall") {
      const d = (to[0] - drag.from[0]) * drag.normal[0] + (to[1] - drag.from[1]) * drag.normal[1];
      const step = grid > 0 ? Math.round(d / grid) * grid : d;
      return Math.abs(step) < 1e-6 ? null : moveEdge(project, drag.space, drag.edge, [drag.normal[0] * step, drag.normal[1] * step]);
    }
    const step: Point = [to[0] - drag.from[0], to[1] - drag.from[1]];
    const s: Point = grid > 0 ? [Math.round(step[0] / grid) * grid, Math.round(step[1] / grid) * grid] : step;
    return s[0] === 0 && s[1] === 0 ? null : moveSpaces(project, drag.ids, s);
  };

  /** Moves a wall across itself by what a step has in that direction. */
  const nudge = ([space, edge]: string[], dx: number, dy: number): void => {
    const form = project.spaces[space]?.form;
    const i = form?.kind === "prism" ? form.outline.findIndex((p) => p.id === edge) : -1;
    if (form?.kind !== "prism" || i < 0) return;
    const [p, q] = [form.outline[i], form.outline[(i + 1) % form.outline.length]];
    const l = Math.hypot(q.x - p.x, q.y - p.y);
    const [nx, ny] = [(q.y - p.y) / l, -(q.x - p.x) / l];
    const s = dx * nx + dy * ny;
    if (Math.abs(s) > 1e-6) commit(moveEdge(project, space, edge, [nx * s, ny * s]));
  };
  const place = (e: PointerEvent | WheelEvent): Point => {
    const box = (frame.current as HTMLDivElement).getBoundingClientRect();
    return toPlan(e.clientX - box.left, e.clientY - box.top);
  };
  const caught = (e: PointerEvent): Snapped => {
    const last = points[points.length - 1];
    const p = place(e);
    // shift keeps to the directions of the plan
    const straight: Point = e.shiftKey && last ? (Math.abs(p[0] - last[0]) > Math.abs(p[1] - last[1]) ? [p[0], last[1]] : [last[0], p[1]]) : p;
    // points of an image are where they are, not where the model has something
    const free = e.altKey || tool === "scale";
    return snap(straight, free ? [] : rings, free ? 0 : REACH / now.scale, free ? 0 : grid, points);
  };
  const onMove = (e: PointerEvent): void => {
    if (drag?.kind === "view") {
      setView({ ...drag.start, x: drag.start.x - (e.clientX - drag.x) / drag.start.scale, y: drag.start.y + (e.clientY - drag.y) / drag.start.scale });
      return;
    }
    setPointer(caught(e));
  };
  const onDown = (e: PointerEvent): void => {
    frame.current?.focus();
    if (e.button === 1 || (e.button === 0 && tool === "select")) {
      setDrag({ kind: "view", x: e.clientX, y: e.clientY, start: now });
      return;
    }
    if (e.button === 0) take(caught(e).point);
  };
  const onUp = (e: PointerEvent): void => {
    if (!drag) return;
    if (drag.kind !== "view") {
      const done = dragged(caught(e).point);
      if (done) commit(done);
    } else if (Math.hypot(e.clientX - drag.x, e.clientY - drag.y) < 3 && e.target === e.currentTarget.querySelector("svg")) select([]);
    setDrag(null);
  };
  const onKey = (e: KeyboardEvent): void => {
    if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement || e.ctrlKey || e.metaKey) return;
    const key = e.key.toLowerCase();
    const toolOf: Record<string, typeof tool> = { v: "select", r: "rectangle", p: "polygon", s: "split" };
    const arrows: Record<string, Point> = { arrowleft: [-1, 0], arrowright: [1, 0], arrowup: [0, 1], arrowdown: [0, -1] };
    if (toolOf[key]) {
      stop();
      setForm({ tool: toolOf[key] });
    } else if (key === "f") setView(null);
    else if (key === "escape") {
      if (points.length > 0) stop();
      else setForm({ tool: "select" });
      setSaid(null);
    } else if (key === "backspace" && points.length > 0) setPoints(points.slice(0, -1));
    else if (key === "enter" && tool !== "select") {
      if (tool === "polygon" && points.length > 2 && pointer === null) finish(points);
      else if (pointer) take(pointer.point);
    } else if (arrows[key]) {
      const step = (grid || 0.1) * (e.shiftKey ? 10 : 1);
      const [dx, dy] = [arrows[key][0] * step, arrows[key][1] * step];
      if (tool !== "select") {
        const from = pointer?.point ?? points[points.length - 1] ?? [Math.round(now.x), Math.round(now.y)];
        setPointer({ point: [from[0] + dx, from[1] + dy], caught: "grid", guides: [] });
      } else {
        const wall = selection.find((s) => s.kind === "wall");
        const ids = selection.filter((s) => s.kind === "space").map((s) => s.id);
        if (wall) nudge(wall.id.split("/"), dx, dy);
        else if (ids.length > 0) commit(moveSpaces(project, ids, [dx, dy]));
        else setView({ ...now, x: now.x + dx * 2, y: now.y + dy * 2 });
      }
    } else if (key === "+" || key === "-") setView({ ...now, scale: now.scale * (key === "+" ? 1.25 : 0.8) });
    else return;
    e.preventDefault();
    // letters mean tools here, not what they mean elsewhere
    e.stopPropagation();
  };
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    // a passive listener could not keep the page from scrolling
    const onWheel = (e: globalThis.WheelEvent): void => {
      e.preventDefault();
      const box = el.getBoundingClientRect();
      setView((v) => {
        const was = v ?? now;
        const k = Math.exp(-e.deltaY * 0.0015);
        const scale = Math.min(400, Math.max(0.5, was.scale * k));
        const [px, py] = [(e.clientX - box.left - size.width / 2) / was.scale, (e.clientY - box.top - size.height / 2) / was.scale];
        return { scale, x: was.x + px * (1 - was.scale / scale), y: was.y - py * (1 - was.scale / scale) };
      });
    };
    el.addEventListener("wheel", onWheel, { passive: false });
    return () => el.removeEventListener("wheel", onWheel);
  });

  const shown = drag && drag.kind !== "view" && pointer ? looked(project, dragged(pointer.point)) : project;
  const moving = drag !== null && drag.kind !== "view";
  return (
    <Box position="absolute" inset="0" display="flex" flexDirection="column">
      <PlanTools
        project={project}
        storey={storey}
        typed={typed}
        onTyped={setTyped}
        onEnter={enter}
        onEdit={commit}
        points={points.length}
        said={said}
        arc={arc}
        onArc={setArc}
        onTool={stop}
      />
      <Box
        ref={frame}
        flex="1"
        minH="0"
        position="relative"
        overflow="hidden"
        tabIndex={0}
        role="application"
        aria-label={`Plan of ${project.storeys[storey]?.name ?? ""}; keys: V select, R rectangle, P polygon, S split, F fit, arrows move`}
        outline="none"
        _focusVisible={{ boxShadow: "inset 0 0 0 2px var(--chakra-colors-water)" }}
        cursor={tool === "select" ? (drag?.kind === "view" ? "grabbing" : "default") : "crosshair"}
        onPointerMove={onMove}
        onPointerDown={onDown}
        onPointerUp={onUp}
        onPointerLeave={() => !drag && setPointer(null)}
        onKeyDown={onKey}
        touchAction="none"
        userSelect="none"
      >
        <PlanDrawing
          project={shown}
          storey={storey}
          width={size.width}
          height={size.height}
          view={now}
          grid={grid}
          points={points}
          pointer={tool === "select" && !moving ? null : pointer}
          tool={tool}
          onPick={(id, e) => {
            if (tool !== "select") return;
            onPick(id, e.shiftKey);
          }}
          onCorner={(at) => setDrag({ kind: "corner", at })}
          onCornerKey={(at, e) => {
            const by: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
            const d = by[e.key];
            if (!d) return;
            const step = (grid || 0.1) * (e.shiftKey ? 10 : 1);
            commit(moveCorner(project, storey, at, [at[0] + d[0] * step, at[1] + d[1] * step]));
            e.preventDefault();
            e.stopPropagation();
          }}
          onWall={(space, edge, e, normal) => {
            select([{ kind: "wall", id: `${space}/${edge}` }]);
            setDrag({ kind: "wall", space, edge, from: place(e), normal });
          }}
          onSpaceDown={(id, e) => {
            const ids = selection.filter((s) => s.kind === "space").map((s) => s.id);
            if (tool === "select" && ids.includes(id) && !e.shiftKey) setDrag({ kind: "space", ids, from: place(e) });
          }}
          onOpening={(id) => select([{ kind: "opening", id }])}
        />
      </Box>
      <PlanCorner onFit={() => setView(null)} />
    </Box>
  );
}

function hostSpace(o: Opening | undefined): string | null {
  return o && "host" in o && o.host ? o.host.split("/")[0] : null;
}

/** Whether a segment passes through an outline. */
function crosses(ring: readonly Point[], a: Point, b: Point): boolean {
  let [left, right] = [0, 0];
  for (const p of ring) {
    const s = (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
    if (s > 1e-6) left++;
    if (s < -1e-6) right++;
  }
  if (left === 0 || right === 0) return false;
  const xs = ring.map((p) => p[0]);
  const ys = ring.map((p) => p[1]);
  const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  return x >= Math.min(...xs) && x <= Math.max(...xs) && y >= Math.min(...ys) && y <= Math.max(...ys);
}
