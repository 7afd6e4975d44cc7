/** Protects a package the agile way of [MS-OFFCRYPTO], in a compound file, so that reading can be tried. */
import { createCipheriv, createHash, randomBytes } from "node:crypto";

const SECTOR = 512;
const END = 0xfffffffe;
const FREE = 0xffffffff;

const sha512 = (...parts: readonly Uint8Array[]): Buffer =>
  parts.reduce((hash, part) => hash.update(part), createHash("sha512")).digest();
const little = (number: number): Buffer => {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(number);
  return bytes;
};
const padded = (bytes: Uint8Array, to: number): Buffer =>
  Buffer.concat([bytes, Buffer.alloc((to - (bytes.length % to)) % to)]);
const encrypt = (key: Buffer, vector: Buffer, bytes: Buffer): Buffer => {
  const cipher = createCipheriv("aes-256-cbc", key, vector.subarray(0, 16)).setAutoPadding(false);
  return Buffer.concat([cipher.update(bytes), cipher.final()]);
};

export function protect(content: Uint8Array, password: string, spin = 1000): Uint8Array {
  const [dataSalt, lockSalt, key, input] = [randomBytes(16), randomBytes(16), randomBytes(32), randomBytes(16)];
  let stretched = sha512(lockSalt, Buffer.from(password, "utf16le"));
  for (let round = 0; round < spin; round++) stretched = sha512(little(round), stretched);
  const lock = (block: string, bytes: Buffer): string =>
    encrypt(sha512(stretched, Buffer.from(block, "hex")).subarray(0, 32), lockSalt, bytes).toString("base64");
  const shape = `saltSize="16" blockSize="16" keyBits="256" hashSize="64" cipherAlgorithm="AES" cipherChaining="ChainingModeCBC" hashAlgorithm="SHA512"`;
  const info = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?><encryption xmlns="http://schemas.microsoft.com/office/2006/encryption" xmlns:p="http://schemas.microsoft.com/office/2006/keyEncryptor/password"><keyData ${shape} saltValue="${dataSalt.toString("base64")}"/><keyEncryptors><keyEncryptor uri="http://schemas.microsoft.com/office/2006/keyEncryptor/password"><p:encryptedKey spinCount="${spin}" ${shape} saltValue="${lockSalt.toString("base64")}" encryptedVerifierHashInput="${lock("fea7d2763b4b9e79", input)}" encryptedVerifierHashValue="${lock("d7aa0f6d3061344e", sha512(input))}" encryptedKeyValue="${lock("146e0be7abacd0d6", key)}"/></keyEncryptor></keyEncryptors></encryption>`;
  const size = Buffer.alloc(8);
  size.writeBigUInt64LE(BigInt(content.length));
  const pieces: Buffer[] = [size];
  for (let at = 0, number = 0; at < content.length; at += 4096, number++)
    pieces.push(encrypt(key, sha512(dataSalt, little(number)), padded(content.subarray(at, at + 4096), 16)));
  const version = Buffer.from([4, 0, 4, 0, 0x40, 0, 0, 0]);
  return compoundFile([
    ["EncryptionInfo", Buffer.concat([version, Buffer.from(info, "utf8")])],
    ["EncryptedPackage", Buffer.concat(pieces)],
  ]);
}

/** The same the standard way (2.3.4.5): AES-128 in blocks, SHA-1, 50,000 rounds. */
export function protectStandard(content: Uint8Array, password: string): Uint8Array {
  const sha1 = (...parts: readonly Uint8Array[]): Buffer =>
    parts.reduce((hash, part) => hash.update(part), createHash("sha1")).digest();
  const salt = randomBytes(16);
  let stretched = sha1(salt, Buffer.from(password, "utf16le"));
  for (let round = 0; round < 50_000; round++) stretched = sha1(little(round), stretched);
  const hash = sha1(stretched, little(0));
  const inner = Buffer.alloc(64, 0x36);
  for (let at = 0; at < hash.length; at++) inner[at] ^= hash[at];
  const key = sha1(inner).subarray(0, 16);
  const blocks = (bytes: Uint8Array): Buffer => {
    const cipher = createCipheriv("aes-128-ecb", key, null).setAutoPadding(false);
    return Buffer.concat([cipher.update(padded(bytes, 16)), cipher.final()]);
  };
  const verifier = randomBytes(16);
  const provider = Buffer.from("AES provider\u0000", "utf16le");
  const header = Buffer.concat([0x24, 0, 0x660e, 0x8004, 128, 24, 0, 0].map(little).concat([provider]));
  const size = Buffer.alloc(8);
  size.writeBigUInt64LE(BigInt(content.length));
  const parts = [
    Buffer.from([4, 0, 2, 0]),
    little(0x24),
    little(header.length),
    header,
    little(16),
    salt,
    blocks(verifier),
    little(20),
    blocks(sha1(verifier)),
  ];
  return compoundFile([
    ["EncryptionInfo", Buffer.concat(parts)],
    ["EncryptedPackage", Buffer.concat([size, blocks(content)])],
  ]);
}

/** A compound file; streams below its cutoff of 4096 bytes lie in the mini stream, as they have to. */
function compoundFile(streams: readonly (readonly [string, Buffer])[]): Uint8Array {
  const isMini = (bytes: Buffer): boolean => bytes.length < 4096;
  const fat: number[] = [];
  const bodies: Buffer[] = [];
  const add = (bytes: Buffer): number => {
    const start = fat.length;
    const body = padded(bytes, SECTOR);
    for (let index = 1; index < body.length / SECTOR; index++) fat.push(fat.length + 1);
    fat.push(END);
    bodies.push(body);
    return start;
  };
  const miniFat: number[] = [];
  const mini: Buffer[] = [];
  const starts = streams.map(([, bytes]) => {
    if (!isMini(bytes)) return add(bytes);
    const start = miniFat.length;
    const body = padded(bytes, 64);
    for (let index = 1; index < body.length / 64; index++) miniFat.push(miniFat.length + 1);
    miniFat.push(END);
    mini.push(body);
    return start;
  });
  const miniBytes = Buffer.concat(mini);
  const miniStart = add(miniBytes);
  const miniFatStart = add(Buffer.concat(miniFat.map(little)));
  const directory = Buffer.alloc(SECTOR);
  const entry = (at: number, name: string, type: number, start: number, length: number): void => {
    const written = directory.write(name, at * 128, "utf16le");
    directory.writeUInt16LE(written + 2, at * 128 + 64);
    directory.writeUInt8(type, at * 128 + 66);
    directory.writeUInt32LE(start, at * 128 + 116);
    directory.writeUInt32LE(length, at * 128 + 120);
  };
  entry(0, "Root Entry", 5, miniStart, miniBytes.length);
  streams.forEach(([name, bytes], index) => {
    entry(index + 1, name, 2, starts[index], bytes.length);
  });
  const directoryStart = add(directory);
  const fatSectors = Math.ceil((fat.length + 16) / 128);
  const fatStart = fat.length;
  for (let index = 0; index < fatSectors; index++) fat.push(0xfffffffd);
  while (fat.length < fatSectors * 128) fat.push(FREE);
  const header = Buffer.alloc(SECTOR);
  Buffer.from("d0cf11e0a1b11ae1", "hex").copy(header);
  header.writeUInt16LE(0x3e, 24);
  header.writeUInt16LE(3, 26);
  header.writeUInt16LE(0xfffe, 28);
  header.writeUInt16LE(9, 30);
  header.writeUInt16LE(6, 32);
  header.writeUInt32LE(fatSectors, 44);
  header.writeUInt32LE(directoryStart, 48);
  header.writeUInt32LE(4096, 56);
  header.writeUInt32LE(miniFatStart, 60);
  header.writeUInt32LE(1, 64);
  header.writeUInt32LE(END, 68);
  for (let index = 0; index < 109; index++)
    header.writeUInt32LE(index < fatSectors ? fatStart + index : FREE, 76 + index * 4);
  return Buffer.concat([header, ...bodies, ...fat.map(little)]);
}
