/** Which messages may go next, and who of theirs has had it already. Nothing is written: what begins is decided by `begin`. */
import { dayInZone } from "@corbix/core/calendar";
import { foldAddress } from "@corbix/core/recipients";
import type { Context } from "../process/context.js";
import {
  type BareMessage,
  forgottenRows,
  type HadRow,
  type MessageFile,
  type MessageParcel,
  type MessageRow,
  waitingRows,
} from "../records/index.js";

/** A message that may go, with all it is made of, and what is known of earlier deliveries of its occasion. */
export interface WaitingMessage {
  readonly message: BareMessage;
  readonly parcel: MessageParcel;
  readonly files: readonly MessageFile[];
  /** What no two messages of one statement that begins them may share, unless they are of one run. */
  readonly shared: string;
  readonly had: Had;
}

/** What the ledger knows of a message's occasion and group besides the message itself. */
export interface Had {
  /** Folded addresses that other runs have delivered to. */
  readonly byOthers: ReadonlySet<string>;
  /** Folded addresses that the same part was delivered to. */
  readonly byPart: ReadonlySet<string>;
  /** Whether the same part was delivered to everybody it went to. */
  readonly isComplete: boolean;
  /** Whether a row of it has gone out to the group before, where rows go out once. */
  readonly hasRows: boolean;
  /** The run that did, and the day. */
  readonly by: { readonly run: string; readonly day: string } | undefined;
}

export const NOTHING_HAD: Had = {
  byOthers: new Set(),
  byPart: new Set(),
  isComplete: false,
  hasRows: false,
  by: undefined,
};

/** `zone` decides the day on which it was had. */
export function hadOf(row: HadRow, zone: string): Had {
  return {
    byOthers: new Set(row.by_others?.filter(Boolean)),
    byPart: new Set(row.by_part?.filter(Boolean)),
    isComplete: row.complete ?? false,
    hasRows: row.has_rows,
    by: row.last_run && row.last_at ? { run: row.last_run, day: dayInZone(new Date(row.last_at), zone) } : undefined,
  };
}

/** Up to so many of an identity's waiting messages, the oldest first, besides those this process is at already. */
export async function waitingMessages(
  context: Context,
  identity: string,
  count: number,
  besides: Iterable<string>,
): Promise<WaitingMessage[]> {
  const rows = await waitingRows(context.database, identity, { count, now: context.now(), besides: [...besides] });
  return rows.map((row) => ({
    message: row,
    parcel: row.parcel,
    files: row.files,
    shared: row.shared,
    had: hadOf(row, context.settings.zone),
  }));
}

/**
 * Messages that the database has as begun by this process, which is at none of them: the connection broke before it could say so, and
 * nothing of them went out. `atThem` has to be gathered before this is asked.
 */
export function forgottenMessages(
  context: Context,
  identity: string,
  atThem: Iterable<string>,
): Promise<readonly BareMessage[]> {
  return forgottenRows(context.database, identity, context.process, [...atThem]);
}

/** Who is left to get a message. */
export interface Due {
  /** All addresses it goes to now, as they are written. */
  readonly addresses: readonly string[];
  /** Those of them that it is for, not copies. */
  readonly people: readonly string[];
  /** Whether somebody it goes to has had it before, so that it goes again by a person's word. */
  readonly isRepeat: boolean;
}

/**
 * Who is left: those whom no earlier try of the message has reached or been refused for, and, unless a person said again, who has
 * not had it for its occasion. Copies go along where the people get it.
 */
export function dueOf(message: Pick<MessageRow, "envelope" | "results">, had: Had, isAgain: boolean): Due {
  const { to, cc, bcc } = message.envelope;
  const done = new Set(
    Object.entries(message.results).flatMap(([address, one]) => (one.state === "later" ? [] : [foldAddress(address)])),
  );
  const left = (address: string): boolean => !done.has(foldAddress(address));
  const wasHad = (address: string): boolean =>
    had.byOthers.has(foldAddress(address)) || had.byPart.has(foldAddress(address));
  const people = unique(to.map((one) => one.address)).filter(left);
  const named = new Set(people.map(foldAddress));
  const copies = unique([...cc, ...bcc].map((one) => one.address)).filter(
    (address) => left(address) && !named.has(foldAddress(address)),
  );
  if (isAgain)
    return { addresses: [...people, ...copies], people, isRepeat: [...people, ...copies].some(wasHad) || had.hasRows };
  if (had.isComplete || had.hasRows) return { addresses: [], people: [], isRepeat: false };
  const duePeople = people.filter((address) => !wasHad(address));
  const hadPart = had.byPart.size > 0;
  // A part that is new, all of whose people were reached by another one, such as in another language, is no news to copies either.
  const isNews = duePeople.length > 0 || hadPart || people.length === 0;
  const dueCopies = isNews ? copies.filter((address) => !had.byPart.has(foldAddress(address))) : [];
  return { addresses: [...duePeople, ...dueCopies], people: duePeople, isRepeat: false };
}

function unique(addresses: readonly string[]): string[] {
  return [...new Map(addresses.map((address) => [foldAddress(address), address])).values()];
}
