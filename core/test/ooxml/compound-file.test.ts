import { isCompoundFile, readCompoundFile } from "@corbix/core/ooxml";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type CompoundItem, writeCompoundFile } from "../../src/ooxml/compound-writer.js";

/** Other bytes in every sector: a run of 251 numbers, over and over. */
const bytesOf = (length: number, seed = 1): Uint8Array =>
  Buffer.alloc(
    length,
    Uint8Array.from({ length: 251 }, (_, at) => (at + seed) & 255),
  );
const streams = (file: Uint8Array, names: readonly string[]) =>
  names.map((name) => readCompoundFile(file, "x").get(name));

describe("a compound file", () => {
  it("holds its streams byte for byte, small ones and those beyond a sector", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(0, 1, 63, 64, 65, 511, 512, 513, 4095, 4096, 4097, 20_000), {
          minLength: 1,
          maxLength: 8,
        }),
        (lengths) => {
          const items = lengths.map((length, at) => ({ name: `Stream ${at}`, bytes: bytesOf(length, at) }));
          const file = writeCompoundFile(items);
          expect(isCompoundFile(file)).toBe(true);
          expect(file.length % 512).toBe(0);
          const found = streams(
            file,
            items.map(({ name }) => name),
          );
          found.forEach((bytes, at) => {
            expect(Buffer.from(bytes ?? [])).toEqual(Buffer.from(items[at].bytes));
          });
        },
      ),
      { numRuns: 60 },
    );
  });

  it("grows beyond the sectors its head has room for", () => {
    // More than 109 sectors of the table of sectors, of 128 sectors each.
    const large = bytesOf(109 * 128 * 512 + 5000);
    const [found] = streams(writeCompoundFile([{ name: "Large", bytes: large }]), ["Large"]);
    expect(Buffer.compare(Buffer.from(found ?? []), Buffer.from(large))).toBe(0);
  });

  it("holds storages in storages, with names in any case", () => {
    const items: CompoundItem[] = [
      {
        name: "\u0006DataSpaces",
        items: [
          { name: "Version", bytes: bytesOf(10) },
          { name: "Inner", items: [{ name: "Deep", bytes: bytesOf(20) }] },
        ],
      },
      { name: "EncryptionInfo", bytes: bytesOf(30) },
    ];
    const file = writeCompoundFile(items);
    const names = [...readCompoundFile(file, "x").keys()];
    expect(names.some((name) => name.endsWith("Deep"))).toBe(true);
    expect(names.some((name) => name.endsWith("EncryptionInfo"))).toBe(true);
  });
});
