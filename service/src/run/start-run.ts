import { randomBytes } from "node:crypto";
import { dayInZone, parsePeriod, previousPeriod } from "@corbix/core/calendar";
import { CorbixError, cleanKey, isoFromSerial, maybeSerialFromIso } from "@corbix/core/common";
import { otherDatasets } from "@corbix/core/prepare";
import type { Report } from "@corbix/core/report";
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import { announce } from "../events.js";
import { getReport, newestRecipients, newestTemplates } from "../library.js";
import { getEdition, type RunRow } from "../records/index.js";

export interface RunRequest {
  readonly report: string;
  /** Key of the period, such as 2026-10; without it the last one that is over. */
  readonly period?: string;
  /** Number of the edition; without it the newest. */
  readonly edition?: number;
  /** Address that gets all messages, each marked with who would have got it. */
  readonly rehearsalTo?: string;
  /** Groups as written; all if not given. */
  readonly groups?: readonly string[];
  /** Only these rows of the edition, by their number in the origin: the result of a search. */
  readonly rows?: { readonly rowNumbers: readonly number[]; readonly why: string };
  /** Why groups that were delivered already get theirs again. */
  readonly again?: string;
}

/** Fixes everything a run depends on and queues its plan. Throws what is missing. */
export async function startRun(context: Context, request: RunRequest, by: string): Promise<RunRow> {
  const version = await getReport(context, request.report);
  const report = version.definition;
  const edition = await getEdition(context.database, report.data, request.edition);
  const editions: Record<string, number> = { [report.data]: edition.number };
  for (const other of otherDatasets(report)) editions[other] = (await getEdition(context.database, other)).number;
  const day = dayInZone(context.now(), report.schedule?.zone ?? context.settings.zone);
  const runDate = maybeSerialFromIso(day) as number;
  const recipients = await newestRecipients(context);
  const templates = Object.fromEntries(
    (await newestTemplates(context)).map((template) => [template.name, template.sha256]),
  );
  const created = await context.database.models.Run.create({
    id: randomBytes(4).toString("hex"),
    report: report.report,
    reportVersion: version.number,
    period: periodKey(report, request.period, runDate),
    state: "planning",
    editionId: edition.id,
    editions,
    recipientListId: recipients?.id ?? null,
    templates,
    runDate,
    rehearsalTo: request.rehearsalTo ?? null,
    onlyGroups: request.groups?.map(cleanKey) ?? null,
    againReason: request.again ?? null,
    onlyRows: request.rows ?? null,
    startedBy: by,
  });
  const run = created.get({ plain: true });
  await context.queue.send("plan", { run: run.id });
  await noteAction(context.database, by, request.rehearsalTo ? "rehearsal started" : "run started", run.id, {
    report: report.report,
    period: run.period,
  });
  await announce(context.database, { kind: "run", subject: run.id });
  return run;
}

function periodKey(report: Report, wanted: string | undefined, runDate: number): string {
  if (!report.period) {
    // Without a period a run counts as one for its day.
    if (wanted === undefined) return isoFromSerial(runDate);
    throw new CorbixError(
      "BAD_REQUEST",
      `Cannot run \`${report.report}\` for \`${wanted}\`: the report has no period.`,
      { where: "period", advice: "Leave the period out, or add one to the report." },
    );
  }
  return wanted === undefined
    ? previousPeriod(runDate, report.period.every).key
    : parsePeriod(wanted, report.period.every).key;
}
