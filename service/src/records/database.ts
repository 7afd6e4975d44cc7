import { CorbixError } from "@corbix/core/common";
import { type QueryOptionsWithType, QueryTypes, Sequelize, type Transaction } from "sequelize";
import { migrate } from "./migrate.js";
import { defineModels, type Models } from "./models.js";

/** The database with its models: the only way the service reaches PostgreSQL. */
export interface Database {
  readonly sequelize: Sequelize;
  readonly models: Models;
  /** Rows of a query; `bind` are the values of $1, $2, … */
  readonly select: <T extends object>(
    sql: string,
    bind?: readonly unknown[],
    transaction?: Transaction,
  ) => Promise<T[]>;
  readonly execute: (sql: string, bind?: readonly unknown[], transaction?: Transaction) => Promise<number>;
  readonly transaction: <T>(work: (transaction: Transaction) => Promise<T>) => Promise<T>;
  /** A raw client of the pool, for the queue, whose statements come ready made. */
  readonly executeRaw: (sql: string, values: unknown[]) => Promise<{ rows: never[]; rowCount: number }>;
  /** Calls back for each notification on a channel; gives a function that stops it. */
  readonly listen: (channel: string, onMessage: (payload: string) => void) => Promise<() => Promise<void>>;
  readonly close: () => Promise<void>;
}

interface RawClient {
  query(sql: string, values?: unknown[]): Promise<{ rows: never[]; rowCount: number }>;
  on(event: "notification", handler: (message: { payload?: string }) => void): void;
}

interface Pool {
  getConnection(options?: object): Promise<RawClient>;
  releaseConnection(client: RawClient): void;
}

/** Connects and, if asked, migrates. Throws `DATABASE_UNREACHABLE`. */
export async function openDatabase(
  url: string,
  options: { readonly migrate: boolean; readonly pool?: number },
): Promise<Database> {
  const sequelize = new Sequelize(url, {
    dialect: "postgres",
    logging: false,
    // What was committed before a message goes out has to outlive a crash of the database, however the server is set.
    dialectOptions: { options: "-c synchronous_commit=on" },
    pool: { max: options.pool ?? 10, idle: 60_000, acquire: 30_000 },
  });
  try {
    await sequelize.authenticate();
  } catch (cause) {
    await sequelize.close().catch(() => {});
    throw new CorbixError("DATABASE_UNREACHABLE", `Cannot reach the database: ${(cause as Error).message}.`, {
      where: hideSecret(url),
      advice: "See that PostgreSQL runs there and that name and password are right.",
      cause,
    });
  }
  if (options.migrate) await migrate(sequelize);
  const pool = (sequelize as unknown as { connectionManager: Pool }).connectionManager;
  const query = { bind: [] as unknown[] };
  return {
    sequelize,
    models: defineModels(sequelize),
    select: <T extends object>(sql: string, bind: readonly unknown[] = query.bind, transaction?: Transaction) =>
      sequelize.query<T>(sql, {
        bind: [...bind],
        type: QueryTypes.SELECT,
        ...(transaction ? { transaction } : {}),
      } as QueryOptionsWithType<QueryTypes.SELECT>),
    execute: async (sql, bind = query.bind, transaction) => {
      const [, count] = await sequelize.query(sql, {
        bind: [...bind],
        type: QueryTypes.UPDATE,
        ...(transaction ? { transaction } : {}),
      });
      return count as number;
    },
    transaction: (work) => sequelize.transaction(work),
    executeRaw: async (sql, values) => {
      const client = await pool.getConnection({ type: "write" });
      try {
        return await client.query(sql, values);
      } finally {
        pool.releaseConnection(client);
      }
    },
    listen: async (channel, onMessage) => {
      const client = await pool.getConnection({ type: "write" });
      client.on("notification", (message) => onMessage(message.payload ?? ""));
      await client.query(`LISTEN ${channel}`);
      return async () => {
        await client.query(`UNLISTEN ${channel}`).catch(() => {});
        pool.releaseConnection(client);
      };
    },
    close: () => sequelize.close(),
  };
}

/** A database address without its password, fit for messages. */
function hideSecret(url: string): string {
  return url.replace(/:\/\/([^:/@]+):[^@]*@/, "://$1:…@");
}
