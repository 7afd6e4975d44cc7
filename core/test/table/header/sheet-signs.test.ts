import { describe, expect, it } from "vitest";
import { definedTables, headerHints, summaryRanges } from "../../../src/table/header/sheet-signs.js";
import { workbookWith } from "../../support/package-parts.js";

describe("what a workbook says of its tables", () => {
  it("are tables that it defines, without their totals, with names where they show none", async () => {
    const workbook = await workbookWith({
      fill: (sheet) => {
        const columns = [{ name: "Site" }, { name: "Fee", totalsRowFunction: "sum" as const }];
        sheet.addTable({ name: "Visits", ref: "B3", totalsRow: true, columns, rows: [["Dock", 1]] });
        sheet.addTable({ name: "Bare", ref: "F3", headerRow: false, columns: [{ name: "Unit" }], rows: [["L1"]] });
      },
    });
    const tables = definedTables(workbook, workbook.sheets[0]);
    expect(tables).toContainEqual({
      name: "Visits",
      range: { top: 2, left: 1, bottom: 3, right: 2 },
      names: undefined,
    });
    expect(tables.find(({ name }) => name === "Bare")?.names).toEqual(["Unit"]);
  });

  it("are summaries, which say again what other cells say", async () => {
    const workbook = await workbookWith({
      parts: {
        "xl/pivotTables/pivotTable1.xml": '<pivotTableDefinition><location ref="H2:J9"/></pivotTableDefinition>',
      },
      relations: { "xl/worksheets/sheet1.xml": [["rId1", "pivotTable", "../pivotTables/pivotTable1.xml"]] },
    });
    expect(summaryRanges(workbook, workbook.sheets[0])).toEqual([{ top: 1, left: 7, bottom: 8, right: 9 }]);
  });
});

describe("signs of a header", () => {
  const hints = async (head: string, tail: string, titles?: string) => {
    const workbook = await workbookWith({
      fill: (sheet) => {
        if (titles !== undefined) sheet.pageSetup.printTitlesRow = titles;
      },
    });
    return headerHints(workbook, workbook.sheets[0], head, tail).map(({ row, kind }) => `${kind} ${row}`);
  };

  it("are the row a filter stands on", async () => {
    expect(await hints("", '</sheetData><autoFilter ref="A4:C99"/>')).toEqual(["filter 4"]);
    expect(await hints("", '<x:autoFilter x="1" ref="B2:C9"><filterColumn/></x:autoFilter>')).toEqual(["filter 2"]);
  });

  it("are the last row that stays when the sheet is scrolled, from where it begins", async () => {
    const view = (more: string, pane: string) => `<sheetView ${more} workbookViewId="0"><pane ${pane}/></sheetView>`;
    expect(await hints(view("", 'ySplit="3" state="frozen"'), "")).toEqual(["frozen panes 3"]);
    expect(await hints(view('x="1" topLeftCell="A3"', 'ySplit="2" state="frozenSplit"'), "")).toEqual([
      "frozen panes 4",
    ]);
    expect(await hints(view("", 'ySplit="900" state="split"') + view("", 'xSplit="1" state="frozen"'), "")).toEqual([]);
  });

  it("are rows that are printed on each page", async () => {
    expect(await hints("", "", "4:5")).toEqual(["print titles 4", "print titles 5"]);
  });
});
