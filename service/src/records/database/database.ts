import { CorbixError, made, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import pg, { Client } from "pg";
import { Sequelize, type Transaction } from "sequelize";
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
  /** The row of a query that always has one. */
  readonly one: <T extends object>(sql: string, bind?: readonly unknown[], transaction?: Transaction) => Promise<T>;
  readonly execute: (sql: string, bind?: readonly unknown[], transaction?: Transaction) => Promise<number>;
  /** As `select`, for what is asked again and again: each connection plans the statement once, under its name. */
  readonly prepared: <T extends object>(name: string, sql: string, bind: readonly unknown[]) => Promise<T[]>;
  readonly transaction: <T>(work: (transaction: Transaction) => Promise<T>) => Promise<T>;
  /** A raw client of the pool, for the queue, whose statements come ready made. */
  readonly executeRaw: (sql: string, values: unknown[]) => Promise<{ rows: never[]; rowCount: number }>;
  /**
   * Calls back for each notification on a channel, over a connection of its own that is made anew whenever it breaks; `onBack` tells
   * that something may have been missed meanwhile. Gives a function that stops it.
   */
  readonly listen: (
    channel: string,
    onMessage: (payload: string) => void,
    onBack: () => void,
  ) => Promise<() => Promise<void>>;
  readonly close: () => Promise<void>;
}

interface RawAnswer {
  readonly rows: never[];
  /** Of a statement that changes rows: how many. */
  readonly rowCount: number;
}

interface RawClient {
  query(sql: string, values?: unknown[]): Promise<RawAnswer>;
  query(statement: { name: string; text: string; values: unknown[] }): Promise<{ rows: never[] }>;
  /** Set where the connection is no longer good: the pool makes another. */
  _invalid?: boolean;
}

interface Pool {
  getConnection(options?: object): Promise<RawClient>;
  releaseConnection(client: RawClient): void;
}

/** A transaction in which nothing is asked for so long belongs to a process that is frozen or gone. */
const IDLE_IN_TRANSACTION_MS = 15_000;
/** A listener whose connection broke tries again so often. */
const RELISTEN_MS = 500;

/** A client of which an error is always heard: one that comes between connecting and the pool's listening would end the process. */
class HeardClient extends Client {
  constructor(config?: ConstructorParameters<typeof Client>[0]) {
    super(config);
    this.on("error", () => {});
  }
}

/** Connects and, if asked, migrates. Throws `DATABASE_UNREACHABLE`. */
export async function openDatabase(
  url: string,
  options: { readonly migrate: boolean; readonly pool?: number },
): Promise<Database> {
  const sequelize = new Sequelize(url, {
    dialect: "postgres",
    dialectModule: { ...pg, Client: HeardClient },
    logging: false,
    // What was committed before a message goes out has to outlive a crash of the database, however the server is set.
    // A process that stands still within a transaction holds nobody up for long. Translating a query takes the server longer than any
    // of these take: that of a run with 40,000 parcels took 1.2 s of which 1.0 was that.
    dialectOptions: {
      options: `-c synchronous_commit=on -c jit=off -c idle_in_transaction_session_timeout=${IDLE_IN_TRANSACTION_MS}`,
      keepAlive: true,
    },
    pool: { max: options.pool ?? 10, idle: 60_000, acquire: 30_000 },
  });
  try {
    await sequelize.authenticate();
  } catch (cause) {
    await sequelize.close().catch(() => {});
    throw new CorbixError(
      "DATABASE_UNREACHABLE",
      say().serviceRecords.cannotReachDatabase({ wordsOf: wordsOf(cause) }),
      {
        where: hideSecret(url),
        advice: say().serviceRecords.seePostgresqlRunsNamePassword(),
        cause,
      },
    );
  }
  if (options.migrate) await migrate(sequelize);
  const pool = (sequelize as unknown as { connectionManager: Pool }).connectionManager;
  const watched = async <T>(client: RawClient, work: (client: RawClient) => Promise<T>): Promise<T> => {
    try {
      return await work(client);
    } catch (error) {
      if (isDatabaseAway(error)) client._invalid = true;
      throw error;
    }
  };
  const withClient = async <T>(work: (client: RawClient) => Promise<T>): Promise<T> => {
    const client = await pool.getConnection({ type: "write" });
    try {
      return await watched(client, work);
    } finally {
      pool.releaseConnection(client);
    }
  };
  // Statements that are ready made go to the pool's clients as they are: translated once more each would take as long as it is asked.
  const run = (sql: string, bind: readonly unknown[] = [], transaction?: Transaction): Promise<RawAnswer> => {
    const statement = bound(sql, bind);
    const ask = (client: RawClient): Promise<RawAnswer> => client.query(statement.sql, statement.values);
    return transaction ? watched(clientOf(transaction), ask) : withClient(ask);
  };
  const select: Database["select"] = async <T extends object>(
    sql: string,
    bind?: readonly unknown[],
    transaction?: Transaction,
  ) => (await run(sql, bind, transaction)).rows as T[];
  return {
    sequelize,
    models: defineModels(sequelize),
    select,
    one: async <T extends object>(sql: string, bind?: readonly unknown[], transaction?: Transaction): Promise<T> =>
      made((await select<T>(sql, bind, transaction))[0], "the row of a query that always has one"),
    execute: async (sql, bind, transaction) => (await run(sql, bind, transaction)).rowCount ?? 0,
    transaction: (work) => sequelize.transaction(work),
    prepared: async (name, sql, bind) =>
      (await withClient((client) => client.query({ name, text: sql, values: [...bind] }))).rows,
    executeRaw: (sql, values) => withClient((client) => client.query(sql, values)),
    listen: (channel, onMessage, onBack) => listen(url, channel, onMessage, onBack),
    close: () => sequelize.close(),
  };
}

/** The client that a transaction holds. Throws where it is over: what is asked then is asked outside of it. */
function clientOf(transaction: Transaction): RawClient {
  const { connection } = transaction as unknown as { readonly connection?: RawClient };
  return made(connection, "the connection of a transaction that is not over");
}

/** A text as PostgreSQL can hold it: without the sign of number 0. */
function asBound(value: unknown): unknown {
  return typeof value === "string" ? value.replaceAll("\0", "\\0") : value;
}

/** A statement with the values that it names; one that leaves some of them out has its places numbered anew. */
function bound(sql: string, bind: readonly unknown[]): { readonly sql: string; readonly values: unknown[] } {
  const named = new Set([...sql.matchAll(/\$(\d+)/g)].map(([, number]) => Number(number)));
  if (named.size === bind.length) return { sql, values: bind.map(asBound) };
  const places = [...named].sort((a, b) => a - b);
  return {
    sql: sql.replace(/\$(\d+)/g, (_, number: string) => `$${places.indexOf(Number(number)) + 1}`),
    values: places.map((number) => asBound(bind[number - 1])),
  };
}

/** A database address without its password, fit for messages. */
function hideSecret(url: string): string {
  return url.replace(/:\/\/([^:/@]+):[^@]*@/, "://$1:…@");
}

async function listen(
  url: string,
  channel: string,
  onMessage: (payload: string) => void,
  onBack: () => void,
): Promise<() => Promise<void>> {
  let client: Client | undefined;
  let timer: NodeJS.Timeout | undefined;
  let isStopped = false;
  const open = async (): Promise<void> => {
    const made = new Client({ connectionString: url, keepAlive: true, application_name: "corbix listener" });
    const again = (): void => {
      if (isStopped || client !== made) return;
      client = undefined;
      made.end().catch(() => {});
      timer = setTimeout(reopen, RELISTEN_MS);
    };
    made.on("error", again);
    made.on("end", again);
    made.on("notification", (message) => onMessage(message.payload ?? ""));
    client = made;
    await made.connect();
    await made.query(`LISTEN ${channel}`);
  };
  const reopen = (): void => {
    if (isStopped) return;
    open().then(onBack, () => {
      client = undefined;
      timer = setTimeout(reopen, RELISTEN_MS);
    });
  };
  await open();
  return async () => {
    isStopped = true;
    clearTimeout(timer);
    await client?.end().catch(() => {});
  };
}

/** Classes of PostgreSQL's errors that say that the server is not there for anybody: 08 connection, 57P shutdown and start. */
const AWAY = /^(?:08\d{3}|57P0[1-3]|53300)$/;

/** Whether an error says that the database cannot be reached now, rather than that something was wrong with what it was asked. */
export function isDatabaseAway(error: unknown): boolean {
  const {
    name = "",
    original,
    parent,
    code,
    message,
  } = error as {
    name?: string;
    message?: string;
    original?: { code?: string; message?: string };
    parent?: { code?: string };
    code?: string;
  };
  if (/^SequelizeConnection/.test(name)) return true;
  const inner = original?.code ?? parent?.code ?? code ?? "";
  return (
    AWAY.test(inner) ||
    ["ECONNREFUSED", "ECONNRESET", "EPIPE", "ETIMEDOUT"].includes(inner) ||
    /Connection terminated|connection error and is not queryable/.test(original?.message ?? message ?? "")
  );
}
