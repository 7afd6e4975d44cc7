import { DocumentTemplate, openDocument } from "@corbix/core/document";
import { layDocument } from "@corbix/core/layout";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { eachItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import {
  Bookmark,
  Document,
  ImageRun,
  LevelFormat,
  Packer,
  PageBreak,
  Paragraph,
  SimpleField,
  Table,
  TableCell,
  TableRow,
  TextRun,
} from "docx";
import { describe, expect, it } from "vitest";
import { readDocumentElsewhere, record } from "../../support/helpers.js";
import { problemsOfDocument } from "../../support/validate-document.js";

const LINES = [
  { district: "North", site: "Dock", unit: "L1", fee: 10, note: "one\ntwo", passed: true },
  { district: "South", site: "Mill", unit: "L2", fee: 20.5, note: "**stop** at *once*", passed: false },
  { district: "North", site: "Dock", unit: "L3", fee: 30, note: "", passed: true },
];

async function make(children: readonly (Paragraph | Table)[], options: object = {}): Promise<Uint8Array> {
  return new Uint8Array(await Packer.toBuffer(new Document({ ...options, sections: [{ children }] })));
}

const row = (...texts: string[]) =>
  new TableRow({ children: texts.map((text) => new TableCell({ children: [new Paragraph(text)] })) });

function fill(bytes: Uint8Array, lines: object[] = LINES, pictures?: ReadonlyMap<string, Uint8Array>): OoxmlPackage {
  const { scope, env } = record({ client: "Harbour & Co", lines });
  const made = DocumentTemplate.read(bytes, "letter.docx").bind(scope, pictures).fill(env).package;
  // What the template's writer did is not ours to mend; nothing may be added to it.
  const before = new Set(problemsOfDocument(bytes));
  expect(problemsOfDocument(made.toBytes()).filter((problem) => !before.has(problem))).toEqual([]);
  return made;
}

/** What another reader of the format finds: paragraphs and rows in order. */
const read = (opened: OoxmlPackage): string[] => readDocumentElsewhere(opened.toBytes());

const filled = async (children: readonly (Paragraph | Table)[], lines?: object[]): Promise<string[]> =>
  read(fill(await make(children), lines));

const p = (text: string) => new Paragraph(text);

describe("structures over paragraphs", () => {
  it("repeat for each line, for those that count, and for each sub-group with its sums", async () => {
    expect(
      await filled([
        p("{{repeat line by district}}"),
        p("District {{ district }}: {{ sum(line.fee) }}"),
        p("{{repeat line where line.passed}}"),
        p("{{ line.unit }} passed"),
        p("{{end}}"),
        p("{{end}}"),
        p("All {{ sum(line.fee) }}"),
      ]),
    ).toEqual(["District North: 40", "L1 passed", "L3 passed", "District South: 20.5", "All 60.5"]);
  });

  it("show one thing or the other, in paragraphs and inside one", async () => {
    const text = [
      p("{{when count(line) > 2}}"),
      p("many"),
      p("{{otherwise}}"),
      p("few"),
      p("{{end}}"),
      p("You have {{when count(line) > 2}}many{{otherwise}}few{{end}} units, {{ client }}."),
    ];
    expect(await filled(text)).toEqual(["many", "You have many units, Harbour & Co."]);
    expect(await filled(text, LINES.slice(1, 2))).toEqual(["few", "You have few units, Harbour & Co."]);
  });

  it("keep what stands in the same paragraph as their marks, also over several runs", async () => {
    const marks = new Paragraph({
      children: [
        new TextRun("{{repe"),
        new TextRun({ text: "at line}}Unit {{ line.u", bold: true }),
        new TextRun("nit }}"),
      ],
    });
    expect(await filled([marks, p("costs {{ line.fee }}{{end}}"), p("end")])).toEqual([
      "Unit L1",
      "costs 10",
      "Unit L2",
      "costs 20.5",
      "Unit L3",
      "costs 30",
      "end",
    ]);
  });

  it("hold whole tables, which are gone where they have no rows", async () => {
    const table = new Table({ rows: [row("{{ line.unit }}", "{{ line.fee }}")] });
    const text = [p("{{repeat line by district}}"), p("{{ district }}"), table, p("{{end}}"), p("end")];
    expect(await filled(text)).toEqual(["North", "L1|10", "L3|30", "South", "L2|20.5", "end"]);
    expect(await filled([p("{{when count(line) > 9}}"), table, p("{{end}}"), p("end")])).toEqual(["end"]);
    const none = new Table({ rows: [row("{{repeat line where line.fee > 99}}{{ line.unit }}", "{{end}}")] });
    expect(await filled([none, p("end")])).toEqual(["end"]);
  });

  it("begin a page for each sub-group but the first", async () => {
    const bytes = await make([p("{{repeat line by district paged}}"), p("{{ district }}"), p("{{end}}")]);
    const { pages } = layDocument(openDocument(fill(bytes).toBytes(), "x"), openFonts());
    expect(pages.length).toBe(2);
  });
});

describe("structures over rows", () => {
  it("repeat several rows, nested in sub-groups, and vanish with their marks", async () => {
    const table = new Table({
      rows: [
        row("Unit", "Fee"),
        row("{{repeat line by district}}", ""),
        row("{{ district }}", "{{ sum(line.fee) }}"),
        row("{{ line.unit }}", "{{ line.fee }}"),
        row("{{end}}", ""),
        row("All", "{{ sum(line.fee) }}"),
      ],
    });
    expect(await filled([table])).toEqual([
      "Unit|Fee",
      "North|40",
      "L1|10",
      "L3|30",
      "South|20.5",
      "L2|20.5",
      "All|60.5",
    ]);
  });

  it("take the row in which they begin and end, with what it shows", async () => {
    const table = new Table({
      rows: [
        row("{{when count(line) > 9}}many", "x{{end}}"),
        row("{{repeat line where line.fee > 15}}{{ line.unit }}", "{{ line.fee }}{{end}}"),
      ],
    });
    expect(await filled([table])).toEqual(["L2|20.5", "L3|30"]);
  });

  it("repeat inside one cell, which keeps a paragraph when nothing is left", async () => {
    const cell = new TableCell({
      children: [p("{{repeat line where line.fee > 15}}"), p("{{ line.unit }}"), p("{{end}}")],
    });
    const table = new Table({ rows: [new TableRow({ children: [cell, new TableCell({ children: [p("b")] })] })] });
    expect(await filled([table])).toEqual(["L2\nL3|b"]);
    expect(await filled([table], LINES.slice(0, 1))).toEqual(["|b"]);
  });

  it("fill tables inside a repeated row with the lines of the sub-group", async () => {
    const inner = new Table({ rows: [row("{{ line.unit }}")] });
    const cells = [p("{{repeat line by district}}{{ district }}"), inner, p("{{end}}")];
    const table = new Table({ rows: [new TableRow({ children: [new TableCell({ children: cells })] })] });
    const xml = fill(await make([table])).getText("word/document.xml");
    expect(
      xml
        .replace(/<[^>]*>/g, " ")
        .replace(/ +/g, " ")
        .trim(),
    ).toBe("North L1 L3 South L2");
  });
});

describe("whole tables", () => {
  it("have the named columns, right-aligned numbers, totals and a repeated heading", async () => {
    const text = [
      p("before"),
      p('{{table line: unit, fee headed "CHF" as "0.00" total, note where line.passed}}'),
      p("after"),
    ];
    const opened = fill(await make(text));
    expect(read(opened)).toEqual([
      "before",
      "Unit|CHF|Note",
      "L1|10.00|one\ntwo",
      "L3|30.00|",
      "Total|40.00|",
      "",
      "after",
    ]);
    const xml = opened.getText("word/document.xml");
    expect(xml.match(/<w:tblHeader\/>/g)).toHaveLength(1);
    expect(xml.match(/<w:jc w:val="right"\/>/g)).toHaveLength(4);
  });

  it("look like the document's own first table", async () => {
    const own = new Table({
      rows: [
        new TableRow({
          children: [
            new TableCell({
              shading: { fill: "AA3311" },
              children: [new Paragraph({ children: [new TextRun({ text: "Own", italics: true })] })],
            }),
          ],
        }),
        row("x"),
      ],
    });
    const xml = fill(await make([own, p("{{table line: unit}}")])).getText("word/document.xml");
    expect(xml.match(/w:fill="AA3311"/g)).toHaveLength(2);
  });

  it("name a column or style there is not", async () => {
    const bytes = await make([p("{{table line: unit, feee}}")]);
    expect(() => fill(bytes)).toThrow(
      expect.objectContaining({
        message: expect.stringContaining("feee"),
        where: expect.stringContaining("letter.docx, text, paragraph 1"),
      }),
    );
    const styled = await make([p("{{table line style Fancy}}")]);
    expect(() => fill(styled)).toThrow('Cannot find the table style "Fancy"');
  });
});

describe("old templates", () => {
  it("fill merge fields with their switches, simple ones and those over several runs", async () => {
    const simple = new Paragraph({ children: [new SimpleField(" MERGEFIELD client \\* Upper ", "«client»")] });
    const bytes = await make([simple, p("FIELD"), p("{{repeat line}}"), p("PART"), p("{{end}}")]);
    const run = (inner: string) => `<w:r><w:rPr><w:b/></w:rPr>${inner}</w:r>`;
    const complex = (code: string) =>
      `${run('<w:fldChar w:fldCharType="begin"/>')}${run(`<w:instrText xml:space="preserve"> MERGEFIELD ${code} </w:instrText>`)}${run('<w:fldChar w:fldCharType="separate"/>')}${run("<w:t>«x»</w:t>")}${run('<w:fldChar w:fldCharType="end"/>')}`;
    const opened = OoxmlPackage.open(bytes);
    const xml = opened
      .getText("word/document.xml")
      .replace(/<w:r><w:t[^>]*>FIELD<\/w:t><\/w:r>/, complex('client \\* Lower \\b "for " \\f "!"'))
      .replace(/<w:r><w:t[^>]*>PART<\/w:t><\/w:r>/, complex('line.fee \\# "0.00"').replace("line.fee", "line.fee"));
    const made = opened.with(new Map([["word/document.xml", xml]])).toBytes();
    expect(() => fill(made)).toThrow("line.fee");
    const bare = opened.with(new Map([["word/document.xml", xml.replace("MERGEFIELD line.fee", "MERGEFIELD client")]]));
    const text = fill(bare.toBytes());
    expect(read(text)[0]).toBe("HARBOUR & CO");
    expect(text.getText("word/document.xml")).toContain(
      '<w:b/></w:rPr><w:t xml:space="preserve">for harbour &amp; co!',
    );
    expect(text.getText("word/document.xml")).not.toContain("MERGEFIELD");
  });

  it("fill bookmarks that are called like a column, and leave the others byte for byte", async () => {
    const marked = (id: string, text: string) =>
      new Paragraph({
        children: [new TextRun("To "), new Bookmark({ id, children: [new TextRun({ text, bold: true })] })],
      });
    const bytes = await make([marked("client", "somebody"), marked("Summary", "stays")]);
    const opened = fill(bytes);
    expect(read(opened)).toEqual(["To Harbour & Co", "To stays"]);
    const others = await make([marked("Summary", "stays")]);
    expect(fill(others).getText("word/document.xml")).toBe(OoxmlPackage.open(others).getText("word/document.xml"));
  });
});

describe("values with looks", () => {
  it("have line ends, and strong and emphasised words where asked", async () => {
    const bytes = await make([
      p("{{repeat line}}"),
      p('{{ line.unit }}: {{ line.note as "emphasis" }}.'),
      p("{{end}}"),
    ]);
    const opened = fill(bytes);
    expect(read(opened)).toEqual(["L1: one\ntwo.", "L2: stop at once.", "L3: ."]);
    const xml = opened.getText("word/document.xml");
    expect(xml).toMatch(/<w:b\/><\/w:rPr><w:t xml:space="preserve">stop/);
    expect(xml).toMatch(/<w:i\/><\/w:rPr><w:t xml:space="preserve">once/);
  });
});

describe("pictures", () => {
  const pixel = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  const picture = (description: string) =>
    new Paragraph({
      children: [
        new ImageRun({
          type: "png",
          data: pixel,
          transformation: { width: 200, height: 100 },
          altText: { name: "p", title: "p", description },
        }),
      ],
    });

  it("are chosen by the mark in their alternative text, and fit their frame without distortion", async () => {
    const bytes = await make([picture("{{ logo }}"), picture("{{ client }}"), picture("About {{ client }}")]);
    const { scope, env } = record({ client: "Dock", logo: "Logo.png", lines: [] });
    const pictures = new Map([["logo.png", new Uint8Array(pixel)]]);
    const opened = DocumentTemplate.read(bytes, "letter.docx").bind(scope, pictures).fill(env).package;
    const xml = opened.getText("word/document.xml");
    expect(xml.match(/<wp:extent cx="(\d+)" cy="(\d+)"/)?.slice(1)).toEqual(["952500", "952500"]);
    expect(xml.match(/descr="[^"]+"/g)).toEqual(['descr="Logo"', 'descr="Dock"', 'descr="About Dock"']);
    expect(opened.names.filter((name) => name.includes("corbix"))).toHaveLength(1);
    const missing = record({ client: "Dock", logo: "seal.png", lines: [] });
    expect(() => DocumentTemplate.read(bytes, "letter.docx").bind(missing.scope, pictures).fill(missing.env)).toThrow(
      "Cannot find the picture `seal.png`",
    );
  });

  it("are drawn as codes of each line's value", async () => {
    const bytes = await make([
      p("{{repeat line}}"),
      picture("{{ qr line.unit }}"),
      picture("{{ barcode line.unit }}"),
      p("{{end}}"),
    ]);
    const opened = fill(bytes);
    const media = opened.names.filter((name) => name.includes("media/corbix"));
    expect(media).toHaveLength(6);
    const xml = opened.getText("word/document.xml");
    expect([...xml.matchAll(/<wp:docPr[^>]*id="(\d+)"/g)].map((match) => match[1])).toEqual([
      "1",
      "2",
      "3",
      "4",
      "5",
      "6",
    ]);
    expect(readDocumentElsewhere(opened.toBytes(), "pictures")).toEqual(["6"]);
  });
});

/** The labels of list items on the first page. */
function numbersIn(opened: OoxmlPackage): string[] {
  const [page] = layDocument(openDocument(opened.toBytes(), "x"), openFonts()).pages;
  return [...eachItem(page.items)]
    .map((one) => (one.kind === "text" ? one.shaped.runs.flatMap((run) => run.texts).join("") : ""))
    .filter((text) => /^\d+\.$/.test(text));
}

describe("charts", () => {
  it("are made from the lines, added up by category, once in each sub-group, without the template's sample", async () => {
    const base = OoxmlPackage.open(await make([p("{{repeat line by district}}"), p("CHART"), p("{{end}}")]));
    const cache = (name: string, values: readonly string[]) =>
      `<c:${name}><c:f>Sheet1!$A$2</c:f><c:${name === "strRef" ? "str" : "num"}Cache><c:ptCount val="${values.length}"/>${values.map((value, at) => `<c:pt idx="${at}"><c:v>${value}</c:v></c:pt>`).join("")}</c:${name === "strRef" ? "str" : "num"}Cache></c:${name}>`;
    const chart = `<?xml version="1.0"?><c:chartSpace xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><c:chart><c:plotArea><c:barChart><c:barDir val="col"/><c:grouping val="clustered"/><c:ser><c:idx val="0"/><c:order val="0"/><c:tx>${cache("strRef", ["Sample"])}</c:tx><c:spPr><a:solidFill><a:srgbClr val="AA3311"/></a:solidFill></c:spPr><c:cat>${cache("strRef", ["Secret"])}</c:cat><c:val>${cache("numRef", ["99"])}</c:val></c:ser><c:axId val="1"/><c:axId val="2"/></c:barChart><c:catAx><c:axId val="1"/><c:axPos val="b"/></c:catAx><c:valAx><c:axId val="2"/><c:axPos val="l"/></c:valAx></c:plotArea></c:chart><c:externalData r:id="rId1"/></c:chartSpace>`;
    const drawing = `<w:r><w:drawing><wp:inline><wp:extent cx="3810000" cy="1905000"/><wp:docPr id="9" name="c" descr="{{chart line: unit, fee headed &quot;Fees&quot;}}"/><a:graphic xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:chart xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" r:id="rIdC"/></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>`;
    const relation = (id: string, type: string, target: string) =>
      `<Relationship Id="${id}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"/>`;
    const rels = "word/_rels/document.xml.rels";
    const made = base.with(
      new Map<string, string>([
        ["word/document.xml", base.getText("word/document.xml").replace(/<w:r><w:t[^>]*>CHART<\/w:t><\/w:r>/, drawing)],
        [
          rels,
          base
            .getText(rels)
            .replace("</Relationships>", `${relation("rIdC", "chart", "charts/chart1.xml")}</Relationships>`),
        ],
        ["word/charts/chart1.xml", chart],
        [
          "word/charts/_rels/chart1.xml.rels",
          `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${relation("rId1", "package", "../embeddings/book.xlsx")}</Relationships>`,
        ],
        ["word/embeddings/book.xlsx", "sample rows"],
        [
          "[Content_Types].xml",
          base
            .getText("[Content_Types].xml")
            .replace(
              "</Types>",
              '<Override PartName="/word/charts/chart1.xml" ContentType="application/vnd.openxmlformats-officedocument.drawingml.chart+xml"/></Types>',
            ),
        ],
      ]),
    );
    const lines = [...LINES, { ...LINES[0], fee: 5 }];
    const opened = fill(made.toBytes(), lines);
    const charts = opened.names.filter((name) => name.startsWith("word/charts/") && name.endsWith(".xml"));
    expect(charts).toHaveLength(2);
    const text = (part: string) =>
      opened
        .getXml(part)
        .descendants("v")
        .map((one) => one.text);
    expect(charts.map(text)).toEqual([
      ["Fees", "L1", "L3", "15", "30"],
      ["Fees", "L2", "20.5"],
    ]);
    expect(opened.names.some((name) => name.includes("book.xlsx") || name.endsWith("charts/chart1.xml"))).toBe(false);
    expect(opened.getText("[Content_Types].xml")).not.toContain("/word/charts/chart1.xml");
    expect(opened.getText(charts[0])).toContain("AA3311");
    const laid = layDocument(openDocument(opened.toBytes(), "x"), openFonts());
    expect(laid.findings).toEqual([]);
    expect(
      [...eachItem(laid.pages[0].items)].filter((item) => item.kind === "path" && item.fill === "AA3311").length,
    ).toBe(3);
    expect(readDocumentElsewhere(opened.toBytes())).toEqual(["", ""]);
  });
});

describe("lists", () => {
  const numbering = {
    config: [
      { reference: "steps", levels: [{ level: 0, format: LevelFormat.DECIMAL, text: "%1.", alignment: "left" }] },
    ],
  };
  const item = (text: string) => new Paragraph({ text, numbering: { reference: "steps", level: 0 } });

  it("start again in each sub-group, and count on where they are all that repeats", async () => {
    const text = [
      p("{{repeat line by district}}"),
      p("{{ district }}"),
      p("{{repeat line}}"),
      item("{{ line.unit }}"),
      p("{{end}}"),
      p("{{end}}"),
    ];
    const opened = fill(await make(text, { numbering }));
    const page = layDocument(openDocument(opened.toBytes(), "x"), openFonts()).pages[0];
    const shown = [...eachItem(page.items)]
      .map((one) => (one.kind === "text" ? one.shaped.runs.flatMap((run) => run.texts).join("") : ""))
      .join(" ");
    expect(shown).toMatch(/North\s+1\.\s+L1\s+2\.\s+L3\s+South\s+1\.\s+L2/);
    // Chapters that repeat count on, and so does a list that goes on outside.
    const chapters = [p("{{repeat line by district}}"), item("{{ district }}"), p("text"), p("{{end}}"), item("end")];
    expect(numbersIn(fill(await make(chapters, { numbering })))).toEqual(["1.", "2.", "3."]);
  });
});

describe("what is wrong", () => {
  it.each([
    [[p("{{repeat line}}"), p("x")], "Cannot find the end of `{{repeat line}}`", "paragraph 1"],
    [[p("a"), p("{{end}}")], "Cannot find what `{{end}}` belongs to", "paragraph 2"],
    [
      [p("{{repeat line}}"), p("{{otherwise}}"), p("{{end}}")],
      "Cannot find what `{{otherwise}}` belongs to",
      "paragraph 2",
    ],
    [[p("{{repeat line across}}"), p("{{end}}")], "in a document", "paragraph 1"],
    [[p("{{ line.unit }}")], "it stands in no table row", "paragraph 1"],
  ])("is named with its paragraph: %#", async (children, message, where) => {
    const bytes = await make([...children, new Paragraph({ children: [new PageBreak()] })]);
    expect(() => fill(bytes)).toThrow(
      expect.objectContaining({ message: expect.stringContaining(message), where: expect.stringContaining(where) }),
    );
  });
});
