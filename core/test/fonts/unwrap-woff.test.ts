import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { deflateSync } from "node:zlib";
import * as fontkit from "fontkit";
import { describe, expect, it } from "vitest";
import { unwrapWoff } from "../../src/fonts/unwrap-woff.js";

const wrapped = readFileSync(
  createRequire(import.meta.url).resolve("@fontsource/carlito/files/carlito-latin-400-normal.woff"),
);
interface Opened {
  readonly unitsPerEm: number;
  readonly numGlyphs: number;
}
const open = (bytes: Buffer) => fontkit.create(bytes) as unknown as Opened;

/** Tables of an sfnt font by their tags. */
function tablesOf(font: Buffer): Map<string, Buffer> {
  return new Map(
    Array.from({ length: font.readUInt16BE(4) }, (_, index) => {
      const at = 12 + 16 * index;
      const from = font.readUInt32BE(at + 8);
      return [font.toString("latin1", at, at + 4), font.subarray(from, from + font.readUInt32BE(at + 12))] as const;
    }),
  );
}
/** An sfnt font wrapped as WOFF 1.0 has it; tables that do not get smaller are stored as they are. */
function wrap(font: Buffer): Buffer {
  const tables = [...tablesOf(font)].map(([tag, data]) => {
    const packed = deflateSync(data);
    return { tag, data, packed: packed.length < data.length ? packed : data };
  });
  const header = Buffer.alloc(44 + 20 * tables.length);
  header.write("wOFF", 0, "latin1");
  font.copy(header, 4, 0, 4);
  header.writeUInt16BE(tables.length, 12);
  let at = header.length;
  tables.forEach(({ tag, data, packed }, index) => {
    const entry = 44 + 20 * index;
    header.write(tag, entry, "latin1");
    header.writeUInt32BE(at, entry + 4);
    header.writeUInt32BE(packed.length, entry + 8);
    header.writeUInt32BE(data.length, entry + 12);
    at += packed.length;
  });
  return Buffer.concat([header, ...tables.map(({ packed }) => packed)]);
}

describe("a wrapped font", () => {
  it("is the font inside, which others open", () => {
    const font = open(unwrapWoff(wrapped));
    expect(font.unitsPerEm).toBe(2048);
    expect(font.numGlyphs).toBeGreaterThan(100);
  });

  it("has every table byte for byte, on whole words, however it was stored", () => {
    const plain = unwrapWoff(wrapped);
    expect(tablesOf(unwrapWoff(wrap(plain)))).toEqual(tablesOf(plain));
    for (let index = 0; index < plain.readUInt16BE(4); index++) expect(plain.readUInt32BE(20 + 16 * index) % 4).toBe(0);
    // What readers search the list of tables by (OpenType, table directory).
    const count = plain.readUInt16BE(4);
    expect(plain.readUInt16BE(6)).toBe(16 * 2 ** Math.floor(Math.log2(count)));
    expect(plain.readUInt16BE(6) + plain.readUInt16BE(10)).toBe(count * 16);
  });
});

describe("any other font", () => {
  it("stays as it is", () => {
    const plain = Buffer.from("\0\x01\0\0 not wrapped");
    expect(unwrapWoff(plain)).toEqual(plain);
  });
});
