/** Tasks that fill templates and work on whole workbooks. */
import { type PackedTable, unpackTable } from "@corbix/core/edition";
import { deflateEntry, writeZip } from "@corbix/core/ooxml";
import { type PlanInput, type TriedOut, tryOut } from "@corbix/core/run";
import {
  compareWorkbooks,
  type ReplacedCell,
  replaceWords,
  sheetsApart,
  type WordRule,
  type WorkbookComparison,
} from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";

export interface TryTask {
  readonly input: Omit<PlanInput, "table" | "others" | "templates" | "onlyRows"> & {
    readonly table: PackedTable;
    readonly others: Readonly<Record<string, PackedTable>>;
    readonly templates: Readonly<Record<string, Uint8Array>>;
  };
  readonly file: string;
  readonly group: string | undefined;
  /** Folder of fonts of one's own. */
  readonly fonts: string;
}

/** A template filled for one group, with its pages. */
export function tryTemplate({ input, file, group, fonts }: TryTask): TriedOut {
  const others = new Map(Object.entries(input.others).map(([name, packed]) => [name, unpackTable(packed)]));
  const templates = new Map(Object.entries(input.templates));
  return tryOut({ ...input, table: unpackTable(input.table), others, templates }, file, group, openFonts(fonts));
}

export interface WorkbookTask {
  readonly bytes: Uint8Array;
  readonly where: string;
}

/** Each sheet as a workbook, all in one archive. */
export function takeApart({ bytes, where }: WorkbookTask): { sheets: string[]; archive: Uint8Array } {
  const files = [...sheetsApart(bytes, where)];
  const archive = writeZip(files.map(({ file, bytes: content }) => deflateEntry(file, content)));
  return { sheets: files.map(({ sheet }) => sheet), archive };
}

export function replaceIn(task: WorkbookTask & { readonly rule: WordRule }): {
  bytes: Uint8Array;
  cells: readonly ReplacedCell[];
} {
  const { package: changed, cells } = replaceWords(task.bytes, task.where, task.rule);
  return { bytes: changed.toBytes(), cells };
}

export function compareFiles(task: {
  readonly first: WorkbookTask;
  readonly second: WorkbookTask;
}): WorkbookComparison {
  return compareWorkbooks(task.first, task.second);
}
