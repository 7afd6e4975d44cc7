import { CorbixError, columnKey, Exact, type Finding, maybeSerialFromIso } from "../common/index.js";
import { DocumentTemplate } from "../document/index.js";
import { DateValue, type Env, OWN_LINES, type Scope, type Value } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { fitDeck } from "../layout/index.js";
import type { OoxmlPackage } from "../ooxml/index.js";
import { SlideTemplate } from "../slides/index.js";
import { workbookFromPackage } from "../spreadsheet/index.js";
import type { Column, ColumnType, Table } from "../table/index.js";
import { say } from "../words/index.js";
import { placeByName, tablesByHeading, WorkbookTemplate } from "../workbook/index.js";
import { Blanks } from "./marks/blanks.js";
import { officeKind } from "./office-file.js";

/** One record as scope and values: its fields are bare names, `lines` are the lines, other lists further lines, nested objects namespaces. */
export interface RecordEnv {
  readonly scope: Scope;
  readonly env: Env;
}

/**
 * Makes a template fillable from a single record.
 * @example readRecord({ site: "Harbour House", lines: [{ unit: "L1" }] }, { today: 46300, locale: "en-GB" }, "record.json")
 */
export function readRecord(
  value: unknown,
  about: { readonly today: number; readonly locale: string },
  where: string,
): RecordEnv {
  if (!isObject(value)) throw new CorbixError("BAD_RECORD", say().run.cannotUseRecordExpectedObject(), { where });
  const table = tableOf(value.lines ?? [], "lines", where);
  const further = new Map<string, Table>();
  const names = new Map<string, Value>();
  const spaces: Record<string, ReadonlyMap<string, Value>> = {};
  for (const [name, field] of Object.entries(value)) {
    if (name === "lines") continue;
    if (Array.isArray(field)) further.set(columnKey(name), tableOf(field, name, where));
    else if (isObject(field))
      spaces[columnKey(name)] = new Map(
        Object.entries(field).map(([key, inner]) => [columnKey(key), valueOf(inner, `${where}, ${name}.${key}`)]),
      );
    else names.set(columnKey(name), valueOf(field, `${where}, ${name}`));
  }
  const listed = Object.fromEntries(Object.entries(spaces).map(([name, space]) => [name, [...space.keys()]]));
  return {
    scope: {
      mode: "group",
      columns: table.columns,
      further: Object.fromEntries([...further].map(([name, one]) => [name, one.columns])),
      empty: [[OWN_LINES, table] as const, ...further].flatMap(([name, one]) => (one.rowCount === 0 ? [name] : [])),
      spaces: listed,
      names: [...names.keys()],
    },
    env: {
      ...linesOfTable(table),
      further: new Map([...further].map(([name, one]) => [name, linesOfTable(one)])),
      spaces,
      names,
      ...about,
    },
  };
}

export interface FilledFromRecord {
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
}

/**
 * A template filled from one record: its marks, and its defined tables by their headings. Says so where there is nothing to fill.
 * Throws what is wrong with template or record, with the place.
 */
export function fillFromRecord(
  bytes: Uint8Array,
  where: string,
  { scope, env }: RecordEnv,
  pictures: ReadonlyMap<string, Uint8Array>,
  /** What text of slides is measured with, so that it fits. */
  fonts?: FontLibrary,
): FilledFromRecord {
  const blanks = new Blanks();
  const notes: Finding[] = [];
  const telling: Env = {
    ...env,
    onBlank: (at, source) => blanks.add(at, source),
    onNote: (finding) => notes.push(finding),
  };
  const filled = fillTemplate(bytes, where, { scope, env: telling }, pictures, fonts);
  return { ...filled, findings: [...filled.findings, ...notes, ...blanks.about(say().run.record())] };
}

function fillTemplate(
  bytes: Uint8Array,
  where: string,
  { scope, env }: RecordEnv,
  pictures: ReadonlyMap<string, Uint8Array>,
  fonts: FontLibrary | undefined,
): FilledFromRecord {
  const reading = { further: Object.keys(scope.further ?? {}) };
  const kind = officeKind(where);
  if (kind === "docx" || kind === "pptx") {
    const { template, ...filled } =
      kind === "docx"
        ? filledDocument(DocumentTemplate.read(bytes, where, reading), { scope, env }, pictures)
        : filledDeck(SlideTemplate.read(bytes, where, reading), { scope, env }, pictures, fonts);
    const isSame = template.opened.names.every(
      (name) => filled.package.has(name) && filled.package.getText(name) === template.opened.getText(name),
    );
    return isSame ? { ...filled, findings: [...filled.findings, nothingToFill(where)] } : filled;
  }
  const template = WorkbookTemplate.read(bytes, where, reading);
  const tables = tablesByHeading(template.workbook, scope);
  if (Object.keys(tables).length === 0) {
    const filled = template.bind(scope).fill(env);
    return template.marks.length > 0 ? filled : { ...filled, findings: [...filled.findings, nothingToFill(where)] };
  }
  const placed = placeByName(template.workbook.package, { tables }, scope, where);
  return WorkbookTemplate.of(workbookFromPackage(placed), reading).bind(scope).fill(env);
}

function filledDocument(
  template: DocumentTemplate,
  { scope, env }: RecordEnv,
  pictures: ReadonlyMap<string, Uint8Array>,
) {
  return { template, ...template.bind(scope, pictures).fill(env) };
}

function filledDeck(
  template: SlideTemplate,
  { scope, env }: RecordEnv,
  pictures: ReadonlyMap<string, Uint8Array>,
  fonts: FontLibrary | undefined,
) {
  const { package: made, findings, heads } = template.bind(scope, pictures).fill(env);
  const fitted = fonts ? fitDeck(made, fonts, { before: template.opened, heads }).package : made;
  return { template, package: fitted, findings };
}

function nothingToFill(where: string): Finding {
  return {
    code: "nothing-to-fill",
    severity: "warn",
    where,
    what: say().run.templateMarksNothingCalledField(),
    advice: say().run.writeMarksSuchHeadTable(),
  };
}

function linesOfTable(table: Table) {
  return { table, lines: table.rowNumbers.map((_, row) => row), row: -1 };
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** Texts that are ISO dates are dates. */
function valueOf(value: unknown, where: string): Value {
  if (value === null || value === undefined) return null;
  if (typeof value === "boolean") return value;
  if (typeof value === "number") return new Exact(value);
  if (typeof value === "string") {
    const serial = maybeSerialFromIso(value);
    return serial === undefined ? value : new DateValue(serial);
  }
  throw new CorbixError("BAD_RECORD", say().run.cannotUseFieldExpectedText(), {
    where,
  });
}

/** A list of objects as lines. */
function tableOf(lines: unknown, list: string, where: string): Table {
  if (!Array.isArray(lines) || !lines.every(isObject))
    throw new CorbixError("BAD_RECORD", say().run.cannotUseExpectedListObjects({ list }), {
      where: `${where}, ${list}`,
    });
  const names = [...new Set(lines.flatMap((line) => Object.keys(line)))];
  const columns = names.map((name): Column => {
    const values = lines.map((line, index) => valueOf(line[name], `${where}, ${list}, ${index + 1}, ${name}`));
    const filled = values.filter((value) => value !== null);
    const type: ColumnType = filled.every((value) => value instanceof Exact)
      ? "number"
      : filled.every((value) => value instanceof DateValue)
        ? filled.some((value) => value instanceof DateValue && value.type === "datetime")
          ? "datetime"
          : "date"
        : filled.every((value) => typeof value === "boolean")
          ? "boolean"
          : "text";
    const cells = values.map((value, index) =>
      value === null
        ? null
        : type === "text"
          ? String(lines[index][name])
          : value instanceof DateValue
            ? value.serial
            : value instanceof Exact
              ? value.toNumber()
              : (value as boolean),
    );
    return { name, type: filled.length === 0 ? "text" : type, values: cells };
  });
  return { columns, rowCount: lines.length, rowNumbers: lines.map((_, index) => index + 1) };
}
