import { randomUUID } from "node:crypto";
import { MessageChannel } from "node:worker_threads";
import { availableParallelism } from "node:os";
import { Piscina } from "piscina";
import pino from "pino";
import { ProjectError, type RunResult } from "@arroyo/core";
import { beat, claimRun, failRun, finishRun, lostRuns, RUN_QUEUE, startQueue, weatherFor } from "@arroyo/web/server";

const log = pino({ name: "runner", level: process.env.LOG_LEVEL ?? "info" });
const runner = randomUUID();
const threads = Math.max(1, Number(process.env.RUNNER_THREADS ?? Math.max(1, availableParallelism() - 1)));
const pool = new Piscina<{ project: unknown; weather: unknown; settings: unknown; port: unknown }, RunResult>({
  filename: new URL("./worker.ts", import.meta.url).href,
  execArgv: ["--import", "tsx"],
  minThreads: 1,
  maxThreads: threads,
});
const BEAT = 700;
const SWEEP = 2000;

/** Computes one run in a worker thread, reporting progress and watching for a cancel. */
async function compute(hash: string): Promise<void> {
  const claimed = await claimRun(hash, runner);
  if (!claimed) return;
  log.info({ hash }, "run taken up");
  const { port1, port2 } = new MessageChannel();
  const stop = new AbortController();
  let progress = 0;
  port1.on("message", (share: number) => (progress = share));
  const timer = setInterval(() => {
    beat(hash, runner, progress).then(
      (ours) => {
        if (!ours) stop.abort();
      },
      (error: unknown) => log.warn({ hash, error: String(error) }, "heartbeat failed"),
    );
  }, BEAT);
  try {
    const weather = await weatherFor(claimed.document);
    const result = await pool.run(
      { project: claimed.document, weather, settings: claimed.settings, port: port2 },
      { transferList: [port2], signal: stop.signal },
    );
    await finishRun(hash, runner, result);
    log.info({ hash, seconds: result.summary.timing.run }, "run done");
  } catch (error) {
    if (stop.signal.aborted) log.info({ hash }, "run cancelled");
    else {
      const message = error instanceof ProjectError ? error.problems.map((p) => p.message).join(" ") : error instanceof Error ? error.message : String(error);
      await failRun(hash, runner, message);
      log.error({ hash, message }, "run failed");
    }
  } finally {
    clearInterval(timer);
    port1.close();
  }
}

const boss = await startQueue(true);
await boss.work<{ hash: string }>(RUN_QUEUE, { pollingIntervalSeconds: 0.5, batchSize: threads }, async (jobs) => {
  await Promise.all(jobs.map((job) => compute(job.data.hash)));
});
const sweep = setInterval(() => {
  lostRuns()
    .then((hashes) => Promise.all(hashes.map((hash) => compute(hash))))
    .catch((error: unknown) => log.warn({ error: String(error) }, "sweep failed"));
}, SWEEP);
log.info({ threads }, "runner ready");

async function close(): Promise<void> {
  clearInterval(sweep);
  await Promise.allSettled([boss.stop({ graceful: false, timeout: 1000 }), pool.destroy()]);
  process.exit(0);
}
process.on("SIGINT", () => void close());
process.on("SIGTERM", () => void close());
