import { type Finding, made } from "@corbix/core/common";
import { isRecordOccasion } from "@corbix/core/delivery";
import { mailSize } from "@corbix/core/message";
import type { Report } from "@corbix/core/report";
import { type MadeParcel, type Proof, proveRun, type RunSince, runSince } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { announce } from "../../events/events.js";
import type { OpenIdentity } from "../../mail/identities.js";
import type { Context } from "../../process/context.js";
import {
  byParcel,
  deliveredGroups,
  endStep,
  type FileRow,
  filesOfRun,
  type HandedStep,
  keepSince,
  type MessageRow,
  measuredGroups,
  type ParcelRow,
  provedMessages,
  type RunRow,
  runBefore,
  type SinceRow,
} from "../../records/index.js";
import { tell } from "../../tell/notices.js";
import { changedSince } from "../attachments.js";
import { readSenders } from "../delivery-checks.js";
import { labelOfPeriod } from "../period-label.js";
import { releaseRun } from "../release.js";
import { asOwner, moveOwned } from "../run-moves.js";
import { getRun, parcelsOf, reportOfRun } from "../run-records.js";
import type { NextSteps } from "./next-steps.js";

/** Step three: made against planned, per group and in sum. Then the run is held, or goes on if the report says so. */
export async function proveStep(context: Context, step: HandedStep): Promise<NextSteps> {
  const runId = step.run;
  const run = await getRun(context, runId);
  if (run.state !== "proving") return undefined;
  const parcels = await parcelsOf(context, runId);
  const files = byParcel(await filesOfRun(context.database, runId));
  const messages = byParcel(await provedMessages(context.database, runId));
  const report = await reportOfRun(context, run);
  const proof = await proofOf(context, run, {
    parcels: parcels.map((parcel) => ({
      parcel,
      files: files.get(parcel.id) ?? [],
      messages: messages.get(parcel.id) ?? [],
    })),
    known: await deliveredGroups(context.database, run.report, [runId]),
    identity: (await readSenders(context, report)).identity,
  });
  const beside = await sinceBefore(context, run, report);
  const isEmpty = proof.findings.some(({ code }) => code === "nothing-to-send") && proof.mayBeReleased;
  await asOwner(context, step, isEmpty ? "end-empty" : "proved", async ({ transaction }) => {
    await endStep(context.database, step, transaction);
    if (beside) await keepSince(context.database, runId, beside.groups, transaction);
    const found = { proof, since: beside?.since ?? null };
    if (isEmpty) await moveOwned(context, runId, "done", { ...found, finishedAt: context.now() }, transaction);
    else await moveOwned(context, runId, "held", found, transaction);
  });
  if (isEmpty && run.rehearsalTo === null) await tellNothing(context, run, report, proof.sentences);
  await announce(context.database, { kind: "run", subject: runId });
  if (isEmpty) return [];
  const goesOn = run.rehearsalTo !== null || !report.delivery.hold;
  if (run.rehearsalTo === null && (!goesOn || !proof.mayBeReleased)) await tellHeld(context, run, report, proof);
  if (goesOn && proof.mayBeReleased) await releaseRun(context, runId, say().serviceRun.reportItself());
  return [];
}

/** A parcel with what was made for it. */
export interface ProvedParcel {
  readonly parcel: Omit<ParcelRow, "id" | "runId" | "lines" | "totals" | "rowKeys" | "since" | "moved">;
  readonly files: readonly Pick<FileRow, "path" | "sha256" | "rowsDigest" | "size">[];
  readonly messages: readonly Pick<MessageRow, "envelope" | "html" | "text">[];
}

/** A run's proof: what was made against what was planned, with all that came up. */
export async function proofOf(
  context: Context,
  run: Pick<RunRow, "plan" | "rehearsalTo">,
  of: {
    readonly parcels: readonly ProvedParcel[];
    /** Keys of groups that had something of the report before. */
    readonly known: ReadonlySet<string>;
    readonly identity: OpenIdentity | undefined;
  },
): Promise<Proof> {
  const plan = made(run.plan, "the plan of a run that is proved");
  const parcels = of.parcels.map(({ parcel }) => parcel);
  const parcelsMade: SizedParcel[] = [];
  for (const one of of.parcels) parcelsMade.push(await madeParcel(context, one, of.known, run.rehearsalTo !== null));
  const changed = await changedSince(context, parcels);
  const sizes = of.identity ? sizeFindings(of.identity, parcelsMade) : [];
  return proveRun(
    { ...plan, findings: [...plan.findings, ...makingFindings(parcels), ...changed, ...sizes] },
    parcelsMade,
  );
}

/** A run that nothing can go on with waits for somebody: to be released, or to be put right. */
export async function tellHeld(context: Context, run: RunRow, report: Report, proof: Proof): Promise<void> {
  const facts = { report: report.title, period: labelOfPeriod(run.period, report, run.calendar) };
  const stop = proof.mayBeReleased ? undefined : proof.findings.find(({ severity }) => severity === "stop");
  await tell(context, {
    kind: stop ? "run-stopped" : "waits-for-release",
    report: run.report,
    run: run.id,
    what: stop
      ? say().serviceSchedule.stoppedByFinding({ ...facts, what: stop.what })
      : say().serviceSchedule.waitsForRelease({
          ...facts,
          messages: proof.messages,
          files: Object.values(proof.carried ?? {}).reduce((sum, count) => sum + count, 0),
        }),
    advice: stop?.advice ?? say().serviceSchedule.lookAndRelease(),
  });
}

/** Nothing is to be sent: said to whom it concerns, and no more. */
async function tellNothing(context: Context, run: RunRow, report: Report, sentences: readonly string[]): Promise<void> {
  const period = labelOfPeriod(run.period, report, run.calendar);
  await tell(context, {
    kind: "nothing-to-send",
    report: run.report,
    run: run.id,
    what: say().serviceRun.nothingToSendFor({ report: report.title, period, account: sentences[0] ?? "" }),
    ...(typeof report.whenNothing === "object" ? { besides: report.whenNothing.tell } : {}),
  });
}

/** So many of the groups that are gone are named. */
const NAMED = 200;

/** The run beside the one of the period before; nothing where it is the first. */
async function sinceBefore(
  context: Context,
  run: RunRow,
  report: Report,
): Promise<{ groups: RunSince["groups"]; since: SinceRow } | undefined> {
  // A single record is no period beside another.
  if (isRecordOccasion(run.occasion)) return undefined;
  const before = await runBefore(context.database, run, report.period !== undefined);
  if (!before) return undefined;
  const { groups, gone, ...counts } = runSince(
    await measuredGroups(context.database, run.id),
    await measuredGroups(context.database, before.id),
  );
  // Of a run over some groups nobody can say that the others are gone.
  const isWhole = run.onlyGroups === null && run.onlyRows === null;
  const missing = isWhole ? gone : [];
  return {
    groups,
    since: {
      run: before.id,
      period: before.period,
      ...counts,
      goneCount: missing.length,
      gone: missing.slice(0, NAMED),
    },
  };
}

type SizedParcel = MadeParcel & { readonly mailBytes: number };

async function madeParcel(
  context: Context,
  { parcel, files, messages }: ProvedParcel,
  known: ReadonlySet<string>,
  isRehearsed: boolean,
): Promise<SizedParcel> {
  const stored: MadeParcel["files"][number][] = [];
  for (const file of files) {
    // Read again and digested: what is counted here is what will be sent.
    const size = (await context.store.get(file.sha256)).length;
    stored.push({ path: file.path, size, plannedRowsDigest: parcel.rowsDigest, rowsDigest: file.rowsDigest });
  }
  const taken = [...files.filter((file) => parcel.attachments.includes(file.path)), ...parcel.enclosed];
  const people = messages.reduce(
    (sum, { envelope }) => sum + envelope.to.length + envelope.cc.length + envelope.bcc.length,
    0,
  );
  return {
    key: parcel.groupKey,
    label: parcel.label,
    files: stored,
    plannedFiles: parcel.planned.length,
    people,
    messages: messages.length,
    ...(isRehearsed || parcel.leftOut !== null
      ? {}
      : { carried: Object.fromEntries(parcel.ways.map((one) => [one.way, one.files.length])) }),
    number: parcel.number,
    rows: parcel.rowCount,
    mailBytes: Math.max(
      0,
      ...messages.map((message) =>
        mailSize(
          message,
          taken.map(({ size }) => size),
        ),
      ),
    ),
    isNew: !known.has(parcel.groupKey),
  };
}

const TOO_LARGE = { stop: "stop", zip: "note", link: "note" } as const;

function whatBecomes(tooLarge: keyof typeof TOO_LARGE): string {
  const words = say().serviceRun;
  return { stop: words.makeFilesSmaller, zip: words.attachmentsZipped, link: words.linksInstead }[tooLarge]();
}

/** Messages that are larger than the identity's server takes. */
function sizeFindings({ name, settings }: OpenIdentity, parcels: readonly SizedParcel[]): Finding[] {
  const severity = TOO_LARGE[settings.tooLarge];
  const advice = whatBecomes(settings.tooLarge);
  return parcels
    .filter((parcel) => parcel.mailBytes > settings.maxBytes)
    .map((parcel) => ({
      code: "message-too-large",
      severity,
      where: say().place.group({ name: parcel.label }),
      what: say().serviceRun.messageAboutKbIdentitySends({
        round: Math.round(parcel.mailBytes / 1000),
        from: name,
        round2: Math.round(settings.maxBytes / 1000),
      }),
      advice,
    }));
}

/** A parcel's group, and where in what was made for it, unless that names the group itself. */
function placeOfFailure(label: string, where: string | undefined): string {
  const group = say().place.group({ name: label });
  if (!where) return group;
  return where.startsWith(group) ? where : say().serviceRun.groupAnd({ label, where });
}

/** What came up while files were made: failures by group, other findings once with their count. */
function makingFindings(parcels: readonly ProvedParcel["parcel"][]): Finding[] {
  const failed = parcels
    .filter((parcel) => parcel.state === "failed")
    .map(
      (parcel): Finding => ({
        code: "parcel-failed",
        severity: "stop",
        where: placeOfFailure(parcel.label, parcel.error?.where),
        what: parcel.error?.message ?? say().serviceRun.filesNotMade(),
        advice: parcel.error?.advice ?? say().serviceRun.correctAndRunAgain(),
      }),
    );
  const counted = new Map<string, Finding>();
  for (const finding of parcels.flatMap((parcel) => parcel.findings)) {
    const key = `${finding.code}|${finding.where}|${finding.what}`;
    counted.set(key, { ...finding, count: (counted.get(key)?.count ?? 0) + 1 });
  }
  return [
    ...failed,
    ...[...counted.values()].map((finding) =>
      finding.count === 1
        ? finding
        : { ...finding, what: say().serviceRun.parcels({ what: finding.what, count: finding.count }) },
    ),
  ];
}
