/** Reading of comma-separated and kindred text files (RFC 4180 and its relatives) in one pass over the bytes. */

import { isUtf8 } from "node:buffer";
import iconv from "iconv-lite";
import { CorbixError, type Finding } from "../../common/index.js";
import { say, type Words } from "../../words/index.js";
import type { Decision } from "../decision.js";
import type { IntakeRules } from "../rules.js";
import { damagedUtf8, detectEncoding, type FoundEncoding } from "./detect-encoding.js";
import { Kind, RawSheet } from "./raw-sheet.js";

const DELIMITERS = [",", ";", "\t", "|"] as const;
const DELIMITER_NAMES: Readonly<Record<string, string>> = {
  ",": "comma",
  ";": "semicolon",
  "\t": "tabulator",
  "|": "bar",
};
const DELIMITER_SIGNS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(DELIMITER_NAMES).map(([sign, name]) => [name, sign]),
);
const QUOTES = { "quotation mark": '"', apostrophe: "'", none: "" } as const;
/** No byte of a text is this. */
const NO_QUOTE = 256;
/** So many bytes are looked at to tell encoding, delimiter and quote. */
const SAMPLE_BYTES = 200_000;
/** More columns than a spreadsheet has are no table. */
const MAX_COLUMNS = 16_384;

const LF = 10;
const CR = 13;
const BLANK = 32;
const MINUS = 45;
const POINT = 46;
const ZERO = 48;
/** Longer numbers are kept as texts: a number holds 15 digits for sure. */
const MAX_DIGITS = 15;
const POWERS = Array.from({ length: MAX_DIGITS + 1 }, (_, power) => 10 ** power);

/**
 * The records of a text file; encoding, delimiter and quote are told by its content, or by what was corrected. Throws
 * `BAD_TABLE_FILE`.
 */
export function readTextFile(
  bytes: Uint8Array,
  where: string,
  rules: Pick<IntakeRules, "encoding" | "delimiter" | "quote"> = {},
): { sheet: RawSheet; decisions: readonly Decision[]; findings: readonly Finding[] } {
  const { buffer, encoding, other } = decodeBytes(bytes, rules.encoding);
  if (buffer.includes(0)) {
    throw new CorbixError("BAD_TABLE_FILE", say().table.cannotReadFileTableHolds(), {
      where,
      advice: say().table.giveWorkbookXlsxOdsText(),
    });
  }
  const sample = buffer.toString("utf8", 0, SAMPLE_BYTES);
  refuseOtherTexts(sample, where);
  const quote = rules.quote === undefined ? findQuote(sample) : QUOTES[rules.quote];
  const named = /^sep=(.)\r?\n/.exec(sample);
  const asked = rules.delimiter === undefined ? undefined : (DELIMITER_SIGNS[rules.delimiter] ?? rules.delimiter);
  const found = findDelimiter(sample, quote === "" ? '"' : quote);
  const delimiter = asked ?? named?.[1] ?? found.delimiter;
  const reading = {
    kind: "text",
    encoding,
    delimiter: DELIMITER_NAMES[delimiter] ?? delimiter,
    ...(quote === "'" ? { quote: "apostrophe" } : quote === "" ? { quote: "none" } : {}),
  };
  const sheet = new RawSheet(where, reading, false);
  const delimiterByte = Buffer.from(delimiter, "utf8");
  if (delimiterByte.length !== 1)
    throw new CorbixError("BAD_REQUEST", say().table.cannotUseDelimiterSignAscii({ delimiter }), {
      where,
      advice: say().table.nameCommaSemicolonTabulatorBar(),
    });
  new TextReader(buffer, delimiterByte[0], quote === "" ? NO_QUOTE : quote.charCodeAt(0), sheet).read(
    named ? named[0].length : 0,
  );
  const corrected = (what: string, chosen: string): Decision => ({
    what,
    chosen,
    why: say().table.corrected(),
    corrected: true,
  });
  const findings: Finding[] = [];
  if (other !== undefined)
    findings.push({
      code: "encoding-unsure",
      severity: "warn",
      where,
      what: say().table.fileReadGuessFewLetters({
        encoding,
        word: other.word,
        encoding2: other.encoding,
        otherWord: other.otherWord,
      }),
      advice: say().table.ifRightCorrectEncodingBetter({ encoding: other.encoding }),
    });
  if (asked === undefined && named === null && found.other !== undefined)
    findings.push({
      code: "delimiter-unsure",
      severity: "warn",
      where,
      what: say().table.cellsToldApartGuessCuts({
        delimiterNames: DELIMITER_NAMES[delimiter],
        delimiterNames2: DELIMITER_NAMES[found.other],
      }),
      advice: say().table.ifRightCorrectDelimiter({ delimiterNames: DELIMITER_NAMES[found.other] }),
    });
  return {
    sheet,
    findings,
    decisions: [
      ...(rules.encoding === undefined ? [] : [corrected("encoding", encoding)]),
      ...(asked === undefined ? [] : [corrected("delimiter", reading.delimiter)]),
      ...(rules.quote === undefined ? [] : [corrected("quote", rules.quote)]),
    ],
  };
}

type Told = (words: Words["table"]) => string;

/** Texts of other kinds, told by how they begin: nothing of them is a table. */
const OTHER_TEXTS: readonly { readonly begins: RegExp; readonly field?: RegExp; what: Told; advice: Told }[] = [
  {
    begins: /^(?:(?:[A-Za-z][\w-]*):[^\r\n]*\r?\n(?:[ \t][^\r\n]*\r?\n)*){2,}\r?\n/,
    field: /^(?:From|To|Subject|Date|Received|Return-Path|MIME-Version|Message-ID|Delivered-To|Content-Type):/im,
    what: (words) => words.mailMessage(),
    advice: (words) => words.saveAttachment(),
  },
  {
    begins: /^\s*<(?:!doctype html|html|table|body)[\s>]/i,
    what: (words) => words.webPage(),
    advice: (words) => words.savePage(),
  },
  {
    begins: /^\s*<\?xml|^\s*<[A-Za-z][\w:.-]*[\s>/]/,
    what: (words) => words.xml(),
    advice: (words) => words.exportXml(),
  },
  { begins: /^%PDF-/, what: (words) => words.pdf(), advice: (words) => words.askForTable() },
  { begins: /^\{\\rtf/, what: (words) => words.textDocument(), advice: (words) => words.saveTable() },
  {
    begins: /^BEGIN:V(?:CALENDAR|CARD)/i,
    what: (words) => words.calendarOrCard(),
    advice: (words) => words.exportList(),
  },
];

function refuseOtherTexts(sample: string, where: string): void {
  const found = OTHER_TEXTS.find(({ begins, field }) => begins.test(sample) && (field?.test(sample) ?? true));
  if (!found) return;
  const words = say().table;
  throw new CorbixError("BAD_TABLE_FILE", words.cannotReadFileTable({ found: found.what(words) }), {
    where,
    advice: found.advice(words),
  });
}

/** Bytes as UTF-8 without a byte-order mark. Throws `BAD_REQUEST` for an encoding that is not known. */
export function decodeBytes(
  bytes: Uint8Array,
  asked?: string,
): { buffer: Buffer; encoding: string; other?: FoundEncoding["other"] } {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const recode = (name: string): Buffer => Buffer.from(iconv.decode(buffer, name), "utf8");
  if (asked !== undefined) {
    if (!iconv.encodingExists(asked))
      throw new CorbixError("BAD_REQUEST", say().table.cannotReadFileSuchEncoding({ asked }), {
        where: "encoding",
        advice: say().table.nameSuchUtfWindowsIso(),
      });
    // Without its mark, where it has one.
    return { buffer: recode(asked), encoding: asked };
  }
  if (buffer[0] === 0xef && buffer[1] === 0xbb && buffer[2] === 0xbf)
    return { buffer: buffer.subarray(3), encoding: say().table.utfByteOrderMark() };
  if (buffer[0] === 0xff && buffer[1] === 0xfe) return { buffer: recode("utf16le"), encoding: "UTF-16LE" };
  if (buffer[0] === 0xfe && buffer[1] === 0xff) return { buffer: recode("utf16be"), encoding: "UTF-16BE" };
  const unmarked = unmarkedUtf16(buffer);
  if (unmarked) return { buffer: recode(unmarked), encoding: unmarked === "utf16le" ? "UTF-16LE" : "UTF-16BE" };
  // Zero bytes are in no text: nobody has to find out which letters they would make.
  if (isUtf8(buffer) || buffer.includes(0)) return { buffer, encoding: "UTF-8" };
  // Bytes that are no character become U+FFFD, by which their cells are found and named.
  if (damagedUtf8(buffer)) return { buffer: Buffer.from(buffer.toString("utf8")), encoding: "UTF-8" };
  const { encoding, ...rest } = detectEncoding(buffer.subarray(0, SAMPLE_BYTES));
  return { buffer: recode(encoding), encoding, ...rest };
}

/** UTF-16 without a mark shows as a zero in every other byte. */
function unmarkedUtf16(buffer: Buffer): "utf16le" | "utf16be" | undefined {
  const length = Math.min(buffer.length, 2000) & ~1;
  if (length < 16) return undefined;
  let [even, odd] = [0, 0];
  for (let at = 0; at < length; at += 2) {
    if (buffer[at] === 0) even++;
    if (buffer[at + 1] === 0) odd++;
  }
  if (odd > length * 0.35 && even === 0) return "utf16le";
  return even > length * 0.35 && odd === 0 ? "utf16be" : undefined;
}

/** Apostrophes quote where fields begin and end with them and never with quotation marks. */
function findQuote(sample: string): '"' | "'" {
  const count = (pattern: RegExp): number => sample.match(pattern)?.length ?? 0;
  const double = count(/(?:^|[,;\t|])"|"(?:[,;\t|]|\r?$)/gm);
  return double === 0 && count(/(?:^|[,;\t|])'[^'\n]*'(?=[,;\t|]|\r?$)/gm) >= 2 ? "'" : '"';
}

/** The delimiter that cuts most lines into the same number of fields, and one that does nearly so. */
function findDelimiter(sample: string, quote: string): { delimiter: string; other: string | undefined } {
  const lines = sampleLines(sample, quote).filter((line) => line.trim() !== "");
  const tried = DELIMITERS.map((delimiter) => {
    const counts = new Map<number, number>();
    for (const line of lines) {
      const fields = line.split(delimiter).length - 1;
      if (fields > 0) counts.set(fields, (counts.get(fields) ?? 0) + 1);
    }
    let [agree, fields] = [0, 0];
    for (const [count, times] of counts)
      if (times * 100 + Math.min(count, 50) > agree * 100 + Math.min(fields, 50)) [agree, fields] = [times, count];
    // Lines that agree weigh more than many delimiters; of two that agree alike, the one that cuts more wins.
    return { delimiter, agree, fields, score: agree * 100 + Math.min(fields, 50) };
  }).sort((a, b) => b.score - a.score);
  const [best, next] = tried;
  if (best.score === 0) return { delimiter: ",", other: undefined };
  const isNear = next.agree >= best.agree * 0.9 && next.fields >= best.fields * 0.6;
  return { delimiter: best.delimiter, other: isNear ? next.delimiter : undefined };
}

/** Lines with what stands in quotes taken out. */
function sampleLines(sample: string, quote: string): string[] {
  const plain = sample.replace(new RegExp(`${quote}[^${quote}]*${quote}`, "g"), "");
  return plain.split(/\r\n|\r|\n/).slice(0, 500);
}

/** A slot of the byte table that finds texts seen before without making a string of each. */
interface Slots {
  readonly indexes: Int32Array;
  readonly hashes: Int32Array;
}

class TextReader {
  private at = 0;
  private record = 0;
  /** For each text in the pool where its bytes first stood. */
  private readonly froms: number[] = [];
  private readonly lengths: number[] = [];
  private slots: Slots = { indexes: new Int32Array(1 << 12).fill(-1), hashes: new Int32Array(1 << 12) };

  constructor(
    private readonly buffer: Buffer,
    private readonly delimiter: number,
    private readonly quote: number,
    private readonly sheet: RawSheet,
  ) {}

  read(from: number): void {
    const { buffer, delimiter, quote } = this;
    const { length } = buffer;
    this.at = from;
    let hasRow = false;
    let column = 0;
    this.record = 1;
    while (this.at < length) {
      const start = this.at;
      let at = start;
      let hash = 0x811c9dc5 | 0;
      let end: number;
      let quoted: string | undefined;
      if (buffer[at] === quote) {
        quoted = this.quoted();
        at = this.at;
        end = at;
      } else {
        for (; at < length; at++) {
          const byte = buffer[at];
          if (byte === delimiter || byte === LF || byte === CR) break;
          hash = Math.imul(hash ^ byte, 0x01000193);
        }
        end = at;
      }
      if (quoted !== undefined ? quoted.trim() !== "" : end > start) {
        if (!hasRow) {
          this.sheet.startRow(this.record);
          hasRow = true;
        }
        if (column >= MAX_COLUMNS) throw this.tooWide();
        if (quoted !== undefined) this.putQuoted(column, quoted);
        else this.putField(column, start, end, hash);
      }
      if (at >= length) break;
      if (buffer[at] === delimiter) {
        column++;
        this.at = at + 1;
        continue;
      }
      this.at = buffer[at] === CR && buffer[at + 1] === LF ? at + 2 : at + 1;
      this.record++;
      column = 0;
      hasRow = false;
    }
  }

  /** At an opening quote: the field's text; afterwards `at` stands at its delimiter or line end. */
  private quoted(): string {
    const { buffer, quote } = this;
    let text = "";
    let from = this.at + 1;
    for (;;) {
      const close = buffer.indexOf(quote, from);
      if (close < 0) {
        throw new CorbixError("BAD_TABLE_FILE", say().table.cannotReadFileTableQuoted(), {
          where: say().table.line({ where: this.sheet.where, record: this.record }),
          advice: say().table.lookQuoteClosed(),
        });
      }
      text += buffer.toString("utf8", from, close);
      if (buffer[close + 1] === quote) {
        text += String.fromCharCode(quote);
        from = close + 2;
        continue;
      }
      // What stands between the closing quote and the delimiter belongs to the field: nothing is lost.
      let end = close + 1;
      while (end < buffer.length && buffer[end] !== this.delimiter && buffer[end] !== LF && buffer[end] !== CR) end++;
      this.at = end;
      return text + buffer.toString("utf8", close + 1, end);
    }
  }

  private putQuoted(column: number, text: string): void {
    const bytes = Buffer.from(text, "utf8");
    const plain = plainNumber(bytes, 0, bytes.length);
    if (plain) this.sheet.put(column, plain.kind, plain.number);
    else this.sheet.put(column, Kind.text, this.keep(text));
  }

  private readonly byText = new Map<string, number>();

  /** A text that was quoted; its bytes may stand nowhere in the file as they are. */
  private keep(text: string): number {
    let index = this.byText.get(text);
    if (index === undefined) {
      index = this.sheet.strings.length;
      this.sheet.strings.push(text);
      this.froms.push(-1);
      this.lengths.push(-1);
      this.byText.set(text, index);
    }
    return index;
  }

  private putField(column: number, from: number, to: number, hash: number): void {
    const { buffer, sheet } = this;
    const first = buffer[from];
    if ((first >= ZERO && first <= 57) || first === MINUS) {
      const plain = plainNumber(buffer, from, to);
      if (plain) {
        sheet.put(column, plain.kind, plain.number);
        return;
      }
    }
    if (first <= BLANK && buffer.toString("utf8", from, to).trim() === "") return;
    sheet.put(column, Kind.text, this.intern(from, to, hash));
  }

  private intern(from: number, to: number, hash: number): number {
    const { buffer, sheet } = this;
    const { indexes, hashes } = this.slots;
    const mask = indexes.length - 1;
    const length = to - from;
    let slot = (hash ^ (hash >>> 15)) & mask;
    for (;;) {
      const index = indexes[slot];
      if (index < 0) break;
      if (hashes[slot] === hash && this.lengths[index] === length) {
        const known = this.froms[index];
        let same = 0;
        while (same < length && buffer[known + same] === buffer[from + same]) same++;
        if (same === length) return index;
      }
      slot = (slot + 1) & mask;
    }
    const index = sheet.strings.length;
    sheet.strings.push(buffer.toString("utf8", from, to));
    this.froms[index] = from;
    this.lengths[index] = length;
    indexes[slot] = index;
    hashes[slot] = hash;
    if (++this.used * 2 > mask) this.grow();
    return index;
  }

  private used = 0;

  private grow(): void {
    const { indexes, hashes } = this.slots;
    const size = indexes.length * 4;
    const next: Slots = { indexes: new Int32Array(size).fill(-1), hashes: new Int32Array(size) };
    for (let at = 0; at < indexes.length; at++) {
      if (indexes[at] < 0) continue;
      let slot = (hashes[at] ^ (hashes[at] >>> 15)) & (size - 1);
      while (next.indexes[slot] >= 0) slot = (slot + 1) & (size - 1);
      next.indexes[slot] = indexes[at];
      next.hashes[slot] = hashes[at];
    }
    this.slots = next;
  }

  private tooWide(): CorbixError {
    return new CorbixError("LIMIT_EXCEEDED", say().table.cannotReadMoreColumns({ maxColumns: MAX_COLUMNS }), {
      where: say().table.line({ where: this.sheet.where, record: this.record }),
      advice: say().table.lookWhetherLineEndsRight(),
    });
  }
}

const PLAIN = { kind: 0, number: 0 };

/** A number in the plainest form, which its number and decimals give back exactly: `0`, `-12`, `92.50`. The result is reused. */
function plainNumber(buffer: Buffer, from: number, to: number): { kind: number; number: number } | undefined {
  let at = from;
  const isNegative = buffer[at] === MINUS;
  if (isNegative) at++;
  const digits = to - at;
  if (digits === 0 || digits > MAX_DIGITS + 1) return undefined;
  if (buffer[at] === ZERO && digits > 1 && buffer[at + 1] !== POINT) return undefined;
  let number = 0;
  let decimals = -1;
  let count = 0;
  for (; at < to; at++) {
    const digit = buffer[at] - ZERO;
    if (digit >= 0 && digit <= 9) {
      number = number * 10 + digit;
      count++;
      if (decimals >= 0) decimals++;
    } else if (buffer[at] === POINT && decimals < 0 && count > 0) decimals = 0;
    else return undefined;
  }
  if (decimals === 0 || count > MAX_DIGITS || (isNegative && number === 0)) return undefined;
  PLAIN.kind = Kind.plain + Math.max(decimals, 0);
  PLAIN.number = (isNegative ? -number : number) / POWERS[Math.max(decimals, 0)];
  return PLAIN;
}
