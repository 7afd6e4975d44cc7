/** A run of very many parcels, made of one that was made: nothing of it is written by hand, and no worker has to make it. */
import type { Context } from "../../service/dist/process/context.js";

type Changes = Readonly<Record<string, string>>;

/** Columns of a table as a row of it has them, some of them changed; those the database computes itself are left to it. */
async function copied(context: Context, table: string, changes: Changes): Promise<{ into: string; values: string }> {
  const columns = await context.database.select<{ name: string }>(
    "SELECT column_name AS name FROM information_schema.columns WHERE table_schema = current_schema() AND table_name = $1 AND is_generated = 'NEVER' ORDER BY ordinal_position",
    [table],
  );
  const names = columns.map(({ name }) => name);
  return {
    into: `${table} (${names.join(", ")})`,
    values: names.map((name) => changes[name] ?? `one.${name}`).join(", "),
  };
}

const next = (table: string): string => `nextval(pg_get_serial_sequence('${table}', 'id'))`;

/** Copies a run of `count` parcels, each with a message and two files; every thousandth is left out already. Gives its id. */
export async function largeRun(context: Context, of: string, count: number, id = "b1640000"): Promise<string> {
  const { database } = context;
  const runs = await copied(context, "runs", { id: "$2", parcel_count: "$3" });
  const parcels = await copied(context, "parcels", {
    id: next("parcels"),
    run_id: "$2",
    number: "n",
    label: "'Site ' || lpad(n::text, 5, '0')",
    group_key: "'site ' || lpad(n::text, 5, '0')",
    row_count: "1 + n % 37",
  });
  const messages = await copied(context, "messages", {
    id: next("messages"),
    run_id: "$2",
    parcel_id: "parcels.id",
    group_key: "parcels.group_key",
    message_id: "'<' || parcels.number || '.large@lifts.example>'",
    state: "CASE WHEN parcels.number % 1000 = 7 THEN 'skipped' ELSE 'held' END",
  });
  const files = await copied(context, "files", {
    id: next("files"),
    run_id: "$2",
    parcel_id: "parcels.id",
    group_key: "parcels.group_key",
  });
  const first = (table: string, order: string, rows: number): string =>
    `(SELECT * FROM ${table} WHERE run_id = $1 ORDER BY ${order} LIMIT ${rows}) AS one`;
  await database.transaction(async (transaction) => {
    const execute = (sql: string, ...more: unknown[]) => database.execute(sql, [of, id, ...more], transaction);
    await execute(`INSERT INTO ${runs.into} SELECT ${runs.values} FROM runs AS one WHERE id = $1`, count);
    await execute(
      `INSERT INTO ${parcels.into} SELECT ${parcels.values} FROM ${first("parcels", "number", 1)}, generate_series(1, $3::int) AS n`,
      count,
    );
    await execute(
      `INSERT INTO ${messages.into} SELECT ${messages.values} FROM ${first("messages", "id", 1)}, parcels WHERE parcels.run_id = $2`,
    );
    await execute(
      `INSERT INTO ${files.into} SELECT ${files.values} FROM ${first("files", "id", 2)}, parcels WHERE parcels.run_id = $2`,
    );
  });
  await database.execute("ANALYZE parcels, messages, files");
  return id;
}
