/** Everything that is kept in words: what of it names a person is found here, and made to name nobody. */
import { deflateSync, inflateSync } from "node:zlib";
import type { PersonWords } from "@corbix/core/person";
import type { Transaction } from "sequelize";
import { ERASURE } from "./actions.js";
import type { Database } from "./database/database.js";
import { ACTORS, type Place } from "./person-places.js";

/** Rows that are read at a time. */
const AT_ONCE = 500;

/** A row that may name the person, whole. */
export interface PersonRow {
  readonly key: readonly string[];
  readonly label: string;
  readonly run: string | null;
  /** Whether the run is over, and when it ended. */
  readonly runState: string | null;
  readonly finishedAt: Date | null;
  readonly values: Readonly<Record<string, unknown>>;
}

/** Rows of a place in which the person may be named; of those whose words are packed, all whose other words or packed ones may. */
export async function* rowsOfPlace(database: Database, place: Place, person: PersonWords): AsyncGenerator<PersonRow> {
  const { table, key, columns, label, run, where = "true" } = place;
  const names = Object.keys(columns);
  const hasPacked = Object.values(columns).includes("packed");
  const keys = key.map(([name]) => `${table}.${name}`).join(", ");
  const last = key.map(([, type], at) => `$${at + 1}::${type}`).join(", ");
  const like = person.words
    .map((_, at) => names.map((name) => `${table}.${name}::text ILIKE $${key.length + at + 1}`).join(" OR "))
    .join(" OR ");
  let after: readonly (string | null)[] = key.map(() => null);
  for (;;) {
    const found: Record<string, unknown>[] = await database.select<Record<string, unknown>>(
      `SELECT ARRAY[${key.map(([name]) => `own.${name}::text`).join(", ")}] AS "#key", coalesce("#label", '') AS "#label", "#run",
         one.state AS "#state", one.finished_at AS "#at", ${names.map((name) => `own.${name}`).join(", ")}
       FROM (SELECT ${table}.*, ${label} AS "#label", ${run ?? "NULL::text"} AS "#run" FROM ${table}
         WHERE ($1::text IS NULL OR (${keys}) > (${last})) AND (${where}) AND (${hasPacked ? "true" : like})
         ORDER BY ${keys} LIMIT ${AT_ONCE}) AS own LEFT JOIN runs AS one ON one.id = "#run" ORDER BY ${keys.replaceAll(`${table}.`, "own.")}`,
      [...after, ...(hasPacked ? [] : person.words.map(containingWords))],
    );
    for (const row of found) {
      const { "#key": own, "#label": shown, "#run": of, "#state": state, "#at": at, ...values } = row;
      yield {
        key: own as string[],
        label: String(shown),
        run: of as string | null,
        runState: state as string | null,
        finishedAt: at as Date | null,
        values: Object.fromEntries(
          Object.entries(values).map(([name, value]) => [
            name,
            columns[name] === "packed" ? unpacked(value, person) : value,
          ]),
        ),
      };
    }
    const end = found.at(-1);
    if (!end || found.length < AT_ONCE) return;
    after = end["#key"] as string[];
  }
}

/**
 * Spaces may be any, and marks of patterns stand for themselves. Letters beyond ASCII may be written in two ways and in cases that the
 * database does not know, and JSON writes some signs otherwise: anything may stand for these, since each row is looked at again.
 */
function containingWords(word: string): string {
  return `%${word.replace(/[%_]/g, "\\$&").replace(/\s+|["\\]|[^\x20-\x7e]/gu, "%")}%`;
}

/** Packed words, where the person may be among them. */
function unpacked(value: unknown, { words, isIn }: PersonWords): unknown {
  if (!Buffer.isBuffer(value) || value.length === 0) return null;
  const text = inflateSync(value).toString("utf8");
  // Signs that JSON writes otherwise hide a word that has them.
  const isPlain = words.every((word) => !/["\\]/.test(word));
  return !isPlain || isIn(text) ? (JSON.parse(text) as unknown) : null;
}

/** Writes other words in place of a row's. */
export async function rewriteRow(
  database: Database,
  place: Place,
  row: PersonRow,
  values: Readonly<Record<string, unknown>>,
  transaction?: Transaction,
): Promise<void> {
  const { table, key, columns, along } = place;
  const names = Object.keys(values);
  const sets = names.map((name, at) =>
    columns[name] === "list"
      ? `${name} = ARRAY(SELECT json_array_elements_text($${at + 1}::json))`
      : `${name} = $${at + 1}`,
  );
  const bound = names.map((name) => {
    const value = values[name];
    if (columns[name] === "packed") return deflateSync(JSON.stringify(value), { level: 1 });
    return columns[name] === "json" || columns[name] === "list" ? JSON.stringify(value) : value;
  });
  const where = key.map(([name, type], at) => `${name} = $${names.length + at + 1}::${type}`).join(" AND ");
  await database.execute(
    `UPDATE ${table} SET ${[...sets, ...(along ? [along] : [])].join(", ")} WHERE ${where}`,
    [...bound, ...row.key],
    transaction,
  );
}

export async function deleteRow(database: Database, { table, key }: Place, row: PersonRow): Promise<void> {
  const where = key.map(([name, type], at) => `${name} = $${at + 1}::${type}`).join(" AND ");
  await database.execute(`DELETE FROM ${table} WHERE ${where}`, row.key);
}

/** How often somebody's name stands as who did something. */
export async function countActor(database: Database, name: string): Promise<number> {
  const each = Object.entries(ACTORS).flatMap(([table, columns]) =>
    columns.map((column) => `(SELECT count(*) FROM ${table} WHERE ${column} = $1)`),
  );
  return Number((await database.one<{ count: string }>(`SELECT ${each.join(" + ")} AS count`, [name])).count);
}

/** Another name stands wherever somebody did something. Gives how often. */
async function renameActor(database: Database, name: string, to: string, transaction: Transaction): Promise<number> {
  let changed = 0;
  for (const [table, columns] of Object.entries(ACTORS))
    for (const column of columns)
      changed += await database.execute(
        `UPDATE ${table} SET ${column} = $2 WHERE ${column} = $1`,
        [name, to],
        transaction,
      );
  changed += await database.execute(
    `UPDATE runs SET approvals = (SELECT json_agg(CASE WHEN one->>'by' = $1 THEN (one::jsonb || jsonb_build_object('by', $2::text))::json ELSE one END)
       FROM json_array_elements(approvals) AS one) WHERE approvals::text LIKE '%' || $1 || '%'`,
    [name, to],
    transaction,
  );
  return changed;
}

/** Somebody who was switched off is called otherwise, and nothing of them is kept besides what they did. */
async function renameUser(database: Database, id: number, to: string, transaction: Transaction): Promise<void> {
  await database.execute(
    `UPDATE users SET name = $2, shown_name = NULL, address = NULL, language = NULL, zone = NULL, password = NULL, invitation = NULL, totp = NULL,
       totp_wanted = NULL, recovery_codes = '{}', provider_issuer = NULL, provider_subject = NULL WHERE id = $1`,
    [id, to],
    transaction,
  );
  await database.execute("DELETE FROM passkeys WHERE user_id = $1", [id], transaction);
  await database.execute("DELETE FROM tokens WHERE user_id = $1", [id], transaction);
}

/** A file with the parcel it was made for. */
export interface PersonFile {
  readonly id: string;
  readonly run: string;
  readonly label: string;
  readonly path: string;
  readonly sha256: string;
  readonly size: number;
  readonly runState: string;
  readonly finishedAt: Date | null;
  /** Its kind and name in the report, by which one that grows is known. */
  readonly file: string;
  readonly kind: string;
  readonly definition: { readonly files: Readonly<Record<string, { readonly grows?: unknown }>> };
}

/** The files of some parcels whose bytes are there. */
export function filesOfPerson(database: Database, parcels: readonly string[]): Promise<PersonFile[]> {
  return database.select<PersonFile>(
    `SELECT files.id::text, files.run_id AS run, parcels.label, files.path, files.sha256, files.size, runs.state AS "runState", runs.finished_at AS "finishedAt",
       files.file, files.kind, report_versions.definition
     FROM files JOIN parcels ON parcels.id = files.parcel_id JOIN runs ON runs.id = files.run_id
       JOIN report_versions ON report_versions.name = runs.report AND report_versions.number = runs.report_version
     WHERE files.parcel_id = ANY($1::bigint[]) AND files.removed_at IS NULL ORDER BY files.id`,
    [parcels],
  );
}

/** Their bytes go; path, digest and when stay. */
export async function removeFiles(database: Database, ids: readonly string[], now: Date): Promise<void> {
  await database.execute("UPDATE files SET removed_at = $2 WHERE id = ANY($1::bigint[])", [ids, now]);
  await database.execute(
    "UPDATE messages SET packed = NULL WHERE parcel_id IN (SELECT parcel_id FROM files WHERE id = ANY($1::bigint[]))",
    [ids],
  );
}

/** A piece of an edition's column that holds texts. */
export interface TextPiece {
  readonly edition: number;
  readonly number: number;
  readonly dataset: string;
  readonly column: string;
  readonly columnNumber: number;
  readonly piece: number;
  readonly firstRow: number;
  readonly data: Buffer;
}

/** All pieces of columns of all editions whose rows are there, edition by edition. */
export async function* piecesOfEditions(database: Database): AsyncGenerator<readonly TextPiece[]> {
  const editions = await database.select<{ id: number }>(
    "SELECT id FROM editions WHERE emptied_at IS NULL ORDER BY editions.id",
  );
  for (const { id } of editions)
    yield await database.select<TextPiece>(
      `SELECT editions.id AS edition, editions.number, datasets.name AS dataset, (editions.columns->edition_pieces.column_number)->>'name' AS column,
         edition_pieces.column_number AS "columnNumber", edition_pieces.number AS piece, edition_pieces.first_row AS "firstRow", edition_pieces.data
       FROM edition_pieces JOIN editions ON editions.id = edition_id JOIN datasets ON datasets.id = dataset_id
       WHERE edition_id = $1 AND column_number >= 0 ORDER BY column_number, edition_pieces.number`,
      [id],
    );
}

/** Puts pieces in place of others; the file that the edition came from goes with the words it held, and so does what was noted of changed cells. */
export async function rewritePieces(
  database: Database,
  edition: number,
  pieces: readonly (Pick<TextPiece, "columnNumber" | "piece"> & {
    readonly data: Uint8Array;
    readonly facts: object;
  })[],
): Promise<void> {
  await database.transaction(async (transaction) => {
    for (const { columnNumber, piece, data, facts } of pieces)
      await database.execute(
        "UPDATE edition_pieces SET data = $4, facts = $5 WHERE edition_id = $1 AND column_number = $2 AND number = $3",
        [edition, columnNumber, piece, Buffer.from(data), JSON.stringify(facts)],
        transaction,
      );
    await database.execute(
      "UPDATE editions SET stored = NULL, rewritten = rewritten + 1 WHERE id = $1",
      [edition],
      transaction,
    );
    await database.execute("DELETE FROM edition_changes WHERE edition_id = $1", [edition], transaction);
  });
}

/** Datasets whose edition of some number runs under way need. */
export async function editionsUnderWay(database: Database): Promise<Set<string>> {
  const found = await database.select<{ used: string }>(
    "SELECT DISTINCT used.key || ' ' || used.value AS used FROM runs, json_each_text(runs.editions) AS used WHERE runs.state NOT IN ('done', 'stopped', 'failed')",
  );
  return new Set(found.map(({ used }) => used));
}

/** Entries of versions of the recipient list before the newest. */
export async function* oldLists(database: Database): AsyncGenerator<{
  readonly id: number;
  readonly recipients: readonly object[];
  readonly isUsed: boolean;
  readonly createdAt: Date;
}> {
  const ids = await database.select<{ id: number }>(
    "SELECT id FROM recipient_lists WHERE emptied_at IS NULL AND id < (SELECT max(id) FROM recipient_lists) ORDER BY recipient_lists.id",
  );
  for (const { id } of ids)
    yield await database.one(
      `SELECT id, recipients, created_at AS "createdAt",
         EXISTS (SELECT 1 FROM runs WHERE recipient_list_id = recipient_lists.id AND state NOT IN ('done', 'stopped', 'failed')) AS "isUsed"
       FROM recipient_lists WHERE id = $1`,
      [id],
    );
}

/** Other entries in a version of before; the file it came from goes. */
export async function rewriteList(database: Database, id: number, recipients: readonly object[]): Promise<void> {
  await database.execute("UPDATE recipient_lists SET recipients = $2, findings = '[]', stored = NULL WHERE id = $1", [
    id,
    JSON.stringify(recipients),
  ]);
}

export interface TrailWords {
  readonly id: string;
  readonly at: Date;
  readonly who: string;
  readonly what: string;
  readonly subject: string;
  readonly facts: object;
  readonly calledFrom: string | null;
  readonly form: number;
}

/** Entries of the trail in which one of the words may stand, or one of the names as who did it or whom it was done to. */
export function trailNaming(
  database: Database,
  words: readonly string[],
  names: readonly string[],
): Promise<TrailWords[]> {
  const like = words.map((_, at) => `concat_ws(' ', who, subject, facts::text) ILIKE $${at + 1}`).join(" OR ");
  return database.select<TrailWords>(
    `SELECT id::text, at, who, what, subject, facts, called_from AS "calledFrom", form FROM actions
     WHERE ${like} OR who = ANY($${words.length + 1}) OR subject = ANY($${words.length + 1}) ORDER BY actions.id`,
    [...words.map(containingWords), names],
  );
}

/** What an entry told is told without the person; its digest stays, by which the chain holds. */
export async function eraseFromTrail(
  database: Database,
  entry: Pick<TrailWords, "id" | "who" | "subject" | "facts">,
): Promise<void> {
  await database.execute(
    "UPDATE actions SET who = $2, subject = $3, facts = $4, called_from = NULL, erased = coalesce(erased, action_digest(actions)) WHERE id = $1::bigint",
    [entry.id, entry.who, entry.subject, JSON.stringify(entry.facts)],
  );
}

/** When somebody was erased before, by the stand-in that they have. */
export function erasuresOf(
  database: Database,
  standIn: string,
): Promise<{ readonly at: Date; readonly who: string; readonly facts: object }[]> {
  return database.select("SELECT at, who, facts FROM actions WHERE what = $2 AND subject = $1 ORDER BY actions.id", [
    standIn,
    ERASURE,
  ]);
}

/** Somebody who was switched off is called otherwise, wherever they did something too: by the stand-in, or with a number behind it where another has that. */
export function renamePerson(
  database: Database,
  user: { readonly id: number; readonly name: string },
  standIn: string,
): Promise<void> {
  return database.transaction(async (transaction) => {
    const same = await database.select<{ name: string }>(
      "SELECT name FROM users WHERE starts_with(name, $1) FOR UPDATE",
      [standIn],
      transaction,
    );
    const to = same.length === 0 ? standIn : `${standIn}-${same.length + 1}`;
    await renameActor(database, user.name, to, transaction);
    await renameUser(database, user.id, to, transaction);
  });
}

/** What those who sign in are called, as far as one of the words may stand in it. */
export function namesOfUsers(
  database: Database,
  words: readonly string[],
): Promise<{ readonly name: string; readonly shownName: string | null; readonly address: string | null }[]> {
  const like = words.map((_, at) => `concat_ws(' ', name, shown_name, address) ILIKE $${at + 1}`).join(" OR ");
  return database.select(
    `SELECT name, shown_name AS "shownName", address FROM users WHERE ${like} ORDER BY name`,
    words.map(containingWords),
  );
}
