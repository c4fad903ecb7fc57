/// <reference lib="dom" />
import {
  EXTRA,
  FLOW,
  FLOWS,
  ANGLE_STEPS,
  GLASS_NODES,
  installKernel,
  kernelState,
  MODE,
  OPTIC,
  OPTICS,
  SKY,
  TERM,
  WIND,
  type CompiledModel,
  type StepKernel,
  type WeatherYear,
} from "@arroyo/core";
import { kernelBytes } from "./stepKernelBytes.ts";

type Numbers = Float64Array | Int32Array | Uint8Array;
type Fields = Readonly<Record<string, unknown>>;

const PAGE = 65536;
/** The first bytes are left free: a place of 0 is a fault. */
const FIRST = 1024;
const aligned = (at: number): number => (at + 15) & ~15;
const isNumbers = (v: unknown): v is Numbers => v instanceof Float64Array || v instanceof Int32Array || v instanceof Uint8Array;

/** The core's own numbering, by the prefix under which the kernel asks for it. */
const NUMBERING: Readonly<Record<string, Readonly<Record<string, number>>>> = { FLOW, TERM, MODE, EXTRA, SKY, OPTIC, WIND };
const CONSTANTS: Readonly<Record<string, number>> = { FLOWS, OPTICS, ANGLE_STEPS, GLASS_NODES };
/** Numbers of `b_weather`. */
const WEATHER = 6;

interface Exports {
  readonly terms: () => void;
  readonly darken: () => void;
  readonly sunOutside: () => void;
  readonly sunInside: () => void;
  readonly pass: (first: number, anew: number, last: number) => void;
  readonly eliminate: () => void;
  readonly book: () => void;
}

let compiled: WebAssembly.Module | null = null;

function kernelModule(): WebAssembly.Module {
  compiled ??= new WebAssembly.Module(Uint8Array.from(atob(kernelBytes), (c) => c.charCodeAt(0)));
  return compiled;
}

/**
 * The walks of a step in WebAssembly (`adapters/kernel`), over a memory of their own in which the arrays they share with
 * the core lie; the core reads and writes them in place. They do the same operations in the same order as the core's own
 * and give the same bits.
 * @returns null where no memory is to be had: the core's own walks serve then
 * @throws RangeError when the kernel asks for an array or a number the core does not have
 */
export function webAssemblyKernel(m: CompiledModel, weather: WeatherYear): StepKernel | null {
  const fresh = kernelState(m, weather);
  const sources: Readonly<Record<string, Fields>> = {
    m: m as unknown as Fields,
    p: m.pattern as unknown as Fields,
    s: fresh as unknown as Fields,
    r: fresh.record as unknown as Fields,
    k: fresh.books as unknown as Fields,
    b: { weather: new Float64Array(WEATHER) },
  };
  const asked = WebAssembly.Module.exports(kernelModule()).filter((e) => e.kind === "global");
  // what is asked for, each array once whatever names it goes by
  const places = new Map<Numbers, number>();
  const values = new Map<string, number>();
  let end = FIRST;
  for (const { name } of asked) {
    const value = valueOf(name, sources);
    if (typeof value === "number") {
      values.set(name, value);
      continue;
    }
    if (!places.has(value)) {
      places.set(value, end);
      end = aligned(end + value.byteLength);
    }
    values.set(name, places.get(value) as number);
  }
  const memory = memoryOf(end);
  if (!memory) return null;
  const instance = new WebAssembly.Instance(kernelModule(), { env: { memory } });
  for (const { name } of asked) (instance.exports[name] as WebAssembly.Global).value = values.get(name);
  const moved = new Map<unknown, Numbers>();
  for (const [array, at] of places) {
    const view =
      array instanceof Float64Array
        ? new Float64Array(memory.buffer, at, array.length)
        : array instanceof Int32Array
          ? new Int32Array(memory.buffer, at, array.length)
          : new Uint8Array(memory.buffer, at, array.length);
    view.set(array);
    moved.set(array, view);
  }
  // copies of fast objects stay fast: filling new ones key by key would cost half of what is won
  const placed = <T extends object>(o: T, also: Partial<T> = {}): T => {
    const copy = { ...o, ...also };
    for (const key of Object.keys(copy) as (keyof T)[]) {
      const view = moved.get(copy[key]);
      if (view) copy[key] = view as T[keyof T];
    }
    return copy;
  };
  const model = placed(m, { pattern: placed(m.pattern) });
  const state = placed(fresh, { record: placed(fresh.record), books: placed(fresh.books) });
  const now = moved.get(sources.b.weather) as Float64Array;
  const { boundary } = state;
  const walks = instance.exports as unknown as Exports;
  return {
    kind: "WebAssembly",
    model,
    state,
    terms: walks.terms,
    darken: walks.darken,
    sunOutside: walks.sunOutside,
    sunInside: walks.sunInside,
    pass(first, anew, last) {
      if (first) {
        now[0] = boundary.outdoor;
        now[1] = boundary.sky;
        now[2] = boundary.wind;
        now[3] = boundary.windDirection;
        now[4] = boundary.cp;
        now[5] = boundary.month;
      }
      walks.pass(first ? 1 : 0, anew ? 1 : 0, last ? 1 : 0);
    },
    eliminate: walks.eliminate,
    book: walks.book,
  };
}

/** What the kernel asks for by a name (see `adapters/kernel/arrays.ts`). @throws RangeError when the core has no such thing */
function valueOf(name: string, sources: Readonly<Record<string, Fields>>): number | Numbers {
  if (name in CONSTANTS) return CONSTANTS[name];
  const cut = name.indexOf("_");
  const prefix = name.slice(0, cut);
  const field = name.slice(cut + 1);
  const number = NUMBERING[prefix]?.[field];
  if (number !== undefined) return number;
  if (prefix === "n") {
    const array = sources.s[field] ?? sources.m[field];
    if (isNumbers(array) || Array.isArray(array)) return array.length;
  }
  const value = sources[prefix]?.[field];
  if (isNumbers(value) || typeof value === "number") return value;
  if (typeof value === "boolean") return value ? 1 : 0;
  throw new RangeError(`the kernel asks for ${name}, which the core does not have`);
}

/** Memory of so many bytes; null when there is none. */
function memoryOf(bytes: number): WebAssembly.Memory | null {
  const pages = Math.ceil(bytes / PAGE);
  try {
    return new WebAssembly.Memory({ initial: pages, maximum: pages });
  } catch (e) {
    if (e instanceof RangeError) return null;
    throw e;
  }
}

/** Has every coming run of this thread walk in WebAssembly, where there is any. */
export function installWebAssembly(): void {
  if (typeof WebAssembly === "object") installKernel(webAssemblyKernel);
}
