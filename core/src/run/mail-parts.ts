import type { Envelope, MailAttachment, MailParts } from "../message/index.js";
import type { Report } from "../report/index.js";

/** A composed message with what only its sending knows. */
export interface MailFacts {
  readonly report: Pick<Report, "delivery">;
  /** Id of the run, which every message of it names. */
  readonly run: string;
  readonly from: string;
  readonly envelope: Envelope;
  readonly message: { readonly subject: string; readonly html: string; readonly text: string };
  readonly messageId: string;
  readonly date: Date;
  readonly language: string | undefined;
  readonly attachments: readonly MailAttachment[];
}

/** A message with all that its reader sees, as its report says. */
export function mailParts(facts: MailFacts): MailParts {
  const { replyTo, importance, headers } = facts.report.delivery;
  const { subject, html, text } = facts.message;
  return {
    from: facts.from,
    to: facts.envelope.to,
    cc: facts.envelope.cc,
    replyTo,
    subject,
    html,
    text,
    messageId: facts.messageId,
    date: facts.date,
    language: facts.language,
    importance,
    headers: { ...headers, "X-Corbix-Run": facts.run },
    attachments: facts.attachments,
  };
}
