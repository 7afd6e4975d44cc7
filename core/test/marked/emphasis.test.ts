/** **Strong** and *emphasised* words of a value as runs with those looks, which stand in the order of 17.3.2.28. */
import { parseXml } from "@corbix/core/ooxml";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wordText } from "../../src/document/template/word-text.js";
import { inEmphasis as inEmphasisOf } from "../../src/marked/emphasis.js";

const inEmphasis = (text: string, prefix: string, looks: string): string =>
  inEmphasisOf(text, prefix, looks, wordText(new Map()));

const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const runs = (text: string, looks = "") =>
  parseXml(`<w:p ${W}><w:r>${looks}<w:t xml:space="preserve">${inEmphasis(text, "w:", looks)}</w:t></w:r></w:p>`, "p")
    .root.elements("r")
    .map((run) => [
      run
        .elements("t")
        .map((one) => one.text)
        .join("|"),
      (run.child("rPr")?.elements() ?? []).map((one) => one.local).join(" "),
    ])
    .filter(([words]) => words !== "");

describe("a value with emphasis", () => {
  it.each<[string, string[][]]>([
    ["plain", [["plain", ""]]],
    [
      "a **b** c",
      [
        ["a ", ""],
        ["b", "b"],
        [" c", ""],
      ],
    ],
    [
      "*it* and **strong words**",
      [
        ["it", "i"],
        [" and ", ""],
        ["strong words", "b"],
      ],
    ],
    ["2 * 3 * 4", [["2 * 3 * 4", ""]]],
    ["** a **", [["** a **", ""]]],
    ["a*b", [["a*b", ""]]],
    ["", []],
  ])("%j", (text, expected) => {
    expect(runs(text)).toEqual(expected);
  });

  it("keeps the looks of its run, each once and in their order", () => {
    const looks =
      '<w:rPr><w:rStyle w:val="x"/><w:rFonts w:ascii="Arial"/><w:b w:val="0"/><w:color w:val="FF0000"/></w:rPr>';
    expect(runs("a **b** *c*", looks)).toEqual([
      ["a ", "rStyle rFonts b color"],
      ["b", "rStyle rFonts b color"],
      [" ", "rStyle rFonts b color"],
      ["c", "rStyle rFonts b i color"],
    ]);
    expect(inEmphasis("**b**", "w:", looks)).not.toContain('<w:b w:val="0"/><w:b/>');
    expect(runs("*c*", "<w:rPr><w:b/><w:bCs/><w:sz w:val='20'/></w:rPr>")[0][1]).toBe("b bCs i sz");
  });

  it("loses no letter, whatever the signs", () => {
    const piece = fc.constantFrom("*", "**", "a", " ", "bc", "<", "&", "\u00e9");
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const text = pieces.join("");
        const shown = runs(text)
          .map(([words]) => words)
          .join("");
        expect(shown.replaceAll("*", "")).toBe(text.replaceAll("*", ""));
      }),
    );
  });
});
