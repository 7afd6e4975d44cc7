import { deflateEntry, OoxmlPackage, writeZip } from "@corbix/core/ooxml";
import { parseReport } from "@corbix/core/report";
import { leakFindings, planRun, ReportMaker, Seal } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";

const NAMES = ["Harbour House", "Harbour", "Dock 1", "Dock 10", "Zürich & Sons", "A", "12"];
const seal = new Seal(NAMES);
const names = (text: string, own: string) => seal.inText(text, own, "x").map((leak) => leak.name);
const packed = (parts: Record<string, string | Uint8Array>): Uint8Array =>
  writeZip(
    Object.entries(parts).map(([name, content]) =>
      deflateEntry(name, typeof content === "string" ? Buffer.from(content) : content),
    ),
  );

describe("the seal", () => {
  it("finds other groups' names as words, whatever their capitals and blanks, and none that are part of its own", () => {
    expect(names("sent to HARBOUR\u00a0 house, Dock 10.", "Quay")).toEqual(["Harbour", "Harbour House", "Dock 10"]);
    expect(names("Harbour House, 4 visits", "Harbour House")).toEqual([]);
    expect(names("Harbour, 4 visits", "Dock 1")).toEqual(["Harbour"]);
    expect(names("Dock 100 and Harbourside", "Quay")).toEqual([]);
    expect(names("zürich   & sons", "Quay")).toEqual(["Zürich & Sons"]);
    expect(seal.tooShort).toEqual(["A", "12"]);
  });

  it("looks into every part: names broken over runs, entities, comments, and packages inside", () => {
    const inner = packed({
      "word/document.xml": "<w:p><w:r><w:t>Harb</w:t></w:r><w:r><w:t>our House</w:t></w:r></w:p>",
    });
    const opened = OoxmlPackage.open(
      packed({
        "xl/comments1.xml": "<comments><t>see Z&#252;rich &amp; Sons</t></comments>",
        "xl/worksheets/sheet2.xml": '<c t="inlineStr"><is><t>Quay</t></is></c>',
        "xl/embeddings/letter.docx": inner,
        "xl/media/image1.png": "Dock 10",
      }),
    );
    const leaks = seal.inPackage(opened, "Quay");
    expect(leaks.map(({ place, name }) => `${name} in ${place}`).sort()).toEqual([
      "Harbour House in xl/embeddings/letter.docx, word/document.xml",
      "Harbour in xl/embeddings/letter.docx, word/document.xml",
      "Zürich & Sons in xl/comments1.xml",
    ]);
  });

  it("goes by words of at least three letters or figures, the whole of a longer name, and not by parts of its own", () => {
    const short = new Seal(["ABC", "AB", "A B C", "1-2"]);
    expect(short.tooShort).toEqual(["AB", "1-2"]);
    expect(short.inText("abc a b c ab", "x", "p").map((leak) => leak.name)).toEqual(["ABC", "A B C"]);
    const nested = new Seal(["Harbour", "Harbour House", "House", "Harbour House East"]);
    expect(nested.inText("Harbour House", "Harbour House East", "p")).toEqual([]);
    expect(nested.inText("House Harbour", "Harbour House", "p").map((leak) => leak.name)).toEqual([]);
    expect(nested.inText("in the Harbour House East", "House", "p").map((leak) => leak.name)).toEqual([
      "Harbour",
      "Harbour House",
      "Harbour House East",
    ]);
    expect(nested.inText("", "Quay", "p")).toEqual([]);
  });

  it("reads names in runs of any prefix, apart in neighbouring cells and paragraphs, each told once with its place", () => {
    const places = (parts: Record<string, string>) =>
      seal.inPackage(OoxmlPackage.open(packed(parts)), "Quay", "").map(({ place, name }) => `${name} in ${place}`);
    expect(places({ "a.xml": "<x:p><x:r>Dock</x:r><x:r> 10</x:r></x:p>" })).toEqual(["Dock 10 in a.xml"]);
    expect(places({ "a.xml": "<p><r>Dock</r></p><p><r>10</r></p>" })).toEqual([]);
    expect(places({ "a.xml": "<w:tc><w:r>Dock</w:r></w:tc><w:tc><w:r>10</w:r></w:tc>" })).toEqual([]);
    expect(places({ "a.xml": "<c><v>Dock</v></c><c><v>10</v></c>" })).toEqual([]);
    expect(places({ "a.xml": "<w:p><w:r>Dock 10</w:r><w:r>Dock 10</w:r></w:p>" })).toEqual(["Dock 10 in a.xml"]);
    for (const part of ["a.rels", "a.vml", "a.txt", "a.csv", "a.htm", "a.HTML"])
      expect(places({ [part]: "Dock 10" })).toEqual([`Dock 10 in ${part}`]);
    for (const part of ["a.bin", "xml.png", "a.xmlx"]) expect(places({ [part]: "Dock 10" })).toEqual([]);
  });

  it("looks into packages within packages three deep, and says the way to a leak", () => {
    let inner = packed({ "d.xml": "Dock 10" });
    const ways: string[] = [];
    for (let depth = 0; depth < 5; depth++) {
      const found = seal.inPackage(OoxmlPackage.open(inner), "Quay");
      ways.push(found.map((leak) => leak.place).join());
      inner = packed({ [`p${depth}.docx`]: inner });
    }
    expect(ways).toEqual([
      "d.xml",
      "p0.docx, d.xml",
      "p1.docx, p0.docx, d.xml",
      "p2.docx, p1.docx, p0.docx, d.xml",
      "",
    ]);
    expect(
      leakFindings(
        [
          { place: "", name: "Dock" },
          { place: "d.xml", name: "Mill" },
        ],
        "statement",
      ).map((one) => one.where),
    ).toEqual(["statement", "statement, d.xml"]);
  });

  it("costs no more for forty thousand groups than for forty", () => {
    const many = new Seal(Array.from({ length: 40_000 }, (_, at) => `Site number ${at}`));
    const text = Array.from({ length: 20_000 }, (_, at) => `Site number ${at + 39_999}x`).join(" ");
    expect(many.inText(text, "none", "x")).toEqual([]);
  });

  it("stops a run whose template carries another group's rows along", async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet("Rows").addRow(["{{ line.site }}", "{{ line.fee }}"]);
    const hidden = book.addWorksheet("Last year", { state: "veryHidden" });
    hidden.addRow(["Quay", 4]);
    const template = new Uint8Array(await book.xlsx.writeBuffer());
    const report = parseReport(
      "report: a\ntitle: A\ndata: t\nsplit: site\nsealed: true\nfiles:\n  rows: { name: '{{ site }}', template: rows.xlsx }\nmessage: { subject: 'For {{ site }}, not Quay', body: { text: hello } }\n",
      "r",
    );
    const { table } = loadTable(Buffer.from("Site,Fee\nDock,1\nQuay,2\n"), "t.csv");
    const templates = new Map([["rows.xlsx", template]]);
    const facts = { id: "x", date: 46_328, sender: "a@b.example", locale: "en-GB" };
    const { plan, maker } = planRun({ report, table, others: new Map(), recipients: [], templates, facts });
    expect(plan.sealedNames).toEqual(["Dock", "Quay"]);
    expect(maker).toBeInstanceOf(ReportMaker);
    const own = { seal: new Seal(plan.sealedNames ?? []), own: "Dock" };
    const env = { table, lines: [0], row: -1, spaces: {}, locale: "en-GB", today: 46_328 };
    const made = maker.make(env, ["rows"], undefined as never, facts, { seal: own });
    expect(made.findings.map((one) => [one.code, one.severity])).toContainEqual(["other-group-inside", "stop"]);
    expect(made.findings.at(-1)?.what).toContain('"Quay"');
    expect(maker.compose(env, own)?.findings[0].where).toContain("message to Dock");
  });
});
