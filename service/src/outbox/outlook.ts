/** What releasing a run would do, from the ledger as it stands now. */
import { made } from "@corbix/core/common";
import { type GroupOutlook, type Outlook, outlookOf } from "@corbix/core/delivery";
import type { Context } from "../process/context.js";
import { firstOutlook, type OutlookRow, outlookRows, type RunRow } from "../records/index.js";
import { dueOf, hadOf } from "./waiting.js";

/** Who would get theirs, who has it, who gets it again; nothing for a rehearsal, which counts for nobody. */
export async function deliveryOutlook(context: Context, run: RunRow): Promise<Outlook | null> {
  if (run.rehearsalTo !== null) return null;
  const [first, rows] = await Promise.all([
    firstOutlook(context.database, run.id),
    outlookRows(context.database, run.id),
  ]);
  const parcels = new Map<string, OutlookRow[]>();
  for (const row of rows) parcels.set(row.parcel_id, [...(parcels.get(row.parcel_id) ?? []), row]);
  return outlookOf(
    [...parcels.values()].map((own) => groupOutlook(run, own, context.settings.zone)),
    first,
    dayText,
  );
}

function groupOutlook(run: RunRow, rows: readonly OutlookRow[], zone: string): GroupOutlook {
  const { label, left_out: leftOut } = made(rows[0], "a parcel");
  const messages = rows.flatMap((row) =>
    row.envelope !== null && row.results !== null
      ? [{ row, message: { envelope: row.envelope, results: row.results } }]
      : [],
  );
  if (messages.length === 0) return { label, what: "none", messages: 0, ...(leftOut === null ? {} : { why: leftOut }) };
  const due = messages.map(({ row, message }) => {
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
