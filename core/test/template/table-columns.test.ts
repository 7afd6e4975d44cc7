import { describe, expect, it } from "vitest";
import { capitalise, parseTableColumns } from "../../src/template/table-columns.js";

const column = (source: string, more: object = {}) => ({
  source,
  heading: undefined,
  format: undefined,
  total: false,
  ...more,
});

describe("columns of a table of lines", () => {
  it.each<[string, object[]]>([
    ["", []],
    ["unit, fee", [column("unit"), column("fee")]],
    ['fee headed "Fee (CHF)" as "0.00" total', [column("fee", { heading: "Fee (CHF)", format: "0.00", total: true })]],
    ['fee total as "0.00"', [column("fee", { format: "0.00", total: true })]],
    ['if(fee > 1, "a, b", unit) headed "x"', [column('if(fee > 1, "a, b", unit)', { heading: "x" })]],
    ["`a, b`, c", [column("`a, b`"), column("c")]],
    [" , unit , ", [column("unit")]],
    ['fee headed ""', [column("fee", { heading: "" })]],
  ])("%s", (text, columns) => {
    expect(parseTableColumns(text, "x")).toEqual(columns);
  });

  it("that are called as an addition is are columns", () => {
    expect(parseTableColumns("total, headed", "x")).toEqual([column("total"), column("headed")]);
  });

  it("have headings that begin with a capital, whatever their name is written with", () => {
    expect(["unit", "visit_no", "éclair", ""].map(capitalise)).toEqual(["Unit", "Visit no", "Éclair", ""]);
  });
});
