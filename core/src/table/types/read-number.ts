/** Numbers as people write them. */

/** The decimal sign a written number shows: `either` where its one sign could be decimal or group its thousands. */
export type DecimalSign = "none" | "point" | "comma" | "either";

export interface WrittenNumber {
  readonly sign: DecimalSign;
  /** The number with the point as decimal sign. */
  readonly point: number;
  /** The number with the comma as decimal sign; differs from `point` only where the sign is `either`. */
  readonly comma: number;
  readonly isPercent: boolean;
  /** As written: `CHF`, `€`. */
  readonly currency?: string;
}

const CURRENCIES = new Set(Intl.supportedValuesOf("currency"));
const CURRENCY = /^(\p{Sc}|[A-Z]{3}\b\.?)\s*|\s*(\p{Sc}|\b[A-Z]{3})$/u;
/** In brackets, behind a minus, or before one; not both. */
const NEGATIVE = /^\((.+)\)$|^[-\u2212](.*[^-\u2212])$|^([^-\u2212].*)[-\u2212]$/;
const BODY = /^(?:\d[\d.,'’ \u00a0\u202f]*|[.,]\d+)(?:[eE][-+]?\d{1,3})?$/;

/** Reads `1,234.50`, `1'234.50`, `1.234,50`, `-3`, `3-`, `(3)`, `12.5%`, `CHF 20.00`; gives `undefined` for anything else. */
export function readWrittenNumber(text: string): WrittenNumber | undefined {
  let plain = text;
  let isNegative = false;
  const negate = (): void => {
    const found = NEGATIVE.exec(plain);
    if (!found) return;
    isNegative = true;
    plain = (found[1] ?? found[2] ?? found[3]).trim();
  };
  negate();
  let currency: string | undefined;
  const found = CURRENCY.exec(plain);
  if (found) {
    currency = found[1] ?? found[2];
    if (/^[A-Z]/.test(currency) && !CURRENCIES.has(currency.slice(0, 3))) return undefined;
    plain = plain.replace(CURRENCY, "").trim();
  }
  if (!isNegative) negate();
  plain = plain.replace(/^\+/, "");
  const isPercent = plain.endsWith("%");
  if (isPercent) plain = plain.slice(0, -1).trim();
  if (!BODY.test(plain)) return undefined;
  const read = readBody(plain);
  if (!read) return undefined;
  const scale = (number: number): number => {
    // Moving the point in the text instead of dividing keeps 0.1 % of anything exact.
    const signed = isNegative ? -number : number;
    return isPercent ? Number(`${signed}e-2`) : signed;
  };
  return {
    sign: read.sign,
    point: scale(read.point),
    comma: scale(read.comma),
    isPercent,
    ...(currency === undefined ? {} : { currency: currency.replace(".", "") }),
  };
}

function readBody(text: string): { sign: DecimalSign; point: number; comma: number } | undefined {
  const [, digits, exponent = ""] = /^(.*?)([eE][-+]?\d+)?$/.exec(text) ?? [];
  const same = (sign: DecimalSign, plain: string): { sign: DecimalSign; point: number; comma: number } | undefined => {
    const number = Number(plain + exponent);
    return Number.isFinite(number) ? { sign, point: number, comma: number } : undefined;
  };
  if (/^\d+$/.test(digits)) return same("none", digits);
  const grouped = /^(\d{1,3})((?:['’ \u00a0\u202f]\d{3})+)(?:([.,])(\d+))?$/.exec(digits);
  if (grouped) {
    const sign = grouped[3] === undefined ? "none" : grouped[3] === "." ? "point" : "comma";
    return same(sign, `${digits.replace(/[^\d.,]/g, "").replace(",", ".")}`);
  }
  if (/^\d{1,3}(,\d{3})+\.\d+$/.test(digits) || /^\d{1,3}(,\d{3}){2,}$/.test(digits))
    return same("point", digits.replaceAll(",", ""));
  if (/^\d{1,3}(\.\d{3})+,\d+$/.test(digits) || /^\d{1,3}(\.\d{3}){2,}$/.test(digits))
    return same("comma", digits.replaceAll(".", "").replace(",", "."));
  const either = /^([1-9]\d{0,2})([.,])(\d{3})$/.exec(digits);
  if (either) {
    const whole = Number(`${either[1]}${either[3]}${exponent}`);
    const fraction = Number(`${either[1]}.${either[3]}${exponent}`);
    return either[2] === ","
      ? { sign: "either", point: whole, comma: fraction }
      : { sign: "either", point: fraction, comma: whole };
  }
  if (/^\d*\.\d+$/.test(digits)) return same("point", digits);
  return /^\d*,\d+$/.test(digits) ? same("comma", digits.replace(",", ".")) : undefined;
}

/** A number whose sign is taken as people most often mean it; for single values without a column around them. */
export function readNumber(text: string): number | undefined {
  return readWrittenNumber(text)?.point;
}
