import { Decimal } from "decimal.js";
import { formatValue } from "../common/index.js";
import { DateValue, type Value } from "./value.js";

/** How a value without a format of its own is shown: a date without a time behind it, a number without noise. */
const DEFAULT_FORMATS = { date: "d mmmm yyyy", datetime: "d mmmm yyyy hh:mm", time: "hh:mm" } as const;

/**
 * A value as text, by a number-format code of ECMA-376 or by its kind's default.
 * @example showValue(new DateValue(46300), undefined, "en-GB") //=> "5 October 2026"
 */
export function showValue(value: Value, format: string | undefined, locale: string): string {
  if (value === null) return "";
  if (value instanceof DateValue) return formatValue(value.serial, format ?? DEFAULT_FORMATS[value.type], locale);
  if (value instanceof Decimal) {
    return format === undefined ? showNumber(value, locale) : formatValue(exactRounded(value, format), format, locale);
  }
  if (typeof value === "boolean") return value ? "yes" : "no";
  return format === undefined ? value : formatValue(value, format, locale);
}

function showNumber(value: Decimal, locale: string): string {
  const places = Math.min(value.decimalPlaces(), 10);
  return formatValue(value.toNumber(), places === 0 ? "0" : `0.${"#".repeat(places)}`, locale);
}

/** Rounded in decimals to the places the format shows: 1.005 becomes 1.01, where binary rounding gives 1.00. */
function exactRounded(value: Decimal, format: string): number {
  if (/[%eE?/]/.test(format)) return value.toNumber();
  const places = /\.([0#]+)/.exec(format)?.[1].length ?? (/[0#]/.test(format) ? 0 : undefined);
  const scaled = /,(?=[^0#]*$|\.)/.test(format.replace(/"[^"]*"/g, ""));
  return places === undefined || scaled ? value.toNumber() : value.toDecimalPlaces(places).toNumber();
}
