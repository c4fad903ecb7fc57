import type { MessagePort } from "node:worker_threads";
import { runDirection, type FlowDirection, type FlowStudySpec } from "@arroyo/core";

interface Task {
  readonly spec: FlowStudySpec;
  readonly direction: number;
  readonly cell: number;
  readonly port: MessagePort;
  /** 0: go on; 1: wait; 2: give up. */
  readonly gate: Int32Array;
}

/** Makes one direction of a flow study; null: it was given up. */
export default function compute({ spec, direction, cell, port, gate }: Task): FlowDirection | null {
  const run = runDirection(spec, direction, cell);
  for (;;) {
    while (Atomics.load(gate, 0) === 1) Atomics.wait(gate, 0, 1, 500);
    if (Atomics.load(gate, 0) === 2) return null;
    const step = run.next();
    if (step.done) return step.value;
    port.postMessage(step.value);
  }
}
