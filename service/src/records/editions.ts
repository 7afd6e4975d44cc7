import { CorbixError, sha256, suggestName } from "@corbix/core/common";
import type { Cell, LoadedTable, Table } from "@corbix/core/table";
import type { Database } from "./database.js";
import type { DatasetRow, EditionRow } from "./models.js";
import { CHUNK_ROWS, packTable, unpackTable } from "./pack.js";

export interface NewEdition {
  readonly dataset: string;
  readonly origin: string;
  readonly bytes: Uint8Array;
  readonly loaded: LoadedTable;
  readonly by: string;
}

/** Keeps a loaded table as the dataset's next edition; the dataset is made if it is new. All or nothing. */
export async function addEdition(database: Database, edition: NewEdition): Promise<EditionRow> {
  const { models } = database;
  const { loaded } = edition;
  return database.transaction(async (transaction) => {
    const [dataset] = await models.Dataset.findOrCreate({
      where: { name: edition.dataset },
      defaults: { name: edition.dataset },
      transaction,
    });
    const { id } = dataset.get({ plain: true });
    await database.select("SELECT id FROM datasets WHERE id = $1 FOR UPDATE", [id], transaction);
    const last = (await models.Edition.max("number", { where: { datasetId: id }, transaction })) as number | null;
    const digest = sha256(edition.bytes);
    const same = await models.Edition.findOne({
      where: { datasetId: id, sha256: digest },
      order: [["number", "DESC"]],
      transaction,
      raw: true,
    });
    const findings = same
      ? [
          ...loaded.findings,
          {
            code: "same-bytes",
            severity: "note" as const,
            where: edition.origin,
            what: `This file is the same, byte for byte, as edition ${(same as unknown as EditionRow).number}.`,
            advice: "If a new one was expected, export again.",
          },
        ]
      : loaded.findings;
    const created = await models.Edition.create(
      {
        datasetId: id,
        number: (last ?? 0) + 1,
        origin: edition.origin,
        sha256: digest,
        rowCount: loaded.table.rowCount,
        columns: loaded.table.columns.map(({ name, type }) => ({ name, type })),
        reading: loaded.reading,
        headerRow: loaded.headerRow,
        leftOut: loaded.leftOut,
        findings,
        createdBy: edition.by,
      },
      { transaction },
    );
    const row = created.get({ plain: true });
    for (let first = 0, number = 0; first < loaded.table.rowCount; first += CHUNK_ROWS, number++) {
      const chunk = sliceTable(loaded.table, first, CHUNK_ROWS);
      await models.EditionChunk.create(
        {
          editionId: row.id,
          number,
          firstRow: first,
          rowCount: chunk.rowCount,
          stats: chunk.columns.map((column) => columnStats(column.values)),
          data: packTable(chunk),
        },
        { transaction },
      );
    }
    return row;
  });
}

function sliceTable(table: Table, first: number, count: number): Table {
  const rowNumbers = table.rowNumbers.slice(first, first + count);
  return {
    columns: table.columns.map((column) => ({ ...column, values: column.values.slice(first, first + count) })),
    rowCount: rowNumbers.length,
    rowNumbers,
  };
}

function columnStats(values: readonly Cell[]): { min: Cell; max: Cell; distinct: number; blanks: number } {
  const filled = values.filter((value) => value !== null);
  const [first = null] = filled;
  let [min, max]: [Cell, Cell] = [first, first];
  for (const value of filled) {
    if (min !== null && value < min) min = value;
    if (max !== null && value > max) max = value;
  }
  return { min, max, distinct: new Set(filled).size, blanks: values.length - filled.length };
}

/** A dataset by name. Throws `NOT_FOUND` with a near name. */
export async function getDataset(database: Database, name: string): Promise<DatasetRow> {
  const all = (await database.models.Dataset.findAll({ raw: true })) as unknown as DatasetRow[];
  const found = all.find((dataset) => dataset.name === name);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", `Cannot find the dataset \`${name}\`.`, {
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
  const found = await database.models.Edition.findOne({
    where: { datasetId: id, ...(number === undefined ? {} : { number }) },
    order: [["number", "DESC"]],
    raw: true,
  });
  if (found) return found as unknown as EditionRow;
  throw new CorbixError("NOT_FOUND", `Cannot find edition ${number ?? 1} of \`${dataset}\`.`, {
    where: "datasets",
    advice: "Load a file into it first.",
  });
}

export async function getEditionById(database: Database, id: number): Promise<EditionRow> {
  return (await database.models.Edition.findByPk(id, { raw: true, rejectOnEmpty: true })) as unknown as EditionRow;
}

/** All rows of an edition, or those from `first` on. Only the chunks that hold them are read. */
export async function readEdition(
  database: Database,
  edition: EditionRow,
  first = 0,
  count = edition.rowCount,
): Promise<Table> {
  const chunks = await database.select<{ first_row: number; data: Buffer }>(
    "SELECT first_row, data FROM edition_chunks WHERE edition_id = $1 AND first_row < $2 AND first_row + row_count > $3 ORDER BY number",
    [edition.id, first + count, first],
  );
  const table = unpackTable(
    edition.columns,
    chunks.map((chunk) => chunk.data),
  );
  const offset = first - (chunks[0]?.first_row ?? 0);
  return offset === 0 && table.rowCount <= count ? table : sliceTable(table, offset, count);
}
