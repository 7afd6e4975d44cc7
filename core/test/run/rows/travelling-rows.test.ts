import type { OoxmlPackage } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import type { BoundFile } from "../../../src/run/make-file.js";
import { leftFindings } from "../../../src/run/rows/travelling-rows.js";
import { workbookWith } from "../../support/package-parts.js";
import { inputOf } from "../../support/small-run.js";

const text = (value: string) => ({ fill: () => value });
/** A file that fills a sheet of rows of all groups, and keeps these. */
const file = (hidden: string, kept: readonly string[] | undefined, values: object | undefined = {}) =>
  ({
    name: "book",
    showing: [{ sheet: text(hidden) }],
    spec: { values },
    sheets: kept?.map(text),
  }) as unknown as BoundFile;
const { table } = inputOf({ report: "split: Site", rows: "Site\nDock\n" });
const env = { table, lines: [0], row: -1, spaces: {}, locale: "en-GB", today: 0 };
const chart = (formula: string) => ({
  parts: {
    "xl/charts/chart1.xml": `<c:chartSpace xmlns:c="urn:c"><c:val><c:numRef><c:f>${formula}</c:f></c:numRef></c:val></c:chartSpace>`,
  },
});
const plain = async (): Promise<OoxmlPackage> => (await workbookWith({})).package;
const told = (bound: BoundFile, source: OoxmlPackage) =>
  leftFindings(bound, env, source).map(({ severity, what }) => `${severity}: ${what}`);

describe("rows of all groups in a made workbook", () => {
  it("stop it where their sheet stays, in whatever case it is named", async () => {
    expect(told(file("All visits", ["Summary", "ALL VISITS"]), await plain())).toEqual([
      'stop: Its sheet "All visits" holds rows of all groups, and stays.',
    ]);
    expect(told(file("All visits", ["Summary"]), await plain())).toEqual([]);
  });

  it.each([
    ["All visits", "'All visits'!$B$2:$B$9"],
    ["Data", "Data!$B$2:$B$9"],
    ["data", "DATA!$B$2"],
    ["O'Brien", "'O''Brien'!$B$2"],
    ["O'Brien", "&apos;O&apos;&apos;Brien&apos;!$B$2"],
    ["Dock & Quay", "'Dock &amp; Quay'!$B$2"],
    ["A>B", "'A>B'!$B$2"],
    ["A>B", "'A&gt;B'!$B$2"],
    ["Data", "(Summary!$A$1,Data!$B$2)"],
  ])("stop it where a chart that stays draws cells of %s by %s", async (sheet, formula) => {
    const { package: source } = await workbookWith(chart(formula));
    expect(told(file(sheet, ["Summary"]), source)).toEqual([
      "stop: A chart in it draws cells of a sheet with rows of all groups, and stores them.",
    ]);
    for (const other of ["Other", "ata", sheet.slice(1)]) expect(told(file(other, ["Summary"]), source)).toEqual([]);
  });

  it("are none of its business where it keeps all its sheets, or its formulas", async () => {
    const source = await plain();
    expect(told(file("All visits", undefined), source)).toEqual([]);
    expect(told({ ...file("All visits", ["All visits"]), showing: [] } as BoundFile, source)).toEqual([]);
  });
});
