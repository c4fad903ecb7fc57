import type { Sequelize } from "sequelize";
import { database } from "./database.ts";
import { bindModels } from "./models.ts";

/** The connection with its models bound. */
export async function store(): Promise<Sequelize> {
  const sequelize = database();
  bindModels(sequelize);
  return sequelize;
}
