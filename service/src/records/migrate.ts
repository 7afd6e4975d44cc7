import type { Sequelize } from "sequelize";
import { SequelizeStorage, Umzug } from "umzug";
import { guardStatements } from "./guards.js";
import { MIGRATIONS } from "./migrations/index.js";

/** A lock so that several processes that start together migrate one after the other. */
const LOCK = 8_320_001;

/** Brings the database to the newest structure. Migrations are numbered and only added to. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`SELECT pg_advisory_xact_lock(${LOCK})`, { transaction });
    const umzug = new Umzug({
      migrations: MIGRATIONS.map(({ name, up }) => ({
        name,
        up: async () => {
          if (typeof up === "string") await sequelize.transaction((own) => sequelize.query(up, { transaction: own }));
          else await up(sequelize);
        },
      })),
      storage: new SequelizeStorage({ sequelize, tableName: "migrations" }),
      logger: undefined,
    });
    await umzug.up();
    for (const statement of guardStatements()) await sequelize.query(statement);
  });
}
