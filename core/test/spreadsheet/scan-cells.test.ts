import { CorbixError } from "@corbix/core/common";
import { parseXml } from "@corbix/core/ooxml";
import { maybeCell, scanCells } from "@corbix/core/spreadsheet";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

interface Cell {
  readonly row: number;
  readonly column: number;
  readonly style: number;
  readonly type: string;
  readonly formula: string | undefined;
  readonly value: string | undefined;
}

function scanned(xml: string): Cell[] {
  const cells: Cell[] = [];
  scanCells(Buffer.from(xml), ({ row, column, style, type, formula, value }) => {
    cells.push({ row, column, style, type, formula, value });
  });
  return cells;
}

/** The same by the tree of the whole part. */
function fromTree(xml: string): Cell[] {
  const cells: Cell[] = [];
  let row = -1;
  for (const line of parseXml(xml, "x").root.child("sheetData")?.elements("row") ?? []) {
    row = line.attr("r") === undefined ? row + 1 : Number(line.attr("r")) - 1;
    let column = -1;
    for (const cell of line.elements("c")) {
      const place = maybeCell(cell.attr("r") ?? "");
      column = place?.column ?? column + 1;
      const inline = cell.child("is");
      const runs = inline?.elements("r").map((run) => run.child("t")?.text ?? "");
      const texts = inline && [...inline.elements("t").map((one) => one.text), ...(runs ?? [])];
      const value = texts ? texts.join("") : cell.child("v")?.text;
      const formula = cell.child("f")?.text;
      if (value === undefined && formula === undefined) continue;
      cells.push({ row, column, style: Number(cell.attr("s") ?? 0), type: cell.attr("t") ?? "n", formula, value });
    }
  }
  return cells;
}

const escaped = (text: string): string => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
const text = fc
  .array(
    fc.oneof(
      fc.string({ unit: fc.constantFrom(..."aé日 &<>'\"=;1") }).map(escaped),
      fc.constantFrom("&#233;", "&#x65E5;", "&quot;", "<![CDATA[a<b>&c]]>", "<![CDATA[]]>"),
    ),
    { maxLength: 4 },
  )
  .map((parts) => parts.join(""));
const LETTERS = "ABCDEFGH";

/** Sheets as different writers write them: with a prefix or none, places or none, any quotes and blanks. */
const sheet = fc
  .record({
    prefix: fc.constantFrom("", "x:"),
    quote: fc.constantFrom('"', "'"),
    blank: fc.constantFrom(" ", "\n  ", "  "),
    named: fc.boolean(),
    rows: fc.array(
      fc.array(
        fc.record({
          kind: fc.constantFrom("value", "formula", "inline", "rich", "empty", "closed"),
          style: fc.option(fc.integer({ min: 0, max: 999 })),
          type: fc.constantFrom(undefined, "s", "str", "b", "e"),
          text,
          more: text,
        }),
        { maxLength: 6 },
      ),
      { maxLength: 5 },
    ),
  })
  .map(({ prefix: p, quote: q, blank, named, rows }) => {
    const attribute = (name: string, value: string): string => `${blank}${name}=${q}${value}${q}`;
    const written = rows.map((cells, row) => {
      const inside = cells.map(({ kind, style, type, text: one, more }, column) => {
        const own = kind === "inline" || kind === "rich" ? "inlineStr" : type;
        const attributes = [
          named ? attribute("r", `${LETTERS[column]}${row + 1}`) : "",
          style === null ? "" : attribute("s", String(style)),
          own === undefined ? "" : attribute("t", own),
        ].join("");
        const content: Record<string, string> = {
          value: `<${p}v>${one}</${p}v>`,
          formula: `<${p}f${attribute("ref", "A1")}>${one}</${p}f><${p}v>${more}</${p}v>`,
          inline: `<${p}is><${p}t${attribute("xml:space", "preserve")}>${one}</${p}t></${p}is>`,
          rich: `<${p}is><${p}r><${p}rPr/><${p}t>${one}</${p}t></${p}r><${p}r><${p}t>${more}</${p}t></${p}r><${p}rPh sb=${q}0${q}><${p}t>ガ</${p}t></${p}rPh></${p}is>`,
          empty: "",
        };
        return kind === "closed" ? `<${p}c${attributes}/>` : `<${p}c${attributes}>${content[kind]}</${p}c>`;
      });
      return `<${p}row${named ? attribute("r", String(row + 1)) : ""}${attribute("ht", "12")}>${inside.join(blank)}</${p}row>`;
    });
    const space = p === "" ? "xmlns" : "xmlns:x";
    return `<?xml version="1.0"?><${p}worksheet ${space}="urn:x"><${p}sheetViews/><${p}sheetData>${written.join(blank)}</${p}sheetData><${p}legacy/></${p}worksheet>`;
  });

describe("cells found in a sheet's bytes", () => {
  it("are those of its tree, however it is written", () => {
    fc.assert(
      fc.property(sheet, (xml) => {
        expect(scanned(xml)).toEqual(fromTree(xml));
      }),
      { numRuns: 400 },
    );
  });

  it("have numbers as they are read anywhere", () => {
    const number = fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }),
      fc.integer(),
      fc.constantFrom(0.1, 1e21, -0),
    );
    fc.assert(
      fc.property(number, (value) => {
        scanCells(Buffer.from(`<a><sheetData><row><c><v>${value}</v></c></row></sheetData></a>`), (cell) => {
          expect(cell.number).toBe(Number(String(value)));
        });
      }),
    );
  });

  it.each(["12", "1.5", "-3", ".5", "5.", "1e3", "007"])("%s is the number it is", (written) => {
    scanCells(Buffer.from(`<a><sheetData><row><c><v>${written}</v></c></row></sheetData></a>`), (cell) => {
      expect(cell.number).toBe(Number(written));
    });
  });

  it("come with their rows' tags, and where they end", () => {
    const rows: [number, string][] = [];
    const xml = '<a><sheetData><row r="3" hidden="1"><c r="B3"><v>1</v></c></row><row/></sheetData><b/></a>';
    const end = scanCells(
      Buffer.from(xml),
      () => {},
      (row, tag) => rows.push([row, tag]),
    );
    expect(rows).toEqual([
      [2, '<row r="3" hidden="1">'],
      [3, "<row/>"],
    ]);
    expect(xml.slice(end)).toBe("</sheetData><b/></a>");
    expect(scanCells(Buffer.from("<a><sheetData/><b/></a>"), () => {})).toBe(15);
    expect(scanCells(Buffer.from("<a/>"), () => {})).toBe(0);
  });

  it("that are broken off, or beyond a sheet, are refused with words", () => {
    const whole = '<a><sheetData><row r="1"><c r="A1" t="s"><v>12</v></c></row>';
    for (let length = whole.indexOf("<c"); length < whole.indexOf("</c>"); length++) {
      let count = 0;
      try {
        scanCells(Buffer.from(whole.slice(0, length)), () => count++);
      } catch (error) {
        expect(error).toBeInstanceOf(CorbixError);
      }
      expect(count).toBe(0);
    }
    const at = (tag: string) => () => scanned(`<a><sheetData>${tag}</sheetData></a>`);
    expect(at('<row r="1048577"><c><v>1</v></c></row>')).toThrow("expected at most 1048576 rows");
    expect(at('<row><c r="XFE1"><v>1</v></c></row>')).toThrow("expected at most 16384 columns");
  });
});
