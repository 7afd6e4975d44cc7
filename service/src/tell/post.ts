/** Calls other systems: what is told them is JSON, and signed where a secret is agreed. */
import { createHmac } from "node:crypto";
import { fetch } from "undici";
import type { Reach } from "../process/reach.js";

const TIMEOUT_MS = 15_000;

export interface Signing {
  readonly secret: string;
  readonly header: string;
  readonly form: "hex" | "base64";
}

/** Throws where it is not taken: nobody there, another answer than 2xx, or one that leads elsewhere. */
export async function postJson(reach: Reach, address: string, value: unknown, signing?: Signing): Promise<void> {
  reach.check(new URL(address).hostname);
  const body = JSON.stringify(value);
  const signature = signing && createHmac("sha256", signing.secret).update(body).digest(signing.form);
  const response = await fetch(address, {
    method: "POST",
    body,
    headers: {
      "Content-Type": "application/json",
      ...(signing && signature !== undefined ? { [signing.header]: signature } : {}),
    },
    redirect: "error",
    dispatcher: reach.dispatcher,
    signal: AbortSignal.timeout(TIMEOUT_MS),
  }).catch((error: Error) => {
    // What was wrong with the line stands behind it.
    throw error.cause instanceof Error ? error.cause : error;
  });
  await response.body?.cancel();
  if (!response.ok) throw new Error(`it answered ${response.status}`);
}
