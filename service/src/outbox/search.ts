/** What was sent to whom, when, with what, and what the server said. */
import { inflateRawSync } from "node:zlib";
import { CorbixError } from "@corbix/core/common";
import { secondsToSend } from "@corbix/core/message";
import { z } from "zod";
import { getIdentity, identities } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import type { FileRow, MessageRow, ParcelRow } from "../records/index.js";
import { getRun, reportOfRun } from "../run/run-records.js";
import { composeMail, rawOf } from "./compose.js";

const day = z.iso.date("expected a day, such as 2026-11-02");

export const messageSearchSchema = z.object({
  person: z.string().max(200).optional().describe("Part of a name or address."),
  group: z.string().max(200).optional().describe("Part of a group's name."),
  file: z.string().max(200).optional().describe("Part of an attached file's name."),
  report: z.string().max(200).optional(),
  period: z.string().max(60).optional().describe("Such as 2026-10."),
  state: z.enum(["held", "queued", "sending", "sent", "refused", "unsure", "skipped", "returned"]).optional(),
  from: day.optional().describe("First day on which it was touched last."),
  until: day.optional().describe("Last such day."),
  limit: z.coerce.number().int().min(1).max(2_000).default(500),
});

/** Messages that meet all that is asked, troubled ones first, then those on their way, then the newest. */
export async function searchMessages(context: Context, query: z.output<typeof messageSearchSchema>): Promise<object[]> {
  const like = (text: string | undefined): string | null =>
    text === undefined || text === "" ? null : `%${text.replace(/[\\%_]/g, "\\$&")}%`;
  return context.database.select(
    `SELECT messages.id, messages.run_id AS "runId", runs.report, runs.period, runs.rehearsal_to AS "rehearsalTo", parcels.label, parcels.number AS parcel,
       messages.subject, messages.envelope, messages.state, messages.attempts, messages.response, messages.results, messages.identity, messages.again, messages.again_reason AS "againReason",
       messages.part, messages.size, parcels.attachments, messages.sent_at AS "sentAt", messages.touched_at AS "touchedAt", messages.not_before AS "notBefore", messages.message_id AS "messageId"
     FROM messages JOIN runs ON runs.id = messages.run_id JOIN parcels ON parcels.id = messages.parcel_id
     WHERE ($1::text IS NULL OR messages.envelope::text ILIKE $1) AND ($2::text IS NULL OR parcels.label ILIKE $2) AND ($3::text IS NULL OR parcels.attachments::text ILIKE $3)
       AND ($4::text IS NULL OR runs.report = $4) AND ($5::text IS NULL OR runs.period = $5)
       AND ($6::text IS NULL AND messages.state <> 'held' OR messages.state = $6)
       AND ($7::date IS NULL OR messages.touched_at >= $7::date) AND ($8::date IS NULL OR messages.touched_at < $8::date + 1)
     ORDER BY (messages.state IN ('unsure', 'refused', 'returned')) DESC, (messages.state IN ('queued', 'sending')) DESC, messages.touched_at DESC, messages.id DESC LIMIT $9`,
    [
      like(query.person),
      like(query.group),
      like(query.file),
      query.report ?? null,
      query.period ?? null,
      query.state ?? null,
      query.from ?? null,
      query.until ?? null,
      query.limit,
    ],
  );
}

/** One message with its attempts and the reports that came back about it. */
export async function messageDetails(context: Context, id: string): Promise<object> {
  const message = await getMessage(context, id);
  const { mime, ...shown } = message;
  const attempts = await context.database.select(
    'SELECT number, worker, identity, started_at AS "startedAt", finished_at AS "finishedAt", outcome, stage, response FROM attempts WHERE message_id = $1 ORDER BY id',
    [id],
  );
  const reports = await context.database.select(
    "SELECT id, at, facts FROM delivery_reports WHERE message_id = $1 ORDER BY id",
    [id],
  );
  const downloads = await context.database.select(
    "SELECT downloads.at, files.path FROM downloads JOIN files ON files.id = downloads.file_id WHERE downloads.message_id = $1 ORDER BY downloads.id",
    [id],
  );
  return { ...shown, attempts, reports, downloads, isKept: mime !== null };
}

/** A message as .eml: the very bytes that were sent, or as it would go now. Throws `NOT_FOUND` or `FILE_MISSING`. */
export async function messageBytes(context: Context, id: string): Promise<Buffer> {
  const message = await getMessage(context, id);
  if (message.html === "" && message.text === "")
    throw new CorbixError("NOT_FOUND", "Cannot show the message: it was deleted when its time was over.", {
      where: `message ${id}`,
      advice: "Its report says in its retention how long messages are kept.",
    });
  if (message.mime) return rawOf(context, inflateRawSync(message.mime));
  const run = await getRun(context, message.runId);
  const [parcel, files] = await Promise.all([
    context.database.models.Parcel.findByPk(message.parcelId, { attributes: { exclude: ["lines"] }, raw: true }),
    context.database.models.File.findAll({ where: { parcelId: message.parcelId }, raw: true }),
  ]);
  const facts = {
    run,
    report: await reportOfRun(context, run),
    parcel: parcel as unknown as ParcelRow,
    files: files as unknown as FileRow[],
    identity: await getIdentity(context, message.identity),
  };
  const earlier = await context.database.select(
    "SELECT 1 FROM ledger WHERE report = $1 AND occasion = $2 AND group_key = $3 AND part = $4 AND message_id <> $5 LIMIT 1",
    [run.report, run.occasion, message.groupKey, message.part, message.id],
  );
  const isRepeat = earlier.length > 0 && (message.againReason ?? run.againReason) !== null;
  return (await composeMail(context, { ...message, datedAt: message.datedAt ?? context.now() }, { ...facts, isRepeat }))
    .raw;
}

export async function getMessage(context: Context, id: string): Promise<MessageRow> {
  const found = await context.database.models.Message.findByPk(id, { raw: true });
  if (found) return found as unknown as MessageRow;
  throw new CorbixError("NOT_FOUND", `Cannot find message ${id}.`, { where: "outbox" });
}

/** Each identity with what waits and when it will be done. */
export async function identityStates(context: Context): Promise<object[]> {
  const counts = await context.database.select<{ identity: string; waiting: number; sending: number; paused: number }>(
    `SELECT identity, count(*) FILTER (WHERE messages.state = 'queued' AND NOT runs.paused)::int AS waiting, count(*) FILTER (WHERE messages.state = 'sending')::int AS sending,
       count(*) FILTER (WHERE messages.state = 'queued' AND runs.paused)::int AS paused
     FROM messages JOIN runs ON runs.id = messages.run_id WHERE messages.state IN ('queued', 'sending') GROUP BY identity`,
  );
  const hour = await context.database.select<{ identity: string; count: number }>(
    "SELECT identity, count(*)::int AS count FROM attempts WHERE started_at > $1::timestamptz - interval '1 hour' GROUP BY identity",
    [context.now()],
  );
  return (await identities(context)).map((identity) => {
    const own = counts.find((one) => one.identity === identity.name);
    const sentInHour = hour.find((one) => one.identity === identity.name)?.count ?? 0;
    const waiting = (own?.waiting ?? 0) + (own?.sending ?? 0);
    return {
      ...identity,
      waiting: own?.waiting ?? 0,
      sending: own?.sending ?? 0,
      held: own?.paused ?? 0,
      sentInHour,
      secondsLeft: identity.paused ? null : Math.round(secondsToSend(waiting, identity.settings, sentInHour)),
    };
  });
}
