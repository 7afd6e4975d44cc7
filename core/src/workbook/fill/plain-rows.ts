/** Rows that repeat and hold nothing but columns of the lines: by far most rows of filled tables, written straight away. */

import { bytesFromText } from "../../common/index.js";
import type { LineSet } from "../../expression/index.js";
import type { Scalar } from "../../formula/index.js";
import type { Cell } from "../../table/index.js";
import type { BoundCell } from "../template/bind.js";
import { ByteWriter } from "./byte-writer.js";
import { textElement, writeScalar } from "./cell-xml.js";
import type { AddedTexts } from "./shared-texts.js";

export interface PlainRow {
  readonly open: Uint8Array;
  readonly attributes: Uint8Array;
  readonly close: Uint8Array;
  readonly endValue: Uint8Array;
  readonly cells: readonly PlainCell[];
  /** The folded name of the lines its columns are of; none where it has no column. */
  readonly lines: string | undefined;
  /** Bytes that one row takes at most. */
  readonly most: number;
}

/** A cell as bytes, cut where its row's number and its value go. */
interface PlainCell {
  readonly column: number;
  /** `<c r="A`, before the row's number. */
  readonly start: Uint8Array;
  /** Index of the column of the lines; -1 for a cell that stays as it is. */
  readonly lineColumn: number;
  /** A cell that stays as it is, from behind its reference on. */
  readonly fixed: Uint8Array;
  readonly number: Uint8Array;
  /** Before a date, where dates are shown otherwise. */
  readonly date: Uint8Array;
  readonly shared: Uint8Array;
  readonly truth: Uint8Array;
  readonly blank: Uint8Array;
  readonly inline: string;
}

/** Bytes of a cell's number at most, and of a row's. */
const NUMBER_BYTES = 32;

/** A bound row as a plain one; `undefined` where a cell holds more than a column of the lines. */
export function plainRow(cells: readonly BoundCell[], attributes: string, prefix: string): PlainRow | undefined {
  const plain: PlainCell[] = [];
  let lines: string | undefined;
  for (const { cell, letters, content } of cells) {
    const isFixed = content.kind === "fixed" && content.written === "" && !content.what;
    const column = content.kind === "value" && cell.attributes === "" ? content.field.lineColumn : undefined;
    if (!isFixed && column === undefined) return undefined;
    if (content.kind === "value") {
      if (lines !== undefined && lines !== content.field.lines) return undefined;
      lines = content.field.lines;
    }
    const styled = (style: number): string => `"${style > 0 ? ` s="${style}"` : ""}`;
    const own = styled(content.kind === "value" ? content.style : cell.style);
    const dated = content.kind === "value" ? styled(content.styles.date) : own;
    plain.push({
      column: cell.column,
      start: bytesFromText(`<${prefix}c r="${letters}`),
      lineColumn: column ?? -1,
      fixed: bytesFromText(`${own}${cell.attributes}/>`),
      number: bytesFromText(`${own}><${prefix}v>`),
      date: bytesFromText(`${dated}><${prefix}v>`),
      shared: bytesFromText(`${own} t="s"><${prefix}v>`),
      truth: bytesFromText(`${own} t="b"><${prefix}v>`),
      blank: bytesFromText(`${own}/>`),
      inline: `${own} t="inlineStr"><${prefix}is>`,
    });
  }
  const row = {
    open: bytesFromText(`<${prefix}row r="`),
    attributes: bytesFromText(`"${attributes}>`),
    close: bytesFromText(`</${prefix}row>`),
    endValue: bytesFromText(`</${prefix}v></${prefix}c>`),
  };
  const most = plain.reduce(
    (sum, cell) =>
      sum + cell.start.length + cell.fixed.length + cell.shared.length + cell.date.length + 3 * NUMBER_BYTES,
    row.open.length + row.attributes.length + row.close.length + NUMBER_BYTES,
  );
  return { ...row, cells: plain, lines, most };
}

/** The digits of a whole number from 1 on. */
function digitsOf(number: number): Uint8Array {
  const text = String(number);
  const digits = new Uint8Array(text.length);
  for (let at = 0; at < text.length; at++) digits[at] = text.charCodeAt(at);
  return digits;
}

/** The rows of all lines as bytes, the first with the given number (0-based). `see` gets every value, where formulas look at them. */
export function writePlainRows(
  row: PlainRow,
  { lines, table }: Pick<LineSet, "lines" | "table">,
  { first, prefix }: { readonly first: number; readonly prefix: string },
  texts: AddedTexts | undefined,
  see: ((row: number, column: number, value: Scalar) => void) | undefined,
): Uint8Array {
  const { open, attributes, close, endValue, cells, most } = row;
  const sources = cells.map((cell) => (cell.lineColumn < 0 ? undefined : table.columns[cell.lineColumn]));
  const starts = cells.map((cell, at) =>
    /^(date|datetime|time)$/.test(sources[at]?.type ?? "") ? cell.date : cell.number,
  );
  const writer = new ByteWriter(Math.min(lines.length * most, 1 << 22) + 64);
  for (let at = 0; at < lines.length; at++) {
    writer.reserve(most);
    const number = digitsOf(first + at + 1);
    writer.bytes(open);
    writer.bytes(number);
    writer.bytes(attributes);
    for (let index = 0; index < cells.length; index++) {
      const cell = cells[index];
      writer.bytes(cell.start);
      writer.bytes(number);
      const source = sources[index];
      if (source === undefined) {
        writer.bytes(cell.fixed);
        continue;
      }
      const value: Cell = source.values[lines[at]];
      if (typeof value === "number") {
        writer.bytes(starts[index]);
        if (value >= 0 && value < 1e9 && Number.isInteger(value) && !Object.is(value, -0)) writer.whole(value);
        else if (Number.isFinite(value)) writer.ascii(String(value));
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
