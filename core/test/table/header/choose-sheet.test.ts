import { describe, expect, it } from "vitest";
import { readTextFile } from "../../../src/table/formats/read-text.js";
import { chooseSheet } from "../../../src/table/header/choose-sheet.js";

interface Info {
  readonly name: string;
  readonly hidden: boolean;
  readonly lines: readonly string[];
  readonly bytes?: number;
  readonly isSummary?: boolean;
}
const sheet = (name: string, lines: readonly string[], more: Partial<Info> = {}): Info => ({
  name,
  hidden: false,
  lines,
  ...more,
});
const table = (rows: number, names = "Site,Fee") => [
  names,
  ...Array.from({ length: rows }, (_, at) => `Dock ${at},${at}`),
];

function chosen(sheets: readonly Info[], name?: string) {
  const read: string[] = [];
  const {
    chosen: one,
    decision,
    findings,
  } = chooseSheet(
    sheets,
    sheets.filter(({ lines }) => lines.length > 0),
    { where: "book.xlsx", name },
    (info) => {
      read.push(info.name);
      return {
        name: info.name,
        sheet: readTextFile(Buffer.from(`${info.lines.join("\n")}\n`), info.name).sheet,
        isSummary: info.isSummary ?? false,
      };
    },
    ({ lines, bytes }) => bytes ?? lines.join("").length * 20,
  );
  return { name: one.name, why: decision.why, told: findings.map(({ what }) => what), read };
}

describe("the sheet of several that is the table", () => {
  it("is the one with the largest table, not the one with most bytes", () => {
    const notes = sheet("Notes", ["read this", "and that"], { bytes: 1_000_000 });
    expect(chosen([notes, sheet("Visits", table(40))])).toMatchObject({
      name: "Visits",
      why: "it holds the largest table of 2 visible sheets",
      told: [],
    });
  });

  it("is not a summary of the others, and not a hidden one", () => {
    expect(chosen([sheet("Pivot", table(60), { isSummary: true }), sheet("Visits", table(40))]).name).toBe("Visits");
    expect(chosen([sheet("Old", table(60), { hidden: true }), sheet("Visits", table(40))])).toMatchObject({
      name: "Visits",
      why: "the only visible sheet with cells",
    });
  });

  it("that is nearly as large is told, and whether it has the same columns", () => {
    const { name, told } = chosen([sheet("October", table(40)), sheet("September", table(38))]);
    expect(name).toBe("October");
    expect(told).toEqual([
      'The sheet "October" was read; "September" holds a table of nearly the same size with the same columns, and was not.',
    ]);
    expect(chosen([sheet("October", table(40)), sheet("People", table(38, "Person,Hours"))]).told[0]).not.toContain(
      "same columns",
    );
  });

  it("is the one that is named, hidden or not; a wrong name gets a near one", () => {
    const sheets = [sheet("Visits", table(3)), sheet("Old list", table(9), { hidden: true })];
    expect(chosen(sheets, "OLD LIST").name).toBe("Old list");
    expect(() => chosen(sheets, "Visit")).toThrow("Cannot find the sheet `Visit`.");
  });

  it("is none of a workbook without cells", () => {
    expect(() => chosen([sheet("Empty", []), sheet("Old", table(3), { hidden: true })])).toThrow(
      "Cannot find a visible sheet with cells",
    );
  });

  it("is found without reading sheets that are too small to matter", () => {
    expect(chosen([sheet("Visits", table(400)), sheet("Tiny", table(1), { bytes: 10 })]).read).toEqual(["Visits"]);
  });
});
