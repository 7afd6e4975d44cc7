import { parseReport } from "@corbix/core/report";
import { answerForms, lookAtDraft, makeAnswer, type PlanInput, tryOut } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";

const ROWS = "site,unit,fee,note\nDock,L1,10,rope\nQuay,L2,20.5,\n";
const input = (more = "", rows = ROWS): PlanInput => ({
  report: parseReport(
    `report: a\ntitle: "Look {{ up }}"\ndata: t\nkeep: fee > 0\nenquiry:\n  fields: { site: { choose: site } }\n  columns: [site, fee]\n${more}`,
    "r",
  ),
  table: loadTable(Buffer.from(rows), "t.csv").table,
  others: new Map(),
  recipients: [],
  templates: new Map(),
  facts: { id: "r", date: 46_328, locale: "en-GB", sender: "" },
});
const fonts = openFonts();
const make = (given: PlanInput, form: string, kind: "csv" | "pdf" | "xlsx") => makeAnswer(given, { form, kind }, fonts);
const OWN = `  page: sheet
files:
  all: { list: { form: delimited }, name: "All" }
  sheet: { table: {}, name: "{{ unit }} at {{ site }}", pdf: only }
`;

describe("forms of an answer", () => {
  it("are plain ones where the report has no files: a list, text, and a page of a row", () => {
    expect(answerForms(input().report)).toEqual([
      { name: "list", of: "list", kinds: ["xlsx", "pdf"] },
      { name: "text", of: "list", kinds: ["csv"] },
      { name: "page", of: "row", kinds: ["xlsx", "pdf"] },
    ]);
  });
  it("are the report's own where it has some; a plain page is added under a free name", () => {
    expect(answerForms(input(OWN).report)).toEqual([
      { name: "all", of: "list", kinds: ["csv"] },
      { name: "sheet", of: "row", kinds: ["pdf"] },
    ]);
    const other =
      "files: { page: { table: {}, name: x }, deck: { slides: { list: [{ title: T }] }, name: y, pdf: too } }\n";
    expect(answerForms(input(other).report)).toEqual([
      { name: "page", of: "list", kinds: ["xlsx"] },
      { name: "deck", of: "list", kinds: ["pptx", "pdf"] },
      { name: "page-of-row", of: "row", kinds: ["xlsx", "pdf"] },
    ]);
  });
});

describe("an answer", () => {
  it("is a list of the columns that the enquiry names; a title is no mark", () => {
    const { name, bytes } = make(input(), "text", "csv");
    expect(name).toBe("Look { { up }} 2026-11-02.csv");
    expect(
      Buffer.from(bytes)
        .toString("utf8")
        .replace(/^\ufeff/, ""),
    ).toBe("site,fee\r\nDock,10\r\nQuay,20.5\r\n");
    expect([...make(input(), "list", "xlsx").bytes.subarray(0, 2)]).toEqual([0x50, 0x4b]);
  });
  it("takes the rows as they are: they are prepared already", () => {
    const zero = input("", "site,unit,fee,note\nDock,L1,0,x\n");
    expect(Buffer.from(make(zero, "text", "csv").bytes).toString("utf8")).toContain("Dock,0");
  });
  it("is the page of one row, from a file of its own or with a line for each column", () => {
    const one = "site,unit,fee,note\nQuay,L2,20.5,\n";
    expect(make(input(OWN, one), "sheet", "pdf").name).toBe("L2 at Quay.pdf");
    const plain = make(input("", one), "page", "pdf");
    expect([plain.name, Buffer.from(plain.bytes.subarray(0, 4)).toString()]).toEqual(["Look { { up }}.pdf", "%PDF"]);
  });
  it("is none of nothing, and none in a form there is not", () => {
    expect(() => make(input("", "site,unit,fee,note\n"), "text", "csv")).toThrow("nothing was found");
    expect(() => make(input("", "site,unit,fee,note\n"), "page", "pdf")).toThrow("nothing was found");
    expect(() => make(input(), "text", "pdf")).toThrow("Cannot make `text.pdf` of this answer.");
    expect(() => make(input(), "other", "pdf")).toThrow("Cannot make `other.pdf` of this answer.");
  });
});

describe("an enquiry while it is written", () => {
  it("is looked at with all rows, but for the page of a row, which is tried with the first", () => {
    const look = lookAtDraft(input(OWN));
    expect([look.problems, look.parcel?.files.map(({ path }) => path)]).toEqual([[], ["All.csv"]]);
    const tried = tryOut(input(OWN), "sheet", undefined, fonts);
    expect(tried.rows).toEqual([["Dock", "L1", 10, "rope"]]);
    expect(tryOut(input(OWN), "all", undefined, fonts).rows).toHaveLength(2);
  });
});
