/** The editor of formatted words that are kept as Markdown: what its keys and buttons do. */
import { baseKeymap, setBlockType, toggleMark } from "prosemirror-commands";
import { history, redo, undo } from "prosemirror-history";
import { inputRules, textblockTypeInputRule, wrappingInputRule } from "prosemirror-inputrules";
import { keymap } from "prosemirror-keymap";
import type { NodeType } from "prosemirror-model";
import { liftListItem, sinkListItem, splitListItem, wrapInList } from "prosemirror-schema-list";
import type { Command, EditorState, Plugin } from "prosemirror-state";
import { typedMarks } from "./chips.js";
import { readMarkdown, writeMarkdown } from "./markdown.js";
import { richText } from "./schema.js";
import type { Tool, Writing } from "./writing.js";

const {
  heading,
  bullet_list: bullets,
  ordered_list: numbers,
  list_item: item,
  paragraph,
  hard_break: lineBreak,
} = richText.nodes;
const { strong, em } = richText.marks;

const breakLine: Command = (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(lineBreak.create()).scrollIntoView());
  return true;
};

/** Words of one line take no new line. */
export const linePlugins = (): Plugin[] => [
  history(),
  typedMarks,
  keymap({ "Mod-z": undo, "Mod-y": redo, "Shift-Mod-z": redo, Enter: () => true }),
  keymap(baseKeymap),
];

const plugins = (): Plugin[] => [
  history(),
  typedMarks,
  inputRules({
    rules: [
      textblockTypeInputRule(/^(#{1,3})\s$/, heading, (match) => ({ level: match[1].length })),
      wrappingInputRule(/^\s*[-*]\s$/, bullets, { tight: true }),
      wrappingInputRule(/^1\.\s$/, numbers, { tight: true }),
    ],
  }),
  keymap({
    "Mod-z": undo,
    "Mod-y": redo,
    "Shift-Mod-z": redo,
    "Mod-b": toggleMark(strong),
    "Mod-i": toggleMark(em),
    "Shift-Enter": breakLine,
    Enter: splitListItem(item),
    Tab: sinkListItem(item),
    "Shift-Tab": liftListItem(item),
  }),
  keymap(baseKeymap),
];

function isInside(state: EditorState, type: NodeType): boolean {
  const { $from } = state.selection;
  return Array.from({ length: $from.depth + 1 }, (_, depth) => $from.node(depth)).some((node) => node.type === type);
}

/** Whether what a button does is so already where the cursor is. */
function isOn(state: EditorState, tool: Tool): boolean {
  if (tool === "strong" || tool === "em") {
    const mark = richText.marks[tool];
    const { from, to, empty, $from } = state.selection;
    return empty
      ? mark.isInSet(state.storedMarks ?? $from.marks()) !== undefined
      : state.doc.rangeHasMark(from, to, mark);
  }
  return isInside(state, { heading, bullets, numbers }[tool]);
}

/** A button pressed once does it, pressed again takes it back. */
function commandOf(state: EditorState, tool: Tool): Command {
  if (tool === "strong" || tool === "em") return toggleMark(richText.marks[tool]);
  if (tool === "heading") return isOn(state, tool) ? setBlockType(paragraph) : setBlockType(heading, { level: 2 });
  return isOn(state, tool) ? liftListItem(item) : wrapInList(tool === "bullets" ? bullets : numbers, { tight: true });
}

const setLink =
  (href: string): Command =>
  (state, dispatch) => {
    const { link } = richText.marks;
    if (!state.selection.empty) return toggleMark(link, { href })(state, dispatch);
    dispatch?.(state.tr.replaceSelectionWith(richText.text(href, [link.create({ href })]), false));
    return true;
  };

export const markdownWriting: Writing = {
  schema: richText,
  read: readMarkdown,
  write: writeMarkdown,
  plugins,
  isOn,
  commandOf,
  setLink,
};
