/** HTML read to be written formatted, and written again: elements, attributes, remarks and marks stay what they were. */

import type { Mark, Node as TextNode } from "prosemirror-model";
import { parsedHtml } from "../page-policy";
import { BLOCKS, htmlText, PARTED } from "./html-schema.js";
import { isRowsTable, marksAside, withMarks } from "./marks-aside.js";

const { nodes } = htmlText;
const { element } = htmlText.marks;

/** Elements whose contents are no words to be written in. */
const CLOSED = new Set([
  "style",
  "script",
  "svg",
  "math",
  "object",
  "iframe",
  "video",
  "audio",
  "select",
  "textarea",
  "noscript",
  "template",
  "map",
]);
const EMPTY = new Set([
  "hr",
  "col",
  "area",
  "base",
  "embed",
  "input",
  "link",
  "meta",
  "param",
  "source",
  "track",
  "wbr",
]);

interface Whole {
  readonly head: string;
  readonly inner: string;
  readonly tail: string;
}

/** What stands around the body of a whole page is kept as it is. */
function cut(source: string): Whole {
  const [opening] = /<body\b[^>]*>/i.exec(source) ?? [];
  if (opening === undefined) return { head: "", inner: source, tail: "" };
  const from = source.indexOf(opening) + opening.length;
  const until = source.search(/<\/body\s*>/i);
  return {
    head: source.slice(0, from),
    inner: source.slice(from, until < 0 ? undefined : until),
    tail: until < 0 ? "" : source.slice(until),
  };
}

const bodyOf = (html: string): HTMLElement => parsedHtml(`<body>${html}`).body;

/** An HTML text as it is shown formatted. */
export function readHtml(source: string): TextNode {
  const { head, inner, tail } = cut(source);
  const { text, marks } = marksAside(inner);
  const blocks = new Reader(marks).blocks(bodyOf(text));
  return nodes.doc.create({ head, tail }, blocks.length > 0 ? blocks : [nodes.words.create({ tag: "p" })]);
}

class Reader {
  constructor(private readonly marks: readonly string[]) {}

  blocks(parent: Element): TextNode[] {
    const found: TextNode[] = [];
    let line: Node[] = [];
    const flush = (): void => {
      const words = this.words(line);
      line = [];
      if (words.length === 0) return;
      const [only] = words;
      const table = words.length === 1 && only.type === nodes.chip && isRowsTable(String(only.attrs.source));
      found.push(
        table ? nodes.rows_table.create({ source: only.attrs.source }) : nodes.words.create({ tag: "" }, words),
      );
    };
    for (const child of parent.childNodes) {
      if (child instanceof Element && isBlock(child)) {
        flush();
        found.push(this.block(child));
      } else if (
        line.length === 0 &&
        (child instanceof Comment || (child instanceof Element && CLOSED.has(child.localName)))
      )
        found.push(nodes.kept.create({ source: this.sourceOf(child) }));
      else line.push(child);
    }
    flush();
    return found;
  }

  private block(element: Element): TextNode {
    const tag = element.localName;
    if (EMPTY.has(tag) || CLOSED.has(tag)) return nodes.kept.create({ source: this.sourceOf(element) });
    const attrs = { tag, attributes: this.attributesOf(element) };
    if (hasBlocks(element)) return nodes.container.create(attrs, this.blocks(element));
    // A table's row without cells holds nothing that could be written in.
    if (/^(?:table|tbody|thead|tfoot|tr|ul|ol|dl|colgroup)$/.test(tag))
      return nodes.kept.create({ source: this.sourceOf(element) });
    return (PARTED.has(tag) ? nodes.words : nodes.cell).create(attrs, this.words([...element.childNodes]));
  }

  /** What stands in a line; blanks at its ends are none. */
  private words(line: readonly Node[]): TextNode[] {
    const found = line.flatMap((node) => this.inline(node, []));
    const pieces: TextNode[] = [];
    for (const node of found) {
      const before = pieces.at(-1);
      const isBroken = before === undefined || before.type === nodes.hard_break || /\s$/.test(before.text ?? "");
      const text = node.isText && isBroken ? (node.text ?? "").replace(/^ +/, "") : node.text;
      if (!node.isText) pieces.push(node);
      else if (text !== "" && text !== undefined) pieces.push(htmlText.text(text, node.marks));
    }
    const last = pieces.at(-1);
    if (last?.isText) {
      pieces.pop();
      const text = (last.text ?? "").replace(/ +$/, "");
      if (text !== "") pieces.push(htmlText.text(text, last.marks));
    }
    return pieces;
  }

  private inline(node: Node, around: readonly Mark[]): TextNode[] {
    if (node instanceof Text)
      return node.data
        .replace(/[ \t\r\n\f]+/g, " ")
        .split(MARKED)
        .flatMap((part) => {
          if (part === "") return [];
          const source = withMarks(part, this.marks);
          return [source === part ? htmlText.text(part, around) : nodes.chip.create({ source }, null, around)];
        });
    if (!(node instanceof Element)) return [nodes.kept_inline.create({ source: this.sourceOf(node) }, null, around)];
    const tag = node.localName;
    const attributes = this.attributesOf(node);
    if (tag === "br") return [nodes.hard_break.create({ attributes }, null, around)];
    if (tag === "img")
      return [
        nodes.image.create(
          { ...this.pictureOf(node), attributes: this.attributesOf(node, ["src", "alt"]) },
          null,
          around,
        ),
      ];
    if (CLOSED.has(tag) || EMPTY.has(tag) || node.childNodes.length === 0)
      return [nodes.kept_inline.create({ source: this.sourceOf(node) }, null, around)];
    const own = element.create({ tag, attributes });
    return [...node.childNodes].flatMap((child) => this.inline(child, [...around, own]));
  }

  private pictureOf(element: Element): { src: string; alt: string } {
    const said = (name: string): string => withMarks(element.getAttribute(name) ?? "", this.marks);
    return { src: said("src"), alt: said("alt") };
  }

  /** As a source text, such as ` class="total"`; marks in it are none of HTML's business. */
  private attributesOf(element: Element, except: readonly string[] = []): string {
    return [...element.attributes]
      .filter(({ name }) => !except.includes(name))
      .map(({ name, value }) => ` ${withMarks(name, this.marks)}="${withMarks(escaped(value), this.marks)}"`)
      .join("");
  }

  private sourceOf(node: Node): string {
    const holder = document.createElement("div");
    holder.append(node.cloneNode(true));
    return withMarks(holder.innerHTML, this.marks);
  }
}

const MARKED = /(\ue000\d+\ue001)/;

function hasBlocks(element: Element): boolean {
  return [...element.children].some((child) => isBlock(child));
}

/** An element among words that holds blocks is one itself. */
function isBlock(element: Element): boolean {
  return BLOCKS.has(element.localName) || (!CLOSED.has(element.localName) && hasBlocks(element));
}

/** Words as HTML, a block a line. */
export function writeHtml(document: TextNode): string {
  const { head, tail } = document.attrs;
  const lines: string[] = [];
  document.forEach((node) => {
    lines.push(...writeBlock(node));
  });
  const text = lines.join("\n");
  return head === "" && tail === "" ? `${text}\n` : `${head}\n${text}\n${tail}`;
}

function writeBlock(node: TextNode): string[] {
  if (node.type === nodes.kept || node.type === nodes.rows_table) return [String(node.attrs.source)];
  const { tag, attributes } = node.attrs;
  if (node.type !== nodes.container) {
    const words = writeWords(node);
    return [tag === "" ? words : `<${tag}${attributes}>${words}</${tag}>`];
  }
  const inner: string[] = [];
  node.forEach((child) => {
    inner.push(...writeBlock(child).map((line) => `  ${line}`));
  });
  return [`<${tag}${attributes}>`, ...inner, `</${tag}>`];
}

function writeWords(node: TextNode): string {
  let text = "";
  let open: readonly Mark[] = [];
  node.forEach((child) => {
    let same = 0;
    while (same < open.length && child.marks[same]?.eq(open[same])) same++;
    text += closing(open.slice(same)) + child.marks.slice(same).map(opening).join("") + writeInline(child);
    open = child.marks;
  });
  return text + closing(open);
}

const opening = ({ attrs }: Mark): string => `<${attrs.tag}${attrs.attributes}>`;

const closing = (open: readonly Mark[]): string =>
  [...open]
    .reverse()
    .map(({ attrs }) => `</${attrs.tag}>`)
    .join("");

function writeInline(node: TextNode): string {
  const { attrs } = node;
  if (node.isText)
    return (node.text ?? "")
      .replaceAll("&", "&amp;")
      .replaceAll("<", "&lt;")
      .replaceAll(">", "&gt;")
      .replaceAll("\u00a0", "&nbsp;");
  if (node.type === nodes.hard_break) return `<br${attrs.attributes}>`;
  if (node.type === nodes.image)
    return `<img src="${escapedOutside(String(attrs.src))}" alt="${escapedOutside(String(attrs.alt ?? ""))}"${attrs.attributes}>`;
  return String(attrs.source);
}

const escaped = (value: string): string => value.replaceAll("&", "&amp;").replaceAll('"', "&quot;");
/** What stands outside of marks, escaped. */
export const escapedOutside = (value: string): string =>
  value
    .split(/(\{\{[\s\S]*?\}\})/)
    .map((part, at) => (at % 2 === 0 ? escaped(part) : part))
    .join("");

/** Elements that a browser puts in by itself. */
const IMPLIED = new Set(["tbody", "colgroup"]);
const TOKENS =
  /<!--[\s\S]*?-->|<(style|script)\b[\s\S]*?<\/\1\s*>|<\/[^>]*>|<([a-z][^\s/>]*)(?:"[^"]*"|'[^']*'|[^>"'])*>/gi;

/** Elements and words in the order in which a text has them; blanks do not count. */
function orderInText(text: string): string {
  const words = (part: string): string =>
    (parsedHtml(`<textarea>${part}</textarea>`).body.textContent ?? "").replace(/\s+/g, "");
  let order = "";
  let from = 0;
  for (const match of text.matchAll(TOKENS)) {
    const tag = (match[1] ?? match[2])?.toLowerCase();
    order += words(text.slice(from, match.index)) + (tag === undefined || IMPLIED.has(tag) ? "" : `<${tag}>`);
    from = match.index + match[0].length;
  }
  return order + words(text.slice(from));
}

/** The same of what a browser made of it. */
function orderRead(parent: Element): string {
  return [...parent.childNodes]
    .map((node) => {
      if (node instanceof Text) return node.data.replace(/\s+/g, "");
      if (!(node instanceof Element)) return "";
      const own = IMPLIED.has(node.localName) ? "" : `<${node.localName}>`;
      return own + (/^(?:style|script)$/.test(node.localName) ? "" : orderRead(node));
    })
    .join("");
}

/**
 * Whether HTML can be written formatted without anything becoming something else: where a program that shows it would move parts about,
 * such as marks between the rows of a table, or where blanks count, it is written as it is.
 */
export function isFormattableHtml(source: string): boolean {
  const { inner } = cut(source);
  if (/white-space\s*:|<pre\b|<plaintext|<textarea|<frameset/i.test(inner)) return false;
  if (inner === source && /<html\b|<head\b/i.test(source)) return false;
  const { text } = marksAside(inner);
  const order = orderRead(bodyOf(text));
  if (orderInText(text) !== order) return false;
  const once = readHtml(source);
  const written = writeHtml(once);
  // Two elements alike beside each other would be one.
  return once.eq(readHtml(written)) && orderRead(bodyOf(marksAside(cut(written).inner).text)) === order;
}
