import { sha256 } from "../common/index.js";
import { type Address, foldAddress, type Recipient, type Role } from "../recipients/index.js";
import { oneLine } from "./compose.js";

/** What identifies one delivery: the same delivery has the same Message-ID, whoever sends it and however often. */
export interface DeliveryKey {
  readonly report: string;
  readonly period: string;
  readonly group: string;
  /** What tells the messages of one group apart, such as a language or a person; empty where there is one. */
  readonly part: string;
  /** 1 for the first; an explicit "send again" counts on. */
  readonly attempt: number;
}

/** The Message-ID (RFC 5322, 3.6.4) of a delivery. */
export function messageId(key: DeliveryKey, domain: string): string {
  const { report, period, group, part, attempt } = key;
  const named = part === "" ? [report, period, group, attempt] : [report, period, group, attempt, part];
  const digest = sha256(JSON.stringify(named)).slice(0, 40);
  return `<${digest}@${domain}>`;
}

export interface Envelope {
  readonly to: readonly Address[];
  readonly cc: readonly Address[];
  readonly bcc: readonly Address[];
}

/** All addresses of a group's recipients, each once, in the strongest role it has; `always` get a copy of each message. */
export function envelopeOf(
  recipients: readonly Recipient[],
  always: { readonly copies?: readonly Address[]; readonly blindCopies?: readonly Address[] } = {},
): Envelope {
  const seen = new Set<string>();
  const take = (addresses: readonly Address[]): Address[] =>
    addresses.filter(({ address }) => {
      const key = foldAddress(address);
      if (seen.has(key)) return false;
      seen.add(key);
      return true;
    });
  const own = (role: Role): Address[] =>
    recipients
      .filter((recipient) => (recipient.role ?? "to") === role)
      .flatMap((recipient) =>
        recipient.to.map((address, index) => ({
          ...address,
          ...(address.name || index === 0 ? { name: oneLine(address.name || recipient.name) } : {}),
        })),
      );
  return {
    to: take(own("to")),
    cc: take([...own("copy"), ...recipients.flatMap((recipient) => recipient.copies), ...(always.copies ?? [])]),
    bcc: take([
      ...own("blind"),
      ...recipients.flatMap((recipient) => recipient.blindCopies),
      ...(always.blindCopies ?? []),
    ]),
  };
}

export const CONTENT_TYPES = {
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  docx: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
  pptx: "application/vnd.openxmlformats-officedocument.presentationml.presentation",
  pdf: "application/pdf",
  csv: "text/csv",
  tsv: "text/tab-separated-values",
  txt: "text/plain",
  json: "application/json",
  jsonl: "application/x-ndjson",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
  html: "text/html",
  ics: "text/calendar",
  vcf: "text/vcard",
} as const;
