import { describe, expect, it } from "vitest";
import { withContents } from "../../../../src/layout/document/paginate/contents.js";
import type { Block, ContentsBlock, FieldInline, ParagraphBlock } from "../../../../src/layout/text/blocks.js";
import { textOf } from "../../../../src/layout/text/blocks.js";

const paragraph = (text: string, outlineLevel?: number, label?: string): ParagraphBlock => ({
  kind: "paragraph",
  props: outlineLevel === undefined ? {} : { outlineLevel },
  mark: {},
  inlines: [{ kind: "text", text: label === undefined ? text : `${label} ${text}`, props: {} }],
  ...(label === undefined ? {} : { label }),
});
const contents = (more: Partial<ContentsBlock> = {}): ContentsBlock =>
  ({
    kind: "contents",
    from: 0,
    to: 1,
    entry: (level: number) => ({ props: { left: level * 10 }, run: { size: 10 } }),
    rest: [],
    stored: [paragraph("as stored")],
    ...more,
  }) as unknown as ContentsBlock;
const field = (place: string) => ({ kind: "field", guess: { text: "9" }, props: {}, place }) as unknown as FieldInline;
const made = (sections: Block[][]) => withContents(sections, () => 400, field);
const texts = (blocks: readonly Block[]) =>
  blocks.map((block) => (block.kind === "paragraph" ? textOf(block) : block.kind));

describe("a table of contents", () => {
  it("lists the headings of all sections in their order, down to its level", () => {
    const [first, second] = made([
      [contents(), paragraph("Lifts", 0), paragraph("text")],
      [paragraph("Brakes", 1), paragraph("Ropes", 2), paragraph(" ", 0)],
    ]);
    expect(
      texts(first)
        .slice(0, 2)
        .map((text) => text.replace(/\s*9?$/, "")),
    ).toEqual(["Lifts", "Brakes"]);
    expect(texts(second)).toEqual(["Brakes", "Ropes", " "]);
  });

  it("leads from each entry to its heading", () => {
    const [blocks] = made([[contents(), paragraph("Lifts", 0)]]);
    const [entry, heading] = blocks as ParagraphBlock[];
    const [place] = heading.inlines;
    expect(place.kind === "place" && `#${place.name}`).toBe(
      entry.inlines.map((inline) => "link" in inline && inline.link).find(Boolean),
    );
    expect(entry.props.tabs).toEqual([{ at: 400, kind: "right", leader: "dot" }]);
  });

  it("sets numbers of headings apart from their words", () => {
    const [blocks] = made([[contents(), paragraph("Brakes", 1, "1.2")]]);
    const [entry] = blocks as ParagraphBlock[];
    expect(entry.inlines.slice(0, 3).map((inline) => (inline.kind === "text" ? inline.text : inline.kind))).toEqual([
      "1.2",
      "tab",
      "Brakes",
    ]);
    expect(entry.props.tabs?.[0]).toEqual({ at: 32, kind: "left", leader: "none" });
  });

  it("finds headings in tables, and keeps what is stored where there are none", () => {
    const table = { kind: "table", rows: [{ cells: [{ blocks: [paragraph("In a cell", 0)] }] }] } as unknown as Block;
    expect(texts(made([[contents(), table]])[0])[0]).toContain("In a cell");
    expect(texts(made([[contents(), paragraph("text")]])[0])).toEqual(["as stored", "text"]);
    expect(texts(made([[contents({ rest: [paragraph("behind")] }), paragraph("Lifts", 0)]])[0])[1]).toBe("behind");
  });

  it("that is nowhere changes nothing", () => {
    const blocks = [paragraph("Lifts", 0)];
    expect(made([blocks])[0][0]).toBe(blocks[0]);
  });
});
