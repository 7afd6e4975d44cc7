import { htmlToText } from "html-to-text";
import { describe, expect, it } from "vitest";
import { parseLineTable } from "../../src/message/line-table.js";
import { record } from "../support/helpers.js";

const { scope, env } = record({
  lines: [
    { day: "2026-11-02", unit: "L1 & <L2>", fee: 0.1 },
    { day: "2026-11-03", unit: "L3", fee: 0.2 },
  ],
  parts: [{ kind: "rope", count: 3 }],
});
const html = (source: string) => parseLineTable(source, "message").bind(scope).fill(env);
const rows = (source: string) =>
  [...html(source).matchAll(/<tr>(.*?)<\/tr>/g)].map(([, row]) =>
    [...row.matchAll(/<t[hd][^>]*>(.*?)<\/t[hd]>/g)].map(([, cell]) => htmlToText(cell)),
  );

describe("a table of lines in a message", () => {
  it("has headings, a row for each line, and exact sums of what is added up", () => {
    expect(rows('table line: day, unit headed "Lift", fee as "0.00" total')).toEqual([
      ["Day", "Lift", "Fee"],
      ["2 Nov 2026", "L1 & <L2>", "0.10"],
      ["3 Nov 2026", "L3", "0.20"],
      ["Total", "", "0.30"],
    ]);
    expect(rows("table line: fee total").at(-1)).toEqual(["0.3"]);
  });

  it("shows only the lines of its condition, or other lines", () => {
    expect(rows("table line: unit where fee > 0.1")).toEqual([["Unit"], ["L3"]]);
    expect(rows("table parts: kind, count")).toEqual([
      ["Kind", "Count"],
      ["rope", "3"],
    ]);
  });

  it("sets numbers to the right, and lets no value be markup", () => {
    const made = html("table line: unit, fee");
    expect(made).not.toContain("<L2>");
    expect(made.match(/text-align:right/g)?.length).toBe(3);
  });

  it.each(["table line", 'table line: unit style "Grid"', "repeat line"])("%s is refused", (source) => {
    expect(() => parseLineTable(source, "message")).toThrow("Cannot make a table without columns, or with a style");
  });

  it("with a column that is not there is refused when it is bound", () => {
    expect(() => html("table line: units")).toThrow(/units/);
  });
});
