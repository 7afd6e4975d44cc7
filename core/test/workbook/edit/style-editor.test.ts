import { parseXml } from "@corbix/core/ooxml";
import { readTheme } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { readStyles } from "../../../src/spreadsheet/styles.js";
import { StyleEditor } from "../../../src/workbook/edit/style-editor.js";

const PART =
  '<styleSheet><numFmts count="1"><numFmt numFmtId="164" formatCode="0.0"/></numFmts><fonts count="1"><font><sz val="9"/><color rgb="FF222222"/><name val="Sans"/></font></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellXfs count="2"><xf numFmtId="0" fontId="0"/><xf numFmtId="164" fontId="0" applyFont="1"><protection locked="0"/></xf></cellXfs></styleSheet>';
const editor = (part = PART) => new StyleEditor(parseXml(part, "x").root);
const formatsOf = (made: StyleEditor) => readStyles(made.finish(), readTheme(undefined)).formats;

describe("formats added to a workbook", () => {
  it("stand behind those it has, and look as their base does but for the code", () => {
    const made = editor();
    expect([made.withCode(1, "yyyy"), made.withCode(0, "yyyy"), made.withCode(1, "yyyy")]).toEqual([2, 3, 2]);
    const root = made.finish();
    expect(root?.child("cellXfs")?.attr("count")).toBe("4");
    expect(root?.child("cellXfs")?.elements("xf")[2].child("protection")?.attr("locked")).toBe("0");
    expect(
      root
        ?.child("numFmts")
        ?.elements()
        .map((format) => [format.attr("numFmtId"), format.attr("formatCode")]),
    ).toEqual([
      ["164", "0.0"],
      ["165", "yyyy"],
    ]);
    expect(formatsOf(made).map(({ code }) => code)).toEqual(["General", "0.0", "yyyy", "yyyy"]);
  });

  it("with a look keep what they do not say of the usual font", () => {
    const made = editor();
    const at = made.withLook({ bold: true, underline: true, rule: "bottom", right: true, code: "0.00" });
    expect(formatsOf(made)[at]).toMatchObject({
      font: { name: "Sans", size: 9, color: "222222", bold: true, underline: true },
      border: { bottom: { style: "thin" } },
      alignment: { horizontal: "right" },
      code: "0.00",
    });
    const root = made.finish();
    expect(root?.child("fonts")?.attr("count")).toBe("2");
    // A font's properties have their order, which some readers insist on.
    expect(
      root
        ?.child("fonts")
        ?.elements()[1]
        .elements()
        .map(({ local }) => local),
    ).toEqual(["b", "u", "sz", "color", "name"]);
    expect(root?.child("borders")?.attr("count")).toBe("2");
  });

  it("put the list of codes first where there is none yet, and change nothing where nothing was added", () => {
    const made = editor(PART.replace(/<numFmts.*<\/numFmts>/, ""));
    made.withCode(0, "0.000");
    expect(made.finish()?.elements()[0].local).toBe("numFmts");
    expect(editor().finish()).toBeUndefined();
    const plain = editor(PART.replace(/<numFmts.*<\/numFmts>/, ""));
    plain.withLook({ size: 20, color: "ABCDEF" });
    expect(plain.finish()?.child("numFmts")).toBeUndefined();
    expect(formatsOf(plain).at(-1)?.font).toMatchObject({ size: 20, color: "ABCDEF", name: "Sans" });
  });
});
