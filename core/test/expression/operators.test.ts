import { Exact } from "@corbix/core/common";
import { areEqual, compareValues, DateValue, type Value } from "@corbix/core/expression";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asNumber, asTruth, checkedValue, OPERATORS, OperandError, sameKey } from "../../src/expression/operators.js";

const value: fc.Arbitrary<Value> = fc.oneof(
  fc.constant(null),
  fc.boolean(),
  fc.integer().map((number) => new Exact(number)),
  fc.integer({ min: 0, max: 50_000 }).map((serial) => new DateValue(serial, "date")),
  fc.constantFrom("Dock", "dock ", "Quay", "", "Lift 2", "lift 10"),
);
const show = (one: Value) => String(one ?? "");
const exact = (number: number) => new Exact(number);
const day = (serial: number) => new DateValue(serial, "date");

describe("values put beside each other", () => {
  it("have one order, in which equal ones are side by side", () => {
    fc.assert(
      fc.property(value, value, value, (a, b, c) => {
        expect(Math.sign(compareValues(a, b)) + Math.sign(compareValues(b, a))).toBe(0);
        if (compareValues(a, b) <= 0 && compareValues(b, c) <= 0) expect(compareValues(a, c)).toBeLessThanOrEqual(0);
        expect(areEqual(a, b)).toBe(areEqual(b, a));
        const isEmpty = (one: Value) => one === null || one === "";
        if (!isEmpty(a) && !isEmpty(b)) expect(areEqual(a, b)).toBe(sameKey(a) === sameKey(b));
      }),
    );
  });

  it("are equal as a reader sees it", () => {
    expect([
      areEqual("Dock", " DOCK"),
      areEqual(null, ""),
      areEqual("7", exact(7)),
      areEqual(exact(0.3), exact(0.1).plus(0.2)),
    ]).toEqual([true, true, false, true]);
  });

  it("are neither more nor less than blanks, and not than another kind", () => {
    for (const sign of ["<", "<=", ">", ">="] as const) {
      expect(OPERATORS[sign](null, exact(1), show)).toBe(false);
      expect(OPERATORS[sign](exact(1), "", show)).toBe(false);
      expect(() => OPERATORS[sign](exact(1), "Dock", show)).toThrow(OperandError);
    }
    expect([OPERATORS["<"](exact(1), exact(2), show), OPERATORS[">="]("lift 10", "Lift 2", show)]).toEqual([
      true,
      true,
    ]);
  });
});

describe("reckoning", () => {
  it("is exact, and takes blanks for nought", () => {
    expect(String(OPERATORS["+"](exact(0.1), exact(0.2), show))).toBe("0.3");
    expect(String(OPERATORS["*"](exact(3), null, show))).toBe("0");
    expect(String(OPERATORS["^"](exact(2), exact(10), show))).toBe("1024");
    expect(OPERATORS["&"]("Fee ", exact(2), show)).toBe("Fee 2");
  });

  it("moves days by days, and counts the days between two", () => {
    expect(OPERATORS["+"](day(100), exact(7), show)).toEqual(day(107));
    expect(OPERATORS["+"](exact(7), day(100), show)).toEqual(day(107));
    expect(OPERATORS["-"](day(100), exact(7), show)).toEqual(day(93));
    expect(String(OPERATORS["-"](day(100), day(93), show))).toBe("7");
    expect(() => OPERATORS["+"](day(1), day(2), show)).toThrow("two dates cannot be added");
  });

  it.each<[string, () => unknown]>([
    ["divides by zero", () => OPERATORS["/"](exact(1), exact(0), show)],
    ["divides by zero", () => OPERATORS["^"](exact(0), exact(-1), show)],
    ['the text "Dock" is no number', () => asNumber("Dock")],
    ["a truth value is no number", () => asNumber(true)],
    ["neither true nor false", () => asTruth("yes")],
    ["too large", () => checkedValue(new Exact("1e301"))],
    ["no number", () => checkedValue(OPERATORS["^"](exact(-8), exact(0.5), show))],
    ["beyond the days", () => checkedValue(day(-1))],
  ])("says that it %s", (why, run) => {
    expect(run).toThrow(OperandError);
    expect(run).toThrow(why);
  });

  it("takes a blank condition for false", () => {
    expect([asTruth(null), asTruth(true), asTruth(false)]).toEqual([false, true, false]);
  });
});
