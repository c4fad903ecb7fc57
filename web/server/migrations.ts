import { DataTypes, type QueryInterface, type Sequelize } from "sequelize";
import { SequelizeStorage, Umzug, type RunnableMigration } from "umzug";

const stamp = { type: DataTypes.DATE, allowNull: false };

const migrations: RunnableMigration<QueryInterface>[] = [
  {
    name: "0001-projects",
    up: async ({ context: q }) => {
      await q.createTable("projects", {
        id: { type: DataTypes.STRING(64), primaryKey: true },
        name: { type: DataTypes.STRING(200), allowNull: false },
        revision: { type: DataTypes.INTEGER, allowNull: false },
        document: { type: DataTypes.JSON, allowNull: false },
        createdAt: stamp,
        updatedAt: stamp,
      });
      await q.createTable("revisions", {
        projectId: { type: DataTypes.STRING(64), primaryKey: true, references: { model: "projects", key: "id" }, onDelete: "CASCADE" },
        number: { type: DataTypes.INTEGER, primaryKey: true },
        name: { type: DataTypes.STRING(200), allowNull: true },
        edits: { type: DataTypes.JSON, allowNull: false },
        snapshot: { type: DataTypes.JSON, allowNull: true },
        createdAt: stamp,
      });
      await q.createTable("blobs", {
        hash: { type: DataTypes.STRING(64), primaryKey: true },
        mediaType: { type: DataTypes.STRING(100), allowNull: false },
        bytes: { type: DataTypes.BLOB, allowNull: false },
        createdAt: stamp,
      });
      await q.createTable("weather_years", {
        hash: { type: DataTypes.STRING(64), primaryKey: true },
        name: { type: DataTypes.STRING(200), allowNull: false },
        csv: { type: DataTypes.BLOB, allowNull: false },
        createdAt: stamp,
      });
    },
    down: async ({ context: q }) => {
      for (const t of ["weather_years", "blobs", "revisions", "projects"]) await q.dropTable(t);
    },
  },
  {
    name: "0002-runs",
    up: async ({ context: q }) => {
      await q.createTable("runs", {
        hash: { type: DataTypes.STRING(64), primaryKey: true },
        document: { type: DataTypes.JSON, allowNull: false },
        settings: { type: DataTypes.JSON, allowNull: false },
        status: { type: DataTypes.STRING(16), allowNull: false },
        progress: { type: DataTypes.REAL, allowNull: false, defaultValue: 0 },
        attempts: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
        runner: { type: DataTypes.STRING(64), allowNull: true },
        heartbeatAt: { type: DataTypes.DATE, allowNull: true },
        summary: { type: DataTypes.JSON, allowNull: true },
        error: { type: DataTypes.TEXT, allowNull: true },
        createdAt: stamp,
        updatedAt: stamp,
      });
      await q.createTable("project_runs", {
        projectId: { type: DataTypes.STRING(64), primaryKey: true, references: { model: "projects", key: "id" }, onDelete: "CASCADE" },
        runHash: { type: DataTypes.STRING(64), primaryKey: true, references: { model: "runs", key: "hash" }, onDelete: "CASCADE" },
        revision: { type: DataTypes.INTEGER, allowNull: false },
        createdAt: stamp,
      });
      await q.createTable("run_series", {
        runHash: { type: DataTypes.STRING(64), primaryKey: true, references: { model: "runs", key: "hash" }, onDelete: "CASCADE" },
        scope: { type: DataTypes.STRING(64), primaryKey: true },
        quantity: { type: DataTypes.STRING(64), primaryKey: true },
        month: { type: DataTypes.INTEGER, primaryKey: true },
        unit: { type: DataTypes.STRING(16), allowNull: false },
        data: { type: DataTypes.BLOB, allowNull: false },
      });
      await q.sequelize.query('ALTER TABLE run_series ALTER COLUMN "data" SET STORAGE EXTERNAL');
    },
    down: async ({ context: q }) => {
      for (const t of ["run_series", "project_runs", "runs"]) await q.dropTable(t);
    },
  },
  {
    name: "0003-saves-and-lists",
    up: async ({ context: q }) => {
      await q.sequelize.transaction(async (transaction) => {
        await q.addColumn("revisions", "saveId", { type: DataTypes.STRING(64), allowNull: true }, { transaction });
        await q.addIndex("revisions", ["projectId", "saveId"], { name: "revisions_save", unique: true, transaction });
        // what lists show stands in columns of its own
        for (const name of ["storeys", "spaces"])
          await q.addColumn("projects", name, { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 }, { transaction });
        await q.addColumn("projects", "place", { type: DataTypes.STRING(200), allowNull: false, defaultValue: "" }, { transaction });
        await q.sequelize.query(
          `UPDATE projects SET
             storeys = (SELECT count(*) FROM json_object_keys(document->'storeys')),
             spaces = (SELECT count(*) FROM json_object_keys(document->'spaces')),
             place = left(coalesce(document->'site'->>'name', ''), 200)`,
          { transaction },
        );
        // weather years and images a project names, or named in any of its revisions
        await q.createTable(
          "project_uses",
          {
            projectId: { type: DataTypes.STRING(64), primaryKey: true, references: { model: "projects", key: "id" }, onDelete: "CASCADE" },
            hash: { type: DataTypes.STRING(64), primaryKey: true },
          },
          { transaction },
        );
        await q.sequelize.query(
          `INSERT INTO project_uses ("projectId", hash)
           SELECT DISTINCT t.id, m[1]
           FROM (SELECT id, document::text AS text FROM projects UNION ALL SELECT "projectId", edits::text FROM revisions) AS t,
                regexp_matches(t.text, '"(?:hash|image)"\\s*:\\s*"([0-9a-f]{16,64})"', 'g') AS m`,
          { transaction },
        );
        await q.addColumn("runs", "intensity", { type: DataTypes.DOUBLE, allowNull: true }, { transaction });
        await q.addColumn("runs", "weather", { type: DataTypes.STRING(64), allowNull: true }, { transaction });
        await q.sequelize.query(
          `UPDATE runs SET intensity = (summary->'energy'->>'intensity')::double precision, weather = summary->>'weather' WHERE summary IS NOT NULL`,
          { transaction },
        );
        // a series of any length, in parts of a month's hours, says where it begins
        await q.renameColumn("run_series", "month", "part", { transaction });
        await q.addColumn("run_series", "start", { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 }, { transaction });
      });
    },
    down: async ({ context: q }) => {
      await q.removeColumn("run_series", "start");
      await q.renameColumn("run_series", "part", "month");
      for (const name of ["weather", "intensity"]) await q.removeColumn("runs", name);
      await q.dropTable("project_uses");
      for (const name of ["place", "spaces", "storeys"]) await q.removeColumn("projects", name);
      await q.removeIndex("revisions", "revisions_save");
      await q.removeColumn("revisions", "saveId");
    },
  },
  {
    name: "0004-libraries",
    up: async ({ context: q }) => {
      await q.createTable("libraries", {
        id: { type: DataTypes.STRING(64), primaryKey: true },
        revision: { type: DataTypes.INTEGER, allowNull: false },
        document: { type: DataTypes.JSON, allowNull: false },
        createdAt: stamp,
        updatedAt: stamp,
      });
    },
    down: async ({ context: q }) => q.dropTable("libraries"),
  },
  {
    // fuel hour by hour: cost and carbon follow from it under any prices
    name: "0005-fuel",
    up: async ({ context: q }) => q.addColumn("runs", "fuel", { type: DataTypes.BLOB, allowNull: true }),
    down: async ({ context: q }) => q.removeColumn("runs", "fuel"),
  },
  {
    name: "0006-pins",
    up: async ({ context: q }) => {
      await q.createTable("pins", {
        projectId: { type: DataTypes.STRING(64), primaryKey: true, references: { model: "projects", key: "id" }, onDelete: "CASCADE" },
        pins: { type: DataTypes.JSON, allowNull: false },
      });
    },
    down: async ({ context: q }) => q.dropTable("pins"),
  },
  {
    // keys of faces and addresses of components are longer than ids
    name: "0007-series-of-faces",
    up: async ({ context: q }) => q.changeColumn("run_series", "scope", { type: DataTypes.STRING(300), allowNull: false }),
    down: async ({ context: q }) => {
      await q.sequelize.query("DELETE FROM run_series WHERE length(scope) > 64");
      await q.changeColumn("run_series", "scope", { type: DataTypes.STRING(64), allowNull: false });
    },
  },
  {
    // studies: what was started, its runs, the leases they are made under, figures by content, and the runners that are up
    name: "0008-studies",
    up: async ({ context: q }) => {
      await q.sequelize.transaction(async (transaction) => {
        for (const statement of [
          `CREATE TABLE study_executions (
             id varchar(64) PRIMARY KEY, "projectId" varchar(64) NOT NULL REFERENCES projects (id) ON DELETE CASCADE, "studyId" varchar(64) NOT NULL,
             status varchar(16) NOT NULL, document json NOT NULL, study json NOT NULL, keys json NOT NULL, revision integer NOT NULL, planned integer NOT NULL,
             seconds double precision NOT NULL, made integer NOT NULL, error text, "createdAt" timestamptz NOT NULL, "updatedAt" timestamptz NOT NULL,
             UNIQUE ("projectId", "studyId"))`,
          `CREATE TABLE study_points (
             execution varchar(64) NOT NULL REFERENCES study_executions (id) ON DELETE CASCADE, place integer NOT NULL, index integer NOT NULL, point json NOT NULL,
             year varchar(64) NOT NULL, "check" boolean NOT NULL, state varchar(16) NOT NULL, lease varchar(64), hash varchar(64), error text, told bigint,
             PRIMARY KEY (execution, place))`,
          `CREATE INDEX study_points_state ON study_points (execution, state, place)`,
          `CREATE INDEX study_points_told ON study_points (execution, told)`,
          `CREATE INDEX study_points_lease ON study_points (lease) WHERE lease IS NOT NULL`,
          `CREATE INDEX study_points_hash ON study_points (hash)`,
          `CREATE SEQUENCE study_told`,
          `CREATE TABLE study_leases (
             id varchar(64) PRIMARY KEY, execution varchar(64) NOT NULL REFERENCES study_executions (id) ON DELETE CASCADE, runner varchar(64) NOT NULL,
             "heartbeatAt" timestamptz NOT NULL)`,
          `CREATE TABLE study_results (hash varchar(64) PRIMARY KEY, figures jsonb NOT NULL, seconds real NOT NULL, "createdAt" timestamptz NOT NULL)`,
          `CREATE TABLE runners (id varchar(64) PRIMARY KEY, threads integer NOT NULL, "heartbeatAt" timestamptz NOT NULL)`,
        ])
          await q.sequelize.query(statement, { transaction });
      });
    },
    down: async ({ context: q }) => {
      for (const t of ["runners", "study_results", "study_leases", "study_points", "study_executions"]) await q.dropTable(t);
      await q.sequelize.query("DROP SEQUENCE study_told");
    },
  },
  {
    // flow studies around buildings, by the content of what they are of; the runner that makes one puts down each direction as it is done
    name: "0009-flow-studies",
    up: async ({ context: q }) => {
      await q.sequelize.query(
        `CREATE TABLE flow_studies (
           hash varchar(64) PRIMARY KEY, spec json NOT NULL, status varchar(16) NOT NULL, progress real NOT NULL, found json NOT NULL, "gridCheck" real,
           runner varchar(64), error text, "heartbeatAt" timestamptz, "createdAt" timestamptz NOT NULL)`,
      );
    },
    down: async ({ context: q }) => q.dropTable("flow_studies"),
  },
];

/** Brings the database's tables up to date. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({ migrations, context: sequelize.getQueryInterface(), storage: new SequelizeStorage({ sequelize }), logger: undefined });
  await umzug.up();
}
