import { DocumentTemplate } from "@corbix/core/document";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { explainMarks, groupScope } from "@corbix/core/run";
import { describe, expect, it } from "vitest";
import { demo } from "../../support/helpers.js";

const columns = [
  { name: "Site", type: "text" as const },
  { name: "Fee", type: "number" as const },
  { name: "Due", type: "date" as const },
];
const marks = DocumentTemplate.read(demo("templates/notice.docx"), "notice.docx").marks;

describe("what marks are filled from", () => {
  it("is told for each mark of a template with its place, without a report, and nothing is called wrong then", () => {
    const told = explainMarks(marks, undefined);
    expect(told.length).toBeGreaterThan(3);
    for (const one of told) {
      expect(one.where).not.toBe("");
      expect(one.from).not.toBe("");
      expect(one.problem).toBeUndefined();
    }
  });

  it("names the column that all lines share, the column of each line, sums over lines and the other sources", () => {
    const fields = (source: string) => marksOf(`{{ ${source} }}`);
    const from = (source: string) => explainMarks(fields(source), undefined)[0]?.from;
    expect(from("site")).toBe("column site, which all lines of the group share");
    expect(from("line.fee")).toBe("column fee of each line");
    expect(from("sum(line.fee)")).toBe("column fee over the group's lines");
    expect(from("count(line)")).toBe("the group's lines");
    expect(from("recipient.name")).toBe("the recipient list: name");
    expect(from("period.label")).toBe("the period: label");
    expect(from("run.date")).toBe("the run: date");
    expect(from("1 + 2")).toBe("itself");
    expect(from("site & sum(line.fee)")).toBe(
      "column site, which all lines of the group share, column fee over the group's lines",
    );
  });

  it("says what a report does not have, with what was probably meant", () => {
    const scope = groupScope(columns, "any", undefined);
    const problem = (source: string) => explainMarks(marksOf(`{{ ${source} }}`), scope)[0]?.problem;
    expect(problem("site")).toBeUndefined();
    expect(problem("line.fee")).toBeUndefined();
    expect(problem("line.fees")).toMatchObject({
      what: "Cannot find the column `fees`.",
      advice: 'Did you mean "Fee"?',
    });
  });
});

function marksOf(text: string) {
  const opened = OoxmlPackage.open(demo("templates/notice.docx"), "notice.docx");
  const part = "word/document.xml";
  const body = opened.getText(part).replace(/(<w:body>)[\s\S]*?(<w:sectPr[\s>])/, (_, start, end) => {
    const escaped = text.replaceAll("&", "&amp;").replaceAll("<", "&lt;");
    return `${start}<w:tbl><w:tblPr/><w:tblGrid><w:gridCol w:w="4000"/></w:tblGrid><w:tr><w:tc><w:p><w:r><w:t xml:space="preserve">${escaped}</w:t></w:r></w:p></w:tc></w:tr></w:tbl><w:p/>${end}`;
  });
  const bytes = opened.with(new Map([[part, body]])).toBytes();
  const own = DocumentTemplate.read(bytes, "m.docx").marks;
  return own.filter((mark) => `{{ ${mark.source} }}` === text || text.includes(mark.source));
}
