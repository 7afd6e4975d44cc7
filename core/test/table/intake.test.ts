import { Buffer } from "node:buffer";
import { CorbixError, isoFromSerial } from "@corbix/core/common";
import { deflateEntry, OoxmlPackage, writeZip } from "@corbix/core/ooxml";
import { type LoadedTable, type LoadOptions, loadTable } from "@corbix/core/table";
import { parse } from "csv-parse/sync";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { forAll } from "../support/for-all.js";
import { protect, protectStandard } from "../support/protect.js";

const text = (content: string, options: LoadOptions = {}) => loadTable(Buffer.from(content), "visits.csv", options);
const values = (loaded: LoadedTable, name: string) => {
  const found = loaded.table.columns.find((one) => one.name === name);
  if (!found) throw new Error(`no column ${name}, but ${loaded.table.columns.map((one) => one.name).join(", ")}`);
  return found.values;
};
const names = (loaded: LoadedTable) => loaded.table.columns.map((one) => one.name);
const types = (loaded: LoadedTable) => Object.fromEntries(loaded.table.columns.map((one) => [one.name, one.type]));
const codes = (loaded: LoadedTable) => loaded.findings.map((one) => one.code);
const finding = (loaded: LoadedTable, code: string) => loaded.findings.find((one) => one.code === code);
const why = (loaded: LoadedTable, what: string) => loaded.decisions.find((one) => one.what === what)?.why;
const iso = (loaded: LoadedTable, name: string) =>
  values(loaded, name).map((value) => (value === null ? null : isoFromSerial(Number(value))));

function failure(work: () => unknown): CorbixError {
  try {
    work();
  } catch (error) {
    if (error instanceof CorbixError) return error;
    throw error;
  }
  throw new Error("it was read");
}

async function workbook(fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const VISITS = [
  ["Site", "Unit", "Fee"],
  ["Dock", "L1", 3],
  ["Quay", "L2", 4],
] as const;

/** An OpenDocument spreadsheet with the given body of `office:spreadsheet`. */
function ods(body: string, styles = ""): Uint8Array {
  const content = `<?xml version="1.0" encoding="UTF-8"?><office:document-content><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:spreadsheet>${body}</office:spreadsheet></office:body></office:document-content>`;
  return writeZip([
    { ...deflateEntry("mimetype", Buffer.from("application/vnd.oasis.opendocument.spreadsheet")) },
    deflateEntry("content.xml", Buffer.from(content)),
  ]);
}
const cell = (value: string) =>
  `<table:table-cell office:value-type="string"><text:p>${value}</text:p></table:table-cell>`;
const float = (value: number) =>
  `<table:table-cell office:value-type="float" office:value="${value}"><text:p>${value}</text:p></table:table-cell>`;
const row = (...cells: string[]) => `<table:table-row>${cells.join("")}</table:table-row>`;

describe("OpenDocument spreadsheets", () => {
  it("reads every kind of cell, repeated cells and rows, notes left out", () => {
    const loaded = loadTable(
      ods(
        `<table:table table:name="Visits">${row(cell("Site"), cell("Day"), cell("Share"), cell("Fee"), cell("Open"), cell("At"))}` +
          `<table:table-row table:number-rows-repeated="2">${cell("Harbour &amp; Sons").replace("<text:p>", "<office:annotation><text:p>a note</text:p></office:annotation><text:p>")}<table:table-cell office:value-type="date" office:date-value="2026-10-05"><text:p>05.10.26</text:p></table:table-cell><table:table-cell office:value-type="percentage" office:value="0.125"><text:p>12.5%</text:p></table:table-cell><table:table-cell office:value-type="currency" office:currency="CHF" office:value="12.5"><text:p>CHF 12.50</text:p></table:table-cell><table:table-cell office:value-type="boolean" office:boolean-value="true"><text:p>TRUE</text:p></table:table-cell><table:table-cell office:value-type="time" office:time-value="PT14H30M00S"><text:p>14:30</text:p></table:table-cell></table:table-row>` +
          `<table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="16384"/></table:table-row></table:table>`,
      ),
      "visits.ods",
    );
    expect(loaded.table.rowCount).toBe(2);
    expect(values(loaded, "Site")).toEqual(["Harbour & Sons", "Harbour & Sons"]);
    expect(iso(loaded, "Day")[1]).toBe("2026-10-05");
    expect(loaded.table.columns.map((one) => [one.type, one.unit])).toEqual([
      ["text", undefined],
      ["date", undefined],
      ["number", "%"],
      ["number", "CHF"],
      ["boolean", undefined],
      ["time", undefined],
    ]);
    expect(values(loaded, "At")[0]).toBeCloseTo(14.5 / 24, 10);
  });

  it("takes the largest visible sheet and names the hidden one", () => {
    const sheet = (name: string, style: string, rows: number) =>
      `<table:table table:name="${name}" table:style-name="${style}">${row(cell("Site"), cell("Fee"))}${row(cell("Dock"), float(3)).repeat(rows)}</table:table>`;
    const loaded = loadTable(
      ods(
        sheet("Cover", "ta1", 1) + sheet("Visits", "ta1", 9) + sheet("Old", "ta2", 30),
        `<style:style style:name="ta2" style:family="table"><style:table-properties table:display="false"/></style:style>`,
      ),
      "visits.ods",
    );
    expect(loaded.reading.sheet).toBe("Visits");
    expect(finding(loaded, "other-sheets")?.what).toContain('sheet "Old", which is hidden');
  });

  it("refuses a cell repeated beyond all limits", () => {
    const bomb = `<table:table table:name="V">${row(cell("Site"), cell("Fee"))}<table:table-row table:number-rows-repeated="1000000">${cell("x").replace("<table:table-cell", '<table:table-cell table:number-columns-repeated="16000"')}</table:table-row></table:table>`;
    expect(failure(() => loadTable(ods(bomb), "bomb.ods")).code).toBe("LIMIT_EXCEEDED");
  });
});

describe("JSON", () => {
  it("reads an array of records with values inside objects, and keeps long ids whole", () => {
    const loaded = text(
      '[{"id":12345678901234567890,"site":{"name":"Dock","open":true},"fee":3.5,"days":["Mon","Tue"]},{"id":12345678901234567891,"site":{"name":"Quay","open":false},"fee":null,"note":"a \\"12345678901234567890\\""}]',
    );
    expect(names(loaded)).toEqual(["id", "site.name", "site.open", "fee", "days", "note"]);
    expect(values(loaded, "id")).toEqual(["12345678901234567890", "12345678901234567891"]);
    expect(values(loaded, "fee")).toEqual([3.5, null]);
    expect(values(loaded, "days")[0]).toBe("Mon, Tue");
    expect(values(loaded, "note")[1]).toBe('a "12345678901234567890"');
    expect(loaded.table.rowNumbers).toEqual([1, 2]);
  });

  it("reads JSON lines, and the one array of an object", () => {
    expect(values(text('{"site":"Dock","fee":1}\n{"site":"Quay","fee":2}\n'), "fee")).toEqual([1, 2]);
    const wrapped = text('{"made":"2026-10-31","visits":[{"site":"Dock"},{"site":"Quay"}]}');
    expect(wrapped.table.rowCount).toBe(2);
    expect(why(wrapped, "records")).toContain("only list");
    expect(names(wrapped)).toEqual(["made", "site"]);
  });

  it("says in which line JSON is broken, and refuses endless nesting", () => {
    expect(failure(() => text('{"a":1}\n{"a":\n{"a":3}')).where).toContain("line 2");
    expect(failure(() => text(`[${'{"a":'.repeat(200)}1${"}".repeat(200)}]`)).code).toBe("LIMIT_EXCEEDED");
    expect(failure(() => text("[".repeat(100_000))).code).toBe("BAD_TABLE_FILE");
  });
});

describe("protected workbooks", () => {
  it("opens with the right password only", async () => {
    const plain = await workbook((book) => book.addWorksheet("Visits").addRows(VISITS.map((one) => [...one])));
    const locked = protect(plain, "Lift-Schacht 7");
    const load = (password?: string) => loadTable(locked, "visits.xlsx", password === undefined ? {} : { password });
    expect(values(load("Lift-Schacht 7"), "Fee")).toEqual([3, 4]);
    expect(failure(() => load()).message).toContain("protected by a password");
    expect(failure(() => load("lift-schacht 7")).message).toContain("not the right one");
  });

  it("opens those protected the older, standard way", async () => {
    const plain = await workbook((book) => book.addWorksheet("Visits").addRows(VISITS.map((one) => [...one])));
    const locked = protectStandard(plain, "Lift 7");
    expect(values(loadTable(locked, "visits.xlsx", { password: "Lift 7" }), "Site")).toEqual(["Dock", "Quay"]);
    expect(failure(() => loadTable(locked, "visits.xlsx", { password: "Lift 8" })).code).toBe("PASSWORD_NEEDED");
  });

  it("gives a clear error for a damaged one", async () => {
    const plain = await workbook((book) => book.addWorksheet("Visits").addRows(VISITS.map((one) => [...one])));
    const locked = protect(plain, "x");
    for (const at of [30, 48, 60, 520, 700, locked.length - 700]) {
      const damaged = Uint8Array.from(locked);
      damaged.fill(0xee, at, at + 8);
      try {
        loadTable(damaged, "visits.xlsx", { password: "x" });
      } catch (error) {
        expect(error).toBeInstanceOf(CorbixError);
      }
    }
  });
});

describe("workbooks", () => {
  it("reads strict ones, with dates written as text of ISO 8601", async () => {
    const bytes = await workbook((book) =>
      book.addWorksheet("Visits").addRows([
        ["Site", "Day"],
        ["Dock", "x"],
      ]),
    );
    const opened = OoxmlPackage.open(bytes);
    const strict = (part: string) =>
      opened
        .getText(part)
        .replaceAll(
          "http://schemas.openxmlformats.org/spreadsheetml/2006/main",
          "http://purl.oclc.org/ooxml/spreadsheetml/main",
        )
        .replaceAll(
          "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
          "http://purl.oclc.org/ooxml/officeDocument/relationships",
        );
    const parts = opened.names.filter((name) => /\.(xml|rels)$/.test(name));
    const changed = new Map(parts.map((name) => [name, strict(name)]));
    const sheet = "xl/worksheets/sheet1.xml";
    changed.set(
      sheet,
      (changed.get(sheet) ?? "").replace(/<c r="B2"[^>]*>.*?<\/c>/, '<c r="B2" t="d"><v>2026-10-05T14:30:00</v></c>'),
    );
    const loaded = loadTable(opened.with(changed).toBytes(), "strict.xlsx");
    expect(types(loaded).Day).toBe("datetime");
    expect(iso(loaded, "Day")).toEqual(["2026-10-05T14:30:00"]);
  });

  it("joins a header of two lines under merged cells, and keeps a merged title apart", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("Visits");
      sheet.addRow(["Inspection hours"]);
      sheet.mergeCells("A1:E1");
      sheet.addRow(["Site", "Hours", "", "Fee", ""]);
      sheet.addRow(["", "planned", "actual", "net", "gross"]);
      sheet.mergeCells("A2:A3");
      sheet.mergeCells("B2:C2");
      sheet.mergeCells("D2:E2");
      sheet.addRow(["Dock", 1, 2, 3, 4]);
      sheet.addRow(["Quay", 5, 6, 7, 8]);
    });
    const loaded = loadTable(bytes, "visits.xlsx");
    expect(names(loaded)).toEqual(["Site", "Hours planned", "Hours actual", "Fee net", "Fee gross"]);
    expect(why(loaded, "header")).toContain("merged");
    expect(loaded.table.rowCount).toBe(2);
  });

  it("reads the one table or range that was asked for, without its totals row", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("Visits");
      sheet.addRow(["Notes", "x", "y"]);
      sheet.addTable({
        name: "Lifts",
        ref: "B4",
        headerRow: true,
        totalsRow: true,
        columns: [
          { name: "Site", totalsRowLabel: "All" },
          { name: "Fee", totalsRowFunction: "sum" },
        ],
        rows: [
          ["Dock", 3],
          ["Quay", 4],
        ],
      });
      book.definedNames.add("Visits!$B$4:$B$5", "only_one");
    });
    const table = loadTable(bytes, "visits.xlsx", { table: "lifts" });
    expect(names(table)).toEqual(["Site", "Fee"]);
    expect(values(table, "Site")).toEqual(["Dock", "Quay"]);
    expect(values(loadTable(bytes, "visits.xlsx", { table: "only_one" }), "Site")).toEqual(["Dock"]);
    expect(failure(() => loadTable(bytes, "visits.xlsx", { table: "Lift" })).advice).toContain("Lifts");
  });

  it("takes the largest visible sheet, states hidden rows, and shows codes as their format does", async () => {
    const bytes = await workbook((book) => {
      book.addWorksheet("Cover").addRow(["Inspection office"]);
      const sheet = book.addWorksheet("Visits");
      sheet.addRow(["Code", "Share", "Fee"]);
      for (let index = 1; index < 40; index++) {
        const added = sheet.addRow([index, index / 100, index]);
        added.getCell(1).numFmt = "00000";
        added.getCell(2).numFmt = "0.0%";
        added.getCell(3).numFmt = '#,##0.00 "CHF"';
      }
      sheet.getRow(7).hidden = true;
    });
    const loaded = loadTable(bytes, "visits.xlsx");
    expect(loaded.reading.sheet).toBe("Visits");
    expect(values(loaded, "Code")[0]).toBe("00001");
    expect(loaded.table.columns.map((one) => one.unit)).toEqual([undefined, "%", "CHF"]);
    expect(finding(loaded, "hidden-rows")?.count).toBe(1);
  });
});

describe("finding the table", () => {
  it("proves the total line against the rows, and says where it does not agree", () => {
    const good = text("Site,Unit,Kind,Fee\nDock,L1,a,3\nQuay,L2,b,4.5\nTotal,,,7.5\n");
    expect(finding(good, "total-agrees")?.what).toContain("Fee 7.5");
    const bad = text("Site,Unit,Kind,Fee\nDock,L1,a,3\nQuay,L2,b,4.5\nTotal,,,9\n");
    expect(finding(bad, "total-differs")?.what).toContain("says 9, but the rows add up to 7.5");
  });

  it("leaves out subtotals named after their group", () => {
    const loaded = text(
      "Site,Unit,Kind,Fee\nDock,L1,a,3\nDock total,,,3\nQuay,L2,b,4\nQuay total,,,4\nGrand total,,,7\n",
    );
    expect(values(loaded, "Fee")).toEqual([3, 4]);
    expect(finding(loaded, "total-left-out")?.count).toBe(3);
  });

  it("stops at a second table below, and reads it where the header row is corrected", () => {
    const file = "Site,Fee\nDock,3\nQuay,4\n\n\nInspector,Hours\nBrandt,9\nOkoro,8\n";
    const loaded = text(file);
    expect(names(loaded)).toEqual(["Site", "Fee"]);
    expect(loaded.table.rowCount).toBe(2);
    expect(finding(loaded, "several-tables")?.what).toContain("row 6");
    const other = text(file, { headerRow: 6 });
    expect(names(other)).toEqual(["Inspector", "Hours"]);
    expect(values(text(file, { end: "last-row" }), "Site")).toHaveLength(5);
  });

  it("goes on over blank lines, and ends there where that was corrected", () => {
    const file = "Site,Fee\nDock,3\n\nQuay,4\n\nMill,5\n";
    expect(text(file).table.rowCount).toBe(3);
    expect(text(file, { end: "blank-row" }).table.rowCount).toBe(1);
    expect(text(file, { end: { row: 4 } }).table.rowCount).toBe(2);
  });

  it("leaves out a table beside this one, but not columns behind a blank one", () => {
    const rows = Array.from(
      { length: 12 },
      (_, index) => `Dock ${index},${index},,${index < 3 ? `x${index},${index}` : ","}`,
    );
    const beside = text(`Site,Fee,,Code,Rate\n${rows.join("\n")}\n`);
    expect(names(beside)).toEqual(["Site", "Fee"]);
    expect(finding(beside, "several-tables")?.what).toContain("D to E");
    expect(names(text("Site,Fee,,Code,Rate\nDock,1,,a,2\nQuay,3,,b,4\nMill,5,,c,6\n"))).toEqual([
      "Site",
      "Fee",
      "Code",
      "Rate",
    ]);
    expect(names(text(`Site,Fee,,Code,Rate\n${rows.join("\n")}\n`, { firstColumn: "D", lastColumn: "E" }))).toEqual([
      "Code",
      "Rate",
    ]);
  });

  it("counts every line of the file: rows and lines left out", () => {
    forAll(40, (random) => {
      const lines = ["Printed list", "Site,Unit,Kind,Fee"];
      for (let index = 0; index < 5 + random(30); index++)
        lines.push(["Dock,L1,a,3", "Quay,L2,b,4", "Total,,,7", "Site,Unit,Kind,Fee", "Mill,,,"][random(5)]);
      const loaded = text(`${lines.join("\n")}\n`);
      const left = loaded.leftOut.reduce((sum, one) => sum + one.count, 0);
      expect(loaded.table.rowCount + left).toBe(lines.length);
    });
  });
});

describe("types", () => {
  it("tells the decimal sign by the column, the file, or says that it cannot", () => {
    expect(values(text("Site;Fee\na;1.234,50\nb;1.234\n"), "Fee")).toEqual([1234.5, 1234]);
    expect(values(text('Site,Fee\na,"1,234.50"\nb,"1,234"\n'), "Fee")).toEqual([1234.5, 1234]);
    const byFile = text('Site,Fee,Rate\na,"1.234","12,50"\nb,"5.678","3,75"\n');
    expect(values(byFile, "Fee")).toEqual([1234, 5678]);
    expect(why(byFile, "type of Fee")).toContain("column Rate");
    const open = text('Site,Fee\na,"1,234"\nb,"5,678"\n');
    expect(codes(open)).toContain("ambiguous-numbers");
    expect(
      values(text('Site,Fee\na,"1,234"\nb,"5,678"\n', { types: { Fee: { type: "number", decimal: "comma" } } }), "Fee"),
    ).toEqual([1.234, 5.678]);
  });

  it("does not guess dates whose day and month could be swapped: text, until corrected once", () => {
    const file = "Site,Due\na,02/10/2026\nb,03/04/2026\n";
    const open = text(file);
    expect(types(open).Due).toBe("text");
    expect(finding(open, "ambiguous-dates")?.count).toBe(2);
    const corrected = text(file, { types: { Due: { type: "date", order: "month-first" } } });
    expect(iso(corrected, "Due")).toEqual(["2026-02-10", "2026-03-04"]);
    const byFile = text("Site,Due,Done\na,02/10/2026,25/10/2026\nb,03/04/2026,26/10/2026\n");
    expect(iso(byFile, "Due")).toEqual(["2026-10-02", "2026-04-03"]);
    expect(why(byFile, "type of Due")).toContain("column Done");
  });

  it.each([
    ["5 October 2026", "2026-10-05"],
    ["5. Okt. 2026", "2026-10-05"],
    ["5 octobre 2026", "2026-10-05"],
    ["Oct 5, 2026", "2026-10-05"],
    ["Monday, 5 October 2026", "2026-10-05"],
    ["2026/10/05", "2026-10-05"],
    ["5.10.26", "2026-10-05"],
    ["5.10.2026 14:30", "2026-10-05T14:30:00"],
    ["2026-10-05T14:30:00Z", "2026-10-05T14:30:00"],
    ["13/10/2026 2:30 pm", "2026-10-13T14:30:00"],
  ])("reads the date %s", (written, read) => {
    expect(iso(text(`Site;Day\na;${written}\n`), "Day")).toEqual([read]);
  });

  it.each(["31.02.2026", "5.13.2026 25:00", "2026-13-01", "1.2", "L1-2-2026"])(
    "does not take %s for a date",
    (written) => {
      expect(types(text(`Site;Day\na;${written}\nb;${written}\n`)).Day).not.toMatch(/date/);
    },
  );

  it("keeps codes, takes times and truth values, names currencies that are mixed", () => {
    const loaded = text("Code;At;Open;Fee;Answer\n007;14:30;true;CHF 2.50;yes\n008;9:05;false;EUR 3.00;no\n");
    expect(types(loaded)).toEqual({ Code: "text", At: "time", Open: "boolean", Fee: "number", Answer: "text" });
    expect(finding(loaded, "several-currencies")?.what).toContain("1 in CHF, 1 in EUR");
    const asked = text("Site;Open\na;yes\nb;no\nc;x\n", { types: { Open: { type: "boolean" } } });
    expect(values(asked, "Open")).toEqual([true, false, true]);
  });

  it("keeps a text of numbers as it was written: 1.50 stays 1.50", () => {
    const loaded = text("Site,Level\na,1.50\nb,2\nc,B1\nd,-1\ne,roof\n");
    expect(values(loaded, "Level")).toEqual(["1.50", "2", "B1", "-1", "roof"]);
  });

  it("lists every changed and unreadable cell with what stood there", () => {
    const rows = Array.from({ length: 30 }, (_, at) => `${at === 3 ? " Dock  1 " : "Dock"};${at === 9 ? "soon" : at}`);
    const { changes } = text(`Site;Hours\n${rows.join("\n")}\n`);
    expect(changes).toEqual([
      { column: "Site", kind: "blanks", rows: [5], raw: [" Dock  1 "] },
      { column: "Hours", kind: "unreadable", rows: [11], raw: ["soon"] },
    ]);
  });
});

describe("text files", () => {
  it("gives the same records as a general CSV reader, for random files", () => {
    const pieces = ["a", "Dock 1", "x;y", 'say "hi"', "two\nlines", " b ", "Zürich", "q,r", "n/a", "é"];
    forAll(150, (random) => {
      const width = 2 + random(4);
      const records = Array.from({ length: 2 + random(12) }, () =>
        Array.from({ length: width }, () => pieces[random(pieces.length)]),
      );
      const quote = (value: string) =>
        /[",\n]/.test(value) || random(3) === 0 ? `"${value.replaceAll('"', '""')}"` : value;
      const end = random(2) === 0 ? "\n" : "\r\n";
      const file = [Array.from({ length: width }, (_, at) => `Column ${"ABCDEF"[at]}x`), ...records]
        .map((record) => record.map(quote).join(","))
        .join(end);
      const oracle = (parse(file, { relaxColumnCount: true }) as string[][]).slice(1);
      const loaded = text(file, { headerRow: 1, end: "last-row" });
      const read = loaded.table.rowNumbers.map((_, at) => loaded.table.columns.map((one) => one.values[at]));
      const clean = (value: string) => value.replace(/[^\S\n]+/g, " ").trim();
      expect(read).toEqual(oracle.map((record) => record.map(clean)));
    });
  });

  it("reads apostrophes as quotes, a line that names its delimiter, and UTF-16 without a mark", () => {
    expect(values(text("'Site','Note'\n'Dock','a, b'\n'Quay','c'\n"), "Note")).toEqual(["a, b", "c"]);
    expect(values(text("sep=|\nSite|Note\nDock|a,b\nQuay|c,d\n"), "Note")).toEqual(["a,b", "c,d"]);
    const utf16 = loadTable(Buffer.from("Site;Fee\nDock;3\nQuay;4\n", "utf16le"), "visits.csv");
    expect(utf16.reading.encoding).toBe("UTF-16LE");
    expect(values(utf16, "Fee")).toEqual([3, 4]);
  });
});

describe("hostile files", () => {
  const sheetOf = async (xml: string): Promise<Uint8Array> => {
    const bytes = await workbook((book) => book.addWorksheet("Visits").addRows(VISITS.map((one) => [...one])));
    return OoxmlPackage.open(bytes)
      .with(new Map([["xl/worksheets/sheet1.xml", `<worksheet><sheetData>${xml}</sheetData></worksheet>`]]))
      .toBytes();
  };

  it("refuses a zip bomb by its promised size, and one that lies about it", async () => {
    const zeros = deflateEntry("xl/worksheets/sheet1.xml", Buffer.alloc(50_000_000));
    expect(failure(() => loadTable(writeZip([{ ...zeros, size: 2_000_000_000 }]), "bomb.xlsx")).code).toBe(
      "LIMIT_EXCEEDED",
    );
    const bytes = await workbook((book) => book.addWorksheet("Visits").addRows(VISITS.map((one) => [...one])));
    const opened = OoxmlPackage.open(bytes);
    const entries = opened.names.map((name) => deflateEntry(name, opened.getBytes(name)));
    const lying = entries.map((entry) => (entry.name.includes("sheet1") ? { ...zeros, size: 400 } : entry));
    expect(failure(() => loadTable(writeZip(lying), "bomb.xlsx")).code).toBe("BROKEN_PACKAGE");
  });

  it("refuses a million columns and rows beyond the last, and cells strewn over the whole sheet", async () => {
    expect(
      (
        await sheetOf('<row r="1"><c r="ZZZZ1"><v>1</v></c></row>').then((bytes) =>
          failure(() => loadTable(bytes, "x.xlsx")),
        )
      ).code,
    ).toBe("LIMIT_EXCEEDED");
    expect(
      (
        await sheetOf('<row r="9999999"><c r="A9999999"><v>1</v></c></row>').then((bytes) =>
          failure(() => loadTable(bytes, "x.xlsx")),
        )
      ).code,
    ).toBe("LIMIT_EXCEEDED");
    expect(failure(() => text(`${",".repeat(1_000_000)}x\n`)).code).toMatch(/LIMIT_EXCEEDED|NO_TABLE/);
    const letters = (at: number): string =>
      at < 26 ? String.fromCharCode(65 + at) : letters(Math.floor(at / 26) - 1) + String.fromCharCode(65 + (at % 26));
    const strewn = await sheetOf(
      Array.from({ length: 16_000 }, (_, at) => `<row><c r="${letters(at)}${at + 1}"><v>1</v></c></row>`).join(""),
    );
    expect(failure(() => loadTable(strewn, "x.xlsx")).code).toBe("LIMIT_EXCEEDED");
  });

  it("takes formulas, links and external entities for what they are: text, or nothing", async () => {
    const loaded = text('Site,Note\nDock,"=HYPERLINK(""http://x.example"",""y"")"\nQuay,@SUM(1)\n');
    expect(values(loaded, "Note")).toEqual(['=HYPERLINK("http://x.example","y")', "@SUM(1)"]);
    const entity = ods(
      `<table:table table:name="V">${row(cell("Site"), cell("Fee"))}${row(cell("&secret;"), float(3))}</table:table>`,
    );
    expect(values(loadTable(entity, "x.ods"), "Site")[0]).toBe("&secret;");
  });

  it("read a number that no day or time can be as the number it is, whatever its format says", async () => {
    const bytes = await workbook((book) => {
      const sheet = book.addWorksheet("Visits");
      sheet.addRow(["Site", "Day", "Time"]);
      for (let index = 1; index < 12; index++)
        sheet.addRow([`S${index}`, index === 5 ? 1e17 : 46_000, index === 6 ? -3e15 : 0.5]);
      sheet.getColumn(2).numFmt = "yyyy-mm-dd";
      sheet.getColumn(3).numFmt = "hh:mm";
    });
    const { table, changes } = loadTable(bytes, "x.xlsx");
    expect(table.rowCount).toBe(11);
    expect(JSON.stringify(changes)).toContain("100000000000000000");
  });

  it("neither crashes nor hangs on damaged files of any kind", async () => {
    const plain = await workbook((book) => {
      const sheet = book.addWorksheet("Visits");
      for (let index = 0; index < 30; index++)
        sheet.addRow(
          index === 0 ? ["Site", "Fee", "Day"] : [`Site ${index}`, index / 4, new Date(Date.UTC(2026, 9, index))],
        );
      sheet.mergeCells("A30:B30");
    });
    const opened = OoxmlPackage.open(plain);
    const files: [string, Uint8Array][] = [
      ["x.xlsx", plain],
      [
        "x.ods",
        ods(
          `<table:table table:name="V">${row(cell("Site"), cell("Fee"))}${row(cell("Dock"), float(3)).repeat(20)}</table:table>`,
        ),
      ],
      ["x.csv", Buffer.from(`Site;Fee;Day\n${'Dock;3,50;"5.10.2026"\n'.repeat(20)}`)],
      ["x.json", Buffer.from(`[${'{"site":"Dock","fee":3.5,"at":{"day":"2026-10-05"}},'.repeat(20)}{"site":"Quay"}]`)],
      ["p.xlsx", protect(plain, "x", 10)],
    ];
    let refused = 0;
    for (const [name, good] of files) {
      forAll(150, (random) => {
        const bytes = Uint8Array.from(random(8) === 0 ? good.subarray(0, random(good.length)) : good);
        for (let change = 0; change < 1 + random(8) && bytes.length > 0; change++)
          bytes[random(bytes.length)] = random(256);
        refused += attempt(bytes, name);
      });
    }
    // Inside the package, where checksums no longer catch it: the sheet's own text is damaged.
    const part = "xl/worksheets/sheet1.xml";
    forAll(200, (random) => {
      const xml = Uint8Array.from(opened.getBytes(part));
      for (let change = 0; change < 1 + random(6); change++) xml[random(xml.length)] = 32 + random(95);
      refused += attempt(opened.with(new Map([[part, xml]])).toBytes(), "x.xlsx");
    });
    expect(refused).toBeGreaterThan(100);
  });

  function attempt(bytes: Uint8Array, name: string): number {
    try {
      loadTable(bytes, name, { password: "x" });
      return 0;
    } catch (error) {
      if (!(error instanceof CorbixError)) throw error;
      return 1;
    }
  }
});
