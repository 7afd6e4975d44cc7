import type { LineItem, RasterImage, TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { headerImages, layHeader } from "../../../../src/layout/sheet/draw/header-footer.js";

const FACTS = {
  page: 2,
  pages: 7,
  sheet: "Visits",
  file: "dock.xlsx",
  date: "2 Nov 2026",
  time: "08:30",
  font: "Calibri",
};
const FRAME = { left: 50, right: 550, y: 30, above: true };
const items = (code: string, frame = FRAME) => layHeader(code, FACTS, frame, openFonts());
const words = (item: TextItem) => item.shaped.runs.flatMap((run) => run.texts).join("");
const texts = (code: string, frame = FRAME) =>
  items(code, frame).filter((item): item is TextItem => item.kind === "text");
const said = (code: string) => texts(code).map(words).join("|");
const right = (item: TextItem) => item.x + item.shaped.width * item.size;

describe("a header's codes", () => {
  it.each([
    ["Page &P of &N", "Page 2 of 7"],
    ["&A, &F", "Visits, dock.xlsx"],
    ["&D &T", "2 Nov 2026 08:30"],
    ["Dock && Quay", "Dock & Quay"],
    ["&ZVisits", "Visits"],
    ["R&D", "R2 Nov 2026"],
    ["100%&", "100%"],
    ["", ""],
  ])("%s says %s", (code, text) => {
    expect(said(code)).toBe(text);
  });

  it("stand left, in the middle and right, the middle where nothing is said", () => {
    const [middle] = texts("Visits");
    expect((middle.x + right(middle)) / 2).toBeCloseTo(300, 6);
    const [left, centre, last] = texts("&LDock&CVisits&R&P");
    expect(left.x).toBe(50);
    expect((centre.x + right(centre)) / 2).toBeCloseTo(300, 6);
    expect(right(last)).toBeCloseTo(550, 6);
  });

  it("change font, size, style and colour from there on, in their part", () => {
    const [plain, large, red, other] = texts("a&18b&KFF0000c&Rd");
    expect([plain, large, red, other].map(({ size, color }) => [size, color])).toEqual([
      [10, "000000"],
      [18, "000000"],
      [18, "FF0000"],
      [10, "000000"],
    ]);
    const fontsOf = (code: string) => texts(code).map((item) => item.shaped.runs[0].font.name.toLowerCase());
    const [usual, bold, mono] = fontsOf('a&Bb&B&"Courier New,Regular"c');
    expect(usual).not.toBe(bold);
    expect(bold).toMatch(/700|bold/);
    expect(mono).toContain("cousine");
    expect(fontsOf('&"-,Bold"a')[0]).toBe(bold);
  });

  it("underline what they say", () => {
    const lines = items("a&Ub&Uc").filter((item): item is LineItem => item.kind === "line");
    const [, under] = texts("a&Ub&Uc");
    expect(lines).toHaveLength(1);
    expect([lines[0].x1, lines[0].x2]).toEqual([under.x, right(under)]);
  });

  it("of several lines go down from the top, and up from the bottom", () => {
    const [first, second] = texts("one\ntwo");
    expect(second.y).toBeGreaterThan(first.y);
    const [above, below] = texts("one\ntwo", { ...FRAME, y: 800, above: false });
    expect(below.y).toBeGreaterThan(above.y);
    expect(below.y).toBeLessThan(800);
  });
});

describe("pictures of a header", () => {
  const image: RasterImage = {
    format: "png",
    bytes: new Uint8Array(),
    digest: "x",
    width: 4,
    height: 2,
    components: 3,
  };
  const pictures = new Map([
    ["LH", { image, width: 100, height: 40 }],
    ["RF", { image, width: 60, height: 20 }],
    ["CHFIRST", { image, width: 10, height: 10 }],
  ]);
  const placed = (code: string, suffix = "", frame = FRAME) =>
    headerImages(code, pictures, suffix, frame).map((item) => item.kind === "image" && [item.x, item.y, item.width]);

  it("stand where their code does, in the size they have", () => {
    expect(placed("&L&G&R&P")).toEqual([[50, 30, 100]]);
    expect(placed("&R&G", "", { ...FRAME, y: 800, above: false })).toEqual([[490, 780, 60]]);
    expect(placed("&G", "FIRST")).toEqual([[295, 30, 10]]);
  });

  it("are none where there is no picture, or the sign is doubled", () => {
    expect([placed("&R&G"), placed("&L&&G"), placed("&LVisits")]).toEqual([[], [], []]);
  });
});
