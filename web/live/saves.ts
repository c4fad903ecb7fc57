import { applyChanges, parseProject, type Edit, type Project } from "@arroyo/core";
import { ask, tell } from "./server.ts";
import { SaveQueue, type SaveAnswer, type SendSave } from "./saveQueue.ts";
import { browserKeeper, forgetfulKeeper, type UnsentKeeper } from "./unsent.ts";

/** A project as the server keeps it, with the names of its last saves and the revisions they made. */
interface Stored {
  readonly document: Project;
  readonly revision: number;
  readonly saves: readonly { readonly id: string; readonly revision: number }[];
}
export interface OpenedProject {
  readonly ok: true;
  /** With what the server has not got yet. */
  readonly document: Project;
  readonly queue: SaveQueue;
}

let keeper: UnsentKeeper | null = null;
const theKeeper = (): UnsentKeeper => (keeper ??= typeof indexedDB === "undefined" ? forgetfulKeeper : browserKeeper());

/** Queues of this page that still have something to send, by project. */
const queues = new Map<string, SaveQueue>();

export const sendSave: SendSave = async (projectId, base, save, how) => {
  const answer = await tell<{ revision: number }>(`/api/projects/${encodeURIComponent(projectId)}/revisions`, { base, ...save }, how);
  return answer.ok ? { ...answer.body, status: answer.status } : ({ ...answer.body, message: answer.message, status: answer.status } as SaveAnswer);
};

/** A project as it is saved, or why there is none. */
export async function fetchProject(id: string): Promise<Stored | { readonly message: string }> {
  const answer = await ask<Stored>(`/api/projects/${encodeURIComponent(id)}`);
  return answer.ok ? { ...answer.body, saves: answer.body.saves ?? [] } : { message: answer.message };
}

/**
 * Opens a project with whatever this browser had not sent of it: edits of an earlier page, or of a queue that is still at work.
 * Edits that stand on what is saved go on their way; those the saved state has overtaken wait for the user.
 */
export async function openQueue(id: string): Promise<OpenedProject | { readonly ok: false; readonly message: string }> {
  const stored = await fetchProject(id);
  if ("message" in stored) return { ok: false, message: stored.message };
  const own = queues.get(id);
  const { left, release } = await theKeeper().takeUp(id);
  // what is under way may have arrived; the server knows a save by its name
  const arrived = new Map(stored.saves.map((s) => [s.id, s.revision]));
  const queue = new SaveQueue(id, stored.revision, sendSave, theKeeper());
  queues.set(id, queue);
  const parts = [...left, ...(own && !own.empty ? [own.halt()] : [])].map((u) => {
    const at = u.sending ? arrived.get(u.sending.saveId) : undefined;
    return at === undefined ? u : { base: at, sending: null, waiting: u.waiting };
  });
  const edits: readonly Edit[] = parts.flatMap((u) => [...(u.sending?.edits ?? []), ...u.waiting]);
  let document = stored.document;
  if (edits.length > 0) {
    const applied = applyChanges(
      stored.document,
      edits.flatMap((e) => e.changes),
    );
    const parsed = applied.ok ? parseProject(applied.project) : null;
    const current = parts.every((u) => u.base === stored.revision || (u.sending === null && u.waiting.length === 0));
    if (parsed?.ok) document = parsed.project;
    const count = `${edits.length} ${edits.length === 1 ? "edit" : "edits"} of this browser`;
    if (parsed?.ok && current && parts.length === 1) queue.resume(parts[0].sending, parts[0].waiting);
    else if (parsed?.ok && current) queue.resume(null, edits);
    else
      queue.holdBack(
        edits,
        parsed?.ok
          ? `${count} had not been saved when this project was changed elsewhere. They are shown here and still fit.`
          : `${count} had not been saved when this project was changed elsewhere, and no longer fit what is saved now. They are kept in this browser until you choose.`,
        { document: stored.document, revision: stored.revision },
      );
  }
  release();
  return { ok: true, document, queue };
}

/** Stores a document as a project of its own, under a name that says so. */
export async function setAsideCopy(document: Project): Promise<{ readonly id: string } | { readonly message: string }> {
  const end = " (my copy)";
  return storeAsProject({ ...document, name: `${document.name.slice(0, 200 - end.length)}${end}` });
}

/** Stores a document as a project of its own. */
export async function storeAsProject(document: Project): Promise<{ readonly id: string } | { readonly message: string }> {
  const answer = await tell<{ id: string }>("/api/projects", document);
  return answer.ok
    ? { id: answer.body.id }
    : { message: `The copy could not be stored. ${[answer.message, ...answer.problems.map((p) => p.message)].join(" ")}` };
}
