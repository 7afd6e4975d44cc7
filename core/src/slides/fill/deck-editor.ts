/** A deck's package while it is filled: slides made again have parts of their own, and the presentation lists what there is. */
import { sha256 } from "../../common/index.js";
import { type MadeChart, WORKBOOK } from "../../marked/index.js";
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
import { type AddedRelation, pictureNamed } from "./slide-part.js";

const TYPES = "[Content_Types].xml";
const WORKBOOK_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

/** What a slide leads to and shares with others. */
const SHARED: ReadonlySet<string> = new Set([
  "slideLayout",
  "slideMaster",
  "notesMaster",
  "image",
  "media",
  "audio",
  "video",
  "theme",
  "slide",
  "hyperlink",
  "font",
]);

/** What a slide made again does not have: what was said about the first. */
const LEFT: ReadonlySet<string> = new Set(["comments", "comment"]);

/** A slide of the filled deck. */
export interface MadeSlide {
  readonly source: DeckSlide;
  /** Its part, and those that belong to it, by what they were. */
  readonly names: ReadonlyMap<string, string>;
  /** The section it stands in, by number; one for each time that section was made. */
  readonly section: string | undefined;
  readonly isHidden?: boolean | undefined;
}

export class DeckEditor {
  private readonly parts = new Map<string, string | Uint8Array | null>();
  /** Content types of parts that are new. */
  private readonly types = new Map<string, string>();
  private readonly endings = new Map<string, string>();
  private readonly taken: Set<string>;
  /** How many rows head a table that was filled, by its text. */
  readonly heads = new Map<string, number>();
  readonly deck: Deck;
  /** In English metric units. */
  readonly size: { readonly width: number; readonly height: number };

  constructor(
    readonly opened: OoxmlPackage,
    private readonly pictures: ReadonlyMap<string, Uint8Array>,
  ) {
    this.deck = new Deck(opened);
    this.taken = new Set(opened.names);
    this.size = { width: Math.round(this.deck.width * EMU), height: Math.round(this.deck.height * EMU) };
  }

  set(name: string, content: string | Uint8Array): void {
    this.parts.set(name, content);
  }

  remove(name: string): void {
    this.parts.set(name, null);
    const relations = relationshipsName(name);
    if (this.opened.has(relations) || this.parts.has(relations)) this.parts.set(relations, null);
  }

  namedPicture(text: string, where: string): Uint8Array | undefined {
    return pictureNamed(text, this.pictures, where);
  }

  /** A media part with these bytes; the same bytes are one part. */
  media(bytes: Uint8Array): string {
    const ending = bytes[0] === 0x89 ? "png" : "jpeg";
    const name = `ppt/media/corbix-${sha256(bytes).slice(0, 16)}.${ending}`;
    this.parts.set(name, bytes);
    this.endings.set(ending, `image/${ending}`);
    return name;
  }

  /** A chart part like another, with what leads from it to its looks, and a workbook of its own behind it. */
  chart(like: string, change: (chart: XmlElement) => MadeChart): string {
    const root = this.opened.getXml(like);
    const { chart, workbook } = change(root);
    const name = this.newName(like);
    const book = this.newName("ppt/embeddings/workbook1.xlsx");
    this.parts.set(book, workbook);
    this.endings.set("xlsx", WORKBOOK_TYPE);
    const text = this.opened.getText(like);
    this.parts.set(name, text.slice(0, text.indexOf(root.open)) + chart.toString());
    this.types.set(name, this.opened.contentType(like) ?? "");
    const kept = (this.opened.maybeXml(relationshipsName(like))?.elements() ?? []).filter(
      (one) => !/package$|oleObject$/.test(one.attr("Type") ?? ""),
    );
    const relation = `<Relationship Id="${WORKBOOK}" Type="${OFFICE_RELATIONS}/package" Target="${relativePath(name, book)}"/>`;
    this.parts.set(relationshipsName(name), relationshipsXml([...kept, relation]));
    return name;
  }

  /** A name like another that no part has: the next number behind it. */
  newName(like: string): string {
    const parts = /^(.*?)(\d*)(\.\w+)$/.exec(like);
    const [, stem, , ending] = parts ?? ["", like, "", ""];
    let number = this.numbers.get(`${stem}${ending}`) ?? 1;
    while (this.taken.has(`${stem}${number}${ending}`)) number++;
    this.numbers.set(`${stem}${ending}`, number + 1);
    const name = `${stem}${number}${ending}`;
    this.taken.add(name);
    return name;
  }

  /** What nothing leads to any more goes: pictures of slides that are not there, samples that others took the place of. */
  private dropUnreached(): void {
    const isCut = [...this.parts].some(([name, content]) => content === null || name.endsWith(".rels"));
    if (!isCut) return;
    const now = reachedIn(this.opened.with(this.parts));
    for (const part of reachedIn(this.opened)) if (!now.has(part) && this.parts.get(part) !== null) this.remove(part);
  }

  private readonly numbers = new Map<string, number>();

  /** Parts that belong to a slide alone: notes, charts with their workbooks, diagrams, tags. */
  ownParts(part: string, found = new Set<string>()): ReadonlySet<string> {
    if (found.has(part)) return found;
    found.add(part);
    for (const relation of this.opened.relationships(part))
      if (
        !relation.external &&
        !SHARED.has(relation.type) &&
        !LEFT.has(relation.type) &&
        this.opened.has(relation.target)
      )
        this.ownParts(relation.target, found);
    return found;
  }

  /** Names for a slide made again, and for all that belongs to it. */
  copyNames(part: string): ReadonlyMap<string, string> {
    return new Map([...this.ownParts(part)].map((own) => [own, this.newName(own)]));
  }

  /** The parts of a slide made again as they are, with what leads to the others of them; filled ones are set afterwards. */
  copy(names: ReadonlyMap<string, string>): void {
    for (const [from, to] of names) {
      this.parts.set(to, this.opened.getBytes(from));
      const type = this.opened.contentType(from);
      if (type !== undefined) this.types.set(to, type);
    }
  }

  /** Relationships of a part under its new name, with those that filling adds and drops. */
  relate(
    from: string,
    to: string,
    names: ReadonlyMap<string, string>,
    added: readonly AddedRelation[],
    dropped: ReadonlySet<string>,
  ): void {
    const isCopy = from !== to;
    const source = relationshipsName(from);
    const isThere = this.opened.has(source);
    if (!isCopy && added.length === 0 && dropped.size === 0) return;
    if (!isThere && added.length === 0) return;
    const kept = (isThere ? this.opened.getXml(source).elements() : []).flatMap((element, index): XmlElement[] => {
      const relation = this.opened.relationships(from)[index];
      if (dropped.has(relation.id)) return [];
      if (!isCopy || relation.external) return [element];
      if (LEFT.has(relation.type)) return [];
      const target = names.get(relation.target);
      return [target === undefined ? element : element.withAttr("Target", relativePath(to, target))];
    });
    const more = added.map(({ id, type, target, isExternal }) =>
      xmlElement("Relationship", {
        Id: id,
        Type: type,
        Target: isExternal ? target : relativePath(to, target),
        ...(isExternal ? { TargetMode: "External" } : {}),
      }),
    );
    this.parts.set(relationshipsName(to), relationshipsXml([...kept, ...more]));
  }

  /** The presentation with its slides in a new order, sections with them; slides that are not among them are taken out. */
  arrange(
    slides: readonly MadeSlide[],
    sections: ReadonlyMap<string, { readonly like: number; readonly name: string }>,
  ): void {
    const main = this.opened.main;
    const { presentation } = this.deck;
    const kept = new Set(slides.map((slide) => slide.names.get(slide.source.part)));
    const isSame =
      slides.length === this.deck.slides.length &&
      slides.every(
        (slide, at) =>
          slide.source.id === this.deck.slides[at].id && slide.names.get(slide.source.part) === slide.source.part,
      );
    if (isSame && [...sections.values()].every(({ like, name }) => this.deck.sections[like]?.name === name)) return;
    for (const slide of this.deck.slides)
      if (!kept.has(slide.part)) for (const part of this.ownParts(slide.part)) this.remove(part);
    let nextId = Math.max(255, ...this.deck.slides.map((slide) => slide.id)) + 1;
    const used = new Set<string>();
    const list: XmlElement[] = [];
    const relations: string[] = [];
    const inSections = new Map<string, number[]>();
    const original = new Map(
      (presentation.child("sldIdLst")?.elements("sldId") ?? []).map((one) => [relationOf(one), one]),
    );
    slides.forEach((slide) => {
      const name = slide.names.get(slide.source.part) ?? slide.source.part;
      const element = original.get(slide.source.relation);
      if (!element) return;
      let made = element;
      let { id } = slide.source;
      if (used.has(slide.source.relation) || name !== slide.source.part) {
        id = nextId++;
        const relation = `corbixSlide${id}`;
        const attribute = [...element.attributes.keys()].find((key) => key.endsWith(":id")) ?? "r:id";
        made = element.withAttr("id", String(id)).withAttr(attribute, relation);
        relations.push(
          xmlElement("Relationship", {
            Id: relation,
            Type: `${OFFICE_RELATIONS}/slide`,
            Target: relativePath(main, name),
          }).toString(),
        );
      } else used.add(slide.source.relation);
      list.push(made);
      if (slide.section !== undefined) inSections.set(slide.section, [...(inSections.get(slide.section) ?? []), id]);
    });
    this.writePresentation(main, list, inSections, sections);
    const gone = new Set(this.deck.slides.filter((slide) => !used.has(slide.relation)).map((slide) => slide.relation));
    const names = relationshipsName(main);
    const kids = this.opened
      .getXml(names)
      .elements()
      .filter((one) => !gone.has(one.attr("Id") ?? ""));
    this.parts.set(names, relationshipsXml([...kids, ...relations]));
  }

  /** Sections as they are: the one a slide stands in, and all of them, by number. */
  sections(): {
    readonly keyOf: (slide: DeckSlide) => string | undefined;
    readonly made: ReadonlyMap<string, { readonly like: number; readonly name: string }>;
  } {
    const all = this.deck.sections;
    return {
      made: new Map(all.map(({ name }, like) => [String(like), { like, name }])),
      keyOf: ({ id }) => {
        const at = all.findIndex(({ slides }) => slides.includes(id));
        return at < 0 ? undefined : String(at);
      },
    };
  }

  private writePresentation(
    main: string,
    slides: readonly XmlElement[],
    inSections: ReadonlyMap<string, readonly number[]>,
    sections: ReadonlyMap<string, { readonly like: number; readonly name: string }>,
  ): void {
    const { presentation } = this.deck;
    const known = presentation.descendants("section");
    const change = (element: XmlElement): XmlElement => {
      if (element.local === "sldIdLst" && element.name.startsWith(presentation.prefix))
        return element.withChildren(slides);
      if (element.local === "sectionLst") {
        let copies = 0;
        const made = [...sections].map(([key, { like, name }]) => {
          const section = known[like];
          const list = section.child("sldIdLst");
          const ids = (inSections.get(key) ?? []).map((id) => xmlElement(`${section.prefix}sldId`, { id: String(id) }));
          const named = section.withAttr("name", name);
          // Each section has an id of its own.
          const own =
            key === String(like) ? named : named.withAttr("id", sectionId(`${section.attr("id")} ${++copies}`));
          return own.withChildren(
            own.children.map((child) => (child === list ? (list as XmlElement).withChildren(ids) : child)),
          );
        });
        return element.withChildren(made);
      }
      return element.withChildren(
        element.children.map((child): XmlNode => (child.kind === "element" ? change(child) : child)),
      );
    };
    const text = this.opened.getText(main);
    this.parts.set(main, text.slice(0, text.indexOf(presentation.open)) + change(presentation).toString());
  }

  finish(): OoxmlPackage {
    this.dropUnreached();
    const types = this.opened.getText(TYPES);
    const gone = [...this.parts].filter(([, content]) => content === null).map(([name]) => name);
    const overrides = [...this.types]
      .filter(([name]) => this.parts.get(name) !== null)
      .map(([name, type]) => `<Override PartName="/${escapeXml(name)}" ContentType="${escapeXml(type)}"/>`);
    const defaults = [...this.endings]
      .filter(([ending]) => !types.includes(`Extension="${ending}"`))
      .map(([ending, type]) => `<Default Extension="${ending}" ContentType="${type}"/>`);
    if (overrides.length + defaults.length + gone.length > 0) {
      const removed = new Set(gone.map((name) => `/${name}`));
      this.parts.set(
        TYPES,
        types
          .replace(/<Override\b[^>]*?PartName="([^"]*)"[^>]*\/>/g, (whole, name: string) =>
            removed.has(name) ? "" : whole,
          )
          .replace(/(<Types\b[^>]*>)/, (open) => open + defaults.join(""))
          .replace(/<\/Types>\s*$/, (end) => overrides.join("") + end),
      );
    }
    return this.parts.size === 0 ? this.opened : this.opened.with(this.parts);
  }
}

const EMU = 12_700;

/** Parts that relationships lead to, from the package on. */
function reachedIn(opened: OoxmlPackage): Set<string> {
  const reached = new Set<string>();
  const visit = (part: string): void => {
    for (const { external, target } of opened.relationships(part)) {
      if (external || reached.has(target) || !opened.has(target)) continue;
      reached.add(target);
      visit(target);
    }
  };
  visit("");
  return reached;
}

/** A way from one part to another. */
export function relativePath(from: string, to: string): string {
  const [source, target] = [from.split("/").slice(0, -1), to.split("/")];
  let same = 0;
  while (same < source.length && same < target.length - 1 && source[same] === target[same]) same++;
  return [...source.slice(same).map(() => ".."), ...target.slice(same)].join("/");
}

/** An id in the form that sections have. */
function sectionId(seed: string): string {
  const digits = sha256(Buffer.from(seed)).slice(0, 32).toUpperCase();
  return `{${digits.slice(0, 8)}-${digits.slice(8, 12)}-${digits.slice(12, 16)}-${digits.slice(16, 20)}-${digits.slice(20)}}`;
}
