import { cellName, openWorkbook, type ScannedCell, scanCells, type Workbook } from "../../spreadsheet/index.js";

/** One thing that is different between two workbooks. */
export interface CellDifference {
  readonly sheet: string;
  /** `B7`, or nothing where the sheet as a whole is meant. */
  readonly cell: string;
  readonly what: "value" | "formula" | "format" | "only in the first" | "only in the second";
  readonly first: string;
  readonly second: string;
}

export interface WorkbookComparison {
  /** Cells with content that both have, or one of them. */
  readonly cells: number;
  readonly differences: readonly CellDifference[];
}

interface Content {
  readonly row: number;
  readonly column: number;
  readonly value: string;
  readonly formula: string | undefined;
  readonly format: string;
}

/**
 * Compares two workbooks cell by cell: values as stored, formulas as written, number formats as codes. Sheets are the
 * same by their name. Looks beside number formats are not compared. Throws `NOT_A_WORKBOOK` or `BROKEN_PACKAGE`.
 */
export function compareWorkbooks(
  first: { readonly bytes: Uint8Array; readonly where: string },
  second: { readonly bytes: Uint8Array; readonly where: string },
): WorkbookComparison {
  const [one, other] = [openWorkbook(first.bytes, first.where), openWorkbook(second.bytes, second.where)];
  const differences: CellDifference[] = [];
  let cells = 0;
  const others = new Map(sheetsOf(other).map((sheet) => [sheet.name.toLowerCase(), sheet]));
  for (const sheet of sheetsOf(one)) {
    const partner = others.get(sheet.name.toLowerCase());
    others.delete(sheet.name.toLowerCase());
    if (!partner) {
      differences.push({ sheet: sheet.name, cell: "", what: "only in the first", first: "sheet", second: "" });
      continue;
    }
    const here = contents(one, sheet.part, first.where);
    const there = contents(other, partner.part, second.where);
    const places = [...new Set([...here.keys(), ...there.keys()])].sort((a, b) => a - b);
    cells += places.length;
    for (const place of places) differences.push(...compareCell(sheet.name, here.get(place), there.get(place)));
  }
  for (const sheet of others.values())
    differences.push({ sheet: sheet.name, cell: "", what: "only in the second", first: "", second: "sheet" });
  return { cells, differences };
}

function sheetsOf(workbook: Workbook): Workbook["sheets"] {
  return workbook.sheets.filter((sheet) => sheet.kind === "worksheet" && workbook.package.has(sheet.part));
}

/** Cells by a number that keeps the order of rows and columns. */
function contents(workbook: Workbook, part: string, where: string): Map<number, Content> {
  const found = new Map<number, Content>();
  scanCells(
    workbook.package.getBytes(part),
    (cell) => {
      const value = shownValue(cell, workbook);
      if (value === "" && cell.formula === undefined) return;
      found.set(cell.row * 16_384 + cell.column, {
        row: cell.row,
        column: cell.column,
        value,
        formula: cell.formula,
        format: workbook.styles.formats[cell.style]?.code ?? "General",
      });
    },
    undefined,
    where,
  );
  return found;
}

function shownValue(cell: ScannedCell, workbook: Workbook): string {
  const { value } = cell;
  if (value === undefined) return "";
  if (cell.type === "s") return workbook.sharedStrings[Number(value)] ?? "";
  if (cell.type === "b") return /^(1|true)$/.test(value) ? "TRUE" : "FALSE";
  // Numbers that programs write differently are the same to fifteen digits.
  return cell.type === "n" && value !== "" && Number.isFinite(Number(value))
    ? String(Number(Number(value).toPrecision(15)))
    : value;
}

function compareCell(sheet: string, first: Content | undefined, second: Content | undefined): CellDifference[] {
  const at = first ?? second;
  if (!at) return [];
  const place = { sheet, cell: cellName(at.row, at.column) };
  const text = (content: Content): string => (content.formula ? `=${content.formula}` : content.value);
  if (!second && first) return [{ ...place, what: "only in the first", first: text(first), second: "" }];
  if (!first && second) return [{ ...place, what: "only in the second", first: "", second: text(second) }];
  if (!first || !second) return [];
  const found: CellDifference[] = [];
  if (first.value !== second.value) found.push({ ...place, what: "value", first: first.value, second: second.value });
  if ((first.formula ?? "") !== (second.formula ?? ""))
    found.push({ ...place, what: "formula", first: first.formula ?? "", second: second.formula ?? "" });
  if (first.format !== second.format)
    found.push({ ...place, what: "format", first: first.format, second: second.format });
  return found;
}
