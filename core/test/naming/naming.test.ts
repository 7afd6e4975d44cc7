import { describe, expect, it } from "vitest";
import { collisions, literalInPattern, patternSource, planNames } from "../../src/naming/index.js";

describe("names of a run", () => {
  it("are planned together: no two groups share a folder, no two files a name", () => {
    const files = [
      { id: "1", path: "A-B statement.pdf", group: "a/b", label: "A/B" },
      { id: "2", path: "x/A-B statement.pdf", group: "a/b", label: "A/B" },
      { id: "3", path: "A-B statement.pdf", group: "a-b", label: "A-B" },
      { id: "4", path: "a-b statement.pdf", group: "a b", label: "a-b" },
    ];
    const { inGroup } = planNames(files);
    expect([...inGroup.values()].map((one) => one.join("/"))).toEqual([
      "A-B/A-B statement.pdf",
      "A-B/A-B statement (2).pdf",
      "A-B (2)/A-B statement.pdf",
      "a-b (3)/a-b statement.pdf",
    ]);
    expect(collisions([...inGroup.values()].map((one) => one.join("/")))).toEqual([]);
  });

  it("collide as a file system without capitals sees them, and where a file would be a folder", () => {
    expect(collisions(["Oct/a.pdf", "oct/A.PDF"])).toEqual([["Oct/a.pdf", "oct/A.PDF"]]);
    expect(collisions(["a.pdf", "a.pdf/b.pdf"])).toEqual([["a.pdf", "a.pdf/b.pdf"]]);
    expect(collisions(["a.pdf/b.pdf", "A.pdf"])).toEqual([["a.pdf/b.pdf", "A.pdf"]]);
    expect(collisions(["Caf\u00e9.pdf", "Cafe\u0301.pdf"])).toHaveLength(1);
    expect(collisions(["a/b.pdf", "a/c.pdf"])).toEqual([]);
  });
});

describe("patterns", () => {
  const matches = (pattern: string, name: string) => new RegExp(`^${patternSource(pattern)}$`, "su").test(name);

  it("take a star of the data for a star, and one of the definition for any letters", () => {
    const own = `${literalInPattern("B*")} plan*.pdf`;
    expect(matches(own, "B* plan 2026.pdf")).toBe(true);
    expect(matches(own, "Beta plan 2026.pdf")).toBe(false);
    expect(matches(`${literalInPattern("what?\\")}-?.pdf`, "what?\\-1.pdf")).toBe(true);
    expect(matches("(a+)[b].pdf", "(a+)[b].pdf")).toBe(true);
    expect(matches("a.pdf", "axpdf")).toBe(false);
  });
});
