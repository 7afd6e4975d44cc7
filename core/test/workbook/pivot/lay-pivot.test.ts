import type { Scalar } from "@corbix/core/formula";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemKey } from "../../../src/workbook/pivot/items.js";
import { layPivot, type PivotWords } from "../../../src/workbook/pivot/lay-pivot.js";
import { NotComputed, type Pivot, type PivotField } from "../../../src/workbook/pivot/read-pivot.js";

const WORDS: PivotWords = { grand: "All", subtotal: "Total", grandOf: "All of", blank: "(blank)" };
const field = (index: number, more: Partial<PivotField> = {}): PivotField => ({
  index,
  isCompact: false,
  isOutline: false,
  hasSubtotal: true,
  isSubtotalOnTop: false,
  repeatsLabels: false,
  sort: "manual",
  sortBy: undefined,
  hidesNew: false,
  known: undefined,
  ...more,
});
const pivotOf = (rows: PivotField[], columns: PivotField[] = [], more: Partial<Pivot> = {}): Pivot => {
  const fields = [0, 1, 2].map((index) => [...rows, ...columns].find((one) => one.index === index) ?? field(index));
  return {
    name: "Fees",
    area: { top: 0, left: 0, bottom: 1, right: 1 },
    headRows: columns.length === 0 ? 1 : 1 + columns.length,
    labelColumns: rows.filter((one, at) => at < rows.length - 1 && !(one.isCompact && one.isOutline)).length + 1,
    fields,
    rows,
    columns,
    data: [{ index: 2, name: "Fee", summary: "sum", share: "none" }],
    chosen: [],
    hasGrandRow: true,
    hasGrandColumn: columns.length > 0,
    grandCaption: undefined,
    filtering: [],
    missing: undefined,
    fitsColumns: false,
    oldRows: [],
    oldColumns: [],
    ...more,
  };
};
const known = (value: Scalar, more: object = {}) => ({
  key: itemKey(value),
  isHidden: false,
  isCollapsed: false,
  caption: undefined,
  ...more,
});
const gridOf = (pivot: Pivot, records: readonly (readonly Scalar[])[]): Scalar[][] => {
  const { cells, height, width } = layPivot(pivot, records, WORDS);
  const grid = Array.from({ length: height }, () => new Array<Scalar>(width).fill(null));
  for (const { row, column, value } of cells) grid[row][column] = value;
  return grid;
};

const RECORDS = [
  ["North", "passed", 10],
  ["South", "failed", 20],
  ["North", "failed", 5],
  ["north", "passed", 1],
];

describe("a laid pivot", () => {
  it("shows each item's sum and the sum of all, whatever the rows are", () => {
    const row = fc.tuple(
      fc.constantFrom("A", "B", "a", null),
      fc.constantFrom("x", "y"),
      fc.integer({ min: -99, max: 99 }),
    );
    fc.assert(
      fc.property(fc.array(row, { minLength: 1 }), (records) => {
        const { rows, columns, cells } = layPivot(pivotOf([field(0)], [field(1)]), records, WORDS);
        const items = [0, 1].map((index) => [...new Set(records.map((record) => itemKey(record[index])))]);
        expect(rows).toHaveLength(items[0].length + 1);
        expect(columns).toHaveLength(items[1].length + 1);
        const shown = new Map(cells.map(({ row: down, column, value }) => [`${down} ${column}`, value]));
        const label = (down: number, column: number) =>
          itemKey(shown.get(`${down} ${column}`) === "(blank)" ? null : (shown.get(`${down} ${column}`) ?? null));
        const sum = (keep: (record: (typeof records)[number]) => boolean) => {
          const kept = records.filter(keep);
          return kept.length === 0 ? undefined : kept.reduce((all, [, , fee]) => all + fee, 0);
        };
        rows.forEach((line, down) => {
          columns.forEach((column, across) => {
            const isIn = ([district, result]: (typeof records)[number]) =>
              (line.kind === "grand" || itemKey(district) === label(2 + down, 0)) &&
              (column.kind === "grand" ||
                itemKey(result) === label(1, 1 + across) ||
                itemKey(result) === label(0, 1 + across));
            expect(shown.get(`${2 + down} ${1 + across}`)).toBe(sum(isIn));
          });
        });
      }),
    );
  });

  it("nests its fields, with a subtotal below, above, or none", () => {
    expect(gridOf(pivotOf([field(0), field(1)]), RECORDS)).toEqual([
      [null, null, "Fee"],
      ["North", "failed", 5],
      [null, "passed", 11],
      ["North Total", null, 16],
      ["South", "failed", 20],
      ["South Total", null, 20],
      ["All", null, 36],
    ]);
    const outline = { isOutline: true, isSubtotalOnTop: true, isCompact: true };
    expect(gridOf(pivotOf([field(0, outline), field(1)]), RECORDS)).toEqual([
      [null, "Fee"],
      ["North", 16],
      ["failed", 5],
      ["passed", 11],
      ["South", 20],
      ["failed", 20],
      ["All", 36],
    ]);
    const without = gridOf(pivotOf([field(0, { hasSubtotal: false, repeatsLabels: true }), field(1)]), RECORDS);
    expect(without.slice(1, 4)).toEqual([
      ["North", "failed", 5],
      ["North", "passed", 11],
      ["South", "failed", 20],
    ]);
  });

  it("leaves out hidden items, also from its totals, and folded ones hide what is below", () => {
    const hides = field(0, { known: [known("North"), known("South", { isHidden: true })] });
    expect(gridOf(pivotOf([hides]), RECORDS).at(-1)).toEqual(["All", 16]);
    const folded = field(0, { known: [known("North", { isCollapsed: true, caption: "The north" }), known("South")] });
    expect(gridOf(pivotOf([folded, field(1)]), RECORDS).slice(1, 3)).toEqual([
      ["The north", null, 16],
      ["South", "failed", 20],
    ]);
  });

  it("cannot say whether values that are new are hidden too", () => {
    const hides = field(0, { hidesNew: true, known: [known("North", { isHidden: true })] });
    expect(() => gridOf(pivotOf([hides]), RECORDS)).toThrow(NotComputed);
  });

  it("takes only rows with the value that is chosen above it", () => {
    const chosen = pivotOf([field(0)], [], { chosen: [{ index: 1, key: itemKey("FAILED") }] });
    expect(gridOf(chosen, RECORDS).slice(1)).toEqual([
      ["North", 5],
      ["South", 20],
      ["All", 25],
    ]);
  });

  it("sorts its items downwards or by what they add up to; blanks come last in either way", () => {
    const records = [...RECORDS, [null, "passed", 99]];
    const order = (more: Partial<PivotField>) => gridOf(pivotOf([field(0, more)]), records).map(([label]) => label);
    expect(order({ sort: "descending" })).toEqual([null, "South", "North", "(blank)", "All"]);
    expect(order({ sort: "ascending" })).toEqual([null, "North", "South", "(blank)", "All"]);
    expect(order({ sort: "ascending", sortBy: 0 })).toEqual([null, "North", "South", "(blank)", "All"]);
    expect(order({ sort: "descending", sortBy: 0 })).toEqual([null, "(blank)", "South", "North", "All"]);
    const own = [known("South"), known("North")];
    expect(order({ known: own })).toEqual([null, "South", "North", "(blank)", "All"]);
  });

  it("shows shares of the row, the column and all, and what stands where nothing is", () => {
    const share = (kind: "row" | "column" | "all") =>
      gridOf(
        pivotOf([field(0)], [field(1)], { data: [{ index: 2, name: "Fee", summary: "sum", share: kind }] }),
        RECORDS.slice(0, 3),
      ).slice(2);
    expect(share("row")[0].slice(1)).toEqual([5 / 15, 10 / 15, 1]);
    expect(share("column")[0].slice(1)).toEqual([0.2, 1, 15 / 35]);
    expect(share("all")[1].slice(1)).toEqual([20 / 35, null, 20 / 35]);
    const missing = pivotOf([field(0)], [field(1)], { missing: "0" });
    expect(gridOf(missing, RECORDS)[3]).toEqual(["South", 20, 0, 20]);
  });
});
