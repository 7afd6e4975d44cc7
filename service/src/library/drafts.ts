/** Definitions that nobody has saved yet, looked at over the data and templates there are. */
import { type ScheduledTime, timesWithin } from "@corbix/core/calendar";
import { secondsToSend } from "@corbix/core/message";
import type { DraftWish } from "@corbix/core/run";
import { identities } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import { groupsOfLastRun } from "../records/index.js";
import type { DraftView } from "../threads/make-tasks.js";
import { calendarsOf, checkCalendars } from "./calendars.js";
import { readDefinition, templateBytes } from "./definitions.js";
import { type Tried, type TryRequest, trialInput, tryFile } from "./template-preview.js";

/** Coming times of a schedule that are shown: those of a year. */
export const SHOWN_TIMES = { days: 366, most: 400 } as const;

export interface DraftSight extends DraftView {
  readonly period: string | null;
  readonly nextTimes: readonly ScheduledTime[];
  /** Until the last message has gone, at the identity's pace; nothing where there is no such identity. */
  readonly sendingSeconds: number | null;
  /** Keys of the groups that the report's last run had; empty where it has not run. */
  readonly groupsBefore: ReadonlySet<string>;
}

/** What a definition makes of the data there are. Throws `BAD_DEFINITION` for a text that is none. */
export async function lookAtDraft(
  context: Context,
  source: string,
  wish: DraftWish & { readonly period?: string | undefined; readonly edition?: number | undefined },
): Promise<DraftSight> {
  const report = await readDefinition(context, source, "definition");
  await checkCalendars(context, report);
  const { schedule: calendar } = await calendarsOf(context, report);
  const input = await trialInput(context, report, wish, await templateBytes(context));
  const { group, search, conditions } = wish;
  const view = await context.threads.preview("lookAtDraft", { input, group, search, conditions });
  const pace = (await identities(context)).find((one) => one.name === report.delivery.from)?.settings;
  return {
    ...view,
    period: input.facts.period?.key ?? null,
    groupsBefore: await groupsOfLastRun(context.database, report.report),
    sendingSeconds: pace ? secondsToSend(view.messageCount, pace) : null,
    nextTimes: report.schedule ? timesWithin(report.schedule, context.now(), SHOWN_TIMES, calendar) : [],
  };
}

/** A file of a definition for one group. */
export async function tryDraft(context: Context, source: string, wish: Omit<TryRequest, "report">): Promise<Tried> {
  return tryFile(context, await readDefinition(context, source, "definition"), wish);
}
