/** Password-protected packages, as [MS-OFFCRYPTO] 2.3.4 describes them: agile and standard encryption. */

import { createDecipheriv, createHash } from "node:crypto";
import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";
import { isCompoundFile, readCompoundFile } from "./compound-file.js";
import { parseXml } from "./xml.js";

/** Rounds of hashing; the usual is 100,000, and more than this is there to hold up the reader. */
const MAX_SPIN = 2_000_000;
const STANDARD_SPIN = 50_000;
const SEGMENT_BYTES = 4096;
/** Of AES with 128, 192 and 256 bits. */
const KEY_BYTES: readonly number[] = [16, 24, 32];
const HASHES: Readonly<Record<string, string>> = {
  SHA1: "sha1",
  "SHA-1": "sha1",
  SHA256: "sha256",
  SHA384: "sha384",
  SHA512: "sha512",
};
const VERIFIER_INPUT = Buffer.from("fea7d2763b4b9e79", "hex");
const VERIFIER_VALUE = Buffer.from("d7aa0f6d3061344e", "hex");
const KEY_VALUE = Buffer.from("146e0be7abacd0d6", "hex");

/** A package that needs no password as it is, and one that does decrypted. Throws as `decryptPackage` does. */
export function openedPackage(bytes: Uint8Array, password: string | undefined, where: string): Uint8Array {
  return isCompoundFile(bytes) ? decryptPackage(bytes, password, where) : bytes;
}

/** The package inside a protected file. Throws `PASSWORD_NEEDED` without or with a wrong password, `NOT_A_WORKBOOK` for other files of this container. */
export function decryptPackage(bytes: Uint8Array, password: string | undefined, where: string): Uint8Array {
  const streams = readCompoundFile(bytes, where);
  const info = streams.get("EncryptionInfo");
  const content = streams.get("EncryptedPackage");
  if (!info || !content) {
    throw new CorbixError("NOT_A_WORKBOOK", say().ooxml.cannotReadFileOlderBinary(), {
      where,
      advice: say().ooxml.saveXlsx(),
    });
  }
  if (password === undefined || password === "") {
    throw new CorbixError("PASSWORD_NEEDED", say().ooxml.cannotReadWorkbookProtectedPassword(), {
      where,
      advice: say().ooxml.givePasswordSaveWithout(),
    });
  }
  const data = Buffer.from(content.buffer, content.byteOffset, content.byteLength);
  const head = Buffer.from(info.buffer, info.byteOffset, info.byteLength);
  if (head.length < 12 || data.length < 8) throw unknownKind(where);
  const size = Number(data.readBigUInt64LE(0));
  if (size > data.length) throw unknownKind(where);
  const [major, minor] = [head.readUInt16LE(0), head.readUInt16LE(2)];
  if (major === 4 && minor === 4)
    return decryptAgile(head.subarray(8), data.subarray(8), password, where).subarray(0, size);
  if (minor === 2 && major >= 2 && major <= 4)
    return decryptStandard(head, data.subarray(8), password, where).subarray(0, size);
  throw unknownKind(where);
}

interface AgileKey {
  readonly salt: Buffer;
  readonly blockBytes: number;
  readonly keyBytes: number;
  readonly hash: string;
}

function decryptAgile(info: Buffer, data: Buffer, password: string, where: string): Buffer {
  const xml = parseXml(info.toString("utf8"), where).root;
  const keyData = xml.child("keyData");
  const encryptor = xml.child("keyEncryptors")?.child("keyEncryptor")?.child("encryptedKey");
  if (!keyData || !encryptor) throw unknownKind(where);
  const read = (element: typeof keyData): AgileKey => {
    const hash = HASHES[element.attr("hashAlgorithm") ?? ""];
    const isKnown = element.attr("cipherAlgorithm") === "AES" && element.attr("cipherChaining") === "ChainingModeCBC";
    const keyBytes = Number(element.attr("keyBits")) / 8;
    if (hash === undefined || !isKnown || !KEY_BYTES.includes(keyBytes)) throw unknownKind(where);
    return {
      salt: Buffer.from(element.attr("saltValue") ?? "", "base64"),
      blockBytes: Number(element.attr("blockSize")),
      keyBytes,
      hash,
    };
  };
  const content = read(keyData);
  const lock = read(encryptor);
  const spin = Number(encryptor.attr("spinCount"));
  if (!(spin >= 0 && spin <= MAX_SPIN) || content.blockBytes !== 16 || lock.blockBytes !== 16) throw unknownKind(where);
  const stretched = stretch(lock.hash, lock.salt, password, spin);
  const open = (blockKey: Buffer, name: string): Buffer => {
    const key = fit(digest(lock.hash, stretched, blockKey), lock.keyBytes);
    return decipher(key, fit(lock.salt, 16), Buffer.from(encryptor.attr(name) ?? "", "base64"), where);
  };
  const expected = open(VERIFIER_VALUE, "encryptedVerifierHashValue");
  const actual = digest(lock.hash, open(VERIFIER_INPUT, "encryptedVerifierHashInput"));
  if (!expected.subarray(0, actual.length).equals(actual)) throw wrongPassword(where);
  const key = open(KEY_VALUE, "encryptedKeyValue").subarray(0, content.keyBytes);
  const pieces: Buffer[] = [];
  for (let at = 0, number = 0; at < data.length; at += SEGMENT_BYTES, number++) {
    const vector = fit(digest(content.hash, content.salt, little(number)), 16);
    const piece = data.subarray(at, at + SEGMENT_BYTES);
    pieces.push(decipher(key, vector, piece.subarray(0, piece.length & ~15), where));
  }
  return Buffer.concat(pieces);
}

function decryptStandard(info: Buffer, data: Buffer, password: string, where: string): Buffer {
  const headerBytes = info.readUInt32LE(8);
  const verifier = 12 + headerBytes;
  if (verifier + 72 > info.length) throw unknownKind(where);
  const keyBytes = info.readUInt32LE(12 + 16) / 8;
  if (!KEY_BYTES.includes(keyBytes)) throw unknownKind(where);
  const salt = info.subarray(verifier + 4, verifier + 20);
  const stretched = stretch("sha1", salt, password, STANDARD_SPIN);
  const hash = digest("sha1", stretched, little(0));
  const half = (pad: number): Buffer => {
    const block = Buffer.alloc(64, pad);
    for (let at = 0; at < hash.length; at++) block[at] ^= hash[at];
    return digest("sha1", block);
  };
  const key = Buffer.concat([half(0x36), half(0x5c)]).subarray(0, keyBytes);
  const open = (bytes: Buffer): Buffer => {
    const cipher = createDecipheriv(`aes-${keyBytes * 8}-ecb`, key, null).setAutoPadding(false);
    return Buffer.concat([cipher.update(bytes.subarray(0, bytes.length & ~15)), cipher.final()]);
  };
  const actual = digest("sha1", open(info.subarray(verifier + 20, verifier + 36)));
  const expected = open(info.subarray(verifier + 40, verifier + 72));
  if (!expected.subarray(0, actual.length).equals(actual)) throw wrongPassword(where);
  return open(data);
}

function stretch(hash: string, salt: Buffer, password: string, spin: number): Buffer {
  let key = digest(hash, salt, Buffer.from(password, "utf16le"));
  for (let round = 0; round < spin; round++) key = digest(hash, little(round), key);
  return key;
}

function digest(hash: string, ...parts: readonly Buffer[]): Buffer {
  const found = createHash(hash);
  for (const part of parts) found.update(part);
  return found.digest();
}

function little(number: number): Buffer {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(number);
  return bytes;
}

/** Cut, or filled up with 0x36, to a length. */
function fit(bytes: Buffer, length: number): Buffer {
  return bytes.length >= length
    ? bytes.subarray(0, length)
    : Buffer.concat([bytes, Buffer.alloc(length - bytes.length, 0x36)]);
}

function decipher(key: Buffer, vector: Buffer, bytes: Buffer, where: string): Buffer {
  try {
    const cipher = createDecipheriv(`aes-${key.length * 8}-cbc`, key, vector).setAutoPadding(false);
    return Buffer.concat([cipher.update(bytes), cipher.final()]);
  } catch (cause) {
    throw unknownKind(where, cause);
  }
}

function wrongPassword(where: string): CorbixError {
  return new CorbixError("PASSWORD_NEEDED", say().ooxml.cannotReadWorkbookPasswordRight(), {
    where,
    advice: say().ooxml.giveRightPasswordCapitalsCount(),
  });
}

function unknownKind(where: string, cause?: unknown): CorbixError {
  return new CorbixError("BROKEN_PACKAGE", say().ooxml.cannotReadWorkbookProtectedWay(), {
    where,
    advice: say().ooxml.saveXlsxAnew(),
    cause,
  });
}
