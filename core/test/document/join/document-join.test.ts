import { DocumentTemplate, growDocument, joinDocuments, openDocument, periodsOf } from "@corbix/core/document";
import { layDocument } from "@corbix/core/layout";
import type { OoxmlPackage } from "@corbix/core/ooxml";
import { eachItem, type TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import { Document, FootnoteReferenceRun, Packer, Paragraph, TextRun } from "docx";
import { describe, expect, it } from "vitest";
import { demoRun, readDocumentElsewhere, record } from "../../support/helpers.js";
import { certificate, contract, manual, SAMPLES } from "../../support/sample-documents.js";

const open = (bytes: Uint8Array): OoxmlPackage => openDocument(bytes, "x.docx");

/** Texts with size, colour and font, page by page: what a reader sees. */
function looks(opened: OoxmlPackage): string[][] {
  return layDocument(opened, openFonts()).pages.map((page) =>
    [...eachItem(page.items)]
      .filter((item): item is TextItem => item.kind === "text")
      .map(
        (item) =>
          `${item.shaped.runs.flatMap((run) => run.texts).join("")}|${item.size}|${item.color}|${item.shaped.runs[0]?.font.name}`,
      ),
  );
}

/** Without page numbers, which count over the whole file. */
const withoutTotals = (pages: readonly (readonly string[])[]): string[][] =>
  pages.map((page) => page.map((text) => text.replace(/^\d+\|/, "n|")));

describe("documents behind each other", () => {
  it("look as each looked alone, with their own sections, lists, notes and pictures", async () => {
    const [cover, letter, terms] = [open(await certificate()), open(await manual()), open(await contract())];
    const pack = joinDocuments(joinDocuments(cover, letter), terms);
    const whole = looks(open(pack.toBytes()));
    const alone = [cover, letter, terms].flatMap(looks);
    expect(whole.length).toBe(alone.length);
    expect(withoutTotals(whole)).toEqual(withoutTotals(alone));
    expect(readDocumentElsewhere(pack.toBytes()).join(" ")).toMatch(
      /Certificate.*Manual of inspection.*Contract of inspection/,
    );
  });

  it.each(Object.keys(SAMPLES) as (keyof typeof SAMPLES)[])("keep their looks behind another: %s", async (name) => {
    const [first, second] = [open(await certificate()), open(await SAMPLES[name]())];
    const alone = looks(second);
    const whole = looks(open(joinDocuments(first, second).toBytes()));
    expect(withoutTotals(whole.slice(-alone.length))).toEqual(withoutTotals(alone));
  });

  it("keep different styles of one name apart, and set back what only the first document sets", async () => {
    const first = open(await contract());
    const second = open(await contract());
    const styles = second
      .getText("word/styles.xml")
      .replace(/<w:docDefaults>[\s\S]*<\/w:docDefaults>/, "<w:docDefaults/>");
    const plain = second.with(new Map([["word/styles.xml", styles]]));
    const alone = looks(plain);
    const whole = looks(open(joinDocuments(first, plain).toBytes()));
    expect(whole.slice(-alone.length)).toEqual(alone);
  });
});

describe("a document that grows", () => {
  const section = async (month: string): Promise<OoxmlPackage> => {
    const { scope, env } = record({ month, lines: [] });
    const opened = open(await certificate());
    const text = opened.getText("word/document.xml").replace("Certificate", "Certificate of {{ month }}");
    const bytes = opened.with(new Map([["word/document.xml", text]])).toBytes();
    return DocumentTemplate.read(bytes, "t.docx").bind(scope).fill(env).package;
  };

  it("gets a section for each period, in order and once, and keeps the others as they were", async () => {
    const august = growDocument(undefined, await section("August"), "2026-08");
    const september = growDocument(open(august.toBytes()), await section("September"), "2026-09");
    const october = growDocument(open(september.toBytes()), await section("October"), "2026-10");
    expect(periodsOf(open(october.toBytes()))).toEqual(["2026-08", "2026-09", "2026-10"]);
    const pages = looks(open(october.toBytes()));
    expect(pages.map((page) => /of (\w+)/.exec(page.join(" "))?.[1])).toEqual(["August", "September", "October"]);
    expect(pages.slice(0, 2)).toEqual(looks(september));
    await expect(section("October").then((again) => growDocument(october, again, "2026-10"))).rejects.toThrow(
      "Cannot add a section for 2026-10: the document goes on to 2026-10 already.",
    );
  });
});

describe("the demo's reports of a quarter", () => {
  it("are made for all 26 groups, opened by another reader, and say what their rows say", () => {
    const names = ["figures.xlsx", "report.docx", "repairs.docx", "quarter.pptx"];
    const { plan, maker, envs, facts } = demoRun("unit-figures", "2026-Q3", "quarter", names);
    let withRepairs = 0;
    for (const [at, parcel] of plan.parcels.entries()) {
      const { files, findings } = maker.make(envs[at], ["report"], openFonts(), facts);
      expect(findings).toEqual([]);
      const text = readDocumentElsewhere(files[0].bytes).join("\n");
      const result = plan.table.columns.find((column) => column.name === "Result");
      const failed = parcel.group.rows.filter((row) => result?.values[row] === "fail").length;
      expect(text.includes("What a repair needs")).toBe(failed > 0);
      expect(text).toContain(`${parcel.group.rows.length} visits to`);
      expect(text).toContain(failed === 0 ? "all of which passed" : `of which ${failed} did not pass`);
      expect(text.match(/repair what was found/g)?.length ?? 0).toBe(failed);
      if (failed > 0) withRepairs++;
    }
    expect(plan.parcels.length).toBe(26);
    expect(withRepairs).toBeGreaterThan(5);
    expect(withRepairs).toBeLessThan(26);
  });

  it("keep every sign of their notes and styles, such as those that programs read as commands", async () => {
    const signs = "US$& and $' and $$ and $1";
    const file = async () =>
      open(
        new Uint8Array(
          await Packer.toBuffer(
            new Document({
              footnotes: { 1: { children: [new Paragraph(signs)] } },
              sections: [
                { children: [new Paragraph({ children: [new TextRun("text"), new FootnoteReferenceRun(1)] })] },
              ],
            }),
          ),
        ),
      );
    const pack = joinDocuments(await file(), await file());
    const notes = pack.getXml("word/footnotes.xml").elements("footnote");
    expect(notes.filter((note) => note.text.includes("US")).map((note) => note.text.trim())).toEqual([signs, signs]);
  });
});
