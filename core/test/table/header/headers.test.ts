import { CorbixError } from "@corbix/core/common";
import { deflateEntry, OoxmlPackage, writeZip } from "@corbix/core/ooxml";
import { type LoadOptions, loadTable } from "@corbix/core/table";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { BODIES, HEADERLESS, HEADERS, TOPS } from "../../support/tables/headers.js";

const load = (lines: readonly string[], options: LoadOptions = {}) =>
  loadTable(Buffer.from(`${lines.map((line) => line.replaceAll("|", ";")).join("\n")}\n`), "file.csv", options);
const namesOf = (loaded: ReturnType<typeof loadTable>) => loaded.table.columns.map((column) => column.name);
const codesOf = (loaded: ReturnType<typeof loadTable>) => loaded.findings.map((finding) => finding.code);

async function bookOf(lines: readonly string[], change?: (sheet: ExcelJS.Worksheet) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Visits");
  lines.forEach((line, row) => {
    line.split("|").forEach((text, column) => {
      if (text === "") return;
      sheet.getCell(row + 1, column + 1).value = /^\d+(\.\d+)?$/.test(text) && !/^0\d/.test(text) ? Number(text) : text;
    });
  });
  change?.(sheet);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

interface OdsParts {
  /** Rows, 1-based, of which the sheet says that they are repeated on each page. */
  readonly titles?: readonly number[];
  readonly bold?: number;
  readonly ranges?: string;
  readonly frozen?: number;
}

const ODS_SHEET = "Old 'keys'";
const odsAddress = (range: string) => {
  const sheet = `$'${ODS_SHEET.replaceAll("'", "\u0027\u0027")}'.`;
  return range
    .split(":")
    .map((cell) => sheet + cell)
    .join(":");
};

/** The lines as an OpenDocument spreadsheet of one sheet, in which a cell `2026-01-01=Jan 26` is a date so shown. */
function odsOf(lines: readonly string[], { titles = [], bold, ranges = "", frozen }: OdsParts = {}): Uint8Array {
  const cell = (text: string, style: string): string => {
    if (text === "") return "<table:table-cell/>";
    const date = /^(\d{4}-\d\d-\d\d)=(.*)$/.exec(text);
    const type = date
      ? `office:value-type="date" office:date-value="${date[1]}"`
      : /^\d+(\.\d+)?$/.test(text) && !/^0\d/.test(text)
        ? `office:value-type="float" office:value="${text}"`
        : 'office:value-type="string"';
    return `<table:table-cell ${style}${type}><text:p>${xmlOf(date?.[2] ?? text)}</text:p></table:table-cell>`;
  };
  const rows = lines.map((line, at) => {
    const style = at + 1 === bold ? 'table:style-name="ce1" ' : "";
    const cells = line.split("|").map((text) => cell(text, style));
    const row = `<table:table-row>${cells.join("")}</table:table-row>`;
    return titles.includes(at + 1) ? `<table:table-header-rows>${row}</table:table-header-rows>` : row;
  });
  const content = `<office:document-content><office:automatic-styles><style:style style:name="ce1" style:family="table-cell"><style:text-properties fo:font-weight="bold"/></style:style></office:automatic-styles><office:body><office:spreadsheet><table:table table:name="${ODS_SHEET}">${rows.join("")}</table:table>${ranges}</office:spreadsheet></office:body></office:document-content>`;
  const item = (name: string, value: number) =>
    `<config:config-item config:name="${name}" config:type="int">${value}</config:config-item>`;
  const settings = `<office:document-settings><config:config-item-map-entry config:name="${ODS_SHEET}">${item("VerticalSplitMode", 2)}${item("VerticalSplitPosition", frozen ?? 0)}</config:config-item-map-entry></office:document-settings>`;
  return writeZip([
    deflateEntry("mimetype", Buffer.from("application/vnd.oasis.opendocument.spreadsheet")),
    deflateEntry("content.xml", Buffer.from(content)),
    ...(frozen === undefined ? [] : [deflateEntry("settings.xml", Buffer.from(settings))]),
  ]);
}
const xmlOf = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;");

describe("headers of files nobody here has seen", () => {
  it.each(HEADERS.map((one) => [one.what, one] as const))("%s", (_, { lines, header, names, rows, told = [] }) => {
    const loaded = load(lines);
    expect(namesOf(loaded)).toEqual(names);
    expect(loaded.headerRow).toBe(header);
    expect(loaded.table.rowCount).toBe(rows);
    expect(codesOf(loaded)).toEqual(expect.arrayContaining([...told]));
    if (!told.includes("header-unsure")) expect(codesOf(loaded)).not.toContain("header-unsure");
  });

  it.each(HEADERS.map((one) => [one.what, one] as const))(
    "in a workbook: %s",
    async (_, { lines, header, names, rows }) => {
      const loaded = loadTable(await bookOf(lines), "file.xlsx");
      expect(namesOf(loaded)).toEqual(names);
      expect(loaded.headerRow).toBe(header);
      expect(loaded.table.rowCount).toBe(rows);
    },
  );

  it.each(HEADERS.map((one) => [one.what, one] as const))(
    "in an OpenDocument spreadsheet: %s",
    (_, { lines, header, names, rows }) => {
      const loaded = loadTable(odsOf(lines), "file.ods");
      expect(namesOf(loaded)).toEqual(names);
      expect(loaded.headerRow).toBe(header);
      expect(loaded.table.rowCount).toBe(rows);
    },
  );

  const made = BODIES.flatMap(({ names, rows }) =>
    TOPS.map((top) => [`${top.join(" / ") || "nothing"} above ${names.join(", ")}`, top, names, rows] as const),
  );
  it.each(made)("%s", (_, top, names, rows) => {
    const loaded = load([...top, names.join("|"), ...rows]);
    expect(namesOf(loaded)).toEqual(names);
    expect(loaded.headerRow).toBe(top.length + 1);
    expect(loaded.table.rowCount).toBe(rows.length);
  });

  it.each(HEADERLESS.map((one) => [one.what, one.lines] as const))("has none, and is told so: %s", (_, lines) => {
    const failure = (() => {
      try {
        return namesOf(load(lines)).join();
      } catch (error) {
        return error;
      }
    })();
    expect(failure).toBeInstanceOf(CorbixError);
    expect((failure as CorbixError).advice).toContain("the header is none");
    const width = lines[0].split("|").length;
    const names = ["One", "Two", "Three", "Four"].slice(0, width);
    const loaded = load(lines, { header: "none", names });
    expect(namesOf(loaded)).toEqual(names);
    expect(loaded.table.rowCount).toBe(lines.length);
    expect(loaded.table.rowNumbers[0]).toBe(1);
    expect(namesOf(load(lines, { header: "none" }))[0]).toBe("Column A");
    expect(codesOf(load(lines, { header: "none", names: [...names, "Too many"] }))).toContain("names-left-over");
  });

  it("a line of units makes text of its columns, and that is told", () => {
    const loaded = load(["Site|Fee|Hours", "|CHF|h", "Dock|3|4", "Quay|5|6"]);
    expect(loaded.table.columns.map((column) => column.type)).toEqual(["text", "text", "text"]);
    expect(codesOf(loaded).filter((code) => code === "numbers-kept-as-text")).toHaveLength(2);
  });
});

const SPARSE = [
  "Town|Caretaker|Key|Remark",
  "Ahrstadt|Ann Berg||",
  "Bielfeld|Ben Cole||",
  "Celmouth|Cem Dal|desk|second door",
  "Dornau|Dora Eng|safe|ring twice",
];

describe("what the file itself says", () => {
  const above = ["Region|South|Office|Nord", "Printed for|the porter|on|Monday"];

  it.each<[string, (sheet: ExcelJS.Worksheet) => void]>([
    [
      "a filter",
      (sheet) => {
        sheet.autoFilter = "A3:D7";
      },
    ],
    [
      "print titles",
      (sheet) => {
        sheet.pageSetup.printTitlesRow = "3:3";
      },
    ],
  ])("%s tells the header below lines as full as its rows, and that is told", async (_, change) => {
    const loaded = loadTable(await bookOf([...above, ...SPARSE], change), "file.xlsx");
    expect(loaded.headerRow).toBe(3);
    expect(namesOf(loaded)).toEqual(["Town", "Caretaker", "Key", "Remark"]);
    expect(loaded.findings.find((one) => one.code === "full-rows-above-header")).toMatchObject({ severity: "warn" });
  });

  it.each<[string, (sheet: ExcelJS.Worksheet) => void]>([
    [
      "frozen panes",
      (sheet) => {
        sheet.views = [{ state: "frozen", ySplit: 3, xSplit: 0 }];
      },
    ],
    [
      "bold names",
      (sheet) => {
        sheet.getRow(3).font = { bold: true };
      },
    ],
  ])("%s speak for a row", async (_, change) => {
    const lines = ["Keys", "Region: South", ...SPARSE];
    const loaded = loadTable(await bookOf(lines, change), "file.xlsx");
    expect(loaded.headerRow).toBe(3);
    expect(loaded.decisions.find((one) => one.what === "header")?.why).toMatch(/frozen panes|bold/);
  });

  it("a table that the sheet defines is the table, and what lies outside is told", async () => {
    const bytes = await bookOf(["Keys of all towns", "", "", "", "", "", "", "", "Eichen|Eli|desk|none"], (sheet) => {
      sheet.addTable({
        name: "Keys",
        ref: "A3",
        headerRow: true,
        totalsRow: false,
        columns: SPARSE[0].split("|").map((name) => ({ name })),
        rows: SPARSE.slice(1).map((line) => line.split("|")),
      });
    });
    const loaded = loadTable(bytes, "file.xlsx");
    expect(loaded.table.rowCount).toBe(4);
    expect(loaded.decisions.find((one) => one.what === "table")).toMatchObject({ chosen: "Keys", corrected: false });
    expect(loaded.findings.find((one) => one.code === "outside-the-table")).toMatchObject({ severity: "warn" });
    expect(loadTable(bytes, "file.xlsx", { headerRow: 3, end: "last-row" }).table.rowCount).toBe(5);
  });

  it("reads the sheet with the table, not the one with most markup, and tells a near one", async () => {
    const book = new ExcelJS.Workbook();
    const cover = book.addWorksheet("Cover");
    cover.getCell("A1").value = "Keys of all towns";
    for (let row = 1; row <= 400; row++)
      for (let column = 1; column <= 12; column++)
        cover.getCell(row, column).fill = { type: "pattern", pattern: "solid", fgColor: { argb: "FFEEEEEE" } };
    const keys = book.addWorksheet("Keys");
    for (const line of SPARSE) keys.addRow(line.split("|"));
    const one = loadTable(new Uint8Array(await book.xlsx.writeBuffer()), "file.xlsx");
    expect(one.reading.sheet).toBe("Keys");
    expect(codesOf(one)).not.toContain("sheet-unsure");
    const more = book.addWorksheet("Keys lost");
    for (const line of SPARSE.slice(0, 4)) more.addRow(line.split("|"));
    const two = loadTable(new Uint8Array(await book.xlsx.writeBuffer()), "file.xlsx");
    expect(two.reading.sheet).toBe("Keys");
    expect(two.findings.find((finding) => finding.code === "sheet-unsure")?.what).toContain("with the same columns");
  });

  it("leaves out a summary beside the table", async () => {
    const bytes = await bookOf(
      SPARSE.map((line, at) => (at < 3 ? `${line}||${["Key|Count", "desk|1", "safe|1"][at]}` : line)),
    );
    const opened = OoxmlPackage.open(bytes, "file.xlsx");
    const changed = opened.with(
      new Map([
        [
          "xl/pivotTables/pivotTable1.xml",
          '<pivotTableDefinition xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" name="P"><location ref="F1:G3" firstHeaderRow="1" firstDataRow="1" firstDataCol="1"/></pivotTableDefinition>',
        ],
        [
          "xl/worksheets/_rels/sheet1.xml.rels",
          '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId9" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/pivotTable" Target="../pivotTables/pivotTable1.xml"/></Relationships>',
        ],
      ]),
    );
    const loaded = loadTable(changed.toBytes(), "file.xlsx");
    expect(namesOf(loaded)).toEqual(["Town", "Caretaker", "Key", "Remark"]);
    expect(codesOf(loaded)).toContain("summary-left-out");
  });

  it("keeps a title merged over some columns apart, and joins groups that are needed", async () => {
    const title = await bookOf(["Keys of all towns||||South", ...SPARSE.map((line) => `${line}|x`)], (sheet) => {
      sheet.mergeCells("A1:D1");
    });
    expect(namesOf(loadTable(title, "file.xlsx"))).toEqual(["Town", "Caretaker", "Key", "Remark", "x"]);
  });
});

describe("what an OpenDocument spreadsheet itself says", () => {
  const above = ["Region|South|Office|Nord", "Printed for|the porter|on|Monday"];
  const database = (more: string) =>
    `<table:database-ranges><table:database-range table:target-range-address="${odsAddress("$A$3:$D$7")}" ${more}/></table:database-ranges>`;

  it.each<[string, OdsParts]>([
    ["a filter", { ranges: database('table:name="__Anonymous_Sheet_DB__0" table:display-filter-buttons="true"') }],
    ["header rows", { titles: [3] }],
  ])("%s tells the header below lines as full as its rows, and that is told", (_, parts) => {
    const loaded = loadTable(odsOf([...above, ...SPARSE], parts), "file.ods");
    expect(loaded.headerRow).toBe(3);
    expect(namesOf(loaded)).toEqual(["Town", "Caretaker", "Key", "Remark"]);
    expect(codesOf(loaded)).toContain("full-rows-above-header");
  });

  it.each<[string, OdsParts]>([
    ["frozen panes", { frozen: 3 }],
    ["bold names", { bold: 3 }],
  ])("%s speak for a row", (_, parts) => {
    const loaded = loadTable(odsOf(["Keys", "Region: South", ...SPARSE], parts), "file.ods");
    expect(loaded.headerRow).toBe(3);
    expect(loaded.decisions.find((one) => one.what === "header")?.why).toMatch(/frozen panes|bold/);
  });

  it("a database range is the table, by its name too, and what lies outside is told", () => {
    const lines = ["Keys of all towns", "", ...SPARSE, "", "Eichen|Eli|desk|none"];
    const bytes = odsOf(lines, { ranges: database('table:name="Keys"') });
    for (const options of [{}, { table: "keys" }]) {
      const loaded = loadTable(bytes, "file.ods", options);
      expect(namesOf(loaded)).toEqual(["Town", "Caretaker", "Key", "Remark"]);
      expect(loaded.table.rowCount).toBe(4);
    }
    const loaded = loadTable(bytes, "file.ods");
    expect(loaded.decisions.find((one) => one.what === "table")).toMatchObject({ chosen: "Keys", corrected: false });
    expect(codesOf(loaded)).toContain("outside-the-table");
  });

  it("one that holds no header is told by its columns' letters", () => {
    const lines = ["Keys of all towns", "", ...SPARSE.slice(1), SPARSE[1]];
    const loaded = loadTable(
      odsOf(lines, { ranges: database('table:name="Keys" table:contains-header="false"') }),
      "file.ods",
    );
    expect(namesOf(loaded)).toEqual(["Column A", "Column B", "Column C", "Column D"]);
    expect(loaded.table.rowCount).toBe(5);
  });

  it("leaves out a data pilot beside the table", () => {
    const lines = SPARSE.map((line, at) => (at < 3 ? `${line}||${["Key|Count", "desk|1", "safe|1"][at]}` : line));
    const pilot = `<table:data-pilot-tables><table:data-pilot-table table:name="P" table:target-range-address="${odsAddress("F1:G3")}"/></table:data-pilot-tables>`;
    const loaded = loadTable(odsOf(lines, { ranges: pilot }), "file.ods");
    expect(namesOf(loaded)).toEqual(["Town", "Caretaker", "Key", "Remark"]);
    expect(codesOf(loaded)).toContain("summary-left-out");
  });
});

describe("headings that are dates and numbers", () => {
  const bookWith = (code: string, ...values: readonly (Date | number)[]) =>
    bookOf(["Site||", "Dock|3|4", "Quay|5|6", "Mole|7|8"], (sheet) => {
      values.forEach((value, at) => {
        sheet.getCell(1, at + 2).value = value;
        sheet.getCell(1, at + 2).numFmt = code;
      });
    });
  const month = (number: number, year = 2026) => new Date(Date.UTC(year, number - 1, 1));

  it.each([
    ["mmm yy", "Jan 26", "Feb 26"],
    ["[$-407]mmmm yyyy", "Januar 2026", "Februar 2026"],
    ["dd.mm.yyyy", "01.01.2026", "01.02.2026"],
    ["yyyy\\-mm", "2026-01", "2026-02"],
  ])("are called as %s shows them", async (code, first, second) => {
    const loaded = loadTable(await bookWith(code, month(1), month(2)), "file.xlsx");
    expect(namesOf(loaded)).toEqual(["Site", first, second]);
  });

  it("a year with a word is the two", async () => {
    const loaded = loadTable(await bookWith('"FY "0', 2025, 2026), "file.xlsx");
    expect(namesOf(loaded)).toEqual(["Site", "FY 2025", "FY 2026"]);
  });

  it("two that are shown alike, or as each reader's system has it, are called by their day", async () => {
    const alike = loadTable(await bookWith("mmm", month(1, 2025), month(1, 2026)), "file.xlsx");
    expect(namesOf(alike)).toEqual(["Site", "2025-01-01", "2026-01-01"]);
    expect(codesOf(alike)).not.toContain("column-named-twice");
    const system = loadTable(await bookWith("m/d/yyyy", month(1), month(2)), "file.xlsx");
    expect(namesOf(system)).toEqual(["Site", "2026-01-01", "2026-02-01"]);
  });

  it("in an OpenDocument spreadsheet too", () => {
    const loaded = loadTable(odsOf(["Site|2026-01-01=Jan 26|2026-02-01=Feb 26", "Dock|3|4", "Quay|5|6"]), "file.ods");
    expect(namesOf(loaded)).toEqual(["Site", "Jan 26", "Feb 26"]);
  });
});
