import type { OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import { readTheme, type Theme } from "../../spreadsheet/index.js";
import {
  mergeParagraph,
  type ParagraphLine,
  type ParagraphProps,
  type RunProps,
  readBorders,
  readParagraphProps,
  readRunProps,
  toggle,
  twips,
} from "./props.js";

interface Style {
  readonly basedOn: string | undefined;
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
  readonly table: TableStyle;
}

export interface TableStyle {
  readonly borders: Readonly<Record<string, ParagraphLine | undefined>>;
  readonly margins: Readonly<Record<string, number>>;
}

const CACHE = new WeakMap<XmlElement, DocumentStyles>();

/** Styles with their inheritance resolved: ECMA-376 part 1, 17.7. */
export class DocumentStyles {
  readonly theme: Theme;
  /** Which generation of layout rules the document asks for; 15 is the newest. */
  readonly compatibilityMode: number;
  readonly evenAndOddHeaders: boolean;
  private readonly styles = new Map<string, Style>();
  private readonly defaults: { readonly paragraph: ParagraphProps; readonly run: RunProps };
  private readonly defaultIds = new Map<string, string>();
  private readonly resolved = new Map<string, Style>();

  /** The styles of a document; files filled from one template share them. */
  static of(opened: OoxmlPackage, documentPart: string): DocumentStyles {
    const part = opened.relationships(documentPart).find((relation) => relation.type === "styles")?.target;
    const key = part && opened.has(part) ? opened.getXml(part) : undefined;
    const known = key && CACHE.get(key);
    if (known) return known;
    const styles = new DocumentStyles(opened, documentPart);
    if (key) CACHE.set(key, styles);
    return styles;
  }

  private constructor(opened: OoxmlPackage, documentPart: string) {
    const relations = opened.relationships(documentPart);
    const part = (type: string): XmlElement | undefined =>
      opened.maybeXml(relations.find((relation) => relation.type === type)?.target ?? "");
    this.theme = readTheme(part("theme"));
    const xml = part("styles");
    const settings = part("settings");
    this.evenAndOddHeaders = settings ? (toggle(settings, "evenAndOddHeaders") ?? false) : false;
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
      if (style.attr("w:default") === "1") this.defaultIds.set(style.attr("w:type") ?? "paragraph", id);
      this.styles.set(id, {
        basedOn: style.child("basedOn")?.attr("w:val"),
        paragraph: readParagraphProps(style.child("pPr"), this.theme),
        run: readRunProps(style.child("rPr"), this.theme),
        table: readTableStyle(style.child("tblPr"), this.theme),
      });
    }
  }

  /** A paragraph's properties: defaults, its style's chain, then its own; `table` stands between defaults and style. */
  paragraph(own: ParagraphProps, table?: string): ParagraphProps {
    const id = own.style ?? this.defaultIds.get("paragraph");
    const base = mergeParagraph(this.defaults.paragraph, this.style(table).paragraph);
    return mergeParagraph(mergeParagraph(base, this.style(id).paragraph), own);
  }

  /** A run's properties: defaults, table style, paragraph style, character style, its own. */
  run(own: RunProps, paragraphStyle: string | undefined, table?: string): RunProps {
    return {
      ...this.defaults.run,
      ...this.style(table).run,
      ...this.style(paragraphStyle ?? this.defaultIds.get("paragraph")).run,
      ...this.style(own.style).run,
      ...own,
    };
  }

  table(id: string | undefined): TableStyle {
    return this.style(id ?? this.defaultIds.get("table")).table;
  }

  private style(id: string | undefined): Style {
    const empty: Style = { basedOn: undefined, paragraph: {}, run: {}, table: { borders: {}, margins: {} } };
    if (id === undefined) return empty;
    const known = this.resolved.get(id);
    if (known) return known;
    const own = this.styles.get(id);
    if (!own) return empty;
    // Set before the base is looked up, so that a style based on itself ends.
    this.resolved.set(id, own);
    const base = this.style(own.basedOn);
    const style: Style = {
      basedOn: own.basedOn,
      paragraph: mergeParagraph(base.paragraph, own.paragraph),
      run: { ...base.run, ...own.run },
      table: {
        borders: { ...base.table.borders, ...own.table.borders },
        margins: { ...base.table.margins, ...own.table.margins },
      },
    };
    this.resolved.set(id, style);
    return style;
  }
}

export function readTableStyle(tblPr: XmlElement | undefined, theme: Theme): TableStyle {
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
