import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from "sequelize";
import type { Edit, OwnLibrary, Project, RunSettings, Summary } from "@arroyo/core";

export class ProjectRow extends Model<InferAttributes<ProjectRow>, InferCreationAttributes<ProjectRow>> {
  declare id: string;
  declare name: string;
  declare revision: number;
  declare document: Project;
  /** What lists show, beside the document so that a list reads no document. */
  declare storeys: number;
  declare spaces: number;
  declare place: string;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}
/** Weather years and images a project names, or named in any of its revisions. */
export class ProjectUseRow extends Model<InferAttributes<ProjectUseRow>, InferCreationAttributes<ProjectUseRow>> {
  declare projectId: string;
  declare hash: string;
}
export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare projectId: string;
  declare number: number;
  declare name: string | null;
  declare edits: Edit[];
  declare snapshot: Project | null;
  /** Name the sender gave the save, so that one sent again is known. */
  declare saveId: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
}
export class WeatherRow extends Model<InferAttributes<WeatherRow>, InferCreationAttributes<WeatherRow>> {
  declare hash: string;
  declare name: string;
  declare csv: Buffer;
  declare createdAt: CreationOptional<Date>;
}
export class BlobRow extends Model<InferAttributes<BlobRow>, InferCreationAttributes<BlobRow>> {
  declare hash: string;
  declare mediaType: string;
  declare bytes: Buffer;
  declare createdAt: CreationOptional<Date>;
}
/** `paused`: its runner waits; `stopped`: ended before its time, the series that were computed are kept. */
export type RunStatus = "queued" | "running" | "paused" | "done" | "failed" | "cancelled" | "stopped";
export class RunRow extends Model<InferAttributes<RunRow>, InferCreationAttributes<RunRow>> {
  declare hash: string;
  declare document: Project;
  declare settings: RunSettings;
  declare status: RunStatus;
  declare progress: CreationOptional<number>;
  declare attempts: CreationOptional<number>;
  declare runner: CreationOptional<string | null>;
  declare heartbeatAt: CreationOptional<Date | null>;
  declare summary: CreationOptional<Summary | null>;
  /** Fuel hour by hour, see `fuelCodec`; null: stored by an earlier version. */
  declare fuel: CreationOptional<Buffer | null>;
  /** Headline of the summary and name of the weather, for lists. */
  declare intensity: CreationOptional<number | null>;
  declare weather: CreationOptional<string | null>;
  declare error: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}
export class ProjectRunRow extends Model<InferAttributes<ProjectRunRow>, InferCreationAttributes<ProjectRunRow>> {
  declare projectId: string;
  declare runHash: string;
  declare revision: number;
  declare createdAt: CreationOptional<Date>;
}
export class RunSeriesRow extends Model<InferAttributes<RunSeriesRow>, InferCreationAttributes<RunSeriesRow>> {
  declare runHash: string;
  declare scope: string;
  declare quantity: string;
  /** Part of the series, from 0: a month's hours each. */
  declare part: number;
  /** Hour of the weather year at which the series begins. */
  declare start: number;
  declare unit: string;
  declare data: Buffer;
}
/** What a user keeps across projects. */
export class LibraryRow extends Model<InferAttributes<LibraryRow>, InferCreationAttributes<LibraryRow>> {
  declare id: string;
  declare revision: number;
  declare document: OwnLibrary;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** Figures of a project that are kept to compare with, in order. */
export class PinRow extends Model<InferAttributes<PinRow>, InferCreationAttributes<PinRow>> {
  declare projectId: string;
  declare pins: unknown[];
}

const key = (length = 64) => ({ type: DataTypes.STRING(length), primaryKey: true });
const times = { createdAt: DataTypes.DATE, updatedAt: DataTypes.DATE };
const bound = new WeakSet<Sequelize>();

/** Binds the models to a connection, once. */
export function bindModels(sequelize: Sequelize): void {
  if (bound.has(sequelize)) return;
  bound.add(sequelize);
  const base = { sequelize, freezeTableName: true };
  ProjectRow.init(
    {
      id: key(),
      name: DataTypes.STRING(200),
      revision: DataTypes.INTEGER,
      document: DataTypes.JSON,
      storeys: DataTypes.INTEGER,
      spaces: DataTypes.INTEGER,
      place: DataTypes.STRING(200),
      ...times,
    },
    { ...base, tableName: "projects" },
  );
  LibraryRow.init({ id: key(), revision: DataTypes.INTEGER, document: DataTypes.JSON, ...times }, { ...base, tableName: "libraries" });
  PinRow.init({ projectId: key(), pins: DataTypes.JSON }, { ...base, tableName: "pins", timestamps: false });
  ProjectUseRow.init({ projectId: key(), hash: key() }, { ...base, tableName: "project_uses", timestamps: false });
  RevisionRow.init(
    {
      projectId: key(),
      number: { type: DataTypes.INTEGER, primaryKey: true },
      name: DataTypes.STRING(200),
      edits: DataTypes.JSON,
      snapshot: DataTypes.JSON,
      saveId: DataTypes.STRING(64),
      createdAt: DataTypes.DATE,
    },
    { ...base, tableName: "revisions", updatedAt: false },
  );
  BlobRow.init(
    { hash: key(), mediaType: DataTypes.STRING(100), bytes: DataTypes.BLOB, createdAt: DataTypes.DATE },
    { sequelize, tableName: "blobs", updatedAt: false },
  );
  WeatherRow.init(
    { hash: key(), name: DataTypes.STRING(200), csv: DataTypes.BLOB, createdAt: DataTypes.DATE },
    { ...base, tableName: "weather_years", updatedAt: false },
  );
  RunRow.init(
    {
      hash: key(),
      document: DataTypes.JSON,
      settings: DataTypes.JSON,
      status: DataTypes.STRING(16),
      progress: DataTypes.REAL,
      attempts: DataTypes.INTEGER,
      runner: DataTypes.STRING(64),
      heartbeatAt: DataTypes.DATE,
      summary: DataTypes.JSON,
      fuel: DataTypes.BLOB,
      intensity: DataTypes.DOUBLE,
      weather: DataTypes.STRING(64),
      error: DataTypes.TEXT,
      ...times,
    },
    { ...base, tableName: "runs" },
  );
  ProjectRunRow.init(
    { projectId: key(), runHash: key(), revision: DataTypes.INTEGER, createdAt: DataTypes.DATE },
    { ...base, tableName: "project_runs", updatedAt: false },
  );
  RunSeriesRow.init(
    {
      runHash: key(),
      scope: { type: DataTypes.STRING(300), primaryKey: true },
      quantity: key(),
      part: { type: DataTypes.INTEGER, primaryKey: true },
      start: DataTypes.INTEGER,
      unit: DataTypes.STRING(16),
      data: DataTypes.BLOB,
    },
    { ...base, tableName: "run_series", timestamps: false },
  );
}
