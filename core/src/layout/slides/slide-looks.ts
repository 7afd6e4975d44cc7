/** What a slide takes from its layout and master: theme, colours, places and looks of placeholders (ECMA-376 part 1, 19.3). */
import type { OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import { type Deck, isTitle, Placeholders, placeholderOf, rootsOf } from "../../slides/index.js";
import { readTheme, type Theme } from "../../spreadsheet/index.js";
import type { TextSources } from "../drawing/text-body.js";
import type { RunProps } from "../text/props.js";

/** Names of colours as a master maps them, where it says nothing (19.3.1.6). */
const USUAL_NAMES: Readonly<Record<string, string>> = { bg1: "lt1", tx1: "dk1", bg2: "lt2", tx2: "dk2" };

/** A part that slides are drawn from: the slide itself, its layout, its master. */
export interface LookPart {
  readonly part: string;
  readonly root: XmlElement;
  readonly theme: Theme;
}

export interface SlideLooks {
  /** The slide's own, and behind it its layout and its master. */
  readonly parts: readonly LookPart[];
  readonly theme: Theme;
  /** Where a shape takes its place and looks from: placeholders it stands for, the master's first. */
  readonly origins: (shape: XmlElement, from: number) => readonly XmlElement[];
  readonly text: (shape: XmlElement, from: number) => TextSources;
  /** The frame of a shape of the slide: its own, or that of a placeholder it stands for. */
  readonly frameOf: (shape: XmlElement) => XmlElement | undefined;
}

/** Looks of a deck's slides, read once for each layout and master. */
export class DeckLooks {
  private readonly opened: OoxmlPackage;
  private readonly themes = new Map<string, Theme>();
  private readonly holders = new Placeholders();

  constructor(readonly deck: Deck) {
    this.opened = deck.opened;
  }

  /** Those of a slide, or of a page of notes. */
  of(part: string): SlideLooks {
    const { deck, opened } = this;
    const chain = rootsOf(deck, part);
    const master = chain[chain.length - 1];
    const base = this.themeOf(master);
    let names = { ...USUAL_NAMES };
    const roots = chain.map((name) => opened.getXml(name));
    const parts: LookPart[] = [];
    for (let at = chain.length - 1; at >= 0; at--) {
      const own = roots[at].child("clrMap") ?? roots[at].path("clrMapOvr", "overrideClrMapping");
      if (own) names = { ...names, ...Object.fromEntries(own.attributes) };
      parts.unshift({ part: chain[at], root: roots[at], theme: { ...base, names } });
    }
    const { theme } = parts[0];
    const origins = (shape: XmlElement, from: number): readonly XmlElement[] =>
      this.holders.originsOf(shape, roots, from);
    return {
      parts,
      theme,
      origins,
      frameOf: (shape) => this.holders.frameOf(shape, roots),
      text: (shape, from) => this.sources(shape, origins(shape, from), roots[roots.length - 1], theme),
    };
  }

  private themeOf(master: string): Theme {
    const part = this.deck.relatedPart(master, "theme") ?? this.deck.relatedPart(this.opened.main, "theme");
    const known = this.themes.get(part ?? "");
    if (known) return known;
    const theme = readTheme(part === undefined ? undefined : this.opened.getXml(part));
    this.themes.set(part ?? "", theme);
    return theme;
  }

  private sources(shape: XmlElement, origins: readonly XmlElement[], master: XmlElement, theme: Theme): TextSources {
    const holder = placeholderOf(origins[0] ?? shape) ?? placeholderOf(shape);
    const usual: RunProps = { size: 18, color: theme.colors[1] ?? "000000", font: theme.minorFont };
    const styles = master.child("txStyles");
    const lists: (XmlElement | undefined)[] = [this.deck.presentation.child("defaultTextStyle")];
    if (holder)
      lists.push(master.child("notesStyle") ?? styles?.child(styleFor(placeholderOf(shape)?.type ?? "", holder.type)));
    const bodies = origins.map((origin) => origin.path("txBody", "bodyPr"));
    for (const origin of origins) lists.push(origin.path("txBody", "lstStyle"));
    const isThere = (one: XmlElement | undefined): one is XmlElement => one !== undefined;
    return { lists: lists.filter(isThere), bodies: bodies.filter(isThere), usual };
  }
}

/** The master's style for text of a placeholder (19.3.1.52). */
function styleFor(own: string, inherited: string): string {
  const type = own === "" || own === "obj" ? inherited : own;
  if (isTitle({ type, index: "" })) return "titleStyle";
  return ["dt", "ftr", "sldNum", "hdr"].includes(type) ? "otherStyle" : "bodyStyle";
}
