/** How tables look by their style: ECMA-376 part 1, 18.5.1.2 and 18.8.83. A cell's own format counts more. */
import {
  type BorderLine,
  type CellBorder,
  type FormatChange,
  isTrue,
  maybeRange,
  type SheetInfo,
  type Theme,
  tintColor,
  type Workbook,
} from "../../../spreadsheet/index.js";
import { addPivotLooks } from "./pivot-styles.js";

export type TableLooks = ReadonlyMap<number, ReadonlyMap<number, FormatChange>>;

/** Parts of a table that a style speaks of, the later over the earlier. */
const PARTS = [
  "wholeTable",
  "firstColumnStripe",
  "secondColumnStripe",
  "firstRowStripe",
  "secondRowStripe",
  "lastColumn",
  "firstColumn",
  "headerRow",
  "totalRow",
] as const;

type TablePart = (typeof PARTS)[number];

interface TableShape {
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
  readonly headings: number;
  readonly totals: number;
  readonly isOn: ReadonlySet<string>;
}

export function sheetTableLooks(workbook: Workbook, info: SheetInfo): TableLooks {
  const looks = new Map<number, Map<number, FormatChange>>();
  const opened = workbook.package;
  for (const relation of opened.relationships(info.part)) {
    if (relation.type !== "table" || !opened.has(relation.target)) continue;
    const root = opened.getXml(relation.target);
    const range = maybeRange(root.attr("ref") ?? "");
    const style = root.child("tableStyleInfo");
    const parts = styleOf(workbook, style?.attr("name") ?? "");
    if (!range || !style || !parts) continue;
    const isOn = new Set(
      ["showFirstColumn", "showLastColumn", "showRowStripes", "showColumnStripes"].filter((name) =>
        isTrue(style.attr(name)),
      ),
    );
    const shape = {
      ...range,
      headings: Number(root.attr("headerRowCount") ?? 1),
      totals: Number(root.attr("totalsRowCount") ?? 0),
      isOn,
    };
    for (let row = range.top; row <= range.bottom; row++) {
      const line = looks.get(row) ?? new Map<number, FormatChange>();
      looks.set(row, line);
      for (let column = range.left; column <= range.right; column++)
        line.set(column, lookAt(parts, shape, row, column));
    }
  }
  addPivotLooks(workbook, info, looks);
  return looks;
}

function lookAt(
  parts: ReadonlyMap<TablePart, FormatChange>,
  shape: TableShape,
  row: number,
  column: number,
): FormatChange {
  const isHeading = row < shape.top + shape.headings;
  const isTotal = row > shape.bottom - shape.totals;
  const isBody = !isHeading && !isTotal;
  const odd = (row - shape.top - shape.headings) % 2 === 0;
  const oddColumn = (column - shape.left) % 2 === 0;
  const holds: Readonly<Record<TablePart, boolean>> = {
    wholeTable: true,
    firstColumnStripe: isBody && shape.isOn.has("showColumnStripes") && oddColumn,
    secondColumnStripe: isBody && shape.isOn.has("showColumnStripes") && !oddColumn,
    firstRowStripe: isBody && shape.isOn.has("showRowStripes") && odd,
    secondRowStripe: isBody && shape.isOn.has("showRowStripes") && !odd,
    lastColumn: shape.isOn.has("showLastColumn") && column === shape.right,
    firstColumn: shape.isOn.has("showFirstColumn") && column === shape.left,
    headerRow: isHeading,
    totalRow: isTotal,
  };
  let look: FormatChange = { font: {}, fill: undefined, border: {}, code: undefined };
  for (const part of PARTS) {
    const change = parts.get(part);
    if (!change || !holds[part]) continue;
    const isRow = part === "headerRow" || part === "totalRow";
    const edges = part === "wholeTable" ? shape : isRow ? { ...shape, top: row, bottom: row } : undefined;
    look = {
      font: { ...look.font, ...change.font },
      fill: change.fill ?? look.fill,
      border: { ...look.border, ...(edges ? edgesOf(change.border, edges, row, column) : change.border) },
      code: change.code ?? look.code,
    };
  }
  return look;
}

/** Outer lines at the edges, lines between inside. */
function edgesOf(
  border: CellBorder,
  range: { top: number; left: number; bottom: number; right: number },
  row: number,
  column: number,
): CellBorder {
  const { horizontal, vertical } = border;
  const sides: Record<string, BorderLine | undefined> = {
    top: row === range.top ? border.top : horizontal,
    bottom: row === range.bottom ? border.bottom : horizontal,
    left: column === range.left ? border.left : vertical,
    right: column === range.right ? border.right : vertical,
  };
  return Object.fromEntries(Object.entries(sides).filter(([, line]) => line !== undefined));
}

/** A style of the workbook's own, or one that every program knows by its name. */
function styleOf(workbook: Workbook, name: string): Map<TablePart, FormatChange> | undefined {
  const own = workbook.styles.tableStyles.get(name);
  if (own) {
    const parts = new Map<TablePart, FormatChange>();
    for (const part of PARTS) {
      const change = workbook.styles.changes[own.get(part) ?? -1];
      if (change) parts.set(part, change);
    }
    return parts;
  }
  const known = /^TableStyle(Light|Medium|Dark)(\d+)$/.exec(name);
  return known ? knownStyle(known[1], Number(known[2]), workbook.theme) : undefined;
}

const change = (fill: string | undefined, font: FormatChange["font"] = {}, border: CellBorder = {}): FormatChange => ({
  fill,
  font,
  border,
  code: undefined,
});

/** The families of the standard's styles: each comes in the theme's text colour and its six accents. */
function knownStyle(kind: string, number: number, theme: Theme): Map<TablePart, FormatChange> {
  const family = Math.floor((number - 1) / 7);
  const accent = (number - 1) % 7;
  const color = (accent === 0 ? theme.colors[1] : theme.colors[3 + accent]) ?? "000000";
  const light = (tint: number): string =>
    accent === 0 ? tintColor("FFFFFF", -(1 - tint) * 0.75) : tintColor(color, tint);
  const line = (tone: string, style = "thin"): BorderLine => ({ style, color: tone });
  const white = { bold: true, color: theme.colors[0] ?? "FFFFFF" };
  const box = (tone: string): CellBorder => ({
    left: line(tone),
    right: line(tone),
    top: line(tone),
    bottom: line(tone),
  });
  const bold = { bold: true };
  const parts = (list: Partial<Record<TablePart, FormatChange>>): Map<TablePart, FormatChange> =>
    new Map(Object.entries(list) as [TablePart, FormatChange][]);
  const emphasis = { firstColumn: change(undefined, bold), lastColumn: change(undefined, bold) };
  if (kind === "Light") {
    const ends = { top: line(color), bottom: line(color) };
    if (family === 0)
      return parts({
        ...emphasis,
        wholeTable: change(undefined, {}, ends),
        headerRow: change(undefined, bold, { bottom: line(color) }),
        totalRow: change(undefined, bold, { top: line(color) }),
        firstRowStripe: change(light(0.8)),
      });
    if (family === 1)
      return parts({
        ...emphasis,
        wholeTable: change(undefined, {}, { ...box(color), horizontal: line(color) }),
        headerRow: change(color, white),
        totalRow: change(undefined, bold, { top: line(color, "double") }),
      });
    return parts({
      ...emphasis,
      wholeTable: change(undefined, {}, { ...box(color), horizontal: line(color), vertical: line(color) }),
      headerRow: change(undefined, bold, { bottom: line(color, "medium") }),
      totalRow: change(undefined, bold, { top: line(color, "double") }),
      firstRowStripe: change(light(0.8)),
    });
  }
  if (kind === "Medium") {
    const pale = light(0.4);
    if (family === 0)
      return parts({
        ...emphasis,
        wholeTable: change(undefined, {}, { ...box(pale), horizontal: line(pale) }),
        headerRow: change(color, white),
        totalRow: change(undefined, bold, { top: line(color, "double") }),
        firstRowStripe: change(light(0.8)),
      });
    if (family === 1) {
      const gap = { horizontal: line("FFFFFF"), vertical: line("FFFFFF") };
      return parts({
        wholeTable: change(light(0.8), {}, gap),
        headerRow: change(color, white, { bottom: line("FFFFFF", "thick") }),
        totalRow: change(color, white, { top: line("FFFFFF", "thick") }),
        firstRowStripe: change(light(0.6)),
        firstColumn: change(color, white),
        lastColumn: change(color, white),
      });
    }
    if (family === 2) {
      const dark = theme.colors[1] ?? "000000";
      return parts({
        wholeTable: change(undefined, {}, { top: line(dark, "medium"), bottom: line(dark, "medium") }),
        headerRow: change(color, white, { bottom: line(dark, "medium") }),
        totalRow: change(undefined, bold, { top: line(dark, "double") }),
        firstRowStripe: change("D9D9D9"),
        firstColumn: change(color, white),
        lastColumn: change(color, white),
      });
    }
    return parts({
      ...emphasis,
      wholeTable: change(light(0.8), {}, { ...box(pale), horizontal: line(pale), vertical: line(pale) }),
      headerRow: change(undefined, bold),
      totalRow: change(undefined, bold, { top: line(color, "medium") }),
      firstRowStripe: change(light(0.6)),
    });
  }
  const deep = accent === 0 ? "737373" : tintColor(color, -0.25);
  return parts({
    wholeTable: change(accent === 0 ? "737373" : color, { color: "FFFFFF" }),
    headerRow: change("000000", white),
    totalRow: change(tintColor(deep, -0.25), white),
    firstRowStripe: change(deep),
    firstColumn: change(undefined, bold),
    lastColumn: change(undefined, bold),
  });
}
