/** What the journal tells is held against the database: what that did not know is written down, and nothing leaves until somebody has looked. */
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { type JournalBegin, type JournalEnd, type JournalEntry, journalLine } from "@corbix/core/delivery";
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { reconcile } from "../../dist/journal/reconcile.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { installationId } from "../../dist/records/index.js";
import { sweep } from "../../dist/run/sweep.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
  await office.load("jobs", "site,hours\nAlder,1\nBirch,2\nCedar,3\n");
  await office.list("Alder,Ann,ann@sites.example\nBirch,Ben,ben@sites.example\nCedar,Cy,cy@sites.example");
});
afterAll(() => service?.close());
const office = smallOffice(() => service);

interface Halt {
  readonly id: string;
  readonly why: string;
  readonly what: string;
  readonly sent: number;
  readonly unsure: number;
  readonly open: number;
  readonly endedAt: string | null;
}
interface Found {
  readonly id: string;
  readonly label: string;
  readonly became: string;
  readonly message: string | null;
  readonly state: string | null;
  readonly decided: string | null;
}
const folder = () => join(service.data, "left");
const halts = () => service.list<Halt>("/api/v1/halts?open=true");
const foundIn = (halt: Halt, more = "") => service.list<Found>(`/api/v1/halts/${halt.id}/messages${more}`);
const goOn = () => service.call("POST", "/api/v1/halts/end", { reason: "looked at" });
const messagesOf = async (run: string) =>
  office.select<{
    id: string;
    label: string;
    state: string;
    attempts: number;
    mail: string;
    group_key: string;
    response: string | null;
  }>(
    "SELECT messages.id::text, parcels.label, messages.state, messages.attempts, message_id AS mail, messages.group_key, messages.response FROM messages JOIN parcels ON parcels.id = parcel_id WHERE messages.run_id = $1 ORDER BY parcels.number",
    [run],
  );

let files = 0;
/** Adds a file of the journal, as a process has written it that the database knows nothing of. */
async function write(entries: readonly JournalEntry[], more = "", installation?: string): Promise<string> {
  mkdirSync(folder(), { recursive: true });
  const name = `20261102T073000Z-gone-${++files}.log`;
  const head: JournalEntry = {
    kind: "journal",
    installation: installation ?? (await installationId(service.context.database)),
    process: "gone",
    at: "2026-11-02T07:30:00.000Z",
  };
  writeFileSync(join(folder(), name), [head, ...entries].map(journalLine).join("") + more);
  return name;
}

async function begunAs(run: string, report: string, occasion: string, more: Partial<JournalBegin> = {}) {
  const messages = await messagesOf(run);
  return messages.map(
    (one): JournalBegin => ({
      kind: "begin",
      at: "2026-11-02T07:30:00.000Z",
      process: "gone",
      id: one.id,
      run,
      message: one.mail,
      attempt: 1,
      report,
      occasion,
      group: one.group_key,
      label: one.label,
      part: "",
      counts: true,
      to: [`${{ Alder: "ann", Birch: "ben", Cedar: "cy" }[one.label]}@sites.example`],
      ...more,
    }),
  );
}
const ended = (begin: JournalBegin, more: Partial<JournalEnd> = {}): JournalEnd => ({
  kind: "end",
  at: "2026-11-02T07:30:01.000Z",
  run: begin.run,
  message: begin.message,
  attempt: begin.attempt,
  outcome: "sent",
  stage: "answer",
  response: "250 taken",
  taken: begin.to,
  ...more,
});
const occasionOf = async (run: string) =>
  (await office.select<{ occasion: string }>("SELECT occasion FROM runs WHERE id = $1", [run]))[0]?.occasion ?? "";
/** Sends what may go, and gives to whom. */
async function send(): Promise<string[]> {
  const { open, sent } = toldSender([{ kind: "sent", response: "250 taken" }]);
  await sendWaiting(service.context, "office", open);
  return sent.flatMap(({ to }) => to).sort();
}

beforeEach(async () => {
  if ((await halts()).length > 0) await goOn();
});

describe("messages that the database has and did not know as begun", () => {
  it("become what the journal tells; only what never left goes, and only when somebody goes on", async () => {
    await office.report("first", "data: jobs");
    const run = await office.plan({ report: "first" });
    const [alder, birch] = await begunAs(run, "first", await occasionOf(run));
    await write([alder as JournalBegin, ended(alder as JournalBegin), birch as JournalBegin]);
    const { sent, unsure } = await reconcile(service.context);
    expect([sent, unsure]).toEqual([1, 1]);
    const [halt] = await halts();
    expect(halt).toMatchObject({ why: "gone-back", sent: 1, unsure: 1, open: 1 });
    expect(halt?.what).toContain("2 messages left: 1 sent, which will not go again, and 1 of which nobody can know");
    expect((await foundIn(halt as Halt)).map(({ label, became, state }) => [label, became, state])).toEqual([
      ["Alder", "sent", "sent"],
      ["Birch", "unsure", "unsure"],
    ]);
    expect(await send()).toEqual([]);
    expect((await goOn()).status).toBe(200);
    expect(await send()).toEqual(["cy@sites.example"]);
    const [first, second] = await messagesOf(run);
    expect(first?.response).toBe("250 taken (told by the journal of what left)");
    expect((await service.call("POST", `/api/v1/messages/${second?.id}/decide`, { as: "again" })).status).toBe(200);
    expect(await send()).toEqual(["ben@sites.example"]);
    expect((await office.runOf(run)).progress.messages).toEqual({ sent: 3 });
    // Told once: a look at the same journal finds nothing more.
    expect(await reconcile(service.context)).toMatchObject({ found: 0, halt: undefined });
  });

  it("of a run that was not released yet, too: its release lets only the others go", async () => {
    await office.report("held", "data: jobs");
    const run = await office.plan({ report: "held" }, { release: false });
    const [alder] = await begunAs(run, "held", await occasionOf(run));
    await write([alder as JournalBegin, ended(alder as JournalBegin)]);
    await reconcile(service.context);
    await goOn();
    await service.call("POST", `/api/v1/runs/${run}/release`, {});
    expect(await send()).toEqual(["ben@sites.example", "cy@sites.example"]);
    expect((await office.runOf(run)).progress.messages).toEqual({ sent: 3 });
  });

  it("that a server refused or put off stay as they are: nobody got them", async () => {
    await office.report("refused", "data: jobs");
    const run = await office.plan({ report: "refused" });
    const [alder, birch] = await begunAs(run, "refused", await occasionOf(run));
    await write([
      alder as JournalBegin,
      ended(alder as JournalBegin, { outcome: "refused", response: "550 no such box", taken: [] }),
      birch as JournalBegin,
      ended(birch as JournalBegin, { outcome: "later", response: "451 in a moment", taken: [] }),
    ]);
    expect(await reconcile(service.context)).toMatchObject({ sent: 0, unsure: 0 });
    expect(await halts()).toMatchObject([{ why: "gone-back", sent: 0, unsure: 0 }]);
    await goOn();
    expect(await send()).toEqual(["ann@sites.example", "ben@sites.example", "cy@sites.example"]);
  });
});

describe("messages that the database does not have", () => {
  it("stand in the ledger: a new run for the same leaves them out, until a person says that they are due", async () => {
    await office.report("lost", "data: jobs");
    const before = await office.plan({ report: "lost" }, { release: false });
    const occasion = await occasionOf(before);
    const lines = (await begunAs(before, "lost", occasion)).map((one) => ({
      ...one,
      run: "feed",
      message: `${one.message}x`,
    }));
    const [alder, birch] = lines as [JournalBegin, JournalBegin];
    await write([alder, ended(alder), birch]);
    expect(await reconcile(service.context)).toMatchObject({ sent: 1, unsure: 1 });
    const [halt] = (await halts()) as [Halt];
    const found = await foundIn(halt);
    expect(found).toMatchObject([
      { label: "Alder", became: "sent", message: null },
      { label: "Birch", became: "unsure", message: null, decided: null },
    ]);
    expect(await foundIn(halt, "?open=true")).toHaveLength(1);
    await goOn();
    const run = await office.plan({ report: "lost" });
    expect(await send()).toEqual(["cy@sites.example"]);
    const [skipped] = await messagesOf(run);
    expect(skipped).toMatchObject({ state: "skipped", response: expect.stringContaining("feed") });
    // Only what is unsure can be decided, and once.
    const decide = (id: string | undefined, as: string) =>
      service.call<{ title: string }>("POST", `/api/v1/found-messages/${id}/decide`, { as });
    expect((await decide(found[0]?.id, "due")).status).toBe(409);
    expect((await decide(found[1]?.id, "due")).status).toBe(200);
    expect((await decide(found[1]?.id, "arrived")).status).toBe(409);
    const again = await office.plan({ report: "lost" });
    expect(await send()).toEqual(["ben@sites.example"]);
    expect(again).not.toBe(run);
  });

  it("with rows that go out once count row by row", async () => {
    await office.report("rows-once", "data: jobs\nonce: { per: [site] }");
    const before = await office.plan({ report: "rows-once" }, { release: false });
    const keys = await office.select<{ label: string; row_keys: string[] }>(
      "SELECT label, row_keys FROM parcels WHERE run_id = $1 ORDER BY number",
      [before],
    );
    const [alder] = await begunAs(before, "rows-once", "another occasion", { rows: keys[0]?.row_keys ?? [] });
    await write([
      { ...(alder as JournalBegin), run: "feed", message: "<else@x>" },
      ended({ ...(alder as JournalBegin), run: "feed", message: "<else@x>" }),
    ]);
    await reconcile(service.context);
    await goOn();
    await service.call("POST", `/api/v1/runs/${before}/release`, {});
    expect(await send()).toEqual(["ben@sites.example", "cy@sites.example"]);
  });
});

describe("a journal that cannot be gone by", () => {
  it("is another database's: it is told, kept out of account, and told no second time", async () => {
    const name = await write([], "", "00000000-0000-4000-8000-000000000000");
    await reconcile(service.context);
    expect(await halts()).toMatchObject([{ why: "other-journal", what: expect.stringContaining(name) }]);
    await goOn();
    await reconcile(service.context);
    expect(await halts()).toEqual([]);
  });

  it("has a line that is not what was written, or is shorter than it was", async () => {
    const name = await write([], "0123456789abcdef {}\n");
    await reconcile(service.context);
    expect(await halts()).toMatchObject([{ why: "damaged-journal", what: expect.stringContaining(name) }]);
    await goOn();
    writeFileSync(join(folder(), name), readFileSync(join(folder(), name)).subarray(0, -5));
    await reconcile(service.context);
    expect(await halts()).toMatchObject([{ why: "damaged-journal" }]);
  });

  it("ends within a line that was being written: nothing of that went out, and nothing is halted", async () => {
    await write([], '0123456789abcdef {"kind":"begin","at":"2026-');
    expect(await reconcile(service.context)).toMatchObject({ found: 0, halt: undefined });
  });
});

describe("while sending is halted", () => {
  it("nothing that waits goes, until somebody goes on", async () => {
    await service.call("POST", "/api/v1/halts", { reason: "the mail server is being moved" });
    expect(await halts()).toMatchObject([
      { why: "by-hand", what: "Sending was halted by hand: the mail server is being moved" },
    ]);
    await office.report("halted", "data: jobs");
    const run = await office.plan({ report: "halted" });
    expect(await send()).toEqual([]);
    expect((await office.runOf(run)).progress.messages).toEqual({ queued: 3 });
    await goOn();
    expect(await send()).toHaveLength(3);
    expect((await goOn()).status).toBe(409);
  });
});

describe("a journal that cannot be written", () => {
  it("lets nothing go out, and what waits goes on when it can be written again", async () => {
    await service.context.journal.close();
    await office.report("unwritten", "data: jobs");
    const run = await office.plan({ report: "unwritten" });
    renameSync(folder(), `${folder()}-away`);
    writeFileSync(folder(), "not a folder");
    expect(await send()).toEqual([]);
    const waiting = await messagesOf(run);
    expect(waiting.map(({ state }) => state)).toEqual(["queued", "queued", "queued"]);
    expect(waiting[0]?.response).toContain("Cannot write down what is about to leave, so nothing leaves");
    // As long as it is so nothing more is tried.
    await office.select("UPDATE messages SET not_before = NULL WHERE run_id = $1", [run]);
    expect(await send()).toEqual([]);
    expect(await messagesOf(run)).toMatchObject(Array(3).fill({ attempts: 1 }));
    rmSync(folder());
    renameSync(`${folder()}-away`, folder());
    await office.select("UPDATE messages SET not_before = NULL WHERE run_id = $1", [run]);
    expect(await send()).toEqual(["ann@sites.example", "ben@sites.example", "cy@sites.example"]);
    expect(await reconcile(service.context)).toMatchObject({ found: 0 });
  });
});

describe("a process that ends between the server's answer and the database", () => {
  it("leaves messages that the journal has heard the end of: they are sent, and none is unsure", async () => {
    await office.report("unheard", "data: jobs");
    const run = await office.plan({ report: "unheard" });
    const lines = await begunAs(run, "unheard", await occasionOf(run), { process: "gone" });
    const [alder, birch, cedar] = lines as [JournalBegin, JournalBegin, JournalBegin];
    await write([alder, ended(alder), birch, ended(birch, { outcome: "unsure", taken: [] }), cedar]);
    // As the database has them: begun by a process that has ended since.
    await office.select("INSERT INTO workers (id, ended_at) VALUES ('gone', now()) ON CONFLICT DO NOTHING");
    await office.select("UPDATE messages SET state = 'sending', attempts = 1, worker = 'gone' WHERE run_id = $1", [
      run,
    ]);
    await office.select(
      "INSERT INTO attempts (message_id, number, worker) SELECT id, 1, 'gone' FROM messages WHERE run_id = $1",
      [run],
    );
    await sweep(service.context);
    const became = await messagesOf(run);
    expect(became.map(({ label, state }) => [label, state])).toEqual([
      ["Alder", "sent"],
      ["Birch", "unsure"],
      ["Cedar", "unsure"],
    ]);
    expect(await reconcile(service.context)).toMatchObject({ found: 0 });
  });
});
