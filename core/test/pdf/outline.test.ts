import { describe, expect, it } from "vitest";
import { PdfFile } from "../../src/pdf/objects.js";
import { writeOutline } from "../../src/pdf/outline.js";
import { askPdf, pdfFile } from "../support/pdf-page.js";

interface OutlineNode {
  readonly title: string;
  readonly kids: readonly OutlineNode[];
  readonly open: boolean;
  readonly destpageposfrom1: number;
  readonly dest: readonly unknown[];
}
const outlined = (entries: Parameters<typeof writeOutline>[1]): OutlineNode[] => {
  const bytes = pdfFile(2, (pdf, pages) => ({
    catalog: `/Outlines ${writeOutline(pdf, entries, pages, [100, 200])}`,
  }));
  const said = askPdf(bytes, "qpdf", (file) => ["--json", "--json-key=outlines", file]);
  return (JSON.parse(said) as { outlines: OutlineNode[] }).outlines;
};
interface Titles {
  readonly title: string;
  readonly kids: readonly Titles[];
}
const titles = (nodes: readonly OutlineNode[]): Titles[] =>
  nodes.map(({ title, kids }) => ({ title, kids: titles(kids) }));

describe("the outline beside the pages", () => {
  it("nests its entries by their levels, also where one is left out", () => {
    const found = outlined([
      { title: "Dock", page: 0 },
      { title: "Lift 1", page: 0, level: 2 },
      { title: "Lift 2", page: 0, level: 1 },
      { title: "Brake", page: 1, level: 2 },
      { title: "Käfertal", page: 1, level: 0 },
    ]);
    expect(titles(found)).toEqual([
      {
        title: "Dock",
        kids: [
          { title: "Lift 1", kids: [] },
          { title: "Lift 2", kids: [{ title: "Brake", kids: [] }] },
        ],
      },
      { title: "Käfertal", kids: [] },
    ]);
    expect(found[0].open).toBe(false);
  });

  it("leads to the page, and to the place on it", () => {
    const [first, second] = outlined([
      { title: "Dock", page: 0 },
      { title: "Quay", page: 1, y: 50 },
    ]);
    expect([first.destpageposfrom1, second.destpageposfrom1]).toEqual([1, 2]);
    expect(first.dest[1]).toBe("/Fit");
    expect(second.dest.slice(1)).toEqual(["/XYZ", 0, 150, null]);
  });

  it("is left out where there is but one entry", () => {
    expect(writeOutline(new PdfFile(), [{ title: "Dock", page: 0 }], [], [100])).toBeUndefined();
  });
});
