/** Axes of a sheet in which some lines repeat. */
import type { Env } from "@corbix/core/expression";
import { AxisMap, type RepeatedSpan, type SheetMap } from "../../src/workbook/fill/axis-map.js";

/** An env with so many lines of its own; `key` of line n is `keys[n]`. */
export const envOf = (keys: readonly string[]): Env => ({
  table: {
    columns: [{ name: "Key", type: "text", values: keys }],
    rowCount: keys.length,
    rowNumbers: keys.map((_, at) => at + 2),
  },
  lines: keys.map((_, at) => at),
  row: -1,
  spaces: {},
  locale: "en-GB",
  today: 0,
});

export const span = (
  kind: RepeatedSpan["kind"],
  from: number,
  to: number,
  more: Partial<RepeatedSpan> = {},
): RepeatedSpan => ({
  kind,
  lines: "line",
  from,
  to,
  areas: [],
  children: [],
  ...more,
});

/** Rows (and no columns) that move. */
export const rowsOf = (sections: readonly RepeatedSpan[], keys: readonly string[]): SheetMap => ({
  rows: new AxisMap(sections, envOf(keys)),
  columns: new AxisMap([], envOf([])),
});
