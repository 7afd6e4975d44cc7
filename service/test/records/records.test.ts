/** What is kept of editions, reports and runs, read back from a real database: whole, in pieces, and where it is not there. */
import { randomBytes } from "node:crypto";
import { loadTable } from "@corbix/core/table";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { makeDatabase } from "../../../scripts/lib/postgres.mjs";
import { type TestService, testService } from "../../../test/setup/service.js";
import { type ListQuery, pageOf, selectPage } from "../../dist/records/database/page.js";
import {
  addReportVersion,
  type Database,
  getDataset,
  getEdition,
  getEditionById,
  isDatabaseAway,
  newestNumbers,
  openDatabase,
  readChanges,
  readEdition,
  readPeriod,
} from "../../dist/records/index.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
});
afterAll(() => service?.close());
const load = async (name: string, csv: string) => {
  const { status } = await service.call("POST", `/api/v1/datasets/${name}/editions?file=${name}.csv`, csv);
  expect(status).toBe(201);
  return getEdition(service.context.database, name);
};

describe("an edition", () => {
  const rows = 9_000;
  const day = (at: number) => new Date(Date.UTC(2026, 0, 1 + Math.floor(at / 30))).toISOString().slice(0, 10);
  const csv = `Unit,Day,Fee\n${Array.from({ length: rows }, (_, at) => `U${at},${at % 1000 === 7 ? "" : day(at)},${at % 500 === 3 ? "CHF 5" : `CHF ${at}`}`).join("\n")}\n`;

  it("comes back whole, from any row for any number of rows, and in some of its columns", async () => {
    const edition = await load("large", csv);
    const { database } = service.context;
    const whole = await readEdition(database, edition);
    const { table } = loadTable(Buffer.from(csv), "large.csv");
    expect(whole).toEqual(table);
    await fc.assert(
      fc.asyncProperty(
        fc.nat(rows + 50),
        fc.nat(6_000),
        fc.subarray(["Unit", "Fee", "Nothing"]),
        async (first, count, columns) => {
          const part = await readEdition(database, edition, { first, count, columns });
          expect(part.rowCount).toBe(Math.max(0, Math.min(count, rows - first)));
          expect(part.rowNumbers).toEqual(table.rowNumbers.slice(first, first + count));
          expect(part.columns.map((one) => one.name)).toEqual(["Unit", "Fee"].filter((name) => columns.includes(name)));
          for (const one of part.columns)
            expect(one.values).toEqual(
              table.columns.find(({ name }) => name === one.name)?.values.slice(first, first + count),
            );
        },
      ),
      { numRuns: 40 },
    );
  });

  it("gives the rows of a period, and counts those that were not read: outside, and without a day", async () => {
    const edition = await load("dated", csv);
    const { database } = service.context;
    const all = await readEdition(database, edition);
    const days = all.columns[1].values;
    const isOf = (from: number, to: number) =>
      days.filter((one) => typeof one === "number" && one >= from && one <= to).length;
    for (const [from, to] of [
      [46_023, 46_053],
      [46_300, 46_330],
      [1, 2],
    ]) {
      const { table, outside, blank, rowNumbers } = await readPeriod(database, edition, "Day", { from, to });
      const read = table.columns[1].values.filter((one) => typeof one === "number" && one >= from && one <= to).length;
      expect(read).toBe(isOf(from, to));
      expect(table.rowCount + outside + blank).toBe(rows);
      expect(rowNumbers.length <= 100 && rowNumbers.every((one) => all.rowNumbers.includes(one))).toBe(true);
    }
  });

  it("tells the cells that stand otherwise than in the file, page by page over columns and kinds", async () => {
    const edition = await load(
      "changed",
      `Unit,Fee,Hours\n${Array.from({ length: 200 }, (_, at) => `U${at},${at % 12 === 0 ? "n/a" : at},${at % 15 === 0 ? "-" : at}`).join("\n")}\n`,
    );
    const { database } = service.context;
    const whole = await readChanges(database, edition, { first: 0, count: 1_000 });
    expect(whole.total).toBe(whole.cells.length);
    expect(whole.total).toBeGreaterThan(10);
    for (const size of [1, 3, 7]) {
      const pages = [];
      for (let first = 0; first < whole.total; first += size)
        pages.push(...(await readChanges(database, edition, { first, count: size })).cells);
      expect(pages).toEqual(whole.cells);
    }
    for (const { column, kind } of whole.cells) {
      const some = whole.cells.filter((one) => one.column === column && one.kind === kind);
      expect(await readChanges(database, edition, { column, kind, first: 0, count: 1_000 })).toEqual({
        total: some.length,
        cells: some,
      });
    }
    expect(await readChanges(database, edition, { column: "Nothing", first: 0, count: 9 })).toEqual({
      total: 0,
      cells: [],
    });
    expect((await readChanges(database, edition, { first: whole.total + 5, count: 9 })).cells).toEqual([]);
  });

  it("is told with a near name where there is none, and by its number where that is not there", async () => {
    const { database } = service.context;
    const edition = await load("visits", "Site,Fee\nDock,3\n");
    expect(await getEditionById(database, edition.id)).toMatchObject({ number: 1, origin: "visits.csv" });
    await expect(getDataset(database, "visit")).rejects.toMatchObject({
      code: "NOT_FOUND",
      advice: expect.stringContaining("visits"),
    });
    await expect(getEdition(database, "visits", 7)).rejects.toThrow("Cannot find edition 7 of `visits`.");
    await expect(getEditionById(database, 999_999)).rejects.toThrow("a row of editions that has to be there is not");
    await database.execute("INSERT INTO datasets (name) VALUES ('bare')");
    await expect(getEdition(database, "bare")).rejects.toThrow("Cannot find edition 1 of `bare`.");
    expect(
      (await service.list<{ name: string; newest: unknown }>("/api/v1/datasets")).find((one) => one.name === "bare")
        ?.newest,
    ).toBeNull();
  });
});

describe("a version", () => {
  it("is kept once for each number, and what else goes wrong is not taken for that", async () => {
    const { database } = service.context;
    const version = {
      name: "own",
      number: 1,
      title: "Own",
      source: "x",
      definition: {} as never,
      note: null,
      createdBy: "test",
    };
    const add = (one: typeof version) =>
      database.transaction((transaction) => addReportVersion(database, one, transaction));
    expect(await add(version)).toMatchObject({ name: "own", number: 1 });
    expect(await add(version)).toBeUndefined();
    await expect(add({ ...version, name: null as never })).rejects.toThrow();
    await database.execute("DELETE FROM report_versions WHERE name = 'own'");
  });
});

describe("a page of a list", () => {
  it("goes on where the one before ended: nothing twice, nothing left out, whatever the size and the order", async () => {
    const { database } = service.context;
    await database.execute("CREATE TABLE paged (id int PRIMARY KEY, word text, at timestamptz)");
    const words = ["a", "b", "B", "", "ä", "zz", "a b", "0"];
    for (let id = 1; id <= 57; id++)
      await database.execute("INSERT INTO paged VALUES ($1, $2, to_timestamp($3))", [
        id,
        words[id % words.length],
        1e9 + Math.floor(id / 5),
      ]);
    const orders = {
      word: { sql: "word", type: "text" },
      at: { sql: "at", type: "timestamptz" },
      id: { sql: "id", type: "int" },
    } as const;
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 60 }),
        fc.constantFrom("word", "at", "id"),
        fc.boolean(),
        async (limit, by, downwards) => {
          const order: ListQuery["order"] = by === "id" ? [orders.id] : [orders[by], orders.id];
          const query = { select: "id", from: "paged", order, downwards };
          const plain = await database.select<{ id: number }>(
            `SELECT id FROM paged WHERE id <> 13 ORDER BY ${order.map((one) => `${one.sql} ${downwards ? "DESC" : "ASC"}`).join(", ")}`,
          );
          const found: number[] = [];
          let cursor: string | undefined;
          do {
            const page = await selectPage<{ id: number }>(
              database,
              { ...query, where: [["id <> ?", 13]] },
              { limit, ...(cursor ? { cursor } : {}) },
            );
            expect(page.items.length).toBeLessThanOrEqual(limit);
            found.push(...page.items.map((one) => one.id));
            cursor = page.next ?? undefined;
          } while (cursor !== undefined);
          expect(found).toEqual(plain.map((one) => one.id));
        },
      ),
      { numRuns: 40 },
    );
  });

  it("of a list in memory does the same, and not in a list that has changed", () => {
    fc.assert(
      fc.property(fc.array(fc.integer()), fc.integer({ min: 1, max: 9 }), (items, limit) => {
        const found: number[] = [];
        let cursor: string | undefined;
        do {
          const page = pageOf(items, { limit, ...(cursor ? { cursor } : {}) }, "v1");
          found.push(...page.items);
          cursor = page.next ?? undefined;
          if (cursor)
            expect(() => pageOf(items, { limit, cursor: cursor as string }, "v2")).toThrow("it was changed meanwhile");
        } while (cursor !== undefined);
        expect(found).toEqual(items);
      }),
    );
  });

  it.each([
    "x",
    Buffer.from("[1]").toString("base64url"),
    Buffer.from('[{"a":1},2]').toString("base64url"),
    Buffer.from('{"a":1}').toString("base64url"),
  ])("does not begin at a cursor that no page has given: %s", (cursor) => {
    expect(() => pageOf([1, 2, 3], { limit: 1, cursor }, "v1")).toThrow("Cannot go on from this cursor");
  });
});

describe("a database", () => {
  it("that is away is told apart from a question that is wrong", async () => {
    const cluster = inject("databaseUrl");
    const name = `test_${randomBytes(5).toString("hex")}`;
    await makeDatabase(cluster, name);
    const database: Database = await openDatabase(cluster.replace(/\/[^/]+$/, `/${name}`), { migrate: true });
    const wrong = await database.select("SELECT nothing FROM nowhere").catch((error: Error) => error);
    expect(isDatabaseAway(wrong)).toBe(false);
    await expect(database.one("SELECT 1 AS one WHERE false")).rejects.toThrow(
      "the row of a query that always has one is not there",
    );
    expect(await database.one("SELECT $1::int AS two", [2])).toEqual({ two: 2 });
    // The server ends the connections of this database, as it does when it stops.
    const others = await openDatabase(cluster, { migrate: false });
    const asleep = database.select("SELECT pg_sleep(60)").catch((error: Error) => error);
    for (;;) {
      const ended = await others.select(
        "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1 AND query LIKE '%pg_sleep%' AND pid <> pg_backend_pid()",
        [name],
      );
      if (ended.length > 0) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(isDatabaseAway(await asleep)).toBe(true);
    // The next question may still meet the broken connection; the one after that does not.
    const next = await database.select("SELECT 1 AS one").catch((error: Error) => error);
    if (next instanceof Error) expect(isDatabaseAway(next)).toBe(true);
    expect(await database.select("SELECT 1 AS one")).toEqual([{ one: 1 }]);
    await others.close();
    await database.close();
  });
});

describe("the newest editions of several datasets", () => {
  it("are told in one question, and the one that is not there is named", async () => {
    const { database } = service.context;
    await load("first", "Site,Fee\nDock,3\n");
    await load("first", "Site,Fee\nDock,4\n");
    await load("second", "Site,Fee\nDock,3\n");
    let asked = 0;
    const select: Database["select"] = (...given) => {
      asked++;
      return database.select(...given);
    };
    const counted: Database = { ...database, select };
    expect(await newestNumbers(counted, ["first", "second"])).toEqual({ first: 2, second: 1 });
    expect([asked, await newestNumbers(counted, []), asked]).toEqual([1, {}, 1]);
    await expect(newestNumbers(database, ["first", "thrid"])).rejects.toMatchObject({ code: "NOT_FOUND" });
  });
});
