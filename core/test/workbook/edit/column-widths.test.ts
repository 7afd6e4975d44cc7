/** Columns as wide as asked, whatever ranges of columns a sheet names: ECMA-376 part 1, 18.3.1.13. */
import { parseXml } from "@corbix/core/ooxml";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { widenColumns } from "../../../src/workbook/edit/column-widths.js";

const sheet = (cols: string, format = "") =>
  parseXml(`<worksheet><sheetPr/><dimension ref="A1"/>${format}${cols}<sheetData/><pageMargins/></worksheet>`, "s")
    .root;
const widen = (cols: string, widths: Record<number, number>, format = "") =>
  widenColumns(sheet(cols, format), new Map(Object.entries(widths).map(([at, width]) => [Number(at), width])));
const written = (root: ReturnType<typeof sheet>) =>
  (root.child("cols")?.elements("col") ?? []).map(
    (col) => `${col.attr("min")}-${col.attr("max")}:${col.attr("width") ?? ""}${col.attr("hidden") ? "h" : ""}`,
  );

describe("columns", () => {
  it("are added before the cells where the sheet names none, and only where they are too narrow", () => {
    const root = widen("", { 0: 20, 2: 5, 3: 12 });
    expect(written(root)).toEqual(["1-1:20", "4-4:12"]);
    expect(root.elements().map((one) => one.local)).toEqual([
      "sheetPr",
      "dimension",
      "cols",
      "sheetData",
      "pageMargins",
    ]);
    expect(widen("", { 0: 3 }).toString()).toBe(sheet("").toString());
    expect(written(widen("", { 0: 11 }, '<sheetFormatPr defaultColWidth="12"/>'))).toEqual([]);
    expect(written(widen("", { 0: 11 }, '<sheetFormatPr baseColWidth="10"/>'))).toEqual(["1-1:11"]);
  });

  it("leave the rest of a range as it is, cut in pieces around the wider ones", () => {
    expect(written(widen('<cols><col min="1" max="5" width="10"/></cols>', { 0: 20, 2: 30, 4: 9 }))).toEqual([
      "1-1:20",
      "2-2:10",
      "3-3:30",
      "4-5:10",
    ]);
    expect(written(widen('<cols><col min="2" max="3" width="10" hidden="1"/></cols>', { 1: 40, 3: 40 }))).toEqual([
      "2-3:10h",
      "4-4:40",
    ]);
    expect(written(widen('<cols><col min="1" max="2"/></cols>', { 1: 40 }))).toEqual(["1-1:", "2-2:40"]);
  });

  it("are each as wide as asked and never narrower than before, whatever the ranges and wishes", () => {
    const range = fc.record({
      size: fc.integer({ min: 1, max: 4 }),
      gap: fc.nat(2),
      width: fc.integer({ min: 1, max: 30 }),
    });
    fc.assert(
      fc.property(
        fc.array(range, { maxLength: 5 }),
        fc.dictionary(fc.nat(20).map(String), fc.integer({ min: 1, max: 40 })),
        (ranges, wishes) => {
          const before = new Map<number, number>();
          let at = 1;
          const cols = ranges.map(({ size, gap, width }) => {
            const from = at + gap;
            for (let column = from; column < from + size; column++) before.set(column, width);
            at = from + size;
            return `<col min="${from}" max="${at - 1}" width="${width}"/>`;
          });
          const root = widenColumns(
            sheet(cols.length > 0 ? `<cols>${cols.join("")}</cols>` : ""),
            new Map(Object.entries(wishes).map(([one, width]) => [Number(one), width])),
          );
          const after = new Map<number, number>();
          let last = 0;
          for (const col of root.child("cols")?.elements("col") ?? []) {
            const [min, max] = [Number(col.attr("min")), Number(col.attr("max"))];
            expect(min).toBeGreaterThan(last);
            expect(max).toBeGreaterThanOrEqual(min);
            for (let column = min; column <= max; column++) after.set(column, Number(col.attr("width")));
            last = max;
          }
          for (let column = 1; column <= 40; column++) {
            const was = before.get(column) ?? 8.43;
            expect(after.get(column) ?? 8.43).toBe(Math.max(was, wishes[column - 1] ?? 0));
          }
        },
      ),
    );
  });
});
