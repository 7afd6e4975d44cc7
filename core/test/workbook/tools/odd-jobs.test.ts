import { openWorkbook } from "@corbix/core/spreadsheet";
import { compareWorkbooks, replaceWords, sheetsApart, type WordRule } from "@corbix/core/workbook";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeWorkbook, openElsewhere, shown } from "../../support/helpers.js";

const compare = (first: Uint8Array, second: Uint8Array) =>
  compareWorkbooks({ bytes: first, where: "first" }, { bytes: second, where: "second" });
const texts = async (bytes: Uint8Array, name = "Sheet one") => {
  const sheet = (await openElsewhere(bytes)).getWorksheet(name);
  if (!sheet) throw new Error(`no sheet ${name}`);
  return (cell: string) => shown(sheet, cell);
};

describe("comparing workbooks", () => {
  const book = (change: (sheet: import("exceljs").Worksheet, book: import("exceljs").Workbook) => void = () => {}) =>
    makeWorkbook((made, sheet) => {
      sheet.getCell("A1").value = "Dock";
      sheet.getCell("B1").value = 3.5;
      sheet.getCell("B1").numFmt = "0.00";
      sheet.getCell("C1").value = { formula: "B1*2", result: 7 };
      sheet.getCell("D1").value = true;
      sheet.getCell("E1").value = new Date(Date.UTC(2026, 10, 2));
      change(sheet, made);
    });

  it("finds nothing between a workbook and itself, and counts the cells that were looked at", async () => {
    const bytes = await book();
    expect(compare(bytes, bytes)).toEqual({ cells: 5, differences: [] });
  });

  it("tells values, formulas, formats and cells of one only, in the order of the sheet", async () => {
    const other = await book((sheet) => {
      sheet.getCell("A1").value = "Quay";
      sheet.getCell("B1").numFmt = "0";
      sheet.getCell("C1").value = { formula: "B1*3", result: 10.5 };
      sheet.getCell("D1").value = null;
      sheet.getCell("A3").value = "new";
    });
    const { cells, differences } = compare(await book(), other);
    expect(cells).toBe(6);
    expect(differences.map((one) => [one.cell, one.what, one.first, one.second])).toEqual([
      ["A1", "value", "Dock", "Quay"],
      ["B1", "format", "0.00", "0"],
      ["C1", "value", "7", "10.5"],
      ["C1", "formula", "B1*2", "B1*3"],
      ["D1", "only in the first", "TRUE", ""],
      ["A3", "only in the second", "", "new"],
    ]);
  });

  it("takes sheets for the same by their name whatever its capitals, and names those of one workbook only", async () => {
    const first = await makeWorkbook((made, sheet) => {
      sheet.name = "VISITS";
      sheet.getCell("A1").value = 1;
      made.addWorksheet("Notes");
    });
    const second = await makeWorkbook((made, sheet) => {
      sheet.name = "visits";
      sheet.getCell("A1").value = 1;
      made.addWorksheet("More");
    });
    expect(compare(first, second).differences.map((one) => [one.sheet, one.what])).toEqual([
      ["Notes", "only in the first"],
      ["More", "only in the second"],
    ]);
  });

  it("takes numbers that programs write differently for the same, to fifteen digits and no further", async () => {
    const one = (value: number) =>
      makeWorkbook((_, sheet) => {
        sheet.getCell("A1").value = value;
      });
    expect(compare(await one(0.1 + 0.2), await one(0.3)).differences).toEqual([]);
    expect(compare(await one(0.3), await one(0.30000000000001)).differences).toHaveLength(1);
  });

  it("refuses what is no workbook, and says which of the two", async () => {
    const bytes = await book();
    expect(() => compare(bytes, new TextEncoder().encode("Site,Fee"))).toThrow(/workbook/);
  });
});

describe("replacing words", () => {
  const filled = (cells: Record<string, string>) =>
    makeWorkbook((_, sheet) => {
      for (const [name, value] of Object.entries(cells)) sheet.getCell(name).value = value;
    });
  const replace = (bytes: Uint8Array, rule: WordRule) => replaceWords(bytes, "book", rule);
  const one = async (text: string, rule: WordRule) => {
    const made = replace(await filled({ A1: text }), rule);
    return (await texts(made.package.toBytes()))("A1");
  };

  it("changes what it finds, says where, and leaves everything else letter for letter", async () => {
    const bytes = await filled({ A1: "Old Mill, east", B2: "nothing of it", C3: "the Old Mill & <Old Mill>" });
    const made = replace(bytes, { pairs: [{ from: "Old Mill", to: "New & <Mill>" }] });
    expect(made.cells).toEqual([
      { sheet: "Sheet one", cell: "A1", before: "Old Mill, east", after: "New & <Mill>, east" },
      {
        sheet: "Sheet one",
        cell: "C3",
        before: "the Old Mill & <Old Mill>",
        after: "the New & <Mill> & <New & <Mill>>",
      },
    ]);
    const cell = await texts(made.package.toBytes());
    expect([cell("A1"), cell("B2"), cell("C3")]).toEqual([
      "New & <Mill>, east",
      "nothing of it",
      "the New & <Mill> & <New & <Mill>>",
    ]);
    const parts = openWorkbook(bytes, "b").package;
    for (const name of parts.names)
      if (!/sharedStrings/.test(name)) expect(made.package.getBytes(name)).toEqual(parts.getBytes(name));
  });

  it("gives back the very package where nothing is found", async () => {
    const made = replace(await filled({ A1: "Dock" }), { pairs: [{ from: "Quay", to: "x" }] });
    expect(made.cells).toEqual([]);
  });

  it("looks for whole words and without regard to capitals where it is told to, in any script", async () => {
    const pairs = [{ from: "mill", to: "weir" }];
    expect(await one("mill windmill Mill mill-pond", { pairs })).toBe("weir windweir Mill weir-pond");
    expect(await one("mill windmill Mill mill-pond", { pairs, whole: true })).toBe("weir windmill Mill weir-pond");
    expect(await one("mill windmill MILL", { pairs, whole: true, anyCase: true })).toBe("weir windmill weir");
    expect(
      await one("Мельница и мельницы", { pairs: [{ from: "мельница", to: "ж" }], whole: true, anyCase: true }),
    ).toBe("ж и мельницы");
  });

  it("takes several words at once: what one puts in is no other's, and the longer one counts", async () => {
    const pairs = [
      { from: "A", to: "B" },
      { from: "B", to: "A" },
      { from: "AB", to: "long" },
    ];
    expect(await one("A B AB BA", { pairs })).toBe("B A long AB");
    expect(
      await one("a.c (x) [y]", {
        pairs: [
          { from: "a.c", to: "1" },
          { from: "(x)", to: "$&" },
          { from: "[y]", to: "\\" },
        ],
      }),
    ).toBe("1 $& \\");
  });

  it("finds a word over several runs of rich text, and puts it into the looks of the first", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.getCell("A1").value = {
        richText: [
          { text: "the Ol", font: { bold: true } },
          { text: "d Mi", font: { italic: true } },
          { text: "ll ends", font: { size: 20 } },
        ],
      };
    });
    const made = replace(bytes, { pairs: [{ from: "Old Mill", to: "Weir" }] });
    const cell = (await openElsewhere(made.package.toBytes())).getWorksheet("Sheet one")?.getCell("A1").value;
    const { richText } = cell as { richText: { text: string; font?: { bold?: boolean; size?: number } }[] };
    expect(richText.map((run) => run.text).join("")).toBe("the Weir ends");
    expect(richText.find((run) => run.text.includes("Weir"))?.font?.bold).toBe(true);
    expect(richText.at(-1)?.font?.size).toBe(20);
  });

  it("does over any cut into runs what it does to the text as a whole", () => {
    const words = fc.constantFrom("mill", "mi", "l", "a", "ll m", "Dock & Sons");
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("mill", "windmill", "a", " ", "ll m", "x", "Dock & Sons", "<b>"), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.uniqueArray(fc.record({ from: words, to: fc.constantFrom("", "W", "longer text", "&<>\"'") }), {
          selector: (pair) => pair.from,
          minLength: 1,
          maxLength: 3,
        }),
        fc.array(fc.nat(40), { maxLength: 4 }),
        (pieces, pairs, cuts) => {
          const text = pieces.join("");
          const at = [0, ...cuts.filter((cut) => cut < text.length), text.length].sort((a, b) => a - b);
          const runs = at.slice(1).map((end, index) => text.slice(at[index], end));
          const escape = (one: string) => one.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
          const item = runs.map((run) => `<r><rPr><b/></rPr><t xml:space="preserve">${escape(run)}</t></r>`).join("");
          const bytes = bookWith(`<si>${item}</si>`);
          const sorted = [...pairs].sort((a, b) => b.from.length - a.from.length);
          const pattern = new RegExp(sorted.map((one) => one.from.replace(/[&]/g, "\\$&")).join("|"), "g");
          const expected = text.replace(pattern, (found) => pairs.find((one) => one.from === found)?.to ?? found);
          const made = replaceWords(bytes, "b", { pairs });
          expect(made.cells[0]?.after ?? text).toBe(expected);
          expect(openWorkbook(made.package.toBytes(), "b").sharedStrings[0]).toBe(expected);
        },
      ),
      { numRuns: 150 },
    );
  });
});

let template: Uint8Array;
function bookWith(item: string): Uint8Array {
  const opened = openWorkbook(template, "t");
  const part = opened.package.names.find((name) => /sharedStrings/.test(name)) ?? "";
  const text = opened.package.getText(part).replace(/<si>[\s\S]*<\/si>/, () => item);
  return opened.package.with(new Map([[part, text]])).toBytes();
}
template = await makeWorkbook((_, sheet) => {
  sheet.getCell("A1").value = "one";
});

describe("sheets apart", () => {
  it("are workbooks of their own with values only, named after the sheet, without hidden ones", async () => {
    const bytes = await makeWorkbook((made, sheet) => {
      sheet.getCell("A1").value = 4;
      sheet.getCell("B1").value = { formula: "A1*2" } as never;
      made.addWorksheet("CON").getCell("A1").value = { formula: "'Sheet one'!A1+1", result: 5 };
      made.addWorksheet("sheet one.").getCell("A1").value = "other";
      const hidden = made.addWorksheet("Secret");
      hidden.state = "hidden";
      hidden.getCell("A1").value = "not for everybody";
    });
    const made = [...sheetsApart(bytes, "book.xlsx", 46_328)];
    expect(made.map((one) => one.sheet)).not.toContain("Secret");
    expect(new Set(made.map((one) => one.file.toLowerCase())).size).toBe(made.length);
    for (const { file, bytes: own } of made) {
      expect(file).toMatch(/^[^/\\:*?"<>|]+\.xlsx$/);
      const opened = openWorkbook(own, file);
      expect(opened.sheets).toHaveLength(1);
      for (const name of opened.package.names)
        if (/\.xml$/.test(name)) {
          expect(opened.package.getText(name)).not.toMatch(/<(?:\w+:)?f[ >]/);
          expect(opened.package.getText(name)).not.toContain("not for everybody");
        }
    }
    const first = await texts(made[0]?.bytes ?? new Uint8Array());
    // The formula had no stored value: it was calculated.
    expect([first("A1"), first("B1")]).toEqual([4, 8]);
  });
});
