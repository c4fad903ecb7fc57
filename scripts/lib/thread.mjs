// Entry of a worker thread that runs a function of a TypeScript module: { module, name, argument } in, its result out.
import { parentPort, workerData } from "node:worker_threads";
import { register } from "tsx/esm/api";

register();
const { module, name, argument } = workerData;
const loaded = await import(module);
parentPort.postMessage(await loaded[name](argument));
