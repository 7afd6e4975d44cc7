/** Tasks that read files and set editions beside each other. */
import type { Finding } from "@corbix/core/common";
import {
  appendTable,
  compareEditions,
  type Drift,
  differenceFindings,
  type EditionDifference,
  type EditionPiece,
  findDrift,
  findPartners,
  type PackedTable,
  type Partners,
  packTable,
  unpackTable,
} from "@corbix/core/edition";
import { type RecipientList, readRecipients } from "@corbix/core/recipients";
import { type Alias, type GroupList, listGroups } from "@corbix/core/split";
import {
  type Cell,
  type ChangedCells,
  type ColumnInfo,
  columnInfo,
  type LoadedTable,
  type LoadOptions,
  loadTable,
} from "@corbix/core/table";
import { readStored, type StoredInput } from "./read-stored.js";

export interface LoadTask extends StoredInput {
  readonly where: string;
  readonly options: LoadOptions;
  /** The edition before, to compare with and to add to. */
  readonly before?: PackedTable;
  /** Key columns, where the file adds to the edition before. */
  readonly appendBy?: readonly string[];
  readonly groupColumns: readonly string[];
  /** Rows given back to be looked at. */
  readonly previewRows: number;
}

export interface LoadResult extends Pick<LoadedTable, "reading" | "headerRow" | "leftOut" | "decisions"> {
  readonly columns: readonly ColumnInfo[];
  readonly rowCount: number;
  readonly pieces: readonly EditionPiece[];
  readonly changes: readonly ChangedCells[];
  readonly findings: readonly Finding[];
  readonly appended: { readonly added: number; readonly replaced: number } | null;
  readonly drift: Drift | null;
  readonly difference: EditionDifference | null;
  readonly preview: { readonly rowNumbers: readonly number[]; readonly rows: readonly (readonly Cell[])[] };
}

export function load(task: LoadTask): LoadResult {
  const loaded = loadTable(readStored(task), task.where, task.options);
  const findings: Finding[] = [...loaded.findings];
  let { table } = loaded;
  let appended: LoadResult["appended"] = null;
  let difference: EditionDifference | null = null;
  let drift: Drift | null = null;
  if (task.before) {
    const before = unpackTable(task.before);
    drift = findDrift(before, table);
    if (task.appendBy && task.appendBy.length > 0) {
      const result = appendTable(before, table, task.appendBy, task.where);
      table = result.table;
      appended = { added: result.added, replaced: result.replaced };
      findings.push(...result.findings);
    }
    difference = compareEditions(before, table, {
      groupColumns: task.groupColumns,
      ...(task.appendBy ? { key: task.appendBy } : {}),
    });
    findings.push(...differenceFindings(difference, task.where));
  }
  const shown = Math.min(task.previewRows, table.rowCount);
  return {
    columns: table.columns.map(columnInfo),
    rowCount: table.rowCount,
    pieces: packTable(table),
    changes: loaded.changes,
    reading: loaded.reading,
    headerRow: loaded.headerRow,
    leftOut: loaded.leftOut,
    decisions: loaded.decisions,
    findings,
    appended,
    drift,
    difference,
    preview: {
      rowNumbers: table.rowNumbers.slice(0, shown),
      rows: Array.from({ length: shown }, (_, row) => table.columns.map((column) => column.values[row] ?? null)),
    },
  };
}

export interface ListTask extends StoredInput {
  readonly where: string;
  readonly options: LoadOptions;
}

/** A recipient list, read as any table is. */
export function recipients(task: ListTask): RecipientList {
  return readRecipients(loadTable(readStored(task), task.where, task.options).table, task.where);
}

export interface GroupsTask {
  readonly table: PackedTable;
  readonly before?: PackedTable;
  readonly by: readonly string[];
  readonly aliases: readonly Alias[];
  readonly recipientKeys?: readonly string[];
}

export function groups(task: GroupsTask): GroupList {
  return listGroups(unpackTable(task.table), task.by, {
    aliases: task.aliases,
    ...(task.before ? { before: unpackTable(task.before) } : {}),
    ...(task.recipientKeys ? { recipientKeys: new Set(task.recipientKeys) } : {}),
  });
}

export interface CompareTask {
  readonly before: PackedTable;
  readonly after: PackedTable;
  readonly key: readonly string[];
  readonly groupColumns: readonly string[];
}

export function compare(task: CompareTask): EditionDifference {
  return compareEditions(unpackTable(task.before), unpackTable(task.after), {
    groupColumns: task.groupColumns,
    ...(task.key.length > 0 ? { key: task.key } : {}),
  });
}

/** Columns of two datasets by which rows of one find rows of the other. */
export function partners({ table, other }: { readonly table: PackedTable; readonly other: PackedTable }): Partners[] {
  return findPartners(unpackTable(table), unpackTable(other));
}
