/** What releasing a run would do, from the ledger as it stands now. */
import { made } from "@corbix/core/common";
import { type GroupOutlook, type Outlook, outlookOf } from "@corbix/core/delivery";
import type { Context } from "../process/context.js";
import { firstOutlook, type MessageRow, type OutlookRow, outlookRows, type RunRow } from "../records/index.js";
import { dueOf, type Had, hadOf, NOTHING_HAD } from "./waiting.js";

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
  const messages = rows.flatMap(({ envelope, results, again_reason: again, ...row }) =>
    envelope !== null && results !== null
      ? [{ envelope, results, had: hadOf(row, zone), isAgain: (again ?? run.againReason) !== null }]
      : [],
  );
  return { label, ...(leftOut === null ? {} : { why: leftOut }), ...outlookOfMessages(messages) };
}

/** A message that may go, with what the ledger knows of its occasion and group. */
export type MayGo = Pick<MessageRow, "envelope" | "results"> & { readonly had: Had; readonly isAgain: boolean };

/** What would become of a group's messages: the same before a run is started and before it is released. */
export function outlookOfMessages(messages: readonly MayGo[]): Omit<GroupOutlook, "label" | "why"> {
  if (messages.length === 0) return { what: "none", messages: 0 };
  const due = messages.map(({ had, isAgain, ...message }) => {
    const all = dueOf(message, NOTHING_HAD, false);
    const left = dueOf(message, had, isAgain);
    return { left, isAll: left.addresses.length === all.addresses.length };
  });
  const by = messages.find(({ had }) => had.by !== undefined)?.had.by;
  const facts = by ? { day: by.day, run: by.run } : {};
  const going = due.filter((one) => one.left.addresses.length > 0);
  if (going.length === 0) return { ...facts, what: "had", messages: 0 };
  if (going.some((one) => one.left.isRepeat)) return { ...facts, what: "again", messages: going.length };
  if (going.length < due.length || due.some((one) => !one.isAll))
    return { ...facts, what: "some", messages: going.length };
  return { what: "go", messages: going.length };
}

/** A day as people write it: 2 December 2026. */
function dayText(day: string): string {
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" }).format(
    new Date(`${day}T00:00:00Z`),
  );
}
