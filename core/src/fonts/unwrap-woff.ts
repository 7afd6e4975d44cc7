/** WOFF 1.0 (W3C recommendation of 2012): the tables of an sfnt font, each deflated. Here they are put back into an sfnt. */
import { inflateSync } from "node:zlib";

const HEADER_BYTES = 44;
const ENTRY_BYTES = 20;

/** The sfnt inside a WOFF file; any other font comes back as it is. */
export function unwrapWoff(bytes: Uint8Array): Buffer {
  const source = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (source.toString("latin1", 0, 4) !== "wOFF") return source;
  const count = source.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, index) => {
    const at = HEADER_BYTES + index * ENTRY_BYTES;
    const offset = source.readUInt32BE(at + 4);
    const packed = source.subarray(offset, offset + source.readUInt32BE(at + 8));
    const length = source.readUInt32BE(at + 12);
    return {
      tag: source.subarray(at, at + 4),
      checksum: source.readUInt32BE(at + 16),
      data: packed.length < length ? inflateSync(packed) : packed,
    };
  });
  const start = 12 + 16 * count;
  const out = Buffer.alloc(start + tables.reduce((sum, table) => sum + padded(table.data.length), 0));
  source.copy(out, 0, 4, 8);
  const power = 2 ** Math.floor(Math.log2(count));
  out.writeUInt16BE(count, 4);
  out.writeUInt16BE(power * 16, 6);
  out.writeUInt16BE(Math.log2(power), 8);
  out.writeUInt16BE((count - power) * 16, 10);
  let at = start;
  tables.forEach((table, index) => {
    const entry = 12 + 16 * index;
    table.tag.copy(out, entry);
    out.writeUInt32BE(table.checksum, entry + 4);
    out.writeUInt32BE(at, entry + 8);
    out.writeUInt32BE(table.data.length, entry + 12);
    table.data.copy(out, at);
    at += padded(table.data.length);
  });
  return out;
}

function padded(length: number): number {
  return (length + 3) & ~3;
}
