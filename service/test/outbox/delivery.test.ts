import { openDocument, periodsOf } from "@corbix/core/document";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { Deck, titleOf } from "@corbix/core/slides";
import { afterEach, beforeEach, describe, expect, inject, it } from "vitest";
import { handDeck, title } from "../../../core/test/support/hand-deck.js";
import { type TestService, testService } from "../../../test/setup/service.js";
import { doOne, doSteps, openSteps, toldSender } from "../../../test/setup/steps.js";
import type { Outcome } from "../../dist/mail/smtp.js";
import { sendUntil, sendWaiting } from "../../dist/outbox/outbox.js";
import { releaseRun } from "../../dist/run/release.js";
import { startRun } from "../../dist/run/start-run.js";
import { sweep } from "../../dist/run/sweep.js";

let service: TestService;
beforeEach(async () => {
  // No workers: the steps are driven by hand, with a mail server that does as it is told.
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
});
afterEach(() => service?.close());

const plan = async (
  period: string,
  groups: readonly string[],
  {
    report = "site-statement",
    again,
    release = true,
  }: { readonly report?: string; readonly again?: string; readonly release?: boolean } = {},
): Promise<string> => {
  const { id } = await startRun(
    service.context,
    { report, period, groups, ...(again === undefined ? {} : { again }) },
    "test",
  );
  await doSteps(service.context, id);
  if (release) await releaseRun(service.context, id, "test");
  return id;
};

const messages = (run: string) =>
  service.context.database.select<{ id: string; state: string; attempts: number; response: string }>(
    "SELECT id, state, attempts, response FROM messages WHERE run_id = $1 ORDER BY id",
    [run],
  );

const told = toldSender;
const ok: Partial<Outcome> = { kind: "sent", response: "250 ok" };

/** The service some hours later. */
const hoursLater = (hours: number) => ({
  ...service.context,
  now: () => new Date(Date.now() + hours * 3_600_000),
});

describe("once, and only once", () => {
  /** A database whose first word on a beginning is lost with its connection; what then happens is told. */
  const forgetful = (
    on: {
      readonly firstBegin?: (begin: () => Promise<unknown>) => Promise<void>;
      readonly settled?: () => Promise<void>;
      readonly beforeSettle?: Promise<void>;
      readonly answered?: (name: string, count: number) => void;
    } = {},
  ) => {
    let [begins, settles] = [0, 0];
    const { database } = service.context;
    const prepared: typeof database.prepared = async (name, sql, bind) => {
      if (name === "begin messages" && begins++ === 0) {
        await on.firstBegin?.(() => database.prepared(name, sql, bind));
        throw new Error("Connection terminated unexpectedly");
      }
      const isFirst = name === "settle messages" && settles++ === 0;
      if (isFirst) await on.beforeSettle;
      const rows = await database.prepared<never>(name, sql, bind);
      if (isFirst) await on.settled?.();
      if (begins > 0) on.answered?.(name, rows.length);
      return rows;
    };
    return { ...service.context, database: { ...database, prepared } };
  };

  it("does not take its own message up anew before it is written down what became of it", async () => {
    const run = await plan("2026-03", ["Canal Wharf"]);
    const { sent, open } = told([ok]);
    // What became of the first try is written down no earlier than a second one has begun, or nothing waits any more.
    let move = () => {};
    const beforeSettle = new Promise<void>((resolve) => {
      move = resolve;
    });
    const context = forgetful({
      beforeSettle,
      answered: (name, count) => {
        if (name === "begin messages" || (name === "waiting messages" && count === 0)) move();
      },
    });
    await sendWaiting(context, "office", open);
    await sendWaiting(hoursLater(1), "office", open);
    expect(sent).toHaveLength(1);
    expect((await messages(run))[0]).toMatchObject({ state: "sent", attempts: 1 });
  });

  it("knows that nothing went out where the database took a beginning and its answer was lost", async () => {
    const run = await plan("2026-03", ["Drapers Hall"]);
    const { sent, open } = told([ok]);
    await sendWaiting(
      forgetful({
        firstBegin: async (begin) => {
          await begin();
        },
      }),
      "office",
      open,
    );
    expect(sent).toHaveLength(0);
    expect((await messages(run))[0]).toMatchObject({ state: "queued", attempts: 1 });
    await sendWaiting(hoursLater(1), "office", open);
    expect(sent).toHaveLength(1);
    expect((await messages(run))[0]).toMatchObject({ state: "sent", attempts: 2 });
  });

  it("finds a beginning of its own that the database wrote down after its connection broke", async () => {
    const run = await plan("2026-03", ["Fennel House"]);
    const { sent, open } = told([ok]);
    let late: () => Promise<unknown> = async () => {};
    const context = forgetful({
      firstBegin: async (begin) => {
        late = begin;
      },
      settled: async () => {
        await late();
        await service.context.database.execute(
          "UPDATE messages SET touched_at = now() - interval '1 minute' WHERE run_id = $1",
          [run],
        );
      },
    });
    await sendWaiting(context, "office", open);
    expect((await messages(run))[0]).toMatchObject({ state: "sending", attempts: 1 });
    expect(sent).toHaveLength(0);
    await sendWaiting(service.context, "office", open);
    await sendWaiting(hoursLater(1), "office", open);
    expect(sent).toHaveLength(1);
    expect((await messages(run))[0]).toMatchObject({ state: "sent", attempts: 2 });
  });

  it("tries a temporary refusal again with the same Message-ID and bytes, and gives up in the server's words", async () => {
    const run = await plan("2026-03", ["Alder Court"]);
    const { sent, open } = told([{ kind: "later", response: "451 busy", taken: [] }]);
    await sendWaiting(service.context, "office", open);
    expect((await messages(run))[0]).toMatchObject({ state: "queued", attempts: 1, response: "451 busy" });
    // Not before its pause is over.
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(1);
    await sendWaiting(hoursLater(1), "office", open);
    await sendWaiting(hoursLater(25), "office", open);
    expect((await messages(run))[0]).toMatchObject({ state: "refused", attempts: 3, response: "451 busy" });
    expect(new Set(sent.map((one) => one.raw)).size).toBe(1);
    expect((await service.call<{ state: string }>("GET", `/api/v1/runs/${run}`)).body.state).toBe("done");
  });

  it("tries only the addresses again that were refused for now", async () => {
    const run = await plan("2026-03", ["Pavilion Shopping"], { again: "to see who gets it" });
    const { sent, open } = told([
      {
        kind: "sent",
        taken: ["grace.oyelaran@pavilion.example"],
        later: [{ address: "leases@pavilion.example", response: "452 mailbox full" }],
      },
      ok,
    ]);
    await sendWaiting(service.context, "office", open);
    expect((await messages(run))[0]).toMatchObject({
      state: "queued",
      response: "250 ok; not for leases@pavilion.example",
    });
    await sendWaiting(hoursLater(1), "office", open);
    expect(sent.map((one) => one.to)).toEqual([
      ["grace.oyelaran@pavilion.example", "leases@pavilion.example"],
      ["leases@pavilion.example"],
    ]);
    expect((await messages(run))[0]).toMatchObject({ state: "sent", response: "250 ok" });
  });

  it("sends each message once, however many processes send", async () => {
    const run = await plan("2026-04", ["Alder Court", "Harbour House", "Granary Tower"]);
    const { sent, open } = told([ok]);
    const other = (name: string) => ({ ...service.context, process: name });
    await Promise.all(["a", "b", "c", "d"].map((name) => sendWaiting(other(name), "office", open)));
    expect(sent).toHaveLength(3);
    expect(new Set(sent.map((one) => one.id)).size).toBe(3);
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(3);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "sent", "sent"]);
  });

  it("never sends again by itself what is unsure, and lets a person decide", async () => {
    const run = await plan("2026-05", ["Alder Court", "Harbour House"]);
    const [first, second] = (await messages(run)).map((message) => message.id);
    const unsure: Partial<Outcome> = { kind: "unsure", response: "connection lost", taken: [] };
    const { sent, open } = told([unsure, unsure, ok]);
    await sendWaiting(service.context, "office", open);
    await sendWaiting(hoursLater(5), "office", open);
    expect((await messages(run)).map((message) => message.state)).toEqual(["unsure", "unsure"]);
    expect(sent).toHaveLength(2);
    expect((await service.call("POST", `/api/v1/messages/${first}/decide`, { as: "arrived" })).body).toEqual({
      state: "sent",
    });
    expect((await service.call("POST", `/api/v1/messages/${second}/decide`, { as: "again" })).body).toEqual({
      state: "queued",
    });
    await sendWaiting(service.context, "office", open);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "sent"]);
    expect(sent).toHaveLength(3);
    expect((await service.call("POST", `/api/v1/messages/${first}/decide`, { as: "again" })).status).toBe(409);
  });

  it("takes what a dead process had on its way for unsure, and says what that means", async () => {
    const run = await plan("2026-06", ["Alder Court"]);
    const [{ id }] = await messages(run);
    await service.context.database.execute("INSERT INTO workers (id, ended_at) VALUES ('dead', now())");
    await service.context.database.execute("UPDATE messages SET state = 'sending', worker = 'dead' WHERE id = $1", [
      id,
    ]);
    await sweep(service.context);
    expect((await messages(run))[0]).toMatchObject({
      state: "unsure",
      response: expect.stringContaining("it may have gone out or not"),
    });
    const outbox = await service.list<{ id: string; state: string }>("/api/v1/outbox");
    expect(outbox[0].state).toMatch(/unsure|refused/);
  });

  it("skips what waits when a run is stopped, and keeps what went", async () => {
    const run = await plan("2026-02", ["Alder Court", "Harbour House"]);
    const ids = (await messages(run)).map((message) => message.id);
    const { open } = told([ok]);
    await service.context.database.execute(
      "UPDATE messages SET not_before = now() + interval '20 minutes' WHERE id = $1",
      [ids[1]],
    );
    await sendWaiting(service.context, "office", open);
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
    await sendWaiting(hoursLater(2), "office", open);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "skipped"]);
    expect((await service.call("POST", `/api/v1/runs/${run}/stop`, {})).status).toBe(409);
  });

  it("keeps the pace of the identity", async () => {
    await plan("2026-01", ["Alder Court", "Harbour House", "Granary Tower", "Drapers Hall"]);
    await service.call("PUT", "/api/v1/identities/office", {
      settings: { from: "Office <office@lifts.example>", perMinute: 300 },
    });
    const { sent, open } = told([ok]);
    const started = Date.now();
    const stop = new AbortController();
    const sending = sendUntil(service.context, stop.signal, open);
    while (sent.length < 4 && Date.now() - started < 120_000) await new Promise((resolve) => setTimeout(resolve, 10));
    const taken = Date.now() - started;
    stop.abort();
    await sending;
    // Four messages at five a second: the last may go after six tenths, less what was not used just before.
    expect(taken).toBeGreaterThanOrEqual(380);
    expect(sent).toHaveLength(4);
  });

  it("sends no more in an hour than the identity may, and nothing while it is paused", async () => {
    const run = await plan("2026-01", ["Alder Court", "Harbour House", "Granary Tower"], { again: "to count" });
    const { sent, open } = told([ok]);
    const [{ count }] = await service.context.database.select<{ count: number }>(
      "SELECT count(*)::int AS count FROM attempts WHERE started_at > now() - interval '1 hour'",
    );
    const settings = { from: "Office <office@lifts.example>", perMinute: 60_000, perHour: count + 2 };
    await service.call("PUT", "/api/v1/identities/office", { settings });
    await service.call("POST", "/api/v1/identities/office/pause", {});
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(0);
    await service.call("POST", "/api/v1/identities/office/resume", {});
    for (let again = 0; again < 4; again++) await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(2);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "sent", "queued"]);
    await service.call("PUT", "/api/v1/identities/office", { settings: { ...settings, perHour: 1_000_000 } });
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(3);
  });

  it("leaves a server alone that cannot be reached, and keeps its messages", async () => {
    const run = await plan("2026-08", ["Alder Court", "Harbour House"]);
    const down = told([{ kind: "later", stage: "connecting", response: "connect ECONNREFUSED", taken: [] }]);
    for (let again = 0; again < 5; again++) await sendWaiting(service.context, "office", down.open);
    expect(down.sent.length).toBeLessThanOrEqual(2);
    const [office] = await service.list<{ restWhy: string | null }>("/api/v1/identities");
    expect(office.restWhy).toContain("ECONNREFUSED");
    await service.call("POST", "/api/v1/identities/office/resume", {});
    await sendWaiting(service.context, "office", told([ok]).open);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "sent"]);
  });
});

describe("what is larger than the server takes", () => {
  const identity = (more: object) =>
    service.call("PUT", "/api/v1/identities/office", {
      settings: { from: "Office <office@lifts.example>", perMinute: 60_000, ...more },
    });
  const parsed = async (raw: string) => (await import("mailparser")).simpleParser(Buffer.from(raw, "latin1"));

  it("stops the release, goes as a zip file, or as links that end by themselves", async () => {
    await identity({ maxBytes: 20_000 });
    await expect(plan("2026-07", ["Alder Court"])).rejects.toThrow("sends at most 20 kB");
    await identity({ maxBytes: 150_000, tooLarge: "zip" });
    const zipped = told([ok]);
    await plan("2026-07", ["Alder Court"]);
    await sendWaiting(service.context, "office", zipped.open);
    const [attachment] = (await parsed(zipped.sent[0].raw)).attachments;
    expect(attachment.filename).toBe("Alder Court.zip");
    const { readZip } = await import("@corbix/core/ooxml");
    expect([...readZip(attachment.content, "z")].map((entry) => entry.name)).toHaveLength(3);
    await identity({ maxBytes: 20_000, tooLarge: "link" });
    const linked = told([ok]);
    await plan("2026-07", ["Alder Court"], { again: "as links" });
    await sendWaiting(service.context, "office", linked.open);
    const mail = await parsed(linked.sent[0].raw);
    expect(mail.attachments).toHaveLength(0);
    const path = /http:\/\/[^/]+(\/d\/\S+)/.exec(mail.text ?? "")?.[1] ?? "";
    const page = await (await fetch(service.url + path)).text();
    const links = [...page.matchAll(/href="(\/d\/[^"]+)">([^<]+)</g)];
    const files = links.filter((link) => link[2] !== "show it here");
    expect(files.map((file) => file[2])).toHaveLength(3);
    // PDFs are shown in the browser as well, and nothing else is.
    const shown = links.filter((link) => link[2] === "show it here");
    expect(shown.map((link) => link[1].replace("?show=true", ""))).toEqual(
      files.flatMap((file) => (file[2].endsWith(".pdf") ? [file[1]] : [])),
    );
    const inline = await fetch(service.url + shown[0][1]);
    expect(inline.headers.get("content-disposition")).toMatch(/^inline; filename/);
    const workbook = await fetch(`${service.url}${files[0][1]}?show=true`);
    expect(workbook.headers.get("content-disposition")).toMatch(/^attachment; filename/);
    const pdf = await fetch(service.url + files[1][1]);
    expect(pdf.headers.get("content-disposition")).toMatch(/^attachment; filename/);
    expect(
      Buffer.from(await pdf.arrayBuffer())
        .subarray(0, 4)
        .toString(),
    ).toBe("%PDF");
    // A changed address, another message's file, and a day too late lead nowhere.
    for (const wrong of [path.replace(/\.(\d+)\./, ".99999."), path.replace("/d/", "/d/1"), `${path}x`])
      expect((await fetch(service.url + wrong)).status).toBe(404);
    await plan("2026-06", ["Harbour House"], { release: false });
    const [{ id: foreign }] = await service.context.database.select<{ id: string }>(
      "SELECT id FROM files WHERE group_key <> 'alder court' LIMIT 1",
    );
    expect((await fetch(`${service.url}${path}/${foreign}`)).status).toBe(404);
    const { openLink } = await import("../../dist/outbox/links.js");
    await expect(openLink(hoursLater(24 * 40), path.slice(3))).rejects.toThrow("not any more");
    await identity({});
  });
});

describe("files that are not made", () => {
  it("go along: the same for everybody, or found by name; what is not there or was changed stops the run", async () => {
    const { mkdirSync, writeFileSync } = await import("node:fs");
    const folder = `${service.data}/attachments/2026-08`;
    mkdirSync(folder, { recursive: true });
    writeFileSync(`${folder}/Alder Court plan.pdf`, "%PDF-1.7 alder");
    await service.call("PUT", "/api/v1/templates/terms.pdf", Buffer.from("%PDF-1.7 terms"));
    const definition = [
      "report: plans",
      "title: Plans",
      "data: visits",
      "period: { column: visit_date, every: month }",
      "split: site",
      "message:",
      '  subject: "Plan of {{ site }}"',
      '  body: { markdown: "**Attached**" }',
      '  attach: [{ fixed: terms.pdf }, { found: "{{ period.key }}/{{ site }} plan*.pdf" }]',
    ].join("\n");
    expect((await service.call("PUT", "/api/v1/reports/plans", definition)).status).toBe(201);
    const { sent, open } = told([ok]);
    await plan("2026-08", ["Alder Court"], { report: "plans" });
    await sendWaiting(service.context, "office", open);
    const mail = await (await import("mailparser")).simpleParser(Buffer.from(sent[0].raw, "latin1"));
    expect(mail.attachments.map((one) => [one.filename, one.content.toString()])).toEqual([
      ["terms.pdf", "%PDF-1.7 terms"],
      ["Alder Court plan.pdf", "%PDF-1.7 alder"],
    ]);
    await expect(plan("2026-08", ["Harbour House"], { report: "plans" })).rejects.toThrow(
      'No file "2026-08/Harbour House plan*.pdf"',
    );
    // A file of another group, slipped into the record, stops the run.
    const run = await plan("2026-08", ["Alder Court"], { report: "plans", again: "to slip" });
    await service.context.database.execute(
      "UPDATE parcels SET enclosed = replace(enclosed::text, 'alder court', 'harbour house')::json WHERE run_id = $1",
      [run],
    );
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(1);
    expect(
      (await service.call<{ state: string; error: { code: string } }>("GET", `/api/v1/runs/${run}`)).body,
    ).toMatchObject({
      state: "stopped",
      error: { code: "PROVENANCE_MISMATCH" },
    });
    const { changedSince } = await import("../../dist/run/attachments.js");
    const [parcel] = await service.context.database.select<{ label: string; enclosed: never[] }>(
      "SELECT label, enclosed FROM parcels WHERE run_id = $1",
      [run],
    );
    expect(await changedSince(service.context, [parcel])).toEqual([]);
    writeFileSync(`${folder}/Alder Court plan.pdf`, "%PDF-1.7 other");
    expect((await changedSince(service.context, [parcel])).map((one) => one.code)).toEqual(["attachment-changed"]);
  });
});

/** A WebDAV folder on loopback that keeps what it gets. */
async function webFolder() {
  const { createServer } = await import("node:http");
  const files = new Map<string, Buffer>();
  const server = createServer((request, response) => {
    const path = decodeURIComponent(request.url ?? "");
    const chunks: Buffer[] = [];
    request.on("data", (chunk: Buffer) => chunks.push(chunk));
    request.on("end", () => {
      const isKnown = request.headers.authorization === `Basic ${Buffer.from("office:right").toString("base64")}`;
      const isThere = request.method === "PUT" && request.headers["if-none-match"] === "*" && files.has(path);
      if (isKnown && request.method === "PUT" && !isThere) files.set(path, Buffer.concat(chunks));
      response.writeHead(!isKnown ? 401 : isThere ? 412 : 201).end();
    });
  }).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  const { port } = server.address() as { port: number };
  return {
    url: `http://127.0.0.1:${port}`,
    files,
    close: () =>
      new Promise((resolve) => {
        server.closeAllConnections();
        server.close(resolve);
      }),
  };
}

describe("what is kept", () => {
  it("is deleted when its time is over, and no sooner; who got what stays", async () => {
    const source = (await service.call<{ source: string }>("GET", "/api/v1/reports/site-statement")).body.source;
    const definition = source
      .replace("report: site-statement", "report: kept")
      .replace(/schedule:[\s\S]*/, "retention: { files: 2, rows: 1 }\n");
    expect((await service.call("PUT", "/api/v1/reports/kept", definition)).status).toBe(201);
    const run = await plan("2026-09", ["Alder Court"], { report: "kept" });
    // The same bytes are another report's too: those stay.
    const [{ id: one, sha256: digest }] = await service.context.database.select<{ id: string; sha256: string }>(
      "SELECT id, sha256 FROM files WHERE run_id = $1 AND kind = 'xlsx'",
      [run],
    );
    await sendWaiting(service.context, "office", told([ok]).open);
    const { sweepRetention } = await import("../../dist/run/retention.js");
    const emptied = async () =>
      (await service.call<{ emptied: Record<string, string> }>("GET", `/api/v1/runs/${run}`)).body.emptied;
    await sweepRetention(hoursLater(24 * 20));
    expect(await emptied()).toEqual({});
    await sweepRetention(hoursLater(24 * 40));
    expect(Object.keys(await emptied())).toEqual(["rows"]);
    expect((await service.call<{ title: string }>("GET", `/api/v1/runs/${run}/parcels/1/rows`)).body.title).toContain(
      "deleted when their time was over",
    );
    expect(await service.context.store.has(digest)).toBe(true);
    await sweepRetention(hoursLater(24 * 70));
    expect(Object.keys(await emptied()).sort()).toEqual(["files", "rows"]);
    expect(await service.context.store.has(digest)).toBe(false);
    expect((await service.call<{ title: string }>("GET", `/api/v1/files/${one}`)).body.title).toContain(
      "deleted when its time was over",
    );
    const [sent] = await service.list<{ state: string; attachments: string[] }>("/api/v1/outbox?report=kept");
    expect(sent).toMatchObject({ state: "sent" });
    expect(sent.attachments).toHaveLength(3);
    // Templates that its files were made of are nobody's to delete.
    expect((await service.call("GET", "/api/v1/templates/statement.xlsx")).status).toBe(200);
  });
});

describe("letting a run go", () => {
  const held = async (period: string, again: string): Promise<string> => {
    const id = await plan(period, ["Alder Court", "Harbour House"], { again, release: false });
    return id;
  };

  it("takes groups out with a reason, waits while it is paused, and sends once more on purpose with a mark", async () => {
    const run = await held("2026-01", "to try it");
    expect(
      (
        await service.call("POST", `/api/v1/runs/${run}/skip`, {
          groups: ["harbour HOUSE"],
          reason: "their data is wrong",
        })
      ).status,
    ).toBe(200);
    await service.call("POST", `/api/v1/runs/${run}/release`, {});
    await service.call("POST", `/api/v1/runs/${run}/pause`, {});
    const { sent, open } = told([ok]);
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(0);
    await service.call("POST", `/api/v1/runs/${run}/resume`, {});
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(1);
    const all = await messages(run);
    expect(all.map((one) => [one.state, one.response])).toEqual([
      ["sent", "250 ok"],
      ["skipped", "left out by office: their data is wrong"],
    ]);
    expect((await service.call("POST", `/api/v1/messages/${all[0].id}/again`, { reason: "x" })).status).toBe(400);
    const { id } = (
      await service.call<{ id: string }>("POST", `/api/v1/messages/${all[0].id}/again`, { reason: "they lost it" })
    ).body;
    await sendWaiting(service.context, "office", open);
    expect(sent).toHaveLength(2);
    expect(sent[1].raw).toMatch(/^Subject: Sent again: /m);
    expect(sent[1].id).not.toBe(sent[0].id);
    // What was sent can be had again, byte for byte.
    const raw = await fetch(`${service.url}/api/v1/messages/${id}/raw`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    expect(Buffer.from(await raw.arrayBuffer()).toString("latin1")).toBe(sent[1].raw);
    const found = await service.list<{ id: string; againReason: string }>(
      "/api/v1/outbox?person=penhallow&group=alder&file=statement&period=2026-01&state=sent",
    );
    expect(found[0]).toMatchObject({ id, againReason: "they lost it" });
    for (const person of ["nobody-at-all", "address", "bcc"])
      expect(await service.list<unknown>(`/api/v1/outbox?person=${person}`)).toEqual([]);
  });

  it("releases at a time that was set, once", async () => {
    const run = await held("2026-02", "later");
    const at = new Date(Date.now() + 3_600_000).toISOString();
    expect(
      (await service.call<{ releaseAt: string }>("POST", `/api/v1/runs/${run}/release`, { at })).body.releaseAt,
    ).toBe(at);
    expect((await service.call("POST", `/api/v1/runs/${run}/release`, { at: "2020-01-01T00:00:00Z" })).status).toBe(
      400,
    );
    const { releaseDue } = await import("../../dist/run/release.js");
    await releaseDue(service.context);
    expect((await service.call<{ state: string }>("GET", `/api/v1/runs/${run}`)).body.state).toBe("held");
    await releaseDue(hoursLater(2));
    await releaseDue(hoursLater(2));
    expect(
      (await service.call<{ state: string; releasedBy: string }>("GET", `/api/v1/runs/${run}`)).body,
    ).toMatchObject({
      state: "delivering",
      releasedBy: "the time that was set",
    });
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
  });

  it("asks two people where the report says so", async () => {
    const source = (await service.call<{ source: string }>("GET", "/api/v1/reports/site-statement")).body.source;
    await service.call(
      "PUT",
      "/api/v1/reports/twice",
      source
        .replace("report: site-statement", "report: twice")
        .replace("hold: true", "hold: true\n  approvals: 2")
        .replace(/schedule:[\s\S]*/, ""),
    );
    const run = await plan("2026-03", ["Alder Court"], { report: "twice", release: false });
    const { releaseRun } = await import("../../dist/run/release.js");
    await releaseRun(service.context, run, "ann");
    expect((await service.call<{ state: string }>("GET", `/api/v1/runs/${run}`)).body.state).toBe("held");
    await expect(releaseRun(service.context, run, "ann")).rejects.toThrow("another person has to");
    await releaseRun(service.context, run, "ben");
    expect((await service.call<{ state: string }>("GET", `/api/v1/runs/${run}`)).body.state).toBe("delivering");
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
  });

  it("hands its files out as a zip and to a folder, and writes nothing over", async () => {
    const run = await held("2026-04", "as files");
    const { readZip } = await import("@corbix/core/ooxml");
    const zip = await fetch(`${service.url}/api/v1/runs/${run}/files.zip`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    const names = [...readZip(new Uint8Array(await zip.arrayBuffer()), "z")].map((entry) => entry.name.split("/")[0]);
    expect([...new Set(names)]).toEqual(["Alder Court", "Harbour House"]);
    const print = await fetch(`${service.url}/api/v1/runs/${run}/print.pdf?sheets=true`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    const { writeFileSync, readdirSync } = await import("node:fs");
    writeFileSync(`${service.data}/all.pdf`, Buffer.from(await print.arrayBuffer()));
    const { execFileSync } = await import("node:child_process");
    execFileSync("qpdf", ["--check", `${service.data}/all.pdf`]);
    const text = execFileSync("pdftotext", ["-layout", `${service.data}/all.pdf`, "-"], { encoding: "utf8" });
    const sheets = text.split("\f").slice(0, -1);
    expect(sheets.length % 2).toBe(0);
    // Each file begins on the front of a sheet, and the groups do not mix.
    const second = sheets.findIndex((sheet) => sheet.includes("Harbour House"));
    expect(second % 2).toBe(0);
    expect(sheets.slice(0, second).join()).not.toContain("Harbour House");
    expect(sheets.slice(second).join()).not.toContain("Alder Court");
    const web = await webFolder();
    const put = (more: object = {}) =>
      service.call<{ put: number; title: string }>("POST", `/api/v1/runs/${run}/web-folder`, {
        url: `${web.url}/april`,
        user: "office",
        password: "right",
        ...more,
      });
    expect((await put({ password: "wrong" })).body.title).toContain("it answered 401: the sign-in is not accepted");
    expect((await put()).body).toEqual({ put: 6 });
    expect([...web.files.keys()].filter((path) => path.startsWith("/april/Alder Court/"))).toHaveLength(3);
    expect((await put()).body.title).toContain("another file of that name is there");
    await web.close();
    expect((await put()).status).toBe(503);
    const write = (body: object) =>
      service.call<{ folder: string; written: number; same: number; title: string }>(
        "POST",
        `/api/v1/runs/${run}/folder`,
        body,
      );
    const first = (await write({ folder: "../../april", perGroup: true })).body;
    expect(first.folder.startsWith(`${service.data}/out/`)).toBe(true);
    expect([first.written, (await write({ folder: "../../april", perGroup: true })).body.same]).toEqual([6, 6]);
    const [name] = readdirSync(`${first.folder}/Alder Court`);
    writeFileSync(`${first.folder}/Alder Court/${name}`, "mine");
    expect((await write({ folder: "../../april", perGroup: true })).body.title).toContain(
      "another file of that name is there",
    );
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
  });
});

describe("making", () => {
  it("makes nothing twice when a job runs twice at the same time", async () => {
    const { id } = await startRun(
      service.context,
      { report: "site-statement", period: "2026-09", groups: ["Alder Court", "Harbour House"] },
      "test",
    );
    await doSteps(service.context, id, ["plan"]);
    await expect(doOne(service.context, id, "plan")).rejects.toThrow("not to be had");
    const steps = await openSteps(service.context, id);
    expect(steps).toEqual(["make 1"]);
    // The second takes it over while the first is at it: the first writes nothing more.
    const both = await Promise.allSettled([doOne(service.context, id, "make 1"), doOne(service.context, id, "make 1")]);
    expect(both.filter((one) => one.status === "fulfilled").length).toBeGreaterThanOrEqual(1);
    await doSteps(service.context, id, ["make"]);
    const [{ files, mails }] = await service.context.database.select<{ files: number; mails: number }>(
      "SELECT (SELECT count(*)::int FROM files WHERE run_id = $1) AS files, (SELECT count(*)::int FROM messages WHERE run_id = $1) AS mails",
      [id],
    );
    expect([files, mails]).toEqual([6, 2]);
  });

  it("stops the release where a stored file is gone", async () => {
    const { rmSync } = await import("node:fs");
    const { id } = await startRun(
      service.context,
      { report: "site-statement", period: "2026-08", groups: ["Alder Court"] },
      "test",
    );
    await doSteps(service.context, id, ["plan", "make"]);
    const [{ sha256 }] = await service.context.database.select<{ sha256: string }>(
      "SELECT sha256 FROM files WHERE run_id = $1 LIMIT 1",
      [id],
    );
    rmSync(`${service.data}/files/${sha256.slice(0, 2)}/${sha256}`);
    await expect(doOne(service.context, id, "prove")).rejects.toThrow("Cannot read the stored file");
    expect((await service.call<{ state: string }>("GET", `/api/v1/runs/${id}`)).body.state).not.toBe("held");
  });
});

describe("a document that grows", () => {
  it("goes on from what the group was delivered last, once for each period", async () => {
    const definition = [
      "report: journal",
      "title: Journal",
      "data: visits",
      "period: { column: visit_date, every: month }",
      "split: site",
      "files:",
      '  journal: { template: notice.docx, name: "{{ site }}", grows: true, pdf: too }',
      'message: { subject: "Journal", body: { text: "Attached." }, attach: [journal.pdf] }',
    ].join("\n");
    expect((await service.call("PUT", "/api/v1/reports/journal", definition)).status).toBe(201);
    const { context } = service;
    const run = async (period: string, send: boolean, again?: string) => {
      const id = await plan(period, ["Alder Court"], { report: "journal", ...(again === undefined ? {} : { again }) });
      if (send) await sendWaiting(context, "office", told([ok]).open);
      else await service.call("POST", `/api/v1/runs/${id}/stop`, {});
      const files = await context.database.select<{ sha256: string; kind: string; pages: number | null }>(
        "SELECT sha256, kind, pages FROM files WHERE run_id = $1 ORDER BY kind",
        [id],
      );
      const [document, pdf] = files;
      return {
        periods: periodsOf(openDocument(await context.store.get(document.sha256), "journal")),
        pages: pdf.pages,
      };
    };
    const march = await run("2026-03", true);
    expect(march.periods).toEqual(["2026-03"]);
    const april = await run("2026-04", true);
    expect(april.periods).toEqual(["2026-03", "2026-04"]);
    expect(april.pages).toBeGreaterThan(march.pages ?? 0);
    // What was made and not delivered is not gone on from: the next one makes up for it.
    expect((await run("2026-05", false)).periods).toEqual(["2026-03", "2026-04", "2026-05"]);
    const all = ["2026-03", "2026-04", "2026-05", "2026-06"];
    expect((await run("2026-06", true)).periods).toEqual(all);
    expect((await run("2026-06", true, "it was lost")).periods).toEqual(all);
  });

  it("is a slide deck as well, whose earlier slides stay as they were delivered", async () => {
    const { context } = service;
    const made = async (period: string, send: boolean) => {
      const id = await plan(period, ["Aldmoor"], { report: "office-months" });
      if (send) await sendWaiting(context, "office", told([ok]).open);
      else await service.call("POST", `/api/v1/runs/${id}/stop`, {});
      const [{ sha256 }] = await context.database.select<{ sha256: string }>(
        "SELECT sha256 FROM files WHERE run_id = $1 AND kind = 'pptx'",
        [id],
      );
      const opened = OoxmlPackage.open(await context.store.get(sha256), "deck");
      return new Map(
        new Deck(opened).slides.map(({ part }) => [titleOf(opened.getXml(part)), opened.getText(part)] as const),
      );
    };
    const months = (deck: ReadonlyMap<string, string>): string[] =>
      [...deck.keys()].filter((title) => / 2026$/.test(title));
    const march = await made("2026-03", true);
    expect(months(march)).toEqual(["March 2026"]);
    expect(months(await made("2026-04", false))).toEqual(["March 2026", "April 2026"]);
    const may = await made("2026-05", true);
    expect(months(may)).toEqual(["March 2026", "April 2026", "May 2026"]);
    expect(may.get("March 2026")).toBe(march.get("March 2026"));
  });

  it("begins anew where it was of another kind before: a deck goes on from no document", async () => {
    const define = async (template: string): Promise<void> => {
      const definition = [
        "report: kinds",
        "title: Kinds",
        "data: visits",
        "period: { column: visit_date, every: month }",
        "split: site",
        `files: { own: { template: ${template}, name: "{{ site }}", grows: true } }`,
        'message: { subject: "Kinds", body: { text: "Attached." }, attach: [own] }',
      ].join("\n");
      expect((await service.call("PUT", "/api/v1/reports/kinds", definition)).status).toBeLessThan(300);
    };
    const deck = handDeck({
      slides: [{ shapes: title("Cover") }, { shapes: title("{{ period.label }}"), isHidden: true }],
    });
    expect((await service.call("PUT", "/api/v1/templates/hand.pptx", Buffer.from(deck))).status).toBe(201);
    await define("notice.docx");
    await plan("2026-03", ["Alder Court"], { report: "kinds" });
    await sendWaiting(service.context, "office", told([ok]).open);
    await define("hand.pptx");
    const id = await plan("2026-04", ["Alder Court"], { report: "kinds" });
    const [{ sha256 }] = await service.context.database.select<{ sha256: string }>(
      "SELECT sha256 FROM files WHERE run_id = $1",
      [id],
    );
    const opened = OoxmlPackage.open(await service.context.store.get(sha256), "deck");
    const shown = new Deck(opened).slides.filter(({ isHidden }) => !isHidden);
    expect(shown.map(({ part }) => titleOf(opened.getXml(part)))).toEqual(["Cover", "April 2026"]);
  });
});
