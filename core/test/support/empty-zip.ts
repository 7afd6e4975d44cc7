/** An archive without entries (the end of a central directory and nothing else). */
export function emptyZip(): Uint8Array {
  const bytes = new Uint8Array(22);
  bytes.set([0x50, 0x4b, 0x05, 0x06]);
  return bytes;
}
