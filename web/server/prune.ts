import type { Sequelize } from "sequelize";
import { store } from "./store.ts";

/** What nothing names is kept this long after it was made, so that an edit under way finds it. */
const GRACE = "1 day";
/** Figures of runs of studies are kept this long after the last study that names them, so that one that is composed anew finds them. */
const RESULTS = "30 days";

/**
 * Removes what nothing names any more: runs no project lists, then weather years and images that no project names or
 * ever named in one of its revisions, and no run was made with. See docs/security.md.
 */
export async function prune(grace = GRACE): Promise<{ runs: number; weather: number; images: number }> {
  const sequelize = await store();
  const [runs, weather, images] = [
    `DELETE FROM runs r WHERE r."createdAt" < now() - $1::interval AND r.status NOT IN ('queued', 'running', 'paused')
       AND NOT EXISTS (SELECT 1 FROM project_runs l WHERE l."runHash" = r.hash)`,
    `DELETE FROM weather_years w WHERE w."createdAt" < now() - $1::interval
       AND NOT EXISTS (SELECT 1 FROM project_uses u WHERE u.hash = w.hash) AND NOT EXISTS (SELECT 1 FROM runs r WHERE r.weather = w.hash)`,
    `DELETE FROM blobs b WHERE b."createdAt" < now() - $1::interval AND NOT EXISTS (SELECT 1 FROM project_uses u WHERE u.hash = b.hash)`,
  ];
  await removed(
    sequelize,
    `DELETE FROM study_results r WHERE r."createdAt" < now() - $1::interval AND NOT EXISTS (SELECT 1 FROM study_points p WHERE p.hash = r.hash)`,
    grace === GRACE ? RESULTS : grace,
  );
  await removed(
    sequelize,
    `DELETE FROM flow_studies f WHERE f."createdAt" < now() - $1::interval AND f.status NOT IN ('queued', 'running', 'paused')`,
    grace === GRACE ? RESULTS : grace,
  );
  return { runs: await removed(sequelize, runs, grace), weather: await removed(sequelize, weather, grace), images: await removed(sequelize, images, grace) };
}

async function removed(sequelize: Sequelize, statement: string, grace: string): Promise<number> {
  const [rows] = await sequelize.query(`WITH gone AS (${statement} RETURNING 1) SELECT count(*)::int AS n FROM gone`, { bind: [grace] });
  return (rows as { n: number }[])[0].n;
}
