/** Reports that are asked: what there is to fill in, what is found, and files of it. Every question is kept. */
import { randomBytes } from "node:crypto";
import { CorbixError, columnKey, groupKey, nearestName, sha256 } from "@corbix/core/common";
import { fieldColumns, fieldLabel, readQuestion, type Values } from "@corbix/core/enquiry";
import type { AskedQuery, Choices } from "@corbix/core/grid";
import { otherDatasets, preparedColumns } from "@corbix/core/prepare";
import { datasetsBeside, type Enquiry, type Report } from "@corbix/core/report";
import { type AnswerFile, type AnswerForm, answerForms, type FileKind } from "@corbix/core/run";
import { type Cell, type ColumnInfo, columnInfo } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { announce } from "../events/events.js";
import { fontFolder } from "../library/custom-fonts.js";
import { getReport, newestReports, templateBytes } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import {
  addAnswer,
  addQuestion,
  type EditionRow,
  getEdition,
  maybeQuestion,
  packedEdition,
  type QuestionRow,
  type ReportVersionRow,
  reportVersion,
} from "../records/index.js";
import { choicesOf, dayOf, type GridSource, lookAt, takeFound } from "../threads/look.js";

/** So many values of a column are listed to choose from. */
const LISTED_CHOICES = 1_000;
/** And so many are compared with one that no row has. */
const COMPARED_CHOICES = 20_000;

export interface AskedReport {
  readonly name: string;
  readonly version: number;
  readonly definition: Report;
  readonly enquiry: Enquiry;
}

/** A field as people fill it in. */
export interface ShownField {
  readonly name: string;
  readonly label: string;
  readonly kind: "choose" | "between" | "search";
  readonly columns: readonly string[];
  readonly type: ColumnInfo["type"];
  readonly needed: boolean;
  /** Of a choice. */
  readonly choices: Choices | undefined;
}

export interface ShownEnquiry {
  readonly name: string;
  readonly title: string;
  readonly data: string;
  readonly fields: readonly ShownField[];
  readonly columns: readonly ColumnInfo[];
  readonly forms: readonly AnswerForm[];
  readonly edition: EditionRow;
}

/** Who asks: somebody with a sign-in, or a colleague. */
export interface Asker {
  readonly name: string;
  readonly colleague: number | null;
}

/** Rows of an answer, as they are shown. */
export interface AnswerRows {
  readonly columns: readonly ColumnInfo[];
  readonly rowNumbers: readonly number[];
  readonly rows: readonly (readonly Cell[])[];
  readonly found: number;
  readonly of: number;
}

export async function enquiries(context: Context): Promise<AskedReport[]> {
  return (await newestReports(context)).flatMap((version) => asAsked(version) ?? []);
}

/** Throws `NOT_FOUND` for a report there is not, and for one that is run. */
export async function getEnquiry(context: Context, name: string): Promise<AskedReport> {
  const asked = asAsked(await getReport(context, name));
  if (asked) return asked;
  throw new CorbixError("NOT_FOUND", say().enquiry.isNoEnquiry({ name }), { where: "reports" });
}

function asAsked({ name, number, definition }: ReportVersionRow): AskedReport | undefined {
  const { enquiry } = definition;
  return enquiry && { name, version: number, definition, enquiry };
}

/** What an enquiry asks, field by field. */
export function fieldLabels({ fields }: Enquiry): string[] {
  return Object.values(fields).map(fieldLabel);
}

/** What there is to fill in, with the values there are to choose from. */
export async function showEnquiry(context: Context, name: string): Promise<ShownEnquiry> {
  const report = await getEnquiry(context, name);
  const { enquiry, definition } = report;
  const { source, edition, columns } = await asOfNow(context, report);
  const chosen = Object.values(enquiry.fields).flatMap((field) => ("choose" in field ? [field.choose] : []));
  const choices = chosen.length === 0 ? new Map() : await choicesOf(context, source, chosen, LISTED_CHOICES);
  const fields = Object.entries(enquiry.fields).map(([field, spec]): ShownField => {
    const about = fieldColumns(spec);
    return {
      name: field,
      label: fieldLabel(spec),
      kind: "choose" in spec ? "choose" : "between" in spec ? "between" : "search",
      columns: about,
      type: columnNamed(columns, about[0])?.type ?? "text",
      needed: spec.needed,
      choices: "choose" in spec ? choices.get(spec.choose) : undefined,
    };
  });
  return {
    name: report.name,
    title: definition.title,
    data: definition.data,
    fields,
    columns: shownColumns(enquiry, columns),
    forms: answerForms(definition),
    edition,
  };
}

/** What a question asked now is about: the newest of everything. */
export async function asOfNow(context: Context, { name, version, definition }: AskedReport) {
  const { database } = context;
  const edition = await getEdition(database, definition.data);
  const others = await Promise.all(
    datasetsBeside(definition).map(async (other) => [other, await getEdition(database, other)] as const),
  );
  const editions = Object.fromEntries([
    [definition.data, edition.number],
    ...others.map(([other, { number }]) => [other, number] as const),
  ]);
  const day = dayOf(context, definition);
  const columns = preparedColumns(
    edition.columns,
    definition,
    new Map(others.map(([other, row]) => [other, row.columns])),
  );
  return { source: sourceOf(name, definition, { version, editions, day }), edition, editions, day, columns };
}

function sourceOf(
  name: string,
  { data }: Report,
  asked: { readonly version: number; readonly editions: Readonly<Record<string, number>>; readonly day: number },
): GridSource {
  return { dataset: data, edition: asked.editions[data], report: { name, step: Number.MAX_SAFE_INTEGER, asked } };
}

function columnNamed(columns: readonly ColumnInfo[], name: string | undefined): ColumnInfo | undefined {
  return columns.find((column) => columnKey(column.name) === columnKey(name ?? ""));
}

function shownColumns(enquiry: Enquiry, columns: readonly ColumnInfo[]): readonly ColumnInfo[] {
  return enquiry.columns ? enquiry.columns.flatMap((name) => columnNamed(columns, name) ?? []) : columns;
}

/** Asks, keeps the question, and gives the first rows that were found. Throws `BAD_REQUEST` with the field. */
export async function ask(
  context: Context,
  name: string,
  values: Values,
  by: Asker,
  count: number,
): Promise<{ readonly question: QuestionRow; readonly answer: AnswerRows; readonly hints: readonly string[] }> {
  const report = await getEnquiry(context, name);
  const { source, editions, day, columns } = await asOfNow(context, report);
  const { query, filled } = readQuestion(report.enquiry, columns, values);
  const view = await lookAt(context, source, query, 0, count);
  const question: QuestionRow = {
    id: randomBytes(12).toString("hex"),
    report: report.name,
    version: report.version,
    editions,
    day,
    given: values,
    filled,
    found: view.total,
    rows: view.of,
    askedBy: by.name,
    colleagueId: by.colleague,
    askedAt: context.now(),
  };
  await addQuestion(context.database, question);
  await announce(context.database, { kind: "question", subject: report.name });
  const hints = view.total === 0 ? await nearValues(context, source, report.enquiry, query) : [];
  return { question, answer: shownAnswer(report.enquiry, view), hints };
}

/** Where nothing was found: of values that no row has those that are nearly the same. */
async function nearValues(
  context: Context,
  source: GridSource,
  { fields }: Enquiry,
  { anyOf = [] }: AskedQuery,
): Promise<string[]> {
  if (anyOf.length === 0) return [];
  const choices = await choicesOf(
    context,
    source,
    anyOf.map(({ column }) => column),
    COMPARED_CHOICES,
  );
  return anyOf.flatMap(({ column, values }) => {
    const all = choices.get(column);
    // Of more than are compared nothing can be said.
    if (!all || all.count > all.values.length) return [];
    const known = all.values.flatMap(({ value }) => (value === null ? [] : [String(value)]));
    const field = Object.values(fields).find((one) => "choose" in one && one.choose === column);
    return values.flatMap((value) => {
      if (value === "" || known.some((one) => groupKey(one) === groupKey(value))) return [];
      const near = nearestName(value, known);
      return [say().enquiry.noSuchValue({ label: field ? fieldLabel(field) : column, value, near })];
    });
  });
}

function shownAnswer(enquiry: Enquiry, view: Awaited<ReturnType<typeof lookAt>>): AnswerRows {
  const columns = shownColumns(enquiry, view.columns);
  const places = columns.map(({ name }) => view.columns.findIndex((column) => column.name === name));
  return {
    columns,
    rowNumbers: view.rowNumbers,
    rows: view.rows.map((row) => places.map((place) => row[place] ?? null)),
    found: view.total,
    of: view.of,
  };
}

/** A question that was asked, with the report as it was then. Throws `NOT_FOUND`, also for a colleague's whose it is not. */
async function getQuestion(context: Context, id: string, by: Asker) {
  const question = await maybeQuestion(context.database, id);
  const isTheirs = by.colleague === null || question?.colleagueId === by.colleague;
  if (!question || !isTheirs)
    throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindQuestion(), { where: "questions" });
  const { definition } = await reportVersion(context.database, question.report, question.version);
  const { enquiry } = definition;
  if (!enquiry) throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindQuestion(), { where: "questions" });
  const { query } = readQuestion(enquiry, await columnsThen(context, question, definition), question.given);
  return { question, definition, enquiry, query, source: sourceOf(question.report, definition, question) };
}

async function columnsThen(context: Context, { editions }: QuestionRow, definition: Report): Promise<ColumnInfo[]> {
  const { database } = context;
  const edition = await getEdition(database, definition.data, editions[definition.data]);
  const others = await Promise.all(
    otherDatasets(definition).map(
      async (other) => [other, (await getEdition(database, other, editions[other])).columns] as const,
    ),
  );
  return preparedColumns(edition.columns, definition, new Map(others));
}

/** Further rows of an answer. */
export async function answerRows(
  context: Context,
  id: string,
  by: Asker,
  { first, count }: { readonly first: number; readonly count: number },
): Promise<{ readonly question: QuestionRow; readonly answer: AnswerRows }> {
  const { question, enquiry, query, source } = await getQuestion(context, id, by);
  return { question, answer: shownAnswer(enquiry, await lookAt(context, source, query, first, count)) };
}

export interface FileWish {
  readonly form: string;
  readonly kind: FileKind;
  /** Number of the one row that is shown. */
  readonly row?: number | undefined;
}

/** All columns of one row that was found. Throws `NOT_FOUND` for one that was not. */
export async function answerRow(
  context: Context,
  id: string,
  by: Asker,
  row: number,
): Promise<{
  readonly question: QuestionRow;
  readonly columns: readonly ColumnInfo[];
  readonly cells: readonly Cell[];
}> {
  const { question, query, source } = await getQuestion(context, id, by);
  const { table } = await takeFound(context, source, query, { most: 1, rowNumber: row });
  if (table.rowCount === 0) throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindRow(), { where: "row" });
  return {
    question,
    columns: table.columns.map(columnInfo),
    cells: table.columns.map(({ values }) => values[0] ?? null),
  };
}

/** Makes a file of an answer, and keeps that it was made. */
export async function answerFile(context: Context, id: string, by: Asker, wish: FileWish): Promise<AnswerFile> {
  const { database } = context;
  const { question, definition, enquiry, query, source } = await getQuestion(context, id, by);
  const form = answerForms(definition).find((one) => one.name === wish.form);
  if (!form || !form.kinds.includes(wish.kind) || (form.of === "row") !== (wish.row !== undefined))
    throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindForm({ name: `${wish.form}.${wish.kind}` }), {
      where: "form",
    });
  if (form.of === "list" && question.found > enquiry.most)
    throw new CorbixError("LIMIT_EXCEEDED", say().enquiry.tooMany({ count: question.found, most: enquiry.most }), {
      where: "most",
      advice: say().enquiry.askMoreNarrowly(),
    });
  const { table } = await takeFound(context, source, query, { most: enquiry.most, rowNumber: wish.row });
  if (wish.row !== undefined && table.rowCount === 0)
    throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindRow(), { where: "row" });
  const others = await Promise.all(
    datasetsBeside(definition).map(
      async (other) =>
        [other, await packedEdition(database, await getEdition(database, other, question.editions[other]))] as const,
    ),
  );
  const file = await context.threads.quick("makeAnswer", {
    input: {
      report: definition,
      table,
      others: Object.fromEntries(others),
      aliases: [],
      recipients: [],
      templates: Object.fromEntries(await templateBytes(context)),
      facts: { id: question.id, date: question.day, sender: "", locale: definition.locale },
    },
    form: wish.form,
    kind: wish.kind,
    fonts: fontFolder(context.settings),
  });
  await addAnswer(database, {
    questionId: question.id,
    form: wish.form,
    kind: wish.kind,
    row: wish.row ?? null,
    sha256: sha256(file.bytes),
    size: file.bytes.length,
    madeBy: by.name,
    madeAt: context.now(),
  });
  await announce(database, { kind: "question", subject: question.report });
  return file;
}
