import type { Finding } from "../../common/index.js";
import { type Env, type Field, type LinesColumns, type Scope, showsRows } from "../../expression/index.js";
import { mapElements, type OoxmlPackage, unescapeXml, xmlText } from "../../ooxml/index.js";
import { cellName, openWorkbook, type Workbook, workbookFromPackage } from "../../spreadsheet/index.js";
import { gatherMarks, hasMarks, type PlacedMark, parseTextTemplate, type TextTemplate } from "../../template/index.js";
import { say } from "../../words/index.js";
import { BoundWorkbook } from "../fill/fill.js";
import { withHead } from "../fill/related-parts.js";
import { type DefinedTable, readTables } from "./defined-tables.js";
import { fieldsOf, readTemplateSheet, type TemplateReading, type TemplateSheet } from "./template-sheet.js";

/** A workbook read for filling: once for all groups and runs. */
export class WorkbookTemplate {
  private constructor(
    readonly workbook: Workbook,
    readonly sheets: readonly TemplateSheet[],
    /** Parts beside the sheets that hold marks, as text templates over their XML. */
    readonly texts: readonly { readonly part: string; readonly template: TextTemplate }[],
    readonly findings: readonly Finding[],
    private readonly beside: {
      readonly tables: readonly DefinedTable[];
      readonly hasCharts: boolean;
      readonly hasPivots: boolean;
    },
  ) {}

  get tables(): readonly DefinedTable[] {
    return this.beside.tables;
  }

  /** Whether values are stored beside cells, in charts. */
  get hasCharts(): boolean {
    return this.beside.hasCharts;
  }

  get hasPivots(): boolean {
    return this.beside.hasPivots;
  }

  /** Throws `NOT_A_WORKBOOK`, `BROKEN_PACKAGE`, `BROKEN_XML`, or `BAD_MARK` with sheet and cell. */
  static read(bytes: Uint8Array, where: string, reading: TemplateReading = {}): WorkbookTemplate {
    return WorkbookTemplate.of(openWorkbook(bytes, where), reading);
  }

  /** A template from a workbook that is open. */
  static of(workbook: Workbook, reading: TemplateReading = {}): WorkbookTemplate {
    const sheets = workbook.sheets.flatMap((info, index) =>
      info.kind === "worksheet" && workbook.package.has(info.part)
        ? [readTemplateSheet(workbook, info, index, reading)]
        : [],
    );
    const findings: Finding[] = [];
    const own = new Set([...workbook.sheets.map((sheet) => sheet.part), ...sharedStringParts(workbook), workbook.part]);
    const texts = (reading.literal ? [] : workbook.package.names)
      .filter((name) => /\.(xml|vml|rels)$/.test(name) && !own.has(name) && hasMarks(workbook.package.getText(name)))
      .flatMap((part) => readTextPart(workbook.package, part, findings));
    const hasPivots = workbook.package.names.some((name) => /\/pivotCache\/pivotCacheDefinition/.test(name));
    const hasCharts = workbook.package.names.some((name) => /\/charts\/chart[^/]*\.xml$/.test(name));
    return new WorkbookTemplate(workbook, sheets, texts, findings, {
      tables: readTables(workbook),
      hasCharts,
      hasPivots,
    });
  }

  /** Every field, with its place. */
  get fields(): readonly Field[] {
    const inCells = this.sheets.flatMap((sheet) =>
      sheet.rows.flatMap((row) => row.cells.flatMap((cell) => fieldsOf(cell.content))),
    );
    return [...inCells, ...this.texts.flatMap((text) => text.template.fields)];
  }

  /** Every mark with its cell or part, in order of sheets. */
  get marks(): PlacedMark[] {
    const inSheets = this.sheets.flatMap(({ info, rows, structure, document }) => {
      const sheet = say().place.sheet({ name: info.name });
      const texts = [
        { where: say().workbook.name({ sheet }), text: info.name },
        ...(document.root.child("headerFooter")?.elements() ?? []).map((one) => ({
          where: `${sheet}, ${one.local.startsWith("even") || one.local.startsWith("first") ? `${one.local.replace(/(Header|Footer)/, " $1").toLowerCase()}` : one.local.slice(3).toLowerCase()}`,
          text: one.text,
        })),
      ];
      const structures = structure.regions.map(({ structure: one, rows: span, columns }) => ({
        row: span.from,
        column: columns.from,
        source: one.source,
        fields:
          one.kind === "repeat"
            ? [one.where, one.by].filter((field) => field !== undefined)
            : one.kind === "when"
              ? [one.test]
              : [],
      }));
      const cells = rows.flatMap(({ row, cells: list }) =>
        list.flatMap((cell) =>
          fieldsOf(cell.content).map((field) => ({ row, column: cell.column, source: field.source, fields: [field] })),
        ),
      );
      const inCells = [...structures, ...cells]
        .sort((a, b) => a.row - b.row || a.column - b.column)
        .map(({ row, column, source, fields }) => ({
          where: `${info.name}!${cellName(row, column)}`,
          source,
          fields,
        }));
      return [...texts.flatMap(({ where, text }) => marksIn(parseTextTemplate(text, where), where)), ...inCells];
    });
    return [...inSheets, ...this.texts.flatMap(({ part, template }) => marksIn(template, partTitle(part)))];
  }

  /** Indexes of the sheets in which single rows of the given lines stand; -1 for another part of the workbook. */
  sheetsShowing(lines: LinesColumns): number[] {
    const isShown = (fields: readonly Field[]): boolean => fields.some((field) => showsRows(field.ast, lines));
    const inSheets = this.sheets
      .filter(
        ({ rows, structure }) =>
          structure.regions.some(
            (one) => one.structure.kind === "repeat" && Object.hasOwn(lines, one.structure.lines),
          ) || rows.some(({ cells }) => cells.some((cell) => isShown(fieldsOf(cell.content)))),
      )
      .map(({ index }) => index);
    return [...inSheets, ...(this.texts.some(({ template }) => isShown(template.fields)) ? [-1] : [])];
  }

  /** A workbook filled from the template, with its formulas evaluated again; what looks like a mark is a text as any other. */
  recalculated(filled: OoxmlPackage, env: Env): OoxmlPackage {
    const literal = WorkbookTemplate.of(workbookFromPackage(filled), { literal: true });
    return literal.bind({ mode: "group", columns: [], spaces: {} }).recalculate(env).package;
  }

  /** Checks every field against what a report offers. Throws `BAD_EXPRESSION` with sheet and cell. */
  bind(scope: Scope): BoundWorkbook {
    return new BoundWorkbook(this, scope);
  }
}

function marksIn(template: TextTemplate, where: string): PlacedMark[] {
  return template.fields.map((field) => ({ where, source: field.source, fields: [field] }));
}

/** What a part is called by people. */
function partTitle(part: string): string {
  const known =
    /\/(charts|drawings|tables|comments|docProps)?\/?(chart|drawing|table|comments|core|app|custom)(\d*)\.xml(\.rels)?$/.exec(
      `/${part}`,
    );
  const names: Readonly<Record<string, string>> = {
    chart: "chart",
    drawing: "drawing",
    table: "table",
    comments: "notes",
    core: "properties",
    app: "properties",
    custom: "properties",
  };
  return known ? `${names[known[2]]}${known[3] ? ` ${known[3]}` : ""}` : part.endsWith(".rels") ? "links" : part;
}

function sharedStringParts(workbook: Workbook): string[] {
  return workbook.package
    .relationships(workbook.part)
    .filter((relation) => relation.type === "sharedStrings")
    .map((relation) => relation.target);
}

/** Marks in other parts have to stand in one piece of text; a mark broken by tags is told, and left. */
function readTextPart(
  opened: OoxmlPackage,
  part: string,
  findings: Finding[],
): { part: string; template: TextTemplate }[] {
  const where = `${opened.where}, ${part}`;
  let source = opened.getText(part);
  if (/\{\{[^}]*<|\{<[^}]*\{/.test(source) && !part.endsWith(".rels")) source = gatherInParagraphs(opened, part);
  if (
    /\{\{[^}]*<[^}]*\}\}/.test(source) ||
    (source.match(/\{\{/g)?.length ?? 0) !== (source.match(/\}\}/g)?.length ?? 0)
  ) {
    findings.push({
      code: "mark-not-filled",
      severity: "warn",
      where,
      what: say().workbook.markPartBrokenFormattingStays(),
      advice: say().workbook.typeMarkAgainGoWithout(),
    });
    return [];
  }
  const plain = source.replace(/\{\{([\s\S]*?)\}\}/g, (_, inner: string) => `{{${unescapeXml(inner)}}}`);
  return [{ part, template: parseTextTemplate(plain, where) }];
}

/** A part with every mark in one piece of text: in charts, shapes and notes a mark can be spread over runs of other looks. */
function gatherInParagraphs(opened: OoxmlPackage, part: string): string {
  const root = mapElements(opened.getXml(part), (element) => {
    const texts = element.elements("r").map((run) => run.child("t")?.text ?? "");
    if (texts.length < 2 || !hasMarks(texts.join(""))) return undefined;
    const gathered = gatherMarks(texts);
    let at = -1;
    return element.withChildren(
      element.children.map((child) => {
        if (child.kind !== "element" || child.local !== "r") return child;
        const text = gathered[++at];
        return child.withChildren(
          child.children.map((inner) =>
            inner.kind === "element" && inner.local === "t" ? inner.withChildren([xmlText(text)]) : inner,
          ),
        );
      }),
    );
  });
  return withHead(opened, part, root);
}
