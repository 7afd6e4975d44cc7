/** One template filled from one record, as the command does it. */
import { OoxmlPackage } from "@corbix/core/ooxml";
import { fillFromRecord } from "@corbix/core/run";
import { Bookmark, Document, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from "docx";
import { describe, expect, it } from "vitest";
import {
  makeWorkbook,
  openElsewhere,
  readDocumentElsewhere,
  readElsewhere,
  record,
  shown,
} from "../support/helpers.js";
import { problemsOf } from "../support/validate.js";

const fill = (bytes: Uint8Array, name: string, value: Record<string, unknown>) => {
  const filled = fillFromRecord(bytes, name, record(value), new Map());
  return { ...filled, bytes: filled.package.toBytes(), codes: filled.findings.map((one) => one.code) };
};

const withTables = makeWorkbook((book, sheet) => {
  const columns = [{ name: "Unit" }, { name: "Fee" }];
  sheet.addTable({ name: "Visits", ref: "A1", columns, rows: [["sample", 1]] });
  sheet.getCell("D1").value = { formula: "SUM(Visits[Fee])", result: 0 };
  const other = book.addWorksheet("Costs");
  other.addTable({ name: "Costs", ref: "B2", columns: [{ name: "Kind" }, { name: "Amount" }], rows: [["sample", 1]] });
});

const document = async (children: readonly (Paragraph | Table)[]): Promise<Uint8Array> =>
  new Uint8Array(await Packer.toBuffer(new Document({ sections: [{ children }] })));

describe("a template filled from one record", () => {
  it("has its defined tables filled by their headings, each from the list of its name", async () => {
    const { bytes, codes } = fill(await withTables, "t.xlsx", {
      lines: [
        { unit: "L1", fee: 3 },
        { unit: "L2", fee: 4 },
      ],
      costs: [{ kind: "parts", amount: 9 }],
    });
    expect([problemsOf(bytes), codes]).toEqual([[], []]);
    const [visits, costs] = (await openElsewhere(bytes)).worksheets;
    expect(["A2", "B2", "A3", "B3", "D1"].map((cell) => shown(visits, cell))).toEqual(["L1", 3, "L2", 4, 7]);
    expect(["B3", "C3"].map((cell) => shown(costs, cell))).toEqual(["parts", 9]);
  });

  it("leaves a table alone that has marks of its own, or headings that are nothing of the record's", async () => {
    const marked = await makeWorkbook((_, sheet) => {
      const columns = [{ name: "Unit" }, { name: "Fee" }];
      sheet.addTable({ name: "Visits", ref: "A1", columns, rows: [["{{ line.unit }}", "twice {{ line.fee }}"]] });
    });
    const sheet = (await openElsewhere(fill(marked, "t.xlsx", { lines: [{ unit: "L1", fee: 3 }] }).bytes))
      .worksheets[0];
    expect(["A2", "B2"].map((cell) => shown(sheet, cell))).toEqual(["L1", "twice 3"]);
    const { codes, bytes } = fill(await withTables, "t.xlsx", { lines: [{ site: "Dock" }] });
    expect(codes).toEqual(["nothing-to-fill"]);
    const [before, after] = [await withTables, bytes].map((file) => OoxmlPackage.open(file, "x"));
    for (const name of before.names) expect(after.getText(name)).toBe(before.getText(name));
  });

  it("says that there is nothing to fill, of documents too, and not where a bookmark was filled", async () => {
    const plain = await document([new Paragraph("Nothing here")]);
    expect(fill(plain, "t.docx", { site: "Dock" }).codes).toEqual(["nothing-to-fill"]);
    const marked = await document([
      new Paragraph({ children: [new Bookmark({ id: "site", children: [new TextRun("where")] })] }),
    ]);
    const filled = fill(marked, "t.docx", { site: "Dock" });
    expect([filled.codes, readDocumentElsewhere(filled.bytes)]).toEqual([[], ["Dock"]]);
  });

  it("with no lines at all repeats nothing, whatever columns the marks name", async () => {
    const rows = new Table({
      rows: ["Unit", "{{ line.unit }}"].map(
        (text) => new TableRow({ children: [new TableCell({ children: [new Paragraph(text)] })] }),
      ),
    });
    const letter = await document([new Paragraph("Dear {{ site }}, {{ count(line) }} for {{ sum(line.fee) }}"), rows]);
    for (const value of [{ site: "Dock", lines: [] }, { site: "Dock" }])
      expect(readDocumentElsewhere(fill(letter, "t.docx", value).bytes)).toEqual(["Dear Dock, 0 for 0", "Unit"]);
    const book = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
      sheet.addRow(["total", { formula: "SUM(B1:B1)", result: 1 }]);
    });
    const { bytes } = fill(book, "t.xlsx", { lines: [] });
    expect(readElsewhere(bytes, "print(book.active['A1'].value, book.active['B2'].value)")).toBe("None 0");
  });

  it("tells marks that come out blank in the middle of a text, as a run does", async () => {
    const letter = await document([new Paragraph("Dear {{ contact }}, of {{ site }}.")]);
    const { codes } = fill(letter, "t.docx", { site: "Dock", contact: "" });
    expect(codes).toEqual(["blank-in-text"]);
  });
});
