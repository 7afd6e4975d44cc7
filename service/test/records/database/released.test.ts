/** Databases of every released version, with a year of the demo's runs in them, are brought to this one: nothing of them is lost. */
import { randomBytes } from "node:crypto";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, describe, expect, inject, it } from "vitest";
import { endpoints } from "../../../../api/dist/contract/index.js";
import { copyDatabase, makeDatabase } from "../../../../scripts/lib/postgres.mjs";
import { startTestService } from "../../../../test/setup/start-service.js";
import { databaseProgram, runOn } from "../../../dist/operate/programs.js";
import { upgrade } from "../../../dist/operate/upgrade.js";
import { readSettings } from "../../../dist/process/settings.js";
import { MIGRATIONS } from "../../../dist/records/database/migrations/index.js";
import { type Asking, migrationsOf, openAsking } from "../../../dist/records/index.js";

const released = fileURLToPath(new URL("../released", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "corbix-released-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const nameOf = () => `test_${randomBytes(5).toString("hex")}`;
const urlOf = (name: string) => inject("databaseUrl").replace(/\/[^/]+$/, `/${name}`);
const settings = readSettings({ CORBIX_DATA: folder }, folder);

async function restored(file: string): Promise<{ name: string; url: string; asking: Asking }> {
  const name = nameOf();
  await makeDatabase(inject("databaseUrl"), name);
  const program = await databaseProgram("pg_restore", "15");
  await runOn(
    urlOf(name),
    program,
    ["--no-owner", "--single-transaction", join(released, file)],
    (words) => new Error(words) as never,
  );
  return { name, url: urlOf(name), asking: await openAsking(urlOf(name)) };
}

/** What a coordinator would miss: by names and digests that no version may change. */
const KEPT: Readonly<Record<string, string>> = {
  runs: "SELECT id, report, period, report_version, started_by, created_at FROM runs ORDER BY id",
  parcels:
    "SELECT run_id, number, label, group_key, row_count, totals::text, rows_digest, lines FROM parcels ORDER BY run_id, number",
  files: "SELECT run_id, path, sha256, size FROM files ORDER BY run_id, path",
  messages:
    "SELECT run_id, group_key, message_id, subject, html, envelope::text, sent_at FROM messages ORDER BY run_id, id",
  ledger: "SELECT report, group_key, run_id, message_id, written_at FROM ledger ORDER BY message_id",
  attempts: "SELECT message_id, number, outcome, response FROM attempts ORDER BY id",
  actions: "SELECT id, at, who, what, subject, facts::text FROM actions ORDER BY id",
  reports: "SELECT name, number, created_by FROM report_versions ORDER BY name, number",
  templates: "SELECT name, number, sha256 FROM template_versions ORDER BY name, number",
  editions: "SELECT id, dataset_id, number, origin, sha256, row_count, created_by FROM editions ORDER BY id",
  users: "SELECT name, password FROM users ORDER BY id",
};

describe.each(readdirSync(released).sort())("a database of version %s", (file) => {
  it("keeps every row, file, message and entry of the ledger, and delivers nothing anew", async () => {
    const { name, url, asking } = await restored(file);
    const before = new Map<string, object[]>();
    for (const [what, sql] of Object.entries(KEPT)) before.set(what, await asking.select(sql));
    expect(before.get("runs")?.length).toBe(12);
    expect(before.get("ledger")?.length).toBeGreaterThan(240);
    const known = await migrationsOf(asking);
    const done = await upgrade({ settings, databaseUrl: url, version: "0" });
    expect(done.done).toEqual(MIGRATIONS.map((one) => one.name).filter((one) => !known.includes(one)));
    for (const [what, sql] of Object.entries(KEPT))
      expect([what, await asking.select(sql)]).toEqual([what, before.get(what)]);
    // Every stored byte that something needed is known as needed still.
    const bytes = await asking.select<{ sha256: string }>("SELECT sha256 FROM blobs");
    const kept = new Set(bytes.map(({ sha256 }) => sha256));
    for (const { sha256 } of before.get("files") as { sha256: string }[]) expect(kept).toContain(sha256);
    expect((await upgrade({ settings, databaseUrl: url, version: "0" })).done).toEqual([]);
    await asking.close();
    // The service starts on it, shows the year, and holds what it has delivered.
    const data = mkdtempSync(join(folder, "data-"));
    const service = await startTestService(inject("databaseUrl"), name, data, {
      CORBIX_WORKERS: "0",
      CORBIX_LOG_LEVEL: "error",
    });
    const get = async (path: string) => {
      const response = await fetch(`${service.url}/api/v1${path}`, {
        headers: { Authorization: `Bearer ${service.signIn.token}` },
      });
      expect([path, response.status]).toEqual([path, 200]);
      // biome-ignore lint/suspicious/noExplicitAny: answers of many calls
      return (await response.json()) as any;
    };
    // Every list that there is answers as the contract says, over what older versions have written.
    const lists = Object.entries(endpoints).filter(
      ([, one]) =>
        one.method === "get" &&
        !one.path.includes("{") &&
        typeof one.answer !== "string" &&
        !["/search", "/verification", "/sign-in-provider"].includes(one.path),
    );
    expect(lists.length).toBeGreaterThan(20);
    const needs: Readonly<Record<string, string>> = { "/days": "?from=2026-01-01&until=2026-02-01" };
    for (const [, { path }] of lists) await get(`${path}${needs[path] ?? ""}`);
    for (const path of [
      "/reports/site-statement",
      "/reports/site-statement/versions",
      "/datasets/visits",
      "/datasets/visits/editions",
      "/templates/statement.xlsx",
    ])
      await get(path);
    const runs = (await get("/runs?limit=100")).items;
    expect(runs).toHaveLength(12);
    for (const run of runs) {
      const whole = await get(`/runs/${run.id}`);
      expect(whole.progress.parcels).toBeDefined();
      const parcels = (await get(`/runs/${run.id}/parcels?limit=100`)).items;
      expect(parcels.length).toBe(
        (before.get("parcels") as { run_id: string }[]).filter(({ run_id }) => run_id === run.id).length,
      );
    }
    expect(
      (await get("/outbox?limit=1000")).items.filter(({ state }: { state: string }) => state === "sent").length,
    ).toBe((before.get("messages") as { sent_at: Date | null }[]).filter(({ sent_at }) => sent_at !== null).length);
    const rows = await get("/datasets/visits/editions/1/rows?limit=5");
    expect(rows.total ?? rows.rows?.length).toBeGreaterThan(0);
    const periods = (await get("/reports/site-statement/periods?limit=100")).items;
    expect(periods.filter(({ key }: { key: string }) => key === "2026-05")[0]).toMatchObject({ state: "delivered" });
    await service.close();
  });

  it("is as it was where a change fails, and where there is no room", async () => {
    const { name, url, asking } = await restored(file);
    const copy = nameOf();
    await asking.close();
    await copyDatabase(inject("databaseUrl"), name, copy);
    const other = await openAsking(urlOf(copy));
    const structure = () =>
      other.select(
        "SELECT table_name, column_name, data_type, is_nullable FROM information_schema.columns WHERE table_schema = 'public' ORDER BY 1, 2",
      );
    const known = await migrationsOf(other);
    const before = await structure();
    // The last change that there is finds a table of its own name there already: all before it is undone, too.
    await other.select("CREATE TABLE installation (id int)");
    await expect(upgrade({ settings, databaseUrl: urlOf(copy), version: "0" })).rejects.toThrow(/installation/);
    await other.select("DROP TABLE installation");
    expect(await structure()).toEqual(before);
    expect(await migrationsOf(other)).toEqual(known);
    // A disk that is full, as the server tells it in the middle of a change.
    await other.select(
      "CREATE FUNCTION full_disk() RETURNS event_trigger LANGUAGE plpgsql AS $$ BEGIN IF to_regclass('public.halts') IS NOT NULL THEN RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = 'disk_full'; END IF; END $$",
    );
    await other.select("CREATE EVENT TRIGGER full_disk ON ddl_command_end EXECUTE FUNCTION full_disk()");
    await expect(upgrade({ settings, databaseUrl: urlOf(copy), version: "0" })).rejects.toMatchObject({
      code: "NO_SPACE",
    });
    await other.select("DROP EVENT TRIGGER full_disk");
    await other.select("DROP FUNCTION full_disk");
    expect(await structure()).toEqual(before);
    expect(await migrationsOf(other)).toEqual(known);
    expect((await upgrade({ settings, databaseUrl: urlOf(copy), version: "0" })).done.length).toBeGreaterThan(0);
    await other.close();
    expect(url).toContain(name);
  });
});
