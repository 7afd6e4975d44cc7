import { describe, expect, it } from "vitest";
import { CorbixError } from "../../src/common/index.js";
import { checkEnquiry, fieldColumns, fieldLabel, readQuestion } from "../../src/enquiry/index.js";
import { Grid } from "../../src/grid/index.js";
import type { Enquiry } from "../../src/report/index.js";
import { columnData } from "../../src/table/index.js";

const COLUMNS = [
  { name: "Site", type: "text", values: ["Dock", "dock ", "Quay", null] },
  { name: "Day", type: "date", values: [46000, 46001, 46002, null] },
  { name: "At", type: "datetime", values: [46000.25, 46000.75, 46001.5, null] },
  { name: "Fee", type: "number", values: [10, 20.5, 30, null] },
  { name: "Note", type: "text", values: ["rope worn", "door", "rope new 30", null] },
] as const;
const grid = new Grid(
  COLUMNS.map(({ values, ...info }) => ({ ...info, data: columnData([...values]) })),
  Uint32Array.of(2, 3, 4, 5),
);
const ENQUIRY: Enquiry = {
  fields: {
    site: { choose: "Site", needed: false },
    day: { between: "Day", label: "Visited", needed: false },
    at: { choose: "At", needed: false },
    fee: { between: "fee", needed: false },
    words: { search: ["Note", "Fee"], needed: false },
  },
  most: 10,
};
const found = (values: Parameters<typeof readQuestion>[2], enquiry = ENQUIRY): number[] =>
  [...grid.rows(readQuestion(enquiry, grid.columns, values).query)].map((row) => grid.rowNumbers[row] ?? 0);

describe("a question", () => {
  it.each([
    [{}, [2, 3, 4, 5]],
    [{ site: "DOCK" }, [2, 3]],
    [{ site: ["Quay", ""] }, [4, 5]],
    [{ day: { from: "2025-12-10" } }, [3, 4]],
    [{ day: { to: "2025-12-09" } }, [2]],
    [{ day: ["2025-12-10", "2025-12-11"] }, [3, 4]],
    [{ day: ".." }, [2, 3, 4, 5]],
    [{ at: ["2025-12-09"] }, [2, 3]],
    [{ at: [""] }, [5]],
    [{ fee: "10..20.5" }, [2, 3]],
    [{ fee: "30" }, [4]],
    [{ words: "rope" }, [2, 4]],
    [{ words: "30 rope" }, [4]],
    [{ words: "20.5" }, [3]],
    [{ words: [] }, [2, 3, 4, 5]],
  ])("%j finds rows %j", (values, rows) => {
    expect(found(values)).toEqual(rows);
  });

  it("is told as people read it", () => {
    const { filled } = readQuestion(ENQUIRY, grid.columns, {
      site: ["Dock", ""],
      day: { from: "2025-12-01" },
      fee: { to: "5" },
      words: " rope ",
    });
    expect(filled.map(({ label, value }) => `${label}: ${value}`)).toEqual([
      "Site: Dock, (blank)",
      "Visited: from 2025-12-01",
      "fee: until 5",
      "Note, Fee: rope",
    ]);
  });

  it.each([
    [{ sites: "x" }, "sites", "Cannot find the field `sites`."],
    [{ day: "soon" }, "day", "Cannot read `soon` in Visited."],
    [{ fee: { from: "x" } }, "fee", "Cannot read `x` in fee."],
    [{ site: { from: "a" } }, "site", "Cannot read this field: expected a text or a list of them."],
  ])("%j is refused at its field", (values, where, message) => {
    expect(() => readQuestion(ENQUIRY, grid.columns, values)).toThrow(expect.objectContaining({ where, message }));
  });

  it("is not asked without a field that is needed", () => {
    const enquiry = { ...ENQUIRY, fields: { ...ENQUIRY.fields, site: { choose: "Site", needed: true } } };
    expect(() => found({ site: "" }, enquiry)).toThrow("Cannot ask without Site.");
    expect(found({ site: "Quay" }, enquiry)).toEqual([4]);
  });

  it("sorts as the enquiry says", () => {
    expect(found({}, { ...ENQUIRY, sort: ["-Fee"] })).toEqual([4, 3, 2, 5]);
  });
});

describe("an enquiry against the columns", () => {
  const check =
    (change: Partial<Enquiry>, files: string[] = []) =>
    () =>
      checkEnquiry({ ...ENQUIRY, ...change }, COLUMNS, files);
  it("is fine where everything is there", () => {
    expect(check({ columns: ["site", "Fee"], sort: ["-Day"], page: "sheet" }, ["sheet"])).not.toThrow();
  });
  it.each([
    [{ fields: { a: { choose: "Sight", needed: false } } }, "enquiry, fields, a"],
    [{ fields: { a: { between: "Site", needed: false } } }, "enquiry, fields, a"],
    [{ columns: ["Fees"] }, "enquiry, columns"],
    [{ sort: ["-Days"] }, "enquiry, sort"],
    [{ page: "shet" }, "enquiry, page"],
  ])("%j is refused at %s", (change, where) => {
    expect(check(change as Partial<Enquiry>, ["sheet"])).toThrow(
      expect.objectContaining({ code: "BAD_DEFINITION", where }),
    );
    expect(check(change as Partial<Enquiry>, ["sheet"])).toThrow(CorbixError);
  });
  it("names its fields", () => {
    expect(fieldLabel({ search: ["a", "b"], needed: false })).toBe("a, b");
    expect(fieldColumns({ between: "a", needed: false })).toEqual(["a"]);
  });
});

describe("what there is to choose", () => {
  it("has spellings that count as one together, blanks last, and of very many the most frequent", () => {
    expect(grid.choices("Site", 10)).toEqual({
      values: [
        { value: "Dock", count: 2 },
        { value: "Quay", count: 1 },
        { value: null, count: 1 },
      ],
      count: 3,
    });
    expect(grid.choices("Site", 1)).toEqual({ values: [{ value: "Dock", count: 2 }], count: 3 });
    expect(grid.choices("Day", 10).values.map(({ value }) => value)).toEqual([
      "2025-12-09",
      "2025-12-10",
      "2025-12-11",
      null,
    ]);
    expect(grid.choices("Fee", 10).values[1]).toEqual({ value: 20.5, count: 1 });
  });
});
