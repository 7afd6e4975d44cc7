/** What an enquiry asks of a table beyond filters: any of several values, words in some of the columns, and what there is to choose. */
import { groupKey, maybeSerialFromIso } from "../common/index.js";
import { type Cell, type ColumnData, type ColumnInfo, readNumber } from "../table/index.js";
import { isoCell } from "./iso-cell.js";
import type { GridQuery } from "./query.js";

type Looked = ColumnInfo & { readonly data: ColumnData };
export type RowTest = (row: number) => boolean;

export interface AskedQuery extends GridQuery {
  /** Rows with any of these values in the column; a blank text stands for blank cells. */
  readonly anyOf?: readonly { readonly column: string; readonly values: readonly string[] }[];
  /** Rows in which each word stands in one of the columns. */
  readonly words?: readonly { readonly columns: readonly string[]; readonly text: string }[];
}

/** A value there is to choose, as most of its cells spell it, with how many rows have it. */
export interface Choice {
  readonly value: Cell;
  readonly count: number;
}

export interface Choices {
  /** In order; without those beyond the limit. */
  readonly values: readonly Choice[];
  /** How many different values there are. */
  readonly count: number;
}

/** Whether a row has any of the values: texts are compared without regard to capitals and blanks. */
export function anyOfTest({ data, type }: Looked, values: readonly string[]): RowTest {
  const takesBlank = values.some((value) => value.trim() === "");
  if (data.kind === "numbers") {
    const wanted = new Set(values.map((value) => numberOf(value, type)).filter((value) => value !== undefined));
    const isDay = type === "datetime";
    return (row) => {
      const number = data.numbers[row];
      if (Number.isNaN(number)) return takesBlank;
      return wanted.has(number) || (isDay && wanted.has(Math.floor(number)));
    };
  }
  const wanted = new Set(values.map((value) => groupKey(value)));
  const passes = Uint8Array.from(data.dictionary, (entry) =>
    entry === null ? Number(takesBlank) : Number(wanted.has(groupKey(String(entry)))),
  );
  return (row) => passes[data.codes[row]] === 1;
}

/** Whether each word stands in one of the columns: as part of a text, or as a whole number or date. */
export function wordsTest(columns: readonly Looked[], text: string): RowTest {
  const tests = text
    .trim()
    .split(/\s+/)
    .map((word) => textTest(columns, word));
  return (row) => tests.every((test) => test(row));
}

/** Whether a text stands in one of the columns: as part of a text, or as a whole number or date. */
export function textTest(columns: readonly Looked[], text: string): RowTest {
  const wanted = groupKey(text);
  const tests = columns.flatMap(({ data, type }): RowTest[] => {
    if (data.kind === "numbers") {
      const value = numberOf(text, type);
      if (value === undefined) return [];
      return type === "datetime"
        ? [(row) => Math.floor(data.numbers[row]) === Math.floor(value)]
        : [(row) => data.numbers[row] === value];
    }
    const passes = Uint8Array.from(data.dictionary, (entry) =>
      Number(entry !== null && groupKey(String(entry)).includes(wanted)),
    );
    return passes.includes(1) ? [(row) => passes[data.codes[row]] === 1] : [];
  });
  return (row) => tests.some((test) => test(row));
}

function numberOf(text: string, type: ColumnInfo["type"]): number | undefined {
  return type === "date" || type === "datetime" ? maybeSerialFromIso(text.trim()) : readNumber(text.trim());
}

/** The different values of a column with their rows; spellings that count as the same are one. The first `most` of them in order. */
export function choicesOf({ data, type }: Looked, most: number): Choices {
  const counted = data.kind === "numbers" ? countNumbers(data.numbers) : countTexts(data.codes, data.dictionary);
  const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });
  const order = (a: Choice, b: Choice): number => {
    if (a.value === null || b.value === null) return Number(a.value === null) - Number(b.value === null);
    return typeof a.value === "number" && typeof b.value === "number"
      ? a.value - b.value
      : collator.compare(String(a.value), String(b.value));
  };
  // Of very many the most frequent are shown: nobody reads the others.
  const shown = counted.length > most ? counted.sort((a, b) => b.count - a.count).slice(0, most) : counted;
  return {
    values: shown.sort(order).map(({ value, count }) => ({ value: isoCell(type, value), count })),
    count: counted.length,
  };
}

function countNumbers(numbers: Float64Array): Choice[] {
  const counts = new Map<number, number>();
  for (const number of numbers) counts.set(number, (counts.get(number) ?? 0) + 1);
  return [...counts].map(([number, count]) => ({ value: Number.isNaN(number) ? null : number, count }));
}

function countTexts(codes: Uint32Array, dictionary: readonly Cell[]): Choice[] {
  const counts = new Uint32Array(dictionary.length);
  for (const code of codes) counts[code]++;
  const byKey = new Map<string, { value: Cell; count: number; most: number }>();
  for (let code = 0; code < counts.length; code++) {
    const count = counts[code];
    if (count === 0) continue;
    const value = dictionary[code];
    const key = value === null ? "" : groupKey(String(value));
    const known = byKey.get(key);
    if (!known) byKey.set(key, { value, count, most: count });
    else {
      known.count += count;
      if (count > known.most) [known.value, known.most] = [value, count];
    }
  }
  return [...byKey.values()].map(({ value, count }) => ({ value, count }));
}
