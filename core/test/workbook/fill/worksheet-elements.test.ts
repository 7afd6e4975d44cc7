import { parseXml } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { AxisMap, type SheetMap } from "../../../src/workbook/fill/axis-map.js";
import { prepareChild, repeatedRanges, type Surroundings } from "../../../src/workbook/fill/worksheet-elements.js";
import { envOf, rowsOf, span } from "../../support/axis.js";
import { record } from "../../support/helpers.js";

const { scope, env } = record({ site: "Dock & Quay", lines: [{ fee: 1 }] });
/** Row 2 stands three times. */
const MAP = rowsOf([span("line", 1, 1)], ["a", "b", "c"]);
/** Column B stands twice. */
const ACROSS: SheetMap = {
  rows: new AxisMap([], envOf([])),
  columns: new AxisMap([span("line", 1, 1)], envOf(["a", "b"])),
};
const written = (xml: string, map: SheetMap = MAP, renamed: ReadonlyMap<string, string> = new Map()) => {
  const filled: Surroundings = {
    map,
    moves: { own: "Visits", map: (sheet) => (sheet === "Visits" ? map : undefined), renamed },
    env,
  };
  return prepareChild(parseXml(xml, "x").root, scope, "sheet Visits")(filled);
};

describe("what stands around the cells of a filled sheet", () => {
  it.each([
    ['<dimension ref="A1:C3"/>', '<dimension ref="A1:C5"/>'],
    ['<autoFilter ref="A1:C2"/>', '<autoFilter ref="A1:C4"/>'],
    [
      '<conditionalFormatting sqref="A2 C3"><cfRule type="expression"><formula>A2&gt;C3</formula></cfRule></conditionalFormatting>',
      '<conditionalFormatting sqref="A2:A4 C5"><cfRule type="expression"><formula>A2&gt;C5</formula></cfRule></conditionalFormatting>',
    ],
    [
      '<dataValidations count="1"><dataValidation sqref="A2"><formula1>$C$3</formula1></dataValidation></dataValidations>',
      '<dataValidations count="1"><dataValidation sqref="A2:A4"><formula1>$C$5</formula1></dataValidation></dataValidations>',
    ],
    [
      '<rowBreaks count="1"><brk id="2" max="9"/></rowBreaks>',
      '<rowBreaks count="1"><brk id="4" max="9"/></rowBreaks>',
    ],
    ['<rowBreaks><brk id="0"/></rowBreaks>', '<rowBreaks><brk id="0"/></rowBreaks>'],
    ['<pageSetup orientation="landscape"/>', '<pageSetup orientation="landscape"/>'],
    [
      '<hyperlinks><hyperlink ref="A3" location="Visits!A3"/></hyperlinks>',
      '<hyperlinks><hyperlink ref="A5" location="Visits!A5"/></hyperlinks>',
    ],
    ['<x:sortState ref="A2:C3" xmlns:x="urn:x"/>', '<x:sortState ref="A2:C5" xmlns:x="urn:x"/>'],
  ])("%s moves with its rows", (before, after) => {
    expect(written(before)).toBe(after);
  });

  it("merged cells are merged in each repetition", () => {
    expect(written('<mergeCells count="2"><mergeCell ref="A2:B2"/><mergeCell ref="A3:C3"/></mergeCells>')).toBe(
      '<mergeCells count="4"><mergeCell ref="A2:B2"/><mergeCell ref="A3:B3"/><mergeCell ref="A4:B4"/><mergeCell ref="A5:C5"/></mergeCells>',
    );
    const none = rowsOf([span("when", 1, 1, { test: () => false })], []);
    expect(written('<mergeCells count="1"><mergeCell ref="A2:B2"/></mergeCells>', none)).toBe("");
    expect(repeatedRanges({ top: 1, left: 0, bottom: 2, right: 0 }, MAP)).toEqual([
      { top: 1, left: 0, bottom: 4, right: 0 },
    ]);
  });

  it("columns keep their widths where they stand", () => {
    const cols = '<cols><col min="1" max="1" width="9"/><col min="2" max="3" width="20"/></cols>';
    expect(written(cols, ACROSS)).toBe(
      '<cols><col min="1" max="1" width="9"/><col min="2" max="2" width="20"/><col min="3" max="3" width="20"/><col min="4" max="4" width="20"/></cols>',
    );
    expect(written(cols)).toBe(cols);
  });

  it("lists of later programs move by their ranges, sparklines stand once in each row", () => {
    const list = (at: string, formula: string) =>
      `<extLst><ext><x14:sparklines xmlns:x14="urn:x"><x14:sparkline><xm:f xmlns:xm="urn:m">${formula}</xm:f><xm:sqref xmlns:xm="urn:m">${at}</xm:sqref></x14:sparkline></x14:sparklines></ext></extLst>`;
    const lines = parseXml(written(list("E2", "Visits!A2:C2")), "x").root.descendants("sparkline");
    expect(lines.map((line) => [line.child("sqref")?.text, line.child("f")?.text])).toEqual([
      ["E2", "Visits!A2:C2"],
      ["E3", "Visits!A3:C3"],
      ["E4", "Visits!A4:C4"],
    ]);
    const rules =
      '<extLst><ext><x14:rule xmlns:x14="urn:x"><xm:f xmlns:xm="urn:m">A3</xm:f><xm:sqref xmlns:xm="urn:m">A3</xm:sqref></x14:rule></ext></extLst>';
    expect(parseXml(written(rules), "x").root.descendants("sqref")[0].text).toBe("A5");
    expect(written("<extLst><ext>A2</ext></extLst>")).toBe("<extLst><ext>A2</ext></extLst>");
  });

  it("headers are filled, with a value's own sign of codes doubled", () => {
    const header = (text: string) => `<headerFooter><oddHeader>${text}</oddHeader></headerFooter>`;
    expect(written(header("&amp;L{{ site }}&amp;RPage &amp;P"))).toBe(
      header("&amp;LDock &amp;&amp; Quay&amp;RPage &amp;P"),
    );
    expect(written(header("&amp;LVisits"))).toBe(header("&amp;LVisits"));
  });

  it("what leads to another sheet follows its name, also where nothing moves", () => {
    const still = rowsOf([], []);
    expect(
      written(
        '<hyperlinks><hyperlink ref="A1" location="Other!A1"/></hyperlinks>',
        still,
        new Map([["other", "Notes 26"]]),
      ),
    ).toBe('<hyperlinks><hyperlink ref="A1" location="\'Notes 26\'!A1"/></hyperlinks>');
  });
});
