/** What stands in a paragraph, by its markup: runs, fields, links, notes, signs, and what is not drawn. */
import { describe, expect, it } from "vitest";
import { layRaw, p, part, r, t, words } from "../../../support/raw-document.js";

const char = (type: string) => r(`<w:fldChar w:fldCharType="${type}"/>`);
const field = (instruction: string, stored = "stored") =>
  char("begin") + r(`<w:instrText>${instruction}</w:instrText>`) + char("separate") + t(stored) + char("end");
const TODAY = { today: 46_328, locale: "en-GB" };

describe("the text of a paragraph", () => {
  it.each<[string, string, string]>([
    ["hyphens that do not break", `${t("a")}${r("<w:noBreakHyphen/>")}${t("b")}`, "a\u2011b"],
    ["an inserted run", `<w:ins>${t("in")}</w:ins><w:del><w:r><w:delText>out</w:delText></w:r></w:del>`, "in"],
    ["a moved run", `<w:moveTo>${t("here")}</w:moveTo><w:moveFrom>${t("there")}</w:moveFrom>`, "here"],
    ["a content control", `<w:sdt><w:sdtPr/><w:sdtContent>${t("inside")}</w:sdtContent></w:sdt>`, "inside"],
    ["a smart tag", `<w:smartTag><w:smartTagPr/>${t("tagged")}</w:smartTag>`, "tagged"],
    ["blanks around a text without a wish for them", r("<w:t>  word  </w:t>") + t("!"), "word!"],
    ["a symbol that has a sign of its own", r('<w:sym w:font="Symbol" w:char="F0B7"/>'), "•"],
    ["a symbol by its code", r('<w:sym w:font="x" w:char="2713"/>'), "✓"],
    ["a symbol whose code is none", r('<w:sym w:font="x" w:char="zz"/>') + t("x"), "\ufffdx"],
    ["a symbol beyond all codes", r('<w:sym w:font="x" w:char="FFFFFFF"/>') + t("x"), "\ufffdx"],
    ["hidden text", r("<w:t>secret</w:t>", "<w:vanish/>") + t("shown"), "shown"],
    ["an equation's signs", "<m:oMath><m:r><m:t>a+b</m:t></m:r></m:oMath>", "a+b"],
    ["a stored result of another field", field(" SEQ Figure ", "4"), "4"],
    ["a simple field", `<w:fldSimple w:instr=" AUTHOR ">${t("Ann")}</w:fldSimple>`, "Ann"],
    ["a field without a result", char("begin") + r("<w:instrText> PAGE </w:instrText>") + char("end"), "1"],
    ["a page number in letters", field(" PAGE \\* ROMAN "), "I"],
    ["pages in all", field(" NUMPAGES \\* MERGEFORMAT "), "1"],
    [
      "a field inside the instruction of another",
      `${char("begin")}${r("<w:instrText> IF </w:instrText>")}${field(" PAGE ", "9")}${char("separate")}${t("yes")}${char("end")}`,
      "yes",
    ],
    ["the end of a field that never began", `${char("end")}${t("on")}`, "on"],
  ])("holds %s", (_, content, expected) => {
    expect(layRaw(p(content)).texts.map(words).join("")).toBe(expected);
  });

  it("has the run's own day where a field asks for it, as its picture says; without a day what is stored", () => {
    const date = p(
      field(' DATE \\@ "d MMMM yyyy" ') + t(" ") + field(" DATE ") + t(" ") + field(" TIME \\@ \"'day' d\" "),
    );
    expect(layRaw(date, {}, TODAY).text).toBe("2 November 2026 02/11/2026 day 2");
    expect(layRaw(date).text).toBe("stored stored stored");
  });

  it("has tabs to a side of the line, breaks of lines, columns and pages", () => {
    const tab = (side: string) => r(`<w:ptab w:alignment="${side}" w:relativeTo="margin" w:leader="none"/>`);
    const { texts } = layRaw(p(`${t("left")}${tab("center")}${t("mid")}${tab("right")}${t("end")}`));
    const [left, mid, end] = texts.map((item) => item.x);
    expect([mid - left > 150, end - mid > 150]).toEqual([true, true]);
    const lines = layRaw(p(`${t("one")}${r("<w:br/>")}${t("two")}${r("<w:cr/>")}${t("three")}`)).texts;
    expect(lines[0].y < lines[1].y && lines[1].y < lines[2].y).toBe(true);
    const paged = layRaw(p(`${t("one")}${r('<w:br w:type="page"/>')}${t("two")}`));
    expect(paged.pages).toHaveLength(2);
    expect(layRaw(p(t("a\tb"))).texts.map(words)).toEqual(["a", "b"]);
  });

  it("leads where its links lead: out, to a place here, by a field, and by its relation only if there is one", () => {
    const links = (content: string) =>
      layRaw(p(content), { rels: [["rIdX", "hyperlink", "https://lifts.example/a"]] }).items.flatMap((item) =>
        item.kind === "link" ? [item.target] : [],
      );
    expect(links(`<w:hyperlink r:id="rIdX">${t("out")}</w:hyperlink>`)).toEqual(["https://lifts.example/a"]);
    expect(links(`<w:hyperlink r:id="rIdX" w:anchor="x">${t("out")}</w:hyperlink>`)).toEqual([
      "https://lifts.example/a#x",
    ]);
    expect(links(field(' HYPERLINK "https://lifts.example/b" \\l "y" '))).toEqual(["https://lifts.example/b#y"]);
    expect(links(field(' HYPERLINK "https://lifts.example/b" '))).toEqual(["https://lifts.example/b"]);
    expect(links(`<w:hyperlink r:id="rIdGone">${t("nowhere")}</w:hyperlink>`)).toEqual([]);
    const here = `<w:bookmarkStart w:id="1" w:name="place"/>${t("Place")}<w:bookmarkEnd w:id="1"/>`;
    for (const way of [
      `<w:hyperlink w:anchor="place">${t("in")}</w:hyperlink>`,
      field(' HYPERLINK \\l "place" '),
      field(" PAGEREF place \\h "),
      `<w:fldSimple w:instr=' HYPERLINK \\l "place" '>${t("in")}</w:fldSimple>`,
    ])
      expect(links(here + way)).toEqual(["#place"]);
  });

  it("names what is not drawn with its page, once for each kind", () => {
    const { found } = layRaw(
      p(`<m:oMath><m:r><m:t>x</m:t></m:r></m:oMath>`) +
        p(r("<w:ruby/>")) +
        p("<w:odd/>") +
        p(r('<w:footnoteReference w:id="7"/>')) +
        p(r('<w:endnoteReference w:id="7"/>')),
    );
    expect(found.join("\n")).toMatch(/an equation as it is set[\s\S]*the element ruby[\s\S]*the element odd/);
    expect(found.join("\n")).toMatch(/a footnote that is missing in the file[\s\S]*an endnote that is missing/);
  });

  it("has notes with their numbers, or with marks of their own", () => {
    const notes = part(
      "footnotes",
      `<w:footnote w:id="1">${p(`${r("<w:footnoteRef/>")}${t(" the first")}`)}</w:footnote><w:footnote w:id="2">${p(t("the second"))}</w:footnote>`,
    );
    const { text } = layRaw(
      p(
        `${t("Word")}${r('<w:footnoteReference w:id="1"/>')}${t(" and")}${r('<w:footnoteReference w:id="2" w:customMarkFollows="1"/><w:t>*</w:t>')}`,
      ),
      { parts: { "word/footnotes.xml": notes }, rels: [["rIdN", "footnotes", "footnotes.xml"]] },
    );
    expect(text).toContain("1 the first");
    expect(text).toMatch(/Word ?1 and ?\*/);
    expect(text).toContain("the second");
  });
});
