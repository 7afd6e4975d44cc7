/** Signatures of messages: RFC 6376. */
import DKIM from "nodemailer/lib/dkim";

export interface DkimKey {
  readonly domain: string;
  readonly selector: string;
  readonly privateKey: string;
}

/** The signature's header for a whole message (RFC 6376), to stand before it. */
export async function signatureOf(message: Buffer, key: DkimKey): Promise<Buffer> {
  const signer = new DKIM({ domainName: key.domain, keySelector: key.selector, privateKey: key.privateKey });
  const pieces: Buffer[] = [];
  for await (const piece of signer.sign(message)) pieces.push(piece as Buffer);
  const signed = Buffer.concat(pieces);
  return signed.subarray(0, signed.length - message.length);
}
