/** A person's word about messages: what nobody can know, what shall go again, what shall not go. */

import { CorbixError } from "@corbix/core/common";
import { fromStates, MESSAGE_MACHINE, type MessageState, RUN_MACHINE } from "@corbix/core/delivery";
import { type Envelope, messageId } from "@corbix/core/message";
import { addressFault, foldAddress } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import { getReportVersion } from "../library/definitions.js";
import type { Correction } from "../library/recipient-list.js";
import { getIdentity, mayReceive } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import {
  type AddressResult,
  addQueued,
  keepReached,
  leaveOut,
  lockMessage,
  lockRun,
  type MessageRow,
  nextAgain,
  openSibling,
  type RunRow,
  requeueMessage,
  runOfMessage,
  setArrived,
  setPaused,
  setReopened,
  type Transaction,
  wasDelivered,
} from "../records/index.js";
import { notDomain } from "../run/delivery-checks.js";
import { knownGroups } from "../run/known-groups.js";
import { finishRun } from "../run/release.js";

/** A message with its run, both locked: the run first, as everybody does. */
interface Locked {
  readonly message: Omit<MessageRow, "mime">;
  readonly run: RunRow;
  readonly report: Report;
  readonly transaction: Transaction;
}

async function withMessage<T>(context: Context, id: string, work: (locked: Locked) => Promise<T>): Promise<T> {
  const { database } = context;
  return database.transaction(async (transaction) => {
    const owner = await runOfMessage(database, id, transaction);
    if (owner === undefined)
      throw new CorbixError("NOT_FOUND", say().serviceOutbox.cannotFindMessage({ id }), { where: "outbox" });
    const run = await lockRun(database, owner, transaction);
    const message = await lockMessage(database, id, transaction);
    const report = (await getReportVersion(context, run.report, run.reportVersion)).definition;
    return work({ message, run, report, transaction });
  });
}

/** Decides a message that is unsure: it arrived, or it shall go again; a refused one can be tried once more. Throws `CONFLICT`. */
export async function decideMessage(
  context: Context,
  id: string,
  as: "arrived" | "again",
  reason: string | undefined,
  by: string,
): Promise<MessageState> {
  const words = say().serviceOutbox.decided({ by, as, value: reason ? ` (${reason})` : "" });
  const { run, state } = await withMessage(context, id, async (locked) => {
    const { message, transaction } = locked;
    if (!fromStates(MESSAGE_MACHINE, as === "arrived" ? "decide-arrived" : "decide-again").includes(message.state))
      throw new CorbixError(
        "CONFLICT",
        say().serviceOutbox.cannotDecideMessageArrivedServer({ as, state: message.state }),
        { where: say().serviceOutbox.message({ id }) },
      );
    if (as === "arrived") {
      await setArrived(context.database, id, words, transaction);
      return { run: message.runId, state: "sent" as const };
    }
    await queueAgain(context, locked, words);
    return { run: message.runId, state: "queued" as const };
  });
  await noteAction(context.database, by, `message decided: ${as}`, id, reason ? { reason } : {});
  if (as === "arrived") await finishRun(context, run);
  await announce(context.database, { kind: "run", subject: run });
  return state;
}

/**
 * Puts a message back among those that wait, as the delivery it is: with its Message-ID, to those who have not got it. Its run
 * delivers again. Throws where it may not.
 */
async function queueAgain(
  context: Context,
  locked: Locked,
  words: string,
  { reason, corrections = [] }: { readonly reason?: string; readonly corrections?: readonly Correction[] } = {},
): Promise<void> {
  const { database } = context;
  const { message, transaction } = locked;
  await reopen(context, locked);
  // Who refused it is asked once more; who took it is not.
  const results = Object.fromEntries(
    Object.entries(message.results).filter(([, one]) => one.state !== "refused" && one.state !== "returned"),
  );
  const taken = Object.entries(results).flatMap(([address, one]) =>
    one.state === "later" ? [] : [foldAddress(address)],
  );
  const messageIdOfOwn = reason === undefined ? null : await ownMessageId(context, locked);
  const envelope = corrections.length > 0 ? withCorrections(message.envelope, corrections) : null;
  const next = { words, results, reason: reason ?? null, messageId: messageIdOfOwn, envelope };
  await requeueMessage(database, message.id, next, transaction);
  await keepReached(database, message.id, taken, transaction);
}

/** Where another run has delivered to the group meanwhile, the message is a delivery of its own and needs a Message-ID of its own. */
async function ownMessageId(context: Context, { message, run, transaction }: Locked): Promise<string | null> {
  const was = await wasDelivered(
    context.database,
    { ...run, groupKey: message.groupKey, part: message.part, besides: message.id },
    transaction,
  );
  return was ? againId(context, run, message, message.again) : null;
}

function againId(context: Context, run: RunRow, message: Locked["message"], again: number): string {
  return messageId(
    {
      report: `${run.report} again ${run.id}`,
      period: run.occasion,
      group: message.groupKey,
      part: message.part,
      attempt: again + 1,
    },
    context.settings.mailDomain,
  );
}

/** A run of which a message shall go delivers again; only one that was released as its report asks, and that no incident broke off. */
async function reopen(context: Context, { message, run, report, transaction }: Locked): Promise<void> {
  const where = `message ${message.id}`;
  if (run.releasedAt === null)
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotSendMessageRunNever({ state: run.state }), {
      where,
      advice: say().serviceOutbox.releaseRun({ state: run.state }),
    });
  if (message.releasedAt === null && report.delivery.approvals > 1)
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotSendMessageLeftOut(), {
      where,
      advice: say().serviceOutbox.runAgainGroupRelease(),
    });
  if (run.error !== null)
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotSendMessageRunBroken({ message: run.error.message }), {
      where,
      advice: say().serviceOutbox.runAgain(),
    });
  if (run.state === "delivering") return;
  if (!fromStates(RUN_MACHINE, "reopen").some((state) => state === run.state))
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotSendMessageRun({ state: run.state }), { where });
  await setReopened(context.database, run.id, transaction);
}

/** What came of a person's "again". */
export interface SentAgain {
  readonly id: string;
  /** `first`: nobody got it, or some did not, and those get it as a first time. `repeat`: a delivery of its own, marked as sent again. */
  readonly as: "first" | "repeat";
}

/**
 * Sends a message once more. Whom it never reached gets it as a first time: the message itself goes on. Where everybody had it, it is
 * a delivery of its own in the ledger, with a Message-ID of its own, and marked in its subject. Throws `CONFLICT` where the first is
 * still on its way, unsure, never released or a rehearsal's, and `BAD_REQUEST` for a correction of what is not wrong, or by what is.
 */
export async function sendAgain(
  context: Context,
  id: string,
  { reason, corrections }: { readonly reason: string; readonly corrections: readonly Correction[] },
  by: string,
): Promise<SentAgain> {
  const { made, run } = await withMessage(context, id, async (locked): Promise<{ made: SentAgain; run: string }> => {
    const { message } = locked;
    await checkAgain(context, locked);
    const reached = hasReached(message);
    const open = openAddresses(message);
    await checkCorrections(context, message, corrections, reached ? open : addressesOf(message.envelope));
    if (!reached || (message.state !== "sent" && open.length > 0)) {
      const instead = corrections
        .map((one) => say().serviceOutbox.place({ to: one.to, address: one.address }))
        .join(", ");
      const words = say().serviceOutbox.goAfterAllSaid({ value: instead === "" ? "" : `, ${instead}`, by, reason });
      await queueAgain(context, locked, words, { reason, corrections });
      return { made: { id, as: "first" }, run: message.runId };
    }
    const again = await copyMessage(context, locked, { reason, corrections }, open);
    await reopen(context, locked);
    return { made: again, run: message.runId };
  });
  await noteAction(context.database, by, "message sent again", id, {
    reason,
    message: made.id,
    as: made.as,
    ...(corrections.length > 0 ? { corrections } : {}),
  });
  await announce(context.database, { kind: "run", subject: run });
  return made;
}

async function checkAgain(context: Context, { message, run, transaction }: Locked): Promise<void> {
  const refuse = (why: string, advice: string): never => {
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotSendMessageAgain({ why }), {
      where: say().serviceOutbox.message({ id: message.id }),
      advice,
    });
  };
  if (run.rehearsalTo !== null) refuse(say().serviceOutbox.rehearsalS(), say().serviceOutbox.rehearsalStartedAnew());
  if (message.html === "" && message.text === "")
    refuse(say().serviceOutbox.textDeletedWhenTimeOver(), say().serviceOutbox.runAgainGroup());
  if (!["sent", "returned", "refused", "skipped"].includes(message.state))
    refuse(say().serviceOutbox.itIs({ state: message.state }), say().serviceOutbox.decideUnsureFirstWayGoes());
  const other = await openSibling(context.database, message, transaction);
  if (other)
    refuse(
      say().serviceOutbox.anotherGroupMessage({ id: other.id, state: other.state }),
      say().serviceOutbox.seeBecomesFirst(),
    );
}

/** Addresses that took it and from which it did not come back. */
function hasReached(message: Locked["message"]): boolean {
  const results = Object.values<AddressResult>(message.results);
  if (results.length === 0) return message.state === "sent";
  return results.some((one) => ["taken", "delivered", "delayed"].includes(one.state)) || message.state === "sent";
}

function openAddresses(message: Locked["message"]): string[] {
  return Object.entries(message.results).flatMap(([address, one]) =>
    one.state === "refused" || one.state === "returned" ? [address] : [],
  );
}

/** A message of its own for the same people; or, where some were not reached, for those alone and as a first time. */
async function copyMessage(
  context: Context,
  { message, run, transaction }: Locked,
  { reason, corrections }: { readonly reason: string; readonly corrections: readonly Correction[] },
  open: readonly string[],
): Promise<SentAgain> {
  const { database } = context;
  const next = await nextAgain(database, message, transaction);
  const isFirst = open.length > 0;
  const envelope = withCorrections(isFirst ? onlyThese(message.envelope, open) : message.envelope, corrections);
  const id = await addQueued(
    database,
    {
      runId: message.runId,
      parcelId: message.parcelId,
      groupKey: message.groupKey,
      part: message.part,
      again: next,
      againReason: reason,
      identity: message.identity,
      way: message.way,
      carried: message.carried,
      language: message.language,
      subject: message.subject,
      html: message.html,
      text: message.text,
      envelope,
      messageId: againId(context, run, message, next),
      findings: message.findings,
    },
    transaction,
  );
  return { id, as: isFirst ? "first" : "repeat" };
}

const addressesOf = ({ to, cc, bcc }: Envelope): string[] => [...to, ...cc, ...bcc].map(({ address }) => address);

/** Only an address that did not get it is corrected, and by one that can be sent to. Throws `BAD_REQUEST`. */
async function checkCorrections(
  context: Context,
  message: Locked["message"],
  corrections: readonly Correction[],
  open: readonly string[],
): Promise<void> {
  if (corrections.length === 0) return;
  if (message.way !== null)
    throw new CorbixError("BAD_REQUEST", say().serviceWays.noCorrections(), {
      where: say().serviceOutbox.message({ id: message.id }),
    });
  const wrong = new Set(open.map(foldAddress));
  const identity = await getIdentity(context, message.identity);
  for (const { address, to } of corrections) {
    const refuse = (why: string, advice: string): never => {
      throw new CorbixError("BAD_REQUEST", say().serviceOutbox.cannotSendPlace({ to, address, why }), {
        where: say().serviceOutbox.message({ id: message.id }),
        advice,
      });
    };
    if (!wrong.has(foldAddress(address)))
      refuse(say().serviceOutbox.addressNoneDidReach(), say().serviceOutbox.correctOnlyAddressesRefused());
    const fault = addressFault(to);
    if (fault !== undefined) refuse(fault, say().serviceOutbox.correctAddress());
    if (!mayReceive(identity.settings, to)) refuse(notDomain(identity), say().serviceOutbox.addDomainIdentity());
  }
}

/** An envelope with other addresses in place of wrong ones; names stay. */
function withCorrections({ to, cc, bcc }: Envelope, corrections: readonly Correction[]): Envelope {
  const right = new Map(corrections.map((one) => [foldAddress(one.address), one.to]));
  const all = <T extends { readonly address: string }>(list: readonly T[]): T[] =>
    list.map((one) => ({ ...one, address: right.get(foldAddress(one.address)) ?? one.address }));
  return { to: all(to), cc: all(cc), bcc: all(bcc) };
}

function onlyThese({ to, cc, bcc }: Envelope, addresses: readonly string[]): Envelope {
  const wanted = new Set(addresses.map(foldAddress));
  const keep = <T extends { readonly address: string }>(list: readonly T[]): T[] =>
    list.filter((one) => wanted.has(foldAddress(one.address)));
  return { to: keep(to), cc: keep(cc), bcc: keep(bcc) };
}

/** Takes messages out that have not gone yet, each with the reason. Gives how many. Throws `UNKNOWN_NAME` or `CONFLICT`. */
export async function skipMessages(
  context: Context,
  runId: string,
  groups: readonly string[],
  reason: string,
  by: string,
): Promise<number> {
  const keys = await knownGroups(context, runId, groups);
  const count = await leaveOut(context.database, runId, say().serviceOutbox.leftOut({ by, reason }), { only: keys });
  if (count === 0)
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotLeaveTheseGroupsOut(), {
      where: say().place.run({ id: runId }),
    });
  await noteAction(context.database, by, "groups left out", runId, { groups: keys, reason });
  await finishRun(context, runId);
  await announce(context.database, { kind: "run", subject: runId });
  return count;
}

/** Lets a run's waiting messages wait, or go on. Throws `CONFLICT` where it does not deliver. */
export async function pauseRun(context: Context, runId: string, paused: boolean, by: string): Promise<void> {
  if (!(await setPaused(context.database, runId, paused)))
    throw new CorbixError("CONFLICT", say().serviceOutbox.cannotRun({ paused }), {
      where: say().place.run({ id: runId }),
    });
  await noteAction(context.database, by, paused ? "run paused" : "run resumed", runId);
  await announce(context.database, { kind: "run", subject: runId });
}
