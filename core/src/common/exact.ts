import { Decimal } from "decimal.js";

/** Decimal numbers of 40 significant digits: sums of money over millions of rows stay exact. */
export const Exact = Decimal.clone({ precision: 40, rounding: Decimal.ROUND_HALF_UP, toExpNeg: -30, toExpPos: 40 });

/**
 * Whether a sum of parts is the whole. Quotients are rounded to 40 digits each, so the last of them may differ by as much as the
 * parts were rounded; sums and products of shorter numbers are exact, and any difference among them counts.
 */
export function addsUp(parts: readonly Decimal.Value[], whole: Decimal.Value): boolean {
  const numbers = parts.map((part) => new Exact(part));
  const sum = numbers.reduce((total, part) => total.plus(part), new Exact(0));
  const greatest = Exact.max(0, ...[whole, ...numbers].map((one) => new Exact(one).abs()));
  const rounding = greatest.times(parts.length + 1).times(new Exact(10).pow(1 - Exact.precision));
  return sum.minus(whole).abs().lessThanOrEqualTo(rounding);
}
