/** A cell's format as it counts: its own, over that of its table, under what rules change. */
import type { CellBorder, CellFormat, FormatChange, Workbook } from "../../../spreadsheet/index.js";
import type { RuledLook } from "../read/conditional-formatting.js";
import type { PrintSheet } from "../read/read-sheet.js";

export function formatAt(
  workbook: Workbook,
  sheet: PrintSheet,
  row: number,
  column: number,
  style: number,
): CellFormat {
  const { formats } = workbook.styles;
  const own = formats[style] ?? formats[0];
  const table = sheet.tableLooks.get(row)?.get(column);
  const ruled = sheet.ruled.get(row)?.get(column);
  if (!table && !ruled) return own;
  const inTable = table ? overTable(own, table, formats[0]) : own;
  return ruled ? ruledFormat(inTable, ruled) : inTable;
}

function overTable(own: CellFormat, table: FormatChange, usual: CellFormat): CellFormat {
  // A cell that was given a font or a ground of its own keeps it.
  const font = own.font === usual.font || sameFont(own, usual) ? { ...own.font, ...table.font } : own.font;
  const hasGround = own.fill !== undefined || own.ground !== undefined;
  return {
    ...own,
    font,
    fill: hasGround ? own.fill : table.fill,
    border: { ...table.border, ...sides(own.border) },
  };
}

function sameFont(own: CellFormat, usual: CellFormat): boolean {
  const [a, b] = [own.font, usual.font];
  return a.name === b.name && a.size === b.size && a.bold === b.bold && a.color === b.color && a.italic === b.italic;
}

function ruledFormat(own: CellFormat, ruled: RuledLook): CellFormat {
  let { font, border, code } = own;
  const fill = ruled.fill ?? ruled.changes.find((change) => change.fill !== undefined)?.fill;
  // The first rule counts most, so it is put on last.
  for (const change of [...ruled.changes].reverse()) {
    font = { ...font, ...change.font };
    border = { ...border, ...sides(change.border) };
    code = change.code ?? code;
  }
  return { ...own, font, border, code, ...(fill === undefined ? {} : { fill, ground: undefined }) };
}

function sides(border: CellBorder): CellBorder {
  return Object.fromEntries(Object.entries(border).filter(([, line]) => line !== undefined));
}
