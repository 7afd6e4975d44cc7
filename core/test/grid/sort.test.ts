/** Orders of rows that come about without comparing them, against those that compare. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { rankTexts, sortByNumbers, sortByRanks } from "../../src/grid/sort.js";

const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

describe("rows by numbers", () => {
  const number = fc.oneof(
    fc.constantFrom(
      0,
      -0,
      1,
      -1,
      Number.NaN,
      Number.MAX_VALUE,
      -Number.MAX_VALUE,
      Number.MIN_VALUE,
      0.1,
      65_536,
      65_535,
    ),
    fc.double({ noNaN: true }),
    fc.integer(),
  );

  it("come up or down, what is no number last either way, equal ones as they stood", () => {
    fc.assert(
      fc.property(
        fc.array(number, { maxLength: 60 }),
        fc.boolean(),
        fc.func(fc.boolean()),
        (keys, isDescending, keep) => {
          const rows = [...keys.keys()].filter((row) => keep(row));
          const sorted = [...sortByNumbers(Uint32Array.from(rows), Float64Array.from(keys), isDescending)];
          const plain = [...rows].sort((a, b) => {
            const [x, y] = [keys[a], keys[b]];
            if (Number.isNaN(x) || Number.isNaN(y)) return Number(Number.isNaN(x)) - Number(Number.isNaN(y)) || a - b;
            return (isDescending ? y - x : x - y) || 0;
          });
          // Nought below nothing and nought are one number to a reader, in either order.
          const shown = (list: readonly number[]) => list.map((row) => (keys[row] === 0 ? 0 : keys[row]));
          expect(shown(sorted)).toEqual(shown(plain));
          expect([...sorted].sort((a, b) => a - b)).toEqual(rows);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe("rows by ranks", () => {
  it("come up or down, those without a rank last, for few ranks and for many", () => {
    const rank = fc.oneof(fc.nat(5), fc.nat(70_000));
    fc.assert(
      fc.property(fc.array(rank, { maxLength: 40 }), fc.boolean(), (ranks, isDescending) => {
        const last = Math.max(0, ...ranks) + 1;
        const keys = Uint32Array.from(ranks.map((one, at) => (at % 7 === 3 ? last : one)));
        const sorted = [...sortByRanks(Uint32Array.from(keys.keys()), keys, isDescending, last)];
        const plain = [...keys.keys()].sort((a, b) => {
          if (keys[a] === last || keys[b] === last) return Number(keys[a] === last) - Number(keys[b] === last) || a - b;
          return (isDescending ? keys[b] - keys[a] : keys[a] - keys[b]) || a - b;
        });
        expect(sorted).toEqual(plain);
      }),
    );
  });
});

describe("ranks of texts", () => {
  const ordered = (texts: readonly string[]) => {
    const ranks = rankTexts(texts);
    return [...texts.keys()].sort((a, b) => ranks[a] - ranks[b]).map((at) => texts[at]);
  };

  it("are those of the alphabet: capitals as small letters, numbers by their size", () => {
    expect(ordered(["Lift 10", "lift 9", "Äpfel", "apfel 2", "Zug"])).toEqual([
      "Äpfel",
      "apfel 2",
      "lift 9",
      "Lift 10",
      "Zug",
    ]);
    expect(ordered([])).toEqual([]);
  });

  it("of tens of thousands are the same, for ids of one length and for names of all", () => {
    const ids = Array.from({ length: 20_500 }, (_, at) => `ID-${String((at * 7919) % 20_500).padStart(6, "0")}`);
    expect(ordered(ids)).toEqual([...ids].sort());
    const names = Array.from(
      { length: 20_500 },
      (_, at) => `${["Dock", "quay", "Mill"][at % 3]} ${(at * 7919) % 20_500}`,
    );
    expect(ordered(names)).toEqual([...names].sort((a, b) => collator.compare(a, b)));
  });
});
