import type { AxesColumn, AxesData } from "@arroyo/core";
import { domain, endText, runsLeft, type Brushes, type Stretch } from "./filters.ts";

/** What is looked at: the axes in their order, stretches, the chosen run by its row. */
export interface CurrentsState {
  readonly order: readonly string[];
  readonly brushes: Brushes;
  readonly chosen: number | null;
}
export interface CurrentsLook {
  readonly ink: string;
  readonly ink2: string;
  readonly line: string;
  readonly sheet: string;
  readonly water: string;
  readonly wash: string;
  readonly clay: string;
  readonly sediment: string;
  readonly font: string;
}

interface Axis {
  readonly column: AxesColumn;
  readonly x: number;
  readonly ends: Stretch;
}

const TOP = 50;
const BOTTOM = 20;
const SIDE = 66;
/** An axis is taken hold of this near, px. */
const NEAR = 13;
/** A run is taken this near its line, px. */
const NEAR_LINE = 14;
/** Time of a frame spent on drawing lines, ms. */
const FRAME = 10;
/** Lines are drawn by the processor at once: a graphics card would take them all and draw them when it can, which no frame could wait for. */
const AT_ONCE: CanvasRenderingContext2DSettings = { willReadFrequently: true };
/** A level is this share of its place high. */
const BUNDLE = 0.5;

/** Even numbers 0…1 without a pattern, so that runs at one level lie beside each other. */
const scatter = (i: number): number => {
  let t = Math.imul(i + 1, 0x9e3779b1);
  t ^= t >>> 15;
  t = Math.imul(t, 0x85ebca6b);
  t ^= t >>> 13;
  return (t >>> 0) / 4294967296;
};

/**
 * Runs as currents through linked axes, on a canvas: those left over are water, those filtered out sediment, the chosen one clay, the base a dashed
 * line. A stretch is drawn on an axis, moved, and cleared by a click; a heading is dragged, or moved by the arrow keys; a line is clicked.
 * Without any framework, so that a page from disk shows the same.
 */
export class Currents {
  readonly canvas: HTMLCanvasElement;
  private readonly host: HTMLElement;
  private readonly heads: HTMLDivElement;
  private data: AxesData;
  private state: CurrentsState;
  private look: CurrentsLook;
  private readonly tell: (state: CurrentsState) => void;
  private axes: readonly Axis[] = [];
  private left: Uint8Array = new Uint8Array(0);
  private width = 0;
  private height = 0;
  private readonly layers: readonly [HTMLCanvasElement, HTMLCanvasElement];
  /** Rows still to be drawn, by layer. */
  private readonly pending: [number, number] = [0, 0];
  private frame = 0;
  private drag: { readonly key: string; readonly from: number; readonly moved: Stretch | null; readonly end: "least" | "most" | null } | null = null;
  private readonly observer: ResizeObserver;

  constructor(host: HTMLElement, data: AxesData, look: CurrentsLook, state: CurrentsState, tell: (state: CurrentsState) => void) {
    this.host = host;
    this.data = data;
    this.look = look;
    this.state = state;
    this.tell = tell;
    host.style.position = "relative";
    this.canvas = document.createElement("canvas");
    this.canvas.style.cssText = "position:absolute;inset:0;width:100%;height:100%;touch-action:none";
    this.canvas.setAttribute("role", "img");
    this.heads = document.createElement("div");
    this.layers = [document.createElement("canvas"), document.createElement("canvas")];
    host.append(this.canvas, this.heads);
    this.canvas.addEventListener("pointerdown", this.down);
    this.canvas.addEventListener("pointermove", this.hover);
    this.observer = new ResizeObserver(() => this.resize());
    this.observer.observe(host);
    this.resize();
  }

  update(data: AxesData, state: CurrentsState, look: CurrentsLook): void {
    const same = data === this.data && look === this.look && state.order.join("\n") === this.state.order.join("\n");
    const filtered = state.brushes !== this.state.brushes;
    this.data = data;
    this.look = look;
    this.state = state;
    if (!same) this.layOut();
    else if (filtered) this.filter();
    else this.draw();
  }

  destroy(): void {
    this.observer.disconnect();
    cancelAnimationFrame(this.frame);
    this.canvas.remove();
    this.heads.remove();
    window.removeEventListener("pointermove", this.move);
    window.removeEventListener("pointerup", this.up);
  }

  private resize(): void {
    const { clientWidth, clientHeight } = this.host;
    if (clientWidth === 0 || (clientWidth === this.width && clientHeight === this.height)) return;
    this.width = clientWidth;
    this.height = clientHeight;
    const dpr = window.devicePixelRatio || 1;
    for (const c of [this.canvas, ...this.layers]) {
      c.width = Math.round(clientWidth * dpr);
      c.height = Math.round(clientHeight * dpr);
    }
    this.layOut();
  }

  private layOut(): void {
    const columns = this.state.order.flatMap((key) => this.data.columns.filter((c) => c.key === key));
    const room = this.width - 2 * SIDE;
    this.axes = columns.map((column, i) => ({
      column,
      x: columns.length === 1 ? this.width / 2 : SIDE + (room * i) / (columns.length - 1),
      ends: domain(column),
    }));
    this.headings();
    this.restart(0);
    this.filter();
  }

  private filter(): void {
    const { left, count } = runsLeft(this.data.columns, this.state.brushes, this.data.runs.length);
    this.left = left;
    this.canvas.setAttribute("aria-label", `${count} of ${this.data.runs.length} runs left on ${this.axes.length} axes`);
    this.restart(1);
    this.draw();
  }

  /** Y of a value. */
  private y(axis: Axis, value: number): number {
    const [least, most] = axis.ends;
    return TOP + (1 - (value - least) / (most - least)) * (this.height - TOP - BOTTOM);
  }
  private valueAt(axis: Axis, y: number): number {
    const [least, most] = axis.ends;
    return least + (1 - (y - TOP) / (this.height - TOP - BOTTOM)) * (most - least);
  }
  /** Y at which a run crosses an axis; NaN: it has no value there. */
  private crossing(axis: Axis, row: number): number {
    const v = axis.column.values[row];
    if (v === null || Number.isNaN(v)) return axis.column.kind === "input" ? this.height - BOTTOM / 2 : NaN;
    return this.y(axis, axis.column.levels.length > 0 ? v + (scatter(row) - 0.5) * BUNDLE : v);
  }

  private trace(c: CanvasRenderingContext2D, row: number): void {
    c.beginPath();
    let [x0, y0] = [NaN, NaN];
    for (const axis of this.axes) {
      const y = this.crossing(axis, row);
      if (Number.isNaN(y0)) c.moveTo(axis.x, y);
      else if (!Number.isNaN(y)) c.bezierCurveTo((x0 + axis.x) / 2, y0, (x0 + axis.x) / 2, y, axis.x, y);
      if (!Number.isNaN(y)) [x0, y0] = [axis.x, y];
    }
    c.stroke();
  }

  private restart(layer: 0 | 1): void {
    const canvas = this.layers[layer];
    canvas.getContext("2d", AT_ONCE)?.clearRect(0, 0, canvas.width, canvas.height);
    this.pending[layer] = 0;
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(this.flow);
  }

  /** Draws as many lines as a frame allows, then the picture as far as it is. */
  private readonly flow = (): void => {
    const began = performance.now();
    const dpr = window.devicePixelRatio || 1;
    const n = this.data.runs.length;
    const filtered = Object.keys(this.state.brushes).length > 0;
    for (const layer of [0, 1] as const) {
      const c = this.layers[layer].getContext("2d", AT_ONCE);
      if (!c) return;
      c.setTransform(dpr, 0, 0, dpr, 0, 0);
      c.lineWidth = layer === 1 && filtered ? 1.2 : 1;
      c.strokeStyle = layer === 0 ? this.look.sediment : this.look.water;
      const lines = layer === 0 ? n : this.left.reduce((t, v) => t + v, 0);
      c.globalAlpha = Math.max(0.04, Math.min(layer === 0 ? 0.35 : 0.55, 60 / Math.max(1, lines)));
      let i = this.pending[layer];
      // without a stretch nothing is sediment
      if (layer === 0 && !filtered) i = n;
      for (; i < n && performance.now() - began < FRAME; i++) if (layer === 0 || this.left[i] === 1) this.trace(c, i);
      this.pending[layer] = layer === 0 && !filtered ? 0 : i;
      if (i < n) break;
    }
    this.draw();
    const more = (filtered && this.pending[0] < n) || this.pending[1] < n;
    if (more) this.frame = requestAnimationFrame(this.flow);
  };

  private draw(): void {
    const c = this.canvas.getContext("2d", AT_ONCE);
    if (!c) return;
    const dpr = window.devicePixelRatio || 1;
    const { look } = this;
    c.setTransform(1, 0, 0, 1, 0, 0);
    c.clearRect(0, 0, this.canvas.width, this.canvas.height);
    if (Object.keys(this.state.brushes).length > 0) c.drawImage(this.layers[0], 0, 0);
    c.drawImage(this.layers[1], 0, 0);
    c.setTransform(dpr, 0, 0, dpr, 0, 0);
    const base = Array.from(this.data.runs).indexOf(0);
    if (base >= 0) {
      c.strokeStyle = look.ink;
      c.lineWidth = 1.4;
      c.setLineDash([5, 4]);
      this.trace(c, base);
      c.setLineDash([]);
    }
    if (this.state.chosen !== null && this.state.chosen < this.data.runs.length) {
      c.strokeStyle = look.clay;
      c.lineWidth = 2.5;
      this.trace(c, this.state.chosen);
    }
    c.font = look.font;
    c.textBaseline = "middle";
    for (const axis of this.axes) this.drawAxis(c, axis, base);
  }

  private drawAxis(c: CanvasRenderingContext2D, axis: Axis, base: number): void {
    const { look } = this;
    const { column, x } = axis;
    const bottom = this.height - BOTTOM;
    c.strokeStyle = look.ink;
    c.lineWidth = 1;
    c.beginPath();
    c.moveTo(x, TOP);
    c.lineTo(x, bottom);
    c.stroke();
    const stretch = this.state.brushes[column.key];
    if (stretch) {
      const [low, high] = [this.y(axis, Math.max(axis.ends[0], stretch[0])), this.y(axis, Math.min(axis.ends[1], stretch[1]))];
      c.globalAlpha = 0.55;
      c.fillStyle = look.wash;
      c.fillRect(x - 7, high, 14, low - high);
      c.globalAlpha = 1;
      c.strokeStyle = look.water;
      c.strokeRect(x - 7, high, 14, low - high);
    }
    const label = (text: string, y: number): void => {
      const last = axis === this.axes[this.axes.length - 1];
      const short = text.length > 18 ? `${text.slice(0, 17)}…` : text;
      const at = last ? x - 10 : x + 10;
      c.textAlign = last ? "right" : "left";
      c.lineWidth = 3.5;
      c.strokeStyle = look.sheet;
      c.strokeText(short, at, y);
      c.fillStyle = look.ink2;
      c.fillText(short, at, y);
    };
    if (column.kind === "input" && base >= 0 && !Number.isFinite(column.values[base] ?? NaN)) label("as the base", bottom + BOTTOM / 2);
    if (column.levels.length > 0) column.levels.forEach((l, i) => label(l, this.y(axis, i)));
    else {
      const [least, most] = axis.ends;
      label(endText(most, column), TOP + 4);
      if (this.height > 240) label(endText((least + most) / 2, column), (TOP + bottom) / 2);
      label(endText(least, column), bottom - 4);
    }
  }

  /** The names over the axes: dragged, or moved by the arrow keys. */
  private headings(): void {
    const focused =
      document.activeElement instanceof HTMLElement && this.heads.contains(document.activeElement) ? document.activeElement.dataset.key : undefined;
    const room = this.axes.length > 1 ? (this.width - 2 * SIDE) / (this.axes.length - 1) : this.width;
    this.heads.replaceChildren(
      ...this.axes.map(({ column, x }) => {
        const head = document.createElement("button");
        head.type = "button";
        head.dataset.key = column.key;
        const wide = Math.max(60, Math.min(2 * SIDE, room - 6));
        head.style.cssText = `position:absolute;left:${x - wide / 2}px;top:2px;width:${wide}px;height:${TOP - 10}px;padding:0;border:0;background:none;cursor:grab;font:inherit;line-height:1.15;text-align:center;overflow:hidden;touch-action:none;display:flex;flex-direction:column;justify-content:flex-end`;
        const name = document.createElement("span");
        name.textContent = column.name;
        name.style.cssText = `font-weight:600;font-size:12px;color:${this.look.ink};display:-webkit-box;-webkit-line-clamp:2;-webkit-box-orient:vertical;overflow:hidden`;
        const unit = document.createElement("span");
        unit.textContent = column.levels.length > 0 || column.unit === "1" ? "" : column.unit;
        unit.style.cssText = `font-size:11px;color:${this.look.ink2}`;
        head.append(name, unit);
        head.title = `${column.name}: drag it, or move it with the arrow keys`;
        head.addEventListener("pointerdown", (e) => this.carry(e, head, column.key));
        head.addEventListener("keydown", (e) => {
          const by = e.key === "ArrowLeft" ? -1 : e.key === "ArrowRight" ? 1 : 0;
          if (by === 0) return;
          e.preventDefault();
          const at = this.state.order.indexOf(column.key);
          this.moveAxis(column.key, at + by);
        });
        return head;
      }),
    );
    if (focused !== undefined) [...this.heads.children].find((h): h is HTMLElement => h instanceof HTMLElement && h.dataset.key === focused)?.focus();
  }

  private moveAxis(key: string, to: number): void {
    const drawn = this.axes.map((a) => a.column.key);
    const rest = drawn.filter((k) => k !== key);
    rest.splice(Math.max(0, Math.min(rest.length, to)), 0, key);
    this.set({ ...this.state, order: rest });
  }

  private carry(e: PointerEvent, head: HTMLElement, key: string): void {
    const from = e.clientX;
    head.setPointerCapture(e.pointerId);
    const move = (m: PointerEvent): void => {
      head.style.transform = `translateX(${m.clientX - from}px)`;
    };
    const up = (u: PointerEvent): void => {
      head.removeEventListener("pointermove", move);
      head.removeEventListener("pointerup", up);
      head.style.transform = "";
      const axis = this.axes.find((a) => a.column.key === key);
      if (!axis || Math.abs(u.clientX - from) < 4) return;
      const x = axis.x + u.clientX - from;
      this.moveAxis(key, this.axes.filter((a) => a.column.key !== key && a.x < x).length);
    };
    head.addEventListener("pointermove", move);
    head.addEventListener("pointerup", up);
  }

  private set(state: CurrentsState): void {
    this.update(this.data, state, this.look);
    this.tell(state);
  }

  private near(x: number): Axis | null {
    const [best] = [...this.axes].sort((a, b) => Math.abs(a.x - x) - Math.abs(b.x - x));
    return best && Math.abs(best.x - x) <= NEAR ? best : null;
  }

  private readonly hover = (e: PointerEvent): void => {
    if (!this.drag) this.canvas.style.cursor = this.near(e.offsetX) ? "ns-resize" : this.nearest(e.offsetX, e.offsetY) !== null ? "pointer" : "default";
  };

  private readonly down = (e: PointerEvent): void => {
    const axis = this.near(e.offsetX);
    if (!axis) {
      const row = this.nearest(e.offsetX, e.offsetY);
      if (row !== null) this.set({ ...this.state, chosen: row });
      return;
    }
    const { key } = axis.column;
    const there = this.state.brushes[key];
    const within = there && e.offsetY >= this.y(axis, there[1]) - 4 && e.offsetY <= this.y(axis, there[0]) + 4;
    const end = !within ? null : Math.abs(e.offsetY - this.y(axis, there[1])) < 6 ? "most" : Math.abs(e.offsetY - this.y(axis, there[0])) < 6 ? "least" : null;
    this.drag = { key, from: e.offsetY, moved: within ? there : null, end };
    window.addEventListener("pointermove", this.move);
    window.addEventListener("pointerup", this.up);
    e.preventDefault();
  };

  private readonly move = (e: PointerEvent): void => {
    const { drag } = this;
    const axis = this.axes.find((a) => a.column.key === drag?.key);
    if (!drag || !axis) return;
    const y = e.clientY - this.canvas.getBoundingClientRect().top;
    if (Math.abs(y - drag.from) < 3) return;
    const at = this.valueAt(axis, Math.max(TOP, Math.min(this.height - BOTTOM, y)));
    const start = this.valueAt(axis, Math.max(TOP, Math.min(this.height - BOTTOM, drag.from)));
    let next: Stretch;
    if (!drag.moved) next = [Math.min(at, start), Math.max(at, start)];
    else if (drag.end === "least") next = [Math.min(at, drag.moved[1]), drag.moved[1]];
    else if (drag.end === "most") next = [drag.moved[0], Math.max(at, drag.moved[0])];
    else {
      const by = Math.max(axis.ends[0] - drag.moved[0], Math.min(axis.ends[1] - drag.moved[1], at - start));
      next = [drag.moved[0] + by, drag.moved[1] + by];
    }
    this.set({ ...this.state, brushes: { ...this.state.brushes, [drag.key]: next } });
  };

  private readonly up = (e: PointerEvent): void => {
    const { drag } = this;
    this.drag = null;
    window.removeEventListener("pointermove", this.move);
    window.removeEventListener("pointerup", this.up);
    if (!drag) return;
    const y = e.clientY - this.canvas.getBoundingClientRect().top;
    if (Math.abs(y - drag.from) >= 3) return;
    // a click clears the stretch, or on an axis of levels takes the level
    const axis = this.axes.find((a) => a.column.key === drag.key);
    const { [drag.key]: gone, ...brushes } = this.state.brushes;
    if (gone || !axis || axis.column.levels.length === 0) return void (gone && this.set({ ...this.state, brushes }));
    const level = Math.max(0, Math.min(axis.column.levels.length - 1, Math.round(this.valueAt(axis, y))));
    this.set({ ...this.state, brushes: { ...brushes, [drag.key]: [level - 0.4, level + 0.4] } });
  };

  /** The run that is left whose line passes nearest to a place; null: none near it. */
  nearest(x: number, y: number): number | null {
    const at = this.axes.findIndex((a, i) => i + 1 < this.axes.length && x >= a.x && x <= this.axes[i + 1].x);
    if (at < 0) return null;
    const [a, b] = [this.axes[at], this.axes[at + 1]];
    // the curve's parameter at this x, by halving
    const share = (x - a.x) / (b.x - a.x);
    let [low, high] = [0, 1];
    for (let k = 0; k < 20; k++) {
      const t = (low + high) / 2;
      const s = 1.5 * (1 - t) * (1 - t) * t + 1.5 * (1 - t) * t * t + t * t * t;
      if (s < share) low = t;
      else high = t;
    }
    const t = (low + high) / 2;
    const weight = 3 * (1 - t) * t * t + t * t * t;
    let best: number | null = null;
    let least = NEAR_LINE;
    for (let row = 0; row < this.data.runs.length; row++) {
      if (this.left[row] !== 1) continue;
      const d = Math.abs(this.crossing(a, row) * (1 - weight) + this.crossing(b, row) * weight - y);
      if (d < least) {
        least = d;
        best = row;
      }
    }
    return best;
  }
}
