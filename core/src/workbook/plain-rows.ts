/** Rows that repeat and hold nothing but columns of the lines: by far most rows of filled tables, written straight away. */
import type { Scalar } from "../calculate/index.js";
import { bytesFromText } from "../common/index.js";
import type { Env } from "../expression/index.js";
import type { Cell } from "../table/index.js";
import type { BoundCell } from "./bind.js";
import { ByteWriter } from "./byte-writer.js";
import { textElement, writeScalar } from "./cell-xml.js";
import type { AddedTexts } from "./shared-texts.js";

export interface PlainRow {
  readonly open: string;
  readonly attributes: string;
  readonly close: string;
  readonly cells: readonly PlainCell[];
}

interface PlainCell {
  readonly column: number;
  /** `<c r="A`, before the row's number. */
  readonly start: string;
  /** Attributes behind the reference, for numbers, and for dates where they are shown otherwise. */
  readonly plain: string;
  readonly dated: string;
  /** Index of the column of the lines; -1 for a cell that stays as it is. */
  readonly lineColumn: number;
  /** A cell that stays as it is, from behind its reference on. */
  readonly fixed: string;
  readonly value: Scalar;
}

/** A bound row as a plain one; `undefined` where a cell holds more than a column of the lines. */
export function plainRow(cells: readonly BoundCell[], attributes: string, prefix: string): PlainRow | undefined {
  const plain: PlainCell[] = [];
  for (const { cell, letters, content } of cells) {
    const start = `<${prefix}c r="${letters}`;
    const styled = (style: number): string => `"${style > 0 ? ` s="${style}"` : ""}`;
    const base = { column: cell.column, start, plain: "", dated: "", lineColumn: -1, fixed: "", value: null };
    if (content.kind === "fixed" && content.written === "" && !content.what)
      plain.push({ ...base, fixed: `${styled(cell.style)}${cell.attributes}/>` });
    else if (content.kind === "value" && content.field.lineColumn !== undefined && cell.attributes === "")
      plain.push({
        ...base,
        plain: styled(content.style),
        dated: styled(content.styles.date),
        lineColumn: content.field.lineColumn,
      });
    else return undefined;
  }
  return { open: `<${prefix}row r="`, attributes, close: `</${prefix}row>`, cells: plain };
}

/** Bytes of a cell's number at most, and of a row's. */
const NUMBER_BYTES = 32;

/** The rows of all lines as bytes, the first with the given number (0-based). `see` gets every value, where formulas look at them. */
export function writePlainRows(
  row: PlainRow,
  env: Env,
  first: number,
  prefix: string,
  texts: AddedTexts | undefined,
  see: ((row: number, column: number, value: Scalar) => void) | undefined,
): Uint8Array {
  const { lines, table } = env;
  const bytes = (text: string): Uint8Array => bytesFromText(text);
  const close = bytes(row.close);
  const open = bytes(row.open);
  const attributes = bytes(`"${row.attributes}>`);
  const endValue = bytes(`</${prefix}v></${prefix}c>`);
  const cells = row.cells.map((cell) => {
    const source = cell.lineColumn < 0 ? undefined : table.columns[cell.lineColumn];
    const isDate = source !== undefined && /^(date|datetime|time)$/.test(source.type);
    return {
      column: cell.column,
      values: source?.values,
      start: bytes(cell.start),
      fixed: bytes(cell.fixed),
      number: bytes(`${isDate ? cell.dated : cell.plain}><${prefix}v>`),
      shared: bytes(`${cell.plain} t="s"><${prefix}v>`),
      truth: bytes(`${cell.plain} t="b"><${prefix}v>`),
      inline: `${cell.plain} t="inlineStr"><${prefix}is>`,
      blank: bytes(`${cell.plain}/>`),
    };
  });
  const most = cells.reduce(
    (sum, cell) =>
      sum + cell.start.length + cell.fixed.length + cell.shared.length + cell.number.length + 2 * NUMBER_BYTES,
    open.length + attributes.length + close.length + NUMBER_BYTES,
  );
  const writer = new ByteWriter(Math.min(lines.length * most, 1 << 22) + 64);
  for (let at = 0; at < lines.length; at++) {
    writer.reserve(most);
    const number = first + at + 1;
    writer.bytes(open);
    writer.whole(number);
    writer.bytes(attributes);
    for (let index = 0; index < cells.length; index++) {
      const cell = cells[index];
      writer.bytes(cell.start);
      writer.whole(number);
      if (cell.values === undefined) {
        writer.bytes(cell.fixed);
        continue;
      }
      const value: Cell = cell.values[lines[at]];
      if (typeof value === "number") {
        writer.bytes(cell.number);
        if (value >= 0 && value < 1e9 && Number.isInteger(value) && !Object.is(value, -0)) writer.whole(value);
        else writer.ascii(writeScalar(value).value);
        writer.bytes(endValue);
      } else if (value === null || value === "") writer.bytes(cell.blank);
      else if (typeof value === "boolean") {
        writer.bytes(cell.truth);
        writer.whole(value ? 1 : 0);
        writer.bytes(endValue);
      } else if (texts) {
        writer.bytes(cell.shared);
        writer.whole(texts.index(value));
        writer.bytes(endValue);
      } else {
        writer.text(`${cell.inline}${textElement(prefix, value)}</${prefix}is></${prefix}c>`);
        // What is still to come of this row needs its room again.
        writer.reserve(most);
      }
      if (see && value !== null) see(first + at, cell.column, value);
    }
    writer.bytes(close);
  }
  return writer.finish();
}
