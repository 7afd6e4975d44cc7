import { createTransport } from "nodemailer";
import type { Settings } from "../settings.js";

export interface OutgoingMail {
  readonly from: string;
  readonly to: readonly Mailbox[];
  readonly cc: readonly Mailbox[];
  readonly bcc: readonly Mailbox[];
  readonly replyTo: string | undefined;
  readonly subject: string;
  readonly html: string;
  readonly text: string;
  readonly messageId: string;
  readonly importance: "low" | "normal" | "high";
  readonly headers: Readonly<Record<string, string>>;
  readonly attachments: readonly {
    readonly filename: string;
    readonly content: Uint8Array;
    readonly contentType: string;
  }[];
}

export interface Mailbox {
  readonly address: string;
  readonly name?: string;
}

/**
 * What became of a message. `later`: certainly not taken, worth trying again. `refused`: certainly not taken, for good.
 * `unsure`: the connection broke where nobody can know whether the server took it.
 */
export type Outcome =
  | { readonly kind: "sent"; readonly response: string; readonly rejected: readonly string[] }
  | { readonly kind: "later" | "refused" | "unsure"; readonly response: string };

export interface Mailer {
  readonly send: (mail: OutgoingMail) => Promise<Outcome>;
  readonly close: () => void;
}

/** Connections held open to the mail server at once. */
const MAX_CONNECTIONS = 3;
/** The server may stay silent for so long before the connection counts as broken. */
const SILENCE_MS = 60_000;

/** The mail server of the settings, or the letterbox. */
export function smtpMailer(settings: Settings): Mailer {
  const url = settings.mailUrl ?? `smtp://127.0.0.1:${settings.letterboxPort}`;
  const transport = createTransport({
    url,
    pool: true,
    maxConnections: MAX_CONNECTIONS,
    maxMessages: Number.POSITIVE_INFINITY,
    socketTimeout: SILENCE_MS,
    connectionTimeout: 10_000,
    disableFileAccess: true,
    disableUrlAccess: true,
  } as Parameters<typeof createTransport>[0]);
  return {
    close: () => transport.close(),
    send: async (mail) => {
      try {
        const info = (await transport.sendMail({
          from: mail.from,
          to: mail.to.map(mailbox),
          cc: mail.cc.map(mailbox),
          bcc: mail.bcc.map(mailbox),
          ...(mail.replyTo ? { replyTo: mail.replyTo } : {}),
          subject: mail.subject,
          html: mail.html,
          text: mail.text,
          messageId: mail.messageId,
          priority: mail.importance,
          headers: { ...mail.headers },
          attachments: mail.attachments.map((attachment) => ({
            ...attachment,
            content: Buffer.from(attachment.content),
          })),
        })) as { response?: string; rejected?: readonly (string | { address: string })[] };
        return {
          kind: "sent",
          response: info.response ?? "",
          rejected: (info.rejected ?? []).map((one) => (typeof one === "string" ? one : one.address)),
        };
      } catch (error) {
        return judge(error as SmtpError);
      }
    },
  };
}

function mailbox({ address, name }: Mailbox): { address: string; name: string } {
  return { address, name: name ?? "" };
}

interface SmtpError extends Error {
  readonly code?: string;
  readonly responseCode?: number;
  readonly response?: string;
  readonly command?: string;
}

/** Before DATA nothing was given away; a clear answer counts; silence or a break at the data leaves it open. */
function judge(error: SmtpError): Outcome {
  const response = error.response ?? error.message;
  if (error.responseCode !== undefined) {
    // RFC 5321, 4.2.1: 4 is temporary, 5 is permanent.
    return { kind: error.responseCode >= 500 ? "refused" : "later", response };
  }
  if (error.code === "EENVELOPE" || error.code === "EMESSAGE") return { kind: "refused", response };
  const beforeData =
    error.code === "EDNS" ||
    error.code === "EAUTH" ||
    error.code === "ETLS" ||
    error.command === "CONN" ||
    error.command === "API" ||
    /ECONNREFUSED/.test(error.message);
  return { kind: beforeData ? "later" : "unsure", response };
}
