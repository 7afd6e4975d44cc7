import { describe, expect, it } from "vitest";
import { TableRows } from "../../../src/table/header/table-rows.js";
import { searchIn } from "../../support/tables/search.js";

const HEADER = { from: 0, to: 0, why: "" };
function rowsOf(lines: string[]) {
  const { search, told } = searchIn(lines);
  const columns = Array.from({ length: search.last + 1 }, (_, index) => ({ index, name: `${index}` }));
  const table = new TableRows(search, columns);
  const rows = table.find(HEADER, search.sheet.rowCount);
  table.nearlyEmpty(rows);
  return {
    rows: rows.map((row) => search.sheet.rowNumbers[row]),
    left: search.left.lines().map(({ reason, lines: found }) => [reason, found.map(({ row }) => row)]),
    total: table.lastTotal(rows),
    told: told(),
  };
}

describe("rows of a table", () => {
  it("are those without total lines, repeated headers and blank lines", () => {
    const { rows, left } = rowsOf([
      "Site,Unit,Fee",
      "Dock,L1,1",
      "Dock total,,1",
      "Site,Unit,Fee",
      "Quay,L2,2",
      ",,",
      "Pier,L3,3",
      "Total,,6",
    ]);
    expect(rows).toEqual([2, 5, 7]);
    expect(left).toEqual([
      ["total", [3, 8]],
      ["repeated header", [4]],
    ]);
  });

  it.each(["Total", "Grand total", "Subtotal", "Summe", "Gesamtsumme", "Total général", "Totale", "Suma", "Sum:"])(
    "%s begins a total line",
    (word) => {
      expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1", `${word},,1`]).rows).toEqual([2]);
    },
  );

  it.each(["Totally new lift", "Summer house", "Dock"])("%s begins a row", (word) => {
    expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1", `${word},,1`]).rows).toEqual([2, 3]);
  });

  it("as full as the others is a row, unless it says nothing but that it is a total", () => {
    expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1", "Total Tower,L2,2"]).rows).toEqual([2, 3]);
    expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1", "Pier,L1,1", "Total,2,2"]).rows).toEqual([2, 3]);
  });

  it("end above the notes below them", () => {
    const { rows, left } = rowsOf(["Site,Unit,Fee", "Dock,L1,1", "Printed on Monday,,", "Fees without tax,,"]);
    expect(rows).toEqual([2]);
    expect(left).toEqual([["note", [4, 3]]]);
  });

  it("with a single value among many columns stay, and are told", () => {
    const { rows, told } = rowsOf(["Site,Unit,Fee,Day", "North,,,", "Dock,L1,1,2", "South,,,", "Quay,L2,2,3"]);
    expect(rows).toEqual([2, 3, 4, 5]);
    expect(told).toEqual([expect.stringContaining("warn nearly-empty-rows: 2 rows hold a single value (rows 2, 4)")]);
  });
});

describe("the last total line", () => {
  it("gives its numbers by their columns", () => {
    const { total } = rowsOf(["Site,Unit,Fee", "Dock,L1,1", "Quay,L2,2.5", "Total,,3.5"]);
    expect([...(total?.numbers ?? [])]).toEqual([[2, 3.5]]);
  });

  it("is none where subtotals stand in between, or no total stands below", () => {
    expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1", "Dock total,,1", "Quay,L2,2", "Total,,3"]).total).toBeUndefined();
    expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1", "Total,,1", "Quay,L2,2"]).total).toBeUndefined();
    expect(rowsOf(["Site,Unit,Fee", "Dock,L1,1"]).total).toBeUndefined();
  });
});
