/** What filling made too long is made to fit: text that shrinks or whose frame grows, tables that go on on further slides. */
import { known } from "../../common/index.js";
import { type FontLibrary, type Fonts, FontWatch } from "../../fonts/index.js";
import { type OoxmlPackage, type XmlElement, type XmlNode, xmlElement } from "../../ooxml/index.js";
import { Deck, DeckEditor, type DeckSlide, isTitle, type MadeSlide, placeholderOf } from "../../slides/index.js";
import { say } from "../../words/index.js";
import { EMU_PER_PT, geometryOf, outlinesOf } from "../drawing/geometry.js";
import { placementOf } from "../drawing/placement.js";
import { bodyLook, layBody } from "../drawing/text-body.js";
import { DeckLooks, type SlideLooks } from "./slide-looks.js";
import { slideTableRows } from "./slide-table.js";
import { tableStylesOf } from "./table-styles.js";

/** What is known of how a deck came about. */
export interface FitReading {
  /** What it was filled from: what is as it was there stays as it is. */
  readonly before?: OoxmlPackage | undefined;
  /** How many rows head a table, by its text; where nothing is said, what the table says of its first row. */
  readonly heads?: ReadonlyMap<string, number> | undefined;
}

/** A deck whose text and tables fit. */
export function fitDeck(
  opened: OoxmlPackage,
  fonts: FontLibrary,
  { before, heads = new Map() }: FitReading = {},
): FittedDeck {
  return new DeckFitter(opened, new FontWatch(fonts), before, heads).fit();
}

export interface FittedDeck {
  readonly package: OoxmlPackage;
  /** Slides on which tables go on, by the slide they stand behind; ids of the presentation. */
  readonly added: ReadonlyMap<number, readonly number[]>;
}

/** Blank left below a table, as a share of the slide's height. */
const FOOT = 0.04;

class DeckFitter {
  private readonly editor: DeckEditor;
  private readonly deck: Deck;
  private readonly looks: DeckLooks;
  private readonly styles;
  /** Texts and tables as they were. */
  private readonly untouched: DeckContents;

  constructor(
    private readonly opened: OoxmlPackage,
    private readonly fonts: Fonts,
    before: OoxmlPackage | undefined,
    private readonly heads: ReadonlyMap<string, number>,
  ) {
    this.editor = new DeckEditor(opened, new Map());
    this.deck = this.editor.deck;
    this.looks = new DeckLooks(this.deck);
    this.styles = tableStylesOf(opened);
    this.untouched = before ? contentsOf(before) : NO_CONTENTS;
  }

  fit(): FittedDeck {
    const made: MadeSlide[] = [];
    const sections = this.editor.sections();
    for (const slide of this.deck.slides) {
      const section = sections.keyOf(slide);
      const own: MadeSlide = { source: slide, names: new Map([[slide.part, slide.part]]), section };
      made.push(own, ...this.slide(slide).map((names): MadeSlide => ({ source: slide, names, section })));
    }
    this.editor.arrange(made, sections.made);
    const fitted = this.editor.finish();
    return { package: fitted, added: addedTo(fitted, made) };
  }

  /** Fits a slide, and gives the parts of those on which its table goes on. */
  private slide(slide: DeckSlide): ReadonlyMap<string, string>[] {
    const root = this.opened.readXml(slide.part);
    const looks = this.looks.of(slide.part);
    const fitted = this.texts(root, looks);
    const long = this.longTable(fitted, looks);
    if (!long) {
      if (fitted !== root) this.write(slide.part, slide.part, fitted);
      return [];
    }
    const { frame, pieces } = long;
    const names: ReadonlyMap<string, string>[] = [];
    pieces.forEach((rows, index) => {
      const table = withRows(frame, rows.rows, rows.height);
      const label = say().layout.partOf({ part: index + 1, parts: pieces.length });
      const page = numbered(replaced(index === 0 ? fitted : onlyTable(fitted, frame), frame, table), label);
      if (index === 0) {
        this.write(slide.part, slide.part, page);
        return;
      }
      const own = new Map([[slide.part, this.editor.newName(slide.part)]]);
      const part = known(own, slide.part);
      this.editor.copy(own);
      this.write(slide.part, part, page);
      this.editor.relate(slide.part, part, own, [], this.leftBehind(slide.part, page));
      names.push(own);
    });
    return names;
  }

  /** Relationships of a slide that one on which its table goes on does not have. */
  private leftBehind(part: string, page: XmlElement): ReadonlySet<string> {
    const used = page.toString();
    return new Set(
      this.opened
        .relationships(part)
        .filter(({ id, type }) => type !== "slideLayout" && !used.includes(`"${id}"`))
        .map(({ id }) => id),
    );
  }

  private write(from: string, to: string, root: XmlElement): void {
    const text = this.opened.getText(from);
    this.editor.set(to, text.slice(0, text.indexOf(this.opened.readXml(from).open)) + root.toString());
  }

  /** The slide with the sizes of its texts and frames set right. */
  private texts(element: XmlElement, looks: SlideLooks): XmlElement {
    if (element.local === "sp") return this.text(element, looks) ?? element;
    if (!HOLDING_TEXTS.has(element.local)) return element;
    let changed = false;
    const children = element.children.map((child): XmlNode => {
      if (child.kind !== "element") return child;
      const made = this.texts(child, looks);
      if (made !== child) changed = true;
      return made;
    });
    return changed ? element.withChildren(children) : element;
  }

  private text(shape: XmlElement, looks: SlideLooks): XmlElement | undefined {
    const body = shape.child("txBody");
    const properties = body?.child("bodyPr");
    if (!body || !properties || holdsText(this.untouched, body)) return undefined;
    const frame = looks.frameOf(shape);
    const sources = looks.text(shape, 0);
    const look = bodyLook([...sources.bodies, properties]);
    if (!frame || look.fit === "none") return undefined;
    const { box } = placementOf(frame);
    const { geometry } = geometryOf(shape.child("spPr"));
    const { room } = outlinesOf(geometry, box.width, box.height);
    const site = { fonts: this.fonts, theme: looks.theme, node: { role: "P", children: [] } };
    const laid = layBody(body, room, sources, site, true);
    if (look.fit === "shrink") {
      if (laid.scale === look.scale && laid.lineCut === look.lineCut) return undefined;
      return withBody(shape, body, properties, autofit(laid.scale, laid.lineCut));
    }
    // Only a frame that has become too small grows; editors make it smaller when its text is edited.
    const needed = laid.needed + (box.height - room.height);
    if (needed <= box.height + 0.5) return undefined;
    const grown = needed - box.height;
    const up = look.anchor === "b" ? grown : look.anchor === "ctr" ? grown / 2 : 0;
    return withFrame(shape, frame, -up, grown);
  }

  /** The first table that reaches below where it may, with its rows as they fit on one slide after the other. */
  private longTable(
    root: XmlElement,
    looks: SlideLooks,
  ): { frame: XmlElement; pieces: { rows: readonly XmlElement[]; height: number }[] } | undefined {
    const tree = root.path("cSld", "spTree");
    const foot = this.footOf(tree?.elements() ?? [], looks);
    for (const frame of tree?.elements("graphicFrame") ?? []) {
      const table = frame.path("graphic", "graphicData", "tbl");
      const place = looks.frameOf(frame);
      if (!table || !place || holdsTable(this.untouched, table)) continue;
      const { box } = placementOf(place);
      const heights = slideTableRows(table, box, {
        fonts: this.fonts,
        theme: looks.theme,
        node: { role: "Table", children: [] },
        style: this.styles.get(table.path("tblPr", "tableStyleId")?.text ?? ""),
        sources: looks.text(table, 0),
        fill: { theme: looks.theme },
      });
      const rows = table.elements("tr");
      const room = foot - box.y;
      if (heights.reduce((sum, height) => sum + height, 0) <= room + 1) continue;
      const headed = this.heads.get(table.toString()) ?? (isHeaded(table) ? 1 : 0);
      const pieces = cutRows(rows, heights, room, headed);
      if (pieces.length > 1) return { frame, pieces };
    }
    return undefined;
  }

  /** How far down a table may reach: above what stands at the foot of the slide. */
  private footOf(shapes: readonly XmlElement[], looks: SlideLooks): number {
    const { height } = this.deck;
    const tops = shapes.flatMap((shape) => {
      const holder = placeholderOf(shape);
      const frame = holder && ["dt", "ftr", "sldNum"].includes(holder.type) ? looks.frameOf(shape) : undefined;
      const top = frame && placementOf(frame).box.y;
      return top !== undefined && top > height * 0.7 ? [top - 2] : [];
    });
    return Math.min(height * (1 - FOOT), ...tops);
  }
}

/** Elements in which shapes with text stand. */
const HOLDING_TEXTS: ReadonlySet<string> = new Set([
  "sld",
  "notes",
  "cSld",
  "spTree",
  "grpSp",
  "AlternateContent",
  "Choice",
  "Fallback",
]);

function addedTo(fitted: OoxmlPackage, slides: readonly MadeSlide[]): ReadonlyMap<number, readonly number[]> {
  const further = slides.filter(({ source, names }) => names.get(source.part) !== source.part);
  if (further.length === 0) return new Map();
  const ids = new Map(new Deck(fitted).slides.map(({ part, id }) => [part, id]));
  const added = new Map<number, number[]>();
  for (const { source, names } of further) {
    const id = ids.get(names.get(source.part) ?? "");
    if (id !== undefined) added.set(source.id, [...(added.get(source.id) ?? []), id]);
  }
  return added;
}

/** Texts, and tables by how many rows they have, as they are written. */
interface DeckContents {
  readonly texts: ReadonlySet<string>;
  readonly tables: ReadonlyMap<number, ReadonlySet<string>>;
}

const NO_CONTENTS: DeckContents = { texts: new Set(), tables: new Map() };
const contents = new WeakMap<OoxmlPackage, DeckContents>();

function holdsText({ texts }: DeckContents, body: XmlElement): boolean {
  return texts.size > 0 && texts.has(body.toString());
}

function holdsTable({ tables }: DeckContents, table: XmlElement): boolean {
  return tables.get(table.elements("tr").length)?.has(table.toString()) ?? false;
}

/** What texts and tables of a deck are, to know what filling has left as it was. */
function contentsOf(opened: OoxmlPackage): DeckContents {
  let found = contents.get(opened);
  if (!found) {
    const roots = new Deck(opened).slides.map(({ part }) => opened.readXml(part));
    const tables = new Map<number, Set<string>>();
    for (const table of roots.flatMap((root) => root.descendants("tbl"))) {
      const rows = table.elements("tr").length;
      tables.set(rows, (tables.get(rows) ?? new Set()).add(table.toString()));
    }
    const texts = roots.flatMap((root) => root.descendants("txBody")).map((one) => one.toString());
    found = { texts: new Set(texts), tables };
    contents.set(opened, found);
  }
  return found;
}

function isHeaded(table: XmlElement): boolean {
  const value = table.child("tblPr")?.attr("firstRow");
  return value === "1" || value === "true";
}

/** Rows in pieces no higher than the room, the heading in each; cells over several rows are not cut. */
function cutRows(
  rows: readonly XmlElement[],
  heights: readonly number[],
  room: number,
  headed: number,
): { rows: readonly XmlElement[]; height: number }[] {
  const head = heights.slice(0, headed).reduce((sum, height) => sum + height, 0);
  const pieces: { rows: XmlElement[]; height: number }[] = [];
  let open: { rows: XmlElement[]; height: number } = { rows: [...rows.slice(0, headed)], height: head };
  for (let at = headed; at < rows.length; ) {
    let next = at + 1;
    while (
      next < rows.length &&
      rows[next].elements("tc").some((cell) => /^(?:1|true)$/.test(cell.attr("vMerge") ?? ""))
    )
      next++;
    const height = heights.slice(at, next).reduce((sum, one) => sum + one, 0);
    if (open.height + height > room && open.rows.length > headed) {
      pieces.push(open);
      open = { rows: [...rows.slice(0, headed)], height: head };
    }
    open.rows.push(...rows.slice(at, next));
    open.height += height;
    at = next;
  }
  pieces.push(open);
  return pieces;
}

function autofit(scale: number, lineCut: number): XmlElement {
  const share = (value: number): string => String(Math.round(value * 100_000));
  return xmlElement("a:normAutofit", {
    ...(scale < 1 ? { fontScale: share(scale) } : {}),
    ...(lineCut > 0 ? { lnSpcReduction: share(lineCut) } : {}),
  });
}

function withBody(shape: XmlElement, body: XmlElement, properties: XmlElement, fit: XmlElement): XmlElement {
  const rest = properties.elements().filter((one) => !/^(?:no|norm|sp)Aut/.test(one.local));
  // Behind what warps the text, before what gives it depth (21.1.2.1.1).
  const at = rest.findIndex((one) => one.local !== "prstTxWarp");
  const children = at < 0 ? [...rest, fit] : [...rest.slice(0, at), fit, ...rest.slice(at)];
  const own = properties.withChildren(children);
  const made = body.withChildren(body.children.map((child) => (child === properties ? own : child)));
  return shape.withChildren(shape.children.map((child) => (child === body ? made : child)));
}

/** A shape whose frame is higher, written into it where it was only inherited. */
function withFrame(shape: XmlElement, frame: XmlElement, dy: number, grown: number): XmlElement {
  const properties = shape.child("spPr");
  if (!properties) return shape;
  const moved = frame.withChildren(
    frame.children.map((child): XmlNode => {
      if (child.kind !== "element") return child;
      const value = (name: string, by: number): string =>
        String(Math.round(Number(child.attr(name) ?? 0) + by * EMU_PER_PT));
      if (child.local === "off") return child.withAttr("y", value("y", dy));
      return child.local === "ext" ? child.withAttr("cy", value("cy", grown)) : child;
    }),
  );
  const rest = properties.children.filter((child) => child.kind !== "element" || child.local !== "xfrm");
  const own = properties.withChildren([moved, ...rest]);
  return shape.withChildren(shape.children.map((child) => (child === properties ? own : child)));
}

function withRows(frame: XmlElement, rows: readonly XmlElement[], height: number): XmlElement {
  const change = (element: XmlElement): XmlElement => {
    if (element.local === "tbl") {
      const first = element.children.findIndex((child) => child.kind === "element" && child.local === "tr");
      const others = element.children.filter((child) => child.kind !== "element" || child.local !== "tr");
      return element.withChildren([...others.slice(0, first), ...rows, ...others.slice(first)]);
    }
    if (element.local === "xfrm")
      return element.withChildren(
        element.children.map((child) =>
          child.kind === "element" && child.local === "ext"
            ? child.withAttr("cy", String(Math.round(height * EMU_PER_PT)))
            : child,
        ),
      );
    return element.withChildren(element.children.map((child) => (child.kind === "element" ? change(child) : child)));
  };
  return change(frame);
}

function replaced(root: XmlElement, old: XmlElement, made: XmlElement): XmlElement {
  return root.withChildren(
    root.children.map((child): XmlNode => {
      if (child.kind !== "element") return child;
      return child === old ? made : replaced(child, old, made);
    }),
  );
}

/** Of a slide on which a table goes on: its title, what stands at its foot, plain shapes; no other tables, charts, pictures. */
function onlyTable(root: XmlElement, frame: XmlElement): XmlElement {
  const tree = root.path("cSld", "spTree");
  if (!tree) return root;
  const kept = tree.children.filter((child) => {
    if (child.kind !== "element" || child === frame) return true;
    if (["graphicFrame", "pic", "grpSp", "AlternateContent"].includes(child.local)) return false;
    const holder = placeholderOf(child);
    // Text of other placeholders was said on the first.
    return !holder || isTitle(holder) || ["dt", "ftr", "sldNum"].includes(holder.type);
  });
  const page = replaced(root, tree, tree.withChildren(kept));
  // Animations tell of shapes that are not there.
  return page.withChildren(page.children.filter((child) => child.kind !== "element" || child.local !== "timing"));
}

/** The title with which part it is, behind its last words. */
function numbered(root: XmlElement, label: string): XmlElement {
  const title = root.descendants("sp").find((shape) => isTitle(placeholderOf(shape)));
  const run = title?.descendants("r").at(-1);
  const text = run?.child("t");
  if (!run || !text) return root;
  return replaced(
    root,
    text,
    text.withChildren([...text.children, { kind: "text", raw: ` (${label})`, text: ` (${label})` }]),
  );
}
