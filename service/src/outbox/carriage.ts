/** What the outbox goes by: mail through the server of an identity, or files by a way out. */
import { CorbixError } from "@corbix/core/common";
import type { Report } from "@corbix/core/report";
import { getIdentity } from "../mail/identities.js";
import type { MailSender, MailServer, Outcome, OutgoingMail } from "../mail/smtp.js";
import type { Context } from "../process/context.js";
import type { BareMessage, MessageFile, MessageParcel, SenderKind, SentRun } from "../records/index.js";
import { getWay } from "../ways/ways.js";
import { composeMail } from "./compose.js";
import { wayCarrier } from "./way-carrier.js";

/** Opens senders of mail; tests put in one that does as it is told. */
export type OpenSender = (server: MailServer, connections: number) => MailSender;

export interface CarriageSettings {
  readonly perMinute: number;
  readonly perHour?: number | undefined;
  readonly connections: number;
  readonly patienceHours: number;
  readonly firstPause: number;
}

export interface Carriage {
  readonly settings: CarriageSettings;
  readonly paused: boolean;
  /** Whether its server is being left alone now. */
  readonly isResting: boolean;
  readonly restWhy: string | null;
  /** Tells one state of its settings from another. */
  readonly key: string;
  readonly open: () => Carrier;
}

/** Lines to one server. */
export interface Carrier {
  /** Reads what goes and compares it with what it is of. Throws what keeps it from going; nothing has gone out then. */
  readonly load: (message: BareMessage, facts: LoadFacts) => Promise<Loaded>;
  readonly close: () => void;
}

export interface LoadFacts {
  readonly run: SentRun;
  readonly report: Report;
  readonly parcel: MessageParcel;
  readonly files: readonly MessageFile[];
  /** Whether somebody it goes to has had it before. */
  readonly isRepeat: boolean;
}

/** A message that is ready to go. */
export interface Loaded {
  readonly send: (go: Going) => Promise<Outcome>;
  /** Of mail: what is kept of its bytes. */
  readonly frame: Buffer | undefined;
  readonly raw: Buffer | undefined;
  readonly packed: string | undefined;
}

/** To whom, and the words of whoever has to say yes first. */
export type Going = Pick<OutgoingMail, "to" | "begin" | "isOurs">;

export async function carriageOf(
  context: Context,
  name: string,
  kind: SenderKind,
  openSender: OpenSender,
): Promise<Carriage | undefined> {
  if (kind === "way") {
    const way = await getWay(context, name).catch((error: unknown) => {
      // It was taken away: nothing waits for it.
      if (error instanceof CorbixError && error.code === "NOT_FOUND") return undefined;
      throw error;
    });
    return way && { ...way, open: () => wayCarrier(context, way) };
  }
  const identity = await getIdentity(context, name);
  const { server, dkim, settings } = identity;
  return {
    ...identity,
    key: JSON.stringify([server, dkim, settings]),
    open: () => {
      const sender = openSender(server, settings.connections);
      return {
        load: async (message, facts) => {
          const mail = await composeMail(context, message, { ...facts, identity });
          return { ...mail, send: (go) => sender.send({ ...mail, ...go }) };
        },
        close: sender.close,
      };
    },
  };
}
