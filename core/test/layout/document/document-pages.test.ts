import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { DocumentTemplate, openDocument } from "@corbix/core/document";
import { readFont } from "@corbix/core/fonts";
import { layDocument } from "@corbix/core/layout";
import { type OoxmlPackage, parseXml } from "@corbix/core/ooxml";
import { eachItem, type LaidPages, type Page, type TextItem } from "@corbix/core/page";
import { writePdf } from "@corbix/core/pdf";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { forAll } from "../../support/for-all.js";
import { demo, readPdf, record } from "../../support/helpers.js";
import { circular, contract, form, longReport, manual, SAMPLES } from "../../support/sample-documents.js";

const lay = (bytes: Uint8Array): LaidPages =>
  layDocument(openDocument(bytes, "x.docx"), openFonts(), { today: 46_328 });
const pdfOf = (laid: LaidPages): Uint8Array =>
  writePdf(laid.pages, { title: "x", outline: laid.outline, structure: laid.structure });
const texts = (page: Page): TextItem[] =>
  [...eachItem(page.items)].filter((item): item is TextItem => item.kind === "text");
const wordsOf = (item: TextItem): string => words(item);
const words = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");
const shown = (page: Page): string => texts(page).map(words).join(" ");
const names = Object.keys(SAMPLES) as (keyof typeof SAMPLES)[];

/** The words of a document's body in order, as its XML has them. */
function bodyWords(opened: OoxmlPackage): string[] {
  const body = opened.getXml("word/document.xml").child("body");
  return (body?.descendants("p") ?? [])
    .flatMap((paragraph) => {
      const own = paragraph.elements().flatMap((child) => (child.local === "r" ? [child] : child.descendants("r")));
      return own
        .flatMap((run) =>
          run.elements().map((child) => (child.local === "t" ? child.text : child.local === "tab" ? " " : "")),
        )
        .join("")
        .split(/\s+/);
    })
    .filter((word) => word !== "");
}

describe("pages of very different documents", () => {
  it.each(names.filter((name) => name !== "hebrew" && name !== "circular"))(
    "lose no word, in order: %s",
    async (name) => {
      const opened = openDocument(await SAMPLES[name](), name);
      const printed = readPdf(pdfOf(lay(opened.toBytes())), "pdftotext", ["-raw"]).split(/\s+/);
      let at = 0;
      // Raised and lowered figures are printed after their line, spaced letters apart.
      for (const word of bodyWords(opened).filter((one) => !/^(?:H2O|m2|wide),$/.test(one))) {
        const found = printed.findIndex((one, index) => index >= at && one.toLowerCase().includes(word.toLowerCase()));
        expect(found, `${word} behind ${printed.slice(Math.max(0, at - 5), at).join(" ")}`).toBeGreaterThanOrEqual(0);
        at = found;
      }
    },
  );

  it.each(names)("are accepted by other readers, all fonts embedded: %s", async (name) => {
    const laid = lay(await SAMPLES[name]());
    expect(laid.findings).toEqual([]);
    const pdf = pdfOf(laid);
    expect(readPdf(pdf, "qpdf")).toContain("No syntax or stream encoding errors");
    const fonts = readPdf(pdf, "pdffonts").split("\n").slice(2).filter(Boolean);
    expect(fonts.length).toBeGreaterThan(0);
    for (const line of fonts) expect(line).toMatch(/\syes\s+yes\s+yes\s/);
  });

  it("show the words of the circular and the Hebrew letter, whatever their order on the page", async () => {
    for (const name of ["circular", "hebrew"] as const) {
      const opened = openDocument(await SAMPLES[name](), name);
      const all = lay(opened.toBytes()).pages.map(shown).join(" ");
      const letters = (text: string): string => [...text.replace(/[\s()]/g, "")].sort().join("");
      expect(letters(all)).toBe(letters(bodyWords(opened).join("")));
    }
  });
});

describe("contents", () => {
  it("list the headings with the pages they stand on, and lead there", async () => {
    const laid = lay(await manual());
    const entries = [
      ...shown(laid.pages[0]).matchAll(/(\d(?:\.\d)?) ((?:Chapter|What)[^.\d]*(?:\d of the lift)?) (\d)\b/g),
    ];
    expect(entries.length).toBeGreaterThanOrEqual(18);
    for (const [, label, title, page] of entries.slice(0, 18)) {
      const own = laid.outline.find((entry) => entry.title === `${label} ${title.trim()}`);
      expect(own && own.page + 1).toBe(Number(page));
    }
    expect(
      Buffer.from(pdfOf(laid))
        .toString("latin1")
        .match(/\/Dest \[/g)?.length,
    ).toBeGreaterThan(18);
  });

  it("come again in the outline, nested by level", async () => {
    const { outline } = lay(await manual());
    expect(outline.slice(0, 3).map(({ title, level }) => [title, level])).toEqual([
      ["1 Chapter about part 1 of the lift", 0],
      ["1.1 What to look at", 1],
      ["1.2 What to write down", 1],
    ]);
  });
});

describe("notes at the foot", () => {
  it("stand on the page of their sign, below the text and above the footer", async () => {
    const { pages } = lay(await manual());
    for (const page of pages) {
      const notes = texts(page).filter((item) => words(item).startsWith("Note "));
      const footer = texts(page).find((item) => words(item).includes("Lift and escalator"));
      const body = texts(page).filter((item) => words(item).includes("inspected again"));
      for (const note of notes) {
        if (footer) expect(note.y).toBeLessThan(footer.y);
        for (const line of body) expect(line.y).toBeLessThan(note.y);
      }
    }
    expect(pages.flatMap((page) => shown(page).match(/Note \d/g) ?? [])).toEqual(
      [1, 2, 3, 4, 5, 6].map((number) => `Note ${number}`),
    );
  });
});

describe("columns and things beside the text", () => {
  it("are of one height before what stands below both", async () => {
    const { pages } = lay(await circular());
    const below = texts(pages[0]).find((item) => words(item).startsWith("This stands below")) as TextItem;
    const columns = [
      texts(pages[0]).filter((item) => item.x < 290),
      texts(pages[0]).filter((item) => item.x > 300),
    ].map((items) => Math.max(...items.filter((item) => item.y < below.y - 1).map((item) => item.y)));
    expect(pages.length).toBe(1);
    for (const lowest of columns) expect(below.y - lowest).toBeGreaterThan(5);
  });

  it("lines keep clear of a picture and of a large first letter", async () => {
    const [page] = lay(await circular()).pages;
    const image = [...eachItem(page.items)].find((item) => item.kind === "image") as {
      x: number;
      y: number;
      width: number;
      height: number;
    };
    for (const item of texts(page)) {
      const width = item.shaped.width * item.size;
      const beside = item.y > image.y && item.y - item.size * 0.7 < image.y + image.height;
      if (beside && item.x < 290) expect(item.x + width).toBeLessThanOrEqual(image.x + 0.5);
    }
    const large = texts(page).find((item) => item.size === 45) as TextItem;
    const firstLine = texts(page).find((item) => words(item).startsWith("he inspector")) as TextItem;
    expect(firstLine.x).toBeGreaterThan(large.x + large.shaped.width * large.size);
  });

  it("draw text boxes, shapes and charts where they are anchored", async () => {
    const base = openDocument(await longReport(1), "box.docx");
    const anchor = (x: number, y: number, inner: string) =>
      `<w:p><w:r><w:drawing><wp:anchor distT="0" distB="0" distL="0" distR="0" simplePos="0" behindDoc="0"><wp:simplePos x="0" y="0"/><wp:positionH relativeFrom="page"><wp:posOffset>${x * 12_700}</wp:posOffset></wp:positionH><wp:positionV relativeFrom="page"><wp:posOffset>${y * 12_700}</wp:posOffset></wp:positionV><wp:extent cx="1905000" cy="1270000"/><wp:wrapNone/><wp:docPr id="1" name="b" descr="A chart of the visits"/><a:graphic xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:graphicData uri="x">${inner}</a:graphicData></a:graphic></wp:anchor></w:drawing></w:r></w:p>`;
    const box = `<wps:wsp xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape"><wps:spPr><a:prstGeom prst="rect"/><a:solidFill><a:srgbClr val="FFEECC"/></a:solidFill></wps:spPr><wps:txbx><w:txbxContent><w:p><w:r><w:t>In the box</w:t></w:r></w:p></w:txbxContent></wps:txbx><wps:bodyPr lIns="0" tIns="0"/></wps:wsp>`;
    const chart = `<c:chart xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" r:id="rIdChart"/>`;
    const series = `<c:ser><c:idx val="0"/><c:order val="0"/><c:cat><c:strRef><c:f>x</c:f><c:strCache><c:ptCount val="2"/><c:pt idx="0"><c:v>Dock</c:v></c:pt><c:pt idx="1"><c:v>Quay</c:v></c:pt></c:strCache></c:strRef></c:cat><c:val><c:numRef><c:f>x</c:f><c:numCache><c:ptCount val="2"/><c:pt idx="0"><c:v>3</c:v></c:pt><c:pt idx="1"><c:v>5</c:v></c:pt></c:numCache></c:numRef></c:val></c:ser>`;
    const chartPart = `<c:chartSpace xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><c:chart><c:plotArea><c:barChart><c:barDir val="col"/>${series}<c:axId val="1"/><c:axId val="2"/></c:barChart><c:catAx><c:axId val="1"/><c:axPos val="b"/></c:catAx><c:valAx><c:axId val="2"/><c:axPos val="l"/></c:valAx></c:plotArea></c:chart></c:chartSpace>`;
    const made = base.with(
      new Map([
        [
          "word/document.xml",
          base
            .getText("word/document.xml")
            .replace("<w:body>", `<w:body>${anchor(300, 100, box)}${anchor(60, 400, chart)}`),
        ],
        ["word/charts/chart1.xml", chartPart],
        [
          "word/_rels/document.xml.rels",
          base
            .getText("word/_rels/document.xml.rels")
            .replace(
              "</Relationships>",
              '<Relationship Id="rIdChart" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/chart" Target="charts/chart1.xml"/></Relationships>',
            ),
        ],
      ]),
    );
    const laid = layDocument(made, openFonts());
    expect(laid.findings).toEqual([]);
    const [page] = laid.pages;
    const inBox = texts(page).find((item) => words(item) === "In the box") as TextItem;
    expect(inBox.x).toBeCloseTo(300, 1);
    expect(inBox.y).toBeGreaterThan(100);
    expect([...eachItem(page.items)].some((item) => item.kind === "path" && item.fill === "FFEECC")).toBe(true);
    expect(shown(page)).toMatch(/Dock.*Quay|Quay.*Dock/);
    expect(readPdf(pdfOf(laid), "pdfinfo", ["-struct"])).toContain("Figure");
  });
});

describe("forms", () => {
  it("turn text, keep exact heights, and give columns the width of their texts", async () => {
    const [page] = lay(await form()).pages;
    expect(texts(page).find((item) => words(item) === "Unit")?.rotation).toBe(90);
    const value = texts(page).find((item) => words(item) === "1,234.50") as TextItem;
    expect(value.x + value.shaped.width * value.size).toBeLessThan(page.widthPt - 45);
  });

  it("set decimal signs below each other, and lists on four levels", async () => {
    const [page] = lay(await contract()).pages;
    const [hours, parts] = ["12.5", "7"].map((text) => texts(page).find((item) => words(item) === text) as TextItem);
    const point = hours.x + (hours.shaped.runs[0].advances[0] + hours.shaped.runs[0].advances[1]) * hours.size;
    expect(parts.x + parts.shaped.width * parts.size).toBeCloseTo(point, 1);
    expect(shown(page)).toMatch(/I\..*1\..*a\).*b\).*\(i\).*\(ii\).*2\..*II\..*1\./);
  });
});

describe("the structure of a PDF", () => {
  it("names headings, paragraphs, lists, tables with header cells, links, notes and pictures, and leaves headers out", async () => {
    const struct = readPdf(pdfOf(lay(await manual())), "pdfinfo", ["-struct-text"]);
    expect(struct).toMatch(/^Document/m);
    for (const role of ["H1", "H2", "P", "L", "LI", "LBody", "Link", "Note"])
      expect(struct).toMatch(new RegExp(`^\\s+${role}\\b`, "m"));
    expect(struct).not.toContain("Lift and escalator inspection");
    const table = readPdf(pdfOf(lay(await SAMPLES.ledger())), "pdfinfo", ["-struct-text"]);
    expect(table.match(/^\s+TH\b/gm)).toHaveLength(3);
    expect(table.match(/^\s+TR\b/gm)).toHaveLength(41);
    expect(table.match(/^\s+TD\b/gm)).toHaveLength(120);
    expect(readPdf(pdfOf(lay(await circular())), "pdfinfo", ["-struct"])).toContain("Figure");
  });

  it("says so in its catalogue and metadata", async () => {
    const pdf = Buffer.from(pdfOf(lay(await manual()))).toString("latin1");
    expect(pdf).toContain("/MarkInfo << /Marked true >>");
    expect(pdf).toContain("<pdfuaid:part>1</pdfuaid:part>");
    expect(pdf).toContain("/Tabs /S");
  });
});

describe("the filled notice of the demo", () => {
  it("reads as one table under one heading row, over two pages", () => {
    const lines = Array.from({ length: 40 }, (_, index) => ({
      visit_date: "2026-10-05",
      unit: `L${index}`,
      kind: "lift",
      result: "pass",
      next_due: "2027-04-05",
      remarks: "ropes cleaned",
      inspector: "A. B.",
    }));
    const { scope, env } = record({
      site: "Harbour House",
      street: "Quay 1",
      town: "Aldmoor",
      recipient: { name: "S. M." },
      period: { label: "October 2026" },
      run: { date: "2026-11-02", sender: "o@x.example" },
      group: { number: 1 },
      lines,
    });
    const filled = DocumentTemplate.read(demo("templates/notice.docx"), "notice.docx").bind(scope).fill(env).package;
    const laid = layDocument(filled, openFonts());
    expect(laid.pages.length).toBe(2);
    const struct = readPdf(pdfOf(laid), "pdfinfo", ["-struct-text"]);
    expect(struct.match(/^\s+Table\b/gm)).toHaveLength(1);
    expect(struct.match(/^\s+TH\b/gm)).toHaveLength(6);
    expect(struct.match(/^\s+TR\b/gm)).toHaveLength(41);
  });
});

/** A document whose one paragraph holds this XML. */
async function withXml(inner: string): Promise<OoxmlPackage> {
  const base = openDocument(await longReport(1), "x.docx");
  const text = base.getText("word/document.xml").replace(/<w:body>[\s\S]*?(?=<w:sectPr)/, `<w:body>${inner}`);
  return base.with(new Map([["word/document.xml", text]]));
}

describe("what is written and what is seen", () => {
  it("are the same after tracked changes are accepted, also where a paragraph's end was deleted", async () => {
    const run = (text: string, tag = "t") => `<w:r><w:${tag} xml:space="preserve">${text}</w:${tag}></w:r>`;
    const opened = await withXml(
      `<w:p><w:pPr><w:rPr><w:del w:id="1" w:author="a"/></w:rPr></w:pPr>${run("One ")}<w:del w:id="2" w:author="a">${run("gone", "delText")}</w:del></w:p><w:p><w:ins w:id="3" w:author="a">${run("new ")}</w:ins>${run("line")}<w:moveFrom w:id="4" w:author="a">${run(" away")}</w:moveFrom><w:moveTo w:id="5" w:author="a">${run(" here")}</w:moveTo><w:r><w:rPr><w:vanish/></w:rPr><w:t>hidden</w:t></w:r></w:p>`,
    );
    const [page] = layDocument(opened, openFonts()).pages;
    const lines = new Set(texts(page).map((item) => item.y));
    expect(shown(page).replace(/ +/g, " ")).toBe("One new line here");
    expect(lines.size).toBe(1);
  });

  it("words are hyphenated where the document asks for it, and soft hyphens show at line ends only", async () => {
    const words = "Die Aufzugspr\u00fcfung und die Sicherheitsabst\u00e4nde der Fahrtreppeninstandhaltung ".repeat(6);
    const paragraph = (text: string, language: string) =>
      `<w:p><w:pPr><w:ind w:right="5600"/></w:pPr><w:r><w:rPr><w:lang w:val="${language}"/></w:rPr><w:t xml:space="preserve">${text}</w:t></w:r></w:p>`;
    const plain = await withXml(paragraph(words, "de-CH") + paragraph(`soft\u00adhyphen here`, "en-GB"));
    const settings = plain
      .getText("word/settings.xml")
      .replace(/<w:settings[^>]*>/, (open) => `${open}<w:autoHyphenation/>`);
    const asked = plain.with(new Map([["word/settings.xml", settings]]));
    const lines = (opened: OoxmlPackage): string[] =>
      layDocument(opened, openFonts())
        .pages.flatMap(texts)
        .map((item) => wordsOf(item));
    const before = lines(plain);
    const after = lines(asked);
    expect(before.some((line) => line.endsWith("-"))).toBe(false);
    expect(after.filter((line) => /[a-z\u00e4\u00fc]-$/.test(line)).length).toBeGreaterThan(3);
    expect(after.length).toBeLessThan(before.length);
    expect(after.slice(0, -1).join(" ").replace(/- /g, "").replace(/ +/g, " ").trim()).toBe(words.trim());
    expect(after.at(-1)).toBe("softhyphen here");
    const unknown = layDocument(
      asked.with(new Map([["word/document.xml", asked.getText("word/document.xml").replaceAll("de-CH", "xx")]])),
      openFonts(),
    );
    expect(unknown.findings.map((finding) => finding.code)).toEqual(["not-hyphenated"]);
  });

  it("a character that no font has is a finding and a blank that can be copied, no box", async () => {
    const laid = layDocument(await withXml("<w:p><w:r><w:t>before \u0e01 after</w:t></w:r></w:p>"), openFonts());
    expect(laid.findings.map((finding) => finding.code)).toEqual(["glyph-missing"]);
    expect(readPdf(pdfOf(laid), "pdftotext", ["-raw"])).toContain("before \u0e01 after");
    expect(readPdf(pdfOf(laid), "qpdf")).toContain("No syntax");
  });

  it("contents of other things than headings, and contents in a cell, stay as they are stored", async () => {
    const field = (instruction: string) =>
      `<w:p><w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText>${instruction}</w:instrText></w:r><w:r><w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t>Figure 1 ... 7</w:t></w:r><w:r><w:fldChar w:fldCharType="end"/></w:r></w:p>`;
    for (const xml of [
      field('TOC \\c "Figure"'),
      field('TOC \\o "1-3"'),
      `<w:tbl><w:tr><w:tc>${field('TOC \\o "1-3"')}</w:tc></w:tr></w:tbl><w:p/>`,
    ])
      expect(shown(layDocument(await withXml(xml), openFonts()).pages[0])).toContain("Figure 1 ... 7");
  });

  it("what is not drawn is named with its page", async () => {
    const laid = layDocument(
      await withXml('<w:p><w:r><w:br w:type="page"/></w:r></w:p><w:p><w:r><w:pict/></w:r></w:p>'),
      openFonts(),
    );
    expect(laid.findings).toEqual([expect.objectContaining({ code: "not-drawn", where: "x.docx, page 2" })]);
  });
});

describe("fonts of one's own", () => {
  const file = join(
    dirname(createRequire(import.meta.resolve("@corbix/fonts")).resolve("@fontsource/noto-sans-arabic/package.json")),
    "files",
    "noto-sans-arabic-arabic-400-normal.woff",
  );

  it("are taken from a folder, and found when they come", () => {
    const folder = mkdtempSync(join(tmpdir(), "corbix-fonts-"));
    try {
      expect(openFonts(folder).standIn("Noto Sans Arabic").exact).toBe(false);
      writeFileSync(join(folder, "own.woff"), readFileSync(file));
      writeFileSync(join(folder, "broken.ttf"), "no font");
      const library = openFonts(folder);
      expect(library.standIn("noto sans arabic")).toEqual({ family: "Noto Sans Arabic", exact: true });
      expect(library.list().filter((one) => one.own)).toEqual([{ family: "Noto Sans Arabic", own: true }]);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it("are refused with words where they are none", () => {
    expect(() => readFont("x.ttf", Buffer.from("nothing"))).toThrow("Cannot use `x.ttf` as a font");
  });
});

describe("damaged documents", () => {
  it("neither crash nor hang: they are laid out or refused with a place", async () => {
    const sources = await Promise.all([SAMPLES.contract(), SAMPLES.form(), SAMPLES.circular(), SAMPLES.manual()]);
    let laidOut = 0;
    forAll(160, (random) => {
      const opened = openDocument(sources[random(sources.length)], "fuzz.docx");
      const part = ["word/document.xml", "word/styles.xml", "word/numbering.xml", "word/document.xml"][random(4)];
      if (!opened.has(part)) return;
      let text = opened.getText(part);
      for (let change = 0; change < 3; change++) {
        const tags = [...text.matchAll(/<[^>]+>/g)];
        const tag = tags[random(tags.length)];
        const kind = random(10) / 10;
        const made =
          kind < 0.3
            ? ""
            : kind < 0.6
              ? tag[0].replace(/"[^"]*"/, () => `"${["", "-1", "99999999999", "x", "0"][random(5)]}"`)
              : kind < 0.8
                ? tag[0] + tag[0]
                : tag[0].replace(/w:\w+/, "w:odd");
        text = text.slice(0, tag.index) + made + text.slice(tag.index + tag[0].length);
      }
      try {
        parseXml(text, "fuzz");
      } catch {
        return;
      }
      try {
        const laid = layDocument(opened.with(new Map([[part, text]])), openFonts());
        pdfOf(laid);
        expect(laid.pages.length).toBeLessThanOrEqual(20_000);
        laidOut++;
      } catch (error) {
        expect(error).toBeInstanceOf(CorbixError);
      }
    });
    expect(laidOut).toBeGreaterThan(20);
  });
});
