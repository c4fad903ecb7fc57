import { Worker } from "node:worker_threads";

/** Runs the named export of a TypeScript module in a worker thread of its own. */
export function inThread<T>(module: URL, name: string, argument: unknown): Promise<T> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL("./thread.mjs", import.meta.url), { workerData: { module: module.href, name, argument } });
    worker.once("message", resolve);
    worker.once("error", reject);
  });
}
