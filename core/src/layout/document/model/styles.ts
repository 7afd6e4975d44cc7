import { LRUCache } from "lru-cache";
import type { OoxmlPackage, XmlElement } from "../../../ooxml/index.js";
import { isTrue, readTheme, type Theme } from "../../../spreadsheet/index.js";
import type { ParagraphLine, ParagraphProps, RunProps } from "../../text/props.js";
import { mergeParagraph, readBorders, readParagraphProps, readRunProps, shadingOf, toggle, twips } from "./props.js";

interface Style {
  readonly basedOn: string | undefined;
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
  readonly table: TableStyle;
}

type Lines = Readonly<Record<string, ParagraphLine | undefined>>;

/** Looks that a table style gives to some of its cells: 17.7.6. */
export interface CellLooks {
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
  readonly borders: Lines;
  readonly shading: string | undefined;
  readonly vertical: string | undefined;
}

export interface TableStyle {
  readonly borders: Lines;
  readonly margins: Readonly<Record<string, number>>;
  /** Shading of all cells. */
  readonly shading: string | undefined;
  /** Rows and columns that make a band. */
  readonly bands: { readonly rows: number | undefined; readonly columns: number | undefined };
  /** By the name of the condition: `firstRow`, `band1Horz`, … */
  readonly conditions: Readonly<Record<string, CellLooks>>;
}

/** The table a paragraph stands in: its style, and which of the style's conditions its cell meets, weakest first. */
export interface TableContext {
  readonly style: string | undefined;
  readonly conditions: readonly string[];
  /** Both as one text. */
  readonly key: string;
}

const NO_TABLE: TableStyle = {
  borders: {},
  margins: {},
  shading: undefined,
  bands: { rows: undefined, columns: undefined },
  conditions: {},
};
const NO_STYLE: Style = { basedOn: undefined, paragraph: {}, run: {}, table: NO_TABLE };
const CACHE = new WeakMap<XmlElement, DocumentStyles>();
/** Half an inch: tab stops where neither paragraph nor document sets any. */
const DEFAULT_TAB = 36;

/** Styles with their inheritance resolved: ECMA-376 part 1, 17.7. */
export class DocumentStyles {
  readonly theme: Theme;
  /** Which generation of layout rules the document asks for; 15 is the newest. */
  readonly compatibilityMode: number;
  readonly evenAndOddHeaders: boolean;
  readonly defaultTab: number;
  /** Lines may be broken inside words. */
  readonly hyphenates: boolean;
  private readonly styles = new Map<string, Style>();
  private readonly byName = new Map<string, string>();
  private readonly defaults: { readonly paragraph: ParagraphProps; readonly run: RunProps };
  private readonly defaultIds = new Map<string, string>();
  private readonly resolved = new Map<string, Style>();

  /** The styles of a document; files filled from one template share them, as long as they share what they are read from. */
  static of(opened: OoxmlPackage, documentPart: string): DocumentStyles {
    const relations = opened.relationships(documentPart);
    const sources = ["styles", "settings", "theme"].map((type) =>
      opened.maybeXml(relations.find((relation) => relation.type === type)?.target ?? ""),
    );
    const [key] = sources;
    const known = key && CACHE.get(key);
    if (known?.sources.every((source, index) => source === sources[index])) return known;
    const styles = new DocumentStyles(sources);
    if (key) CACHE.set(key, styles);
    return styles;
  }

  private constructor(private readonly sources: readonly (XmlElement | undefined)[]) {
    const [xml, settings, theme] = sources;
    this.theme = readTheme(theme);
    this.evenAndOddHeaders = settings ? (toggle(settings, "evenAndOddHeaders") ?? false) : false;
    this.hyphenates = settings ? (toggle(settings, "autoHyphenation") ?? false) : false;
    this.defaultTab = twips(settings?.child("defaultTabStop")?.attr("w:val")) || DEFAULT_TAB;
    const mode = settings
      ?.child("compat")
      ?.elements("compatSetting")
      .find((setting) => setting.attr("w:name") === "compatibilityMode");
    this.compatibilityMode = Number(mode?.attr("w:val") ?? 12);
    const defaults = xml?.child("docDefaults");
    this.defaults = {
      paragraph: readParagraphProps(defaults?.path("pPrDefault", "pPr"), this.theme),
      run: { font: "Times New Roman", size: 10, ...readRunProps(defaults?.path("rPrDefault", "rPr"), this.theme) },
    };
    for (const style of xml?.elements("style") ?? []) {
      const id = style.attr("w:styleId") ?? "";
      if (isTrue(style.attr("w:default"))) this.defaultIds.set(style.attr("w:type") ?? "paragraph", id);
      this.byName.set((style.child("name")?.attr("w:val") ?? id).toLowerCase(), id);
      this.styles.set(id, {
        basedOn: style.child("basedOn")?.attr("w:val"),
        paragraph: { ...headingLevel(style), ...readParagraphProps(style.child("pPr"), this.theme) },
        run: readRunProps(style.child("rPr"), this.theme),
        table: readTableStyle(style, this.theme),
      });
    }
  }

  /** The id of a style by the name people see. */
  idOf(name: string): string | undefined {
    return this.byName.get(name.toLowerCase());
  }

  /** A paragraph's properties: defaults, its style's chain, then its own; `table` stands between defaults and style. */
  paragraph(own: ParagraphProps, table?: TableContext): ParagraphProps {
    const key = table?.key ?? "";
    const known = this.resolvedParagraphs.get(own)?.get(key);
    if (known) return known;
    const made = this.resolveParagraph(own, table);
    const styles = this.resolvedParagraphs.get(own) ?? new Map<string, ParagraphProps>();
    this.resolvedParagraphs.set(own, styles);
    styles.set(key, made);
    return made;
  }

  private readonly resolvedParagraphs = new WeakMap<ParagraphProps, Map<string, ParagraphProps>>();

  private resolveParagraph(own: ParagraphProps, table?: TableContext): ParagraphProps {
    const id = own.style ?? this.defaultIds.get("paragraph");
    let base = this.defaults.paragraph;
    if (table) {
      const style = this.style(table.style);
      base = mergeParagraph(base, style.paragraph);
      for (const name of table.conditions) {
        const looks = style.table.conditions[name];
        if (looks) base = mergeParagraph(base, looks.paragraph);
      }
    }
    return mergeParagraph(mergeParagraph(base, this.style(id).paragraph), own);
  }

  private readonly runs = new Properties((element): RunProps => readRunProps(element, this.theme));
  private readonly paragraphs = new Properties((element): ParagraphProps => readParagraphProps(element, this.theme));

  /** Own properties of a paragraph, read once for all that are written alike. */
  paragraphProps(pPr: XmlElement | undefined): ParagraphProps {
    return this.paragraphs.of(pPr);
  }

  /** Own properties of a run, as `paragraphProps`. */
  runProps(rPr: XmlElement | undefined): RunProps {
    return this.runs.of(rPr);
  }

  /** A run's properties: defaults, table style, paragraph style, character style, its own. */
  run(own: RunProps, paragraphStyle: string | undefined, table?: TableContext): RunProps {
    const styles = this.resolvedRuns.get(own) ?? new Map<string, RunProps>();
    this.resolvedRuns.set(own, styles);
    const key = table ? `${paragraphStyle ?? ""}|${table.key}` : (paragraphStyle ?? "");
    const known = styles.get(key);
    if (known) return known;
    const made = this.resolveRun(own, paragraphStyle, table);
    styles.set(key, made);
    return made;
  }

  private readonly resolvedRuns = new WeakMap<RunProps, Map<string, RunProps>>();

  private resolveRun(own: RunProps, paragraphStyle: string | undefined, table?: TableContext): RunProps {
    const style = table && this.style(table.style);
    const conditions = style ? table.conditions.map((name) => style.table.conditions[name]?.run) : [];
    const layers: readonly (RunProps | undefined)[] = [
      this.defaults.run,
      style?.run,
      ...conditions,
      this.style(paragraphStyle ?? this.defaultIds.get("paragraph")).run,
      this.style(own.style).run,
      own,
    ];
    const whole: RunProps = Object.assign({}, ...layers);
    return whole;
  }

  table(id: string | undefined): TableStyle {
    return this.style(id ?? this.defaultIds.get("table")).table;
  }

  get defaultTable(): string | undefined {
    return this.defaultIds.get("table");
  }

  private style(id: string | undefined): Style {
    if (id === undefined) return NO_STYLE;
    const known = this.resolved.get(id);
    if (known) return known;
    const own = this.styles.get(id);
    if (!own) return NO_STYLE;
    // Set before the base is looked up, so that a style based on itself ends.
    this.resolved.set(id, own);
    const base = this.style(own.basedOn);
    const style: Style = {
      basedOn: own.basedOn,
      paragraph: mergeParagraph(base.paragraph, own.paragraph),
      run: { ...base.run, ...own.run },
      table: mergeTable(base.table, own.table),
    };
    this.resolved.set(id, style);
    return style;
  }
}

/** The heading styles that all programs know by name have their level by it, whether their definition says so or not. */
function headingLevel(style: XmlElement): ParagraphProps {
  const level = /^heading ([1-9])$/i.exec(style.child("name")?.attr("w:val") ?? "")?.[1];
  return level === undefined ? {} : { outlineLevel: Number(level) - 1 };
}

const NONE = {};
/** Different ways to write properties that are kept. */
const KEPT = 5_000;

/** Properties read once for all elements that are written alike: by the element, which a part shares, then by its text. */
class Properties<T extends object> {
  private readonly byElement = new WeakMap<XmlElement, T>();
  private readonly byText = new LRUCache<string, T>({ max: KEPT });

  constructor(private readonly read: (element: XmlElement) => T) {}

  of(element: XmlElement | undefined): T {
    if (!element || element.children.length === 0) return NONE as T;
    const known = this.byElement.get(element);
    if (known) return known;
    const key = element.toString();
    const found = this.byText.get(key) ?? this.read(element);
    this.byText.set(key, found);
    this.byElement.set(element, found);
    return found;
  }
}

function mergeTable(base: TableStyle, own: TableStyle): TableStyle {
  const conditions: Record<string, CellLooks> = { ...base.conditions };
  for (const [name, looks] of Object.entries(own.conditions)) {
    const below = conditions[name];
    conditions[name] = below
      ? {
          paragraph: mergeParagraph(below.paragraph, looks.paragraph),
          run: { ...below.run, ...looks.run },
          borders: { ...below.borders, ...looks.borders },
          shading: looks.shading ?? below.shading,
          vertical: looks.vertical ?? below.vertical,
        }
      : looks;
  }
  return {
    borders: { ...base.borders, ...own.borders },
    margins: { ...base.margins, ...own.margins },
    shading: own.shading ?? base.shading,
    bands: { rows: own.bands.rows ?? base.bands.rows, columns: own.bands.columns ?? base.bands.columns },
    conditions,
  };
}

function readTableStyle(style: XmlElement, theme: Theme): TableStyle {
  const tblPr = style.child("tblPr");
  const count = (name: string): number | undefined => {
    const value = tblPr?.child(name)?.attr("w:val");
    return value === undefined ? undefined : Number(value);
  };
  return {
    ...readTableLooks(tblPr, theme),
    shading: shadingOf(style.child("tcPr"), theme),
    bands: { rows: count("tblStyleRowBandSize"), columns: count("tblStyleColBandSize") },
    conditions: Object.fromEntries(
      style.elements("tblStylePr").map((one) => {
        const cell = one.child("tcPr");
        const borders = cell?.child("tcBorders") ?? one.child("tblPr")?.child("tblBorders");
        return [
          one.attr("w:type") ?? "",
          {
            paragraph: readParagraphProps(one.child("pPr"), theme),
            run: readRunProps(one.child("rPr"), theme),
            borders: borders ? readBorders(borders, theme) : {},
            shading: shadingOf(cell, theme),
            vertical: cell?.child("vAlign")?.attr("w:val"),
          },
        ];
      }),
    ),
  };
}

/** Borders and margins that a table's properties set for all its cells. */
export function readTableLooks(
  tblPr: XmlElement | undefined,
  theme: Theme,
): { borders: Record<string, ParagraphLine | undefined>; margins: Record<string, number> } {
  const borders = tblPr?.child("tblBorders");
  return { borders: borders ? readBorders(borders, theme) : {}, margins: readMargins(tblPr?.child("tblCellMar")) };
}

export function readMargins(element: XmlElement | undefined): Record<string, number> {
  const margins: Record<string, number> = {};
  for (const side of element?.elements() ?? []) {
    const name = side.local === "start" ? "left" : side.local === "end" ? "right" : side.local;
    margins[name] = twips(side.attr("w:w")) ?? 0;
  }
  return margins;
}
