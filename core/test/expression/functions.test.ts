/** Each function and operator of the expression language, with whatever it is given. */
import { CorbixError, Exact, serialFromParts } from "@corbix/core/common";
import {
  compileExpression,
  DateValue,
  type Env,
  FUNCTIONS,
  type Scope,
  showValue,
  type Value,
} from "@corbix/core/expression";
import { Decimal } from "decimal.js";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const NAMES = ["a", "b", "c", "d"];
const scope: Scope = { mode: "row", columns: [], spaces: {}, names: NAMES };
const table = { columns: [], rowCount: 0, rowNumbers: [] };
const envOf = (values: readonly Value[]): Env => ({
  table,
  lines: [],
  row: -1,
  spaces: {},
  locale: "en-GB",
  today: serialFromParts(2026, 11, 2),
  names: new Map(values.map((value, at) => [NAMES[at], value])),
});
const give = (source: string, ...values: readonly Value[]): Value =>
  compileExpression(source, scope).evaluate(envOf(values));
const shown = (source: string, ...values: readonly Value[]): string =>
  showValue(give(source, ...values), undefined, "en-GB");
const refused = (source: string, ...values: readonly Value[]): string => {
  try {
    return `nothing, but ${shown(source, ...values)}`;
  } catch (error) {
    if (error instanceof CorbixError) return `${error.code}: ${error.message}`;
    throw error;
  }
};
const day = (iso: string): DateValue => {
  const [year, month, date] = iso.split("-").map(Number);
  return new DateValue(serialFromParts(year, month, date), "date");
};

/** What a cell may hold, and numbers that people do not mean. */
const value: fc.Arbitrary<Value> = fc.oneof(
  fc.constant(null),
  fc.boolean(),
  fc.constantFrom("", "L01", "12.5", "2026-10-05", "Zürich", "1'200", "e\u0301", "👷‍♀️ two"),
  fc
    .oneof(fc.integer({ min: -12, max: 12 }), fc.double({ noNaN: true, noDefaultInfinity: true }))
    .map((n) => new Exact(n)),
  fc.integer({ min: -10, max: 3_000_000 }).map((serial) => new DateValue(serial, "date")),
  fc.double({ min: 0, max: 60_000, noNaN: true }).map((serial) => new DateValue(serial, "datetime")),
);

describe("functions and operators", () => {
  it("give a value that can be shown, or say what is wrong: never something that is no number", () => {
    const calls = [
      ...Object.entries(FUNCTIONS).flatMap(([name, { min, max }]) =>
        NAMES.map((_, at) => at)
          .concat(NAMES.length)
          .filter((count) => count >= min && count <= max)
          .map((count) => `${name}(${NAMES.slice(0, count).join(", ")})`),
      ),
      ...["=", "<>", "<", "<=", ">", ">=", "&", "+", "-", "*", "/", "^", "and", "or"].map((sign) => `a ${sign} b`),
      ...["-a", "a%", "not a", "a in (b, c)", "a not in (b, c)"],
    ];
    fc.assert(
      fc.property(fc.constantFrom(...calls), fc.array(value, { minLength: 4, maxLength: 4 }), (source, values) => {
        try {
          const given = give(source, ...values);
          if (given instanceof Decimal) expect(given.isFinite(), `${source} is ${given}`).toBe(true);
          if (given instanceof DateValue) expect(Number.isFinite(given.serial), source).toBe(true);
          expect(showValue(given, undefined, "en-GB")).not.toMatch(/NaN|Infinity|Invalid|undefined/);
        } catch (error) {
          expect(error).toBeInstanceOf(CorbixError);
        }
      }),
      { numRuns: 6000 },
    );
  });

  it.each([
    ["left(a, -1)", "a number of characters cannot be less than 0"],
    ["right(a, -1)", "a number of characters cannot be less than 0"],
    ["mid(a, 0, 4)", "a place in a text is counted from 1"],
    ["mid(a, 1, -2)", "a number of characters cannot be less than 0"],
    ["(0-8) ^ 0.5", "this is no number"],
    ["0 ^ (0-1)", "this divides by zero"],
    ["10 ^ 400", "this number is too large"],
    ["1 / 0", "this divides by zero"],
    ["mod(3, 0)", "this divides by zero"],
    ["date(26, 1, 1)", "a year is one from 1900 to 9999"],
    ["date(2026, 1, 99999999)", "this is beyond the days that a date can be"],
    ["year(a)", "this is no date"],
    ["edate(today(), 999999)", "this is beyond the days that a date can be"],
    ["today() + 1000000000", "this is beyond the days that a date can be"],
    ["today() + today()", "two dates cannot be added"],
    ["number(a)", 'the text "abcd" is no number'],
    ["a and true", "this is neither true nor false"],
    ["true + 1", "a truth value is no number"],
    ["a < 1", "values of different kinds cannot be put in order"],
    ["b * 2", 'the text "x" is no number'],
  ])("refuses %s: %s", (source, why) => {
    expect(refused(source, "abcd", "x")).toBe(`BAD_EXPRESSION: Cannot calculate: ${why}.`);
  });

  it.each([
    ["if(a, 1)", "if", "2 to 3"],
    ["if(a)", "if", "2 to 3"],
    ["coalesce()", "coalesce", "1 to any number"],
    ["today(1)", "today", "0"],
    ["choose(1, 2)", "choose", "3 to any number"],
  ])("counts what is given: %s", (source, name, wanted) => {
    const said = refused(source, true);
    if (source === "if(a, 1)") expect(said).toBe("nothing, but 1");
    else expect(said).toMatch(new RegExp(`Cannot call \`${name}\` with \\d values, expected ${wanted}\\.`));
  });

  it.each([
    ["year(a)", ""],
    ["edate(a, 1)", ""],
    ["eomonth(a, 0)", ""],
    ["date(a)", ""],
    ["a + 1", "1"],
    ["a * 2", "0"],
    ["-a", "0"],
    ['a & "x"', "x"],
    ["a < 1", "no"],
    ["a >= 0", "no"],
    ['a = ""', "yes"],
    ["not a", "yes"],
    ["number(a)", ""],
    ["max(a, 2)", "2"],
    ["min(a)", ""],
    ['choose(1, 2, "two")', ""],
    ['choose(1, 2, "two", "else")', "else"],
    ['substitute("x.y", a, "z")', "x.y"],
    ['substitute("a-b", "-", "$& $$ $1")', "a$& $$ $1b"],
    ["right(a, 3)", ""],
    ["len(a)", "0"],
  ])("takes a blank for nothing: %s is %j", (source, result) => {
    expect(shown(source, null)).toBe(result);
  });

  it("orders blanks last, numbers before dates before texts, and texts by alphabet and number", () => {
    const order = (...values: readonly Value[]) => [give("max(a, b)", ...values), give("min(a, b)", ...values)];
    expect(order(new Exact(2), day("2026-01-01"))).toEqual([day("2026-01-01"), new Exact(2)]);
    expect(order("Lift 10", "Lift 9")).toEqual(["Lift 10", "Lift 9"]);
    expect(order(true, false)).toEqual([true, false]);
    expect(order("zebra", true)).toEqual([true, "zebra"]);
    expect(order(day("2026-01-02"), day("2026-01-01"))).toEqual([day("2026-01-02"), day("2026-01-01")]);
  });

  it("tells what is equal as a reader would", () => {
    const equal = (a: Value, b: Value) => [give("a = b", a, b), give("a in (b)", a, b), give("a <> b", b, a)];
    for (const [a, b] of [
      ["Dock  Road", " dock road"],
      [day("2026-10-05"), day("2026-10-05")],
      [new Exact("1.50"), new Exact("1.5")],
      [null, ""],
      [true, true],
    ] satisfies [Value, Value][])
      expect(equal(a, b)).toEqual([true, true, false]);
    for (const [a, b] of [
      ["1", new Exact(1)],
      [day("2026-10-05"), new Exact(day("2026-10-05").serial)],
      [false, null],
      [new Exact(0), null],
    ] satisfies [Value, Value][])
      expect(equal(a, b)).toEqual([false, false, true]);
  });

  it("keeps whether something is a date, a time or a number", () => {
    const at = new DateValue(46_300.75, "datetime");
    expect(give("a + 1", at)).toEqual(new DateValue(46_301.75, "datetime"));
    expect(give("1 + a", day("2026-10-05"))).toEqual(day("2026-10-06"));
    expect(give("a - 1", day("2026-10-05"))).toEqual(day("2026-10-04"));
    expect(give("a - b", day("2026-10-05"), day("2026-10-01"))).toEqual(new Exact(4));
    expect(shown('text(a, "hh:mm")', at)).toBe("18:00");
    expect(give("date(a)", at)).toEqual(new DateValue(46_300, "date"));
    expect(shown("eomonth(a, 1)", day("2026-01-31"))).toBe("28 February 2026");
    expect(shown("edate(a, 1)", day("2026-01-31"))).toBe("28 February 2026");
    expect(shown("edate(a, -11)", day("2024-02-29"))).toBe("29 March 2023");
  });

  it("cuts numbers of places, characters and months as spreadsheets do", () => {
    expect(
      ["round(2.55, 1.9)", "round(1234.5, -2)", "rounddown(2.59, 1)", "roundup(2.01, 0)"].map((one) => shown(one)),
    ).toEqual(["2.6", "1200", "2.5", "3"]);
    expect(shown("round(a, 999999)", new Exact("0.125"))).toBe("0.125");
    expect(shown("left(a, 1.9)", "Dock")).toBe("D");
    expect(shown("date(2026, 14, 31.5)")).toBe("3 March 2027");
    expect(shown("edate(a, 1.9)", day("2026-01-31"))).toBe("28 February 2026");
  });

  it("shows a number that is no day as it is, whatever format is asked for", () => {
    expect(shown('text(a, "d mmmm yyyy")', new Exact(100_025_569))).toBe("100025569");
    expect(shown('text(a, "yyyy-mm-dd")', new Exact(46_328))).toBe("2026-11-02");
  });

  it("counts characters as a reader does, not bytes", () => {
    expect(shown("left(a, 2)", "👷é1")).toBe("👷é");
    expect(shown("mid(a, 2, 5)", "Zürich")).toBe("ürich");
    expect(shown("right(a, 0)", "Dock")).toBe("");
    expect(shown("len(a)", "👷é")).toBe("2");
  });
});
