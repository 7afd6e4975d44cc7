import { openDocument } from "@corbix/core/document";
import { layDocument } from "@corbix/core/layout";
import { eachItem, type Page, type TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import {
  Document,
  ExternalHyperlink,
  Footer,
  Header,
  HeadingLevel,
  ImageRun,
  type ISectionOptions,
  Packer,
  PageNumber,
  Paragraph,
  SectionType,
  Table,
  TableCell,
  TableRow,
  TextRun,
} from "docx";
import { describe, expect, it } from "vitest";

const PNG = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

async function lay(sections: readonly ISectionOptions[], options: object = {}) {
  const bytes = await Packer.toBuffer(new Document({ ...options, sections: [...sections] }));
  return layDocument(openDocument(new Uint8Array(bytes), "t.docx"), openFonts());
}

const texts = (page: Page): TextItem[] =>
  [...eachItem(page.items)].filter((item): item is TextItem => item.kind === "text");
const words = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");
const all = (page: Page): string => texts(page).map(words).join(" ");
const find = (page: Page, text: string): TextItem => texts(page).find((item) => words(item).includes(text)) as TextItem;

describe("sections", () => {
  it("have their own paper, headers and page numbers, and a first page of its own", async () => {
    const header = (text: string) => new Header({ children: [new Paragraph(text)] });
    const { pages } = await lay([
      {
        properties: { titlePage: true, page: { size: { width: 11906, height: 16838 } } },
        headers: { default: header("running"), first: header("cover") },
        footers: {
          default: new Footer({
            children: [
              new Paragraph({
                children: [new TextRun({ children: [PageNumber.CURRENT, "/", PageNumber.TOTAL_PAGES] })],
              }),
            ],
          }),
        },
        children: [new Paragraph("one"), new Paragraph({ text: "two", pageBreakBefore: true })],
      },
      {
        properties: {
          type: SectionType.NEXT_PAGE,
          page: { size: { width: 16838, height: 11906 }, pageNumbers: { start: 7 } },
        },
        children: [new Paragraph("wide")],
      },
    ]);
    expect(pages.map((page) => Math.round(page.widthPt))).toEqual([595, 595, 842]);
    expect(all(pages[0])).toContain("cover");
    expect(all(pages[0])).not.toContain("running");
    expect(all(pages[1])).toMatch(/running.*two.*2\s*\/\s*3/);
    expect(all(pages[2])).toMatch(/running.*wide.*7\s*\/\s*3/);
  });

  it("push the text down where the header is taller than its margin", async () => {
    const tall = new Header({ children: Array.from({ length: 12 }, (_, index) => new Paragraph(`header ${index}`)) });
    const { pages } = await lay([{ headers: { default: tall }, children: [new Paragraph("body")] }]);
    expect(find(pages[0], "body").y).toBeGreaterThan(find(pages[0], "header 11").y);
  });
});

describe("looks", () => {
  it("follow styles, what they are based on, and what stands at the run", async () => {
    const { pages } = await lay(
      [
        {
          children: [
            new Paragraph({
              style: "Small",
              children: [new TextRun("styled "), new TextRun({ text: "own", size: 40, color: "00AA00" })],
            }),
            new Paragraph({ text: "Title", heading: HeadingLevel.HEADING_1 }),
          ],
        },
      ],
      {
        styles: {
          paragraphStyles: [
            { id: "Base", name: "Base", run: { color: "AA0000", size: 30 } },
            { id: "Small", name: "Small", basedOn: "Base", run: { size: 16 } },
          ],
        },
      },
    );
    const styled = find(pages[0], "styled");
    expect([styled.size, styled.color]).toEqual([8, "AA0000"]);
    const own = find(pages[0], "own");
    expect([own.size, own.color]).toEqual([20, "00AA00"]);
  });

  it("draw underline, strike, highlight, capitals, raised text and character spacing", async () => {
    const { pages } = await lay([
      {
        children: [
          new Paragraph({
            children: [
              new TextRun({ text: "under", underline: {} }),
              new TextRun({ text: "struck", strike: true }),
              new TextRun({ text: "bright", highlight: "yellow" }),
            ],
          }),
          new Paragraph({
            children: [
              new TextRun({ text: "caps", allCaps: true }),
              new TextRun({ text: "Small", smallCaps: true }),
              new TextRun({ text: "2", superScript: true }),
              new TextRun({ text: "wide", characterSpacing: 100 }),
              new TextRun({ text: "gone", vanish: true }),
            ],
          }),
        ],
      },
    ]);
    const [page] = pages;
    expect([...eachItem(page.items)].filter((item) => item.kind === "line")).toHaveLength(2);
    expect([...eachItem(page.items)].some((item) => item.kind === "fill" && item.color === "FFFF00")).toBe(true);
    expect(all(page)).toContain("CAPS");
    expect(all(page)).not.toContain("gone");
    expect(find(page, "MALL").size).toBeLessThan(find(page, "S").size);
    expect(find(page, "2").y).toBeLessThan(find(page, "CAPS").y);
    const face = openFonts().face("Times New Roman", false, false);
    expect(find(page, "wide").shaped.width).toBeGreaterThan(face.shape("wide").width * 1.5);
  });

  it("place pictures in the line, at their size", async () => {
    const { pages } = await lay([
      {
        children: [
          new Paragraph({
            children: [
              new TextRun("before "),
              new ImageRun({ type: "png", data: PNG, transformation: { width: 96, height: 48 } }),
            ],
          }),
        ],
      },
    ]);
    const image = [...eachItem(pages[0].items)].find((item) => item.kind === "image");
    expect(image).toMatchObject({ width: 72, height: 36 });
    expect(image?.kind === "image" && image.y + image.height).toBeCloseTo(find(pages[0], "before").y, 3);
  });

  it("make links of hyperlinks", async () => {
    const { pages } = await lay([
      {
        children: [
          new Paragraph({
            children: [new ExternalHyperlink({ link: "https://lifts.example/", children: [new TextRun("our page")] })],
          }),
        ],
      },
    ]);
    expect([...eachItem(pages[0].items)].find((item) => item.kind === "link")).toMatchObject({
      target: "https://lifts.example/",
    });
  });
});

describe("cells written alike", () => {
  it("stand each in its place, count on in lists, and hold tables of their own", async () => {
    const cell = (...children: (Paragraph | Table)[]) => new TableCell({ children });
    const item = () => new Paragraph({ text: "check", numbering: { reference: "steps", level: 0 } });
    const inner = () => new Table({ rows: [new TableRow({ children: [cell(new Paragraph("inner"))] })] });
    const row = () =>
      new TableRow({
        children: [
          cell(new Paragraph("pass")),
          cell(item()),
          cell(inner(), new Paragraph("")),
          cell(new Paragraph("pass")),
        ],
      });
    const { pages } = await lay([{ children: [new Table({ rows: [row(), row(), row()] })] }], {
      numbering: {
        config: [{ reference: "steps", levels: [{ level: 0, format: "decimal", text: "%1.", alignment: "left" }] }],
      },
    });
    const places = (text: string): TextItem[] => texts(pages[0]).filter((one) => words(one) === text);
    const distinct = (values: readonly number[]): number => new Set(values.map((value) => value.toFixed(2))).size;
    const alike = places("pass");
    expect(alike).toHaveLength(6);
    expect([distinct(alike.map((one) => one.x)), distinct(alike.map((one) => one.y))]).toEqual([2, 3]);
    expect(
      texts(pages[0])
        .map(words)
        .filter((text) => /^\d\.$/.test(text)),
    ).toEqual(["1.", "2.", "3."]);
    expect(distinct(places("inner").map((one) => one.y))).toBe(3);
  });
});

describe("what no page can hold", () => {
  it("is named, not cut off in silence", async () => {
    const tall = new TableCell({ children: Array.from({ length: 120 }, (_, index) => new Paragraph(`line ${index}`)) });
    const { findings } = await lay([
      {
        children: [new Table({ rows: [new TableRow({ cantSplit: true, children: [tall] })] }), new Paragraph("after")],
      },
    ]);
    expect(findings.map((finding) => finding.code)).toEqual(["cut-off"]);
  });

  it("goes on over the pages where a row may break, below the repeated heading", async () => {
    const cell = (texts: readonly string[]) => new TableCell({ children: texts.map((text) => new Paragraph(text)) });
    const lines = Array.from({ length: 120 }, (_, index) => `line ${index}`);
    const { pages, findings } = await lay([
      {
        children: [
          new Table({
            rows: [
              new TableRow({ tableHeader: true, children: [cell(["Head"]), cell(["Beside"])] }),
              new TableRow({ children: [cell(lines), cell(["short"])] }),
            ],
          }),
          new Paragraph("after"),
        ],
      },
    ]);
    expect(findings).toEqual([]);
    expect(pages.length).toBe(3);
    const shown = pages.flatMap(texts).map(words);
    expect(shown.filter((text) => text.startsWith("line "))).toEqual(lines);
    expect(shown.filter((text) => text === "Head")).toHaveLength(3);
    expect(shown.filter((text) => text === "short")).toHaveLength(1);
  });
});

describe("spacing", () => {
  it("keeps the distances of paragraphs and lines", async () => {
    const exact = { line: 400, lineRule: "exact" as const };
    const { pages } = await lay([
      {
        children: [
          new Paragraph({ text: "a", spacing: { ...exact, after: 200 } }),
          new Paragraph({ text: "b", spacing: { ...exact, before: 100 } }),
          new Paragraph({ text: "c", spacing: exact }),
        ],
      },
    ]);
    const [a, b, c] = ["a", "b", "c"].map((text) => find(pages[0], text).y);
    expect(b - a).toBeCloseTo(20 + 10 + 5, 3);
    expect(c - b).toBeCloseTo(20, 3);
  });

  it("leaves blanks out between paragraphs of one style that ask for it", async () => {
    const item = (text: string) =>
      new Paragraph({
        text,
        contextualSpacing: true,
        spacing: { before: 400, after: 400, line: 240, lineRule: "exact" },
      });
    const { pages } = await lay([{ children: [item("a"), item("b")] }]);
    expect(find(pages[0], "b").y - find(pages[0], "a").y).toBeCloseTo(12, 3);
  });

  it("breaks a word that is wider than the page, and long text at blanks only", async () => {
    const { pages } = await lay([
      { children: [new Paragraph("x".repeat(400)), new Paragraph("lift and escalator ".repeat(30))] },
    ]);
    const lines = texts(pages[0]).map(words);
    expect(lines.filter((line) => /^x+$/.test(line)).join("")).toHaveLength(400);
    for (const line of lines.filter((one) => !one.startsWith("x")))
      expect(line.trim()).toMatch(/^(lift|and|escalator)( (lift|and|escalator))*$/);
    const right = Math.max(
      ...texts(pages[0]).map(
        (item) => item.x + item.shaped.width * item.size - (words(item).endsWith(" ") ? item.size * 0.25 : 0),
      ),
    );
    expect(right).toBeLessThanOrEqual(pages[0].widthPt - 72 + 0.5);
  });
});
