/** Changes single cells of a sheet's tree: ECMA-376 part 1, 18.3.1.4 and 18.3.1.73. */
import { type XmlElement, xmlElement, xmlText } from "../../ooxml/index.js";
import { cellName, maybeCell } from "../../spreadsheet/index.js";

/** What a cell becomes, given what it is; `undefined` takes it out. */
export type CellChange = (cell: XmlElement | undefined, name: string, prefix: string) => XmlElement | undefined;

/** The root of a sheet with some cells changed, by row and column from 0. */
export function changeCells(
  root: XmlElement,
  changes: ReadonlyMap<number, ReadonlyMap<number, CellChange>>,
): XmlElement {
  const prefix = root.prefix;
  const data = root.child("sheetData");
  if (!data) return root;
  const rows = new Map<number, XmlElement>();
  let last = -1;
  for (const row of data.elements("row")) {
    last = row.attr("r") === undefined ? last + 1 : Number(row.attr("r")) - 1;
    rows.set(last, row);
  }
  for (const [number, cells] of changes) {
    const row = rows.get(number) ?? xmlElement(`${prefix}row`, { r: String(number + 1) });
    rows.set(number, changeRow(row, number, cells, prefix));
  }
  const written = [...rows].sort(([a], [b]) => a - b).map(([, row]) => row);
  return root.withChildren(root.children.map((child) => (child === data ? data.withChildren(written) : child)));
}

function changeRow(
  row: XmlElement,
  number: number,
  changes: ReadonlyMap<number, CellChange>,
  prefix: string,
): XmlElement {
  const cells = new Map<number, XmlElement>();
  let column = -1;
  for (const cell of row.elements("c")) {
    column = maybeCell(cell.attr("r") ?? "")?.column ?? column + 1;
    cells.set(column, cell);
  }
  for (const [at, change] of changes) {
    const changed = change(cells.get(at), cellName(number, at), prefix);
    if (changed) cells.set(at, changed);
    else cells.delete(at);
  }
  const written = [...cells].sort(([a], [b]) => a - b).map(([, cell]) => cell);
  return row.withAttr("spans", undefined).withChildren(written);
}

/** A text in the looks that the cell has; blank without one. */
export function asText(text: string, style?: number): CellChange {
  return (cell, name, prefix) => {
    const s = style === undefined ? cell?.attr("s") : String(style);
    const base = xmlElement(`${prefix}c`, { r: name, ...(s === undefined ? {} : { s }) });
    if (text === "") return base;
    const inside = xmlElement(`${prefix}is`).withChildren([
      xmlElement(`${prefix}t`, { "xml:space": "preserve" }).withChildren([xmlText(text)]),
    ]);
    return base.withAttr("t", "inlineStr").withChildren([inside]);
  };
}

/** A formula without a value yet, in the looks that the cell has. */
export function asFormula(formula: string, style?: number): CellChange {
  return (cell, name, prefix) => {
    const s = style === undefined ? cell?.attr("s") : String(style);
    return xmlElement(`${prefix}c`, { r: name, ...(s === undefined ? {} : { s }) }).withChildren([
      xmlElement(`${prefix}f`).withChildren([xmlText(formula)]),
    ]);
  };
}
