/** Reports, datasets and templates under their names: renamed, put away, gone; what was called otherwise before is still found. */
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import type { ReportVersionRow } from "./database/row-types.js";

export type Kind = "reports" | "datasets" | "templates";

/** Something that was put away: archived, and can be brought back; or deleted, and is there only for the runs that need it. */
export interface PutAwayRow {
  readonly name: string;
  readonly state: "archived" | "deleted";
  readonly by: string;
  readonly at: Date;
}

/** A condition that holds for what is not put away; `name` is the column of its name. */
export function isThere(kind: Kind, name: string): string {
  return `NOT EXISTS (SELECT 1 FROM put_away WHERE put_away.kind = '${kind}' AND put_away.name = ${name})`;
}

/** One at a time adds to a name, gives it to something else or puts it away; for the rest of a transaction. */
export async function lockName(database: Database, kind: Kind, name: string, transaction: Transaction): Promise<void> {
  await database.select("SELECT pg_advisory_xact_lock(hashtext($1))", [`${kind} ${name}`], transaction);
}

/** What something of this name is called now, where it was called otherwise since. */
export async function nameNow(
  database: Database,
  kind: Kind,
  name: string,
  transaction?: Transaction,
): Promise<string | undefined> {
  const [found] = await database.select<{ leads_to: string }>(
    "SELECT leads_to FROM former_names WHERE kind = $1 AND name = $2",
    [kind, name],
    transaction,
  );
  return found?.leads_to;
}

/** All names that things of a kind had before, with what each is called now. */
export async function namesBefore(database: Database, kind: Kind): Promise<ReadonlyMap<string, string>> {
  const found = await database.select<{ name: string; leads_to: string }>(
    "SELECT name, leads_to FROM former_names WHERE kind = $1",
    [kind],
  );
  return new Map(found.map((one) => [one.name, one.leads_to]));
}

/** Names that something had before, the newest first. */
export async function formerNames(database: Database, kind: Kind, name: string): Promise<string[]> {
  const found = await database.select<{ name: string }>(
    "SELECT name FROM former_names WHERE kind = $1 AND leads_to = $2 ORDER BY at DESC, name",
    [kind, name],
  );
  return found.map((one) => one.name);
}

export async function putAwayOf(
  database: Database,
  kind: Kind,
  name: string,
  transaction?: Transaction,
): Promise<PutAwayRow | undefined> {
  const [found] = await database.select<PutAwayRow>(
    "SELECT name, state, by, at FROM put_away WHERE kind = $1 AND name = $2",
    [kind, name],
    transaction,
  );
  return found;
}

/** What was archived, by name. */
export function archivedOf(database: Database, kind: Kind): Promise<PutAwayRow[]> {
  return database.select<PutAwayRow>(
    "SELECT name, state, by, at FROM put_away WHERE kind = $1 AND state = 'archived' ORDER BY name",
    [kind],
  );
}

export async function putAway(
  database: Database,
  { kind, name, state, by }: { readonly kind: Kind } & Pick<PutAwayRow, "name" | "state" | "by">,
  transaction?: Transaction,
): Promise<void> {
  await database.execute(
    `INSERT INTO put_away (kind, name, state, by) VALUES ($1, $2, $3, $4)
     ON CONFLICT (kind, name) DO UPDATE SET state = excluded.state, by = excluded.by, at = now()`,
    [kind, name, state, by],
    transaction,
  );
}

/** Takes what was put away back; false where it was not. */
export async function bringBack(
  database: Database,
  kind: Kind,
  name: string,
  state: PutAwayRow["state"],
  transaction?: Transaction,
): Promise<boolean> {
  const brought = await database.execute(
    "DELETE FROM put_away WHERE kind = $1 AND name = $2 AND state = $3",
    [kind, name, state],
    transaction,
  );
  return brought > 0;
}

const TABLE_OF: Readonly<Record<Kind, string>> = {
  reports: "report_versions",
  datasets: "datasets",
  templates: "template_versions",
};

/** Whether something has this name, or has it left: then the name is taken. */
export async function isTaken(
  database: Database,
  kind: Kind,
  name: string,
  transaction?: Transaction,
): Promise<boolean> {
  const found = await database.select(
    `SELECT 1 FROM ${TABLE_OF[kind]} WHERE name = $2 UNION ALL SELECT 1 FROM former_names WHERE kind = $1 AND name = $2 LIMIT 1`,
    [kind, name],
    transaction,
  );
  return found.length > 0;
}

/** Holds a name with all its versions for the rest of a transaction; false where there is none. */
export async function holdVersions(
  database: Database,
  kind: Kind,
  name: string,
  transaction: Transaction,
): Promise<boolean> {
  await lockName(database, kind, name, transaction);
  const found = await database.select(
    `SELECT id FROM ${TABLE_OF[kind]} WHERE name = $1 ORDER BY id FOR UPDATE`,
    [name],
    transaction,
  );
  return found.length > 0;
}

/** Holds one version for a run that is started from it; false where it is called otherwise by now, or gone. */
export async function holdReportVersion(
  database: Database,
  { name, number }: Pick<ReportVersionRow, "name" | "number">,
  transaction: Transaction,
): Promise<boolean> {
  const found = await database.select(
    `SELECT id FROM report_versions WHERE name = $1 AND number = $2 AND ${isThere("reports", "report_versions.name")} FOR SHARE`,
    [name, number],
    transaction,
  );
  return found.length > 0;
}

/** Gives something another name, under which everything that hangs on it goes on; the old name leads there. */
export async function moveName(
  database: Database,
  kind: Kind,
  { from, to }: { readonly from: string; readonly to: string },
  transaction: Transaction,
): Promise<void> {
  const execute = (sql: string): Promise<number> => database.execute(sql, [from, to], transaction);
  await execute(`UPDATE ${TABLE_OF[kind]} SET name = $2 WHERE name = $1`);
  if (kind === "reports") {
    // The runs go with their versions.
    await execute("UPDATE ledger SET report = $2 WHERE report = $1");
    await execute("UPDATE delivered_rows SET report = $2 WHERE report = $1");
    for (const table of ["schedules", "record_keys", "senders", "notices", "questions"])
      await execute(`UPDATE ${table} SET report = $2 WHERE report = $1`);
    for (const table of ["colleagues", "watchers"])
      await execute(
        `UPDATE ${table} SET reports = (SELECT json_agg(CASE WHEN one = $1 THEN $2 ELSE one END) FROM json_array_elements_text(reports) one)
         WHERE reports IS NOT NULL AND $1 IN (SELECT json_array_elements_text(reports))`,
      );
  }
  if (kind === "datasets") await execute("UPDATE arrivals SET dataset = $2 WHERE dataset = $1");
  await database.execute(
    "UPDATE former_names SET leads_to = $3 WHERE kind = $1 AND leads_to = $2",
    [kind, from, to],
    transaction,
  );
  await database.execute("DELETE FROM former_names WHERE kind = $1 AND name = $2", [kind, to], transaction);
  await database.execute(
    "INSERT INTO former_names (kind, name, leads_to) VALUES ($1, $2, $3)",
    [kind, from, to],
    transaction,
  );
  await database.execute("UPDATE put_away SET name = $3 WHERE kind = $1 AND name = $2", [kind, from, to], transaction);
}

/** The versions of a report with their definitions, which name the report too. */
export function versionsOfReport(
  database: Database,
  name: string,
  transaction: Transaction,
): Promise<Pick<ReportVersionRow, "id" | "number" | "definition">[]> {
  return database.select("SELECT id, number, definition FROM report_versions WHERE name = $1", [name], transaction);
}

export async function replaceDefinition(
  database: Database,
  { id, definition }: Pick<ReportVersionRow, "id" | "definition">,
  transaction: Transaction,
): Promise<void> {
  await database.execute(
    "UPDATE report_versions SET definition = $2::json WHERE id = $1",
    [id, JSON.stringify(definition)],
    transaction,
  );
}

/** How much hangs on something, by counts and by the runs that are not over. */
export interface HangingRow {
  readonly versions: number;
  readonly runs: number;
  readonly running: readonly string[];
  readonly deliveries: number;
}

const NOT_OVER = "runs.state NOT IN ('done', 'stopped', 'failed')";
/** Runs name what they were made with as it was called then. */
const namedIn = (kind: Kind, column: string): string =>
  `runs.${column}->>$1 IS NOT NULL OR EXISTS (SELECT 1 FROM former_names WHERE former_names.kind = '${kind}' AND former_names.leads_to = $1 AND runs.${column}->>former_names.name IS NOT NULL)`;
const MINE: Readonly<Record<Kind, string>> = {
  reports: "runs.report = $1",
  datasets: `${namedIn("datasets", "editions")} OR runs.edition_id IN (SELECT editions.id FROM editions JOIN datasets ON datasets.id = editions.dataset_id WHERE datasets.name = $1)`,
  templates: namedIn("templates", "templates"),
};
const VERSIONS: Readonly<Record<Kind, string>> = {
  reports: "SELECT count(*)::int FROM report_versions WHERE name = $1",
  datasets:
    "SELECT count(*)::int FROM editions JOIN datasets ON datasets.id = editions.dataset_id WHERE datasets.name = $1",
  templates: "SELECT count(*)::int FROM template_versions WHERE name = $1",
};

export function hangingOn(
  database: Database,
  kind: Kind,
  name: string,
  transaction?: Transaction,
): Promise<HangingRow> {
  return database.one<HangingRow>(
    `SELECT (${VERSIONS[kind]}) AS versions, (SELECT count(*)::int FROM runs WHERE ${MINE[kind]}) AS runs,
       ARRAY(SELECT runs.id FROM runs WHERE (${MINE[kind]}) AND ${NOT_OVER} ORDER BY runs.created_at) AS running,
       ${kind === "reports" ? "(SELECT count(*)::int FROM ledger WHERE report = $1)" : "0"} AS deliveries`,
    [name],
    transaction,
  );
}

/** Takes something out for good; its runs must be none. */
export async function deleteVersions(
  database: Database,
  kind: Kind,
  name: string,
  transaction: Transaction,
): Promise<void> {
  const execute = (sql: string): Promise<number> => database.execute(sql, [name], transaction);
  if (kind === "datasets")
    await execute("DELETE FROM editions USING datasets WHERE datasets.id = editions.dataset_id AND datasets.name = $1");
  await execute(`DELETE FROM ${TABLE_OF[kind]} WHERE name = $1`);
  if (kind === "reports") {
    await execute("DELETE FROM schedules WHERE report = $1");
    await execute("DELETE FROM senders WHERE report = $1");
    await execute("DELETE FROM questions WHERE report = $1");
  }
  await database.execute("DELETE FROM put_away WHERE kind = $1 AND name = $2", [kind, name], transaction);
  await database.execute("DELETE FROM former_names WHERE kind = $1 AND leads_to = $2", [kind, name], transaction);
}

/** A dataset's settings are forgotten with it. */
export async function forgetSettings(database: Database, name: string, transaction: Transaction): Promise<void> {
  await database.execute("UPDATE datasets SET settings = '{}' WHERE name = $1", [name], transaction);
}

/** A dataset of its own with another's settings and its newest edition, and that edition's rows. */
export async function copyDataset(
  database: Database,
  {
    from,
    to,
    settings,
    by,
  }: { readonly from: number; readonly to: string; readonly settings: object; readonly by: string },
  transaction: Transaction,
): Promise<void> {
  const { id } = await database.one<{ id: number }>(
    "INSERT INTO datasets (name, settings) VALUES ($1, $2::json) RETURNING id",
    [to, JSON.stringify(settings)],
    transaction,
  );
  const columns =
    "origin, sha256, row_count, columns, reading, header_row, left_out, findings, decisions, changes, rules";
  const [edition] = await database.select<{ id: number; from: number }>(
    `INSERT INTO editions (dataset_id, number, ${columns}, created_by)
     SELECT $2, 1, ${columns}, $3 FROM editions WHERE dataset_id = $1 ORDER BY number DESC LIMIT 1
     RETURNING id, (SELECT max(number) FROM editions WHERE dataset_id = $1) AS "from"`,
    [from, id, by],
    transaction,
  );
  if (!edition) return;
  const pieces = "column_number, number, first_row, row_count, facts, data";
  const source = "SELECT id FROM editions WHERE dataset_id = $1 AND number = $3";
  await database.execute(
    `INSERT INTO edition_pieces (edition_id, ${pieces}) SELECT $2, ${pieces} FROM edition_pieces WHERE edition_id = (${source})`,
    [from, edition.id, edition.from],
    transaction,
  );
  const changes = "number, column_name, kind, count, data";
  await database.execute(
    `INSERT INTO edition_changes (edition_id, ${changes}) SELECT $2, ${changes} FROM edition_changes WHERE edition_id = (${source})`,
    [from, edition.id, edition.from],
    transaction,
  );
}
