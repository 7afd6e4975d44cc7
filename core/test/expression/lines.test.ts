import { describe, expect, it } from "vitest";
import { type FurtherLines, linesOf, withLine, withLines } from "../../src/expression/lines.js";
import type { Env } from "../../src/expression/scope.js";

const table = (name: string, values: string[]) => ({
  columns: [{ name, type: "text" as const, values }],
  rowCount: values.length,
  rowNumbers: values.map((_, at) => at + 2),
});
const SITES = table("Site", ["Dock", "Quay", "Pier"]);
const PARTS = table("For", ["Quay", "Dock", "Pier", "Quay"]);

const envWith = (further: [string, FurtherLines][]): Env => ({
  table: SITES,
  lines: [0, 1],
  row: -1,
  further: new Map(further),
  spaces: {},
  locale: "en-GB",
  today: 46_328,
});
const parts: FurtherLines = {
  table: PARTS,
  lines: [0, 1, 3],
  row: -1,
  belongs: {
    keyOf: (row) => String(PARTS.columns[0].values[row]),
    ownKeyOf: (row) => String(SITES.columns[0].values[row]),
  },
};

describe("lines of a group", () => {
  it("are its own and further ones; a name without lines has none", () => {
    const env = envWith([["parts", parts]]);
    expect(linesOf(env, "line").lines).toEqual([0, 1]);
    expect(linesOf(env, "parts").lines).toEqual([0, 1, 3]);
    expect(linesOf(env, "people")).toMatchObject({ lines: [], row: -1, table: { rowCount: 0 } });
  });

  it("have a current one each, which leaves the others' alone", () => {
    const env = withLine(withLine(envWith([["parts", parts]]), "line", 1), "parts", 3);
    expect(env.row).toBe(1);
    expect(linesOf(env, "parts").row).toBe(3);
    expect(linesOf(withLine(env, "line", 0), "parts").row).toBe(3);
  });

  it("fewer of its own take along only the further ones that belong to them", () => {
    const env = withLines(envWith([["parts", parts]]), "line", [1]);
    expect(linesOf(env, "line").lines).toEqual([1]);
    expect(linesOf(env, "parts").lines).toEqual([0, 3]);
  });

  it("everybody's lines stay when the own ones become fewer", () => {
    const everybody = { table: PARTS, lines: [0, 2], row: -1 };
    expect(linesOf(withLines(envWith([["notes", everybody]]), "line", []), "notes").lines).toEqual([0, 2]);
  });

  it("fewer further lines leave the own ones as they are, and have no current one", () => {
    const env = withLines(withLine(envWith([["parts", parts]]), "parts", 0), "parts", [3]);
    expect(linesOf(env, "parts")).toMatchObject({ lines: [3], row: -1 });
    expect(env.lines).toEqual([0, 1]);
  });
});
