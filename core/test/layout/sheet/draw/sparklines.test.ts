import type { PathItem } from "@corbix/core/page";
import { describe, expect, it } from "vitest";
import { readSparklines, type Sparkline, sparklineItems } from "../../../../src/layout/sheet/draw/sparklines.js";
import { workbookWith } from "../../../support/package-parts.js";

const group = (attributes: string, lines: string, colors = "") =>
  `<extLst><ext uri="x"><x14:sparklineGroups xmlns:x14="urn:x14" xmlns:xm="urn:xm"><x14:sparklineGroup ${attributes}>${colors}<x14:sparklines>${lines}</x14:sparklines></x14:sparklineGroup></x14:sparklineGroups></ext></extLst>`;
const line = (cells: string, at: string) =>
  `<x14:sparkline><xm:f>${cells}</xm:f><xm:sqref>${at}</xm:sqref></x14:sparkline>`;

async function read(onSheet: string) {
  const workbook = await workbookWith({
    onSheet,
    fill: (sheet) => {
      sheet.getRow(2).values = [3, "none", 5];
      sheet.getRow(3).values = [-1, 8, 2];
    },
  });
  return readSparklines(workbook, workbook.package.getXml(workbook.sheets[0].part));
}

describe("small charts of a sheet", () => {
  it("are read with their cells; texts are gaps", async () => {
    const found = await read(
      group('type="column" negative="1"', line("'Sheet one'!A2:C2", "E2"), '<x14:colorSeries rgb="FF112233"/>'),
    );
    expect([...found]).toEqual([
      ["1 4", expect.objectContaining({ kind: "column", values: [3, undefined, 5], color: "112233" })],
    ]);
    expect(found.get("1 4")).toMatchObject({ negative: "D00000", markers: undefined, scale: undefined });
  });

  it("of a group share a scale where they say so", async () => {
    const lines = line("'Sheet one'!A2:C2", "E2") + line("'Sheet one'!A3:C3", "E3");
    const shared = await read(group('minAxisType="group" maxAxisType="group"', lines));
    expect([...shared.values()].map(({ scale }) => scale)).toEqual([
      [-1, 8],
      [-1, 8],
    ]);
  });

  it("whose cells are not there are none", async () => {
    expect((await read(group("", line("Gone!A2:C2", "E2") + line("'Sheet one'!A2:C2", "")))).size).toBe(0);
  });
});

describe("a small chart in its cell", () => {
  const cell = { x: 100, y: 50, width: 24, height: 14 };
  const sparkline = (more: Partial<Sparkline>): Sparkline => ({
    kind: "line",
    values: [0, 10, 5],
    color: "000001",
    negative: undefined,
    markers: undefined,
    weight: 1,
    scale: undefined,
    ...more,
  });
  const path = (more: Partial<Sparkline>) => (sparklineItems(sparkline(more), cell)[0] as PathItem).commands;
  const fills = (more: Partial<Sparkline>) =>
    sparklineItems(sparkline({ kind: "column", ...more }), cell).map((item) =>
      item.kind === "fill" ? [item.color, item.y, item.height] : [],
    );

  it("is a line from the lowest to the highest value, inside the cell", () => {
    expect(path({})).toEqual([
      ["M", 102, 62],
      ["L", 112, 52],
      ["L", 122, 57],
    ]);
  });

  it("breaks at gaps, and lies in the middle where all values are one", () => {
    expect(path({ values: [1, undefined, 1, 1] }).map(([kind, , y]) => [kind, y])).toEqual([
      ["M", 57],
      ["M", 57],
      ["L", 57],
    ]);
  });

  it("on a shared scale leaves room for the others", () => {
    expect(path({ values: [0, 10], scale: [0, 20] }).map(([, , y]) => y)).toEqual([62, 57]);
  });

  it("marks each point where it says so", () => {
    expect(sparklineItems(sparkline({ markers: "FF0000", values: [1, undefined, 2] }), cell)).toHaveLength(3);
  });

  it("has columns that rise or hang from nought, in a colour each", () => {
    expect(fills({ values: [10, -10, 0, undefined], negative: "D00000" })).toEqual([
      ["000001", 52, 5],
      ["D00000", 57, 5],
    ]);
    expect(fills({ values: [10, 5] }).map(([, y, height]) => [y, height])).toEqual([
      [52, 10],
      [57, 5],
    ]);
  });

  it("of wins and losses shows only which it is", () => {
    expect(fills({ kind: "stacked", values: [1000, -1] }).map(([, y, height]) => [y, height])).toEqual([
      [52, 5],
      [57, 5],
    ]);
  });

  it("is nothing without numbers, or in a cell without room", () => {
    expect(sparklineItems(sparkline({ values: [undefined] }), cell)).toEqual([]);
    expect(sparklineItems(sparkline({}), { ...cell, width: 4 })).toEqual([]);
  });
});
