/** Where lines may be broken: the rules of UAX #14, each by what it says of a short text. */
import { breakOpportunities } from "@corbix/core/page";
import { describe, expect, it } from "vitest";

/** The text with a bar where a line may be broken, two where it must. */
const broken = (text: string): string => {
  const pieces = breakOpportunities(text);
  return pieces
    .map(({ text: piece, must }, index) => piece + (index === pieces.length - 1 ? "" : must ? "‖" : "|"))
    .join("");
};

describe("lines may be broken", () => {
  it.each([
    ["after blanks (LB18)", "one two  three", "one |two  |three"],
    ["at line ends, and there they must (LB4, LB5)", "one\ntwo\r\nthree", "one\n‖two\r\n‖three"],
    ["not beside a blank that keeps together (LB12)", "12\u00a0km away", "12\u00a0km |away"],
    ["at a blank without width (LB8)", "one\u200btwo", "one\u200b|two"],
    ["not at a joiner (LB11)", "one\u2060two", "one\u2060two"],
    ["after a hyphen between letters (LB21)", "well-known", "well-|known"],
    ["not after a hyphen that keeps together (LB12a)", "well\u2011known", "well\u2011known"],
    ["after a soft hyphen (LB21)", "in\u00adspec\u00adtor", "in\u00ad|spec\u00ad|tor"],
    ["not after a hyphen before figures (LB25)", "minus -5 and A-5", "minus |-5 |and |A-5"],
    ["not after opening brackets or before closing ones (LB13, LB14)", "see (page 3) below", "see |(page |3) |below"],
    ["not inside quotation marks (LB19)", 'say "stop" now', 'say |"stop" |now'],
    ["not before signs that end a sentence (LB13)", "stop! wait? no; yes: so", "stop! |wait? |no; |yes: |so"],
    ["after a slash before letters, not before figures (LB13, LB25)", "and/or 1/2", "and/|or |1/2"],
    [
      "not inside numbers with signs, units and currencies (LB25)",
      "CHF 1,234.50 or $9.00 at 10%",
      "CHF |1,234.50 |or |$9.00 |at |10%",
    ],
    ["not inside words with apostrophes (LB19)", "can't it's", "can't |it's"],
    ["not inside abbreviations (LB29)", "e.g. this", "e.g. |this"],
    ["before and after a long dash (LB17)", "lift—stairs", "lift|—|stairs"],
    ["between ideographs, not before their full stop (LB13, LB31)", "検査済。次", "検|査|済。|次"],
    ["not between ideographs' brackets and what they hold (LB14)", "「検」査", "「検」|査"],
    ["not before dots that go on (LB22)", "wait… and", "wait… |and"],
    ["not before combining marks (LB9)", "e\u0301 a\u0308", "e\u0301 |a\u0308"],
    ["not inside a Hebrew word with a hyphen (LB21a)", "אב-ג", "אב-ג"],
    [
      "not between regional letters of one flag (LB30a)",
      "\u{1f1e8}\u{1f1ed}\u{1f1eb}\u{1f1f7}",
      "\u{1f1e8}\u{1f1ed}|\u{1f1eb}\u{1f1f7}",
    ],
  ])("%s", (_, text, expected) => {
    expect(broken(text)).toBe(expected);
  });
});
