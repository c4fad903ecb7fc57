import { once } from "node:events";
import type { MessagePort } from "node:worker_threads";
import { canonicalJson, hashText, StudyMaker, type Prepared } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { StudyLease, StudyMade } from "@arroyo/web/server";

installWebAssembly();

/** Keys of the runs first, then each run as it is made, and the end. */
export type FromStudyWorker =
  { readonly keys: readonly { readonly place: number; readonly key: string }[] } | { readonly made: StudyMade } | { readonly ended: true };
export type ToStudyWorker = { readonly known: readonly number[] };
interface Task extends Pick<StudyLease, "document" | "study" | "weathers" | "logged" | "tasks"> {
  readonly port: MessagePort;
  /** Not 0: no further run is begun. */
  readonly gate: Int32Array;
}

/** The maker of the study this thread had last: sizes, weather years, geometry and shading are shared by the leases of one study. */
let last: { readonly of: string; readonly maker: StudyMaker } | null = null;
const now = (): number => performance.now() / 1000;

function makerOf({ document, study, weathers, logged }: Task): StudyMaker {
  const of = hashText(canonicalJson([document, study, Object.keys(weathers), Object.keys(logged)]));
  if (last?.of !== of) last = { of, maker: new StudyMaker(document, study, (hash) => weathers[hash] ?? null, now, logged) };
  return last.maker;
}

/** Makes the runs of a lease one after the other, those left out that are known by their content. */
export default async function compute(task: Task): Promise<void> {
  const { tasks, port, gate } = task;
  const maker = makerOf(task);
  const send = (message: FromStudyWorker): void => port.postMessage(message);
  const ready = tasks.map((t): { place: number; prepared: Prepared } => ({ place: t.place, prepared: maker.prepare(t) }));
  send({ keys: ready.flatMap(({ place, prepared }) => (prepared.ok ? [{ place, key: prepared.key }] : [])) });
  const [{ known }] = (await once(port, "message")) as [ToStudyWorker];
  const left = new Set(known);
  for (const { place, prepared } of ready) {
    if (left.has(place)) continue;
    if (Atomics.load(gate, 0) !== 0) break;
    send({ made: { place, key: prepared.ok ? prepared.key : null, ...maker.make(prepared) } });
  }
  send({ ended: true });
}
