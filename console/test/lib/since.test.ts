import { describe, expect, it } from "vitest";
import { sinceWords } from "../../src/lib/since.js";

const parcel = (moved: number | null, figure: string | null, more: object = {}) => ({
  rowCount: 4,
  totals: { fees: "12.50" },
  moved,
  since: moved === null ? null : { rows: 2, totals: { fees: "25.00" }, bytes: 10, figure, isResized: false, ...more },
});

describe("what moved since the period before", () => {
  it.each([
    [parcel(null, null), "new"],
    [parcel(0.5, "fees"), "fees −50 %"],
    [parcel(0.5, null), "rows +100 %"],
    [parcel(0.04, "fees"), ""],
    [parcel(0.04, "fees", { isResized: true }), "files of another size"],
    [parcel(1, "fees", { totals: { fees: "0" } }), "fees from nothing"],
  ])("is %o in words", (one, words) => {
    expect(sinceWords(one)).toBe(words);
  });
});
