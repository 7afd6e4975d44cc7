/** The service speaks HTTPS by itself, takes files by mail over encrypted lines from who signs in, and renews what it shows. */

import { once } from "node:events";
import { mkdtempSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { request } from "node:https";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { connect } from "node:tls";
import nodemailer from "nodemailer";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type Papers, papersFor } from "../../../test/setup/papers.js";
import { type TestService, testService } from "../../../test/setup/service.js";
import { freePort } from "../../../test/setup/ways-servers.js";
import { openCertificates } from "../../dist/process/certificates.js";

const folder = mkdtempSync(join(tmpdir(), "corbix-https-"));
const files = { CORBIX_TLS_CERTIFICATE: join(folder, "cert.pem"), CORBIX_TLS_KEY: join(folder, "key.pem") };
let papers: Papers;
let service: TestService;
let mailPort: number;

function write({ cert, key }: Papers): void {
  writeFileSync(files.CORBIX_TLS_CERTIFICATE, cert);
  writeFileSync(files.CORBIX_TLS_KEY, key);
}

interface Answer {
  readonly status: number | undefined;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly body: string;
}
/** A call that trusts the house authority, and nobody else. */
function call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const sent = request(
      service.url + path,
      { method, ca: papers.authority, headers: { "Content-Type": "application/json", ...headers } },
      (answer) => {
        let text = "";
        answer.on("data", (chunk) => {
          text += chunk;
        });
        answer.on("end", () => resolve({ status: answer.statusCode, headers: answer.headers, body: text }));
      },
    );
    sent.on("error", reject);
    sent.end(body === undefined ? undefined : JSON.stringify(body));
  });
}
const signedIn = () => ({ Authorization: `Bearer ${service.signIn.token}` });

beforeAll(async () => {
  papers = await papersFor({ type: "ip", value: "127.0.0.1" });
  write(papers);
  mailPort = await freePort();
  service = await testService(inject("databaseUrl"), {
    ...files,
    CORBIX_WORKERS: "0",
    CORBIX_DEMO: "false",
    CORBIX_INTAKE_MAIL_PORT: String(mailPort),
    CORBIX_INTAKE_MAIL_SIGN_IN: "required",
    CORBIX_TRUSTED_PROXIES: "127.0.0.1",
  });
});
afterAll(async () => {
  await service?.close();
  rmSync(folder, { recursive: true, force: true });
});

describe("HTTPS by the service itself", () => {
  it("answers over TLS with the certificate that was given, and cookies go over TLS only", async () => {
    expect(service.url).toMatch(/^https:/);
    expect((await call("GET", "/health/live")).status).toBe(200);
    const { name, password } = service.signIn;
    const session = await call("POST", "/api/v1/session", { name, password });
    expect(session.status).toBe(201);
    expect(String(session.headers["set-cookie"])).toMatch(/; Secure/);
    expect(session.headers["strict-transport-security"]).toMatch(/max-age=\d{8}/);
    // Who does not trust its authority gets nothing, and neither does an old protocol.
    await expect(fetch(`${service.url}/health/live`)).rejects.toThrow();
    const { hostname, port } = new URL(service.url);
    const old = connect({
      host: hostname,
      port: Number(port),
      ca: papers.authority,
      maxVersion: "TLSv1.1",
      minVersion: "TLSv1",
    });
    expect(String(await once(old, "error").then(([error]) => error))).toMatch(/alert|version|protocol/i);
  });

  it("takes a proxy's word of who calls only from proxies that are trusted", async () => {
    const failed = await call(
      "POST",
      "/api/v1/session",
      { name: "office", password: "wrong" },
      { "X-Forwarded-For": "203.0.113.9" },
    );
    expect(failed.status).toBe(401);
    const trail = JSON.parse((await call("GET", "/api/v1/trail?limit=5", undefined, signedIn())).body) as {
      items: { what: string; from: string }[];
    };
    expect(trail.items[0]).toMatchObject({ from: "203.0.113.9" });
  });

  it("shows another certificate once its files have changed, and goes on with the one before while they do not fit", async () => {
    const looked = openCertificates({ tlsCertificate: files.CORBIX_TLS_CERTIFICATE, tlsKey: files.CORBIX_TLS_KEY }, 10);
    const words: string[] = [];
    let changed = 0;
    let heard: () => void = () => {};
    const next = (): Promise<void> =>
      new Promise((resolve) => {
        heard = resolve;
      });
    const stop = looked?.watch(
      () => {
        changed++;
        heard();
      },
      (why) => {
        words.push(why);
        heard();
      },
    );
    const other = await papersFor({ type: "ip", value: "127.0.0.1" });
    // Its key comes a moment later than the certificate.
    const failed = next();
    writeFileSync(files.CORBIX_TLS_CERTIFICATE, other.cert);
    utimesSync(files.CORBIX_TLS_CERTIFICATE, 1, 1);
    await failed;
    expect(words[0]).toMatch(/key/i);
    expect(changed).toBe(0);
    const renewed = next();
    writeFileSync(files.CORBIX_TLS_KEY, other.key);
    utimesSync(files.CORBIX_TLS_KEY, 2, 2);
    while (changed === 0) await Promise.race([renewed, next()]);
    stop?.();
    write(papers);
  });

  it("is refused with half of what it needs, or with what is no certificate", () => {
    const { CORBIX_TLS_CERTIFICATE: tlsCertificate, CORBIX_TLS_KEY: tlsKey } = files;
    expect(() => openCertificates({ tlsCertificate })).toThrow(/needs its private key/);
    writeFileSync(join(folder, "wrong.pem"), "no certificate");
    expect(() => openCertificates({ tlsCertificate: join(folder, "wrong.pem"), tlsKey })).toThrow(
      /Cannot use this certificate/,
    );
    expect(openCertificates({})).toBeUndefined();
  });
});

describe("files by mail, with a sign-in", () => {
  const csv = { filename: "jobs.csv", content: "site,hours\nAlder,1\nBirch,2\n" };
  const mail = (auth: { user: string; pass: string } | undefined, more: object = {}) =>
    nodemailer
      .createTransport({
        host: "127.0.0.1",
        port: mailPort,
        secure: false,
        requireTLS: true,
        tls: { ca: papers.authority },
        ...(auth ? { auth } : {}),
        ...more,
      })
      .sendMail({
        from: "system@lifts.example",
        to: "jobs@corbix.localhost",
        subject: "Jobs",
        text: "Attached.",
        attachments: [csv],
      });

  it("are taken over an encrypted line from who signs in by a token of theirs, and from nobody else", async () => {
    const made = await call("POST", "/api/v1/datasets/jobs/editions?file=jobs.csv", undefined, signedIn());
    expect(made.status).toBe(422);
    const { context } = service;
    await context.database.execute("INSERT INTO datasets (name, settings) VALUES ('jobs', $1)", [
      JSON.stringify({ mailbox: { name: "jobs", senders: ["system@lifts.example"] } }),
    ]);
    const { name: user, token: pass, password } = service.signIn;
    expect((await mail({ user, pass })).response).toContain("edition 1");
    await expect(mail(undefined)).rejects.toThrow(/530|authentication/i);
    await expect(mail({ user, pass: password })).rejects.toThrow(/535/);
    await expect(mail({ user: "somebody", pass })).rejects.toThrow(/535/);
    // Over an open line no sign-in is offered, and none is taken.
    await expect(mail({ user, pass }, { requireTLS: false, ignoreTLS: true })).rejects.toThrow();
    const looking = JSON.parse(
      (await call("POST", "/api/v1/tokens", { name: "looks", roles: { look: "all" } }, signedIn())).body,
    ) as { secret?: string; token?: string };
    await expect(mail({ user, pass: looking.secret ?? looking.token ?? "" })).rejects.toThrow(/535.*may not prepare/);
  });

  it("counts sign-ins that are tried", async () => {
    const tries = Array.from({ length: 12 }, () =>
      mail({ user: "office", pass: "wrong" }).then(
        () => "in",
        (error: Error) => error.message,
      ),
    );
    const said = await Promise.all(tries);
    expect(said.every((one) => one !== "in")).toBe(true);
    expect(said.some((one) => /too many/i.test(one))).toBe(true);
  });
});
