/** A number that is used once, by which a page's own styles are told from such as somebody put into it. */
import { AsyncLocalStorage } from "node:async_hooks";
import { randomBytes } from "node:crypto";

const nonces = new AsyncLocalStorage<string>();

export function withNonce<T>(work: (nonce: string) => T): T {
  const nonce = randomBytes(16).toString("base64");
  return nonces.run(nonce, () => work(nonce));
}

export function nonceNow(): string {
  return nonces.getStore() ?? "";
}
