import { Decimal } from "decimal.js";

/** Decimal numbers of 40 significant digits: sums of money over millions of rows stay exact. */
export const Exact = Decimal.clone({ precision: 40, rounding: Decimal.ROUND_HALF_UP, toExpNeg: -30, toExpPos: 40 });
