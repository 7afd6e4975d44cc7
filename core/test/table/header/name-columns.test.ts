import type { IntakeRules } from "@corbix/core/table";
import { describe, expect, it } from "vitest";
import { nameColumns, withoutNeighbour } from "../../../src/table/header/name-columns.js";
import { searchIn } from "../../support/tables/search.js";

function named(lines: string[], { to = 0, rules = {} }: { to?: number; rules?: IntakeRules } = {}) {
  const { search, told } = searchIn(lines, rules);
  const columns = nameColumns(search, { from: 0, to, why: "" }, { row: search.sheet.rowCount });
  return { names: columns.map(({ name }) => name), told: told() };
}

describe("names of columns", () => {
  it("are their headings, without blanks around and within", () => {
    expect(named(["  Site  name ,Fee", "Dock,1"])).toEqual({ names: ["Site name", "Fee"], told: [] });
  });

  it("of a header of two lines are both, said once where they are alike", () => {
    expect(named(["Hours,Hours,Site", "planned,spent,Site", "1,2,Dock"], { to: 1 }).names).toEqual([
      "Hours planned",
      "Hours spent",
      "Site",
    ]);
  });

  it("that are missing go by the column's letters, and are told; a column without values is none", () => {
    expect(named(["Site,,Fee,", "Dock,L1,1,", "Quay,L2,2,"])).toEqual({
      names: ["Site", "Column B", "Fee"],
      told: ['warn column-without-name: Column B has 2 values but no name; it is called "Column B".'],
    });
  });

  it("that stand twice are numbered, and none of them is taken again", () => {
    const { names, told } = named(["Fee,fee,FEE,Fee 2", "1,2,3,4"]);
    expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(4);
    expect(names.slice(0, 2)).toEqual(["Fee", "fee 2"]);
    expect(told.length).toBeGreaterThanOrEqual(2);
  });

  it("are given where there is no header, and told where one is left over", () => {
    const rules: IntakeRules = { header: "none", names: ["Site", "Fee", "Result"] };
    expect(named(["Dock,1", "Quay,2"], { to: -1, rules })).toEqual({
      names: ["Site", "Fee"],
      told: [expect.stringContaining('nothing is called "Result"')],
    });
    expect(named(["Dock,1"], { to: -1, rules: { header: "none" } })).toEqual({
      names: ["Column A", "Column B"],
      told: [],
    });
  });
});

describe("a table beside another", () => {
  const beside = (lines: string[]) => {
    const { search, told, decided } = searchIn(lines);
    const header = { from: 0, to: 0, why: "" };
    const end = { row: search.sheet.rowCount };
    const kept = withoutNeighbour(search, nameColumns(search, header, end), header, end);
    return { names: kept.map(({ name }) => name), told: told(), decided: decided() };
  };
  const rows = (count: number, right: number) =>
    Array.from({ length: count }, (_, at) => `Dock,${at},,${at < right ? `Ann,${at}` : ","}`);

  it("that ends in another row is left out and told", () => {
    const { names, told, decided } = beside(["Site,Fee,,Person,Hours", ...rows(20, 3)]);
    expect(names).toEqual(["Site", "Fee"]);
    expect(told).toEqual([
      "warn several-tables: Columns D to E (Person, Hours) are another table beside this one and were not read.",
    ]);
    expect(decided).toMatchObject([{ what: "columns", chosen: "A to B" }]);
  });

  it("is the same one where its columns run along all the way", () => {
    expect(beside(["Site,Fee,,Person,Hours", ...rows(20, 20)]).names).toHaveLength(4);
  });

  it("is the one that is read where it is the longer one", () => {
    const long = Array.from({ length: 20 }, (_, at) => `${at < 3 ? `Dock,${at}` : ","},,Ann,${at}`);
    expect(beside(["Site,Fee,,Person,Hours", ...long]).names).toEqual(["Person", "Hours"]);
  });
});
