import { describe, expect, it } from "vitest";
import { floatBox } from "../../../../src/layout/document/paginate/float-place.js";
import type { Float, PageSection } from "../../../../src/layout/text/blocks.js";

const SECTION = { width: 600, height: 800, left: 70, right: 50, top: 60, bottom: 40 } as PageSection;
const TEXT = { x: 90, width: 200, y: 300 };
const place = (horizontal: object, vertical: object, height = 80) =>
  floatBox(
    {
      width: 100,
      height,
      horizontal: { from: "column", offset: 0, align: undefined, ...horizontal },
      vertical: { from: "paragraph", offset: 0, align: undefined, ...vertical },
    } as unknown as Float,
    SECTION,
    TEXT,
  );

describe("where a floating thing stands", () => {
  it.each([
    [{ from: "page", offset: 10 }, 10],
    [{ from: "margin", offset: 10 }, 80],
    [{ from: "column", offset: 10 }, 100],
    [{ from: "page", align: "right" }, 500],
    [{ from: "margin", align: "center" }, 260],
    [{ from: "margin", align: "left" }, 70],
    [{ from: "rightMargin", align: "left" }, 550],
    [{ from: "column", align: "right" }, 190],
    [{ from: "page", align: "outside" }, 500],
  ])("across by %j is %d", (horizontal, x) => {
    expect(place(horizontal, {}).x).toBe(x);
  });

  it.each([
    [{ from: "page", offset: 10 }, 10],
    [{ from: "margin", offset: 10 }, 70],
    [{ from: "paragraph", offset: 10 }, 310],
    [{ from: "page", align: "bottom" }, 720],
    [{ from: "margin", align: "center" }, 370],
    [{ from: "bottomMargin", align: "top" }, 760],
  ])("down by %j is %d", (vertical, y) => {
    expect(place({}, vertical).y).toBe(y);
  });

  it("is moved up where it would hang over the page's foot, and no further than its head", () => {
    expect(place({}, { offset: 460 }).y).toBe(720);
    expect(place({}, { offset: 100 }, 900).y).toBe(0);
  });
});
