/** Makes a part ready for cutting: marks gathered in one run each, old merge fields written as marks, structures apart. */

import { columnKey } from "../../common/index.js";
import { escapeXml, XmlElement, type XmlNode } from "../../ooxml/index.js";
import { cutMarks, gatherMarks, hasMarks, parseStructure, STRUCTURE, type Structure } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { BookmarkTables } from "../fill/bookmark-tables.js";
import { mergeFieldMark } from "./merge-fields.js";
import { EMPHASIS } from "./template-nodes.js";

/** A structure's mark on its way to being matched; it stands as an element of its own between runs. */
export interface PlacedStructure {
  readonly structure: Structure;
  readonly where: string;
}

export interface PreparedPart {
  readonly root: XmlElement;
  readonly structures: ReadonlyMap<XmlElement, PlacedStructure>;
  /** Places of its paragraphs. */
  readonly places: Map<XmlElement, string>;
}

/** Throws `BAD_MARK` with the paragraph it stands in. */
export function preparePart(root: XmlElement, where: string, tables: BookmarkTables): PreparedPart {
  return new Preparing(where, tables).run(root);
}

class Preparing {
  private readonly structures = new Map<XmlElement, PlacedStructure>();
  private readonly places = new Map<XmlElement, string>();
  private paragraphs = 0;

  constructor(
    private readonly where: string,
    private readonly tables: BookmarkTables,
  ) {}

  run(root: XmlElement): PreparedPart {
    return { root: this.element(root), structures: this.structures, places: this.places };
  }

  private element(element: XmlElement): XmlElement {
    if (element.local === "p") return this.paragraph(element);
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
    const where = say().document.paragraph({ where: this.where, paragraphs: this.paragraphs });
    const table = this.tables.size > 0 ? this.tableAt(paragraph) : undefined;
    if (table) {
      const place = paragraph.withChildren([this.marker(table, where)]);
      this.places.set(place, where);
      return place;
    }
    const merged = withoutMergeFields(paragraph);
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
        if (plain !== "") content.push(textElement(child, plain));
        plain = "";
      };
      for (const piece of cutMarks(text, where)) {
        if (piece.kind === "text") plain += piece.text;
        else if (STRUCTURE.test(piece.source)) {
          flushText();
          flush();
          pieces.push(this.marker(parseStructure(piece.source, where), where));
        } else if (piece.source.endsWith(`as "${EMPHASIS}"`)) {
          flushText();
          flush();
          content.push(textElement(child, `{{${piece.source}}}`));
          flush();
        } else plain += `{{${piece.source}}}`;
      }
      flushText();
    }
    if (!changed) return [run];
    flush();
    return pieces;
  }

  /** The table that goes where one of a paragraph's bookmarks stands. */
  private tableAt(paragraph: XmlElement): Structure | undefined {
    for (const start of paragraph.descendants("bookmarkStart")) {
      const table = this.tables.get(columnKey(start.attr("w:name") ?? ""));
      if (table) return table;
    }
    return undefined;
  }

  private marker(structure: Structure, where: string): XmlElement {
    const marker = new XmlElement("corbix", "<corbix/>", []);
    this.structures.set(marker, { structure, where });
    return marker;
  }
}

function textElement(like: XmlElement, text: string): XmlElement {
  return new XmlElement(like.name, `<${like.name} xml:space="preserve">`, [
    { kind: "text", raw: escapeXml(text), text },
  ]);
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

/** Merge fields of a paragraph (17.16.5.35), simple or over several runs, as marks in the properties of their result. */
function withoutMergeFields(paragraph: XmlElement): XmlElement {
  if (
    !paragraph
      .elements()
      .some((child) => child.local === "fldSimple" || (child.local === "r" && child.child("fldChar")))
  )
    return paragraph;
  const children: XmlNode[] = [];
  let field: OpenField | undefined;
  for (const child of paragraph.children.flatMap(apart)) {
    if (child.kind !== "element") {
      (field?.nodes ?? children).push(child);
      continue;
    }
    if (child.local === "fldSimple" && !field) {
      const attribute = [...child.attributes].find(([name]) => name.endsWith(":instr"))?.[1] ?? "";
      const mark = mergeFieldMark(attribute);
      children.push(mark === undefined ? child : markRun(child.child("r") ?? child, mark));
      continue;
    }
    const sign = child.child("fldChar");
    const type = sign && [...sign.attributes].find(([name]) => name.endsWith(":fldCharType"))?.[1];
    if (type === "begin") {
      if (field) field.depth++;
      else field = { first: child, nodes: [], instruction: "", depth: 0, isResult: false, result: undefined };
    }
    if (!field) {
      children.push(child);
      continue;
    }
    field.nodes.push(child);
    if (field.depth === 0 && type === "separate") field.isResult = true;
    else if (!field.isResult) field.instruction += child.child("instrText")?.text ?? "";
    else if (type === undefined) field.result ??= child;
    if (type !== "end") continue;
    if (field.depth-- > 0) continue;
    const mark = mergeFieldMark(field.instruction);
    if (mark === undefined) children.push(...field.nodes);
    else children.push(markRun(field.result ?? field.first, mark));
    field = undefined;
  }
  if (field) children.push(...field.nodes);
  return paragraph.withChildren(children);
}

interface OpenField {
  /** The run that begins it. */
  readonly first: XmlElement;
  readonly nodes: XmlNode[];
  instruction: string;
  depth: number;
  isResult: boolean;
  result: XmlElement | undefined;
}

/** A run that holds a field's sign beside other things, as runs of one thing each. */
function apart(node: XmlNode): XmlNode[] {
  if (node.kind !== "element" || node.local !== "r" || !node.child("fldChar")) return [node];
  const runProperties = node.child("rPr");
  const content = node.elements().filter((child) => child !== runProperties);
  if (content.length === 1) return [node];
  return content.map((child) => node.withChildren(runProperties ? [runProperties, child] : [child]));
}

function markRun(like: XmlElement, mark: string): XmlElement {
  const prefix = like.prefix;
  const runProperties = like.child("rPr");
  const text = new XmlElement(`${prefix}t`, `<${prefix}t xml:space="preserve">`, [
    { kind: "text", raw: escapeXml(`{{ ${mark} }}`), text: `{{ ${mark} }}` },
  ]);
  return new XmlElement(`${prefix}r`, `<${prefix}r>`, runProperties ? [runProperties, text] : [text]);
}
