import { randomUUID } from "node:crypto";
import { QueryTypes, type Sequelize, type Transaction } from "sequelize";
import {
  countRuns,
  figuresKept,
  nextTasks,
  storedHash,
  studyProblems,
  viewOf,
  type LoggedReadings,
  type Project,
  type Study,
  type StudyOutcome,
  type StudyRow,
  type StudyTask,
  type WeatherYear,
} from "@arroyo/core";
import { current, openProject, Refusal } from "./projects.ts";
import { LOST_AFTER } from "./runs.ts";
import { store } from "./store.ts";
import { loggedOf } from "./readings.ts";
import { storedWeather } from "./weather.ts";

export type StudyStatus = "queued" | "running" | "paused" | "done" | "cancelled" | "failed";
/** A study as it was last started: of columns alone. */
export interface StudyView {
  readonly study: string;
  readonly status: StudyStatus;
  /** Runs to be made and those that are, years and checks counted; of a search the most it may take. */
  readonly planned: number;
  readonly done: number;
  readonly failed: number;
  /** Mean time of a run in one thread, s; null: none was made yet. */
  readonly pace: number | null;
  /** Threads of the runners that are up. */
  readonly threads: number;
  readonly revision: number;
  readonly startedAt: string;
  readonly error: string | null;
}
/** With its runs, or those told after a number. */
export interface StudyAnswer extends StudyView {
  /** The study and the model it stands on, as they were when it was started. */
  readonly made: { readonly study: Study; readonly document: Project } | null;
  /** Keys of the figures of every row. */
  readonly keys: readonly string[];
  readonly rows: readonly StudyRow[];
  /** Number to ask with for what comes after; more: there is more at once. */
  readonly told: number;
  readonly more: boolean;
}

/** Rows of an answer at most. */
const ROWS = 4000;
/** Numbers are told again this far back: two processes may end in another order than they took their numbers. */
const OVERLAP = 200;
/** Time a lease is to take, s, and its most runs. */
const LEASE = 30;
const LEASE_MOST = 200;
/** Runs of a lease whose pace is not known yet. */
const FIRST_LEASE = 4;

interface Execution {
  readonly id: string;
  readonly projectId: string;
  readonly studyId: string;
  readonly status: StudyStatus;
  readonly document: Project;
  readonly study: Study;
  readonly keys: string[];
  readonly revision: number;
  readonly planned: number;
  readonly seconds: number;
  readonly made: number;
  readonly error: string | null;
  readonly createdAt: Date;
}

const select = <T extends object>(sequelize: Sequelize, sql: string, bind: readonly unknown[], transaction?: Transaction): Promise<T[]> =>
  sequelize.query<T>(sql, { bind: [...bind], type: QueryTypes.SELECT, ...(transaction ? { transaction } : {}) });

const isStudyId = (text: string): boolean => /^[A-Za-z0-9_-]{1,64}$/.test(text);
const notStarted = (id: string): Refusal => new Refusal(404, `The study "${id.slice(0, 64)}" has not been run yet.`);
const COLUMNS = `e.id, e."projectId", e."studyId", e.status, e.revision, e.planned, e.seconds, e.made, e.error, e."createdAt"`;

/** Threads of the runners that are up. */
async function threadsUp(sequelize: Sequelize): Promise<number> {
  const [row] = await select<{ threads: number }>(
    sequelize,
    `SELECT coalesce(sum(threads), 0)::int AS threads FROM runners WHERE "heartbeatAt" > now() - $1 * interval '1 millisecond'`,
    [2 * LOST_AFTER],
  );
  return row.threads;
}

/** Tells that a runner is up, with the threads it has for studies. */
export async function runnerUp(runner: string, threads: number): Promise<void> {
  const sequelize = await store();
  await sequelize.query(
    `INSERT INTO runners (id, threads, "heartbeatAt") VALUES ($1, $2, now()) ON CONFLICT (id) DO UPDATE SET threads = excluded.threads, "heartbeatAt" = now()`,
    { bind: [runner, threads] },
  );
}
export async function runnerDown(runner: string): Promise<void> {
  const sequelize = await store();
  await sequelize.query(`DELETE FROM runners WHERE id = $1 OR "heartbeatAt" < now() - interval '1 day'`, { bind: [runner] });
}

type Counted = Omit<Execution, "document" | "study" | "keys"> & { readonly done: number; readonly failed: number };
async function counted(sequelize: Sequelize, projectId: string, studyId: string | null): Promise<Counted[]> {
  return select<Counted>(
    sequelize,
    `SELECT ${COLUMNS},
       (SELECT count(*)::int FROM study_points p WHERE p.execution = e.id AND p.state = 'done') AS done,
       (SELECT count(*)::int FROM study_points p WHERE p.execution = e.id AND p.state = 'done' AND p.error IS NOT NULL) AS failed
     FROM study_executions e WHERE e."projectId" = $1 AND ($2::text IS NULL OR e."studyId" = $2) ORDER BY e."createdAt" DESC`,
    [projectId, studyId],
  );
}
const view = (e: Counted, threads: number): StudyView => ({
  study: e.studyId,
  status: e.status,
  planned: e.planned,
  done: e.done,
  failed: e.failed,
  pace: e.made > 0 ? e.seconds / e.made : null,
  threads,
  revision: e.revision,
  startedAt: e.createdAt.toISOString(),
  error: e.error,
});

/** Studies of a project that were started, and the threads at hand. */
export async function listStudies(projectId: string): Promise<{ studies: StudyView[]; threads: number }> {
  const sequelize = await store();
  const [rows, threads] = await Promise.all([counted(sequelize, projectId, null), threadsUp(sequelize)]);
  return { studies: rows.map((r) => view(r, threads)), threads };
}

/**
 * Starts a study of the saved project anew: runs that are known by their content are taken over, the rest is made.
 * @param wanted the revision the sender has in view: another one that is saved is refused (409)
 */
export async function startStudy(projectId: string, studyId: string, wanted: string | null = null): Promise<StudyView> {
  const sequelize = await store();
  const { document, revision } = await openProject(projectId);
  if (wanted !== null && wanted !== String(revision))
    throw new Refusal(409, `The saved project is at revision ${revision}, what you see is revision ${wanted.slice(0, 12)}. Save or reload it, then run it.`);
  const study = document.studies && Object.hasOwn(document.studies, studyId) ? document.studies[studyId] : null;
  if (!study) throw new Refusal(404, `The project has no study "${studyId.slice(0, 64)}".`);
  const errors = studyProblems(document, study).filter((p) => p.severity === "error");
  if (errors.length > 0) throw new Refusal(422, errors[0].message, errors);
  const points = 1 + countRuns(study);
  const planned = points * Math.max(1, study.years.length) + (study.length === "year" ? 0 : Math.min(study.checks, points));
  const keys = figuresKept(document, study).map((f) => f.key);
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`DELETE FROM study_executions WHERE "projectId" = $1 AND "studyId" = $2`, { bind: [projectId, studyId], transaction });
    await sequelize.query(
      `INSERT INTO study_executions (id, "projectId", "studyId", status, document, study, keys, revision, planned, seconds, made, "createdAt", "updatedAt")
       VALUES ($1, $2, $3, 'queued', $4::json, $5::json, $6::json, $7, $8, 0, 0, now(), now())`,
      {
        bind: [
          randomUUID(),
          projectId,
          studyId,
          JSON.stringify({ ...document, studies: undefined }),
          JSON.stringify(study),
          JSON.stringify(keys),
          revision,
          planned,
        ],
        transaction,
      },
    );
  });
  return studyView(projectId, studyId);
}

/** How far a study is. @throws Refusal (404) where it was not started */
export async function studyView(projectId: string, studyId: string): Promise<StudyView> {
  const sequelize = await store();
  const [row] = isStudyId(studyId) ? await counted(sequelize, projectId, studyId) : [];
  if (!row) throw notStarted(studyId);
  return view(row, await threadsUp(sequelize));
}

/** How far a study is, with the runs that were made after an earlier answer. @param since that answer's `told` */
export async function studyAnswer(projectId: string, studyId: string, since: string | null = null): Promise<StudyAnswer> {
  const sequelize = await store();
  const after = since === null ? 0 : Number(since);
  if (!Number.isSafeInteger(after) || after < 0) throw new Refusal(400, "`since` is a number, such as an answer's `told`.");
  const [row] = isStudyId(studyId) ? await counted(sequelize, projectId, studyId) : [];
  if (!row) throw notStarted(studyId);
  const [[kept], threads, rows] = await Promise.all([
    select<Pick<Execution, "keys"> & { document: Project | null; study: Study | null }>(
      sequelize,
      `SELECT keys, ${after === 0 ? "document, study" : "NULL AS document, NULL AS study"} FROM study_executions WHERE id = $1`,
      [row.id],
    ),
    threadsUp(sequelize),
    rowsAfter(sequelize, row.id, Math.max(0, after - OVERLAP), ROWS),
  ]);
  const told = rows.reduce((m, r) => Math.max(m, r.told), after);
  return {
    ...view(row, threads),
    made: kept.document && kept.study ? { study: kept.study, document: current(kept.document) } : null,
    keys: kept.keys,
    rows: rows.map(({ told: _told, ...r }) => r),
    told,
    more: rows.length === ROWS,
  };
}

async function rowsAfter(
  sequelize: Sequelize,
  execution: string,
  after: number,
  most: number,
  transaction?: Transaction,
): Promise<(StudyRow & { told: number })[]> {
  return select<StudyRow & { told: number }>(
    sequelize,
    `SELECT p.index, p.point, p.year, p."check", r.figures, p.error, p.told::int AS told
     FROM study_points p LEFT JOIN study_results r ON r.hash = p.hash
     WHERE p.execution = $1 AND p.state = 'done' AND p.told > $2 ORDER BY p.told LIMIT $3`,
    [execution, after, most],
    transaction,
  );
}

async function turn(projectId: string, studyId: string, from: readonly StudyStatus[], to: StudyStatus): Promise<StudyView> {
  const sequelize = await store();
  await sequelize.query(`UPDATE study_executions SET status = $3, "updatedAt" = now() WHERE "projectId" = $1 AND "studyId" = $2 AND status = ANY($4)`, {
    bind: [projectId, studyId, to, [...from]],
  });
  return studyView(projectId, studyId);
}
/** Has a study wait after the runs that are being made. */
export const pauseStudy = (projectId: string, studyId: string): Promise<StudyView> => turn(projectId, studyId, ["queued", "running"], "paused");
/** Has a paused or cancelled study go on with what is left of it. */
export const resumeStudy = (projectId: string, studyId: string): Promise<StudyView> => turn(projectId, studyId, ["paused", "cancelled"], "running");
/** Ends a study; what was made of it is kept. */
export const cancelStudy = (projectId: string, studyId: string): Promise<StudyView> => turn(projectId, studyId, ["queued", "running", "paused"], "cancelled");

/** Some runs of a study in the hands of one runner. */
export interface StudyLease {
  readonly id: string;
  readonly execution: string;
  readonly document: Project;
  readonly study: Study;
  readonly weathers: Readonly<Record<string, WeatherYear>>;
  /** Readings of points that drive inputs, or that its runs are compared with. */
  readonly logged: LoggedReadings;
  readonly tasks: readonly (StudyTask & { readonly place: number })[];
}
/** What came of a run of a lease. */
export interface StudyMade extends StudyOutcome {
  readonly place: number;
  /** Its content; null: it could not be made ready. */
  readonly key: string | null;
}

/** Puts studies that wait for it on their way, asks searches for their next generation, and ends those of which every run is made. */
export async function advanceStudies(): Promise<void> {
  const sequelize = await store();
  const open = await select<{ id: string }>(
    sequelize,
    `SELECT e.id FROM study_executions e WHERE e.status = 'queued'
       OR (e.status = 'running' AND NOT EXISTS (SELECT 1 FROM study_points p WHERE p.execution = e.id AND p.state <> 'done'))`,
    [],
  );
  for (const { id } of open) await sequelize.transaction((transaction) => advance(sequelize, id, transaction));
}

async function advance(sequelize: Sequelize, id: string, transaction: Transaction): Promise<void> {
  const [e] = await select<Execution>(
    sequelize,
    `SELECT * FROM study_executions WHERE id = $1 AND status IN ('queued', 'running') FOR UPDATE SKIP LOCKED`,
    [id],
    transaction,
  );
  if (!e) return;
  const [{ left, there }] = await select<{ left: number; there: number }>(
    sequelize,
    `SELECT count(*) FILTER (WHERE state <> 'done')::int AS left, count(*)::int AS there FROM study_points WHERE execution = $1`,
    [id],
    transaction,
  );
  if (left > 0) return setStatus(sequelize, id, "running", null, transaction);
  try {
    const document = current(e.document);
    const next = nextTasks(document, e.study, there === 0 ? [] : await rowsAfter(sequelize, id, 0, 1000000, transaction));
    if (next.length > 0) await addTasks(sequelize, id, there, next, transaction);
    await setStatus(sequelize, id, next.length > 0 ? "running" : "done", null, transaction);
  } catch (error) {
    await setStatus(sequelize, id, "failed", error instanceof Error ? error.message : String(error), transaction);
  }
}

const setStatus = async (sequelize: Sequelize, id: string, status: StudyStatus, error: string | null, transaction: Transaction): Promise<void> => {
  await sequelize.query(`UPDATE study_executions SET status = $2, error = $3, "updatedAt" = now() WHERE id = $1 AND status IN ('queued', 'running')`, {
    bind: [id, status, error?.slice(0, 2000) ?? null],
    transaction,
  });
};

async function addTasks(sequelize: Sequelize, execution: string, from: number, tasks: readonly StudyTask[], transaction: Transaction): Promise<void> {
  const rows = tasks.map((t, i) => ({ execution, place: from + i, index: t.index, point: t.point, year: t.year, check: t.check }));
  for (let i = 0; i < rows.length; i += 2000)
    await sequelize.query(
      `INSERT INTO study_points (execution, place, index, point, year, "check", state)
       SELECT execution, place, index, point, year, "check", 'waiting'
       FROM json_to_recordset($1::json) AS t(execution text, place int, index int, point json, year text, "check" boolean)`,
      { bind: [JSON.stringify(rows.slice(i, i + 2000))], transaction },
    );
}

/** Takes the next runs of the study that waits longest, about half a minute of them; fewer towards its end, so that all threads end together. */
export async function claimLease(runner: string): Promise<StudyLease | null> {
  const sequelize = await store();
  const [next] = await select<Pick<Execution, "id" | "seconds" | "made"> & { waiting: number }>(
    sequelize,
    `SELECT e.id, e.seconds, e.made, (SELECT count(*)::int FROM study_points p WHERE p.execution = e.id AND p.state = 'waiting') AS waiting
     FROM study_executions e
     WHERE e.status = 'running' AND EXISTS (SELECT 1 FROM study_points p WHERE p.execution = e.id AND p.state = 'waiting')
     ORDER BY e."createdAt" LIMIT 1`,
    [],
  );
  if (!next) return null;
  const pace = next.made > 0 ? next.seconds / next.made : null;
  const threads = Math.max(1, await threadsUp(sequelize));
  const few = Math.max(1, Math.ceil(next.waiting / (2 * threads)));
  const size = Math.min(few, pace === null ? FIRST_LEASE : Math.max(1, Math.min(LEASE_MOST, Math.round(LEASE / Math.max(pace, 1e-3)))));
  const id = randomUUID();
  const taken = await sequelize.transaction(async (transaction) => {
    await sequelize.query(`INSERT INTO study_leases (id, execution, runner, "heartbeatAt") VALUES ($1, $2, $3, now())`, {
      bind: [id, next.id, runner],
      transaction,
    });
    const rows = await select<StudyTask & { place: number }>(
      sequelize,
      `UPDATE study_points p SET state = 'taken', lease = $2
       FROM (SELECT place FROM study_points WHERE execution = $1 AND state = 'waiting' ORDER BY place LIMIT $3 FOR UPDATE SKIP LOCKED) AS t
       WHERE p.execution = $1 AND p.place = t.place RETURNING p.place, p.index, p.point, p.year, p."check"`,
      [next.id, id, size],
      transaction,
    );
    if (rows.length === 0) await sequelize.query(`DELETE FROM study_leases WHERE id = $1`, { bind: [id], transaction });
    return rows;
  });
  if (taken.length === 0) return null;
  const [e] = await select<Pick<Execution, "document" | "study">>(sequelize, `SELECT document, study FROM study_executions WHERE id = $1`, [next.id]);
  if (!e) return null;
  const document = current(e.document);
  const hashes = new Set(Object.keys(document.weathers).flatMap((year) => storedHash(document, year) ?? []));
  const weathers: Record<string, WeatherYear> = {};
  for (const hash of hashes) {
    const found = await storedWeather(hash).catch((error: unknown) => {
      // a run that needs it tells that it is not at hand
      if (error instanceof Refusal) return null;
      throw error;
    });
    if (found) weathers[hash] = found;
  }
  const logged = await loggedOf(viewOf(document, e.study.base).project, e.study.against?.pairs ?? []);
  return { id, execution: next.id, document, study: e.study, weathers, logged, tasks: taken.sort((a, b) => a.place - b.place) };
}

/** Figures that are known of runs by their content. */
export async function knownResults(keys: readonly string[]): Promise<Map<string, Pick<StudyMade, "figures">>> {
  const sequelize = await store();
  const rows = await select<{ hash: string; figures: (number | null)[] }>(sequelize, `SELECT hash, figures FROM study_results WHERE hash = ANY($1)`, [
    [...keys],
  ]);
  return new Map(rows.map((r) => [r.hash, { figures: r.figures }]));
}

/** Tells that a lease is alive: the state of its study; null: the lease is gone, its runs are somebody else's. */
export async function beatLease(lease: string): Promise<StudyStatus | null> {
  const sequelize = await store();
  const [row] = await select<{ status: StudyStatus }>(
    sequelize,
    `UPDATE study_leases l SET "heartbeatAt" = now() FROM study_executions e WHERE l.id = $1 AND e.id = l.execution RETURNING e.status`,
    [lease],
  );
  return row?.status ?? null;
}

/** Puts down runs of a lease: figures by their content, once; runs that are not this lease's any more are left to whoever has them. @param known made before, so that they take no time */
export async function keepMade(
  { id, execution }: Pick<StudyLease, "id" | "execution">,
  made: readonly (StudyMade & { readonly known?: boolean })[],
): Promise<void> {
  if (made.length === 0) return;
  const sequelize = await store();
  await sequelize.transaction(async (transaction) => {
    const fresh = made.filter((m) => m.key !== null && m.figures !== null && !m.known).sort((a, b) => ((a.key ?? "") < (b.key ?? "") ? -1 : 1));
    if (fresh.length > 0)
      await sequelize.query(
        `INSERT INTO study_results (hash, figures, seconds, "createdAt")
         SELECT DISTINCT ON (hash) hash, figures, seconds, now() FROM json_to_recordset($1::json) AS t(hash text, figures jsonb, seconds real) ON CONFLICT (hash) DO NOTHING`,
        { bind: [JSON.stringify(fresh.map((m) => ({ hash: m.key, figures: m.figures, seconds: m.seconds })))], transaction },
      );
    await sequelize.query(
      `UPDATE study_points p SET state = 'done', lease = NULL, hash = t.hash, error = t.error, told = nextval('study_told')
       FROM json_to_recordset($2::json) AS t(place int, hash text, error text) WHERE p.execution = $1 AND p.place = t.place AND p.lease = $3`,
      {
        bind: [
          execution,
          JSON.stringify(made.map((m) => ({ place: m.place, hash: m.figures === null ? null : m.key, error: m.error?.slice(0, 2000) ?? null }))),
          id,
        ],
        transaction,
      },
    );
    const timed = made.filter((m) => !m.known && m.figures !== null);
    if (timed.length > 0)
      await sequelize.query(`UPDATE study_executions SET seconds = seconds + $2, made = made + $3, "updatedAt" = now() WHERE id = $1`, {
        bind: [execution, timed.reduce((s, m) => s + m.seconds, 0), timed.length],
        transaction,
      });
  });
}

/** Gives a lease back: what was not made of it waits again. */
export async function endLease(lease: string): Promise<void> {
  const sequelize = await store();
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`UPDATE study_points SET state = 'waiting', lease = NULL WHERE lease = $1 AND state = 'taken'`, { bind: [lease], transaction });
    await sequelize.query(`DELETE FROM study_leases WHERE id = $1`, { bind: [lease], transaction });
  });
}

/** Gives back the leases whose runner has gone silent. */
export async function freeLostLeases(): Promise<number> {
  const sequelize = await store();
  const lost = await select<{ id: string }>(sequelize, `SELECT id FROM study_leases WHERE "heartbeatAt" < now() - $1 * interval '1 millisecond'`, [LOST_AFTER]);
  for (const { id } of lost) await endLease(id);
  return lost.length;
}

/** A finished study with its runs, as a demo ships it. */
export interface ShippedStudy {
  readonly keys: readonly string[];
  readonly rows: readonly (StudyRow & { readonly hash: string | null; readonly seconds: number })[];
}
/** Puts down a finished study of a project with its runs. */
export async function shipStudy(projectId: string, studyId: string, shipped: ShippedStudy): Promise<void> {
  const started = await startStudy(projectId, studyId);
  const sequelize = await store();
  const [{ id }] = await select<{ id: string }>(sequelize, `SELECT id FROM study_executions WHERE "projectId" = $1 AND "studyId" = $2`, [
    projectId,
    started.study,
  ]);
  await sequelize.transaction(async (transaction) => {
    await addTasks(sequelize, id, 0, shipped.rows, transaction);
    await sequelize.query(
      `INSERT INTO study_results (hash, figures, seconds, "createdAt")
       SELECT DISTINCT ON (hash) hash, figures, seconds, now() FROM json_to_recordset($1::json) AS t(hash text, figures jsonb, seconds real) WHERE hash IS NOT NULL ON CONFLICT (hash) DO NOTHING`,
      { bind: [JSON.stringify(shipped.rows.map(({ hash, figures, seconds }) => ({ hash, figures, seconds })))], transaction },
    );
    await sequelize.query(
      `UPDATE study_points p SET state = 'done', hash = t.hash, error = t.error, told = nextval('study_told')
       FROM json_to_recordset($2::json) AS t(place int, hash text, error text) WHERE p.execution = $1 AND p.place = t.place`,
      { bind: [id, JSON.stringify(shipped.rows.map((r, place) => ({ place, hash: r.hash, error: r.error })))], transaction },
    );
    await sequelize.query(`UPDATE study_executions SET status = 'done', planned = $2, keys = $3::json, seconds = $4, made = $2 WHERE id = $1`, {
      bind: [id, shipped.rows.length, JSON.stringify(shipped.keys), shipped.rows.reduce((s, r) => s + r.seconds, 0)],
      transaction,
    });
  });
}
