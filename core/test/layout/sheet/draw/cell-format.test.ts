import type { CellFormat, FormatChange, Workbook } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { formatAt } from "../../../../src/layout/sheet/draw/cell-format.js";
import type { PrintSheet } from "../../../../src/layout/sheet/read/read-sheet.js";

const FONT = { name: "Sans", size: 11, bold: false, italic: false, underline: false, strike: false, color: "000000" };
const format = (more: object = {}) =>
  ({ font: FONT, fill: undefined, ground: undefined, border: {}, code: "General", ...more }) as unknown as CellFormat;
const line = (color: string) => ({ style: "thin", color });
const change = (more: Partial<FormatChange>): FormatChange => ({
  font: {},
  fill: undefined,
  border: {},
  code: undefined,
  ...more,
});
function shown(own: CellFormat, table?: FormatChange, ruled?: { changes: FormatChange[]; fill?: string }): CellFormat {
  const at = <T>(value: T | undefined) => new Map(value === undefined ? [] : [[0, new Map([[0, value]])]]);
  const workbook = { styles: { formats: [format(), own] } } as unknown as Workbook;
  return formatAt(workbook, { tableLooks: at(table), ruled: at(ruled) } as unknown as PrintSheet, 0, 0, 1);
}
const TABLE = change({
  font: { bold: true, color: "FFFFFF" },
  fill: "0F5C5C",
  border: { top: line("111111"), left: line("111111") },
});

describe("a cell's format", () => {
  it("is its own, where nothing else is said", () => {
    const own = format({ fill: "EEEEEE" });
    expect(shown(own)).toBe(own);
  });

  it("takes from its table what it does not say itself", () => {
    expect(shown(format(), TABLE)).toMatchObject({
      font: { bold: true, color: "FFFFFF", name: "Sans" },
      fill: "0F5C5C",
    });
    const own = format({
      font: { ...FONT, color: "CC0000" },
      fill: "EEEEEE",
      border: { top: line("222222"), left: undefined },
    });
    expect(shown(own, TABLE)).toMatchObject({ font: { color: "CC0000", bold: false }, fill: "EEEEEE" });
    expect(shown(own, TABLE).border).toEqual({ top: line("222222"), left: line("111111") });
  });

  it("is changed by rules, of which the first counts most", () => {
    const ruled = {
      changes: [
        change({ font: { color: "CC0000" } }),
        change({ font: { color: "00CC00", bold: true }, fill: "FFFF00", code: "0.00" }),
      ],
    };
    expect(shown(format({ fill: "EEEEEE", ground: { kind: "lines" } }), TABLE, ruled)).toMatchObject({
      font: { color: "CC0000", bold: true },
      fill: "FFFF00",
      ground: undefined,
      code: "0.00",
    });
    expect(shown(format({ fill: "EEEEEE" }), undefined, { changes: [], fill: "ABCDEF" }).fill).toBe("ABCDEF");
  });
});
