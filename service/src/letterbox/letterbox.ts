import { once } from "node:events";
import { setTimeout as wait } from "node:timers/promises";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { simpleParser } from "mailparser";
import { SMTPServer, type SMTPServerSession } from "smtp-server";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { addLetter } from "../records/index.js";
import { nonDeliveryReport } from "./report.js";
import { type LetterboxRule, LetterboxRules } from "./rules.js";

export interface Letterbox {
  readonly port: number;
  readonly close: () => Promise<void>;
}

/** Largest message it takes, in bytes; told to senders as RFC 1870 asks. */
const MAX_BYTES = 50 * 1024 * 1024;
/** Of a message only so much is looked at for its subject and Message-ID. */
const HEAD_BYTES = 65_536;

type Site = Pick<Context, "database" | "log"> & {
  /** Takes a report of non-delivery in, as the mail system of the office would bring it. */
  readonly takeReport: (raw: Buffer) => Promise<unknown>;
};

type Callback = (error?: Error | null, text?: string) => void;

/** The simulated mail server: takes every message on loopback and keeps it, delivers none, and does wrong what its rules say. Throws `PORT_TAKEN`. */
export async function openLetterbox(context: Site, port: number): Promise<Letterbox> {
  const rules = new LetterboxRules(context.database);
  const recent: number[] = [];
  const answer = (code: number, text: string): Error => Object.assign(new Error(text), { responseCode: code });
  const within = (work: () => Promise<void>, done: Callback): void => {
    work().catch((error: Error) => done(answer(451, `cannot tell: ${error.message}`)));
  };
  const server: SMTPServer = new SMTPServer({
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    size: MAX_BYTES,
    banner: "Corbix letterbox",
    onMailFrom: (_address, session, done: Callback) =>
      within(async () => {
        const slow = await rules.find(["slow"], {});
        if (slow) await wait(slow.seconds * 1000);
        const throttle = await rules.find(["throttle"], {});
        if (throttle && isTooFast(recent, throttle))
          done(answer(421, throttle.says ?? "4.7.0 too many messages, slow down"));
        else if (await rules.find(["break-before"], {})) breakOff(server, session);
        else done();
      }, done),
    onRcptTo: (address, _session, done: Callback) =>
      within(async () => {
        const rule = await rules.find(["refuse", "defer", "full"], { to: [address.address] });
        if (!rule) done();
        else if (rule.does === "refuse") done(answer(550, rule.says ?? "5.1.1 no such mailbox here"));
        else if (rule.does === "full") done(answer(452, rule.says ?? "4.2.2 the mailbox is full"));
        else done(answer(451, rule.says ?? "4.3.0 try again later"));
      }, done),
    onData: (stream, session, done: Callback) => {
      const chunks: Buffer[] = [];
      const to = session.envelope.rcptTo.map((recipient) => recipient.address);
      let isBroken = false;
      let begun: Promise<LetterHead> | undefined;
      stream.on("data", (chunk: Buffer) => {
        chunks.push(chunk);
        if (chunks.length > 1) return;
        begun = headOf(chunk).then(async (head) => {
          const rule = await rules.find(["break-within"], { to, subject: head.subject });
          isBroken = rule !== undefined;
          if (rule) breakOff(server, session);
          return head;
        });
      });
      stream.on("end", () =>
        within(async () => {
          const first = await begun;
          if (isBroken) return;
          const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : "";
          const raw = Buffer.concat(chunks);
          const head = first?.isWhole ? first : await headOf(raw);
          const about = { to, subject: head.subject };
          const rule = await rules.find(["lose", "refuse-data", "defer-data", "break-after", "bounce"], about);
          if (rule?.does === "lose") breakOff(server, session);
          else if (rule?.does === "refuse-data") done(answer(554, rule.says ?? "5.7.1 the message is not wanted"));
          else if (rule?.does === "defer-data") done(answer(451, rule.says ?? "4.3.0 try again later"));
          else {
            const id = await keep(context, raw, head, from, to);
            const slow = await rules.find(["slow-answer"], about);
            if (slow) await wait(slow.seconds * 1000);
            if (rule?.does === "break-after") breakOff(server, session);
            else done(null, `kept as letter ${id}`);
            if (rule?.does === "bounce") await bounce(context, raw, from, to, rule);
          }
        }, done),
      );
    },
  });
  server.on("error", (error) => context.log.debug({ error: error.message }, "letterbox"));
  const listening = server.listen(port, "127.0.0.1");
  await once(listening, "listening").catch((cause: NodeJS.ErrnoException) => {
    throw new CorbixError(
      "PORT_TAKEN",
      say().serviceLetterbox.cannotOpenLetterboxPort({ port, code: cause.code, message: cause.message }),
      { where: "CORBIX_LETTERBOX_PORT", advice: say().serviceLetterbox.setAnotherPort(), cause },
    );
  });
  const address = listening.address();
  return {
    port: typeof address === "object" && address ? address.port : port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

/** Whether more came within the last second than a rule takes. */
function isTooFast(recent: number[], rule: LetterboxRule): boolean {
  const now = Date.now();
  while ((recent[0] ?? now) < now - 1000) recent.shift();
  if (recent.length >= rule.perSecond) return true;
  recent.push(now);
  return false;
}

/** Ends the connection of a session at once, as a cut line does. */
function breakOff(server: SMTPServer, session: SMTPServerSession): void {
  const { connections } = server as unknown as {
    connections: Iterable<{
      readonly session: SMTPServerSession;
      readonly id: string;
      readonly _socket: { destroy(): void };
    }>;
  };
  for (const connection of connections) if (connection.id === session.id) connection._socket.destroy();
}

/** Subject and Message-ID as they stand in a message's head: all that the list of letters shows. */
interface LetterHead {
  readonly subject: string;
  readonly messageId: string;
  /** Whether its end was there to be read. */
  readonly isWhole: boolean;
}

async function headOf(raw: Buffer): Promise<LetterHead> {
  const end = raw.indexOf("\r\n\r\n");
  const head = raw.subarray(0, end < 0 ? HEAD_BYTES : Math.min(end + 4, HEAD_BYTES));
  const { subject, messageId } = await simpleParser(head, { skipHtmlToText: true, skipTextToHtml: true });
  return { subject: subject ?? "", messageId: messageId ?? "", isWhole: end >= 0 };
}

async function keep(
  context: Site,
  raw: Buffer,
  { subject, messageId }: LetterHead,
  mailFrom: string,
  rcptTo: readonly string[],
): Promise<string> {
  const id = await addLetter(context.database, {
    mailFrom,
    rcptTo,
    subject,
    messageId,
    size: raw.length,
    attachments: raw.toString("latin1").match(/^Content-Disposition: attachment/gim)?.length ?? 0,
    raw,
  });
  await announce(context.database, { kind: "letter", subject: id });
  return id;
}

/** The report that the mail system behind the server would send back. */
async function bounce(
  context: Site,
  raw: Buffer,
  from: string,
  to: readonly string[],
  rule: LetterboxRule,
): Promise<void> {
  if (from === "") return;
  const failed = to.filter((one) => rule.to === undefined || one.toLowerCase().includes(rule.to.toLowerCase()));
  const report = nonDeliveryReport(raw, from, failed, rule.says ?? "550 5.1.1 no such mailbox here");
  await context.takeReport(Buffer.from(report, "latin1"));
}
