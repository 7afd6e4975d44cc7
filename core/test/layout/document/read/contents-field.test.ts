import { parseXml, type XmlElement } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { afterField, contentsField, endOfField } from "../../../../src/layout/document/read/contents-field.js";

const mark = (type: string) => `<w:r><w:fldChar w:fldCharType="${type}"/></w:r>`;
const code = (text: string) => `<w:r><w:instrText>${text}</w:instrText></w:r>`;
const word = (text: string) => `<w:r><w:t>${text}</w:t></w:r>`;
const body = (...paragraphs: string[]): XmlElement[] =>
  parseXml(
    `<w:body xmlns:w="urn:w">${paragraphs.map((one) => `<w:p>${one}</w:p>`).join("")}</w:body>`,
    "x",
  ).root.elements();

describe("the field of a table of contents", () => {
  it("is told by its instruction, which may be broken over runs", () => {
    const [contents, page, plain] = body(
      mark("begin") + code(" TOC \\o &quot;1-") + code("3&quot; \\h ") + mark("separate") + code("PAGEREF _Toc1"),
      mark("begin") + code("PAGE"),
      word("text"),
    );
    expect(contentsField(contents)).toBe(' TOC \\o "1-3" \\h ');
    expect([contentsField(page), contentsField(plain)]).toEqual([undefined, undefined]);
  });

  it("ends where all fields within it have ended", () => {
    const paragraphs = body(
      mark("begin") + code("TOC") + mark("separate"),
      mark("begin") + code("PAGEREF") + mark("end"),
      word("entry"),
      mark("end") + word("behind"),
      word("next"),
    );
    expect(endOfField(paragraphs, 0)).toBe(3);
    expect(endOfField(paragraphs.slice(0, 3), 0)).toBeUndefined();
  });

  it("leaves what stands behind its end, and nothing where nothing does", () => {
    const [behind, bare, section] = body(
      `<w:pPr><w:jc w:val="right"/></w:pPr>${word("entry")}${mark("end")}${word("behind")}`,
      word("entry") + mark("end") + word(" "),
      `<w:pPr><w:sectPr/></w:pPr>${mark("end")}`,
    );
    expect([afterField(behind)?.text, afterField(behind)?.child("pPr") !== undefined]).toEqual(["behind", true]);
    expect(afterField(bare)).toBeUndefined();
    expect(afterField(section)?.path("pPr", "sectPr")).toBeDefined();
  });
});
