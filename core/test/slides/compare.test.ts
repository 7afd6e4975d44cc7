import { OoxmlPackage } from "@corbix/core/ooxml";
import { compareDecks, Deck } from "@corbix/core/slides";
import { describe, expect, it } from "vitest";
import { handDeck, picture, shape, table, title } from "../support/hand-deck.js";
import { squares } from "../support/sample-decks.js";

const related = { rIdA: { type: "image", target: "../media/a.png" } };
const parts = { "ppt/media/a.png": { content: squares(), type: "" } };
const base = () =>
  handDeck({
    slides: [
      { shapes: title("One") + shape({ name: "Box", at: [10, 10, 200, 50], text: "as it was" }), notes: "said" },
      {
        shapes:
          title("Two") +
          table(
            [20, 20, 300, 80],
            [
              ["Unit", "Fee"],
              ["L1", "10"],
            ],
          ).replace(/name="Table \d+"/, 'name="Fees"'),
      },
      {
        shapes: title("Three") + picture([20, 20, 100, 50], "rIdA").replace(/name="Picture \d+"/, 'name="Plan"'),
        related,
      },
    ],
    parts,
  });

/** Differences of a deck and one with texts changed in a slide, as single lines. */
function told(
  changes: Readonly<Record<number, readonly [string, string][]>>,
  more?: Map<string, Uint8Array>,
): string[] {
  const before = base();
  const opened = OoxmlPackage.open(before);
  const deck = new Deck(opened);
  const changed = new Map<string, string | Uint8Array>(more);
  for (const [slide, list] of Object.entries(changes)) {
    const { part } = deck.slides[Number(slide)];
    changed.set(
      part,
      list.reduce((text, [from, to]) => {
        expect(text).toContain(from);
        return text.replace(from, to);
      }, opened.getText(part)),
    );
  }
  const { differences } = compareDecks(
    { bytes: before, where: "first" },
    { bytes: opened.with(changed).toBytes(), where: "second" },
  );
  return differences.map(
    (one) => `${one.slide} ${one.title} | ${one.shape} | ${one.what}: ${one.first} > ${one.second}`,
  );
}

describe("two decks compared", () => {
  it("are the same where nothing a reader sees is different", () => {
    expect(told({})).toEqual([]);
  });

  it("differ in texts, places and cells, each told with its slide and shape", () => {
    expect(told({ 0: [["as it was", "as it is"]] })).toEqual(["1 One | Box | text: as it was > as it is"]);
    expect(told({ 1: [["<a:t>10<", "<a:t>12<"]] })).toEqual(["2 Two | Fees, row 2, column 2 | text: 10 > 12"]);
    const [moved] = told({ 2: [['<a:off x="254000"', '<a:off x="127000"']] });
    expect(moved).toMatch(/^3 Three \| Plan \| place: .* > 10, /);
  });

  it("differ where a picture is another of the same size, and where a slide is hidden or gone", () => {
    const other = squares();
    other[other.length - 20] ^= 1;
    expect(told({}, new Map([["ppt/media/a.png", other]]))).toEqual([
      expect.stringMatching(/^3 Three \| Plan \| picture: (\d+ bytes), \w{8} > \1, \w{8}$/),
    ]);
    expect(told({ 1: [["<p:sld ", '<p:sld show="0" ']] })).toEqual(["2 Two |  | hidden: shown > hidden"]);
    const two = handDeck({ slides: [{ shapes: title("One") }, { shapes: title("Three") }] });
    const three = handDeck({
      slides: [{ shapes: title("One") }, { shapes: title("Two") }, { shapes: title("Three") }],
    });
    const { differences } = compareDecks({ bytes: two, where: "a" }, { bytes: three, where: "b" });
    expect(differences.map(({ slide, what, second }) => [slide, what, second])).toEqual([
      [2, "only in the second", "Two"],
    ]);
  });
});
