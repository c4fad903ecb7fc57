/** How a quantity reads where another unit is customary. */
export interface Shown {
  readonly unit: string;
  readonly factor: number;
  readonly digits: number;
}
/** What goes in, with the range a slider has. */
export interface BenchInput {
  readonly name: string;
  readonly words: string;
  /** Unit of the value. */
  readonly unit: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly shown?: Shown;
}
/** A fixed figure of the thing. */
export interface BenchFigure {
  readonly name: string;
  readonly words: string;
  readonly unit: string;
  readonly value: number;
  readonly shown?: Shown;
}
/** One line of what is computed: the value is the calculation's own; the formula, in the language of expressions, says the same. */
export interface BenchStep extends BenchFigure {
  /** Over inputs, figures and earlier steps; null: found by more than a formula, as `source` says. */
  readonly formula: string | null;
  readonly source?: string;
  /** What the line belongs to in a chain. */
  readonly of: string;
}
/** A component, a face or a zone on its own. */
export interface Bench {
  readonly title: string;
  readonly inputs: readonly BenchInput[];
  readonly figures: readonly BenchFigure[];
  /** Names of the steps worth a curve, the first of them before all others, and of the input it is drawn over. */
  readonly outcomes: readonly string[];
  readonly over: string;
  /** @param x a value for each input */
  readonly run: (x: Readonly<Record<string, number>>) => readonly BenchStep[];
}
/** What a bench is of. */
export type BenchOf =
  | { readonly kind: "component"; readonly path: readonly string[]; /** How many parts that follow it in its path are with it. */ readonly more: number }
  | { readonly kind: "face"; readonly key: string }
  | { readonly kind: "zone"; readonly id: string };

/** A bench, or why there is none. */
export type BenchMade = { readonly ok: true; readonly bench: Bench } | { readonly ok: false; readonly message: string };

export const SHARE: Shown = { unit: "%", factor: 100, digits: 1 };
export const KILOWATT: Shown = { unit: "kW", factor: 0.001, digits: 2 };
export const LITRES: Shown = { unit: "L/s", factor: 1000, digits: 1 };
export const GRAMS: Shown = { unit: "g/kg", factor: 1000, digits: 2 };

/** Collects the lines of one run. */
export class Sheet {
  readonly steps: BenchStep[] = [];
  readonly of: string;
  constructor(of: string) {
    this.of = of;
  }
  add(name: string, words: string, unit: string, value: number, formula: string | null, more: { shown?: Shown; source?: string } = {}): number {
    this.steps.push({ name, words, unit, value, formula, of: this.of, ...more });
    return value;
  }
}

const NAME = /[A-Za-z_][A-Za-z0-9_]*/g;
const WORDS = new Set(["min", "max", "if", "abs", "sqrt", "and", "or", "not"]);

/** A formula with figures in the place of its names. */
export const withNumbers = (formula: string, values: ReadonlyMap<string, number>, text: (v: number) => string): string =>
  formula.replace(NAME, (name) => {
    const v = values.get(name);
    return WORDS.has(name) || v === undefined ? name : v < 0 ? `(${text(v)})` : text(v);
  });

/** Values of every name of a run: inputs, figures and steps. */
export function namesOf(bench: Bench, x: Readonly<Record<string, number>>): Map<string, number> {
  return new Map<string, number>([
    ...bench.inputs.map((i): [string, number] => [i.name, x[i.name] ?? i.value]),
    ...bench.figures.map((f): [string, number] => [f.name, f.value]),
    ...bench.run(x).map((s): [string, number] => [s.name, s.value]),
  ]);
}

/** Inputs at their own values, with those given in their place. */
export const inputsOf = (bench: Bench, x: Readonly<Record<string, number>> = {}): Record<string, number> =>
  Object.fromEntries(bench.inputs.map((i) => [i.name, x[i.name] ?? i.value]));

/** A curve of an outcome over the range of an input, everything else as it stands. @returns [x, y], n + 1 points */
export function curveOf(bench: Bench, x: Readonly<Record<string, number>>, over: string, outcome: string, n = 60): [number, number][] {
  const input = bench.inputs.find((i) => i.name === over);
  if (!input) return [];
  return Array.from({ length: n + 1 }, (_, k): [number, number] => {
    const at = input.min + ((input.max - input.min) * k) / n;
    return [at, bench.run({ ...x, [over]: at }).find((s) => s.name === outcome)?.value ?? NaN];
  });
}
