/** A part cut into what stays as it is, fields, and rows that repeat: filling is joining. */
import { CorbixError } from "../common/index.js";
import { type Field, isPerLine } from "../expression/index.js";
import { escapeXml, unescapeXml, XmlElement, type XmlNode } from "../ooxml/index.js";
import { cutMarks, gatherMarks, hasMarks, parseMark } from "../template/index.js";

export type Piece =
  | { readonly kind: "raw"; readonly xml: string }
  /** A field in running text; `prefix` is that of the text element it stands in. */
  | { readonly kind: "field"; readonly field: Field; readonly where: string; readonly prefix: string }
  /** A field in an attribute, such as an alternative text or a link's address. */
  | { readonly kind: "attribute"; readonly field: Field; readonly where: string }
  | { readonly kind: "lines"; readonly pieces: readonly Piece[] };

/** Cuts a part. Throws `BAD_MARK` with the paragraph's beginning as its place. */
export function cutPart(root: XmlElement, where: string): Piece[] {
  const cutter = new Cutter(where);
  cutter.element(root);
  return cutter.finish();
}

class Cutter {
  private readonly pieces: Piece[] = [];
  private inLine = false;

  constructor(private readonly where: string) {}

  finish(): Piece[] {
    return this.pieces;
  }

  element(element: XmlElement): void {
    if (element.local === "p" && element.text.includes("{{")) {
      this.children(element, this.gatherRuns(element));
      return;
    }
    if (!element.toString().includes("{{")) {
      this.raw(element.toString());
      return;
    }
    this.children(element, element);
  }

  private raw(xml: string): void {
    const last = this.pieces[this.pieces.length - 1];
    if (last?.kind === "raw") this.pieces[this.pieces.length - 1] = { kind: "raw", xml: last.xml + xml };
    else this.pieces.push({ kind: "raw", xml });
  }

  private children(original: XmlElement, element: XmlElement): void {
    if (element.children.length === 0 && element.open.endsWith("/>")) {
      this.tag(element.open);
      return;
    }
    this.tag(element.open);
    if (element.local === "t") this.text(element);
    else if (element.local === "tbl") this.rows(element);
    else for (const child of element.children) this.node(child);
    this.raw(`</${original.name}>`);
  }

  private node(node: XmlNode): void {
    if (node.kind === "text") this.raw(node.raw);
    else this.element(node);
  }

  /** Adjoining rows with `line.` fields repeat together. */
  private rows(table: XmlElement): void {
    let waiting: XmlElement[] = [];
    const flush = (): void => {
      if (waiting.length === 0) return;
      const inner = new Cutter(this.where);
      inner.inLine = true;
      for (const row of waiting) inner.element(row);
      this.pieces.push({ kind: "lines", pieces: inner.finish() });
      waiting = [];
    };
    for (const child of table.children) {
      if (child.kind === "element" && child.local === "tr" && !this.inLine && hasLineFields(child, this.where))
        waiting.push(child);
      else {
        if (child.kind === "element") flush();
        this.node(child);
      }
    }
    flush();
  }

  /** A start tag; marks in its attributes are filled. */
  private tag(open: string): void {
    if (!hasMarks(open)) {
      this.raw(open);
      return;
    }
    for (const piece of cutMarks(open, this.where)) {
      if (piece.kind === "text") this.raw(piece.text);
      else
        this.pieces.push({
          kind: "attribute",
          field: parseMark(unescapeXml(piece.source), this.where),
          where: this.where,
        });
    }
  }

  private text(element: XmlElement): void {
    const prefix = element.name.slice(0, element.name.length - 1);
    for (const piece of cutMarks(element.text, this.where)) {
      if (piece.kind === "text") this.raw(escapeXml(piece.text));
      else {
        const where = `${this.where}, mark {{ ${piece.source} }}`;
        const field = parseMark(piece.source, where);
        if (isPerLine(field.ast) && !this.inLine) {
          throw new CorbixError("BAD_MARK", "Cannot fill a `line.` field here: it stands in no table row.", {
            where,
            advice: "Put it into a row of a table, or use sum(…), count(…) or list(…) over the lines.",
          });
        }
        this.pieces.push({ kind: "field", field, where, prefix });
      }
    }
  }

  /** The paragraph with each mark wholly in the run of its first character. */
  private gatherRuns(paragraph: XmlElement): XmlElement {
    const texts = ownTexts(paragraph);
    const gathered = gatherMarks(texts.map((text) => text.text));
    const changed = new Map(texts.map((text, index) => [text, gathered[index]]));
    const rebuild = (element: XmlElement): XmlElement => {
      const text = changed.get(element);
      if (text !== undefined)
        return new XmlElement(element.name, `<${element.name} xml:space="preserve">`, [
          { kind: "text", raw: escapeXml(text), text },
        ]);
      return element.withChildren(element.children.map((child) => (child.kind === "element" ? rebuild(child) : child)));
    };
    return rebuild(paragraph);
  }
}

/** The text elements of a paragraph, not those of paragraphs inside its text boxes. */
function ownTexts(paragraph: XmlElement): XmlElement[] {
  const found: XmlElement[] = [];
  const visit = (element: XmlElement): void => {
    for (const child of element.children) {
      if (child.kind !== "element" || child.local === "p") continue;
      if (child.local === "t") found.push(child);
      else visit(child);
    }
  };
  visit(paragraph);
  return found;
}

/** Whether a row's own paragraphs, not those of tables inside it, hold `line.` fields. */
function hasLineFields(row: XmlElement, where: string): boolean {
  const visit = (element: XmlElement): boolean =>
    element.elements().some((child) => {
      if (child.local === "tbl") return false;
      if (child.local !== "p") return visit(child);
      const text = ownTexts(child)
        .map((run) => run.text)
        .join("");
      return (
        hasMarks(text) &&
        cutMarks(text, where).some((piece) => piece.kind === "mark" && isPerLine(parseMark(piece.source, where).ast))
      );
    });
  return visit(row);
}

/** Every field in pieces, those of repeated rows included. */
export function fieldsIn(pieces: readonly Piece[]): Field[] {
  return pieces.flatMap((piece) =>
    piece.kind === "raw" ? [] : piece.kind === "lines" ? fieldsIn(piece.pieces) : [piece.field],
  );
}
