import { Op } from "sequelize";
import { checkProject, MONTH_START, runHash, summarySchema, type Project, type RunResult, type RunSettings, type Summary } from "@arroyo/core";
import { store } from "./store.ts";
import { ProjectRunRow, RunRow, RunSeriesRow, type RunStatus } from "./models.ts";
import { current, openProject, Refusal } from "./projects.ts";
import { queue, RUN_QUEUE } from "./queue.ts";
import { decodeValues, encodeValues } from "./seriesCodec.ts";
import { keepWeather, weatherFor } from "./weather.ts";

/** A running run without a sign of life for this long is taken up again, ms. */
export const LOST_AFTER = 5000;

export interface RunView {
  readonly hash: string;
  readonly status: RunStatus;
  /** Share done, 0…1. */
  readonly progress: number;
  readonly revision: number;
  readonly createdAt: string;
  readonly stepsPerHour: number;
  readonly attempts: number;
  readonly error: string | null;
  readonly summary: Summary | null;
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
  // a summary of an earlier version lacks what the screens read
  summary: r.summary && summarySchema.safeParse(r.summary).success ? r.summary : null,
});

/** Queues a run of the project as it is saved; a run that was already computed is only listed again. */
export async function startRun(projectId: string): Promise<RunView> {
  await store();
  const { document, revision } = await openProject(projectId);
  const errors = checkProject(document).problems.filter((p) => p.severity === "error");
  if (errors.length > 0) throw new Refusal(422, "The project has problems that keep it from running.", errors);
  const weather = await weatherFor(document);
  await keepWeather(weather);
  const settings: RunSettings = { stepsPerHour: document.run.stepsPerHour };
  const hash = runHash(document, weather, settings);
  const [run] = await RunRow.findOrCreate({ where: { hash }, defaults: { hash, document, settings, status: "queued" } });
  const [link] = await ProjectRunRow.findOrCreate({ where: { projectId, runHash: hash }, defaults: { projectId, runHash: hash, revision } });
  if (run.status !== "done" && run.status !== "running") {
    await run.update({ status: "queued", error: null, progress: 0 });
    await (await queue()).send(RUN_QUEUE, { hash });
  }
  return view(run, link.revision, link.createdAt);
}

export async function listRuns(projectId: string): Promise<RunView[]> {
  await store();
  const links = await ProjectRunRow.findAll({ where: { projectId }, order: [["createdAt", "DESC"]], limit: 50 });
  const runs = await RunRow.findAll({ where: { hash: { [Op.in]: links.map((l) => l.runHash) } }, attributes: { exclude: ["document"] } });
  return links.flatMap((l) => {
    const r = runs.find((x) => x.hash === l.runHash);
    return r ? [view(r, l.revision, l.createdAt)] : [];
  });
}

/** Asks for a run to stop; the runner sees it within a second. */
export async function cancelRun(hash: string): Promise<void> {
  await store();
  await RunRow.update({ status: "cancelled" }, { where: { hash, status: { [Op.in]: ["queued", "running"] } } });
}

/** One stored series of a run over all its months. */
export async function runSeries(hash: string, scope: string, quantity: string): Promise<{ unit: string; values: number[] }> {
  await store();
  const rows = await RunSeriesRow.findAll({ where: { runHash: hash, scope, quantity }, order: [["month", "ASC"]] });
  if (rows.length === 0) throw new Refusal(404, `The run has no series "${quantity}" of "${scope}".`);
  return { unit: rows[0].unit, values: rows.flatMap((r) => Array.from(decodeValues(r.data, r.unit))) };
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

/** Reports progress and life; false when the run is no longer this runner's to compute. */
export async function beat(hash: string, runner: string, progress: number): Promise<boolean> {
  const [n] = await RunRow.update({ progress, heartbeatAt: new Date() }, { where: { hash, runner, status: "running" } });
  return n === 1;
}

/** Stores a finished run and its series by month, all or nothing. */
export async function finishRun(hash: string, runner: string, result: RunResult): Promise<void> {
  const sequelize = await store();
  await sequelize.transaction(async (transaction) => {
    const [n] = await RunRow.update({ status: "done", progress: 1, summary: result.summary }, { where: { hash, runner, status: "running" }, transaction });
    if (n === 0) return;
    await RunSeriesRow.destroy({ where: { runHash: hash }, transaction });
    const rows = result.series.flatMap((s) =>
      MONTH_START.slice(0, 12).map((first, month) => ({
        runHash: hash,
        scope: s.scope,
        quantity: s.quantity,
        month,
        unit: s.unit,
        data: encodeValues(s.values.subarray(first * 24, MONTH_START[month + 1] * 24), s.unit),
      })),
    );
    await RunSeriesRow.bulkCreate(rows, { transaction });
  });
}

export async function failRun(hash: string, runner: string, message: string): Promise<void> {
  await RunRow.update({ status: "failed", error: message }, { where: { hash, runner, status: "running" } });
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
