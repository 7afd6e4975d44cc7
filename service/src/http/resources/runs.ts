import type { runEndpoints } from "@corbix/api";
import { CorbixError, sumUpFindings } from "@corbix/core/common";
import { onceOf, onceSentence } from "@corbix/core/delivery";
import type { GridQuery } from "@corbix/core/grid";
import { CONTENT_TYPES } from "@corbix/core/message";
import type { Report } from "@corbix/core/report";
import { planSentences } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { namesOf } from "../../access/rights.js";
import { auditOfRun } from "../../audit/run-audit.js";
import { getReport, getReportVersion } from "../../library/definitions.js";
import { pauseRun, skipMessages } from "../../outbox/manual-actions.js";
import { deliveryOutlook } from "../../outbox/outlook.js";
import type { Context } from "../../process/context.js";
import {
  attemptsOf,
  byParcel,
  fileById,
  filesOfParcels,
  type ListedFile,
  type ListedMessage,
  type ListedParcel,
  type ListedRun,
  linesOfParcelNumber,
  messagesOfParcels,
  type PeriodParcel,
  pageOf,
  pageOfParcels,
  pageOfPeriodParcels,
  pageOfRuns,
  parcelOfRun,
  progressOf,
  type RunProgress,
  type RunRow,
  type ShownParcel,
  textsOfMessage,
  unpackLines,
} from "../../records/index.js";
import { printOfRun, writeOut, zipOfRun } from "../../run/export-files.js";
import { figuresByHand } from "../../run/figures.js";
import { labelOfPeriod } from "../../run/period-label.js";
import { picksOf, rowsTicked } from "../../run/picks.js";
import { digestOfGoing, releaseLater, releaseRun, stopRun } from "../../run/release.js";
import { getRun } from "../../run/run-records.js";
import { startRun } from "../../run/start-run.js";
import { putIntoWebFolder } from "../../run/web-folder.js";
import { rowsFound } from "../../threads/look.js";
import { type HandlersOf, iso } from "../handler.js";
import { showAttempt, showMessage } from "./show-message.js";
import { showRows } from "./show-rows.js";

/** Rows that a search finds, or that were ticked. */
function pickedRows(
  context: Context,
  report: string,
  edition: number | undefined,
  rows: GridQuery | { readonly numbers: readonly number[] },
) {
  return "numbers" in rows
    ? rowsTicked(context, report, edition, rows.numbers)
    : rowsFound(context, report, edition, rows);
}

export const runHandlers: HandlersOf<typeof runEndpoints> = {
  listRuns: async ({ context, query: { limit, cursor, ...filter }, scope }) => {
    const page = await pageOfRuns(context.database, { ...filter, among: namesOf(scope) }, { limit, cursor });
    const progress = await progressOf(
      context.database,
      page.items.map((one) => one.id),
    );
    return { items: page.items.map((one) => summaryOf(one, progress.get(one.id))), next: page.next };
  },

  startRun: async ({ context, body, user, created }) => {
    const { rows: wanted, ...request } = body;
    const rows = wanted && (await pickedRows(context, request.report, request.edition, wanted));
    const run = await startRun(context, { ...request, ...(rows ? { rows } : {}) }, user.name);
    created(`/runs/${run.id}`);
    return showRun(context, run.id);
  },

  lookAtPicks: async ({ context, params, body }) => {
    const { rows, ...wish } = body;
    return picksOf(context, params.name, wish, await pickedRows(context, params.name, wish.edition, rows));
  },

  showRun: ({ context, params }) => showRun(context, params.id),

  listFindings: async ({ context, params, query: { code, severity, ...wish } }) => {
    const { proof, plan } = await getRun(context, params.id);
    const found = (proof?.findings ?? plan?.findings ?? []).filter(
      (one) => (code === undefined || one.code === code) && (severity === undefined || one.severity === severity),
    );
    return { ...pageOf(found, wish), total: found.length };
  },

  releaseRun: async ({ context, params, body, user }) => {
    const outcome =
      body.at === undefined
        ? await releaseRun(context, params.id, user.name, body.groups)
        : await releaseLater(context, params.id, body.at === null ? null : new Date(body.at), user.name);
    return { ...(await showRun(context, params.id)), outcome };
  },

  stopRun: async ({ context, params, user }) => {
    await stopRun(context, params.id, user.name);
    return showRun(context, params.id);
  },

  pauseRun: async ({ context, params, user }) => {
    await pauseRun(context, params.id, true, user.name);
    return showRun(context, params.id);
  },

  resumeRun: async ({ context, params, user }) => {
    await pauseRun(context, params.id, false, user.name);
    return showRun(context, params.id);
  },

  skipGroups: async ({ context, params, body, user }) => {
    await skipMessages(context, params.id, body.groups, body.reason, user.name);
    return showRun(context, params.id);
  },

  keepFigures: async ({ context, params, body, user, created }) => {
    const kept = await figuresByHand(context, params.id, body.dataset, user.name);
    created(`/datasets/${kept.dataset}/editions/${kept.edition}`);
    return kept;
  },

  listPeriodFiles: async ({ context, params, query: { limit, cursor, period, search } }) => {
    const report = await getReport(context, params.name);
    const of = { report: report.name, period, search };
    const { items, next, total } = await pageOfPeriodParcels(context.database, of, { limit, cursor });
    const filesOf = byParcel(
      await filesOfParcels(
        context.database,
        items.map((one) => one.id),
      ),
    );
    return { items: items.map((one) => periodFiles(one, filesOf.get(one.id) ?? [])), next, total };
  },

  listParcels: async ({ context, params, query: { limit, cursor, first, ...filter } }) => {
    await getRun(context, params.id);
    const page = await pageOfParcels(context.database, params.id, filter, { limit, cursor, first });
    const ids = page.items.map((one) => one.id);
    const [files, messages] = await Promise.all([
      filesOfParcels(context.database, ids),
      messagesOfParcels(context.database, ids),
    ]);
    const [filesOf, messagesOf] = [byParcel(files), byParcel(messages)];
    return {
      items: page.items.map((one) => parcelSummary(one, filesOf.get(one.id) ?? [], messagesOf.get(one.id) ?? [])),
      next: page.next,
      total: page.total,
    };
  },

  showParcel: async ({ context, params }) => {
    const parcel = await getParcel(context, params.id, params.number);
    const [files, messages] = await Promise.all([
      filesOfParcels(context.database, [parcel.id]),
      messagesOfParcels(context.database, [parcel.id]),
    ]);
    const newest = messages.findLast((one) => one.way === null);
    const [attempts, texts] = await Promise.all([
      attemptsOf(
        context.database,
        messages.map((one) => one.id),
      ),
      newest ? textsOfMessage(context.database, newest.id) : undefined,
    ]);
    return {
      ...parcelSummary(parcel, files, messages),
      rowsDigest: parcel.rowsDigest,
      recipients: parcel.recipients.map(({ name, role = "to", to, copies, blindCopies, language, ...rest }) => ({
        name,
        role,
        to,
        copies,
        blindCopies,
        language: language ?? null,
        why: "why" in rest && typeof rest.why === "string" ? rest.why : null,
      })),
      attachments: parcel.attachments,
      enclosed: parcel.enclosed.map(({ name, sha256, size, kind, origin }) => ({ name, sha256, size, kind, origin })),
      findings: parcel.findings,
      html: texts?.html ?? null,
      text: texts?.text ?? null,
      messages: messages.map(showMessage),
      attempts: attempts.map(showAttempt),
    };
  },

  listParcelRows: async ({ context, params, query }) => {
    const { columns, emptied } = await getRun(context, params.id);
    if (emptied.rows)
      throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotShowRowsTheyDeleted(), {
        where: say().place.run({ id: params.id }),
        advice: say().serviceHttp.editionTheyCameThemIf(),
      });
    await getParcel(context, params.id, params.number);
    const lines = await linesOfParcelNumber(context.database, params.id, params.number);
    return showRows(unpackLines(columns ?? [], lines ? [lines] : []), query);
  },

  downloadRun: async ({ context, params, query, response }) => {
    const bytes = await zipOfRun(context, params.id, query.group === undefined ? undefined : [query.group]);
    response.attachment(`run-${params.id}.zip`).type("application/zip").send(Buffer.from(bytes));
  },

  printRun: async ({ context, params, query, response }) => {
    const groups = query.group === undefined ? undefined : [query.group];
    const bytes = await printOfRun(context, params.id, { sheets: query.sheets ?? false, groups });
    response.attachment(`run-${params.id}.pdf`).type("application/pdf").send(Buffer.from(bytes));
  },

  auditRun: async ({ context, params, response, user }) => {
    const bytes = await auditOfRun(context, params.id, user.name);
    response.attachment(`audit-${params.id}.pdf`).type("application/pdf").send(Buffer.from(bytes));
  },

  exportToFolder: ({ context, params, body, user }) => writeOut(context, params.id, body, user.name),

  exportToWebFolder: ({ context, params, body, user }) => {
    const { groups, ...folder } = body;
    return putIntoWebFolder(context, params.id, folder, groups, user.name);
  },

  downloadMadeFile: async ({ context, params, query, response }) => {
    const file = await fileById(context.database, params.id);
    if (!file)
      throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindFile({ id: params.id }), { where: "files" });
    if (file.removedAt)
      throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotOpenDeletedWhenTime({ path: file.path }), {
        where: "files",
        advice: say().serviceHttp.reportSaysRetentionHowLong(),
      });
    const bytes = Buffer.from(await context.store.get(file.sha256));
    // Only pages are shown where we stand; what else came of data is no page of ours.
    if (!query.show || file.kind !== "pdf") response.attachment(file.path.split("/").pop() ?? file.path);
    response.type(CONTENT_TYPES[file.kind]).send(bytes);
  },
};

async function getParcel(context: Context, runId: string, number: number): Promise<ShownParcel> {
  const found = await parcelOfRun(context.database, runId, number);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindParcelRun({ number, runId }), { where: "runs" });
}

function summaryOf(one: ListedRun, progress: RunProgress = { parcels: {}, messages: {}, carried: {} }) {
  const report = one.definition;
  return {
    id: one.id,
    report: one.report,
    title: report.title,
    data: report.data,
    edition: one.editions[report.data] ?? 0,
    period: one.period,
    periodLabel: labelOfPeriod(one.period, report, one.calendar),
    state: one.state,
    rehearsalTo: one.rehearsalTo,
    goesOn: one.rehearsalTo !== null || !report.delivery.hold,
    paused: one.paused,
    parcelCount: one.parcelCount,
    progress,
    error: one.error,
    waitingFor: one.waitingFor,
    releaseAt: iso(one.releaseAt),
    startedBy: one.startedBy,
    releasedBy: one.releasedBy,
    createdAt: iso(one.createdAt),
    releasedAt: iso(one.releasedAt),
    finishedAt: iso(one.finishedAt),
  };
}

/** A run as it is shown: with its sentences as far as they are known, how far it is, and, while it is held, what its release would do. */
async function showRun(context: Context, id: string) {
  const one = await getRun(context, id);
  const report = (await getReportVersion(context, one.report, one.reportVersion)).definition;
  const isAsked = one.state === "held" && one.approvals.length > 0;
  const [progress, outlook, going] = await Promise.all([
    progressOf(context.database, [id]),
    one.state === "held" ? deliveryOutlook(context, one) : null,
    isAsked ? digestOfGoing(context, one) : null,
  ]);
  const once = onceOf(report);
  return {
    ...summaryOf({ ...one, definition: report }, progress.get(id)),
    reportVersion: one.reportVersion,
    sentences: one.proof?.sentences ?? (one.plan ? planSentences(one.plan, one.parcelCount) : []),
    findings: sumUpFindings(one.proof?.findings ?? one.plan?.findings ?? []),
    proof: one.proof && showProof(one.proof),
    once: once.kind,
    onceSentence: onceSentence(once),
    periodSentence: periodSentence(one, report),
    onlyGroups: one.onlyGroups,
    rowsChosen: one.onlyRows?.rowNumbers.length ?? null,
    againReason: one.againReason,
    approvals: one.approvals.map(({ by, at, digest = null, groups }) => ({
      by,
      at,
      digest,
      groups: groups?.length ?? null,
      stands: going === null || digest === going,
    })),
    approvalsWanted: report.delivery.approvals,
    emptied: one.emptied,
    since: one.since && {
      ...one.since,
      periodLabel: labelOfPeriod(one.since.period, report, one.calendar),
      gone: one.since.gone.map((group) => ({ ...group })),
    },
    outlook,
  };
}

function showProof({
  mayBeReleased,
  groups,
  rows,
  totals,
  files,
  messages,
  people,
  carried,
  mail,
  sample,
}: NonNullable<RunRow["proof"]>) {
  return {
    mayBeReleased,
    groups,
    rows,
    totals,
    files,
    messages,
    people,
    ...(carried ? { carried } : {}),
    ...(mail ? { mail } : {}),
    ...(sample ? { sample } : {}),
  };
}

/** How the run came to its period, where nobody named one. */
function periodSentence({ periodChoice, calendar }: RunRow, report: Report): string | null {
  if (!periodChoice || !report.period) return null;
  const label = (key: string): string => labelOfPeriod(key, report, calendar);
  const along = (periodChoice.along ?? []).map(label);
  if (along.length > 0)
    return say().serviceHttp.newestOverDelivered({ label: label(periodChoice.chosen), along: along.join(", ") });
  const rest = periodChoice.open.slice(0, 6).map(label).join(", ");
  const more = periodChoice.open.length > 6 ? ` and ${periodChoice.open.length - 6} more` : "";
  return say().serviceHttp.earliestOverDelivered({ label: label(periodChoice.chosen), rest, more });
}

function parcelSummary(parcel: ListedParcel, files: readonly ListedFile[], messages: readonly ListedMessage[]) {
  // The newest stands for the parcel; what was sent before it is told beside.
  const newest = messages.findLast((one) => one.way === null);
  return {
    number: parcel.number,
    label: parcel.label,
    groupKey: parcel.groupKey,
    rowCount: parcel.rowCount,
    totals: parcel.totals,
    state: parcel.state,
    leftOut: parcel.leftOut,
    error: parcel.error,
    since: parcel.since,
    moved: parcel.moved,
    files: files.map((file) => showFile(file, parcel.attachments)),
    message: newest ? showMessage(newest) : null,
    ways: messages.flatMap(({ way, state }) => (way === null ? [] : [{ way, state }])),
  };
}

function showFile({ id, path, kind, size, pages, sha256 }: ListedFile, attachments: readonly string[]) {
  return { id, path, kind, size, pages, sha256, attached: attachments.includes(path) };
}

function periodFiles(one: PeriodParcel, files: readonly ListedFile[]) {
  const { groupKey, label, run, number, at, message, attachments } = one;
  return {
    groupKey,
    label,
    run,
    parcel: number,
    at: iso(at),
    message,
    files: files.map((file) => showFile(file, attachments)),
  };
}
