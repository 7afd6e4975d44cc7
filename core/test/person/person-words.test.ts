import { describe, expect, it } from "vitest";
import { personWords } from "../../src/person/index.js";

const of = (...words: string[]) => personWords(words, "erased-1");

describe("what a person is known by", () => {
  it("is found whole, however it is written, and not within another", () => {
    const address = of("ruth@canal.example");
    for (const text of [
      "ruth@canal.example",
      "Ruth@Canal.Example",
      "Ruth <ruth@canal.example>",
      "write to ruth@canal.example.",
      "ruth@canal.example, x",
      "mailto:ruth@canal.example",
    ])
      expect([text, address.isIn(text)]).toEqual([text, true]);
    for (const text of [
      "truth@canal.example",
      "ruth@canal.example.org",
      "ruth@canal.examples",
      "a.ruth@canal.example",
      "x+ruth@canal.example",
      "ruth@canal-example",
      "ruth@canalxexample",
    ])
      expect([text, address.isIn(text)]).toEqual([text, false]);
    const name = of("Zoë  O'Hara-Lind (2)");
    expect(name.isIn("for ZOË O'HARA-LIND (2)!")).toBe(true);
    expect(name.isIn("zoe\u0308 o'hara-lind (2)".normalize("NFD"))).toBe(true);
    expect(of("Ann").isIn("Annika, Johann, ann_x")).toBe(true);
    expect(of("Ann").isIn("Annika, Johann")).toBe(false);
    expect(of().isIn("anything")).toBe(false);
    expect(of(" ").isIn("anything")).toBe(false);
  });

  it("goes from texts and values, and nothing else does", () => {
    const both = of("Ruth Penhallow", "ruth@canal.example");
    expect(both.without("Dear Ruth Penhallow, ruth@canal.example and Ruthless Penhallow")).toBe(
      "Dear erased-1, erased-1@erased.invalid and Ruthless Penhallow",
    );
    const value = {
      to: [
        { name: "R. P.", address: "RUTH@canal.example" },
        { name: "Tom", address: "tom@canal.example" },
      ],
      results: { "ruth@canal.example": { state: "taken", count: 3 } },
      none: null,
    };
    expect(both.isWithin(value)).toBe(true);
    expect(both.withoutAll(value)).toEqual({
      to: [
        { name: "erased-1", address: "erased-1@erased.invalid" },
        { name: "Tom", address: "tom@canal.example" },
      ],
      results: { "erased-1@erased.invalid": { state: "taken", count: 3 } },
      none: null,
    });
    expect(both.isWithin(both.withoutAll(value))).toBe(false);
    expect(both.without("untouched ﬁle")).toBe("untouched ﬁle");
  });
});
