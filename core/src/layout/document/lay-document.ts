import type { Finding } from "../../common/index.js";
import { type FontLibrary, FontWatch } from "../../fonts/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { moveItems, type Page, type PageItem } from "../page.js";
import type { LaidPages } from "../sheet/lay-sheet.js";
import type { Block, Section } from "./blocks.js";
import { Numbering } from "./numbering.js";
import type { PageNumbers } from "./paragraph-lines.js";
import { BlockReader } from "./read-blocks.js";
import { drawStack, layBlocks, type Strip, stackHeight } from "./strips.js";
import { DocumentStyles } from "./styles.js";

/** More pages are refused: no letter has them, and a page that can hold nothing would go on for ever. */
const MAX_PAGES = 20_000;

/** A document as pages. */
export function layDocument(opened: OoxmlPackage, fonts: FontLibrary): LaidPages {
  return new DocumentLayer(opened, new FontWatch(fonts)).lay();
}

/** A page whose items are drawn when the number of pages is known. */
interface OpenPage {
  readonly section: Section;
  readonly number: number;
  readonly isFirstOfSection: boolean;
  readonly placed: { readonly strip: Strip; readonly y: number }[];
}

class DocumentLayer {
  private readonly findings: Finding[] = [];
  private readonly styles: DocumentStyles;
  private readonly numbering: Numbering;
  private readonly part: string;
  private readonly pages: OpenPage[] = [];
  private readonly outline: { title: string; page: number }[] = [];
  private readonly stacks = new Map<string, readonly Strip[]>();
  private y = 0;

  constructor(
    private readonly opened: OoxmlPackage,
    private readonly fonts: FontWatch,
  ) {
    this.part = opened.mainPart() ?? "";
    this.styles = DocumentStyles.of(opened, this.part);
    const numbering = opened.relationships(this.part).find((relation) => relation.type === "numbering")?.target ?? "";
    this.numbering = new Numbering(opened.maybeXml(numbering), this.styles.theme);
  }

  lay(): LaidPages {
    for (const { section, blocks } of this.sections()) this.flow(section, blocks);
    this.reportLength();
    const total = this.pages.length;
    const pages = this.pages.map((page) => this.finish(page, total));
    return {
      pages,
      findings: [...this.findings, ...this.fonts.findings(pages, this.opened.where)],
      outline: this.outline,
    };
  }

  /** The body cut at its section ends; the last section's properties stand at the end of the body. */
  private sections(): { section: Section; blocks: Block[] }[] {
    const body = this.opened.getXml(this.part).child("body");
    if (!body) return [];
    const reader = this.reader(this.part);
    const sections: { section: Section; blocks: Block[] }[] = [];
    let blocks: Block[] = [];
    for (const block of reader.blocks(body)) {
      blocks.push(block);
      if (block.kind !== "paragraph" || !block.section) continue;
      sections.push({ section: inherit(block.section, sections[sections.length - 1]?.section), blocks });
      blocks = [];
    }
    sections.push({
      section: inherit(reader.section(body.child("sectPr")), sections[sections.length - 1]?.section),
      blocks,
    });
    return sections;
  }

  private reader(part: string): BlockReader {
    return new BlockReader(this.opened, part, this.styles, this.numbering, this.findings);
  }

  private flow(section: Section, blocks: readonly Block[]): void {
    const continues = section.start === "continuous" && this.pages.length > 0;
    if (!continues) this.newPage(section, true);
    const strips = layBlocks(blocks, section.width - section.left - section.right, this.fonts);
    for (let index = 0; index < strips.length; ) {
      let end = index;
      while (end < strips.length - 1 && strips[end].keepNext) end++;
      this.placeTogether(section, strips.slice(index, end + 1));
      index = end + 1;
    }
  }

  /** Strips that stay on one page, if any page can hold them. */
  private placeTogether(section: Section, strips: readonly Strip[]): void {
    const room = this.bottom(section) - this.top(section);
    if (stackHeight(strips) - (strips[strips.length - 1]?.after ?? 0) > room) {
      for (const strip of strips) this.place(section, strip, strip.height);
      return;
    }
    const height = stackHeight(strips) - strips[0].before - strips[strips.length - 1].after;
    strips.forEach((strip, index) => {
      this.place(section, strip, index === 0 ? height : strip.height);
    });
  }

  /** What no page can hold runs off its lower edge; that has to be said. */
  private reportCut(section: Section, strip: Strip): void {
    if (strip.height <= this.bottom(section) - this.top(section)) return;
    if (this.findings.some((finding) => finding.code === "cut-off")) return;
    this.findings.push({
      code: "cut-off",
      severity: "warn",
      where: `${this.opened.where}, page ${this.pages.length}`,
      what: "A table row or picture is taller than the page; the PDF shows only its beginning.",
      advice: "Spread the row's text over several rows, or make the picture smaller.",
    });
  }

  private place(section: Section, strip: Strip, needed: number): void {
    const isFresh = this.y <= this.top(section) + 0.01;
    const before = isFresh ? 0 : strip.before;
    if (!isFresh && (strip.breakBefore || this.y + before + needed > this.bottom(section) + 0.01)) {
      this.newPage(section, false);
      for (const header of strip.repeated ?? []) this.put(header, 0);
      this.put(strip, 0);
    } else this.put(strip, before);
    if (strip.breakAfter) this.newPage(section, false);
  }

  private put(strip: Strip, before: number): void {
    const page = this.pages[this.pages.length - 1];
    this.reportCut(page.section, strip);
    this.y += before;
    page.placed.push({ strip, y: this.y });
    if (strip.outline && strip.outline.level === 0)
      this.outline.push({ title: strip.outline.title, page: this.pages.length - 1 });
    this.y += strip.height + strip.after;
  }

  private newPage(section: Section, isFirstOfSection: boolean): void {
    if (this.pages.length >= MAX_PAGES) return;
    const previous = this.pages[this.pages.length - 1];
    const number =
      isFirstOfSection && section.firstPage !== undefined ? section.firstPage : (previous?.number ?? 0) + 1;
    this.pages.push({ section, number, isFirstOfSection, placed: [] });
    this.y = this.top(section);
  }

  /** Headers taller than the margin push the text down, footers push it up. */
  private top(section: Section): number {
    const page = this.pages[this.pages.length - 1];
    const strips = this.stack(section, section.headers, page);
    return Math.max(section.top, strips.length > 0 ? section.header + stackHeight(strips) : 0);
  }

  private bottom(section: Section): number {
    const page = this.pages[this.pages.length - 1];
    const strips = this.stack(section, section.footers, page);
    return section.height - Math.max(section.bottom, strips.length > 0 ? section.footer + stackHeight(strips) : 0);
  }

  private stack(
    section: Section,
    parts: Readonly<Record<string, string>>,
    page: OpenPage | undefined,
  ): readonly Strip[] {
    const kind =
      page?.isFirstOfSection && section.titlePage
        ? "first"
        : this.styles.evenAndOddHeaders && page && page.number % 2 === 0
          ? "even"
          : "default";
    const part = parts[kind];
    if (!part || !this.opened.has(part)) return [];
    const width = section.width - section.left - section.right;
    const key = `${part}|${width}`;
    const known = this.stacks.get(key);
    if (known) return known;
    const strips = layBlocks(this.reader(part).blocks(this.opened.getXml(part)), width, this.fonts);
    this.stacks.set(key, strips);
    return strips;
  }

  private finish(page: OpenPage, pages: number): Page {
    const { section } = page;
    const numbers: PageNumbers = { page: page.number, pages, format: section.numberFormat };
    const items: PageItem[] = [];
    const header = this.stack(section, section.headers, page);
    const footer = this.stack(section, section.footers, page);
    items.push(...drawStack(header, section.left, section.header, numbers));
    for (const { strip, y } of page.placed) items.push(...moveItems(strip.draw(numbers), section.left, y));
    items.push(...drawStack(footer, section.left, section.height - section.footer - stackHeight(footer), numbers));
    return { widthPt: section.width, heightPt: section.height, items };
  }

  private reportLength(): void {
    if (this.pages.length < MAX_PAGES) return;
    this.findings.push({
      code: "too-many-pages",
      severity: "stop",
      where: this.opened.where,
      what: `The document would take more than ${MAX_PAGES} pages.`,
      advice: "Split it.",
    });
  }
}

/** A section without headers of its own shows those of the section before (17.10.5). */
function inherit(section: Section, previous: Section | undefined): Section {
  return previous
    ? {
        ...section,
        headers: { ...previous.headers, ...section.headers },
        footers: { ...previous.footers, ...section.footers },
      }
    : section;
}
