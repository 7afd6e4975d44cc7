import { existsSync } from "node:fs";
import { readdir, readFile } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { parsePeriod } from "@corbix/core/calendar";
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
import { bareAddress, type Recipient, readRecipients } from "@corbix/core/recipients";
import { describeProblems, parseReport, parseYaml } from "@corbix/core/report";
import {
  type AttachmentSource,
  type FoundAttachments,
  findAttachments,
  furtherOf,
  type MadeParcel,
  mailParts,
  makeParcel,
  type ParcelFile,
  type ParcelMessage,
  type Planned,
  type PlannedParcel,
  planRun,
  proveRun,
  type RunFacts,
  Seal,
} from "@corbix/core/run";
import { type IntakeRules, intakeRulesSchema, loadTable, splitPart, type Table } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import { z } from "zod";
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
  readonly attachments?: string;
  readonly from?: string;
  readonly password?: readonly string[];
  readonly sheet?: readonly string[];
  readonly corrections?: string;
}

const SENDER = "office@corbix.example";
/** Of Message-IDs. */
const DOMAIN = "corbix.example";

/** Makes all files, messages and the proof of a report without any service. */
export async function make(reportPath: string, options: MakeOptions, output: Output): Promise<number> {
  const report = parseReport(textFromBytes(await readInput(reportPath)), basename(reportPath));
  const tables = await loadTables(options);
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
    // With a day given the same input gives the same bytes, whatever the hour.
    ...(options.date === undefined ? { time: printedNow().time } : {}),
    sender: bareAddress(options.from ?? SENDER),
    locale: report.locale,
    ...(report.period
      ? { period: parsePeriod(requirePeriod(options.for, report.period.every), report.period.every) }
      : {}),
  };
  const planned = planRun({ report, table, others: tables, recipients, templates, facts });
  const source = attachmentSource(templates, options.attachments ?? join(dirname(reportPath), "attachments"));
  const { out, fonts } = options;
  const from = options.from ?? SENDER;
  const proof = await writeAll(planned, facts, { out, fonts, source, recipients, from }, output);
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

async function writeAll(
  { plan, maker }: Planned,
  facts: RunFacts,
  {
    out,
    fonts: folder,
    source,
    recipients,
    from,
  }: {
    readonly out: string;
    readonly fonts: string | undefined;
    readonly source: AttachmentSource;
    readonly recipients: readonly Recipient[];
    readonly from: string;
  },
  output: Output,
) {
  const fonts = openFonts(folder);
  const made: MadeParcel[] = [];
  const names = [...plan.groupNames, ...recipients.map((one) => one.group)];
  const beside = await findAttachments(plan.parcels, names, source, async (bytes) => ({ bytes }));
  const bar = output.progress("make", plan.parcels.length);
  let proof = proveRun(plan, made);
  await writeFolder(out, async (add) => {
    const findings = [...plan.findings, ...beside.findings];
    const seal = plan.sealedNames && new Seal(plan.sealedNames);
    for (const parcel of plan.parcels) {
      const {
        files,
        messages,
        findings: own,
      } = makeParcel({
        maker,
        table: plan.table,
        group: parcel.group,
        place: {
          number: parcel.number,
          count: plan.parcels.length,
          further: furtherOf(plan.further, parcel.group),
        },
        recipients: parcel.recipients,
        files: parcel.files,
        facts,
        fonts,
        seal: seal && { seal, own: parcel.group.label },
        isSilent: beside.leftOut.has(parcel.number),
        delivery: { report: maker.report.report, occasion: facts.period?.key ?? "", domain: DOMAIN },
      });
      findings.push(...own.filter((one) => !findings.some((known) => isSame(known, one))));
      for (const file of files) await add(file.path, file.bytes);
      for (const message of messages) {
        const { part } = message.part;
        const name = part === "" ? parcel.group.label : `${parcel.group.label} – ${part}`;
        const bytes = await mailBytes(message, { parcel, files, maker, facts, source, from, beside: beside.files });
        await add(join("messages", `${safeName(name)}.eml`), bytes);
      }
      made.push({
        key: parcel.group.key,
        label: parcel.group.label,
        plannedFiles: parcel.files.length,
        people: messages.reduce((sum, { envelope: { to, cc, bcc } }) => sum + to.length + cc.length + bcc.length, 0),
        messages: messages.length,
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

/** Fixed attachments and pictures lie with the templates, found ones in a folder of their own. */
function attachmentSource(templates: ReadonlyMap<string, Uint8Array>, root: string): AttachmentSource {
  return {
    fixed: async (name) => {
      const bytes = templates.get(name);
      if (bytes) return bytes;
      throw new CorbixError("FILE_MISSING", `Cannot attach "${name}": it is not in the folder of the templates.`, {
        where: name,
        advice: "Put it there, or name another folder with --templates.",
      });
    },
    list: async (folder) => {
      const entries = await readdir(join(root, folder), { withFileTypes: true }).catch(() => []);
      return entries.filter((entry) => entry.isFile()).map((entry) => entry.name);
    },
    read: (path) => readFile(join(root, path)).catch(() => undefined),
  };
}

async function loadTables(options: MakeOptions): Promise<Map<string, Table>> {
  const tables = new Map<string, Table>();
  const passwords = named(options.password ?? [], "--password", "PASSWORD");
  const sheets = named(options.sheet ?? [], "--sheet", "SHEET");
  const corrections = options.corrections === undefined ? new Map() : await readCorrections(options.corrections);
  const files = named(options.data, "--data", "FILE");
  for (const [list, option] of [
    [passwords, "--password"],
    [sheets, "--sheet"],
    [corrections, "--corrections"],
  ] as const)
    for (const name of list.keys())
      if (!files.has(name))
        throw new CorbixError("BAD_REQUEST", `Cannot use ${option} for \`${name}\`: no --data is called so.`, {
          where: option,
        });
  for (const [name, path] of files) {
    // A file may be called with a # itself.
    const { name: file, part } = existsSync(path) ? { name: path, part: undefined } : splitPart(path);
    const password = passwords.get(name) ?? process.env.CORBIX_FILE_PASSWORD;
    const sheet = sheets.get(name);
    const { table } = loadTable(await readInput(file), basename(file), {
      ...corrections.get(name),
      ...(sheet === undefined ? {} : { sheet }),
      ...(part === undefined ? {} : { part }),
      ...(password === undefined ? {} : { password }),
    });
    tables.set(name, table);
  }
  return tables;
}

/** `NAME=VALUE`, several times. */
function named(specs: readonly string[], option: string, value: string): Map<string, string> {
  return new Map(
    specs.map((spec) => {
      const [name, ...rest] = spec.split("=");
      if (!name || rest.join("=") === "")
        throw new CorbixError("BAD_REQUEST", `Cannot read \`${spec}\` for ${option}, expected NAME=${value}.`, {
          where: option,
        });
      return [name, rest.join("=")];
    }),
  );
}

const correctionsSchema = z.record(z.string(), intakeRulesSchema);

/** How the files of datasets are read, by the dataset's name: what the service keeps with each. */
async function readCorrections(path: string): Promise<Map<string, IntakeRules>> {
  const source = parseYaml(textFromBytes(await readInput(path)), basename(path), "BAD_RULE");
  const checked = correctionsSchema.safeParse(source);
  if (checked.success) return new Map(Object.entries(checked.data));
  throw new CorbixError("BAD_RULE", `Cannot use the corrections: ${describeProblems(checked.error)}.`, {
    where: basename(path),
    advice: "Give corrections by dataset, such as visits: { sheet: October, headerRow: 3 }.",
  });
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
