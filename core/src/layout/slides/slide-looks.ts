/** What a slide takes from its layout and master: theme, colours, places and looks of placeholders (ECMA-376 part 1, 19.3). */
import type { OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import { type Deck, isTitle, Placeholders, placeholderOf, rootsOf } from "../../slides/index.js";
import { readTheme, type Theme, withOverride } from "../../spreadsheet/index.js";
import type { TextSources } from "../drawing/text-body.js";
import { kept } from "../drawing/text-looks.js";
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

/** Themes by their root; decks of one template share it. */
const themes = new WeakMap<XmlElement, Theme>();
/** Themes with names of colours as masters, layouts and slides map them. */
const mapped = new WeakMap<Theme, Map<string, Theme>>();
const plainTheme: Theme = { ...readTheme(undefined), names: USUAL_NAMES };

/** The theme as a part maps the names of its colours. */
function mappedTheme(theme: Theme, root: XmlElement): Theme {
  const own = root.child("clrMap") ?? root.path("clrMapOvr", "overrideClrMapping");
  if (!own) return theme;
  return kept(mapped, theme, own.open, () => ({
    ...theme,
    names: { ...theme.names, ...Object.fromEntries(own.attributes) },
  }));
}

/** What text takes its looks from: by its theme, and by the placeholder it stands for or else the master. */
type SourcesByTheme = WeakMap<Theme, WeakMap<XmlElement, Map<string, TextSources>>>;
const sources: SourcesByTheme = new WeakMap();

function inTheme(all: SourcesByTheme, theme: Theme): WeakMap<XmlElement, Map<string, TextSources>> {
  const known = all.get(theme) ?? new WeakMap();
  all.set(theme, known);
  return known;
}

/** Looks of a deck's slides, read once for each layout and master. */
export class DeckLooks {
  private readonly opened: OoxmlPackage;
  private readonly holders = new Placeholders();
  /** How text looks where nobody says anything. */
  private readonly defaults: XmlElement | undefined;
  private readonly defaultsKey: string;
  /** Those of this deck. */
  private readonly given: SourcesByTheme = new WeakMap();

  constructor(readonly deck: Deck) {
    this.opened = deck.opened;
    this.defaults = deck.presentation.child("defaultTextStyle");
    this.defaultsKey = this.defaults?.toString() ?? "";
  }

  /** Those of a slide, or of a page of notes. */
  of(part: string): SlideLooks {
    const { deck, opened } = this;
    const [, ...chain] = rootsOf(deck, part);
    const root = opened.readXml(part);
    const behind = this.behind(chain);
    const parts = [{ part, root, theme: this.themeIn(part, root, behind[0]?.theme) }, ...behind];
    const { theme } = parts[0];
    const roots = parts.map((one) => one.root);
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

  private readonly known = new Map<string, readonly LookPart[]>();

  /** A layout with its master. */
  private behind(chain: readonly string[]): readonly LookPart[] {
    const key = chain.join("\n");
    const known = this.known.get(key);
    if (known) return known;
    const parts: LookPart[] = [];
    for (const part of [...chain].reverse()) {
      const root = this.opened.getXml(part);
      parts.unshift({ part, root, theme: this.themeIn(part, root, parts[0]?.theme) });
    }
    this.known.set(key, parts);
    return parts;
  }

  /** The theme as a part has it: that of what it stands on, or its own, with what it says over it. */
  private themeIn(part: string, root: XmlElement, behind: Theme | undefined): Theme {
    const override = this.deck.relatedPart(part, "themeOverride");
    const theme = behind ?? this.themeOf(part);
    return mappedTheme(override === undefined ? theme : withOverride(theme, this.opened.getXml(override)), root);
  }

  /** With the names of its colours as they are where nobody maps them. */
  private themeOf(master: string): Theme {
    const part = this.deck.relatedPart(master, "theme") ?? this.deck.relatedPart(this.opened.main, "theme");
    if (part === undefined) return plainTheme;
    const root = this.opened.getXml(part);
    let theme = themes.get(root);
    if (!theme) {
      theme = { ...readTheme(root), names: USUAL_NAMES };
      themes.set(root, theme);
    }
    return theme;
  }

  private sources(shape: XmlElement, origins: readonly XmlElement[], master: XmlElement, theme: Theme): TextSources {
    const own = placeholderOf(shape);
    const holder = origins.length > 0 ? placeholderOf(origins[0]) : own;
    const style = holder && styleFor(own?.type ?? "", holder.type);
    // The last of them says which the others are; a slide's own placeholder may stand for one of the layout, or of the master alone.
    const key = `${style} ${own?.type} ${origins.length}`;
    const from = origins[origins.length - 1] ?? master;
    const read = (): TextSources => this.readSources(origins, master, theme, style);
    return kept(inTheme(this.given, theme), from, key, () =>
      kept(inTheme(sources, theme), from, `${key} ${this.defaultsKey}`, read),
    );
  }

  private readSources(
    origins: readonly XmlElement[],
    master: XmlElement,
    theme: Theme,
    style: string | undefined,
  ): TextSources {
    const usual: RunProps = { size: 18, color: theme.colors[1] ?? "000000", font: theme.minorFont };
    const lists: (XmlElement | undefined)[] = [this.defaults];
    if (style) lists.push(master.child("notesStyle") ?? master.child("txStyles")?.child(style));
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
