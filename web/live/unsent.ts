import { createStore, del, entries, set, type UseStore } from "idb-keyval";
import type { Edit } from "@arroyo/core";

/** One save as it is sent: its edits and the name by which the server knows it when it comes again. */
export interface Save {
  readonly saveId: string;
  readonly edits: readonly Edit[];
}

/** Edits of a project that had not reached the server. */
export interface Unsent {
  /** Revision they stand on. */
  readonly base: number;
  /** The save that was under way: it may have arrived. */
  readonly sending: Save | null;
  readonly waiting: readonly Edit[];
}

/** Keeps unsent edits in the browser, so that they outlive the page. */
export interface UnsentKeeper {
  /** Puts down what is unsent of a project; null: nothing is. */
  keep(projectId: string, unsent: Unsent | null): void;
  /** What pages of this browser that are gone left unsent of a project, oldest first; to be released once this page keeps it itself. */
  takeUp(projectId: string): Promise<{ readonly left: readonly Unsent[]; release(): void }>;
}

/** A name nobody else makes; also where `crypto.randomUUID` is kept from pages. */
export function randomId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, "0")).join("");
}

/** One page of the browser; its lock is free when the page is gone, however it went. */
const page = typeof window === "undefined" ? "none" : randomId();
/** Time a page that goes may take to let go of its lock, ms. */
const RELOAD = 300;
const lockOf = (owner: string): string => `arroyo-page-${owner}`;

interface Entry extends Unsent {
  readonly projectId: string;
  readonly owner: string;
  readonly at: number;
}

/** Keeps unsent edits in IndexedDB; a project has an entry for each page that has unsent edits of it. */
export function browserKeeper(): UnsentKeeper {
  const open: UseStore = createStore("arroyo-unsent", "edits");
  const key = (projectId: string, owner: string): string => `${projectId} ${owner}`;
  const holding = navigator.locks?.request(lockOf(page), () => new Promise<never>(() => undefined));
  holding?.catch(() => undefined);
  // one after the other, so that the last word stands
  let writing: Promise<void> = Promise.resolve();
  const write = (work: () => Promise<void>): void => {
    writing = writing.then(work).catch((error: unknown) => console.error("unsent edits could not be kept in the browser:", error));
  };
  return {
    keep(projectId, unsent) {
      const at = Date.now();
      if (unsent) write(() => set(key(projectId, page), { ...unsent, projectId, owner: page, at } satisfies Entry, open));
      else write(() => del(key(projectId, page), open));
    },
    async takeUp(projectId) {
      try {
        const others = async (): Promise<Entry[]> =>
          (await entries<string, Entry>(open)).map(([, e]) => e).filter((e) => e.projectId === projectId && e.owner !== page);
        const dead = async (): Promise<Entry[]> => {
          const alive = new Set(((await navigator.locks?.query())?.held ?? []).map((l) => l.name));
          return (await others()).filter((e) => !alive.has(lockOf(e.owner)));
        };
        // a page that is being reloaded lets go of its lock in a moment
        if ((await others()).length > (await dead()).length) await new Promise((resolve) => setTimeout(resolve, RELOAD));
        const left = (await dead()).sort((a, b) => a.at - b.at);
        return { left, release: () => left.forEach((e) => write(() => del(key(projectId, e.owner), open))) };
      } catch (error) {
        console.error("unsent edits could not be read from the browser:", error);
        return { left: [], release: () => undefined };
      }
    },
  };
}

/** Keeps nothing beyond the page: for where there is no storage. */
export const forgetfulKeeper: UnsentKeeper = { keep: () => undefined, takeUp: () => Promise.resolve({ left: [], release: () => undefined }) };
