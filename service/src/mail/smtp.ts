/** Sending over SMTP (RFC 5321), one message at a time over each of a few connections that are kept open. */

import { Readable } from "node:stream";
import { wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import SMTPConnection from "nodemailer/lib/smtp-connection";

/** Where messages are handed in. */
export interface MailServer {
  readonly host: string;
  readonly port: number;
  /** `starttls`: begun plain and refused where the server cannot encrypt. `none` is for the letterbox and for one's own machine. */
  readonly security: "tls" | "starttls" | "none";
  readonly user?: string | undefined;
  readonly password?: string | undefined;
  /** PEM of a certificate authority of one's own. */
  readonly authority?: string | undefined;
}

export interface OutgoingMail {
  /** Where reports of non-delivery go. */
  readonly from: string;
  readonly to: readonly string[];
  readonly raw: Buffer;
  /** Asked when a line is ready, right before the first byte of the message: where it says no, nothing goes out. */
  readonly begin: () => Promise<boolean>;
  /** Asked before each piece of it: a process that was taken for dead meanwhile lets it break off. */
  readonly isOurs: () => boolean;
}

/** How far a message got. `answer`: all of it was handed over, and the server's word was awaited. */
export type Stage = "connecting" | "envelope" | "data" | "answer";

/**
 * What became of a message. `later`: certainly not taken, worth trying again. `refused`: certainly not taken, for good.
 * `unsure`: the connection broke when everything had been handed over and nobody can know whether the server took it.
 */
export interface Outcome {
  readonly kind: "sent" | "later" | "refused" | "unsure";
  /** The server's words, or what broke. */
  readonly response: string;
  readonly stage: Stage;
  /** Addresses the server took, refused for now and refused for good. */
  readonly taken: readonly string[];
  readonly later: readonly AddressAnswer[];
  readonly refused: readonly AddressAnswer[];
  /** What was said of single addresses that took it, where it was not the same for all. */
  readonly receipts?: Readonly<Record<string, string>>;
}

export interface AddressAnswer {
  readonly address: string;
  readonly response: string;
}

/** Sends to one server over at most so many connections. */
export interface MailSender {
  readonly send: (mail: OutgoingMail) => Promise<Outcome>;
  readonly close: () => void;
}

/** The server may stay silent for so long before the connection counts as broken (RFC 5321, 4.5.3.2 asks for ten minutes at the end of data). */
const SILENCE_MS = 600_000;
const CONNECT_MS = 20_000;
/** A server that is only tried may stay silent for so long. */
const TRY_MS = 20_000;
/** Messages over one connection: some servers end it after a hundred. */
const MESSAGES_PER_CONNECTION = 100;
const CHUNK = 16_384;
/** A server that does not answer RSET by then is left. */
const RESET_MS = 5_000;

export function smtpSender(server: MailServer, connections = 1, silenceMs = SILENCE_MS): MailSender {
  const idle: SmtpSession[] = [];
  const open = new Set<SmtpSession>();
  const queue: (() => void)[] = [];
  let busy = 0;
  const take = async (): Promise<SmtpSession> => {
    for (let line = idle.pop(); line; line = idle.pop()) if (await line.isReady()) return line;
    const line = await SmtpSession.open(server, silenceMs);
    open.add(line);
    line.onEnd = () => open.delete(line);
    return line;
  };
  const give = (line: SmtpSession): void => {
    if (line.isGone) open.delete(line);
    else if (line.count >= MESSAGES_PER_CONNECTION) line.quit();
    else idle.push(line);
  };
  return {
    send: async (mail) => {
      // Messages wait in the order they came; each line carries one at a time.
      if (busy >= connections) await new Promise<void>((resolve) => queue.push(resolve));
      else busy++;
      try {
        const line = await take().catch((error: SmtpError) => error);
        // Whatever is wrong with the line is not the message's fault: it waits.
        if (!(line instanceof SmtpSession)) return { ...judge(line, "connecting"), kind: "later" };
        const refusal = await mail.begin().then(
          (may) => (may ? undefined : say().serviceMail.mayNotBegin()),
          (error: Error) => error.message,
        );
        if (refusal !== undefined) {
          give(line);
          return { kind: "later", response: refusal, stage: "envelope", taken: [], later: [], refused: [] };
        }
        const outcome = await line.send(mail);
        give(line);
        return outcome;
      } finally {
        const next = queue.shift();
        if (next) next();
        else busy--;
      }
    },
    close: () => {
      for (const line of open) line.quit();
      idle.length = 0;
    },
  };
}

/** Opens a line as for sending, signs in, and leaves; gives what stands against it, in words. */
export async function tryServer(server: MailServer): Promise<string | undefined> {
  try {
    (await SmtpSession.open(server, TRY_MS)).quit();
    return undefined;
  } catch (error) {
    return wordsOf(error);
  }
}

interface SmtpError extends Error {
  readonly code?: string;
  readonly responseCode?: number;
  readonly response?: string;
  readonly rejectedErrors?: readonly (SmtpError & { readonly recipient?: string })[];
}

/** One connection, logged in. */
class SmtpSession {
  count = 0;
  isGone = false;
  private needsReset = false;
  onEnd: () => void = () => {};
  private fail: ((error: SmtpError) => void) | undefined;

  private constructor(private readonly connection: SMTPConnection) {
    const gone = (error?: Error): void => {
      this.isGone = true;
      this.onEnd();
      this.fail?.(error ?? new Error("the connection was closed"));
    };
    connection.on("error", gone);
    connection.on("end", () => gone());
  }

  static async open(server: MailServer, silenceMs: number): Promise<SmtpSession> {
    const connection = new SMTPConnection({
      host: server.host,
      port: server.port,
      secure: server.security === "tls",
      requireTLS: server.security === "starttls",
      ignoreTLS: server.security === "none",
      connectionTimeout: CONNECT_MS,
      greetingTimeout: CONNECT_MS,
      socketTimeout: silenceMs,
      ...(server.authority ? { tls: { ca: server.authority } } : {}),
    });
    const line = new SmtpSession(connection);
    const { user, password } = server;
    try {
      await line.settled((done) => connection.connect(done));
      if (user !== undefined && password !== undefined)
        await line.settled((done) =>
          connection.login({ user, pass: password, credentials: { user, pass: password } }, done),
        );
    } catch (error) {
      // A server that does not let one in is not kept waiting.
      line.drop();
      throw error;
    }
    return line;
  }

  quit(): void {
    this.isGone = true;
    this.connection.quit();
    // A server that does not answer is left.
    setTimeout(() => this.connection.close(), 1_000).unref();
  }

  async send(mail: OutgoingMail): Promise<Outcome> {
    this.count++;
    const body = new Body(mail.raw, mail.isOurs, () => this.drop());
    try {
      const info = await this.settled<SentInfo>((done) =>
        this.connection.send(
          { from: mail.from, to: [...mail.to], size: mail.raw.length },
          body,
          done as (error: Error | null, info?: unknown) => void,
        ),
      );
      return {
        kind: "sent",
        response: info.response ?? "",
        stage: "answer",
        taken: info.accepted ?? [],
        ...sorted(info.rejectedErrors ?? []),
      };
    } catch (error) {
      const outcome = judge(error as SmtpError, body.stage);
      // What was begun cannot be taken back: the next message goes over another connection.
      if (outcome.stage !== "envelope" && (error as SmtpError).responseCode === undefined) this.drop();
      else this.needsReset = true;
      return outcome;
    }
  }

  /** Whether another message can go over it; after a refusal the server is asked to forget the one before. */
  async isReady(): Promise<boolean> {
    if (!this.isGone && this.needsReset) {
      const timer = setTimeout(() => this.drop(), RESET_MS);
      await this.settled((done) => this.connection.reset(done)).catch(() => this.drop());
      clearTimeout(timer);
      this.needsReset = false;
    }
    return !this.isGone;
  }

  private drop(): void {
    this.isGone = true;
    this.connection.close();
  }

  /** Ends with the callback, or with the connection. */
  private settled<T = void>(work: (done: (error?: Error | null, value?: unknown) => void) => void): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const end = (): void => {
        this.fail = undefined;
      };
      this.fail = (error) => {
        end();
        reject(error);
      };
      work((error, value) => {
        end();
        if (error) reject(error);
        else resolve(value as T);
      });
    });
  }
}

interface SentInfo {
  readonly response?: string;
  readonly accepted?: readonly string[];
  readonly rejectedErrors?: SmtpError["rejectedErrors"];
}

/** The message as a stream that knows how much of it was asked for: the last piece is followed by the end of data. */
class Body extends Readable {
  private at = 0;
  private hasBegun = false;
  private isHandedOver = false;

  constructor(
    private readonly raw: Buffer,
    private readonly isOurs: () => boolean,
    private readonly breakOff: () => void,
  ) {
    super({ highWaterMark: CHUNK });
    // All of it was read, and the end of the data is written next: the last moment at which it can be kept from counting. A process
    // that was frozen between the two, and taken for dead, breaks off here.
    this.on("end", () => {
      if (this.isOurs()) this.isHandedOver = true;
      else this.breakOff();
    });
  }

  get stage(): Stage {
    return this.isHandedOver ? "answer" : this.hasBegun ? "data" : "envelope";
  }

  override _read(): void {
    this.hasBegun = true;
    if (!this.isOurs()) {
      this.breakOff();
      return;
    }
    const piece = this.raw.subarray(this.at, this.at + CHUNK);
    this.at += piece.length;
    this.push(piece.length === 0 ? null : piece);
  }
}

/** A clear answer counts. Without one, nothing was taken before the end of the data was handed over; from then on nobody knows. */
function judge(error: SmtpError, stage: Stage): Outcome {
  const said = error.response ?? error.message;
  const response = error.code === "ETLS" ? say().serviceMail.lineCannotEncrypted({ said }) : said;
  const addresses = sorted(error.rejectedErrors ?? []);
  const none = { response, stage, taken: [], ...addresses };
  // RFC 5321, 4.2.1: 4 is temporary, 5 is permanent. Where some addresses are refused for now, they are tried again.
  if (addresses.later.length > 0) return { kind: "later", ...none };
  if (error.responseCode !== undefined && error.responseCode > 0)
    return { kind: error.responseCode >= 500 ? "refused" : "later", ...none };
  if (error.code === "EENVELOPE" || error.code === "EMESSAGE") return { kind: "refused", ...none };
  if (stage !== "answer") return { kind: "later", ...none };
  return {
    kind: "unsure",
    ...none,
    response: say().serviceMail.connectionBrokeAfterWholeMessage({ response }),
  };
}

function sorted(errors: NonNullable<SmtpError["rejectedErrors"]>): Pick<Outcome, "later" | "refused"> {
  const answers = errors.map((error) => ({
    isForGood: (error.responseCode ?? 0) >= 500,
    answer: { address: error.recipient ?? "", response: error.response ?? error.message },
  }));
  return {
    later: answers.filter((one) => !one.isForGood).map((one) => one.answer),
    refused: answers.filter((one) => one.isForGood).map((one) => one.answer),
  };
}
