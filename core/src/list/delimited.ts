/** Delimited text (RFC 4180) and text of fixed widths, in any encoding that offices still read. */
import iconv from "iconv-lite";
import { CorbixError, type Finding } from "../common/index.js";
import type { Env } from "../expression/index.js";
import { say } from "../words/index.js";
import { type ListColumn, plainText, rowsOf, type ShownLines } from "./columns.js";

export const ENCODINGS = [
  "utf-8",
  "utf-8-bom",
  "utf-16le",
  "windows-1252",
  "iso-8859-1",
  "iso-8859-15",
  "windows-1250",
  "windows-1251",
  "cp850",
  "us-ascii",
] as const;

export interface TextSpec {
  readonly delimiter: "," | ";" | "tab" | "|";
  readonly quotes: "needed" | "text" | "all" | "none";
  readonly encoding: (typeof ENCODINGS)[number];
  readonly lineEnds: "crlf" | "lf";
  readonly decimal: "." | ",";
  readonly headings: boolean;
  readonly guard: boolean;
}

export interface WrittenText {
  readonly bytes: Uint8Array;
  readonly text: string;
  readonly findings: readonly Finding[];
}

/** A spreadsheet takes a text that begins so for a formula. */
const FORMULA = /^[=+\-@\t\r]/;

/** Throws `BAD_DEFINITION` for what cannot be written so without a loss. */
export function writeDelimited(shown: ShownLines, env: Env, spec: TextSpec, where: string): WrittenText {
  const delimiter = spec.delimiter === "tab" ? "\t" : spec.delimiter;
  let guarded = 0;
  const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;
  const cellText = (text: string, isText: boolean, column: ListColumn): string => {
    const isSpecial = text.includes(delimiter) || /["\r\n]/.test(text) || /^\s|\s$/.test(text);
    if (spec.quotes === "none") {
      if (text.includes(delimiter) || /[\r\n]/.test(text))
        throw new CorbixError(
          "BAD_DEFINITION",
          say().list.needsQuotes({ column: column.heading, text: text.slice(0, 40) }),
          {
            where,
            advice: say().list.letQuote(),
          },
        );
      return text;
    }
    if (spec.quotes === "all" || isSpecial || (spec.quotes === "text" && isText)) return quoted(text);
    return text;
  };
  const lines: string[] = [];
  if (spec.headings) lines.push(shown.columns.map((column) => cellText(column.heading, true, column)).join(delimiter));
  for (const { cells } of rowsOf(shown, env)) {
    lines.push(
      cells
        .map((value, at) => {
          const column = shown.columns[at];
          const plain = plainText(value, column, { locale: env.locale, decimal: spec.decimal });
          const isText = typeof value === "string";
          const isRisky = isText && FORMULA.test(plain) && !isNumeric(plain);
          if (isRisky) guarded += 1;
          return cellText(isRisky && spec.guard ? `'${plain}` : plain, isText, column);
        })
        .join(delimiter),
    );
  }
  return encoded(lines, spec, where, guarded === 0 ? [] : [guardFinding(guarded, spec.guard, where)]);
}

/** A number written as text, such as -12 or +41 44, is no formula. */
function isNumeric(text: string): boolean {
  return /^[+-][\d\s.,'’()/-]*$/.test(text);
}

function guardFinding(count: number, isGuarded: boolean, where: string): Finding {
  return {
    code: "text-like-formula",
    severity: isGuarded ? "note" : "warn",
    where,
    what: say().list.cellsLikeFormulas({ count, isGuarded }),
    advice: isGuarded ? say().list.guardCanBeOff() : say().list.turnGuardOn(),
  };
}

/** Each value in a field of its own width; one that is longer stops, since a cut value is a wrong one. */
export function writeFixed(shown: ShownLines, env: Env, spec: TextSpec, where: string): WrittenText {
  const lines: string[] = [];
  const fit = (text: string, column: ListColumn, isNumber: boolean, place: string): string => {
    const width = column.width as number;
    const flat = text.replace(/[\r\n\t]+/g, " ");
    const length = [...flat].length;
    if (length > width)
      throw new CorbixError(
        "BAD_DEFINITION",
        say().list.tooWide({ column: column.heading, text: flat.slice(0, 60), length, width }),
        {
          where: place,
          advice: say().list.giveMoreWidth(),
        },
      );
    const blanks = " ".repeat(width - length);
    return (column.align ?? (isNumber ? "right" : "left")) === "right" ? blanks + flat : flat + blanks;
  };
  if (spec.headings)
    lines.push(
      shown.columns.map((column) => fit(column.heading, column, column.info.type === "number", where)).join(""),
    );
  let number = 0;
  for (const { cells } of rowsOf(shown, env)) {
    number += 1;
    const place = say().list.line({ where, number });
    lines.push(
      cells
        .map((value, at) => {
          const column = shown.columns[at];
          const text = plainText(value, column, { locale: env.locale, decimal: spec.decimal });
          return fit(text, column, typeof value === "number", place);
        })
        .join(""),
    );
  }
  return encoded(lines, spec, where, []);
}

function encoded(
  lines: readonly string[],
  { encoding, lineEnds }: TextSpec,
  where: string,
  findings: readonly Finding[],
): WrittenText {
  const end = lineEnds === "crlf" ? "\r\n" : "\n";
  const text = lines.map((line) => line + end).join("");
  const name = encoding === "utf-8-bom" ? "utf-8" : encoding;
  const bytes = iconv.encode(text, name, { addBOM: encoding === "utf-8-bom" || encoding === "utf-16le" });
  const back = iconv.decode(bytes, name);
  if (back !== text) {
    const [before, after] = [[...text], [...back]];
    const lost = [...new Set(before.filter((sign, at) => sign !== after[at]))].slice(0, 5).join(" ");
    throw new CorbixError("BAD_DEFINITION", say().list.cannotEncode({ encoding, lost }), {
      where: `${where}, encoding`,
      advice: say().list.useUtf8(),
    });
  }
  return { bytes, text, findings };
}
