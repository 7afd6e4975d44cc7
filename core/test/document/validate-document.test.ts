import { OoxmlPackage } from "@corbix/core/ooxml";
import { openFonts } from "@corbix/fonts";
import { Document, Packer, Paragraph, Table, TableCell, TableRow } from "docx";
import { describe, expect, it } from "vitest";
import { demoRun } from "../support/helpers.js";
import { problemsOfDocument } from "../support/validate-document.js";

const MAIN = "word/document.xml";

describe("made documents keep to the format", () => {
  it("finds what is wrong when something is", async () => {
    const cell = new TableCell({ children: [new Paragraph({ text: "b", alignment: "center" })] });
    const table = new Table({ rows: [new TableRow({ children: [cell] })] });
    const plain = new Uint8Array(
      await Packer.toBuffer(
        new Document({ sections: [{ children: [new Paragraph("a"), table, new Paragraph("c")] }] }),
      ),
    );
    const opened = OoxmlPackage.open(plain);
    const broken = (change: (xml: string) => string): string[] => {
      const text = change(opened.getText(MAIN));
      expect(text).not.toBe(opened.getText(MAIN));
      return problemsOfDocument(opened.with(new Map([[MAIN, text]])).toBytes());
    };
    expect(problemsOfDocument(plain)).toEqual([]);
    const mark = (id: number, name: string) =>
      `<w:bookmarkStart w:id="${id}" w:name="${name}"/><w:bookmarkEnd w:id="${id}"/>`;
    for (const [change, words] of [
      [(xml: string) => xml.replace("</w:p>", `${mark(1, "x")}${mark(2, "x")}</w:p>`), "bookmark's name x twice"],
      [(xml: string) => xml.replace("</w:p>", `${mark(1, "x")}${mark(1, "y")}</w:p>`), "bookmark 1 twice"],
      [(xml: string) => xml.replace("</w:p>", '<w:bookmarkStart w:id="1" w:name="x"/></w:p>'), "without end"],
      [(xml: string) => xml.replace(/<w:tr\b.*<\/w:tr>/s, ""), "a table without rows"],
      [(xml: string) => xml.replace(/(<w:tc>.*?)<w:p>.*?<\/w:p>(<\/w:tc>)/s, "$1$2"), "a cell ends with"],
      [(xml: string) => xml.replace("<w:jc ", "<w:shd/><w:jc "), ""],
      [(xml: string) => xml.replace("<w:pPr>", '<w:pPr><w:ind/><w:pStyle w:val="None"/>'), "pStyle stands too late"],
      [(xml: string) => xml.replace("<w:pPr>", '<w:pPr><w:pStyle w:val="None"/>'), "pStyle None is not there"],
      [(xml: string) => xml.replace(">a<", ">{{ a }}<"), "a mark is left"],
      [(xml: string) => xml.replace("<w:body>", "<w:body><w:sectPr/>"), "the last section"],
      [(xml: string) => xml.replace("</w:p>", '<w:hyperlink r:id="rId99"/></w:p>'), "relationship rId99"],
    ] as const)
      if (words === "") expect(broken(change)).toEqual([]);
      else expect(broken(change).join("; ")).toContain(words);
  });

  it("the demo's quarter: a report of several documents for every group", () => {
    const { plan, maker, envs, facts } = demoRun("unit-figures", "2026-Q3", "quarter", [
      "figures.xlsx",
      "report.docx",
      "repairs.docx",
      "quarter.pptx",
    ]);
    const wrong = plan.parcels.flatMap((parcel, at) => {
      const { files } = maker.make(envs[at], ["report"], openFonts(), facts);
      const made = files.find((file) => file.kind === "docx");
      expect(made).toBeDefined();
      return problemsOfDocument(made?.bytes as Uint8Array).map((problem) => `${parcel.group.label}: ${problem}`);
    });
    expect(wrong).toEqual([]);
    expect(plan.parcels.length).toBeGreaterThan(20);
  });
});
