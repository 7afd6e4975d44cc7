import type { XmlElement } from "@corbix/core/ooxml";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { workbookFromPackage } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { movePivots, type PivotSite } from "../../../src/workbook/pivot/move-pivots.js";
import { type PivotSpec, pivotTemplate } from "../../support/pivot-maker.js";

const SPEC: PivotSpec = {
  rows: [{ name: "District", items: '<item x="0"/>', shared: '<s v="sample"/>' }],
  data: [{ name: "Sum of Fee", field: "Fee" }],
  shown: [
    ["Row Labels", "Sum of Fee"],
    ["sample", 7],
    ["Grand Total", 7],
  ],
  ref: "A1:B3",
};
/** A filled workbook whose sheets of these names were filled; `names` are its defined names. */
async function moved(
  source: string,
  filled: readonly string[],
  names = "",
  renamed: ReadonlyMap<string, string> = new Map(),
) {
  const bytes = await pivotTemplate(["District", "Fee"], { ...SPEC, source }, (opened) => {
    const workbook = opened.getText("xl/workbook.xml");
    // A further sheet stands first, whose name is the end of another's.
    const further = '<sheet name="ata" sheetId="9" r:id="rIdFurther"/>';
    return new Map([
      [
        "xl/workbook.xml",
        workbook.replace(/<sheets>/, `<sheets>${further}`).replace(/<\/sheets>/, `</sheets>${names}`),
      ],
      [
        "xl/_rels/workbook.xml.rels",
        opened
          .getText("xl/_rels/workbook.xml.rels")
          .replace(
            "</Relationships>",
            '<Relationship Id="rIdFurther" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/further.xml"/></Relationships>',
          ),
      ],
      [
        "xl/worksheets/further.xml",
        '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData/></worksheet>',
      ],
    ]);
  });
  const opened = OoxmlPackage.open(bytes);
  const parts = new Map<string, Uint8Array | string | null>();
  const site: PivotSite = { map: () => undefined, renamed, isFilled: (sheet) => filled.includes(sheet) };
  const stale = movePivots(workbookFromPackage(opened), site, parts);
  const after = opened.with(parts);
  const cache = after.getXml("xl/pivotCache/pivotCacheDefinition1.xml");
  return { stale, parts, cache, where: cache.path("cacheSource", "worksheetSource") as XmlElement, after };
}
const named = (formula: string) => `<definedNames><definedName name="Visits">${formula}</definedName></definedNames>`;

describe("pivots of a filled workbook", () => {
  it("forget the template's rows, and are made anew when the file is opened", async () => {
    const { stale, cache, after } = await moved('ref="A1:B2" sheet="Data"', ["Data"]);
    expect(stale).toMatchObject([{ name: "Fees", sheet: "Pivot", part: "xl/pivotTables/pivotTable1.xml" }]);
    expect([
      cache.attr("refreshOnLoad"),
      cache.attr("saveData"),
      cache.attr("recordCount"),
      cache.attr("r:id"),
    ]).toEqual(["1", "0", undefined, undefined]);
    expect(after.names.some((name) => name.includes("pivotCacheRecords"))).toBe(false);
    for (const part of after.names.filter((name) => /\.rels$|Types/.test(name)))
      expect(after.getText(part)).not.toContain("pivotCacheRecords");
  });

  it("whose source was not filled stay as they are", async () => {
    const { stale, parts } = await moved('ref="A1:B2" sheet="Data"', ["Pivot"]);
    expect([stale, parts.size]).toEqual([[], 0]);
  });

  it.each([
    ["a range", "Data!$A$1:$B$2"],
    ["a quoted range", "'Data'!$A$1:$B$2"],
    ["a formula", "OFFSET(Data!$A$1,0,0,COUNTA(Data!$A:$A),2)"],
    ["a formula in lower case", "offset(data!$A$1,0,0,9,2)"],
  ])("by a name that is %s are of the sheet it names, not of one called like the end of it", async (_, formula) => {
    expect((await moved('name="Visits"', ["Data"], named(formula))).stale).toHaveLength(1);
    expect((await moved('name="Visits"', ["ata"], named(formula))).stale).toHaveLength(0);
  });

  it("of a source that nobody can tell are made anew", async () => {
    expect((await moved('name="Gone"', [])).stale).toHaveLength(1);
  });

  it("follow a sheet that is called otherwise", async () => {
    const { where, stale } = await moved(
      'ref="A1:B2" sheet="Data"',
      ["Data"],
      "",
      new Map([
        ["data", "Visits 26"],
        ["pivot", "Fees 26"],
      ]),
    );
    expect(where.attr("sheet")).toBe("Visits 26");
    expect(stale[0].sheet).toBe("Fees 26");
  });
});
