/** What a file says for a calendar: days off from iCalendar or a table, periods of one's own from a table. */

import { CorbixError, columnKey, isoFromSerial, textFromBytes } from "../common/index.js";
import { type LoadOptions, loadTable, type Table } from "../table/index.js";
import { say } from "../words/index.js";
import type { DayOff, OwnPeriod } from "./calendar.js";
import { daysOffFromCalendar } from "./read-days-off.js";

export interface CalendarFile {
  readonly off: readonly DayOff[];
  readonly periods: readonly OwnPeriod[];
}

/** `year`: from which events that come again are followed. Throws `BAD_RULE` for a file that holds neither days nor periods. */
export function readCalendarFile(
  bytes: Uint8Array,
  where: string,
  year: number,
  options: LoadOptions = {},
): CalendarFile {
  if (/^\uFEFF?\s*BEGIN:VCALENDAR/i.test(textFromBytes(bytes.subarray(0, 200))))
    return { off: daysOffFromCalendar(textFromBytes(bytes), where, year), periods: [] };
  const { table } = loadTable(bytes, where, options);
  const column = finder(table);
  const from = column("from", "begins", "start", "first day");
  const to = column("to", "ends", "end", "last day", "until");
  const day = column("day", "date");
  if (day !== undefined)
    return { off: daysOf(table, { day, to, name: column("name", "holiday", "title") }, where), periods: [] };
  if (from !== undefined && to !== undefined)
    return {
      off: [],
      periods: periodsOf(table, { from, to, key: column("key", "period"), label: column("label", "name") }, where),
    };
  throw new CorbixError(
    "BAD_RULE",
    say().calendar.noCalendarColumns({ columns: table.columns.map((one) => one.name).join(", ") }),
    {
      where,
      advice: say().calendar.calendarColumnsAre(),
    },
  );
}

function finder(table: Table): (...names: string[]) => number | undefined {
  const keys = table.columns.map((one) => columnKey(one.name));
  return (...names) => {
    const at = names.map((name) => keys.indexOf(columnKey(name))).find((index) => index >= 0);
    return at;
  };
}

function daysOf(
  table: Table,
  at: { readonly day: number; readonly to: number | undefined; readonly name: number | undefined },
  where: string,
): DayOff[] {
  return rowsOf(table).map((row) => {
    const until = at.to === undefined ? undefined : maybeDay(table, at.to, row);
    const name = at.name === undefined ? "" : textAt(table, at.name, row);
    return {
      day: dayAt(table, at.day, row, where),
      ...(until === undefined ? {} : { until }),
      ...(name === "" ? {} : { name }),
      half: false,
    };
  });
}

function periodsOf(
  table: Table,
  at: {
    readonly from: number;
    readonly to: number;
    readonly key: number | undefined;
    readonly label: number | undefined;
  },
  where: string,
): OwnPeriod[] {
  return rowsOf(table)
    .map((row) => {
      const key = at.key === undefined ? "" : textAt(table, at.key, row);
      const label = at.label === undefined ? "" : textAt(table, at.label, row);
      return {
        from: dayAt(table, at.from, row, where),
        to: dayAt(table, at.to, row, where),
        ...(key === "" ? {} : { key }),
        ...(label === "" ? {} : { label }),
      };
    })
    .sort((a, b) => (a.from < b.from ? -1 : 1));
}

function rowsOf(table: Table): number[] {
  return Array.from({ length: table.rowCount }, (_, row) => row);
}

function textAt(table: Table, column: number, row: number): string {
  const value = table.columns[column].values[row];
  return value === null || value === undefined ? "" : String(value).trim();
}

function maybeDay(table: Table, column: number, row: number): string | undefined {
  const { type, values } = table.columns[column];
  const value = values[row];
  return typeof value === "number" && (type === "date" || type === "datetime")
    ? isoFromSerial(Math.floor(value))
    : undefined;
}

function dayAt(table: Table, column: number, row: number, where: string): string {
  const found = maybeDay(table, column, row);
  if (found !== undefined) return found;
  throw new CorbixError(
    "BAD_RULE",
    say().calendar.noDayInCell({ column: table.columns[column].name, value: textAt(table, column, row) }),
    { where: say().place.rowIn({ where, number: table.rowNumbers[row] }), advice: say().calendar.writeDate() },
  );
}
