import { MESSAGE_STATES, RUN_STATES } from "@corbix/core/delivery";
import { gridQuerySchema } from "@corbix/core/grid";
import { z } from "zod";
import {
  byName,
  byRun,
  count,
  countedPage,
  digest,
  envelope,
  fileKind,
  finding,
  groups,
  instant,
  matchedPerson,
  name,
  page,
  paging,
  period,
  reason,
  rowId,
  rows,
  runId,
  severity,
  sorting,
  summedFinding,
  truth,
  whole,
} from "./common.js";
import { endpoint } from "./endpoint.js";

export const runState = z.enum(RUN_STATES);
export const messageState = z.enum(MESSAGE_STATES);
const PARCEL_STATES = ["planned", "made", "failed"] as const;
const parcelState = z.enum(PARCEL_STATES);

const failure = z.strictObject({
  code: z.string(),
  message: z.string(),
  where: z.string().optional(),
  advice: z.string().optional(),
});

/** A state is left out where nothing is in it. */
const countsOf = <State extends string>(states: readonly State[]) =>
  z.strictObject(
    Object.fromEntries(states.map((state) => [state, count.optional()])) as Record<State, z.ZodOptional<typeof count>>,
  );

const summary = {
  id: runId,
  report: z.string(),
  title: z.string(),
  data: z.string(),
  edition: whole,
  period: z.string(),
  periodLabel: z.string(),
  state: runState,
  rehearsalTo: z.string().nullable().describe("All messages go to this address only."),
  goesOn: z.boolean().describe("It is released by itself when no finding stops it."),
  paused: z.boolean(),
  parcelCount: count,
  progress: z.strictObject({
    parcels: countsOf(PARCEL_STATES),
    messages: countsOf(MESSAGE_STATES),
    carried: countsOf(MESSAGE_STATES).describe("What goes by other ways than mail: one for each group and way."),
  }),
  error: failure.nullable(),
  waitingFor: failure.omit({ where: true }).extend({ state: runState }).nullable(),
  releaseAt: instant.nullable().describe("When it releases itself."),
  startedBy: z.string(),
  releasedBy: z.string().nullable(),
  createdAt: instant,
  releasedAt: instant.nullable(),
  finishedAt: instant.nullable(),
};

const runSummary = z.strictObject(summary).meta({ id: "RunSummary" });

const proof = z
  .strictObject({
    mayBeReleased: z.boolean(),
    groups: count,
    rows: z.strictObject({
      master: count,
      made: count.optional(),
      inGroups: count,
      leftOut: z.array(z.strictObject({ reason: z.string(), count, rowNumbers: z.array(z.number()) })),
    }),
    totals: z.array(
      z.strictObject({
        name: z.string(),
        master: z.string(),
        parcels: z.string().optional(),
        leftOut: z.string(),
        agrees: z.boolean(),
      }),
    ),
    files: z.strictObject({ planned: count, made: count, empty: count.optional(), bytes: count }),
    messages: count,
    people: count,
    carried: z
      .record(z.string(), count)
      .optional()
      .describe("Files that go to ways out besides mail, by the way's name."),
    mail: z.strictObject({ bytes: count, largest: count }).optional(),
    sample: z
      .array(z.strictObject({ number: whole, label: z.string(), why: z.string() }))
      .optional()
      .describe("Parcels worth opening before the release."),
  })
  .meta({ id: "Proof" });

const outlook = z
  .strictObject({
    groups: count,
    messages: count,
    going: count,
    some: count,
    again: count,
    had: count,
    none: count,
    notable: z.array(
      z.strictObject({
        label: z.string(),
        what: z.enum(["go", "some", "again", "had", "none"]),
        day: z.string().optional(),
        run: runId.optional(),
        why: z.string().optional(),
        messages: count,
      }),
    ),
    sentences: z.array(z.string()),
  })
  .meta({ id: "Outlook" });

const run = z
  .strictObject({
    ...summary,
    reportVersion: whole,
    sentences: z.array(z.string()).describe("The proof in sentences, as far as it is known."),
    findings: z.array(summedFinding).describe("Findings of one kind told as one; all of them at /runs/{id}/findings."),
    proof: proof.nullable(),
    once: z.enum(["period", "edition", "row", "hand"]),
    onceSentence: z.string().describe("What may happen once, as a sentence."),
    periodSentence: z.string().nullable().describe("How it came to its period, where nobody named one."),
    onlyGroups: z.array(z.string()).nullable(),
    rowsChosen: count.nullable().describe("Rows of its edition that alone are used, where a search chose them."),
    againReason: z.string().nullable(),
    approvals: z.array(
      z.strictObject({
        by: z.string(),
        at: instant,
        digest: digest.nullable().describe("Of the proof and the messages it was given for."),
        groups: count.nullable().describe("How many groups it was given for; null for all."),
        stands: z.boolean().describe("Whether what would go now is what it was given for."),
      }),
    ),
    approvalsWanted: count,
    emptied: z
      .strictObject({ files: instant.optional(), messages: instant.optional(), rows: instant.optional() })
      .describe("What of it was deleted when its time was over, and when."),
    since: z
      .strictObject({
        run: runId,
        period: z.string(),
        periodLabel: z.string(),
        newCount: count,
        movedCount: count.describe("Groups with a figure that became half or double."),
        resizedCount: count.describe("Groups whose files have twice or half the size."),
        goneCount: count,
        gone: z.array(z.strictObject({ label: z.string(), rows: count })).describe("The first of them."),
      })
      .nullable()
      .describe("Beside the run of the period before."),
    outlook: outlook.nullable().describe("What its release would do, while it is held."),
  })
  .meta({ id: "Run" });

const released = run
  .extend({ outcome: z.enum(["released", "approved", "set", "taken back"]) })
  .meta({ id: "ReleasedRun" });

const file = z
  .strictObject({
    id: rowId,
    path: z.string(),
    kind: fileKind,
    size: count,
    pages: count.nullable(),
    sha256: digest,
    attached: z.boolean(),
  })
  .meta({ id: "MadeFile" });

export const addressResult = z
  .strictObject({
    state: z.enum(["taken", "later", "refused", "returned", "delayed", "delivered"]),
    response: z.string(),
  })
  .meta({ id: "AddressResult" });

/** What is the same of a message wherever it is shown. */
export const messageFacts = {
  id: rowId,
  part: z.string(),
  subject: z.string(),
  envelope,
  messageId: z.string(),
  identity: z.string(),
  way: z
    .string()
    .nullable()
    .describe("Of files that go by another way than mail: its name; addresses are places there."),
  state: messageState,
  attempts: count,
  response: z.string().nullable(),
  results: z.record(z.string(), addressResult).describe("By address."),
  again: count.describe("0 for the first; counts each sending again."),
  againReason: z.string().nullable(),
  size: count.nullable(),
  sentAt: instant.nullable(),
};
const message = z.strictObject(messageFacts).meta({ id: "MessageSummary" });

export const attempt = z
  .strictObject({
    messageId: rowId,
    number: whole,
    worker: z.string().nullable(),
    startedAt: instant,
    finishedAt: instant.nullable(),
    outcome: z.enum(["sent", "later", "refused", "unsure"]).nullable(),
    stage: z.string().nullable().describe("How far it came with the mail server."),
    response: z.string().nullable(),
  })
  .meta({ id: "Attempt" });

const parcelSummary = {
  number: whole,
  label: z.string(),
  groupKey: z.string(),
  rowCount: count,
  totals: z.record(z.string(), z.string()).describe("Exact decimals."),
  state: parcelState,
  leftOut: z.string().nullable().describe("Why its group is left out."),
  error: failure.nullable(),
  since: z
    .strictObject({
      rows: count,
      totals: z.record(z.string(), z.string()),
      bytes: count,
      figure: z.string().nullable().describe("The total that moved most; null for the count of rows."),
      isResized: z.boolean(),
    })
    .nullable()
    .describe("What the group had in the run of the period before."),
  moved: z
    .number()
    .nullable()
    .describe("Of rows and totals the greatest change since then, by the larger of both: 0 to 1."),
  files: z.array(file),
  message: message.nullable().describe("The newest; what was sent before is told with the parcel."),
  ways: z
    .array(z.strictObject({ way: z.string(), state: messageState }))
    .describe("What goes by other ways than mail."),
};

const receiver = matchedPerson
  .extend({ why: z.string().nullable().describe("The rule that names them.") })
  .meta({ id: "Receiver" });

const enclosed = z
  .strictObject({
    name: z.string(),
    sha256: digest,
    size: count,
    kind: z.enum(["fixed", "found"]).describe("The same for all, or found for this group."),
    origin: z.string(),
  })
  .meta({ id: "EnclosedFile" });

const parcel = z
  .strictObject({
    ...parcelSummary,
    rowsDigest: z.string(),
    recipients: z.array(receiver),
    attachments: z.array(z.string()),
    enclosed: z.array(enclosed),
    findings: z.array(finding),
    html: z.string().nullable(),
    text: z.string().nullable(),
    messages: z.array(message),
    attempts: z.array(attempt),
  })
  .meta({ id: "Parcel" });

const byParcel = byRun.extend({ number: z.coerce.number().int().min(1) });

const pickedRows = z
  .union([
    gridQuerySchema,
    z.strictObject({ numbers: z.array(z.number().int().min(1)).min(1).max(20_000) }).meta({ id: "TickedRows" }),
  ])
  .describe("Only these rows of its edition: those that a search finds, or those of these numbers; a run of its own.");

export const runEndpoints = {
  listRuns: endpoint("get", "/runs", {
    summary: "Runs, newest first",
    tag: "Runs",
    query: paging.extend({
      report: z.string().max(200).optional(),
      period: period.optional(),
      state: runState.optional(),
      rehearsal: truth.optional().describe("Only rehearsals, or only the others."),
      sort: sorting(["createdAt", "report", "period"], "-createdAt"),
    }),
    answer: page(runSummary),
  }),
  startRun: endpoint("post", "/runs", {
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
      groups: groups.optional(),
      rows: pickedRows.optional(),
      again: z.string().min(3).max(500).optional().describe("Why groups that were delivered already get theirs again."),
    }),
    answer: run,
    statuses: [201],
    isOnce: true,
  }),
  lookAtPicks: endpoint("post", "/reports/{name}/picks", {
    summary: "What a run over picked rows would do with each of them: to whom it goes, and whether it went out before",
    tag: "Runs",
    params: byName,
    body: z.strictObject({
      rows: pickedRows,
      edition: z.number().int().min(1).optional(),
      period: z.string().optional().describe("That in which most of the rows lie if not given."),
    }),
    answer: z.strictObject({
      period: z.string().nullable(),
      edition: whole,
      picked: count,
      sentBefore: count.describe(
        "How many of them went out before; they are left out, unless there is a reason why not.",
      ),
      leftOut: count.describe("How many the preparation or the period leaves out."),
      rows: z
        .array(
          z.strictObject({
            rowNumber: count,
            group: z.string().nullable(),
            people: z.array(z.string()),
            before: z.string().nullable().describe("The day it went out on."),
            why: z.string().nullable().describe("Why it is left out."),
          }),
        )
        .describe("The first 500 of them."),
    }),
  }),
  showRun: endpoint("get", "/runs/{id}", {
    summary: "A run with its proof and progress; while it is held, with what its release would do",
    tag: "Runs",
    params: byRun,
    answer: run,
  }),
  listFindings: endpoint("get", "/runs/{id}/findings", {
    summary: "A run's findings one by one, what stops first",
    tag: "Runs",
    params: byRun,
    query: paging.extend({ code: z.string().max(60).optional(), severity: severity.optional() }),
    answer: countedPage(finding),
  }),
  releaseRun: endpoint("post", "/runs/{id}/release", {
    summary: "Let a held run's messages go",
    tag: "Runs",
    params: byRun,
    body: z.strictObject({
      groups: groups.optional().describe("Only these groups."),
      at: z.iso.datetime({ offset: true }).nullable().optional().describe("Not now but then; null takes a time back."),
    }),
    answer: released,
    isOnce: true,
  }),
  stopRun: endpoint("post", "/runs/{id}/stop", {
    summary: "Stop a run where it stands",
    tag: "Runs",
    params: byRun,
    answer: run,
  }),
  pauseRun: endpoint("post", "/runs/{id}/pause", {
    summary: "Let a run's waiting messages wait",
    tag: "Runs",
    params: byRun,
    answer: run,
  }),
  resumeRun: endpoint("post", "/runs/{id}/resume", {
    summary: "Let a run's waiting messages go on",
    tag: "Runs",
    params: byRun,
    answer: run,
  }),
  skipGroups: endpoint("post", "/runs/{id}/skip", {
    summary: "Leave groups out whose messages have not gone yet, with a reason",
    tag: "Runs",
    params: byRun,
    body: z.strictObject({ groups, reason }),
    answer: run,
  }),
  keepFigures: endpoint("post", "/runs/{id}/figures", {
    summary: "Make data of a released run's figures: a row for each group; the same run's are kept once",
    tag: "Runs",
    params: byRun,
    body: z.strictObject({
      dataset: name.optional().describe("Dataset of their own; what the report says, or its name with -figures."),
    }),
    answer: z.strictObject({ dataset: name, edition: whole }),
    statuses: [201],
  }),
  listPeriodFiles: endpoint("get", "/reports/{name}/files", {
    summary: "The files of all groups for a period, of each group the newest that were released",
    tag: "Runs",
    params: byName,
    query: paging.extend({
      period: period.describe("Such as 2026-10; blank for a report without periods."),
      search: z.string().max(200).optional().describe("Part of a group's name or a file's name."),
    }),
    answer: countedPage(
      z
        .strictObject({
          groupKey: z.string(),
          label: z.string(),
          run: runId,
          parcel: whole,
          at: instant.describe("When its run was released."),
          message: messageState.nullable().describe("What became of its message; null where there is none."),
          files: z.array(file),
        })
        .meta({ id: "PeriodFiles" }),
    ),
  }),
  listParcels: endpoint("get", "/runs/{id}/parcels", {
    summary: "What each group gets in a run",
    tag: "Runs",
    params: byRun,
    query: paging.extend({
      search: z.string().max(200).optional().describe("Part of a group's name, an address or a file's name."),
      state: parcelState.optional(),
      message: z
        .enum([...MESSAGE_STATES, "none"])
        .optional()
        .describe("Only parcels whose newest message is in this state, or that have none."),
      since: z
        .enum(["new", "moved", "resized"])
        .optional()
        .describe(
          "Beside the period before: only groups that are new, that moved much, or whose files have another size.",
        ),
      first: z.coerce
        .number()
        .int()
        .min(0)
        .optional()
        .describe("Place of the first among those found; instead of a cursor."),
      sort: sorting(["number", "label", "rowCount", "bytes", "moved"], "number"),
    }),
    answer: countedPage(z.strictObject(parcelSummary).meta({ id: "ParcelSummary" })),
  }),
  showParcel: endpoint("get", "/runs/{id}/parcels/{number}", {
    summary: "One parcel with its message as it is sent and its trail",
    tag: "Runs",
    params: byParcel,
    answer: parcel,
  }),
  listParcelRows: endpoint("get", "/runs/{id}/parcels/{number}/rows", {
    summary: "The rows a parcel was made of",
    tag: "Runs",
    params: byParcel,
    query: paging,
    answer: rows,
  }),
  downloadRun: endpoint("get", "/runs/{id}/files.zip", {
    summary: "A run's files in one zip, a folder for each group; or those of one group",
    tag: "Runs",
    params: byRun,
    query: z.strictObject({ group: z.string().max(300).optional() }),
    answer: "application/zip",
  }),
  printRun: endpoint("get", "/runs/{id}/print.pdf", {
    summary: "The PDFs of all parcels in one file, for printing",
    tag: "Runs",
    params: byRun,
    query: z.strictObject({
      group: z.string().max(300).optional(),
      sheets: truth.optional().describe("Whether each file begins on a sheet of its own."),
    }),
    answer: "application/pdf",
  }),
  auditRun: endpoint("get", "/runs/{id}/audit.pdf", {
    summary: "For an auditor: who prepared the run, who let it go, what went to whom, with digests",
    tag: "Runs",
    params: byRun,
    answer: "application/pdf",
  }),
  exportToFolder: endpoint("post", "/runs/{id}/folder", {
    summary: "Write a run's files to a folder under the outgoing folder; nothing is ever written over",
    tag: "Runs",
    params: byRun,
    body: z.strictObject({
      folder: z.string().max(300).default("").describe("Folder under the outgoing one."),
      perGroup: z.boolean().default(false).describe("A folder for each group in place of the files' own folders."),
      groups: groups.optional(),
    }),
    answer: z.strictObject({ folder: z.string(), written: count, same: count }),
  }),
  exportToWebFolder: endpoint("post", "/runs/{id}/web-folder", {
    summary: "Put a run's files into a WebDAV folder, a folder for each group; nothing is ever written over",
    tag: "Runs",
    params: byRun,
    body: z.strictObject({
      url: z.url({ protocol: /^https?$/ }),
      user: z.string().max(300).optional(),
      password: z.string().max(1_000).optional(),
      groups: groups.optional(),
    }),
    answer: z.strictObject({ put: count }),
  }),
  downloadMadeFile: endpoint("get", "/files/{id}", {
    summary: "A made file",
    tag: "Runs",
    params: z.strictObject({ id: rowId }),
    query: z.strictObject({ show: truth.optional().describe("Shown in the page rather than saved.") }),
    answer: "application/octet-stream",
  }),
};
