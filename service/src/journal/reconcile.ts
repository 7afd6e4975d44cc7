/**
 * Holds the journal of what left against the database. Whatever the journal has and the database does not, left before the database
 * was set back: it is written down, and nothing leaves by itself until a person has looked.
 */
import { join } from "node:path";
import {
  isStarred,
  type JournalBegin,
  type JournalEntry,
  type LeftMessage,
  leftKey,
  leftMessages,
  readJournal,
} from "@corbix/core/delivery";
import { foldAddress } from "@corbix/core/recipients";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  type AddressResult,
  addFound,
  addFoundAttempts,
  addHalt,
  endAttempts,
  type FoundMessage,
  type HaltWhy,
  installationId,
  isHalted,
  type JournalFileRow,
  type LeftVerdict,
  leapNumbers,
  lockJournalFiles,
  messagesOfBegins,
  noteJournalFile,
  openHalt,
  settleLeft,
  type Transaction,
  unheardMessages,
  unknownBegins,
} from "../records/index.js";
import { tell } from "../tell/notices.js";
import { JOURNAL_FOLDER, journalFiles, journalSize, readJournalFile } from "./journal.js";

export interface Reconciled {
  /** Messages that the database did not know as begun. */
  readonly found: number;
  readonly sent: number;
  readonly unsure: number;
  /** The halt that this began, or went on with. */
  readonly halt: string | undefined;
}

interface NewLines {
  readonly entries: JournalEntry[];
  /** Files with lines that are not what their digest says, or that are shorter than they were. */
  readonly damaged: string[];
  /** Files of another database. */
  readonly foreign: string[];
}

/** Does it for all lines that are new since it was done last, in one transaction; called when a process begins that may send. */
export async function reconcile(context: Context): Promise<Reconciled> {
  const { database } = context;
  const done = await database.transaction(async (transaction) => {
    const lines = await readNewLines(context, transaction);
    const begins = lines.entries.filter((entry) => entry.kind === "begin");
    const unknown = await unknownBegins(database, begins, transaction);
    const halt = async (why: HaltWhy, facts: object): Promise<string> =>
      addHalt(database, { why, facts, by: "corbix", at: context.now() }, transaction);
    let id: string | undefined;
    if (lines.foreign.length > 0) id = await halt("other-journal", { files: lines.foreign });
    if (lines.damaged.length > 0) id = await halt("damaged-journal", { files: lines.damaged });
    const left = unknown.length > 0 ? leftOf(lines.entries, unknown) : [];
    if (unknown.length > 0) {
      const times = unknown.map(({ at }) => at).sort();
      // After a restoring that is expected, and its halt tells it.
      const restored = await openHalt(database, "restored", transaction);
      id = restored ?? (await halt("gone-back", { from: times[0], to: times.at(-1), attempts: unknown.length }));
      await writeLeft(context, id, left, transaction);
      await leapNumbers(database, transaction);
    }
    return { id, left };
  });
  const of = (became: LeftMessage["became"]): number => done.left.filter((one) => one.became === became).length;
  const result = { found: done.left.length, sent: of("sent"), unsure: of("unsure"), halt: done.id };
  if (done.id !== undefined) await tellHalt(context, result);
  return result;
}

async function tellHalt(context: Context, { halt, sent, unsure }: Reconciled): Promise<void> {
  const { database } = context;
  context.log.warn({ halt, sent, unsure }, "sending is halted: the journal tells what the database does not know");
  await noteAction(database, "corbix", "sending halted", halt ?? "", { sent, unsure });
  await tell(context, {
    kind: "halted",
    what: say().serviceJournal.halted({ sent, unsure }),
    advice: say().serviceJournal.lookThenGoOn(),
  });
  await announce(database, { kind: "anything", subject: "halt" });
}

/** Lines that were not held against this database yet; how far each file was read is written down. */
async function readNewLines(context: Context, transaction: Transaction): Promise<NewLines> {
  const { database } = context;
  const folder = join(context.settings.data, JOURNAL_FOLDER);
  const known = await lockJournalFiles(database, transaction);
  const installation = await installationId(database);
  const lines: NewLines = { entries: [], damaged: [], foreign: [] };
  for (const name of await journalFiles(folder)) {
    const file = known.get(name) ?? { name, readTo: 0, isForeign: false };
    const size = await journalSize(folder, name);
    if (file.isForeign || size === file.readTo) continue;
    const next = readNew(await readJournalFile(folder, name), file, installation, lines);
    await noteJournalFile(database, next, context.now(), transaction);
  }
  return lines;
}

function readNew(bytes: Buffer, file: JournalFileRow, installation: string, lines: NewLines): JournalFileRow {
  const [head] = readJournal(bytes);
  if (head?.entry?.kind === "journal" && head.entry.installation !== installation) {
    lines.foreign.push(file.name);
    return { ...file, readTo: bytes.length, isForeign: true };
  }
  if (bytes.length < file.readTo) {
    lines.damaged.push(file.name);
    return { ...file, readTo: bytes.length };
  }
  let readTo = file.readTo;
  let isDamaged = false;
  for (const { entry, end } of readJournal(bytes.subarray(file.readTo))) {
    readTo = file.readTo + end + 1;
    if (entry) lines.entries.push(entry);
    else isDamaged = true;
  }
  if (isDamaged) lines.damaged.push(file.name);
  return { ...file, readTo };
}

/** What the journal tells of the messages that the database lacks attempts of: of those attempts alone, since it knows the others. */
function leftOf(entries: readonly JournalEntry[], unknown: readonly JournalBegin[]): LeftMessage[] {
  const own = new Set(unknown.map((one) => `${leftKey(one)} ${one.attempt}`));
  return [
    ...leftMessages(
      entries.filter((one) => one.kind !== "journal" && own.has(`${leftKey(one)} ${one.attempt}`)),
    ).values(),
  ];
}

async function writeLeft(
  { database }: Context,
  halt: string,
  all: readonly LeftMessage[],
  transaction: Transaction,
): Promise<void> {
  const messages = await messagesOfBegins(
    database,
    all.map(({ begin }) => begin),
    transaction,
  );
  const pairs = all.map((left, place) => ({ left, message: messages.get(place) }));
  const known = pairs.flatMap(({ left, message }) => (message ? [{ left, message }] : []));
  await addFoundAttempts(database, known.flatMap(attemptsOf), transaction);
  const told = pairs.filter(({ left }) => left.became !== "none");
  await settleLeft(
    database,
    told.flatMap(({ left, message }) => (message ? [verdictOf(left, message)] : [])),
    transaction,
  );
  await addFound(
    database,
    halt,
    told.map(({ left, message }) => ({
      left,
      message: message?.id ?? null,
      addresses: message ? verdictOf(left, message).addresses : [...left.reached, ...left.maybe],
    })),
    transaction,
  );
}

function attemptsOf({ left, message }: { readonly left: LeftMessage; readonly message: FoundMessage }) {
  return left.attempts.map(({ begin, end }) => ({
    message: message.id,
    number: begin.attempt,
    worker: begin.process,
    identity: null,
    startedAt: begin.at,
    finishedAt: end?.at ?? null,
    outcome: end?.outcome ?? "unsure",
    stage: end?.stage ?? null,
    response: end ? say().serviceJournal.toldByJournal({ response: end.response }) : say().serviceJournal.endUnknown(),
  }));
}

/** What becomes of a message that the database has, by what the journal tells of it. */
function verdictOf(left: LeftMessage, message: Pick<FoundMessage, "id" | "results" | "envelope">): LeftVerdict {
  const { to, cc, bcc } = message.envelope;
  const written = new Map([...to, ...cc, ...bcc].map(({ address }) => [foldAddress(address), address]));
  // An address that was erased from the journal may be any of those that it names no more.
  const named = new Set([...left.reached, ...left.maybe]);
  const maybe = [...named].some(isStarred)
    ? [...left.maybe, ...[...written.keys()].filter((folded) => !named.has(folded))]
    : left.maybe;
  const state = maybe.length > 0 ? "unsure" : "sent";
  const last = left.attempts.findLast(({ end }) => end !== undefined)?.end;
  const results: Record<string, AddressResult> = { ...message.results };
  for (const folded of left.reached)
    if (!isStarred(folded))
      results[written.get(folded) ?? folded] = {
        state: "taken",
        response: say().serviceJournal.toldByJournal({ response: last?.response ?? "" }),
      };
  const addresses = [...left.reached, ...maybe].filter((folded) => !isStarred(folded));
  const isAll = [...written].every(
    ([folded, address]) => left.reached.includes(folded) || message.results[address]?.state === "taken",
  );
  return {
    id: message.id,
    state,
    response:
      state === "sent"
        ? say().serviceJournal.toldByJournal({ response: last?.response ?? "" })
        : say().serviceJournal.endUnknown(),
    results,
    addresses,
    complete: state === "unsure" || isAll,
    counts: left.begin.counts,
    number: left.begin.attempt,
    at: last?.at ?? left.begin.at,
  };
}

/**
 * Messages whose process ended before it could write down what became of them are unsure, unless the journal has heard the end: then
 * they are what it tells. Gives the runs of those.
 */
export async function settleUnheard(context: Context): Promise<string[]> {
  const { database } = context;
  const unheard = await unheardMessages(database);
  if (unheard.length === 0) return [];
  const folder = join(context.settings.data, JOURNAL_FOLDER);
  const workers = new Set(unheard.map(({ worker }) => worker));
  const entries: JournalEntry[] = [];
  for (const name of await journalFiles(folder))
    if ([...workers].some((worker) => name.includes(worker)))
      for (const { entry } of readJournal(await readJournalFile(folder, name))) if (entry) entries.push(entry);
  const numbers = new Map(unheard.map((one) => [leftKey({ run: one.run, message: one.mail }), one.number]));
  const told = leftMessages(
    entries.filter((one) => one.kind !== "journal" && numbers.get(leftKey(one)) === one.attempt),
  );
  const heard = unheard.flatMap((message) => {
    const left = told.get(leftKey({ run: message.run, message: message.mail }));
    const end = left?.attempts.at(-1)?.end;
    return left && end && left.became === "sent" ? [{ message, left, end }] : [];
  });
  if (heard.length === 0) return [];
  await database.transaction(async (transaction) => {
    await settleLeft(
      database,
      heard.map(({ left, message }) => verdictOf(left, message)),
      transaction,
    );
    await endAttempts(
      database,
      heard.map(({ message, end }) => ({
        message: message.id,
        number: message.number,
        at: end.at,
        outcome: end.outcome,
        stage: end.stage,
        response: say().serviceJournal.toldByJournal({ response: end.response }),
      })),
      transaction,
    );
  });
  return [...new Set(heard.map(({ message }) => message.run))];
}

/** Whether nothing may leave by itself, nor be started by a time. */
export function mayLeave({ database }: Pick<Context, "database">): Promise<boolean> {
  return isHalted(database).then((halted) => !halted);
}
