import { once } from "node:events";
import { Readable } from "node:stream";
import type { SecureContextOptions } from "node:tls";
import { scopeOf } from "@corbix/api";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type AddressObject, type ParsedMail, simpleParser } from "mailparser";
import { SMTPServer, type SMTPServerSession } from "smtp-server";
import { maybeUser } from "../access/access.js";
import { Tries } from "../access/tries.js";
import { takeReport } from "../outbox/reports.js";
import { monotonicMs } from "../process/clock.js";
import type { Context } from "../process/context.js";
import { allDatasets } from "../records/index.js";
import { noteArrival, refusalText } from "./arrivals.js";
import { isRecordFile, takeRecordFile } from "./record-files.js";
import { takeIn } from "./take-in.js";

export interface IntakeMail {
  readonly port: number;
  /** Shows another certificate from now on. */
  readonly renew: (tls: SecureContextOptions) => void;
  readonly close: () => Promise<void>;
}

/** Sign-ins that are tried from one address within a minute. */
const MOST_TRIES = 10;

/** Endings and media types of attachments that can be a table; logos and signatures are not. */
const TABLE_NAME = /\.(xlsx|xlsm|ods|csv|tsv|txt|json|jsonl|ndjson)$/i;

interface Box {
  readonly dataset: string;
  readonly senders: readonly string[];
}

/**
 * An SMTP service that takes messages for datasets' addresses from allowed senders only; the attachment becomes the edition. With a
 * certificate the line can be encrypted (STARTTLS, RFC 3207), and over such a line one signs in (RFC 4954) by a name and one of its
 * tokens. Throws `PORT_TAKEN`, and `BAD_SETTING` where a sign-in is asked for and no certificate is given.
 */
export async function openIntakeMail(context: Context, port: number, tls?: SecureContextOptions): Promise<IntakeMail> {
  const isRequired = context.settings.intakeMailSignIn === "required";
  if (isRequired && !tls)
    throw new CorbixError("BAD_SETTING", say().serviceIntake.signInNeedsTls(), {
      where: "CORBIX_INTAKE_MAIL_SIGN_IN",
      advice: say().serviceIntake.giveCertificate(),
    });
  const tries = new Tries(context.database, monotonicMs);
  const server = new SMTPServer({
    ...(tls as object),
    authOptional: !isRequired,
    authMethods: ["PLAIN", "LOGIN"],
    // Without a certificate of one's own there is none that anybody should trust.
    disabledCommands: tls ? [] : ["AUTH", "STARTTLS"],
    allowInsecureAuth: false,
    onAuth: ({ username, password }, session, done) => {
      signIn(context, tries, { name: username ?? "", token: password ?? "", from: session.remoteAddress }).then(
        (name) => done(null, { user: name }),
        (error: unknown) => done(refusal(error instanceof CorbixError ? 535 : 454, refusalText(error))),
      );
    },
    disableReverseLookup: true,
    size: context.settings.uploadLimit,
    banner: "Corbix intake",
    maxClients: 20,
    onRcptTo: (address, session, done) => {
      checkAddress(context, address.address, session).then(
        () => done(),
        (error: Error) => done(refusal(550, error.message)),
      );
    },
    onData: (stream, session, done) => {
      receive(context, stream, session).then(
        (text) => done(null, text),
        (error: unknown) => {
          const known = error instanceof CorbixError;
          if (!known) context.log.error({ error: wordsOf(error) }, "mail not taken");
          done(refusal(known ? 554 : 451, refusalText(error)));
        },
      );
    },
  });
  server.on("error", (error) => context.log.warn({ error: error.message }, "intake mail"));
  const listening = server.listen(port, context.settings.host);
  await once(listening, "listening").catch((cause: NodeJS.ErrnoException) => {
    throw new CorbixError("PORT_TAKEN", say().serviceIntake.cannotTakeMailPort({ port, message: cause.message }), {
      where: "CORBIX_INTAKE_MAIL_PORT",
      advice: say().serviceIntake.setAnotherPort(),
      cause,
    });
  });
  const address = listening.address();
  return {
    port: typeof address === "object" && address ? address.port : port,
    renew: (next) => server.updateSecureContext(next as object),
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

/** Who signs in by a token of theirs, as far as they may prepare. Throws `NOT_SIGNED_IN`, `NOT_ALLOWED` and `TOO_MANY_TRIES`. */
async function signIn(
  context: Context,
  tries: Tries,
  { name, token, from }: { readonly name: string; readonly token: string; readonly from: string },
): Promise<string> {
  await tries.check([{ key: `intake ${from}`, most: MOST_TRIES, seconds: 60 }]);
  const user = await maybeUser(context.database, token, from);
  if (!user || user.name !== name || user.token?.kind !== "client")
    throw new CorbixError("NOT_SIGNED_IN", say().serviceIntake.wrongToken(), {});
  if (scopeOf(user.grants, ["prepare"]) === undefined)
    throw new CorbixError("NOT_ALLOWED", say().serviceIntake.mayNotPrepare({ name }), {});
  return name;
}

/** One line: SMTP replies end where a line does. */
function refusal(responseCode: number, text: string): Error {
  return Object.assign(new Error(text.replace(/\s+/g, " ")), { responseCode });
}

async function findBox(context: Context, address: string): Promise<Box> {
  const [name, domain] = address.toLowerCase().split("@");
  const datasets = await allDatasets(context.database);
  const found = datasets.find((dataset) => dataset.settings.mailbox?.name === name);
  if (!found?.settings.mailbox || domain !== context.settings.intakeMailDomain.toLowerCase())
    throw new CorbixError("NOT_FOUND", say().serviceIntake.datasetTakesFiles({ address }), {});
  return { dataset: found.name, senders: found.settings.mailbox.senders };
}

/** A sender is allowed by address, or by domain written as `@lifts.example`. */
function isAllowed(senders: readonly string[], address: string): boolean {
  const folded = address.toLowerCase();
  return senders.some((sender) =>
    sender.startsWith("@") ? folded.endsWith(sender.toLowerCase()) : folded === sender.toLowerCase(),
  );
}

/** Name of the address that takes reports of delivery; they come from nobody, as RFC 5321, 6.1 asks. */
const REPORTS = "reports";

function isForReports(context: Context, address: string): boolean {
  return address.toLowerCase() === `${REPORTS}@${context.settings.intakeMailDomain.toLowerCase()}`;
}

async function checkAddress(context: Context, address: string, session: SMTPServerSession): Promise<void> {
  if (isForReports(context, address)) return;
  const { dataset, senders } = await findBox(context, address);
  const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : "";
  if (isAllowed(senders, from)) return;
  const message = say().serviceIntake.mayNotSendFor({ from, dataset });
  await noteArrival(context, {
    way: "mail",
    sender: from,
    file: "",
    dataset,
    outcome: "refused",
    edition: null,
    message,
  });
  throw new CorbixError("NOT_ALLOWED", message, {});
}

async function receive(context: Context, stream: Readable, session: SMTPServerSession): Promise<string> {
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk as Buffer);
  const raw = Buffer.concat(chunks);
  if (session.envelope.rcptTo.every(({ address }) => isForReports(context, address))) {
    const { message } = await takeReport(context, raw);
    return message === null ? "no message of ours is meant" : `put to message ${message}`;
  }
  const mail = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
  const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : "";
  const outcomes: string[] = [];
  for (const { address } of session.envelope.rcptTo) {
    const box = await findBox(context, address);
    const facts = { way: "mail" as const, sender: from, dataset: box.dataset };
    let file = "";
    try {
      checkWriter(mail, box);
      const attachment = oneTable(mail);
      file = attachment.name;
      if (isRecordFile(file)) {
        const taken = await takeRecordFile(context, { dataset: box.dataset, file, bytes: attachment.content }, from);
        const runs = taken.map(({ run }) => run).join(", ");
        const message = say().serviceIntake.recordsRun({ runs });
        await noteArrival(context, { ...facts, file, outcome: "loaded", edition: taken[0]?.edition ?? null, message });
        outcomes.push(`${file} is ${message}`);
        continue;
      }
      const { sha256 } = await context.store.putStream(
        Readable.from([attachment.content]),
        context.settings.uploadLimit,
      );
      const edition = await takeIn(context, { dataset: box.dataset, file, sha256 }, from);
      await noteArrival(context, { ...facts, file, outcome: "loaded", edition: edition.number, message: null });
      outcomes.push(`${file} is edition ${edition.number} of ${box.dataset}, ${edition.rowCount} rows`);
    } catch (error) {
      await noteArrival(context, { ...facts, file, outcome: "refused", edition: null, message: refusalText(error) });
      throw error;
    }
  }
  return outcomes.join("; ");
}

/** The writer named in the message has to be allowed too: the envelope alone is easily borrowed. */
function checkWriter(mail: ParsedMail, box: Box): void {
  const from = mail.from as AddressObject | undefined;
  const writers = (from?.value ?? []).map((one) => one.address ?? "");
  if (writers.length > 0 && writers.every((writer) => isAllowed(box.senders, writer))) return;
  throw new CorbixError(
    "NOT_ALLOWED",
    say().serviceIntake.allowedSendFiles({ writers: writers.join(", "), dataset: box.dataset }),
    {},
  );
}

function oneTable(mail: ParsedMail): { name: string; content: Buffer } {
  const tables = mail.attachments.filter((attachment) => TABLE_NAME.test(attachment.filename ?? ""));
  const [table, ...others] = tables;
  if (table && others.length === 0) return { name: table.filename ?? "attachment", content: table.content };
  throw new CorbixError(
    "BAD_TABLE_FILE",
    say().serviceIntake.cannotFindTableAmongAttachments({
      tableCount: tables.length,
      tables: tables.map((one) => one.filename).join(", "),
    }),
    { where: "message", advice: say().serviceIntake.sendWorkbookTextJsonFile() },
  );
}
