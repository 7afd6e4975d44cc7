import { serialFromParts } from "@corbix/core/common";
import { CellError, calculate, compileFormula, type FormulaCell, type Scalar } from "@corbix/core/formula";
import { describe, expect, it } from "vitest";

const A: Scalar[] = [3, 1, 2, null, "x", true];
const B: Scalar[] = ["pass", "fail", "PASS", "open", "pa?s", "repair"];
const D: Scalar[] = ["L1", "L2", "L3"];
const E: Scalar[] = [10, 20, 30];

function evaluate(source: string): Scalar {
  const values = new Map<number, Map<number, Scalar>>();
  const put = (column: number, list: readonly Scalar[]) =>
    list.forEach((value, row) => {
      values.set(row, (values.get(row) ?? new Map()).set(column, value));
    });
  put(0, A);
  put(1, B);
  put(3, D);
  put(4, E);
  const cell: FormulaCell = {
    sheet: 0,
    row: 9,
    column: 9,
    formula: compileFormula(source),
    stored: "stored",
    locate: ({ range }) => ({
      sheet: 0,
      top: range.top ?? 0,
      left: range.left ?? 0,
      bottom: range.bottom ?? 1_048_575,
      right: range.right ?? 16_383,
    }),
  };
  const { results } = calculate({
    values: [values],
    formulas: [cell],
    name: (name) => (name === "rate" ? { formula: compileFormula("0.5"), locate: () => undefined } : undefined),
    now: serialFromParts(2026, 11, 2) + 0.5,
  });
  return results[0].value;
}

describe("formulas", () => {
  it.each([
    ["SUM(A1:A6)", 6],
    ['SUM(A1:A6,TRUE,"4")', 11],
    ["SUM(A:A)", 6],
    ["AVERAGE(A1:A3)", 2],
    ["COUNT(A1:A6)", 3],
    ["COUNTA(A1:A6)", 5],
    ["COUNTBLANK(A1:A6)", 1],
    ["MAX(A1:A3)-MIN(A1:A3)", 2],
    ["MEDIAN(A1:A3)", 2],
    ["LARGE(E1:E3,2)", 20],
    ["SUM(0.1,0.2)", 0.3],
    ["0.3-0.1-0.2", 0],
    ["ROUND(1.005,2)", 1.01],
    ["ROUND(-2.5,0)", -3],
    ["ROUNDDOWN(2.999,1)", 2.9],
    ["MOD(-7,3)", 2],
    ["2^3^2", 64],
    ["-2^2", 4],
    ["50%*4", 2],
    ['SUMIF(B1:B6,"pass",A1:A6)', 5],
    ['COUNTIF(B1:B6,"p*s")', 3],
    ['COUNTIF(B1:B6,"pa~?s")', 1],
    ['COUNTIF(A1:A6,">=2")', 2],
    ['SUMIFS(E1:E3,D1:D3,"<>L2")', 40],
    ["SUMPRODUCT(A1:A3,E1:E3)", 110],
    ['IF(A1>2,"yes",1/0)', "yes"],
    ['IFERROR(1/0,"none")', "none"],
    ['IF(B1="PASS",1,2)', 1],
    ['VLOOKUP("l2",D1:E3,2,FALSE)', 20],
    ['INDEX(E1:E3,MATCH("L3",D1:D3,0))', 30],
    ['XLOOKUP("L9",D1:D3,E1:E3,"gone")', "gone"],
    ["MATCH(25,E1:E3)", 2],
    ['TEXT(1234.5,"#,##0.00")', "1,234.50"],
    ['TEXT(DATE(2026,10,5),"d mmmm yyyy")', "5 October 2026"],
    ['TEXTJOIN("-",TRUE,D1:D3,"")', "L1-L2-L3"],
    ['UPPER(LEFT("lift",2))&MID("abcdef",3,2)', "LIcd"],
    ['SUBSTITUTE("a-b-c","-","",2)', "a-bc"],
    ['SUBSTITUTE("a-b-c","-","$&$$")', "a$&$$b$&$$c"],
    ['SEARCH("B","abc")', 2],
    ["YEAR(EOMONTH(DATE(2026,1,31),1))*100+DAY(EOMONTH(DATE(2026,1,31),1))", 202_628],
    ["DAY(EDATE(DATE(2026,1,31),1))", 28],
    ["WEEKDAY(DATE(2026,11,2),2)", 1],
    ["TODAY()-DATE(2026,11,1)", 1],
    ["ROWS(A1:B7)*COLUMNS(A1:B7)", 14],
    ["ROW()", 10],
    ["rate*4", 2],
    ["AND(TRUE,A1=3)", true],
    ['SWITCH(2,1,"a",2,"b")', "b"],
  ])("%s is %s", (source, expected) => {
    const value = evaluate(source);
    if (typeof expected === "number") expect(value).toBeCloseTo(expected, 10);
    else expect(value).toBe(expected);
  });

  it.each([
    ["1/0", "#DIV/0!"],
    ['1+"x"', "#VALUE!"],
    ["nosuchname", "#NAME?"],
    ['VLOOKUP("L9",D1:E3,2,FALSE)', "#N/A"],
    ["SQRT(-1)", "#NUM!"],
    ["SUM(1/0,2)", "#DIV/0!"],
  ])("%s gives the error %s", (source, name) => {
    expect(evaluate(source)).toBe(CellError.of(name as Parameters<typeof CellError.of>[0]));
  });

  it("keeps the stored value of what it cannot evaluate", () => {
    expect(evaluate('GETPIVOTDATA("Fee",A1)')).toBe("stored");
    expect(evaluate("NOSUCH.FUNCTION(A1)")).toBe("stored");
    expect(evaluate("LET(a,1,a+1)")).toBe(2);
    expect(evaluate("((")).toBe("stored");
  });
});
