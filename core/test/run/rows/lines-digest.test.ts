import { describe, expect, it } from "vitest";
import type { FurtherLines } from "../../../src/expression/lines.js";
import { linesDigest } from "../../../src/run/rows/lines-digest.js";

const table = (sites: (string | null)[], fees: (number | null)[]) => ({
  columns: [
    { name: "Site", type: "text" as const, values: sites },
    { name: "Fee", type: "number" as const, values: fees },
  ],
  rowCount: sites.length,
  rowNumbers: sites.map((_, at) => at + 2),
});
const own = (sites: (string | null)[], fees: (number | null)[], lines = sites.map((_, at) => at)) => ({
  table: table(sites, fees),
  lines,
});
const parts = (lines: number[], belongs: FurtherLines["belongs"]): ReadonlyMap<string, FurtherLines> =>
  new Map([["parts", { table: table(["Rope", "Brake"], [3, 4]), lines, row: -1, belongs }]]);

const base = own(["Dock", "Quay"], [1, 2]);

describe("the digest of a group's lines", () => {
  it("is the same for the same lines", () => {
    expect(linesDigest(own(["Dock", "Quay"], [1, 2]))).toBe(linesDigest(base));
  });

  it.each([
    ["a changed value", own(["Dock", "Quay"], [1, 3])],
    ["a value that went", own(["Dock", null], [1, 2])],
    ["values that moved across columns", own(["Dock", "Quay1"], [1, 2])],
    ["a line less", own(["Dock", "Quay"], [1, 2], [0])],
    ["another order", own(["Dock", "Quay"], [1, 2], [1, 0])],
    ["another line alike", { ...base, table: { ...base.table, rowNumbers: [2, 9] } }],
  ])("changes with %s", (_, other) => {
    expect(linesDigest(other)).not.toBe(linesDigest(base));
  });

  it("changes with further lines of its own, and not with everybody's", () => {
    const belongs = { keyOf: () => "1", ownKeyOf: () => "1" };
    const digests = [linesDigest(base), linesDigest(base, parts([0], belongs)), linesDigest(base, parts([1], belongs))];
    expect(new Set(digests).size).toBe(3);
    expect(linesDigest(base, parts([0], undefined))).toBe(digests[0]);
    expect(linesDigest(base, parts([], belongs))).toBe(digests[0]);
  });
});
