import { EditorState } from "prosemirror-state";
import { describe, expect, it } from "vitest";
import { tableMark } from "../../../src/lib/message.js";
import { chipName, oneLine, readLine, typedMarks, writeLine } from "../../../src/lib/rich-text/chips.js";
import { readRowsTable, writeRowsTable } from "../../../src/lib/rich-text/rows-table.js";

const NAMES = ["Site", "Fee (CHF)", "visit_date"];

describe("a table of rows in a message", () => {
  it("is read by the columns' own names and written as it was", () => {
    const mark =
      '{{table line: visit_date headed "Date, day" as "dd/mm/yyyy", `Fee (CHF)` as "#,##0.00" total, upper(site, 2)}}';
    const table = readRowsTable(mark, NAMES);
    expect(table?.columns).toEqual([
      { column: "visit_date", heading: "Date, day", format: "dd/mm/yyyy", total: false },
      { column: "Fee (CHF)", heading: "", format: "#,##0.00", total: true },
      { column: "upper(site, 2)", heading: "", format: "", total: false },
    ]);
    expect(table && writeRowsTable(table, NAMES)).toBe(mark);
  });

  it("is what a new message begins with", () => {
    const columns = [
      { name: "Site", type: "text" },
      { name: "visit_date", type: "date" },
    ];
    const mark = tableMark(columns);
    const table = readRowsTable(mark, NAMES);
    expect(table?.columns.map(({ column, heading }) => [column, heading])).toEqual([
      ["Site", "Site"],
      ["visit_date", "visit_date"],
    ]);
    expect(table && writeRowsTable(table, NAMES)).toBe(mark);
  });

  it.each(["{{table line: fee where fee > 0}}", "{{table line}}", "{{ group.key }}"])(
    "is not set up by ticks: %s",
    (mark) => {
      expect(readRowsTable(mark, NAMES)).toBeUndefined();
    },
  );
});

describe("a line with chips", () => {
  it("is written as it was", () => {
    for (const text of ["", "plain", "{{ a }}", "x {{ a }}{{ b }} y", "open {{ brace"])
      expect(writeLine(readLine(text))).toBe(text);
    expect(writeLine(readLine("two\n lines"))).toBe("two lines");
  });

  it("makes a chip of a mark that is typed, and names it by what it was chosen as", () => {
    let state = EditorState.create({ schema: oneLine, doc: readLine("For {{ site }"), plugins: [typedMarks] });
    state = state.apply(state.tr.insertText("}", state.doc.content.size));
    expect(state.doc.childCount).toBe(2);
    expect(writeLine(state.doc)).toBe("For {{ site }}");
    const insertions = [{ name: "Site, the same in all rows", mark: "{{ site }}" }];
    expect([chipName("{{site}}", insertions), chipName("{{ count(line) }}", insertions)]).toEqual([
      "Site",
      "count(line)",
    ]);
  });
});
