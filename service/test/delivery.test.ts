import { openDocument, periodsOf } from "@corbix/core/document";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../test/setup/service.js";
import type { Mailer, Outcome } from "../dist/mail/mailer.js";
import { deliverStep } from "../dist/run/deliver-step.js";
import { releaseRun } from "../dist/run/release.js";
import { sweep } from "../dist/run/sweep.js";

let service: TestService;
beforeAll(async () => {
  // No workers: the steps are driven by hand, with a mail server that does as it is told.
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
});
afterAll(() => service?.close());

const plan = async (
  period: string,
  groups: readonly string[],
  { report = "site-statement", again }: { readonly report?: string; readonly again?: string } = {},
): Promise<string> => {
  const { startRun } = await import("../dist/run/start-run.js");
  const { planStep } = await import("../dist/run/plan-step.js");
  const { makeStep } = await import("../dist/run/make-step.js");
  const { proveStep } = await import("../dist/run/prove-step.js");
  const { id } = await startRun(
    service.context,
    { report, period, groups, ...(again === undefined ? {} : { again }) },
    "test",
  );
  await planStep(service.context, id);
  const parcels = await service.context.database.select<{ id: string }>("SELECT id FROM parcels WHERE run_id = $1", [
    id,
  ]);
  await makeStep(
    service.context,
    id,
    parcels.map((parcel) => parcel.id),
  );
  await proveStep(service.context, id);
  await releaseRun(service.context, id, "test");
  return id;
};

const messages = (run: string) =>
  service.context.database.select<{ id: string; state: string; attempts: number; response: string }>(
    "SELECT id, state, attempts, response FROM messages WHERE run_id = $1 ORDER BY id",
    [run],
  );

/** Sends with these outcomes, one after the other, and counts what was asked of it. */
function told(outcomes: readonly Outcome[]): Mailer & { sent: string[] } {
  const sent: string[] = [];
  return {
    sent,
    close: () => {},
    send: async (mail) => {
      sent.push(mail.messageId);
      return outcomes[Math.min(sent.length, outcomes.length) - 1];
    },
  };
}

const ok: Outcome = { kind: "sent", response: "250 ok", rejected: [] };

describe("once, and only once", () => {
  it("tries a temporary refusal again with the same Message-ID, and gives up in the server's words", async () => {
    const run = await plan("2026-03", ["Alder Court"]);
    const [{ id }] = await messages(run);
    const mailer = told([{ kind: "later", response: "451 busy" }]);
    const context = { ...service.context, mailer };
    for (let attempt = 0; attempt < 6; attempt++) await deliverStep(context, run, [id]);
    expect(await messages(run)).toEqual([{ id, state: "refused", attempts: 6, response: "451 busy" }]);
    expect(new Set(mailer.sent).size).toBe(1);
    expect((await service.call<{ state: string }>("GET", `/api/runs/${run}`)).body.state).toBe("done");
  });

  it("sends each message once, however many workers have the same job", async () => {
    const run = await plan("2026-04", ["Alder Court", "Harbour House", "Granary Tower"]);
    const ids = (await messages(run)).map((message) => message.id);
    const mailer = told([ok]);
    const context = { ...service.context, mailer };
    await Promise.all(Array.from({ length: 5 }, () => deliverStep(context, run, ids)));
    expect(mailer.sent).toHaveLength(3);
    expect(new Set(mailer.sent).size).toBe(3);
    await deliverStep(context, run, ids);
    expect(mailer.sent).toHaveLength(3);
  });

  it("never sends again by itself what is unsure, and lets a person decide", async () => {
    const run = await plan("2026-05", ["Alder Court", "Harbour House"]);
    const [first, second] = (await messages(run)).map((message) => message.id);
    const mailer = told([
      { kind: "unsure", response: "connection lost" },
      { kind: "unsure", response: "connection lost" },
      ok,
    ]);
    const context = { ...service.context, mailer };
    await deliverStep(context, run, [first, second]);
    await deliverStep(context, run, [first, second]);
    expect((await messages(run)).map((message) => message.state)).toEqual(["unsure", "unsure"]);
    expect(mailer.sent).toHaveLength(2);
    expect((await service.call("POST", `/api/messages/${first}/decide`, { as: "arrived" })).body).toEqual({
      state: "sent",
    });
    expect((await service.call("POST", `/api/messages/${second}/decide`, { as: "again" })).body).toEqual({
      state: "queued",
    });
    await deliverStep(context, run, [first, second]);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "sent"]);
    expect(mailer.sent).toHaveLength(3);
    expect((await service.call("POST", `/api/messages/${first}/decide`, { as: "again" })).status).toBe(409);
  });

  it("takes what a dead worker had on its way for unsure", async () => {
    const run = await plan("2026-06", ["Alder Court"]);
    const [{ id }] = await messages(run);
    await service.context.database.execute(
      "INSERT INTO workers (id, seen_at) VALUES ('dead', now() - interval '1 hour')",
    );
    await service.context.database.execute("UPDATE messages SET state = 'sending', worker = 'dead' WHERE id = $1", [
      id,
    ]);
    await sweep(service.context);
    expect((await messages(run))[0]).toMatchObject({
      state: "unsure",
      response: "the worker ended while the message was on its way",
    });
    const outbox = (await service.call<{ id: string; state: string }[]>("GET", "/api/outbox")).body;
    expect(outbox[0].state).toMatch(/unsure|refused/);
  });

  it("skips what waits when a run is stopped, and keeps what went", async () => {
    const run = await plan("2026-02", ["Alder Court", "Harbour House"]);
    const ids = (await messages(run)).map((message) => message.id);
    const context = { ...service.context, mailer: told([ok]) };
    await deliverStep(context, run, [ids[0]]);
    await service.call("POST", `/api/runs/${run}/stop`, {});
    await deliverStep(context, run, ids);
    expect((await messages(run)).map((message) => message.state)).toEqual(["sent", "skipped"]);
    expect((await service.call("POST", `/api/runs/${run}/stop`, {})).status).toBe(409);
  });

  it("keeps the pace of the identity over all workers", async () => {
    const run = await plan("2026-01", ["Alder Court", "Harbour House", "Granary Tower", "Drapers Hall"]);
    const ids = (await messages(run)).map((message) => message.id);
    const context = {
      ...service.context,
      mailer: told([ok]),
      settings: { ...service.context.settings, mailPerMinute: 600 },
    };
    await service.context.database.execute("UPDATE identities SET next_slot_at = now()");
    const started = Date.now();
    await Promise.all(ids.map((id) => deliverStep(context, run, [id])));
    // Four messages at ten a second: the last may go after three tenths.
    expect(Date.now() - started).toBeGreaterThanOrEqual(280);
  });
});

describe("making", () => {
  it("makes nothing twice when a job runs twice at the same time", async () => {
    const { startRun } = await import("../dist/run/start-run.js");
    const { planStep } = await import("../dist/run/plan-step.js");
    const { makeStep } = await import("../dist/run/make-step.js");
    const { id } = await startRun(
      service.context,
      { report: "site-statement", period: "2026-09", groups: ["Alder Court", "Harbour House"] },
      "test",
    );
    await planStep(service.context, id);
    await planStep(service.context, id);
    const parcels = (
      await service.context.database.select<{ id: string }>("SELECT id FROM parcels WHERE run_id = $1", [id])
    ).map((parcel) => parcel.id);
    expect(parcels).toHaveLength(2);
    await Promise.all([makeStep(service.context, id, parcels), makeStep(service.context, id, parcels)]);
    const [{ files, mails }] = await service.context.database.select<{ files: number; mails: number }>(
      "SELECT (SELECT count(*)::int FROM files WHERE run_id = $1) AS files, (SELECT count(*)::int FROM messages WHERE run_id = $1) AS mails",
      [id],
    );
    expect([files, mails]).toEqual([6, 2]);
  });

  it("stops the release where a stored file is gone", async () => {
    const { startRun } = await import("../dist/run/start-run.js");
    const { planStep } = await import("../dist/run/plan-step.js");
    const { makeStep } = await import("../dist/run/make-step.js");
    const { proveStep } = await import("../dist/run/prove-step.js");
    const { rmSync } = await import("node:fs");
    const { id } = await startRun(
      service.context,
      { report: "site-statement", period: "2026-08", groups: ["Alder Court"] },
      "test",
    );
    await planStep(service.context, id);
    const parcels = await service.context.database.select<{ id: string }>("SELECT id FROM parcels WHERE run_id = $1", [
      id,
    ]);
    await makeStep(
      service.context,
      id,
      parcels.map((parcel) => parcel.id),
    );
    const [{ sha256 }] = await service.context.database.select<{ sha256: string }>(
      "SELECT sha256 FROM files WHERE run_id = $1 LIMIT 1",
      [id],
    );
    rmSync(`${service.data}/files/${sha256.slice(0, 2)}/${sha256}`);
    await expect(proveStep(service.context, id)).rejects.toThrow("Cannot read the stored file");
    expect((await service.call<{ state: string }>("GET", `/api/runs/${id}`)).body.state).not.toBe("held");
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
    expect((await service.call("PUT", "/api/reports/journal", definition)).status).toBe(200);
    const context = { ...service.context, mailer: told([ok]) };
    const run = async (period: string, send: boolean, again?: string) => {
      const id = await plan(period, ["Alder Court"], { report: "journal", ...(again === undefined ? {} : { again }) });
      const [{ id: message }] = await messages(id);
      if (send) await deliverStep(context, id, [message]);
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
    // What was made and not delivered is not gone on from.
    expect((await run("2026-05", false)).periods).toEqual(["2026-03", "2026-04", "2026-05"]);
    expect((await run("2026-06", true)).periods).toEqual(["2026-03", "2026-04", "2026-06"]);
    expect((await run("2026-06", true, "it was lost")).periods).toEqual(["2026-03", "2026-04", "2026-06"]);
  });
});
