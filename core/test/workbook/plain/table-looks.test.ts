/** Tables made without anybody's template: how they look, in workbooks and documents. */
import { DocumentTemplate } from "@corbix/core/document";
import { layWorkbook } from "@corbix/core/layout";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { eachItem } from "@corbix/core/page";
import { parseReport } from "@corbix/core/report";
import { groupEnv, planRun, type RunFacts } from "@corbix/core/run";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { loadTable } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import { Document, Packer, Paragraph } from "docx";
import { describe, expect, it } from "vitest";
import { openElsewhere, readElsewhere, record } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const facts: RunFacts = { id: "r", date: 46_328, sender: "a@b.example", locale: "en-GB" };
const { table } = loadTable(Buffer.from("site,unit,hours,fee,note\nDock,L1,2,10.5,short\nDock,L2,3,20,\n"), "t.csv");

function make(says: string): Uint8Array {
  const { plan, maker } = planRun({
    report: parseReport(`report: a\ntitle: A\ndata: t\nsplit: site\nfiles: { out: { name: x, table: ${says} } }`, "r"),
    table,
    others: new Map(),
    recipients: [],
    templates: new Map(),
    facts,
  });
  const env = groupEnv(plan.table, plan.parcels[0].group, { number: 1, count: 1 }, [], facts);
  const { bytes } = maker.make(env, ["out"], undefined as never, facts).files[0];
  expect(problemsOf(bytes)).toEqual([]);
  return bytes;
}

describe("a workbook with the rows as a table", () => {
  const columns = "columns: [unit, hours, { column: fee, total: sum }]";

  it("adds up its lines, and the sums below", async () => {
    const bytes = make(`{ ${columns}, lineTotal: Together }`);
    const cells = "['D1','D2','D3','C4','D4']";
    expect(readElsewhere(bytes, `print([book.active[one].value for one in ${cells}])`)).toBe(
      "['Together', 12.5, 23, 30.5, 35.5]",
    );
    expect((await openElsewhere(bytes)).worksheets[0].getCell("D3").formula).toBe("SUM(B3,C3)");
    expect(() => make("{ columns: [unit, note], lineTotal: Together }")).toThrow("none of the columns holds numbers");
  });

  it("has the style that is named, or bands and totals in colours of its own, on its pages too", async () => {
    const opened = OoxmlPackage.open(make(`{ ${columns}, style: TableStyleMedium2 }`));
    expect(opened.getText("xl/tables/table1.xml")).toContain('name="TableStyleMedium2"');
    const bytes = make(`{ ${columns}, bands: e3ecec, totalColour: ffe0b0 }`);
    const styles = OoxmlPackage.open(bytes).getText("xl/styles.xml");
    expect(styles).toMatch(/<tableStyle name="Bands"[^>]*>/);
    const laid = layWorkbook(openWorkbook(bytes, "x"), openFonts(), { file: "x", date: "", time: "" });
    const drawn = JSON.stringify([...eachItem(laid.pages[0].items)].map((item) => ({ ...item, shaped: undefined })));
    for (const colour of ["E3ECEC", "FFE0B0"]) expect(drawn.toUpperCase()).toContain(colour);
    expect(() => make(`{ ${columns}, bands: green }`)).toThrow("six hexadecimal digits");
  });
});

describe("a whole table in a document", () => {
  const fill = async (columns: number, word: string) => {
    const bytes = new Uint8Array(
      await Packer.toBuffer(new Document({ sections: [{ children: [new Paragraph("{{table line}}")] }] })),
    );
    const line = Object.fromEntries(Array.from({ length: columns }, (_, at) => [`column${at + 1}`, word]));
    const { scope, env } = record({ lines: [line] });
    const notes: string[] = [];
    const noting = { ...env, onNote: (one: { code: string }) => notes.push(one.code) };
    const text = DocumentTemplate.read(bytes, "t.docx").bind(scope).fill(noting).package.getText("word/document.xml");
    const sizes = [...text.matchAll(/<w:sz w:val="(\d+)"\/>/g)].map((match) => Number(match[1]) / 2);
    const widths = [...text.matchAll(/<w:gridCol w:w="(\d+)"\/>/g)].map((match) => Number(match[1]));
    return { notes, sizes: [...new Set(sizes)], widths };
  };

  it("keeps words whole: narrower text where columns are many, and a finding where nothing helps", async () => {
    const few = await fill(4, "inspection");
    expect([few.notes, few.sizes]).toEqual([[], []]);
    const many = await fill(10, "inspection");
    expect(many.notes).toEqual([]);
    expect(many.sizes).toHaveLength(1);
    expect(many.sizes[0]).toBeLessThan(10);
    expect(many.sizes[0]).toBeGreaterThanOrEqual(6);
    // Each column holds its word at that size: 10 letters of about half their height, and the margins.
    for (const width of many.widths) expect(width).toBeGreaterThanOrEqual(10 * 0.5 * many.sizes[0] * 20);
    const most = await fill(30, "inspection");
    expect([most.notes, most.sizes]).toEqual([["table-too-wide"], [6]]);
  });
});
