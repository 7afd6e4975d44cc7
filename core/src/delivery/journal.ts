/** The journal of what left: lines that are only added to, kept outside the database, each with a digest of its own. */
import { sha256 } from "../common/index.js";

/** The first line of a journal's file: whose it is. */
export interface JournalHead {
  readonly kind: "journal";
  /** The database that it belongs to. */
  readonly installation: string;
  readonly process: string;
  readonly at: string;
}

/** Written down, and flushed, before the first byte of a message goes out. */
export interface JournalBegin {
  readonly kind: "begin";
  readonly at: string;
  readonly process: string;
  /** Of the message in the database that it was sent from. */
  readonly id: string;
  readonly run: string;
  /** Its Message-ID; with the run it tells which message it was, in any database. */
  readonly message: string;
  readonly attempt: number;
  readonly report: string;
  readonly occasion: string;
  readonly group: string;
  readonly label: string;
  readonly part: string;
  /** Whether it counts as a delivery; rehearsals do not. */
  readonly counts: boolean;
  /** Folded addresses. */
  readonly to: readonly string[];
  /** Keys of its rows, where each goes out once. */
  readonly rows?: readonly string[];
}

/** What became of it, as far as its process could tell. */
export interface JournalEnd {
  readonly kind: "end";
  readonly at: string;
  readonly run: string;
  readonly message: string;
  readonly attempt: number;
  readonly outcome: "sent" | "refused" | "later" | "unsure";
  readonly stage: string;
  readonly response: string;
  /** Folded addresses that it was taken for. */
  readonly taken: readonly string[];
}

export type JournalEntry = JournalHead | JournalBegin | JournalEnd;

/** Signs of the digest that a line begins with. */
const DIGEST_SIGNS = 16;
const NEWLINE = 10;

/** A line of the journal, with its end. */
export function journalLine(entry: JournalEntry): string {
  const text = JSON.stringify(entry);
  return `${sha256(text).slice(0, DIGEST_SIGNS)} ${text}\n`;
}

export interface ReadLine {
  /** `undefined` where the line is not what its digest says. */
  readonly entry: JournalEntry | undefined;
  /** In bytes, of the line without its end. */
  readonly start: number;
  readonly end: number;
}

/**
 * Lines of a journal's bytes. What stands behind the last end of a line was being written when its process ended: it was not flushed,
 * so nothing of it went out, and it is left out.
 */
export function* readJournal(bytes: Uint8Array): Generator<ReadLine> {
  const decoder = new TextDecoder();
  for (let start = 0; ; ) {
    const end = bytes.indexOf(NEWLINE, start);
    if (end < 0) return;
    yield { entry: entryOf(decoder.decode(bytes.subarray(start, end))), start, end };
    start = end + 1;
  }
}

function entryOf(line: string): JournalEntry | undefined {
  const text = line.slice(DIGEST_SIGNS + 1);
  if (line[DIGEST_SIGNS] !== " " || sha256(text).slice(0, DIGEST_SIGNS) !== line.slice(0, DIGEST_SIGNS))
    return undefined;
  return JSON.parse(text) as JournalEntry;
}

/**
 * The line of an entry of which addresses and answers that name somebody are stars, so many that the line is as long as it was.
 * Whoever reads it takes a starred address as somebody who may have been reached. `undefined` where it names nobody.
 */
export function starredLine(entry: JournalEntry, isNamed: (text: string) => boolean): string | undefined {
  if (entry.kind === "journal") return undefined;
  const starred = (text: string): string => (isNamed(text) ? STAR.repeat(writtenLength(text)) : text);
  const other: JournalEntry =
    entry.kind === "begin"
      ? { ...entry, to: entry.to.map(starred) }
      : { ...entry, taken: entry.taken.map(starred), response: starred(entry.response) };
  const line = journalLine(other).slice(0, -1);
  return line === journalLine(entry).slice(0, -1) ? undefined : line;
}

const STAR = "*";

/** Bytes that a text takes within JSON. */
function writtenLength(text: string): number {
  return new TextEncoder().encode(JSON.stringify(text)).length - 2;
}

/** Whether an address was made to name nobody. */
export function isStarred(address: string): boolean {
  return /^\*+$/.test(address);
}

/** What a journal tells of one message. */
export interface LeftMessage {
  /** Of the last time it was begun. */
  readonly begin: JournalBegin;
  readonly attempts: readonly { readonly begin: JournalBegin; readonly end: JournalEnd | undefined }[];
  /** Folded addresses that a server took it for. */
  readonly reached: readonly string[];
  /** Folded addresses of which nobody can know. */
  readonly maybe: readonly string[];
  /** `none`: certainly taken for nobody. */
  readonly became: "sent" | "unsure" | "none";
}

/** What is known of a message in any database: the run that made it, and its Message-ID. */
export function leftKey({ run, message }: { readonly run: string; readonly message: string }): string {
  return `${run} ${message}`;
}

/** Messages that a journal tells of, by their keys: what is known of all their attempts together. */
export function leftMessages(entries: Iterable<JournalEntry>): Map<string, LeftMessage> {
  const begun = new Map<string, { begin: JournalBegin; end: JournalEnd | undefined }[]>();
  for (const entry of entries) {
    if (entry.kind === "journal") continue;
    const key = leftKey(entry);
    if (entry.kind === "begin") begun.set(key, [...(begun.get(key) ?? []), { begin: entry, end: undefined }]);
    else {
      const own = begun.get(key)?.findLast(({ begin }) => begin.attempt === entry.attempt);
      if (own) own.end = entry;
    }
  }
  return new Map([...begun].map(([key, attempts]) => [key, leftMessage(attempts)]));
}

function leftMessage(attempts: LeftMessage["attempts"]): LeftMessage {
  const reached = new Set(attempts.flatMap(({ end }) => end?.taken ?? []));
  const unknown = attempts.filter(({ end }) => end === undefined || end.outcome === "unsure");
  const maybe = new Set(unknown.flatMap(({ begin }) => begin.to).filter((address) => !reached.has(address)));
  const { begin } = attempts[attempts.length - 1] as LeftMessage["attempts"][number];
  return {
    begin,
    attempts,
    reached: [...reached],
    maybe: [...maybe],
    became: maybe.size > 0 ? "unsure" : reached.size > 0 ? "sent" : "none",
  };
}
