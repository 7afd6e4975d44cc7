/** Tasks that fill templates and work on whole workbooks. */
import type { Finding } from "@corbix/core/common";
import { type GoneRows, rowContentReader, rowKeyReader, rowsGone } from "@corbix/core/delivery";
import { type PackedTable, unpackTable } from "@corbix/core/edition";
import type { Envelope } from "@corbix/core/message";
import { deflateEntry, writeZip } from "@corbix/core/ooxml";
import {
  type AnswerFile,
  type DraftLook,
  type DraftWish,
  type FileKind,
  lookAtDraft as lookAt,
  makeAnswer as makeAnswerFile,
  officeKind,
  type PlanInput,
  plannedMessages,
  planRun,
  type TriedMessage,
  type TriedOut,
  tryMessage,
  tryOut,
} from "@corbix/core/run";
import { compareDecks } from "@corbix/core/slides";
import type { Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { compareWorkbooks, type ReplacedCell, replaceWords, sheetsApart, type WordRule } from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";
import { type ShownPerson, shownPerson } from "./shown-person.js";
import { type ThrownError, thrownError } from "./thrown-error.js";

interface PlanTask {
  readonly input: Omit<PlanInput, "table" | "others" | "templates" | "onlyRows"> & {
    readonly table: PackedTable;
    readonly others: Readonly<Record<string, PackedTable>>;
    readonly templates: Readonly<Record<string, Uint8Array>>;
  };
  readonly group: string | undefined;
}

export interface TryTask extends PlanTask {
  readonly file: string;
  /** Folder of fonts of one's own. */
  readonly fonts: string;
}

function planInput({ input }: PlanTask): PlanInput {
  const others = new Map(Object.entries(input.others).map(([name, packed]) => [name, unpackTable(packed)]));
  const templates = new Map(Object.entries(input.templates));
  return { ...input, table: unpackTable(input.table), others, templates };
}

/** A template filled for one group, with its pages. */
export function tryTemplate(task: TryTask): TriedOut {
  return tryOut(planInput(task), task.file, task.group, openFonts(task.fonts));
}

export interface AnswerTask {
  /** `table`: the rows that were found, prepared. */
  readonly input: Omit<PlanTask["input"], "table"> & { readonly table: Table };
  readonly form: string;
  readonly kind: FileKind;
  readonly fonts: string;
}

/** A file of an answer. */
export function makeAnswer({ input, form, kind, fonts }: AnswerTask): AnswerFile {
  const others = new Map(Object.entries(input.others).map(([name, packed]) => [name, unpackTable(packed)]));
  const templates = new Map(Object.entries(input.templates));
  return makeAnswerFile({ ...input, others, templates }, { form, kind }, openFonts(fonts));
}

/** The messages of one group, in each language. */
export function tryMessages(task: PlanTask): TriedMessage {
  return tryMessage(planInput(task), task.group);
}

/** A look at a definition as it crosses from a thread: errors do not by themselves. */
export interface DraftView extends Omit<DraftLook, "problems"> {
  readonly problems: readonly ThrownError[];
}

/** What a definition makes of the data, as far as it goes. */
export function lookAtDraft(task: PlanTask & Pick<DraftWish, "search" | "conditions">): DraftView {
  const { group, search, conditions } = task;
  const look = lookAt(planInput(task), { group, search, conditions });
  return { ...look, problems: look.problems.map(thrownError) };
}

/** Who would receive for a group, by which rule, or why nobody. */
export interface GroupMatching {
  readonly number: number;
  readonly group: string;
  readonly rows: number;
  readonly nobody: string | null;
  readonly people: readonly ShownPerson[];
}

export interface PlannedGroups {
  readonly groups: readonly (GroupMatching & {
    readonly key: string;
    readonly messages: readonly { readonly part: string; readonly envelope: Envelope }[];
  })[];
  readonly leftOut: readonly { readonly reason: string; readonly count: number }[];
  readonly rows: number;
}

/** The groups that a run would have, with their people, and the rows it would leave out. */
export function planGroups(task: PlanTask & { readonly gone: GoneRows | undefined }): PlannedGroups {
  const { gone } = task;
  const { plan } = planRun({
    ...planInput(task),
    ...(gone ? { delivered: (table, group) => rowsGone(gone, table, group) } : {}),
  });
  return {
    groups: plan.parcels.map(({ number, group, recipients, nobody }) => ({
      number,
      key: group.key,
      group: group.label,
      rows: group.rows.length,
      nobody: nobody ?? null,
      people: recipients.map(shownPerson),
      messages: plannedMessages(task.input.report, recipients).map(({ part, envelope }) => ({
        part: part.part,
        envelope,
      })),
    })),
    leftOut: plan.rows.leftOut.map(({ reason, count }) => ({ reason, count })),
    rows: plan.rows.inGroups,
  };
}

/** A row that somebody picked: whose it is, and whether it went out before. */
export interface PickedRow {
  readonly rowNumber: number;
  readonly group: string | null;
  readonly people: readonly string[];
  /** The day it went out on. */
  readonly before: string | null;
  /** Why it is left out. */
  readonly why: string | null;
}

/** What a run over picked rows would do with each, in their order. */
export function planPicks(
  task: PlanTask & {
    readonly onlyRows: { readonly rowNumbers: readonly number[]; readonly why: string };
    /** Of a report in which a row goes out once. */
    readonly gone: GoneRows | undefined;
    /** Days by group and content of a row in these columns. */
    readonly contents: { readonly columns: readonly string[]; readonly days: Readonly<Record<string, string>> };
  },
): readonly PickedRow[] {
  const { onlyRows, gone, contents } = task;
  const { plan } = planRun({
    ...planInput(task),
    onlyRows: { ...onlyRows, rowNumbers: new Set(onlyRows.rowNumbers) },
  });
  const { table } = plan;
  const found = new Map<number, PickedRow>();
  const digest = rowContentReader(table, contents.columns);
  for (const { group, recipients } of plan.parcels) {
    const key = gone && rowKeyReader(table, gone.per);
    for (const row of group.rows) {
      const of = `${group.key} ${key ? key(row) : digest(row)}`;
      const days = gone?.days ?? contents.days;
      found.set(table.rowNumbers[row] ?? 0, {
        rowNumber: table.rowNumbers[row] ?? 0,
        group: group.label,
        people: recipients.map(({ name, to }) => name || (to[0]?.address ?? "")),
        before: Object.hasOwn(days, of) ? (days[of] ?? null) : null,
        why: null,
      });
    }
  }
  const reasons = new Map(
    plan.rows.leftOut.flatMap(({ reason, rowNumbers }) => rowNumbers.map((row) => [row, reason])),
  );
  return [...onlyRows.rowNumbers]
    .sort((a, b) => a - b)
    .map(
      (rowNumber): PickedRow =>
        found.get(rowNumber) ?? {
          rowNumber,
          group: null,
          people: [],
          before: null,
          why: reasons.get(rowNumber) ?? say().serviceRun.leftOutRow(),
        },
    );
}

export interface WorkbookTask {
  readonly bytes: Uint8Array;
  readonly where: string;
}

/** Each sheet as a workbook, all in one archive. */
export function takeApart({ bytes, where, today }: WorkbookTask & { readonly today: number }): {
  sheets: string[];
  archive: Uint8Array;
  findings: readonly Finding[];
} {
  const files = [...sheetsApart(bytes, where, today)];
  const archive = packEntries(files.map(({ file, bytes: content }) => ({ name: file, bytes: content })));
  return { sheets: files.map(({ sheet }) => sheet), archive, findings: files[0]?.findings ?? [] };
}

/** Files as one archive. */
export function packEntries(entries: readonly { readonly name: string; readonly bytes: Uint8Array }[]): Uint8Array {
  return writeZip(entries.map(({ name, bytes }) => deflateEntry(name, bytes)));
}

export function replaceIn(task: WorkbookTask & { readonly rule: WordRule }): {
  bytes: Uint8Array;
  cells: readonly ReplacedCell[];
} {
  const { package: changed, cells } = replaceWords(task.bytes, task.where, task.rule);
  return { bytes: changed.toBytes(), cells };
}

/** Workbooks beside each other by cells, decks by slides and shapes. */
export interface FileComparison {
  readonly cells: number;
  readonly differences: readonly {
    /** A sheet's name, or a slide's number. */
    readonly sheet: string;
    /** A cell, or the name of a shape. */
    readonly cell: string;
    readonly what: string;
    readonly first: string;
    readonly second: string;
  }[];
}

export function compareFiles(task: { readonly first: WorkbookTask; readonly second: WorkbookTask }): FileComparison {
  if (officeKind(task.second.where) !== "pptx") return compareWorkbooks(task.first, task.second);
  const { shapes, differences } = compareDecks(task.first, task.second);
  return {
    cells: shapes,
    differences: differences.map(({ slide, shape, what, first, second }) => ({
      sheet: String(slide),
      cell: shape,
      what,
      first,
      second,
    })),
  };
}
