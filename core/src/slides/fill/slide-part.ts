/** What filling a slide, its notes or a chart changes beside the part's own text: pictures, charts, links, ids, places. */
import { CorbixError, suggestName } from "../../common/index.js";
import {
  type Dialect,
  drawCode,
  type FillingPart,
  fitInto,
  type MadeChart,
  type ShapeBox,
} from "../../marked/index.js";
import { escapeXml, OFFICE_RELATIONS, parseXml, type XmlElement } from "../../ooxml/index.js";
import { readImage } from "../../page/index.js";
import { say } from "../../words/index.js";
import { frameIn } from "../placeholders.js";
import type { DeckEditor } from "./deck-editor.js";

export interface AddedRelation {
  readonly id: string;
  readonly type: string;
  readonly target: string;
  readonly isExternal: boolean;
}

/** Numbers that an attribute has in elements of a name. */
function numbersOf(xml: string, element: string, attribute: string): number[] {
  const pattern = new RegExp(`^<${element}\\s[^>]*?\\b${attribute}="(\\d+)"`);
  const found: number[] = [];
  for (let at = xml.indexOf(`<${element}`); at >= 0; at = xml.indexOf(`<${element}`, at + 1)) {
    const [, number] = pattern.exec(xml.slice(at, xml.indexOf(">", at))) ?? [];
    if (number !== undefined) found.push(Number(number));
  }
  return found;
}

/** What has ids or numbers of its own. */
const OWN_NUMBERS = ["cNvPr", "a16:"];

const sumOf = (numbers: readonly number[]): number => numbers.reduce((sum, one) => sum + one, 0);

export class SlidePart implements FillingPart {
  readonly relations: AddedRelation[] = [];
  /** Relationships that nothing goes by any more. */
  readonly dropped = new Set<string>();
  private nextId: number | undefined;
  readonly signs = OWN_NUMBERS;
  /** How far shapes reach beyond the slide, in the file's units. */
  private beyond = 0;

  constructor(
    private readonly owner: DeckEditor,
    /** The part it was, and the one it becomes. */
    private readonly source: string,
    readonly name: string,
    readonly dialect: Dialect,
  ) {}

  get reachesBeyond(): boolean {
    return this.beyond > 0;
  }

  /** Drawings of repeated text have ids of their own, and what refers to them in the same repetition follows (20.1.2.2.8). */
  again(xml: string): string {
    // Most of what repeats is rows of tables, which have neither.
    const drawn = xml.includes("cNvPr") ? this.withOwnIds(xml) : xml;
    if (!xml.includes("a16:")) return drawn;
    // Rows of a table have numbers of their own too ([MS-ODRAWXML] 2.5).
    return drawn.replace(
      /(<a16:(?:rowId|colId)\b[^>]*?\sval=")\d+"/g,
      (_, start: string) => `${start}${this.freshId()}"`,
    );
  }

  private withOwnIds(xml: string): string {
    const ids = new Map<string, string>();
    const own = xml.replace(/(<(?:\w+:)?cNvPr\b[^>]*?\sid=")(\d+)"/g, (_, start: string, id: string) => {
      const fresh = String(this.freshId());
      ids.set(id, fresh);
      return `${start}${fresh}"`;
    });
    return own.replace(
      /(<(?:\w+:)?(?:stCxn|endCxn)\b[^>]*?\sid=")(\d+)"/g,
      (_, start: string, id: string) => `${start}${ids.get(id) ?? id}"`,
    );
  }

  private freshId(): number {
    if (this.nextId === undefined) {
      const ids = [...this.owner.opened.getText(this.source).matchAll(/<(?:\w+:)?cNvPr\b[^>]*?\sid="(\d+)"/g)];
      this.nextId = Math.max(1, ...ids.map((match) => Number(match[1]))) + 1;
    }
    return this.nextId++;
  }

  onNewPage(xml: string): string {
    return xml;
  }

  /** A table whose columns were repeated is as wide as it was, one whose rows were as high as they are. */
  table(xml: string, heads: number | undefined): string {
    const made = this.sizedTable(xml);
    if (heads === undefined) return made;
    const [start, end] = [made.search(/<a:tbl[\s>]/), made.lastIndexOf("</a:tbl>")];
    if (start >= 0 && end > start) this.owner.heads.set(made.slice(start, end + "</a:tbl>".length), heads);
    return made;
  }

  private sizedTable(xml: string): string {
    const frame = /<(?:\w+:)?xfrm\b[\s\S]*?<\/(?:\w+:)?xfrm>/.exec(xml)?.[0];
    const extent = frame === undefined ? undefined : /<(?:\w+:)?ext\b[^>]*>/.exec(frame)?.[0];
    const [, prefix] = /<((?:\w+:)?)tbl\b/.exec(xml) ?? [];
    if (extent === undefined || prefix === undefined) return xml;
    // No table stands in another (21.1.3.16): rows and columns found in the text are its own.
    const widths = numbersOf(xml.slice(0, xml.indexOf(`</${prefix}tblGrid>`)), `${prefix}gridCol`, "w");
    const total = sumOf(widths);
    const width = Number(/\bcx="(\d+)"/.exec(extent)?.[1] ?? total);
    const height = Math.max(sumOf(numbersOf(xml, `${prefix}tr`, "h")), 1);
    let made = xml.replace(extent, () => extent.replace(/\bcy="[^"]*"/, `cy="${height}"`));
    // Only a table that has become wider than its frame is brought back into it.
    if (total <= width * 1.02 || width <= 0) return made;
    let at = 0;
    made = made.replace(/(<(?:\w+:)?gridCol\b[^>]*?\sw=")(\d+)"/g, (_, start: string) => {
      const own = Math.floor((widths[at++] / total) * width);
      return `${start}${own}"`;
    });
    return made;
  }

  /** A picture with another in its frame; without a value there is none. */
  picture({ xml, code, where }: Parameters<FillingPart["picture"]>[0], text: string): string {
    if (text === "") return "";
    const described = xml.replace(
      /(<(?:\w+:)?cNvPr\b[^>]*?\sdescr=")[^"]*"/,
      (_, open: string) => `${open}${escapeXml(code ? text : text.replace(/\.\w+$/, ""))}"`,
    );
    const bytes = code ? this.code(code, text, where) : this.owner.namedPicture(text, where);
    if (!bytes) return described;
    const image = readImage(bytes);
    if (typeof image === "string")
      throw new CorbixError("BAD_MARK", say().document.cannotUsePicture({ text, image }), { where });
    const id = this.relate("image", this.owner.media(bytes));
    const placed = described
      .replace(/(<a:blip\b[^>]*?\sr:embed=")[^"]*"/, (_, open: string) => `${open}${id}"`)
      .replace(
        /<a:blip\b(?![^>]*\sr:embed=)([^>]*?)(\/?)>/,
        (_, rest: string, end: string) => `<a:blip r:embed="${id}"${rest}${end}>`,
      );
    return fittedPicture(placed, image);
  }

  private code(code: "qr" | "barcode", text: string, where: string): Uint8Array {
    try {
      return drawCode(code, text);
    } catch (cause) {
      throw new CorbixError("BAD_MARK", say().document.cannotDrawTooLongCharacters({ text: text.slice(0, 40), code }), {
        where,
        cause,
      });
    }
  }

  chart(xml: string, change: (chart: XmlElement) => MadeChart): string {
    const id = /<c:chart\b[^>]*?\sr:id="([^"]*)"/.exec(xml)?.[1];
    const relation = this.owner.opened.relationships(this.source).find((one) => one.id === id);
    if (!relation || !this.owner.opened.has(relation.target)) return xml;
    const own = this.relate("chart", this.owner.chart(relation.target, change));
    this.dropped.add(relation.id);
    // What was said to those who do not see it was the mark.
    return xml
      .replace(/(<c:chart\b[^>]*?\sr:id=")[^"]*"/, (_, open: string) => `${open}${own}"`)
      .replace(/(<(?:\w+:)?cNvPr\b[^>]*?\sdescr=")[^"]*"/, '$1"');
  }

  link(address: string): string {
    return this.relate("hyperlink", address, true);
  }

  private relate(type: string, target: string, isExternal = false): string {
    const same = this.relations.find((one) => one.target === target && one.isExternal === isExternal);
    if (same && type !== "chart") return same.id;
    const id = `corbix${this.relations.length + 1}`;
    this.relations.push({ id, type: `${OFFICE_RELATIONS}/${type}`, target, isExternal });
    return id;
  }

  /** Shapes beside those before them: in rows to the right, or in columns downwards, as many as have room. */
  moved(xml: string, index: number, box: ShapeBox): string {
    const { width, height } = this.owner.size;
    const gap = Math.max(76_200, Math.round(Math.min(box.width, box.height) * 0.08));
    const [stepX, stepY] = [box.width + gap, box.height + gap];
    const room = (length: number, from: number, margin: number, step: number): number =>
      Math.max(1, Math.floor((length - margin - from + gap) / step));
    const perLine = box.across
      ? room(width, box.x, box.x, stepX)
      : room(height, box.y, Math.min(box.y, height * 0.06), stepY);
    const [along, line] = [index % perLine, Math.floor(index / perLine)];
    const [dx, dy] = box.across ? [along * stepX, line * stepY] : [line * stepX, along * stepY];
    this.beyond = Math.max(this.beyond, box.x + dx + box.width - width, box.y + dy + box.height - height);
    return movedShapes(xml, dx, dy);
  }
}

/** Shapes moved: their own places, not those of members of groups. */
function movedShapes(xml: string, dx: number, dy: number): string {
  const root = parseXml(`<x>${xml}</x>`).root;
  return root.children
    .map((child) => {
      const off = child.kind === "element" ? frameIn(child)?.child("off") : undefined;
      if (child.kind !== "element" || !off) return child.kind === "element" ? child.toString() : child.raw;
      const moved = off
        .withAttr("x", String(Number(off.attr("x")) + dx))
        .withAttr("y", String(Number(off.attr("y")) + dy));
      const text = child.toString();
      // The shape's own place is the first that is written in it.
      return text.replace(off.open, () => moved.open);
    })
    .join("");
}

/** A picture without distortion: wholly in a plain frame, in its middle; as much as fits in one that crops or has an outline of its own. */
function fittedPicture(xml: string, image: { readonly width: number; readonly height: number }): string {
  const place =
    /<a:off\b[^>]*?\sx="(-?\d+)"[^>]*?\sy="(-?\d+)"[^>]*?\/>\s*<a:ext\b[^>]*?\scx="(\d+)"[^>]*?\scy="(\d+)"[^>]*?\/>/.exec(
      xml,
    );
  if (!place) return xml.replace(/<a:srcRect\b[^>]*\/>/, "<a:srcRect/>");
  const [x, y, width, height] = place.slice(1).map(Number);
  const preset = /<a:prstGeom\b[^>]*?\sprst="(\w+)"/.exec(xml)?.[1] ?? "rect";
  const isCropped = /<a:srcRect\b[^>]*?\s[ltrb]="/.test(xml) || preset !== "rect" || xml.includes("<a:custGeom");
  if (!isCropped) {
    const fitted = fitInto(image, { width, height });
    const [left, top] = [x + Math.round((width - fitted.width) / 2), y + Math.round((height - fitted.height) / 2)];
    return xml.replace(place[0], `<a:off x="${left}" y="${top}"/><a:ext cx="${fitted.width}" cy="${fitted.height}"/>`);
  }
  const scale = Math.max(width / image.width, height / image.height);
  const cut = (length: number, frame: number): number =>
    Math.max(0, Math.round(((length * scale - frame) / (length * scale) / 2) * 100_000));
  const [across, down] = [cut(image.width, width), cut(image.height, height)];
  const sides = `<a:srcRect l="${across}" t="${down}" r="${across}" b="${down}"/>`;
  if (/<a:srcRect\b[^>]*\/>/.test(xml)) return xml.replace(/<a:srcRect\b[^>]*\/>/, sides);
  return xml.replace(/(<a:blip\b[^>]*\/>|<a:blip\b[\s\S]*?<\/a:blip>)/, (blip) => blip + sides);
}

/** A picture by its file name. A text that is no name of one is an alternative text, and the picture stays. */
export function pictureNamed(
  text: string,
  pictures: ReadonlyMap<string, Uint8Array>,
  where: string,
): Uint8Array | undefined {
  if (!/\.(?:png|jpe?g)$/i.test(text)) return undefined;
  const found = pictures.get(text) ?? [...pictures].find(([name]) => name.toLowerCase() === text.toLowerCase())?.[1];
  if (found) return found;
  throw new CorbixError("BAD_MARK", say().document.cannotFindPicture({ text }), {
    where,
    advice: say().document.putBesideTemplates({ suggestion: suggestName(text, [...pictures.keys()], "pictures") }),
  });
}
