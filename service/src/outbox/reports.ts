/** Reports of delivery that come back by mail are put to the message they are about. */
import { CorbixError, sha256 } from "@corbix/core/common";
import { parseDeliveryStatus, type ReportedRecipient } from "@corbix/core/message";
import { foldAddress } from "@corbix/core/recipients";
import { simpleParser } from "mailparser";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import type { AddressResult, Database, MessageRow, MessageState } from "../records/index.js";

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
    throw new CorbixError("BAD_REQUEST", "Cannot read this as a report of delivery: it has no delivery status.", {
      where: "message",
      advice: "Hand on the report as it came, with its attachments.",
    });
  const { recipients, reporter } = parseDeliveryStatus(status.content.toString("utf8"));
  const original = mail.attachments.find((part) =>
    /^(?:text\/rfc822-headers|message\/rfc822|message\/global)/i.test(part.contentType),
  );
  const messageId = /^Message-ID:\s*(<[^>\r\n]+>)/im.exec(original?.content.toString("latin1") ?? "")?.[1];
  return context.database.transaction(async (transaction) => {
    const [message] = messageId
      ? ((await context.database.models.Message.findAll({
          where: { messageId },
          attributes: ["id", "runId", "state", "results", "response", "envelope"],
          // Of several of one delivery, the one that went.
          order: [
            ["sentAt", "DESC NULLS LAST"],
            ["id", "DESC"],
          ],
          lock: transaction.LOCK.UPDATE,
          transaction,
          raw: true,
        })) as unknown as MessageRow[])
      : [];
    const kept = await context.database.select<{ id: string }>(
      "INSERT INTO delivery_reports (sha256, message_id, original_message_id, facts, raw) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING RETURNING id",
      [sha256(raw), message?.id ?? null, messageId ?? null, JSON.stringify({ reporter, recipients }), raw],
      transaction,
    );
    if (message && kept.length > 0) {
      const told = afterReport(message, recipients);
      await context.database.execute(
        "UPDATE messages SET state = $2, results = $3, response = $4, touched_at = now() WHERE id = $1",
        [message.id, told.state, JSON.stringify(told.results), told.response],
        transaction,
      );
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
  await database.execute(
    "UPDATE ledger SET addresses = ARRAY(SELECT unnest(addresses) EXCEPT SELECT unnest($2::text[])), complete = false WHERE message_id = $1",
    [message, back],
    transaction,
  );
  await database.execute("DELETE FROM ledger WHERE message_id = $1 AND addresses = '{}'", [message], transaction);
  await database.execute(
    "DELETE FROM delivered_rows WHERE message_id = $1 AND NOT EXISTS (SELECT 1 FROM ledger WHERE ledger.message_id = $1)",
    [message],
    transaction,
  );
}

const STATES: Readonly<Record<ReportedRecipient["action"], AddressResult["state"]>> = {
  failed: "returned",
  delayed: "delayed",
  delivered: "delivered",
  relayed: "delivered",
  expanded: "delivered",
};

/** What a message becomes: returned when it came back from everybody who was to get it. */
function afterReport(
  message: MessageRow,
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
  const words = failed.map((one) => `came back from ${one.address}: ${one.words}`);
  return {
    state: went ? (isBack ? "returned" : "sent") : message.state,
    results,
    response: [message.response ?? "", ...words].filter((text) => text !== "").join("; "),
  };
}
