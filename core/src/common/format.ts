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
  try {
    return formatNumber(code, value, { locale: localeTag(locale), throws: true, nbsp: false });
  } catch {
    return typeof value === "number" && /[ymdhs]/i.test(code) && isDay(value) ? isoFromSerial(value) : String(value);
  }
}
