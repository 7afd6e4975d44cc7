/** Writes a compound file ([MS-CFB], version 3): the container of password-protected packages. */

/** A stream, or a storage with what is in it. */
export type CompoundItem =
  | { readonly name: string; readonly bytes: Uint8Array }
  | { readonly name: string; readonly items: readonly CompoundItem[] };

const SECTOR = 512;
const MINI_SECTOR = 64;
/** Streams below this length lie in the mini stream. */
const CUTOFF = 4096;
const END = 0xfffffffe;
const FREE = 0xffffffff;
const FAT_SECTOR = 0xfffffffd;
const DIFAT_SECTOR = 0xfffffffc;
const NONE = 0xffffffff;
const IDS_PER_SECTOR = SECTOR / 4;
const HEADER_FATS = 109;

interface Entry {
  readonly name: string;
  readonly kind: 1 | 2 | 5;
  start: number;
  size: number;
  left: number;
  right: number;
  child: number;
}

export function writeCompoundFile(items: readonly CompoundItem[]): Uint8Array {
  return new CompoundWriter().write(items);
}

class CompoundWriter {
  private readonly entries: Entry[] = [];
  private readonly fat: number[] = [];
  private readonly bodies: Buffer[] = [];
  private readonly miniFat: number[] = [];
  private readonly minis: Buffer[] = [];

  write(items: readonly CompoundItem[]): Uint8Array {
    const root = this.entry("Root Entry", 5);
    root.child = this.addAll(items);
    const mini = Buffer.concat(this.minis);
    root.size = mini.length;
    root.start = mini.length > 0 ? this.add(mini) : END;
    const miniFatSectors = Math.ceil(this.miniFat.length / IDS_PER_SECTOR);
    const miniFatStart = miniFatSectors > 0 ? this.add(idsOf(this.miniFat)) : END;
    const directoryStart = this.add(this.directory());
    const { fats, difats } = this.tables();
    return Buffer.concat([
      this.header({ fats, difats, directoryStart, miniFatStart, miniFatSectors }),
      ...this.bodies,
      idsOf(this.fat, FREE),
      ...difatBodies(fats, difats),
    ]);
  }

  private entry(name: string, kind: Entry["kind"]): Entry {
    const entry: Entry = { name, kind, start: kind === 1 ? 0 : END, size: 0, left: NONE, right: NONE, child: NONE };
    this.entries.push(entry);
    return entry;
  }

  /** Items of one storage as a balanced tree; gives the number of its root. */
  private addAll(items: readonly CompoundItem[]): number {
    const numbers = items.map((item) => {
      const number = this.entries.length;
      if ("items" in item) {
        const entry = this.entry(item.name, 1);
        entry.child = this.addAll(item.items);
      } else {
        const entry = this.entry(item.name, 2);
        entry.size = item.bytes.length;
        if (item.bytes.length > 0) entry.start = this.addStream(item.bytes);
      }
      return number;
    });
    return this.tree(numbers.sort((a, b) => compareNames(this.entries[a].name, this.entries[b].name)));
  }

  private tree(sorted: readonly number[]): number {
    if (sorted.length === 0) return NONE;
    const middle = sorted.length >> 1;
    const entry = this.entries[sorted[middle]];
    entry.left = this.tree(sorted.slice(0, middle));
    entry.right = this.tree(sorted.slice(middle + 1));
    return sorted[middle];
  }

  private addStream(bytes: Uint8Array): number {
    if (bytes.length >= CUTOFF) return this.add(bytes);
    const start = this.miniFat.length;
    chain(this.miniFat, Math.ceil(bytes.length / MINI_SECTOR));
    this.minis.push(padded(bytes, MINI_SECTOR));
    return start;
  }

  private add(bytes: Uint8Array): number {
    const start = this.fat.length;
    chain(this.fat, Math.ceil(bytes.length / SECTOR));
    this.bodies.push(padded(bytes, SECTOR));
    return start;
  }

  private directory(): Buffer {
    const directory = Buffer.alloc(Math.ceil(this.entries.length / 4) * SECTOR);
    for (let at = 0; at < directory.length / 128; at++) {
      const entry = this.entries[at];
      const base = at * 128;
      for (const place of [68, 72, 76]) directory.writeUInt32LE(NONE, base + place);
      if (!entry) continue;
      const written = directory.write(entry.name, base, "utf16le");
      directory.writeUInt16LE(written + 2, base + 64);
      directory.writeUInt8(entry.kind, base + 66);
      // All nodes black: balanced as they are, no rule of the tree is broken.
      directory.writeUInt8(1, base + 67);
      directory.writeUInt32LE(entry.left, base + 68);
      directory.writeUInt32LE(entry.right, base + 72);
      directory.writeUInt32LE(entry.child, base + 76);
      directory.writeUInt32LE(entry.start, base + 116);
      directory.writeUInt32LE(entry.size, base + 120);
    }
    return directory;
  }

  /** The table of sectors has room for its own sectors too. */
  private tables(): { fats: number[]; difats: number[] } {
    const used = this.fat.length;
    let fatCount = 0;
    let difatCount = 0;
    for (;;) {
      const needed = Math.ceil((used + fatCount + difatCount) / IDS_PER_SECTOR);
      const more = Math.max(0, Math.ceil((needed - HEADER_FATS) / (IDS_PER_SECTOR - 1)));
      if (needed === fatCount && more === difatCount) break;
      fatCount = needed;
      difatCount = more;
    }
    const fats = Array.from({ length: fatCount }, (_, at) => used + at);
    const difats = Array.from({ length: difatCount }, (_, at) => used + fatCount + at);
    for (const _ of fats) this.fat.push(FAT_SECTOR);
    for (const _ of difats) this.fat.push(DIFAT_SECTOR);
    while (this.fat.length < fatCount * IDS_PER_SECTOR) this.fat.push(FREE);
    return { fats, difats };
  }

  private header(at: {
    readonly fats: readonly number[];
    readonly difats: readonly number[];
    readonly directoryStart: number;
    readonly miniFatStart: number;
    readonly miniFatSectors: number;
  }): Buffer {
    const header = Buffer.alloc(SECTOR);
    Buffer.from("d0cf11e0a1b11ae1", "hex").copy(header);
    header.writeUInt16LE(0x3e, 24);
    header.writeUInt16LE(3, 26);
    header.writeUInt16LE(0xfffe, 28);
    header.writeUInt16LE(9, 30);
    header.writeUInt16LE(6, 32);
    header.writeUInt32LE(at.fats.length, 44);
    header.writeUInt32LE(at.directoryStart, 48);
    header.writeUInt32LE(CUTOFF, 56);
    header.writeUInt32LE(at.miniFatStart, 60);
    header.writeUInt32LE(at.miniFatSectors, 64);
    header.writeUInt32LE(at.difats[0] ?? END, 68);
    header.writeUInt32LE(at.difats.length, 72);
    for (let index = 0; index < HEADER_FATS; index++) header.writeUInt32LE(at.fats[index] ?? FREE, 76 + index * 4);
    return header;
  }
}

function difatBodies(fats: readonly number[], difats: readonly number[]): Buffer[] {
  return difats.map((_, at) => {
    const from = HEADER_FATS + at * (IDS_PER_SECTOR - 1);
    const ids = fats.slice(from, from + IDS_PER_SECTOR - 1);
    while (ids.length < IDS_PER_SECTOR - 1) ids.push(FREE);
    return idsOf([...ids, difats[at + 1] ?? END]);
  });
}

/** Shorter names first, then by their letters in capitals (2.6.4). */
function compareNames(a: string, b: string): number {
  if (a.length !== b.length) return a.length - b.length;
  const [x, y] = [a.toUpperCase(), b.toUpperCase()];
  return x < y ? -1 : x > y ? 1 : 0;
}

function chain(table: number[], count: number): void {
  for (let index = 1; index < count; index++) table.push(table.length + 1);
  table.push(END);
}

function idsOf(ids: readonly number[], fill = FREE): Buffer {
  const bytes = Buffer.alloc(Math.ceil(ids.length / IDS_PER_SECTOR) * SECTOR);
  for (let at = 0; at < bytes.length / 4; at++) bytes.writeUInt32LE(ids[at] ?? fill, at * 4);
  return bytes;
}

function padded(bytes: Uint8Array, to: number): Buffer {
  return Buffer.concat([bytes, Buffer.alloc((to - (bytes.length % to)) % to)]);
}
