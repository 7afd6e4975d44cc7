import type { Finding } from "../../common/index.js";
import type { OoxmlPackage, Relationship, XmlElement } from "../../ooxml/index.js";
import { EMU_PER_PT } from "../drawing/shape.js";
import { readImage } from "../image.js";
import type { Block, Inline, ParagraphBlock, Section, TableBlock, TableCellBlock, TableRowBlock } from "./blocks.js";
import type { Numbering } from "./numbering.js";
import { mergeParagraph, readBorders, readParagraphProps, readRunProps, shadingOf, toggle, twips } from "./props.js";
import { InlineReader } from "./read-inlines.js";
import { type DocumentStyles, readMargins, readTableStyle } from "./styles.js";

/** Reads body, header or footer of a part into blocks; what cannot be drawn is a finding, once per kind. */
export class BlockReader {
  private readonly relations: ReadonlyMap<string, Relationship>;
  private readonly noticed = new Set<string>();

  constructor(
    private readonly opened: OoxmlPackage,
    private readonly part: string,
    private readonly styles: DocumentStyles,
    private readonly numbering: Numbering,
    private readonly findings: Finding[],
  ) {
    this.relations = new Map(opened.relationships(part).map((relation) => [relation.id, relation]));
  }

  blocks(parent: XmlElement, table?: string): Block[] {
    return parent.elements().flatMap((element): Block[] => {
      switch (element.local) {
        case "p":
          return [this.paragraph(element, table)];
        case "tbl":
          return [this.table(element)];
        case "sdt":
          return element.child("sdtContent") ? this.blocks(element.child("sdtContent") as XmlElement, table) : [];
        case "ins":
        case "moveTo":
        case "customXml":
        case "smartTag":
          return this.blocks(element, table);
        case "altChunk":
          this.notDrawn("an embedded part of another format");
          return [];
        default:
          return [];
      }
    });
  }

  private paragraph(element: XmlElement, table: string | undefined): ParagraphBlock {
    const pPr = element.child("pPr");
    const own = readParagraphProps(pPr, this.styles.theme);
    let props = this.styles.paragraph(own, table);
    const inlines: Inline[] = [];
    const reader = new InlineReader(this, inlines, (run) => this.styles.run(run, own.style, table));
    if (props.numbering && props.numbering.id > 0) {
      const label = this.numbering.next(props.numbering.id, props.numbering.level);
      if (label) {
        props = mergeParagraph(mergeParagraph(props, label.paragraph), own);
        const looks = {
          ...this.styles.run(readRunProps(pPr?.child("rPr"), this.styles.theme), own.style, table),
          ...label.run,
        };
        inlines.push({ kind: "text", text: label.text, props: looks });
        if (label.suffix === "tab") inlines.push({ kind: "tab", props: looks });
        else if (label.suffix === "space") inlines.push({ kind: "text", text: " ", props: looks });
      }
    }
    reader.read(element);
    const section = pPr?.child("sectPr");
    if (pPr?.child("framePr")) this.notDrawn("a text frame at its place; its text stands in line");
    return {
      kind: "paragraph",
      props,
      mark: this.styles.run(readRunProps(pPr?.child("rPr"), this.styles.theme), own.style, table),
      inlines,
      ...(section ? { section: this.section(section) } : {}),
    };
  }

  private table(element: XmlElement): TableBlock {
    const tblPr = element.child("tblPr");
    const styleId = tblPr?.child("tblStyle")?.attr("w:val");
    const style = this.styles.table(styleId);
    const own = readTableStyle(tblPr, this.styles.theme);
    if (tblPr?.child("tblpPr")) this.notDrawn("a floating table at its place; it stands in line");
    const margins = { left: 5.4, right: 5.4, top: 0, bottom: 0, ...style.margins, ...own.margins };
    const rows = rowsOf(element).map((row) => this.row(row, styleId, margins));
    return {
      kind: "table",
      columns: this.columns(element, rows),
      // Up to mode 14 the text of the first column stands at the margin, from 15 on the table's edge (17.15.3.4).
      indent:
        (twips(tblPr?.child("tblInd")?.attr("w:w")) ?? 0) - (this.styles.compatibilityMode < 15 ? margins.left : 0),
      align: tblPr?.child("jc")?.attr("w:val") ?? "left",
      borders: { ...style.borders, ...own.borders },
      margins,
      rows,
    };
  }

  private columns(table: XmlElement, rows: readonly TableRowBlock[]): number[] {
    const grid = (table.child("tblGrid")?.elements("gridCol") ?? []).map((column) => twips(column.attr("w:w")) ?? 0);
    const needed = Math.max(0, ...rows.map((row) => row.before + row.cells.reduce((sum, cell) => sum + cell.span, 0)));
    // Where cells say their own width in full, it counts more than the grid, as word processors do.
    const widths = rowsOf(table).map((row) =>
      row.elements("tc").map((cell) => ({
        width: cell.path("tcPr", "tcW"),
        span: Number(cell.path("tcPr", "gridSpan")?.attr("w:val") ?? 1),
      })),
    );
    const full = widths.find(
      (cells) =>
        cells.length === needed && cells.every(({ width, span }) => span === 1 && width?.attr("w:type") === "dxa"),
    );
    if (full) return full.map(({ width }) => twips(width?.attr("w:w")) ?? 0);
    while (grid.length < needed) grid.push(72);
    return grid;
  }

  private row(row: XmlElement, table: string | undefined, margins: Readonly<Record<string, number>>): TableRowBlock {
    const trPr = row.child("trPr");
    const height = trPr?.child("trHeight");
    const rule = height?.attr("w:hRule");
    return {
      before: Number(trPr?.child("gridBefore")?.attr("w:val") ?? 0),
      height: {
        rule: rule === "exact" ? "exact" : height ? "atLeast" : "auto",
        value: twips(height?.attr("w:val")) ?? 0,
      },
      isHeader: trPr ? (toggle(trPr, "tblHeader") ?? false) : false,
      cantSplit: trPr ? (toggle(trPr, "cantSplit") ?? false) : false,
      cells: cellsOf(row).map((cell) => this.cell(cell, table, margins)),
    };
  }

  private cell(cell: XmlElement, table: string | undefined, margins: Readonly<Record<string, number>>): TableCellBlock {
    const tcPr = cell.child("tcPr");
    const merge = tcPr?.child("vMerge");
    if (tcPr?.child("textDirection")) this.notDrawn("turned text in a table cell; it stands upright");
    const borders = tcPr?.child("tcBorders");
    return {
      span: Number(tcPr?.child("gridSpan")?.attr("w:val") ?? 1),
      merge: !merge ? "none" : merge.attr("w:val") === "restart" ? "start" : "continue",
      blocks: this.blocks(cell, table),
      borders: borders ? readBorders(borders, this.styles.theme) : {},
      margins: { ...margins, ...readMargins(tcPr?.child("tcMar")) },
      shading: shadingOf(tcPr, this.styles.theme),
      vertical: tcPr?.child("vAlign")?.attr("w:val") ?? "top",
    };
  }

  section(element: XmlElement | undefined): Section {
    const size = element?.child("pgSz");
    const margins = element?.child("pgMar");
    const references = (kind: string): Record<string, string> =>
      Object.fromEntries(
        (element?.elements(kind) ?? []).map((reference) => [
          reference.attr("w:type") ?? "default",
          this.relations.get(reference.attr("r:id") ?? "")?.target ?? "",
        ]),
      );
    const margin = (name: string, standard: number): number => Math.abs(twips(margins?.attr(`w:${name}`)) ?? standard);
    const columns = Number(element?.child("cols")?.attr("w:num") ?? 1);
    if (columns > 1) this.notDrawn(`${columns} columns of text; they stand as one`);
    if (element?.child("pgBorders")) this.notDrawn("page borders");
    const numbers = element?.child("pgNumType");
    return {
      width: twips(size?.attr("w:w")) ?? 595.3,
      height: twips(size?.attr("w:h")) ?? 841.9,
      top: margin("top", 72),
      bottom: margin("bottom", 72),
      left: margin("left", 72),
      right: margin("right", 72),
      header: margin("header", 36),
      footer: margin("footer", 36),
      headers: references("headerReference"),
      footers: references("footerReference"),
      titlePage: element ? (toggle(element, "titlePg") ?? false) : false,
      start: element?.child("type")?.attr("w:val") ?? "nextPage",
      firstPage: numbers?.attr("w:start") === undefined ? undefined : Number(numbers.attr("w:start")),
      numberFormat: numbers?.attr("w:fmt") ?? "decimal",
    };
  }

  linkTarget(id: string | undefined): string | undefined {
    const relation = this.relations.get(id ?? "");
    return relation?.external ? relation.target : undefined;
  }

  image(drawing: XmlElement): Omit<Inline & { kind: "image" }, "props"> | undefined {
    const inline = drawing.child("inline");
    const holder = inline ?? drawing.child("anchor");
    const blip = holder?.descendants("blip")[0];
    const id = blip && [...blip.attributes].find(([name]) => name.endsWith(":embed"))?.[1];
    const target = this.relations.get(id ?? "")?.target;
    const image = target && this.opened.has(target) ? readImage(this.opened.getBytes(target)) : undefined;
    const extent = holder?.child("extent");
    if (!image || !extent) {
      this.notDrawn(
        holder?.descendants("chart").length
          ? "a chart"
          : holder?.descendants("txbxContent").length
            ? "a text box"
            : "a drawing of a kind that cannot be drawn",
      );
      return undefined;
    }
    if (!inline) this.notDrawn("a picture at its anchored place; it stands in line");
    return {
      kind: "image",
      image,
      width: Number(extent.attr("cx")) / EMU_PER_PT,
      height: Number(extent.attr("cy")) / EMU_PER_PT,
      description: holder?.child("docPr")?.attr("descr") ?? "",
    };
  }

  get theme(): DocumentStyles["theme"] {
    return this.styles.theme;
  }

  notDrawn(what: string): void {
    if (this.noticed.has(what)) return;
    this.noticed.add(what);
    this.findings.push({
      code: "not-drawn",
      severity: "warn",
      where: `${this.opened.where}, ${this.part}`,
      what: `The PDF does not show ${what}.`,
      advice: "Look at the page; the document itself has it.",
    });
  }
}

/** Rows and cells, also those inside content controls. */
function rowsOf(table: XmlElement): XmlElement[] {
  return unwrap(table, "tr");
}

function cellsOf(row: XmlElement): XmlElement[] {
  return unwrap(row, "tc");
}

function unwrap(parent: XmlElement, wanted: string): XmlElement[] {
  return parent
    .elements()
    .flatMap((child) =>
      child.local === wanted
        ? [child]
        : ["sdt", "sdtContent", "ins", "customXml"].includes(child.local)
          ? unwrap(child, wanted)
          : [],
    );
}
