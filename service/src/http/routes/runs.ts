import { parsePeriod, periodLabel } from "@corbix/core/calendar";
import { CorbixError } from "@corbix/core/common";
import { onceOf, onceSentence } from "@corbix/core/delivery";
import { gridQuerySchema } from "@corbix/core/grid";
import { CONTENT_TYPES } from "@corbix/core/message";
import type { Report } from "@corbix/core/report";
import { planSentences } from "@corbix/core/run";
import { z } from "zod";
import { getReportVersion } from "../../library/definitions.js";
import { pauseRun, skipMessages } from "../../outbox/manual-actions.js";
import { deliveryOutlook } from "../../outbox/outlook.js";
import type { Context } from "../../process/context.js";
import { type FileRow, type MessageRow, type ParcelRow, type RunRow, unpackLines } from "../../records/index.js";
import { printOfRun, writeOut, zipOfRun } from "../../run/export-files.js";
import { releaseLater, releaseRun, stopRun } from "../../run/release.js";
import { getRun, parcelsOf } from "../../run/run-records.js";
import { startRun } from "../../run/start-run.js";
import { putIntoWebFolder } from "../../run/web-folder.js";
import { rowsFound } from "../../threads/look.js";
import { type Route, route } from "../route.js";
import { anything, byId, rows } from "../shapes.js";
import { showRows } from "./data.js";

const run = z.looseObject({
  id: z.string(),
  report: z.string(),
  title: z.string(),
  period: z.string(),
  periodLabel: z.string(),
  state: z.string(),
  sentences: z.array(z.string()),
  progress: anything,
});
const inRun = byId.extend({ number: z.coerce.number().int().min(1) });
/** Runs shown in a list at once. */
const LISTED_RUNS = 200;

export function runRoutes(): Route[] {
  return [
    route("get", "/api/runs", {
      summary: "Runs, newest first",
      tag: "Runs",
      answer: z.array(run),
      handle: async ({ context }) => {
        const all = (await context.database.models.Run.findAll({
          order: [["createdAt", "DESC"]],
          limit: LISTED_RUNS,
          raw: true,
        })) as unknown as RunRow[];
        return Promise.all(all.map((one) => showRun(context, one)));
      },
    }),
    route("post", "/api/runs", {
      summary: "Start a run, or a rehearsal",
      tag: "Runs",
      body: z.strictObject({
        report: z.string(),
        period: z
          .string()
          .optional()
          .describe("Such as 2026-10; without it the earliest that is over and not delivered."),
        edition: z.number().int().min(1).optional(),
        rehearsalTo: z.email().optional().describe("All messages go to this address only."),
        groups: z.array(z.string()).min(1).optional(),
        rows: gridQuerySchema
          .optional()
          .describe("Only the rows of its edition that this search finds: a run of its own."),
        again: z
          .string()
          .min(3)
          .max(500)
          .optional()
          .describe("Why groups that were delivered already get theirs again."),
      }),
      answer: run,
      handle: async ({ context, body, user }) => {
        const { rows: query, ...request } = body;
        const rows = query && (await rowsFound(context, request.report, request.edition, query));
        return showRun(context, await startRun(context, { ...request, ...(rows ? { rows } : {}) }, user.name));
      },
    }),
    route("get", "/api/runs/{id}", {
      summary: "A run with its proof and progress; while it is held, with what its release would do",
      tag: "Runs",
      params: byId,
      answer: run,
      handle: async ({ context, params }) => {
        const one = await getRun(context, params.id);
        const shown = await showRun(context, one);
        return one.state === "held" ? { ...shown, outlook: await deliveryOutlook(context, one) } : shown;
      },
    }),
    route("post", "/api/runs/{id}/release", {
      summary: "Let a held run's messages go",
      tag: "Runs",
      params: byId,
      body: z.strictObject({
        groups: z.array(z.string()).min(1).optional().describe("Only these groups."),
        at: z.iso
          .datetime({ offset: true })
          .nullable()
          .optional()
          .describe("Not now but then; null takes a time back."),
      }),
      answer: run,
      handle: async ({ context, params, body, user }) => {
        const outcome =
          body.at === undefined
            ? await releaseRun(context, params.id, user.name, body.groups)
            : await releaseLater(context, params.id, body.at === null ? null : new Date(body.at), user.name);
        return { ...(await showRun(context, await getRun(context, params.id))), outcome };
      },
    }),
    route("post", "/api/runs/{id}/stop", {
      summary: "Stop a run where it stands",
      tag: "Runs",
      params: byId,
      answer: run,
      handle: async ({ context, params, user }) => {
        await stopRun(context, params.id, user.name);
        return showRun(context, await getRun(context, params.id));
      },
    }),
    ...(["pause", "resume"] as const).map((what) =>
      route("post", `/api/runs/{id}/${what}`, {
        summary: what === "pause" ? "Let a run's waiting messages wait" : "Let them go on",
        tag: "Runs",
        params: byId,
        answer: run,
        handle: async ({ context, params, user }) => {
          await pauseRun(context, params.id, what === "pause", user.name);
          return showRun(context, await getRun(context, params.id));
        },
      }),
    ),
    route("post", "/api/runs/{id}/skip", {
      summary: "Leave groups out whose messages have not gone yet, with a reason",
      tag: "Runs",
      params: byId,
      body: z.strictObject({
        groups: z.array(z.string()).min(1),
        reason: z.string().trim().min(3, "expected a reason").max(500),
      }),
      answer: run,
      handle: async ({ context, params, body, user }) => {
        await skipMessages(context, params.id, body.groups, body.reason, user.name);
        return showRun(context, await getRun(context, params.id));
      },
    }),
    route("get", "/api/runs/{id}/parcels", {
      summary: "What each group gets in a run",
      tag: "Runs",
      params: byId,
      answer: z.array(anything),
      handle: async ({ context, params }) => {
        await getRun(context, params.id);
        const parcels = await parcelsOf(context, params.id);
        const files = (await context.database.models.File.findAll({
          where: { runId: params.id },
          order: [["id", "ASC"]],
          raw: true,
        })) as unknown as FileRow[];
        const messages = await messagesOf(context, params.id);
        return parcels.map((parcel) => showParcel(parcel, files, messages));
      },
    }),
    route("get", "/api/runs/{id}/parcels/{number}", {
      summary: "One parcel with its message as it is sent and its trail",
      tag: "Runs",
      params: inRun,
      answer: anything,
      handle: async ({ context, params }) => {
        const parcel = await getParcel(context, params.id, params.number);
        const files = (await context.database.models.File.findAll({
          where: { parcelId: parcel.id },
          order: [["id", "ASC"]],
          raw: true,
        })) as unknown as FileRow[];
        const messages = (await context.database.models.Message.findAll({
          where: { parcelId: parcel.id },
          attributes: { exclude: ["mime"] },
          order: [["id", "ASC"]],
          raw: true,
        })) as unknown as MessageRow[];
        const message = messages.at(-1);
        const attempts = await context.database.select(
          'SELECT message_id AS "messageId", number, worker, started_at AS "startedAt", finished_at AS "finishedAt", outcome, stage, response FROM attempts WHERE message_id = ANY($1) ORDER BY id',
          [messages.map((one) => one.id)],
        );
        return {
          ...showParcel(parcel, files, messages),
          html: message?.html ?? null,
          text: message?.text ?? null,
          messages,
          attempts,
        };
      },
    }),
    route("get", "/api/runs/{id}/parcels/{number}/rows", {
      summary: "The rows a parcel was made of",
      tag: "Runs",
      params: inRun,
      answer: rows,
      handle: async ({ context, params }) => {
        const { columns, emptied } = await getRun(context, params.id);
        if (emptied.rows)
          throw new CorbixError("NOT_FOUND", "Cannot show the rows: they were deleted when their time was over.", {
            where: `run ${params.id}`,
            advice: "The edition they came from has them, if it is still there.",
          });
        const { lines } = await getParcel(context, params.id, params.number);
        const table = unpackLines(columns ?? [], [lines]);
        return showRows(table, table.rowCount);
      },
    }),
    route("get", "/api/runs/{id}/files.zip", {
      summary: "A run's files in one zip, a folder for each group; or those of one group",
      tag: "Runs",
      params: byId,
      query: z.object({ group: z.string().max(300).optional() }),
      answer: "application/zip",
      handle: async ({ context, params, query, response }) => {
        const bytes = await zipOfRun(context, params.id, query.group === undefined ? undefined : [query.group]);
        response.attachment(`run-${params.id}.zip`).type("application/zip").send(Buffer.from(bytes));
      },
    }),
    route("get", "/api/runs/{id}/print.pdf", {
      summary: "The PDFs of all parcels in one file, for printing",
      tag: "Runs",
      params: byId,
      query: z.object({
        group: z.string().max(300).optional(),
        sheets: z.stringbool().default(false).describe("Whether each file begins on a sheet of its own."),
      }),
      answer: "application/pdf",
      handle: async ({ context, params, query, response }) => {
        const groups = query.group === undefined ? undefined : [query.group];
        const bytes = await printOfRun(context, params.id, { sheets: query.sheets, groups });
        response.attachment(`run-${params.id}.pdf`).type("application/pdf").send(Buffer.from(bytes));
      },
    }),
    route("post", "/api/runs/{id}/folder", {
      summary: "Write a run's files to a folder under the outgoing folder; nothing is ever written over",
      tag: "Runs",
      params: byId,
      body: z.strictObject({
        folder: z.string().max(300).default("").describe("Folder under the outgoing one."),
        perGroup: z.boolean().default(false).describe("A folder for each group in place of the files' own folders."),
        groups: z.array(z.string()).min(1).optional(),
      }),
      answer: z.object({ folder: z.string(), written: z.number().int(), same: z.number().int() }),
      handle: ({ context, params, body, user }) => writeOut(context, params.id, body, user.name),
    }),
    route("post", "/api/runs/{id}/web-folder", {
      summary: "Put a run's files into a WebDAV folder, a folder for each group; nothing is ever written over",
      tag: "Runs",
      params: byId,
      body: z.strictObject({
        url: z.url({ protocol: /^https?$/ }),
        user: z.string().max(300).optional(),
        password: z.string().max(1_000).optional(),
        groups: z.array(z.string()).min(1).optional(),
      }),
      answer: z.object({ put: z.number().int() }),
      handle: ({ context, params, body, user }) => {
        const { groups, ...folder } = body;
        return putIntoWebFolder(context, params.id, folder, groups, user.name);
      },
    }),
    route("get", "/api/files/{id}", {
      summary: "A made file",
      tag: "Runs",
      params: z.object({ id: z.string().regex(/^\d{1,18}$/) }),
      query: z.object({ show: z.stringbool().default(false).describe("Shown in the page rather than saved.") }),
      answer: "application/octet-stream",
      handle: async ({ context, params, query, response }) => {
        const file = (await context.database.models.File.findByPk(params.id, {
          raw: true,
        })) as unknown as FileRow | null;
        if (!file) throw new CorbixError("NOT_FOUND", `Cannot find the file \`${params.id}\`.`, { where: "files" });
        if (file.removedAt)
          throw new CorbixError("NOT_FOUND", `Cannot open "${file.path}": it was deleted when its time was over.`, {
            where: "files",
            advice: "Its report says in its retention how long files are kept.",
          });
        const bytes = Buffer.from(await context.store.get(file.sha256));
        if (!query.show) response.attachment(file.path.split("/").pop() ?? file.path);
        response.type(CONTENT_TYPES[file.kind]).send(bytes);
      },
    }),
  ];
}

async function getParcel(context: Context, runId: string, number: number): Promise<ParcelRow> {
  const found = await context.database.models.Parcel.findOne({ where: { runId, number }, raw: true });
  if (found) return found as unknown as ParcelRow;
  throw new CorbixError("NOT_FOUND", `Cannot find parcel ${number} of run \`${runId}\`.`, { where: "runs" });
}

async function messagesOf(context: Context, runId: string): Promise<MessageRow[]> {
  return (await context.database.models.Message.findAll({
    where: { runId },
    attributes: { exclude: ["html", "text", "mime"] },
    order: [["id", "ASC"]],
    raw: true,
  })) as unknown as MessageRow[];
}

/** A run as it is shown: with its sentences as far as they are known, and how far it is. */
export async function showRun(context: Context, one: RunRow): Promise<object> {
  const report = (await getReportVersion(context, one.report, one.reportVersion)).definition;
  const counts = await context.database.select<{ kind: string; state: string; count: number }>(
    "SELECT 'parcel' AS kind, state, count(*)::int AS count FROM parcels WHERE run_id = $1 GROUP BY state UNION ALL SELECT 'message', state, count(*)::int FROM messages WHERE run_id = $1 GROUP BY state",
    [one.id],
  );
  const of = (kind: string): Record<string, number> =>
    Object.fromEntries(counts.filter((count) => count.kind === kind).map((count) => [count.state, count.count]));
  const { columns: _columns, templates: _templates, onlyRows, ...shown } = one;
  return {
    ...shown,
    title: report.title,
    data: report.data,
    edition: one.editions[report.data],
    rowsChosen: onlyRows?.rowNumbers.length ?? null,
    periodLabel: report.period ? periodLabel(parsePeriod(one.period, report.period.every), report.locale) : one.period,
    sentences: one.proof?.sentences ?? (one.plan ? planSentences(one.plan, one.parcelCount) : []),
    once: onceOf(report).kind,
    onceSentence: onceSentence(onceOf(report)),
    periodSentence: periodSentence(one, report),
    findings: one.proof?.findings ?? one.plan?.findings ?? [],
    approvalsWanted: report.delivery.approvals,
    goesOn: one.rehearsalTo !== null || !report.delivery.hold,
    progress: { parcels: of("parcel"), messages: of("message") },
  };
}

/** How the run came to its period, where nobody named one. */
function periodSentence({ periodChoice }: RunRow, report: Report): string | null {
  if (!periodChoice || !report.period) return null;
  const { every } = report.period;
  const label = (key: string): string => periodLabel(parsePeriod(key, every), report.locale);
  const rest = periodChoice.open.slice(0, 6).map(label).join(", ");
  const more = periodChoice.open.length > 6 ? ` and ${periodChoice.open.length - 6} more` : "";
  return `${label(periodChoice.chosen)} is the earliest that is over and not delivered${rest === "" ? "" : `; also open: ${rest}${more}`}.`;
}

function showParcel(
  parcel: Omit<ParcelRow, "lines"> & { lines?: Buffer },
  files: readonly FileRow[],
  messages: readonly MessageRow[],
) {
  const { lines: _lines, ...shown } = parcel;
  // The newest stands for the parcel; what was sent before it is told beside.
  const message = messages.filter((candidate) => candidate.parcelId === parcel.id).at(-1);
  return {
    ...shown,
    files: files
      .filter((file) => file.parcelId === parcel.id)
      .map(({ id, path, kind, size, pages, sha256, provenance }) => ({
        id,
        path,
        kind,
        size,
        pages,
        sha256,
        provenance,
        attached: parcel.attachments.includes(path),
      })),
    message: message
      ? {
          id: message.id,
          subject: message.subject,
          envelope: message.envelope,
          messageId: message.messageId,
          state: message.state,
          attempts: message.attempts,
          response: message.response,
          results: message.results,
          identity: message.identity,
          again: message.again,
          againReason: message.againReason,
          size: message.size,
          sentAt: message.sentAt,
        }
      : null,
  };
}
