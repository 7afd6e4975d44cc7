/** Cells as XML: ECMA-376 part 1, 18.3.1.4. */

import { Exact } from "../../common/index.js";
import { DateValue, type Env, linesOf } from "../../expression/index.js";
import { CellError, type FormulaCell, numberText, type Scalar } from "../../formula/index.js";
import { escapeXml } from "../../ooxml/index.js";
import type { BoundContent } from "../template/bind.js";

/** A field's value in a cell. A plain column of the lines is taken as it is stored, without a detour. */
export function placeValue(content: BoundContent & { kind: "value" }, env: Env): PlacedValue {
  const { field } = content;
  const set = field.lines === undefined ? undefined : linesOf(env, field.lines);
  if (field.lineColumn !== undefined && set && set.row >= 0) {
    const { type, values } = set.table.columns[field.lineColumn];
    const value = values[set.row];
    const isDate = typeof value === "number" && (type === "date" || type === "datetime" || type === "time");
    return { value, style: isDate ? content.styles[type] : content.style };
  }
  const value = field.evaluate(env);
  if (value instanceof DateValue) return { value: value.serial, style: content.styles[value.type] };
  return { value: value instanceof Exact ? value.toNumber() : (value as Scalar), style: content.style };
}

/** Whether a formula's result is what the file holds already; numbers to the fifteen digits that programs show. */
export function isStored(cell: FormulaCell, result: Scalar | undefined): boolean {
  const { stored } = cell;
  if (typeof stored === "number" && typeof result === "number") return numberText(stored) === numberText(result);
  return (stored ?? 0) === (result ?? 0) || (stored instanceof CellError && stored === result);
}

export function typeAttribute(type: string | undefined): string {
  return type === undefined ? "" : ` t="${type}"`;
}

export function textElement(prefix: string, text: string): string {
  const space = /^\s|\s$|\n/.test(text) ? ' xml:space="preserve"' : "";
  return `<${prefix}t${space}>${escapeXml(text)}</${prefix}t>`;
}

/** Errors that files have no plain word for. */
const WRITTEN_ERRORS: Readonly<Record<string, string>> = {
  "#CIRC!": "#REF!",
  "#SPILL!": "#VALUE!",
  "#CALC!": "#VALUE!",
};

export function writeScalar(value: Scalar): { type: string | undefined; value: string } {
  if (value === null) return { type: undefined, value: "" };
  if (typeof value === "number")
    return { type: undefined, value: Number.isFinite(value) ? String(value) : numberText(0) };
  if (typeof value === "boolean") return { type: "b", value: value ? "1" : "0" };
  if (value instanceof CellError) return { type: "e", value: WRITTEN_ERRORS[value.name] ?? value.name };
  return { type: "str", value: escapeXml(value) };
}

/** A value with the format its cell gets. */
export interface PlacedValue {
  readonly value: Scalar;
  readonly style: number;
}
