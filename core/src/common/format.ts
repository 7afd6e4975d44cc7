import { format as formatNumber } from "numfmt";
import { isDay, isoFromSerial } from "./dates.js";

/** BCP 47 tags as the number-format package names them. */
function localeTag(locale: string): string {
  return locale.replace("_", "-");
}

/**
 * A value shown by a number-format code of ECMA-376 part 1, 18.8.31.
 * Dates are serial numbers. A code that cannot be read gives the plain value, and so does a date that is none.
 * @example formatValue(1234.5, "#,##0.00", "en-GB") //=> "1,234.50"
 */
export function formatValue(value: string | number | boolean | null, code: string, locale = "en-GB"): string {
  if (value === null) return "";
  if (typeof value === "boolean") return value ? "TRUE" : "FALSE";
  if (typeof value === "string") return formatAnew(value, code, locale);
  const key = `${locale} ${code}`;
  let known = shown.get(key);
  if (!known || known.size > KEPT) {
    if (shown.size > KEPT_CODES) shown.clear();
    known = new Map();
    shown.set(key, known);
  }
  const text = known.get(value) ?? formatAnew(value, code, locale);
  known.set(value, text);
  return text;
}

/** Numbers as they were shown, by the code: the same days and counts stand in thousands of files. */
const shown = new Map<string, Map<number, string>>();
/** Numbers that are kept of each code. */
const KEPT = 5_000;
const KEPT_CODES = 200;

function formatAnew(value: string | number, code: string, locale: string): string {
  try {
    return formatNumber(code, value, { locale: localeTag(locale), throws: true, nbsp: false });
  } catch {
    return typeof value === "number" && /[ymdhs]/i.test(code) && isDay(value) ? isoFromSerial(value) : String(value);
  }
}
