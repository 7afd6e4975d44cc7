/** Functions of texts: ECMA-376 part 1, 18.17.7. */
import { formatValue } from "../../common/index.js";
import { numberInText } from "../coercion.js";
import {
  asMatrix,
  CellError,
  cellsOf,
  numberOf,
  type Operand,
  type Scalar,
  scalarOf,
  textOf,
  truthOf,
} from "../value.js";
import { type FormulaFunction, ofTexts, VALUE } from "./support/arguments.js";
import { bahtText } from "./support/baht-text.js";
import { hasWildcard, wildcardWithin } from "./support/criteria.js";
import { roundDecimal } from "./support/round.js";
import { marksIn } from "./support/split-text.js";

const TEXTS: Readonly<Record<string, FormulaFunction>> = {
  CONCATENATE: ofTexts((...texts) => texts.join("")),
  CONCAT: (args) => joinTexts("", args),
  TEXTJOIN: ([separatorArg, skipArg, ...rest]) => {
    const separator = textOf(separatorArg());
    const skip = truthOf(skipArg());
    return separator instanceof CellError ? separator : joinTexts(separator, rest, skip === true);
  },
  LEFT: ([textArg, countArg]) => slice(textArg, countArg, (chars, count) => chars.slice(0, count)),
  RIGHT: ([textArg, countArg]) => slice(textArg, countArg, (chars, count) => (count === 0 ? [] : chars.slice(-count))),
  MID: ([textArg, startArg, countArg]) => {
    const start = numberOf(startArg());
    if (start instanceof CellError) return start;
    return start < 1 ? VALUE : slice(textArg, countArg, (chars, count) => chars.slice(start - 1, start - 1 + count));
  },
  LEN: ofTexts((text) => text.length),
  UPPER: ofTexts((text) => text.toUpperCase()),
  LOWER: ofTexts((text) => text.toLowerCase()),
  PROPER: ofTexts((text) =>
    text
      .toLowerCase()
      .replace(/(^|[^\p{L}])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase()),
  ),
  TRIM: ofTexts((text) => text.replace(/ +/g, " ").replace(/^ | $/g, "")),
  SUBSTITUTE: ofTexts((text, old, by, which) => {
    if (old === "") return text;
    if (which === undefined) return text.replaceAll(old, () => by);
    const parts = text.split(old);
    const n = Number(which);
    return parts.length <= n ? text : `${parts.slice(0, n).join(old)}${by}${parts.slice(n).join(old)}`;
  }),
  REPT: ofTexts((text, count) =>
    text.length * Number(count) > 32_767 ? VALUE : text.repeat(Math.max(0, Math.trunc(Number(count)))),
  ),
  FIND: ofTexts((part, text, from = "1") => positionIn(text.indexOf(part, Number(from) - 1))),
  SEARCH: ofTexts((part, text, from = "1") => {
    const start = Math.trunc(Number(from)) - 1;
    if (!(start >= 0) || start > text.length) return VALUE;
    if (!hasWildcard(part)) return positionIn(text.toLowerCase().indexOf(part.toLowerCase(), start));
    const pattern = wildcardWithin(part);
    pattern.lastIndex = start;
    return positionIn(pattern.exec(text)?.index ?? -1);
  }),
  EXACT: ofTexts((a, b) => a === b),
  TEXT: ([valueArg, formatArg]) => {
    const value = scalarOf(valueArg());
    const format = textOf(formatArg());
    if (value instanceof CellError) return value;
    if (format instanceof CellError) return format;
    // A text that reads as a number is shown as one; a truth value stays a word.
    const number = typeof value === "string" ? numberInText(value) : undefined;
    return formatValue(number ?? value ?? 0, format);
  },
  BAHTTEXT: ([arg]) => {
    const value = numberOf(arg());
    return value instanceof CellError ? value : bahtText(value);
  },
  ASC: ofTexts((text) =>
    text
      .replace(/[\uff01-\uff5e]/g, (sign) => String.fromCharCode(sign.charCodeAt(0) - 0xfee0))
      .replaceAll("\u3000", " "),
  ),
  JIS: ofTexts((text) =>
    text.replace(/[!-~]/g, (sign) => String.fromCharCode(sign.charCodeAt(0) + 0xfee0)).replaceAll(" ", "\u3000"),
  ),
  T: ([arg]) => {
    const value = scalarOf(arg());
    return value instanceof CellError || typeof value === "string" ? value : "";
  },
  CHAR: ([arg]) => fromCode(arg()),
  UNICHAR: ([arg]) => fromCode(arg()),
  CODE: ofTexts((text) => text.codePointAt(0) ?? VALUE),
  UNICODE: ofTexts((text) => text.codePointAt(0) ?? VALUE),
  CLEAN: ofTexts((text) => [...text].filter((char) => char >= " ").join("")),
  REPLACE: ofTexts((text, start, count, by) => {
    const [from, length] = [Number(start), Number(count)];
    if (!(from >= 1) || !(length >= 0)) return VALUE;
    return text.slice(0, from - 1) + by + text.slice(from - 1 + Math.trunc(length));
  }),
  TEXTBEFORE: around("before"),
  TEXTAFTER: around("after"),
  DOLLAR: ([valueArg, placesArg]) => {
    const value = numberOf(valueArg());
    const places = placesArg ? numberOf(placesArg()) : 2;
    if (value instanceof CellError) return value;
    if (places instanceof CellError) return places;
    const decimals = Math.max(0, Math.trunc(places));
    const digits = `$#,##0${decimals > 0 ? `.${"0".repeat(decimals)}` : ""}`;
    return formatValue(roundDecimal(value, Math.trunc(places), "near"), `${digits};(${digits})`);
  },
  FIXED: ofTexts((text, places = "2", bare = "FALSE") => {
    const decimals = Math.trunc(Number(places));
    const value = numberOf(text);
    if (value instanceof CellError || Number.isNaN(decimals)) return VALUE;
    const shown = Math.max(0, decimals);
    const digits = `${/^(true|[1-9])/i.test(bare) ? "0" : "#,##0"}${shown > 0 ? `.${"0".repeat(shown)}` : ""}`;
    return formatValue(roundDecimal(value, decimals, "near"), digits);
  }),
  NUMBERVALUE: ofTexts((text, decimal = ".", group = ",") => {
    const plain = text.replaceAll(" ", "").replaceAll(group, "").replace(decimal, ".");
    return plain === "" ? 0 : numberOf(plain);
  }),
  HYPERLINK: ([address, label]) => scalarOf((label ?? address)()),
  VALUE: ([arg]) => {
    const value = scalarOf(arg());
    return typeof value === "boolean" ? VALUE : numberOf(value);
  },
};

/** Where every letter takes one byte, as outside of East Asia, functions of bytes are those of letters. */
const OF_BYTES = ["FIND", "LEFT", "LEN", "MID", "REPLACE", "RIGHT", "SEARCH"];

export const TEXT_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = {
  ...TEXTS,
  ...Object.fromEntries(OF_BYTES.map((name) => [`${name}B`, TEXTS[name]])),
};

function joinTexts(separator: string, args: readonly (() => Operand)[], skipBlanks = false): Scalar {
  const texts: string[] = [];
  for (const { value } of cellsOf(args.map((arg) => arg()))) {
    const text = textOf(value);
    if (text instanceof CellError) return text;
    if (!skipBlanks || text !== "") texts.push(text);
  }
  return texts.join(separator);
}

function slice(
  textArg: () => Operand,
  countArg: (() => Operand) | undefined,
  cut: (chars: readonly string[], count: number) => readonly string[],
): Scalar {
  const text = textOf(textArg());
  const count = countArg ? numberOf(countArg()) : 1;
  if (text instanceof CellError) return text;
  if (count instanceof CellError) return count;
  return count < 0 ? VALUE : cut([...text], Math.trunc(count)).join("");
}

function positionIn(index: number): Scalar {
  return index < 0 ? VALUE : index + 1;
}

function fromCode(operand: Operand): Scalar {
  const code = numberOf(operand);
  if (code instanceof CellError) return code;
  return code >= 1 && code <= 0x10ffff ? String.fromCodePoint(Math.trunc(code)) : VALUE;
}

/** What stands before or behind the n-th mark, counted from the end for a negative n; any of several marks counts. */
function around(side: "before" | "after"): FormulaFunction {
  return ([textArg, marksArg, whichArg, foldArg, endArg, noneArg]) => {
    const text = textOf(textArg());
    if (text instanceof CellError) return text;
    const given = asMatrix(marksArg()).flat();
    const failed = given.find((mark) => mark instanceof CellError);
    if (failed instanceof CellError) return failed;
    const numberIn = (arg: (() => Operand) | undefined, otherwise: number): number | CellError => {
      const operand = arg?.() ?? null;
      return operand === null ? otherwise : numberOf(operand);
    };
    const [which, fold, end] = [numberIn(whichArg, 1), numberIn(foldArg, 0), numberIn(endArg, 0)];
    if (which instanceof CellError) return which;
    if (fold instanceof CellError) return fold;
    if (end instanceof CellError) return end;
    const n = Math.trunc(which);
    if (n === 0) return VALUE;
    const marks = given.map((mark) => String(mark ?? ""));
    // A blank mark stands at the text's edge.
    if (marks.includes("")) return n > 0 === (side === "before") ? "" : text;
    const found = marksIn(text, marks, fold === 1);
    if (end === 1) {
      if (n > 0) found.push({ from: text.length, to: text.length });
      else found.unshift({ from: 0, to: 0 });
    }
    const mark = found[n > 0 ? n - 1 : found.length + n];
    if (mark === undefined) return noneArg ? scalarOf(noneArg()) : CellError.of("#N/A");
    return side === "before" ? text.slice(0, mark.from) : text.slice(mark.to);
  };
}
