import { once } from "node:events";
import { createServer, type Server, type Socket } from "node:net";
import { SMTPServer, type SMTPServerOptions } from "smtp-server";
import { afterEach, describe, expect, it } from "vitest";
import { type OutgoingMail, smtpMailer } from "../dist/mail/mailer.js";
import { readSettings } from "../dist/settings.js";

const closing: (() => unknown)[] = [];
afterEach(async () => {
  while (closing.length > 0) await closing.pop()?.();
});

const mail: OutgoingMail = {
  from: "Office <office@lifts.example>",
  to: [{ address: "ann@dock.example", name: "Ann" }],
  cc: [],
  bcc: [{ address: "hidden@dock.example" }],
  replyTo: "help@lifts.example",
  subject: "Zürich – October",
  html: "<p>Hello</p>",
  text: "Hello",
  messageId: "<1@lifts.example>",
  importance: "high",
  headers: { "X-Corbix-Run": "abc" },
  attachments: [{ filename: "Größe – Zürich.pdf", content: Buffer.from("%PDF-1.7"), contentType: "application/pdf" }],
};

function mailerTo(port: number) {
  const mailer = smtpMailer(readSettings({ CORBIX_MAIL_URL: `smtp://127.0.0.1:${port}` }, "/nowhere"));
  closing.push(() => mailer.close());
  return mailer;
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
    let raw = "";
    let recipients: string[] = [];
    const port = await smtp({
      onData: (stream, session, done) => {
        recipients = session.envelope.rcptTo.map((one) => one.address);
        stream.on("data", (chunk: Buffer) => {
          raw += chunk.toString("latin1");
        });
        stream.on("end", () => done(null, "taken"));
      },
    });
    expect(await mailerTo(port).send(mail)).toMatchObject({
      kind: "sent",
      response: expect.stringContaining("taken"),
      rejected: [],
    });
    expect(recipients).toEqual(["ann@dock.example", "hidden@dock.example"]);
    const { simpleParser } = await import("mailparser");
    const parsed = await simpleParser(Buffer.from(raw, "latin1"));
    expect(parsed.subject).toBe("Zürich – October");
    expect(parsed.attachments[0].filename).toBe("Größe – Zürich.pdf");
    expect(parsed.messageId).toBe("<1@lifts.example>");
    expect(raw).toMatch(/^Importance: High/im);
    expect(raw.split("\r\n\r\n")[0]).not.toContain("hidden@dock.example");
    expect(raw).toContain("X-Corbix-Run: abc");
  });

  it.each([
    ["a full mailbox for now", 452, "later"],
    ["an unknown mailbox", 550, "refused"],
  ] as const)("tells %s from the other", async (_, code, kind) => {
    const port = await smtp({ onRcptTo: reply(code, "not here") as SMTPServerOptions["onRcptTo"] });
    expect(await mailerTo(port).send(mail)).toMatchObject({ kind, response: expect.stringContaining("not here") });
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
    expect(await mailerTo(port).send(mail)).toMatchObject({ kind: "sent", rejected: ["hidden@dock.example"] });
  });

  it("knows that nothing went out where nobody answers", async () => {
    expect((await mailerTo(1).send(mail)).kind).toBe("later");
  });

  it("is unsure when the line breaks after the data: nobody can know", async () => {
    const port = await scripted((line, socket, inData) => {
      if (inData) {
        if (line === ".") socket.destroy();
      } else if (/^DATA/i.test(line)) socket.write("354 go\r\n");
      else socket.write("250 ok\r\n");
    });
    expect((await mailerTo(port).send(mail)).kind).toBe("unsure");
  });

  it("knows that nothing went out when the line breaks before the data", async () => {
    const port = await scripted((line, socket) => {
      if (/^RCPT/i.test(line)) socket.destroy();
      else socket.write("250 ok\r\n");
    });
    expect((await mailerTo(port).send(mail)).kind).toBe("later");
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
      expect((await mailerTo(port).send(mail)).kind).toBe(kind);
    }
  });
});
