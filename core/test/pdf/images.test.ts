import { type RasterImage, readImage } from "@corbix/core/page";
import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { writeImage } from "../../src/pdf/images.js";
import { drawnPdf, pdfFile } from "../support/pdf-page.js";

/** Left half and right half in a colour each. */
function halves(left: number[], right: number[]): Uint8Array {
  const png = new PNG({ width: 4, height: 2 });
  for (let at = 0; at < 8; at++) png.data.set(at % 4 < 2 ? left : right, at * 4);
  return new Uint8Array(PNG.sync.write(png));
}
const on = (bytes: Uint8Array) =>
  pdfFile(1, (pdf) => ({
    page: `/Resources << /XObject << /I ${writeImage(pdf, readImage(bytes) as RasterImage)} >> >> /Contents ${pdf.stream("0 0 1 rg 0 0 100 100 re f q 100 0 0 100 0 0 cm /I Do Q")}`,
  }));

describe("pictures in a file", () => {
  it("have their colours in their places", () => {
    const pixel = drawnPdf(on(halves([255, 0, 0, 255], [0, 255, 0, 255])));
    expect([pixel(10, 50), pixel(90, 50)]).toEqual([
      [255, 0, 0],
      [0, 255, 0],
    ]);
  });

  it("let through what lies behind, as far as they say", () => {
    const pixel = drawnPdf(on(halves([255, 0, 0, 0], [255, 0, 0, 128])));
    expect(pixel(10, 50)).toEqual([0, 0, 255]);
    const [red, , blue] = pixel(90, 50);
    expect(Math.abs(red - 128)).toBeLessThan(4);
    expect(Math.abs(blue - 127)).toBeLessThan(4);
  });

  it("with all pixels covering have no mask, and stand once however often they are read", () => {
    const bytes = on(halves([9, 9, 9, 255], [9, 9, 9, 255]));
    expect(Buffer.from(bytes).toString("latin1")).not.toContain("/SMask");
    expect(Buffer.from(bytes)).toEqual(Buffer.from(on(halves([9, 9, 9, 255], [9, 9, 9, 255]))));
  });
});
