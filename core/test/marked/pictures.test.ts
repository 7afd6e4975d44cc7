import { readImage } from "@corbix/core/page";
import fc from "fast-check";
import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { drawCode, fitInto } from "../../src/marked/pictures.js";

describe("a picture in a frame", () => {
  it("keeps its shape, and fills one side", () => {
    expect(fitInto({ width: 400, height: 100 }, { width: 200, height: 200 })).toEqual({ width: 200, height: 50 });
    expect(fitInto({ width: 10, height: 20 }, { width: 200, height: 200 })).toEqual({ width: 100, height: 200 });
  });

  it("never reaches out of it", () => {
    const side = fc.integer({ min: 1, max: 5000 });
    fc.assert(
      fc.property(side, side, side, side, (width, height, right, bottom) => {
        const fitted = fitInto({ width, height }, { width: right, height: bottom });
        expect(fitted.width).toBeLessThanOrEqual(right);
        expect(fitted.height).toBeLessThanOrEqual(bottom);
        expect(fitted.width === right || fitted.height === bottom).toBe(true);
      }),
    );
  });
});

describe("codes", () => {
  /** Rows of modules, without the blank around. */
  const modules = (kind: "qr" | "barcode", text: string): boolean[][] => {
    const { width, height, data } = PNG.sync.read(Buffer.from(drawCode(kind, text)));
    const all = Array.from({ length: height / 8 }, (_, y) =>
      Array.from({ length: width / 8 }, (__, x) => data[(y * 8 * width + x * 8) * 4] === 0),
    );
    const isBlank = (row: boolean[]) => row.every((module) => !module);
    const rows = all.filter((row) => !isBlank(row));
    const first = rows[0].indexOf(true);
    return rows.map((row) => row.slice(first, row.lastIndexOf(true) + 1));
  };

  it("of two sides have a finder in three corners, and blank around as the standard asks", () => {
    const rows = modules("qr", "https://lifts.example/visits/7");
    const FINDER = ["1111111", "1000001", "1011101", "1011101", "1011101", "1000001", "1111111"];
    const corner = (top: number, left: number) =>
      rows.slice(top, top + 7).map((row) =>
        row
          .slice(left, left + 7)
          .map(Number)
          .join(""),
      );
    const far = rows[0].length - 7;
    expect([corner(0, 0), corner(0, far), corner(far, 0)]).toEqual([FINDER, FINDER, FINDER]);
    const image = readImage(drawCode("qr", "https://lifts.example/visits/7"));
    expect(image).toMatchObject({ format: "png", width: (rows[0].length + 8) * 8 });
  });

  it("of bars begin and end as code 128 does, the same in every row", () => {
    const rows = modules("barcode", "LIFT-0042");
    expect(new Set(rows.map((row) => row.map(Number).join(""))).size).toBe(1);
    const bars = rows[0].map(Number).join("");
    expect(bars.startsWith("11010010000")).toBe(true);
    expect(bars.endsWith("1100011101011")).toBe(true);
  });

  it("of bars say letters beyond ASCII as one sign each, so that they are read as what they were", () => {
    // "é" is one sign behind the one that leads to the upper half, in 11 modules each.
    const [plain, accented] = ["Cafe", "Café"].map((text) => modules("barcode", text)[0].length);
    expect(accented - plain).toBe(11);
  });

  it("differ for different texts, and are the same each time", () => {
    expect(Buffer.from(drawCode("qr", "a"))).toEqual(Buffer.from(drawCode("qr", "a")));
    expect(Buffer.from(drawCode("qr", "a"))).not.toEqual(Buffer.from(drawCode("qr", "b")));
  });

  it("that no code can hold are refused", () => {
    expect(() => drawCode("qr", "x".repeat(8_000))).toThrow();
    expect(() => drawCode("barcode", "日本")).toThrow();
  });
});
