import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { differenceOf } from "../../../src/lib/report/text-difference.js";

describe("two versions of a text", () => {
  it("differ by the lines that went and came", () => {
    expect(differenceOf("a\nb\nc", "a\nx\nc\nd")).toEqual([
      { kind: "gone", text: "b" },
      { kind: "added", text: "x" },
      { kind: "added", text: "d" },
    ]);
    expect(differenceOf("a\nb", "a\nb")).toEqual([]);
  });

  it("differ by as many lines less and more as they have", () => {
    const text = fc.array(fc.constantFrom("a", "b", "c")).map((lines) => lines.join("\n"));
    fc.assert(
      fc.property(text, text, (before, after) => {
        const found = differenceOf(before, after);
        const of = (kind: string) => found.filter((line) => line.kind === kind).length;
        expect(of("added") - of("gone")).toBe(after.split("\n").length - before.split("\n").length);
        if (before === after) expect(found).toEqual([]);
      }),
    );
  });
});
