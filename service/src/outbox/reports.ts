/** Reports of delivery that come back by mail are put to the message they are about. */

import { CorbixError, sha256 } from "@corbix/core/common";
import { parseDeliveryStatus, type ReportedRecipient } from "@corbix/core/message";
import { foldAddress } from "@corbix/core/recipients";
import { say } from "@corbix/core/words";
import { simpleParser } from "mailparser";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  type AddressResult,
  addDeliveryReport,
  type Database,
  lockReported,
  type MessageRow,
  type MessageState,
  setReported,
  takeBackReached,
} from "../records/index.js";

export interface TakenReport {
  /** The message it is about; `null` where none of ours is found. */
  readonly message: string | null;
  readonly recipients: readonly ReportedRecipient[];
}

/** Reads a report and writes down what it says, once however often it comes. Throws `BAD_REQUEST` for what is no report. */
export async function takeReport(
  context: Pick<Context, "database" | "now" | "log">,
  raw: Buffer,
): Promise<TakenReport> {
  const mail = await simpleParser(raw, {
    skipHtmlToText: true,
    skipTextToHtml: true,
    keepDeliveryStatus: true,
  } as object);
  const status = mail.attachments.find((part) => /^message\/(?:global-)?delivery-status$/i.test(part.contentType));
  if (!status)
    throw new CorbixError("BAD_REQUEST", say().serviceOutbox.cannotReadReportDeliveryDelivery(), {
      where: "message",
      advice: say().serviceOutbox.handReportCameAttachments(),
    });
  const { recipients, reporter } = parseDeliveryStatus(status.content.toString("utf8"));
  const original = mail.attachments.find((part) =>
    /^(?:text\/rfc822-headers|message\/rfc822|message\/global)/i.test(part.contentType),
  );
  const messageId = /^Message-ID:\s*(<[^>\r\n]+>)/im.exec(original?.content.toString("latin1") ?? "")?.[1];
  return context.database.transaction(async (transaction) => {
    const message = messageId === undefined ? undefined : await lockReported(context.database, messageId, transaction);
    const isNew = await addDeliveryReport(
      context.database,
      {
        sha256: sha256(raw),
        message: message?.id ?? null,
        messageId: messageId ?? null,
        facts: { reporter, recipients },
        raw,
      },
      transaction,
    );
    if (message && isNew) {
      const told = afterReport(message, recipients);
      await setReported(context.database, message.id, told, transaction);
      await leaveDue(context.database, message.id, told.results, transaction);
      await announce(context.database, { kind: "run", subject: message.runId });
    }
    context.log.info({ message: message?.id, messageId, recipients: recipients.length }, "report of delivery");
    return { message: message?.id ?? null, recipients };
  });
}

/** Whom it came back from has not got it: for them the delivery stays due. */
async function leaveDue(
  database: Database,
  message: string,
  results: Readonly<Record<string, AddressResult>>,
  transaction: Parameters<Parameters<Database["transaction"]>[0]>[0],
): Promise<void> {
  const back = Object.entries(results).flatMap(([address, one]) =>
    one.state === "returned" ? [foldAddress(address)] : [],
  );
  if (back.length === 0) return;
  await takeBackReached(database, message, back, transaction);
}

const STATES: Readonly<Record<ReportedRecipient["action"], AddressResult["state"]>> = {
  failed: "returned",
  delayed: "delayed",
  delivered: "delivered",
  relayed: "delivered",
  expanded: "delivered",
};

/** What a message becomes: returned when it came back from everybody who was to get it. */
export function afterReport(
  message: Pick<MessageRow, "state" | "results" | "response">,
  recipients: readonly ReportedRecipient[],
): { state: MessageState; results: Record<string, AddressResult>; response: string } {
  const results: Record<string, AddressResult> = { ...message.results };
  for (const one of recipients) {
    const known = Object.keys(results).find((address) => address.toLowerCase() === one.address.toLowerCase());
    results[known ?? one.address] = { state: STATES[one.action], response: one.words };
  }
  const all = Object.values(results);
  const failed = recipients.filter((one) => one.action === "failed");
  // A report about a message that is unsure proves that it went out.
  const went = message.state === "unsure" || message.state === "sent" || message.state === "returned";
  const isBack = all.length > 0 && all.every((one) => one.state === "returned" || one.state === "refused");
  const words = failed.map((one) => say().serviceOutbox.cameBack({ address: one.address, words: one.words }));
  return {
    state: went ? (isBack ? "returned" : "sent") : message.state,
    results,
    response: [message.response ?? "", ...words].filter((text) => text !== "").join("; "),
  };
}
