/** A whole table of the lines in the frame of a text box: headings, a row for each line, totals; in the style of the deck's tables. */
import { CorbixError } from "../../common/index.js";
import type { Env, Scope } from "../../expression/index.js";
import { bindLineTable, columnWidths, shownLines, type TablePiece } from "../../marked/index.js";
import { escapeXml, type XmlElement } from "../../ooxml/index.js";
import { say } from "../../words/index.js";
import { aboutShape, type Deck } from "../deck.js";

/** English metric units in a twentieth of a point. */
const EMU_PER_TWIP = 635;
/** Usual size of text in tables of slides, in points. */
const SIZE = 14;
/** Height of a row beside its text's size. */
const ROW = 1.9;

/** The style that programs give to tables, which need not be in the file. */
const USUAL_STYLE = "{5C22544A-7EE6-4342-B048-85BDC9FD1C3A}";

export interface DeckTableLooks {
  /** `tblPr` of the deck's first table, or of a usual one. */
  readonly properties: string;
  /** Ids of the deck's table styles by name. */
  readonly styles: ReadonlyMap<string, string>;
}

export function deckTableLooks(deck: Deck): DeckTableLooks {
  const { opened } = deck;
  const part = opened.relationships(opened.main).find(({ type }) => type === "tableStyles")?.target;
  const styles = part === undefined ? [] : (opened.maybeXml(part)?.elements("tblStyle") ?? []);
  for (const slide of deck.slides) {
    const properties = opened.getXml(slide.part).descendants("tbl")[0]?.child("tblPr");
    if (properties) return { properties: properties.toString(), styles: named(styles) };
  }
  return {
    properties: `<a:tblPr firstRow="1" bandRow="1"><a:tableStyleId>${USUAL_STYLE}</a:tableStyleId></a:tblPr>`,
    styles: named(styles),
  };
}

function named(styles: readonly XmlElement[]): Map<string, string> {
  return new Map(styles.map((style) => [(style.attr("styleName") ?? "").toLowerCase(), style.attr("styleId") ?? ""]));
}

/** Throws `BAD_EXPRESSION` for an unknown column, `BAD_MARK` where no text box holds the mark alone, or for an unknown style. */
export function bindDeckTable(
  { structure, where, holder }: TablePiece,
  scope: Scope,
  looks: DeckTableLooks,
  frameOf: (shape: XmlElement) => XmlElement | undefined,
): (env: Env) => string {
  const frame = holder?.local === "sp" ? frameOf(holder) : undefined;
  const [off, ext] = [frame?.child("off"), frame?.child("ext")];
  if (!holder || !off || !ext)
    throw new CorbixError("BAD_MARK", say().slides.cannotPutTableHere({ source: structure.source }), {
      where,
      advice: say().slides.putTableAlone(),
    });
  const table = bindLineTable(structure, scope, where);
  const { style } = structure;
  const id = style === undefined ? undefined : looks.styles.get(style.toLowerCase());
  if (style !== undefined && id === undefined)
    throw new CorbixError("BAD_MARK", say().document.cannotFindTableStyle({ style }), { where });
  const properties =
    id === undefined
      ? looks.properties
      : `<a:tblPr firstRow="1" bandRow="1"><a:tableStyleId>${escapeXml(id)}</a:tableStyleId></a:tblPr>`;
  const about = aboutShape(holder);
  const [name, number] = [about?.attr("name") ?? "Table", about?.attr("id") ?? "2"];
  const width = Number(ext.attr("cx") ?? 0);
  return (env) => {
    const { columns } = table;
    const { texts, totals } = shownLines(table, env);
    const { widths, size, isTooWide } = columnWidths(columns, texts, totals, {
      width: Math.floor(width / EMU_PER_TWIP),
      size: SIZE,
    });
    if (isTooWide)
      env.onNote?.({
        code: "table-too-wide",
        severity: "warn",
        where,
        what: say().document.tableColumnsDoFitBeside({ columnCount: columns.length }),
        advice: say().slides.nameFewerColumns(),
      });
    const points = size ?? SIZE;
    const height = Math.round(points * ROW * 12_700);
    const cell = (text: string, at: number, isStrong: boolean): string => {
      const run = `<a:rPr lang="en-GB" sz="${Math.round(points * 100)}"${isStrong ? ' b="1"' : ""}/>`;
      const align = columns[at].isNumber ? '<a:pPr algn="r"/>' : "";
      const paragraphs = text
        .split(/\r\n?|\n/)
        .map(
          (line) =>
            `<a:p>${align}${line === "" ? `<a:endParaRPr lang="en-GB" sz="${Math.round(points * 100)}"/>` : `<a:r>${run}<a:t>${escapeXml(line)}</a:t></a:r>`}</a:p>`,
        );
      return `<a:tc><a:txBody><a:bodyPr/><a:lstStyle/>${paragraphs.join("")}</a:txBody><a:tcPr/></a:tc>`;
    };
    const row = (cells: readonly string[], isStrong = false): string =>
      `<a:tr h="${height}">${cells.map((text, at) => cell(text, at, isStrong)).join("")}</a:tr>`;
    const rows = [row(columns.map(({ heading }) => heading)), ...texts.map((line) => row(line))];
    if (totals) rows.push(row(totals, true));
    return `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="${number}" name="${escapeXml(name)}"/><p:cNvGraphicFramePr><a:graphicFrameLocks noGrp="1"/></p:cNvGraphicFramePr><p:nvPr/></p:nvGraphicFramePr><p:xfrm>${off.toString()}<a:ext cx="${width}" cy="${height * rows.length}"/></p:xfrm><a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/table"><a:tbl>${properties}<a:tblGrid>${widths.map((one) => `<a:gridCol w="${one * EMU_PER_TWIP}"/>`).join("")}</a:tblGrid>${rows.join("")}</a:tbl></a:graphicData></a:graphic></p:graphicFrame>`;
  };
}
