/** Makes a part ready for cutting: marks gathered in one run each, old merge fields written as marks, structures apart. */

import { escapeXml, XmlElement, type XmlNode } from "../ooxml/index.js";
import { cutMarks, gatherMarks, hasMarks, STRUCTURE, type Structure } from "../template/index.js";
import type { Dialect } from "./dialect.js";
import { EMPHASIS } from "./template-nodes.js";

/** A structure's mark on its way to being matched; it stands as an element of its own between runs. */
export interface PlacedStructure {
  readonly structure: Structure;
  readonly where: string;
  /** It stands between the columns of a table, in each of its rows. */
  readonly isColumns?: boolean | undefined;
}

export interface PreparedPart {
  readonly root: XmlElement;
  readonly structures: Map<XmlElement, PlacedStructure>;
  /** Places of its paragraphs. */
  readonly places: Map<XmlElement, string>;
}

/** Throws `BAD_MARK` with the paragraph it stands in. */
export function preparePart(root: XmlElement, where: string, dialect: Dialect): PreparedPart {
  return new Preparing(where, dialect).run(root);
}

class Preparing {
  private readonly structures = new Map<XmlElement, PlacedStructure>();
  private readonly places = new Map<XmlElement, string>();
  private paragraphs = 0;

  constructor(
    private where: string,
    private readonly dialect: Dialect,
  ) {}

  run(root: XmlElement): PreparedPart {
    return { root: this.element(root), structures: this.structures, places: this.places };
  }

  private element(element: XmlElement): XmlElement {
    if (element.local === "p") return this.paragraph(element);
    const own = this.dialect.placeOf(element, this.where);
    if (own === undefined) return this.within(element);
    const outer = this.where;
    this.where = own;
    const made = this.within(element);
    this.places.set(made, own);
    this.where = outer;
    return made;
  }

  private within(element: XmlElement): XmlElement {
    let changed = false;
    const children = element.children.map((child) => {
      if (child.kind !== "element") return child;
      const made = this.element(child);
      if (made !== child) changed = true;
      return made;
    });
    return changed ? element.withChildren(children) : element;
  }

  private paragraph(paragraph: XmlElement): XmlElement {
    this.paragraphs++;
    const where = this.dialect.paragraphPlace(this.where, this.paragraphs);
    const table = this.dialect.tableAt(paragraph);
    if (table) {
      const place = paragraph.withChildren([this.marker(table, where)]);
      this.places.set(place, where);
      return place;
    }
    const merged = this.dialect.paragraph(paragraph);
    const texts = ownTexts(merged);
    const isMarked = texts
      .map((text) => text.text)
      .join("")
      .includes("{{");
    const changed = new Map<XmlElement, string>();
    if (isMarked) {
      const gathered = gatherMarks(texts.map((text) => text.text));
      texts.forEach((text, index) => {
        changed.set(text, gathered[index]);
      });
    }
    const made = merged.withChildren(this.inside(merged.children, changed, where));
    const isSame = made.children.every((child, index) => child === paragraph.children[index]);
    const result = isSame && made.children.length === paragraph.children.length ? paragraph : made;
    this.places.set(result, where);
    return result;
  }

  /** Children of a paragraph or of what stands in it. */
  private inside(children: readonly XmlNode[], texts: ReadonlyMap<XmlElement, string>, where: string): XmlNode[] {
    return children.flatMap((child): XmlNode[] => {
      if (child.kind !== "element") return [child];
      if (child.local === "p") return [this.paragraph(child)];
      if (child.local === "r") return this.textRun(child, texts, where);
      const made = this.inside(child.children, texts, where);
      const isSame = made.length === child.children.length && made.every((one, index) => one === child.children[index]);
      return [isSame ? child : child.withChildren(made)];
    });
  }

  /** A run, cut where structures or values with properties of their own stand in its text. */
  private textRun(run: XmlElement, texts: ReadonlyMap<XmlElement, string>, where: string): XmlNode[] {
    const runProperties = run.child("rPr");
    const pieces: XmlNode[] = [];
    let content: XmlNode[] = [];
    let changed = false;
    const flush = (): void => {
      if (content.some((node) => node.kind === "element" && node !== runProperties))
        pieces.push(
          run.withChildren(runProperties && !content.includes(runProperties) ? [runProperties, ...content] : content),
        );
      content = [];
    };
    for (const child of run.children) {
      const text = child.kind === "element" ? texts.get(child) : undefined;
      if (child.kind !== "element" || text === undefined) {
        const [made] = child.kind === "element" && child.local !== "rPr" ? this.inside([child], texts, where) : [child];
        if (made !== child) changed = true;
        content.push(made);
        continue;
      }
      if (text === child.text && !hasMarks(text)) {
        content.push(child);
        continue;
      }
      changed = true;
      let plain = "";
      const flushText = (): void => {
        if (plain !== "") content.push(this.textElement(child, plain));
        plain = "";
      };
      for (const piece of cutMarks(text, where)) {
        if (piece.kind === "text") plain += piece.text;
        else if (STRUCTURE.test(piece.source)) {
          flushText();
          flush();
          pieces.push(this.marker(this.dialect.structure(piece.source, where), where));
        } else if (piece.source.endsWith(`as "${EMPHASIS}"`)) {
          flushText();
          flush();
          content.push(this.textElement(child, `{{${piece.source}}}`));
          flush();
        } else plain += `{{${piece.source}}}`;
      }
      flushText();
    }
    if (!changed) return [run];
    flush();
    return pieces;
  }

  private textElement(like: XmlElement, text: string): XmlElement {
    return new XmlElement(like.name, this.dialect.openText(like.name), [{ kind: "text", raw: escapeXml(text), text }]);
  }

  private marker(structure: Structure, where: string): XmlElement {
    const marker = new XmlElement("corbix", "<corbix/>", []);
    this.structures.set(marker, { structure, where });
    return marker;
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
