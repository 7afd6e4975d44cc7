/** What releasing a run would do, from the ledger as it stands now. */
import { type GroupOutlook, type Outlook, outlookOf } from "@corbix/core/delivery";
import type { Context } from "../process/context.js";
import type { AddressResult, MessageRow, RunRow } from "../records/index.js";
import { dueOf, HAD_COLUMNS, HAD_JOIN, type HadRow, hadOf } from "./waiting.js";

interface OutlookRow extends HadRow {
  readonly label: string;
  readonly parcel_id: string;
  readonly left_out: string | null;
  readonly message_id: string | null;
  readonly envelope: MessageRow["envelope"] | null;
  readonly results: Readonly<Record<string, AddressResult>> | null;
  readonly again_reason: string | null;
}

/** Who would get theirs, who has it, who gets it again; nothing for a rehearsal, which counts for nobody. */
export async function deliveryOutlook(context: Context, run: RunRow): Promise<Outlook | null> {
  if (run.rehearsalTo !== null) return null;
  const rows = await context.database.select<OutlookRow>(
    `SELECT parcels.label, parcels.id::text AS parcel_id, parcels.left_out, messages.id::text AS message_id, messages.envelope, messages.results, messages.again_reason, ${HAD_COLUMNS}
     FROM parcels JOIN runs ON runs.id = parcels.run_id LEFT JOIN messages ON messages.parcel_id = parcels.id AND messages.state IN ('held', 'queued')
     ${HAD_JOIN} WHERE parcels.run_id = $1 ORDER BY parcels.number, messages.id`,
    [run.id],
  );
  const parcels = new Map<string, OutlookRow[]>();
  for (const row of rows) parcels.set(row.parcel_id, [...(parcels.get(row.parcel_id) ?? []), row]);
  return outlookOf(
    [...parcels.values()].map((own) => groupOutlook(run, own, context.settings.zone)),
    dayText,
  );
}

function groupOutlook(run: RunRow, rows: readonly OutlookRow[], zone: string): GroupOutlook {
  const [{ label, left_out: leftOut }] = rows;
  const messages = rows.filter((row) => row.message_id !== null && row.envelope !== null);
  if (messages.length === 0) return { label, what: "none", messages: 0, ...(leftOut === null ? {} : { why: leftOut }) };
  const due = messages.map((row) => {
    const message = { envelope: row.envelope as MessageRow["envelope"], results: row.results ?? {} };
    const all = dueOf(
      message,
      { ...hadOf(row, zone), byOthers: new Set(), byPart: new Set(), isComplete: false, hasRows: false },
      false,
    );
    const left = dueOf(message, hadOf(row, zone), (row.again_reason ?? run.againReason) !== null);
    return { left, isAll: left.addresses.length === all.addresses.length, by: hadOf(row, zone).by };
  });
  const by = due.find((one) => one.by !== undefined)?.by;
  const facts = { label, ...(by ? { day: by.day, run: by.run } : {}) };
  const going = due.filter((one) => one.left.addresses.length > 0);
  if (going.length === 0) return { ...facts, what: "had", messages: 0 };
  if (going.some((one) => one.left.isRepeat)) return { ...facts, what: "again", messages: going.length };
  if (going.length < due.length || due.some((one) => !one.isAll))
    return { ...facts, what: "some", messages: going.length };
  return { label, what: "go", messages: going.length };
}

/** A day as people write it: 2 December 2026. */
function dayText(day: string): string {
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" }).format(
    new Date(`${day}T00:00:00Z`),
  );
}
