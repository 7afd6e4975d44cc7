/** The labels of lists: ECMA-376 part 1, 17.9. */
import { parseXml } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { Numbering } from "../../../../src/layout/document/model/numbering.js";
import { formatNumber } from "../../../../src/layout/text/numbers.js";

const THEME = { colors: [], majorFont: "Cambria", minorFont: "Calibri" } as never;
const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const level = (at: number, format: string, text: string, more = "") =>
  `<w:lvl w:ilvl="${at}"><w:start w:val="1"/><w:numFmt w:val="${format}"/>${more}<w:lvlText w:val="${text}"/></w:lvl>`;
const listed = (xml: string) => new Numbering(parseXml(`<w:numbering ${W}>${xml}</w:numbering>`, "n").root, THEME);
const num = (id: number, abstract: number, more = "") =>
  `<w:num w:numId="${id}"><w:abstractNumId w:val="${abstract}"/>${more}</w:num>`;
const abstract = (id: number, ...levels: readonly string[]) =>
  `<w:abstractNum w:abstractNumId="${id}">${levels.join("")}</w:abstractNum>`;
const labels = (list: Numbering, ...items: readonly (readonly [number, number])[]) =>
  items.map(([id, at]) => list.next(id, at)?.text);

describe("a list", () => {
  it("counts on its levels, and begins a lower one anew below each higher", () => {
    const list = listed(abstract(0, level(0, "decimal", "%1."), level(1, "lowerLetter", "%1.%2)")) + num(1, 0));
    expect(labels(list, [1, 0], [1, 1], [1, 1], [1, 0], [1, 1])).toEqual(["1.", "1.a)", "1.b)", "2.", "2.a)"]);
  });

  it("goes on through all of one definition, unless a number of its own begins again", () => {
    const again = '<w:lvlOverride w:ilvl="0"><w:startOverride w:val="5"/></w:lvlOverride>';
    const list = listed(abstract(0, level(0, "decimal", "%1")) + num(1, 0) + num(2, 0) + num(3, 0, again));
    expect(labels(list, [1, 0], [2, 0], [3, 0], [3, 0], [1, 0])).toEqual(["1", "2", "5", "6", "3"]);
  });

  it("has a level replaced by its number, and levels that never begin anew or only after a given one", () => {
    const own = `<w:lvlOverride w:ilvl="0">${level(0, "upperRoman", "Part %1")}</w:lvlOverride>`;
    expect(labels(listed(abstract(0, level(0, "decimal", "%1")) + num(1, 0, own)), [1, 0], [1, 0])).toEqual([
      "Part I",
      "Part II",
    ]);
    const never = abstract(
      0,
      level(0, "decimal", "%1"),
      level(1, "decimal", "%2", '<w:lvlRestart w:val="0"/>'),
      level(2, "decimal", "%3", '<w:lvlRestart w:val="1"/>'),
    );
    const list = listed(never + num(1, 0));
    expect(labels(list, [1, 0], [1, 1], [1, 2], [1, 1], [1, 2], [1, 0], [1, 1], [1, 2])).toEqual([
      ...["1", "1", "1", "2", "2", "2", "3", "1"],
    ]);
  });

  it("shows all numbers as figures where it is legal, a level that never came as its first, and bullets as signs", () => {
    const legal = abstract(0, level(0, "upperRoman", "%1"), level(1, "lowerLetter", "%1.%2", "<w:isLgl/>"));
    expect(labels(listed(legal + num(1, 0)), [1, 1], [1, 0], [1, 1])).toEqual(["1.1", "I", "1.1"]);
    const bullets = abstract(0, level(0, "bullet", "\uf0b7"), level(1, "bullet", "o"), level(2, "bullet", "–"));
    expect(labels(listed(bullets + num(1, 0)), [1, 0], [1, 1], [1, 2])).toEqual(["•", "○", "–"]);
  });

  it("knows the level of a style, and nothing of lists and levels there are not", () => {
    const list = listed(
      abstract(0, level(0, "decimal", "%1"), level(1, "decimal", "%2", '<w:pStyle w:val="Sub"/>')) + num(1, 0),
    );
    expect([
      list.levelOf(1, "Sub"),
      list.levelOf(1, "Other"),
      list.levelOf(1, undefined),
      list.levelOf(9, "Sub"),
    ]).toEqual([1, undefined, undefined, undefined]);
    expect([list.next(9, 0), list.next(1, 7), new Numbering(undefined, THEME).next(1, 0)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe("a number of a list or page", () => {
  it.each<[string, readonly number[], readonly string[]]>([
    ["decimal", [1, 12], ["1", "12"]],
    ["decimalZero", [3, 12], ["03", "12"]],
    ["lowerLetter", [1, 26, 27, 53], ["a", "z", "aa", "aaa"]],
    ["upperLetter", [2, 28], ["B", "BB"]],
    ["lowerRoman", [4, 9, 1999], ["iv", "ix", "mcmxcix"]],
    ["upperRoman", [40, 90, 400, 900], ["XL", "XC", "CD", "CM"]],
    [
      "ordinal",
      [1, 2, 3, 4, 11, 12, 13, 21, 102, 113],
      ["1st", "2nd", "3rd", "4th", "11th", "12th", "13th", "21st", "102nd", "113th"],
    ],
    ["hex", [10, 255], ["A", "FF"]],
    ["chicago", [1, 2, 3, 4, 5, 8], ["*", "†", "‡", "§", "**", "§§"]],
    ["numberInDash", [7], ["- 7 -"]],
    ["none", [7], [""]],
    ["aiueo", [7], ["7"]],
    // What has no letters or signs is written in figures, whatever a file asks for.
    ["lowerLetter", [0, -3, 1_000_000], ["0", "-3", "1000000"]],
    ["upperRoman", [0, 2_000_000_000], ["0", "2000000000"]],
    ["chicago", [0, 2_000_000_000], ["0", "2000000000"]],
  ])("is written as %s: %j", (format, numbers, written) => {
    expect(numbers.map((number) => formatNumber(number, format))).toEqual(written);
  });
});
