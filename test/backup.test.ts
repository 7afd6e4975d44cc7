/** A backup is taken amid a delivery, the delivery goes on to its end, and the backup is restored elsewhere: nobody gets anything twice. */
import { randomBytes } from "node:crypto";
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { SMTPServer } from "smtp-server";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { makeDatabase } from "../scripts/lib/postgres.mjs";
import { type TakenBackup, takeBackup } from "../service/dist/operate/backup.js";
import { checkBackup, chooseBackup } from "../service/dist/operate/check-backup.js";
import { databaseProgram, runOn } from "../service/dist/operate/programs.js";
import { restoreBackup } from "../service/dist/operate/restore.js";
import type { Settings } from "../service/dist/process/settings.js";
import type { Service } from "../service/dist/process/supervisor.js";
import { countTables, openAsking } from "../service/dist/records/index.js";
import { type TestService, testService } from "./setup/service.js";
import { smallOffice } from "./setup/small-office.js";
import { startTestService } from "./setup/start-service.js";

const GROUPS = 300;
const KEY = "a key that is kept elsewhere";

/** A mail server that counts: how often each Message-ID came, and lets whoever waits know of it. */
function countingServer() {
  const received = new Map<string, number>();
  let waiting: { readonly count: number; readonly resolve: () => void }[] = [];
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS"],
    onData: (stream, _session, done) => {
      let head = "";
      stream.on("data", (chunk) => {
        if (head.length < 20_000) head += chunk;
      });
      stream.on("end", () => {
        const id = /^message-id: (<\S+>)/im.exec(head)?.[1] ?? "none";
        received.set(id, (received.get(id) ?? 0) + 1);
        waiting = waiting.filter(({ count, resolve }) => {
          if (received.size < count) return true;
          resolve();
          return false;
        });
        done(null, "250 taken");
      });
    },
  });
  return {
    received,
    total: () => [...received.values()].reduce((sum, one) => sum + one, 0),
    until: (count: number) =>
      received.size >= count ? Promise.resolve() : new Promise<void>((resolve) => waiting.push({ count, resolve })),
    listen: async () => {
      await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", () => resolve()));
      return `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
    },
    close: () => new Promise<void>((resolve) => server.close(() => resolve())),
  };
}

const mail = countingServer();
const folder = mkdtempSync(join(tmpdir(), "corbix-backup-"));
const out = join(folder, "backups");
let mailUrl: string;
let service: TestService;
let office: ReturnType<typeof smallOffice>;
let settings: Settings;
let taken: TakenBackup;
let run: string;
/** Messages that the database knew as begun when the backup was taken. */
let known: number;
const started: Service[] = [];

const environment = () => ({ CORBIX_MAIL_URL: mailUrl, CORBIX_SECRET_KEY: KEY, CORBIX_DEMO: "false" });

async function emptyDatabase(): Promise<{ name: string; url: string }> {
  const name = `test_${randomBytes(5).toString("hex")}`;
  await makeDatabase(inject("databaseUrl"), name);
  return { name, url: inject("databaseUrl").replace(/\/[^/]+$/, `/${name}`) };
}

async function startOn(database: string, data: string) {
  const begun = await startTestService(inject("databaseUrl"), database, data, environment());
  started.push(begun);
  const call = async (method: string, path: string, body?: unknown) => {
    const response = await fetch(`${begun.url}/api/v1${path}`, {
      method,
      headers: { Authorization: `Bearer ${begun.signIn.token}`, "Content-Type": "application/json" },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    // biome-ignore lint/suspicious/noExplicitAny: answers of many calls
    return (await response.json()) as any;
  };
  return { begun, call };
}

beforeAll(async () => {
  mailUrl = await mail.listen();
  service = await testService(inject("databaseUrl"), environment());
  settings = service.context.settings;
  office = smallOffice(() => service);
  const sites = Array.from({ length: GROUPS }, (_, at) => `Site ${String(at + 1).padStart(3, "0")}`);
  await office.load("jobs", `site,hours\n${sites.map((site, at) => `${site},${at + 1}`).join("\n")}\n`);
  await office.list(sites.map((site, at) => `${site},Person ${at + 1},person${at + 1}@sites.example`).join("\n"));
  await office.report("hours", "data: jobs\ndelivery: { hold: true }");
  const begun = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "hours" });
  expect(begun.status).toBe(201);
  run = begun.body.id;
  await service.waitFor(run, ["held"]);
  // A connection at a time: slow enough for a backup to come in between.
  await service.call("PUT", "/api/v1/identities/office", {
    settings: { from: "Office <office@lifts.example>", connections: 2, perMinute: 3_000 },
  });
  await service.call("POST", `/api/v1/runs/${run}/release`, {});
  await mail.until(60);
  taken = await takeBackup({ settings, databaseUrl: service.databaseUrl, out, version: "0.0.1" });
  await service.waitFor(run, ["done"]);
});
afterAll(async () => {
  for (const one of started) await one.close();
  await service?.close();
  await mail.close();
  rmSync(folder, { recursive: true, force: true });
});

describe("a backup amid a delivery of 300", () => {
  it("is of one moment in the middle of it, and whole", async () => {
    expect(mail.received.size).toBe(GROUPS);
    expect(mail.total()).toBe(GROUPS);
    // It knew of some as sent or begun, and of the others not yet.
    expect(taken.manifest.database.tables.attempts).toBeGreaterThanOrEqual(60);
    expect(taken.manifest.database.tables.attempts).toBeLessThan(GROUPS);
    const checked = await checkBackup(await chooseBackup(out));
    expect(checked.faults).toEqual([]);
    expect(checked.manifest.files.count).toBeGreaterThan(GROUPS);
    expect(checked.manifest.database.tables.parcels).toBe(GROUPS);
  });

  it("is not taken twice at once into one folder, goes on after one that was broken off, and keeps as many as asked", async () => {
    const taking = (more: object = {}) =>
      takeBackup({ settings, databaseUrl: service.databaseUrl, out: join(folder, "more"), version: "0.0.1", ...more });
    const [first, second] = await Promise.allSettled([taking(), taking()]);
    const outcomes = [first, second].map(({ status }) => status).sort();
    expect(outcomes).toEqual(["fulfilled", "rejected"]);
    const refused = [first, second].find((one) => one.status === "rejected");
    expect(refused).toMatchObject({ reason: { code: "CONFLICT" } });
    // What was broken off has no manifest, and a mark of a process that is gone.
    mkdirSync(join(folder, "more/2026-01-01T000000Z"));
    writeFileSync(join(folder, "more/taking"), "999999999\n");
    await new Promise((resolve) => setTimeout(resolve, 1_000));
    const next = await taking({ keep: 1 });
    expect([next.copied, next.deleted.length]).toEqual([0, 1]);
    expect(readdirSync(join(folder, "more")).filter((name) => /^\d/.test(name))).toEqual([next.name]);
    expect((await checkBackup(await chooseBackup(join(folder, "more")))).faults).toEqual([]);
  });

  it("that is damaged, or a table short of rows, is told before anything is restored", async () => {
    const copy = join(folder, "damaged");
    cpSync(out, copy, { recursive: true });
    const dump = join(copy, taken.name, "database.dump");
    const bytes = readFileSync(dump);
    bytes[bytes.length >> 1] = (bytes[bytes.length >> 1] ?? 0) ^ 1;
    writeFileSync(dump, bytes);
    const checked = await checkBackup(await chooseBackup(copy));
    expect(checked.faults).toEqual([{ file: "database.dump", what: "damaged" }]);
    const { url } = await emptyDatabase();
    const data = join(folder, "not-restored");
    await expect(
      restoreBackup({ settings: { ...settings, data }, databaseUrl: url, chosen: await chooseBackup(copy) }),
    ).rejects.toMatchObject({ code: "BAD_BACKUP" });
    expect(existsSync(join(data, "files"))).toBe(false);
    expect(await tablesIn(url)).toBe(0);
    writeFileSync(
      join(copy, taken.name, "manifest.json"),
      readFileSync(join(copy, taken.name, "manifest.json"), "utf8").replace('"runs": 1', '"runs": 2'),
    );
    await expect(chooseBackup(copy)).rejects.toMatchObject({
      code: "BAD_BACKUP",
      message: expect.stringContaining("not as it was written"),
    });
    // Nothing that is there is written over.
    await expect(restoreBackup({ settings, databaseUrl: url, chosen: await chooseBackup(out) })).rejects.toMatchObject({
      code: "CONFLICT",
    });
    await expect(
      restoreBackup({
        settings: { ...settings, data },
        databaseUrl: service.databaseUrl,
        chosen: await chooseBackup(out),
      }),
    ).rejects.toMatchObject({ code: "CONFLICT" });
  });

  it("is restored elsewhere with the journal, and sends nothing twice, before and after somebody goes on", async () => {
    const { name, url } = await emptyDatabase();
    const data = join(folder, "elsewhere");
    const restored = await restoreBackup({
      settings: { ...settings, data },
      databaseUrl: url,
      chosen: await chooseBackup(out),
      journal: service.data,
    });
    expect(restored).toMatchObject({ isKeyRight: true, missing: 0, name: taken.name });
    known = await begunIn(url);
    const { begun, call } = await startOn(name, data);
    const halts = await call("GET", "/halts?open=true");
    expect(halts.items).toHaveLength(1);
    const [halt] = halts.items;
    expect(halt).toMatchObject({ why: "restored", unsure: 0, open: 0 });
    expect(halt.sent).toBe(GROUPS - known);
    expect(halt.what).toContain(`${GROUPS - known} messages left`);
    const found = await call("GET", `/halts/${halt.id}/messages?limit=1000`);
    expect(found.items).toHaveLength(GROUPS - known);
    expect(found.items[0]).toMatchObject({ report: "hours", became: "sent", state: "sent", run });
    expect(found.items[0].addresses[0]).toMatch(/^person\d+@sites\.example$/);
    expect(await call("POST", "/halts/end", { reason: "all of it is explained" })).toEqual({ ended: 1 });
    // Those that were on their way at that moment are told by the journal too, once their process is known to be gone.
    await waitUntil(async () => (await call("GET", `/runs/${run}`)).state === "done");
    const { progress } = await call("GET", `/runs/${run}`);
    expect(progress.messages).toEqual({ sent: GROUPS });
    expect(mail.total()).toBe(GROUPS);
    // A new run for the same knows that everybody has theirs.
    const again = await call("POST", "/runs", { report: "hours" });
    await waitUntil(async () => ["held", "stopped"].includes((await call("GET", `/runs/${again.id}`)).state));
    await call("POST", `/runs/${again.id}/release`, {});
    await waitUntil(async () => (await call("GET", `/runs/${again.id}`)).state === "done");
    expect(mail.total()).toBe(GROUPS);
    await begun.close();
  });

  it("is restored without the journal, says that nobody knows, and sends nothing", async () => {
    const { name, url } = await emptyDatabase();
    const data = join(folder, "without");
    await restoreBackup({ settings: { ...settings, data }, databaseUrl: url, chosen: await chooseBackup(out) });
    const { begun, call } = await startOn(name, data);
    const [halt] = (await call("GET", "/halts")).items;
    expect(halt.what).toContain("No journal came along");
    // The outbox has begun and looked for what may go: it has shown itself, and what it could have begun is as it was.
    await waitUntil(
      async () =>
        Number(
          (
            await begun.context.database.one<{ n: string }>(
              "SELECT count(*) AS n FROM workers WHERE ended_at IS NULL AND beat > 3",
            )
          ).n,
        ) >= 2,
    );
    expect(mail.total()).toBe(GROUPS);
    const { messages } = (await call("GET", `/runs/${run}`)).progress;
    expect(messages.queued).toBeGreaterThan(0);
    // A schedule or a file that comes in starts nothing that goes out, either.
    const kinds = (await call("GET", "/notices")).items.map(({ kind }: { kind: string }) => kind);
    expect(kinds.filter((kind: string) => kind !== "halted")).toEqual(["waits-for-release"]);
    await begun.close();
  });

  it("is read into a database by hand, under the folder that went on: what left is found by itself", async () => {
    const { name, url } = await emptyDatabase();
    const data = join(folder, "set-back");
    cpSync(service.data, data, { recursive: true });
    // As somebody does it by hand: the database is an old one that knows of no restoring, the folder is as it is now.
    const program = await databaseProgram("pg_restore", taken.manifest.database.server);
    const dump = join(out, taken.name, taken.manifest.database.file);
    await runOn(url, program, ["--no-owner", "--single-transaction", dump], (words) => new Error(words) as never);
    const { begun, call } = await startOn(name, data);
    const [halt] = (await call("GET", "/halts?open=true")).items;
    expect(halt).toMatchObject({ why: "gone-back", sent: GROUPS - known });
    expect(mail.total()).toBe(GROUPS);
    const notices = await call("GET", "/notices?kind=halted");
    expect(notices.items[0].what).toContain("stands where it stood");
    await begun.close();
  });
});

async function tablesIn(url: string): Promise<number> {
  const asking = await openAsking(url);
  const tables = await countTables(asking);
  await asking.close();
  return Object.keys(tables).length;
}

/** Messages that a database has as sent or begun. */
async function begunIn(url: string): Promise<number> {
  const asking = await openAsking(url);
  const [row] = await asking.select<{ count: string }>(
    "SELECT count(*) AS count FROM messages WHERE state IN ('sent', 'sending')",
  );
  await asking.close();
  return Number(row?.count);
}

async function waitUntil(isSo: () => Promise<boolean>): Promise<void> {
  const end = Date.now() + 120_000;
  while (!(await isSo())) {
    if (Date.now() > end) throw new Error("it did not come to that");
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
