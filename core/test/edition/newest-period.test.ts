import { plainPeriods } from "@corbix/core/calendar";
import { describe, expect, it } from "vitest";
import { maybeSerialFromIso } from "../../src/common/index.js";
import { newestPeriod, packTable } from "../../src/edition/index.js";
import type { Table } from "../../src/table/index.js";

const serialFromIso = (day: string): number => maybeSerialFromIso(day) ?? Number.NaN;

/** A table whose second column has these days. */
function withDays(days: readonly (string | number | null)[]): Parameters<typeof newestPeriod>[0] {
  const values = days.map((day) => (typeof day === "string" ? serialFromIso(day) : day));
  const table: Table = {
    columns: [
      { name: "Next due", type: "date", values: values.map((day) => (day === null ? null : Number(day) + 400)) },
      { name: "Visit date", type: "date", values },
    ],
    rowCount: values.length,
    rowNumbers: values.map((_, at) => at + 2),
  };
  return { columns: table.columns, rowCount: table.rowCount, pieces: packTable(table) };
}
const today = serialFromIso("2026-12-05");

describe("the period that is looked at when none is named", () => {
  it.each([
    ["the last that is over, where it has rows", ["2026-10-02", "2026-11-30", "2026-12-01"], "2026-11"],
    ["an earlier one, where the last has none", ["2026-01-10", "2026-10-30", "2026-12-01", null], "2026-10"],
    ["the last, where all rows are younger", ["2026-12-02", "2027-03-01"], "2026-11"],
    ["the last, where no row has a day", [null, null], "2026-11"],
    ["the last, where there are no rows", [], "2026-11"],
    ["of a moment in its last hour", [serialFromIso("2026-11-30") + 0.99], "2026-11"],
  ])("is %s", (_, days, key) => {
    expect(newestPeriod(withDays(days), 1, plainPeriods("month"), today)?.key).toBe(key);
  });

  it("is found among many rows with few and with many days", () => {
    const first = serialFromIso("2020-01-01");
    const few = Array.from({ length: 40_000 }, (_, at) => first + (at % 200));
    expect(newestPeriod(withDays(few), 1, plainPeriods("quarter"), today)?.key).toBe("2020-Q3");
    const many = Array.from({ length: 40_000 }, (_, at) => first + at / 20);
    expect(newestPeriod(withDays(many), 1, plainPeriods("year"), today)?.key).toBe("2025");
  });
});
