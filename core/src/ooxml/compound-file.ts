/** Streams of a compound file ([MS-CFB]), the container of password-protected packages. Reading only. */

import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";

const SIGNATURE = [0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1];
const HEADER_BYTES = 512;
const ENTRY_BYTES = 128;
const END_OF_CHAIN = 0xfffffffe;
const FREE = 0xffffffff;

export function isCompoundFile(bytes: Uint8Array): boolean {
  return SIGNATURE.every((byte, at) => bytes[at] === byte);
}

/** The named streams of the root storage and below. Throws `BROKEN_PACKAGE`. */
export function readCompoundFile(bytes: Uint8Array, where: string): Map<string, Uint8Array> {
  return new CompoundReader(bytes, where).streams();
}

class CompoundReader {
  private readonly view: DataView;
  private readonly sectorBytes: number;
  private readonly miniBytes: number;
  private readonly cutoff: number;
  private readonly fat: number[] = [];
  private miniFat: number[] = [];

  constructor(
    private readonly bytes: Uint8Array,
    private readonly where: string,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    if (bytes.length < HEADER_BYTES) throw this.broken(say().ooxml.cutOff());
    const shift = this.view.getUint16(30, true);
    const miniShift = this.view.getUint16(32, true);
    if ((shift !== 9 && shift !== 12) || miniShift !== 6) throw this.broken(say().ooxml.sectorSizesNoneExist());
    this.sectorBytes = 1 << shift;
    this.miniBytes = 1 << miniShift;
    this.cutoff = this.view.getUint32(56, true);
  }

  streams(): Map<string, Uint8Array> {
    for (const sector of this.fatSectors()) this.addTable(this.fat, this.sector(sector));
    for (const sector of this.chain(this.view.getUint32(60, true))) this.addTable(this.miniFat, this.sector(sector));
    const directory = this.readChain(this.view.getUint32(48, true));
    const found = new Map<string, Uint8Array>();
    let mini: Uint8Array = new Uint8Array(0);
    for (let at = 0; at + ENTRY_BYTES <= directory.length; at += ENTRY_BYTES) {
      const entry = new DataView(directory.buffer, directory.byteOffset + at, ENTRY_BYTES);
      const type = entry.getUint8(66);
      const start = entry.getUint32(116, true);
      const size = entry.getUint32(120, true);
      if (type === 5) mini = this.readChain(start).subarray(0, size);
      if (type !== 2) continue;
      const nameBytes = Math.min(64, Math.max(2, entry.getUint16(64, true))) - 2;
      const name = new TextDecoder("utf-16le").decode(directory.subarray(at, at + nameBytes));
      const content = size < this.cutoff ? this.readMini(start, mini) : this.readChain(start);
      if (content.length < size) throw this.broken(say().ooxml.streamCutOff({ name }));
      found.set(name, content.subarray(0, size));
    }
    return found;
  }

  private fatSectors(): number[] {
    const sectors: number[] = [];
    const take = (sector: number): void => {
      if (sector !== FREE && sector !== END_OF_CHAIN) sectors.push(sector);
    };
    for (let index = 0; index < 109; index++) take(this.view.getUint32(76 + index * 4, true));
    let next = this.view.getUint32(68, true);
    const seen = new Set<number>();
    while (next !== END_OF_CHAIN && next !== FREE && !seen.has(next)) {
      seen.add(next);
      const table: number[] = [];
      this.addTable(table, this.sector(next));
      for (const sector of table.slice(0, -1)) take(sector);
      next = table[table.length - 1];
    }
    return sectors;
  }

  private addTable(table: number[], sector: Uint8Array): void {
    const view = new DataView(sector.buffer, sector.byteOffset, sector.byteLength);
    for (let at = 0; at + 4 <= sector.byteLength; at += 4) table.push(view.getUint32(at, true));
  }

  private sector(number: number): Uint8Array {
    const from = (number + 1) * this.sectorBytes;
    if (from >= this.bytes.length) throw this.broken(say().ooxml.sectorMissing({ number }));
    return this.bytes.subarray(from, from + this.sectorBytes);
  }

  private chain(first: number, table: readonly number[] = this.fat): number[] {
    const sectors: number[] = [];
    for (let sector = first; sector !== END_OF_CHAIN && sector !== FREE; sector = table[sector]) {
      if (sector === undefined || sectors.length > table.length) throw this.broken(say().ooxml.chainSectorsEnd());
      sectors.push(sector);
    }
    return sectors;
  }

  private readChain(first: number): Uint8Array {
    return Buffer.concat(this.chain(first).map((sector) => this.sector(sector)));
  }

  private readMini(first: number, mini: Uint8Array): Uint8Array {
    const pieces = this.chain(first, this.miniFat).map((sector) =>
      mini.subarray(sector * this.miniBytes, (sector + 1) * this.miniBytes),
    );
    return Buffer.concat(pieces);
  }

  private broken(what: string): CorbixError {
    return new CorbixError("BROKEN_PACKAGE", say().ooxml.cannotOpenFile({ what }), {
      where: this.where,
      advice: say().ooxml.saveAgainTryOnceMore(),
    });
  }
}
