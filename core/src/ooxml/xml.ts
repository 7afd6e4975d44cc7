/**
 * A lossless XML tree: every start tag keeps the exact text it had, so what is not edited is written back letter for letter.
 * Nodes are not changed; an edit makes a new element that shares the rest.
 */

import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";

export type XmlNode = XmlElement | XmlText;

/** Character data, or anything else that is passed through as it stands: comments, instructions, CDATA. */
export interface XmlText {
  readonly kind: "text";
  /** As in the file, with its entities. */
  readonly raw: string;
  /** What it says; empty for comments and instructions. */
  readonly text: string;
}

export interface XmlDocument {
  /** Declaration and whatever else stands before the root. */
  readonly head: string;
  readonly root: XmlElement;
  readonly tail: string;
}

/** Deeper nesting is refused: no office format needs it, and a hostile file could use it to exhaust the stack. */
const MAX_DEPTH = 256;

export class XmlElement {
  readonly kind = "element";
  /** Name without its prefix. */
  readonly local: string;
  private parsed: Map<string, string> | undefined;
  /** Whether its attributes are written as nearly all writers do. */
  private isUsual: boolean | undefined;

  constructor(
    /** Qualified name as written: `w:p`. */
    readonly name: string,
    /** The start tag as written, from `<` to `>` or `/>`. */
    readonly open: string,
    readonly children: readonly XmlNode[],
  ) {
    const colon = name.indexOf(":");
    this.local = colon < 0 ? name : name.slice(colon + 1);
  }

  /** Value of an attribute by its qualified name as written. */
  attr(name: string): string | undefined {
    const { open } = this;
    // Nearly all writers put one blank before and double quotes around: then no value can look like an attribute.
    const at = open.indexOf(` ${name}="`);
    if (at >= 0 && !open.includes("'")) {
      const start = at + name.length + 3;
      return unescapeXml(open.slice(start, open.indexOf('"', start)));
    }
    if (at < 0) {
      this.isUsual ??= !/['\t\r\n]|\s=|=\s/.test(open);
      if (this.isUsual) return undefined;
    }
    this.parsed ??= parseAttributes(open);
    return this.parsed.get(name);
  }

  /** What stands before the local name, with its colon; blank without one. */
  get prefix(): string {
    return this.name.slice(0, this.name.length - this.local.length);
  }

  get attributes(): ReadonlyMap<string, string> {
    this.parsed ??= parseAttributes(this.open);
    return this.parsed;
  }

  /** The same element with an attribute set, or taken away by `undefined`. Other attributes keep their text and order. */
  withAttr(name: string, value: string | undefined): XmlElement {
    const pattern = new RegExp(`(\\s)${escapeRegExp(name)}\\s*=\\s*(?:"[^"]*"|'[^']*')`);
    const written = value === undefined ? "" : `$1${name}="${escapeXml(value).replaceAll("$", "$$$$")}"`;
    if (pattern.test(this.open)) return new XmlElement(this.name, this.open.replace(pattern, written), this.children);
    if (value === undefined) return this;
    const open = this.open.replace(/\s*(\/?>)$/, (_, close: string) => ` ${name}="${escapeXml(value)}"${close}`);
    return new XmlElement(this.name, open, this.children);
  }

  withChildren(children: readonly XmlNode[]): XmlElement {
    return new XmlElement(this.name, this.open, children);
  }

  /** Child elements, all or those of a local name. */
  elements(local?: string): XmlElement[] {
    return this.children.filter(
      (child): child is XmlElement => child.kind === "element" && (local === undefined || child.local === local),
    );
  }

  /** First child element of a local name. */
  child(local: string): XmlElement | undefined {
    for (const child of this.children) if (child.kind === "element" && child.local === local) return child;
    return undefined;
  }

  /** First element along a path of local names. */
  path(...locals: string[]): XmlElement | undefined {
    let at: XmlElement | undefined = this;
    for (const local of locals) at = at?.child(local);
    return at;
  }

  /** All descendants of a local name, in document order. */
  descendants(local: string): XmlElement[] {
    const found: XmlElement[] = [];
    const visit = (element: XmlElement): void => {
      for (const child of element.children) {
        if (child.kind !== "element") continue;
        if (child.local === local) found.push(child);
        visit(child);
      }
    };
    visit(this);
    return found;
  }

  /** All character data below this element. */
  get text(): string {
    let text = "";
    for (const child of this.children) text += child.text;
    return text;
  }

  toString(): string {
    if (this.children.length === 0 && this.open.endsWith("/>")) return this.open;
    const open = this.open.endsWith("/>") ? `${this.open.slice(0, -2).trimEnd()}>` : this.open;
    let inner = "";
    for (const child of this.children) inner += child.kind === "element" ? child.toString() : child.raw;
    return `${open}${inner}</${this.name}>`;
  }
}

/** A new element from its name, attributes and children. */
export function xmlElement(
  name: string,
  attributes: Record<string, string> = {},
  children: readonly XmlNode[] = [],
): XmlElement {
  const written = Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${escapeXml(value)}"`)
    .join("");
  return new XmlElement(name, `<${name}${written}/>`, children);
}

export function xmlText(text: string): XmlText {
  return { kind: "text", raw: escapeXml(text), text };
}

/**
 * Parses a part. Throws `BROKEN_XML` with line and column. A document type declaration is refused: OOXML forbids it.
 * For those who only read, and do not look for a place by its node, also cells of tables that are written alike are one node; cells
 * and texts of slides are so in whatever part they stand.
 */
export function parseXml(source: string, where = "XML", isOnlyRead = false): XmlDocument {
  return isOnlyRead
    ? new Parser(source, where, SHARED_BY_READERS, KEPT_BY_READERS).parse()
    : new Parser(source, where, SHARED).parse();
}

interface Open {
  readonly name: string;
  readonly tag: string;
  readonly children: XmlNode[];
  /** Its whole text as far as its first closing tag, where elements written alike are shared. */
  readonly whole: string | undefined;
  /** Where that text ends. */
  readonly end: number;
}

/** Properties of a document's runs, paragraphs, cells and rows: written alike thousands of times. */
const SHARED: ReadonlySet<string> = new Set(["<w:rPr>", "<w:pPr>", "<w:tcPr>", "<w:trPr>"]);
const SHARED_BY_READERS: ReadonlySet<string> = new Set([...SHARED, "<w:tc>"]);

/** Cells and texts of slides: written alike in the slides of a deck, and in the decks that are made of one template. */
const KEPT_BY_READERS: ReadonlySet<string> = new Set(["<a:tc>", "<p:txBody>"]);

/** Elements that are the same wherever they stand, by their text, as many as have room. */
class KeptElements {
  private readonly all = new Map<string, XmlElement>();
  private size = 0;

  /** The element written so; `undefined` where it is not well formed by itself. */
  get(text: string): XmlElement | undefined {
    const known = this.all.get(text);
    if (known) return known;
    // A copy of its own: a piece of the part's text would keep all of that.
    const own = Buffer.from(text).toString();
    const element = parsedAlone(own);
    if (!element) return undefined;
    if (this.size > KEPT_SIZE) {
      this.all.clear();
      this.size = 0;
    }
    this.size += own.length;
    this.all.set(own, element);
    return element;
  }
}

/** Characters of elements that are kept. */
const KEPT_SIZE = 4_000_000;
const KEPT = new KeptElements();

function parsedAlone(text: string): XmlElement | undefined {
  try {
    return new Parser(text, "", SHARED).parse().root;
  } catch {
    // It is told where it stands in its part.
    return undefined;
  }
}

class Parser {
  private at = 0;
  /**
   * Elements of documents that are nothing but a tag: properties, mostly. Those written alike are one object, since
   * nodes are not changed and where such a one stands tells nothing of it.
   */
  private readonly bare = new Map<string, XmlElement>();
  /** The same for properties with what stands in them, by their whole text. */
  private readonly wholes = new Map<string, XmlElement>();

  constructor(
    private readonly source: string,
    private readonly where: string,
    private readonly shared: ReadonlySet<string>,
    private readonly kept: ReadonlySet<string> = NOTHING,
  ) {}

  /** The element that begins here and is kept by its text, and where it ends. */
  private known(tag: string, start: number): { readonly element: XmlElement; readonly end: number } | undefined {
    if (!this.kept.has(tag)) return undefined;
    const close = `</${tag.slice(1)}`;
    const end = this.source.indexOf(close, this.at);
    if (end < 0) return undefined;
    const element = KEPT.get(this.source.slice(start, end + close.length));
    return element && { element, end: end + close.length };
  }

  parse(): XmlDocument {
    const stack: Open[] = [];
    let root: XmlElement | undefined;
    let head = "";
    let tail = "";
    const add = (node: XmlNode, raw: string): void => {
      if (stack.length > 0) stack[stack.length - 1].children.push(node);
      else if (root) tail += raw;
      else head += raw;
    };
    while (this.at < this.source.length) {
      const start = this.at;
      if (this.source[start] !== "<") {
        const next = this.source.indexOf("<", start);
        const raw = this.source.slice(start, next < 0 ? undefined : next);
        this.at = start + raw.length;
        if (stack.length === 0 && raw.trim() !== "" && raw.trim() !== "\ufeff")
          throw this.error(say().ooxml.textStandsOutsideRoot(), start);
        add({ kind: "text", raw, text: this.unescape(raw, start) }, raw);
      } else if (this.source.startsWith("<!", start) || this.source.startsWith("<?", start)) {
        const raw = this.passThrough(start);
        const text = raw.startsWith("<![CDATA[") ? raw.slice(9, -3) : "";
        add({ kind: "text", raw, text }, raw);
      } else if (this.source[start + 1] === "/") {
        const open = stack.pop();
        const close = this.closing(start, open);
        if (!open || close < 0) {
          const name = this.source.slice(start + 2, this.source.indexOf(">", start)).trim();
          throw this.error(say().ooxml.closesNothingOpen({ name }), start);
        }
        this.at = close + 1;
        const element = new XmlElement(open.name, open.tag, open.children);
        // Where one of its kind stands inside, the first closing tag was that one's.
        if (open.whole !== undefined && open.end === this.at) this.wholes.set(open.whole, element);
        if (stack.length === 0) root = element;
        else stack[stack.length - 1].children.push(element);
      } else {
        const tag = this.startTag(start);
        if (root && stack.length === 0) throw this.error(say().ooxml.secondRoot(), start);
        const known = this.bare.get(tag);
        const name = known?.name ?? tagName(tag);
        if (name === "") throw this.error(say().ooxml.tagName(), start);
        if (tag.charCodeAt(tag.length - 2) === SLASH) {
          const element = known ?? new XmlElement(name, tag, NO_CHILDREN);
          if (!known && tag.startsWith("<w:")) this.bare.set(tag, element);
          if (stack.length === 0) root = element;
          else stack[stack.length - 1].children.push(element);
        } else {
          const kept = stack.length > 0 ? this.known(tag, start) : undefined;
          if (kept) {
            stack[stack.length - 1].children.push(kept.element);
            this.at = kept.end;
            continue;
          }
          if (stack.length >= MAX_DEPTH)
            throw this.error(say().ooxml.nestedDeeperLevels({ maxDepth: MAX_DEPTH }), start);
          const isShared = stack.length > 0 && this.shared.has(tag);
          const end = isShared ? this.source.indexOf(`</${name}>`, this.at) + name.length + 3 : 0;
          const whole = isShared ? this.source.slice(start, end) : undefined;
          const same = whole === undefined ? undefined : this.wholes.get(whole);
          if (same) {
            stack[stack.length - 1].children.push(same);
            this.at = end;
          } else stack.push({ name, tag, children: [], whole, end });
        }
      }
    }
    if (stack.length > 0)
      throw this.error(say().ooxml.closed({ name: stack[stack.length - 1].name }), this.source.length);
    if (!root) throw this.error(say().ooxml.empty(), 0);
    return { head, root, tail };
  }

  /** Where the closing tag of an element ends; below zero where another is open. */
  private closing(start: number, open: Open | undefined): number {
    const { source } = this;
    if (!open || !source.startsWith(open.name, start + 2)) return -1;
    let at = start + 2 + open.name.length;
    while (source.charCodeAt(at) <= BLANK) at++;
    return source.charCodeAt(at) === GREATER ? at : -1;
  }

  private startTag(start: number): string {
    const { source } = this;
    for (let at = start + 1; at < source.length; at++) {
      const code = source.charCodeAt(at);
      if (code === QUOTE || code === APOSTROPHE) {
        at = source.indexOf(code === QUOTE ? '"' : "'", at + 1);
        if (at < 0) break;
      } else if (code === GREATER) {
        this.at = at + 1;
        return source.slice(start, at + 1);
      } else if (code === LESS) break;
    }
    throw this.error(say().ooxml.tagClosed(), start);
  }

  private passThrough(start: number): string {
    const ends: readonly (readonly [string, string])[] = [
      ["<!--", "-->"],
      ["<![CDATA[", "]]>"],
      ["<?", "?>"],
    ];
    for (const [opening, closing] of ends) {
      if (!this.source.startsWith(opening, start)) continue;
      const end = this.source.indexOf(closing, start + opening.length);
      if (end < 0) throw this.error(say().ooxml.openingNotClosed({ opening }), start);
      this.at = end + closing.length;
      return this.source.slice(start, this.at);
    }
    throw this.error(say().ooxml.documentTypeDeclaration(), start);
  }

  private unescape(raw: string, start: number): string {
    return unescapeXml(raw, (entity) => this.error(say().ooxml.entityUnknown({ entity }), start));
  }

  private error(what: string, at: number): CorbixError {
    const before = this.source.slice(0, at).split("\n");
    return new CorbixError("BROKEN_XML", say().ooxml.cannotReadXml({ what }), {
      where: say().ooxml.lineColumn({
        where: this.where,
        beforeCount: before.length,
        beforeCount2: before[before.length - 1].length + 1,
      }),
    });
  }
}

const NOTHING: ReadonlySet<string> = new Set();
const NO_CHILDREN: readonly XmlNode[] = [];
const BLANK = 32;
const QUOTE = 34;
const APOSTROPHE = 39;
const SLASH = 47;
const LESS = 60;
const GREATER = 62;

function tagName(tag: string): string {
  let end = 1;
  for (; end < tag.length; end++) {
    const code = tag.charCodeAt(end);
    if (code <= 32 || code === SLASH || code === GREATER) break;
  }
  return tag.slice(1, end);
}

function parseAttributes(open: string): Map<string, string> {
  const attributes = new Map<string, string>();
  for (const match of open.matchAll(/\s([^\s=/>]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) {
    attributes.set(match[1], unescapeXml(match[2] ?? match[3] ?? ""));
  }
  return attributes;
}

const ENTITIES: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };

/** Character data as text. `fail` makes the error for an unknown entity; without it the entity stays as written. */
export function unescapeXml(raw: string, fail?: (entity: string) => Error): string {
  if (!raw.includes("&")) return raw;
  return raw.replace(/&(#x[0-9a-fA-F]{1,6}|#\d{1,7}|\w+);/g, (entity, name: string) => {
    if (name.startsWith("#")) {
      const code = name[1] === "x" ? Number.parseInt(name.slice(2), 16) : Number(name.slice(1));
      return code <= 0x10ffff ? String.fromCodePoint(code) : "\ufffd";
    }
    const char = ENTITIES[name];
    if (char === undefined && fail) throw fail(entity);
    return char ?? entity;
  });
}

/** Text as it may stand in character data and attributes. Characters XML cannot hold are left out. */
export function escapeXml(text: string): string {
  if (!/[&<>"\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/.test(text)) return text;
  return text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, "")
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;");
}

function escapeRegExp(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}

/** The tree with elements replaced by what `change` gives; where it gives nothing, their children are gone through. */
export function mapElements(element: XmlElement, change: (element: XmlElement) => XmlElement | undefined): XmlElement {
  const changed = change(element);
  if (changed) return changed;
  return element.withChildren(
    element.children.map((child) => (child.kind === "element" ? mapElements(child, change) : child)),
  );
}
