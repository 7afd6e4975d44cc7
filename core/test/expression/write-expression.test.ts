import { type Ast, parseExpression, writeExpression } from "@corbix/core/expression";
import { prepareTable } from "@corbix/core/prepare";
import { loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";
import { seeded } from "../support/seeded.js";

/** A tree without its places, to be compared. */
const bare = (ast: unknown): unknown =>
  JSON.parse(JSON.stringify(ast, (key, value) => (key === "at" ? undefined : value)));

describe("an expression written from its tree", () => {
  it.each([
    ["((a)+(b))*2", "(a + b) * 2"],
    ["a - (b - c) - d", "a - (b - c) - d"],
    ["a^(b^c)", "a ^ (b ^ c)"],
    ["not (a = 1 or b = 2) and c", "not (a = 1 or b = 2) and c"],
    ["(a = b) = (c = d)", "(a = b) = (c = d)"],
    ["-(a+b)%", "-(a + b)%"],
    ["(a&b) & c", "a & b & c"],
    ['`Tax %` in ("x ""y""", 3)', '`Tax %` in ("x ""y""", 3)'],
    ['number(fee) > number("100")', 'number(fee) > number("100")'],
    ["sum(line.fee where line.kind = 1)", "sum(line.fee where line.kind = 1)"],
  ])("%s", (source, written) => {
    expect(writeExpression(parseExpression(source))).toBe(written);
    expect(bare(parseExpression(written))).toEqual(bare(parseExpression(source)));
  });

  it.each([1, 2, 3, 4])("is read as the same tree again, for random trees (%i)", (seed) => {
    const random = seeded(seed);
    const ops = ["or", "and", "=", "<>", "<", "&", "+", "-", "*", "/", "^"] as const;
    const tree = (depth: number): Ast => {
      const kind = depth === 0 ? random(2) : random(7);
      if (kind === 0) return { kind: "literal", value: 7, text: "7", at: 0 };
      if (kind === 1) return { kind: "name", parts: random(2) ? ["line", "Fee (CHF)"] : ["fee"], at: 0 };
      if (kind === 2) {
        const op = (["-", "%", "not"] as const)[random(3)];
        return { kind: "unary", op, arg: tree(depth - 1), at: 0 };
      }
      if (kind === 3) return { kind: "in", arg: tree(depth - 1), list: [tree(depth - 1), tree(0)], at: 0 };
      if (kind === 4) return { kind: "call", name: "round", args: [tree(depth - 1), tree(0)], at: 0 };
      return { kind: "binary", op: ops[random(ops.length)], left: tree(depth - 1), right: tree(depth - 1), at: 0 };
    };
    for (let count = 0; count < 300; count++) {
      const ast = tree(4);
      expect(bare(parseExpression(writeExpression(ast)))).toEqual(bare(ast));
    }
  });

  it("is the reason for which rows are left out, word for word", () => {
    const { table } = loadTable(Buffer.from("site,takings,fee\nDock,90,3\nQuay,120,4\n"), "t.csv");
    const keep = 'number(text(takings, "0")) > (number("100")) and (fee + 1) * 2 > 9';
    const { leftOut } = prepareTable(table, { keep }, { others: new Map(), today: 0, locale: "en-GB" });
    expect(leftOut.map((one) => one.reason)).toEqual(['not number(text(takings, "0")) > number("100")']);
  });
});
