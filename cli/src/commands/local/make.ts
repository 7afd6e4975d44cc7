import { basename, dirname, join } from "node:path";
import { type Period, type Periods, periodsFor, type Take, takenPeriod } from "@corbix/core/calendar";
import {
  bytesFromText,
  CorbixError,
  dateFromSerial,
  type Finding,
  maybeSerialFromIso,
  sha256,
  textFromBytes,
} from "@corbix/core/common";
import {
  enclosedAttachment,
  fillFrame,
  frameMail,
  type MailAttachment,
  madeAttachment,
  pictureAttachment,
  picturesIn,
} from "@corbix/core/message";
import { safeName } from "@corbix/core/naming";
import { bareAddress, type Recipient } from "@corbix/core/recipients";
import { parseReport } from "@corbix/core/report";
import {
  type AttachmentSource,
  type CaughtLines,
  type CaughtPeriod,
  type FoundAttachments,
  findAttachments,
  furtherOf,
  type MadeParcel,
  mailParts,
  makeParcel,
  type ParcelFile,
  type ParcelMessage,
  type Plan,
  type PlanInput,
  type Planned,
  type PlannedParcel,
  type Proof,
  periodsMissed,
  planCaughtUp,
  planRun,
  proveRun,
  type RunFacts,
  Seal,
  withCaughtUp,
} from "@corbix/core/run";
import type { Group } from "@corbix/core/split";
import { say } from "@corbix/core/words";
import { openFonts } from "@corbix/fonts";
import { readFolder, readInput, writeFolder } from "../../files.js";
import { findingLines, type Output } from "../../output.js";
import { printedNow, today } from "../../today.js";
import { attachmentSource, loadRecipients, loadTables, type MakeOptions, readCalendar } from "./make-inputs.js";
import { type GrownFile, grownFiles, readSoFar, SO_FAR, type SoFar } from "./so-far.js";

const SENDER = "office@corbix.example";
/** Of Message-IDs. */
const DOMAIN = "corbix.example";

/** Makes all files, messages and the proof of a report without any service. */
export async function make(reportPath: string, options: MakeOptions, output: Output): Promise<number> {
  const report = parseReport(textFromBytes(await readInput(reportPath)), basename(reportPath));
  const tables = await loadTables(options);
  const table = tables.get(report.data);
  if (!table)
    throw new CorbixError(
      "BAD_REQUEST",
      say().command.cannotMakeWithoutDataset({ report: report.report, data: report.data }),
      {
        where: "--data",
        advice: say().command.giveDataFile({ data: report.data }),
      },
    );
  const recipients = options.recipients ? await loadRecipients(options.recipients, output) : [];
  const templates = await readFolder(options.templates ?? join(dirname(reportPath), "templates"));
  const date = dateOf(options.date);
  const calendar = options.calendar === undefined ? undefined : await readCalendar(options.calendar);
  const facts: RunFacts = {
    id: "local",
    date,
    // With a day given the same input gives the same bytes, whatever the hour.
    ...(options.date === undefined ? { time: printedNow().time } : {}),
    sender: bareAddress(options.from ?? SENDER),
    locale: report.locale,
    ...(report.period
      ? { period: requirePeriod(options.for, periodsFor(report.period, calendar), { date, ...report.period }) }
      : {}),
    ...(calendar ? { calendar } : {}),
  };
  const input = { report, table, others: tables, recipients, templates, facts };
  const planned = planRun(input);
  const source = attachmentSource(templates, options.attachments ?? join(dirname(reportPath), "attachments"));
  const growing = Object.entries(report.files).some(([, file]) => file.grows);
  const soFar = options.soFar === undefined ? undefined : await readSoFar(options.soFar, report);
  const work: Work = {
    growing,
    soFar,
    caught: caughtUp(input, planned, soFar),
    out: options.out,
    fonts: options.fonts,
    source,
    recipients,
    from: options.from ?? SENDER,
  };
  const proof = await writeAll(planned, facts, work, output);
  output.line(`${report.title}${facts.period ? `, ${facts.period.key}` : ""}`);
  for (const sentence of proof.sentences) output.line(sentence);
  if (proof.findings.length > 0) output.line();
  for (const line of findingLines(proof.findings)) output.line(line);
  if (report.message && report.delivery.files === "link")
    output.line("\nThe messages carry their files here; the service puts a link to a page of them in their place.");
  output.line(`\nEverything is in ${options.out}; look at ${join(options.out, "proof.txt")} first.`);
  output.value(proof);
  return proof.mayBeReleased ? 0 : 8;
}

interface Work {
  /** Whether files grow: then it is written down which they are. */
  readonly growing: boolean;
  readonly soFar: SoFar | undefined;
  /** Periods that the growing files of the folder before go on without. */
  readonly caught: readonly CaughtPeriod[];
  readonly out: string;
  readonly fonts: string | undefined;
  readonly source: AttachmentSource;
  readonly recipients: readonly Recipient[];
  readonly from: string;
}

/** What the run makes up for, the earliest period first. */
function caughtUp(input: PlanInput, { plan }: Planned, soFar: SoFar | undefined): CaughtPeriod[] {
  const { facts } = input;
  if (!facts.period || !soFar) return [];
  const due = new Set(plan.parcels.map(({ group }) => group.key));
  return periodsMissed(soFar.held, { ...facts, period: facts.period }, due).flatMap(
    ({ period, ...whose }) => planCaughtUp({ ...input, facts: { ...facts, period } }, whose) ?? [],
  );
}

async function writeAll(planned: Planned, facts: RunFacts, work: Work, output: Output): Promise<Proof> {
  const plan = withCaughtUp(planned.plan, work.caught);
  const made: MadeParcel[] = [];
  const names = [...plan.groupNames, ...work.recipients.map((one) => one.group)];
  const beside = await findAttachments(plan.parcels, names, work.source, async (bytes) => ({ bytes }));
  const bar = output.progress("make", plan.parcels.length);
  const makeOne = parcelMaker({ ...planned, plan }, facts, work, beside.leftOut);
  let proof = proveRun(plan, made);
  const grown: GrownFile[] = [];
  await writeFolder(work.out, async (add) => {
    const findings = [...plan.findings, ...beside.findings];
    for (const parcel of plan.parcels) {
      const { files, messages, findings: own } = makeOne(parcel);
      findings.push(...own.filter((one) => !findings.some((known) => isSame(known, one))));
      for (const file of files) await add(file.path, file.bytes);
      for (const message of messages) {
        const { part } = message.part;
        const name = part === "" ? parcel.group.label : `${parcel.group.label} – ${part}`;
        const about = { parcel, files, maker: planned.maker, facts, beside: beside.files, ...work };
        await add(join("messages", `${safeName(name)}.eml`), await mailBytes(message, about));
      }
      if (work.growing) grown.push(...grownFiles(planned.maker.report, parcel, files, work.soFar));
      made.push(madeParcel(parcel, files, messages));
      bar.step(made.length);
    }
    bar.stop();
    proof = proveRun({ ...plan, findings }, made);
    if (work.growing) await add(SO_FAR, bytesFromText(`${JSON.stringify(grown, null, 2)}\n`));
    await add("proof.json", bytesFromText(`${JSON.stringify(proof, null, 2)}\n`));
    await add("proof.txt", bytesFromText(`${[...proof.sentences, "", ...findingLines(proof.findings)].join("\n")}\n`));
  });
  return proof;
}

function parcelMaker(
  { plan, maker }: Planned,
  facts: RunFacts,
  work: Work,
  silent: ReadonlyMap<number, string>,
): (parcel: PlannedParcel) => ReturnType<typeof makeParcel> {
  const fonts = openFonts(work.fonts);
  const seal = plan.sealedNames && new Seal(plan.sealedNames);
  const known = new Set(work.caught.map((one) => one.facts.period.key));
  return ({ number, group, recipients, files }) =>
    makeParcel({
      maker,
      table: plan.table,
      group,
      place: { number, count: plan.parcels.length, further: furtherOf(plan.further, group) },
      recipients,
      files,
      facts,
      fonts,
      seal: seal && { seal, own: group.label },
      isSilent: silent.has(number),
      earlier: (file) => work.soFar?.of(file, group.key),
      caughtUp: { known, periods: work.caught.flatMap((one) => caughtLines(one, group, number, plan)) },
      delivery: { report: maker.report.report, occasion: facts.period?.key ?? "", domain: DOMAIN },
    });
}

/** A group's rows of a period that is made up for. */
function caughtLines({ facts, plan }: CaughtPeriod, group: Group, number: number, { parcels }: Plan): CaughtLines[] {
  const own = plan.parcels.find((one) => one.group.key === group.key);
  if (!own) return [];
  const place = { number, count: parcels.length, further: furtherOf(plan.further, own.group) };
  return [{ table: plan.table, group: { ...own.group, label: group.label }, place, facts }];
}

function madeParcel(
  { group, files: planned, rowsDigest }: PlannedParcel,
  files: readonly ParcelFile[],
  messages: readonly ParcelMessage[],
): MadeParcel {
  return {
    key: group.key,
    label: group.label,
    plannedFiles: planned.length,
    people: messages.reduce((sum, { envelope: { to, cc, bcc } }) => sum + to.length + cc.length + bcc.length, 0),
    messages: messages.length,
    files: files.map(({ path, bytes }) => ({
      path,
      size: bytes.length,
      plannedRowsDigest: rowsDigest,
      rowsDigest,
    })),
  };
}

function isSame(a: Finding, b: Finding): boolean {
  return a.code === b.code && a.where === b.where && a.what === b.what;
}

/** A message as the service sends it, dated at noon of the day of the run: the same input gives the same bytes. */
async function mailBytes(
  { message, envelope, messageId, language }: ParcelMessage,
  about: {
    readonly parcel: PlannedParcel;
    readonly files: readonly ParcelFile[];
    readonly maker: Planned["maker"];
    readonly facts: RunFacts;
    readonly source: AttachmentSource;
    readonly from: string;
    readonly beside: FoundAttachments<{ readonly bytes: Uint8Array }>["files"];
  },
): Promise<Uint8Array> {
  const { parcel, facts } = about;
  const contents = new Map<string, Uint8Array>();
  const keep = (bytes: Uint8Array): string => {
    const digest = sha256(bytes);
    contents.set(digest, bytes);
    return digest;
  };
  const own = parcel.attachments.flatMap((path) => {
    const file = about.files.find((one) => one.path === path);
    return file ? [madeAttachment(path, file.kind, keep(file.bytes))] : [];
  });
  const beside = (about.beside.get(parcel.number) ?? []).map((one) => enclosedAttachment(one.name, keep(one.bytes)));
  const pictures: MailAttachment[] = [];
  for (const name of picturesIn(message.html))
    pictures.push(pictureAttachment(name, keep(await about.source.fixed(name))));
  const parts = mailParts({
    report: about.maker.report,
    run: facts.id,
    from: about.from,
    envelope,
    message,
    messageId,
    date: dateFromSerial(facts.date + 0.5),
    language,
    attachments: [...own, ...beside, ...pictures],
  });
  return fillFrame(await frameMail(parts), (digest) => contents.get(digest) as Uint8Array);
}

/** Of a report whose rows do not say it the day does, where no period is named. */
function requirePeriod(
  period: string | undefined,
  periods: Periods,
  {
    date,
    column,
    take,
  }: { readonly date: number; readonly column?: string | undefined; readonly take?: Take | undefined },
): Period {
  const { kind } = periods;
  if (period) return periods.parse(period);
  if (column === undefined || (take ?? "over") !== "over") return takenPeriod(periods, take, date);
  throw new CorbixError("BAD_PERIOD", say().command.cannotMakeReportWithout({ kind }), {
    where: "--for",
    advice: say().command.givePeriod(),
  });
}

function dateOf(text: string | undefined): number {
  if (text === undefined) return today();
  const serial = maybeSerialFromIso(text);
  if (serial === undefined)
    throw new CorbixError("BAD_REQUEST", say().command.cannotReadDateExpectedDate({ text }), {
      where: "--date",
    });
  return Math.floor(serial);
}
