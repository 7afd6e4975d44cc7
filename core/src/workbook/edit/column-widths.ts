/** Widths of a sheet's columns: ECMA-376 part 1, 18.3.1.13. */
import { type XmlElement, xmlElement } from "../../ooxml/index.js";

/** What stands before the columns of a sheet. */
const BEFORE = new Set(["sheetPr", "dimension", "sheetViews", "sheetFormatPr"]);
/** Width of a column for which neither it nor the sheet says one, in characters. */
const USUAL_WIDTH = 8.43;

/** The root of a sheet with columns at least as wide as asked, by column from 0, in characters. Hidden ones stay. */
export function widenColumns(root: XmlElement, widths: ReadonlyMap<number, number>): XmlElement {
  const prefix = root.prefix;
  const known = root.child("cols");
  const format = root.child("sheetFormatPr");
  const usual = Number(format?.attr("defaultColWidth") ?? format?.attr("baseColWidth") ?? USUAL_WIDTH);
  const columns: XmlElement[] = [];
  const left = new Map(widths);
  for (const column of known?.elements("col") ?? []) {
    const [min, max] = [Number(column.attr("min")), Number(column.attr("max"))];
    const width = Number(column.attr("width") ?? usual);
    let from = min;
    const keep = (to: number): void => {
      if (to >= from) columns.push(column.withAttr("min", String(from)).withAttr("max", String(to)));
    };
    for (const at of [...left.keys()].sort((a, b) => a - b)) {
      if (at + 1 < min || at + 1 > max) continue;
      const asked = left.get(at) ?? 0;
      left.delete(at);
      if (asked <= width || column.attr("hidden") !== undefined) continue;
      keep(at);
      columns.push(widened(column.withAttr("min", String(at + 1)).withAttr("max", String(at + 1)), asked));
      from = at + 2;
    }
    keep(max);
  }
  for (const [at, asked] of left)
    if (asked > usual)
      columns.push(widened(xmlElement(`${prefix}col`, { min: String(at + 1), max: String(at + 1) }), asked));
  if (columns.length === 0) return root;
  columns.sort((a, b) => Number(a.attr("min")) - Number(b.attr("min")));
  const list = (known ?? xmlElement(`${prefix}cols`)).withChildren(columns);
  if (known) return root.withChildren(root.children.map((child) => (child === known ? list : child)));
  const index = root.children.findIndex((child) => child.kind === "element" && !BEFORE.has(child.local));
  return root.withChildren([...root.children.slice(0, index), list, ...root.children.slice(index)]);
}

function widened(column: XmlElement, width: number): XmlElement {
  return column.withAttr("width", String(width)).withAttr("customWidth", "1");
}
