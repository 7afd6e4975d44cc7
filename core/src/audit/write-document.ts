/** A document of headings, facts and tables, as WordprocessingML (ECMA-376 part 1, 17): for reports that have no template of anybody's. */
import { deflateEntry, escapeXml, OFFICE_RELATIONS, OoxmlPackage, writeZip } from "../ooxml/index.js";

/** What stands below each other. Cells of a table may be several lines; those of a column that is `fine` are set small and evenly, as for digests. */
export type Block =
  | { readonly kind: "heading"; readonly level: 1 | 2; readonly text: string }
  | { readonly kind: "text"; readonly text: string }
  | { readonly kind: "facts"; readonly facts: readonly (readonly [name: string, value: string])[] }
  | {
      readonly kind: "table";
      /** `share`: of the page's width, in any unit. */
      readonly columns: readonly { readonly title: string; readonly share: number; readonly fine?: boolean }[];
      readonly rows: readonly (readonly string[])[];
    };

const WORD = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";
const TYPES = "application/vnd.openxmlformats-officedocument.wordprocessingml";
/** A4 on its side, in twentieths of a point (17.6.13), and its margins. */
const PAGE = { width: 16_838, height: 11_906, margin: 850 } as const;
const WIDTH = PAGE.width - 2 * PAGE.margin;
const NAMES_SHARE = 0.24;
const FONT = "Carlito";
const FINE_FONT = "Liberation Mono";

/** A document of one section on A4 pages on their side, with `footer` and the page's number at the foot of each. */
export function writeDocument(
  blocks: readonly Block[],
  about: { readonly footer: string; readonly language: string },
): OoxmlPackage {
  const body = blocks.map(blockXml).join("");
  const section = `<w:sectPr><w:footerReference w:type="default" r:id="rId2"/><w:pgSz w:w="${PAGE.width}" w:h="${PAGE.height}" w:orient="landscape"/><w:pgMar w:top="${PAGE.margin}" w:right="${PAGE.margin}" w:bottom="${PAGE.margin}" w:left="${PAGE.margin}" w:header="425" w:footer="425" w:gutter="0"/></w:sectPr>`;
  const parts: Readonly<Record<string, string>> = {
    "[Content_Types].xml": `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="${TYPES}.document.main+xml"/><Override PartName="/word/styles.xml" ContentType="${TYPES}.styles+xml"/><Override PartName="/word/footer1.xml" ContentType="${TYPES}.footer+xml"/></Types>`,
    "_rels/.rels": relations([["officeDocument", "word/document.xml"]]),
    "word/_rels/document.xml.rels": relations([
      ["styles", "styles.xml"],
      ["footer", "footer1.xml"],
    ]),
    "word/document.xml": `<w:document xmlns:w="${WORD}" xmlns:r="${OFFICE_RELATIONS}"><w:body>${body}${section}</w:body></w:document>`,
    "word/styles.xml": stylesXml(about.language),
    "word/footer1.xml": footerXml(about.footer),
  };
  const zip = writeZip(
    Object.entries(parts).map(([name, xml]) =>
      deflateEntry(name, Buffer.from(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>${xml}`, "utf8")),
    ),
  );
  return OoxmlPackage.open(zip, about.footer);
}

function relations(all: readonly (readonly [kind: string, target: string])[]): string {
  const each = all.map(
    ([kind, target], at) => `<Relationship Id="rId${at + 1}" Type="${OFFICE_RELATIONS}/${kind}" Target="${target}"/>`,
  );
  return `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${each.join("")}</Relationships>`;
}

function blockXml(block: Block): string {
  switch (block.kind) {
    case "heading":
      return paragraph(block.text, block.level === 1 ? "Heading1" : "Heading2");
    case "text":
      return paragraph(block.text, "Normal");
    case "facts":
      return factsXml(block.facts);
    case "table":
      return tableXml(block);
  }
}

function factsXml(facts: readonly (readonly [name: string, value: string])[]): string {
  const widths = [Math.round(WIDTH * NAMES_SHARE), WIDTH - Math.round(WIDTH * NAMES_SHARE)];
  const rows = facts.map(([name, value]) =>
    row([cell([name], widths[0] ?? 0, "Name"), cell(linesOf(value), widths[1] ?? 0, "Cell")]),
  );
  return table(widths, rows, "none") + paragraph("", "Gap");
}

function tableXml({ columns, rows }: Extract<Block, { kind: "table" }>): string {
  const whole = columns.reduce((sum, { share }) => sum + share, 0);
  const widths = columns.map(({ share }) => Math.round((WIDTH * share) / whole));
  const head = row(
    columns.map(({ title }, at) => cell([title], widths[at] ?? 0, "Name")),
    "<w:trPr><w:tblHeader/></w:trPr>",
  );
  const body = rows.map((cells) =>
    row(columns.map(({ fine }, at) => cell(linesOf(cells[at] ?? ""), widths[at] ?? 0, fine ? "Fine" : "Cell"))),
  );
  return table(widths, [head, ...body], "single") + paragraph("", "Gap");
}

function linesOf(text: string): readonly string[] {
  return text.split("\n");
}

function table(widths: readonly number[], rows: readonly string[], line: "none" | "single"): string {
  const border = (side: string): string => `<w:${side} w:val="${line}" w:sz="4" w:space="0" w:color="B8BFBD"/>`;
  const borders = `<w:tblBorders>${border("top")}${border("bottom")}${border("insideH")}</w:tblBorders>`;
  const grid = widths.map((width) => `<w:gridCol w:w="${width}"/>`).join("");
  return `<w:tbl><w:tblPr><w:tblW w:w="${WIDTH}" w:type="dxa"/>${borders}<w:tblLayout w:type="fixed"/><w:tblCellMar><w:left w:w="60" w:type="dxa"/><w:right w:w="60" w:type="dxa"/></w:tblCellMar></w:tblPr><w:tblGrid>${grid}</w:tblGrid>${rows.join("")}</w:tbl>`;
}

function row(cells: readonly string[], properties = "<w:trPr><w:cantSplit/></w:trPr>"): string {
  return `<w:tr>${properties}${cells.join("")}</w:tr>`;
}

function cell(lines: readonly string[], width: number, style: string): string {
  return `<w:tc><w:tcPr><w:tcW w:w="${width}" w:type="dxa"/></w:tcPr>${lines.map((line) => paragraph(line, style)).join("")}</w:tc>`;
}

function paragraph(text: string, style: string): string {
  const run = text === "" ? "" : `<w:r><w:t xml:space="preserve">${escapeXml(text)}</w:t></w:r>`;
  return `<w:p><w:pPr><w:pStyle w:val="${style}"/></w:pPr>${run}</w:p>`;
}

function stylesXml(language: string): string {
  const style = (
    id: string,
    points: number,
    spacing: readonly [before: number, after: number],
    more = "",
    outline = "",
    font = FONT,
  ): string =>
    `<w:style w:type="paragraph" w:styleId="${id}"><w:name w:val="${id.replace(/(\d)$/, " $1")}"/><w:pPr>${outline === "" ? "" : "<w:keepNext/>"}<w:spacing w:before="${spacing[0]}" w:after="${spacing[1]}"/>${outline}</w:pPr><w:rPr><w:rFonts w:ascii="${font}" w:hAnsi="${font}" w:cs="${font}"/>${more}<w:sz w:val="${points * 2}"/></w:rPr></w:style>`;
  const outline = (level: number): string => `<w:outlineLvl w:val="${level}"/>`;
  return `<w:styles xmlns:w="${WORD}"><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:ascii="${FONT}" w:hAnsi="${FONT}" w:cs="${FONT}"/><w:lang w:val="${escapeXml(language)}"/></w:rPr></w:rPrDefault></w:docDefaults>${[
    style("Normal", 10, [0, 100]),
    style("Heading1", 18, [0, 120], `<w:b/><w:color w:val="24352F"/>`, outline(0)),
    style("Heading2", 12, [240, 100], `<w:b/><w:color w:val="24352F"/>`, outline(1)),
    style("Name", 9, [30, 30], "<w:b/>"),
    style("Cell", 9, [30, 30]),
    style("Fine", 6.5, [30, 30], "", "", FINE_FONT),
    style("Gap", 4, [0, 0]),
    style("Footer", 8, [0, 0], `<w:color w:val="5A6B6B"/>`),
  ].join("")}</w:styles>`;
}

function footerXml(text: string): string {
  const right = `<w:tabs><w:tab w:val="right" w:pos="${WIDTH}"/></w:tabs>`;
  const field = (name: string): string => `<w:fldSimple w:instr=" ${name} "><w:r><w:t>1</w:t></w:r></w:fldSimple>`;
  return `<w:ftr xmlns:w="${WORD}"><w:p><w:pPr><w:pStyle w:val="Footer"/>${right}</w:pPr><w:r><w:t xml:space="preserve">${escapeXml(text)}</w:t></w:r><w:r><w:tab/></w:r>${field("PAGE")}<w:r><w:t xml:space="preserve"> / </w:t></w:r>${field("NUMPAGES")}</w:p></w:ftr>`;
}
