/** A slide deck as its parts: slides in their order, with their layouts, masters and notes (ECMA-376 part 1, 13.3 and 19.2). */

import { CorbixError } from "../common/index.js";
import { OoxmlPackage, type XmlElement } from "../ooxml/index.js";
import { say } from "../words/index.js";

export interface DeckSlide {
  /** Its number in the deck, from 1. */
  readonly number: number;
  readonly part: string;
  readonly id: number;
  /** The relationship of the presentation that leads to it. */
  readonly relation: string;
  readonly isHidden: boolean;
}

export interface DeckSection {
  readonly name: string;
  /** Ids of its slides. */
  readonly slides: readonly number[];
}

/** Opens a deck's package. Throws `NOT_A_DECK`. */
export function openDeck(bytes: Uint8Array, where: string): OoxmlPackage {
  const isPackage = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const opened = isPackage ? OoxmlPackage.open(bytes, where) : undefined;
  const part = opened?.mainPart();
  if (opened && part && opened.has(part) && opened.getXml(part).local === "presentation") return opened;
  throw new CorbixError("NOT_A_DECK", say().slides.cannotReadFileDeck({ isEmpty: bytes.length === 0, isPackage }), {
    where,
    advice: say().slides.giveDeckFile(),
  });
}

/** The relationship attribute of an element, whatever its prefix: `r:id`. */
export function relationOf(element: XmlElement | undefined, name = "id"): string | undefined {
  return element && [...element.attributes].find(([key]) => key.endsWith(`:${name}`))?.[1];
}

export class Deck {
  readonly presentation: XmlElement;
  readonly slides: readonly DeckSlide[];
  /** In points. */
  readonly width: number;
  readonly height: number;

  constructor(readonly opened: OoxmlPackage) {
    this.presentation = opened.getXml(opened.main);
    const size = this.presentation.child("sldSz");
    this.width = Number(size?.attr("cx") ?? 9_144_000) / EMU;
    this.height = Number(size?.attr("cy") ?? 6_858_000) / EMU;
    const targets = new Map(opened.relationships(opened.main).map(({ id, target }) => [id, target]));
    this.slides = (this.presentation.child("sldIdLst")?.elements("sldId") ?? []).flatMap((element, index) => {
      const relation = relationOf(element) ?? "";
      const part = targets.get(relation);
      if (part === undefined || !opened.has(part)) return [];
      const shown = opened.readXml(part).attr("show");
      return [
        {
          number: index + 1,
          part,
          relation,
          id: Number(element.attr("id") ?? 0),
          isHidden: shown === "0" || shown === "false",
        },
      ];
    });
  }

  /** The part that a part leads to by a relationship of a type. */
  relatedPart(part: string, type: string): string | undefined {
    const found = this.opened.relationships(part).find((one) => one.type === type && !one.external);
    return found && this.opened.has(found.target) ? found.target : undefined;
  }

  /** Sections with their slides (an extension: [MS-PPTX] 2.6.1.4). */
  get sections(): DeckSection[] {
    return this.presentation.descendants("section").map((section) => ({
      name: section.attr("name") ?? "",
      slides: section.descendants("sldId").map((slide) => Number(slide.attr("id") ?? 0)),
    }));
  }
}

const EMU = 12_700;

/** A placeholder's kind and number; nothing for other shapes (19.3.1.36). */
export interface Placeholder {
  readonly type: string;
  readonly index: string;
}

/** What a shape is called by: `nvSpPr`, `nvPicPr`, … */
function nonVisual(shape: XmlElement): XmlElement | undefined {
  return shape.elements().find((one) => /^nv\w*Pr$/.test(one.local));
}

export function placeholderOf(shape: XmlElement): Placeholder | undefined {
  const holder = nonVisual(shape)?.path("nvPr", "ph");
  return holder && { type: holder.attr("type") ?? "obj", index: holder.attr("idx") ?? "0" };
}

/** Name, description and id of a shape. */
export function aboutShape(shape: XmlElement): XmlElement | undefined {
  return nonVisual(shape)?.child("cNvPr");
}

const TITLES: ReadonlySet<string> = new Set(["title", "ctrTitle"]);

export function isTitle(holder: Placeholder | undefined): boolean {
  return holder !== undefined && TITLES.has(holder.type);
}

const HOLDERS: ReadonlySet<string> = new Set(["cSld", "spTree", "grpSp", "AlternateContent", "Choice", "Fallback"]);

/** The shapes with text on a slide, those in groups too, in their order. */
export function* shapesOn(element: XmlElement): Generator<XmlElement> {
  for (const child of element.children) {
    if (child.kind !== "element") continue;
    if (child.local === "sp") yield child;
    else if (HOLDERS.has(child.local)) yield* shapesOn(child);
  }
}

/** The text of a slide's title; blank without one. */
export function titleOf(slide: XmlElement): string {
  for (const shape of shapesOn(slide)) {
    if (!isTitle(placeholderOf(shape))) continue;
    const words = (shape.child("txBody")?.elements("p") ?? []).map((paragraph) =>
      paragraph
        .elements()
        .map((one) => (one.local === "br" ? " " : (one.child("t")?.text ?? "")))
        .join(""),
    );
    const text = words.join(" ").replace(/\s+/g, " ").trim();
    if (text !== "") return text;
  }
  return "";
}
