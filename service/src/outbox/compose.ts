/** A message as it goes out. Each attachment's recorded group is compared with the parcel's: a mismatch stops the run. */

import { basename } from "node:path";
import { CorbixError, known } from "@corbix/core/common";
import {
  type Envelope,
  enclosedAttachment,
  escapeHtml,
  fillFrame,
  frameMail,
  type MailAttachment,
  type MailParts,
  madeAttachment,
  pictureAttachment,
  picturesIn,
} from "@corbix/core/message";
import { safeName } from "@corbix/core/naming";
import { deflateEntry, writeZip } from "@corbix/core/ooxml";
import { bareAddress, showAddress } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import { mailParts } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { signatureOf } from "../mail/dkim.js";
import { mayReceive, type OpenIdentity } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import type { BareMessage, MessageFile, MessageParcel, MessageRow, RunRow, SentRun } from "../records/index.js";
import { maySendAs } from "../run/delivery-checks.js";
import { downloadLink } from "./links.js";

/** All that a message is made of. */
export interface MessageFacts {
  readonly run: SentRun;
  readonly report: Report;
  readonly parcel: MessageParcel;
  readonly files: readonly MessageFile[];
  readonly identity: OpenIdentity;
  /** Whether somebody it goes to has had it before: its subject says so. */
  readonly isRepeat: boolean;
}

export interface ComposedMail {
  readonly from: string;
  /** Digest of the zip file its attachments went in, where they did. */
  readonly packed: string | undefined;
  readonly frame: Buffer;
  readonly raw: Buffer;
}

/** Throws `PROVENANCE_MISMATCH`, `FILE_MISSING` or `NOT_ALLOWED`; nothing has gone out then. */
export async function composeMail(
  context: Pick<Context, "store" | "settings" | "secrets">,
  message: BareMessage,
  facts: MessageFacts,
): Promise<ComposedMail> {
  const { identity, run, report } = facts;
  const sender = senderOf(identity, report);
  const envelope = envelopeOf(message, run);
  checkReceivers(envelope, facts);
  const { attachments, contents } = await attachmentsOf(context.store, message, facts);
  const links = report.delivery.files === "link";
  const assembly = { message, facts, sender, envelope, attachments, contents, links };
  let made = await assemble(context, assembly);
  let zip: string | undefined;
  const { maxBytes, tooLarge } = identity.settings;
  if (made.raw.length > maxBytes && !links && tooLarge !== "stop") {
    const packed = tooLarge === "zip" ? await zipped(context, facts, attachments, contents) : attachments;
    if (tooLarge === "zip") zip = packed.at(-1)?.sha256;
    made = await assemble(context, { ...assembly, attachments: packed, links: tooLarge === "link" });
  }
  if (made.raw.length > maxBytes)
    throw new CorbixError(
      "LIMIT_EXCEEDED",
      say().serviceOutbox.cannotSendMessageBytesIdentity({ rawCount: made.raw.length, name: identity.name, maxBytes }),
      {
        where: say().place.group({ name: facts.parcel.label }),
        advice: say().serviceOutbox.makeFilesSmallerLetIdentity(),
      },
    );
  return { ...made, from: bareAddress(sender), packed: zip };
}

function checkReceivers({ to, cc, bcc }: Envelope, { identity, parcel }: MessageFacts): void {
  const forbidden = [...to, ...cc, ...bcc].find((one) => !mayReceive(identity.settings, one.address));
  if (forbidden !== undefined)
    throw new CorbixError(
      "NOT_ALLOWED",
      say().serviceOutbox.cannotSendIdentityMaySend({
        address: forbidden.address,
        domains: identity.settings.domains.join(", "),
      }),
      {
        where: say().place.group({ name: parcel.label }),
        advice: say().serviceOutbox.correctAddressAddDomainIdentity(),
      },
    );
}

/** What goes along, each compared with what the message is of, with its bytes by digest. */
async function attachmentsOf(
  store: Context["store"],
  message: BareMessage,
  facts: MessageFacts,
): Promise<{ readonly attachments: readonly MailAttachment[]; readonly contents: Map<string, Uint8Array> }> {
  const { run, parcel } = facts;
  const contents = new Map<string, Uint8Array>();
  const attachments: MailAttachment[] = [];
  for (const file of attachedFiles(message, facts)) {
    const bytes = await store.get(file.sha256);
    if (bytes.length === 0)
      throw new CorbixError("FILE_MISSING", say().serviceOutbox.cannotAttachEmpty({ path: file.path }), {
        where: say().place.group({ name: parcel.label }),
      });
    contents.set(file.sha256, bytes);
    attachments.push(madeAttachment(file.path, file.kind, file.sha256));
  }
  for (const file of parcel.enclosed) {
    if (file.run !== run.id || file.group !== message.groupKey || file.group !== parcel.groupKey)
      throw mismatch(facts, file.name);
    contents.set(file.sha256, await store.get(file.sha256));
    attachments.push(enclosedAttachment(file.name, file.sha256));
  }
  for (const name of picturesIn(message.html)) {
    const digest = run.templates[name];
    if (digest === undefined)
      throw new CorbixError("FILE_MISSING", say().serviceOutbox.cannotShowPictureRunSuch({ name }), {
        where: say().place.group({ name: parcel.label }),
      });
    contents.set(digest, await store.get(digest));
    attachments.push(pictureAttachment(name, digest));
  }
  return { attachments, contents };
}

interface Assembly {
  readonly message: BareMessage;
  readonly facts: MessageFacts;
  readonly sender: string;
  readonly envelope: Envelope;
  readonly attachments: readonly MailAttachment[];
  readonly contents: ReadonlyMap<string, Uint8Array>;
  /** Whether links stand in place of the attachments. */
  readonly links: boolean;
}

/** The message's bytes, signed if the identity signs, and the frame to make them of again. */
async function assemble(
  context: Pick<Context, "settings" | "secrets">,
  { message, facts, sender, envelope, attachments, contents, links }: Assembly,
): Promise<Pick<ComposedMail, "frame" | "raw">> {
  const { dkim } = facts.identity;
  // What was made for the group is behind the link; what goes to everybody is small and stays.
  const shown = links ? attachments.filter((one) => one.cid !== undefined || one.isEnclosed) : attachments;
  const parts = shownParts(message, facts, sender, envelope, shown);
  const whole = links ? withLinks(parts, downloadLink(context, message, facts.report.delivery.linkDays), facts) : parts;
  const { frame, slots } = await frameMail(whole);
  const plain = fillFrame({ frame, slots }, (digest) => known(contents, digest));
  const signature = dkim ? await signatureOf(plain, dkim) : Buffer.alloc(0);
  return {
    frame: packFrame(Buffer.concat([signature, frame]), slots),
    raw: signature.length > 0 ? Buffer.concat([signature, plain]) : plain,
  };
}

/** All attachments in one zip file; pictures shown in the text stay where they are. */
async function zipped(
  context: Pick<Context, "store">,
  { parcel }: MessageFacts,
  attachments: readonly MailAttachment[],
  contents: Map<string, Uint8Array>,
): Promise<MailAttachment[]> {
  const files = attachments.filter((one) => one.cid === undefined);
  const bytes = writeZip(files.map((one) => deflateEntry(one.filename, known(contents, one.sha256))));
  const sha256 = await context.store.put(bytes);
  contents.set(sha256, bytes);
  return [
    ...attachments.filter((one) => one.cid !== undefined),
    { filename: `${safeName(parcel.label)}.zip`, contentType: "application/zip", sha256 },
  ];
}

/** A message with the address of its page of files. */
function withLinks(
  parts: MailParts,
  link: { readonly url: string; readonly until: string },
  { parcel }: MessageFacts,
): MailParts {
  const names = parcel.attachments.map((path) => basename(path));
  const words = `Your files (until ${link.until}): ${names.join(", ")}`;
  const html = `<p><a href="${escapeHtml(link.url)}">${escapeHtml(words)}</a></p>`;
  return {
    ...parts,
    html: /<\/body>/i.test(parts.html) ? parts.html.replace(/<\/body>/i, (end) => html + end) : parts.html + html,
    text: `${parts.text}\n\n${words}\n${link.url}\n`,
  };
}

/** A frame with the list of its slots before it, as it is kept. */
function packFrame(frame: Buffer, slots: readonly { readonly mark: string; readonly sha256: string }[]): Buffer {
  return Buffer.concat([Buffer.from(`${JSON.stringify(slots)}\n`), frame]);
}

/** The bytes of a message from what was kept of it. Throws `FILE_MISSING`. */
export async function rawOf(context: Pick<Context, "store">, packed: Buffer): Promise<Buffer> {
  const end = packed.indexOf("\n");
  const slots = JSON.parse(packed.subarray(0, end).toString()) as { mark: string; sha256: string }[];
  const contents = new Map<string, Uint8Array>();
  for (const { sha256 } of slots) contents.set(sha256, await context.store.get(sha256));
  return fillFrame({ frame: packed.subarray(end + 1), slots }, (digest) => known(contents, digest));
}

/** Whom the message names; in a rehearsal that is the address of the rehearsal alone. */
export function envelopeOf(message: Pick<MessageRow, "envelope">, run: Pick<RunRow, "rehearsalTo">): Envelope {
  return run.rehearsalTo ? { to: [{ address: run.rehearsalTo }], cc: [], bcc: [] } : message.envelope;
}

function senderOf(identity: OpenIdentity, report: Report): string {
  const wanted = report.delivery.sender;
  if (wanted === undefined) return identity.settings.from;
  if (!maySendAs(identity, wanted))
    throw new CorbixError("NOT_ALLOWED", say().serviceOutbox.cannotSendIdentityMay({ wanted, name: identity.name }), {
      where: "delivery, sender",
      advice: say().serviceOutbox.addAddressIdentitySSenders(),
    });
  return wanted;
}

function attachedFiles(message: BareMessage, { run, parcel, files }: MessageFacts): MessageFile[] {
  return parcel.attachments.map((path) => {
    const file = files.find((candidate) => candidate.path === path);
    if (!file)
      throw new CorbixError("FILE_MISSING", say().serviceOutbox.cannotAttachMade({ path }), {
        where: say().place.group({ name: parcel.label }),
      });
    checkProvenance(run, parcel, message, file);
    return file;
  });
}

/** That a file was made of the rows of the group it goes to. Throws `PROVENANCE_MISMATCH`. */
export function checkProvenance(
  run: SentRun,
  parcel: MessageFacts["parcel"],
  message: BareMessage,
  file: MessageFile,
): void {
  const { provenance } = file;
  const same =
    file.runId === run.id &&
    message.runId === run.id &&
    message.parcelId === parcel.id &&
    file.parcelId === parcel.id &&
    file.groupKey === parcel.groupKey &&
    message.groupKey === parcel.groupKey &&
    provenance.group === parcel.groupKey &&
    provenance.run === run.id &&
    file.rowsDigest === parcel.rowsDigest &&
    provenance.rowsDigest === parcel.rowsDigest;
  if (!same) throw mismatch({ run, parcel }, file.path);
}

function mismatch({ run, parcel }: Pick<MessageFacts, "run" | "parcel">, name: string): CorbixError {
  return new CorbixError(
    "PROVENANCE_MISMATCH",
    say().serviceOutbox.cannotAttachMessageMadeOther({ name, label: parcel.label }),
    {
      where: say().serviceOutbox.runGroup({ id: run.id, label: parcel.label }),
      advice: say().serviceOutbox.runStoppedNothingWentOut(),
    },
  );
}

function shownParts(
  message: BareMessage,
  { run, report, isRepeat }: MessageFacts,
  from: string,
  envelope: Envelope,
  attachments: readonly MailAttachment[],
): MailParts {
  const again = isRepeat ? "Sent again: " : "";
  const parts = mailParts({
    report,
    run: run.id,
    from,
    envelope,
    message: { ...message, subject: `${again}${message.subject}` },
    messageId: message.messageId,
    date: new Date(message.datedAt ?? 0),
    language: message.language ?? undefined,
    attachments,
  });
  if (!run.rehearsalTo) return parts;
  const { to, cc, bcc } = message.envelope;
  const would = [...to, ...cc, ...bcc].map(showAddress).join(", ");
  return {
    ...parts,
    subject: `Rehearsal: ${message.subject}`,
    html: withFirstLine(message.html, would),
    text: `Rehearsal. This would go to: ${would}\n\n${message.text}`,
  };
}

function withFirstLine(html: string, would: string): string {
  const line = `<p style="border:1px solid #b3541e;background:#fdf3ec;padding:6px 10px"><strong>Rehearsal.</strong> This would go to: ${escapeHtml(would)}</p>`;
  return /<body[^>]*>/i.test(html) ? html.replace(/<body[^>]*>/i, (body) => body + line) : line + html;
}
