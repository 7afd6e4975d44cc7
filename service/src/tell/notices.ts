/** What somebody should be told: kept, shown in the console, and passed on. */
import type { NoticeKind } from "@corbix/api";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { addNotice } from "../records/index.js";

export interface Told {
  readonly kind: NoticeKind;
  readonly report?: string;
  readonly run?: string;
  readonly what: string;
  readonly advice?: string;
  /** Addresses that get a mail of it beside whoever wants to be told. */
  readonly besides?: readonly string[];
}

/** Keeps a notice for whoever wants to be told of its kind. */
export async function tell(context: Context, { kind, report, run, what, advice }: Told): Promise<void> {
  const notice = { kind, report: report ?? null, run: run ?? null, what, advice: advice ?? null };
  await addNotice(context.database, context.now(), notice);
  context.log.info({ kind, report, run }, what);
  await announce(context.database, { kind: "anything", subject: "notices" });
}
