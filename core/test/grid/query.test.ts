import { isoFromSerial } from "@corbix/core/common";
import { EVERYTHING, Grid, type GridFilter, isoCell } from "@corbix/core/grid";
import { type Cell, type ColumnInfo, columnData } from "@corbix/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const COLUMNS: readonly ColumnInfo[] = [
  { name: "Site", type: "text" },
  { name: "Fee", type: "number" },
  { name: "Due", type: "date" },
  { name: "Passed", type: "boolean" },
];
const row = fc.tuple(
  fc.constantFrom<Cell>(null, "Dock", "dock", "Dock 2", "Quay", "quay east", "Ärger", "7"),
  fc.constantFrom<Cell>(null, 0, -1.5, 7, 7.25, 100, 1e9),
  fc.constantFrom<Cell>(null, 46_000, 46_001, 46_328),
  fc.constantFrom<Cell>(null, true, false),
);
const filter = fc.record({
  column: fc.constantFrom("Site", "fee", "DUE", "Passed"),
  is: fc.constantFrom<GridFilter["is"]>(
    "equal",
    "not-equal",
    "containing",
    "beginning",
    "at-least",
    "at-most",
    "blank",
    "filled",
  ),
  value: fc.constantFrom("", "dock", "Quay", "7", "7.25", "2025-12-10", isoFromSerial(46_001), "true"),
});

const gridOf = (rows: readonly (readonly Cell[])[]): Grid =>
  new Grid(
    COLUMNS.map((column, at) => ({ ...column, data: columnData(rows.map((cells) => cells[at] ?? null)) })),
    Uint32Array.from(rows, (_, at) => at + 2),
  );

describe("a query of a grid", () => {
  it("finds with several filters exactly what each of them finds", () => {
    fc.assert(
      fc.property(fc.array(row, { maxLength: 40 }), fc.array(filter, { maxLength: 3 }), (rows, filters) => {
        const grid = gridOf(rows);
        const find = (some: readonly GridFilter[]): number[] | string => {
          try {
            return [...grid.rows({ ...EVERYTHING, filters: [...some] })];
          } catch (error) {
            return (error as { code: string }).code;
          }
        };
        const each = filters.map((one) => find([one]));
        if (each.includes("BAD_REQUEST")) return;
        const all = rows.map((_, at) => at).filter((at) => each.every((found) => (found as number[]).includes(at)));
        expect(find(filters)).toEqual(all);
      }),
    );
  });

  it("tells blank from filled, and what is equal from what is not, for every row and type", () => {
    fc.assert(
      fc.property(fc.array(row, { maxLength: 40 }), filter, (rows, { column, value }) => {
        const grid = gridOf(rows);
        const count = (is: GridFilter["is"]): number =>
          grid.rows({ ...EVERYTHING, filters: [{ column, is, value }] }).length;
        expect(count("blank") + count("filled")).toBe(rows.length);
        let equal: number;
        try {
          equal = count("equal");
        } catch {
          // A number column cannot be compared with a word: it says so.
          return;
        }
        if (value !== "") expect(equal + count("not-equal")).toBe(rows.length);
      }),
    );
  });

  it("sorts without losing a row, by several columns as by one after the other", () => {
    fc.assert(
      fc.property(
        fc.array(row, { maxLength: 40 }),
        fc.array(fc.constantFrom("Site", "-Site", "Fee", "-Fee", "Due", "-Due"), { minLength: 1, maxLength: 3 }),
        (rows, sort) => {
          const grid = gridOf(rows);
          const sorted = [...grid.rows({ ...EVERYTHING, sort: [...sort] })];
          expect([...sorted].sort((a, b) => a - b)).toEqual(rows.map((_, at) => at));
          const by = sort[0] ?? "";
          const at = COLUMNS.findIndex((column) => column.name === by.replace("-", ""));
          const values = sorted.map((index) => rows[index]?.[at] ?? null);
          // Blanks come last, whichever way it goes.
          expect(values.slice(values.indexOf(null) >= 0 ? values.indexOf(null) : values.length)).toEqual(
            values.filter((value) => value === null),
          );
          const numbers = values.filter((value) => typeof value === "number");
          if (numbers.length > 0)
            expect(numbers).toEqual([...numbers].sort((a, b) => (by.startsWith("-") ? b - a : a - b)));
        },
      ),
    );
  });

  it("counts in its profile what a plain count counts", () => {
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 60 }), (rows) => {
        const grid = gridOf(rows);
        const all = grid.rows(EVERYTHING);
        for (const [at, column] of COLUMNS.entries()) {
          const filled = rows.map((cells) => cells[at] ?? null).filter((cell) => cell !== null);
          const profile = grid.profile(column.name, all);
          expect([profile.count, profile.blanks, profile.distinct]).toEqual([
            rows.length,
            rows.length - filled.length,
            new Set(filled).size,
          ]);
          const bars = [...profile.histogram, ...profile.frequent].reduce((sum, one) => sum + one.count, 0);
          if (filled.length > 0) expect(bars).toBe(filled.length);
        }
      }),
    );
  });
});

describe("a cell as ISO 8601 spells it", () => {
  it("is the same moment, for every day there is and every millisecond of it", () => {
    const days = fc.integer({ min: 61, max: 2_958_465 });
    fc.assert(
      fc.property(days, fc.integer({ min: 0, max: 86_399_999 }), (day, ms) => {
        expect(isoCell("date", day)).toBe(
          new Date(Date.UTC(1899, 11, 30) + day * 86_400_000).toISOString().slice(0, 10),
        );
        const told = isoCell("datetime", day + ms / 86_400_000) as string;
        const wanted = new Date(Date.UTC(1899, 11, 30) + day * 86_400_000 + ms).toISOString().replace("Z", "");
        expect(told).toBe(wanted.replace(/\.000$/, ""));
        expect(isoCell("time", ms / 86_400_000)).toBe(wanted.slice(11).replace(/\.000$/, ""));
      }),
    );
  });

  it("stays as it is where there is nothing to spell", () => {
    expect([isoCell("date", null), isoCell("text", 5), isoCell("number", 46_000), isoCell("date", "soon")]).toEqual([
      null,
      5,
      46_000,
      "soon",
    ]);
    expect([isoCell("date", 1e12), isoCell("time", -1), isoCell("time", 1.5)]).toEqual([1e12, -1, "36:00:00"]);
  });
});
