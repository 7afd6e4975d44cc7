/** Values of cells that a chart leads to, where it stores none itself. */
import { type CellRange, cellValues, maybeRange, splitSheet, type Workbook } from "../../spreadsheet/index.js";

export interface ReferredValues {
  readonly items: readonly (string | number | undefined)[];
  readonly format: string;
}

/** More points are not drawn. */
const MAX_POINTS = 32_000;

type SheetCells = ReturnType<typeof cellValues>;

/** Reads sheets as they are asked for, each once. */
export class CellValues {
  private readonly sheets = new Map<string, SheetCells>();

  constructor(private readonly workbook: Workbook) {}

  /** The cells of a reference such as `Sheet1!$B$2:$B$9` in reading order; `undefined` for anything else. */
  at(formula: string): ReferredValues | undefined {
    const { sheet, rest } = splitSheet(formula.trim());
    const range = maybeRange(rest);
    const part = this.workbook.sheets.find((one) => one.name.toLowerCase() === sheet?.toLowerCase())?.part;
    if (!range || part === undefined || !this.workbook.package.has(part)) return undefined;
    return this.read(this.cellsOf(part), range);
  }

  private read(cells: SheetCells, range: CellRange): ReferredValues {
    const items: (string | number | undefined)[] = [];
    let format = "General";
    for (let row = range.top; row <= range.bottom && items.length < MAX_POINTS; row++)
      for (let column = range.left; column <= range.right && items.length < MAX_POINTS; column++) {
        const cell = cells.get(row)?.get(column);
        if (items.length === 0 && cell) format = this.workbook.styles.formats[cell.style]?.code ?? format;
        items.push(typeof cell?.value === "boolean" ? Number(cell.value) : cell?.value);
      }
    return { items, format };
  }

  private cellsOf(part: string): SheetCells {
    const cells = this.sheets.get(part) ?? cellValues(this.workbook, part);
    this.sheets.set(part, cells);
    return cells;
  }
}
