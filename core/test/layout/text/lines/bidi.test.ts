import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { inSeenOrder, runsBackwards } from "../../../../src/layout/text/lines/bidi.js";
import type { Fragment } from "../../../../src/layout/text/lines/line-drawer.js";
import { widthOfRun } from "../../../../src/layout/text/lines/run-shaping.js";

const fonts = openFonts();
const RUN = { font: "Arial", size: 10 };
function fragments(...texts: readonly string[]): Fragment[] {
  let x = 50;
  return texts.map((text) => {
    const width = widthOfRun(text, RUN, fonts);
    const one: Fragment = { kind: "text", text, inline: { kind: "text", text, props: RUN }, x, width };
    x += width;
    return one;
  });
}
const seen = (texts: readonly string[], backwards = false) =>
  inSeenOrder(fragments(...texts), backwards, fonts).map((one) => one.text);

describe("text that runs from right to left", () => {
  it("is told by its letters, or by its paragraph", () => {
    expect([
      runsBackwards(fragments("Dock"), false),
      runsBackwards(fragments("Dock"), true),
      runsBackwards(fragments("Dock", "רציף"), false),
    ]).toEqual([false, true, true]);
  });

  it("stands as it is seen: its words from the right, those of others as they are", () => {
    expect(seen(["Dock "])).toEqual(["Dock "]);
    expect(seen(["אבג דהו"], true)).toEqual(["דהו", " ", "אבג"]);
    expect(seen(["Dock אבג דהו Quay"])).toEqual(["Dock ", "דהו", " ", "אבג", " Quay"]);
    expect(seen(["אבג 123"], true)).toEqual(["123", " ", "אבג"]);
  });

  it("has its brackets turned about", () => {
    expect(seen(["(אבג)"], true)).toEqual(["(", "אבג", ")"]);
  });

  it("begins where the line does, each piece behind the one before", () => {
    const placed = inSeenOrder(fragments("Dock ", "אבג דהו"), false, fonts);
    expect(placed[0].x).toBe(50);
    for (const [at, one] of placed.slice(1).entries()) expect(one.x).toBeCloseTo(placed[at].x + placed[at].width, 6);
    expect(inSeenOrder([], true, fonts)).toEqual([]);
  });
});
