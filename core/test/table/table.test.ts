import { CorbixError, isoFromSerial } from "@corbix/core/common";
import { loadTable } from "@corbix/core/table";
import ExcelJS from "exceljs";
import iconv from "iconv-lite";
import { describe, expect, it } from "vitest";

const csv = (text: string, encoding = "utf8") => loadTable(iconv.encode(text, encoding), "visits.csv");
const column = (loaded: ReturnType<typeof loadTable>, name: string) => {
  const found = loaded.table.columns.find((one) => one.name === name);
  if (!found) throw new Error(`no column ${name}`);
  return found;
};
const codes = (loaded: ReturnType<typeof loadTable>) => loaded.findings.map((finding) => finding.code);

async function workbook(fill: (sheet: ExcelJS.Worksheet) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book.addWorksheet("Visits"));
  return new Uint8Array(await book.xlsx.writeBuffer());
}

describe("text files", () => {
  it.each([
    [",", "comma"],
    [";", "semicolon"],
    ["\t", "tabulator"],
    ["|", "bar"],
  ])("finds the delimiter %j", (sign, name) => {
    const loaded = csv(
      ["Site", "Unit", "Fee"].join(sign) +
        "\n" +
        ["Dock", "L1", "3"].join(sign) +
        "\n" +
        ["Quay", "L2", "4"].join(sign),
    );
    expect(loaded.reading.delimiter).toBe(name);
    expect(column(loaded, "Fee").values).toEqual([3, 4]);
  });

  it.each(["utf8", "utf16le", "utf-16be", "windows-1252"])("reads %s", (encoding) => {
    const mark = encoding.startsWith("utf16") || encoding.startsWith("utf-16") ? "\ufeff" : "";
    const loaded = csv(`${mark}Site,Note\nZürich,Größe\nKöln,Straße\n`, encoding);
    expect(column(loaded, "Site").values).toEqual(["Zürich", "Köln"]);
  });

  it("keeps quoted line ends, commas and quotes", () => {
    const loaded = csv('Site,Note\nDock,"one\ntwo, ""three"""\nQuay,plain\n');
    expect(column(loaded, "Note").values[0]).toBe('one\ntwo, "three"');
  });

  it("keeps codes as text: leading zeros and long ids", () => {
    const loaded = csv("Code,Id\n00123,12345678901234567890\n00456,12345678901234567891\n");
    expect(column(loaded, "Code").values).toEqual(["00123", "00456"]);
    expect(column(loaded, "Id").values).toEqual(["12345678901234567890", "12345678901234567891"]);
  });

  it("reads money as people write it", () => {
    const loaded = csv(`A;B\n"1'234.50";1.234,50\n"CHF 2.00";2,00\n(3.25);-3,25\n`);
    expect(column(loaded, "A").values).toEqual([1234.5, 2, -3.25]);
    expect(column(loaded, "B").values).toEqual([1234.5, 2, -3.25]);
  });

  it("reports dates it cannot be sure of instead of guessing in silence", () => {
    const sure = csv("Day,Site\n25/10/2026,a\n03/04/2026,b\n");
    expect(column(sure, "Day").values.map((value) => isoFromSerial(Number(value)))).toEqual([
      "2026-10-25",
      "2026-04-03",
    ]);
    expect(codes(sure)).not.toContain("ambiguous-dates");
    const unsure = csv("Day,Site\n02/10/2026,a\n03/04/2026,b\n");
    expect(codes(unsure)).toContain("ambiguous-dates");
    const american = csv("Day,Site\n10/25/2026,a\n03/04/2026,b\n");
    expect(isoFromSerial(Number(column(american, "Day").values[1]))).toBe("2026-03-04");
  });
});

describe("finding the table", () => {
  it("finds the header below titles and leaves out total, repeated header and note, and says so", () => {
    const loaded = csv(
      "Inspection visits,,\nMarch,,\n,,\nSite,Unit,Fee\nDock,L1,3\nSite,Unit,Fee\nQuay,L2,4\nTotal,,7\nPrinted by A. Brandt,,\n",
    );
    expect(loaded.headerRow).toBe(4);
    expect(loaded.table.rowNumbers).toEqual([5, 7]);
    expect(loaded.leftOut.map((entry) => [entry.reason, entry.count])).toEqual([
      ["title", 2],
      ["header", 1],
      ["repeated header", 1],
      ["total", 1],
      ["note", 1],
    ]);
    expect(codes(loaded)).toContain("total-left-out");
  });

  it("leaves out a last line that says Total, also where the table is narrow and the line full", () => {
    const loaded = csv("Site;Reading\nDock;1\nQuay;2\nTotal:;3\n");
    expect(loaded.table.rowNumbers).toEqual([2, 3]);
    expect(codes(loaded)).toContain("total-left-out");
  });

  it("keeps a site that is called Total Fitness", () => {
    const loaded = csv("Site,Unit,Fee\nTotal Fitness,L1,3\nDock,L2,4\n");
    expect(loaded.table.rowCount).toBe(2);
  });

  it("counts a blank column name and a name used twice as findings", () => {
    const loaded = csv("Site,Fee,Fee,\nDock,1,2,x\nQuay,3,4,y\n");
    expect(loaded.table.columns.map((one) => one.name)).toEqual(["Site", "Fee", "Fee 2", "Column D"]);
    expect(codes(loaded)).toEqual(expect.arrayContaining(["column-named-twice", "column-without-name"]));
  });

  it("lists what could not be read, with its row", () => {
    const rows = Array.from({ length: 20 }, (_, index) => `Dock,${index === 7 ? "soon" : index}`).join("\n");
    const loaded = csv(`Site,Hours\n${rows}\n`);
    const finding = loaded.findings.find((one) => one.code === "unreadable-cell");
    expect(finding?.what).toContain("row 9");
    expect(column(loaded, "Hours").values[7]).toBeNull();
  });
});

describe("workbooks", () => {
  it("reads dates, numbers, truth values, formula results and errors", async () => {
    const bytes = await workbook((sheet) => {
      sheet.addRow(["Day", "Site", "Fee", "Open", "Sum"]);
      for (let index = 1; index <= 12; index++) {
        const row = sheet.addRow([
          new Date(Date.UTC(2026, 9, index)),
          `Site ${index}`,
          index / 10,
          index % 2 === 0,
          { formula: "1+1", result: 2 },
        ]);
        row.getCell(1).numFmt = "dd/mm/yyyy";
      }
      sheet.getCell("C5").value = { error: "#N/A" };
    });
    const loaded = loadTable(bytes, "visits.xlsx");
    expect(loaded.table.columns.map((one) => one.type)).toEqual(["date", "text", "number", "boolean", "number"]);
    expect(isoFromSerial(Number(column(loaded, "Day").values[0]))).toBe("2026-10-01");
    expect(codes(loaded)).toContain("error-value");
  });

  it("reads a typed date in a column of dates, and says which row", async () => {
    const bytes = await workbook((sheet) => {
      sheet.addRow(["Day", "Site"]);
      for (let index = 1; index <= 12; index++)
        sheet.addRow([index === 3 ? "3.10.2026" : new Date(Date.UTC(2026, 9, index)), "Dock"]).getCell(1).numFmt =
          "d.m.yyyy";
    });
    const loaded = loadTable(bytes, "visits.xlsx");
    expect(isoFromSerial(Number(column(loaded, "Day").values[2]))).toBe("2026-10-03");
    expect(loaded.findings.find((one) => one.code === "read-as-type")?.what).toContain("row 4");
  });
});

describe("files that cannot be read", () => {
  const failure = (bytes: Uint8Array, name = "visits.xlsx"): CorbixError => {
    try {
      loadTable(bytes, name);
    } catch (error) {
      if (error instanceof CorbixError) return error;
      throw error;
    }
    throw new Error("it was read");
  };

  it("names what is wrong and what to do", async () => {
    const good = await workbook((sheet) => sheet.addRow(["Site", "Fee"]));
    expect(failure(new Uint8Array()).message).toContain("it is empty");
    expect(failure(good.slice(0, 900)).message).toContain("no zip directory");
    expect(failure(Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1])).code).toBe("BROKEN_PACKAGE");
    expect(failure(Buffer.from([1, 0, 2, 0, 3])).advice).toContain("text file");
    expect(failure(Buffer.from("1,2,3\n4,5,6\n"), "numbers.csv").code).toBe("NO_TABLE");
    expect(failure(Buffer.from('a,"b\nc'), "open.csv").code).toBe("BAD_TABLE_FILE");
  });

  it("neither crashes nor hangs on damaged workbooks", async () => {
    const good = await workbook((sheet) => {
      sheet.addRow(["Site", "Fee"]);
      for (let index = 0; index < 20; index++) sheet.addRow([`Site ${index}`, index]);
    });
    let seed = 7;
    const random = (limit: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return seed % limit;
    };
    let refused = 0;
    for (let round = 0; round < 300; round++) {
      const bytes = good.slice();
      for (let change = 0; change < 1 + random(6); change++) bytes[random(bytes.length)] = random(256);
      try {
        loadTable(bytes, "damaged.xlsx");
      } catch (error) {
        expect(error).toBeInstanceOf(CorbixError);
        refused++;
      }
    }
    expect(refused).toBeGreaterThan(100);
  });
});
