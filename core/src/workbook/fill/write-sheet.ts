/** A filled sheet as XML: ECMA-376 part 1, 18.3. */

import { bytesFromText } from "../../common/index.js";
import type { FormulaCell, Matrix, Scalar } from "../../formula/index.js";
import { escapeXml } from "../../ooxml/index.js";
import { cellName, columnLetters, rangeName } from "../../spreadsheet/index.js";
import type { BoundSheet } from "../template/bind.js";
import { type Moves, writeFormula } from "../template/formula-text.js";
import type { Instance } from "./axis-map.js";
import { textElement, typeAttribute, writeScalar } from "./cell-xml.js";
import type { OutputCell, OutputRow } from "./instantiate-rows.js";
import type { AddedTexts } from "./shared-texts.js";
import type { Surroundings } from "./worksheet-elements.js";

export interface WritingSite {
  readonly around: Surroundings;
  readonly texts: AddedTexts | undefined;
  /** Values of array formulas outside of their own cells, by row and column. */
  readonly spilled: ReadonlyMap<number, ReadonlyMap<number, Scalar>> | undefined;
  readonly result: (cell: FormulaCell) => Scalar;
  readonly array: (cell: FormulaCell) => Matrix | undefined;
  readonly moves: (instance: Instance | undefined) => Moves;
}

export function writeSheet(bound: BoundSheet, rows: readonly OutputRow[], site: WritingSite): string | Uint8Array {
  const { document, prefix } = bound.sheet;
  let data = "";
  const pieces: Uint8Array[] = [];
  for (const row of site.spilled ? withSpilled(rows, site.spilled) : rows) {
    if (row.written !== undefined) {
      pieces.push(bytesFromText(data), row.written);
      data = "";
      continue;
    }
    data += `<${prefix}row r="${row.number + 1}"${row.attributes}>`;
    const spilled = site.spilled?.get(row.number);
    if (spilled && spilled.size > 0) data += writeMixed(row, spilled, prefix, site);
    else for (const cell of row.cells) data += writeCell(cell, row.number, prefix, site);
    data += `</${prefix}row>`;
  }
  const { root } = document;
  const open = root.open.endsWith("/>") ? `${root.open.slice(0, -2)}>` : root.open;
  const before = bound.before.map((write) => write(site.around)).join("");
  const after = bound.after.map((write) => write(site.around)).join("");
  const head = `${document.head}${open}${before}<${prefix}sheetData>`;
  const tail = `${data}</${prefix}sheetData>${after}</${root.name}>${document.tail}`;
  return pieces.length === 0 ? head + tail : Buffer.concat([bytesFromText(head), ...pieces, bytesFromText(tail)]);
}

/** Rows with those that only values of array formulas stand in. */
function withSpilled(
  rows: readonly OutputRow[],
  spilled: ReadonlyMap<number, ReadonlyMap<number, Scalar>>,
): readonly OutputRow[] {
  const known = new Set(rows.map((row) => row.number));
  const missing = [...spilled].filter(([row, cells]) => cells.size > 0 && !known.has(row));
  if (missing.length === 0) return rows;
  const added = missing.map(([number]): OutputRow => ({ number, attributes: "", cells: [] }));
  return [...rows, ...added].sort((a, b) => a.number - b.number);
}

/** A row in which values of array formulas stand among other cells. */
function writeMixed(row: OutputRow, spilled: ReadonlyMap<number, Scalar>, prefix: string, site: WritingSite): string {
  const cells = new Map<number, string>();
  for (const cell of row.cells) cells.set(cell.column, writeCell(cell, row.number, prefix, site));
  for (const [column, value] of spilled) {
    const style = row.cells.find((cell) => cell.column === column)?.style ?? 0;
    const { type, value: written } = writeScalar(value);
    const at = `<${prefix}c r="${cellName(row.number, column)}"${style > 0 ? ` s="${style}"` : ""}${typeAttribute(type)}`;
    cells.set(column, written === "" ? `${at}/>` : `${at}><${prefix}v>${written}</${prefix}v></${prefix}c>`);
  }
  return [...cells]
    .sort(([a], [b]) => a - b)
    .map(([, text]) => text)
    .join("");
}

function writeCell(output: OutputCell, row: number, prefix: string, site: WritingSite): string {
  const { bound, value, style, formula } = output;
  const { cell, content } = bound;
  const letters = output.column === cell.column ? bound.letters : columnLetters(output.column);
  const at = `<${prefix}c r="${letters}${row + 1}"${style > 0 ? ` s="${style}"` : ""}`;
  if (output.isBlank) return `${at}${cell.attributes}/>`;
  if (formula && content.kind === "formula") {
    const text = writeFormula(content.text, site.moves(output.instance));
    const result = writeScalar(site.result(formula));
    const stored = result.value === "" && result.type === undefined ? "" : `<${prefix}v>${result.value}</${prefix}v>`;
    const array = formula.array ? ` t="array" ref="${arrayRange(formula, site.array(formula))}"` : "";
    return `${at}${typeAttribute(result.type)}${cell.attributes}><${prefix}f${array}>${escapeXml(text)}</${prefix}f>${stored}</${prefix}c>`;
  }
  if (content.kind === "fixed") {
    if (content.written === "") return `${at}${cell.attributes}/>`;
    const { type } = cell.content as { type: string };
    return `${at}${typeAttribute(type === "n" ? undefined : type)}${cell.attributes}>${content.written}</${prefix}c>`;
  }
  if (content.kind === "rich" && output.runs) {
    const runs = content.runs
      .map(
        (run, index) => `<${prefix}r>${run.properties}${textElement(prefix, output.runs?.[index] ?? "")}</${prefix}r>`,
      )
      .join("");
    return `${at} t="inlineStr"${cell.attributes}><${prefix}is>${runs}</${prefix}is></${prefix}c>`;
  }
  if (value === null || value === "") return `${at}${cell.attributes}/>`;
  if (typeof value === "string" && site.texts)
    return `${at} t="s"${cell.attributes}><${prefix}v>${site.texts.index(value)}</${prefix}v></${prefix}c>`;
  if (typeof value === "string") {
    return `${at} t="inlineStr"${cell.attributes}><${prefix}is>${textElement(prefix, value)}</${prefix}is></${prefix}c>`;
  }
  const written = writeScalar(value);
  return `${at}${typeAttribute(written.type)}${cell.attributes}><${prefix}v>${written.value}</${prefix}v></${prefix}c>`;
}

function arrayRange(formula: FormulaCell, values: Matrix | undefined): string {
  const { row, column, array } = formula;
  const fixed = array === "free" ? undefined : array;
  const [rows, columns] = [values?.length ?? fixed?.rows ?? 1, values?.[0]?.length ?? fixed?.columns ?? 1];
  const range = rangeName({ top: row, left: column, bottom: row + rows - 1, right: column + columns - 1 });
  return rows === 1 && columns === 1 ? cellName(row, column) : range;
}
