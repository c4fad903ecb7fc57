import { applyChanges, parseProject, type Edit, type Problem, type Project } from "@arroyo/core";
import { store } from "./store.ts";
import { Op, Transaction } from "sequelize";
import { ProjectRow, ProjectUseRow, RevisionRow } from "./models.ts";

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
/** Saves whose names are told with a project: far more than a browser can have under way. */
const SAVES_TOLD = 50;
const NAME_MOST = 200;

/** What lists show of a document. */
const listed = (p: Project): { name: string; storeys: number; spaces: number; place: string } => ({
  name: p.name,
  storeys: Object.keys(p.storeys).length,
  spaces: Object.keys(p.spaces).length,
  place: p.site.name,
});

/** Remembers the weather years and images a document or its edits name, for as long as the project lives. */
async function remember(projectId: string, what: unknown, transaction: Transaction): Promise<void> {
  const hashes = new Set(Array.from(JSON.stringify(what).matchAll(/"(?:hash|image)":"([0-9a-f]{16,64})"/g), (m) => m[1]));
  if (hashes.size > 0)
    await ProjectUseRow.bulkCreate(
      Array.from(hashes, (hash) => ({ projectId, hash })),
      { ignoreDuplicates: true, transaction },
    );
}

/** A stored document in the present format: one saved by an earlier version is brought up to it. */
export function current(document: unknown): Project {
  const parsed = parseProject(document);
  if (!parsed.ok) throw new Refusal(422, "The stored project cannot be read by this version; it is kept as it is.", parsed.problems);
  return parsed.project;
}

export async function listProjects(): Promise<ProjectListItem[]> {
  await store();
  const rows = await ProjectRow.findAll({
    attributes: ["id", "name", "revision", "updatedAt", "storeys", "spaces", "place"],
    order: [
      ["updatedAt", "DESC"],
      ["id", "ASC"],
    ],
  });
  return rows.map(({ id, name, revision, updatedAt, storeys, spaces, place }) => ({
    id,
    name,
    revision,
    updatedAt: updatedAt.toISOString(),
    storeys,
    spaces,
    place,
  }));
}

/** Whether a text can name stored content; a name from outside that cannot is not asked of the database. */
export const isHash = (text: string): boolean => /^[0-9a-f]{16,64}$/.test(text);
const isId = (text: string): boolean => /^[A-Za-z0-9_-]{1,64}$/.test(text);

/** No project of this name; a long name is not echoed whole. */
const unknown = (id: string): Refusal => new Refusal(404, `There is no project "${id.length > 70 ? `${id.slice(0, 64)}…` : id}".`);

/** A project as it is saved, with the names of its last saves and the revisions they made. @throws Refusal (404) */
export async function openProject(id: string): Promise<{ document: Project; revision: number; saves: { id: string; revision: number }[] }> {
  if (!isId(id)) throw unknown(id);
  const sequelize = await store();
  // document and saves of one moment
  return sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, async (transaction) => {
    const row = await ProjectRow.findByPk(id, { transaction });
    if (!row) throw unknown(id);
    const saves = await RevisionRow.findAll({
      attributes: ["number", "saveId"],
      where: { projectId: id, saveId: { [Op.ne]: null } },
      order: [["number", "DESC"]],
      limit: SAVES_TOLD,
      transaction,
    });
    return {
      document: current(row.document),
      revision: row.revision,
      saves: saves.flatMap((r) => (r.saveId === null ? [] : [{ id: r.saveId, revision: r.number }])),
    };
  });
}

/** Stores a new project from a document; its id is made free by a number where it is taken. */
export async function createProject(document: unknown): Promise<{ id: string; name: string }> {
  const sequelize = await store();
  const parsed = parseProject(document);
  if (!parsed.ok) throw new Refusal(422, "This project cannot be read; nothing was saved.", parsed.problems);
  return sequelize.transaction(async (transaction) => {
    await sequelize.query("SELECT pg_advisory_xact_lock(7301)", { transaction });
    let id = parsed.project.id;
    for (let n = 2; await ProjectRow.findByPk(id, { transaction }); n++) id = `${parsed.project.id.slice(0, 56)}-${n}`;
    const project = { ...parsed.project, id };
    await ProjectRow.create({ id, revision: 1, document: project, ...listed(project) }, { transaction });
    await remember(id, project, transaction);
    await RevisionRow.create({ projectId: id, number: 1, name: "Start", edits: [], snapshot: project }, { transaction });
    return { id, name: project.name };
  });
}

/**
 * Saves edits on top of revision `base`. A save sent again under its name is answered with the revision it made. An older base is refused (409) with the document that is there,
 * and nothing is written: the sender still has its own state. An edit that makes the document invalid is
 * refused (422).
 */
export async function saveRevision(id: string, base: number, edits: readonly Edit[], saveId: string | null = null): Promise<{ revision: number }> {
  if (!isId(id)) throw unknown(id);
  const sequelize = await store();
  return sequelize.transaction(async (transaction) => {
    const row = await ProjectRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!row) throw unknown(id);
    const again = saveId === null ? null : await RevisionRow.findOne({ attributes: ["number"], where: { projectId: id, saveId }, transaction });
    if (again) return { revision: again.number };
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
        name: edits[edits.length - 1]?.name.slice(0, NAME_MOST) ?? null,
        edits: [...edits],
        saveId,
        snapshot: revision % SNAPSHOT_EVERY === 0 ? parsed.project : null,
      },
      { transaction },
    );
    await row.update({ document: parsed.project, revision, ...listed(parsed.project) }, { transaction });
    await remember(id, edits, transaction);
    return { revision };
  });
}

export async function deleteProject(id: string): Promise<void> {
  if (!isId(id)) throw unknown(id);
  await store();
  const gone = await ProjectRow.destroy({ where: { id } });
  if (gone === 0) throw unknown(id);
}
