import type { Edit, Project } from "@arroyo/core";
import { randomId, type Save, type Unsent, type UnsentKeeper } from "./unsent.ts";

export type SaveState =
  | { readonly state: "saved" | "waiting" | "saving" }
  /** The server did not answer or failed; it is asked again at `again`, ms since 1970. */
  | { readonly state: "retrying"; readonly message: string; readonly again: number }
  /** The server said no. Nothing more is sent until the user has chosen. */
  | { readonly state: "refused"; readonly message: string; readonly theirs: { readonly document: Project; readonly revision: number } | null };

/** What the server says to a save. */
export interface SaveAnswer {
  readonly status: number;
  readonly revision?: number;
  readonly message?: string;
  readonly document?: Project;
}
export type SendSave = (projectId: string, base: number, save: Save, how: { readonly keepalive: boolean; readonly signal: AbortSignal }) => Promise<SaveAnswer>;

/** An edit is sent after a pause of this length without another, ms. */
export const SAVE_AFTER = 3000;
/** A save that is not answered within this time counts as lost, ms. */
export const SAVE_LIMIT = 20000;
const FIRST_PAUSE = 1000;
const LONGEST_PAUSE = 30000;
/** Bytes a save may have that is to outlive its page: browsers allow 64 KiB, and fail larger ones. */
export const KEEPALIVE_MOST = 60000;

/**
 * The edits of one project on their way to the server, in order, one save at a time. An edit stays in the browser's
 * storage until the server has said yes. The queue belongs to its project, not to the page's view: it goes on when another
 * project is opened.
 */
export class SaveQueue {
  readonly projectId: string;
  private base: number;
  private sending: Save | null = null;
  private waiting: Edit[] = [];
  private state: SaveState = { state: "saved" };
  private timer: ReturnType<typeof setTimeout> | null = null;
  private request: Promise<void> | null = null;
  private failures = 0;
  private readonly send: SendSave;
  private readonly keeper: UnsentKeeper;
  /** Told of every change of state; the view that shows the project sets it. */
  onState: ((state: SaveState, revision: number, savedAt: Date | null) => void) | null = null;
  private savedAt: Date | null = null;

  constructor(projectId: string, base: number, send: SendSave, keeper: UnsentKeeper) {
    this.projectId = projectId;
    this.base = base;
    this.send = send;
    this.keeper = keeper;
  }

  get current(): SaveState {
    return this.state;
  }
  /** Revision of the last save the server accepted. */
  get revision(): number {
    return this.base;
  }
  /** Edits the server has not yet accepted, oldest first. */
  get unsent(): readonly Edit[] {
    return [...(this.sending?.edits ?? []), ...this.waiting];
  }
  get empty(): boolean {
    return this.sending === null && this.waiting.length === 0;
  }

  /** Takes up what an earlier page of this browser had not sent; `sending` may have arrived all the same, and goes out under its old name. */
  resume(sending: Save | null, waiting: readonly Edit[]): void {
    this.sending = sending;
    this.waiting = [...waiting];
    this.keep();
    if (this.empty) return;
    this.tell({ state: "waiting" });
    this.later(0);
  }

  /** Takes up what was not sent and no longer stands on what is saved: it waits for the user. */
  holdBack(edits: readonly Edit[], message: string, theirs: { readonly document: Project; readonly revision: number }): void {
    this.sending = null;
    this.waiting = [...edits];
    this.keep();
    this.tell({ state: "refused", message, theirs });
  }

  push(edit: Edit): void {
    this.waiting.push(edit);
    this.keep();
    if (this.state.state === "refused") return;
    if (this.state.state !== "retrying") {
      this.tell({ state: this.request ? "saving" : "waiting" });
      this.later(SAVE_AFTER);
    }
  }

  /** Sends what waits now; resolves when the server has answered or failed once. */
  async flush(): Promise<void> {
    this.cancelTimer();
    if (this.request) {
      await this.request;
      if (this.state.state !== "waiting") return;
    }
    if (this.empty || this.state.state === "refused") return;
    this.request = this.once().finally(() => (this.request = null));
    await this.request;
  }

  /** Sends at once what a failure had put off. */
  tryAgain(): Promise<void> {
    this.failures = 0;
    return this.flush();
  }

  /** Sends all there is; answers whether the server has all of it, after at most the time given, ms. */
  async drain(limit: number): Promise<boolean> {
    const late = new Promise<"late">((resolve) => setTimeout(resolve, limit, "late"));
    while (!this.empty && this.state.state !== "refused") {
      if ((await Promise.race([this.flush(), late])) === "late") break;
      if (this.state.state === "retrying") break;
    }
    return this.empty;
  }

  /** Stops for good and hands over what is unsent. */
  halt(): Unsent {
    this.cancelTimer();
    this.onState = null;
    const left = { base: this.base, sending: this.sending, waiting: this.waiting };
    this.sending = null;
    this.waiting = [];
    return left;
  }

  /** Gives up what was not sent: it is saved elsewhere or no longer wanted. */
  forget(revision = this.base): void {
    this.cancelTimer();
    this.sending = null;
    this.waiting = [];
    this.base = revision;
    this.failures = 0;
    this.keep();
    this.tell({ state: "saved" });
  }

  /** Sends what was refused once more, on top of another revision, as a new save. */
  rebase(revision: number): void {
    this.waiting = [...this.unsent];
    this.sending = null;
    this.base = revision;
    this.keep();
    this.tell({ state: "waiting" });
    this.later(0);
  }

  private async once(): Promise<void> {
    if (this.sending === null) {
      this.sending = { saveId: randomId(), edits: this.waiting };
      this.waiting = [];
      this.keep();
    }
    const save = this.sending;
    this.tell({ state: "saving" });
    const stop = new AbortController();
    const limit = setTimeout(() => stop.abort(), SAVE_LIMIT);
    let answer: SaveAnswer | null = null;
    try {
      // small saves outlive the page; browsers refuse larger ones that ask to
      const size = new TextEncoder().encode(JSON.stringify(save)).length;
      answer = await this.send(this.projectId, this.base, save, { keepalive: size < KEEPALIVE_MOST, signal: stop.signal });
    } catch {
      answer = null;
    } finally {
      clearTimeout(limit);
    }
    // given up or rebased meanwhile
    if (this.sending !== save) return;
    if (answer && answer.status >= 200 && answer.status < 300 && answer.revision !== undefined) {
      this.base = answer.revision;
      this.sending = null;
      this.failures = 0;
      this.savedAt = new Date();
      this.keep();
      this.tell({ state: this.waiting.length > 0 ? "waiting" : "saved" });
      if (this.waiting.length > 0) this.later(SAVE_AFTER);
    } else if (answer && answer.status >= 400 && answer.status < 500 && answer.status !== 408 && answer.status !== 429) {
      const theirs = answer.document && answer.revision !== undefined ? { document: answer.document, revision: answer.revision } : null;
      this.tell({ state: "refused", message: answer.message ?? "The change could not be saved.", theirs });
    } else {
      const pause = Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** this.failures++);
      this.tell({
        state: "retrying",
        message: answer?.message ?? "The server does not answer.",
        again: Date.now() + pause,
      });
      this.later(pause);
    }
  }

  private later(pause: number): void {
    this.cancelTimer();
    this.timer = setTimeout(() => void this.flush(), pause);
  }
  private cancelTimer(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
  }
  private keep(): void {
    this.keeper.keep(this.projectId, this.empty ? null : { base: this.base, sending: this.sending, waiting: this.waiting });
  }
  private tell(state: SaveState): void {
    this.state = state;
    this.onState?.(state, this.base, this.savedAt);
  }
}
