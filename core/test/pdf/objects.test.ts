import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PdfFile, pdfName, pdfNumber, pdfText } from "../../src/pdf/objects.js";
import { askPdf, pdfFile } from "../support/pdf-page.js";

describe("a file of objects", () => {
  it("is one that another reader finds nothing wrong with, streams and all", () => {
    const bytes = pdfFile(2, (pdf) => ({ page: `/Contents ${pdf.stream("0 0 m 10 10 l S")}` }));
    expect(askPdf(bytes, "qpdf", (file) => ["--check", file])).toContain("No syntax or stream encoding errors found");
    expect(askPdf(bytes, "qpdf", (file) => ["--show-npages", file]).trim()).toBe("2");
  });

  it("gives the same bytes for the same objects, and another id for others", () => {
    const make = (text: string) => pdfFile(1, (pdf) => ({ page: `/Contents ${pdf.stream(text)}` }));
    expect(Buffer.from(make("q Q"))).toEqual(Buffer.from(make("q Q")));
    const idOf = (bytes: Uint8Array) => /\/ID \[<(\w+)>/.exec(Buffer.from(bytes).toString("latin1"))?.[1];
    expect(idOf(make("q Q"))).not.toBe(idOf(make("q  Q")));
  });

  it("numbers objects in the order they are reserved, and keeps streams as they are given", () => {
    const pdf = new PdfFile();
    expect([pdf.reserve(), pdf.add("[1]"), pdf.rawStream(Uint8Array.of(1, 2), "/X 1")].map(String)).toEqual([
      "1 0 R",
      "2 0 R",
      "3 0 R",
    ]);
  });
});

describe("texts, numbers and names", () => {
  it("a text is read back as it was, whatever its letters", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), (text) => {
        const bytes = Buffer.from(pdfText(text).slice(1, -1), "hex");
        expect(bytes.subarray(0, 2)).toEqual(Buffer.of(0xfe, 0xff));
        expect(new TextDecoder("utf-16be").decode(bytes.subarray(2))).toBe(text);
      }),
    );
  });

  it.each([
    [1, "1"],
    [0.12345, "0.123"],
    [-0.0001, "0"],
    [-1.5, "-1.5"],
    [1e6 + 0.0004, "1000000"],
  ])("%d is written %s", (value, text) => {
    expect(pdfNumber(value)).toBe(text);
  });

  it("no number is written with an exponent, which the format has not", () => {
    fc.assert(
      fc.property(fc.double({ min: -1e7, max: 1e7, noNaN: true }), (value) => {
        expect(pdfNumber(value)).toMatch(/^-?\d+(?:\.\d{1,3})?$/);
      }),
    );
  });

  it("signs that a name cannot hold are written by number", () => {
    expect(pdfName("Lift report/26 #1")).toBe("/Lift#20report#2f26#20#231");
  });
});
