import { type Finding, made } from "@corbix/core/common";
import { mailSize } from "@corbix/core/message";
import type { Report } from "@corbix/core/report";
import { type MadeParcel, proveRun, type RunSince, runSince } from "@corbix/core/run";
import { announce } from "../../events/events.js";
import { getIdentity } from "../../mail/identities.js";
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
import { changedSince } from "../attachments.js";
import { releaseRun } from "../release.js";
import { asOwner, moveOwned } from "../run-moves.js";
import { getRun, parcelsOf, reportOfRun } from "../run-records.js";

/** Step three: made against planned, per group and in sum. Then the run is held, or goes on if the report says so. */
export async function proveStep(context: Context, step: HandedStep): Promise<void> {
  const runId = step.run;
  const run = await getRun(context, runId);
  if (run.state !== "proving") return;
  const parcels = await parcelsOf(context, runId);
  const files = await filesOfRun(context.database, runId);
  const messages = await provedMessages(context.database, runId);
  const plan = made(run.plan, "the plan of a run that is proved");
  const report = await reportOfRun(context, run);
  const known = await deliveredGroups(context.database, run.report, runId);
  const [filesOf, messagesOf] = [byParcel(files), byParcel(messages)];
  const parcelsMade: SizedParcel[] = [];
  for (const parcel of parcels) {
    const own = { files: filesOf.get(parcel.id) ?? [], messages: messagesOf.get(parcel.id) ?? [] };
    parcelsMade.push(await madeParcel(context, parcel, own, known));
  }
  const changed = await changedSince(context, parcels);
  const sizes = report.message ? await sizeFindings(context, report, parcelsMade) : [];
  const proof = proveRun(
    { ...plan, findings: [...plan.findings, ...makingFindings(parcels), ...changed, ...sizes] },
    parcelsMade,
  );
  const beside = await sinceBefore(context, run, report);
  await asOwner(context, step, "proved", async ({ transaction }) => {
    await endStep(context.database, step, transaction);
    if (beside) await keepSince(context.database, runId, beside.groups, transaction);
    await moveOwned(context, runId, "held", { proof, since: beside?.since ?? null }, transaction);
  });
  await announce(context.database, { kind: "run", subject: runId });
  const goesOn = run.rehearsalTo !== null || !report.delivery.hold;
  if (goesOn && proof.mayBeReleased) await releaseRun(context, runId, "the report itself");
}

/** So many of the groups that are gone are named. */
const NAMED = 200;

/** The run beside the one of the period before; nothing where it is the first. */
async function sinceBefore(
  context: Context,
  run: RunRow,
  report: Report,
): Promise<{ groups: RunSince["groups"]; since: SinceRow } | undefined> {
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
  parcel: Omit<ParcelRow, "lines">,
  {
    files,
    messages,
  }: {
    readonly files: readonly FileRow[];
    readonly messages: readonly Pick<MessageRow, "envelope" | "html" | "text">[];
  },
  known: ReadonlySet<string>,
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

const TOO_LARGE = {
  stop: ["stop", "Make the files smaller, or let the identity zip them or send links."],
  zip: ["note", "Its attachments are put into a zip file."],
  link: ["note", "Links to its files are put in place of its attachments."],
} as const;

/** Messages that are larger than the identity's server takes. */
async function sizeFindings(context: Context, report: Report, parcels: readonly SizedParcel[]): Promise<Finding[]> {
  const { settings } = await getIdentity(context, report.delivery.from);
  const [severity, advice] = TOO_LARGE[settings.tooLarge];
  return parcels
    .filter((parcel) => parcel.mailBytes > settings.maxBytes)
    .map((parcel) => ({
      code: "message-too-large",
      severity,
      where: `group ${parcel.label}`,
      what: `Its message has about ${Math.round(parcel.mailBytes / 1000).toLocaleString("en")} kB; the identity ${report.delivery.from} sends at most ${Math.round(settings.maxBytes / 1000).toLocaleString("en")} kB.`,
      advice,
    }));
}

/** What came up while files were made: failures by group, other findings once with their count. */
function makingFindings(parcels: readonly Omit<ParcelRow, "lines">[]): Finding[] {
  const failed = parcels
    .filter((parcel) => parcel.state === "failed")
    .map(
      (parcel): Finding => ({
        code: "parcel-failed",
        severity: "stop",
        where: parcel.error?.where?.startsWith(`group ${parcel.label}`)
          ? parcel.error.where
          : `group ${parcel.label}${parcel.error?.where ? `, ${parcel.error.where}` : ""}`,
        what: parcel.error?.message ?? "Its files could not be made.",
        advice: parcel.error?.advice ?? "Correct the template or the data, and run again.",
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
      finding.count === 1 ? finding : { ...finding, what: `${finding.what} (in ${finding.count} parcels)` },
    ),
  ];
}
