/** A template's sheets with every field checked against a scope: made once, filled many times. */

import type { DateValue, Scope, TextField } from "../../expression/index.js";
import type { compileFormula, Scalar } from "../../formula/index.js";
import { cellName, columnLetters } from "../../spreadsheet/index.js";
import { type BoundText, bindField, parseTextTemplate } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { StyleEditor } from "../edit/style-editor.js";
import type { RepeatedSpan } from "../fill/axis-map.js";
import { type PlainRow, plainRow } from "../fill/plain-rows.js";
import { prepareChild, type WriteChild } from "../fill/worksheet-elements.js";
import type { FormulaText } from "./formula-text.js";
import { bindSections } from "./sections.js";
import type { WorkbookTemplate } from "./template.js";
import type { ArrayFormula, TemplateCell, TemplateSheet } from "./template-sheet.js";

/** What a value is shown by where neither the mark nor the cell says it. */
const DATE_CODES: Readonly<Record<DateValue["type"], string>> = {
  date: "d mmm yyyy",
  datetime: "d mmm yyyy hh:mm",
  time: "hh:mm",
};

export type BoundContent =
  | { readonly kind: "fixed"; readonly written: string; readonly value: Scalar; readonly what?: string }
  | {
      readonly kind: "formula";
      readonly text: FormulaText;
      readonly compiled: ReturnType<typeof compileFormula>;
      readonly stored: Scalar;
      readonly array?: ArrayFormula | undefined;
    }
  | {
      readonly kind: "value";
      readonly field: TextField;
      readonly styles: Readonly<Record<DateValue["type"], number>>;
      readonly style: number;
    }
  | { readonly kind: "text"; readonly bound: BoundText }
  | { readonly kind: "rich"; readonly runs: readonly { readonly properties: string; readonly bound: BoundText }[] };

export interface BoundCell {
  readonly cell: TemplateCell;
  readonly letters: string;
  readonly content: BoundContent;
}

export interface BoundSheet {
  readonly sheet: TemplateSheet;
  /** What repeats downwards, and to the right. */
  readonly sections: { readonly rows: readonly RepeatedSpan[]; readonly columns: readonly RepeatedSpan[] };
  readonly rows: readonly {
    readonly row: number;
    readonly attributes: string;
    readonly cells: readonly BoundCell[];
    /** Where the row holds nothing but columns of the lines. */
    readonly plain: PlainRow | undefined;
  }[];
  readonly before: readonly WriteChild[];
  readonly after: readonly WriteChild[];
  readonly name: BoundText;
  /** Whether cells, header or footer hold marks. */
  readonly hasMarks: boolean;
  readonly hasFormulas: boolean;
  /** Whether something around the cells names cells of another sheet. */
  readonly leadsElsewhere: boolean;
  /** Whether a formula takes as many cells as it has values. */
  readonly mayGrow: boolean;
}

export function bindSheet(
  sheet: TemplateSheet,
  scope: Scope,
  template: WorkbookTemplate,
  editor: StyleEditor | undefined,
  /** Rows that repeat whatever their marks say. */
  repeated?: readonly RepeatedSpan[],
): BoundSheet {
  const where = say().place.sheetIn({ where: template.workbook.package.where, name: sheet.info.name });
  const { children } = sheet.document.root;
  const split = children.findIndex((child) => child.kind === "element" && child.local === "sheetData");
  const prepare = (nodes: typeof children): WriteChild[] =>
    nodes.map((node) => (node.kind === "element" ? prepareChild(node, scope, where) : () => node.raw));
  const rows = sheet.rows.map(({ row, attributes, cells }) => {
    const bound = cells.map(
      (cell): BoundCell => ({
        cell,
        letters: columnLetters(cell.column),
        content: bindContent(
          cell,
          scope,
          say().place.cellIn({ where, name: cellName(row, cell.column) }),
          template,
          editor,
        ),
      }),
    );
    return { row, attributes, cells: bound, plain: plainRow(bound, attributes, sheet.prefix) };
  });
  const isFree = ({ content }: BoundCell): boolean => content.kind === "formula" && content.array?.isFree === true;
  const hasFormulas = rows.some((row) => row.cells.some((cell) => cell.content.kind === "formula"));
  const headerMarks = sheet.document.root.child("headerFooter")?.text.includes("{{") ?? false;
  return {
    sheet,
    sections: repeated ? { rows: repeated, columns: [] } : bindSections(sheet.structure, scope),
    mayGrow: rows.some((row) => row.cells.some(isFree)),
    rows,
    before: prepare(children.slice(0, split)),
    after: prepare(children.slice(split + 1)),
    name: parseTextTemplate(sheet.info.name, say().workbook.nameSheet({ where })).bind(scope),
    hasMarks: sheet.hasMarks || headerMarks,
    hasFormulas,
    leadsElsewhere: children.some(
      (child, at) =>
        at > split &&
        child.kind === "element" &&
        /<(?:\w+:)?(?:f|formula[12]?)[\s>][^<]*!|\slocation="[^"]*!/.test(child.toString()),
    ),
  };
}

function bindContent(
  cell: TemplateCell,
  scope: Scope,
  where: string,
  template: WorkbookTemplate,
  editor: StyleEditor | undefined,
): BoundContent {
  const { content } = cell;
  switch (content.kind) {
    case "raw":
      return { kind: "fixed", written: content.inner, value: content.value };
    case "kept-formula":
      return { kind: "fixed", written: content.inner, value: content.value, what: content.what };
    case "formula":
      return content;
    case "text":
      return { kind: "text", bound: content.template.bind(scope) };
    case "rich":
      return {
        kind: "rich",
        runs: content.runs.map((run) => ({ properties: run.properties, bound: run.template.bind(scope) })),
      };
    case "value": {
      const field = bindField(content.field, scope, where);
      const shown = template.workbook.styles.formats[cell.style];
      const style = field.format !== undefined && editor ? editor.withCode(cell.style, field.format) : cell.style;
      const dateStyle = (type: DateValue["type"]): number =>
        field.format !== undefined || shown?.isDate || !editor ? style : editor.withCode(cell.style, DATE_CODES[type]);
      const mayBeDate =
        field.type === "any" || field.type === "date" || field.type === "datetime" || field.type === "time";
      const styles = mayBeDate
        ? { date: dateStyle("date"), datetime: dateStyle("datetime"), time: dateStyle("time") }
        : { date: style, datetime: style, time: style };
      return { kind: "value", field, styles, style };
    }
  }
}
