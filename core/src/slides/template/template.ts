/** A slide deck read for filling: its slides with their marks, what repeats them, and all other parts that hold marks. */
import type { Finding } from "../../common/index.js";
import { type Env, type LinesColumns, type Scope, showsRows } from "../../expression/index.js";
import {
  type BoundNode,
  bindPieces,
  cutPart,
  type Dialect,
  fillPieces,
  isConstant,
  marksIn,
  preparePart,
  type TableMaker,
  type TemplateNode,
} from "../../marked/index.js";
import { type OoxmlPackage, parseXml, type XmlElement } from "../../ooxml/index.js";
import {
  type BoundStructure,
  type BoundText,
  bindStructure,
  hasMarks,
  type PlacedMark,
  parseTextTemplate,
  repetitions,
} from "../../template/index.js";
import { say } from "../../words/index.js";
import { Deck, type DeckSlide, openDeck } from "../deck.js";
import { ChartBook, type FilledChart } from "../fill/chart-book.js";
import { DeckEditor, type MadeSlide } from "../fill/deck-editor.js";
import { bindDeckTable, deckTableLooks } from "../fill/line-table.js";
import { SlidePart } from "../fill/slide-part.js";
import type { PeriodDeck } from "../join/grow-deck.js";
import { Placeholders, rootsOf } from "../placeholders.js";
import { arrangeSlides, linesAround, refuseSlideMark, type SlideNode, takeSlideMarks } from "./slide-structures.js";
import { chartText, slideText } from "./slide-text.js";

export interface FilledDeck {
  /** The filled package; `toBytes()` gives the file. */
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
  /** How many rows head a table that was filled, by its text. */
  readonly heads: ReadonlyMap<string, number>;
}

interface MarkedPart {
  readonly name: string;
  readonly where: string;
  readonly head: string;
  readonly tail: string;
  readonly dialect: Dialect;
  readonly pieces: readonly TemplateNode[];
  readonly frameOf: (shape: XmlElement) => XmlElement | undefined;
}

interface MarkedSlide {
  readonly slide: DeckSlide;
  readonly parts: readonly MarkedPart[];
  /** Charts whose workbooks have marks, by the parts of the charts and of the workbooks. */
  readonly charts: readonly { readonly chart: string; readonly workbook: string; readonly book: ChartBook }[];
}

type Pictures = ReadonlyMap<string, Uint8Array>;
const NO_PICTURES: Pictures = new Map();

/** Properties whose text may hold marks: ECMA-376 part 2, 11, and part 1, 22.2 and 22.3. */
const PROPERTIES: ReadonlySet<string> = new Set([
  "title",
  "subject",
  "creator",
  "description",
  "keywords",
  "category",
  "contentStatus",
  "Company",
  "Manager",
  "lpwstr",
]);

/** A deck read for filling: once for all groups and runs. */
export class SlideTemplate {
  private constructor(
    readonly opened: OoxmlPackage,
    private readonly deck: Deck,
    private readonly slides: readonly MarkedSlide[],
    private readonly others: readonly MarkedPart[],
    private readonly nodes: readonly SlideNode[],
  ) {}

  /** Throws `NOT_A_DECK`, `BROKEN_PACKAGE`, `BROKEN_XML`, or `BAD_MARK` with slide and shape. */
  static read(
    bytes: Uint8Array,
    where: string,
    { further = [] }: { readonly further?: readonly string[] | undefined } = {},
  ): SlideTemplate {
    const opened = openDeck(bytes, where);
    return new DeckReader(opened, where, further).read(
      (deck, slides, others, nodes) => new SlideTemplate(opened, deck, slides, others, nodes),
    );
  }

  /** Every mark with its place. */
  get marks(): PlacedMark[] {
    const short = (text: string): string => text.slice(this.opened.where.length + 2).replace(/, mark \{\{[\s\S]*$/, "");
    const inParts = (parts: readonly MarkedPart[]): PlacedMark[] =>
      parts.flatMap((part) => marksIn(part.pieces).map((mark) => ({ ...mark, where: short(mark.where) })));
    const ofSlides = (nodes: readonly SlideNode[]): PlacedMark[] =>
      nodes.flatMap((node): PlacedMark[] => {
        if (node.kind === "slide") {
          const { parts, charts } = this.slides[node.index];
          return [
            ...inParts(parts),
            ...charts.flatMap(({ book, chart }) =>
              book.marks.map((mark) => ({
                ...mark,
                where: `${short(`${this.opened.where}, ${chart}`)}, ${mark.where}`,
              })),
            ),
          ];
        }
        const { structure, where } = node.mark;
        const fields =
          structure.kind === "repeat"
            ? [structure.where, structure.by]
            : structure.kind === "when"
              ? [structure.test]
              : [];
        const lines = structure.kind === "repeat" ? { lines: structure.lines } : {};
        const own = {
          where: short(where),
          source: structure.source,
          ...lines,
          fields: fields.filter((one) => one !== undefined),
        };
        return [own, ...ofSlides(node.nodes), ...(node.kind === "when" ? ofSlides(node.otherwise) : [])];
      });
    return [...ofSlides(this.nodes), ...inParts(this.others)];
  }

  /** Whether single rows of the given lines stand in it. */
  shows(lines: LinesColumns): boolean {
    return this.marks.some(
      (mark) =>
        ("lines" in mark && typeof mark.lines === "string" && Object.hasOwn(lines, mark.lines)) ||
        mark.fields.some((field) => showsRows(field.ast, lines)),
    );
  }

  /** Checks every field against what a report offers. Throws `BAD_EXPRESSION` with slide, shape and mark. */
  bind(scope: Scope, pictures: Pictures = NO_PICTURES): BoundDeck {
    const looks = deckTableLooks(this.deck);
    const bindPart = (part: MarkedPart): BoundPart => {
      const tables: TableMaker = (piece, within) => bindDeckTable(piece, within, looks, part.frameOf);
      return { ...part, pieces: bindPieces(part.pieces, scope, tables) };
    };
    const bindNode = (node: SlideNode): BoundSlideNode => {
      if (node.kind === "slide") return node;
      const bound = bindStructure(node.mark.structure, scope, node.mark.where);
      const nodes = node.nodes.map(bindNode);
      return node.kind === "repeat"
        ? { kind: "repeat", bound, nodes }
        : { kind: "when", bound, nodes, otherwise: node.otherwise.map(bindNode) };
    };
    return new BoundDeck(
      this.opened,
      this.slides.map(({ slide, parts, charts }) => ({
        slide,
        parts: parts.map(bindPart),
        charts: charts.map((one) => ({ ...one, fill: one.book.bind(scope) })),
      })),
      this.others.map(bindPart).filter(({ pieces }) => !isConstant(pieces)),
      this.nodes.map(bindNode),
      this.deck.sections.map(({ name }) =>
        hasMarks(name) ? parseTextTemplate(name, say().slides.section({ name })).bind(scope) : undefined,
      ),
      pictures,
    );
  }
}

class DeckReader {
  private readonly deck: Deck;
  private readonly holders = new Placeholders();

  constructor(
    private readonly opened: OoxmlPackage,
    private readonly where: string,
    private readonly further: readonly string[],
  ) {
    this.deck = new Deck(opened);
  }

  read<T>(
    make: (deck: Deck, slides: readonly MarkedSlide[], others: readonly MarkedPart[], nodes: readonly SlideNode[]) => T,
  ): T {
    const editor = new DeckEditor(this.opened, NO_PICTURES);
    const owned = new Set<string>();
    const prepared = this.deck.slides.map((slide) => this.prepare(slide, editor, owned));
    const nodes = arrangeSlides(prepared.map(({ marks }) => marks));
    const lines = linesAround(nodes, prepared.length);
    const slides = prepared.map(({ slide, read, charts }, index) => ({
      slide,
      charts,
      parts: read.map((part) => part(lines[index])),
    }));
    const others = this.opened.names
      // Names of sections are filled where slides are put in order.
      .filter((name) => name.endsWith(".xml") && name !== this.opened.main && !owned.has(name))
      .filter((name) => mayBeFilled(this.opened.getText(name)))
      .map((name) => this.part(name, `${this.where}, ${name}`, this.dialectFor(name))([]));
    return make(this.deck, slides, others, nodes);
  }

  private prepare(
    slide: DeckSlide,
    editor: DeckEditor,
    owned: Set<string>,
  ): {
    slide: DeckSlide;
    marks: ReturnType<typeof takeSlideMarks>["marks"];
    read: readonly ((lines: readonly string[]) => MarkedPart)[];
    charts: MarkedSlide["charts"];
  } {
    const where = say().layout.slideIn({ where: this.where, slide: slide.number });
    const marks: ReturnType<typeof takeSlideMarks>["marks"][number][] = [];
    const read: ((lines: readonly string[]) => MarkedPart)[] = [];
    const charts: MarkedSlide["charts"][number][] = [];
    for (const name of editor.ownParts(slide.part)) {
      owned.add(name);
      if (!name.endsWith(".xml")) continue;
      const type = this.opened.contentType(name) ?? "";
      if (/drawingml\.chart\+xml$/.test(type)) {
        const book = this.chartBook(name, where);
        if (book) charts.push(book);
        else if (mayBeFilled(this.opened.getText(name)))
          read.push(this.part(name, say().slides.chartIn({ where }), chartText()));
        continue;
      }
      const isMarked = mayBeFilled(this.opened.getText(name));
      const links = this.linksOf(name);
      if (!isMarked && links.size === 0) {
        if (name === slide.part) read.push(this.part(name, where, slideText()));
        continue;
      }
      const isNotes = /notesSlide\+xml$/.test(type);
      const own = isNotes ? say().slides.notesIn({ where }) : where;
      const roots = rootsOf(this.deck, name).map((part) => this.opened.getXml(part));
      const frameOf = (shape: XmlElement): XmlElement | undefined => this.holders.frameOf(shape, roots);
      const dialect = slideText({ links, frameOf });
      const document = parseXml(this.opened.getText(name), `${this.where}, ${name}`);
      const taken = takeSlideMarks(preparePart(document.root, own, dialect), dialect.isShown);
      marks.push(...taken.marks);
      if (taken.marks.length > 0 && name !== slide.part && !isNotes) throw refuseSlideMark(taken.marks[0]);
      read.push((lines) => ({
        name,
        where: own,
        head: document.head,
        tail: document.tail,
        dialect,
        frameOf,
        pieces: cutPart(taken.part, own, { dialect, further: this.further, inLines: lines }),
      }));
    }
    return { slide, marks, read, charts };
  }

  /** External addresses with marks in them, by relationship; editors write braces of an address as codes. */
  private linksOf(part: string): ReadonlyMap<string, string> {
    return new Map(
      this.opened
        .relationships(part)
        .filter((relation) => relation.external)
        .flatMap(({ id, target }): [string, string][] => {
          const plain = /%7B%7B/i.test(target) ? decodeURIComponent(target) : target;
          return hasMarks(plain) ? [[id, plain]] : [];
        }),
    );
  }

  private chartBook(chart: string, where: string): MarkedSlide["charts"][number] | undefined {
    const workbook = this.opened
      .relationships(chart)
      .find(({ type, external }) => type === "package" && !external)?.target;
    if (workbook === undefined || !/\.xlsx$/i.test(workbook) || !this.opened.has(workbook)) return undefined;
    const book = ChartBook.read(
      this.opened.getText(chart),
      this.opened.getBytes(workbook),
      say().slides.chartIn({ where }),
      this.further,
    );
    return book && { chart, workbook, book };
  }

  private dialectFor(name: string): Dialect {
    return name.startsWith("docProps/") ? { ...slideText(), texts: PROPERTIES } : slideText();
  }

  private part(name: string, where: string, dialect: Dialect): (lines: readonly string[]) => MarkedPart {
    return (lines) => {
      const document = parseXml(this.opened.getText(name), `${this.where}, ${name}`);
      const taken = takeSlideMarks(preparePart(document.root, where, dialect), dialect.isShown);
      if (taken.marks.length > 0) throw refuseSlideMark(taken.marks[0]);
      return {
        name,
        where,
        head: document.head,
        tail: document.tail,
        dialect,
        frameOf: () => undefined,
        pieces: cutPart(taken.part, where, { dialect, further: this.further, inLines: lines }),
      };
    };
  }
}

/** Marks are looked for in the text, since tags may stand between their braces. */
function mayBeFilled(source: string): boolean {
  return hasMarks(source) || /\{(?:<[^>]*>)+\{/.test(source);
}

interface BoundPart extends Omit<MarkedPart, "pieces"> {
  readonly pieces: readonly BoundNode[];
}

interface BoundSlide {
  readonly slide: DeckSlide;
  readonly parts: readonly BoundPart[];
  readonly charts: readonly {
    readonly chart: string;
    readonly workbook: string;
    readonly fill: (env: Env) => FilledChart;
  }[];
}

type BoundSlideNode =
  | { readonly kind: "slide"; readonly index: number }
  | { readonly kind: "repeat"; readonly bound: BoundStructure; readonly nodes: readonly BoundSlideNode[] }
  | {
      readonly kind: "when";
      readonly bound: BoundStructure;
      readonly nodes: readonly BoundSlideNode[];
      readonly otherwise: readonly BoundSlideNode[];
    };

/** A slide to be made: what counts for it, and which repetitions it stands in. */
interface Instance {
  readonly index: number;
  readonly env: Env;
  readonly path: readonly { readonly node: BoundSlideNode; readonly turn: number; readonly env: Env }[];
}

/** A template checked against a scope, ready to be filled many times. */
export class BoundDeck {
  constructor(
    /** The template as it was. */
    readonly opened: OoxmlPackage,
    private readonly slides: readonly BoundSlide[],
    private readonly others: readonly BoundPart[],
    private readonly nodes: readonly BoundSlideNode[],
    private readonly sectionNames: readonly (BoundText | undefined)[],
    private readonly pictures: Pictures,
  ) {}

  /** Whether it has hidden slides with marks: those that a deck which grows is made from. */
  get canGrow(): boolean {
    return this.slides.some((slide) => this.isGrowing(slide));
  }

  private isGrowing({ slide, parts, charts }: BoundSlide): boolean {
    return slide.isHidden && (charts.length > 0 || parts.some(({ pieces }) => !isConstant(pieces)));
  }

  /** One group's deck for a period, its hidden slides shown: those that it grows by. */
  fillPeriod(env: Env): FilledDeck & PeriodDeck {
    const { made, ...filled } = this.make(env, (slide) => this.isGrowing(slide));
    return { ...filled, grown: made };
  }

  /** One group's deck. The template is not touched. */
  fill(env: Env): FilledDeck {
    const { made: _, ...filled } = this.make(env, () => false);
    return filled;
  }

  private make(env: Env, shows: (slide: BoundSlide) => boolean): FilledDeck & { readonly made: readonly number[] } {
    const editor = new DeckEditor(this.opened, this.pictures);
    const findings: Finding[] = [];
    for (const part of this.others) this.fillPart(part, part.name, env, editor, new Map(), findings);
    const instances = instancesOf(this.nodes, env, []);
    const sections = new Sections(editor.deck, this.nodes, this.sectionNames);
    const used = new Set<number>();
    const grown: string[] = [];
    const made = instances.map((instance): MadeSlide => {
      const own = this.slides[instance.index];
      const isCopy = used.has(instance.index);
      used.add(instance.index);
      const names = isCopy ? editor.copyNames(own.slide.part) : new Map([[own.slide.part, own.slide.part]]);
      if (isCopy) editor.copy(names);
      if (shows(own)) grown.push(names.get(own.slide.part) ?? own.slide.part);
      this.fillSlide(own, names, instance.env, editor, findings);
      return { source: own.slide, names, section: sections.keyFor(own.slide, instance.path, env) };
    });
    editor.arrange(made, sections.made);
    const opened = shown(editor.finish(), new Set(grown));
    const names = new Set(grown);
    return {
      package: opened,
      findings,
      heads: editor.heads,
      made: names.size === 0 ? [] : new Deck(opened).slides.filter(({ part }) => names.has(part)).map(({ id }) => id),
    };
  }

  private fillSlide(
    own: BoundSlide,
    names: ReadonlyMap<string, string>,
    env: Env,
    editor: DeckEditor,
    findings: Finding[],
  ): void {
    const filled = new Set<string>();
    for (const { chart, workbook, fill } of own.charts) {
      const made = fill(env);
      editor.set(names.get(chart) ?? chart, made.chart);
      editor.set(names.get(workbook) ?? workbook, made.workbook);
      findings.push(...made.findings);
    }
    for (const part of own.parts) {
      filled.add(part.name);
      this.fillPart(part, names.get(part.name) ?? part.name, env, editor, names, findings);
    }
    for (const [from, to] of names) if (!filled.has(from)) editor.relate(from, to, names, [], NONE);
  }

  private fillPart(
    part: BoundPart,
    name: string,
    env: Env,
    editor: DeckEditor,
    names: ReadonlyMap<string, string>,
    findings: Finding[],
  ): void {
    const own = new SlidePart(editor, part.name, name, part.dialect);
    const text = part.head + fillPieces(part.pieces, env, own) + part.tail;
    // What stays as it is stays packed as it is.
    if (name !== part.name || text !== this.opened.getText(part.name)) editor.set(name, text);
    const links = this.opened
      .relationships(part.name)
      .filter(({ external, target }) => external && (hasMarks(target) || /%7B%7B/i.test(target)))
      .map(({ id }) => id);
    editor.relate(part.name, name, names, own.relations, new Set([...own.dropped, ...links]));
    // Charts that others took the place of go, with what belonged to them.
    for (const { id, target } of this.opened.relationships(part.name))
      if (own.dropped.has(id)) for (const gone of editor.ownParts(target)) editor.remove(names.get(gone) ?? gone);
    if (own.reachesBeyond)
      findings.push({
        code: "shapes-leave-slide",
        severity: "warn",
        where: part.where,
        what: say().slides.shapesReachBeyond(),
        advice: say().slides.makeShapesSmaller(),
      });
  }
}

const NONE: ReadonlySet<string> = new Set();

/** Slides that are hidden no more. */
function shown(opened: OoxmlPackage, parts: ReadonlySet<string>): OoxmlPackage {
  if (parts.size === 0) return opened;
  const changes = [...parts].map((part): [string, string] => {
    const root = opened.getXml(part);
    return [part, opened.getText(part).replace(root.open, () => root.withAttr("show", undefined).open)];
  });
  return opened.with(new Map(changes));
}

function instancesOf(nodes: readonly BoundSlideNode[], env: Env, path: Instance["path"]): Instance[] {
  return nodes.flatMap((node): Instance[] => {
    if (node.kind === "slide") return [{ index: node.index, env, path }];
    if (node.kind === "when") return instancesOf(node.bound.test?.(env) ? node.nodes : node.otherwise, env, path);
    return repetitions(node.bound, env).flatMap((own, turn) =>
      instancesOf(node.nodes, own, [...path, { node, turn, env: own }]),
    );
  });
}

/** Sections of the filled deck: one that stands wholly in what repeats is made as often. */
class Sections {
  readonly made = new Map<string, { readonly like: number; readonly name: string }>();
  private readonly sectionOf = new Map<number, number>();
  /** Repetitions that hold all slides of a section. */
  private readonly around: readonly ReadonlySet<BoundSlideNode>[];

  constructor(
    private readonly deck: Deck,
    nodes: readonly BoundSlideNode[],
    private readonly names: readonly (BoundText | undefined)[],
  ) {
    const { sections } = deck;
    sections.forEach((section, at) => {
      for (const id of section.slides) this.sectionOf.set(id, at);
    });
    const holding = new Map<number, BoundSlideNode[]>();
    const visit = (some: readonly BoundSlideNode[], open: readonly BoundSlideNode[]): void => {
      for (const node of some) {
        if (node.kind === "slide") holding.set(node.index, [...open]);
        else if (node.kind === "repeat") visit(node.nodes, [...open, node]);
        else visit([...node.nodes, ...node.otherwise], open);
      }
    };
    visit(nodes, []);
    this.around = sections.map(({ slides }) => {
      const indexes = deck.slides.flatMap((slide, index) => (slides.includes(slide.id) ? [index] : []));
      const [first, ...rest] = indexes.map((index) => holding.get(index) ?? []);
      return new Set((first ?? []).filter((node) => rest.every((others) => others.includes(node))));
    });
  }

  keyFor(slide: DeckSlide, path: Instance["path"], env: Env): string | undefined {
    const section = this.sectionOf.get(slide.id);
    if (section === undefined) return undefined;
    const own = path.filter(({ node }) => this.around[section].has(node));
    const turns = own.map(({ turn }) => turn);
    const key = turns.every((turn) => turn === 0) ? String(section) : `${section} ${turns.join(" ")}`;
    if (!this.made.has(key)) {
      const plain = this.deck.sections[section].name;
      const name = this.names[section]?.fill(own[own.length - 1]?.env ?? env) ?? plain;
      this.made.set(key, { like: section, name });
    }
    return key;
  }
}
