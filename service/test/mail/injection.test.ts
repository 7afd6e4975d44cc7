import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Finding } from "@corbix/core/common";
import { frameMail, oneLine } from "@corbix/core/message";
import { safeFolder, safeName } from "@corbix/core/naming";
import { readRecipients } from "@corbix/core/recipients";
import { simpleParser } from "mailparser";
import { describe, expect, it } from "vitest";
import { forAllSlow } from "../../../core/test/support/for-all.js";
import { downloadHtml } from "../../dist/http/download-pages.js";
import { encloseFiles } from "../../dist/run/attachments.js";

/** What somebody might write into a cell to reach further than its field. */
const NASTY = [
  "\r\nBcc: evil@x.example",
  "\nX-Evil: 1",
  "\r\n\r\n<script>alert(1)</script>",
  '"><script>alert(1)</script>',
  "<evil@x.example>",
  ", evil@x.example",
  "; evil@x.example",
  '" <evil@x.example>, "',
  "\u2028Bcc: evil@x.example",
  "=?utf-8?Q?=0D=0ABcc:_evil@x.example?=",
  "../../etc/passwd",
  "..\\..\\windows",
  "\0evil",
  "(comment) evil@x.example",
  "\u202egnp.exe",
  "%0d%0aBcc: evil@x.example",
];

describe("a message", () => {
  it("keeps to its headers and its receivers, whatever stands in subject, names and file names", async () => {
    await forAllSlow(120, async (random) => {
      const pick = (): string => NASTY[random(NASTY.length)];
      const subject = `Statement ${pick()}${pick()}`;
      const filename = `file ${pick()}.pdf`;
      const { frame } = await frameMail({
        from: "Office <office@lifts.example>",
        to: [{ address: "ann@dock.example", name: `Ann ${pick()}` }],
        cc: [{ address: "ben@dock.example", name: pick() }],
        replyTo: "help@lifts.example",
        subject: oneLine(subject),
        html: "<p>Hello</p>",
        text: "Hello",
        messageId: "<1@lifts.example>",
        date: new Date("2026-11-02T09:00:00Z"),
        importance: "normal",
        headers: {},
        attachments: [{ filename, contentType: "application/pdf", sha256: "x" }],
      });
      const mail = await simpleParser(frame);
      const names = mail.headerLines.map((line) => line.key);
      expect(names.filter((name) => ["bcc", "x-evil"].includes(name))).toEqual([]);
      expect(["from", "to", "cc", "subject"].map((name) => names.filter((one) => one === name).length)).toEqual([
        1, 1, 1, 1,
      ]);
      const addresses = [mail.to, mail.cc]
        .flatMap((one) => (one ? (Array.isArray(one) ? one : [one]) : []))
        .flatMap((one) => one.value.map((value) => value.address));
      expect(addresses).toEqual(["ann@dock.example", "ben@dock.example"]);
      expect(mail.attachments).toHaveLength(1);
      expect(mail.text?.trim()).toBe("Hello");
      expect(frame.toString("latin1").split("\r\n\r\n")[0]).not.toMatch(/^(?:Bcc|X-Evil)/im);
    });
  });

  it("goes to no address that a name or another cell brings in", () => {
    for (const nasty of NASTY) {
      const table = {
        columns: [
          { name: "Group", type: "text" as const, values: [`Dock ${nasty}`] },
          { name: "Name", type: "text" as const, values: [`Ann ${nasty}`] },
          { name: "Addresses", type: "text" as const, values: ["ann@dock.example"] },
          { name: "Floor", type: "text" as const, values: [nasty] },
        ],
        rowCount: 1,
        rowNumbers: [2],
      };
      const { recipients } = readRecipients(table, "list");
      for (const one of recipients)
        expect([...one.to, ...one.copies, ...one.blindCopies].map(({ address }) => address)).toEqual([
          "ann@dock.example",
        ]);
    }
  });
});

describe("files", () => {
  it("keep to their folder, whatever stands in their names", () => {
    for (const nasty of NASTY) {
      expect(safeName(`Dock ${nasty}`)).not.toMatch(/[/\\\0\r\n]|^\.+$/);
      expect(join("/out", safeFolder(nasty), safeName(nasty)).startsWith("/out/")).toBe(true);
    }
  });

  it("are found below the folder of attachments only, one each, whole and unchanged", async () => {
    const root = mkdtempSync(join(tmpdir(), "corbix-attach-"));
    const folder = join(root, "attachments");
    mkdirSync(join(folder, "2026-10"), { recursive: true });
    writeFileSync(join(root, "secret.pdf"), "secret");
    writeFileSync(join(folder, "2026-10", "Dock plan.pdf"), "plan");
    writeFileSync(join(folder, "2026-10", "Mill a.pdf"), "a");
    writeFileSync(join(folder, "2026-10", "Mill b.pdf"), "b");
    writeFileSync(join(folder, "2026-10", "Quay.pdf"), "");
    const stored: string[] = [];
    const context = {
      settings: { data: root, attachFolder: "attachments" },
      store: {
        put: async (bytes: Uint8Array) => {
          stored.push(Buffer.from(bytes).toString());
          return "digest";
        },
      },
    } as unknown as Parameters<typeof encloseFiles>[0];
    const find = async (name: string) => {
      const parcel = {
        number: 1,
        enclosed: [{ kind: "found" as const, name, pattern: name, needed: true, forAll: false }],
        group: { key: "dock", label: "Dock" },
      };
      const { files, findings } = await encloseFiles(
        context,
        { id: "run", templates: {} },
        [parcel as never],
        ["Dock"],
      );
      return [files.get(1)?.map((one) => one.origin), findings.map((one: Finding) => [one.code, one.severity])];
    };
    expect(await find("2026-10/dock *.PDF")).toEqual([["2026-10/Dock plan.pdf"], []]);
    expect(await find("2026-10/Mill*")).toEqual([[], [["attachment-found-twice", "stop"]]]);
    expect(await find("2026-10/Quay.pdf")).toEqual([[], [["attachment-empty", "stop"]]]);
    for (const name of [
      "../secret.pdf",
      "2026-10/../../secret.pdf",
      `${root}/secret.pdf`,
      "..\\secret.pdf",
      "2026-10/\0.pdf",
      "nothing*",
    ])
      expect(await find(name)).toEqual([[], [["attachment-not-found", "stop"]]]);
    expect(stored).toEqual(["plan"]);
    rmSync(root, { recursive: true });
  });

  it("have a page that shows their names and runs nothing of them", () => {
    const html = downloadHtml("token", {
      message: "1",
      until: "2026-12-01",
      label: '<img src=x onerror="alert(1)">',
      files: [{ id: "1", path: '2026/"><script>alert(1).pdf', size: 10 }] as never,
    });
    expect(html).not.toMatch(/<script|<img/);
    expect(html).toContain("&lt;script&gt;");
  });
});
