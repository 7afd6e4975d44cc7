import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cutByMarks, marksIn } from "../../../../src/formula/functions/support/split-text.js";

const letters = fc.string({ unit: fc.constantFrom(..."ab-;") });

describe("cutting at marks", () => {
  it("takes the longest mark at a place, one behind the other", () => {
    expect(marksIn("a--b-c", ["-", "--"])).toEqual([
      { from: 1, to: 3 },
      { from: 4, to: 5 },
    ]);
    expect(cutByMarks("a--b-c", ["-", "--"])).toEqual(["a", "b", "c"]);
  });

  it("leaves blank parts between neighbours and at the ends", () => {
    expect(cutByMarks(";a;;b;", [";"])).toEqual(["", "a", "", "b", ""]);
    expect(cutByMarks("", [";"])).toEqual([""]);
  });

  it("regards case unless it is told not to", () => {
    expect(cutByMarks("1x2X3", ["X"])).toEqual(["1x2", "3"]);
    expect(cutByMarks("1x2X3", ["X"], true)).toEqual(["1", "2", "3"]);
  });

  it("by one mark is what any program splits", () => {
    fc.assert(
      fc.property(letters, fc.constantFrom("-", ";", "ab"), (text, mark) => {
        expect(cutByMarks(text, [mark])).toEqual(text.split(mark));
      }),
    );
  });

  it("by none leaves the text whole", () => {
    expect(cutByMarks("a;b", [])).toEqual(["a;b"]);
  });
});
