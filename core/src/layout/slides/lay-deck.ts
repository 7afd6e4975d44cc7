/** A slide deck as pages: its slides, its pages of notes, or several slides to a page. */
import { type DeckPages, type Finding, formatValue } from "../../common/index.js";
import { type FontLibrary, FontWatch } from "../../fonts/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import {
  type Box,
  type LaidPages,
  moveItems,
  type OutlineEntry,
  type Page,
  type PageItem,
  rectangle,
  type StructureNode,
  shapeWords,
  untagged,
} from "../../page/index.js";
import { Deck, type DeckSlide, titleOf } from "../../slides/index.js";
import { say } from "../../words/index.js";
import { EMU_PER_PT } from "../drawing/geometry.js";
import { child } from "../text/fragment.js";
import { SlideDrawer } from "./slide-drawer.js";
import { DeckLooks } from "./slide-looks.js";
import { tableStylesOf } from "./table-styles.js";

export interface DeckFacts {
  /** Serial number of the day that date fields show; without it they show what is stored. */
  readonly today?: number | undefined;
  readonly locale?: string | undefined;
  readonly pages?: DeckPages | undefined;
  /** Whether hidden slides are pages too. */
  readonly withHidden?: boolean | undefined;
}

/** A deck as pages, in the size of its slides, or for notes and several to a page in that of its notes. */
export function layDeck(opened: OoxmlPackage, fonts: FontLibrary, facts: DeckFacts = {}): LaidPages {
  return new DeckLayer(opened, new FontWatch(fonts), facts).lay();
}

/** Slides to a page. */
const PER_PAGE: Readonly<Record<DeckPages, number>> = { slide: 1, notes: 1, two: 2, four: 4, six: 6 };

/** More pages nobody could read. */
const MAX_PAGES = 10_000;

class DeckLayer {
  private readonly deck: Deck;
  private readonly looks: DeckLooks;
  private readonly findings: Finding[] = [];
  private readonly told = new Set<string>();
  private readonly root: StructureNode = { role: "Document", children: [] };
  private readonly styles;
  private readonly shown: readonly DeckSlide[];
  private slide: DeckSlide | undefined;

  constructor(
    private readonly opened: OoxmlPackage,
    private readonly fonts: FontWatch,
    private readonly facts: DeckFacts,
  ) {
    this.deck = new Deck(opened);
    this.looks = new DeckLooks(this.deck);
    this.styles = tableStylesOf(opened);
    this.shown = this.deck.slides.filter((slide) => facts.withHidden || !slide.isHidden);
  }

  lay(): LaidPages {
    const { pages: what = "slide" } = this.facts;
    if (this.shown.length > MAX_PAGES)
      this.findings.push({
        code: "too-many-pages",
        severity: "stop",
        where: this.opened.where,
        what: say().layout.deckWouldTakePages({ most: MAX_PAGES }),
        advice: say().layout.split(),
      });
    const slides = this.shown.slice(0, MAX_PAGES);
    const perPage = PER_PAGE[what];
    const pages =
      what === "slide"
        ? slides.map((slide) => this.slidePage(slide))
        : what === "notes"
          ? slides.map((slide) => this.notesPage(slide))
          : this.handouts(slides, perPage);
    for (const page of pages) this.fonts.look(page);
    return {
      pages,
      findings: [...this.findings, ...this.fonts.findings(this.opened.where)],
      outline: slides.map((slide, index): OutlineEntry => {
        const title = titleOf(this.opened.readXml(slide.part));
        return {
          title: title === "" ? say().layout.slideNumber({ slide: slide.number }) : title,
          page: Math.floor(index / perPage),
          y: 0,
        };
      }),
      structure: this.root,
      fonts: this.fonts.used,
    };
  }

  /** What stands on a slide, or on its page of notes. */
  private items(slide: DeckSlide, part: string, node: StructureNode, image?: (box: Box) => PageItem[]): PageItem[] {
    this.slide = slide;
    const place: PageItem = { kind: "place", name: placeName(slide.part), x: 0, y: 0 };
    const site = {
      deck: this.deck,
      fonts: this.fonts,
      tableStyles: this.styles,
      image,
      field: (type: string, stored: string) => this.field(type, stored),
      placeOf: (target: string) =>
        this.shown.some((one) => one.part === target) ? `#${placeName(target)}` : undefined,
      tell: (finding: Omit<Finding, "where">, shape: string) => this.tell(finding, shape),
    };
    return [place, ...new SlideDrawer(site, this.looks.of(part), node).draw()];
  }

  private slidePage(slide: DeckSlide): Page {
    const { width, height } = this.deck;
    const items = this.items(slide, slide.part, child(this.root, "Sect"));
    return { widthPt: width, heightPt: height, items: [inPage(items, width, height)] };
  }

  private tell(finding: Omit<Finding, "where">, shape: string): void {
    const number = this.slide?.number ?? 0;
    const where = say().layout.slideIn({ where: this.opened.where, slide: number });
    const key = `${where} ${shape} ${finding.what}`;
    if (this.told.has(key)) return;
    this.told.add(key);
    this.findings.push({ ...finding, where: shape === "" ? where : say().layout.shapeIn({ where, shape }) });
  }

  private field(type: string, stored: string): string {
    if (type === "slidenum") {
      const first = Number(this.deck.presentation.attr("firstSlideNum") ?? 1);
      return String(first + (this.slide?.number ?? 1) - 1);
    }
    const { today, locale = "en-GB" } = this.facts;
    if (today === undefined || !type.startsWith("datetime")) return stored;
    const format = DATES[type];
    return format === undefined ? stored : formatValue(today, format, locale);
  }

  /** Size of pages of notes and of several slides, in points. */
  private get notesSize(): { width: number; height: number } {
    const size = this.deck.presentation.child("notesSz");
    const length = (name: string, usual: number): number => Number(size?.attr(name) ?? usual) / EMU_PER_PT;
    return { width: length("cx", 6_858_000), height: length("cy", 9_144_000) };
  }

  private notesPage(slide: DeckSlide): Page {
    const { width, height } = this.notesSize;
    const node = child(this.root, "Sect");
    const part = this.deck.relatedPart(slide.part, "notesSlide");
    const image = (box: Box): PageItem[] => this.small(slide, box);
    if (part !== undefined) {
      const items = this.items(slide, part, node, image);
      return { widthPt: width, heightPt: height, items: [inPage(items, width, height)] };
    }
    // A slide without notes stands alone in the upper half.
    const box = fitted(this.deck, { x: width * 0.1, y: height * 0.08, width: width * 0.8, height: height * 0.4 });
    return {
      widthPt: width,
      heightPt: height,
      items: [
        { kind: "place", name: placeName(slide.part), x: 0, y: 0 },
        this.figure(node, titleOf(this.opened.readXml(slide.part)), box, image(box)),
      ],
    };
  }

  /** A slide as a small picture in a box, in a frame. */
  private small(slide: DeckSlide, box: Box): PageItem[] {
    const { width, height } = this.deck;
    const at = fitted(this.deck, box);
    const items = untagged(this.items(slide, slide.part, { role: "Sect", children: [] })).filter(
      (item) => item.kind !== "place",
    );
    return [
      ...moveItems([inPage(items, width, height)], at.x, at.y, at.width / width),
      { kind: "path", commands: rectangle(at), stroke: { color: "7F7F7F", width: 0.5 } },
    ];
  }

  private figure(node: StructureNode, description: string, box: Box, items: readonly PageItem[]): PageItem {
    return { kind: "tagged", node: child(node, "P"), items: [{ kind: "figure", ...box, description, items }] };
  }

  private handouts(slides: readonly DeckSlide[], perPage: number): Page[] {
    const { width, height } = this.notesSize;
    const columns = perPage === 2 ? 1 : 2;
    const rows = perPage / columns;
    const [margin, gap] = [36, 18];
    const cell = {
      width: (width - 2 * margin - (columns - 1) * gap) / columns,
      height: (height - 2 * margin - (rows - 1) * gap) / rows,
    };
    const pages: Page[] = [];
    for (let from = 0; from < slides.length; from += perPage) {
      const node = child(this.root, "Sect");
      const items = slides.slice(from, from + perPage).flatMap((slide, index): PageItem[] => {
        const x = margin + (index % columns) * (cell.width + gap);
        const y = margin + Math.floor(index / columns) * (cell.height + gap);
        const box = fitted(this.deck, { x, y, width: cell.width, height: cell.height - LABEL });
        const title = titleOf(this.opened.readXml(slide.part));
        const label = say().layout.slideNumber({ slide: slide.number });
        return [
          { kind: "place", name: placeName(slide.part), x, y },
          this.figure(node, title === "" ? label : title, box, this.small(slide, box)),
          { kind: "tagged", node: child(node, "P"), items: [this.label(label, box)] },
        ];
      });
      pages.push({ widthPt: width, heightPt: height, items });
    }
    return pages;
  }

  private label(text: string, box: Box): PageItem {
    const shaped = shapeWords(text, this.fonts.face("Calibri", false, false));
    return { kind: "text", x: box.x, y: box.y + box.height + LABEL - 4, size: 9, color: "595959", shaped };
  }
}

/** Room below a small slide for its number. */
const LABEL = 16;

function placeName(part: string): string {
  return `slide ${part}`;
}

/** Nothing is seen beyond a slide's edges. */
function inPage(items: readonly PageItem[], width: number, height: number): PageItem {
  return { kind: "group", clip: { x: 0, y: 0, width, height }, items };
}

/** The largest box of a slide's shape in the middle of a box. */
function fitted(slide: { readonly width: number; readonly height: number }, box: Box): Box {
  const scale = Math.min(box.width / slide.width, box.height / slide.height);
  const [width, height] = [slide.width * scale, slide.height * scale];
  return { x: box.x + (box.width - width) / 2, y: box.y + (box.height - height) / 2, width, height };
}

/** Formats of dates that change with the day (19.7.20's values, 21.1.2.2.4). */
const DATES: Readonly<Record<string, string>> = {
  datetime: "dd/mm/yyyy",
  datetimeFigureOut: "dd/mm/yyyy",
  datetime1: "dd/mm/yyyy",
  datetime2: "dddd, d mmmm yyyy",
  datetime3: "d mmmm yyyy",
  datetime4: "mmmm d, yyyy",
  datetime5: "dd-mmm-yy",
  datetime6: "mmmm yy",
  datetime7: "mmm-yy",
};
