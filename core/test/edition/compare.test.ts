import { compareEditions, differenceFindings } from "@corbix/core/edition";
import type { Cell, ColumnType, Table } from "@corbix/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const table = (columns: Readonly<Record<string, readonly Cell[]>>, first = 2): Table => {
  const rowCount = Object.values(columns)[0]?.length ?? 0;
  return {
    columns: Object.entries(columns).map(([name, values]) => ({
      name,
      type: (typeof values.find((value) => value !== null) === "number" ? "number" : "text") as ColumnType,
      values,
    })),
    rowCount,
    rowNumbers: Array.from({ length: rowCount }, (_, row) => row + first),
  };
};

const visits = table({ "Visit no": [1, 2, 3], Site: ["Dock", "Mill", "Quay"], Fee: [0.1, 0.2, 30] });

describe("two editions", () => {
  it("are compared by key: what came, what went, what changed and in which column", () => {
    const later = table({ visit_no: [2, 3, 4], Fee: [0.2, 31, 5], Site: ["Mill", "quay", "Dock"] });
    const found = compareEditions(visits, later, { key: ["Visit no"], groupColumns: ["Site"] });
    expect(found.rows).toEqual({ before: 3, after: 3 });
    expect([found.added, found.gone, found.same]).toEqual([
      { count: 1, rowNumbers: [4] },
      { count: 1, rowNumbers: [2] },
      1,
    ]);
    expect(found.changed).toMatchObject({ count: 1, rowNumbers: [3], columns: { Fee: 1, Site: 1 } });
    expect(found.changed?.examples).toContainEqual({ key: "3", column: "Fee", before: 30, after: 31 });
    // `quay` is the group `Quay`.
    expect(found.groups).toEqual([{ column: "Site", before: 3, after: 3, added: [], gone: [] }]);
    // Sums are exact: 0.1 + 0.2 is 0.3.
    expect(found.totals.find((one) => one.column === "Fee")).toEqual({
      column: "Fee",
      before: "30.3",
      after: "36.2",
      difference: "5.9",
    });
  });

  it("are compared whole without a key, by the columns both have", () => {
    const later = table({ Site: ["Mill", "Dock", "Dock"], Fee: [0.2, 0.1, 0.1], Town: ["A", "B", "C"] });
    const found = compareEditions(visits, later);
    expect([found.added.rowNumbers, found.gone.rowNumbers, found.same, found.changed]).toEqual([[4], [4], 2, null]);
    expect(found.columns).toEqual({ added: ["Town"], gone: ["Visit no"] });
  });

  it("with a key that several rows have: equal ones are the same, and what is left over came or went", () => {
    const before = table({ Key: ["K", "K", "L"], Fee: [1, 2, 3] });
    expect(compareEditions(before, before, { key: ["Key"] })).toMatchObject({
      added: { count: 0 },
      gone: { count: 0 },
      changed: { count: 0 },
      same: 3,
    });
    const later = table({ Key: ["K", "K", "K", "L"], Fee: [2, 9, 8, 3] });
    expect(compareEditions(before, later, { key: ["Key"] })).toMatchObject({
      added: { count: 1, rowNumbers: [4] },
      gone: { count: 0 },
      changed: { count: 1, rowNumbers: [3], examples: [{ key: "k", column: "Fee", before: 1, after: 9 }] },
      same: 2,
    });
  });

  it("that share no column have no row in common", () => {
    const found = compareEditions(visits, table({ Lift: ["L1"] }));
    expect([found.added.count, found.gone.count, found.same]).toEqual([1, 3, 0]);
  });

  const cell = fc.constantFrom<Cell>("a", "b", "A ", "", null, 0, 1, 0.5);
  const tables = fc
    .array(fc.tuple(fc.constantFrom<Cell>("k1", "k2", "k3", null), cell, cell), { maxLength: 12 })
    .map((rows) => table({ Key: rows.map(([one]) => one), X: rows.map(([, x]) => x), Y: rows.map(([, , y]) => y) }));

  it("account for every row of both, and say the opposite the other way round", () => {
    fc.assert(
      fc.property(tables, tables, fc.boolean(), (before, after, isKeyed) => {
        const options = isKeyed ? { key: ["Key"] } : {};
        const [there, back] = [compareEditions(before, after, options), compareEditions(after, before, options)];
        const changed = there.changed?.count ?? 0;
        expect(there.same + changed + there.added.count).toBe(after.rowCount);
        expect(there.same + changed + there.gone.count).toBe(before.rowCount);
        expect([back.added.count, back.gone.count, back.same]).toEqual([
          there.gone.count,
          there.added.count,
          there.same,
        ]);
      }),
      { numRuns: 500 },
    );
  });

  it("have no difference where only the order of rows is another", () => {
    fc.assert(
      fc.property(tables, fc.boolean(), fc.nat(), (before, isKeyed, turn) => {
        const order = Array.from({ length: before.rowCount }, (_, row) => (row + turn) % Math.max(1, before.rowCount));
        const turned = table(
          Object.fromEntries(before.columns.map(({ name, values }) => [name, order.map((row) => values[row])])),
        );
        const found = compareEditions(before, turned, isKeyed ? { key: ["Key"] } : {});
        expect([found.added.count, found.gone.count, found.changed?.count ?? 0]).toEqual([0, 0, 0]);
      }),
      { numRuns: 500 },
    );
  });

  it("are a finding where groups came or went, or rows are less than half", () => {
    const later = table({ Site: ["Dock"], Fee: [1], "Visit no": [1] });
    const findings = differenceFindings(compareEditions(visits, later, { groupColumns: ["Site"] }), "visits.csv");
    expect(findings.map(({ code, what }) => [code, what])).toEqual([
      ["group-gone", '2 groups of the edition before have no rows any more: "Mill", "Quay".'],
      ["far-fewer-rows", "There are 1 rows, the edition before had 3."],
    ]);
    expect(differenceFindings(compareEditions(visits, visits, { groupColumns: ["Site"] }), "visits.csv")).toEqual([]);
  });
});
