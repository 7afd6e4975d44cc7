/** Slides of one deck put into another, with all that belongs to them; what both have alike is there once. */
import { made } from "../../common/index.js";
import {
  escapeXml,
  OFFICE_RELATIONS,
  type OoxmlPackage,
  relationshipsName,
  relationshipsXml,
  type XmlElement,
  type XmlNode,
  xmlElement,
} from "../../ooxml/index.js";
import { Deck, type DeckSlide, relationOf } from "../deck.js";
import { relativePath } from "../fill/deck-editor.js";

const TYPES = "[Content_Types].xml";

/** Parts that many slides share: where they are alike, those of the deck that is added to serve. */
const SHARED: ReadonlySet<string> = new Set([
  "slideLayout",
  "slideMaster",
  "notesMaster",
  "theme",
  "image",
  "media",
  "audio",
  "video",
]);

/** Ids of masters and layouts begin here (19.2.1.35). */
const MASTER_IDS = 2_147_483_648;

export interface JoinedDeck {
  readonly package: OoxmlPackage;
  /** Ids of the slides that were added, in their order. */
  readonly ids: readonly number[];
}

/**
 * Puts slides behind the place `at` (0 for the beginning) of a deck, into the section `section` if given. Slides keep their looks:
 * a layout that is not alike in the deck comes along with its master.
 */
export function joinDecks(
  base: OoxmlPackage,
  addition: OoxmlPackage,
  slides: readonly DeckSlide[],
  { at, section }: { readonly at: number; readonly section?: string | undefined },
): JoinedDeck {
  return new DeckJoiner(base, addition.inFormOf(base)).join(slides, at, section);
}

class DeckJoiner {
  private readonly parts = new Map<string, string | Uint8Array | null>();
  private readonly types: string[] = [];
  private readonly taken: Set<string>;
  /** What parts of the addition are called in the deck. */
  private readonly names = new Map<string, string>();
  private readonly into: Deck;
  private readonly masters: string[] = [];

  constructor(
    private readonly base: OoxmlPackage,
    private readonly addition: OoxmlPackage,
  ) {
    this.into = new Deck(base);
    this.taken = new Set(base.names);
  }

  join(slides: readonly DeckSlide[], at: number, section: string | undefined): JoinedDeck {
    for (const slide of slides) this.names.set(slide.part, this.newName(slide.part));
    for (const slide of slides) this.bring(slide.part);
    let next = Math.max(255, ...this.into.slides.map(({ id }) => id)) + 1;
    const ids = slides.map(() => next++);
    this.presentation(slides, ids, at, section);
    this.contentTypes();
    return { package: this.base.with(this.parts), ids };
  }

  private newName(like: string): string {
    const [, stem, ending] = /^(.*?)\d*(\.\w+)$/.exec(like) ?? ["", like, ""];
    let number = 1;
    while (this.taken.has(`${stem}${number}${ending}`)) number++;
    const name = `${stem}${number}${ending}`;
    this.taken.add(name);
    return name;
  }

  /** The name of a part in the deck: that of one that is alike, or of its own once it was brought. */
  private place(part: string, type: string): string {
    const known = this.names.get(part);
    if (known !== undefined) return known;
    const alike = SHARED.has(type) && this.isAlike(part) ? part : this.sameNotes(type);
    if (alike !== undefined) {
      this.names.set(part, alike);
      return alike;
    }
    const name = this.newName(part);
    this.names.set(part, name);
    this.bring(part);
    if (type === "slideMaster") this.masters.push(name);
    return name;
  }

  /** A deck has one master of notes. */
  private sameNotes(type: string): string | undefined {
    return type === "notesMaster" ? this.into.relatedPart(this.base.main, "notesMaster") : undefined;
  }

  /** Whether a part, and what it takes its looks from, is the same in both decks. */
  private isAlike(part: string): boolean {
    if (!this.base.has(part)) return false;
    const [own, other] = [this.addition.getBytes(part), this.base.getBytes(part)];
    if (own.length !== other.length || !own.every((byte, index) => byte === other[index])) return false;
    return this.addition
      .relationships(part)
      .every(
        ({ type, target, external }) =>
          external || !["slideMaster", "theme", "image"].includes(type) || this.isAlike(target),
      );
  }

  private bring(part: string): void {
    const name = made(this.names.get(part), "the name of a part that is brought");
    this.parts.set(name, this.addition.getBytes(part));
    this.types.push(
      `<Override PartName="/${escapeXml(name)}" ContentType="${escapeXml(this.addition.contentType(part) ?? "application/xml")}"/>`,
    );
    const source = relationshipsName(part);
    if (!this.addition.has(source)) return;
    const relations = this.addition.relationships(part);
    const kept = this.addition
      .getXml(source)
      .elements()
      .flatMap((element, index): XmlElement[] => {
        const { type, target, external } = relations[index];
        if (external) return [element];
        // Links to slides that stay behind lead nowhere, and what was said about a slide stays with it.
        if (type === "slide" && !this.names.has(target)) return [];
        if (type === "comments" || !this.addition.has(target)) return [];
        return [element.withAttr("Target", relativePath(name, this.place(target, type)))];
      });
    this.parts.set(relationshipsName(name), relationshipsXml(kept));
  }

  private presentation(
    slides: readonly DeckSlide[],
    ids: readonly number[],
    at: number,
    section: string | undefined,
  ): void {
    const { base, into } = this;
    const main = base.main;
    const names = relationshipsName(main);
    const relations: string[] = [];
    const relate = (id: string, type: string, target: string): void => {
      const attributes = { Id: id, Type: `${OFFICE_RELATIONS}/${type}`, Target: relativePath(main, target) };
      relations.push(xmlElement("Relationship", attributes).toString());
    };
    const list = into.presentation.child("sldIdLst");
    const like =
      list?.elements("sldId")[0] ?? xmlElement(`${into.presentation.prefix}sldId`, { id: "256", "r:id": "" });
    const attribute = [...like.attributes.keys()].find((key) => key.endsWith(":id")) ?? "r:id";
    const added = slides.map((slide, index) => {
      const id = `corbixSlide${ids[index]}`;
      relate(id, "slide", made(this.names.get(slide.part), "the name of a slide"));
      return like.withAttr("id", String(ids[index])).withAttr(attribute, id);
    });
    let nextMaster = this.highestMaster() + 1;
    const masters = this.masters.map((name) => {
      const id = `corbixMaster${nextMaster}`;
      relate(id, "slideMaster", name);
      const element = xmlElement(`${into.presentation.prefix}sldMasterId`, { id: String(nextMaster++), "r:id": id });
      nextMaster = this.numberLayouts(name, nextMaster);
      return element;
    });
    const change = (element: XmlElement): XmlElement => {
      const own = element.elements();
      if (element.name === `${into.presentation.prefix}sldMasterIdLst`)
        return element.withChildren([...own, ...masters]);
      if (element.name === `${into.presentation.prefix}sldIdLst`)
        return element.withChildren([...own.slice(0, at), ...added, ...own.slice(at)]);
      if (element.local === "section") return withSlides(element, ids, this.into, at, section);
      return element.withChildren(
        element.children.map((child): XmlNode => (child.kind === "element" ? change(child) : child)),
      );
    };
    const text = base.getText(main);
    let changed = change(into.presentation);
    if (!list)
      changed = changed.withChildren(
        changed.children.flatMap((child) =>
          child.kind === "element" && child.local === "sldSz"
            ? [xmlElement(`${into.presentation.prefix}sldIdLst`, {}, added), child]
            : [child],
        ),
      );
    this.parts.set(main, text.slice(0, text.indexOf(into.presentation.open)) + changed.toString());
    this.parts.set(
      names,
      base.getText(names).replace(/<\/Relationships>/, (end) => relations.join("") + end),
    );
  }

  private highestMaster(): number {
    const { base, into } = this;
    const roots = base.names.filter((name) => /slideMasters\/[^/]+\.xml$/.test(name)).map((name) => base.getXml(name));
    const ids = [into.presentation, ...roots].flatMap((root) =>
      [...root.descendants("sldMasterId"), ...root.descendants("sldLayoutId")].map((one) =>
        Number(one.attr("id") ?? 0),
      ),
    );
    return Math.max(MASTER_IDS, ...ids);
  }

  /** Layouts of a master that came along get ids that nothing else has; those that stayed behind are not in its list. */
  private numberLayouts(master: string, from: number): number {
    let next = from;
    const source = made([...this.names].find(([, name]) => name === master)?.[0], "the master that was brought");
    const root = this.addition.getXml(source);
    const text = this.addition.getText(source);
    const targets = new Map(this.addition.relationships(source).map(({ id, target }) => [id, target]));
    const change = (element: XmlElement): XmlElement => {
      if (element.local === "sldLayoutIdLst")
        return element.withChildren(
          element
            .elements("sldLayoutId")
            .filter((one) => this.names.has(targets.get(relationOf(one) ?? "") ?? ""))
            .map((one) => one.withAttr("id", String(next++))),
        );
      return element.withChildren(element.children.map((child) => (child.kind === "element" ? change(child) : child)));
    };
    this.parts.set(master, text.slice(0, text.indexOf(root.open)) + change(root).toString());
    return next;
  }

  private contentTypes(): void {
    const types = this.base.getText(TYPES);
    this.parts.set(
      TYPES,
      types.replace(/<\/Types>\s*$/, (end) => [...new Set(this.types)].join("") + end),
    );
  }
}

/** A section with slides that are put in behind a place: the one that is named, else the one the slide before them stands in. */
function withSlides(
  element: XmlElement,
  ids: readonly number[],
  deck: Deck,
  at: number,
  wanted: string | undefined,
): XmlElement {
  const list = element.child("sldIdLst");
  if (!list) return element;
  const slides = list.elements("sldId");
  const before = deck.slides[at - 1]?.id;
  const named = deck.sections.some(({ name }) => name === wanted);
  const isFirst = at === 0 && deck.sections[0]?.name === element.attr("name");
  const isMine = named
    ? element.attr("name") === wanted
    : isFirst || slides.some((one) => Number(one.attr("id")) === before);
  if (!isMine) return element;
  const behind = at === 0 ? 0 : slides.findIndex((one) => Number(one.attr("id")) === before) + 1;
  const position = behind === 0 && at > 0 ? slides.length : behind;
  const own = ids.map((id) => xmlElement(`${element.prefix}sldId`, { id: String(id) }));
  const made = list.withChildren([...slides.slice(0, position), ...own, ...slides.slice(position)]);
  return element.withChildren(element.children.map((child) => (child === list ? made : child)));
}
