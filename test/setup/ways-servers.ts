/** Real servers of files on loopback, each in a folder of its own: SSH (OpenSSH's), WebDAV (Apache's), and a small one that takes uploads. */
import { execFileSync, spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { chmodSync, chownSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type IncomingHttpHeaders, type Server } from "node:http";
import { type AddressInfo, connect, createServer as createSocket } from "node:net";
import { tmpdir, userInfo } from "node:os";
import { join } from "node:path";

export interface FileServer {
  readonly port: number;
  /** Where the files lie that were put there. */
  readonly folder: string;
  readonly close: () => Promise<void>;
}

export async function freePort(): Promise<number> {
  const server = createSocket();
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

/** Starts a program and waits until it listens. */
export async function started(program: string, args: readonly string[], port: number): Promise<() => Promise<void>> {
  const child = spawn(program, args, { stdio: ["ignore", "ignore", "pipe"] });
  let said = "";
  child.stderr.on("data", (bytes: Buffer) => {
    said += bytes.toString();
  });
  const ended = new Promise<void>((resolve) => child.once("exit", () => resolve()));
  for (;;) {
    if (child.exitCode !== null) throw new Error(`${program} ended: ${said}`);
    const isOpen = await new Promise<boolean>((resolve) => {
      const socket = connect(port, "127.0.0.1", () => {
        socket.destroy();
        resolve(true);
      }).on("error", () => resolve(false));
    });
    if (isOpen) break;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return async () => {
    child.kill("SIGTERM");
    await ended;
  };
}

export interface SshServer extends FileServer {
  readonly user: string;
  /** As it is written in settings. */
  readonly hostKey: string;
  /** Of somebody it lets in. */
  readonly privateKey: string;
  /** Of somebody it does not know. */
  readonly strangerKey: string;
}

/** An SSH server with keys of its own that gives files only. */
export async function sshServer(): Promise<SshServer> {
  const home = mkdtempSync(join(tmpdir(), "corbix-ssh-"));
  const folder = join(home, "files");
  mkdirSync(folder);
  const key = (name: string): string => {
    execFileSync("ssh-keygen", ["-q", "-t", "ed25519", "-N", "", "-f", join(home, name)]);
    return join(home, name);
  };
  const [host, own, stranger] = [key("host"), key("own"), key("stranger")];
  writeFileSync(join(home, "known"), readFileSync(`${own}.pub`));
  const port = await freePort();
  const settings = [
    "ListenAddress 127.0.0.1",
    `Port ${port}`,
    `HostKey ${host}`,
    `PidFile ${join(home, "pid")}`,
    `AuthorizedKeysFile ${join(home, "known")}`,
    "StrictModes no",
    "UsePAM no",
    "PermitRootLogin yes",
    "PasswordAuthentication no",
    "KbdInteractiveAuthentication no",
    "Subsystem sftp internal-sftp",
    `ForceCommand internal-sftp -d ${folder}`,
  ];
  writeFileSync(join(home, "settings"), `${settings.join("\n")}\n`);
  // The server wants this folder of its own.
  if (userInfo().uid === 0) mkdirSync("/run/sshd", { recursive: true });
  const stop = await started("/usr/sbin/sshd", ["-D", "-e", "-f", join(home, "settings")], port);
  const [, body = ""] = readFileSync(`${host}.pub`, "utf8").split(" ");
  const digest = createHash("sha256").update(Buffer.from(body, "base64")).digest("base64").replace(/=+$/, "");
  return {
    port,
    folder,
    user: userInfo().username,
    hostKey: `SHA256:${digest}`,
    privateKey: readFileSync(own, "utf8"),
    strangerKey: readFileSync(stranger, "utf8"),
    close: async () => {
      await stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
}

const MODULES = "/usr/lib/apache2/modules";
const USED = ["mpm_event", "authn_core", "authz_core", "authz_user", "auth_basic", "authn_file", "dav", "dav_fs"];

export interface DavServer extends FileServer {
  readonly address: string;
  readonly user: string;
  readonly password: string;
}

/** A WebDAV server that asks for a sign-in. */
export async function davServer(): Promise<DavServer> {
  const home = mkdtempSync(join(tmpdir(), "corbix-dav-"));
  const folder = join(home, "files");
  const [user, password] = ["office", "lift pass"];
  mkdirSync(folder);
  mkdirSync(join(home, "locks"));
  writeFileSync(join(home, "people"), `${user}:{SHA}${createHash("sha1").update(password).digest("base64")}\n`);
  const isRoot = userInfo().uid === 0;
  if (isRoot) {
    const [, , uid = "0", gid = "0"] = execFileSync("getent", ["passwd", "www-data"]).toString().split(":");
    chmodSync(home, 0o755);
    for (const one of [folder, join(home, "locks")]) chownSync(one, Number(uid), Number(gid));
  }
  const port = await freePort();
  const settings = [
    `ServerRoot ${home}`,
    "ServerName localhost",
    `Listen 127.0.0.1:${port}`,
    `PidFile ${join(home, "pid")}`,
    `ErrorLog ${join(home, "errors")}`,
    `Mutex file:${home} default`,
    ...USED.map((name) => `LoadModule ${name}_module ${MODULES}/mod_${name}.so`),
    ...(isRoot ? ["User www-data", "Group www-data"] : []),
    `DocumentRoot ${folder}`,
    `DavLockDB ${join(home, "locks", "lock")}`,
    `<Directory ${folder}>`,
    "Dav On",
    "AuthType Basic",
    "AuthName files",
    `AuthUserFile ${join(home, "people")}`,
    "Require valid-user",
    "</Directory>",
  ];
  writeFileSync(join(home, "settings"), `${settings.join("\n")}\n`);
  const stop = await started("/usr/sbin/apache2", ["-f", join(home, "settings"), "-D", "FOREGROUND"], port);
  return {
    port,
    folder,
    address: `http://127.0.0.1:${port}/`,
    user,
    password,
    close: async () => {
      await stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
}

export interface Upload {
  readonly method: string;
  readonly path: string;
  readonly headers: IncomingHttpHeaders;
  readonly body: Buffer;
}

/** Takes uploads and answers them as it is told: a status, or `"break"` for a line that ends without an answer. */
export async function uploadServer(answer: (upload: Upload, count: number) => number | "break" = () => 201) {
  const got: Upload[] = [];
  const server: Server = createServer((request, response) => {
    const pieces: Buffer[] = [];
    request.on("data", (piece: Buffer) => pieces.push(piece));
    request.on("end", () => {
      const { method = "", url = "", headers } = request;
      const upload = { method, path: decodeURIComponent(url), headers, body: Buffer.concat(pieces) };
      got.push(upload);
      const status = answer(upload, got.length);
      if (status === "break") request.socket.destroy();
      else response.writeHead(status).end();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  return {
    got,
    address: `http://127.0.0.1:${port}/in`,
    close: () => new Promise((resolve) => server.close(resolve)),
  };
}
