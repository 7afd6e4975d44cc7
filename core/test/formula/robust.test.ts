import {
  CellError,
  calculate,
  compileFormula,
  type FormulaCell,
  FUNCTION_NAMES,
  type Scalar,
} from "@corbix/core/formula";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

/** A sheet with everything that cells can hold, and an empty corner. */
const CELLS: readonly (readonly Scalar[])[] = [
  ["Dock", 3, true, CellError.of("#N/A")],
  ["quay", -2.5, false, null],
  ["", 0, 46_328, "7"],
  [null, 1e300, 1, "2026-11-02"],
] as never;
const values = new Map(CELLS.map((row, at) => [at, new Map(row.map((value, column) => [column, value] as const))]));
const NOW = 46_328.5;

function evaluate(source: string): Scalar {
  const cell: FormulaCell = {
    sheet: 0,
    row: 60,
    column: 20,
    formula: compileFormula(source),
    stored: 0,
    locate: ({ range }) => ({
      sheet: 0,
      top: range.top ?? 0,
      left: range.left ?? 0,
      bottom: range.bottom ?? 1_048_575,
      right: range.right ?? 16_383,
    }),
  };
  return calculate({ values: [values as never], formulas: [cell], name: () => undefined, now: NOW }).results[0].value;
}

/** What needs something beyond a sheet, or a function of its own. */
const APART = new Set(["LET", "LAMBDA", "MAP", "REDUCE", "SCAN", "BYROW", "BYCOL", "MAKEARRAY", "ISOMITTED"]);
const NAMES = FUNCTION_NAMES.filter((name) => /^[A-Z0-9.]+$/.test(name) && !APART.has(name));

/** Answer to whether something is an error, or ask for no value at all. */
const TAKE_ERRORS =
  /^(?:IF|IFS|IFERROR|IFNA|IS.*|ERROR\.TYPE|TYPE|N|COUNT.*|AGGREGATE|ROWS?|COLUMNS?|CHOOSE|AREAS|SWITCH|FORMULATEXT|CELL|SHEETS?|SUBTOTAL|DCOUNTA?|INDEX|OFFSET|MATCH|XMATCH|LOOKUP|[VH]LOOKUP|XLOOKUP|FREQUENCY|MODE.*|T|SUMIFS?|AVERAGEIFS?|MAXIFS|MINIFS|ANCHORARRAY|SINGLE|HYPERLINK|INDIRECT|ADDRESS|CUBE.*|GETPIVOTDATA|INFO|RTD|NOW|TODAY|PI|RAND|RANDARRAY|TRUE|FALSE|NA|ARRAYTOTEXT|TRANSPOSE|TAKE|DROP|EXPAND|CHOOSECOLS|CHOOSEROWS|HSTACK|VSTACK|TOCOL|TOROW|WRAPROWS|WRAPCOLS|SORT|SORTBY|UNIQUE|FILTER|SEQUENCE|TEXTJOIN|CONCAT|VALUETOTEXT|D(?:SUM|MAX|MIN|AVERAGE|GET|PRODUCT|STDEVP?|VARP?)|TRIMRANGE|ENCODEURL|MUNIT|PHONETIC|DBCS|ASC|PERCENTOF)$/;

const argument = fc.constantFrom(
  "0",
  "1",
  "-1",
  "2.5",
  "1E+300",
  "-7",
  "100000000",
  '""',
  '"Dock"',
  '"1"',
  '"2026-11-02"',
  "TRUE",
  "FALSE",
  "#DIV/0!",
  "A1",
  "B1",
  "D2",
  "Z9",
  "A1:A4",
  "B1:B4",
  "A1:D4",
  "Z1:Z3",
  "{1,2;3,4}",
  '{"a",TRUE}',
  "",
);

describe("every function", () => {
  it.each(NAMES)("%s gives a value or an error, whatever it is given", (name) => {
    fc.assert(
      fc.property(fc.array(argument, { maxLength: 6 }), (args) => {
        const source = `${name}(${args.join(",")})`;
        const value = evaluate(source);
        if (value instanceof CellError || value === null || typeof value === "boolean" || typeof value === "string")
          return;
        expect([source, typeof value, Number.isFinite(value)]).toEqual([source, "number", true]);
      }),
      { numRuns: 30, seed: 16 },
    );
  });

  it.each(NAMES.filter((name) => !TAKE_ERRORS.test(name)))("%s does not hide an error in what it is given", (name) => {
    // With however many arguments it takes: one of them an error, the others harmless.
    const given = [1, 2, 3, 4, 5, 6].map((count) => {
      const args = Array.from({ length: count }, (_, at) => (at === 0 ? "#REF!" : "1"));
      return evaluate(`${name}(${args.join(",")})`);
    });
    for (const value of given) expect([name, value instanceof CellError]).toEqual([name, true]);
  });
});
