import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ByteWriter } from "../../../src/workbook/fill/byte-writer.js";

describe("bytes put together", () => {
  it("are what was put, however small the room was", () => {
    const piece = fc.oneof(
      fc.record({ text: fc.string({ unit: "grapheme" }) }),
      fc.record({ whole: fc.integer({ min: 0, max: 2 ** 31 - 1 }) }),
      fc.record({ ascii: fc.string({ unit: fc.constantFrom(..."<c r=A1/>") }) }),
      fc.record({ bytes: fc.uint8Array({ max: 127 }) }),
    );
    fc.assert(
      fc.property(fc.array(piece), fc.integer({ min: 0, max: 20 }), (pieces, size) => {
        const writer = new ByteWriter(size);
        for (const one of pieces) {
          if ("text" in one) writer.text(one.text);
          else if ("whole" in one) {
            writer.reserve(10);
            writer.whole(one.whole);
          } else if ("ascii" in one) {
            writer.reserve(one.ascii.length);
            writer.ascii(one.ascii);
          } else {
            writer.reserve(one.bytes.length);
            writer.bytes(one.bytes);
          }
        }
        const wanted = pieces.map((one) =>
          "bytes" in one
            ? Buffer.from(one.bytes)
            : Buffer.from("text" in one ? one.text : "ascii" in one ? one.ascii : String(one.whole)),
        );
        expect(Buffer.from(writer.finish())).toEqual(Buffer.concat(wanted));
      }),
    );
  });

  it.each([0, 9, 10, 99, 100, 999_999_999, 1_000_000_000, 2 ** 31 - 1])("%d is put with all its digits", (number) => {
    const writer = new ByteWriter(16);
    writer.whole(number);
    expect(Buffer.from(writer.finish()).toString()).toBe(String(number));
  });
});
