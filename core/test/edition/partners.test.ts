import { findPartners } from "@corbix/core/edition";
import { loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

const table = (csv: string) => loadTable(Buffer.from(csv), "t.csv").table;
const visits = table(
  "Site,Result,Day,Fee,Customer no\nDock,passed,2026-10-01,10,101\n quay ,failed,2026-10-02,20,102\nMill,passed,2026-10-03,30,103\nDock,passed,2026-10-04,40,101\n",
);

describe("columns that have the same values", () => {
  it("are found by what they hold, whatever they are called and however it is spelled", () => {
    const sites = table("Code,Manager,Opened\nDOCK,Ann,2026-10-01\nQuay,Ben,2026-10-02\nTower,Cid,2026-10-03\n");
    expect(findPartners(visits, sites)).toEqual([
      { column: "Site", partner: "Code", values: 3, found: 2, isUnique: true },
    ]);
  });

  it("are whole numbers that name something too, but no days and no amounts", () => {
    const customers = table("no,Name,Fee\n101,Ann,10.5\n102,Ben,20\n104,Cid,30\n");
    expect(findPartners(visits, customers)[0]).toMatchObject({
      column: "Customer no",
      partner: "no",
      found: 2,
      values: 3,
    });
  });

  it("come with the best first: a key before a word of a few values", () => {
    const other = table("Result,Site\npassed,Dock\nfailed,Quay\npassed,Mill\n");
    expect(findPartners(visits, other).map(({ column, isUnique }) => [column, isUnique])).toEqual([
      ["Site", true],
      ["Result", false],
    ]);
  });

  it("are counted over all rows, however many", () => {
    const numbered = (from: number, to: number): string =>
      Array.from({ length: to - from }, (_, at) => `S${from + at}`).join("\n");
    const found = findPartners(table(`Site\n${numbered(25_000, 30_000)}\n`), table(`Code\n${numbered(0, 29_000)}\n`));
    expect(found).toEqual([{ column: "Site", partner: "Code", values: 5_000, found: 4_000, isUnique: true }]);
  });

  it("are none where nothing is shared", () => {
    expect(findPartners(visits, table("Name\nZoe\nYan\n"))).toEqual([]);
    expect(findPartners(table("Site\n"), visits)).toEqual([]);
  });
});
