import { existsSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { parsePeriod } from "@corbix/core/calendar";
import { bytesFromText, CorbixError, maybeSerialFromIso, textFromBytes } from "@corbix/core/common";
import {
  CONTENT_TYPES,
  type ComposedMessage,
  envelopeOf,
  type MessagePart,
  messageId,
  pictureId,
  picturesIn,
} from "@corbix/core/message";
import { safeName } from "@corbix/core/naming";
import { type Recipient, readRecipients } from "@corbix/core/recipients";
import { parseReport, type Report } from "@corbix/core/report";
import {
  factsFor,
  furtherOf,
  groupEnv,
  type MadeParcel,
  type Planned,
  type PlannedParcel,
  planRun,
  proveRun,
  type RunFacts,
  Seal,
} from "@corbix/core/run";
import { loadTable, splitPart, type Table } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import MailComposer from "nodemailer/lib/mail-composer/index.js";
import { readFolder, readInput, writeFolder } from "../../files.js";
import { findingLines, type Output } from "../../output.js";
import { printedNow, today } from "../../today.js";

export interface MakeOptions {
  readonly data: readonly string[];
  readonly recipients?: string;
  readonly for?: string;
  readonly out: string;
  readonly date?: string;
  readonly templates?: string;
  readonly fonts?: string;
}

const SENDER = "office@corbix.example";

/** Makes all files, messages and the proof of a report without any service. */
export async function make(reportPath: string, options: MakeOptions, output: Output): Promise<number> {
  const report = parseReport(textFromBytes(await readInput(reportPath)), basename(reportPath));
  const tables = await loadTables(options.data);
  const table = tables.get(report.data);
  if (!table)
    throw new CorbixError("BAD_REQUEST", `Cannot make \`${report.report}\` without its dataset \`${report.data}\`.`, {
      where: "--data",
      advice: `Give --data ${report.data}=FILE.`,
    });
  const recipients = options.recipients ? await loadRecipients(options.recipients, output) : [];
  const templates = await readFolder(options.templates ?? join(dirname(reportPath), "templates"));
  const facts: RunFacts = {
    id: "local",
    date: dateOf(options.date),
    ...(options.date === undefined ? { time: printedNow().time } : {}),
    sender: SENDER,
    locale: report.locale,
    ...(report.period
      ? { period: parsePeriod(requirePeriod(options.for, report.period.every), report.period.every) }
      : {}),
  };
  const planned = planRun({ report, table, others: tables, recipients, templates, facts });
  const proof = await writeAll({ ...planned, templates }, facts, options, output);
  output.line(`${report.title}${facts.period ? `, ${facts.period.key}` : ""}`);
  for (const sentence of proof.sentences) output.line(sentence);
  if (proof.findings.length > 0) output.line();
  for (const line of findingLines(proof.findings)) output.line(line);
  output.line(`\nEverything is in ${options.out}; look at ${join(options.out, "proof.txt")} first.`);
  output.value(proof);
  return proof.mayBeReleased ? 0 : 8;
}

async function writeAll(
  { plan, maker, templates }: Planned & { readonly templates: ReadonlyMap<string, Uint8Array> },
  facts: RunFacts,
  { out, fonts: folder }: Pick<MakeOptions, "out" | "fonts">,
  output: Output,
) {
  const fonts = openFonts(folder);
  const made: MadeParcel[] = [];
  const bar = output.progress("make", plan.parcels.length);
  let proof = proveRun(plan, made);
  await writeFolder(out, async (add) => {
    const findings = [...plan.findings];
    const seal = plan.sealedNames && new Seal(plan.sealedNames);
    for (const parcel of plan.parcels) {
      const further = furtherOf(plan.further, parcel.group);
      const place = { number: parcel.number, count: plan.parcels.length, further };
      const env = groupEnv(plan.table, parcel.group, place, parcel.recipients, facts);
      const names = [...new Set(parcel.files.map((file) => file.file))];
      const own = seal && { seal, own: parcel.group.label };
      const result = maker.make(env, names, fonts, facts, own);
      const composed = maker.parts(parcel.recipients).flatMap((part) => {
        const facing = factsFor(facts, part.language);
        const written = maker.compose(
          groupEnv(plan.table, parcel.group, place, part.recipients, facing),
          own,
          part.language,
        );
        return written ? [{ part, ...written }] : [];
      });
      const files = parcel.files.flatMap((planned) => {
        const file = result.files.find(
          (candidate) => candidate.file === planned.file && candidate.kind === planned.kind,
        );
        return file ? [{ ...planned, bytes: file.bytes }] : [];
      });
      for (const finding of [...result.findings, ...composed.flatMap((one) => one.findings)])
        if (
          !findings.some(
            (known) => known.code === finding.code && known.where === finding.where && known.what === finding.what,
          )
        )
          findings.push(finding);
      for (const file of files) await add(file.path, file.bytes);
      for (const { part, message } of composed) {
        const name = part.part === "" ? parcel.group.label : `${parcel.group.label} – ${part.part}`;
        await add(
          join("messages", `${safeName(name)}.eml`),
          await compose(parcel, part, message, files, { report: maker.report, templates, facts }),
        );
      }
      made.push({
        key: parcel.group.key,
        label: parcel.group.label,
        plannedFiles: parcel.files.length,
        people: composed.reduce((sum, { part }) => sum + envelopePeople(part.recipients), 0),
        messages: composed.length,
        files: files.map((file) => ({
          path: file.path,
          size: file.bytes.length,
          plannedRowsDigest: parcel.rowsDigest,
          rowsDigest: parcel.rowsDigest,
        })),
      });
      bar.step(made.length);
    }
    bar.stop();
    proof = proveRun({ ...plan, findings }, made);
    await add("proof.json", bytesFromText(`${JSON.stringify(proof, null, 2)}\n`));
    await add("proof.txt", bytesFromText(`${[...proof.sentences, "", ...findingLines(proof.findings)].join("\n")}\n`));
  });
  return proof;
}

function envelopePeople(recipients: readonly Recipient[]): number {
  const { to, cc, bcc } = envelopeOf(recipients);
  return to.length + cc.length + bcc.length;
}

async function compose(
  parcel: PlannedParcel,
  { part, recipients }: MessagePart,
  message: ComposedMessage,
  files: readonly { readonly path: string; readonly kind: keyof typeof CONTENT_TYPES; readonly bytes: Uint8Array }[],
  about: {
    readonly report: Report;
    readonly templates: ReadonlyMap<string, Uint8Array>;
    readonly facts: RunFacts;
  },
): Promise<Uint8Array> {
  const { to, cc } = envelopeOf(recipients);
  const { replyTo } = about.report.delivery;
  const mail = new MailComposer({
    from: about.facts.sender,
    to: to.map(toMailbox),
    cc: cc.map(toMailbox),
    ...(replyTo ? { replyTo } : {}),
    ...message,
    messageId: messageId(
      { report: about.report.report, period: about.facts.period?.key ?? "", group: parcel.group.key, part, attempt: 1 },
      "corbix.example",
    ),
    attachments: [
      ...files
        .filter((file) => parcel.attachments.includes(file.path))
        .map((file) => ({
          filename: basename(file.path),
          content: Buffer.from(file.bytes),
          contentType: CONTENT_TYPES[file.kind],
        })),
      ...picturesIn(message.html).map((name) => ({
        filename: name,
        content: Buffer.from(about.templates.get(name) ?? new Uint8Array()),
        cid: pictureId(name),
      })),
    ],
  });
  return mail.compile().build();
}

function toMailbox({ address, name }: { readonly address: string; readonly name?: string }): {
  address: string;
  name: string;
} {
  return { address, name: name ?? "" };
}

async function loadTables(specs: readonly string[]): Promise<Map<string, Table>> {
  const tables = new Map<string, Table>();
  for (const spec of specs) {
    const [name, ...rest] = spec.split("=");
    const path = rest.join("=");
    if (!name || !path)
      throw new CorbixError("BAD_REQUEST", `Cannot read \`${spec}\` for --data, expected NAME=FILE.`, {
        where: "--data",
      });
    // A file may be called with a # itself.
    const { name: file, part } = existsSync(path) ? { name: path, part: undefined } : splitPart(path);
    tables.set(name, loadTable(await readInput(file), basename(file), part === undefined ? {} : { part }).table);
  }
  return tables;
}

async function loadRecipients(path: string, output: Output): Promise<readonly Recipient[]> {
  const { recipients, findings } = readRecipients(
    loadTable(await readInput(path), basename(path)).table,
    basename(path),
  );
  for (const line of findingLines(findings)) output.line(line);
  return recipients;
}

function requirePeriod(period: string | undefined, kind: string): string {
  if (period) return period;
  throw new CorbixError("BAD_PERIOD", `Cannot make the report without its ${kind}.`, {
    where: "--for",
    advice: "Give --for, such as --for 2026-10.",
  });
}

function dateOf(text: string | undefined): number {
  if (text === undefined) return today();
  const serial = maybeSerialFromIso(text);
  if (serial === undefined)
    throw new CorbixError("BAD_REQUEST", `Cannot read \`${text}\` for --date, expected a date such as 2026-11-02.`, {
      where: "--date",
    });
  return Math.floor(serial);
}
