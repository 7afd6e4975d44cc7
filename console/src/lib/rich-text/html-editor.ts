/** The editor of formatted words that are kept as HTML: what its keys and buttons do. A table's cells stay what they are. */
import { baseKeymap, splitBlockAs } from "prosemirror-commands";
import { history, redo, undo } from "prosemirror-history";
import { keymap } from "prosemirror-keymap";
import type { Mark, Node } from "prosemirror-model";
import { type Command, type EditorState, NodeSelection, Plugin, TextSelection } from "prosemirror-state";
import { typedMarks } from "./chips.js";
import { escapedOutside, readHtml, writeHtml } from "./html.js";
import { htmlText, PARTED } from "./html-schema.js";
import type { Tool, Writing } from "./writing.js";

const { nodes } = htmlText;
const isHeading = (tag: unknown): boolean => /^h[1-6]$/.test(String(tag));
const isListTag = (tag: unknown): boolean => tag === "ul" || tag === "ol";

const breakLine: Command = (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(nodes.hard_break.create()).scrollIntoView());
  return true;
};

/** Behind a heading come plain words; anything else goes on as what it is. */
const split = splitBlockAs((node, atEnd) =>
  atEnd && isHeading(node.attrs.tag)
    ? { type: nodes.words, attrs: { tag: "p", attributes: "" } }
    : { type: node.type, attrs: node.attrs },
);

/** A line without words ends a list. */
const leaveList: Command = (state, dispatch) => {
  const { $from, empty } = state.selection;
  const list = $from.depth > 1 ? $from.node(-1) : undefined;
  if (!empty || $from.parent.content.size > 0 || $from.parent.attrs.tag !== "li" || !isListTag(list?.attrs.tag))
    return false;
  const isOnly = list?.childCount === 1;
  if ($from.index(-1) !== (list?.childCount ?? 0) - 1) return false;
  if (!dispatch) return true;
  const after = $from.after(-1);
  const change = state.tr.insert(after, nodes.words.create({ tag: "p" }));
  const from = isOnly ? $from.before(-1) : $from.before();
  change.delete(from, isOnly ? after : $from.after());
  const at = change.mapping.map(after, -1) + 1;
  dispatch(change.setSelection(TextSelection.near(change.doc.resolve(at))).scrollIntoView());
  return true;
};

const enter: Command = (state, dispatch, view) => {
  const { $from } = state.selection;
  if (state.selection instanceof NodeSelection && state.selection.node.isBlock) {
    const at = state.selection.to;
    const change = state.tr.insert(at, nodes.words.create({ tag: "p" }));
    dispatch?.(change.setSelection(TextSelection.near(change.doc.resolve(at + 1))).scrollIntoView());
    return true;
  }
  const { tag } = $from.parent.attrs;
  // Words without an element of their own, or those of a cell, would become one line again.
  if (tag === "" || !PARTED.has(String(tag))) return breakLine(state, dispatch, view);
  return leaveList(state, dispatch, view) || split(state, dispatch, view);
};

const { element } = htmlText.marks;
/** Elements that look alike. */
const ALIKE = { strong: ["strong", "b"], em: ["em", "i"], link: ["a"] } as const;
type Alike = keyof typeof ALIKE;

/** Marks of a kind in the selection, or on what is written next. */
function marksIn({ selection, storedMarks, doc }: EditorState, kind: Alike): Mark[] {
  const isOfKind = ({ attrs }: Mark): boolean => (ALIKE[kind] as readonly string[]).includes(String(attrs.tag));
  if (selection.empty) return (storedMarks ?? selection.$from.marks()).filter(isOfKind);
  const found: Mark[] = [];
  doc.nodesBetween(selection.from, selection.to, (node) => {
    found.push(...node.marks.filter(isOfKind));
  });
  return found;
}

function toggle(kind: "strong" | "em"): Command {
  return (state, dispatch) => {
    const { from, to, empty } = state.selection;
    const there = marksIn(state, kind);
    const change = state.tr;
    const own = element.create({ tag: kind, attributes: "" });
    if (empty && there.length === 0) change.addStoredMark(own);
    else if (there.length === 0) change.addMark(from, to, own);
    for (const mark of there) {
      if (empty) change.removeStoredMark(mark);
      else change.removeMark(from, to, mark);
    }
    dispatch?.(change);
    return true;
  };
}

/** Words that are selected lead to an address; without any, the address itself is put in. */
function setLink(href: string): Command {
  return (state, dispatch) => {
    const { from, to, empty } = state.selection;
    const link = element.create({ tag: "a", attributes: ` href="${escapedOutside(href)}"` });
    const change = state.tr;
    if (empty) change.replaceSelectionWith(htmlText.text(href, [link]), false);
    else {
      for (const mark of marksIn(state, "link")) change.removeMark(from, to, mark);
      change.addMark(from, to, link);
    }
    dispatch?.(change);
    return true;
  };
}

/** What is written behind a link is none of it. */
const behindLinks = new Plugin({
  props: {
    handleTextInput(view, from, to, text) {
      const { $from } = view.state.selection;
      const links = $from.marks().filter(({ attrs }) => attrs.tag === "a");
      if (from !== to || links.length === 0 || links.some((link) => link.isInSet($from.nodeAfter?.marks ?? [])))
        return false;
      const marks = (view.state.storedMarks ?? $from.marks()).filter(({ attrs }) => attrs.tag !== "a");
      view.dispatch(view.state.tr.replaceWith(from, to, htmlText.text(text, marks)).scrollIntoView());
      return true;
    },
  },
});

const plugins = (): Plugin[] => [
  history(),
  typedMarks,
  behindLinks,
  keymap({
    "Mod-z": undo,
    "Mod-y": redo,
    "Shift-Mod-z": redo,
    "Mod-b": toggle("strong"),
    "Mod-i": toggle("em"),
    "Shift-Enter": breakLine,
    Enter: enter,
  }),
  keymap(baseKeymap),
];

/** The list around the selection, with its place. */
function listOf(state: EditorState): { node: Node; at: number } | undefined {
  const { $from } = state.selection;
  for (let depth = $from.depth; depth > 0; depth--)
    if (isListTag($from.node(depth).attrs.tag)) return { node: $from.node(depth), at: $from.before(depth) };
  return undefined;
}

const LIST_TAGS = { bullets: "ul", numbers: "ol" } as const;

function isOn(state: EditorState, tool: Tool): boolean {
  if (tool === "strong" || tool === "em") return marksIn(state, tool).length > 0;
  if (tool === "heading") return isHeading(state.selection.$from.parent.attrs.tag);
  return listOf(state)?.node.attrs.tag === LIST_TAGS[tool];
}

const heading: Command = (state, dispatch) => {
  const tag = isOn(state, "heading") ? "p" : "h2";
  const change = state.tr;
  state.doc.nodesBetween(state.selection.from, state.selection.to, (node, at) => {
    if (node.type === nodes.words && node.attrs.tag !== "li")
      change.setNodeMarkup(at, undefined, { ...node.attrs, tag });
  });
  if (change.steps.length === 0) return false;
  dispatch?.(change);
  return true;
};

/** Items become paragraphs again. */
function unlist({ node, at }: { node: Node; at: number }): Command {
  return (state, dispatch) => {
    const change = state.tr;
    const inside: Node[] = [];
    node.forEach((item) => {
      if (item.type === nodes.container) inside.push(...item.children);
      else
        inside.push(item.type === nodes.words ? nodes.words.create({ ...item.attrs, tag: "p" }, item.content) : item);
    });
    const { from } = state.selection;
    change.replaceWith(at, at + node.nodeSize, inside);
    dispatch?.(change.setSelection(TextSelection.near(change.doc.resolve(Math.max(0, from - 1)))).scrollIntoView());
    return true;
  };
}

function list(tool: "bullets" | "numbers"): Command {
  return (state, dispatch) => {
    const around = listOf(state);
    const tag = LIST_TAGS[tool];
    if (around?.node.attrs.tag === tag) return unlist(around)(state, dispatch);
    if (around) {
      dispatch?.(state.tr.setNodeMarkup(around.at, undefined, { ...around.node.attrs, tag }));
      return true;
    }
    const { $from, $to, from } = state.selection;
    const range = $from.blockRange($to);
    if (!range) return false;
    const items: Node[] = [];
    for (let at = range.startIndex; at < range.endIndex; at++) {
      const block = range.parent.child(at);
      if (block.type !== nodes.words) return false;
      items.push(nodes.words.create({ tag: "li" }, block.content));
    }
    const change = state.tr.replaceWith(range.start, range.end, nodes.container.create({ tag }, items));
    dispatch?.(change.setSelection(TextSelection.near(change.doc.resolve(from + 1))).scrollIntoView());
    return true;
  };
}

function commandOf(_state: EditorState, tool: Tool): Command {
  if (tool === "strong" || tool === "em") return toggle(tool);
  return tool === "heading" ? heading : list(tool);
}

export const htmlWriting: Writing = {
  schema: htmlText,
  read: readHtml,
  write: writeHtml,
  plugins,
  isOn,
  commandOf,
  setLink,
};
