/** What the service writes by itself: a plain mail, as the identity of the office, straight to its server. */
import { frameMail } from "@corbix/core/message";
import { bareAddress } from "@corbix/core/recipients";
import { getIdentity } from "../mail/identities.js";
import { smtpSender } from "../mail/smtp.js";
import type { Context } from "../process/context.js";

/** A mail server that is silent for so long is given up. */
const SILENCE_MS = 15_000;
/** The identity that the service itself writes as. */
const OWN_IDENTITY = "office";

export interface OwnMail {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  /** Tells it from all others. */
  readonly id: string;
}

/** Throws what the server said, unless the mail was taken, or may have been: what nobody can know is not sent twice. */
export async function sendOwnMail(context: Context, { to, subject, text, id }: OwnMail): Promise<void> {
  const { settings, server } = await getIdentity(context, OWN_IDENTITY);
  const from = bareAddress(settings.from);
  const { frame } = await frameMail({
    from: settings.from,
    to: [{ address: to }],
    cc: [],
    replyTo: undefined,
    subject,
    html: "",
    text,
    messageId: `<${id}@${from.slice(from.indexOf("@") + 1)}>`,
    date: context.now(),
    importance: "normal",
    headers: { "Auto-Submitted": "auto-generated" },
    attachments: [],
  });
  const sender = smtpSender(server, 1, SILENCE_MS);
  try {
    const outcome = await sender.send({ from, to: [to], raw: frame, begin: async () => true, isOurs: () => true });
    if (outcome.kind !== "sent" && outcome.kind !== "unsure") throw new Error(outcome.response);
  } finally {
    sender.close();
  }
}
