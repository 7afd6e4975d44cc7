import { basename } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { CONTENT_TYPES, escapeHtml, messageId } from "@corbix/core/message";
import { showAddress } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import type { Outcome, OutgoingMail } from "../mail/mailer.js";
import type { FileRow, MessageRow, ParcelRow, RunRow } from "../records/index.js";
import { finishRun } from "./release.js";
import { getRun, ledgerPeriod, moveRun, reportOfRun, touchRun } from "./run-records.js";

/** A temporary refusal is tried again so often, each time after twice the pause. */
const MAX_ATTEMPTS = 6;
const FIRST_PAUSE_SECONDS = 15;

/** Step four: sends a batch of messages, each once. */
export async function deliverStep(context: Context, runId: string, ids: readonly string[]): Promise<void> {
  const run = await getRun(context, runId);
  if (run.state !== "delivering") return;
  const report = await reportOfRun(context, run);
  const later: { id: string; pause: number }[] = [];
  for (const id of ids) {
    // A run that is stopped meanwhile has its waiting messages skipped, so none of them is claimed any more.
    const message = await claim(context, run, id);
    if (!message) continue;
    const mail = await compose(context, run, report, message).catch(async (error: unknown) => {
      await giveBack(context, run, message, error);
      return undefined;
    });
    if (!mail) continue;
    await waitForSlot(context, report.delivery.from);
    const outcome = await context.mailer.send(mail);
    if (await settle(context, run, message, outcome))
      later.push({ id, pause: FIRST_PAUSE_SECONDS * 2 ** (message.attempts - 1) });
    await announce(context.database, { kind: "run", subject: runId });
  }
  for (const { id, pause } of later)
    await context.queue.send("deliver", { run: runId, ids: [id] }, { afterSeconds: pause });
  await touchRun(context, runId);
  await finishRun(context, runId);
}

/**
 * Takes a queued message for this process: ledger row and attempt are written in the same transaction, before a byte goes out.
 * A group that was delivered for this report and period already is skipped.
 */
async function claim(context: Context, run: RunRow, id: string): Promise<MessageRow | undefined> {
  const { database } = context;
  return database.transaction(async (transaction) => {
    const [message] = await database.select<{ id: string; attempts: number; group_key: string }>(
      "SELECT id, attempts, group_key FROM messages WHERE id = $1 AND state = 'queued' FOR UPDATE SKIP LOCKED",
      [id],
      transaction,
    );
    if (!message) return undefined;
    if (!run.rehearsalTo && message.attempts === 0) {
      const attempt = await writeLedger(context, run, message, transaction);
      if (attempt === undefined) {
        await database.execute(
          "UPDATE messages SET state = 'skipped', response = 'delivered for this period already; say again with a reason to repeat it' WHERE id = $1",
          [id],
          transaction,
        );
        return undefined;
      }
      const fixed = messageId(
        { report: run.report, period: ledgerPeriod(run), group: message.group_key, attempt },
        context.settings.mailDomain,
      );
      await database.execute("UPDATE messages SET message_id = $2 WHERE id = $1", [id, fixed], transaction);
    }
    await database.execute(
      "UPDATE messages SET state = 'sending', attempts = attempts + 1, worker = $2, touched_at = $3 WHERE id = $1",
      [id, context.process, context.now()],
      transaction,
    );
    await database.execute(
      "INSERT INTO attempts (message_id, number, worker) VALUES ($1, $2, $3)",
      [id, message.attempts + 1, context.process],
      transaction,
    );
    return (await database.models.Message.findByPk(id, { transaction, raw: true })) as unknown as MessageRow;
  });
}

type Transaction = Parameters<Parameters<Context["database"]["transaction"]>[0]>[0];

/** The ledger: one row per report, period, group and attempt. `again` counts on from the last, and only then. */
async function writeLedger(
  context: Context,
  run: RunRow,
  message: { readonly id: string; readonly group_key: string },
  transaction: Transaction,
): Promise<number | undefined> {
  const next = run.againReason
    ? "coalesce((SELECT max(attempt) FROM ledger WHERE report = $1 AND period = $2 AND group_key = $3), 0) + 1"
    : "1";
  const written = await context.database.select<{ attempt: number }>(
    `INSERT INTO ledger (report, period, group_key, attempt, run_id, message_id) VALUES ($1, $2, $3, ${next}, $4, $5) ON CONFLICT DO NOTHING RETURNING attempt`,
    [run.report, ledgerPeriod(run), message.group_key, run.id, message.id],
    transaction,
  );
  return written[0]?.attempt;
}

/** The mail as it goes out. Each attachment's recorded group is compared with the parcel's: a mismatch stops the run. */
async function compose(context: Context, run: RunRow, report: Report, message: MessageRow): Promise<OutgoingMail> {
  const { models } = context.database;
  const parcel = (await models.Parcel.findByPk(message.parcelId, {
    attributes: { exclude: ["lines"] },
    raw: true,
  })) as unknown as ParcelRow;
  const files = (await models.File.findAll({ where: { parcelId: parcel.id }, raw: true })) as unknown as FileRow[];
  const attachments: OutgoingMail["attachments"][number][] = [];
  for (const path of parcel.attachments) {
    const file = files.find((candidate) => candidate.path === path);
    if (!file)
      throw new CorbixError("FILE_MISSING", `Cannot attach "${path}": it was not made.`, {
        where: `group ${parcel.label}`,
      });
    checkProvenance(run, parcel, message, file);
    const content = await context.store.get(file.sha256);
    if (content.length === 0)
      throw new CorbixError("FILE_MISSING", `Cannot attach "${path}": it is empty.`, {
        where: `group ${parcel.label}`,
      });
    attachments.push({ filename: basename(path), content, contentType: CONTENT_TYPES[file.kind] });
  }
  const mail = {
    from: context.settings.mailFrom,
    replyTo: report.delivery.replyTo,
    messageId: message.messageId,
    importance: report.delivery.importance,
    attachments,
    headers: { "X-Corbix-Run": run.id },
  };
  const { to, cc, bcc } = message.envelope;
  if (!run.rehearsalTo) {
    const again = run.againReason ? "Sent again: " : "";
    return { ...mail, to, cc, bcc, subject: `${again}${message.subject}`, html: message.html, text: message.text };
  }
  const would = [...to, ...cc, ...bcc].map(showAddress).join(", ");
  return {
    ...mail,
    to: [{ address: run.rehearsalTo }],
    cc: [],
    bcc: [],
    subject: `Rehearsal: ${message.subject}`,
    html: withFirstLine(message.html, would),
    text: `Rehearsal. This would go to: ${would}\n\n${message.text}`,
  };
}

function checkProvenance(run: RunRow, parcel: ParcelRow, message: MessageRow, file: FileRow): void {
  const { provenance } = file;
  const same =
    file.runId === run.id &&
    message.runId === run.id &&
    file.groupKey === parcel.groupKey &&
    message.groupKey === parcel.groupKey &&
    provenance.group === parcel.groupKey &&
    provenance.run === run.id &&
    file.rowsDigest === parcel.rowsDigest &&
    provenance.rowsDigest === parcel.rowsDigest;
  if (same) return;
  throw new CorbixError(
    "PROVENANCE_MISMATCH",
    `Cannot attach "${file.path}" to the message of "${parcel.label}": it was made of other rows or for another group.`,
    {
      where: `run ${run.id}, group ${parcel.label}`,
      advice: "The run was stopped. Nothing went out with this file. Tell whoever looks after the service.",
    },
  );
}

function withFirstLine(html: string, would: string): string {
  const line = `<p style="border:1px solid #b3541e;background:#fdf3ec;padding:6px 10px"><strong>Rehearsal.</strong> This would go to: ${escapeHtml(would)}</p>`;
  return /<body[^>]*>/i.test(html) ? html.replace(/<body[^>]*>/i, (body) => body + line) : line + html;
}

/** Nothing was sent: the message is refused, and a provenance mismatch stops the whole run as an incident. */
async function giveBack(context: Context, run: RunRow, message: MessageRow, error: unknown): Promise<void> {
  const reason = error instanceof CorbixError ? error.toLine() : error instanceof Error ? error.message : String(error);
  await context.database.execute(
    "UPDATE messages SET state = 'refused', response = $2, touched_at = $3 WHERE id = $1",
    [message.id, reason, context.now()],
  );
  await context.database.execute(
    "UPDATE attempts SET finished_at = $2, outcome = 'refused', response = $3 WHERE message_id = $1 AND finished_at IS NULL",
    [message.id, context.now(), reason],
  );
  context.log.error({ run: run.id, message: message.id, reason }, "message not sent");
  if (!(error instanceof CorbixError) || error.code !== "PROVENANCE_MISMATCH") return;
  await moveRun(context, run.id, ["delivering"], "stopped", {
    error: {
      code: error.code,
      message: error.message,
      ...(error.where ? { where: error.where } : {}),
      ...(error.advice ? { advice: error.advice } : {}),
    },
    finishedAt: context.now(),
  });
  await context.database.execute(
    "UPDATE messages SET state = 'skipped', response = 'the run was stopped' WHERE run_id = $1 AND state = 'queued'",
    [run.id],
  );
  await noteAction(context.database, "corbix", "incident: provenance mismatch", run.id, {
    message: message.id,
    reason,
  });
}

/** Waits for the identity's next place in the pace; the places are given out by the database, so all workers keep it together. */
async function waitForSlot(context: Context, identity: string): Promise<void> {
  const interval = 60_000 / context.settings.mailPerMinute;
  const [slot] = await context.database.select<{ wait: number }>(
    "UPDATE identities SET next_slot_at = greatest(next_slot_at, now()) + ($2 * interval '1 millisecond') WHERE name = $1 RETURNING extract(epoch FROM (next_slot_at - now())) * 1000 - $2 AS wait",
    [identity, interval],
  );
  const wait = Number(slot?.wait ?? 0);
  if (wait > 1) await new Promise((resolve) => setTimeout(resolve, wait));
}

/** Writes down what became of it; tells whether it shall be tried again. */
async function settle(context: Context, run: RunRow, message: MessageRow, outcome: Outcome): Promise<boolean> {
  const again = outcome.kind === "later" && message.attempts < MAX_ATTEMPTS;
  const state = outcome.kind === "later" ? (again ? "queued" : "refused") : outcome.kind;
  const rejected =
    outcome.kind === "sent" && outcome.rejected.length > 0 ? `; refused for ${outcome.rejected.join(", ")}` : "";
  const response = `${outcome.response}${rejected}`;
  await context.database.execute(
    "UPDATE messages SET state = $2, response = $3, sent_at = $4, touched_at = $5 WHERE id = $1 AND state = 'sending'",
    [message.id, state, response, outcome.kind === "sent" ? context.now() : null, context.now()],
  );
  await context.database.execute(
    "UPDATE attempts SET finished_at = $2, outcome = $3, response = $4 WHERE message_id = $1 AND number = $5",
    [message.id, context.now(), outcome.kind, response, message.attempts],
  );
  context.log.info({ run: run.id, message: message.id, outcome: outcome.kind, response }, "message");
  return again;
}
