import { type Ast, parseExpression, writeExpression } from "@corbix/core/expression";
import { prepareTable } from "@corbix/core/prepare";
import { loadTable } from "@corbix/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

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

  it("is read as the same tree again, whatever the tree", () => {
    const at = fc.constant(0);
    const literal = fc.oneof(
      fc.nat(99_999).map((value) => ({ value, text: `${value}` })),
      fc.nat(9_999).map((value) => ({ value: value / 100, text: `${value / 100}` })),
      fc.string({ maxLength: 6 }).map((text) => ({ value: text, text })),
      fc.boolean().map((value) => ({ value, text: `${value}` })),
    );
    const { tree } = fc.letrec<{ tree: Ast }>((tie) => ({
      tree: fc.oneof(
        { depthSize: "small", withCrossShrink: true },
        literal.map(({ value, text }): Ast => ({ kind: "literal", value, text, at: 0 })),
        fc.record({
          kind: fc.constant("name" as const),
          parts: fc.constantFrom(
            ["fee"],
            ["line", "Fee (CHF)"],
            ["period", "label"],
            ["Not"],
            ["in"],
            ["AND"],
            ["x.y", "where"],
            ["true"],
          ),
          at,
        }),
        fc.record({
          kind: fc.constant("unary" as const),
          op: fc.constantFrom("-", "%", "not"),
          arg: tie("tree"),
          at,
        }),
        fc.record({
          kind: fc.constant("in" as const),
          arg: tie("tree"),
          list: fc.array(tie("tree"), { minLength: 1, maxLength: 3 }),
          at,
        }),
        fc.record(
          {
            kind: fc.constant("call" as const),
            name: fc.constantFrom("round", "sum", "if"),
            args: fc.array(tie("tree"), { minLength: 1, maxLength: 3 }),
            where: tie("tree"),
            at,
          },
          { requiredKeys: ["kind", "name", "args", "at"] },
        ),
        fc.record({
          kind: fc.constant("binary" as const),
          op: fc.constantFrom("or", "and", "=", "<>", "<", "<=", ">", ">=", "&", "+", "-", "*", "/", "^"),
          left: tie("tree"),
          right: tie("tree"),
          at,
        }),
      ) as fc.Arbitrary<Ast>,
    }));
    fc.assert(
      fc.property(tree, (ast) => {
        expect(bare(parseExpression(writeExpression(ast)))).toEqual(bare(ast));
      }),
      { numRuns: 1000 },
    );
  });

  it("is the reason for which rows are left out, word for word", () => {
    const { table } = loadTable(Buffer.from("site,takings,fee\nDock,90,3\nQuay,120,4\n"), "t.csv");
    const keep = 'number(text(takings, "0")) > (number("100")) and (fee + 1) * 2 > 9';
    const { leftOut } = prepareTable(table, { keep }, { others: new Map(), today: 0, locale: "en-GB" });
    expect(leftOut.map((one) => one.reason)).toEqual(['not number(text(takings, "0")) > number("100")']);
  });
});
