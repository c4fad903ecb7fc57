import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Edit, Project } from "@arroyo/core";
import { KEEPALIVE_MOST, SAVE_AFTER, SAVE_LIMIT, SaveQueue, type SaveAnswer, type SaveState } from "./saveQueue.ts";
import type { Save, Unsent, UnsentKeeper } from "./unsent.ts";

const edit = (name: string): Edit => ({ name, changes: [{ op: "set", path: ["note"], value: name }] });

/** A server that keeps what it is sent as the real one does: in order of revisions, and a save once by its name. */
class Server {
  revision = 1;
  readonly names: string[] = [];
  readonly known = new Map<string, number>();
  /** What happens to the next saves instead: arrived and answered, or not. */
  readonly faults: ("lost answer" | "lost" | "500" | "503" | "hang")[] = [];
  readonly keepalive: boolean[] = [];
  async take(base: number, save: Save, how: { keepalive: boolean; signal: AbortSignal }): Promise<SaveAnswer> {
    this.keepalive.push(how.keepalive);
    const fault = this.faults.shift();
    if (fault === "hang") return new Promise((_, reject) => how.signal.addEventListener("abort", () => reject(new Error("aborted"))));
    if (fault === "lost") throw new Error("away");
    if (fault === "500" || fault === "503") return { status: Number(fault), message: `It is ${fault}.` };
    const answer = this.put(base, save);
    if (fault === "lost answer") throw new Error("away");
    return answer;
  }
  private put(base: number, save: Save): SaveAnswer {
    const before = this.known.get(save.saveId);
    if (before !== undefined) return { status: 200, revision: before };
    if (base !== this.revision) return { status: 409, message: "changed elsewhere", revision: this.revision, document: {} as Project };
    this.known.set(save.saveId, ++this.revision);
    this.names.push(...save.edits.map((e) => e.name));
    return { status: 200, revision: this.revision };
  }
}

let server: Server;
let kept: Map<string, Unsent>;
let states: SaveState[];
const keeper: UnsentKeeper = {
  keep: (id, unsent) => void (unsent ? kept.set(id, JSON.parse(JSON.stringify(unsent)) as Unsent) : kept.delete(id)),
  takeUp: () => Promise.resolve({ left: [], release: () => undefined }),
};
function made(base = server.revision): SaveQueue {
  const queue = new SaveQueue("p", base, (_, b, save, how) => server.take(b, save, how), keeper);
  queue.onState = (s) => states.push(s);
  return queue;
}
const pass = (ms: number): Promise<unknown> => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  server = new Server();
  kept = new Map();
  states = [];
});
afterEach(() => {
  vi.useRealTimers();
});

describe("a queue of saves", () => {
  it("sends what was edited up to a pause as one save, and keeps it in the browser until the server has it", async () => {
    const queue = made();
    queue.push(edit("a"));
    await pass(SAVE_AFTER - 100);
    queue.push(edit("b"));
    expect(kept.get("p")?.waiting.map((e) => e.name)).toEqual(["a", "b"]);
    await pass(SAVE_AFTER - 100);
    expect(server.names).toEqual([]);
    await pass(200);
    expect(server.names).toEqual(["a", "b"]);
    expect(server.revision).toBe(2);
    expect(kept.size).toBe(0);
    expect(states.map((s) => s.state)).toEqual(["waiting", "waiting", "saving", "saved"]);
  });
  it("asks again after growing pauses while the server fails or is away, at most every half minute", async () => {
    const queue = made();
    server.faults.push("500", "lost", "503", "500", "500", "500", "500");
    queue.push(edit("a"));
    const asked: number[] = [];
    const began = Date.now();
    for (let i = 0; i < 4 * 150 && server.names.length === 0; i++) {
      const before = server.keepalive.length;
      await pass(250);
      if (server.keepalive.length > before) asked.push(Math.round((Date.now() - began) / 1000));
    }
    const pauses = asked.slice(1).map((t, i) => t - asked[i]);
    expect(pauses).toEqual([1, 2, 4, 8, 16, 30, 30]);
    expect(server.names).toEqual(["a"]);
    expect(queue.empty).toBe(true);
  });
  it("tells what the server said, and asks at once when told to", async () => {
    const queue = made();
    server.faults.push("500");
    queue.push(edit("a"));
    await queue.flush();
    expect(queue.current).toMatchObject({ state: "retrying", message: "It is 500." });
    await queue.tryAgain();
    expect(queue.current.state).toBe("saved");
  });
  it("gives up waiting for a server that says nothing, and asks again", async () => {
    const queue = made();
    server.faults.push("hang");
    queue.push(edit("a"));
    await pass(SAVE_AFTER + SAVE_LIMIT + 10);
    expect(queue.current).toMatchObject({ state: "retrying", message: "The server does not answer." });
    await pass(1100);
    expect(server.names).toEqual(["a"]);
  });
  it("takes an answer that was lost for no conflict: the save goes out again under its name, alone", async () => {
    const queue = made();
    server.faults.push("lost answer");
    queue.push(edit("a"));
    await queue.flush();
    expect(server.names).toEqual(["a"]);
    queue.push(edit("b"));
    await pass(20000);
    expect(server.names).toEqual(["a", "b"]);
    expect(server.revision).toBe(3);
    expect(queue.revision).toBe(3);
    expect(queue.current.state).toBe("saved");
  });
  it("stops at a conflict, keeps every edit, also later ones, and goes on from where it is told", async () => {
    const queue = made();
    server.revision = 5;
    queue.push(edit("a"));
    await queue.flush();
    expect(queue.current).toMatchObject({ state: "refused", theirs: { revision: 5 } });
    queue.push(edit("b"));
    await pass(60000);
    expect(server.names).toEqual([]);
    expect(queue.unsent.map((e) => e.name)).toEqual(["a", "b"]);
    expect([...(kept.get("p")?.sending?.edits ?? []), ...(kept.get("p")?.waiting ?? [])]).toHaveLength(2);
    queue.rebase(5);
    await pass(10);
    expect(server.names).toEqual(["a", "b"]);
  });
  it("takes up what an earlier page left, and what was under way there is not saved twice", async () => {
    const first = made();
    server.faults.push("lost answer");
    first.push(edit("a"));
    await first.flush();
    first.push(edit("b"));
    const left = kept.get("p") as Unsent;
    first.halt();
    const second = made(left.base);
    second.resume(left.sending, left.waiting);
    await pass(10000);
    expect(server.names).toEqual(["a", "b"]);
    expect(kept.size).toBe(0);
  });
  it("drains before it is left, and says where it could not", async () => {
    const queue = made();
    queue.push(edit("a"));
    expect(await queue.drain(1000)).toBe(true);
    queue.push(edit("b"));
    server.faults.push("hang");
    const drained = queue.drain(1000);
    await pass(1100);
    expect(await drained).toBe(false);
    // it goes on behind the page's back
    await pass(SAVE_LIMIT + 5000);
    expect(server.names).toEqual(["a", "b"]);
  });
  it("asks to outlive the page only for saves that browsers let", async () => {
    const queue = made();
    queue.push(edit("a"));
    await queue.flush();
    queue.push(edit("x".repeat(KEEPALIVE_MOST)));
    await queue.flush();
    expect(server.keepalive).toEqual([true, false]);
  });
});
