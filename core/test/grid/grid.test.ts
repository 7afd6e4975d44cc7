import { appendTable, compareEditions, driftFindings, findDrift, packTable, unpackTable } from "@corbix/core/edition";
import { EVERYTHING, exactSum, Grid, type GridQuery } from "@corbix/core/grid";
import { listGroups } from "@corbix/core/split";
import { type Cell, columnData, loadTable, type Table } from "@corbix/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { forAll } from "../support/for-all.js";

const table = (text: string): Table => loadTable(Buffer.from(text), "t.csv").table;
const gridOf = (source: Table): Grid =>
  new Grid(
    source.columns.map(({ values, ...info }) => ({ ...info, data: columnData(values) })),
    Uint32Array.from(source.rowNumbers),
  );
const query = (part: Partial<GridQuery>): GridQuery => ({ ...EVERYTHING, ...part });

describe("a grid", () => {
  const two = (number: number): string => String(number).padStart(2, "0");
  const row = fc.tuple(
    fc.constantFrom("Dock", "dock 2", "Dock 10", "Ärger", "zebra", "Quay", "", "quay"),
    fc.option(
      fc.integer({ min: -10_000, max: 10_000 }).map((cents) => String(cents / 100)),
      { nil: "", freq: 8 },
    ),
    fc.option(
      fc
        .tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 28 }))
        .map(([month, day]) => `2026-${two(month)}-${two(day)}`),
      { nil: "", freq: 6 },
    ),
  );
  const rows = fc.sample(row, { numRuns: 600, seed: 8 });
  const source = table(`Site,Fee,Day\n${rows.map((row) => row.join(",")).join("\n")}\nEnd,1,2026-01-01\n`);
  const grid = gridOf(source);
  const cells = (name: string): readonly Cell[] => source.columns.find((one) => one.name === name)?.values ?? [];
  const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

  it.each(["Fee", "-Fee", "Day", "-Day", "Site", "-Site"])(
    "sorts by %s as a plain comparison does, blanks last, stable",
    (wanted) => {
      const values = cells(wanted.replace("-", ""));
      const sign = wanted.startsWith("-") ? -1 : 1;
      const expected = [...values.keys()].sort((a, b) => {
        const [x, y] = [values[a], values[b]];
        if (x === null || y === null) return x === y ? a - b : x === null ? 1 : -1;
        const order = typeof x === "number" ? x - Number(y) : collator.compare(String(x), String(y));
        return order === 0 ? a - b : sign * order;
      });
      const sorted = [...grid.rows(query({ sort: [wanted] }))];
      // Spellings that the alphabet calls the same may come in any order among themselves; the values have to be in order.
      const fold = (row: number): Cell =>
        typeof values[row] === "string" ? String(values[row]).toLowerCase() : values[row];
      expect(sorted.map(fold)).toEqual(expected.map(fold));
      expect([...sorted].sort((a, b) => a - b)).toEqual([...values.keys()]);
      if (typeof values[0] === "number") expect(sorted).toEqual(expected);
    },
  );

  it.each<[GridQuery["filters"][number], (site: Cell, fee: Cell, day: Cell) => boolean]>([
    [{ column: "Site", is: "equal", value: " DOCK" }, (site) => String(site).toLowerCase() === "dock"],
    [
      { column: "site", is: "containing", value: "dock" },
      (site) =>
        String(site ?? "")
          .toLowerCase()
          .includes("dock"),
    ],
    [{ column: "Site", is: "blank", value: "" }, (site) => site === null],
    [{ column: "Fee", is: "at-least", value: "12.50" }, (_, fee) => fee !== null && Number(fee) >= 12.5],
    [{ column: "Fee", is: "at-most", value: "-3" }, (_, fee) => fee !== null && Number(fee) <= -3],
    [{ column: "Fee", is: "filled", value: "" }, (_, fee) => fee !== null],
    [
      { column: "Day", is: "at-least", value: "2026-07-01" },
      (_site, _fee, day) => day !== null && Number(day) >= 46_204,
    ],
  ])("filters by %o", (filter, passes) => {
    const expected = [...cells("Site").keys()].filter((row) =>
      passes(cells("Site")[row], cells("Fee")[row], cells("Day")[row]),
    );
    expect([...grid.rows(query({ filters: [filter] }))]).toEqual(expected);
  });

  it("says what cannot be compared", () => {
    expect(() => grid.rows(query({ filters: [{ column: "Day", is: "at-least", value: "July" }] }))).toThrow(
      "Cannot compare Day",
    );
  });

  it("sums money exactly, whatever the decimals", () => {
    forAll(200, (random) => {
      const places = random(9);
      const scale = 10n ** BigInt(places);
      const numbers = Float64Array.from(
        { length: 1 + random(300) },
        () => (random(2) === 0 ? 1 : -1) * Number(`${random(1e9)}e-${places}`),
      );
      let oracle = 0n;
      for (const number of numbers) oracle += BigInt(Math.round(number * 10 ** places));
      const digits = (oracle < 0n ? -oracle : oracle).toString().padStart(places + 1, "0");
      const text = `${oracle < 0n ? "-" : ""}${digits.slice(0, digits.length - places)}${places > 0 ? `.${digits.slice(digits.length - places)}` : ""}`;
      expect(Number(exactSum(numbers, Uint32Array.from(numbers.keys())))).toBe(Number(text));
      expect(
        exactSum(numbers, Uint32Array.from(numbers.keys())).replace(/\.?0+$/, (end) => (end.includes(".") ? "" : end)),
      ).toBe(scale === 1n ? text : text.replace(/\.?0+$/, "") || "0");
    });
  });

  it("profiles what is found, not what is there", () => {
    const found = grid.rows(query({ filters: [{ column: "Site", is: "equal", value: "zebra" }] }));
    const profile = grid.profile("Site", found);
    expect([profile.count, profile.distinct, profile.min]).toEqual([found.length, 1, "zebra"]);
    expect(grid.profile("Fee", new Uint32Array(0))).toMatchObject({ count: 0, min: null, sum: null });
  });
});

describe("editions kept in pieces", () => {
  it("come back as they were: blanks, texts, truth values, whole and broken numbers", () => {
    forAll(30, (random) => {
      const makers: (() => Cell)[] = [
        () => `word ${random(400)}`,
        () => random(1000) - 500,
        () => random(100_000) / 1000 - 50,
        () => random(2) === 0,
        () => null,
        () => -2_147_483_648,
        () => "Zürich – \u{1f6d7}",
      ];
      const rowCount = 1 + random(random(20) === 0 ? 20_000 : 200);
      const columns = Array.from({ length: 4 }, (_, at) => {
        const own = [makers[random(makers.length)], makers[4]];
        return {
          name: `C${at}`,
          type: "text" as const,
          values: Array.from({ length: rowCount }, () => own[random(10) === 0 ? 1 : 0]()),
        };
      });
      const source: Table = { columns, rowCount, rowNumbers: Array.from({ length: rowCount }, (_, at) => at * 2 + 5) };
      expect(unpackTable({ columns, rowCount, pieces: packTable(source) })).toEqual(source);
    });
  });
});

describe("from edition to edition", () => {
  it("tells rows that came twice apart from rows that came once", () => {
    const before = table("Site,Fee\nDock,1\nDock,1\nQuay,2\n");
    const after = table("Site,Fee\nDock,1\nQuay,2\nQuay,2\n");
    const found = compareEditions(before, after, { groupColumns: ["site"] });
    expect([found.added.count, found.gone.count, found.same, found.changed]).toEqual([1, 1, 2, null]);
    expect(found.totals).toEqual([{ column: "Fee", before: "4", after: "5", difference: "1" }]);
  });

  it("guesses a rename by the name or by the values, not by chance", () => {
    const before = table("Site,Fee,Note\nDock,1,a\nQuay,2,b\nMill,3,c\n");
    const byName = findDrift(before, table("Site,Fees,Remark\nDock,4,x\nQuay,5,y\nMill,6,z\n"));
    expect(byName.renamed.map(({ from, to }) => [from, to])).toEqual([["Fee", "Fees"]]);
    expect(byName.gone).toEqual(["Fee", "Note"]);
    const byValues = findDrift(before, table("Place,Fee,Note\nMill,9,d\nDock,8,e\nQuay,7,f\n"));
    expect(byValues.renamed[0]).toMatchObject({ from: "Site", to: "Place", why: "they hold the same values" });
    const findings = driftFindings(byName, (column) => (column === "Note" ? ["monthly"] : []), "x.csv");
    expect(findings.find((one) => one.what.includes('"Note"'))?.severity).toBe("stop");
    expect(findings.find((one) => one.what.includes('"Fee"'))?.severity).toBe("warn");
  });

  it("adds by key: known rows replaced in their place, new ones behind, columns joined", () => {
    const base = table("No,Site,Fee\n1,Dock,3\n2,Quay,4\n3,Mill,5\n");
    const {
      table: result,
      added,
      replaced,
      findings,
    } = appendTable(base, table("No,Site,Rate\n2,Quay West,9\n7,Weir,8\n7,Weir,8.5\n"), ["no"], "x.csv");
    expect([added, replaced, result.rowCount]).toEqual([1, 1, 4]);
    expect(result.columns.map((one) => [one.name, one.values])).toEqual([
      ["No", [1, 2, 3, 7]],
      ["Site", ["Dock", "Quay West", "Mill", "Weir"]],
      ["Rate", [null, 9, null, 8.5]],
      ["Fee", [3, null, 5, null]],
    ]);
    expect(findings.map((one) => one.code)).toEqual(["double-key", "appended"]);
    expect(() => appendTable(base, table("Nr,Site\n1,a\n"), ["no"], "x.csv")).toThrow("key column");
  });

  it("lists groups with what wants a look", () => {
    const list = listGroups(table("Site,Fee\nDock,1\ndock ,2\nSjöstad Quay,3\nSjostad Quay,4\n,5\nNew,6\n"), ["site"], {
      before: table("Site,Fee\nDock,1\nOld,2\nSjöstad Quay,3\nSjostad Quay,4\n"),
      recipientKeys: new Set(["dock", "sjöstad quay"]),
    });
    expect(list.groups.map((group) => [group.label, group.count, group.isNew, group.hasRecipients])).toEqual([
      ["Dock", 2, false, true],
      ["New", 1, true, false],
      ["Sjostad Quay", 1, false, false],
      ["Sjöstad Quay", 1, false, true],
    ]);
    expect(list.gone).toEqual(["Old"]);
    expect(list.blank).toEqual({ count: 1, rowNumbers: [6] });
    expect(list.near).toHaveLength(1);
    const merged = listGroups(table("Site,Fee\nSjöstad Quay,3\nSjostad Quay,4\n"), ["Site"], {
      aliases: [{ column: "Site", from: "Sjostad Quay", to: "Sjöstad Quay" }],
    });
    expect(merged.groups).toMatchObject([
      { label: "Sjöstad Quay", count: 2, spellings: ["Sjöstad Quay", "Sjostad Quay"] },
    ]);
  });
});
