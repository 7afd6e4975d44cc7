import { type Column, rowKey, showRowKey, sumOf, takeRows } from "@corbix/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const column = (values: Column["values"]): Column => ({ name: "A", type: "text", values });

describe("a row's key", () => {
  it("takes spellings of one thing together, and tells numbers by their digits", () => {
    const sites = column(["Dock  West", "dock west", "Dock East", null, 7]);
    const keys = sites.values.map((_, row) => rowKey([sites], row));
    expect(keys[0]).toBe(keys[1]);
    expect(new Set(keys).size).toBe(4);
  });

  it("of several columns does not confuse where one ends", () => {
    const keys = [
      [column(["a / b"]), column(["c"])],
      [column(["a"]), column(["b / c"])],
      [column(["a"]), column(["b"]), column(["c"])],
    ].map((columns) => rowKey(columns, 0));
    expect(new Set(keys).size).toBe(3);
    expect(keys.map(showRowKey)).toEqual(["a / b / c", "a / b / c", "a / b / c"]);
  });
});

describe("sums of cells", () => {
  it("count decimals exactly, whatever their order, and pass over what is no number", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -99_999, max: 99_999 })), (cents) => {
        const cells = cents.flatMap((cent) => [cent / 100, "7", null, true]);
        expect(sumOf(cells).toString()).toBe(String(cents.reduce((sum, cent) => sum + cent, 0) / 100));
      }),
    );
  });
});

describe("chosen rows", () => {
  it("come in the order asked for, with the numbers they had, and leave the table alone", () => {
    const table = {
      columns: [{ name: "Fee", type: "number" as const, unit: "CHF", values: [1, 2, 3] }],
      rowCount: 3,
      rowNumbers: [2, 3, 7],
    };
    const taken = takeRows(table, Uint32Array.of(2, 0));
    expect(taken).toEqual({
      columns: [{ name: "Fee", type: "number", unit: "CHF", values: [3, 1] }],
      rowCount: 2,
      rowNumbers: [7, 2],
    });
    expect(table.columns[0].values).toEqual([1, 2, 3]);
    expect(takeRows(table, [])).toMatchObject({ rowCount: 0, rowNumbers: [] });
  });
});
