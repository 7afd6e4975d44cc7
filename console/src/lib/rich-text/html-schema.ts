/** HTML as it is written formatted: every element keeps its name and attributes, and what words cannot hold is kept as it stands. */

import { type NodeSpec, Schema, type TagParseRule } from "prosemirror-model";
import { parsedHtml } from "../page-policy";
import { chip, rowsTable } from "./schema.js";

/** Elements that are blocks of their own (HTML, 15.3). */
export const BLOCKS = new Set(
  "address article aside blockquote caption center col colgroup dd details dialog div dl dt fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 header hr legend li main menu nav ol p pre section summary table tbody td tfoot th thead tr ul".split(
    " ",
  ),
);

/** What words are taken apart into when a line is broken in them; in any other element the line breaks inside. */
export const PARTED = new Set(["", "p", "div", "li", "h1", "h2", "h3", "h4", "h5", "h6"]);

/** Looks that stay within the words; nothing that reaches out of them or loads something. */
const SHOWN =
  /^(?:align|valign|width|height|bgcolor|border|cellpadding|cellspacing|colspan|rowspan|dir|lang|color|size|start|type)$/;

/** Attributes of a source text, as far as they change how the words look here. */
function looks(attributes: string): Record<string, string> {
  const element = parsedHtml(`<p${attributes}></p>`).body.firstElementChild;
  const found: Record<string, string> = {};
  for (const { name, value } of element?.attributes ?? []) {
    if (name === "style")
      found.style = value.replace(/(?:^|;)[^;]*(?:position|url\s*\(|expression|behavior|z-index)[^;]*/gi, "");
    else if (SHOWN.test(name)) found[name] = value;
  }
  return found;
}

const attrs = { tag: { validate: "string" }, attributes: { default: "", validate: "string" } } as const;
const kept: NodeSpec = {
  atom: true,
  selectable: true,
  attrs: { source: { validate: "string" } },
  toDOM: ({ attrs: { source } }) => ["span", { class: "kept", title: String(source) }, keptName(String(source))],
};

/** What a part that is only kept is called: its element, or what kind of thing it is. */
function keptName(source: string): string {
  if (source.startsWith("<!--")) return "a remark";
  const [, tag = ""] = /^<([a-z][a-z0-9]*)/i.exec(source) ?? [];
  return (
    { hr: "a line across", style: "a style sheet", "": "kept as it is" }[tag.toLowerCase()] ?? `<${tag.toLowerCase()}>`
  );
}

/** What is pasted keeps its kind and none of its looks. */
const pasted = (tags: readonly string[]): readonly TagParseRule[] =>
  tags.map((tag) => ({ tag, attrs: { tag, attributes: "" } }));

export const htmlText = new Schema({
  nodes: {
    doc: { content: "block+", attrs: { head: { default: "" }, tail: { default: "" } } },
    /** An element of blocks. */
    container: {
      group: "block",
      content: "block+",
      isolating: true,
      defining: true,
      attrs,
      parseDOM: pasted(["ul", "ol", "table", "thead", "tbody", "tr", "blockquote"]),
      toDOM: ({ attrs: own }) => [String(own.tag), looks(String(own.attributes)), 0],
    },
    /** An element of words; without a name they stand in what is around them. */
    words: {
      group: "block",
      content: "inline*",
      attrs: { ...attrs, tag: { default: "p", validate: "string" } },
      parseDOM: pasted([...PARTED].filter((tag) => tag !== "")),
      toDOM: ({ attrs: own }) => [String(own.tag) || "div", looks(String(own.attributes)), 0],
    },
    /** Words of a table's cell and the like, which nothing is joined with. */
    cell: {
      group: "block",
      content: "inline*",
      isolating: true,
      defining: true,
      attrs,
      parseDOM: pasted(["td", "th"]),
      toDOM: ({ attrs: own }) => [String(own.tag), looks(String(own.attributes)), 0],
    },
    rows_table: rowsTable,
    kept: { ...kept, group: "block" },
    text: { group: "inline" },
    chip,
    image: {
      group: "inline",
      inline: true,
      attrs: { src: { validate: "string" }, alt: { default: "" }, attributes: { default: "" } },
      parseDOM: [
        {
          tag: "img[src]",
          getAttrs: (one) => ({ src: one.getAttribute("src") ?? "", alt: one.getAttribute("alt") ?? "" }),
        },
      ],
      toDOM: () => ["img"],
    },
    hard_break: {
      group: "inline",
      inline: true,
      selectable: false,
      attrs: { attributes: { default: "" } },
      parseDOM: [{ tag: "br" }],
      toDOM: () => ["br"],
    },
    kept_inline: { ...kept, group: "inline", inline: true },
  },
  marks: {
    /** Any element among words: one kind for all, so that they stay in each other as they were. */
    element: {
      excludes: "",
      attrs,
      parseDOM: [
        ...pasted(["strong", "b", "em", "i", "u", "sub", "sup"]),
        {
          tag: "a[href]",
          getAttrs: (one) => ({
            tag: "a",
            attributes: ` href="${(one.getAttribute("href") ?? "").replaceAll('"', "%22")}"`,
          }),
        },
      ],
      // Nobody is led away from what they write.
      toDOM: ({ attrs: own }) => [
        /^[a-z][a-z0-9]*$/.test(own.tag) ? own.tag : "span",
        { ...looks(String(own.attributes)), ...(own.tag === "a" ? { class: "link" } : {}) },
        0,
      ],
    },
  },
});
