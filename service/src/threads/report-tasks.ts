/** Tasks on definitions and templates that somebody saves or looks at: whatever is in them, it takes a thread's time and no more. */

import { auditPdf, type Block } from "@corbix/core/audit";
import { CorbixError } from "@corbix/core/common";
import { documentPlaces, openDocument } from "@corbix/core/document";
import type { Scope } from "@corbix/core/expression";
import { deflateEntry, writeZip } from "@corbix/core/ooxml";
import { joinPdfs, writePdf } from "@corbix/core/pdf";
import { preparedColumns } from "@corbix/core/prepare";
import type { Recipient } from "@corbix/core/recipients";
import { parseReport, type Report } from "@corbix/core/report";
import {
  checkAgainst,
  type ExplainedMark,
  explainMarks,
  furtherColumns,
  groupScope,
  layOffice,
  officeKind,
  openOffice,
  readOfficeTemplate,
  recipientFields,
} from "@corbix/core/run";
import { openWorkbook } from "@corbix/core/spreadsheet";
import type { ColumnInfo } from "@corbix/core/table";
import type { TemplatePlace } from "@corbix/core/template";
import { say } from "@corbix/core/words";
import { workbookPlaces } from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";
import { readStored, type StoredInput } from "./read-stored.js";

/** A definition from its text. */
export function readDefinition(task: { readonly source: string; readonly where: string }): Report {
  return parseReport(task.source, task.where);
}

export interface CheckTask {
  readonly definition: Report;
  readonly columns: Readonly<Record<string, readonly ColumnInfo[]>>;
  readonly templates: Readonly<Record<string, Uint8Array>>;
  readonly recipients: readonly Recipient[];
}

/** Checks every name of a definition against data and templates. */
export function checkDefinition({ definition, columns, templates, recipients }: CheckTask): null {
  const others = new Map(Object.entries(columns));
  checkAgainst(definition, others.get(definition.data) ?? [], others, new Map(Object.entries(templates)), recipients);
  return null;
}

/** Reads a template, to find out whether it can be. */
export function readTemplate({ bytes, name }: { readonly bytes: Uint8Array; readonly name: string }): null {
  readOfficeTemplate(bytes, name);
  return null;
}

export interface MarksTask {
  readonly bytes: Uint8Array;
  readonly name: string;
  /** What a report offers them, if one is named. */
  readonly against:
    | {
        readonly definition: Report;
        readonly columns: Readonly<Record<string, readonly ColumnInfo[]>>;
        readonly recipients: readonly Recipient[];
      }
    | undefined;
}

/** Marks with what they are filled from. */
export function marksOf({ bytes, name, against }: MarksTask): readonly ExplainedMark[] {
  const scope = against && scopeOf(against);
  const reading = { further: Object.keys(scope?.further ?? {}) };
  return explainMarks(readOfficeTemplate(bytes, name, reading)?.marks ?? [], scope);
}

/** What a definition can name in a template; nothing in a body of a message. */
export function placesOf({ bytes, name }: { readonly bytes: Uint8Array; readonly name: string }): TemplatePlace[] {
  if (/\.xls[xm]$/.test(name)) return workbookPlaces(openWorkbook(bytes, name));
  return name.endsWith(".docx") ? documentPlaces(openDocument(bytes, name)) : [];
}

function scopeOf({ definition, columns, recipients }: NonNullable<MarksTask["against"]>): Scope {
  const others = new Map(Object.entries(columns));
  const prepared = preparedColumns(others.get(definition.data) ?? [], definition, others);
  return groupScope(prepared, recipientFields(recipients), furtherColumns(definition, prepared, others));
}

/** A template as it is, as pages. */
export function pagesOf(task: {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly fonts: string;
  /** What headers and footers show for day and time. */
  readonly printed: { readonly date: string; readonly time: string };
}): Uint8Array {
  const { bytes, name } = task;
  const fonts = openFonts(task.fonts);
  const kind = officeKind(name);
  const laid = layOffice(kind, openOffice(bytes, name, kind), fonts, {
    file: name,
    ...task.printed,
    // A template shows what it is made from.
    withHidden: true,
  });
  return writePdf(laid.pages, { title: name });
}

/** A report for an auditor as pages. */
export function auditPages(task: {
  readonly blocks: readonly Block[];
  readonly title: string;
  readonly language: string;
  readonly fonts: string;
}): Uint8Array {
  const { blocks, fonts, ...about } = task;
  return auditPdf(blocks, { ...about, fonts: openFonts(fonts) });
}

/** A stored file under the name it is given out with. */
export interface NamedInput extends StoredInput {
  readonly name: string;
}

/** Stored files as one archive, behind others that are not stored. */
export function packFiles({
  files,
  before = [],
}: {
  readonly files: readonly NamedInput[];
  readonly before?: readonly { readonly name: string; readonly bytes: Uint8Array }[];
}): Uint8Array {
  return writeZip([
    ...before.map(({ name, bytes }) => deflateEntry(name, bytes)),
    ...files.map((file) => deflateEntry(file.name, readStored(file))),
  ]);
}

/** Stored PDFs behind each other. */
export function joinFiles(task: {
  readonly files: readonly NamedInput[];
  readonly title: string;
  readonly sheets: boolean;
}): Uint8Array {
  const parts = task.files.map((file) => ({ bytes: readStored(file), where: file.name }));
  if (parts.length === 0)
    throw new CorbixError("NOT_FOUND", say().serviceThreads.cannotPrintNothing(), { where: task.title });
  return joinPdfs(parts, { title: task.title, sheets: task.sheets });
}
