/** Everything that is known of a person, place by place: what it says, whether something keeps it, and how it is erased. */
import { groupedBy } from "@corbix/core/common";
import { PIECE_ROWS, rowsWithText, withTexts } from "@corbix/core/edition";
import { isoCell } from "@corbix/core/grid";
import type { PersonWords } from "@corbix/core/person";
import type { Recipient } from "@corbix/core/recipients";
import { say } from "@corbix/core/words";
import { journalNaming } from "../journal/naming.js";
import { entriesWithout, takePersonOut } from "../library/recipient-list.js";
import type { Context } from "../process/context.js";
import {
  countActor,
  deleteRow,
  editionsUnderWay,
  eraseFromTrail,
  filesOfPerson,
  getEdition,
  listedUser,
  newestRecipients,
  oldLists,
  type PersonFile,
  type PersonRow,
  PLACES,
  type Place,
  type PlaceName,
  piecesOfEditions,
  readEdition,
  removeFiles,
  renamePerson,
  rewriteList,
  rewritePieces,
  rewriteRow,
  rowsOfPlace,
  type TextPiece,
  trailNaming,
} from "../records/index.js";

/** Where something stands: a table's place, or one of those that are looked through in their own way. */
export type KnownPlace = PlaceName | "list" | "oldLists" | "rows" | "files" | "actors" | "trail" | "journal";

/** One thing that names the person. */
export interface Known {
  readonly place: KnownPlace;
  /** What it is, in words. */
  readonly label: string;
  /** How many it stands for, such as rows. */
  readonly count: number;
  /** What it says, for who asked to have it. */
  readonly holds: () => unknown;
  /** Of a file its bytes. */
  readonly file?: Pick<PersonFile, "path" | "sha256" | "size" | "run" | "label">;
  /** Why it stays, if it does. */
  readonly kept: string | null;
  /** Takes the person out of it. */
  readonly erase: (() => Promise<void>) | null;
}

export interface Person {
  readonly words: PersonWords;
  /** Names that they sign in with, where they do: what they did stands under these. */
  readonly names: readonly string[];
  /** What stands in place of them. */
  readonly standIn: string;
}

/** Rows that are told whole. */
const TOLD_ROWS = 10_000;
/** Rows that are looked at before others have their turn. */
const ROWS_A_BREATH = 50;
/** Parcels whose files are asked for at a time. */
const PARCELS_AT_ONCE = 500;

/** Lets the service answer others between. */
const breathe = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Looks through everything. `by`: who would erase. */
export async function* knownOf(context: Context, person: Person, by: string): AsyncGenerator<Known> {
  yield* inLists(context, person, by);
  yield* inEditions(context, person);
  const parcels = new Set<string>();
  for (const [name, place] of Object.entries(PLACES) as [PlaceName, Place][]) {
    if (name === "people") {
      yield* inPeople(context, person);
      continue;
    }
    let at = 0;
    for await (const row of rowsOfPlace(context.database, place, person.words)) {
      if (++at % ROWS_A_BREATH === 0) await breathe();
      const found = inRow(context, person, name, place, row);
      if (!found) continue;
      if (name === "parcels" || name === "furtherLines") parcels.add(row.key[0] ?? "");
      yield found;
    }
  }
  yield* inFiles(context, [...parcels]);
  yield* inTrail(context, person);
  yield* inJournal(context, person);
}

async function* inLists(context: Context, { words }: Person, by: string): AsyncGenerator<Known> {
  const newest = await newestRecipients(context.database);
  for (const entry of (newest?.recipients ?? []).filter(words.isWithin))
    yield {
      place: "list",
      label: `${entry.group}: ${entry.name}`,
      count: 1,
      holds: () => entry,
      kept: null,
      erase: async () => {
        await takePersonOut(context, words, by);
        // What was the newest until now is a version of before.
        for await (const old of oldLists(context.database))
          if (!old.isUsed && words.isWithin(old.recipients)) await eraseFromList(context, words, old);
      },
    };
  for await (const { id, recipients, isUsed, createdAt } of oldLists(context.database)) {
    const own = recipients.filter(words.isWithin);
    if (own.length === 0) continue;
    yield {
      place: "oldLists",
      label: say().servicePerson.version({ id, on: createdAt.toISOString().slice(0, 10) }),
      count: own.length,
      holds: () => own,
      kept: isUsed ? say().servicePerson.runsUnderWay() : null,
      erase: isUsed ? null : () => eraseFromList(context, words, { id, recipients }),
    };
  }
}

function eraseFromList(
  context: Context,
  words: PersonWords,
  { id, recipients }: { readonly id: number; readonly recipients: readonly object[] },
): Promise<void> {
  return rewriteList(context.database, id, entriesWithout(recipients as readonly Recipient[], words));
}

async function* inEditions(context: Context, { words }: Person): AsyncGenerator<Known> {
  const used = await editionsUnderWay(context.database);
  for await (const pieces of piecesOfEditions(context.database)) {
    const found: (TextPiece & { readonly rows: readonly number[] })[] = [];
    for (const piece of pieces) {
      const rows = rowsWithText(piece.data, words.isIn);
      if (rows.length > 0) found.push({ ...piece, rows });
      await breathe();
    }
    const [first] = found;
    if (!first) continue;
    const { dataset, number, edition } = first;
    const kept = used.has(`${dataset} ${number}`) ? say().servicePerson.runsUnderWay() : null;
    const rows = groupedBy(found, ({ piece }) => piece);
    const places = [...rows].map(([piece, own]) => ({ piece, rows: [...new Set(own.flatMap((one) => one.rows))] }));
    const columns = [...new Set(found.map(({ column }) => column))].join(", ");
    yield {
      place: "rows",
      label: say().servicePerson.column({ dataset, edition: number, column: columns }),
      count: places.reduce((sum, one) => sum + one.rows.length, 0),
      holds: () => wholeRows(context, dataset, number, places),
      kept,
      erase: kept === null ? () => rewritePieces(context.database, edition, rewritten(found, words)) : null,
    };
  }
}

function rewritten(pieces: readonly TextPiece[], { without }: PersonWords) {
  return pieces.flatMap(({ columnNumber, piece, data }) => {
    const other = withTexts(data, without);
    return other ? [{ columnNumber, piece, ...other }] : [];
  });
}

/** Rows by their places in an edition, each by its columns. */
async function wholeRows(
  context: Context,
  dataset: string,
  number: number,
  places: readonly { readonly piece: number; readonly rows: readonly number[] }[],
): Promise<object[]> {
  const edition = await getEdition(context.database, dataset, number);
  const told: object[] = [];
  for (const { piece, rows } of places) {
    if (told.length >= TOLD_ROWS) break;
    const table = await readEdition(context.database, edition, { first: piece * PIECE_ROWS, count: PIECE_ROWS });
    for (const at of rows)
      told.push({
        row: table.rowNumbers[at],
        ...Object.fromEntries(table.columns.map(({ name, type, values }) => [name, isoCell(type, values[at] ?? null)])),
      });
  }
  return told;
}

/** A row of a table, where its words name the person. */
function inRow(context: Context, { words }: Person, name: PlaceName, place: Place, row: PersonRow): Known | undefined {
  const named = Object.keys(place.columns).filter((column) => words.isWithin(row.values[column]));
  if (named.length === 0) return undefined;
  const kept = whyKept(context, place, row);
  const { database } = context;
  const change = async (): Promise<void> => {
    const values = Object.entries(place.columns).flatMap(([column, how]): [string, unknown][] => {
      if (how === "blank") return [[column, ""]];
      return named.includes(column) ? [[column, words.withoutAll(row.values[column])]] : [];
    });
    await rewriteRow(database, place, row, Object.fromEntries(values));
  };
  return {
    place: name,
    label: row.label,
    count: 1,
    holds: () =>
      Object.fromEntries(Object.entries(row.values).filter(([column]) => toldColumns(place, named).has(column))),
    kept,
    erase: kept !== null ? null : place.how === "delete" ? () => deleteRow(database, place, row) : change,
  };
}

/** A message is told with its words; of other things what names the person. */
function toldColumns(place: Place, named: readonly string[]): ReadonlySet<string> {
  const whole = Object.entries(place.columns).filter(([, how]) => how === "blank" || how === "text");
  return new Set([...named, ...whole.map(([column]) => column)]);
}

const OVER = new Set(["done", "stopped", "failed"]);

function whyKept(context: Context, place: Place, row: PersonRow): string | null {
  if (place.how === "told") return say().servicePerson.byHand();
  if (place.how === "ledger") return say().servicePerson.ledgerStays();
  return row.run === null ? null : whyRunKept(context, row.run, row.runState, row.finishedAt);
}

function whyRunKept(context: Context, run: string, state: string | null, finishedAt: Date | null): string | null {
  if (state !== null && !OVER.has(state)) return say().servicePerson.underWay({ run });
  const until = finishedAt && monthsAfter(finishedAt, context.settings.keepSentMonths);
  return until && until > context.now() ? say().servicePerson.sentUntil({ until: dayOf(until) }) : null;
}

function monthsAfter(at: Date, months: number): Date {
  const after = new Date(at);
  after.setUTCMonth(after.getUTCMonth() + months);
  return after;
}

function dayOf(at: Date): string {
  return at.toISOString().slice(0, 10);
}

/** Somebody who signs in, and everywhere that they did something. */
async function* inPeople(context: Context, { words, standIn }: Person): AsyncGenerator<Known> {
  for await (const row of rowsOfPlace(context.database, PLACES.people, words)) {
    if (!words.isWithin(row.values)) continue;
    const name = String(row.values.name);
    const user = await listedUser(context.database, name);
    if (!user) continue;
    const isOff = user.state === "off";
    const count = await countActor(context.database, name);
    const { id: _, ...holds } = user;
    yield {
      place: "people",
      label: name,
      count: 1,
      holds: () => holds,
      kept: isOff ? null : say().servicePerson.switchOffFirst(),
      erase: isOff ? () => renamePerson(context.database, user, standIn) : null,
    };
    if (count > 0)
      yield {
        place: "actors",
        label: name,
        count,
        holds: () => ({ name, count }),
        kept: isOff ? null : say().servicePerson.withThePerson(),
        erase: isOff ? async () => {} : null,
      };
  }
}

/** Files of groups whose rows or recipients name the person. */
async function* inFiles(context: Context, parcels: readonly string[]): AsyncGenerator<Known> {
  for (let first = 0; first < parcels.length; first += PARCELS_AT_ONCE)
    for (const file of await filesOfPerson(context.database, parcels.slice(first, first + PARCELS_AT_ONCE))) {
      const { id, run, label, path, sha256, size } = file;
      const grows = Boolean(file.definition.files[file.file]?.grows) && ["docx", "pptx"].includes(file.kind);
      const kept = grows ? say().servicePerson.grows() : whyRunKept(context, run, file.runState, file.finishedAt);
      yield {
        place: "files",
        label: `${run}, ${path}`,
        count: 1,
        holds: () => ({ run, group: label, path, sha256, size }),
        file: { run, label, path, sha256, size },
        kept,
        erase: kept === null ? () => removeFiles(context.database, [id], context.now()) : null,
      };
    }
}

async function* inTrail(context: Context, { words, names, standIn }: Person): AsyncGenerator<Known> {
  const isOwn = (text: string): boolean => names.includes(text);
  const without = (text: string): string => (isOwn(text) ? standIn : words.without(text));
  for (const entry of await trailNaming(context.database, words.words, names)) {
    const { id, at, who, what, subject, facts, calledFrom, form } = entry;
    if (!isOwn(who) && !isOwn(subject) && !words.isWithin([who, subject, facts])) continue;
    const until = monthsAfter(at, context.settings.keepTrailMonths);
    const tooYoung = until > context.now() ? say().servicePerson.trailUntil({ until: dayOf(until) }) : null;
    const kept = tooYoung ?? (form === 1 ? say().servicePerson.trailOld() : null);
    const other = { id, who: without(who), subject: without(subject), facts: words.withoutAll(facts) };
    yield {
      place: "trail",
      label: say().servicePerson.entry({ id, what }),
      count: 1,
      holds: () => ({ id, at, who, what, subject, facts, from: calledFrom }),
      kept,
      erase: kept === null ? () => eraseFromTrail(context.database, other) : null,
    };
  }
}

/** What left, as it is told outside the database: a file at a time. */
async function* inJournal(context: Context, { words }: Person): AsyncGenerator<Known> {
  for await (const { name, entries, star } of journalNaming(context, words.isIn)) {
    yield {
      place: "journal",
      label: name,
      count: entries.length,
      holds: () => entries,
      kept: null,
      erase: star,
    };
    await breathe();
  }
}
