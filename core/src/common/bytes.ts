import { createHash } from "node:crypto";

const encoder = new TextEncoder();
const decoder = new TextDecoder("utf-8");

export function bytesFromText(text: string): Uint8Array {
  return encoder.encode(text);
}

/** UTF-8 bytes as text, without a byte-order mark. */
export function textFromBytes(bytes: Uint8Array): string {
  return decoder.decode(bytes);
}

/** SHA-256 in lower-case hexadecimal. */
export function sha256(...pieces: readonly (Uint8Array | string)[]): string {
  const hash = createHash("sha256");
  for (const piece of pieces) hash.update(piece);
  return hash.digest("hex");
}
