/** Secrets are planted wherever one can be given; then everything is looked through that the service writes, answers and hands out. */
import { randomBytes } from "node:crypto";
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { inflateRawSync, inflateSync } from "node:zlib";
import { SMTPServer } from "smtp-server";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type ServiceProcess, serviceProcess } from "../../../test/setup/service-process.js";
import { takeBackup } from "../../dist/operate/backup.js";
import { databaseProgram, runOn } from "../../dist/operate/programs.js";
import { readSettings } from "../../dist/process/settings.js";

const root = fileURLToPath(new URL("../../..", import.meta.url)).replace(/\/$/, "");
const folder = mkdtempSync(join(tmpdir(), "corbix-planted-"));
const data = join(folder, "data");
const planted = new Map<string, string>();
/** A secret that stands nowhere else. */
const plant = (what: string): string => {
  const secret = `Planted${randomBytes(12).toString("hex")}`;
  planted.set(what, secret);
  return secret;
};
let service: ServiceProcess;
let mail: SMTPServer;
let url: string;
let databaseUrl: string;
let token: string;
/** Everything that was written out. The first password is shown once, to whoever starts it first: that is what it is for. */
const written = (): string => service.written().replaceAll(service.signIn.password, "…");
const answers: string[] = [];

async function call(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<number> {
  const isRaw = typeof body === "string";
  const response = await fetch(`${url}${path}`, {
    method,
    headers: {
      Authorization: `Bearer ${token}`,
      "Content-Type": isRaw ? "application/octet-stream" : "application/json",
      ...headers,
    },
    ...(body === undefined ? {} : { body: isRaw ? (body as string) : JSON.stringify(body) }),
    redirect: "manual",
  });
  answers.push(
    `${method} ${path.split("?")[0]} ${response.status} ${JSON.stringify([...response.headers])} ${await response.text()}`,
  );
  return response.status;
}

beforeAll(async () => {
  // A mail server that lets nobody in, and says what it was told.
  mail = new SMTPServer({
    disabledCommands: ["STARTTLS"],
    allowInsecureAuth: true,
    onAuth: ({ username }, _session, done) => done(new Error(`no such user ${username}`)),
  });
  await new Promise<void>((resolve) => mail.listen(0, "127.0.0.1", () => resolve()));
  const mailPort = (mail.server.address() as { port: number }).port;
  writeFileSync(join(folder, "key"), `${plant("the key")}\n`);
  service = await serviceProcess(inject("databaseUrl"), data, {
    CORBIX_MAIL_URL: `smtp://office:${plant("the mail server's password")}@127.0.0.1:${mailPort}`,
    CORBIX_SECRET_KEY_FILE: join(folder, "key"),
    CORBIX_METRICS_TOKEN: plant("the token of metrics"),
    CORBIX_LOG_LEVEL: "trace",
  });
  ({ url, databaseUrl } = service);
  planted.set("the database's password", new URL(databaseUrl).password);
  const { signIn } = service;
  token = signIn.token;
  planted.set("the first token", token);
  planted.set("the first password", signIn.password);
});
afterAll(async () => {
  await service?.close();
  await new Promise<void>((resolve) => mail.close(() => resolve()));
  rmSync(folder, { recursive: true, force: true });
});

/** How a secret may stand somewhere. */
function formsOf(secret: string): string[] {
  const base64 = [0, 1, 2].map((shift) =>
    Buffer.from(" ".repeat(shift) + secret)
      .toString("base64")
      .slice(shift === 0 ? 0 : 4, -4),
  );
  return [secret, encodeURIComponent(secret), Buffer.from(secret).toString("hex"), ...base64].map((one) =>
    one.toLowerCase(),
  );
}

/** What of the planted stands in a text. */
function foundIn(where: string, text: string): string[] {
  const low = text.toLowerCase();
  return [...planted].flatMap(([what, secret]) =>
    formsOf(secret).some((form) => low.includes(form)) ? [`${what} in ${where}`] : [],
  );
}

/** A folder's files, as they are and with what is packed in them. */
function* filesOf(path: string): Generator<[string, string]> {
  for (const one of readdirSync(path, { recursive: true, withFileTypes: true })) {
    if (!one.isFile()) continue;
    const file = join(one.parentPath, one.name);
    yield [file, readFileSync(file, "latin1")];
  }
}

/** Texts of bytea columns as a dump has them, unpacked where they are packed. */
function unpackedOf(dump: string): string {
  const pieces: string[] = [];
  for (const [, hex = ""] of dump.matchAll(/\\\\x([0-9a-f]{16,})/g)) {
    const bytes = Buffer.from(hex, "hex");
    pieces.push(bytes.toString("latin1"));
    for (const inflate of [inflateSync, inflateRawSync])
      try {
        pieces.push(inflate(bytes).toString("latin1"));
      } catch {}
  }
  return pieces.join("\n");
}

describe("no planted secret", () => {
  it("is overlooked: in other letters, in an address, in base64 wherever it begins, in hexadecimal", () => {
    const secret = planted.get("the token of metrics") ?? "";
    for (const form of [
      secret.toUpperCase(),
      `?a=${encodeURIComponent(secret)}`,
      Buffer.from(`x${secret}y`).toString("base64"),
      Buffer.from(`xy${secret}`).toString("base64"),
      Buffer.from(secret).toString("hex"),
    ])
      expect(foundIn("a text", `before ${form} behind`)).toEqual(["the token of metrics in a text"]);
    expect(foundIn("a text", "something else")).toEqual([]);
  });

  it("stands in what the service writes, answers or keeps, also where things go wrong", async () => {
    const put = (path: string, body: unknown) => call("PUT", `/api/v1${path}`, body);
    const post = (path: string, body?: unknown, headers?: Record<string, string>) =>
      call("POST", `/api/v1${path}`, body, headers);
    const taken = async (status: Promise<number>): Promise<void> =>
      expect({ taken: [200, 201].includes(await status), answer: answers.at(-1) }).toMatchObject({ taken: true });
    const refused = async (status: Promise<number>): Promise<void> => expect(await status).toBeGreaterThanOrEqual(400);
    // Everything that takes a secret, rightly and wrongly.
    const settings = { from: "Second <second@lifts.example>", host: "127.0.0.1", port: 1, user: "second" };
    await taken(put("/identities/second", { settings, secret: { password: plant("an identity's password") } }));
    await refused(
      put("/identities/second", { settings: { from: 7 }, secret: { password: plant("a wrong identity's password") } }),
    );
    await taken(put("/datasets/visits/settings", { password: plant("a workbook's password") }));
    await refused(put("/datasets/visits/settings", { password: { wrong: plant("a wrong workbook's password") } }));
    const watcher = { way: "callback", address: "http://127.0.0.1:1/told", kinds: ["waits-for-release", "refused"] };
    await taken(put("/watchers/ops", { ...watcher, secret: plant("a callback's secret") }));
    const dav = { kind: "web-dav", address: "http://127.0.0.1:1/dav", user: "office" };
    await taken(put("/ways-out/dav", { settings: dav, secret: { password: plant("a way's password") } }));
    await refused(post("/ways-out/dav/try"));
    const provider = { title: "Office", issuer: "http://127.0.0.1:1/provider", clientId: "corbix" };
    await call("PUT", "/api/v1/sign-in-provider", { settings: provider, secret: plant("the provider's secret") });
    await taken(post("/tokens", { name: "scripts", roles: { look: "all" } }));
    // It is told to who made it, once.
    planted.set("a token that was made", /"(?:token|secret)":"([^"]{20,})"/.exec(answers.pop() ?? "")?.[1] ?? "none");
    expect(planted.get("a token that was made")).not.toBe("none");
    for (const password of [plant("a wrong password"), plant("a wrong password, too")])
      await refused(post("/session", { name: "office", password }));
    await refused(call("GET", "/api/v1/runs", undefined, { Authorization: `Bearer ${plant("a wrong token")}` }));
    await refused(call("GET", "/metrics", undefined, { Authorization: `Bearer ${plant("a wrong token of metrics")}` }));
    await taken(call("GET", "/metrics", undefined, { Authorization: `Bearer ${planted.get("the token of metrics")}` }));
    await refused(
      put("/self/password", { old: plant("a wrong password before"), new: plant("a password that is not taken") }),
    );
    await taken(
      put("/self/password", {
        old: planted.get("the first password"),
        new: plant("a new password that is long enough"),
      }),
    );
    await refused(
      post(`/no-such-call?password=${plant("a password in an address")}`, { secret: plant("a secret for nothing") }),
    );
    // Runs whose mails the server refuses, and whose notices cannot be passed on.
    await post("/runs", { report: "site-statement", period: "2026-09" });
    const run = /"id":"([0-9a-f]+)"/.exec(answers.at(-1) ?? "")?.[1];
    await waitUntil(async () => {
      await call("GET", `/api/v1/runs/${run}`);
      return (answers.at(-1) ?? "").includes('"state":"held"');
    });
    await post(`/runs/${run}/release`, {});
    await waitUntil(() => written().includes('"outcome":"later"'));
    for (const path of [
      "/identities",
      "/ways-out",
      "/watchers",
      "/datasets/visits/settings",
      "/sign-in-provider",
      "/people",
      "/tokens",
      "/trail",
      "/notices",
      "/outbox",
      "/operations",
      "/self",
    ])
      await call("GET", `/api/v1${path}`);
    const found = [...foundIn("the log", written()), ...foundIn("an answer", answers.join("\n"))];
    expect(found).toEqual([]);
    expect(answers.filter((one) => / 500 /.test(one.slice(0, 200)))).toEqual([]);
    expect(written().length).toBeGreaterThan(1_000);
  });

  it("stands in a dump of the database, a backup, or the data folder", async () => {
    const settings = readSettings({ CORBIX_DATA: data, CORBIX_SECRET_KEY_FILE: join(folder, "key") }, root);
    const out = join(folder, "backups");
    const { manifest } = await takeBackup({ settings, databaseUrl, out, version: "0" });
    const plain = join(folder, "plain.sql");
    await runOn(
      databaseUrl,
      await databaseProgram("pg_dump", manifest.database.server),
      ["--format=plain", `--file=${plain}`],
      (words) => new Error(words) as never,
    );
    const dump = readFileSync(plain, "latin1");
    const found = [...foundIn("the dump", dump), ...foundIn("packed columns", unpackedOf(dump))];
    for (const [file, text] of filesOf(out)) found.push(...foundIn(file, text));
    // The first sign-in is kept for the command on this machine, readable by its owner only.
    for (const [file, text] of filesOf(data))
      if (!file.endsWith("/sign-in.json")) found.push(...foundIn(file, text));
      else expect(statSync(file).mode & 0o077).toBe(0);
    expect(found).toEqual([]);
    expect(dump.length).toBeGreaterThan(100_000);
    expect(planted.size).toBeGreaterThan(18);
  });
});

async function waitUntil(isSo: () => boolean | Promise<boolean>): Promise<void> {
  const end = Date.now() + 120_000;
  while (!(await isSo())) {
    if (Date.now() > end) throw new Error("it did not come to that");
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
