import { deflateEntry, OoxmlPackage, writeZip } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { namedOdsRanges, odsSigns, readOdsRange } from "../../../src/table/header/ods-signs.js";

const opened = (settings?: string) =>
  OoxmlPackage.open(
    writeZip([
      deflateEntry("content.xml", Buffer.from("<x/>")),
      ...(settings === undefined ? [] : [deflateEntry("settings.xml", Buffer.from(settings))]),
    ]),
  );
const database = (name: string, at: string, more = "") =>
  `<table:database-range table:name="${name}" table:target-range-address="${at}" ${more}/>`;

describe("addresses of an OpenDocument spreadsheet", () => {
  it.each([
    ["$Visits.$A$4:.$H$40", "Visits", { top: 3, left: 0, bottom: 39, right: 7 }],
    ["Visits.A4:Visits.H40", "Visits", { top: 3, left: 0, bottom: 39, right: 7 }],
    ["$'Old visits'.A4:'Old visits'.H40", "Old visits", { top: 3, left: 0, bottom: 39, right: 7 }],
    ["'O''Brien'.B2", "O'Brien", { top: 1, left: 1, bottom: 1, right: 1 }],
  ])("%s", (address, sheet, range) => {
    expect(readOdsRange(address)).toEqual({ sheet, range });
  });

  it.each(["", "A1:B2", "Visits.", "Visits.A1:", "[Visits.A1]"])("%j is none", (address) => {
    expect(readOdsRange(address)).toBeUndefined();
  });
});

describe("named ranges", () => {
  it("are those with a name, and not those that stand for a filter", () => {
    const content = `<table:named-range table:name="Fees &amp; hours" table:cell-range-address="$Visits.$B$2:.$C$9"/>${database("List", "Visits.A1:Visits.C9")}${database("__Anonymous_Sheet_DB__0", "Visits.A1:Visits.C9")}`;
    expect(namedOdsRanges(content).map(({ name, sheet }) => [name, sheet])).toEqual([
      ["Fees & hours", "Visits"],
      ["List", "Visits"],
    ]);
  });
});

describe("what the file says of a sheet", () => {
  const content =
    database("List", "Visits.A3:Visits.C9") +
    database("Bare", "Visits.F3:Visits.G9", 'table:contains-header="false"') +
    database("Across", "Visits.J3:Visits.K9", 'table:orientation="column"') +
    database("__Anonymous_Sheet_DB__0", "Other.A5:Other.C9", 'table:display-filter-buttons="true"') +
    '<table:data-pilot-table table:name="P" table:target-range-address="Visits.M1:Visits.N9"><x/></table:data-pilot-table>';
  const settings = (mode: number) =>
    `<config:config-item-map-entry config:name="Visits"><config:config-item config:name="VerticalSplitMode" config:type="short">${mode}</config:config-item><config:config-item config:name="VerticalSplitPosition" config:type="int">4</config:config-item></config:config-item-map-entry>`;

  it("are its tables, those by columns left out, and its summaries", () => {
    const { tables, summaries } = odsSigns(content, opened())("Visits", []);
    expect(tables.map(({ name, names }) => [name, names])).toEqual([
      ["List", undefined],
      ["Bare", []],
    ]);
    expect(summaries).toEqual([{ top: 0, left: 12, bottom: 8, right: 13 }]);
  });

  it("are signs of its header: filters, rows that are printed on each page or stay when it is scrolled", () => {
    expect(odsSigns(content, opened())("Other", [5, 6]).hints).toEqual([
      { row: 5, kind: "print titles" },
      { row: 6, kind: "print titles" },
      { row: 5, kind: "filter" },
    ]);
    expect(odsSigns(content, opened(settings(2)))("Visits", []).hints).toEqual([{ row: 4, kind: "frozen panes" }]);
    expect(odsSigns(content, opened(settings(1)))("Visits", []).hints).toEqual([]);
  });
});
