/** Sending over encrypted lines, to a server whose certificate is signed by an authority of its own; signatures as another program checks them. */
import { execFileSync } from "node:child_process";
import { generateKeyPairSync, randomBytes } from "node:crypto";
import { once } from "node:events";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fillFrame, frameMail } from "@corbix/core/message";
import { SMTPServer, type SMTPServerOptions } from "smtp-server";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { type Papers, papersFor } from "../../../test/setup/papers.js";
import { signatureOf } from "../../dist/mail/dkim.js";
import { type MailServer, type OutgoingMail, smtpSender } from "../../dist/mail/smtp.js";

const DAY = 86_400_000;
let papers: Papers;
const folder = mkdtempSync(join(tmpdir(), "corbix-tls-"));
beforeAll(async () => {
  papers = await papersFor({ type: "ip", value: "127.0.0.1" });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const closing: (() => unknown)[] = [];
afterEach(async () => {
  while (closing.length > 0) await closing.pop()?.();
});

interface Received {
  readonly raw: string;
  readonly isSecure: boolean;
  readonly user: string | undefined;
}

const USER = { user: "office", password: "häuslich 7" };

/** A server that keeps what it gets, and lets in only whoever signs in. */
async function server(options: SMTPServerOptions): Promise<{ port: number; received: Received[] }> {
  const received: Received[] = [];
  const smtp = new SMTPServer({
    onAuth: (auth, _, done) =>
      auth.username === USER.user && auth.password === USER.password
        ? done(null, { user: auth.username })
        : done(Object.assign(new Error("5.7.8 not with this password"), { responseCode: 535 })),
    onData: (stream, session, done) => {
      const pieces: Buffer[] = [];
      stream.on("data", (piece: Buffer) => pieces.push(piece));
      stream.on("end", () => {
        received.push({
          raw: Buffer.concat(pieces).toString("latin1"),
          isSecure: session.secure,
          user: session.user as string | undefined,
        });
        done(null, "taken");
      });
    },
    ...options,
  });
  smtp.on("error", () => {});
  const listening = smtp.listen(0, "127.0.0.1");
  await once(listening, "listening");
  closing.push(() => new Promise<void>((resolve) => smtp.close(() => resolve())));
  const address = listening.address();
  return { port: typeof address === "object" && address ? address.port : 0, received };
}

async function mail(): Promise<OutgoingMail & { frame: Awaited<ReturnType<typeof frameMail>> }> {
  const content = randomBytes(20_000);
  const frame = await frameMail({
    from: "Office <office@lifts.example>",
    to: [{ address: "ann@dock.example", name: "Ann Brücke" }],
    cc: [],
    replyTo: undefined,
    subject: "Zürich – October",
    html: "<p>Hello</p>\n<p>.</p>",
    text: "Hello\n.\n",
    messageId: "<1@lifts.example>",
    date: new Date("2026-11-02T09:00:00Z"),
    language: "en",
    importance: "normal",
    headers: {},
    attachments: [{ filename: "statement.pdf", contentType: "application/pdf", sha256: "one" }],
  });
  const raw = fillFrame(frame, () => content);
  return {
    from: "office@lifts.example",
    to: ["ann@dock.example"],
    raw,
    frame,
    begin: async () => true,
    isOurs: () => true,
  };
}

async function send(port: number, more: Partial<MailServer>) {
  const sender = smtpSender({ host: "127.0.0.1", port, security: "starttls", ...more }, 1, 60_000);
  closing.push(() => sender.close());
  return sender.send(await mail());
}

const withPapers = (): SMTPServerOptions => ({ key: papers.key, cert: papers.cert, authOptional: true });

describe("an encrypted line", () => {
  it.each(["starttls", "tls"] as const)(
    "carries a message with %s, to whom the authority vouches for",
    async (security) => {
      const { port, received } = await server({ ...withPapers(), secure: security === "tls" });
      expect(await send(port, { security, authority: papers.authority })).toMatchObject({ kind: "sent" });
      expect(received).toEqual([expect.objectContaining({ isSecure: true })]);
    },
  );

  it("is not used where nobody vouches for the server, and nothing goes out", async () => {
    const { port, received } = await server(withPapers());
    const outcome = await send(port, {});
    expect(outcome).toMatchObject({ kind: "later", stage: "connecting" });
    expect(outcome.response).toMatch(/certificate|issuer|self.signed/i);
    expect(received).toEqual([]);
  });

  it.each([
    ["another host's name", () => papersFor({ type: "dns", value: "elsewhere.example" }), /altname|does not match/i],
    [
      "a certificate that has run out",
      () => papersFor({ type: "ip", value: "127.0.0.1" }, new Date(Date.now() - DAY)),
      /expired/i,
    ],
  ])("is not used with %s", async (_, make, words) => {
    const other = await make();
    const { port, received } = await server({ key: other.key, cert: other.cert, authOptional: true });
    const outcome = await send(port, { authority: other.authority });
    expect(outcome).toMatchObject({ kind: "later", stage: "connecting", response: expect.stringMatching(words) });
    expect(received).toEqual([]);
  });

  it("is insisted on: a server that offers none, or hides it, gets neither message nor password", async () => {
    let asked = 0;
    const { port, received } = await server({
      authOptional: true,
      disabledCommands: ["STARTTLS"],
      allowInsecureAuth: true,
      onAuth: (_, __, done) => {
        asked++;
        done(null, { user: "anyone" });
      },
    });
    const outcome = await send(port, USER);
    expect(outcome).toMatchObject({ kind: "later", stage: "connecting" });
    expect(outcome.response).toContain("the line cannot be encrypted");
    expect([asked, received]).toEqual([0, []]);
  });
});

describe("signing in", () => {
  it("lets the message through with the right password, beyond ASCII too, over the encrypted line only", async () => {
    const { port, received } = await server({ ...withPapers(), authOptional: false });
    expect(await send(port, { ...USER, authority: papers.authority })).toMatchObject({ kind: "sent" });
    expect(received).toEqual([expect.objectContaining({ isSecure: true, user: "office" })]);
  });

  it("tells a wrong password in the server's words, and the message waits", async () => {
    const { port, received } = await server({ ...withPapers(), authOptional: false });
    const outcome = await send(port, { user: "office", password: "wrong", authority: papers.authority });
    expect(outcome).toMatchObject({ kind: "later", stage: "connecting" });
    expect(outcome.response).toContain("not with this password");
    expect(outcome.response).not.toContain("wrong");
    expect(received).toEqual([]);
  });
});

describe("a signature (RFC 6376)", () => {
  const { privateKey, publicKey } = generateKeyPairSync("rsa", { modulusLength: 2048 });
  const key = {
    domain: "lifts.example",
    selector: "s2026",
    privateKey: privateKey.export({ type: "pkcs8", format: "pem" }).toString(),
  };
  const record = `v=DKIM1; k=rsa; p=${publicKey.export({ type: "spki", format: "der" }).toString("base64")}`;

  /** What another program says of a message's signature, which looks the key up in a record we give it. */
  function isVerified(raw: Buffer): { verified: boolean; asked: string } {
    const file = join(folder, "signed.eml");
    writeFileSync(file, raw);
    const program = `import dkim, json, sys
asked = []
def record(name, timeout=5):
    asked.append(name.decode())
    return sys.argv[2].encode()
print(json.dumps({"verified": dkim.verify(open(sys.argv[1], "rb").read(), dnsfunc=record), "asked": asked[0] if asked else ""}))`;
    return JSON.parse(execFileSync("/usr/bin/python3", ["-c", program, file, record], { encoding: "utf8" }));
  }

  it("holds for the whole message as it arrives, and not when a byte is changed", async () => {
    const { port, received } = await server(withPapers());
    const plain = await mail();
    const raw = Buffer.concat([await signatureOf(plain.raw, key), plain.raw]);
    const sender = smtpSender(
      { host: "127.0.0.1", port, security: "starttls", authority: papers.authority },
      1,
      60_000,
    );
    closing.push(() => sender.close());
    expect(await sender.send({ ...plain, raw })).toMatchObject({ kind: "sent" });
    const arrived = Buffer.from(received[0].raw, "latin1");
    expect(isVerified(arrived)).toEqual({ verified: true, asked: "s2026._domainkey.lifts.example." });
    const body = arrived.indexOf("Hello");
    const changed = Buffer.from(arrived);
    changed[body] ^= 1;
    expect(isVerified(changed).verified).toBe(false);
    const renamed = Buffer.from(arrived.toString("latin1").replace(/^To: .*$/m, "To: other@dock.example"), "latin1");
    expect(isVerified(renamed).verified).toBe(false);
    expect(arrived.toString("latin1")).toMatch(/h=[^;]*\bfrom\b[^;]*/i);
  });
});
