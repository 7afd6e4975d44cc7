/** Money over time: flows on days, discounted papers, bonds by their coupons. ECMA-376 part 1, 18.17.7. */
import { partsFromSerial, serialFromParts } from "../../common/index.js";
import type { EvaluationContext } from "../evaluation-context.js";
import { asMatrix, CellError, numberOf, type Operand } from "../value.js";
import { DATE_FUNCTIONS } from "./date.js";
import { exactSum, type FormulaFunction, NUM, ofNumbers, VALUE } from "./support/arguments.js";

/** A number for which a falling or rising function is nought, by steps of its slope and halves where that leaves the range. */
function zeroOf(f: (x: number) => number, start: number, low: number, high: number): number | undefined {
  let [a, b] = [low, high];
  let [fa, fb] = [f(a), f(b)];
  let x = start;
  for (let round = 0; round < 300; round++) {
    const fx = f(x);
    if (!Number.isFinite(fx)) break;
    if (Math.abs(fx) < 1e-12) return x;
    if (Number.isFinite(fa) && Math.sign(fx) === Math.sign(fa)) [a, fa] = [x, fx];
    else [b, fb] = [x, fx];
    const h = Math.max(1e-7, Math.abs(x) * 1e-7);
    const slope = (f(x + h) - f(x - h)) / (2 * h);
    let next = x - fx / slope;
    if (!Number.isFinite(next) || next <= Math.min(a, b) || next >= Math.max(a, b)) next = (a + b) / 2;
    if (Math.abs(next - x) < 1e-13 * Math.max(1, Math.abs(x))) return next;
    x = next;
  }
  return Math.sign(fa) !== Math.sign(fb) && Math.abs(b - a) < 1e-8 ? (a + b) / 2 : undefined;
}

/** Values and days of the same number. */
function flowsOf(valuesArg: () => Operand, daysArg: () => Operand): { values: number[]; days: number[] } | CellError {
  const [values, days] = [asMatrix(valuesArg()).flat(), asMatrix(daysArg()).flat()];
  if (values.length !== days.length) return NUM;
  const [flows, dates]: [number[], number[]] = [[], []];
  for (let at = 0; at < values.length; at++) {
    const [value, day] = [numberOf(values[at]), numberOf(days[at])];
    if (value instanceof CellError) return value;
    if (day instanceof CellError) return day;
    flows.push(value);
    dates.push(Math.floor(day));
  }
  return dates.some((day) => day < dates[0]) ? NUM : { values: flows, days: dates };
}

const present = (rate: number, values: readonly number[], days: readonly number[]): number =>
  exactSum(values.map((value, at) => value / (1 + rate) ** ((days[at] - days[0]) / 365)));

const xnpv: FormulaFunction = ([rateArg, valuesArg, daysArg]) => {
  const rate = numberOf(rateArg());
  if (rate instanceof CellError) return rate;
  const flows = flowsOf(valuesArg, daysArg);
  if (flows instanceof CellError) return flows;
  return rate <= -1 ? NUM : present(rate, flows.values, flows.days);
};

const xirr: FormulaFunction = ([valuesArg, daysArg, guessArg]) => {
  const flows = flowsOf(valuesArg, daysArg);
  if (flows instanceof CellError) return flows;
  const given = guessArg?.() ?? null;
  const guess = given === null ? 0.1 : numberOf(given);
  if (guess instanceof CellError) return guess;
  const { values, days } = flows;
  if (guess <= -1 || !values.some((value) => value > 0) || !values.some((value) => value < 0)) return NUM;
  return zeroOf((rate) => present(rate, values, days), guess, -0.999_999, 1e6) ?? NUM;
};

/** Days of a basis: 0 and 4 months of thirty days, 1 real days and years, 2 of 360, 3 of 365. */
function daysBetween(from: number, to: number, basis: number, context: EvaluationContext): number {
  if (basis === 0 || basis === 4)
    return DATE_FUNCTIONS.DAYS360([() => from, () => to, () => basis === 4], context, []) as number;
  return to - from;
}

const yearDays = (basis: number): number => (basis === 3 ? 365 : 360);

function yearShare(from: number, to: number, basis: number, context: EvaluationContext): number {
  return DATE_FUNCTIONS.YEARFRAC([() => from, () => to, () => basis], context, []) as number;
}

function monthsLater(serial: number, months: number, ofDay: number): number {
  const { year, month } = partsFromSerial(serial);
  const last = serialFromParts(year, month + months + 1, 0);
  return Math.min(serialFromParts(year, month + months, ofDay), last);
}

/** The coupon days around a settlement, counted back from maturity; where maturity ends a month, all do. */
function couponsAround(settlement: number, maturity: number, frequency: number) {
  const months = 12 / frequency;
  const { day } = partsFromSerial(maturity);
  const isEnd = partsFromSerial(maturity + 1).day === 1;
  const at = (count: number): number => monthsLater(maturity, -months * count, isEnd ? 31 : day);
  let count = Math.max(0, Math.floor(((maturity - settlement) / 365.25) * frequency) - 1);
  while (at(count + 1) > settlement) count++;
  return { previous: at(count + 1), next: at(count), left: count + 1 };
}

interface CouponPlace {
  readonly previous: number;
  readonly next: number;
  readonly left: number;
  /** Days of the period, from its beginning to settlement, and from there to its end. */
  readonly period: number;
  readonly before: number;
  readonly after: number;
}

function couponPlace(
  settlement: number,
  maturity: number,
  frequency: number,
  basis: number,
  context: EvaluationContext,
): CouponPlace {
  const around = couponsAround(settlement, maturity, frequency);
  const { previous, next } = around;
  const period = basis === 1 ? next - previous : yearDays(basis) / frequency;
  const before = daysBetween(previous, settlement, basis, context);
  const after = basis === 0 || basis === 4 ? period - before : next - settlement;
  return { ...around, period, before, after };
}

/** By how much an asset of so many years loses value faster than in equal parts (18.17.7.9); nothing for lives it is not made for. */
function degressiveFactor(years: number): number | undefined {
  if (years > 6) return 2.5;
  if (years >= 5) return 2;
  return years >= 3 && years <= 4 ? 1.5 : undefined;
}

/** A function of numbers that knows its context; missing ones are `undefined`. */
const withSite =
  (calculate: (context: EvaluationContext, ...values: number[]) => number | CellError): FormulaFunction =>
  (args, context) => {
    const values: number[] = [];
    for (const arg of args) {
      const operand = arg();
      if (operand === null) {
        values.push(undefined as unknown as number);
        continue;
      }
      const value = numberOf(operand);
      if (value instanceof CellError) return value;
      values.push(value);
    }
    const result = calculate(context, ...values);
    return typeof result === "number" && !Number.isFinite(result) ? NUM : result;
  };

const isBasis = (basis: number): boolean => basis >= 0 && basis < 5;

const ofCoupons = (take: (place: CouponPlace) => number): FormulaFunction =>
  withSite((context, settlement, maturity, frequency, basis = 0) => {
    const [from, to, times, by] = [settlement, maturity, frequency, basis].map(Math.floor);
    if (from >= to || ![1, 2, 4].includes(times) || !isBasis(by)) return NUM;
    return take(couponPlace(from, to, times, by, context));
  });

function bondPrice(place: CouponPlace, rate: number, yearly: number, redemption: number, frequency: number): number {
  const coupon = (100 * rate) / frequency;
  const part = place.after / place.period;
  const accrued = (coupon * place.before) / place.period;
  if (place.left === 1) return (redemption + coupon) / (1 + (part * yearly) / frequency) - accrued;
  const factor = 1 + yearly / frequency;
  const coupons = Array.from({ length: place.left }, (_, at) => coupon / factor ** (at + part));
  return redemption / factor ** (place.left - 1 + part) + exactSum(coupons) - accrued;
}

const isBond = (from: number, to: number, times: number, by: number): boolean =>
  from < to && [1, 2, 4].includes(times) && isBasis(by);

/** Years until a bond pays, weighed by what each payment is worth now. */
const duration = (isModified: boolean): FormulaFunction =>
  withSite((context, settlement, maturity, coupon, yearly, frequency, basis = 0) => {
    const [from, to, times, by] = [settlement, maturity, frequency, basis].map(Math.floor);
    if (!isBond(from, to, times, by) || coupon < 0 || yearly < 0) return NUM;
    const place = couponPlace(from, to, times, by, context);
    const part = place.after / place.period;
    const factor = 1 + yearly / times;
    const payments = Array.from({ length: place.left }, (_, at) => ({
      when: at + part,
      worth: ((100 * coupon) / times + (at === place.left - 1 ? 100 : 0)) / factor ** (at + part),
    }));
    const years =
      exactSum(payments.map(({ when, worth }) => when * worth)) / exactSum(payments.map((one) => one.worth)) / times;
    return isModified ? years / factor : years;
  });

const discounted = (calculate: (share: number, a: number, b: number) => number): FormulaFunction =>
  withSite((context, settlement, maturity, a, b, basis = 0) => {
    const [from, to, by] = [settlement, maturity, basis].map(Math.floor);
    if (from >= to || a <= 0 || b <= 0 || !isBasis(by)) return NUM;
    return calculate(yearShare(from, to, by, context), a, b);
  });

const ofBill = (calculate: (days: number, given: number) => number | CellError): FormulaFunction =>
  withSite((_, settlement, maturity, given) => {
    const [from, to] = [Math.floor(settlement), Math.floor(maturity)];
    if (from >= to || to > monthsLater(from, 12, partsFromSerial(from).day) || given <= 0) return NUM;
    return calculate(to - from, given);
  });

/** Depreciation by a factor on what is left, going over to even parts where these are larger, between two times. */
function variableDecline(
  cost: number,
  salvage: number,
  life: number,
  from: number,
  to: number,
  factor: number,
  stays: boolean,
) {
  if (cost < 0 || salvage < 0 || life <= 0 || from < 0 || to < from || to > life || factor <= 0) return NUM;
  let value = cost;
  let sum = 0;
  for (let period = 0; period < Math.ceil(to); period++) {
    const even = (value - salvage) / (life - period);
    const declining = Math.min((value * factor) / life, Math.max(0, value - salvage));
    const whole = stays ? declining : Math.max(declining, Math.min(even, value - salvage));
    const share = Math.max(0, Math.min(period + 1, to) - Math.max(period, from));
    sum += whole * share;
    value -= whole;
  }
  return sum;
}

interface LastPeriod {
  /** Interest of the whole odd period, and up to settlement, for 100. */
  readonly whole: number;
  readonly accrued: number;
  /** Years from settlement to maturity. */
  readonly left: number;
}

/** A bond whose last period is of another length than the others: its interest by the share of a year. */
function oddLast(calculate: (parts: LastPeriod, given: number, redemption: number) => number): FormulaFunction {
  return withSite((context, settlement, maturity, last, rate, given, redemption, frequency, basis = 0) => {
    const [from, to, begun, times, by] = [settlement, maturity, last, frequency, basis].map(Math.floor);
    if (begun >= from || !isBond(from, to, times, by) || rate < 0 || given < 0 || redemption <= 0) return NUM;
    const share = (a: number, b: number): number => yearShare(a, b, by, context);
    return calculate(
      { whole: 100 * rate * share(begun, to), accrued: 100 * rate * share(begun, from), left: share(from, to) },
      given,
      redemption,
    );
  });
}

interface OddFirst {
  /** Parts of a whole coupon that the first one pays, and that have run up to settlement. */
  readonly first: number;
  readonly accrued: number;
  /** Coupon periods from settlement to the first coupon, and whole ones from there to maturity. */
  readonly wait: number;
  readonly more: number;
}

/** The first period of a bond by periods as they would be, counted back from its end to the issue. */
function oddFirst(
  settlement: number,
  issue: number,
  first: number,
  maturity: number,
  times: number,
  basis: number,
  context: EvaluationContext,
): OddFirst {
  const months = 12 / times;
  const { day } = partsFromSerial(first);
  const ofDay = partsFromSerial(first + 1).day === 1 ? 31 : day;
  let [paid, accrued, wait] = [0, 0, 0];
  for (let count = 0, end = first; end > issue; count++) {
    const begin = monthsLater(first, -months * (count + 1), ofDay);
    const length = basis === 1 ? end - begin : yearDays(basis) / times;
    const from = Math.max(issue, begin);
    paid += daysBetween(from, end, basis, context) / length;
    if (settlement > from) accrued += daysBetween(from, Math.min(settlement, end), basis, context) / length;
    if (settlement < end) wait += daysBetween(Math.max(settlement, begin), end, basis, context) / length;
    end = begin;
  }
  const [a, b] = [partsFromSerial(first), partsFromSerial(maturity)];
  const more = Math.round(((b.year - a.year) * 12 + b.month - a.month) / months);
  return { first: paid, accrued, wait, more };
}

function oddFirstPrice(parts: OddFirst, rate: number, yearly: number, redemption: number, times: number): number {
  const coupon = (100 * rate) / times;
  const factor = 1 + yearly / times;
  const later = Array.from({ length: parts.more }, (_, at) => coupon / factor ** (parts.wait + at + 1));
  return (
    redemption / factor ** (parts.wait + parts.more) +
    (coupon * parts.first) / factor ** parts.wait +
    exactSum(later) -
    coupon * parts.accrued
  );
}

const ofOddFirst = (
  calculate: (parts: OddFirst, rate: number, given: number, redemption: number, times: number) => number | CellError,
): FormulaFunction =>
  withSite((context, settlement, maturity, issue, first, rate, given, redemption, frequency, basis = 0) => {
    const [from, to, begun, paid, times, by] = [settlement, maturity, issue, first, frequency, basis].map(Math.floor);
    const isOrdered = begun < from && from < paid && paid < to;
    if (!isOrdered || ![1, 2, 4].includes(times) || !isBasis(by) || rate < 0 || given < 0 || redemption <= 0)
      return NUM;
    return calculate(oddFirst(from, begun, paid, to, times, by, context), rate, given, redemption, times);
  });

export const FINANCE_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  XNPV: xnpv,
  XIRR: xirr,
  FVSCHEDULE: ([principalArg, ratesArg]) => {
    const principal = numberOf(principalArg());
    if (principal instanceof CellError) return principal;
    let value = principal;
    for (const one of asMatrix(ratesArg()).flat()) {
      if (typeof one === "string") return VALUE;
      const rate = numberOf(one);
      if (rate instanceof CellError) return rate;
      value *= 1 + rate;
    }
    return value;
  },
  ISPMT: ofNumbers((rate, period, periods, value) => (periods === 0 ? NUM : value * rate * (period / periods - 1))),
  VDB: withSite((_, cost, salvage, life, from, to, factor = 2, stays = 0) =>
    variableDecline(cost, salvage, life, from, to, factor, stays !== 0),
  ),
  DOLLARDE: ofNumbers((price, fraction) => {
    const parts = Math.trunc(fraction);
    if (parts < 1) return parts < 0 ? NUM : CellError.of("#DIV/0!");
    const whole = Math.trunc(price);
    return whole + ((price - whole) * 10 ** Math.ceil(Math.log10(parts))) / parts;
  }),
  DOLLARFR: ofNumbers((price, fraction) => {
    const parts = Math.trunc(fraction);
    if (parts < 1) return parts < 0 ? NUM : CellError.of("#DIV/0!");
    const whole = Math.trunc(price);
    return whole + ((price - whole) * parts) / 10 ** Math.ceil(Math.log10(parts));
  }),
  COUPNUM: ofCoupons(({ left }) => left),
  COUPPCD: ofCoupons(({ previous }) => previous),
  COUPNCD: ofCoupons(({ next }) => next),
  COUPDAYS: ofCoupons(({ period }) => period),
  COUPDAYBS: ofCoupons(({ before }) => before),
  COUPDAYSNC: ofCoupons(({ after }) => after),
  PRICE: withSite((context, settlement, maturity, rate, yearly, redemption, frequency, basis = 0) => {
    const [from, to, times, by] = [settlement, maturity, frequency, basis].map(Math.floor);
    if (!isBond(from, to, times, by) || rate < 0 || yearly < 0 || redemption <= 0) return NUM;
    return bondPrice(couponPlace(from, to, times, by, context), rate, yearly, redemption, times);
  }),
  YIELD: withSite((context, settlement, maturity, rate, price, redemption, frequency, basis = 0) => {
    const [from, to, times, by] = [settlement, maturity, frequency, basis].map(Math.floor);
    if (!isBond(from, to, times, by) || rate < 0 || price <= 0 || redemption <= 0) return NUM;
    const place = couponPlace(from, to, times, by, context);
    return (
      zeroOf((yearly) => bondPrice(place, rate, yearly, redemption, times) - price, 0.05, -0.99 * times, 100) ?? NUM
    );
  }),
  DURATION: duration(false),
  MDURATION: duration(true),
  AMORLINC: withSite((context, cost, bought, firstEnd, salvage, period, rate, basis = 0) => {
    const [from, to, at, by] = [bought, firstEnd, period, basis].map(Math.floor);
    if (cost < salvage || salvage < 0 || rate <= 0 || at < 0 || !isBasis(by) || by === 2) return NUM;
    const first = cost * rate * yearShare(from, to, by, context);
    const yearly = cost * rate;
    // The first part of a year, then whole years, then what is left.
    if (at === 0) return Math.min(first, cost - salvage);
    const before = first + yearly * (at - 1);
    return Math.max(0, Math.min(yearly, cost - salvage - before));
  }),
  AMORDEGRC: withSite((context, cost, bought, firstEnd, salvage, period, rate, basis = 0) => {
    const [from, to, at, by] = [bought, firstEnd, period, basis].map(Math.floor);
    const factor = degressiveFactor(1 / rate);
    if (cost < salvage || salvage < 0 || rate <= 0 || at < 0 || !isBasis(by) || by === 2 || !factor) return NUM;
    const yearly = rate * factor;
    // Each period takes whole units; the last but one takes half of what is left, the last all of it.
    let taken = Math.round(cost * yearly * yearShare(from, to, by, context));
    let left = cost;
    for (let one = 0; one < at; one++) {
      left -= taken;
      taken = Math.round(left * yearly);
      if (left - taken < salvage) return at - one - 1 <= 1 ? Math.round(left / 2) : 0;
    }
    return taken;
  }),
  ODDFPRICE: ofOddFirst(oddFirstPrice),
  ODDFYIELD: ofOddFirst(
    (parts, rate, price, redemption, times) =>
      zeroOf((yearly) => oddFirstPrice(parts, rate, yearly, redemption, times) - price, 0.05, -0.99 * times, 100) ??
      NUM,
  ),
  ODDLPRICE: oddLast(
    (parts, yearly, redemption) => (redemption + parts.whole) / (1 + parts.left * yearly) - parts.accrued,
  ),
  ODDLYIELD: oddLast(
    (parts, price, redemption) => ((redemption + parts.whole) / (price + parts.accrued) - 1) / parts.left,
  ),
  DISC: discounted((share, price, redemption) => (1 - price / redemption) / share),
  INTRATE: discounted((share, investment, redemption) => (redemption / investment - 1) / share),
  RECEIVED: discounted((share, investment, discount) => investment / (1 - discount * share)),
  PRICEDISC: discounted((share, discount, redemption) => redemption * (1 - discount * share)),
  YIELDDISC: discounted((share, price, redemption) => (redemption / price - 1) / share),
  PRICEMAT: withSite((context, settlement, maturity, issue, rate, yearly, basis = 0) => {
    const [from, to, begun, by] = [settlement, maturity, issue, basis].map(Math.floor);
    if (from >= to || rate < 0 || yearly < 0 || !isBasis(by)) return NUM;
    const share = (a: number, b: number): number => yearShare(a, b, by, context);
    return (100 + share(begun, to) * rate * 100) / (1 + share(from, to) * yearly) - share(begun, from) * rate * 100;
  }),
  YIELDMAT: withSite((context, settlement, maturity, issue, rate, price, basis = 0) => {
    const [from, to, begun, by] = [settlement, maturity, issue, basis].map(Math.floor);
    if (from >= to || rate < 0 || price <= 0 || !isBasis(by)) return NUM;
    const share = (a: number, b: number): number => yearShare(a, b, by, context);
    const paid = price / 100 + share(begun, from) * rate;
    return ((1 + share(begun, to) * rate - paid) / paid) * (1 / share(from, to));
  }),
  ACCRINT: withSite((context, issue, _first, settlement, rate, par = 1000, _frequency = 1, basis = 0) => {
    const [begun, to, by] = [issue, settlement, basis].map(Math.floor);
    if (begun >= to || rate <= 0 || par <= 0 || !isBasis(by)) return NUM;
    return par * rate * yearShare(begun, to, by, context);
  }),
  ACCRINTM: withSite((context, issue, settlement, rate, par = 1000, basis = 0) => {
    const [begun, to, by] = [issue, settlement, basis].map(Math.floor);
    if (begun >= to || rate <= 0 || par <= 0 || !isBasis(by)) return NUM;
    return par * rate * yearShare(begun, to, by, context);
  }),
  TBILLPRICE: ofBill((days, discount) => {
    const price = 100 * (1 - (discount * days) / 360);
    return price < 0 ? NUM : price;
  }),
  TBILLYIELD: ofBill((days, price) => ((100 - price) / price) * (360 / days)),
  TBILLEQ: ofBill((days, discount) => {
    if (days <= 182) return (365 * discount) / (360 - discount * days);
    const price = (100 - (discount * 100 * days) / 360) / 100;
    const share = days === 366 ? days / 366 : days / 365;
    return (-2 * share + 2 * Math.sqrt(share ** 2 - (2 * share - 1) * (1 - 1 / price))) / (2 * share - 1);
  }),
};
