import { QueryTypes } from "sequelize";
import { flowStudyHash, flowStudySpecSchema, MOST_CELLS, studyCells, type FlowDirection, type FlowStudySpec } from "@arroyo/core";
import { Refusal, isHash } from "./projects.ts";
import { LOST_AFTER } from "./runs.ts";
import { store } from "./store.ts";

export type FlowStatus = "queued" | "running" | "paused" | "done" | "cancelled" | "failed";
/** A flow study as it stands. */
export interface FlowStudyView {
  readonly hash: string;
  readonly status: FlowStatus;
  /** Share done, 0…1. */
  readonly progress: number;
  readonly directions: number;
  /** Directions that are done. */
  readonly found: readonly FlowDirection[];
  /** Mean difference of one direction to a coarser grid; null: not made yet. */
  readonly gridCheck: number | null;
  readonly error: string | null;
}
interface Row {
  readonly hash: string;
  readonly spec: FlowStudySpec;
  readonly status: FlowStatus;
  readonly progress: number;
  readonly found: FlowDirection[];
  readonly gridCheck: number | null;
  readonly error: string | null;
}

const COLUMNS = `hash, spec, status, progress, found, "gridCheck", error`;
const view = (r: Row): FlowStudyView => ({
  hash: r.hash,
  status: r.status,
  progress: r.progress,
  directions: r.spec.directions.length,
  found: r.found,
  gridCheck: r.gridCheck,
  error: r.error,
});

async function rowOf(hash: string): Promise<Row> {
  if (!isHash(hash)) throw new Refusal(404, `There is no flow study "${hash.slice(0, 64)}".`);
  const sequelize = await store();
  const [row] = await sequelize.query<Row>(`SELECT ${COLUMNS} FROM flow_studies WHERE hash = $1`, { bind: [hash], type: QueryTypes.SELECT });
  if (!(row as Row | undefined)) throw new Refusal(404, `There is no flow study "${hash}".`);
  return row;
}

export const flowStudy = async (hash: string): Promise<FlowStudyView> => view(await rowOf(hash));

/** Starts a study; one of the same content that is done, or under way, is answered as it is. @throws Refusal (400) for one that cannot be made */
export async function startFlowStudy(input: unknown): Promise<FlowStudyView> {
  const parsed = flowStudySpecSchema.safeParse(input);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Refusal(400, `This is no flow study: ${issue.path.join("/")} ${issue.message}`);
  }
  const spec = parsed.data as FlowStudySpec;
  const cells = studyCells(spec);
  if (cells > MOST_CELLS)
    throw new Refusal(400, `The grid would have ${(cells / 1e6).toFixed(1)} million cells; at most ${MOST_CELLS / 1e6} million are made. Take a coarser grid.`);
  const hash = flowStudyHash(spec);
  const sequelize = await store();
  await sequelize.query(
    `INSERT INTO flow_studies (hash, spec, status, progress, found, "createdAt") VALUES ($1, $2, 'queued', 0, '[]', now())
     ON CONFLICT (hash) DO UPDATE SET status = 'queued', error = NULL, runner = NULL WHERE flow_studies.status IN ('cancelled', 'failed')`,
    { bind: [hash, JSON.stringify(spec)] },
  );
  return flowStudy(hash);
}

/** Pauses, resumes or cancels a study; directions that are done stay. */
export async function turnFlowStudy(hash: string, to: string): Promise<FlowStudyView> {
  await rowOf(hash);
  const sequelize = await store();
  const turns: Readonly<Record<string, readonly [from: string, status: FlowStatus]>> = {
    pause: ["'queued', 'running'", "paused"],
    resume: ["'paused'", "queued"],
    cancel: ["'queued', 'running', 'paused'", "cancelled"],
  };
  if (!Object.hasOwn(turns, to)) throw new Refusal(400, `A flow study can be paused, resumed or cancelled, not "${to.slice(0, 20)}".`);
  const [from, status] = turns[to];
  await sequelize.query(`UPDATE flow_studies SET status = $2 WHERE hash = $1 AND status IN (${from})`, { bind: [hash, status] });
  return flowStudy(hash);
}

/** Takes up a study that waits, or one whose runner went silent; null: there is none. */
export async function claimFlowStudy(
  runner: string,
): Promise<{ readonly hash: string; readonly spec: FlowStudySpec; readonly found: readonly FlowDirection[]; readonly gridCheck: number | null } | null> {
  const sequelize = await store();
  const [rows] = await sequelize.query(
    `UPDATE flow_studies SET status = 'running', runner = $1, "heartbeatAt" = now() WHERE hash = (
       SELECT hash FROM flow_studies WHERE status = 'queued' OR (status = 'running' AND "heartbeatAt" < now() - $2 * interval '1 millisecond')
       ORDER BY "createdAt" LIMIT 1 FOR UPDATE SKIP LOCKED) RETURNING ${COLUMNS}`,
    { bind: [runner, LOST_AFTER] },
  );
  const [row] = rows as Row[];
  return (row as Row | undefined) ? { hash: row.hash, spec: row.spec, found: row.found, gridCheck: row.gridCheck } : null;
}

/** Tells that a study is being made, and how far; answers its status, so that a pause or a cancel is seen. */
export async function beatFlowStudy(hash: string, runner: string, progress: number): Promise<FlowStatus | null> {
  const sequelize = await store();
  const [rows] = await sequelize.query(`UPDATE flow_studies SET "heartbeatAt" = now(), progress = $3 WHERE hash = $1 AND runner = $2 RETURNING status`, {
    bind: [hash, runner, progress],
  });
  return (rows as { status: FlowStatus }[])[0]?.status ?? null;
}

/** Puts down a direction that is done, and the check of the grid once it is made. */
export async function keepFlowDirection(hash: string, runner: string, found: readonly FlowDirection[], gridCheck: number | null): Promise<void> {
  const sequelize = await store();
  await sequelize.query(`UPDATE flow_studies SET found = $3, "gridCheck" = $4 WHERE hash = $1 AND runner = $2`, {
    bind: [hash, runner, JSON.stringify(found), gridCheck],
  });
}

/** Ends a study, or tells why it failed. */
export async function endFlowStudy(hash: string, runner: string, error: string | null): Promise<void> {
  const sequelize = await store();
  await sequelize.query(
    `UPDATE flow_studies SET status = $3, error = $4, progress = CASE WHEN $4::text IS NULL THEN 1 ELSE progress END WHERE hash = $1 AND runner = $2 AND status = 'running'`,
    { bind: [hash, runner, error === null ? "done" : "failed", error] },
  );
}
