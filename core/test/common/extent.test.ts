import { greatest, least } from "@corbix/core/common";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

describe("least and greatest", () => {
  it("are the ends of the sorted values", () => {
    fc.assert(
      fc.property(fc.array(fc.integer(), { minLength: 1 }), (values) => {
        const sorted = [...values].sort((a, b) => a - b);
        expect([least(values), greatest(values)]).toEqual([sorted[0], sorted.at(-1)]);
      }),
    );
  });

  it("of nothing are what is said", () => {
    expect([least([]), greatest([]), least([], 7), greatest([], 7), greatest([-5], 0)]).toEqual([
      Number.POSITIVE_INFINITY,
      Number.NEGATIVE_INFINITY,
      7,
      7,
      -5,
    ]);
  });

  it("are found among more values than a call takes", () => {
    const many = Array.from({ length: 300_000 }, (_, at) => at);
    expect([least(many), greatest(many)]).toEqual([0, 299_999]);
  });
});
