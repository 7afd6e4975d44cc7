import { Decimal } from "decimal.js";
import { Exact } from "../common/index.js";
import type { Cell, ColumnType } from "../table/index.js";

/** A calendar date, a date with a time, or a time of day; `serial` counts days since 1899-12-30. */
export class DateValue {
  constructor(
    readonly serial: number,
    readonly type: "date" | "datetime" | "time" = Number.isInteger(serial) ? "date" : "datetime",
  ) {}
}

/** What an expression gives. */
export type Value = null | string | boolean | Decimal | DateValue;

/** What is known of a value before there is data. */
export type ValueType = ColumnType | "any";

export function valueFromCell(cell: Cell, type: ColumnType): Value {
  if (typeof cell !== "number") return cell;
  if (type === "date" || type === "datetime" || type === "time") return new DateValue(cell, type);
  return new Exact(cell);
}

export function cellFromValue(value: Value): Cell {
  if (value instanceof DateValue) return value.serial;
  if (value instanceof Decimal) return value.toNumber();
  return value;
}

/** The column type that holds a value. */
export function typeOfValue(value: Value): ValueType {
  if (value === null) return "any";
  if (value instanceof DateValue) return value.type;
  if (value instanceof Decimal) return "number";
  return typeof value === "boolean" ? "boolean" : "text";
}

export function isEmpty(value: Value): boolean {
  return value === null || value === "";
}
