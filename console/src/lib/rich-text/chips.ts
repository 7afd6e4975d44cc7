/** Marks as chips: what stands for a group's own values among words that are the same for all. */
import type { Node, Schema } from "prosemirror-model";
import { Schema as SchemaOf } from "prosemirror-model";
import { Plugin } from "prosemirror-state";
import type { NodeView } from "prosemirror-view";
import { richText } from "./schema.js";

const chip = richText.spec.nodes.get("chip");
if (!chip) throw new Error("no chip among the nodes");

/** A text of one line, such as a subject or the name of a file. */
export const oneLine = new SchemaOf({ nodes: { doc: { content: "(text | chip)*" }, text: { group: "inline" }, chip } });

const MARK = /(\{\{[\s\S]*?\}\})/;

function partsOf(schema: Schema, text: string): Node[] {
  return text.split(MARK).flatMap((part, at) => {
    if (part === "") return [];
    return [at % 2 === 0 ? schema.text(part) : schema.node("chip", { source: part })];
  });
}

/** A line as it is shown; what breaks it is a blank. */
export const readLine = (text: string): Node =>
  oneLine.node("doc", null, partsOf(oneLine, text.replace(/\s*\n\s*/g, " ")));

export function writeLine(document: Node): string {
  let text = "";
  document.forEach((node) => {
    text += node.isText ? (node.text ?? "") : String(node.attrs.source);
  });
  return text;
}

/** A mark that somebody typed or pasted becomes a chip as soon as it is whole. */
export const typedMarks = new Plugin({
  appendTransaction: (transactions, _before, state) => {
    if (!transactions.some(({ docChanged }) => docChanged)) return null;
    let change = state.tr;
    state.doc.descendants((node, at, parent) => {
      if (!node.isText || !MARK.test(node.text ?? "") || node.marks.some(({ type }) => type.name === "code")) return;
      if (parent && !parent.type.contentMatch.matchType(state.schema.nodes.chip)) return;
      const from = change.mapping.map(at);
      change = change.replaceWith(
        from,
        from + node.nodeSize,
        partsOf(state.schema, node.text ?? "").map((part) => part.mark(node.marks)),
      );
    });
    return change.docChanged ? change : null;
  },
});

/** What a mark is called: as the writer chose it, or what stands in its braces. */
export function chipName(
  source: string,
  insertions: readonly { readonly name: string; readonly mark: string }[],
): string {
  const plain = (mark: string): string => mark.replace(/\s+/g, "");
  const known = insertions.find(({ mark }) => plain(mark) === plain(source));
  return known ? known.name.replace(/, the same in all rows$/, "") : source.replace(/^\{\{\s*|\s*\}\}$/g, "");
}

export function chipView(node: Node, name: (source: string) => string): NodeView {
  const dom = document.createElement("span");
  dom.className = "chip";
  const source = String(node.attrs.source);
  dom.textContent = name(source);
  dom.title = source;
  return { dom };
}
