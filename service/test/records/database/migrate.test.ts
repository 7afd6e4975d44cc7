import { randomBytes } from "node:crypto";
import { deflateSync } from "node:zlib";
import { describe, expect, inject, it } from "vitest";
import { makeDatabase } from "../../../../scripts/lib/postgres.mjs";
import { MIGRATIONS } from "../../../dist/records/database/migrations/index.js";
import { getEdition, openDatabase, readEdition } from "../../../dist/records/index.js";

describe("a database of the version before", () => {
  it("is changed over with all its rows, and keeps them through a second start", async () => {
    const cluster = inject("databaseUrl");
    const name = `test_${randomBytes(5).toString("hex")}`;
    await makeDatabase(cluster, name);
    const url = cluster.replace(/\/[^/]+$/, `/${name}`);
    const old = await openDatabase(url, { migrate: false });
    await old.execute(MIGRATIONS[0].up as string);
    await old.execute("CREATE TABLE migrations (name varchar(255) PRIMARY KEY)");
    await old.execute("INSERT INTO migrations VALUES ('0001-first')");
    await old.execute("INSERT INTO datasets (name) VALUES ('visits')");
    const columns = [
      { name: "Site", type: "text" },
      { name: "Fee", type: "number" },
    ];
    const leftOut = Array.from({ length: 30 }, (_, at) => ({
      row: at + 1,
      reason: at < 29 ? "title" : "total",
      text: `line ${at}`,
    }));
    await old.execute(
      "INSERT INTO editions (dataset_id, number, origin, sha256, row_count, columns, reading, header_row, left_out, findings, created_by) VALUES (1, 1, 'a.csv', 'x', 5000, $1, '{}', 4, $2, '[]', 'office')",
      [JSON.stringify(columns), JSON.stringify(leftOut)],
    );
    const rows = Array.from({ length: 5000 }, (_, at) => at);
    for (const [number, first] of [0, 4096].entries()) {
      const some = rows.slice(first, first + 4096);
      const packed = {
        rowNumbers: some.map((at) => at + 5),
        columns: [some.map((at) => (at === 7 ? null : `Site ${at % 9}`)), some.map((at) => at / 4)],
      };
      await old.execute("INSERT INTO edition_chunks VALUES (1, $1, $2, $3, '[]', $4)", [
        number,
        first,
        some.length,
        deflateSync(JSON.stringify(packed)),
      ]);
    }
    await old.close();
    for (let start = 0; start < 2; start++) {
      const database = await openDatabase(url, { migrate: true });
      const edition = await getEdition(database, "visits");
      const table = await readEdition(database, edition);
      expect(table.rowCount).toBe(5000);
      expect(table.rowNumbers[4999]).toBe(5004);
      expect(table.columns[0].values.slice(6, 9)).toEqual(["Site 6", null, "Site 8"]);
      expect(table.columns[1].values[4999]).toBe(1249.75);
      expect(edition.leftOut.map((one) => [one.reason, one.count, one.lines.length])).toEqual([
        ["title", 29, 20],
        ["total", 1, 1],
      ]);
      expect(edition.decisions).toEqual([]);
      const slice = await readEdition(database, edition, { first: 4990, count: 5, columns: ["Fee"] });
      expect(slice.columns.map((one) => one.values)).toEqual([[1247.5, 1247.75, 1248, 1248.25, 1248.5]]);
      await database.close();
    }
  });
});

describe("a migration", () => {
  const fresh = async () => {
    const cluster = inject("databaseUrl");
    const name = `test_${randomBytes(5).toString("hex")}`;
    await makeDatabase(cluster, name);
    return cluster.replace(/\/[^/]+$/, `/${name}`);
  };
  const structure = (database: Awaited<ReturnType<typeof openDatabase>>) =>
    database.select(
      "SELECT table_name, column_name, data_type FROM information_schema.columns WHERE table_schema = 'public' ORDER BY 1, 2",
    );

  it("that fails leaves the database as it was before the first of them, to be tried again", async () => {
    const url = await fresh();
    const old = await openDatabase(url, { migrate: false });
    await old.execute(MIGRATIONS[0].up as string);
    await old.execute("CREATE TABLE migrations (name varchar(255) PRIMARY KEY)");
    await old.execute("INSERT INTO migrations VALUES ('0001-first')");
    // A state that the newest structure does not know stands in the way of its checks.
    await old.execute("INSERT INTO datasets (name) VALUES ('visits')");
    await old.execute(
      "INSERT INTO editions (dataset_id, number, origin, sha256, row_count, columns, reading, header_row, left_out, findings, created_by) VALUES (1, 1, 'a.csv', 'x', 0, '[]', '{}', 1, '[]', '[]', 'office')",
    );
    await old.execute(
      "INSERT INTO runs (id, report, report_version, period, state, edition_id, editions, templates, run_date, started_by) VALUES ('a1', 'x', 1, '2026-10', 'nonsense', 1, '{}', '{}', 1, 'office')",
    );
    const before = await structure(old);
    await expect(openDatabase(url, { migrate: true })).rejects.toThrow();
    expect(await structure(old)).toEqual(before);
    expect(await old.select("SELECT name FROM migrations")).toEqual([{ name: "0001-first" }]);
    await old.execute("DELETE FROM runs");
    await (await openDatabase(url, { migrate: true })).close();
    expect((await old.select("SELECT name FROM migrations")).length).toBe(MIGRATIONS.length);
    await old.close();
  });

  it("of a newer version is left alone by an older one", async () => {
    const url = await fresh();
    const database = await openDatabase(url, { migrate: true });
    await database.execute("INSERT INTO migrations VALUES ('9999-later')");
    await expect(openDatabase(url, { migrate: true })).rejects.toThrow(/newer version .* \(9999-later\)/);
    await database.close();
  });

  it("leaves states, kinds and references that the database itself keeps", async () => {
    const url = await fresh();
    const database = await openDatabase(url, { migrate: true });
    await database.execute("INSERT INTO users (name, password, roles) VALUES ('a', 'b', '{}')");
    await expect(
      database.execute("INSERT INTO tokens (user_id, digest, kind) VALUES (1, 'x', 'other')"),
    ).rejects.toThrow("tokens_kinds");
    await expect(
      database.execute("INSERT INTO arrivals (way, sender, file, outcome) VALUES ('pigeon', 'a', 'b', 'loaded')"),
    ).rejects.toThrow("arrivals_ways");
    await expect(
      database.execute("INSERT INTO attempts (message_id, number, worker) VALUES (7, 1, 'w')"),
    ).rejects.toThrow("attempts_message_id_fkey");
    await database.execute(
      "INSERT INTO recipient_lists (origin, sha256, recipients, findings, created_by) VALUES ('a', 'x', '[]', '[]', 'a')",
    );
    // Two lists that follow the same one: the database takes one of them.
    await expect(
      database.execute(
        "INSERT INTO recipient_lists (origin, sha256, recipients, findings, created_by) VALUES ('b', 'y', '[]', '[]', 'a')",
      ),
    ).rejects.toThrow();
    await database.close();
  });
});
