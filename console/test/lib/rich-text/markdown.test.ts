import fc from "fast-check";
import type { Node } from "prosemirror-model";
import { describe, expect, it } from "vitest";
import { isFormattable, readMarkdown, writeMarkdown } from "../../../src/lib/rich-text/markdown.js";
import { richText } from "../../../src/lib/rich-text/schema.js";

const again = (text: string): string => writeMarkdown(readMarkdown(text));
const TABLE = '{{table line: Site headed "Site", fee as "#,##0.00" total}}';

describe("words written formatted", () => {
  it.each([
    "Dear {{ recipient.name }},\n\nhere are the rows of {{ group.key }}.\n",
    `Dear **{{ recipient.name }}**,\n\n${TABLE}\n\nKind regards\n`,
    "## Visits in {{ period.label }}\n\n- one *stressed* word\n- {{ count(line) }} visits\n\n1. first\n2. second\n",
    "> quoted {{ group.key }}\n\n[the page]({{ run.link }}) and ![Logo](logo.png)\n",
    "One line\\\nthe next\n",
    "`{{ not.a.chip }}` stays as it is written\n",
    '{{ sum(line.fee) as "#,##0.00" }} and {{ `Fee (CHF)` }}, 5 \\* 3\n',
  ])("keep their signs: %j", (text) => {
    expect(again(text)).toBe(text);
    expect(isFormattable(text)).toBe(true);
  });

  it("show marks among words, in headings and in addresses, and tables of rows in a paragraph's place", () => {
    const found: string[] = [];
    readMarkdown(`# {{ a }}\n\nx {{ b }}\n\n${TABLE}\n\nin words ${TABLE}\n`).descendants((node) => {
      if (node.type.name === "chip" || node.type.name === "rows_table")
        found.push(`${node.type.name} ${node.attrs.source}`);
    });
    expect(found).toEqual(["chip {{ a }}", "chip {{ b }}", `rows_table ${TABLE}`, `chip ${TABLE}`]);
  });

  it("leave web addresses as they are, whatever signs stand in them", () => {
    for (const address of ["https://lifts.example/a_b_c?d=*e*", "https://lifts.example/x~y"]) {
      expect(isFormattable(`See ${address} there\n`)).toBe(true);
      const typed = richText.node("doc", null, [
        richText.node("paragraph", null, [richText.text(`See ${address} there`)]),
      ]);
      expect(writeMarkdown(typed)).toContain(address);
      expect(isFormattable(writeMarkdown(typed))).toBe(true);
    }
  });

  it.each(["| a | b |\n|---|---|\n| 1 | 2 |\n", "~~gone~~\n"])(
    "are not shown so where something would be lost: %j",
    (text) => {
      expect(isFormattable(text)).toBe(false);
    },
  );

  it("are what was written, for any words", () => {
    const word = fc.oneof(
      fc.stringMatching(/^[A-Za-z0-9ä*_#>`[\]()<&!~.+=-]{1,8}$/),
      fc.constantFrom("1.", "12)", "+", "#", "&amp;", "<a@lifts.example>", "<https:x>", "Wow!", "---", "===", "\\"),
    );
    const inline = fc.oneof(
      word.map((text) => richText.text(text)),
      word.map((text) => richText.text(text, [richText.mark("strong")])),
      fc.constantFrom("{{ group.key }}", '{{ fee as "0.00" }}').map((source) => richText.node("chip", { source })),
    );
    const spaced = fc
      .array(inline, { minLength: 1, maxLength: 5 })
      .map((parts) => parts.flatMap((part, at) => (at === 0 ? [part] : [richText.text(" "), part])));
    const paragraph = spaced.map((parts) => richText.node("paragraph", null, parts));
    const block: fc.Arbitrary<Node> = fc.oneof(
      paragraph,
      spaced.map((parts) => richText.node("heading", { level: 2 }, parts)),
      fc.constant(richText.node("rows_table", { source: TABLE })),
      fc.array(paragraph, { minLength: 1, maxLength: 3 }).map((items) =>
        richText.node(
          "bullet_list",
          { tight: true },
          items.map((item) => richText.node("list_item", null, item)),
        ),
      ),
    );
    const separated = fc
      .array(block, { minLength: 1, maxLength: 5 })
      // Two lists after each other are one in Markdown.
      .filter((blocks) =>
        blocks.every(
          (one, at) => at === 0 || one.type.name !== "bullet_list" || blocks[at - 1].type.name !== "bullet_list",
        ),
      );
    fc.assert(
      fc.property(separated, (blocks) => {
        const document = richText.node("doc", null, blocks);
        expect(readMarkdown(writeMarkdown(document)).toJSON()).toEqual(document.toJSON());
      }),
      { numRuns: 1_000 },
    );
  });
});
