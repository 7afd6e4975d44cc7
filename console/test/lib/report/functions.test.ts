import { readFileSync } from "node:fs";
import { compileExpression } from "@corbix/core/expression";
import { describe, expect, it } from "vitest";
import { FUNCTIONS } from "../../../src/lib/report/functions.js";

describe("functions that are offered", () => {
  it("are all that the docs tell, each with words", () => {
    const docs = readFileSync("docs/expressions.md", "utf8");
    const told = (heading: string): string[] => {
      const [, part = ""] = docs.split(`## ${heading}\n`);
      return [...part.split("\n## ")[0].matchAll(/^\| `(\w+)\(/gm)].map(([, name]) => name);
    };
    const offered = (over: string): string[] => FUNCTIONS.filter((one) => one.over === over).map(({ name }) => name);
    expect(new Set(offered("value"))).toEqual(new Set(told("Functions of single values")));
    expect(new Set(offered("line"))).toEqual(new Set(told("Functions over the lines of a group")));
    expect(FUNCTIONS.filter(({ what }) => what === "")).toEqual([]);
  });

  it("have examples that can be calculated", () => {
    const columns = (["unit", "result"] as const).map((name) => ({ name, type: "text" as const }));
    const numbers = (["fee", "hours"] as const).map((name) => ({ name, type: "number" as const }));
    const all = [...columns, ...numbers, { name: "visit_date", type: "date" as const }];
    for (const { example } of FUNCTIONS)
      expect(() => compileExpression(example, { mode: "group", columns: all, spaces: {}, names: [] })).not.toThrow();
  });
});
