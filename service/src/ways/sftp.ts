/** Files put by SFTP (over SSH, RFC 4251 to 4254), to a server whose key is known. */
import { createHash, randomUUID } from "node:crypto";
import { connect, Socket } from "node:net";
import { sha256, wordsOf } from "@corbix/core/common";
import { safeFolder } from "@corbix/core/naming";
import { say } from "@corbix/core/words";
import { Client, type SFTPWrapper } from "ssh2";
import type { Reach } from "../process/reach.js";
import { PlaceInTrouble, PutRefused, type PutWish, type WayLine } from "./line.js";

export interface SftpPlace {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly hostKey: string;
  readonly folder: string;
  readonly password?: string | undefined;
  readonly privateKey?: string | undefined;
  readonly passphrase?: string | undefined;
  readonly reach: Reach;
}

const CONNECT_MS = 20_000;
/** A server that does not answer so often is left. */
const ALIVE_MS = 15_000;
const ALIVE_TIMES = 4;
/** Status codes of the protocol, version 3. */
const NO_SUCH_FILE = 2;
const DENIED = 3;

/** Throws `PlaceInTrouble` where the server is not reached, shows another key, or does not let one in. */
export async function openSftp(place: SftpPlace): Promise<WayLine> {
  const client = new Client();
  const isWrong: string[] = [];
  const sftp = await new Promise<SFTPWrapper>((resolve, reject) => {
    const fail = (error: Error): void => {
      client.end();
      reject(new PlaceInTrouble(isWrong[0] ?? wordsOf(error)));
    };
    client
      .on("ready", () => client.sftp((error, opened) => (error ? fail(error) : resolve(opened))))
      .on("error", fail)
      .connect({
        sock: lineTo(place),
        username: place.user,
        ...(place.password === undefined ? {} : { password: place.password }),
        ...(place.privateKey === undefined ? {} : { privateKey: place.privateKey }),
        ...(place.passphrase === undefined ? {} : { passphrase: place.passphrase }),
        readyTimeout: CONNECT_MS,
        keepaliveInterval: ALIVE_MS,
        keepaliveCountMax: ALIVE_TIMES,
        hostVerifier: (key: Buffer) => {
          const shown = fingerprint(key);
          if (shown === place.hostKey.replace(/=+$/, "")) return true;
          isWrong.push(say().serviceWays.anotherHostKey({ shown }));
          return false;
        },
      });
  });
  const ended = new Promise<never>((_, reject) => {
    client.on("close", () => reject(new Error(say().serviceWays.lineClosed())));
    client.on("error", reject);
  });
  // Whoever waits hears of it; where nobody does, there is nothing to hear.
  ended.catch(() => {});
  const line = new Session(sftp, safeFolder(place.folder));
  return {
    put: (path, bytes, wish) => Promise.race([line.put(path, bytes, wish), ended]),
    remove: (path) => Promise.race([line.remove(path), ended]),
    close: () => client.end(),
  };
}

/** The fingerprint that a server shows; nobody signs in. Throws `PlaceInTrouble`. */
export function shownHostKey(reach: Reach, host: string, port: number): Promise<string> {
  return new Promise((resolve, reject) => {
    const client = new Client();
    let shown: string | undefined;
    client
      .on("error", (error) => {
        client.end();
        if (shown === undefined) reject(new PlaceInTrouble(wordsOf(error)));
      })
      .connect({
        sock: lineTo({ host, port, reach }),
        username: "nobody",
        readyTimeout: CONNECT_MS,
        hostVerifier: (key: Buffer) => {
          shown = fingerprint(key);
          resolve(shown);
          return false;
        },
      });
  });
}

/** A line to where one may call; what stands against it is told as an error of the line. */
function lineTo({ host, port, reach }: Pick<SftpPlace, "host" | "port" | "reach">): Socket {
  try {
    reach.check(host);
  } catch (error) {
    return new Socket().destroy(error as Error);
  }
  return connect({ host, port, lookup: reach.lookup });
}

function fingerprint(key: Buffer): string {
  return `SHA256:${createHash("sha256").update(key).digest("base64").replace(/=+$/, "")}`;
}

class Session {
  private readonly made = new Set<string>();

  constructor(
    private readonly sftp: SFTPWrapper,
    private readonly folder: string,
  ) {}

  async put(path: string, bytes: Uint8Array, { over, sha256: digest }: PutWish): Promise<string> {
    const place = this.placeOf(path);
    const receipt = { bytes: bytes.length, digest };
    const there = await this.read(place);
    if (there && sha256(there) === digest) return say().serviceWays.wasThere(receipt);
    if (there && !over) throw new PutRefused(say().serviceWays.anotherIsThere());
    await this.makeFolders(place);
    const beside = `${place.slice(0, place.lastIndexOf("/") + 1)}.${randomUUID()}`;
    try {
      await asked((done) => this.sftp.writeFile(beside, Buffer.from(bytes), { flag: "wx" }, done));
      const written = await this.read(beside);
      if (!written || sha256(written) !== digest) throw new Error(say().serviceWays.readsOtherwise());
      await this.rename(beside, place, over);
    } catch (error) {
      await asked((done) => this.sftp.unlink(beside, done)).catch(() => {});
      throw denied(error);
    }
    return say().serviceWays.wasPut(receipt);
  }

  async remove(path: string): Promise<void> {
    await asked((done) => this.sftp.unlink(this.placeOf(path), done));
  }

  private placeOf(path: string): string {
    return this.folder === "" ? path : `${this.folder}/${path}`;
  }

  /** A plain renaming is refused where something has the name; over it goes by OpenSSH's extension, or by taking away what is there. */
  private async rename(from: string, to: string, over: boolean): Promise<void> {
    if (!over) {
      await asked((done) => this.sftp.rename(from, to, done)).catch(async (error: unknown) => {
        if (await this.read(to)) throw new PutRefused(say().serviceWays.anotherIsThere());
        throw error;
      });
      return;
    }
    await asked((done) => this.sftp.ext_openssh_rename(from, to, done)).catch(async () => {
      await asked((done) => this.sftp.unlink(to, done)).catch(() => {});
      await asked((done) => this.sftp.rename(from, to, done));
    });
  }

  private async makeFolders(place: string): Promise<void> {
    const parts = place.split("/").slice(0, -1);
    for (let depth = 1; depth <= parts.length; depth++) {
      const folder = parts.slice(0, depth).join("/");
      if (this.made.has(folder)) continue;
      await asked((done) => this.sftp.mkdir(folder, done)).catch(async (error: unknown) => {
        // It is there already, perhaps made this moment.
        const isThere = await new Promise<boolean>((resolve) =>
          this.sftp.stat(folder, (wrong, found) => resolve(!wrong && found.isDirectory())),
        );
        if (!isThere) throw denied(error);
      });
      this.made.add(folder);
    }
  }

  private read(place: string): Promise<Buffer | undefined> {
    return new Promise((resolve, reject) =>
      this.sftp.readFile(place, (error, bytes) => {
        if (!error) resolve(bytes);
        else if (codeOf(error) === NO_SUCH_FILE) resolve(undefined);
        else reject(denied(error));
      }),
    );
  }
}

function asked(ask: (done: (error?: Error | null) => void) => void): Promise<void> {
  return new Promise((resolve, reject) => ask((error) => (error ? reject(error) : resolve())));
}

/** What the server does not permit stays so. */
function denied(error: unknown): unknown {
  return codeOf(error) === DENIED ? new PutRefused(say().serviceWays.notPermitted({ words: wordsOf(error) })) : error;
}

function codeOf(error: unknown): unknown {
  return typeof error === "object" && error !== null && "code" in error ? error.code : undefined;
}
