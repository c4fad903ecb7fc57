import { applyChanges, parseProject, type Edit, type Problem, type Project } from "@arroyo/core";
import { store } from "./store.ts";
import { ProjectRow, RevisionRow } from "./models.ts";

/** A refusal with a sentence for the user; `status` is that of the reply. */
export class Refusal extends Error {
  readonly status: number;
  readonly problems: readonly Problem[];
  readonly detail: Record<string, unknown>;
  constructor(status: number, message: string, problems: readonly Problem[] = [], detail: Record<string, unknown> = {}) {
    super(message);
    this.status = status;
    this.problems = problems;
    this.detail = detail;
  }
}

export interface ProjectListItem {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly storeys: number;
  readonly spaces: number;
  readonly place: string;
}

const SNAPSHOT_EVERY = 50;

/** A stored document in the present format: one saved by an earlier version is brought up to it. */
export function current(document: unknown): Project {
  const parsed = parseProject(document);
  if (!parsed.ok) throw new Refusal(422, "The stored project cannot be read by this version; it is kept as it is.", parsed.problems);
  return parsed.project;
}

export async function listProjects(): Promise<ProjectListItem[]> {
  await store();
  const rows = await ProjectRow.findAll({
    order: [
      ["updatedAt", "DESC"],
      ["id", "ASC"],
    ],
  });
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    revision: r.revision,
    updatedAt: r.updatedAt.toISOString(),
    storeys: Object.keys(r.document.storeys).length,
    spaces: Object.keys(r.document.spaces).length,
    place: r.document.site.name,
  }));
}

export async function openProject(id: string): Promise<{ document: Project; revision: number }> {
  await store();
  const row = await ProjectRow.findByPk(id);
  if (!row) throw new Refusal(404, `There is no project "${id}".`);
  return { document: current(row.document), revision: row.revision };
}

/** Stores a new project from a document; its id is made free by a number where it is taken. */
export async function createProject(document: unknown): Promise<{ id: string; name: string }> {
  const sequelize = await store();
  const parsed = parseProject(document);
  if (!parsed.ok) throw new Refusal(422, "This project cannot be read; nothing was saved.", parsed.problems);
  return sequelize.transaction(async (transaction) => {
    await sequelize.query("SELECT pg_advisory_xact_lock(7301)", { transaction });
    let id = parsed.project.id;
    for (let n = 2; await ProjectRow.findByPk(id, { transaction }); n++) id = `${parsed.project.id}-${n}`;
    const project = { ...parsed.project, id };
    await ProjectRow.create({ id, name: project.name, revision: 1, document: project }, { transaction });
    await RevisionRow.create({ projectId: id, number: 1, name: "Start", edits: [], snapshot: project }, { transaction });
    return { id, name: project.name };
  });
}

/**
 * Saves edits on top of revision `base`. An older base is refused (409) with the document that is there,
 * and nothing is written: the sender still has its own state. An edit that makes the document invalid is
 * refused (422).
 */
export async function saveRevision(id: string, base: number, edits: readonly Edit[]): Promise<{ revision: number }> {
  const sequelize = await store();
  return sequelize.transaction(async (transaction) => {
    const row = await ProjectRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!row) throw new Refusal(404, `There is no project "${id}".`);
    if (row.revision !== base)
      throw new Refusal(
        409,
        `This project was changed elsewhere: it is at revision ${row.revision}, your changes start from revision ${base}. Both are kept.`,
        [],
        { revision: row.revision, document: current(row.document) },
      );
    const applied = applyChanges(
      current(row.document),
      edits.flatMap((e) => e.changes),
    );
    if (!applied.ok) throw new Refusal(422, applied.message);
    const parsed = parseProject(applied.project);
    if (!parsed.ok) throw new Refusal(422, "This edit would make the project invalid; nothing was saved.", parsed.problems);
    const revision = row.revision + 1;
    await RevisionRow.create(
      {
        projectId: id,
        number: revision,
        name: edits[edits.length - 1]?.name ?? null,
        edits: [...edits],
        snapshot: revision % SNAPSHOT_EVERY === 0 ? parsed.project : null,
      },
      { transaction },
    );
    await row.update({ document: parsed.project, revision, name: parsed.project.name }, { transaction });
    return { revision };
  });
}

export async function deleteProject(id: string): Promise<void> {
  await store();
  const gone = await ProjectRow.destroy({ where: { id } });
  if (gone === 0) throw new Refusal(404, `There is no project "${id}".`);
}
