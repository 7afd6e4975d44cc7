/** Words as people format them and as a definition keeps them, Markdown (CommonMark) with marks in double braces. */
import MarkdownIt, { type StateCore, type Token } from "markdown-it";
import {
  defaultMarkdownParser,
  defaultMarkdownSerializer,
  MarkdownParser,
  MarkdownSerializer,
  type MarkdownSerializerState,
} from "prosemirror-markdown";
import type { Node } from "prosemirror-model";
import { ASIDE, isRowsTable, marksAside, withMarks } from "./marks-aside.js";
import { richText } from "./schema.js";

/** A web address among words is no place for signs of formatting. */
const ADDRESS = /(https?:\/\/[^\s<>]+)/;

interface Aside {
  readonly marks?: readonly string[];
}

/** Marks become parts of their own: chips among words, tables of rows in a paragraph's place; in addresses and code they are text. */
function takeMarks(state: StateCore): void {
  const { marks = [] } = state.env as Aside;
  for (const token of state.tokens) {
    restore(token, marks);
    if (token.children) token.children = token.children.flatMap((child) => chipsOf(child, marks, state));
  }
  state.tokens = state.tokens.flatMap((token, at, all) => {
    const isAlone = (inner: Token | undefined): boolean =>
      inner?.children?.length === 1 && inner.children[0].type === "chip" && isRowsTable(inner.children[0].content);
    if (token.type === "paragraph_open" && isAlone(all[at + 1])) return [];
    if (token.type === "paragraph_close" && isAlone(all[at - 1])) return [];
    if (token.type !== "inline" || !isAlone(token)) return [token];
    const table = new state.Token("rows_table", "", 0);
    table.content = token.children?.[0].content ?? "";
    return [table];
  });
}

function restore(token: Token, marks: readonly string[]): void {
  if (token.type !== "text" && token.type !== "inline") token.content = withMarks(token.content, marks);
  for (const attribute of token.attrs ?? []) token.attrSet(attribute[0], withMarks(String(attribute[1]), marks));
}

function chipsOf(token: Token, marks: readonly string[], state: StateCore): Token[] {
  restore(token, marks);
  for (const child of token.children ?? []) child.content = withMarks(child.content, marks);
  if (token.type !== "text") return [token];
  // Numbers of marks stand at the odd places.
  return token.content.split(ASIDE).flatMap((part, at) => {
    if (part === "") return [];
    const made = new state.Token(at % 2 === 0 ? "text" : "chip", "", 0);
    made.content = at % 2 === 0 ? part : (marks[Number(part)] ?? "");
    return [made];
  });
}

const reader = new MarkdownIt({ html: false, linkify: true, typographer: false });
reader.core.ruler.push("marks", takeMarks);
const sourceOf = ({ content }: Token): { source: string } => ({ source: content });
const parser = new MarkdownParser(richText, reader, {
  ...defaultMarkdownParser.tokens,
  chip: { node: "chip", getAttrs: sourceOf },
  rows_table: { node: "rows_table", getAttrs: sourceOf },
});

function writeText(state: MarkdownSerializerState, node: Node): void {
  const text = node.text ?? "";
  const isOwnAddress = node.marks.some(({ attrs }) => attrs.href === text);
  for (const [at, part] of text.split(ADDRESS).entries())
    if (part !== "") state.text(part, at % 2 === 0 && !isOwnAddress);
}

/**
 * What would be read as a sign of Markdown beyond those the serializer knows: entities, addresses in angle brackets, numbers and
 * pluses that begin a list, signs that close a heading, and one that makes a picture of a link.
 */
const SIGNS =
  /(?<!\\)(?:&(?=#?\w{1,32};)|<(?=[A-Za-z][^\s<>]*>)|(?<=^\s*\d{1,9})[.)](?=\s|$)|^\+$|(?<=^|\s)#(?=#*\s*$)|!$)/g;

const serializer = new MarkdownSerializer(
  {
    ...defaultMarkdownSerializer.nodes,
    bullet_list: (state, node) => state.renderList(node, "  ", () => "- "),
    text: writeText,
    chip: (state, node) => state.write(String(node.attrs.source)),
    rows_table: (state, node) => {
      state.write(String(node.attrs.source));
      state.closeBlock(node);
    },
  },
  defaultMarkdownSerializer.marks,
  { escapeExtraCharacters: SIGNS },
);

/** Words as they are shown formatted; throws for what cannot be, such as a table written by signs. */
export function readMarkdown(text: string): Node {
  const { text: aside, marks } = marksAside(text);
  return parser.parse(aside, { marks });
}

export function writeMarkdown(document: Node): string {
  return `${serializer.serialize(document, { tightLists: true })}\n`;
}

const plain = new MarkdownIt({ html: false, linkify: true, typographer: false });

/** What a receiver sees of words, whatever signs they are written with. */
function shown(text: string): string {
  const { text: aside, marks } = marksAside(text);
  return withMarks(plain.render(aside), marks).replace(/\s+/g, " ").trim();
}

/** Whether words can be shown formatted, and written again, without anything being lost. */
export function isFormattable(text: string): boolean {
  try {
    return shown(writeMarkdown(readMarkdown(text))) === shown(text);
  } catch {
    return false;
  }
}
