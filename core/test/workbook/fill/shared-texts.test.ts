import { OoxmlPackage } from "@corbix/core/ooxml";
import { type Workbook, workbookFromPackage } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { AddedTexts, sharedTable } from "../../../src/workbook/fill/shared-texts.js";
import { makeWorkbook } from "../../support/helpers.js";

const workbook = async (change: (text: string) => string = (text) => text): Promise<Workbook> => {
  const bytes = await makeWorkbook((_, sheet) => {
    sheet.getCell("A1").value = "Site";
    sheet.getCell("A2").value = "Dock";
  });
  const opened = OoxmlPackage.open(bytes, "book.xlsx");
  const part = opened.names.find((name) => name.endsWith("sharedStrings.xml")) as string;
  return workbookFromPackage(opened.with(new Map([[part, change(opened.getText(part))]])));
};

describe("texts added to a workbook", () => {
  it("get numbers behind those it has, each text one", async () => {
    const table = sharedTable(await workbook());
    const added = new AddedTexts(table as NonNullable<typeof table>);
    expect(["Quay", "Pier", "Quay"].map((text) => added.index(text))).toEqual([2, 3, 2]);
    const part = added.part();
    expect(part?.name).toBe("xl/sharedStrings.xml");
    expect(part?.text.match(/<t\b[^>]*>[^<]*/g)).toEqual(["<t>Site", "<t>Dock", "<t>Quay", "<t>Pier"]);
    expect(part?.text).not.toMatch(/count=/i);
  });

  it("are none where nothing was added", async () => {
    const table = sharedTable(await workbook());
    expect(new AddedTexts(table as NonNullable<typeof table>).part()).toBeUndefined();
  });

  it("one filling's do not show in the next", async () => {
    const table = sharedTable(await workbook()) as NonNullable<ReturnType<typeof sharedTable>>;
    new AddedTexts(table).index("Quay");
    const second = new AddedTexts(table);
    expect(second.index("Pier")).toBe(2);
    expect(second.part()?.text).not.toContain("Quay");
  });

  it("take the prefix that the table writes", async () => {
    const prefixed = await workbook((text) =>
      text.replace("<sst xmlns=", "<x:sst xmlns:x=").replace(/<(\/?)(sst|si|t)\b/g, "<$1x:$2"),
    );
    const table = sharedTable(prefixed) as NonNullable<ReturnType<typeof sharedTable>>;
    const added = new AddedTexts(table);
    added.index(" Quay");
    expect(added.part()?.text).toContain('<x:si><x:t xml:space="preserve"> Quay</x:t></x:si></x:sst>');
  });

  it("have no place in a table without an end", async () => {
    const empty = await workbook((text) => text.replace(/<sst\b([^>]*)>[\s\S]*/, "<sst$1/>"));
    expect(sharedTable(empty)).toBeUndefined();
  });
});
