/** Other systems that send records for one report: who they are, and how often they may. */
import { createHash, createHmac, randomBytes, timingSafeEqual } from "node:crypto";
import type { Context } from "../process/context.js";
import { noteSenderUse, type SenderRow, saveSender, sendersOf } from "../records/index.js";

export interface SenderWish {
  readonly report: string;
  readonly name: string;
  readonly way: "token" | "signature";
  readonly header: string;
  readonly form: "hex" | "base64";
  readonly perMinute: number;
  /** What a sender signs with, where it has its own. */
  readonly secret?: string | undefined;
}

/** Sets a sender; gives its token or secret, which is told once. */
export async function setSender(context: Context, wish: SenderWish, by: string): Promise<string> {
  const { report, name, way, header, form, perMinute } = wish;
  const told = wish.secret ?? randomBytes(24).toString("base64url");
  const isToken = way === "token";
  await saveSender(context.database, {
    report,
    name,
    way,
    digest: isToken ? digestOf(told) : null,
    secret: isToken ? null : context.secrets.seal(told),
    header: isToken ? null : header,
    form: isToken ? null : form,
    perMinute,
    createdBy: by,
  });
  return told;
}

function digestOf(token: string): string {
  return createHash("sha256").update(`sender ${token}`).digest("hex");
}

/**
 * Which of a report's senders a call is from: by its token, or by a signature of the body in the header that the sender was set up
 * with, compared in constant time.
 */
export async function senderOfCall(
  context: Context,
  report: string,
  {
    token,
    headers,
    body,
  }: {
    readonly token: string | undefined;
    readonly headers: (name: string) => string | undefined;
    readonly body: Uint8Array;
  },
): Promise<SenderRow | undefined> {
  const senders = await sendersOf(context.database, report);
  const digest = token === undefined ? undefined : digestOf(token);
  const byToken = senders.find((sender) => sender.digest !== null && sender.digest === digest);
  return byToken ?? senderBySignature(context, senders, headers, body);
}

function senderBySignature(
  context: Context,
  senders: readonly SenderRow[],
  headers: (name: string) => string | undefined,
  body: Uint8Array,
): SenderRow | undefined {
  for (const sender of senders) {
    if (sender.way !== "signature" || sender.secret === null || sender.header === null) continue;
    // Some senders write how they signed before the signature.
    const given = headers(sender.header)?.replace(/^sha256=/i, "");
    if (given === undefined) continue;
    const wanted = createHmac("sha256", context.secrets.open(sender.secret)).update(body).digest();
    const signed = Buffer.from(given, sender.form ?? "hex");
    if (signed.length === wanted.length && timingSafeEqual(signed, wanted)) return sender;
  }
  return undefined;
}

export async function noteUse(context: Context, sender: SenderRow): Promise<void> {
  await noteSenderUse(context.database, sender.id);
}
