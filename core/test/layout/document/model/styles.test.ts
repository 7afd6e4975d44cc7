import { OoxmlPackage } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { DocumentStyles } from "../../../../src/layout/document/model/styles.js";
import { p, rawDocument } from "../../../support/raw-document.js";

const stylesOf = (styles: string) =>
  DocumentStyles.of(OoxmlPackage.open(rawDocument(p(""), { styles })), "word/document.xml");
const style = (id: string, more: string, attributes = "") =>
  `<w:style w:type="paragraph" w:styleId="${id}" ${attributes}><w:name w:val="${id}"/>${more}</w:style>`;
const bold = "<w:rPr><w:b/></w:rPr>";
const size = (half: number) => `<w:rPr><w:sz w:val="${half}"/></w:rPr>`;

describe("styles of a document", () => {
  it("stand on each other: defaults, base, style, and what is said on the spot", () => {
    const styles = stylesOf(
      `<w:docDefaults><w:rPrDefault><w:rPr><w:sz w:val="22"/></w:rPr></w:rPrDefault><w:pPrDefault><w:pPr><w:spacing w:after="160"/></w:pPr></w:pPrDefault></w:docDefaults>${style("Base", `<w:pPr><w:ind w:left="720"/></w:pPr>${bold}`)}${style("Own", `<w:basedOn w:val="Base"/>${size(30)}`)}`,
    );
    expect(styles.run({}, undefined)).toMatchObject({ size: 11 });
    expect(styles.run({}, "Own")).toMatchObject({ size: 15, bold: true });
    expect(styles.run({ size: 8 }, "Own")).toMatchObject({ size: 8, bold: true });
    expect(styles.paragraph({ style: "Own" })).toMatchObject({ left: 36, after: 8 });
    expect(styles.paragraph({ style: "Own", left: 5 })).toMatchObject({ left: 5, after: 8 });
  });

  it.each(["1", "true", "on"])("of paragraphs that name none are the usual one, marked by %s", (mark) => {
    expect(stylesOf(style("Normal", size(40), `w:default="${mark}"`)).run({}, undefined).size).toBe(20);
  });

  it("that are based on themselves, or on one that is not there, end", () => {
    const styles = stylesOf(
      `${style("A", `<w:basedOn w:val="B"/>${bold}`)}${style("B", `<w:basedOn w:val="A"/>${size(30)}`)}${style("C", `<w:basedOn w:val="Gone"/>${bold}`)}`,
    );
    expect(styles.run({}, "A")).toMatchObject({ bold: true, size: 15 });
    expect(styles.run({}, "C").bold).toBe(true);
    expect(styles.run({}, "Gone").bold).toBeUndefined();
  });

  it("have the levels of headings by their names, whatever their ids", () => {
    const styles = stylesOf(
      '<w:style w:type="paragraph" w:styleId="Titre2"><w:name w:val="heading 2"/></w:style><w:style w:type="paragraph" w:styleId="X"><w:name w:val="heading 12"/></w:style>',
    );
    expect([styles.paragraph({ style: "Titre2" }).outlineLevel, styles.paragraph({ style: "X" }).outlineLevel]).toEqual(
      [1, undefined],
    );
    expect(styles.idOf("HEADING 2")).toBe("Titre2");
  });

  it("of tables give cells what their place asks for, over what their base gives", () => {
    const look = (condition: string, more: string) => `<w:tblStylePr w:type="${condition}">${more}</w:tblStylePr>`;
    const table = (id: string, more: string) =>
      `<w:style w:type="table" w:styleId="${id}"><w:name w:val="${id}"/>${more}</w:style>`;
    const styles = stylesOf(
      table("Base", `<w:tblPr><w:tblStyleRowBandSize w:val="2"/></w:tblPr>${look("firstRow", bold)}`) +
        table(
          "Own",
          `<w:basedOn w:val="Base"/>${look("firstRow", size(30))}${look("lastRow", "<w:rPr><w:i/></w:rPr>")}`,
        ),
    );
    const run = (conditions: string[]) =>
      styles.run({}, undefined, { style: "Own", conditions, key: conditions.join() });
    expect(run(["firstRow"])).toMatchObject({ bold: true, size: 15 });
    expect(run(["lastRow"])).toMatchObject({ italic: true });
    expect(run([]).bold).toBeUndefined();
    expect(styles.table("Own").bands.rows).toBe(2);
  });
});
