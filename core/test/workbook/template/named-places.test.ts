import { documentPlaces } from "@corbix/core/document";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { workbookPlaces } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { demo, makeWorkbook } from "../../support/helpers.js";
import { rawDocument } from "../../support/raw-document.js";

describe("what a definition can name in a template", () => {
  it("are a workbook's tables with their headings, names that lead to cells, sheets, and blank cells beside a label", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.getCell("A1").value = "Site";
      sheet.getCell("A2").value = "Manager";
      sheet.getCell("B2").value = "somebody";
      sheet.getCell("A3").value = "{{ group.key }}";
      sheet.getCell("A4").value = "Checked by";
      sheet.mergeCells("A4:C4");
      sheet.addTable({
        name: "Visits",
        ref: "A6",
        columns: [{ name: "Unit" }, { name: "Fee" }],
        rows: [["U-1", 3]],
      });
      book.definedNames.add("'Sheet one'!$D$4", "grand_total");
      book.definedNames.add("'Sheet one'!$D$5:$E$6", "box");
      book.addWorksheet("Notes");
    });
    const places = workbookPlaces(openWorkbook(bytes, "form.xlsx"));
    expect(places.filter(({ kind }) => kind !== "cell")).toEqual([
      { kind: "table", name: "Visits", where: "Sheet one", headings: ["Unit", "Fee"] },
      { kind: "area", name: "box", where: "'Sheet one'!D5:E6", headings: [] },
      { kind: "sheet", name: "Sheet one", where: "Sheet one", headings: [] },
      { kind: "sheet", name: "Notes", where: "Notes", headings: [] },
    ]);
    const cells = places.filter(({ kind }) => kind === "cell").map(({ name, where }) => `${name} ${where}`);
    expect(cells).toContain("grand_total 'Sheet one'!D4");
    expect(cells).toContain("'Sheet one'!B1 beside “Site”");
    expect(cells).toContain("'Sheet one'!D4 beside “Checked by”");
    // What is filled already, and what a mark fills, is no blank beside a label.
    expect(cells.join()).not.toMatch(/beside “(?:Manager|\{\{)/);
  });

  it("are a document's bookmarks with the part they stand in, without those that programs set for themselves", () => {
    const marked = (name: string) => `<w:p><w:bookmarkStart w:id="1" w:name="${name}"/><w:bookmarkEnd w:id="1"/></w:p>`;
    const bytes = rawDocument(`${marked("visits")}${marked("_GoBack")}`);
    expect(documentPlaces(OoxmlPackage.open(bytes, "letter.docx")).map(({ kind, name }) => [kind, name])).toEqual([
      ["bookmark", "visits"],
    ]);
    expect(documentPlaces(OoxmlPackage.open(demo("templates/notice.docx"), "notice.docx"))).toEqual([]);
  });
});
