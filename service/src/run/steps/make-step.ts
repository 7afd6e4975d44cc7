import { basename } from "node:path";
import { periodsFor } from "@corbix/core/calendar";
import { CorbixError, ERRORS, known, made } from "@corbix/core/common";
import type { FurtherLines } from "@corbix/core/expression";
import { messageId } from "@corbix/core/message";
import type { Report } from "@corbix/core/report";
import {
  type CaughtLines,
  digestWith,
  type EarlierPeriods,
  type FinishedParcel,
  type GroupPlace,
  linesDigest,
  makeParcel,
  officeKind,
  type ParcelFile,
  type ParcelMessage,
  type ReportMaker,
  type RunFacts,
  Seal,
} from "@corbix/core/run";
import type { Group } from "@corbix/core/split";
import type { ColumnInfo, Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { announce } from "../../events/events.js";
import type { Context } from "../../process/context.js";
import {
  addSteps,
  earlierSections,
  endStep,
  failParcel,
  type HandedStep,
  hasOpenSteps,
  keepMade,
  linesOfParcel,
  OWN_CAUGHT,
  type ParcelRow,
  type RunRow,
  unpackLines,
  wholeParcel,
} from "../../records/index.js";
import { parcelLines } from "../further-lines.js";
import { asOwner, moveOwned } from "../run-moves.js";
import { errorFacts, factsOfRun, getRun, makerOfRun, reportOfRun } from "../run-records.js";
import type { NextSteps } from "./next-steps.js";

/** Step two: makes the files and messages of a batch of parcels. A parcel that is made already is passed over. */
export async function makeStep(context: Context, step: HandedStep): Promise<NextSteps> {
  const run = await getRun(context, step.run);
  if (run.state !== "making") return undefined;
  const report = await reportOfRun(context, run);
  const maker = await makerOfRun(context, run, report);
  const facts = await factsOfRun(context, run, report);
  for (const id of step.ids) {
    const parcel = await wholeParcel(context.database, id);
    if (parcel?.state !== "planned") continue;
    try {
      await finishParcel(context, { step, run, report, maker, facts, parcel });
    } catch (error) {
      // What is our own side's is tried again; what template and data cannot do together is the parcel's.
      if (!(error instanceof CorbixError) || ERRORS[error.code].retry) throw error;
      await asOwner(context, step, "all-made", async ({ transaction }) => {
        await failParcel(context.database, id, errorFacts(error), transaction);
      });
    }
  }
  return endMaking(context, step);
}

/** Ends the batch; the last one adds the proving, and goes on with it. */
async function endMaking(context: Context, step: HandedStep): Promise<NextSteps> {
  const { database } = context;
  const isLast = await asOwner(context, step, "all-made", async ({ transaction }) => {
    await endStep(database, step, transaction);
    if (await hasOpenSteps(database, step.run, transaction)) return false;
    await addSteps(database, [step.run], [{ name: "prove" }], transaction);
    await moveOwned(context, step.run, "proving", {}, transaction);
    return true;
  });
  await announce(database, { kind: "run", subject: step.run });
  return isLast ? ["prove"] : [];
}

/** A parcel as its run has planned it. */
export type PlannedParcelRow = Pick<
  ParcelRow,
  "number" | "groupKey" | "label" | "rowsDigest" | "recipients" | "planned" | "ways" | "lines" | "leftOut"
>;

/** One parcel that is made, and what all of its run have in common. */
export interface Making<Parcel extends PlannedParcelRow = PlannedParcelRow> {
  readonly run: RunRow;
  readonly report: Report;
  readonly maker: ReportMaker;
  readonly facts: RunFacts;
  readonly parcel: Parcel;
}

/** What a parcel is made of besides its own rows. */
export interface Beside {
  readonly further: ReadonlyMap<string, FurtherLines>;
  readonly caught: readonly CaughtLines[];
  readonly earlier: (file: string) => EarlierPeriods | undefined;
}

/** Of most parcels. */
export const NOTHING_BESIDE: Beside = { further: new Map(), caught: [], earlier: () => undefined };

async function finishParcel(
  context: Context,
  making: Making<ParcelRow> & { readonly step: HandedStep },
): Promise<void> {
  const { parcel, step } = making;
  const own = rowsOfParcel(making);
  const filled = fillParcel(context, making, own, await readBeside(context, making, own));
  const [stored] = await storeFilled(context, [filled]);
  const rows = madeRows(context, making, made(stored, "what was stored"));
  await asOwner(
    context,
    step,
    "all-made",
    async ({ transaction }) => {
      await keepMade(context.database, [{ id: parcel.id, ...rows }], transaction);
    },
    "SHARE",
  );
}

/** A parcel's own rows. */
export function rowsOfParcel({ run, parcel }: Making): Table {
  return unpackLines(made(run.columns, "the columns of a planned run"), [parcel.lines]);
}

async function readBeside(context: Context, making: Making<ParcelRow>, own: Table): Promise<Beside> {
  const { run, report, parcel } = making;
  const columns = made(run.columns, "the columns of a planned run");
  const further = await parcelLines(context, { run: run.id, parcel: parcel.id, report, own });
  const names = [...new Set(parcel.planned.map((file) => file.file))];
  const earlier = await earlierPeriodsOf(context, making, names);
  return { further, caught: await caughtLines(context, making, columns), earlier: (file) => earlier.get(file) };
}

/** A parcel's files and messages, with the digest of the rows they were made of. */
interface FilledParcel extends FinishedParcel {
  readonly digest: string;
}

/** Makes a parcel's files and messages. Throws what its template and its rows cannot do together. */
export function fillParcel(
  context: Context,
  { run, report, maker, facts, parcel }: Making,
  table: Table,
  { further, caught, earlier }: Beside,
): FilledParcel {
  const group = groupOf(parcel, table);
  const digest = digestWith(
    linesDigest({ table, lines: group.rows }, further),
    caught.map((one) => ({
      period: made(one.facts.period, "the period that is made up for").key,
      rowsDigest: linesDigest({ table: one.table, lines: one.group.rows }, one.place.further),
    })),
  );
  const finished = makeParcel({
    maker,
    table,
    group,
    place: { ...placeOf(run, parcel), further },
    recipients: parcel.recipients,
    files: parcel.planned,
    facts,
    fonts: context.fonts(),
    seal: report.sealed ? { seal: sealOf(run), own: parcel.label } : undefined,
    earlier,
    caughtUp: { periods: caught, known: new Set((run.plan?.caughtUp ?? []).map(({ period }) => period)) },
    isSilent: parcel.leftOut !== null,
    delivery: { report: deliveredReport(run), occasion: run.occasion, domain: context.settings.mailDomain },
  });
  return { ...finished, digest };
}

interface StoredFile {
  readonly file: ParcelFile;
  readonly sha256: string;
  readonly sections: readonly { readonly period: string; readonly sha256: string }[];
}

interface StoredParcel extends Omit<FilledParcel, "files"> {
  readonly files: readonly StoredFile[];
}

/** Stores the files of parcels, all of them at once. */
export async function storeFilled(context: Context, filled: readonly FilledParcel[]): Promise<StoredParcel[]> {
  const all = filled.flatMap(({ files }) => files);
  const bytes = all.flatMap((file) => [file.bytes, ...(file.sections ?? []).map((section) => section.bytes)]);
  const digests = (await context.store.putAll(bytes)).values();
  const next = (): string => made(digests.next().value ?? undefined, "the digest of what was stored");
  return filled.map(({ files, ...rest }) => ({
    ...rest,
    files: files.map((file) => ({
      file,
      sha256: next(),
      sections: (file.sections ?? []).map(({ period }) => ({ period, sha256: next() })),
    })),
  }));
}

/** What the records keep of a parcel that was made, but for which parcel it is. */
export function madeRows(context: Context, making: Making, { files, messages, findings, digest }: StoredParcel) {
  return {
    findings,
    files: files.map(({ file, sha256, sections }) => ({
      row: { ...fileRow(making, file), sha256, rowsDigest: digest },
      sections,
    })),
    messages: [
      ...messages.map((message) => messageRow(making, message)),
      ...carriedRows(making, context.settings.mailDomain),
    ],
  };
}

/** Of files that grow, what the group was delivered for earlier periods: the newest whole file, and each period's section. */
async function earlierPeriodsOf(
  context: Context,
  { run, report, parcel }: Making<ParcelRow>,
  names: readonly string[],
): Promise<Map<string, EarlierPeriods>> {
  const found = new Map<string, EarlierPeriods>();
  for (const name of names) {
    const spec = report.files[name];
    const kind = officeKind(spec?.template ?? "");
    // A deck does not go on from the documents that were there before it.
    if (!spec?.grows || kind === undefined) continue;
    const of = { report: run.report, groupKey: parcel.groupKey, file: name, kind, before: run.period };
    const delivered = await earlierSections(context.database, of);
    const newest = delivered.at(-1);
    if (!newest) continue;
    const bytes = new Map<string, Uint8Array>();
    for (const digest of delivered.flatMap((one) => one.section ?? []))
      bytes.set(digest, await context.store.get(digest));
    const whole = await context.store.get(newest.sha256);
    found.set(name, {
      periods: delivered.map(({ period, section }) => ({
        period,
        section: section === null ? undefined : () => known(bytes, section),
      })),
      whole: () => whole,
    });
  }
  return found;
}

/** The parcel's rows of the periods that the run makes up for. */
async function caughtLines(
  context: Context,
  { run, report, facts, parcel }: Making<ParcelRow>,
  columns: readonly ColumnInfo[],
): Promise<CaughtLines[]> {
  const found: CaughtLines[] = [];
  for (const { period } of run.plan?.caughtUp ?? []) {
    const lines = (await linesOfParcel(context.database, parcel.id, period)).get(OWN_CAUGHT);
    if (!lines || !report.period) continue;
    const table = unpackLines(columns, [lines]);
    const about = { run: run.id, parcel: parcel.id, report, own: table };
    found.push({
      table,
      group: groupOf(parcel, table),
      place: { ...placeOf(run, parcel), further: await parcelLines(context, about, period) },
      facts: { ...facts, period: periodsFor(report.period, facts.calendar).parse(period) },
    });
  }
  return found;
}

function groupOf({ groupKey: key, label }: PlannedParcelRow, table: Table): Group {
  return { key, label, spellings: [label], rows: table.rowNumbers.map((_, row) => row) };
}

function placeOf(run: RunRow, parcel: PlannedParcelRow): Pick<GroupPlace, "number" | "count"> {
  return { number: parcel.number, count: run.parcelCount };
}

/** The seal of the run this process works on; it holds the names of all its groups. */
let lastSeal: { readonly run: string; readonly seal: Seal } | undefined;

function sealOf(run: RunRow): Seal {
  if (lastSeal?.run === run.id) return lastSeal.seal;
  const seal = new Seal(made(run.plan?.sealedNames, "the names a sealed run was planned with"));
  lastSeal = { run: run.id, seal };
  return seal;
}

function fileRow({ run, report, parcel }: Making, file: ParcelFile) {
  const template = report.files[file.file]?.template;
  return {
    runId: run.id,
    file: file.file,
    kind: file.kind,
    path: file.path,
    size: file.bytes.length,
    pages: file.pages ?? null,
    groupKey: parcel.groupKey,
    provenance: {
      run: run.id,
      report: run.report,
      reportVersion: run.reportVersion,
      period: run.period,
      group: parcel.groupKey,
      editions: run.editions,
      // A table without a template is made by the report's own definition.
      ...(template === undefined ? {} : { template, templateSha256: run.templates[template] }),
      rowsDigest: parcel.rowsDigest,
      ...(file.sections && file.sections.length > 1 ? { periods: file.sections.map(({ period }) => period) } : {}),
    },
  };
}

/** What goes by other ways than mail, one for each way; nothing in a rehearsal, or where the group gets nothing. */
function carriedRows({ run, report, parcel }: Making, domain: string) {
  if (run.rehearsalTo !== null || parcel.leftOut !== null) return [];
  return parcel.ways.map(({ way, ...carried }) => {
    const part = `way ${way}`;
    const places = carried.files.map(({ to }) => to);
    return {
      runId: run.id,
      groupKey: parcel.groupKey,
      part,
      language: report.locale,
      identity: way,
      way,
      carried,
      subject: say().serviceWays.subject({ names: places.map((place) => basename(place)) }),
      html: "",
      text: carried.files.map(({ path, to }) => (path === to ? to : `${path} → ${to}`)).join("\n"),
      envelope: { to: places.map((address) => ({ address })), cc: [], bcc: [] },
      messageId: messageId(
        { report: deliveredReport(run), period: run.occasion, group: parcel.groupKey, part, attempt: 1 },
        domain,
      ),
      state: "held" as const,
    };
  });
}

/** A rehearsal's message is another one than the delivery's, and so is one that goes again: they have identities of their own. */
function deliveredReport(run: RunRow): string {
  if (run.rehearsalTo) return `rehearsal ${run.id}`;
  return run.againReason ? `${run.report} again ${run.id}` : run.report;
}

function messageRow({ run, report, parcel }: Making, { part, message, envelope, messageId, language }: ParcelMessage) {
  return {
    runId: run.id,
    groupKey: parcel.groupKey,
    ...message,
    part: part.part,
    language,
    identity: report.delivery.from,
    envelope,
    messageId,
    state: "held" as const,
  };
}
