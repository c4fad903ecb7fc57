import { randomUUID } from "node:crypto";
import { MessageChannel } from "node:worker_threads";
import { availableParallelism } from "node:os";
import { Piscina } from "piscina";
import pino from "pino";
import { ProjectError, type RunResult } from "@arroyo/core";
import { FlowRunner } from "./flow.ts";
import { StudyRunner } from "./studies.ts";
import type { FromWorker } from "./worker.ts";
import {
  beat,
  claimRun,
  failRun,
  finishRun,
  isAway,
  keepPiece,
  loggable,
  lostRuns,
  partStart,
  prune,
  RUN_QUEUE,
  startQueue,
  weatherFor,
} from "@arroyo/web/server";

const log = pino({ name: "runner", level: process.env.LOG_LEVEL ?? "info" });
const runner = randomUUID();
const threads = Math.max(1, Number(process.env.RUNNER_THREADS ?? Math.max(1, availableParallelism() - 1)));
/** Threads beyond those that compute: runs that are paused hold theirs. */
const WAITING = 2;
const pool = new Piscina<{ project: unknown; weather: unknown; settings: unknown; port: unknown; gate: Int32Array }, RunResult>({
  filename: new URL("./worker.ts", import.meta.url).href,
  execArgv: ["--import", "tsx"],
  minThreads: 1,
  maxThreads: threads + WAITING,
});
const BEAT = 700;
const SWEEP = 2000;
const PRUNE = 3600000;
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 10000;
/** A run whose figures cannot be put down for this long is given up here; it is then computed again by whoever sees it lost, ms. */
const GIVE_UP = 30 * 60000;

/** Runs in hand: the sweep takes none of them for lost while the database is away. */
const inHand = new Set<string>();
let closing = false;

const words = (error: unknown): string => loggable(error).message ?? "unknown";

/** Does a piece of work with the database, again and again with growing pauses while it is away. */
async function untilDone<T>(what: string, work: () => Promise<T>): Promise<T> {
  const began = Date.now();
  for (let pause = FIRST_PAUSE; ; pause = Math.min(LONGEST_PAUSE, 2 * pause)) {
    try {
      return await work();
    } catch (error) {
      if (closing || !isAway(error) || Date.now() - began > GIVE_UP) throw error;
      log.warn({ what, error: words(error) }, "the database does not answer; trying again");
      await new Promise((resolve) => setTimeout(resolve, pause));
    }
  }
}

/** Computes one run in a worker thread, reporting progress and watching for a cancel. Never throws. */
async function compute(hash: string): Promise<void> {
  if (inHand.has(hash)) return;
  inHand.add(hash);
  try {
    const claimed = await claimRun(hash, runner);
    if (claimed) await computed(hash, claimed);
  } catch (error) {
    // what is left of it is found by the next sweep
    log.error({ hash, error: words(error) }, "run left");
  } finally {
    inHand.delete(hash);
  }
}

async function computed(hash: string, claimed: NonNullable<Awaited<ReturnType<typeof claimRun>>>): Promise<void> {
  log.info({ hash }, "run taken up");
  const { port1, port2 } = new MessageChannel();
  const stop = new AbortController();
  const gate = new Int32Array(new SharedArrayBuffer(8));
  let progress = 0;
  /** Pieces are put down one after the other; one that comes meanwhile is left for the next. */
  let writing: Promise<void> | null = null;
  port1.on("message", (m: FromWorker) => {
    if ("share" in m) progress = m.share;
    else if (writing === null)
      writing = keepPiece(hash, runner, m)
        .then(
          () => void Atomics.store(gate, 1, partStart(m.hours)),
          (error: unknown) => log.warn({ hash, error: words(error) }, "series so far not kept"),
        )
        .finally(() => (writing = null));
  });
  const timer = setInterval(() => {
    beat(hash, runner, progress).then(
      (status) => {
        if (status === null) stop.abort();
        Atomics.store(gate, 0, status === "paused" ? 1 : 0);
        Atomics.notify(gate, 0);
      },
      (error: unknown) => log.warn({ hash, error: words(error) }, "heartbeat failed"),
    );
  }, BEAT);
  try {
    const weather = await untilDone("weather", () => weatherFor(claimed.document));
    let result: RunResult;
    try {
      result = await pool.run(
        { project: claimed.document, weather, settings: claimed.settings, port: port2, gate },
        { transferList: [port2], signal: stop.signal },
      );
    } catch (error) {
      if (stop.signal.aborted) return log.info({ hash }, "run cancelled");
      const message = error instanceof ProjectError ? error.problems.map((p) => p.message).join(" ") : error instanceof Error ? error.message : String(error);
      log.error({ hash, message }, "run failed");
      return await untilDone("failure", () => failRun(hash, runner, message));
    }
    await writing;
    await untilDone("result", () => finishRun(hash, runner, result));
    log.info({ hash, seconds: result.summary.timing.run }, "run done");
  } finally {
    clearInterval(timer);
    port1.close();
  }
}

const boss = await untilDone("queue", () => startQueue(true));
await untilDone("queue", () =>
  boss.work<{ hash: string }>(RUN_QUEUE, { pollingIntervalSeconds: 0.5, batchSize: threads }, async (jobs) => {
    await Promise.all(jobs.map((job) => compute(job.data.hash)));
  }),
);
const sweep = setInterval(() => {
  lostRuns()
    .then((hashes) => Promise.all(hashes.map((hash) => compute(hash))))
    .catch((error: unknown) => log.warn({ error: words(error) }, "sweep failed"));
}, SWEEP);
const tidy = (): void =>
  void prune().then(
    (gone) => log.info(gone, "pruned what nothing names"),
    (error: unknown) => log.warn({ error: words(error) }, "pruning failed"),
  );
const pruning = setInterval(tidy, PRUNE);
tidy();
const studies = new StudyRunner(runner, Math.max(1, Number(process.env.RUNNER_THREADS ?? availableParallelism())), log, untilDone);
studies.start();
const flow = new FlowRunner(runner, threads, log, untilDone);
flow.start();
log.info({ threads }, "runner ready");

async function close(): Promise<void> {
  closing = true;
  clearInterval(sweep);
  clearInterval(pruning);
  await Promise.allSettled([boss.stop({ graceful: false, timeout: 1000 }), pool.destroy(), studies.close(), flow.close()]);
  process.exit(0);
}
process.on("SIGINT", () => void close());
process.on("SIGTERM", () => void close());
// a connection that breaks between two uses tells nobody in particular; the next use finds a new one
process.on("unhandledRejection", (error) => log.warn({ error: words(error) }, "unexpected"));
