import type { TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Inline, ParagraphBlock } from "../../../../src/layout/text/blocks.js";
import { layParagraph, measureParagraph } from "../../../../src/layout/text/lines/line-breaking.js";
import type { ParagraphProps, RunProps } from "../../../../src/layout/text/props.js";

const RUN: RunProps = { font: "Courier New", size: 10 };
/** A letter of this font at ten points is six points wide. */
const LETTER = 6;
const text = (words: string, props: RunProps = RUN): Inline => ({ kind: "text", text: words, props });
const paragraph = (inlines: readonly Inline[], props: ParagraphProps = {}): ParagraphBlock => ({
  kind: "paragraph",
  props,
  mark: RUN,
  inlines,
});
const numbers = { page: 1, pages: 1, section: 1, sectionPages: 1 } as unknown as Parameters<
  ReturnType<typeof layParagraph>[number]["draw"]
>[0];
const laid = (
  inlines: readonly Inline[],
  letters: number,
  props: ParagraphProps = {},
  roomAt?: Parameters<typeof layParagraph>[4],
) =>
  layParagraph(paragraph(inlines, props), letters * LETTER + 1, openFonts(), 36, roomAt).map((line) => ({
    line,
    texts: line
      .draw(numbers, 0, 0)
      .filter((item): item is TextItem => item.kind === "text")
      .map((item) => ({
        text: item.shaped.runs.flatMap((run) => run.texts).join(""),
        x: Math.round(item.x * 10) / 10,
      })),
  }));
const lines = (words: string, letters: number, props?: ParagraphProps) =>
  laid([text(words)], letters, props).map(({ texts }) =>
    texts
      .map((one) => one.text)
      .join("")
      .trim(),
  );

describe("a paragraph broken into lines", () => {
  it("breaks between words, and keeps every letter in its order", () => {
    expect(lines("Dock Quay Pier Mill", 10)).toEqual(["Dock Quay", "Pier Mill"]);
    fc.assert(
      fc.property(
        fc.array(fc.string({ unit: fc.constantFrom(..."abc"), minLength: 1, maxLength: 6 }), {
          minLength: 1,
          maxLength: 20,
        }),
        fc.integer({ min: 6, max: 30 }),
        (words, width) => {
          const found = lines(words.join(" "), width);
          expect(found.join(" ")).toBe(words.join(" "));
          for (const line of found) expect(line.length).toBeLessThanOrEqual(width);
          // No word would have fitted on the line before.
          for (const [at, line] of found.slice(1).entries())
            expect(`${found[at]} ${line.split(" ")[0]}`.length).toBeGreaterThan(width);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("breaks a word that is wider than the line wherever it must", () => {
    expect(lines("abcdefghij", 4)).toEqual(["abcd", "efgh", "ij"]);
    expect(lines("ab abcdefghij", 4)).toEqual(["ab", "abcd", "efgh", "ij"]);
  });

  it("shows a hyphen only where a word is broken at its place", () => {
    expect(lines("inspec\u00adtion", 8)).toEqual(["inspec-", "tion"]);
    expect(lines("inspec\u00adtion", 20)).toEqual(["inspection"]);
  });

  it("ends where it is told to, with what follows", () => {
    const found = laid(
      [
        text("Dock"),
        { kind: "break", what: "line", props: RUN },
        text("Quay"),
        { kind: "break", what: "page", props: RUN },
        text("Pier"),
      ],
      30,
    );
    expect(found.map(({ line, texts }) => [texts.map((one) => one.text).join(""), line.breaks])).toEqual([
      ["Dock", undefined],
      ["Quay", "page"],
      ["Pier", undefined],
    ]);
  });

  it("indents its lines, and the first of them otherwise", () => {
    const found = laid([text("Dock Quay Pier")], 10, { left: 12, first: 18 });
    expect(found.map(({ texts }) => texts[0].x)).toEqual([30, 12, 12]);
    expect(laid([text("Dock Quay Pier")], 10, { left: 12, first: -12 }).map(({ texts }) => texts[0].x)).toEqual([
      0, 12,
    ]);
  });

  it("stands left, right or in the middle of its room", () => {
    const at = (alignment: string) => laid([text("Dock")], 10, { align: alignment })[0].texts[0].x;
    expect([at("left"), at("right"), at("center")]).toEqual([0, 37, 18.5]);
  });

  it("moves on to the next stop at a tab", () => {
    const tab: Inline = { kind: "tab", props: RUN };
    const found = laid([text("a"), tab, text("b"), tab, text("c")], 40, {
      tabs: [{ at: 50, kind: "left", leader: "none" }],
    });
    expect(found[0].texts.map(({ text: one, x }) => [one, x])).toEqual([
      ["a", 0],
      ["b", 50],
      ["c", 72],
    ]);
  });

  it("flows beside a thing, and below it where there is no room", () => {
    const beside = laid([text("Dock Quay")], 10, {}, () => ({ left: 24, right: 61 }));
    expect(beside.map(({ texts }) => texts[0].x)).toEqual([24, 24]);
    const below = laid([text("Dock")], 10, {}, (y) => (y < 20 ? { left: 50, right: 61 } : undefined));
    expect(below[0].line.height).toBeGreaterThan(20);
  });

  it("without words is one line as high as its mark", () => {
    expect(laid([], 10)).toHaveLength(1);
    expect(laid([], 10)[0].line.height).toBeGreaterThan(8);
  });
});

describe("the room a paragraph needs", () => {
  it("is its widest word at least, and all of it at most", () => {
    const { least, most } = measureParagraph(
      paragraph([text("Dock inspection")], { left: 10, right: 5 }),
      openFonts(),
      36,
      true,
    );
    expect(least).toBeCloseTo(10 * LETTER + 15, 0);
    expect(most).toBeCloseTo(15 * LETTER + 15, 0);
    expect(measureParagraph(paragraph([text("Dock")]), openFonts(), 36, false).most).toBe(0);
  });
});
