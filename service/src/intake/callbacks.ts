/** Tells other systems that the run of their record is over: signed, and tried again with patience. */
import { createHmac } from "node:crypto";
import type { Context } from "../process/context.js";
import { type DueCallback, noteCallback, senderById, takeCallbacks } from "../records/index.js";

const AT_ONCE = 10;
const TIMEOUT_MS = 10_000;
const FIRST_PAUSE_S = 10;
const LONGEST_PAUSE_S = 3_600;

export async function tellCallbacks(context: Context): Promise<void> {
  const due = await takeCallbacks(context.database, AT_ONCE);
  await Promise.all(due.map((one) => tellOne(context, one)));
}

async function tellOne(context: Context, due: DueCallback): Promise<void> {
  const { report, key, run, state, callback, tries } = due;
  const body = JSON.stringify({ report, key, run, state });
  const error = await post(callback, body, await signatureOf(context, due, body)).then(
    () => undefined,
    (cause: Error) => cause.message,
  );
  const pause = Math.min(FIRST_PAUSE_S * 2 ** (tries - 1), LONGEST_PAUSE_S);
  await noteCallback(context.database, due, error === undefined, pause);
  if (error !== undefined) context.log.warn({ report, key, run, tries, error }, "callback not told");
}

/** By the secret that its sender signs with, in the same header. */
async function signatureOf(context: Context, { sender }: DueCallback, body: string): Promise<Record<string, string>> {
  const row = sender === null ? undefined : await senderById(context.database, sender);
  if (!row?.secret || row.header === null) return {};
  const signed = createHmac("sha256", context.secrets.open(row.secret)).update(body);
  return { [row.header]: signed.digest(row.form ?? "hex") };
}

async function post(address: string, body: string, headers: Record<string, string>): Promise<void> {
  const response = await fetch(address, {
    method: "POST",
    body,
    headers: { "Content-Type": "application/json", ...headers },
    redirect: "error",
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  await response.body?.cancel();
  if (!response.ok) throw new Error(`it answered ${response.status}`);
}
