import chardet from "chardet";
import { parse } from "csv-parse/sync";
import iconv from "iconv-lite";
import { CorbixError } from "../common/index.js";
import type { RawRow, RawSheet } from "./raw-rows.js";

const DELIMITERS = [",", ";", "\t", "|"] as const;
const DELIMITER_NAMES: Readonly<Record<string, string>> = {
  ",": "comma",
  ";": "semicolon",
  "\t": "tabulator",
  "|": "bar",
};
/** So many bytes are looked at to tell encoding and delimiter. */
const SAMPLE_BYTES = 200_000;

/** The records of a text file; encoding and delimiter are told by its content. Throws `BAD_TABLE_FILE`. */
export function readCsv(bytes: Uint8Array, where: string): RawSheet {
  const { text, encoding } = decodeText(bytes);
  if (text.includes("\u0000")) {
    throw new CorbixError("BAD_TABLE_FILE", "Cannot read the file as a table: it holds zero bytes, so it is no text.", {
      where,
      advice: "Give a workbook (.xlsx) or a text file (.csv).",
    });
  }
  const delimiter = findDelimiter(text);
  let records: string[][];
  try {
    records = parse(text, {
      delimiter,
      bom: true,
      relaxColumnCount: true,
      relaxQuotes: true,
      skipEmptyLines: false,
    }) as string[][];
  } catch (cause) {
    const line = (cause as { lines?: number }).lines;
    throw new CorbixError("BAD_TABLE_FILE", `Cannot read the file as a table: ${(cause as Error).message}.`, {
      where: line === undefined ? where : `${where}, line ${line}`,
      advice: "Look for a quote that is not closed.",
      cause,
    });
  }
  const rows = records.map(
    (cells, index): RawRow => ({
      number: index + 1,
      cells: cells.map((value) => (value === "" ? undefined : { value })),
    }),
  );
  return {
    where,
    rows: rows.filter((row) => row.cells.some(Boolean)),
    reading: { kind: "text", encoding, delimiter: DELIMITER_NAMES[delimiter] },
  };
}

function decodeText(bytes: Uint8Array): { text: string; encoding: string } {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (buffer[0] === 0xff && buffer[1] === 0xfe) return { text: iconv.decode(buffer, "utf16le"), encoding: "UTF-16LE" };
  if (buffer[0] === 0xfe && buffer[1] === 0xff) return { text: iconv.decode(buffer, "utf16be"), encoding: "UTF-16BE" };
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes), encoding: "UTF-8" };
  } catch {
    const guess = chardet.detect(buffer.subarray(0, SAMPLE_BYTES)) ?? "windows-1252";
    // Latin-1 and its Windows relative differ only where Windows has letters and quotes.
    const encoding =
      /8859-1$/.test(guess) || !iconv.encodingExists(guess) || guess === "UTF-8" ? "windows-1252" : guess;
    return { text: iconv.decode(buffer, encoding), encoding };
  }
}

/** The delimiter that splits most lines into the same number of fields, more than one. */
function findDelimiter(text: string): string {
  const sample = text.slice(0, SAMPLE_BYTES).split(/\r?\n/).slice(0, 60);
  let best = { delimiter: ",", score: 0 };
  for (const delimiter of DELIMITERS) {
    const counts = new Map<number, number>();
    for (const line of sample) {
      const fields = line.replace(/"[^"]*"/g, "").split(delimiter).length;
      if (fields > 1) counts.set(fields, (counts.get(fields) ?? 0) + 1);
    }
    for (const [fields, lines] of counts) {
      const score = lines * Math.log(fields + 1);
      if (score > best.score) best = { delimiter, score };
    }
  }
  return best.delimiter;
}
