import { projectWeather, runProject, runToEnd, type RunProgress, type RunResult, type WeatherYear } from "../../core/src/index.ts";
import { installWebAssembly } from "../../adapters/src/stepKernel.ts";
import { benchProject } from "./benchModel.ts";

const ROUNDS = 6000;

/** A fixed piece of arithmetic on typed arrays, about as the kernel does: seconds it takes now, or a part of it of so many rounds. */
export function calibrate(rounds = ROUNDS): number {
  const a = new Float64Array(4096).fill(1.000001);
  const began = performance.now();
  let s = 0;
  for (let r = 0; r < rounds; r++) for (let i = 0; i < a.length; i++) s = s * 0.999 + a[i] * a[(i * 7) & 4095];
  if (!Number.isFinite(s)) throw new Error("calibration ran away");
  return (performance.now() - began) / 1000;
}

/** What the two workers of a comparison share: how many have arrived at the next phase, and how many phases were begun. */
export interface Together {
  readonly me: 0 | 1;
  readonly meeting: Int32Array;
  readonly turns: number;
}

/** Work done in one window of time by each kind: days of years of 20 zones at 15 minutes, and slices of the calibration loop. */
export interface WorkDone {
  readonly days: number;
  readonly slices: number;
}
/** What one worker did in each turn: beside the other, and alone while the other slept. */
export interface Turn {
  readonly beside: WorkDone;
  readonly alone: WorkDone;
}

/** Seconds of a window: about two years of 20 zones. */
export const WINDOW = 2;
/** About what a day of 20 zones takes. */
const SLICE = 200;
/** Short years before anything is counted: what a run does once only is compiled by V8 after dozens of them. */
const SHORT_YEARS = 40;

function meet({ meeting }: Together): void {
  const begun = Atomics.load(meeting, 1);
  if (Atomics.add(meeting, 0, 1) === 0) Atomics.wait(meeting, 1, begun);
  else {
    Atomics.store(meeting, 0, 0);
    Atomics.add(meeting, 1, 1);
    Atomics.notify(meeting, 1);
  }
}

/** Pieces of work done while the window is open. */
function within(piece: () => void): number {
  const end = performance.now() + 1000 * WINDOW;
  let done = 0;
  for (; performance.now() < end; done++) piece();
  return done;
}

/**
 * What this worker does beside the other and alone, by turns, since the machine changes between minutes. Both work through
 * the whole window: neither has the machine to itself after the other is done.
 */
export function shareOfTwo(together: Together): Turn[] {
  installWebAssembly();
  const project = benchProject(20);
  const weather = projectWeather(project) as WeatherYear;
  const settings = { stepsPerHour: 4 };
  for (let i = 0; i < SHORT_YEARS; i++) runToEnd(project, weather, { ...settings, shortYear: true });
  let run: Generator<RunProgress, RunResult, void> = runProject(project, weather, settings);
  const day = (): void => {
    if (run.next().done === true) run = runProject(project, weather, settings);
  };
  const slice = (): void => void calibrate(SLICE);
  within(day);
  within(slice);
  const turns: Turn[] = [];
  for (let t = 0; t < together.turns; t++) {
    const alone = { days: 0, slices: 0 };
    const beside = { days: 0, slices: 0 };
    for (const [name, piece] of [
      ["days", day],
      ["slices", slice],
    ] as const) {
      for (const turn of [0, 1] as const) {
        meet(together);
        if (together.me === turn) alone[name] = within(piece);
      }
      meet(together);
      beside[name] = within(piece);
    }
    turns.push({ alone, beside });
  }
  return turns;
}
