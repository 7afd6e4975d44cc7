import { OoxmlPackage } from "@corbix/core/ooxml";
import { workbookFromPackage } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { dropCalculationChain } from "../../../src/workbook/fill/calculation-chain.js";
import { makeWorkbook } from "../../support/helpers.js";

const plain = () => makeWorkbook((_, sheet) => (sheet.getCell("A1").value = { formula: "1+1" }));

/** The workbook with a chain, as programs write one beside formulas. */
async function chained(quote: string): Promise<OoxmlPackage> {
  const opened = OoxmlPackage.open(await plain(), "book.xlsx");
  const add = (part: string, before: string, xml: string): [string, string] => [
    part,
    opened.getText(part).replace(before, `${xml.replaceAll('"', quote)}${before}`),
  ];
  return opened.with(
    new Map([
      ["xl/calcChain.xml", '<calcChain xmlns="urn:x"><c r="A1" i="1"/></calcChain>'],
      add(
        "xl/_rels/workbook.xml.rels",
        "</Relationships>",
        '<Relationship Id="rIdChain" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/calcChain" Target="calcChain.xml"/>',
      ),
      add(
        "[Content_Types].xml",
        "</Types>",
        '<Override PartName="/xl/calcChain.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.calcChain+xml"/>',
      ),
    ]),
  );
}

describe("the calculation chain", () => {
  it.each(['"', "'"])("goes with all that leads to it, written with %s, and nothing else", async (quote) => {
    const opened = await chained(quote);
    const left = opened.with(dropCalculationChain(workbookFromPackage(opened)));
    const before = OoxmlPackage.open(await plain(), "book.xlsx");
    expect(left.names.toSorted()).toEqual(before.names.toSorted());
    for (const part of ["xl/_rels/workbook.xml.rels", "[Content_Types].xml"])
      expect(left.getText(part)).toBe(before.getText(part));
  });

  it("is nothing to change where there is none", async () => {
    expect(dropCalculationChain(workbookFromPackage(OoxmlPackage.open(await plain()))).size).toBe(0);
  });
});
