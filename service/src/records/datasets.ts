/** Datasets and their editions as lists show them, and what is set once for a dataset. */
import { createHash } from "node:crypto";
import type { Database } from "./database/database.js";
import { findRow } from "./database/find.js";
import { containing, type ListPage, type PageWish, selectPage } from "./database/page.js";
import type { DatasetRow, DatasetSettings, EditionRow } from "./database/row-types.js";
import { isThere } from "./keeping.js";
import { byNameNow } from "./library.js";

const EDITION = `editions.number, editions.origin, editions.sha256, editions.stored, editions.emptied_at AS "emptiedAt", editions.rewritten, editions.row_count AS "rowCount", editions.columns, editions.reading, editions.header_row AS "headerRow",
  editions.left_out AS "leftOut", editions.decisions, editions.changes, editions.rules, editions.appended, editions.findings, editions.created_by AS "createdBy",
  editions.created_at AS "createdAt"`;

export type ShownEdition = Omit<EditionRow, "id" | "datasetId">;

/** A dataset with how many editions it has and the newest of them. */
export interface ListedDataset {
  readonly name: string;
  readonly editions: number;
  readonly newest: ShownEdition | null;
}

type ListedRow = { readonly name: string; readonly editions: number } & (ShownEdition | { readonly number: null });

export async function pageOfDatasets(
  database: Database,
  { search, among }: { readonly search?: string | undefined; readonly among?: readonly string[] | undefined },
  wish: PageWish,
): Promise<ListPage<ListedDataset>> {
  const page = await selectPage<ListedRow>(
    database,
    {
      select: `datasets.name, (SELECT count(*)::int FROM editions WHERE dataset_id = datasets.id AND number > 0) AS editions, ${EDITION}`,
      from: "datasets LEFT JOIN LATERAL (SELECT * FROM editions WHERE dataset_id = datasets.id AND number > 0 ORDER BY number DESC LIMIT 1) AS editions ON true",
      where: [
        [`${isThere("datasets", "datasets.name")} AND ?::boolean`, true],
        ["datasets.name ILIKE ?", containing(search)],
        ["datasets.name = ANY(?)", among],
      ],
      order: [{ sql: "datasets.name", type: "text" }],
      downwards: false,
    },
    wish,
  );
  return { items: page.items.map(listedDataset), next: page.next };
}

function listedDataset({ name, editions, ...newest }: ListedRow): ListedDataset {
  return { name, editions, newest: newest.number === null ? null : newest };
}

export async function maybeListedDataset(database: Database, name: string): Promise<ListedDataset | undefined> {
  const [found] = await database.select<ListedRow>(
    `SELECT datasets.name, (SELECT count(*)::int FROM editions WHERE dataset_id = datasets.id AND number > 0) AS editions, ${EDITION} FROM datasets
     LEFT JOIN LATERAL (SELECT * FROM editions WHERE dataset_id = datasets.id AND number > 0 ORDER BY number DESC LIMIT 1) AS editions ON true WHERE datasets.name = $1`,
    [name],
  );
  return found && listedDataset(found);
}

/** An edition with its findings counted. */
export interface ListedEdition
  extends Pick<EditionRow, "number" | "origin" | "rowCount" | "createdBy" | "createdAt" | "emptiedAt"> {
  readonly columns: number;
  readonly stops: number;
  readonly warnings: number;
  readonly notes: number;
}

const counted = (severity: string): string =>
  `(SELECT count(*)::int FROM json_array_elements(findings) AS one WHERE one->>'severity' = '${severity}')`;

export function pageOfEditions(database: Database, dataset: number, wish: PageWish): Promise<ListPage<ListedEdition>> {
  return selectPage<ListedEdition>(
    database,
    {
      select: `number, origin, row_count AS "rowCount", json_array_length(columns) AS columns, ${counted("stop")} AS stops, ${counted("warn")} AS warnings,
        ${counted("note")} AS notes, created_by AS "createdBy", created_at AS "createdAt", emptied_at AS "emptiedAt"`,
      from: "editions",
      where: [["dataset_id = ? AND number > 0", dataset]],
      order: [{ sql: "editions.number", type: "int" }],
      downwards: true,
    },
    wish,
  );
}

/** What tells one state of settings from another. */
export function versionOf(settings: object): string {
  return createHash("sha256").update(JSON.stringify(settings)).digest("hex").slice(0, 16);
}

/** Puts settings in place of others; false where somebody else has changed them since they were read. */
export async function replaceDatasetSettings(
  database: Database,
  { id, settings }: DatasetRow,
  next: DatasetSettings,
): Promise<boolean> {
  const changed = await database.execute(
    "UPDATE datasets SET settings = $2::json WHERE id = $1 AND settings::jsonb = $3::jsonb",
    [id, JSON.stringify(next), JSON.stringify(settings)],
  );
  return changed > 0;
}

/** All datasets that are not put away, by name. */
export async function allDatasets(database: Database): Promise<DatasetRow[]> {
  return database.select<DatasetRow>(
    `SELECT id, name, settings FROM datasets WHERE ${isThere("datasets", "datasets.name")} ORDER BY name`,
  );
}

/** The columns of the newest edition of each dataset that is not put away. */
export function newestColumns(
  database: Database,
): Promise<{ readonly name: string; readonly columns: EditionRow["columns"] }[]> {
  return database.select<{ name: string; columns: EditionRow["columns"] }>(
    `SELECT DISTINCT ON (datasets.id) datasets.name, editions.columns FROM datasets JOIN editions ON editions.dataset_id = datasets.id WHERE ${isThere("datasets", "datasets.name")} ORDER BY datasets.id, editions.number DESC`,
  );
}

/** A dataset by its name, or by one it had before; whatever was put away too. */
export async function maybeDataset(database: Database, name: string): Promise<DatasetRow | undefined> {
  return byNameNow(database, "datasets", name, (called) =>
    findRow(database.models.Dataset, { where: { name: called } }),
  );
}

export async function newestEditionOf(database: Database, dataset: number): Promise<EditionRow | undefined> {
  return findRow(database.models.Edition, { where: { datasetId: dataset }, order: [["number", "DESC"]] });
}

/** The edition of a dataset that came from a file of a name. */
export async function editionFrom(database: Database, name: string, origin: string): Promise<EditionRow | undefined> {
  const dataset = await maybeDataset(database, name);
  if (!dataset) return undefined;
  return findRow(database.models.Edition, { where: { datasetId: dataset.id, origin }, order: [["number", "DESC"]] });
}

/** Whether anything was loaded or defined yet. */
export async function isInUse(database: Database): Promise<boolean> {
  const there = await database.select("SELECT 1 FROM datasets UNION ALL SELECT 1 FROM report_versions LIMIT 1");
  return there.length > 0;
}
