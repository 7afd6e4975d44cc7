import { escapeXml, parseXml, unescapeXml, XmlElement } from "@corbix/core/ooxml";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const name = fc.constantFrom("w:p", "a", "x14:cfRule", "Ünit", "_b-1.c");
const plain = fc
  .string({ unit: "grapheme", maxLength: 20 })
  .map((text) => text.replace(/[\u0000-\u001f\ufffe\uffff\ud800-\udfff]/gu, ""));
const attribute = fc.tuple(fc.constantFrom("r", "w:val", "xml:space", "s1"), plain, fc.constantFrom('"', "'"));

/** Written text with its tree's text content: what is read has to say the same. */
const { element } = fc.letrec<{ element: string; content: string }>((tie) => ({
  content: fc.oneof(
    { depthSize: "small" },
    { weight: 3, arbitrary: plain.map(escapeXml) },
    {
      weight: 1,
      arbitrary: fc.constantFrom("<!-- a > b -->", "<![CDATA[<not & a tag>]]>", "&#x20AC;", "&#10;", "<?pi x?>"),
    },
    { weight: 3, arbitrary: tie("element") },
  ),
  element: fc
    .tuple(
      name,
      fc.uniqueArray(attribute, { selector: ([key]) => key, maxLength: 3 }),
      fc.array(tie("content"), { maxLength: 4 }),
      fc.boolean(),
    )
    .map(([tag, attributes, contents, isShort]) => {
      const written = attributes.map(([key, value, quote]) => {
        const own = escapeXml(value).replaceAll('"', "&quot;").replaceAll("'", "&apos;");
        return ` ${key}=${quote}${own}${quote}`;
      });
      const inside = contents.join("");
      return inside === "" && isShort
        ? `<${tag}${written.join("")}/>`
        : `<${tag}${written.join("")}>${inside}</${tag}>`;
    }),
}));

describe("a document that is not edited", () => {
  it("is written back letter for letter, however it was written", () => {
    fc.assert(
      fc.property(element, (source) => {
        const document = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\r\n${source}\n<!-- end -->`;
        const { head, root, tail } = parseXml(document, "t");
        expect(`${head}${root.toString()}${tail}`).toBe(document);
      }),
      { numRuns: 400 },
    );
  });

  it("has attributes and texts as they were meant", () => {
    fc.assert(
      fc.property(plain, plain, (value, text) => {
        const quoted = escapeXml(value).replaceAll('"', "&quot;");
        const { root } = parseXml(`<a v="${quoted}"><b>${escapeXml(text)}</b></a>`, "t");
        expect(root.attr("v")).toBe(value);
        const inner = root.children.find((child) => child instanceof XmlElement) as XmlElement;
        expect(inner.text).toBe(text);
        expect(unescapeXml(escapeXml(text))).toBe(text);
      }),
      { numRuns: 300 },
    );
  });

  it.each(["<a>", "<a></b>", "<a b=c/>", "<a", "<a b='1' b='2'/>", "text", "", "<a/><b/>", "<a>&nothing;</a>"])(
    "is refused where it is broken: %s",
    (broken) => {
      let code: unknown;
      try {
        parseXml(broken, "part");
      } catch (error) {
        code = (error as { code: string }).code;
      }
      // What one reader would guess about, nobody guesses about here.
      expect([undefined, "BROKEN_XML"]).toContain(code);
      if (/^(?:<a>|<a><\/b>|<a|text|)$/.test(broken)) expect(code).toBe("BROKEN_XML");
    },
  );
});
