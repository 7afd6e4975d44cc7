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
  const stage = new Stage();
  const transport = createTransport({
    url,
    pool: true,
    maxConnections: MAX_CONNECTIONS,
    maxMessages: Number.POSITIVE_INFINITY,
    socketTimeout: SILENCE_MS,
    connectionTimeout: 10_000,
    disableFileAccess: true,
    disableUrlAccess: true,
    transactionLog: true,
    logger: stage.logger,
  } as Parameters<typeof createTransport>[0]);
  return {
    close: () => transport.close(),
    send: async (mail) => {
      stage.begin();
      try {
        const info = (await transport.sendMail(messageOf(mail))) as SentInfo;
        const rejected = (info.rejected ?? []).map((one) => (typeof one === "string" ? one : one.address));
        return { kind: "sent", response: info.response ?? "", rejected };
      } catch (error) {
        return judge(error as SmtpError, stage.mayHaveReachedData);
      } finally {
        stage.end();
      }
    },
  };
}

interface SentInfo {
  readonly response?: string;
  readonly rejected?: readonly (string | { readonly address: string })[];
}

/**
 * Watches the conversation with the server for the word DATA: an error does not tell whether it came before or after it.
 * With several messages on their way at once it cannot be told whose DATA it was, so all of them count as begun.
 */
class Stage {
  private open = 0;
  private began = false;

  begin(): void {
    if (this.open === 0) this.began = false;
    this.open++;
  }

  end(): void {
    this.open--;
  }

  get mayHaveReachedData(): boolean {
    return this.began || this.open > 1;
  }

  readonly logger = Object.fromEntries(
    ["trace", "debug", "info", "warn", "error", "fatal"].map((level) => [
      level,
      (entry: { readonly tnx?: string } | undefined, message?: unknown) => {
        if (entry?.tnx === "client" && /^(DATA|BDAT)\b/i.test(String(message))) this.began = true;
      },
    ]),
  );
}

function messageOf(mail: OutgoingMail): object {
  return {
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
    attachments: mail.attachments.map((attachment) => ({ ...attachment, content: Buffer.from(attachment.content) })),
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

/** Before DATA nothing was given away; a clear answer counts; silence or a break from then on leaves it open. */
function judge(error: SmtpError, mayHaveReachedData: boolean): Outcome {
  const response = error.response ?? error.message;
  if (error.responseCode !== undefined) {
    // RFC 5321, 4.2.1: 4 is temporary, 5 is permanent.
    return { kind: error.responseCode >= 500 ? "refused" : "later", response };
  }
  if (error.code === "EENVELOPE" || error.code === "EMESSAGE") return { kind: "refused", response };
  return { kind: mayHaveReachedData ? "unsure" : "later", response };
}
