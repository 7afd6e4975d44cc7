/** A message as the bytes that go out: RFC 5322 and MIME. The same parts give the same bytes, so what was sent can be shown again. */
import MailComposer from "nodemailer/lib/mail-composer";
import { sha256 } from "../common/index.js";

export interface Mailbox {
  readonly address: string;
  readonly name?: string;
}

export interface MailAttachment {
  readonly filename: string;
  readonly contentType: string;
  /** Digest of its bytes, by which they are put in. */
  readonly sha256: string;
  /** Of a picture shown in the text: what `cid:` names it by. */
  readonly cid?: string | undefined;
  /** It was not made of the group's rows. */
  readonly isEnclosed?: boolean;
}

/** A message with everything a reader sees; who gets it without being shown is no part of it. */
export interface MailParts {
  readonly from: string;
  readonly to: readonly Mailbox[];
  readonly cc: readonly Mailbox[];
  readonly replyTo: string | undefined;
  readonly subject: string;
  readonly html: string;
  readonly text: string;
  readonly messageId: string;
  readonly date: Date;
  readonly language?: string | undefined;
  readonly importance: "low" | "normal" | "high";
  readonly headers: Readonly<Record<string, string>>;
  readonly attachments: readonly MailAttachment[];
}

/** A message whose attachments are named where their bytes go. */
export interface MailFrame {
  readonly frame: Buffer;
  /** In the order in which they stand. */
  readonly slots: readonly MailSlot[];
}

export interface MailSlot {
  /** What stands in the frame in place of the attachment's lines. */
  readonly mark: string;
  readonly sha256: string;
}

/** Characters of a line of base64 (RFC 2045, 6.8). */
const LINE = 76;

/** RFC 4021, 2.1.54, and the older field that many programs read. */
const IMPORTANCE: Readonly<Record<MailParts["importance"], Readonly<Record<string, string>>>> = {
  low: { Importance: "low", "X-Priority": "5" },
  normal: {},
  high: { Importance: "high", "X-Priority": "1" },
};

/** Writes everything but the attachments' bytes. */
export async function frameMail(mail: MailParts): Promise<MailFrame> {
  const seed = sha256(mail.messageId);
  const slots = mail.attachments.map((attachment, index) => {
    // Thirty bytes are one line of base64, which nothing else in the message can hold.
    const stand = Buffer.from(sha256(`${seed} ${index} ${attachment.sha256}`).slice(0, 60), "hex");
    return { attachment, stand, mark: stand.toString("base64") };
  });
  const composer = new MailComposer({
    from: mail.from,
    to: mail.to.map(mailbox),
    cc: mail.cc.map(mailbox),
    ...(mail.replyTo ? { replyTo: mail.replyTo } : {}),
    subject: mail.subject,
    html: mail.html,
    text: mail.text,
    messageId: mail.messageId,
    date: mail.date,
    headers: {
      ...mail.headers,
      ...IMPORTANCE[mail.importance],
      ...(mail.language ? { "Content-Language": mail.language } : {}),
    },
    baseBoundary: seed.slice(0, 24),
    disableFileAccess: true,
    disableUrlAccess: true,
    attachments: slots.map(({ attachment, stand }) => ({
      filename: attachment.filename,
      contentType: attachment.contentType,
      content: stand,
      contentTransferEncoding: "base64",
      ...(attachment.cid ? { cid: attachment.cid, contentDisposition: "inline" as const } : {}),
    })),
  } as ConstructorParameters<typeof MailComposer>[0]);
  const frame = await new Promise<Buffer>((resolve, reject) => {
    composer.compile().build((error, built) => (error || !built ? reject(error) : resolve(built)));
  });
  const placed = slots
    .map(({ attachment, mark }) => ({ mark, sha256: attachment.sha256, at: frame.indexOf(mark) }))
    .sort((a, b) => a.at - b.at);
  return { frame, slots: placed.map(({ mark, sha256: digest }) => ({ mark, sha256: digest })) };
}

function mailbox({ address, name }: Mailbox): { address: string; name: string } {
  return { address, name: name ?? "" };
}

/** The whole message: each attachment's bytes as lines of base64 in its place. */
export function fillFrame({ frame, slots }: MailFrame, bytesOf: (sha256: string) => Uint8Array): Buffer {
  const pieces: Buffer[] = [];
  let from = 0;
  for (const { mark, sha256: digest } of slots) {
    const at = frame.indexOf(mark, from, "latin1");
    pieces.push(frame.subarray(from, at), base64Lines(bytesOf(digest)));
    from = at + mark.length;
  }
  pieces.push(frame.subarray(from));
  return Buffer.concat(pieces);
}

/** Bytes as lines of base64, without a line end behind the last. */
function base64Lines(bytes: Uint8Array): Buffer {
  const plain = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("base64");
  const lines: string[] = [];
  for (let at = 0; at < plain.length; at += LINE) lines.push(plain.slice(at, at + LINE));
  return Buffer.from(lines.join("\r\n"), "latin1");
}

/** How long a message becomes with attachments of so many bytes, without making it. */
export function encodedSize(bytes: number): number {
  const plain = Math.ceil(bytes / 3) * 4;
  return plain + 2 * Math.ceil(plain / LINE);
}
