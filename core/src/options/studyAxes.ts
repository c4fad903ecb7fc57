import type { Problem } from "../model/index.ts";
import type { FigureColumn, StudyTable } from "./studyTable.ts";

/** A column of a study as it is drawn: an input or an outcome of every run. */
export interface AxesColumn {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly kind: "input" | "outcome" | "use";
  /** Levels in words, of which the values are the places; empty: the values are numbers. */
  readonly levels: readonly string[];
  /** One a run; null or NaN: there is none. */
  readonly values: ArrayLike<number | null>;
  readonly digits: number;
  /** Which is the better; of inputs none. */
  readonly aim: "least" | "most" | null;
  readonly stage: Problem["stage"] | null;
}
/** The runs of a study as they are drawn and handed over. */
export interface AxesData {
  readonly title: string;
  readonly about: string;
  /** Place of every row among the runs; 0 the base. */
  readonly runs: ArrayLike<number>;
  readonly columns: readonly AxesColumn[];
}

/** Outcomes that are drawn unless others are asked for. */
const FIRST = ["energy", "net", "netCarbon", "cost", "peakHeating", "discomfort", "daylight", "investment"];
/** Axes that fit beside each other. */
const FITTING = 9;

/** What a study is drawn from. */
export function axesData(title: string, about: string, table: StudyTable): AxesData {
  const figure =
    (kind: "outcome" | "use") =>
    (f: FigureColumn): AxesColumn => ({
      key: f.key,
      name: f.words,
      unit: f.unit,
      kind,
      levels: [],
      values: f.values,
      digits: f.digits,
      aim: f.aim,
      stage: null,
    });
  return {
    title,
    about,
    runs: table.index,
    columns: [
      ...table.axes.map((a): AxesColumn => ({
        key: `axis ${a.id}`,
        name: a.name,
        unit: a.unit,
        kind: "input",
        levels: a.levels,
        values: a.values,
        digits: 3,
        aim: null,
        stage: a.stage,
      })),
      ...table.outcomes.map(figure("outcome")),
      ...table.uses.map(figure("use")),
    ],
  };
}

const same = (a: AxesColumn, b: AxesColumn): boolean => Array.from(a.values).every((v, i) => Object.is(v, b.values[i]));

/** The columns drawn first, by key: the inputs by stage, then the outcomes that tell most, as many as fit beside each other. */
export function firstAxes(data: AxesData): string[] {
  const stages = ["place", "form", "fabric", "use", "services"];
  const inputs = data.columns.filter((c) => c.kind === "input").sort((a, b) => stages.indexOf(a.stage ?? "place") - stages.indexOf(b.stage ?? "place"));
  const outcomes = FIRST.flatMap((key) => data.columns.filter((c) => c.key === key)).filter((c, i, all) => !all.slice(0, i).some((d) => same(c, d)));
  const room = Math.max(3, FITTING - inputs.length);
  return [...inputs, ...outcomes.slice(0, room)].map((c) => c.key);
}
