import type { Finding } from "../../common/index.js";
import { type FontLibrary, FontWatch } from "../../fonts/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { type LaidPages, type Page, type PageItem, type StructureNode, untagged } from "../../page/index.js";
import { say } from "../../words/index.js";
import type { Block, FieldInline, Float, PageSection } from "../text/blocks.js";
import { drawnFloat, drawStack, type Fragment, type LayingSite, stackHeight } from "../text/fragment.js";
import { layBlocks } from "../text/lay-blocks.js";
import type { PageNumbers } from "../text/lines/line-breaking.js";
import { fieldText } from "../text/lines/run-shaping.js";
import { formatNumber } from "../text/numbers.js";
import { Numbering } from "./model/numbering.js";
import { DocumentStyles } from "./model/styles.js";
import { withContents } from "./paginate/contents.js";
import { floatBox } from "./paginate/float-place.js";
import { pageBorders } from "./paginate/page-decorations.js";
import { MAX_PAGES, type OpenPage, Paginator } from "./paginate/paginator.js";
import { BlockReader, type DocumentFacts, type DocumentReading } from "./read/read-blocks.js";

export type { DocumentFacts };

/** A document as pages. */
export function layDocument(opened: OoxmlPackage, fonts: FontLibrary, facts: DocumentFacts = {}): LaidPages {
  return new DocumentLayer(opened, new FontWatch(fonts), facts).lay();
}

interface ReadSection {
  readonly section: PageSection;
  readonly blocks: readonly Block[];
}

/** Length of the line above footnotes, in points. */
const NOTE_LINE = 144;

class DocumentLayer {
  private readonly findings: Finding[] = [];
  private readonly styles: DocumentStyles;
  private readonly part: string;
  private readonly root: StructureNode = { role: "Document", children: [] };
  private readonly stacks = new Map<string, readonly Fragment[]>();
  private readonly reading: DocumentReading;
  private flow: Paginator;
  /** The pages on which places stand, by name, as their numbers show. */
  private places = new Map<string, { readonly index: number; readonly shown: string }>();

  constructor(
    private readonly opened: OoxmlPackage,
    private readonly fonts: FontWatch,
    facts: DocumentFacts,
  ) {
    this.part = opened.mainPart() ?? "";
    this.styles = DocumentStyles.of(opened, this.part);
    const numbering = opened.relationships(this.part).find((relation) => relation.type === "numbering")?.target ?? "";
    this.reading = {
      opened,
      documentPart: this.part,
      styles: this.styles,
      numbering: new Numbering(opened.maybeXml(numbering), this.styles.theme),
      fonts,
      facts,
      findings: this.findings,
      missing: new Map(),
      fields: [],
      guesses: new Map(),
      notes: { footnote: 0, endnote: 0 },
    };
    this.flow = this.newFlow();
  }

  lay(): LaidPages {
    const sections = this.sections();
    this.place(sections);
    // Fields that name pages were measured with a guess; where that was wrong all is placed once more.
    if (this.measureFields()) this.place(sections);
    this.reportLength();
    const { pages: open } = this.flow;
    const pages = open.map((page) => this.finish(page));
    for (const page of pages) this.fonts.look(page);
    this.tellPages();
    return {
      pages,
      findings: [...this.findings, ...this.fonts.findings(this.opened.where)],
      outline: open.flatMap((page, index) =>
        page.placed.flatMap(({ fragment, y, isRepeated }) =>
          fragment.outline && !isRepeated ? [{ ...fragment.outline, page: index, y }] : [],
        ),
      ),
      structure: this.root,
      fonts: this.fonts.used,
    };
  }

  private newFlow(): Paginator {
    return new Paginator({
      fonts: this.fonts,
      defaultTab: this.styles.defaultTab,
      root: this.root,
      headerHeight: (page) => this.top(page),
      footerHeight: (page) => this.footerHeight(page),
      cutOff: (page) => this.reportCut(page),
    });
  }

  private site(node: StructureNode): LayingSite {
    return { fonts: this.fonts, defaultTab: this.styles.defaultTab, node };
  }

  private place(sections: readonly ReadSection[]): void {
    this.root.children.length = 0;
    this.stacks.clear();
    this.flow = this.newFlow();
    sections.forEach(({ section, blocks }, index) => {
      const width = Paginator.columnWidth(section);
      this.flow.flow(section, layBlocks(blocks, width, this.site(this.root)), sections[index + 1]?.section);
    });
    this.findPlaces();
  }

  private findPlaces(): void {
    this.places = new Map();
    this.flow.pages.forEach((page, index) => {
      const shown = formatNumber(page.number, page.section.numberFormat);
      for (const { fragment } of page.placed)
        for (const name of fragment.places) if (!this.places.has(name)) this.places.set(name, { index, shown });
    });
  }

  /** Sets what fields are measured with; tells whether any became longer or shorter. */
  private measureFields(): boolean {
    let changed = false;
    for (const field of this.reading.fields) {
      if (field.what === "page") continue;
      const text = fieldText(field, this.numbers(this.flow.pages[0]));
      if (text.length !== field.guess.text.length) changed = true;
      field.guess.text = text;
      this.reading.guesses.set(`${field.what} ${field.target ?? ""}`, text);
    }
    return changed;
  }

  /** The body cut at its section ends; the last section's properties stand at the end of the body. */
  private sections(): ReadSection[] {
    const body = this.opened.readXml(this.part).child("body");
    if (!body) return [];
    const reader = this.reader(this.part);
    const read: { section: PageSection; blocks: Block[] }[] = [];
    let blocks: Block[] = [];
    for (const block of reader.blocks(body)) {
      blocks.push(block);
      if (block.kind !== "paragraph" || !block.section) continue;
      read.push({ section: inherit(block.section, read[read.length - 1]?.section), blocks });
      blocks = [];
    }
    read.push({ section: inherit(reader.section(body.child("sectPr")), read[read.length - 1]?.section), blocks });
    const made = withContents(
      read.map((one) => one.blocks),
      (section) => Paginator.columnWidth(read[section].section),
      (place, block, level) => this.pageField(place, block.entry(level).run, reader),
    );
    return read.map(({ section }, index) => ({
      section,
      blocks: index === read.length - 1 ? [...made[index], ...endnotes(made)] : made[index],
    }));
  }

  private pageField(place: string, props: FieldInline["props"], reader: BlockReader): FieldInline {
    return reader.field({ what: "pageOf", target: place, format: "", props });
  }

  private reader(part: string): BlockReader {
    return new BlockReader(this.reading, part);
  }

  /** What no page can hold runs off its lower edge; that has to be said. */
  private reportCut(page: number): void {
    if (this.findings.some((finding) => finding.code === "cut-off")) return;
    this.findings.push({
      code: "cut-off",
      severity: "warn",
      where: say().layout.page({ where: this.opened.where, page }),
      what: say().layout.tableRowPictureTallerPage(),
      advice: say().layout.letRowBreakAcrossPages(),
    });
  }

  /** Headers taller than the margin push the text down, footers push it up. */
  private top(page: OpenPage): number {
    const fragments = this.stack(page, page.section.headers);
    return Math.max(page.section.top, fragments.length > 0 ? page.section.header + stackHeight(fragments) : 0);
  }

  private footerHeight(page: OpenPage): number {
    const fragments = this.stack(page, page.section.footers);
    return Math.max(page.section.bottom, fragments.length > 0 ? page.section.footer + stackHeight(fragments) : 0);
  }

  private stack(page: OpenPage, parts: Readonly<Record<string, string>>): readonly Fragment[] {
    const { section } = page;
    const kind =
      page.isFirstOfSection && section.titlePage
        ? "first"
        : this.styles.evenAndOddHeaders && page.number % 2 === 0
          ? "even"
          : "default";
    const part = parts[kind];
    if (!part || !this.opened.has(part)) return [];
    const width = section.width - section.left - section.right;
    const key = `${part}|${width}`;
    const known = this.stacks.get(key);
    if (known) return known;
    // Headers and footers are no part of the text's structure.
    const apart: StructureNode = { role: "Artifact", children: [] };
    const fragments = layBlocks(this.reader(part).blocks(this.opened.getXml(part)), width, this.site(apart));
    this.stacks.set(key, fragments);
    return fragments;
  }

  private numbers(page: OpenPage): PageNumbers {
    const { pages } = this.flow;
    return {
      page: page.number,
      pages: pages.length,
      sectionPages: pages.filter((one) => one.sectionIndex === page.sectionIndex).length,
      format: page.section.numberFormat,
      pageOf: (place) => this.places.get(place)?.shown,
      section: page.section,
    };
  }

  private finish(page: OpenPage): Page {
    const { section } = page;
    const numbers = this.numbers(page);
    const items: PageItem[] = [];
    const header = this.stack(page, section.headers);
    const footer = this.stack(page, section.footers);
    const footerTop = section.height - section.footer - stackHeight(footer);
    const decorate = (fragments: readonly Fragment[], y: number): PageItem => ({
      kind: "tagged",
      node: undefined,
      items: this.furniture(fragments, section, y, numbers),
    });
    items.push({ kind: "tagged", node: undefined, items: pageBorders(page) }, decorate(header, section.header));
    for (const { float, x, y } of page.floats) if (float.behind) items.push(...this.beside(float, x, y, numbers));
    const lower = this.lowered(page);
    for (const { fragment, x, y, isRepeated } of page.placed) {
      const drawn = fragment.draw(numbers, x, y + lower);
      items.push(...(isRepeated ? [{ kind: "tagged" as const, node: undefined, items: untagged(drawn) }] : drawn));
    }
    for (const { float, x, y } of page.floats) if (!float.behind) items.push(...this.beside(float, x, y, numbers));
    for (const { x, y1, y2 } of page.rules)
      items.push({
        kind: "tagged",
        node: undefined,
        items: [{ kind: "line", x1: x, x2: x, y1, y2, width: 0.5, color: "000000" }],
      });
    items.push(...this.notes(page, numbers), decorate(footer, footerTop));
    return { widthPt: section.width, heightPt: section.height, items };
  }

  /** A thing beside the text belongs to the text all the same. */
  private beside(float: Float, x: number, y: number, numbers: PageNumbers): PageItem[] {
    const item = drawnFloat(float, x, y, numbers);
    const node = float.node ?? { role: "P", children: [] };
    this.root.children.push(node);
    return float.node ? [item] : [{ kind: "tagged", node, items: [item] }];
  }

  /** How far text is moved down where its section stands it in the middle or at the foot of its pages. */
  private lowered(page: OpenPage): number {
    const { vertical } = page.section;
    const last = page.placed[page.placed.length - 1];
    if (vertical === "top" || vertical === "both" || !last) return 0;
    const used = Math.max(...page.placed.map(({ fragment, y }) => y + fragment.height)) - this.top(page);
    const free = Math.max(0, page.section.height - this.footerHeight(page) - this.top(page) - used);
    return vertical === "center" ? free / 2 : free;
  }

  /** Headers and footers, with what floats in them. */
  private furniture(fragments: readonly Fragment[], section: PageSection, y: number, numbers: PageNumbers): PageItem[] {
    const items: PageItem[] = [];
    let at = y;
    const width = section.width - section.left - section.right;
    for (const fragment of fragments) {
      at += fragment.before;
      for (const float of fragment.floats) {
        const place = floatBox(float, section, { x: section.left, width, y: at });
        items.push(drawnFloat(float, place.x, place.y, numbers));
      }
      items.push(...fragment.draw(numbers, section.left, at));
      at += fragment.height + fragment.after;
    }
    return untagged(items);
  }

  private notes(page: OpenPage, numbers: PageNumbers): PageItem[] {
    if (page.notes.length === 0) return [];
    const { section } = page;
    const height = page.notes.reduce((sum, note) => sum + stackHeight(note.fragments), 0);
    const top = section.height - this.footerHeight(page) - height;
    const line: PageItem = {
      kind: "line",
      x1: section.left,
      x2: section.left + NOTE_LINE,
      y1: top - 4,
      y2: top - 4,
      width: 0.5,
      color: "000000",
    };
    const items: PageItem[] = [{ kind: "tagged", node: undefined, items: [line] }];
    let y = top;
    for (const { fragments } of page.notes) {
      items.push(...drawStack(fragments, section.left, y, numbers));
      y += stackHeight(fragments);
    }
    return items;
  }

  /** Findings about what is not drawn say on which page. */
  private tellPages(): void {
    for (const [name, finding] of this.reading.missing) {
      const page = this.places.get(name)?.index;
      const at = this.findings.indexOf(finding);
      if (page !== undefined && at >= 0)
        this.findings[at] = { ...finding, where: say().layout.page({ where: this.opened.where, page: page + 1 }) };
    }
  }

  private reportLength(): void {
    if (this.flow.pages.length < MAX_PAGES) return;
    this.findings.push({
      code: "too-many-pages",
      severity: "stop",
      where: this.opened.where,
      what: say().layout.documentWouldTakeMorePages({ maxPages: MAX_PAGES }),
      advice: say().layout.split(),
    });
  }
}

/** Endnotes stand at the end of the text. */
function endnotes(sections: readonly (readonly Block[])[]): Block[] {
  const found: Block[] = [];
  const visit = (blocks: readonly Block[]): void => {
    for (const block of blocks) {
      if (block.kind === "table") for (const row of block.rows) for (const cell of row.cells) visit(cell.blocks);
      if (block.kind !== "paragraph") continue;
      for (const inline of block.inlines)
        if (inline.kind === "note" && inline.note.kind === "endnote") found.push(...inline.note.blocks);
    }
  };
  for (const blocks of sections) visit(blocks);
  return found;
}

/** A section without headers of its own shows those of the section before (17.10.5). */
function inherit(section: PageSection, previous: PageSection | undefined): PageSection {
  return previous
    ? {
        ...section,
        headers: { ...previous.headers, ...section.headers },
        footers: { ...previous.footers, ...section.footers },
      }
    : section;
}
