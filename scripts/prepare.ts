import { readFileSync } from "node:fs";
import { bindModels, createProject, database, migrate, ProjectRow } from "../web/server/index.ts";

/** Migrates the database and loads the demo projects into an empty one. */
const sequelize = database();
bindModels(sequelize);
await migrate(sequelize);
if ((await ProjectRow.count()) === 0)
  for (const name of ["clinic", "library"]) await createProject(JSON.parse(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), "utf8")));
await sequelize.close();
