import { describe, expect, it } from "vitest";
import { memoize } from "../../src/common/memoize.js";

describe("a function that keeps what it found", () => {
  it("finds each text once, also where it found nothing", () => {
    const asked: string[] = [];
    const find = memoize((text) => {
      asked.push(text);
      return text === "nothing" ? undefined : text.length;
    });
    expect([find("abc"), find("abc"), find("nothing"), find("nothing")]).toEqual([3, 3, undefined, undefined]);
    expect(asked).toEqual(["abc", "nothing"]);
  });

  it("forgets what was not asked for the longest", () => {
    const asked: string[] = [];
    const find = memoize((text) => asked.push(text), 2);
    for (const text of ["a", "b", "a", "c", "a", "b"]) find(text);
    expect(asked).toEqual(["a", "b", "c", "b"]);
  });

  it("keeps nothing of a search that failed", () => {
    let tries = 0;
    const find = memoize(() => {
      if (tries++ === 0) throw new Error("not yet");
      return tries;
    });
    expect(() => find("a")).toThrow("not yet");
    expect(find("a")).toBe(2);
  });
});
