import { describe, expect, it } from "vitest";
import { nameSchema, otherDatasets, stepSchema, stepsOf } from "../../src/prepare/schema.js";

describe("steps of a preparation", () => {
  it("are done in one order, whatever the order they are written in", () => {
    const steps = stepsOf({
      sort: ["-fee"],
      prepare: [{ distinct: ["unit"] }],
      add: { tax: "fee * 0.1", total: "fee + tax" },
      bring: [{ from: "sites", match: { site: "name" }, columns: ["district"] }],
      keep: "fee > 0",
    });
    expect(steps.map((step) => Object.keys(step)[0])).toEqual(["keep", "bring", "add", "add", "distinct", "sort"]);
    expect(steps[2]).toEqual({ add: { tax: "fee * 0.1" } });
  });

  it("have what they leave out filled in", () => {
    const [bring, stack, fold] = stepsOf({
      prepare: [
        { bring: { from: "sites", match: { site: "name" }, columns: ["district"] } },
        { stack: { columns: ["jan", "feb"], name: "month", value: "fee" } },
        { fold: { into: "faults", columns: ["brake", "rope"], where: 'value = "bad"' } },
      ],
    });
    expect(bring).toMatchObject({ bring: { partner: "may-lack" } });
    expect(stack).toMatchObject({ stack: { blanks: "left-out" } });
    expect(fold).toMatchObject({ fold: { separator: ", ", drop: false } });
  });

  it("name each other dataset they need once", () => {
    expect(
      otherDatasets({
        bring: [{ from: "sites", match: { site: "name" }, columns: ["district"] }],
        prepare: [
          { replace: { column: "result", from: "words", match: "old", take: "new" } },
          { replace: { column: "result", list: { ok: "passed" } } },
          { bring: { from: "sites", match: { site: "name" }, columns: ["street"] } },
        ],
      }),
    ).toEqual(["sites", "words"]);
    expect(otherDatasets({})).toEqual([]);
  });

  it.each([
    ["two steps in one", { keep: "fee > 0", sort: ["fee"] }],
    ["none", {}],
    ["an unknown one", { drop: ["fee"] }],
    ["columns brought by nothing", { bring: { from: "sites", match: {}, columns: ["district"] } }],
    ["a word that is none of a choice", { stack: { columns: ["a"], name: "n", value: "v", blanks: "perhaps" } }],
    ["a fold of nothing", { fold: { into: "x", columns: [], where: "value" } }],
  ])("%s is refused", (_, step) => {
    expect(stepSchema.safeParse(step).success).toBe(false);
  });

  it.each([
    ["site-statement", true],
    ["9-lifts", true],
    ["-lifts", false],
    ["Lifts", false],
    ["a b", false],
    ["", false],
    ["a".repeat(64), false],
  ])("%j as a name: %s", (name, isOne) => {
    expect(nameSchema.safeParse(name).success).toBe(isOne);
  });
});
