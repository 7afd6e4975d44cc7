/** Documents without a template: what they hold, and how they become pages. */
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { auditPdf, writeDocument } from "../../src/audit/index.js";
import { openDocument } from "../../src/document/index.js";
import { askPdf } from "../support/pdf-page.js";
import { problemsOfDocument } from "../support/validate-document.js";

const about = { footer: `Run 1 <&> "two"`, language: "en" };

describe("a document of headings, facts and tables", () => {
  it("is one that keeps to the standard, whatever stands in it", () => {
    const written = writeDocument(
      [
        { kind: "heading", level: 1, text: `A & B <i> "c"` },
        { kind: "text", text: "naïve\u00a0text" },
        { kind: "facts", facts: [["Name", "one\ntwo"]] },
        { kind: "table", columns: [{ title: "Column", share: 1 }], rows: [["cell"]] },
      ],
      about,
    );
    expect(problemsOfDocument(written.toBytes())).toEqual([]);
    const opened = openDocument(written.toBytes(), "audit.docx");
    const texts = (part: string) =>
      opened
        .getXml(part)
        .descendants("t")
        .map((one) => one.text);
    expect(texts("word/document.xml")).toEqual([
      `A & B <i> "c"`,
      "naïve\u00a0text",
      "Name",
      "one",
      "two",
      "Column",
      "cell",
    ]);
    expect(texts("word/footer1.xml")[0]).toBe(about.footer);
  });

  it("says on each page what its columns are, and which page of how many it is", () => {
    const rows = Array.from({ length: 200 }, (_, at) => [String(at + 1), `group ${at + 1}`]);
    const columns = [
      { title: "Number", share: 1 },
      { title: "Digest", share: 3, fine: true },
    ];
    const pdf = auditPdf([{ kind: "table", columns, rows }], {
      title: "What went",
      language: "en",
      fonts: openFonts(),
    });
    const pages = askPdf(pdf, "pdftotext", (file) => ["-layout", file, "-"])
      .split("\f")
      .slice(0, -1);
    expect(pages.length).toBeGreaterThan(3);
    for (const [at, page] of pages.entries()) {
      expect(page).toMatch(/Number\s+Digest/);
      expect(page).toMatch(new RegExp(`What went\\s+${at + 1} ?/ ?${pages.length}`));
    }
    expect(pages.join("").match(/group \d+/g)?.length).toBe(200);
  });
});
