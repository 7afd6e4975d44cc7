/** The table of lines inside a mail: `{{table line: visit_date as "dd/mm/yyyy", unit, fee as "#,##0.00" total}}`. */

import { CorbixError, Exact } from "../common/index.js";
import { cellFromValue, DateValue, type Env, type Scope, showValue, type Value } from "../expression/index.js";
import {
  bindField,
  bindStructure,
  parseStructure,
  repetitions,
  type Structure,
  type TableMarkColumn,
  withPlace,
} from "../template/index.js";
import { say } from "../words/index.js";
import { escapeHtml } from "./escape-html.js";

export interface LineTable {
  readonly structure: Structure & { readonly kind: "table" };
  readonly bind: (scope: Scope) => { readonly fill: (env: Env) => string };
}

const CELL = "border:1px solid #9db5b5;padding:4px 8px;vertical-align:top";
const HEAD =
  "border:1px solid #0f5c5c;padding:4px 8px;background:#0f5c5c;color:#ffffff;text-align:left;font-weight:bold";

/** Parses the mark: the lines, and columns with a name or expression, `headed "…"`, `as "…"` for the format, `total` for a sum below. Throws `BAD_MARK`. */
export function parseLineTable(source: string, where: string): LineTable {
  const structure = parseStructure(source, where);
  if (structure.kind !== "table" || structure.columns === undefined || structure.style !== undefined)
    throw new CorbixError("BAD_MARK", say().message.cannotMakeTableWithoutColumns(), {
      where,
      advice: say().message.nameThem(),
    });
  const { columns } = structure;
  return { structure, bind: (scope) => bindTable(structure, columns, scope, where) };
}

function bindTable(
  structure: Structure & { readonly kind: "table" },
  columns: readonly TableMarkColumn[],
  scope: Scope,
  where: string,
): { fill: (env: Env) => string } {
  const lines = bindStructure(structure, scope, where);
  const bound = columns.map((column) => ({ ...column, expression: bindField(column.field, scope, where) }));
  const isRight = (column: (typeof bound)[number]): boolean => column.expression.type === "number";
  return {
    fill: (env) => {
      const head = bound
        .map(
          (column) =>
            `<th style="${HEAD}${isRight(column) ? ";text-align:right" : ""}">${escapeHtml(column.heading)}</th>`,
        )
        .join("");
      const sums = bound.map(() => new Exact(0));
      const rows = withPlace(where, () => repetitions(lines, env)).map((line) => {
        const cells = bound.map((column, index) => {
          const value = withPlace(where, () => column.expression.evaluate(line));
          if (column.total && value instanceof Exact) sums[index] = sums[index].plus(value);
          return cell(showValue(value, column.field.format ?? defaultFormat(value), env.locale), isRight(column));
        });
        return `<tr>${cells.join("")}</tr>`;
      });
      const totals = bound.some((column) => column.total)
        ? `<tr>${bound.map((column, index) => totalCell(column, sums[index], index, env)).join("")}</tr>`
        : "";
      return `<table style="border-collapse:collapse;border:1px solid #9db5b5;font-size:10pt" cellspacing="0" cellpadding="0"><thead><tr>${head}</tr></thead><tbody>${rows.join("")}${totals}</tbody></table>`;
    },
  };
}

function totalCell(column: TableMarkColumn, sum: Value, index: number, env: Env): string {
  const text = column.total ? showValue(sum, column.field.format, env.locale) : index === 0 ? "Total" : "";
  return `<td style="${CELL};font-weight:bold;background:#e6efef${column.total ? ";text-align:right" : ""}">${escapeHtml(text)}</td>`;
}

function cell(text: string, right: boolean): string {
  return `<td style="${CELL}${right ? ";text-align:right;white-space:nowrap" : ""}">${escapeHtml(text)}</td>`;
}

function defaultFormat(value: Value): string | undefined {
  return value instanceof DateValue && Number.isInteger(cellFromValue(value)) ? "d mmm yyyy" : undefined;
}
