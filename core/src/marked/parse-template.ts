import { CorbixError } from "../common/index.js";
import { type Field, neededLines } from "../expression/index.js";
import { escapeXml, unescapeXml, XmlElement, type XmlNode } from "../ooxml/index.js";
import { cutMarks, hasMarks, parseMark } from "../template/index.js";
import { say } from "../words/index.js";
import { withColumns } from "./columns.js";
import type { Dialect, ShapeBox } from "./dialect.js";
import { type Item, MarkedPart, markAt } from "./marked-part.js";
import { type PlacedStructure, type PreparedPart, preparePart } from "./prepare-part.js";
import { linesOfRow } from "./row-lines.js";
import { EMPHASIS, type TemplateNode } from "./template-nodes.js";
import { isOpening, listItems, unended, unmatched } from "./unmatched-marks.js";

/** What has to be known to cut a part. */
export interface PartReading {
  readonly dialect: Dialect;
  /** Folded names of lines beside the group's own. */
  readonly further?: readonly string[] | undefined;
  /** Folded names of lines of which there is a current one around the part. */
  readonly inLines?: readonly string[] | undefined;
}

/** Cuts a part, which may be prepared already. Throws `BAD_MARK` with the paragraph it stands in. */
export function cutPart(root: XmlElement | PreparedPart, where: string, reading: PartReading): TemplateNode[] {
  const { dialect, further = [], inLines = [] } = reading;
  const prepared = root instanceof XmlElement ? preparePart(root, where, dialect) : root;
  const part = new MarkedPart(dialect.goesAcross ? withColumns(prepared) : prepared, dialect);
  return new TemplateParser(part, where, { inLines: new Set(inLines), further }, dialect).whole();
}

const LINK_SIGN = "corbix-link";

/** The smallest box around shapes, by the places they say. */
function shapeBox(nodes: readonly XmlNode[], across: boolean): ShapeBox | undefined {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const node of nodes) {
    if (node.kind !== "element") continue;
    const frame = node.child("spPr")?.child("xfrm") ?? node.child("grpSpPr")?.child("xfrm") ?? node.child("xfrm");
    const [off, ext] = [frame?.child("off"), frame?.child("ext")];
    if (!off || !ext) continue;
    const [x, y] = [Number(off.attr("x")), Number(off.attr("y"))];
    [left, top] = [Math.min(left, x), Math.min(top, y)];
    [right, bottom] = [Math.max(right, x + Number(ext.attr("cx"))), Math.max(bottom, y + Number(ext.attr("cy")))];
  }
  return right < left ? undefined : { x: left, y: top, width: right - left, height: bottom - top, across };
}

/** The text of a paragraph without its marks. */
function wordsOf(paragraph: XmlElement): string {
  const texts = paragraph.descendants("t").map((text) => text.text);
  return texts.join("").replace(/\{\{[\s\S]*?\}\}/g, "");
}

/** Where a cutter is among lines. */
interface AmongLines {
  /** Folded names of the lines of which there is a current one. */
  readonly inLines: ReadonlySet<string>;
  /** Folded names of lines beside the group's own. */
  readonly further: readonly string[];
}

class TemplateParser {
  private readonly pieces: TemplateNode[] = [];

  constructor(
    private readonly part: MarkedPart,
    private where: string,
    private readonly among: AmongLines,
    private readonly dialect: Dialect,
  ) {}

  whole(): TemplateNode[] {
    const loose = this.part.loose(this.part.root);
    if (loose.length > 0) {
      const first = this.part.structure(loose[0]);
      throw isOpening(first) ? unended(first) : unmatched(first);
    }
    this.element(this.part.root);
    return this.pieces;
  }

  private element(element: XmlElement): void {
    const place = this.part.placeOf(element);
    const [outer, outerText] = [this.where, this.isInText];
    if (place !== undefined) this.where = place;
    if (element.local === "p") this.isInText = /[\p{L}\p{N}\p{P}]/u.test(wordsOf(element));
    const table = this.dialect.tableIn(element);
    if (!this.part.isTouched(element)) this.raw(element.toString());
    else if (this.picture(element)) {
      // Written as a picture chosen by its mark.
    } else if (table) this.container("table", element, table.prefix);
    else if (this.dialect.cells.has(element.local) && this.loosens(element))
      this.container("cell", element, element.child("p")?.prefix ?? element.prefix);
    else this.children(element);
    this.where = outer;
    this.isInText = outerText;
  }

  /** Whether paragraphs of a cell may vanish. */
  private loosens(cell: XmlElement): boolean {
    return cell.descendants("corbix").length > 0;
  }

  private container(what: "table" | "cell", element: XmlElement, prefix: string): void {
    const inner = this.inner();
    inner.children(element);
    this.pieces.push({ kind: "container", what, prefix, pieces: inner.pieces });
  }

  private inner(lines?: string): TemplateParser {
    const among =
      lines === undefined ? this.among : { ...this.among, inLines: new Set([...this.among.inLines, lines]) };
    const inner = new TemplateParser(this.part, this.where, among, this.dialect);
    inner.isInText = this.isInText;
    return inner;
  }

  private raw(xml: string): void {
    const last = this.pieces[this.pieces.length - 1];
    if (last?.kind === "raw") this.pieces[this.pieces.length - 1] = { kind: "raw", xml: last.xml + xml };
    else this.pieces.push({ kind: "raw", xml });
  }

  private children(element: XmlElement): void {
    if (element.children.length === 0 && element.open.endsWith("/>")) {
      this.tag(this.withLink(element));
      return;
    }
    this.tag(this.withLink(element));
    if (this.dialect.texts.has(element.local)) this.text(element);
    else this.sequence(element, element.local === "r" ? element.child("rPr") : undefined);
    this.raw(`</${element.name}>`);
  }

  /** Neighbours, with the structures that begin and end among them. */
  private sequence({ children, local }: XmlElement, runProperties: XmlElement | undefined): void {
    const items = children.flatMap((node) => this.part.items(node));
    this.runProperties = runProperties?.toString() ?? "";
    this.isAmongShapes = local === "spTree" || local === "grpSp";
    const end = this.block(items, 0, undefined);
    const left = markAt(items, end);
    if (left) throw unmatched(left);
  }

  private runProperties = "";
  /** Whether what stands here are shapes, each in a place of its own. */
  private isAmongShapes = false;
  /** Whether the paragraph holds other text than marks. */
  private isInText = false;

  /** Writes items up to what ends the structure that is open; returns where that stands. */
  private block(items: readonly Item[], from: number, open: PlacedStructure | undefined): number {
    let index = from;
    let plain: XmlNode[] = [];
    const flush = (): void => {
      this.nodes(plain);
      plain = [];
    };
    for (; index < items.length; index++) {
      const item = items[index];
      if (item.kind === "node") {
        plain.push(item.node);
        continue;
      }
      const { structure } = item.mark;
      if (structure.kind === "end" || structure.kind === "otherwise") break;
      flush();
      if (structure.kind === "table") {
        this.pieces.push({ kind: "table", structure, where: item.mark.where, holder: item.holder });
        continue;
      }
      index = this.structured(items, index, item.mark);
    }
    flush();
    if (index >= items.length && open) throw unended(open);
    return index;
  }

  private structured(items: readonly Item[], at: number, mark: PlacedStructure): number {
    const { structure, where } = mark;
    const inner = this.inner(structure.kind === "repeat" && structure.by === undefined ? structure.lines : undefined);
    inner.runProperties = this.runProperties;
    inner.isAmongShapes = this.isAmongShapes;
    let end = inner.block(items, at + 1, mark);
    if (structure.kind === "repeat") {
      const closing = markAt(items, end);
      if (closing?.structure.kind === "otherwise") throw unmatched(closing);
      const nodes = items.slice(at + 1, end).flatMap((item) => (item.kind === "node" ? [item.node] : []));
      this.pieces.push({
        kind: "repeat",
        structure,
        where,
        pieces: inner.pieces,
        restarts: this.listsToRestart(nodes),
        isColumns: mark.isColumns === true,
        box: this.isAmongShapes ? shapeBox(nodes, structure.across) : undefined,
      });
      return end;
    }
    const otherwise = this.inner();
    if (markAt(items, end)?.structure.kind === "otherwise") {
      end = otherwise.block(items, end + 1, mark);
      const last = markAt(items, end);
      if (last && last.structure.kind !== "end") throw unmatched(last);
    }
    this.pieces.push({ kind: "when", structure, where, pieces: inner.pieces, otherwise: otherwise.pieces });
    return end;
  }

  /**
   * Lists that count from the start in each repetition: those that stand wholly inside what repeats and begin behind
   * something else. A list that goes on outside, or is all that repeats, or begins what repeats, counts on.
   */
  private listsToRestart(nodes: readonly XmlNode[]): string[] {
    const inside = listItems(nodes);
    const whole = listItems([this.part.root]);
    const count = (items: readonly (string | undefined)[], list: string): number =>
      items.filter((one) => one === list).length;
    return [...new Set(inside)].filter(
      (list): list is string =>
        list !== undefined && list !== "0" && inside[0] !== list && count(inside, list) === count(whole, list),
    );
  }

  /** Writes nodes; adjoining rows with fields of the same lines repeat together, and what a bookmark spans may be filled. */
  private nodes(nodes: readonly XmlNode[]): void {
    let waiting: XmlElement[] = [];
    let waitingFor = "";
    const flush = (): void => {
      if (waiting.length === 0) return;
      const inner = this.inner(waitingFor);
      for (const row of waiting) inner.element(row);
      this.pieces.push({ kind: "lines", lines: waitingFor, pieces: inner.pieces });
      waiting = [];
    };
    for (let index = 0; index < nodes.length; index++) {
      const node = nodes[index];
      const lines =
        node.kind === "element" && node.local === "tr"
          ? linesOfRow(node, this.where, this.part, (field) => this.missing(field))
          : undefined;
      if (node.kind === "element" && lines !== undefined) {
        if (lines !== waitingFor) flush();
        waitingFor = lines;
        waiting.push(node);
        continue;
      }
      if (node.kind === "element") flush();
      const bookmarked =
        this.dialect.hasBookmarks && node.kind === "element" && node.local === "bookmarkStart"
          ? this.bookmark(nodes, index)
          : 0;
      index += bookmarked;
      if (bookmarked === 0) this.node(node);
    }
    flush();
  }

  private node(node: XmlNode): void {
    if (node.kind === "text") this.raw(node.raw);
    else this.element(node);
  }

  /** A bookmark over runs of one paragraph: filled where its name is a column. Returns how many nodes it took beside its first. */
  private bookmark(nodes: readonly XmlNode[], at: number): number {
    const start = nodes[at] as XmlElement;
    const attribute = (element: XmlElement, name: string): string | undefined =>
      [...element.attributes].find(([key]) => key.slice(key.indexOf(":") + 1) === name)?.[1];
    const name = attribute(start, "name") ?? "";
    if (name === "" || name.startsWith("_")) return 0;
    const id = attribute(start, "id");
    const end = nodes.findIndex(
      (node, index) =>
        index > at && node.kind === "element" && node.local === "bookmarkEnd" && attribute(node, "id") === id,
    );
    const spanned = nodes.slice(at + 1, end);
    const isPlain = spanned.every(
      (node) =>
        node.kind === "text" ||
        (node.local === "r" && !this.part.isTouched(node) && !node.child("fldChar")) ||
        node.local === "proofErr",
    );
    if (end < 0 || !isPlain) return 0;
    const inner = this.inner();
    for (const node of spanned) inner.node(node);
    const first = spanned.find((node): node is XmlElement => node.kind === "element" && node.local === "r");
    const where = say().document.bookmark({ where: this.where, name });
    this.raw(start.toString());
    this.pieces.push({
      kind: "bookmark",
      field: parseMark(`\`${name.replaceAll("_", " ")}\``, where),
      where,
      prefix: start.prefix,
      runProperties: first?.child("rPr")?.toString() ?? "",
      pieces: inner.pieces,
    });
    this.node(nodes[end]);
    return end - at;
  }

  /** The start tag of an element whose link leads to an address with marks: a sign stands for its relationship. */
  private withLink(element: XmlElement): string {
    const link = this.dialect.linkIn(element);
    if (!link) return element.open;
    const { where } = this;
    const pieces = cutMarks(link.address, where).map((piece) => {
      if (piece.kind === "text") return piece.text;
      const field = parseMark(piece.source, where);
      this.refuseLine(field, where);
      return { field, where };
    });
    const [before, behind] = element.withAttr(link.attribute, LINK_SIGN).open.split(LINK_SIGN);
    this.tag(before);
    this.pieces.push({ kind: "link", pieces, where });
    return behind;
  }

  /** A start tag; marks in its attributes are filled. */
  private tag(open: string): void {
    if (!hasMarks(open)) {
      this.raw(open);
      return;
    }
    for (const piece of cutMarks(open, this.where)) {
      if (piece.kind === "text") this.raw(piece.text);
      else {
        const field = parseMark(unescapeXml(piece.source), this.where);
        this.refuseLine(field, this.where);
        this.pieces.push({ kind: "attribute", field, where: this.where });
      }
    }
  }

  private text(element: XmlElement): void {
    const prefix = element.prefix;
    for (const piece of cutMarks(element.text, this.where)) {
      if (piece.kind === "text") this.raw(escapeXml(piece.text));
      else {
        const where = `${this.where}, mark {{ ${piece.source} }}`;
        const field = parseMark(piece.source, where);
        this.refuseLine(field, where);
        const { runProperties, isInText } = this;
        const isEmphasised = field.format === EMPHASIS;
        this.pieces.push({ kind: "field", field, where, prefix, runProperties, isEmphasised, isInText });
      }
    }
  }

  private refuseLine(field: Field, where: string): void {
    const [lines] = this.missing(field);
    if (lines === undefined) return;
    throw new CorbixError("BAD_MARK", say().document.cannotFillFieldHereStands({ lines }), {
      where,
      advice: say().document.putRowTableBetweenUse({ lines }),
    });
  }

  /** The lines of which a field needs a current one that there is not. */
  private missing({ ast }: Field): string[] {
    return [...neededLines(ast, this.among.further)].filter((name) => !this.among.inLines.has(name));
  }

  private picture(element: XmlElement): boolean {
    const node = this.dialect.drawing(element, this.where);
    if (!node) return false;
    if (node.kind === "picture") this.refuseLine(node.field, node.where);
    this.pieces.push(node);
    return true;
  }
}
