import { CorbixError, type Finding } from "../common/index.js";
import { decryptPackage, isCompoundFile, OoxmlPackage } from "../ooxml/index.js";
import { say } from "../words/index.js";
import type { Decision } from "./decision.js";
import { Kind, type RawSheet } from "./formats/raw-sheet.js";
import { looksLikeJson, readJson } from "./formats/read-json.js";
import { ODS_TYPE, readOds } from "./formats/read-ods.js";
import { readTextFile } from "./formats/read-text.js";
import { type ChosenSheet, readWorkbookSheet } from "./formats/read-workbook.js";
import { type FoundTable, findTable } from "./header/find-table.js";
import type { LeftOutLines } from "./left-out.js";
import { sumOf } from "./rows.js";
import type { IntakeRules } from "./rules.js";
import type { Column, Table } from "./table.js";
import type { ChangedCells } from "./types/cell-reader.js";
import type { Judged } from "./types/classify-text.js";
import { ColumnTyper, type FileHabits } from "./types/type-columns.js";

/** A table as it was found in a file, with everything that was decided on the way. */
export interface LoadedTable {
  readonly table: Table;
  /** How the bytes were read: kind, sheet or encoding and delimiter. */
  readonly reading: Readonly<Record<string, string>>;
  readonly headerRow: number;
  /** Lines with content that are no rows of the table. */
  readonly leftOut: readonly LeftOutLines[];
  readonly decisions: readonly Decision[];
  /** Cells that stand here otherwise than in the file. */
  readonly changes: readonly ChangedCells[];
  readonly findings: readonly Finding[];
}

export interface LoadOptions extends IntakeRules {
  /** A sheet, a defined table, a named range or a range such as `Visits!A4:H200`; of JSON a list. */
  readonly part?: string;
  /** Of a workbook that asks for one. */
  readonly password?: string;
}

/**
 * A file's name with what of it is meant behind a `#`: a sheet, a defined table, a named range or a range of a workbook, the list of
 * a JSON file. `part` is what `table`, `sheet` or `list` of the corrections would say.
 */
export function splitPart(name: string): { readonly name: string; readonly part: string | undefined } {
  const at = name.lastIndexOf("#");
  return at <= 0 || at === name.length - 1
    ? { name, part: undefined }
    : { name: name.slice(0, at), part: name.slice(at + 1) };
}

/**
 * Reads a master table from a workbook, OpenDocument spreadsheet, text or JSON file, told by content.
 * Throws `NOT_A_WORKBOOK`, `BAD_TABLE_FILE`, `NO_TABLE` or `LIMIT_EXCEEDED`.
 */
export function loadTable(bytes: Uint8Array, where: string, options: LoadOptions = {}): LoadedTable {
  const chosen = readFile(bytes, where, options);
  const { sheet } = chosen;
  if (sheet.rowCount === 0)
    throw new CorbixError("NO_TABLE", say().table.cannotFindTableRows(), { where: sheet.where });
  const found = findTable(sheet, options, chosen.area);
  const damaged = damagedCells(sheet, found);
  const typed = typeColumns(sheet, found, options);
  const findings: Finding[] = [
    ...(chosen.findings ?? []),
    ...damaged,
    ...found.findings,
    ...typed.findings,
    ...surroundings(chosen, found),
  ];
  findings.push(...totalFindings(sheet, found, typed.columns));
  return {
    table: {
      columns: typed.columns,
      rowCount: found.rows.length,
      rowNumbers: Array.from(found.rows, (row) => sheet.rowNumbers[row]),
    },
    reading: sheet.reading,
    headerRow: found.headerRow,
    leftOut: found.leftOut,
    decisions: [...chosen.decisions, ...found.decisions, ...typed.decisions],
    changes: typed.changes,
    findings,
  };
}

function readFile(bytes: Uint8Array, where: string, options: LoadOptions): ChosenSheet {
  if (bytes.length === 0)
    throw new CorbixError("BAD_TABLE_FILE", say().table.cannotReadFileEmpty(), {
      where,
      advice: say().table.exportAgain(),
    });
  if (isCompoundFile(bytes)) return readWorkbookSheet(decryptPackage(bytes, options.password, where), where, options);
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const opened = OoxmlPackage.open(bytes, where);
    return opened.has("mimetype") && opened.getText("mimetype").trim().startsWith(ODS_TYPE)
      ? readOds(opened, where, options)
      : readWorkbookSheet(bytes, where, options);
  }
  if (options.part !== undefined && looksLikeJson(bytes))
    return readJson(bytes, where, { ...options, list: options.part });
  if ((options.table ?? options.part) !== undefined) {
    throw new CorbixError(
      "NO_TABLE",
      say().table.cannotFindTableFileWorkbook({ table: options.table ?? options.part }),
      {
        where,
      },
    );
  }
  return looksLikeJson(bytes)
    ? readJson(bytes, where, options)
    : { ...readTextFile(bytes, where, options), others: [] };
}

/** What stands in a text where its bytes were no character. */
const NO_CHARACTER = "\ufffd";
const LISTED_CELLS = 20;

/** Cells that hold what is no character: their bytes were damaged before the file came here. */
function damagedCells(sheet: RawSheet, found: FoundTable): Finding[] {
  const texts = new Set<number>();
  sheet.strings.forEach((text, index) => {
    if (text.includes(NO_CHARACTER)) texts.add(index);
  });
  if (texts.size === 0) return [];
  const cells: { row: number; column: string; text: string }[] = [];
  for (const { index, name } of found.columns) {
    const column = sheet.columns[index];
    if (!column) continue;
    for (const row of found.rows)
      if (column.kind(row) === Kind.text && texts.has(column.number(row)))
        cells.push({ row: sheet.rowNumbers[row], column: name, text: sheet.strings[column.number(row)] });
  }
  const inNames = found.columns.filter(({ name }) => name.includes(NO_CHARACTER)).map(({ name }) => name);
  if (cells.length + inNames.length === 0) return [];
  cells.sort((a, b) => a.row - b.row);
  const named = cells.slice(0, 5).map(({ row, column, text }) => say().table.rowValue({ row, column, text }));
  const more = cells.length > 5 ? "; …" : "";
  return [
    {
      code: "damaged-letters",
      severity: "warn",
      where: sheet.where,
      what: say().table.cellsHoldBytesLetterShown({
        cellCount: cells.length + inNames.length,
        noCharacter: NO_CHARACTER,
        list: [...inNames.map((name) => say().table.heading({ name })), ...named].join("; "),
        more,
      }),
      advice: say().table.correctTheseCellsSourceExport(),
      count: cells.length + inNames.length,
      cells: { rows: cells.slice(0, LISTED_CELLS).map(({ row }) => row) },
    },
  ];
}

interface TypedColumns {
  readonly columns: readonly Column[];
  readonly changes: readonly ChangedCells[];
  readonly decisions: readonly Decision[];
  readonly findings: readonly Finding[];
}

function typeColumns(sheet: RawSheet, found: FoundTable, rules: IntakeRules): TypedColumns {
  const judged: (Judged | undefined)[] = [];
  const typers = found.columns.map(({ index, name }) => {
    const raw = sheet.columns[index];
    if (raw === undefined) throw new Error(`column ${index} has no cells`);
    return new ColumnTyper(name, raw, found.rows, sheet, {
      judged,
      rule: rules.types?.[name],
      currencies: sheet.currencies.get(index),
    });
  });
  const habits = fileHabits(found, typers, sheet);
  const typed = typers.map((typer, at) => {
    const result = typer.type(habits);
    // What was read is not needed any more: a large table is never held twice as a whole.
    sheet.columns[found.columns[at].index] = undefined;
    return result;
  });
  const unknown = Object.keys(rules.types ?? {}).filter(
    (name) => !found.columns.some((column) => column.name === name),
  );
  return {
    columns: typed.map((one) => one.column),
    changes: typed.flatMap((one) => one.changes),
    decisions: typed.map((one) => one.decision),
    findings: [
      ...typed.flatMap((one) => one.findings),
      ...unknown.map(
        (name): Finding => ({
          code: "correction-without-column",
          severity: "warn",
          where: sheet.where,
          what: say().table.correctionNamesColumnFile({ name }),
          advice: say().table.correctDatasetSCorrectionsIf(),
        }),
      ),
    ],
  };
}

/** Columns whose own texts do not tell the order of dates or the decimal sign follow those of the same file that do. */
function fileHabits(found: FoundTable, typers: readonly ColumnTyper[], sheet: RawSheet): FileHabits {
  const agree = <T>(values: readonly (T | undefined)[]): { value: T | undefined; from: string } => {
    const kinds = new Set(values.filter((value) => value !== undefined));
    const at = values.findIndex((value) => value !== undefined);
    return kinds.size === 1
      ? { value: values[at], from: say().place.column({ name: found.columns[at].name }) }
      : { value: undefined, from: "" };
  };
  const order = agree(typers.map((typer) => typer.ownOrder));
  const decimal = agree(typers.map((typer) => typer.ownDecimal));
  const semicolons = decimal.value === undefined && sheet.reading.delimiter === "semicolon";
  return {
    order: order.value,
    orderFrom: order.from,
    decimal: semicolons ? "comma" : decimal.value,
    decimalFrom: semicolons ? say().table.filesSemicolons() : decimal.from,
  };
}

function surroundings(chosen: ChosenSheet, found: FoundTable): Finding[] {
  const findings: Finding[] = [];
  const { sheet } = chosen;
  let hidden = 0;
  if (sheet.hidden.size > 0) for (const row of found.rows) if (sheet.hidden.has(row)) hidden++;
  if (hidden > 0) {
    findings.push({
      code: "hidden-rows",
      severity: "note",
      where: sheet.where,
      what: say().table.rowsHiddenFilteredAwayFile({ hidden }),
      advice: say().table.ifTheyShouldCountRemove(),
      count: hidden,
    });
  }
  if (chosen.others.length > 0) {
    findings.push({
      code: "other-sheets",
      severity: "note",
      where: sheet.where,
      what: say().table.read({
        others: chosen.others.slice(0, 5).join("; "),
        value: chosen.others.length > 5 ? "; …" : "",
      }),
      advice: say().table.ifAnotherTableCorrectSheet(),
      count: chosen.others.length,
    });
  }
  return findings;
}

/** Whether the last total line says what the rows add up to: the file proves itself, or it does not. */
function totalFindings(sheet: RawSheet, found: FoundTable, columns: readonly Column[]): Finding[] {
  if (!found.total) return [];
  const { row: line, numbers } = found.total;
  const agrees: string[] = [];
  const findings: Finding[] = [];
  columns.forEach((column, at) => {
    const said = numbers.get(found.columns[at].index);
    if (said === undefined || column.type !== "number") return;
    const sum = sumOf(column.values);
    if (sum.minus(said).abs().lessThan(0.005)) {
      agrees.push(`${column.name} ${sum.toDecimalPlaces(2).toNumber().toLocaleString("en")}`);
      return;
    }
    findings.push({
      code: "total-differs",
      severity: "warn",
      where: say().table.rowColumn({ where: sheet.where, rowNumber: sheet.rowNumbers[line], name: column.name }),
      what: say().table.totalLineSaysButRows({ said, toNumber: sum.toNumber() }),
      advice: say().table.lookWhetherRowsMissingTotal(),
    });
  });
  if (agrees.length > 0) {
    findings.push({
      code: "total-agrees",
      severity: "note",
      where: say().place.rowIn({ where: sheet.where, number: sheet.rowNumbers[line] }),
      what: say().table.totalLineAgreesRows({ agrees: agrees.join(", ") }),
      advice: say().table.nothingDo(),
    });
  }
  return findings;
}
