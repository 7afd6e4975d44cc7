/** Zip archives as APPNOTE.TXT 6.3 describes them, the part that OOXML packages use: stored and deflated entries. */

import { crc32, deflateRawSync, inflateRawSync } from "node:zlib";
import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";

/** No office file has more parts; a zip with more is refused. */
export const MAX_ENTRIES = 10_000;
/** Inflated size of one entry in bytes; a sheet of a million rows has some 500 MB. */
export const MAX_ENTRY_BYTES = 1_500_000_000;
/** Inflated size of all entries of one archive in bytes. */
export const MAX_TOTAL_BYTES = 2_000_000_000;
/** Deflate cannot honestly reach more than about 1032 : 1. */
const MAX_RATIO = 1100;

const MIN_CHUNK_BYTES = 64;

/** Parts up to this size fit a small window, which takes less time to set up than they take to deflate. */
const SMALL = 8192;
const SMALL_WINDOW = { windowBits: 13, memLevel: 7 };

const LOCAL = 0x04034b50;
const CENTRAL = 0x02014b50;
const END = 0x06054b50;
/** 1980-01-01, the first date a zip can hold: the same input gives the same bytes. */
const DOS_DATE = 0x0021;
const FLAG_UTF8 = 0x0800;

/** One entry as it lies in the archive: its compressed bytes are kept, so an untouched entry is written back as it was. */
export interface ZipEntry {
  readonly name: string;
  readonly method: 0 | 8;
  readonly crc: number;
  readonly size: number;
  readonly packed: Uint8Array;
}

/** Reads the central directory and slices the entries, without inflating any. */
export function readZip(bytes: Uint8Array, where = "file"): ZipEntry[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = findEnd(view, where);
  const count = view.getUint16(end + 10, true);
  if (count > MAX_ENTRIES) throw tooLarge(where, `${count} entries`, `${MAX_ENTRIES}`);
  let offset = view.getUint32(end + 16, true);
  const entries: ZipEntry[] = [];
  let total = 0;
  for (let index = 0; index < count; index++) {
    if (offset + 46 > bytes.length || view.getUint32(offset, true) !== CENTRAL)
      throw broken(where, say().ooxml.directoryDamaged());
    const entry = readEntry(bytes, view, offset, where);
    total += entry.size;
    if (total > MAX_TOTAL_BYTES) throw tooLarge(where, say().ooxml.inflatedSize(), `${MAX_TOTAL_BYTES} bytes`);
    entries.push(entry);
    offset +=
      46 + view.getUint16(offset + 28, true) + view.getUint16(offset + 30, true) + view.getUint16(offset + 32, true);
  }
  return entries;
}

function readEntry(bytes: Uint8Array, view: DataView, at: number, where: string): ZipEntry {
  const flags = view.getUint16(at + 8, true);
  const method = view.getUint16(at + 10, true);
  const packedSize = view.getUint32(at + 20, true);
  const size = view.getUint32(at + 24, true);
  const nameLength = view.getUint16(at + 28, true);
  const local = view.getUint32(at + 42, true);
  const name = new TextDecoder().decode(bytes.subarray(at + 46, at + 46 + nameLength)).replaceAll("\\", "/");
  if (flags & 1) throw broken(where, say().ooxml.entryEncrypted({ name }));
  if (method !== 0 && method !== 8) throw broken(where, say().ooxml.entryUsesCompressionMethod({ name, method }));
  if (/(^|\/)\.\.(\/|$)|^\/|^[a-z]:/i.test(name)) throw broken(where, say().ooxml.entryPointsOutsidePackage({ name }));
  if (size > MAX_ENTRY_BYTES || size > packedSize * MAX_RATIO + 1024) {
    throw tooLarge(
      where,
      say().ooxml.inflatedSizeOf({ name }),
      say().ooxml.bytesTimesPackedSize({ maxEntryBytes: MAX_ENTRY_BYTES, maxRatio: MAX_RATIO }),
    );
  }
  if (local + 30 > bytes.length || view.getUint32(local, true) !== LOCAL)
    throw broken(where, say().ooxml.entryMissing({ name }));
  const start = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
  if (start + packedSize > bytes.length) throw broken(where, say().ooxml.entryCutOff({ name }));
  const packed = bytes.subarray(start, start + packedSize);
  return { name, method: method === 0 ? 0 : 8, crc: view.getUint32(at + 16, true), size, packed };
}

/** The inflated bytes of an entry; size and checksum must be what the directory promised. */
export function inflateEntry(entry: ZipEntry, where = "file"): Uint8Array {
  let bytes: Uint8Array;
  try {
    bytes =
      entry.method === 0
        ? entry.packed
        : inflateRawSync(entry.packed, {
            maxOutputLength: Math.max(entry.size, 1),
            // One piece of the promised size: large parts are not held in pieces and as a whole at the same time.
            chunkSize: Math.max(entry.size, MIN_CHUNK_BYTES),
          });
  } catch (cause) {
    throw broken(where, say().ooxml.entryCannotInflated({ name: entry.name }), cause);
  }
  if (bytes.length !== entry.size || crc32(bytes) !== entry.crc)
    throw broken(where, say().ooxml.checksumWrong({ name: entry.name }));
  return bytes;
}

/** Packs bytes into an entry. `level` 1 is fastest, 9 smallest. */
export function deflateEntry(name: string, bytes: Uint8Array, level = 6): ZipEntry {
  return entryOf(name, bytes, deflateRawSync(bytes, bytes.length > SMALL ? { level } : { level, ...SMALL_WINDOW }));
}

/** An entry as it is. */
export function storedEntry(name: string, bytes: Uint8Array): ZipEntry {
  return { name, method: 0, crc: crc32(bytes), size: bytes.length, packed: bytes };
}

function entryOf(name: string, bytes: Uint8Array, packed: Uint8Array): ZipEntry {
  const crc = crc32(bytes);
  return packed.length < bytes.length
    ? { name, method: 8, crc, size: bytes.length, packed }
    : { name, method: 0, crc, size: bytes.length, packed: bytes };
}

/** The archive's bytes, entries in the order given. */
export function writeZip(entries: readonly ZipEntry[]): Uint8Array {
  const names = entries.map((entry) => Buffer.from(entry.name, "utf8"));
  const length = entries.reduce((sum, entry, index) => sum + 76 + 2 * names[index].length + entry.packed.length, 22);
  const out = Buffer.allocUnsafe(length);
  const offsets: number[] = [];
  let at = 0;
  entries.forEach((entry, index) => {
    offsets.push(at);
    out.writeUInt32LE(LOCAL, at);
    out.writeUInt16LE(20, at + 4);
    at = writeShared(out, at + 6, entry, names[index].length);
    out.writeUInt16LE(0, at);
    at += 2;
    at += names[index].copy(out, at);
    out.set(entry.packed, at);
    at += entry.packed.length;
  });
  const directory = at;
  entries.forEach((entry, index) => {
    out.writeUInt32LE(CENTRAL, at);
    out.writeUInt16LE(20, at + 4);
    out.writeUInt16LE(20, at + 6);
    at = writeShared(out, at + 8, entry, names[index].length);
    out.fill(0, at, at + 12);
    out.writeUInt32LE(offsets[index], at + 12);
    at += 16;
    at += names[index].copy(out, at);
  });
  out.writeUInt32LE(END, at);
  out.writeUInt32LE(0, at + 4);
  out.writeUInt16LE(entries.length, at + 8);
  out.writeUInt16LE(entries.length, at + 10);
  out.writeUInt32LE(at - directory, at + 12);
  out.writeUInt32LE(directory, at + 16);
  out.writeUInt16LE(0, at + 20);
  return out;
}

/** The fields that local and central headers share, from flags to the name's length; gives the offset behind them. */
function writeShared(out: Buffer, at: number, entry: ZipEntry, nameLength: number): number {
  out.writeUInt16LE(FLAG_UTF8, at);
  out.writeUInt16LE(entry.method, at + 2);
  out.writeUInt16LE(0, at + 4);
  out.writeUInt16LE(DOS_DATE, at + 6);
  out.writeUInt32LE(entry.crc, at + 8);
  out.writeUInt32LE(entry.packed.length, at + 12);
  out.writeUInt32LE(entry.size, at + 16);
  out.writeUInt16LE(nameLength, at + 20);
  return at + 22;
}

function findEnd(view: DataView, where: string): number {
  const lowest = Math.max(0, view.byteLength - 65_557);
  for (let at = view.byteLength - 22; at >= lowest; at--) {
    if (view.getUint32(at, true) === END) return at;
  }
  throw broken(where, say().ooxml.zipDirectoryCutOffZip());
}

function broken(where: string, what: string, cause?: unknown): CorbixError {
  return new CorbixError("BROKEN_PACKAGE", say().ooxml.cannotOpenPackage({ what }), {
    where,
    advice: say().ooxml.openProgramMadeSaveAgain(),
    cause,
  });
}

function tooLarge(where: string, what: string, limit: string): CorbixError {
  return new CorbixError("LIMIT_EXCEEDED", say().ooxml.cannotOpenPackageOverLimit({ what, limit }), {
    where,
  });
}
