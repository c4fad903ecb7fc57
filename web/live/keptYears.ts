import { createStore, delMany, get, set, update, type UseStore } from "idb-keyval";
import type { RunResult } from "@arroyo/core";

/** Years kept in memory and in the browser, by the content they are of. */
const IN_MEMORY = 4;
const IN_BROWSER = 12;

/** Beside the years: their names, the latest used last. */
const ORDER = "order";

/** A copy whose series can be handed over. */
const copied = (r: RunResult): RunResult => ({ ...r, series: r.series.map((s) => ({ ...s, values: s.values.slice() })) });

/**
 * Exact years by the hash of model, weather, settings and core version, so that none is computed twice by the same browser:
 * a project opened again shows its figures at once, and undo brings them back. The least recently used go first.
 */
export class KeptYears {
  private readonly memory = new Map<string, RunResult>();
  private readonly store: UseStore | null = typeof indexedDB === "undefined" ? null : createStore("arroyo-years", "years");

  async find(hash: string): Promise<RunResult | null> {
    const known = this.memory.get(hash);
    if (known) {
      this.remember(hash, known);
      return copied(known);
    }
    if (!this.store) return null;
    try {
      const kept = await get<RunResult>(hash, this.store);
      if (!kept) return null;
      this.remember(hash, kept);
      void this.order(hash, this.store).catch(() => undefined);
      return copied(kept);
    } catch {
      // without storage a year is computed anew
      return null;
    }
  }

  /** Keeps a year; it may be handed over afterwards. */
  keep(hash: string, result: RunResult): void {
    const own = copied(result);
    this.remember(hash, own);
    if (!this.store) return;
    const { store } = this;
    set(hash, own, store)
      .then(() => this.order(hash, store))
      // a full disk or a browser that keeps nothing: the year is still in memory
      .catch(() => undefined);
  }

  /** Puts a year last in the order, and removes the first ones that are too many. */
  private async order(hash: string, store: UseStore): Promise<void> {
    let gone: string[] = [];
    await update<string[]>(
      ORDER,
      (before = []) => {
        const after = [...before.filter((h) => h !== hash), hash];
        gone = after.slice(0, Math.max(0, after.length - IN_BROWSER));
        return after.slice(-IN_BROWSER);
      },
      store,
    );
    if (gone.length > 0) await delMany(gone, store);
  }

  private remember(hash: string, result: RunResult): void {
    this.memory.delete(hash);
    this.memory.set(hash, result);
    const [oldest] = this.memory.keys();
    if (this.memory.size > IN_MEMORY) this.memory.delete(oldest);
  }
}
