import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { QueryTypes, type Sequelize, type Transaction } from "sequelize";
import { MigrationError, Umzug, type UmzugStorage } from "umzug";
import { guardStatements } from "./guards.js";
import { MIGRATIONS } from "./migrations/index.js";
import type { Migrating } from "./migrations/migrating.js";

/** A lock so that several processes that start together migrate one after the other. */
const LOCK = 8_320_001;

/**
 * Brings the database to the newest structure, all or nothing: where one migration fails, the database is as it was before the first.
 * Migrations are numbered and only added to. Throws `DATABASE_UNREACHABLE` with what failed, or for a database of a newer version.
 */
export async function migrate(sequelize: Sequelize): Promise<void> {
  await migrateAll(sequelize).catch((error: unknown) => {
    throw error instanceof MigrationError ? changeFailed(error) : error;
  });
}

/** Which change failed with what; nothing of it or of those before it is left. */
function changeFailed(error: MigrationError): CorbixError {
  const cause = error.cause as Error | undefined;
  const why = cause?.message ?? error.message;
  const isFull = (cause as { parent?: { code?: string } } | undefined)?.parent?.code === DISK_FULL;
  return new CorbixError(
    isFull ? "NO_SPACE" : "FAILED",
    say().serviceRecords.changeFailed({ name: error.migration.name, why }),
    {
      where: "database",
      advice: isFull ? say().serviceOperate.makeRoom() : say().serviceRecords.databaseAsBefore(),
      cause: error,
    },
  );
}

/** Class 53 of PostgreSQL's errors: the disk of the server is full. */
const DISK_FULL = "53100";

async function migrateAll(sequelize: Sequelize): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    const within = migratingIn(sequelize, transaction);
    await within.execute(`SELECT pg_advisory_xact_lock(${LOCK})`);
    await within.execute("CREATE TABLE IF NOT EXISTS migrations (name varchar(255) PRIMARY KEY)");
    await refuseNewer(within);
    const umzug = new Umzug({
      migrations: MIGRATIONS.map(({ name, up }) => ({
        name,
        up: () => (typeof up === "string" ? within.execute(up) : up(within)),
      })),
      storage: storageIn(within),
      logger: undefined,
    });
    await umzug.up();
    for (const statement of guardStatements()) await within.execute(statement);
  });
}

/** Names of the changes that a database still needs, by those that it has had. */
export function pendingMigrations(done: readonly string[]): string[] {
  return MIGRATIONS.map(({ name }) => name).filter((name) => !done.includes(name));
}

function migratingIn(sequelize: Sequelize, transaction: Transaction): Migrating {
  return {
    execute: async (sql, bind) => {
      await sequelize.query(sql, { transaction, ...(bind ? { bind: [...bind] } : {}) });
    },
    select: (sql, bind = []) => sequelize.query(sql, { transaction, type: QueryTypes.SELECT, bind: [...bind] }),
  };
}

/** What has been done is written down in the same transaction as it is done. */
function storageIn({ execute, select }: Migrating): UmzugStorage {
  return {
    executed: async () =>
      (await select<{ name: string }>("SELECT name FROM migrations ORDER BY name")).map((one) => one.name),
    logMigration: ({ name }) => execute("INSERT INTO migrations (name) VALUES ($1)", [name]),
    unlogMigration: ({ name }) => execute("DELETE FROM migrations WHERE name = $1", [name]),
  };
}

/** A database that a newer version has changed is not touched by an older one. */
async function refuseNewer({ select }: Migrating): Promise<void> {
  const known = new Set(MIGRATIONS.map(({ name }) => name));
  const done = await select<{ name: string }>("SELECT name FROM migrations ORDER BY name");
  const newer = done.filter(({ name }) => !known.has(name)).map(({ name }) => name);
  if (newer.length === 0) return;
  throw new CorbixError(
    "DATABASE_UNREACHABLE",
    say().serviceRecords.cannotUseDatabaseNewerVersion({ newer: newer.join(", ") }),
    { where: "database", advice: say().serviceRecords.startNewerVersionRestoreBackup() },
  );
}
