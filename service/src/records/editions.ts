import { deflateSync, inflateSync } from "node:zlib";
import { CorbixError, groupedBy, made, suggestName } from "@corbix/core/common";
import { type EditionPiece, type PackedTable, PIECE_ROWS, ROW_NUMBERS, unpackTable } from "@corbix/core/edition";
import { type ChangedCells, type ColumnInfo, type Table, unpackColumn } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { findRow, getRow } from "./database/find.js";
import type { DatasetRow, EditionRow } from "./database/row-types.js";
import { allDatasets, maybeDataset } from "./datasets.js";
import { bringBack, lockName, nameNow, putAwayOf } from "./keeping.js";

export interface NewEdition
  extends Pick<
    EditionRow,
    | "origin"
    | "sha256"
    | "rowCount"
    | "columns"
    | "reading"
    | "headerRow"
    | "leftOut"
    | "decisions"
    | "rules"
    | "appended"
    | "findings"
    | "createdBy"
  > {
  readonly dataset: string;
  readonly pieces: readonly EditionPiece[];
  readonly changes: readonly ChangedCells[];
  /** The edition it was compared with and adds to; if another came in between, it is refused. */
  readonly basedOn: number | undefined;
}

/**
 * Keeps a loaded table as the dataset's next edition; the dataset is made if it is new. All or nothing.
 * Throws `CONFLICT` where an appending edition's base is not the newest any more.
 */
export async function addEdition(database: Database, edition: NewEdition): Promise<EditionRow> {
  const { models } = database;
  return database.transaction(async (transaction) => {
    await lockName(database, "datasets", edition.dataset, transaction);
    // It may have got another name while the file was read.
    const name = (await nameNow(database, "datasets", edition.dataset, transaction)) ?? edition.dataset;
    const [dataset] = await models.Dataset.findOrCreate({
      where: { name },
      defaults: { name },
      transaction,
    });
    const { id } = dataset.get({ plain: true });
    await database.select("SELECT id FROM datasets WHERE id = $1 FOR UPDATE", [id], transaction);
    // One that was deleted, and is kept for its runs only, goes on where it ended.
    await bringBack(database, "datasets", name, "deleted", transaction);
    const { last } = await database.one<{ last: number }>(
      "SELECT coalesce(max(number), 0) AS last FROM editions WHERE dataset_id = $1",
      [id],
      transaction,
    );
    if (edition.appended && last !== (edition.basedOn ?? 0)) {
      throw new CorbixError("CONFLICT", say().serviceRecords.cannotAddEditionBeforeAnother(), {
        where: edition.origin,
        advice: say().serviceRecords.loadFileAgain(),
      });
    }
    const same = await findRow(models.Edition, {
      where: { datasetId: id, sha256: edition.sha256 },
      order: [["number", "DESC"]],
      transaction,
    });
    const sameBytes = {
      code: "same-bytes",
      severity: "note" as const,
      where: edition.origin,
      what: say().serviceRecords.fileSameByteByteEdition({ number: same?.number }),
      advice: say().serviceRecords.ifNewExpectedExportAgain(),
    };
    const created = await models.Edition.create(
      {
        datasetId: id,
        number: last + 1,
        origin: edition.origin,
        sha256: edition.sha256,
        stored: edition.sha256,
        rowCount: edition.rowCount,
        columns: edition.columns,
        reading: edition.reading,
        headerRow: edition.headerRow,
        leftOut: edition.leftOut,
        decisions: edition.decisions,
        changes: edition.changes.map(({ column, kind, rows }) => ({ column, kind, count: rows.length })),
        rules: edition.rules,
        appended: edition.appended,
        findings: same ? [...edition.findings, sameBytes] : edition.findings,
        createdBy: edition.createdBy,
      },
      { transaction },
    );
    const row = created.get({ plain: true });
    const pieces = edition.pieces.map((piece) => ({ edition: row.id, piece }));
    await writePieces(database, pieces, transaction);
    for (const [number, { column, kind, rows, raw }] of edition.changes.entries()) {
      const data = deflateSync(JSON.stringify({ rows, raw }), { level: 1 });
      await database.execute(
        "INSERT INTO edition_changes (edition_id, number, column_name, kind, count, data) VALUES ($1, $2, $3, $4, $5, $6)",
        [row.id, number, column, kind, rows.length, data],
        transaction,
      );
    }
    return row;
  });
}

/** A record that came by itself. */
export type NewRecordEdition = Pick<NewEdition, "origin" | "sha256" | "rowCount" | "columns" | "pieces" | "createdBy">;

/** Records that came by themselves, as editions of their own kind: numbered below zero, so that no load takes them for the newest. */
export async function addRecordEditions(
  database: Database,
  dataset: string,
  editions: readonly NewRecordEdition[],
  transaction: Transaction,
): Promise<Pick<EditionRow, "id" | "number">[]> {
  const { id } = await database.one<{ id: number }>(
    "SELECT id FROM datasets WHERE name = $1 FOR UPDATE",
    [dataset],
    transaction,
  );
  const { last } = await database.one<{ last: number }>(
    "SELECT least(coalesce(min(number), 0), 0) AS last FROM editions WHERE dataset_id = $1",
    [id],
    transaction,
  );
  const blank = {
    reading: {},
    headerRow: 1,
    leftOut: [],
    decisions: [],
    changes: [],
    rules: {},
    appended: null,
    findings: [],
  };
  const rows = editions.map(({ pieces: _, ...facts }, at) => ({
    datasetId: id,
    number: last - 1 - at,
    ...blank,
    ...facts,
    stored: facts.sha256,
  }));
  const created = await database.models.Edition.bulkCreate(rows, { transaction, returning: ["id", "number"] });
  const added = created.map((edition) => edition.get({ plain: true }));
  const pieces = editions.flatMap((edition, at) =>
    edition.pieces.map((piece) => ({ edition: made(added[at], "a kept record").id, piece })),
  );
  await writePieces(database, pieces, transaction);
  return added;
}

/** So many pieces go into one statement, and about so many bytes. */
const PIECES_AT_ONCE = 500;
const BYTES_AT_ONCE = 4_000_000;

interface OwnPiece {
  readonly edition: number;
  readonly piece: EditionPiece;
}

async function writePieces(database: Database, pieces: readonly OwnPiece[], transaction: Transaction): Promise<void> {
  for (const some of inPortions(pieces)) {
    const values = some.map((_, index) => {
      const places = Array.from({ length: 7 }, (_place, at) => `$${index * 7 + at + 1}`);
      return `(${places.join(", ")})`;
    });
    await database.execute(
      `INSERT INTO edition_pieces (edition_id, column_number, number, first_row, row_count, facts, data) VALUES ${values.join(", ")}`,
      [
        ...some.flatMap(({ edition, piece }) => [
          edition,
          piece.column,
          piece.number,
          piece.firstRow,
          piece.rowCount,
          JSON.stringify(piece.facts),
          Buffer.from(piece.data),
        ]),
      ],
      transaction,
    );
  }
}

function inPortions(pieces: readonly OwnPiece[]): OwnPiece[][] {
  const portions: OwnPiece[][] = [];
  let bytes = Number.POSITIVE_INFINITY;
  for (const one of pieces) {
    if (bytes >= BYTES_AT_ONCE || (portions.at(-1)?.length ?? 0) >= PIECES_AT_ONCE) {
      portions.push([]);
      bytes = 0;
    }
    portions.at(-1)?.push(one);
    bytes += one.piece.data.length;
  }
  return portions;
}

/** A dataset by name, or by one it had before. Throws `NOT_FOUND` with a near name. */
export async function getDataset(database: Database, name: string): Promise<DatasetRow> {
  const found = await maybeDataset(database, name);
  if (found && (await putAwayOf(database, "datasets", found.name))?.state !== "deleted") return found;
  const all = await allDatasets(database);
  throw new CorbixError("NOT_FOUND", say().serviceRecords.cannotFindDataset({ name }), {
    where: "datasets",
    advice: suggestName(
      name,
      all.map((dataset) => dataset.name),
      "datasets",
    ),
  });
}

/** An edition of a dataset: the numbered one, or the newest. Throws `NOT_FOUND`. */
export async function getEdition(database: Database, dataset: string, number?: number): Promise<EditionRow> {
  const { id } = await getDataset(database, dataset);
  const found = await findRow(database.models.Edition, {
    where: { datasetId: id, ...(number === undefined ? {} : { number }) },
    order: [["number", "DESC"]],
  });
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceRecords.cannotFindEdition({ number: number ?? 1, dataset }), {
    where: "datasets",
    advice: say().serviceRecords.loadFileFirst(),
  });
}

/** Number of each dataset's newest edition; those that have none are left out. */
export async function maybeNewestNumbers(
  database: Database,
  names: readonly string[],
): Promise<Record<string, number>> {
  if (names.length === 0) return {};
  const found = await database.select<{ name: string; number: number }>(
    "SELECT datasets.name, max(editions.number) AS number FROM datasets JOIN editions ON editions.dataset_id = datasets.id WHERE datasets.name = ANY($1) GROUP BY datasets.name",
    [names],
  );
  return Object.fromEntries(found.map(({ name, number }) => [name, number]));
}

/** The same. Throws `NOT_FOUND` for a dataset that has none. */
export async function newestNumbers(database: Database, names: readonly string[]): Promise<Record<string, number>> {
  const numbers = await maybeNewestNumbers(database, names);
  for (const name of names) if (numbers[name] === undefined) numbers[name] = (await getEdition(database, name)).number;
  return numbers;
}

export async function getEditionById(database: Database, id: number): Promise<EditionRow> {
  return getRow(database.models.Edition, { where: { id } });
}

/** Throws `NOT_FOUND` for an edition whose rows were deleted. */
export function checkFull({ number, emptiedAt }: Pick<EditionRow, "number" | "emptiedAt">): void {
  if (!emptiedAt) return;
  const on = new Date(emptiedAt).toISOString().slice(0, 10);
  throw new CorbixError("NOT_FOUND", say().serviceRecords.editionEmptied({ number, on }), {
    where: "editions",
    advice: say().serviceRecords.takeNewerEdition(),
  });
}

/** What keeps the rows of an edition from being deleted: it is the newest, or runs that are under way need it. */
export async function needsOfEdition(
  database: Database,
  edition: Pick<EditionRow, "id">,
): Promise<{ readonly isNewest: boolean; readonly runs: readonly string[] }> {
  return database.one(
    `SELECT NOT EXISTS (SELECT 1 FROM editions newer WHERE newer.dataset_id = editions.dataset_id AND newer.number > editions.number) AND number > 0 AS "isNewest",
       ARRAY(SELECT runs.id FROM runs WHERE runs.state NOT IN ('done', 'stopped', 'failed') AND (runs.editions->>datasets.name)::int = editions.number ORDER BY 1) AS runs
     FROM editions JOIN datasets ON datasets.id = dataset_id WHERE editions.id = $1`,
    [edition.id],
  );
}

/** Deletes the rows of an edition with the file they were read from; number, digest and counts stay. False where they were deleted before. */
export function emptyEdition(database: Database, id: number): Promise<boolean> {
  return database.transaction(async (transaction) => {
    const emptied = await database.execute(
      `UPDATE editions SET emptied_at = now(), stored = NULL, left_out = '[]', findings = '[]', decisions = '[]' WHERE id = $1 AND emptied_at IS NULL`,
      [id],
      transaction,
    );
    await database.execute("DELETE FROM edition_pieces WHERE edition_id = $1", [id], transaction);
    await database.execute("DELETE FROM edition_changes WHERE edition_id = $1", [id], transaction);
    return emptied > 0;
  });
}

/** Editions whose time is over by what is set for their dataset: besides the newest, and without runs that are under way. */
export function overdueEditions(
  database: Database,
  now: Date,
  count: number,
): Promise<{ readonly id: number; readonly number: number; readonly dataset: string }[]> {
  return database.select(
    `SELECT editions.id, editions.number, datasets.name AS dataset FROM editions JOIN datasets ON datasets.id = dataset_id
     WHERE emptied_at IS NULL AND editions.created_at < $1::timestamptz - (settings->>'keepMonths')::int * interval '1 month'
       AND (number < 0 OR EXISTS (SELECT 1 FROM editions newer WHERE newer.dataset_id = editions.dataset_id AND newer.number > editions.number))
       AND NOT EXISTS (SELECT 1 FROM runs WHERE runs.state NOT IN ('done', 'stopped', 'failed') AND (runs.editions->>datasets.name)::int = editions.number)
     ORDER BY editions.id LIMIT $2`,
    [now, count],
  );
}

/** Pieces of an edition as they are kept; of some columns, and of some pieces' numbers, if named. */
export async function packedEdition(
  database: Database,
  edition: EditionRow,
  only: { readonly columns?: readonly string[]; readonly numbers?: readonly number[] } = {},
): Promise<PackedTable> {
  checkFull(edition);
  const indexes = edition.columns.flatMap((column, at) =>
    !only.columns || only.columns.includes(column.name) ? [at] : [],
  );
  const pieces = await database.select<{ column_number: number; number: number; data: Buffer; row_count: number }>(
    `SELECT column_number, number, data, row_count FROM edition_pieces
     WHERE edition_id = $1 AND column_number = ANY($2) AND ($3::int[] IS NULL OR number = ANY($3)) ORDER BY number, column_number`,
    [edition.id, [ROW_NUMBERS, ...indexes], only.numbers ?? null],
  );
  return {
    columns: indexes.flatMap((at) => edition.columns[at] ?? []),
    rowCount: pieces
      .filter((piece) => piece.column_number === ROW_NUMBERS)
      .reduce((sum, piece) => sum + piece.row_count, 0),
    pieces: pieces.map((piece) => ({
      column: piece.column_number === ROW_NUMBERS ? ROW_NUMBERS : indexes.indexOf(piece.column_number),
      number: piece.number,
      data: piece.data,
    })),
  };
}

/** Editions that hold one record each, whole, by their ids. */
export async function readRecordEditions(
  database: Database,
  ids: readonly number[],
): Promise<Map<number, { readonly columns: readonly ColumnInfo[]; readonly table: Table }>> {
  const editions = await database.select<Pick<EditionRow, "id" | "columns">>(
    "SELECT id, columns FROM editions WHERE id = ANY($1)",
    [ids],
  );
  const pieces = await database.select<{ edition: number; column: number; number: number; data: Buffer; rows: number }>(
    `SELECT edition_id AS edition, column_number AS column, number, data, row_count AS rows FROM edition_pieces
     WHERE edition_id = ANY($1) ORDER BY number, column_number`,
    [ids],
  );
  const own = groupedBy(pieces, (piece) => piece.edition);
  return new Map(
    editions.map(({ id, columns }) => {
      const all = own.get(id) ?? [];
      const rowCount = all.filter(({ column }) => column === ROW_NUMBERS).reduce((sum, { rows }) => sum + rows, 0);
      return [id, { columns, table: unpackTable({ columns, rowCount, pieces: all }) }];
    }),
  );
}

/** All rows of an edition, or those from `first` on, or some columns. Only the pieces that hold them are read. */
export async function readEdition(
  database: Database,
  edition: EditionRow,
  only: { readonly first?: number; readonly count?: number; readonly columns?: readonly string[] } = {},
): Promise<Table> {
  const first = only.first ?? 0;
  const to = Math.min(edition.rowCount, first + (only.count ?? edition.rowCount));
  const from = Math.floor(first / PIECE_ROWS);
  const last = Math.max(from, Math.ceil(to / PIECE_ROWS) - 1);
  const numbers = Array.from({ length: last - from + 1 }, (_, index) => from + index);
  const table = unpackTable(
    await packedEdition(database, edition, { numbers, ...(only.columns ? { columns: only.columns } : {}) }),
  );
  const offset = from * PIECE_ROWS;
  if (first === offset && to - first === table.rowCount) return table;
  return {
    columns: table.columns.map((column) => ({ ...column, values: column.values.slice(first - offset, to - offset) })),
    rowCount: Math.max(0, to - first),
    rowNumbers: table.rowNumbers.slice(first - offset, to - offset),
  };
}

/**
 * Rows of an edition for a period of a column of dates: pieces that hold no date of it are not read.
 * `outside` counts rows of those pieces, and `blank` those of them without a date.
 */
export async function readPeriod(
  database: Database,
  edition: EditionRow,
  column: string,
  period: { readonly from: number; readonly to: number },
): Promise<{ table: Table; outside: number; blank: number; rowNumbers: number[] }> {
  const index = edition.columns.findIndex((one) => one.name === column);
  const known = await database.select<{
    number: number;
    row_count: number;
    facts: { min: number | null; max: number | null; blanks: number };
  }>(
    "SELECT number, row_count, facts FROM edition_pieces WHERE edition_id = $1 AND column_number = $2 ORDER BY number",
    [edition.id, index],
  );
  const holds = known.filter(
    ({ facts }) => facts.min !== null && facts.max !== null && facts.max >= period.from && facts.min < period.to + 1,
  );
  const skipped = known.filter((piece) => !holds.includes(piece));
  const blank = skipped.reduce((sum, { facts }) => sum + facts.blanks, 0);
  const numbers = holds.map((piece) => piece.number);
  return {
    table: unpackTable(await packedEdition(database, edition, { numbers })),
    outside: skipped.reduce((sum, piece) => sum + piece.row_count, 0) - blank,
    blank,
    rowNumbers: await firstRowNumbers(database, edition, skipped[0]?.number),
  };
}

async function firstRowNumbers(database: Database, edition: EditionRow, piece: number | undefined): Promise<number[]> {
  if (piece === undefined) return [];
  const [found] = await database.select<{ data: Buffer }>(
    "SELECT data FROM edition_pieces WHERE edition_id = $1 AND column_number = $2 AND number = $3",
    [edition.id, ROW_NUMBERS, piece],
  );
  if (!found) return [];
  const data = unpackColumn(found.data);
  return data.kind === "numbers" ? Array.from(data.numbers.subarray(0, 100)) : [];
}

export interface ChangedCell {
  readonly column: string;
  readonly kind: string;
  readonly row: number;
  /** As it stands in the file. */
  readonly raw: string;
}

/** Cells of an edition that stand otherwise than in its file, from the `first` on. */
export async function readChanges(
  database: Database,
  edition: EditionRow,
  wanted: { readonly column?: string; readonly kind?: string; readonly first: number; readonly count: number },
): Promise<{ total: number; cells: ChangedCell[] }> {
  const all = await database.select<{ number: number; column_name: string; kind: string; count: number }>(
    "SELECT number, column_name, kind, count FROM edition_changes WHERE edition_id = $1 ORDER BY number",
    [edition.id],
  );
  const chosen = all.filter(
    (one) =>
      (wanted.column === undefined || one.column_name === wanted.column) &&
      (wanted.kind === undefined || one.kind === wanted.kind),
  );
  const cells: ChangedCell[] = [];
  let skip = wanted.first;
  for (const { number, column_name: column, kind, count } of chosen) {
    if (cells.length >= wanted.count) break;
    if (skip >= count) {
      skip -= count;
      continue;
    }
    const packed = await database.one<{ data: Buffer }>(
      "SELECT data FROM edition_changes WHERE edition_id = $1 AND number = $2",
      [edition.id, number],
    );
    const { rows, raw } = JSON.parse(inflateSync(packed.data).toString("utf8")) as Pick<ChangedCells, "rows" | "raw">;
    const to = Math.min(count, skip + wanted.count - cells.length);
    for (let at = skip; at < to; at++) cells.push({ column, kind, row: rows[at] ?? 0, raw: raw[at] ?? "" });
    skip = 0;
  }
  return { total: chosen.reduce((sum, one) => sum + one.count, 0), cells };
}
