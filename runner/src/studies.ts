import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { Logger } from "pino";
import {
  advanceStudies,
  beatLease,
  claimLease,
  endLease,
  freeLostLeases,
  keepMade,
  knownResults,
  runnerDown,
  runnerUp,
  type StudyLease,
  type StudyMade,
} from "@arroyo/web/server";
import type { FromStudyWorker, ToStudyWorker } from "./studyWorker.ts";

const POLL = 400;
const BEAT = 700;
const SWEEP = 2000;

/** What a runner does for studies: takes leases as long as there are any, and gives back those of runners that went silent. */
export class StudyRunner {
  private readonly runner: string;
  private readonly threads: number;
  private readonly log: Logger;
  private readonly untilDone: <T>(what: string, work: () => Promise<T>) => Promise<T>;
  private readonly pool: Piscina<unknown, void>;
  private busy = 0;
  private closing = false;
  private claiming = false;
  private readonly timers: NodeJS.Timeout[] = [];

  /** @param untilDone does a piece of work with the database, again and again while it is away */
  constructor(runner: string, threads: number, log: Logger, untilDone: <T>(what: string, work: () => Promise<T>) => Promise<T>) {
    this.runner = runner;
    this.threads = threads;
    this.log = log;
    this.untilDone = untilDone;
    this.pool = new Piscina({
      filename: new URL("./studyWorker.ts", import.meta.url).href,
      execArgv: ["--import", "tsx"],
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 60000,
      concurrentTasksPerWorker: 1,
    });
  }

  start(): void {
    const quietly = (what: string, work: () => Promise<unknown>): void =>
      void work().catch((error: unknown) =>
        this.log.warn({ what, error: error instanceof Error ? error.message : String(error) }, "not done; it is tried again"),
      );
    const every = (ms: number, what: string, work: () => Promise<unknown>): void => void this.timers.push(setInterval(() => quietly(what, work), ms));
    every(POLL, "studies", () => this.fill());
    every(SWEEP, "sign of life", () => runnerUp(this.runner, this.threads));
    every(SWEEP, "lost leases", freeLostLeases);
    quietly("sign of life", () => runnerUp(this.runner, this.threads));
  }

  /** Takes leases for the threads that are free. */
  private async fill(): Promise<void> {
    if (this.claiming) return;
    this.claiming = true;
    try {
      await advanceStudies();
      while (this.busy < this.threads && !this.closing) {
        const lease = await claimLease(this.runner);
        if (lease === null) return;
        this.busy++;
        void this.hold(lease).finally(() => this.busy--);
      }
    } finally {
      this.claiming = false;
    }
  }

  /** Has a lease made, telling that it is alive and putting down what is made of it; gives it back at its end. Never throws. */
  private async hold(lease: StudyLease): Promise<void> {
    const { port1, port2 } = new MessageChannel();
    const gate = new Int32Array(new SharedArrayBuffer(4));
    let made: (StudyMade & { known?: boolean })[] = [];
    let writing: Promise<void> = Promise.resolve();
    const put = (): Promise<void> => {
      const now = made;
      made = [];
      writing = writing.then(() => (now.length > 0 ? this.untilDone("runs of a study", () => keepMade(lease, now)) : undefined));
      return writing;
    };
    let end = (): void => undefined;
    const ended = new Promise<void>((resolve) => (end = resolve));
    port1.on("message", (m: FromStudyWorker) => {
      if ("ended" in m) return end();
      if ("made" in m) return void made.push(m.made);
      const tell = (known: readonly number[]): void => port1.postMessage({ known } satisfies ToStudyWorker);
      knownResults(m.keys.map((k) => k.key)).then(
        (found) => {
          const there = m.keys.filter((k) => found.has(k.key));
          made.push(...there.map((k) => ({ place: k.place, key: k.key, figures: found.get(k.key)?.figures ?? null, error: null, seconds: 0, known: true })));
          tell(there.map((k) => k.place));
        },
        // they are made again, to the same figures
        () => tell([]),
      );
    });
    const timer = setInterval(() => {
      put().catch((error: unknown) => this.log.warn({ error: String(error) }, "runs of a study not put down"));
      beatLease(lease.id).then(
        (status) => status !== "running" && Atomics.store(gate, 0, 1),
        (error: unknown) => this.log.warn({ error: String(error) }, "heartbeat failed"),
      );
    }, BEAT);
    try {
      const { document, study, weathers, logged, tasks } = lease;
      await this.pool.run({ document, study, weathers, logged, tasks, port: port2, gate }, { transferList: [port2] });
      await ended;
      await put();
    } catch (error) {
      if (!this.closing) this.log.error({ error: error instanceof Error ? error.message : String(error) }, "lease left");
    } finally {
      clearInterval(timer);
      port1.close();
      await this.untilDone("lease", () => endLease(lease.id)).catch((error: unknown) => this.log.warn({ error: String(error) }, "lease not given back"));
    }
  }

  async close(): Promise<void> {
    this.closing = true;
    for (const t of this.timers) clearInterval(t);
    await Promise.allSettled([this.pool.destroy(), runnerDown(this.runner)]);
  }
}
