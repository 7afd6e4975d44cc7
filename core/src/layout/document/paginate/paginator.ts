/** Strips put on pages: columns, what stays together, notes at the foot, things that text flows around. */
import { made } from "../../../common/index.js";
import type { Fonts } from "../../../fonts/index.js";
import type { StructureNode } from "../../../page/index.js";
import type { Float, Note, PageSection } from "../../text/blocks.js";
import { child, type Fragment, stackHeight } from "../../text/fragment.js";
import { layBlocks } from "../../text/lay-blocks.js";
import { floatBox } from "./float-place.js";

/** More pages are refused: no document has them, and a page that can hold nothing would go on for ever. */
export const MAX_PAGES = 20_000;
/** Room between the text and the notes below it, with the line that parts them. */
export const NOTE_GAP = 9;

export interface PlacedStrip {
  readonly fragment: Fragment;
  readonly x: number;
  readonly y: number;
  /** Shown again, such as the headings of a table: no part of the text. */
  readonly isRepeated?: boolean;
}

export interface PlacedFloat {
  readonly float: Float;
  readonly x: number;
  readonly y: number;
}

/** A page whose items are drawn when all pages are known. */
export interface OpenPage {
  readonly section: PageSection;
  readonly number: number;
  readonly isFirstOfSection: boolean;
  readonly sectionIndex: number;
  readonly placed: PlacedStrip[];
  readonly floats: PlacedFloat[];
  readonly notes: { readonly note: Note; readonly fragments: readonly Fragment[] }[];
  /** Lines between columns: place and height. */
  readonly rules: { readonly x: number; readonly y1: number; readonly y2: number }[];
}

/** What the flow asks of the document. */
export interface FlowSite {
  readonly fonts: Fonts;
  readonly defaultTab: number;
  readonly root: StructureNode;
  readonly headerHeight: (page: OpenPage) => number;
  readonly footerHeight: (page: OpenPage) => number;
  readonly cutOff: (page: number) => void;
}

export class Paginator {
  readonly pages: OpenPage[] = [];
  private y = 0;
  private column = 0;
  /** Where the columns begin on the page, and how far down any of them reaches. */
  private columnTop = 0;
  private lowest = 0;
  /** Columns that are to be of one height end here. */
  private limit: number | undefined;
  private section: PageSection | undefined;
  private sectionIndex = -1;
  private readonly noteStrips = new Map<Note, readonly Fragment[]>();

  constructor(private readonly site: FlowSite) {}

  /** Width of a column of a section. */
  static columnWidth(section: PageSection): number {
    const { count, space } = section.columns;
    return (section.width - section.left - section.right - space * (count - 1)) / count;
  }

  flow(section: PageSection, fragments: readonly Fragment[], next: PageSection | undefined): void {
    this.begin(section);
    const isBalanced = section.columns.count > 1 && next?.start === "continuous";
    if (isBalanced) this.limit = this.balanced(section, fragments);
    const waiting = [...fragments];
    for (let index = 0; index < waiting.length; ) {
      let end = index;
      while (end < waiting.length - 1 && waiting[end].keepNext) end++;
      const anew = this.besideThings(section, waiting, index, end);
      if (anew) {
        waiting.splice(anew.from, anew.count, ...anew.fragments);
        continue;
      }
      this.placeTogether(section, waiting.slice(index, end + 1));
      index = end + 1;
    }
    this.limit = undefined;
    this.lowest = Math.max(this.lowest, this.y);
    this.rules(section);
  }

  private get page(): OpenPage {
    return this.pages[this.pages.length - 1];
  }

  private begin(section: PageSection): void {
    this.sectionIndex++;
    const continues = section.start === "continuous" && this.pages.length > 0;
    this.section = section;
    if (continues) {
      this.column = 0;
      this.columnTop = Math.max(this.lowest, this.y);
      this.y = this.columnTop;
      this.lowest = this.y;
      return;
    }
    this.newPage(section, true);
    const isOdd = this.page.number % 2 === 1;
    if ((section.start === "oddPage" && !isOdd) || (section.start === "evenPage" && isOdd)) {
      // The page that is left out stays blank.
      const { number } = this.page;
      this.newPage(section, true, number + 1);
    }
  }

  /** The lowest end at which all of a section stands in its columns beside each other; none if it takes more than a page. */
  private balanced(section: PageSection, fragments: readonly Fragment[]): number | undefined {
    const room = this.bottom() - this.y;
    const { count } = section.columns;
    const total = stackHeight(fragments);
    const fits = (height: number): boolean => {
      let column = 0;
      let used = 0;
      for (const fragment of fragments) {
        const before = used === 0 ? 0 : fragment.before;
        if (used > 0 && used + before + fragment.height > height + 0.01) {
          column++;
          used = 0;
        }
        used += (used === 0 ? 0 : before) + fragment.height + fragment.after;
        if (fragment.height > height || column >= count) return false;
      }
      return true;
    };
    if (!fits(room)) return undefined;
    let [low, high] = [total / count / 2, room];
    for (let step = 0; step < 24; step++) {
      const middle = (low + high) / 2;
      if (fits(middle)) high = middle;
      else low = middle;
    }
    return this.y + high + 0.02;
  }

  /** A paragraph set anew beside what stands in its way; things it brings are placed first. */
  private besideThings(
    section: PageSection,
    fragments: readonly Fragment[],
    index: number,
    end: number,
  ): { from: number; count: number; fragments: readonly Fragment[] } | undefined {
    const group = fragments.slice(index, end + 1);
    const { hasThings } = this;
    const brings = group.some((fragment) => fragment.floats.length > 0);
    if ((!brings && !hasThings) || this.pages.length >= MAX_PAGES) return undefined;
    const first = group.findIndex(
      (fragment) => fragment.paragraph !== undefined && (fragment.floats.length > 0 || hasThings),
    );
    if (first < 0) return undefined;
    const height = stackHeight(group) - group[0].before - group[group.length - 1].after;
    if (this.y > this.columnTop + 0.01 && this.y + group[0].before + height > this.bottom(group) + 0.01) {
      if (!this.fitsAnywhere(section, group) && !brings) return undefined;
      this.nextColumn(section);
      return { from: index, count: 0, fragments: [] };
    }
    // How far down the paragraph begins: what stands before it in its group comes first.
    let y = this.y;
    group.slice(0, first).forEach((fragment, at) => {
      y += (at === 0 && this.isFresh ? 0 : fragment.before) + fragment.height + fragment.after;
    });
    const own = group[first];
    y += first === 0 && this.isFresh ? 0 : own.before;
    let lines = 1;
    while (fragments[index + first + lines]?.isFurtherLine) lines++;
    const floats = fragments.slice(index + first, index + first + lines).flatMap((fragment) => fragment.floats);
    for (const float of floats) this.placeFloat(section, float, y);
    const x = this.columnX(section);
    const width = Paginator.columnWidth(section);
    const roomAt = (at: number, height: number): { left: number; right: number } | undefined =>
      this.roomAt(x, width, y + at, height);
    const made = (own.paragraph?.(roomAt) ?? []).map((fragment) => ({
      ...fragment,
      floats: [],
    }));
    return { from: index + first, count: lines, fragments: made };
  }

  private get hasThings(): boolean {
    return this.page.floats.some(
      ({ float, y }) => float.wrap !== "none" && y + float.height + float.distance.bottom > this.y,
    );
  }

  private roomAt(x: number, width: number, y: number, height: number): { left: number; right: number } | undefined {
    let [left, right] = [x, x + width];
    let changed = false;
    for (const { float, x: fx, y: fy } of this.page.floats) {
      if (float.wrap === "none") continue;
      const { distance } = float;
      if (y + height <= fy - distance.top || y >= fy + float.height + distance.bottom) continue;
      const [from, to] = [fx - distance.left, fx + float.width + distance.right];
      if (to <= left || from >= right) continue;
      changed = true;
      if (float.wrap === "topAndBottom") return { left: 0, right: 0 };
      // Text goes on at the wider side.
      if (from - left >= right - to) right = from;
      else left = to;
    }
    return changed ? { left: left - x, right: right - x } : undefined;
  }

  private placeFloat(section: PageSection, float: Float, paragraphY: number): void {
    const { x, y } = floatBox(float, section, {
      x: this.columnX(section),
      width: Paginator.columnWidth(section),
      y: paragraphY,
    });
    this.page.floats.push({ float, x, y });
  }

  /** Strips that stay on one page, if any page can hold them. */
  private placeTogether(section: PageSection, fragments: readonly Fragment[]): void {
    if (!this.fitsAnywhere(section, fragments)) {
      for (const fragment of fragments) this.place(section, fragment, fragment.height, [fragment]);
      return;
    }
    const height = stackHeight(fragments) - fragments[0].before - fragments[fragments.length - 1].after;
    fragments.forEach((fragment, index) => {
      this.place(section, fragment, index === 0 ? height : fragment.height, index === 0 ? fragments : [fragment]);
    });
  }

  private fitsAnywhere(section: PageSection, fragments: readonly Fragment[]): boolean {
    const room = section.height - this.site.footerHeight(this.page) - this.site.headerHeight(this.page);
    return stackHeight(fragments) - (fragments[fragments.length - 1]?.after ?? 0) - fragments[0].before <= room;
  }

  private get isFresh(): boolean {
    return this.y <= this.columnTop + 0.01;
  }

  /** `needed` is the height that has to fit: that of all that stays together, for its first. */
  private place(section: PageSection, fragment: Fragment, needed: number, together: readonly Fragment[]): void {
    const before = this.isFresh ? 0 : fragment.before;
    if (fragment.breakBefore && !this.isFresh) {
      this.newPage(section, false);
      this.putAtTop(fragment);
    } else if (this.y + before + needed > this.bottom(together) + 0.01) {
      const room = this.bottom(together) - this.y - before;
      const parts = needed === fragment.height ? fragment.split?.(room) : undefined;
      if (parts) {
        this.put(parts[0], before);
        this.nextColumn(section);
        for (const header of fragment.repeated ?? []) this.put(header, 0, true);
        this.place(section, parts[1], parts[1].height, [parts[1]]);
        return;
      }
      if (!this.isFresh) {
        this.nextColumn(section);
        // On a page of its own it may have to be cut all the same.
        const own = fragment.split?.(this.bottom([fragment]) - this.y);
        for (const header of fragment.repeated ?? []) this.put(header, 0, true);
        if (own && fragment.height > this.bottom([fragment]) - this.y) {
          this.place(section, { ...fragment, repeated: [] }, fragment.height, [fragment]);
          return;
        }
        this.put(fragment, 0);
      } else this.put(fragment, 0);
    } else this.put(fragment, before);
    if (fragment.breakAfter === "page") this.newPage(section, false);
    else if (fragment.breakAfter === "column") this.nextColumn(section);
  }

  private putAtTop(fragment: Fragment): void {
    for (const header of fragment.repeated ?? []) this.put(header, 0, true);
    this.put(fragment, 0);
  }

  private put(fragment: Fragment, before: number, isRepeated = false): void {
    const { page } = this;
    if (this.y + before + fragment.height > this.bottom() + 0.5 && this.isFresh) this.site.cutOff(this.pages.length);
    this.y += before;
    const section = this.sectionNow;
    page.placed.push({ fragment, x: this.columnX(section), y: this.y, isRepeated });
    for (const float of fragment.floats) this.placeFloat(section, float, this.y);
    for (const note of fragment.notes)
      if (!page.notes.some((one) => one.note === note) && !isRepeated && note.kind === "footnote")
        page.notes.push({ note, fragments: this.stripsOf(note) });
    this.y += fragment.height + fragment.after;
    this.lowest = Math.max(this.lowest, this.y);
  }

  private get sectionNow(): PageSection {
    return made(this.section, "the section");
  }

  private stripsOf(note: Note): readonly Fragment[] {
    const known = this.noteStrips.get(note);
    if (known) return known;
    const section = this.sectionNow;
    const fragments = layBlocks(note.blocks, section.width - section.left - section.right, {
      fonts: this.site.fonts,
      defaultTab: this.site.defaultTab,
      node: child(this.site.root, "Note"),
    });
    this.noteStrips.set(note, fragments);
    return fragments;
  }

  private notesHeight(more: readonly Fragment[]): number {
    const { page } = this;
    const own = new Set(more.flatMap((fragment) => fragment.notes).filter((note) => note.kind === "footnote"));
    let height = 0;
    for (const { fragments } of page.notes) height += stackHeight(fragments);
    for (const note of own)
      if (!page.notes.some((one) => one.note === note)) height += stackHeight(this.stripsOf(note));
    return height > 0 ? height + NOTE_GAP : 0;
  }

  /** Where text ends on the page, with room for its notes and those of what is to come. */
  private bottom(more: readonly Fragment[] = []): number {
    const { page } = this;
    const end = page.section.height - this.site.footerHeight(page) - this.notesHeight(more);
    return this.limit === undefined ? end : Math.min(end, this.limit);
  }

  private columnX(section: PageSection): number {
    return section.left + this.column * (Paginator.columnWidth(section) + section.columns.space);
  }

  private nextColumn(section: PageSection): void {
    const isLast = this.column + 1 >= section.columns.count;
    if (isLast && this.limit !== undefined) {
      // What made the columns longer than reckoned, such as things text flows around, makes the last one longer.
      this.limit = undefined;
      return;
    }
    if (isLast) {
      this.newPage(section, false);
      return;
    }
    this.column++;
    this.y = this.columnTop;
  }

  private newPage(section: PageSection, isFirstOfSection: boolean, forced?: number): void {
    if (this.pages.length >= MAX_PAGES) return;
    if (this.pages.length > 0 && !isFirstOfSection) this.rules(section);
    const previous = this.pages[this.pages.length - 1];
    const number =
      forced ?? (isFirstOfSection && section.firstPage !== undefined ? section.firstPage : (previous?.number ?? 0) + 1);
    this.pages.push({
      section,
      number,
      isFirstOfSection,
      sectionIndex: this.sectionIndex,
      placed: [],
      floats: [],
      notes: [],
      rules: [],
    });
    this.column = 0;
    this.limit = undefined;
    this.y = this.site.headerHeight(this.page);
    this.columnTop = this.y;
    this.lowest = this.y;
  }

  /** Lines between the columns that are used. */
  private rules(section: PageSection): void {
    if (!section.columns.line || section.columns.count < 2 || this.lowest <= this.columnTop) return;
    const width = Paginator.columnWidth(section);
    for (let at = 1; at < section.columns.count; at++) {
      const x = section.left + at * (width + section.columns.space) - section.columns.space / 2;
      this.page.rules.push({ x, y1: this.columnTop, y2: this.lowest });
    }
  }
}
