/** Passes notices on: by mail, several of a summary in one, or to an address that is called, signed. */
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { siteOf } from "../process/site.js";
import { allWatchers, type DueTelling, noteTellings, takeTellings, type WatcherRow } from "../records/index.js";
import { sendOwnMail } from "./own-mail.js";
import { postJson } from "./post.js";

const AT_ONCE = 200;
const FIRST_PAUSE_MS = 30_000;
const LONGEST_PAUSE_MS = 3_600_000;
const AS_WE_SIGN = { header: "X-Signature", form: "hex" } as const;

export async function tellDue(context: Context): Promise<void> {
  const due = await takeTellings(context.database, context.now(), AT_ONCE);
  if (due.length === 0) return;
  const watchers = new Map((await allWatchers(context.database)).map((one) => [one.name, one]));
  for (const some of bundles(due)) {
    const [{ watcher, tries }] = some as [DueTelling];
    const known = watcher === null ? undefined : watchers.get(watcher);
    const error = await passOn(context, some, known).then(
      () => undefined,
      (cause: Error) => cause.message,
    );
    const now = context.now();
    const pause = Math.min(FIRST_PAUSE_MS * 2 ** (tries - 1), LONGEST_PAUSE_MS);
    const ids = some.map(({ id }) => id);
    const outcome = error === undefined ? { toldAt: now } : { error };
    await noteTellings(context.database, ids, outcome, new Date(now.getTime() + pause));
    if (error !== undefined) context.log.warn({ watcher, tries, error }, "notice not passed on");
  }
}

/** What goes to the same place goes together. */
function bundles(due: readonly DueTelling[]): DueTelling[][] {
  const found = new Map<string, DueTelling[]>();
  for (const one of due) {
    const key = `${one.watcher} ${one.address} ${one.tries}`;
    found.set(key, [...(found.get(key) ?? []), one]);
  }
  return [...found.values()];
}

function passOn(context: Context, some: readonly DueTelling[], watcher: WatcherRow | undefined): Promise<void> {
  return watcher?.way === "callback" ? callBack(context, some, watcher) : writeMail(context, some);
}

function callBack(context: Context, some: readonly DueTelling[], { address, secret }: WatcherRow): Promise<void> {
  const notices = some.map(({ kind, report, run, what, advice, at }) => ({ kind, report, run, what, advice, at }));
  const signing = secret === null ? undefined : { secret: context.secrets.open(secret), ...AS_WE_SIGN };
  return postJson(context.reach, address, { notices }, signing);
}

function writeMail(context: Context, some: readonly DueTelling[]): Promise<void> {
  const [{ address, what, id }] = some as [DueTelling];
  const site = siteOf(context.settings);
  const lines = some.flatMap((one) => [
    `- ${one.what}${one.advice ? ` ${one.advice}` : ""}`,
    ...(one.run ? [`  ${site}/#/runs/${one.run}`] : one.report ? [`  ${site}/#/reports/${one.report}`] : []),
  ]);
  return sendOwnMail(context, {
    to: address,
    subject: some.length === 1 ? firstSentence(what) : say().serviceSchedule.noticesSubject({ count: some.length }),
    text: `${lines.join("\n")}\n`,
    id: `notice-${id}-${Date.parse(some[0]?.at.toISOString() ?? "")}`,
  });
}

const LONGEST_SUBJECT = 120;

function firstSentence(text: string): string {
  const first = /^.*?[.!](?=\s|$)/.exec(text)?.[0] ?? text;
  return first.length > LONGEST_SUBJECT ? `${first.slice(0, LONGEST_SUBJECT - 1)}…` : first.replace(/\.$/, "");
}
