import { Sequelize } from "sequelize";

const held = globalThis as typeof globalThis & { arroyoDatabase?: Sequelize };

/** Address of the database, from DATABASE_URL. @throws Error when it is not set */
export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set; start Arroyo with `npm run demo`, or name a PostgreSQL database.");
  return url;
}

/** The one connection pool of this process. */
export function database(): Sequelize {
  held.arroyoDatabase ??= new Sequelize(databaseUrl(), { dialect: "postgres", logging: false, pool: { max: 8 } });
  return held.arroyoDatabase;
}
