/** Numbers of pages and lists in letters and Roman figures: ECMA-376 part 1, 17.18.59. */

/** The greatest number that letters, signs and Roman figures write in a length that can be read. */
const MOST_WRITTEN = 3_999;
const WRITTEN_OUT: ReadonlySet<string> = new Set(["lowerLetter", "upperLetter", "lowerRoman", "upperRoman", "chicago"]);

/** A number in a format of 17.18.59; unknown ones are decimal, and so is a number that has no letters. */
export function formatNumber(number: number, format: string): string {
  if (WRITTEN_OUT.has(format) && !(number >= 1 && number <= MOST_WRITTEN)) return String(number);
  switch (format) {
    case "lowerLetter":
      return letters(number).toLowerCase();
    case "upperLetter":
      return letters(number);
    case "lowerRoman":
      return roman(number).toLowerCase();
    case "upperRoman":
      return roman(number);
    case "decimalZero":
      return String(number).padStart(2, "0");
    case "none":
      return "";
    case "ordinal":
      return `${number}${ordinalEnding(number)}`;
    case "hex":
      return number.toString(16).toUpperCase();
    case "chicago":
      return ["*", "†", "‡", "§"][(number - 1) % 4].repeat(Math.floor((number - 1) / 4) + 1);
    case "numberInDash":
      return `- ${number} -`;
    default:
      return String(number);
  }
}

function ordinalEnding(number: number): string {
  if (number % 100 > 10 && number % 100 < 14) return "th";
  return ["th", "st", "nd", "rd"][number % 10] ?? "th";
}

/** A, B, … Z, AA, BB, … as word processors count. */
function letters(number: number): string {
  return String.fromCharCode(65 + ((number - 1) % 26)).repeat(Math.floor((number - 1) / 26) + 1);
}

function roman(number: number): string {
  const values: readonly (readonly [number, string])[] = [
    [1000, "M"],
    [900, "CM"],
    [500, "D"],
    [400, "CD"],
    [100, "C"],
    [90, "XC"],
    [50, "L"],
    [40, "XL"],
    [10, "X"],
    [9, "IX"],
    [5, "V"],
    [4, "IV"],
    [1, "I"],
  ];
  let text = "";
  let rest = number;
  for (const [value, sign] of values) {
    while (rest >= value) {
      text += sign;
      rest -= value;
    }
  }
  return text;
}
