/** What somebody who asks a report gets: the rows that were found as a list, or one of them as a page. */

import { CorbixError, type Finding } from "../common/index.js";
import { showValue, valueFromCell } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { listKind } from "../list/index.js";
import type { FileSpec, Report } from "../report/index.js";
import type { Column, Table } from "../table/index.js";
import { say } from "../words/index.js";
import type { FileKind } from "./make-file.js";
import { officeKind } from "./office-file.js";
import { planRun } from "./plan/plan.js";
import type { PlanInput } from "./plan/plan-input.js";
import { furtherOf } from "./rows/further.js";
import { groupEnv } from "./scope.js";

/** A form in which an answer can be had: of all rows, or of one. */
export interface AnswerForm {
  readonly name: string;
  readonly of: "list" | "row";
  readonly kinds: readonly FileKind[];
}

export interface AnswerFile {
  readonly name: string;
  readonly kind: FileKind;
  readonly bytes: Uint8Array;
  readonly findings: readonly Finding[];
}

/** What is made where the report names no files of its own. */
const LIST = "list";
const TEXT = "text";
const PAGE = "page";

/** The forms of a report's answers: its own files, and plain ones for what it has none of. */
export function answerForms(report: Report): AnswerForm[] {
  const { files, page } = withUsualFiles(report);
  return Object.entries(files).map(([name, spec]) => ({
    name,
    of: name === page ? "row" : "list",
    kinds: kindsOf(spec),
  }));
}

function kindsOf(spec: FileSpec): FileKind[] {
  if (spec.list) return [listKind(spec.list)];
  const own = spec.table ? "xlsx" : spec.slides ? "pptx" : officeKind(spec.template ?? "");
  if (spec.pdf === "only" || own === undefined) return ["pdf"];
  return spec.pdf === "too" ? [own, "pdf"] : [own];
}

/** The report's files with those that are made for it, and which of them is one row's page. */
function withUsualFiles(report: Report): {
  files: Readonly<Record<string, FileSpec>>;
  page: string;
  isOwnPage: boolean;
} {
  const { enquiry, title } = report;
  const named = enquiry?.page;
  const lists = Object.keys(report.files).filter((name) => name !== named);
  const columns = enquiry?.columns ? { columns: [...enquiry.columns] } : {};
  const name = `${title.replaceAll("{{", "{ {")} {{ run.date as "yyyy-mm-dd" }}`;
  const usual: Record<string, FileSpec> =
    lists.length > 0
      ? {}
      : {
          [LIST]: {
            ...PLAIN,
            name,
            pdf: "too",
            table: { sheet: "Rows", colour: "2f6b57", title: literal(title), ...columns },
          },
          [TEXT]: { ...PLAIN, name, list: { ...PLAIN_TEXT, ...columns } },
        };
  const page = named ?? (report.files[PAGE] ? `${PAGE}-of-row` : PAGE);
  const own: Record<string, FileSpec> = named === undefined ? { [page]: rowPage(title) } : {};
  return { files: { ...usual, ...report.files, ...own }, page, isOwnPage: named !== undefined };
}

const PLAIN = {
  folder: undefined,
  pdf: "no",
  archive: false,
  hiddenSlides: false,
  grows: false,
  values: false,
} as const;

const PLAIN_TEXT = {
  form: "delimited",
  delimiter: ",",
  quotes: "needed",
  encoding: "utf-8",
  lineEnds: "crlf",
  decimal: ".",
  headings: true,
  guard: true,
} as const;

function rowPage(title: string): FileSpec {
  return {
    ...PLAIN,
    name: literal(title),
    pdf: "too",
    table: { sheet: "Row", colour: "2f6b57", title: literal(title) },
  };
}

/** A text in which nothing is a mark. */
function literal(text: string): string {
  return text.replaceAll("{{", "{ {");
}

/**
 * Makes one form of an answer. `input.table` holds the rows that were found, prepared: all of them for a list, one for a page. Throws
 * `NOT_FOUND` for a form there is not and where nothing was found, and what a run would.
 */
export function makeAnswer(
  input: PlanInput,
  wanted: { readonly form: string; readonly kind: FileKind },
  fonts: FontLibrary,
): AnswerFile {
  const { files, page, isOwnPage } = withUsualFiles(input.report);
  const spec = files[wanted.form];
  if (!spec || !kindsOf(spec).includes(wanted.kind))
    throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindForm({ name: `${wanted.form}.${wanted.kind}` }), {
      where: "form",
      advice: Object.entries(files)
        .flatMap(([name, one]) => kindsOf(one).map((kind) => `${name}.${kind}`))
        .join(", "),
    });
  const isUsualPage = wanted.form === page && !isOwnPage;
  const table = isUsualPage ? turned(input.table, input.facts.locale) : input.table;
  const { plan, maker } = planRun({ ...input, table, report: asked(input.report, wanted, spec, isUsualPage) });
  const parcel = plan.parcels[0];
  const planned = parcel?.files[0];
  if (!parcel || !planned)
    throw new CorbixError("NOT_FOUND", say().enquiry.nothingFound(), { advice: say().enquiry.askOtherwise() });
  const place = { number: 1, count: 1, further: furtherOf(plan.further, parcel.group) };
  const env = groupEnv(plan.table, parcel.group, place, [], input.facts);
  const made = maker.make(env, [wanted.form], fonts, input.facts);
  const [file] = made.files;
  return {
    name: planned.path.replace(/^.*\//, ""),
    kind: file.kind,
    bytes: file.bytes,
    findings: [...plan.findings, ...made.findings],
  };
}

const PREPARED = { bring: [], add: {}, sort: [], prepare: [] };

/**
 * What is looked at while an enquiry is written, or one of its files tried: the page of one row with the first row there is, everything
 * else with all rows. Other reports stay as they are.
 */
export function lookedAt(input: PlanInput, file?: string): PlanInput {
  const { report } = input;
  const { enquiry } = report;
  const page = enquiry?.page;
  if (enquiry === undefined || page === undefined) return input;
  const { [page]: own, ...others } = report.files;
  const without: PlanInput = {
    ...input,
    report: { ...report, files: others, enquiry: { ...enquiry, page: undefined } },
  };
  if (file !== page || own === undefined) return without;
  const [first] = planRun({ ...without, report: { ...without.report, files: {} } }).plan.table.rowNumbers;
  return { ...input, onlyRows: { rowNumbers: new Set([first]), why: say().enquiry.otherRows() } };
}

/** The report as it makes this one file of rows that are prepared already. */
function asked(
  report: Report,
  { form, kind }: { readonly form: string; readonly kind: FileKind },
  spec: FileSpec,
  isUsualPage: boolean,
): Report {
  const { keep: _keep, enquiry: _enquiry, ...rest } = report;
  return {
    ...rest,
    ...PREPARED,
    ...(isUsualPage ? { totals: {}, lines: {} } : {}),
    files: { [form]: { ...spec, pdf: kind === "pdf" ? "only" : "no" } },
  };
}

/** A row as two columns: what each of its columns is called, and its value. */
function turned(table: Table, locale: string): Table {
  const texts = (name: string, values: string[]): Column => ({ name, type: "text", values });
  const { columns } = table;
  const shown = columns.map(({ type, values }) => {
    const cell = values[0] ?? null;
    return cell === null ? "" : showValue(valueFromCell(cell, type), undefined, locale);
  });
  return {
    columns: [
      texts(
        say().enquiry.field(),
        columns.map(({ name }) => name),
      ),
      texts(say().enquiry.value(), shown),
    ],
    rowCount: table.rowCount === 0 ? 0 : columns.length,
    rowNumbers: columns.map(() => table.rowNumbers[0] ?? 0),
  };
}
