import { changedLibrary, EMPTY_LIBRARY, parseOwnLibrary, type Change, type OwnLibrary } from "@arroyo/core";
import { LibraryRow } from "./models.ts";
import { Refusal } from "./projects.ts";
import { store } from "./store.ts";

/** The one library of this installation: its owner's. */
const OWN = "mine";

export interface KeptLibrary {
  readonly library: OwnLibrary;
  readonly revision: number;
}

function current(document: unknown): OwnLibrary {
  const parsed = parseOwnLibrary(document);
  if (!parsed.ok) throw new Refusal(422, "My library cannot be read by this version; it is kept as it is.", parsed.problems);
  return parsed.library;
}

/** What the user keeps across projects; empty before anything was kept. */
export async function ownLibrary(): Promise<KeptLibrary> {
  await store();
  const row = await LibraryRow.findByPk(OWN);
  return row ? { library: current(row.document), revision: row.revision } : { library: EMPTY_LIBRARY, revision: 0 };
}

/** Applies changes to what is kept, all or none; one that no longer fits is refused (409). */
export async function changeLibrary(changes: readonly Change[]): Promise<KeptLibrary> {
  const sequelize = await store();
  return sequelize.transaction(async (transaction) => {
    await LibraryRow.findOrCreate({ where: { id: OWN }, defaults: { id: OWN, revision: 0, document: EMPTY_LIBRARY }, transaction });
    const row = await LibraryRow.findByPk(OWN, { transaction, lock: transaction.LOCK.UPDATE });
    if (!row) throw new Refusal(409, "My library was changed elsewhere; try again.");
    const changed = changedLibrary(current(row.document), changes);
    if (!changed.ok) throw new Refusal(409, `${changed.message} Nothing was kept.`);
    const revision = row.revision + 1;
    await row.update({ document: changed.library, revision }, { transaction });
    return { library: changed.library, revision };
  });
}
