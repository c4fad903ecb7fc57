import PgBoss from "pg-boss";
import { databaseUrl } from "./database.ts";

export const RUN_QUEUE = "runs";
const held = globalThis as typeof globalThis & { arroyoQueue?: Promise<PgBoss> };

/** Starts a connection to the queue; the runner supervises, a web process only sends. */
export async function startQueue(supervise: boolean): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl(), supervise, schedule: false, max: 3 });
  boss.on("error", (error) => console.error("queue:", error.message));
  await boss.start();
  await boss.createQueue(RUN_QUEUE, { name: RUN_QUEUE, policy: "standard", retryLimit: 2, retryDelay: 5, expireInSeconds: 900 });
  return boss;
}

/** The sender's connection of this process. */
export function queue(): Promise<PgBoss> {
  held.arroyoQueue ??= startQueue(false).catch((error: unknown) => {
    // the next sender tries anew
    held.arroyoQueue = undefined;
    throw error;
  });
  return held.arroyoQueue;
}
