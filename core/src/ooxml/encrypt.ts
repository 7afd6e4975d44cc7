/** Protects a package by a password: agile encryption of [MS-OFFCRYPTO] 2.3.4.10, AES-256 and SHA-512. */
import { createCipheriv, createHash, createHmac, randomBytes } from "node:crypto";
import { type CompoundItem, writeCompoundFile } from "./compound-writer.js";

/** Rounds of hashing between a password and its key, as programs write them. */
export const SPIN_COUNT = 100_000;
const SEGMENT_BYTES = 4096;
const NAMESPACE = "http://schemas.microsoft.com/office/2006/encryption";
const PASSWORD = "http://schemas.microsoft.com/office/2006/keyEncryptor/password";

/** A file that opens with the password only. `random` gives so many bytes that nobody can guess. */
export function encryptPackage(
  content: Uint8Array,
  password: string,
  random: (count: number) => Buffer = randomBytes,
): Uint8Array {
  const [dataSalt, lockSalt, key, input, hmacKey] = [random(16), random(16), random(32), random(16), random(64)];
  const stretched = stretchPassword(password, lockSalt, SPIN_COUNT);
  const lock = (block: string, bytes: Buffer): string =>
    encrypt(sha512(stretched, Buffer.from(block, "hex")).subarray(0, 32), lockSalt, bytes).toString("base64");
  const size = Buffer.alloc(8);
  size.writeBigUInt64LE(BigInt(content.length));
  const pieces: Buffer[] = [size];
  for (let at = 0, number = 0; at < content.length; at += SEGMENT_BYTES, number++) {
    const piece = Buffer.from(content.buffer, content.byteOffset + at, Math.min(SEGMENT_BYTES, content.length - at));
    pieces.push(encrypt(key, sha512(dataSalt, little(number)), piece));
  }
  const encrypted = Buffer.concat(pieces);
  const seal = (block: string, bytes: Buffer): string =>
    encrypt(key, sha512(dataSalt, Buffer.from(block, "hex")), bytes).toString("base64");
  const hmac = createHmac("sha512", hmacKey).update(encrypted).digest();
  const shape = `saltSize="16" blockSize="16" keyBits="256" hashSize="64" cipherAlgorithm="AES" cipherChaining="ChainingModeCBC" hashAlgorithm="SHA512"`;
  const info = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\r\n<encryption xmlns="${NAMESPACE}" xmlns:p="${PASSWORD}"><keyData ${shape} saltValue="${dataSalt.toString("base64")}"/><dataIntegrity encryptedHmacKey="${seal("5fb2ad010cb9e1f6", hmacKey)}" encryptedHmacValue="${seal("a0677f02b22c8433", hmac)}"/><keyEncryptors><keyEncryptor uri="${PASSWORD}"><p:encryptedKey spinCount="${SPIN_COUNT}" ${shape} saltValue="${lockSalt.toString("base64")}" encryptedVerifierHashInput="${lock("fea7d2763b4b9e79", input)}" encryptedVerifierHashValue="${lock("d7aa0f6d3061344e", sha512(input))}" encryptedKeyValue="${lock("146e0be7abacd0d6", key)}"/></keyEncryptor></keyEncryptors></encryption>`;
  return writeCompoundFile([
    DATA_SPACES,
    { name: "EncryptionInfo", bytes: Buffer.concat([Buffer.from([4, 0, 4, 0, 0x40, 0, 0, 0]), Buffer.from(info)]) },
    { name: "EncryptedPackage", bytes: encrypted },
  ]);
}

/** The key that comes of a password: hashed with a salt, then over and over (2.3.4.11). */
export function stretchPassword(
  password: string,
  salt: Buffer,
  spin: number,
  /** Where the round's number stands: before the hash, or behind it (2.4.2.4). */
  number: "before" | "behind" = "before",
): Buffer {
  let key = sha512(salt, Buffer.from(password, "utf16le"));
  for (let round = 0; round < spin; round++)
    key = number === "before" ? sha512(little(round), key) : sha512(key, little(round));
  return key;
}

function sha512(...parts: readonly Uint8Array[]): Buffer {
  const hash = createHash("sha512");
  for (const part of parts) hash.update(part);
  return hash.digest();
}

function little(number: number): Buffer {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(number);
  return bytes;
}

function encrypt(key: Buffer, vector: Buffer, bytes: Buffer): Buffer {
  const cipher = createCipheriv("aes-256-cbc", key, vector.subarray(0, 16)).setAutoPadding(false);
  const rest = bytes.length % 16;
  const whole = rest === 0 ? bytes : Buffer.concat([bytes, Buffer.alloc(16 - rest)]);
  return Buffer.concat([cipher.update(whole), cipher.final()]);
}

/** A text with its length before it, filled up to four bytes ([MS-OFFCRYPTO] 2.1.2). */
function lengthAndText(text: string): Buffer {
  const bytes = Buffer.from(text, "utf16le");
  return Buffer.concat([little(bytes.length), bytes, Buffer.alloc((4 - (bytes.length % 4)) % 4)]);
}

const version = (major: number): Buffer => Buffer.from([major, 0, 0, 0]);

/** Says that the package's stream is encrypted, and how (2.1): the same in every protected file. */
const DATA_SPACES: CompoundItem = (() => {
  const reference = Buffer.concat([little(0), lengthAndText("EncryptedPackage")]);
  const rest = Buffer.concat([little(1), reference, lengthAndText("StrongEncryptionDataSpace")]);
  const map = Buffer.concat([little(8), little(1), little(rest.length + 4), rest]);
  const transform = lengthAndText("{FF9A3F03-56EF-4613-BDD5-5A41C1D07246}");
  const head = Buffer.concat([little(1), transform]);
  const primary = Buffer.concat([
    little(head.length + 4),
    head,
    lengthAndText("Microsoft.Container.EncryptionTransform"),
    version(1),
    version(1),
    version(1),
    little(0),
    little(0),
    little(0),
    little(4),
  ]);
  return {
    name: "\u0006DataSpaces",
    items: [
      {
        name: "Version",
        bytes: Buffer.concat([lengthAndText("Microsoft.Container.DataSpaces"), version(1), version(1), version(1)]),
      },
      { name: "DataSpaceMap", bytes: map },
      {
        name: "DataSpaceInfo",
        items: [
          {
            name: "StrongEncryptionDataSpace",
            bytes: Buffer.concat([little(8), little(1), lengthAndText("StrongEncryptionTransform")]),
          },
        ],
      },
      {
        name: "TransformInfo",
        items: [{ name: "StrongEncryptionTransform", items: [{ name: "\u0006Primary", bytes: primary }] }],
      },
    ],
  };
})();
