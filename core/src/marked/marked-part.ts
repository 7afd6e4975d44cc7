/** A part of a template by its marks: what is to be filled, and which marks of structure are matched where. */

import { CorbixError, known } from "../common/index.js";
import type { XmlElement, XmlNode } from "../ooxml/index.js";
import { hasMarks } from "../template/index.js";
import { say } from "../words/index.js";
import type { Dialect } from "./dialect.js";
import type { PlacedStructure, PreparedPart } from "./prepare-part.js";
import { hasShown, isOpening, shownBeforeMarks, without } from "./unmatched-marks.js";

/** What is handled as one among its neighbours: something to write, or a mark of structure between. */
export type Item =
  | { readonly kind: "node"; readonly node: XmlNode }
  /** `holder` is what it stood in, where nothing else did. */
  | { readonly kind: "mark"; readonly mark: PlacedStructure; readonly holder: XmlElement | undefined };

/** The mark at a place, where one stands there. */
export function markAt(items: readonly Item[], at: number): PlacedStructure | undefined {
  const item = items[at];
  return item?.kind === "mark" ? item.mark : undefined;
}

export class MarkedPart {
  private readonly touchedElements = new Map<XmlElement, boolean>();

  constructor(
    private readonly part: PreparedPart,
    private readonly dialect: Dialect,
  ) {}

  get root(): XmlElement {
    return this.part.root;
  }

  /** The place of a paragraph, row or cell, where it has one of its own. */
  placeOf(element: XmlElement): string | undefined {
    return this.part.places.get(element);
  }

  structure(marker: XmlElement): PlacedStructure {
    return known(this.part.structures, marker);
  }

  /** Whether anything in an element is to be filled. */
  isTouched(element: XmlElement): boolean {
    const known = this.touchedElements.get(element);
    if (known !== undefined) return known;
    const touched =
      this.part.structures.has(element) ||
      hasMarks(element.open) ||
      (this.dialect.hasBookmarks && element.local === "bookmarkStart") ||
      this.dialect.linkIn(element) !== undefined ||
      element.children.some((child) =>
        child.kind === "element"
          ? this.isTouched(child)
          : this.dialect.texts.has(element.local) && hasMarks(child.text),
      );
    this.touchedElements.set(element, touched);
    return touched;
  }

  /** An element as what stands of it among its neighbours: marks that belong there, and the rest. */
  items(node: XmlNode): Item[] {
    if (node.kind === "text") return [{ kind: "node", node }];
    const loose = this.loose(node);
    if (loose.length === 0) return [{ kind: "node", node }];
    const all = (holder: XmlElement | undefined): (Item & { readonly kind: "mark" })[] =>
      loose.map((marker) => ({ kind: "mark", mark: this.structure(marker), holder }));
    if (this.part.structures.has(node)) return all(undefined);
    const gone = new Set(loose);
    const rest = without(node, gone);
    const place = this.part.places.get(node);
    if (place !== undefined) this.part.places.set(rest, place);
    const { isShown } = this.dialect;
    if (!hasShown(rest, isShown)) return all(node);
    const marks = all(undefined);
    // What begins in a paragraph or row that shows something holds it; what ends there held it.
    const shownBefore = shownBeforeMarks(node, gone, isShown);
    const before = marks.filter(
      ({ mark }, index) => isOpening(mark) || (mark.structure.kind === "otherwise" && !shownBefore[index]),
    );
    return [...before, { kind: "node", node: rest }, ...marks.filter((mark) => !before.includes(mark))];
  }

  /** The marks of structure in an element that are not matched inside it. */
  loose(element: XmlElement): XmlElement[] {
    if (this.part.structures.has(element)) {
      const { structure, where } = this.structure(element);
      if (structure.kind === "repeat" && structure.across && !this.dialect.goesAcross)
        throw new CorbixError("BAD_MARK", say().document.cannotUseDocument({ source: structure.source }), {
          where,
          advice: say().document.repeatRowsParagraphsColumnsRepeat(),
        });
      return [element];
    }
    if (!this.isTouched(element)) return [];
    const found = element
      .elements()
      .filter((child) => this.part.structures.get(child)?.isColumns !== true)
      .flatMap((child) => this.loose(child));
    // Cells of a row are not matched with each other: what begins in one and ends in another holds the whole row.
    const left = element.local === "tr" ? found : this.reduced(found);
    // A table takes the place of its paragraph.
    return this.dialect.ofParagraphs.has(element.local)
      ? left
      : left.filter((marker) => this.structure(marker).structure.kind !== "table");
  }

  private reduced(markers: readonly XmlElement[]): XmlElement[] {
    const left: XmlElement[] = [];
    for (const marker of markers) {
      const { kind } = this.structure(marker).structure;
      if (kind !== "end") {
        left.push(marker);
        continue;
      }
      let from = left.length - 1;
      while (
        from >= 0 &&
        !(isOpening(this.structure(left[from])) && this.structure(left[from]).structure.kind !== "table")
      )
        from--;
      if (from < 0) left.push(marker);
      else left.splice(from);
    }
    return left;
  }
}
