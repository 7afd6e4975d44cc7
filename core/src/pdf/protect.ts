/** Passwords and permissions of a PDF: the standard security handler of ISO 32000-2, 7.6.4, revision 6 with AES-256. */
import { createCipheriv, createHash, randomBytes } from "node:crypto";

/** What a reader without the owner's password may do. */
export type PdfPermission = "print" | "copy" | "change" | "comment";

export interface PdfLock {
  /** What the file opens with; without one it opens freely, with the permissions. */
  readonly password: string;
  readonly permissions?: readonly PdfPermission[] | undefined;
}

/** Bits of table 22, counted from 1. Reading aloud is always allowed. */
const BITS: Readonly<Record<PdfPermission, readonly number[]>> = {
  print: [3, 12],
  copy: [5],
  change: [4, 11],
  comment: [6, 9],
};

/** Encrypts strings and streams of one file, and writes its encryption dictionary. */
export class PdfCipher {
  private readonly key: Buffer;
  readonly dictionary: string;

  /** `random` gives so many bytes that nobody can guess. */
  constructor(
    lock: PdfLock,
    private readonly random: (count: number) => Buffer = randomBytes,
  ) {
    this.key = random(32);
    const user = Buffer.from(lock.password.normalize("NFKC"), "utf8").subarray(0, 127);
    // The owner is whoever made the file; nobody is meant to open it by that.
    const owner = random(24).toString("hex");
    const permissions = permissionsOf(lock.permissions ?? ["print", "copy", "change", "comment"]);
    const u = this.verifier(user, Buffer.alloc(0));
    const o = this.verifier(Buffer.from(owner), u.value);
    const perms = Buffer.alloc(16);
    perms.writeInt32LE(permissions, 0);
    perms.fill(0xff, 4, 8);
    perms.write("Tadb", 8, "latin1");
    random(4).copy(perms, 12);
    const cipher = createCipheriv("aes-256-ecb", this.key, null).setAutoPadding(false);
    const sealed = Buffer.concat([cipher.update(perms), cipher.final()]);
    const hex = (bytes: Buffer): string => `<${bytes.toString("hex")}>`;
    this.dictionary = `<< /Filter /Standard /V 5 /R 6 /Length 256 /P ${permissions} /EncryptMetadata true /CF << /StdCF << /AuthEvent /DocOpen /CFM /AESV3 /Length 32 >> >> /StmF /StdCF /StrF /StdCF /U ${hex(u.value)} /UE ${hex(u.key)} /O ${hex(o.value)} /OE ${hex(o.key)} /Perms ${hex(sealed)} >>`;
  }

  encrypt(bytes: Uint8Array): Buffer {
    const vector = this.random(16);
    const cipher = createCipheriv("aes-256-cbc", this.key, vector);
    return Buffer.concat([vector, cipher.update(bytes), cipher.final()]);
  }

  /** What a password is checked by, and the file's key locked by it (7.6.4.4.7 and 8). */
  private verifier(password: Buffer, user: Buffer): { value: Buffer; key: Buffer } {
    const [validation, keySalt] = [this.random(8), this.random(8)];
    const value = Buffer.concat([hardened(password, validation, user), validation, keySalt]);
    const cipher = createCipheriv("aes-256-cbc", hardened(password, keySalt, user), Buffer.alloc(16));
    cipher.setAutoPadding(false);
    return { value, key: Buffer.concat([cipher.update(this.key), cipher.final()]) };
  }
}

function permissionsOf(allowed: readonly PdfPermission[]): number {
  // Bits 7, 8 and 13 to 32 are set, 1 and 2 are not; bit 10 is for reading aloud.
  let bits = 0xfffff0c0 | (1 << 9);
  for (const bit of Object.values(BITS).flat()) bits &= ~(1 << (bit - 1));
  for (const permission of allowed) for (const bit of BITS[permission]) bits |= 1 << (bit - 1);
  return bits | 0;
}

/** Algorithm 2.B: hashing that takes its time. */
function hardened(password: Buffer, salt: Buffer, user: Buffer): Buffer {
  let key = createHash("sha256").update(password).update(salt).update(user).digest();
  for (let round = 0; ; round++) {
    const once = Buffer.concat([password, key, user]);
    const text = Buffer.concat(Array.from({ length: 64 }, () => once));
    const cipher = createCipheriv("aes-128-cbc", key.subarray(0, 16), key.subarray(16, 32)).setAutoPadding(false);
    const mixed = Buffer.concat([cipher.update(text), cipher.final()]);
    const rest = mixed.subarray(0, 16).reduce((sum, byte) => sum + byte, 0) % 3;
    key = createHash(["sha256", "sha384", "sha512"][rest]).update(mixed).digest();
    if (round >= 63 && mixed[mixed.length - 1] <= round - 31) break;
  }
  return key.subarray(0, 32);
}
