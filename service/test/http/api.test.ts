import { execFile } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { endpoints } from "@corbix/api";
import { connect, Problem } from "@corbix/api/client";
import { ERRORS } from "@corbix/core/common";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { addToken, addUser } from "../../dist/access/access.js";

const root = fileURLToPath(new URL("../../..", import.meta.url));
const demo = (name: string): Uint8Array => readFileSync(new URL(`../../../demo/files/${name}`, import.meta.url));

let service: TestService;
let run: string;

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), {}, () => new Date("2026-11-02T09:00:00Z"));
  run = (await service.client.post("/runs", { body: { report: "site-statement", period: "2026-10" } })).id;
  await service.waitFor(run, ["held"]);
});
afterAll(() => service?.close());

const problem = async (work: Promise<unknown>): Promise<Problem> => {
  const thrown = await work.then(
    () => undefined,
    (error: unknown) => error,
  );
  if (thrown instanceof Problem) return thrown;
  throw new Error(`expected a problem, not ${JSON.stringify(thrown)}`);
};
const collect = async <T>(items: AsyncIterable<T>): Promise<T[]> => {
  const found: T[] = [];
  for await (const item of items) found.push(item);
  return found;
};

describe("lists", () => {
  it("give the same items in the same order, whatever the pages' length, the sorting and the filter", async () => {
    const whole = (await service.client.get("/runs/{id}/parcels", { path: { id: run }, query: { limit: 1_000 } }))
      .items;
    expect(whole.length).toBeGreaterThan(20);
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 30 }),
        fc.constantFrom("number", "-number", "label", "-label", "rowCount", "-rowCount" as const),
        fc.constantFrom(undefined, "a", "court", "example", ".pdf", "address", "name", "%", "_", "\\"),
        fc.constantFrom(undefined, "held", "none", "sent" as const),
        async (limit, sort, search, message) => {
          const query = { limit, sort, ...(search ? { search } : {}), ...(message ? { message } : {}) };
          const found = await collect(service.client.all("/runs/{id}/parcels", { path: { id: run }, query }));
          const wanted = whole.filter((one) => {
            const texts = [
              one.label,
              ...one.files.map((file) => file.path),
              ...Object.values(one.message?.envelope ?? {})
                .flat()
                .flatMap((to) => [to.address, to.name ?? ""]),
            ];
            const isFound = search === undefined || texts.some((text) => text.toLowerCase().includes(search));
            return isFound && (message === undefined || (one.message?.state ?? "none") === message);
          });
          expect(found.map((one) => one.number).sort()).toEqual(wanted.map((one) => one.number).sort());
          const { total } = await service.client.get("/runs/{id}/parcels", { path: { id: run }, query });
          expect(total).toBe(wanted.length);
          const field = sort.replace("-", "") as "number" | "label" | "rowCount";
          const sign = sort.startsWith("-") ? -1 : 1;
          if (field !== "label")
            for (const [index, one] of found.entries()) {
              const before = found[index - 1];
              if (before) expect(sign * (one[field] - before[field])).toBeGreaterThanOrEqual(0);
            }
        },
      ),
      { numRuns: 40 },
    );
  });

  it("neither repeat nor lose anything where something is added on the way", async () => {
    const names = Array.from({ length: 12 }, (_, index) => `paged-${"abcdefghijkl"[index]}`);
    for (const name of names)
      await service.call("POST", `/api/v1/datasets/${name}/editions?file=x.csv`, "Site,Fee\nDock,1\n");
    const seen: string[] = [];
    let cursor: string | null | undefined;
    while (cursor !== null) {
      const query = { search: "paged-", limit: 5, ...(cursor === undefined ? {} : { cursor }) };
      const page = await service.client.get("/datasets", { query });
      seen.push(...page.items.map((one) => one.name));
      cursor = page.next;
      // Before what was seen already: it is not among what follows.
      await service.call("POST", "/api/v1/datasets/paged-aa/editions?file=x.csv", "Site,Fee\nDock,1\n");
    }
    expect(seen).toEqual(names);
  });

  it("refuse cursors that are not theirs, and what is changed under a cursor of the recipient list", async () => {
    const parcels = await service.client.get("/runs/{id}/parcels", { path: { id: run }, query: { limit: 2 } });
    for (const cursor of ["x", "bnVsbA", parcels.next ?? "", `${parcels.next}x`]) {
      const refused = await problem(service.client.get("/letters", { query: { cursor } }));
      expect([refused.status, refused.code, refused.where]).toEqual([400, "BAD_REQUEST", "cursor"]);
    }
    const first = await service.client.get("/recipients", { query: { limit: 3 } });
    await service.client.post("/recipients/entries", {
      body: { group: "Alder Court", name: "Pia Lund", addresses: "pia@aldercourt.example" },
    });
    const changed = await problem(service.client.get("/recipients", { query: { limit: 3, cursor: first.next ?? "" } }));
    expect([changed.status, changed.code]).toEqual([412, "CHANGED_MEANWHILE"]);
  });

  it("ask the database a fixed number of times, however many runs they tell", async () => {
    const asked = async (limit: number): Promise<number> => {
      const { sequelize } = service.context.database;
      const query = sequelize.query.bind(sequelize);
      let count = 0;
      sequelize.query = ((...parts: Parameters<typeof query>) => {
        if (/FROM (?:runs|report_versions|parcels|messages)/.test(String(parts[0]))) count++;
        return query(...parts);
      }) as typeof sequelize.query;
      await service.client.get("/runs", { query: { limit } });
      sequelize.query = query as typeof sequelize.query;
      return count;
    };
    for (let index = 0; index < 6; index++)
      await service.client.post("/runs", {
        body: { report: "site-statement", period: `2026-0${index + 1}`, rehearsalTo: "me@lifts.example" },
      });
    // The service's own rounds may ask meanwhile, which only ever adds: the fewest of several is the list's own.
    const fewest = async (limit: number): Promise<number> => {
      const counts: number[] = [];
      for (let turn = 0; turn < 8; turn++) counts.push(await asked(limit));
      return Math.min(...counts);
    };
    expect(await fewest(6)).toBe(await fewest(1));
    expect(await fewest(6)).toBeLessThanOrEqual(2);
  });
});

describe("cells", () => {
  it("are spelled by their column's type, in rows, profiles and differences", async () => {
    const load = (rows: string) =>
      service.call("POST", "/api/v1/datasets/spelled/editions?file=s.csv", `No,Day,At,Since,Fee\n${rows}`);
    await load("1,2026-11-02,07:30,2026-11-02 07:30:15,3.5\n2,2026-11-30,23:59:30,2026-12-01 00:00:00,4\n");
    const { columns, rows } = await service.client.get("/datasets/{name}/editions/{number}/rows", {
      path: { name: "spelled", number: 1 },
    });
    expect(columns.map((column) => column.type)).toEqual(["number", "date", "time", "datetime", "number"]);
    expect(rows).toEqual([
      [1, "2026-11-02", "07:30:00", "2026-11-02T07:30:15", 3.5],
      [2, "2026-11-30", "23:59:30", "2026-12-01T00:00:00", 4],
    ]);
    const profile = await service.client.post("/datasets/{name}/editions/{number}/profile", {
      path: { name: "spelled", number: 1 },
      body: { columns: ["Day"] },
    });
    expect(profile.columns[0]).toMatchObject({ min: "2026-11-02", max: "2026-11-30" });
    await service.client.put("/datasets/{name}/settings", { path: { name: "spelled" }, body: { key: ["No"] } });
    await load("1,2026-11-03,07:30,2026-11-02 07:30:15,3.5\n2,2026-11-30,23:59:30,2026-12-01 00:00:00,4\n");
    const { changed } = await service.client.get("/datasets/{name}/editions/{number}/difference", {
      path: { name: "spelled", number: 2 },
    });
    expect(changed?.examples).toEqual([{ key: "1", column: "Day", before: "2026-11-02", after: "2026-11-03" }]);
  });
});

describe("what is made", () => {
  it("answers 201 and lies where Location says", async () => {
    const made = async (method: string, path: string, body: unknown): Promise<string> => {
      const answer = await service.call(method, `/api/v1${path}`, body);
      expect([path, answer.status]).toEqual([path, 201]);
      const place = answer.headers.get("location") ?? "";
      const there = await fetch(service.url + place, { headers: { Authorization: `Bearer ${service.signIn.token}` } });
      expect([place, there.status]).toEqual([place, 200]);
      return place;
    };
    const csv = Buffer.from("Site,Fee\nDock,3\n");
    expect(await made("POST", "/datasets/placed/editions?file=p.csv", csv)).toBe("/api/v1/datasets/placed/editions/1");
    const place = await made("POST", "/uploads?file=p.csv", csv);
    const upload = place.split("/").pop();
    await made("POST", "/datasets/placed/editions/from-upload", { upload, file: "p.csv" });
    await made("PUT", "/templates/placed.html", "<p>{{ site }}</p>");
    await made("PUT", "/reports/placed", "report: placed\ntitle: Placed\ndata: placed\nsplit: site\n");
    await made("POST", "/runs", { report: "site-statement", period: "2026-09", rehearsalTo: "me@lifts.example" });
    await made("POST", "/recipients/entries", { group: "Dock", name: "Ida", addresses: "ida@dock.example" });
    await made("POST", "/letterbox/rules", { does: "slow", to: "nobody", share: 0 });
    await made("PUT", "/identities/second", { settings: { from: "Second <second@lifts.example>" } });
    await made("POST", "/tools/hold?name=b.xlsx", demo("visits-2026.xlsx"));
    const again = await service.call("PUT", "/api/v1/templates/placed.html", "<p>{{ site }}</p>");
    expect(again.status).toBe(200);
  });
});

describe("two people who write at once", () => {
  const people = (path: string) =>
    service.call("GET", `/api/v1${path}`).then((answer) => answer.headers.get("etag") ?? "");
  const entry = (name: string) => ({ group: "Alder Court", name, addresses: `${name.toLowerCase()}@x.example` });

  it.each([
    [
      "a report",
      "/reports/site-statement",
      () => "/reports/site-statement",
      async () => (await service.client.get("/reports/{name}", { path: { name: "site-statement" } })).source,
    ],
    [
      "a report's message",
      "/reports/site-statement/message",
      () => "/reports/site-statement/message",
      async () => ({
        words: (await service.client.get("/reports/{name}/message", { path: { name: "site-statement" } })).words,
      }),
    ],
    [
      "a template",
      "/templates/monthly.html",
      () => "/templates/monthly.html",
      async () => `<p>{{ recipient.name }} ${Math.random()}</p>`,
    ],
    [
      "a dataset's settings",
      "/datasets/visits/settings",
      () => "/datasets/visits/settings",
      async () => ({ key: [], mode: "replace" }),
    ],
    [
      "an identity",
      "/identities/office",
      () => "/identities/office",
      async () => ({ settings: { from: `Office <office@lifts.example>`, perMinute: Math.ceil(Math.random() * 1e4) } }),
    ],
    [
      "the recipient list",
      "/recipients",
      () => "/recipients?file=l.csv&mode=merge",
      async () => `Group,Name,Addresses\nDock,N${Math.random()},n@x.example\n`,
    ],
  ])("do not write over each other: %s", async (_, read, write, body) => {
    const etag = await people(read);
    expect(etag).toMatch(/^"[^"]+"$/);
    const first = await service.call("PUT", `/api/v1${write()}`, await body(), { "If-Match": etag });
    expect([first.status, JSON.stringify(first.body)]).toEqual([200, expect.any(String)]);
    const changed = (await people(read)) !== etag;
    const second = await service.call<{ code: string }>("PUT", `/api/v1${write()}`, await body(), {
      "If-Match": '"older"',
    });
    expect([second.status, second.body.code]).toEqual([412, "CHANGED_MEANWHILE"]);
    if (changed) {
      const late = await service.call("PUT", `/api/v1${write()}`, await body(), { "If-Match": etag });
      expect(late.status).toBe(412);
    }
    // Whoever does not say what they read writes.
    expect((await service.call("PUT", `/api/v1${write()}`, await body())).status).toBe(200);
  });

  it("keep every entry that several add at the same moment", async () => {
    const before = (await service.client.get("/recipients")).total;
    const names = ["Ada", "Bo", "Cy", "Di", "Ed", "Flo", "Gus", "Hal"];
    await Promise.all(names.map((name) => service.client.post("/recipients/entries", { body: entry(name) })));
    const after = await service.client.get("/recipients", { query: { limit: 1_000 } });
    expect(after.total).toBe(before + names.length);
    expect(after.items.map((one) => one.name)).toEqual(expect.arrayContaining(names));
    const rows = after.items.filter((one) => names.includes(one.name)).map((one) => one.row);
    expect(new Set(rows).size).toBe(names.length);
  });

  it("let one of them through where all read the same", async () => {
    const { source } = await service.client.get("/reports/{name}", { path: { name: "site-statement" } });
    const etag = await people("/reports/site-statement");
    const answers = await Promise.all(
      Array.from({ length: 5 }, (_, index) =>
        service.call("PUT", "/api/v1/reports/site-statement", `${source}\n# ${index}\n`, { "If-Match": etag }),
      ),
    );
    expect(answers.map((one) => one.status).sort()).toEqual([200, 412, 412, 412, 412]);
  });
});

describe("a call with a key", () => {
  const body = { report: "site-statement", period: "2026-08", rehearsalTo: "me@lifts.example" };
  const start = (key: string, more: object = {}) =>
    service.call<{ id: string; code?: string }>(
      "POST",
      "/api/v1/runs",
      { ...body, ...more },
      { "Idempotency-Key": key },
    );

  it("is done once and answered alike; another one with the key is refused", async () => {
    const first = await start("august");
    const again = await start("august");
    expect([first.status, again.status, again.body]).toEqual([201, 201, first.body]);
    expect(again.headers.get("location")).toBe(`/api/v1/runs/${first.body.id}`);
    expect(again.headers.get("idempotency-replayed")).toBe("true");
    const other = await start("august", { period: "2026-07" });
    expect([other.status, other.body.code]).toEqual([422, "KEY_REUSED"]);
    expect((await service.list<{ period: string }>("/api/v1/runs?period=2026-08")).length).toBe(1);
  });

  it("is done once where it comes several times at once", async () => {
    const before = (await service.list("/api/v1/runs")).length;
    const answers = await Promise.all(Array.from({ length: 6 }, () => start("all at once")));
    const done = answers.filter((one) => one.status === 201);
    expect(new Set(done.map((one) => one.body.id)).size).toBe(1);
    expect(answers.filter((one) => one.status !== 201).every((one) => one.body.code === "CONFLICT")).toBe(true);
    expect((await service.list("/api/v1/runs")).length).toBe(before + 1);
  });

  it("may be tried again where it was refused, and is somebody's own", async () => {
    const refused = await start("later", { report: "not-there" });
    expect(refused.status).toBe(404);
    expect((await start("later")).status).toBe(201);
    const { database } = service.context;
    const token = await addToken(database, await addUser(database, "second", "a long password"), "client");
    const other = connect({ url: service.url, token });
    const made = await other.post("/runs", { body, headers: { "Idempotency-Key": "later" } });
    expect(made.id).not.toBe((await start("later")).body.id);
  });

  it("loads a file once", async () => {
    const load = () =>
      service.call<{ number: number }>("POST", "/api/v1/datasets/keyed/editions?file=k.csv", "Site\nDock\n", {
        "Idempotency-Key": "file of monday",
      });
    expect([(await load()).body.number, (await load()).body.number]).toEqual([1, 1]);
    expect(await service.list("/api/v1/datasets/keyed/editions")).toHaveLength(1);
  });
});

describe("what is wrong", () => {
  it("is told as problem details with a code of the register, at every address", async () => {
    for (const [id, one] of Object.entries(endpoints)) {
      if (one.isOpen) continue;
      const path = one.path.replaceAll(/\{(\w+)\}/g, "1");
      const answer = await fetch(`${service.url}/api/v1${path}`, { method: one.method.toUpperCase() });
      expect([id, answer.status, answer.headers.get("content-type")]).toEqual([
        id,
        401,
        expect.stringContaining("application/problem+json"),
      ]);
      const told = (await answer.json()) as { code: keyof typeof ERRORS; status: number };
      expect(ERRORS[told.code].status).toBe(told.status);
    }
  });

  it("names what an address does not know, and the methods it takes", async () => {
    const unknown = await service.call<{ title: string }>("GET", "/api/v1/runs?colour=red");
    expect([unknown.status, unknown.body.title]).toEqual([400, expect.stringContaining("colour")]);
    const method = await service.call<{ code: string }>("DELETE", "/api/v1/runs");
    expect([method.status, method.body.code, method.headers.get("allow")]).toEqual([
      405,
      "METHOD_NOT_ALLOWED",
      "GET, POST",
    ]);
    const old = await service.call<{ advice: string }>("GET", "/api/runs");
    expect([old.status, old.body.advice]).toEqual([404, expect.stringContaining("/api/v1")]);
    for (const path of ["/api/v1/reports/site-statment", "/api/v1/datasets/visit", "/api/v1/templates/statemnt.xlsx"]) {
      const near = await service.call<{ advice: string }>("GET", path);
      expect([near.status, near.body.advice]).toEqual([404, expect.stringContaining("Did you mean")]);
    }
  });
});

describe("findings", () => {
  it("of one kind are told as one with their number, and one by one where they are asked for", async () => {
    const rows = Array.from({ length: 40 }, (_, index) => `Site ${index},${index}`).join("\n");
    await service.call("POST", "/api/v1/datasets/lonely/editions?file=l.csv", `Site,Fee\n${rows}\n`);
    await service.call(
      "PUT",
      "/api/v1/reports/lonely",
      "report: lonely\ntitle: Lonely\ndata: lonely\nsplit: site\nmessage: { subject: x, body: { text: x } }\n",
    );
    const { id } = await service.client.post("/runs", { body: { report: "lonely" } });
    await service.waitFor(id, ["held"]);
    const { findings } = await service.client.get("/runs/{id}", { path: { id } });
    const told = findings.filter((one) => one.code === "group-without-recipient");
    expect(told).toMatchObject([{ times: 40, severity: "warn", where: "group Site 0" }]);
    expect(told[0]?.what).toMatch(/"Site 0".*And 39 more like it\.$/);
    const query = { code: "group-without-recipient", limit: 7 };
    const all = await collect(service.client.all("/runs/{id}/findings", { path: { id }, query }));
    expect(all.map((one) => one.where)).toEqual(Array.from({ length: 40 }, (_, index) => `group Site ${index}`));
  });
});

describe("the client", () => {
  it("does what the paper shows", async () => {
    const paper = readFileSync(`${root}docs/http.md`, "utf8");
    const script = /```js\n([\s\S]*?)```/.exec(paper)?.[1] ?? "";
    const folder = mkdtempSync(`${root}node_modules/.example-`);
    writeFileSync(`${folder}/example.mjs`, script);
    try {
      const { stdout } = await promisify(execFile)(process.execPath, [`${folder}/example.mjs`], {
        env: { ...process.env, CORBIX_URL: service.url, CORBIX_TOKEN: service.signIn.token },
      });
      expect(stdout).toMatch(/^Monthly statement of lift inspections, October 2026: done, 24 messages$/m);
      expect(stdout).toMatch(/^Alder Court: \d+ rows, \d files$/m);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it("says where a service should be that cannot be reached", async () => {
    const away = await problem(connect({ url: "http://127.0.0.1:9" }).get("/runs"));
    expect([away.status, away.code, away.where]).toEqual([0, "SERVICE_UNREACHABLE", "http://127.0.0.1:9"]);
  });
});
