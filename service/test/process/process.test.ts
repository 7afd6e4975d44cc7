import { type ChildProcess, fork } from "node:child_process";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { superviseCluster } from "../../../scripts/lib/postgres.mjs";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";
import { doSteps, openSteps, toldSender } from "../../../test/setup/steps.js";
import { openLetterbox } from "../../dist/letterbox/letterbox.js";
import { beginMessages } from "../../dist/outbox/begin.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { openLease } from "../../dist/process/lease/lease.js";
import { Liveness } from "../../dist/process/lease/liveness.js";
import { doStep } from "../../dist/process/worker-loop.js";
import { StepLost, takeStep } from "../../dist/records/index.js";
import { releaseRun } from "../../dist/run/release.js";
import { startRun } from "../../dist/run/start-run.js";
import { makeStep } from "../../dist/run/steps/make-step.js";
import { planStep } from "../../dist/run/steps/plan-step.js";
import { workerEnded } from "../../dist/run/sweep.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
});
afterAll(() => service?.close());

const context = () => service.context;
const as = (process: string) => ({ ...context(), process });
const alive = (id: string) => context().database.execute("INSERT INTO workers (id) VALUES ($1)", [id]);
const until = async (holds: () => Promise<boolean>, what: string) => {
  const end = Date.now() + 120_000;
  while (!(await holds())) {
    if (Date.now() > end) throw new Error(`waited in vain for ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

describe("a step of a run", () => {
  it("is nobody else's while its process lives, and whoever was slow writes nothing once it was handed on", async () => {
    await alive("slow");
    await alive("quick");
    const run = await startRun(context(), { report: "site-statement", period: "2026-05" }, "test");
    const slow = await takeStep(context().database, run.id, "plan", "slow");
    if (!slow) throw new Error("not to be had");
    expect(await takeStep(context().database, run.id, "plan", "quick")).toBeUndefined();
    await workerEnded(context(), "slow");
    const quick = await takeStep(context().database, run.id, "plan", "quick");
    if (!quick) throw new Error("not to be had");
    expect(quick.token).toBe(slow.token + 1);
    await planStep(as("quick"), quick);
    await doSteps(as("quick"), run.id);
    await releaseRun(context(), run.id, "test");
    const sender = toldSender([{}]);
    await sendWaiting(context(), "office", sender.open);
    expect(sender.sent.length).toBeGreaterThan(20);
    const trace = async () =>
      context().database.select(
        "SELECT (SELECT count(*)::int FROM parcels WHERE run_id = $1) AS parcels, (SELECT count(*)::int FROM messages WHERE run_id = $1) AS messages, (SELECT count(*)::int FROM ledger WHERE run_id = $1) AS ledger",
        [run.id],
      );
    const before = await trace();
    // Now the slow one comes to its end: with the run as it was when it began.
    const { database } = context();
    const stale = {
      ...as("slow"),
      database: { ...database, models: { ...database.models, Run: staleRun(database.models.Run) } },
    };
    await expect(planStep(stale as never, slow)).rejects.toBeInstanceOf(StepLost);
    await doStep(stale as never, "plan", slow);
    expect(await trace()).toEqual(before);
    // Nor can anything else take away what was sent.
    await expect(database.execute("DELETE FROM parcels WHERE run_id = $1", [run.id])).rejects.toThrow("foreign key");
    expect((await service.call<RunAnswer>("GET", `/api/v1/runs/${run.id}`)).body.state).toBe("done");
  });

  it("makes nothing of a batch that was handed on, and leaves a stopped run as it is", async () => {
    await alive("first");
    const run = await startRun(
      context(),
      { report: "site-statement", period: "2026-06", groups: ["Alder Court", "Harbour House"] },
      "test",
    );
    await doSteps(context(), run.id, ["plan"]);
    const first = await takeStep(context().database, run.id, "make 1", "first");
    if (!first) throw new Error("not to be had");
    await workerEnded(context(), "first");
    await doSteps(context(), run.id, ["make"]);
    const count = async () =>
      context().database.select("SELECT count(*)::int AS files FROM files WHERE run_id = $1", [run.id]);
    const before = await count();
    await makeStep(as("first"), first);
    expect(await count()).toEqual(before);
    const other = await startRun(
      context(),
      { report: "site-statement", period: "2026-07", groups: ["Alder Court"] },
      "test",
    );
    const step = await takeStep(context().database, other.id, "plan", context().process);
    if (!step) throw new Error("not to be had");
    await service.call("POST", `/api/v1/runs/${other.id}/stop`, {});
    await doStep(context(), "plan", step);
    expect((await service.call<RunAnswer>("GET", `/api/v1/runs/${other.id}`)).body.state).toBe("stopped");
    expect(await context().database.select("SELECT 1 FROM parcels WHERE run_id = $1", [other.id])).toEqual([]);
  });

  it("is taken up at once where its process has ended, and where its job was lost", async () => {
    await alive("gone");
    const run = await startRun(
      context(),
      { report: "site-statement", period: "2026-07", groups: ["Alder Court"] },
      "test",
    );
    await takeStep(context().database, run.id, "plan", "gone");
    await workerEnded(context(), "gone");
    expect(await openSteps(context(), run.id)).toEqual(["plan"]);
    const [{ worker }] = await context().database.select<{ worker: string | null }>(
      "SELECT worker FROM run_steps WHERE run_id = $1",
      [run.id],
    );
    expect(worker).toBeNull();
    await doSteps(context(), run.id);
    await service.call("POST", `/api/v1/runs/${run.id}/stop`, {});
  });
});

/** A model of runs that says what was true when planning began. */
function staleRun(model: object): object {
  return new Proxy(model, {
    get: (target, key) =>
      key === "findOne"
        ? async (...args: unknown[]) => ({
            ...((await (target as { findOne: (...all: unknown[]) => Promise<object> }).findOne(...args)) ?? {}),
            state: "planning",
          })
        : Reflect.get(target, key),
  });
}

describe("a process", () => {
  it("shows that it lives while it computes, and is declared dead soon after it does not", async () => {
    const liveness = new Liveness(context());
    const lease = await openLease(service.databaseUrl, "busy", "busy", "worker");
    const beat = async () =>
      Number((await context().database.select<{ beat: string }>("SELECT beat FROM workers WHERE id = 'busy'"))[0].beat);
    const before = await beat();
    const end = process.hrtime.bigint() + 3_500_000_000n;
    // Nothing of this thread's runs meanwhile.
    while (process.hrtime.bigint() < end);
    expect(await beat()).toBeGreaterThanOrEqual(before + 2);
    expect(lease.isHeld()).toBe(true);
    await context().database.execute("INSERT INTO workers (id, beat) VALUES ('silent', 5)");
    const dead: string[] = [];
    await until(async () => {
      dead.push(...(await liveness.look()));
      await new Promise((resolve) => setTimeout(resolve, 700));
      return dead.includes("silent");
    }, "the silent one to be declared dead");
    expect(dead).not.toContain("busy");
    // Declared dead, it finds out by itself, and holds nothing any more.
    await workerEnded(context(), "busy");
    await until(async () => lease.lost.aborted, "the lease to be lost");
    expect(lease.isHeld()).toBe(false);
    await lease.close();
  });

  it("that was taken for dead begins no message, and what it had begun is written down truly", async () => {
    await alive("ghost");
    const run = await startRun(
      context(),
      { report: "site-statement", period: "2026-08", groups: ["Alder Court", "Harbour House"] },
      "test",
    );
    await doSteps(context(), run.id);
    await releaseRun(context(), run.id, "test");
    const [first, second] = await context().database.select<{ id: string }>(
      "SELECT id FROM messages WHERE run_id = $1 ORDER BY id",
      [run.id],
    );
    const { database } = context();
    const hold = () =>
      database.execute(
        "UPDATE identities SET holder = 'ghost', held_until = now() + interval '1 minute' WHERE name = 'office'",
      );
    const ask = (id: string) =>
      beginMessages(as("ghost"), "office", [
        {
          id,
          runId: run.id,
          shared: id,
          addresses: ["a@b.example"],
          people: ["a@b.example"],
          isAgain: false,
          datedAt: new Date(),
        },
      ]);
    await hold();
    expect([...(await ask(first.id)).keys()]).toEqual([first.id]);
    // Nobody begins it a second time, and nobody without the identity.
    expect((await ask(first.id)).size).toBe(0);
    await database.execute("UPDATE identities SET holder = 'other' WHERE name = 'office'");
    expect((await ask(second.id)).size).toBe(0);
    await hold();
    await workerEnded(context(), "ghost");
    expect((await ask(second.id)).size).toBe(0);
    const state = async (id: string) =>
      (await database.select<{ state: string }>("SELECT state FROM messages WHERE id = $1", [id]))[0].state;
    expect([await state(first.id), await state(second.id)]).toEqual(["unsure", "queued"]);
    // A paused or stopped run begins nothing either.
    await service.call("POST", `/api/v1/runs/${run.id}/stop`, {});
    await hold();
    expect((await ask(second.id)).size).toBe(0);
  });
});

describe("a sender that was frozen", () => {
  it("sends nothing of what it had before, once others have decided and sent it", async () => {
    const own = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
    let outbox: ChildProcess | undefined;
    const closing: (() => Promise<void>)[] = [];
    try {
      const { database } = own.context;
      const people = Array.from({ length: 60 }, (_, n) => `Unit ${n},Person ${n},p${n}@units.example`).join("\n");
      await own.call("PUT", "/api/v1/recipients?file=l.csv", `Group,Name,Addresses\n${people}\n`);
      const rows = Array.from({ length: 60 }, (_, n) => `Unit ${n},${n}`).join("\n");
      await own.call("POST", "/api/v1/datasets/units/editions?file=u.csv", `Unit,Fee\n${rows}\n`);
      await own.call(
        "PUT",
        "/api/v1/reports/units",
        'report: units\ntitle: U\ndata: units\nsplit: unit\nmessage: { subject: "{{ unit }}", body: { text: "Hello" } }\n',
      );
      const run = await startRun(own.context, { report: "units" }, "test");
      await doSteps(own.context, run.id);
      await own.call("POST", "/api/v1/letterbox/rules", { does: "slow", share: 1, seconds: 0.3 });
      const letterbox = await openLetterbox({ ...own.context, takeReport: async () => {} }, 0);
      closing.push(() => letterbox.close());
      const { port } = letterbox;
      await own.call("PUT", "/api/v1/identities/office", {
        settings: {
          from: "Office <office@lifts.example>",
          host: "127.0.0.1",
          port,
          security: "none",
          perMinute: 60_000,
        },
      });
      outbox = fork(fileURLToPath(new URL("../../dist/process/outbox-process.js", import.meta.url)), [], {
        env: {
          PATH: process.env.PATH,
          CORBIX_DATA: own.data,
          CORBIX_DATABASE_URL: own.databaseUrl,
          CORBIX_LETTERBOX_PORT: String(port),
          CORBIX_LOG_LEVEL: "silent",
        },
        stdio: "ignore",
        execArgv: [],
      });
      await releaseRun(own.context, run.id, "test");
      const count = async (state: string) =>
        (
          await database.select<{ count: number }>(
            "SELECT count(*)::int AS count FROM messages WHERE run_id = $1 AND state = $2",
            [run.id, state],
          )
        )[0].count;
      await until(async () => (await count("sent")) >= 5 && (await count("sending")) > 0, "the first to be sent");
      outbox.kill("SIGSTOP");
      // The service notices by itself.
      await until(
        async () => (await count("unsure")) > 0 && (await count("sending")) === 0,
        "the frozen one to be noticed",
      );
      await new Promise((resolve) => setTimeout(resolve, 1_000));
      const unsure = await database.select<{ id: string; message_id: string }>(
        "SELECT id, message_id FROM messages WHERE run_id = $1 AND state = 'unsure'",
        [run.id],
      );
      for (const { id, message_id: messageId } of unsure) {
        const there = await database.select("SELECT 1 FROM letters WHERE message_id = $1", [messageId]);
        await own.call("POST", `/api/v1/messages/${id}/decide`, { as: there.length > 0 ? "arrived" : "again" });
      }
      await own.call("DELETE", "/api/v1/letterbox/rules/1");
      await sendWaiting(own.context, "office", (await import("../../dist/mail/smtp.js")).smtpSender);
      expect(await count("sent")).toBe(60);
      outbox.kill("SIGCONT");
      // It finds out that it was declared dead, and begins anew under another name.
      await until(
        async () =>
          (await database.select("SELECT 1 FROM workers WHERE ended_at IS NULL AND started_as <> id")).length > 0,
        "it to begin anew",
      );
      await new Promise((resolve) => setTimeout(resolve, 2_000));
      const letters = await database.select<{ message_id: string; count: number }>(
        "SELECT message_id, count(*)::int AS count FROM letters GROUP BY message_id",
      );
      expect(letters).toHaveLength(60);
      expect(letters.filter((letter) => letter.count > 1)).toEqual([]);
    } finally {
      outbox?.kill("SIGCONT");
      outbox?.kill("SIGKILL");
      for (const close of closing) await close();
      await own.close();
    }
  }, 180_000);
});

describe("the database", () => {
  it("is started again when it is killed, what listens hears again, and calls meanwhile are told to try again", async () => {
    const data = mkdtempSync(join(tmpdir(), "corbix-supervised-"));
    chmodSync(data, 0o755);
    const port = await new Promise<number>((resolve) => {
      const server = createServer().listen(0, "127.0.0.1", () => {
        const address = server.address() as { port: number };
        server.close(() => resolve(address.port));
      });
    });
    const given: Error[] = [];
    const cluster = await superviseCluster({ data, port, fast: true }, (advice: Error) => given.push(advice));
    let own: TestService | undefined;
    try {
      own = await testService(cluster.url, { CORBIX_WORKERS: "0" });
      const events: string[] = [];
      const stop = new AbortController();
      const stream = await fetch(`${own.url}/api/v1/events`, {
        headers: { Authorization: `Bearer ${own.signIn.token}` },
        signal: stop.signal,
      });
      const reading = (async () => {
        const decoder = new TextDecoder();
        for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>)
          events.push(decoder.decode(chunk));
      })().catch(() => {});
      process.kill(cluster.pid() as number, "SIGKILL");
      const down: number[] = [];
      await until(async () => {
        const { status } = await (own as TestService).call("GET", "/api/v1/runs");
        down.push(status);
        return down.includes(503) && status === 200;
      }, "the database to be back");
      expect(down.every((status) => status === 200 || status === 503)).toBe(true);
      await until(async () => events.join("").includes('"anything"'), "the listener to be back");
      await own.call("PUT", "/api/v1/recipients?file=l.csv", "Group,Name,Addresses\nDock,Ann,ann@dock.example\n");
      await until(async () => events.join("").includes('"recipients"'), "an event");
      stop.abort();
      await reading;
      expect(given).toEqual([]);
    } finally {
      await own?.close();
      await cluster.stop();
      rmSync(data, { recursive: true, force: true });
    }
  }, 120_000);
});
