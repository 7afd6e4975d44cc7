import { once } from "node:events";
import { CorbixError } from "@corbix/core/common";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import type { Context } from "../context.js";
import { announce } from "../events.js";

export interface Letterbox {
  readonly port: number;
  readonly close: () => Promise<void>;
}

/** Largest message it takes, in bytes; told to senders as RFC 1870 asks. */
const MAX_BYTES = 50 * 1024 * 1024;

/** The simulated mail server: takes every message on loopback and keeps it, delivers none. Throws `PORT_TAKEN`. */
export async function openLetterbox(context: Pick<Context, "database" | "log">, port: number): Promise<Letterbox> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    size: MAX_BYTES,
    banner: "Corbix letterbox",
    onData: (stream, session, done) => {
      const chunks: Buffer[] = [];
      stream.on("data", (chunk: Buffer) => chunks.push(chunk));
      stream.on("end", () => {
        const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : "";
        const to = session.envelope.rcptTo.map((recipient) => recipient.address);
        keep(context, Buffer.concat(chunks), from, to).then(
          (id) => done(null, `kept as letter ${id}`),
          (error: Error) =>
            done(Object.assign(new Error(`451 cannot keep the message: ${error.message}`), { responseCode: 451 })),
        );
      });
    },
  });
  server.on("error", (error) => context.log.warn({ error: error.message }, "letterbox"));
  const listening = server.listen(port, "127.0.0.1");
  await once(listening, "listening").catch((cause: NodeJS.ErrnoException) => {
    throw new CorbixError(
      "PORT_TAKEN",
      `Cannot open the letterbox on port ${port}: ${cause.code === "EADDRINUSE" ? "another program uses it" : cause.message}.`,
      { where: "CORBIX_LETTERBOX_PORT", advice: "Set another port.", cause },
    );
  });
  const address = listening.address();
  return {
    port: typeof address === "object" && address ? address.port : port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

async function keep(
  context: Pick<Context, "database">,
  raw: Buffer,
  mailFrom: string,
  rcptTo: readonly string[],
): Promise<string> {
  const mail = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
  const letter = await context.database.models.Letter.create({
    mailFrom,
    rcptTo,
    subject: mail.subject ?? "",
    messageId: mail.messageId ?? "",
    size: raw.length,
    attachments: mail.attachments.length,
    raw,
  });
  const { id } = letter.get({ plain: true });
  await announce(context.database, { kind: "letter", subject: String(id) });
  return String(id);
}
