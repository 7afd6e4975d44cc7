import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { readImage } from "../../src/page/image.js";

const png = PNG.sync.write(new PNG({ width: 20, height: 10, fill: true }));
/** A JPEG up to its frame: fill bytes, a table, a mark without a length, and the frame. */
const jpeg = (height: number, width: number, components: number, frame = 0xc0) =>
  Uint8Array.from([
    ...[0xff, 0xd8, 0xff, 0xff, 0xdb, 0, 4, 1, 2, 0xff, 0x01],
    ...[0xff, frame, 0, 11, 8, height >> 8, height & 255, width >> 8, width & 255, components, 1, 0x11, 0],
  ]);

describe("pictures", () => {
  it("are told by their first bytes, with their size", () => {
    expect(readImage(png)).toMatchObject({ format: "png", width: 20, height: 10 });
    expect(readImage(jpeg(300, 400, 1))).toMatchObject({ format: "jpeg", width: 400, height: 300, components: 1 });
    expect(readImage(jpeg(300, 400, 4, 0xc2))).toMatchObject({ width: 400, height: 300, components: 4 });
  });

  it("are the same by their digest", () => {
    const digests = [png, new Uint8Array(png), jpeg(1, 1, 1), jpeg(1, 2, 1)].map((bytes) => {
      const read = readImage(bytes);
      return typeof read === "string" ? read : read.digest;
    });
    expect(digests[0]).toBe(digests[1]);
    expect(new Set(digests).size).toBe(3);
  });

  it.each([
    ["GIF", new TextEncoder().encode("GIF89a")],
    ["nothing", new Uint8Array()],
    ["a web page", new TextEncoder().encode("<html>")],
  ])("of %s are another kind", (_, bytes) => {
    expect(readImage(bytes)).toBe("other");
  });

  it.each([
    ["broken off", png.subarray(0, png.length - 20)],
    ["only begun", png.subarray(0, 8)],
    ["with other bytes in the middle", Buffer.concat([png.subarray(0, 50), Buffer.of(1, 2, 3), png.subarray(53)])],
    ["with a table of coding in a frame's place", jpeg(3, 4, 3, 0xc4)],
    ["without an extent", jpeg(0, 4, 3)],
    ["of a JPEG's first bytes", Uint8Array.of(0xff, 0xd8, 0xff, 0xe0)],
  ])("%s are damaged", (_, bytes) => {
    expect(readImage(new Uint8Array(bytes))).toBe("damaged");
  });
});
