import { readFileSync } from "node:fs";
import { applyChanges, type Change, type Project } from "@arroyo/core";
import { firstDraft } from "../demo/library.ts";
import { bindModels, createProject, database, migrate, PinRow, ProjectRow, saveRevision, shipStudy, startRun, type ShippedStudy } from "../web/server/index.ts";

const shipped = (name: string): Project => JSON.parse(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), "utf8")) as Project;

/** The library with a history: as first drawn and as it ships, a run of each, which the runner computes once it is up, the first pinned; and a finished study. */
async function loadLibrary(): Promise<void> {
  const back = firstDraft.changes.map((c) => ({ ...c, value: (c as { old: unknown }).old, old: (c as { value: unknown }).value }) as Change);
  const first = applyChanges(shipped("library"), back);
  if (!first.ok) throw new Error(first.message);
  const { id } = await createProject(first.project);
  const before = await startRun(id, null, false);
  await saveRevision(id, 1, [firstDraft]);
  await startRun(id, null, false);
  await PinRow.create({ projectId: id, pins: [{ name: "60 mm in the walls", run: before.hash }] });
  await shipStudy(id, "envelope", JSON.parse(readFileSync(new URL("../demo/library-study.json", import.meta.url), "utf8")) as ShippedStudy);
}

/** Migrates the database and loads the demo projects into an empty one. */
const sequelize = database();
bindModels(sequelize);
await migrate(sequelize);
if ((await ProjectRow.count()) === 0) {
  await createProject(shipped("clinic"));
  await createProject(shipped("hall"));
  await loadLibrary();
}
await sequelize.close();
