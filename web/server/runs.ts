import { Op, type WhereOptions } from "sequelize";
import { checkProject, priced, runHash, summarySchema, type Project, type RunResult, type RunSettings, type Series, type Summary } from "@arroyo/core";
import { store } from "./store.ts";
import { ProjectRunRow, RunRow, RunSeriesRow, type RunStatus } from "./models.ts";
import { current, isHash, openProject, Refusal } from "./projects.ts";
import { queue, RUN_QUEUE } from "./queue.ts";
import { decodeFuel, encodeFuel } from "./fuelCodec.ts";
import { seriesClasses, type SeriesClass } from "../live/seriesClasses.ts";
import { decodeValues, encodeValues } from "./seriesCodec.ts";
import { keepWeather, weatherFor } from "./weather.ts";

/** A running run without a sign of life for this long is taken up again, ms. */
export const LOST_AFTER = 5000;
/** Runs of a project that its list shows. */
const LISTED = 50;
/** What changed is told again for this long, ms: clocks of two processes differ a little, and a row is stamped before it can be seen. */
const OVERLAP = 10000;

/** A run as lists show it: of columns, never of documents or summaries. */
export interface RunView {
  readonly hash: string;
  readonly status: RunStatus;
  /** Share done, 0…1. */
  readonly progress: number;
  /** Revision of the project it is of. */
  readonly revision: number;
  readonly createdAt: string;
  readonly stepsPerHour: number;
  readonly attempts: number;
  readonly error: string | null;
  /** kWh/m²a; null: not done, or the period is not a year. */
  readonly intensity: number | null;
  /** Series it keeps besides the usual ones of zones. */
  readonly keeps: readonly SeriesClass[];
}

const view = (r: RunRow, revision: number, createdAt: Date): RunView => ({
  hash: r.hash,
  status: r.status,
  progress: r.progress,
  revision,
  createdAt: createdAt.toISOString(),
  stepsPerHour: r.settings.stepsPerHour,
  attempts: r.attempts,
  error: r.error,
  intensity: r.intensity,
  keeps: classNames.filter((c) => seriesClasses[c].every((q) => r.settings.series?.includes(q))),
});
const classNames = Object.keys(seriesClasses) as SeriesClass[];
/** Classes of series named in a request, each once. @throws Refusal (400) for an unknown one */
function keptClasses(text: string | null): SeriesClass[] {
  const asked = new Set((text ?? "").split(",").filter(Boolean));
  for (const name of asked)
    if (!(classNames as string[]).includes(name)) throw new Refusal(400, `A run keeps series of ${classNames.join(", ")}; there is no "${name.slice(0, 32)}".`);
  return classNames.filter((c) => asked.has(c));
}

const LIST_COLUMNS = ["hash", "status", "progress", "settings", "attempts", "error", "intensity", "updatedAt"];
const noRun = (hash: string): Refusal => new Refusal(404, `There is no run "${hash.slice(0, 64)}".`);

/**
 * Queues a run of the project as it is saved; a run that was already computed is only listed again.
 * @param tell whether the runner is told at once; it looks for queued runs by itself as well
 * @param keep classes of series it keeps besides the usual ones, with commas between them
 * @param wanted the revision the sender has in view: another one that is saved is refused (409)
 */
export async function startRun(projectId: string, wanted: string | null = null, tell = true, keep: string | null = null): Promise<RunView> {
  await store();
  const classes = keptClasses(keep);
  const { document, revision } = await openProject(projectId);
  if (wanted !== null && wanted !== String(revision))
    throw new Refusal(409, `The saved project is at revision ${revision}, what you see is revision ${wanted.slice(0, 12)}. Save or reload it, then run it.`);
  const errors = checkProject(document).problems.filter((p) => p.severity === "error");
  if (errors.length > 0) throw new Refusal(422, "The project has problems that keep it from running.", errors);
  const weather = await weatherFor(document);
  const kept = await keepWeather(weather);
  const settings: RunSettings = {
    stepsPerHour: document.run.stepsPerHour,
    ...(classes.length > 0 ? { series: classes.flatMap((c): readonly string[] => seriesClasses[c]) } : {}),
  };
  const hash = runHash(document, weather, settings);
  const [run] = await RunRow.findOrCreate({ where: { hash }, defaults: { hash, document, settings, status: "queued", weather: kept } });
  const [link] = await ProjectRunRow.findOrCreate({ where: { projectId, runHash: hash }, defaults: { projectId, runHash: hash, revision } });
  // the same physics at a later revision: the run is of that one as well
  if (link.revision !== revision) await link.update({ revision });
  if (run.status !== "done" && run.status !== "running" && run.status !== "paused") {
    await run.update({ status: "queued", error: null, progress: 0 });
    // the row alone is enough: the runner sweeps up queued runs that no job points to
    if (tell)
      await queue()
        .then((boss) => boss.send(RUN_QUEUE, { hash }))
        .catch((error: unknown) => console.error("queue:", error instanceof Error ? error.message : String(error)));
  }
  return view(run, link.revision, link.createdAt);
}

/** Runs of a project, newest first. @param since an earlier answer's `at`: only runs that changed after it */
export async function listRuns(projectId: string, since: string | null = null): Promise<{ runs: RunView[]; at: string }> {
  await store();
  const after = since === null ? null : new Date(since);
  if (after && Number.isNaN(after.getTime())) throw new Refusal(400, "`since` is a date and time, such as an answer's `at`.");
  const at = new Date(Date.now() - OVERLAP).toISOString();
  const links = await ProjectRunRow.findAll({ where: { projectId }, order: [["createdAt", "DESC"]], limit: LISTED });
  const where: WhereOptions = { hash: { [Op.in]: links.map((l) => l.runHash) } };
  const runs = await RunRow.findAll({ where, attributes: LIST_COLUMNS });
  const byHash = new Map(runs.map((r) => [r.hash, r]));
  return {
    at,
    runs: links.flatMap((l) => {
      const r = byHash.get(l.runHash);
      return r && (!after || r.updatedAt >= after || l.createdAt >= after) ? [view(r, l.revision, l.createdAt)] : [];
    }),
  };
}

/** The summary of a stored run, under the prices a project has now where one is named. @throws Refusal (404) where there is none, (422) for one of an earlier version */
export async function runSummary(hash: string, projectId: string | null = null): Promise<Summary> {
  await store();
  const row = isHash(hash) ? await RunRow.findByPk(hash, { attributes: ["summary", "status", ...(projectId === null ? [] : ["fuel"])] }) : null;
  if (!row) throw noRun(hash);
  if (!row.summary) throw new Refusal(404, `This run is ${row.status}; it has no figures.`);
  const read = summarySchema.safeParse(row.summary);
  if (!read.success) throw new Refusal(422, "This run was stored by an earlier version of Arroyo and lacks what is shown today. Store it again.");
  if (projectId === null || !row.fuel) return read.data;
  const { document } = await openProject(projectId);
  return priced(read.data, decodeFuel(row.fuel), document);
}

/** Asks for a run to stop; the runner sees it within a second. @throws Refusal (404) for an unknown run */
export const cancelRun = (hash: string): Promise<{ status: RunStatus }> => turnRun(hash, ["queued", "running", "paused"], "cancelled");
/** Has a run wait where it is; its series can be read as far as they go. */
export const pauseRun = (hash: string): Promise<{ status: RunStatus }> => turnRun(hash, ["running"], "paused");
/** Has a paused run go on. */
export const resumeRun = (hash: string): Promise<{ status: RunStatus }> => turnRun(hash, ["paused"], "running");
/** Ends a run before its time; what was computed of its series is kept. */
export const stopRun = (hash: string): Promise<{ status: RunStatus }> => turnRun(hash, ["running", "paused"], "stopped");

async function turnRun(hash: string, from: readonly RunStatus[], to: RunStatus): Promise<{ status: RunStatus }> {
  await store();
  if (!isHash(hash)) throw noRun(hash);
  await RunRow.update({ status: to }, { where: { hash, status: { [Op.in]: [...from] } } });
  const row = await RunRow.findByPk(hash, { attributes: ["status"] });
  if (!row) throw noRun(hash);
  return { status: row.status };
}

/** One stored series of a run: its values one after the other, and the hour of the weather year at which it begins. */
export async function runSeries(hash: string, scope: string, quantity: string): Promise<{ unit: string; start: number; values: number[] }> {
  await store();
  const named = isHash(hash) && scope.length > 0 && scope.length <= 300 && /^[A-Za-z]{1,64}$/.test(quantity);
  const rows = named ? await RunSeriesRow.findAll({ where: { runHash: hash, scope, quantity }, order: [["part", "ASC"]] }) : [];
  if (rows.length === 0) throw new Refusal(404, `The run has no series "${quantity.slice(0, 64)}" of "${scope.slice(0, 64)}".`);
  return { unit: rows[0].unit, start: rows[0].start, values: rows.flatMap((r) => Array.from(decodeValues(r.data, r.unit))) };
}

/** Values in one stored part of a series: the hours of a long month. */
const PART = 744;

/** A series in parts of a month's hours, whatever its length. */
export function partsOf(s: Pick<Series, "values">): Float64Array[] {
  return Array.from({ length: Math.ceil(s.values.length / PART) }, (_, i) => s.values.subarray(i * PART, (i + 1) * PART));
}

/** Claims a queued or lost run for a runner; null when it is done, cancelled or somebody else's. */
export async function claimRun(hash: string, runner: string): Promise<{ document: Project; settings: RunSettings } | null> {
  const sequelize = await store();
  const [claimed] = await RunRow.update(
    { status: "running", runner, heartbeatAt: new Date(), progress: 0, attempts: sequelize.literal("attempts + 1") as unknown as number },
    { where: { hash, [Op.or]: [{ status: "queued" }, { status: "running", heartbeatAt: { [Op.lt]: new Date(Date.now() - LOST_AFTER) } }] } },
  );
  if (claimed === 0) return null;
  const row = await RunRow.findByPk(hash);
  return row && { document: current(row.document), settings: row.settings };
}

/** Reports progress and life: whether to go on or to wait; null when the run is no longer this runner's to compute. */
export async function beat(hash: string, runner: string, progress: number): Promise<"running" | "paused" | null> {
  const [n, rows] = await RunRow.update(
    { progress, heartbeatAt: new Date() },
    { where: { hash, runner, status: { [Op.in]: [...HELD] } }, returning: ["status"] },
  );
  return n === 1 ? (rows[0].status as "running" | "paused") : null;
}
/** A run in the hands of a runner. */
const HELD = ["running", "paused"] as const satisfies readonly RunStatus[];

/** Hours of series that a run under way has computed, from one of its hours on. */
export interface SeriesPiece {
  readonly from: number;
  readonly series: readonly Pick<Series, "scope" | "quantity" | "unit" | "start" | "values">[];
}
/** Keeps what a run under way has computed since the last piece, so that it can be read; a piece of a run that is not this runner's any more is left. @param piece of whole stored parts from its first hour on */
export async function keepPiece(hash: string, runner: string, piece: SeriesPiece): Promise<void> {
  const sequelize = await store();
  await sequelize.transaction(async (transaction) => {
    const mine = await RunRow.findOne({
      where: { hash, runner, status: { [Op.in]: [...HELD, "stopped"] } },
      attributes: ["hash"],
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (mine === null) return;
    await RunSeriesRow.destroy({ where: { runHash: hash, part: { [Op.gte]: Math.floor(piece.from / PART) } }, transaction });
    await RunSeriesRow.bulkCreate(rowsOf(hash, piece.series, Math.floor(piece.from / PART)), { transaction });
  });
}
/** Hour at which the stored part begins that an hour lies in. */
export const partStart = (hour: number): number => PART * Math.floor(hour / PART);

const rowsOf = (hash: string, series: SeriesPiece["series"], first = 0) =>
  series.flatMap((s) =>
    partsOf(s).map((values, part) => ({
      runHash: hash,
      scope: s.scope,
      quantity: s.quantity,
      part: first + part,
      start: s.start,
      unit: s.unit,
      data: encodeValues(values, s.unit),
    })),
  );

/** Stores a finished run and its series by month, all or nothing. */
export async function finishRun(hash: string, runner: string, result: RunResult): Promise<void> {
  const sequelize = await store();
  await sequelize.transaction(async (transaction) => {
    const mine = await RunRow.findOne({
      where: { hash, runner, status: { [Op.in]: [...HELD] } },
      attributes: ["hash"],
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (mine === null) return;
    await RunSeriesRow.destroy({ where: { runHash: hash }, transaction });
    const rows = rowsOf(hash, result.series);
    // in pieces: one statement with everything would hold a second copy of it
    for (let i = 0; i < rows.length; i += 500) await RunSeriesRow.bulkCreate(rows.slice(i, i + 500), { transaction });
    // last, so that the time it changed at lies just before it is seen: whoever asks what changed since must not miss it
    await RunRow.update(
      { status: "done", progress: 1, summary: result.summary, fuel: encodeFuel(result.fuel), intensity: result.summary.energy.intensity },
      { where: { hash }, transaction },
    );
  });
}

export async function failRun(hash: string, runner: string, message: string): Promise<void> {
  await RunRow.update({ status: "failed", error: message.slice(0, 2000) }, { where: { hash, runner, status: { [Op.in]: [...HELD] } } });
}

/** Runs whose runner has gone silent, and queued ones that no job points to any more. */
export async function lostRuns(): Promise<string[]> {
  await store();
  const rows = await RunRow.findAll({
    attributes: ["hash"],
    where: {
      [Op.or]: [
        { status: "running", heartbeatAt: { [Op.lt]: new Date(Date.now() - LOST_AFTER) } },
        { status: "queued", updatedAt: { [Op.lt]: new Date(Date.now() - 4 * LOST_AFTER) } },
      ],
    },
  });
  return rows.map((r) => r.hash);
}
