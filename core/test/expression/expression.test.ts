import { readFileSync } from "node:fs";
import { type CorbixError, serialFromParts } from "@corbix/core/common";
import {
  AGGREGATES,
  compileExpression,
  compileField,
  type Env,
  FUNCTIONS,
  type Scope,
  showValue,
} from "@corbix/core/expression";
import type { Table } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

const visits: Table = {
  columns: [
    {
      name: "Visit date",
      type: "date",
      values: [serialFromParts(2026, 10, 5), serialFromParts(2026, 10, 1), serialFromParts(2026, 10, 9)],
    },
    { name: "Site", type: "text", values: ["Harbour House", "harbour  house ", "Harbour House"] },
    { name: "Unit", type: "text", values: ["L02", "L01", "L02"] },
    { name: "Result", type: "text", values: ["pass", "fail", "pass"] },
    { name: "Hours", type: "number", values: [1.5, 2, 0.25] },
    { name: "Fee", type: "number", values: [0.1, 0.2, 100.005] },
  ],
  rowCount: 3,
  rowNumbers: [5, 6, 9],
};
const group: Scope = { mode: "group", columns: visits.columns, spaces: { period: ["label"] } };
const env: Env = {
  table: visits,
  lines: [0, 1, 2],
  row: -1,
  spaces: { period: new Map([["label", "October 2026"]]) },
  locale: "en-GB",
  today: serialFromParts(2026, 11, 2),
};
const show = (source: string, at: Partial<Env> = {}): string => {
  const field = compileField(source, group);
  return field.show({ ...env, ...at });
};
const failure = (work: () => unknown): CorbixError => {
  try {
    work();
  } catch (error) {
    return error as CorbixError;
  }
  throw new Error("nothing was thrown");
};

describe("the expression language", () => {
  it("gives what docs/expressions.md says, example by example", () => {
    const docs = readFileSync(new URL("../../../docs/expressions.md", import.meta.url), "utf8");
    const examples = [...docs.matchAll(/^\| `(.+?)` \| `(.*?)` \|/gm)].map(([, source, result]) => [
      source.replaceAll("\\|", "|"),
      result,
    ]);
    expect(examples.length).toBeGreaterThan(50);
    for (const [source, result] of examples) expect([source, show(source, { row: 0 })]).toEqual([source, result]);
  });

  it("documents every function", () => {
    const docs = readFileSync(new URL("../../../docs/expressions.md", import.meta.url), "utf8");
    for (const name of [...Object.keys(FUNCTIONS), ...Object.keys(AGGREGATES)]) expect(docs).toContain(`${name}(`);
  });

  it("reckons in decimals, not in binary fractions", () => {
    expect(show("0.1 + 0.2")).toBe("0.3");
    expect(show("sum(line.fee)")).toBe("100.305");
    expect(show('1.005 as "0.00"')).toBe("1.01");
    expect(show("round(2.345 * 100, 0)")).toBe("235");
  });

  it("takes the value all lines share, whatever their blanks and capitals, and shows the usual spelling", () => {
    expect(show("site")).toBe("Harbour House");
  });

  it("refuses a column whose lines differ, and says what to use instead", () => {
    const error = failure(() => show("unit"));
    expect(error.message).toContain("hold 2 different ones");
    expect(error.advice).toMatch(
      /^Use line\.\w+ in a line that repeats, or first\(.*\), list\(.*\), count\(…\), sum\(…\)\.$/,
    );
    expect(error.advice).toContain("line.Unit");
  });

  it("finds an unknown column when it is checked, with its place and a near name", () => {
    const error = failure(() => compileExpression("sum(line.fees) + 1", group));
    expect(error.code).toBe("BAD_EXPRESSION");
    expect(error.where).toContain("character 5");
    expect(error.advice).toContain('"Fee"');
  });

  it.each([
    ["1 +", "ends too early"],
    ["round(1", "`)` is missing"],
    ['"open', "a quote is not closed"],
    ["hours ? 2", "cannot stand here"],
    ["nosuch(1)", "function `nosuch`"],
    ["round()", "with 0 values"],
    ["1 2", "left over"],
    ["site * 2", "calculate with text"],
    ["sum(hours)", "needs `line.`"],
    ["recipient.name", "Cannot find `recipient.name`"],
  ])("refuses `%s` in words: %s", (source, words) => {
    expect(failure(() => compileExpression(source, group)).message).toContain(words);
  });

  it("divides by zero only where it does, and says in which row", () => {
    const rows: Scope = { ...group, mode: "row" };
    const zero = {
      ...visits,
      columns: visits.columns.map((column) => (column.name === "Hours" ? { ...column, values: [1, 0, 1] } : column)),
    };
    const expression = compileExpression("fee / hours", rows);
    expect(() => expression.evaluate({ ...env, table: zero, row: 0 })).not.toThrow();
    expect(failure(() => expression.evaluate({ ...env, table: zero, row: 1 })).message).toContain("row 6");
    const guarded = compileExpression("if(hours = 0, 0, fee / hours)", rows);
    expect(showValue(guarded.evaluate({ ...env, table: zero, row: 1 }), undefined, "en")).toBe("0");
  });

  it("reads quotes that a word processor has made curly", () => {
    expect(show("count(line where line.result = “fail”)")).toBe("1");
  });

  it("stops at nesting that could exhaust it", () => {
    expect(failure(() => compileExpression(`${"(".repeat(4000)}1${")".repeat(4000)}`, group)).message).toContain(
      "nested deeper",
    );
    expect(failure(() => compileExpression(`${"-".repeat(5000)}1`, group)).message).toContain("nested deeper");
    expect(failure(() => compileExpression("1+".repeat(6000), group)).message).toContain("longer than");
  });

  it("has names of months in the field's language", () => {
    expect(show('line.visit_date as "mmmm yyyy"', { row: 0, locale: "de" })).toBe("Oktober 2026");
  });
});
