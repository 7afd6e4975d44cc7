import { randomBytes } from "node:crypto";
import { once } from "node:events";
import { createServer, type Server, type Socket } from "node:net";
import { fillFrame, frameMail, type MailParts } from "@corbix/core/message";
import { SMTPServer, type SMTPServerOptions } from "smtp-server";
import { afterEach, describe, expect, it } from "vitest";
import { type MailServer, type OutgoingMail, smtpSender } from "../../dist/mail/smtp.js";

const closing: (() => unknown)[] = [];
afterEach(async () => {
  while (closing.length > 0) await closing.pop()?.();
});

const parts: MailParts = {
  from: "Office <office@lifts.example>",
  to: [{ address: "ann@dock.example", name: "Ann" }],
  cc: [],
  replyTo: "help@lifts.example",
  subject: "Zürich – October",
  html: "<p>Hello</p>",
  text: "Hello",
  messageId: "<1@lifts.example>",
  date: new Date("2026-11-02T09:00:00Z"),
  language: "de",
  importance: "high",
  headers: { "X-Corbix-Run": "abc" },
  attachments: [
    { filename: "Größe – Zürich.pdf", contentType: "application/pdf", sha256: "one" },
    { filename: "empty.pdf", contentType: "application/pdf", sha256: "two" },
  ],
};
const files = new Map([
  ["one", randomBytes(50_001)],
  ["two", Buffer.from("%PDF-1.7")],
]);
const raw = async (): Promise<Buffer> => fillFrame(await frameMail(parts), (digest) => files.get(digest) as Buffer);
const mail = async (): Promise<OutgoingMail> => ({
  from: "office@lifts.example",
  to: ["ann@dock.example", "hidden@dock.example"],
  raw: await raw(),
  begin: async () => true,
  isOurs: () => true,
});

function senderTo(port: number, more: Partial<MailServer> = {}) {
  const sender = smtpSender({ host: "127.0.0.1", port, security: "none", ...more }, 2, 10_000);
  closing.push(() => sender.close());
  return sender;
}

async function smtp(options: SMTPServerOptions): Promise<number> {
  const server = new SMTPServer({ authOptional: true, disabledCommands: ["AUTH", "STARTTLS"], ...options });
  server.on("error", () => {});
  const listening = server.listen(0, "127.0.0.1");
  await once(listening, "listening");
  closing.push(() => new Promise<void>((resolve) => server.close(() => resolve())));
  const address = listening.address();
  return typeof address === "object" && address ? address.port : 0;
}

/** A server that speaks SMTP by hand, so that it can break off anywhere. */
async function scripted(onLine: (line: string, socket: Socket, inData: boolean) => void): Promise<number> {
  const server: Server = createServer((socket) => {
    socket.on("error", () => {});
    let inData = false;
    socket.write("220 test\r\n");
    socket.on("data", (chunk) => {
      for (const line of chunk.toString("latin1").split("\r\n").filter(Boolean)) {
        onLine(line, socket, inData);
        if (/^DATA/i.test(line)) inData = true;
      }
    });
  }).listen(0, "127.0.0.1");
  await once(server, "listening");
  closing.push(() => server.close());
  return (server.address() as { port: number }).port;
}

const reply = (code: number, text: string) => (_: unknown, __: unknown, done: (error?: Error) => void) =>
  done(Object.assign(new Error(text), { responseCode: code }));

describe("sending", () => {
  it("hands the server a whole message: names, copies hidden, importance, attachment names beyond ASCII", async () => {
    let got = "";
    let recipients: string[] = [];
    const port = await smtp({
      onData: (stream, session, done) => {
        recipients = session.envelope.rcptTo.map((one) => one.address);
        stream.on("data", (chunk: Buffer) => {
          got += chunk.toString("latin1");
        });
        stream.on("end", () => done(null, "taken"));
      },
    });
    expect(await senderTo(port).send(await mail())).toMatchObject({
      kind: "sent",
      response: expect.stringContaining("taken"),
      taken: ["ann@dock.example", "hidden@dock.example"],
    });
    expect(recipients).toEqual(["ann@dock.example", "hidden@dock.example"]);
    const { simpleParser } = await import("mailparser");
    const parsed = await simpleParser(Buffer.from(got, "latin1"));
    expect(parsed.subject).toBe("Zürich – October");
    expect(parsed.attachments[0].filename).toBe("Größe – Zürich.pdf");
    expect(parsed.messageId).toBe("<1@lifts.example>");
    expect(parsed.attachments.map((one) => one.content)).toEqual([...files.values()]);
    expect(parsed.date).toEqual(parts.date);
    expect(got).toMatch(/^Importance: High/im);
    expect(got).toMatch(/^Content-Language: de/im);
    expect(got.split("\r\n\r\n")[0]).not.toContain("hidden@dock.example");
    expect(got).toContain("X-Corbix-Run: abc");
    // Lines no longer than RFC 5322 allows, and the same parts give the same bytes.
    expect(Math.max(...got.split("\r\n").map((line) => line.length))).toBeLessThanOrEqual(998);
    expect(await raw()).toEqual(await raw());
  });

  it.each([
    ["a full mailbox for now", 452, "later"],
    ["an unknown mailbox", 550, "refused"],
  ] as const)("tells %s from the other", async (_, code, kind) => {
    const port = await smtp({ onRcptTo: reply(code, "not here") as NonNullable<SMTPServerOptions["onRcptTo"]> });
    expect(await senderTo(port).send(await mail())).toMatchObject({
      kind,
      response: expect.stringContaining("not here"),
    });
  });

  it("says whom the server refused when it took the rest", async () => {
    const port = await smtp({
      onRcptTo: (address, _, done) =>
        done(address.address.startsWith("hidden") ? Object.assign(new Error("no"), { responseCode: 550 }) : null),
      onData: (stream, _, done) => {
        stream.resume();
        stream.on("end", () => done(null, "ok"));
      },
    });
    expect(await senderTo(port).send(await mail())).toMatchObject({
      kind: "sent",
      taken: ["ann@dock.example"],
      refused: [{ address: "hidden@dock.example", response: expect.stringContaining("550") }],
    });
  });

  it("knows that nothing went out where nobody answers", async () => {
    expect((await senderTo(1).send(await mail())).kind).toBe("later");
  });

  it("is unsure when the line breaks after the data: nobody can know", async () => {
    const port = await scripted((line, socket, inData) => {
      if (inData) {
        if (line === ".") socket.destroy();
      } else if (/^DATA/i.test(line)) socket.write("354 go\r\n");
      else socket.write("250 ok\r\n");
    });
    expect((await senderTo(port).send(await mail())).kind).toBe("unsure");
  });

  it("knows that nothing went out when the line breaks before the data", async () => {
    const port = await scripted((line, socket) => {
      if (/^RCPT/i.test(line)) socket.destroy();
      else socket.write("250 ok\r\n");
    });
    expect((await senderTo(port).send(await mail())).kind).toBe("later");
  });

  it("takes a clear answer after the data for what it is", async () => {
    for (const [code, kind] of [
      ["451 busy", "later"],
      ["554 no", "refused"],
    ] as const) {
      const port = await scripted((line, socket, inData) => {
        if (inData) {
          if (line === ".") socket.write(`${code}\r\n`);
        } else socket.write(/^DATA/i.test(line) ? "354 go\r\n" : "250 ok\r\n");
      });
      expect((await senderTo(port).send(await mail())).kind).toBe(kind);
    }
  });

  it("breaks off before the end of the data where the process was taken for dead, at whichever piece, and delivers nothing", async () => {
    for (const asked of [0, 1, 2]) {
      const got: string[] = [];
      const port = await smtp({
        onData: (stream, _session, done) => {
          stream.on("data", () => {});
          stream.on("end", () => {
            got.push("a message");
            done();
          });
        },
      });
      let count = 0;
      const outcome = await senderTo(port).send({ ...(await mail()), isOurs: () => count++ < asked });
      expect([asked, outcome.kind, outcome.stage]).toEqual([asked, "later", "data"]);
      await new Promise((resolve) => setTimeout(resolve, 200));
      expect(got).toEqual([]);
    }
  });
});
