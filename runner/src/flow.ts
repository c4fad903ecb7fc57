import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { Logger } from "pino";
import { checkCell, gridCheck, type FlowDirection, type FlowStudySpec } from "@arroyo/core";
import { beatFlowStudy, claimFlowStudy, endFlowStudy, keepFlowDirection } from "@arroyo/web/server";

const POLL = 700;
const BEAT = 700;

/** What a runner does for flow studies: one study at a time, a few directions of it at once; runs and studies of the year come first by having threads of their own. */
export class FlowRunner {
  private readonly runner: string;
  private readonly threads: number;
  private readonly log: Logger;
  private readonly untilDone: <T>(what: string, work: () => Promise<T>) => Promise<T>;
  private readonly pool: Piscina<unknown, FlowDirection | null>;
  private busy = false;
  private closing = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(runner: string, threads: number, log: Logger, untilDone: <T>(what: string, work: () => Promise<T>) => Promise<T>) {
    this.runner = runner;
    this.threads = threads;
    this.log = log;
    this.untilDone = untilDone;
    this.pool = new Piscina({
      filename: new URL("./flowWorker.ts", import.meta.url).href,
      execArgv: ["--import", "tsx"],
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 60000,
      concurrentTasksPerWorker: 1,
    });
  }

  start(): void {
    this.timer = setInterval(() => {
      if (this.busy || this.closing) return;
      this.busy = true;
      this.take()
        .catch((error: unknown) => this.log.warn({ error: error instanceof Error ? error.message : String(error) }, "flow study left; it is taken up again"))
        .finally(() => (this.busy = false));
    }, POLL);
  }

  private async take(): Promise<void> {
    const claimed = await claimFlowStudy(this.runner);
    if (!claimed) return;
    const { hash, spec } = claimed;
    this.log.info({ hash, cell: spec.cell }, "flow study taken up");
    const found = [...claimed.found];
    let check = claimed.gridCheck;
    const gate = new Int32Array(new SharedArrayBuffer(4));
    const shares = new Map<number, number>();
    const left = spec.directions.filter((d) => !found.some((f) => f.direction === d));
    const all = spec.directions.length + 1;
    const progress = (): number => Math.min(1, (spec.directions.length - left.length + [...shares.values()].reduce((s, v) => s + v, 0)) / all);
    const timer = setInterval(() => {
      beatFlowStudy(hash, this.runner, progress()).then(
        (status) => {
          Atomics.store(gate, 0, status === "paused" ? 1 : status === "running" ? 0 : 2);
          Atomics.notify(gate, 0);
        },
        (error: unknown) => this.log.warn({ hash, error: String(error) }, "heartbeat failed"),
      );
    }, BEAT);
    try {
      const waiting = [...left];
      const one = async (): Promise<void> => {
        for (let d = waiting.shift(); d !== undefined; d = waiting.shift()) {
          const made = await this.made(spec, d, spec.cell, gate, (share) => shares.set(d as number, share));
          if (made === null) return;
          shares.set(d, 1);
          found.push(made);
          await this.untilDone("direction", () => keepFlowDirection(hash, this.runner, found, check));
        }
      };
      await Promise.all(Array.from({ length: Math.min(this.threads, left.length) }, one));
      if (Atomics.load(gate, 0) === 2) return void this.log.info({ hash }, "flow study given up");
      if (check === null) {
        const [first] = spec.directions;
        const coarse = await this.made(spec, first, checkCell(spec), gate, (share) => shares.set(-1, share));
        if (coarse === null) return void this.log.info({ hash }, "flow study given up");
        check = gridCheck(found.find((f) => f.direction === first) as FlowDirection, coarse);
        await this.untilDone("check of the grid", () => keepFlowDirection(hash, this.runner, found, check));
      }
      await this.untilDone("flow study", () => endFlowStudy(hash, this.runner, null));
      this.log.info({ hash }, "flow study done");
    } catch (error) {
      if (this.closing) return;
      const message = error instanceof Error ? error.message : String(error);
      this.log.error({ hash, message }, "flow study failed");
      await this.untilDone("failure", () => endFlowStudy(hash, this.runner, message));
    } finally {
      clearInterval(timer);
    }
  }

  /** One direction in a thread; null: given up. */
  private async made(spec: FlowStudySpec, direction: number, cell: number, gate: Int32Array, tell: (share: number) => void): Promise<FlowDirection | null> {
    const { port1, port2 } = new MessageChannel();
    port1.on("message", tell);
    try {
      return await this.pool.run({ spec, direction, cell, port: port2, gate }, { transferList: [port2] });
    } finally {
      port1.close();
    }
  }

  async close(): Promise<void> {
    this.closing = true;
    if (this.timer) clearInterval(this.timer);
    await this.pool.destroy();
  }
}
