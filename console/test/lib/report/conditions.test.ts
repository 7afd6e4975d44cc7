import { parseExpression } from "@corbix/core/expression";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type Clause,
  COMPARISONS,
  type Condition,
  readCondition,
  writeCondition,
} from "../../../src/lib/report/conditions.js";

const COLUMNS = ["Site", "Visit date", "Fee (CHF)", "in", "Done"];
const TYPES = { Site: "text", "Visit date": "date", "Fee (CHF)": "number", in: "text", Done: "boolean" };

describe("conditions as people click them", () => {
  it.each<[Clause, string]>([
    [{ column: "Site", is: "is-not", values: ["cancelled"] }, 'site <> "cancelled"'],
    [{ column: "Site", is: "one-of", values: ["Dock", 'the "Quay"'] }, 'site in ("Dock", "the ""Quay""")'],
    [{ column: "Visit date", is: "at-least", values: ["2026-11-02"] }, "visit_date >= date(2026, 11, 2)"],
    [{ column: "Fee (CHF)", is: "at-most", values: ["12.5"] }, "`Fee (CHF)` <= 12.5"],
    [{ column: "Fee (CHF)", is: "more-than", values: ["0"] }, "`Fee (CHF)` > 0"],
    [{ column: "in", is: "is", values: ["x"] }, '`in` = "x"'],
    [{ column: "Done", is: "is", values: ["true"] }, "done = true"],
    [{ column: "Site", is: "is-blank", values: [] }, 'site = ""'],
    [{ column: "Site", is: "contains", values: ["Dock"] }, 'contains(site, "Dock")'],
    [{ column: "Site", is: "none-of", values: ["a"] }, 'not (site in ("a"))'],
  ])("%j is %s", (clause, text) => {
    expect(writeCondition({ join: "and", clauses: [clause] }, TYPES)).toBe(text);
  });

  it("are what the language takes, and are read back as what they were", () => {
    const value = {
      Site: fc.string(),
      in: fc.string(),
      "Visit date": fc.constantFrom("2026-01-31", "1999-12-01"),
      "Fee (CHF)": fc.constantFrom("0", "-3", "12.5"),
      Done: fc.constantFrom("true", "false"),
    };
    const clause = fc
      .record({ column: fc.constantFrom(...COLUMNS), is: fc.constantFrom(...COMPARISONS.map(({ is }) => is)) })
      .chain(({ column, is }) => {
        const one = is === "contains" ? fc.string() : value[column as keyof typeof value];
        const filled = one.filter((text) => text !== "");
        const values =
          is === "is-blank" || is === "is-filled"
            ? fc.constant([])
            : is.startsWith("is one") || is.startsWith("is none")
              ? fc.array(one, { minLength: 1, maxLength: 3 })
              : filled.map((text) => [text]);
        return values.map((found): Clause => ({ column, is, values: found }));
      });
    const flat = fc.record({
      join: fc.constantFrom("and", "or"),
      clauses: fc.array(clause, { minLength: 2, maxLength: 3 }),
    });
    const nested = fc.record({
      join: fc.constantFrom("and", "or"),
      clauses: fc.array(fc.oneof(clause, flat), { minLength: 2, maxLength: 3 }),
    });
    fc.assert(
      fc.property(nested as fc.Arbitrary<Condition>, (condition) => {
        const text = writeCondition(condition, TYPES);
        expect(() => parseExpression(text)).not.toThrow();
        expect(readCondition(text, COLUMNS)).toEqual(condition);
      }),
      { numRuns: 500 },
    );
  });

  it("of one clause alone are conditions too, and others are left to their text", () => {
    expect(readCondition('site = "x"', COLUMNS)).toEqual({
      join: "and",
      clauses: [{ column: "Site", is: "is", values: ["x"] }],
    });
    for (const text of [
      "fee * 2 > 1",
      "sum(line.fee) > 1",
      "gone = 1",
      "site =",
      "",
      'upper(site) = "X"',
      "not (site = 1)",
    ])
      expect(readCondition(text, COLUMNS)).toBeUndefined();
  });
});
