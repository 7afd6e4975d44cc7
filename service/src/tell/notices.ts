/** What somebody should be told: kept, shown in the console, and passed on to whoever wants to know. */
import type { NoticeKind } from "@corbix/api";
import { timeOfDay } from "@corbix/core/calendar";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { addNotice, addTelling, allWatchers, type WatcherRow } from "../records/index.js";

export interface Told {
  readonly kind: NoticeKind;
  readonly report?: string;
  readonly run?: string;
  readonly what: string;
  readonly advice?: string;
  /** Addresses that get a mail of it beside whoever wants to be told. */
  readonly besides?: readonly string[];
}

const DAY_MS = 86_400_000;

/** Keeps a notice, and puts it on its way to whoever wants to be told of its kind. */
export async function tell(context: Context, { kind, report, run, what, advice, besides = [] }: Told): Promise<void> {
  const { database } = context;
  const now = context.now();
  const notice = await addNotice(database, now, {
    kind,
    report: report ?? null,
    run: run ?? null,
    what,
    advice: advice ?? null,
  });
  context.log.info({ kind, report, run }, what);
  for (const watcher of await allWatchers(database)) {
    if (!watcher.kinds.includes(kind)) continue;
    if (watcher.reports !== null && (report === undefined || !watcher.reports.includes(report))) continue;
    const { name, address } = watcher;
    await addTelling(database, { notice, watcher: name, address, dueAt: dueAt(watcher, now) });
  }
  for (const address of besides) await addTelling(database, { notice, watcher: null, address, dueAt: now });
  await announce(database, { kind: "anything", subject: "notices" });
}

/** At once, or at the next morning's hour. */
function dueAt({ morning, zone }: WatcherRow, now: Date): Date {
  if (morning === null) return now;
  const today = timeOfDay(now, morning, zone);
  return today > now ? today : timeOfDay(new Date(now.getTime() + DAY_MS), morning, zone);
}
