/** Messages composed of what a run has made, without a database. */
import { type CorbixError, sha256 } from "@corbix/core/common";
import { readZip } from "@corbix/core/ooxml";
import { simpleParser } from "mailparser";
import { describe, expect, it } from "vitest";
import { composeMail, type MessageFacts, rawOf } from "../../dist/outbox/compose.js";

const BYTES = new Map<string, Buffer>();
const keep = (text: string): string => {
  const bytes = Buffer.from(text);
  BYTES.set(sha256(bytes), bytes);
  return sha256(bytes);
};
const context = {
  store: {
    get: async (digest: string) => BYTES.get(digest),
    put: async (bytes: Uint8Array) => {
      BYTES.set(sha256(bytes), Buffer.from(bytes));
      return sha256(bytes);
    },
  },
  settings: { publicUrl: "https://reports.lifts.example", host: "127.0.0.1", port: 8080 },
  secrets: { sign: (text: string) => `signed-${text}` },
} as unknown as Parameters<typeof composeMail>[0];

const RUN = {
  id: "7",
  report: "visits",
  occasion: "2026-10",
  rehearsalTo: null,
  templates: { "logo.png": keep("PNG") },
};
const file = (path: string, text: string, more: object = {}) => ({
  path,
  kind: "pdf",
  sha256: keep(text),
  runId: "7",
  parcelId: "3",
  groupKey: "dock",
  rowsDigest: "rows",
  provenance: { group: "dock", run: "7", rowsDigest: "rows" },
  ...more,
});

interface Parts {
  readonly message?: object;
  readonly run?: object;
  readonly parcel?: object;
  readonly settings?: object;
  readonly identity?: object;
  readonly delivery?: object;
  readonly files?: readonly object[];
  readonly isRepeat?: boolean;
}
async function composed({ message, run, parcel, settings, identity, delivery, files, isRepeat = false }: Parts = {}) {
  const facts = {
    run: { ...RUN, ...run },
    report: { delivery: { headers: {}, files: "attach", linkDays: 14, ...delivery } },
    parcel: {
      id: "3",
      label: "Dock",
      groupKey: "dock",
      rowsDigest: "rows",
      attachments: ["Dock.pdf"],
      enclosed: [],
      ...parcel,
    },
    files: files ?? [file("Dock.pdf", "the report")],
    identity: {
      name: "office",
      settings: {
        from: "office@lifts.example",
        senders: [],
        domains: [],
        maxBytes: 1_000_000,
        tooLarge: "stop",
        ...settings,
      },
      dkim: undefined,
      ...identity,
    },
    isRepeat,
  } as unknown as MessageFacts;
  const made = await composeMail(
    context,
    {
      id: "11",
      runId: "7",
      parcelId: "3",
      groupKey: "dock",
      envelope: { to: [{ address: "ann@dock.example" }], cc: [], bcc: [] },
      subject: "Visits",
      html: "<html><body><p>Hello</p></body></html>",
      text: "Hello",
      messageId: "<11@lifts.example>",
      datedAt: "2026-11-02T08:00:00Z",
      language: "en-GB",
      ...message,
    } as unknown as Parameters<typeof composeMail>[1],
    facts,
  );
  const mail = await simpleParser(made.raw);
  return { made, mail, names: mail.attachments.map((one) => one.filename) };
}

describe("a composed message", () => {
  it("has its attachments, and is made again of what is kept of it, byte for byte", async () => {
    const { made, mail, names } = await composed();
    expect([mail.subject, names, mail.attachments[0].content.toString()]).toEqual([
      "Visits",
      ["Dock.pdf"],
      "the report",
    ]);
    expect(mail.date).toEqual(new Date("2026-11-02T08:00:00Z"));
    expect(await rawOf(context as Parameters<typeof rawOf>[0], made.frame)).toEqual(made.raw);
    expect(made.packed).toBeUndefined();
  });

  it("is signed where its identity signs, and kept with its signature", async () => {
    const { generateKeyPairSync } = await import("node:crypto");
    const { privateKey } = generateKeyPairSync("rsa", { modulusLength: 2048 });
    const dkim = {
      domain: "lifts.example",
      selector: "s1",
      privateKey: privateKey.export({ type: "pkcs8", format: "pem" }).toString(),
    };
    const { made } = await composed({ identity: { dkim } });
    expect(made.raw.toString()).toMatch(/^DKIM-Signature: /);
    expect(await rawOf(context as Parameters<typeof rawOf>[0], made.frame)).toEqual(made.raw);
  });

  it("shows pictures of its template, and stops where one is not there", async () => {
    const shown = (name: string) => `<body><img src="cid:${Buffer.from(name).toString("hex")}@corbix"></body>`;
    const { mail } = await composed({ message: { html: shown("logo.png") } });
    expect(mail.attachments.filter(({ cid }) => cid).map(({ content }) => content.toString())).toEqual(["PNG"]);
    await expect(composed({ message: { html: shown("gone.png") } })).rejects.toThrow(
      'Cannot show the picture "gone.png"',
    );
  });

  it("says that it is sent again, and in what language it is only where it has one", async () => {
    const { made, mail } = await composed({ isRepeat: true, message: { language: null, datedAt: null } });
    expect(mail.subject).toBe("Sent again: Visits");
    expect(made.raw.toString()).not.toMatch(/^Content-Language:/im);
    expect((await composed()).made.raw.toString()).toMatch(/^Content-Language: en-GB/im);
  });

  it.each([
    ["a page", "<html><body class='x'><p>Hello</p></body></html>", /^<html><body class='x'><p style/],
    ["a bare text", "<p>Hello</p>", /^<p style/],
  ])("of a rehearsal says so first in %s, and goes to nobody else", async (_, html, begins) => {
    const { mail } = await composed({ message: { html }, run: { rehearsalTo: "me@lifts.example" } });
    expect(mail.subject).toBe("Rehearsal: Visits");
    expect(mail.html).toMatch(begins);
    expect(mail.html).toContain("This would go to: ann@dock.example");
    expect(mail.to).toMatchObject({ text: "me@lifts.example" });
  });

  it.each([
    ["a page", "<html><body><p>Hello</p></body></html>", /<p><a href="[^"]+">[^<]*Dock\.pdf<\/a><\/p><\/body>/],
    ["a bare text", "<p>Hello</p>", /<p><a href="[^"]+">[^<]*Dock\.pdf<\/a><\/p>$/],
  ])("with links in place of its files has them at the end of %s", async (_, html, ends) => {
    const { mail, names } = await composed({ message: { html }, delivery: { files: "link" } });
    expect(names).toEqual([]);
    expect(String(mail.html).trim()).toMatch(ends);
    expect(mail.text).toContain("Your files (until 2026-11-16): Dock.pdf");
    expect(mail.text).toContain("https://reports.lifts.example/d/11.");
  });
});

describe("a message that is too large", () => {
  const large = { files: [file("Dock.pdf", "x".repeat(300_000))], settings: { maxBytes: 100_000 } };

  it("is stopped, packed, or gives links, as its identity says", async () => {
    await expect(composed(large)).rejects.toThrow(/Cannot send the message: it has \d+ bytes/);
    const zipped = await composed({ ...large, settings: { maxBytes: 100_000, tooLarge: "zip" } });
    expect(zipped.names).toEqual([expect.stringMatching(/\.zip$/)]);
    expect(readZip(zipped.mail.attachments[0].content, "zip").map(({ name }) => name)).toEqual(["Dock.pdf"]);
    expect(zipped.made.packed).toMatch(/^[0-9a-f]{64}$/);
    const linked = await composed({ ...large, settings: { maxBytes: 100_000, tooLarge: "link" } });
    expect([linked.names, String(linked.mail.text).includes("/d/11.")]).toEqual([[], true]);
  });

  it("is stopped where its text alone is", async () => {
    const settings = { maxBytes: 10_000, tooLarge: "link" };
    await expect(composed({ settings, message: { text: "x".repeat(20_000) } })).rejects.toThrow("sends at most 10000");
  });
});

describe("what must not go out", () => {
  const refused = (parts: Parts) =>
    composed(parts).then(
      () => "sent",
      (error: CorbixError) => error.code,
    );

  it.each<[string, Parts]>([
    ["of another run", { files: [file("Dock.pdf", "a", { runId: "8" })] }],
    ["of another parcel", { files: [file("Dock.pdf", "a", { parcelId: "4" })] }],
    ["of another group", { files: [file("Dock.pdf", "a", { groupKey: "quay" })] }],
    ["made of other rows", { files: [file("Dock.pdf", "a", { rowsDigest: "others" })] }],
    [
      "whose origin says another group",
      { files: [file("Dock.pdf", "a", { provenance: { group: "quay", run: "7", rowsDigest: "rows" } })] },
    ],
    [
      "whose origin says another run",
      { files: [file("Dock.pdf", "a", { provenance: { group: "dock", run: "8", rowsDigest: "rows" } })] },
    ],
    [
      "whose origin says other rows",
      { files: [file("Dock.pdf", "a", { provenance: { group: "dock", run: "7", rowsDigest: "x" } })] },
    ],
    ["for a message of another run", { message: { runId: "8" } }],
    ["for a message of another parcel", { message: { parcelId: "4" } }],
    ["for a message of another group", { message: { groupKey: "quay" } }],
    [
      "found for another group",
      { parcel: { attachments: [], enclosed: [{ name: "a.pdf", sha256: keep("a"), run: "7", group: "quay" }] } },
    ],
    [
      "found for another run",
      { parcel: { attachments: [], enclosed: [{ name: "a.pdf", sha256: keep("a"), run: "8", group: "dock" }] } },
    ],
  ])("is a file %s", async (_, parts) => {
    expect(await refused(parts)).toBe("PROVENANCE_MISMATCH");
  });

  it("is a file that was not made, or is empty", async () => {
    expect(await refused({ files: [] })).toBe("FILE_MISSING");
    expect(await refused({ files: [file("Dock.pdf", "")] })).toBe("FILE_MISSING");
  });

  it("is a message to a domain, or from a sender, that the identity does not allow", async () => {
    expect(await refused({ settings: { domains: ["quay.example"] } })).toBe("NOT_ALLOWED");
    expect(await refused({ delivery: { sender: "chief@elsewhere.example" } })).toBe("NOT_ALLOWED");
    const hidden = { envelope: { to: [{ address: "a@dock.example" }], cc: [], bcc: [{ address: "b@else.example" }] } };
    expect(await refused({ settings: { domains: ["dock.example"] }, message: hidden })).toBe("NOT_ALLOWED");
  });

  it("may name a file of its own that was found for its group", async () => {
    const enclosed = [{ name: "plan.pdf", sha256: keep("plan"), run: "7", group: "dock" }];
    expect((await composed({ parcel: { enclosed } })).names).toEqual(["Dock.pdf", "plan.pdf"]);
  });
});
