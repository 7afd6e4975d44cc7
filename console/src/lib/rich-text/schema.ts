/** What a message can hold while it is written formatted: paragraphs, headings, lists, quotes, links, pictures, and marks. */
import { schema as common } from "prosemirror-markdown";
import { type NodeSpec, Schema } from "prosemirror-model";

/** A mark inside of words, such as `{{ group.key }}`; `source` is it with its braces. */
export const chip: NodeSpec = {
  group: "inline",
  inline: true,
  atom: true,
  attrs: { source: { validate: "string" } },
  toDOM: (node) => ["span", { "data-chip": node.attrs.source }],
  parseDOM: [{ tag: "span[data-chip]", getAttrs: (element) => ({ source: element.getAttribute("data-chip") }) }],
};

/** A table of a group's rows, in a paragraph's place. */
export const rowsTable: NodeSpec = {
  group: "block",
  atom: true,
  attrs: { source: { validate: "string" } },
  toDOM: (node) => ["div", { "data-rows": node.attrs.source }],
  parseDOM: [{ tag: "div[data-rows]", getAttrs: (element) => ({ source: element.getAttribute("data-rows") }) }],
};

const heading = common.spec.nodes.get("heading");

export const richText = new Schema({
  nodes: common.spec.nodes
    .update("heading", { ...heading, content: "(text | image | chip)*" })
    .addToEnd("chip", chip)
    .addToEnd("rows_table", rowsTable),
  marks: common.spec.marks,
});
