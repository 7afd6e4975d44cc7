import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { createConnection, createServer } from "node:net";
import { join } from "node:path";
import ExcelJS from "exceljs";
import nodemailer from "nodemailer";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { protect } from "../../../core/test/support/protect.js";
import { type TestService, testService } from "../../../test/setup/service.js";
import { getEdition, readPeriod } from "../../dist/records/index.js";

interface Finding {
  readonly code: string;
  readonly severity: string;
  readonly what: string;
}
interface Edition {
  readonly number: number;
  readonly rowCount: number;
  readonly columns: readonly { readonly name: string; readonly type: string }[];
  readonly findings: readonly Finding[];
  readonly decisions: readonly { readonly what: string; readonly chosen: string; readonly corrected: boolean }[];
  readonly appended: { readonly added: number; readonly replaced: number } | null;
}
interface Look {
  readonly rowNumbers: readonly number[];
  readonly rows: readonly (readonly unknown[])[];
  readonly columns: readonly { readonly name: string }[];
  readonly total: number;
  readonly of: number;
  readonly first: number;
}
interface Problem {
  readonly code: string;
  readonly title: string;
  readonly advice?: string;
}

let service: TestService;
let mailPort = 0;

beforeAll(async () => {
  mailPort = await freePort();
  service = await testService(inject("databaseUrl"), {
    CORBIX_INBOX_SETTLE: "0.5",
    CORBIX_INTAKE_MAIL_PORT: String(mailPort),
    CORBIX_UPLOAD_LIMIT: "3000000",
  });
});
afterAll(() => service?.close());

async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const address = server.address();
  await new Promise((resolve) => server.close(resolve));
  return typeof address === "object" && address ? address.port : 0;
}

const load = async <T = Edition>(dataset: string, text: string | Uint8Array, query: Record<string, string> = {}) =>
  service.call<T>(
    "POST",
    `/api/v1/datasets/${dataset}/editions?${new URLSearchParams({ file: "visits.csv", ...query })}`,
    typeof text === "string" ? Buffer.from(text) : text,
  );
const look = async (dataset: string, number: number, body: object) =>
  (await service.call<Look>("POST", `/api/v1/datasets/${dataset}/editions/${number}/look`, body)).body;
const codes = (edition: { readonly findings: readonly Finding[] }) => edition.findings.map((one) => one.code);

async function until<T>(what: () => Promise<T | undefined>, seconds = 20): Promise<T> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const found = await what();
    if (found !== undefined) return found;
    if (Date.now() > end) throw new Error("it did not come about in time");
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

describe("editions", () => {
  it("look first, keep nothing, then load with the corrections and keep them for the next file", async () => {
    const file = "Site,Due,Fee\nDock,02/10/2026,3\nQuay,03/04/2026,4\n";
    const { body: upload } = await service.call<{ upload: string }>(
      "POST",
      "/api/v1/uploads?file=due.csv",
      Buffer.from(file),
    );
    const preview = await service.call<Edition & { preview: { rows: unknown[][] } }>(
      "POST",
      "/api/v1/datasets/due/preview",
      {
        upload: upload.upload,
        file: "due.csv",
      },
    );
    expect(codes(preview.body)).toContain("ambiguous-dates");
    expect(preview.body.preview.rows[0]).toEqual(["Dock", "02/10/2026", 3]);
    expect((await service.call("GET", "/api/v1/datasets/due")).status).toBe(404);
    const rules = { types: { Due: { type: "date", order: "month-first" } } };
    const loaded = await service.call<Edition>("POST", "/api/v1/datasets/due/editions/from-upload", {
      upload: upload.upload,
      file: "due.csv",
      rules,
      keep: true,
    });
    expect(loaded.body.columns[1]).toEqual({ name: "Due", type: "date" });
    const next = await load("due", file.replace("Dock", "Mill"));
    expect(next.body.columns[1].type).toBe("date");
    expect(next.body.decisions.find((one) => one.what === "type of Due")?.corrected).toBe(true);
  });

  it("reads a file without a header as it is told, keeps that for later files, and refuses what is no correction", async () => {
    const bare = "Dock;L-1;92.50\nQuay;L-2;80.00\n";
    const path = "/api/v1/datasets/bare/editions?file=bare.csv";
    const refused = await service.call<Problem>("POST", path, bare);
    expect(refused.status).toBe(422);
    expect(refused.body.advice).toContain("the header is none");
    const wrong = await service.call<Problem>("POST", `${path}&rules=${encodeURIComponent('{"header":"no"}')}`, bare);
    expect([wrong.status, wrong.body.code]).toEqual([400, "BAD_REQUEST"]);
    const rules = encodeURIComponent(JSON.stringify({ header: "none", names: ["Site", "Unit", "Fee"] }));
    const told = await service.call<Edition>("POST", `${path}&rules=${rules}`, bare);
    expect(told.body.columns.map((column) => column.name)).toEqual(["Site", "Unit", "Fee"]);
    expect(told.body.rowCount).toBe(2);
    const kept = await service.call("PUT", "/api/v1/datasets/bare/settings", {
      rules: { header: "none", names: ["Site", "Unit", "Fee"], encoding: "windows-1250" },
    });
    expect(kept.status).toBe(200);
    const next = await service.call<Edition>("POST", path, `${bare}Mill;L-3;75.25\n`);
    expect([next.body.rowCount, next.body.decisions.find((one) => one.what === "encoding")?.corrected]).toEqual([
      3,
      true,
    ]);
  });

  it("tells a file that shares no column with the edition before as another table", async () => {
    await service.call("POST", "/api/v1/datasets/other/editions?file=visits.csv", "Site,Fee\nDock,3\nQuay,4\n");
    const other = await service.call<Edition>(
      "POST",
      "/api/v1/datasets/other/editions?file=rates.csv",
      "Grade,Rate per hour,Valid from\nsenior,95,2026-01-01\njunior,70,2026-01-01\n",
    );
    const found = other.body.findings.find((one) => one.code === "other-table");
    expect(found).toMatchObject({ severity: "stop" });
    expect(found?.what).toContain("none of the columns");
    const { body } = await service.call<{ same: number; added: { count: number } }>(
      "GET",
      "/api/v1/datasets/other/editions/2/difference",
    );
    expect([body.same, body.added.count]).toEqual([0, 2]);
  });

  it("keeps the file itself, byte for byte", async () => {
    const bytes = Buffer.from("Site;Fee\r\nZürich;3\r\n", "latin1");
    const { body } = await load("origin", bytes);
    const response = await fetch(`${service.url}/api/v1/datasets/origin/editions/${body.number}/file`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    expect(response.headers.get("content-disposition")).toContain("visits.csv");
    expect(Buffer.from(await response.arrayBuffer())).toEqual(bytes);
    expect((await look("origin", 1, {})).rows).toEqual([["Zürich", 3]]);
  });

  it("recognises the same bytes, and tells missing, renamed, new and retyped columns", async () => {
    await load("drift", "Site,Hours,Rate,Kind\nDock,1,90,a\nQuay,2,92,b\nMill,3,94,c\n");
    const same = await load("drift", "Site,Hours,Rate,Kind\nDock,1,90,a\nQuay,2,92,b\nMill,3,94,c\n");
    expect(codes(same.body)).toContain("same-bytes");
    const next = await load("drift", "Location,Hours,Parts,Kind\nDock,long,9,a\nQuay,short,8,b\nMill,long,7,c\n");
    const found = Object.fromEntries(next.body.findings.map((one) => [one.code, one.what]));
    expect(found["column-renamed"]).toContain('"Site" is gone; "Location" is probably the same');
    expect(found["column-missing"]).toContain('"Rate"');
    expect(found["column-new"]).toContain('"Parts"');
    expect(found["column-retyped"]).toContain("was number and is text now");
  });

  it("stops before a run when a column that a report uses is gone", async () => {
    const book = new ExcelJS.Workbook();
    await book.xlsx.readFile(new URL("../../../demo/files/visits-2026.xlsx", import.meta.url).pathname);
    const sheet = book.worksheets[0];
    const header = sheet.getRow(4);
    header.eachCell((cell) => {
      if (cell.value === "Rate") cell.value = "Price list";
    });
    const bytes = new Uint8Array(await book.xlsx.writeBuffer());
    const { body } = await service.call<Edition>("POST", "/api/v1/datasets/visits/editions?file=renamed.xlsx", bytes);
    const drift = body.findings.find((one) => one.code.startsWith("column-renamed"));
    expect(drift?.severity).toBe("stop");
    expect(drift?.what).toContain("office-months, site-statement, unit-figures, visit-enquiry use it");
  });

  it("shows the difference between editions, by key where there is one", async () => {
    await load("diff", "No,Site,Fee\n1,Dock,3\n2,Quay,4\n3,Mill,5\n");
    await service.call("PUT", "/api/v1/datasets/diff/settings", { key: ["No"] });
    await load("diff", "No,Site,Fee\n1,Dock,3\n2,Quay,4.5\n4,Weir,6\n");
    const { body } = await service.call<{
      added: { count: number; rowNumbers: number[] };
      gone: { count: number };
      changed: { count: number; examples: { column: string; before: number; after: number }[] };
      totals: { column: string; difference: string }[];
    }>("GET", "/api/v1/datasets/diff/editions/2/difference");
    expect(body.added).toEqual({ count: 1, rowNumbers: [4] });
    expect(body.gone.count).toBe(1);
    expect(body.changed.examples).toEqual([{ key: "2", column: "Fee", before: 4, after: 4.5 }]);
    expect(body.totals.find((one) => one.column === "Fee")?.difference).toBe("1.5");
  });

  it("adds to the edition before by key, and refuses without one", async () => {
    await load("log", "No,Site,Fee\n1,Dock,3\n2,Quay,4\n");
    const refused = await load<Problem>("log", "No,Site,Fee\n3,Mill,5\n", { mode: "append" });
    expect(refused.status).toBe(400);
    await service.call("PUT", "/api/v1/datasets/log/settings", { mode: "append", key: ["No"] });
    const { body } = await load("log", "No,Site,Fee\n2,Quay,40\n3,Mill,5\n");
    expect(body.appended).toEqual({ added: 1, replaced: 1 });
    expect((await look("log", body.number, {})).rows).toEqual([
      [1, "Dock", 3],
      [2, "Quay", 40],
      [3, "Mill", 5],
    ]);
  });

  it("keeps a workbook's password sealed and never gives it back", async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet("Visits").addRows([
      ["Site", "Fee"],
      ["Dock", 3],
    ]);
    const locked = protect(new Uint8Array(await book.xlsx.writeBuffer()), "Schacht 7", 50);
    const refused = await load<Problem>("locked", locked);
    expect(refused.body.code).toBe("PASSWORD_NEEDED");
    await load("locked", "Site,Fee\nDock,3\n");
    const settings = await service.call<Record<string, unknown>>("PUT", "/api/v1/datasets/locked/settings", {
      password: "Schacht 7",
    });
    expect(settings.body.hasPassword).toBe(true);
    expect(JSON.stringify(settings.body)).not.toContain("Schacht");
    expect((await load("locked", locked)).body.rowCount).toBe(1);
    const kept = await service.context.database.select<{ settings: object }>(
      "SELECT settings FROM datasets WHERE name = 'locked'",
    );
    expect(JSON.stringify(kept)).not.toContain("Schacht");
  });
});

describe("a hostile file", () => {
  it("is refused, and the service goes on", async () => {
    const huge = await load<Problem>("hostile", Buffer.alloc(3_000_001, "a"));
    expect(huge.status).toBe(413);
    expect(readdirSync(join(service.data, "files")).filter((name) => name.startsWith("incoming"))).toEqual([]);
    for (const bytes of [Buffer.from("PK\u0003\u0004nonsense"), Buffer.alloc(2_000_000, "["), Buffer.alloc(1000)]) {
      const { status, body } = await load<Problem>("hostile", bytes);
      expect(status).toBeGreaterThanOrEqual(400);
      expect(status).toBeLessThan(500);
      expect(body.title).toMatch(/^Cannot/);
    }
    expect((await service.call("GET", "/api/v1/datasets")).status).toBe(200);
  });

  it("that takes too much memory ends its thread and nothing else", async () => {
    const small = await testService(inject("databaseUrl"), { CORBIX_INTAKE_MEMORY: "64", CORBIX_DEMO: "false" });
    try {
      const rows = Array.from({ length: 400_000 }, (_, at) => `a ${at},b ${at * 7},c ${at * 13}`).join("\n");
      const { status, body } = await small.call<Problem>(
        "POST",
        "/api/v1/datasets/big/editions?file=big.csv",
        Buffer.from(`Site,Unit,Kind\n${rows}\n`),
      );
      expect([status, body.code]).toEqual([413, "LIMIT_EXCEEDED"]);
      expect(body.advice).toContain("CORBIX_INTAKE_MEMORY");
      expect((await small.call("GET", "/api/v1/datasets")).status).toBe(200);
    } finally {
      await small.close();
    }
  });
});

describe("looking at an edition", () => {
  beforeAll(async () => {
    const rows = Array.from(
      { length: 40_000 },
      (_, at) => `${at},Site ${at % 50},${(at % 997) / 100},2026-${String(1 + (at % 12)).padStart(2, "0")}-05`,
    );
    await load("many", `No,Site,Fee,Day\n${rows.join("\n")}\n`);
  });

  it("filters, searches and sorts over all pieces, and gives any window of it", async () => {
    const filtered = await look("many", 1, {
      query: {
        filters: [
          { column: "Site", is: "equal", value: "site 7" },
          { column: "Fee", is: "at-least", value: "9.9" },
        ],
        sort: ["-No"],
      },
      limit: 5,
    });
    expect(filtered.of).toBe(40_000);
    const expected = Array.from({ length: 40_000 }, (_, at) => at).filter(
      (at) => at % 50 === 7 && (at % 997) / 100 >= 9.9,
    );
    expect(filtered.total).toBe(expected.length);
    expect(filtered.rows.map((row) => row[0])).toEqual(expected.reverse().slice(0, 5));
    const found = await look("many", 1, { query: { search: "2026-03-05" }, first: 3000, limit: 2 });
    expect(found.total).toBe(Math.ceil(40_000 / 12));
    const jump = await look("many", 1, { rowNumber: 30_002, limit: 1 });
    expect([jump.first, jump.rowNumbers[0]]).toEqual([30_000, 30_002]);
  });

  it("profiles columns exactly", async () => {
    const { columns: body } = await service.client.post("/datasets/{name}/editions/{number}/profile", {
      path: { name: "many", number: 1 },
      body: { columns: ["Fee"] },
    });
    const cents = Array.from({ length: 40_000 }, (_, at) => at % 997).reduce((sum, one) => sum + one, 0);
    expect(body[0].sum).toBe(String(cents / 100));
    expect([body[0].count, body[0].distinct, body[0].min, body[0].max]).toEqual([40_000, 997, 0, 9.96]);
    expect(body[0].histogram.reduce((sum, bar) => sum + bar.count, 0)).toBe(40_000);
  });

  it("says which column it does not know", async () => {
    const { status, body } = await service.call<Problem>("POST", "/api/v1/datasets/many/editions/1/look", {
      query: { sort: ["Fees"] },
    });
    expect([status, body.advice]).toEqual([400, 'Did you mean "Fee"?']);
  });

  it("lists changed cells with what stood there", async () => {
    await load(
      "changed",
      "Site;Hours\n Dock ;1\nQuay;2\nMill;soon\nWeir;4\nLock;5\nDam;6\nPier;7\nBay;8\nCove;9\nFord;1\nIsle;2\n",
    );
    const { body } = await service.call<{ total: number; items: unknown[] }>(
      "GET",
      "/api/v1/datasets/changed/editions/1/changes?kind=unreadable",
    );
    expect(body).toEqual({
      total: 1,
      next: null,
      items: [{ column: "Hours", kind: "unreadable", row: 4, raw: "soon" }],
    });
  });

  it("shows each step of a report's preparation with rows in, out and reasons, and its rows", async () => {
    const { items: body } = await service.client.get("/reports/{name}/steps", {
      path: { name: "site-statement" },
      query: { edition: 1 },
    });
    expect(body.map((step) => step.kind)).toEqual(["keep", "add", "sort"]);
    for (const step of body)
      expect(step.rowsOut + step.leftOut.reduce((sum, one) => sum + one.count, 0)).toBe(step.rowsIn);
    const seen = await look("visits", 1, {
      report: "site-statement",
      limit: 1,
      query: { search: "", filters: [], sort: ["-fee"] },
    });
    expect(seen.columns.at(-1)?.name).toBe("fee");
    expect(seen.total).toBe(body[0].rowsOut);
  });
});

describe("a run over one period of a long edition", () => {
  it("reads only the pieces that hold the period, and still accounts for every row", async () => {
    const rows = Array.from(
      { length: 50_000 },
      (_, at) => `${at},Site ${at % 5},2026-${String(1 + Math.floor(at / 5000)).padStart(2, "0")}-15`,
    );
    await load("long", `No,Site,Day\n${rows.join("\n")}\n50000,Site 1,\n`);
    const { database } = service.context;
    const edition = await getEdition(database, "long");
    const read = await readPeriod(database, edition, "Day", { from: 46_023, to: 46_053 });
    expect(read.table.rowCount).toBeLessThan(20_000);
    expect(read.table.rowCount + read.outside + read.blank).toBe(50_001);
    const source =
      "report: long\ntitle: Long\ndata: long\nperiod: { column: day, every: month }\nsplit: site\ntotals: { rows: count(line) }\n";
    await service.call("PUT", "/api/v1/reports/long", source);
    const { body } = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "long", period: "2026-01" });
    const run = await service.waitFor(body.id, ["held", "done", "failed"]);
    expect(run.sentences[0]).toBe(
      "50,001 rows = 5,000 in 5 groups + 45,001 left out (45,000 Day not in 2026-01, 1 without Day).",
    );
  });
});

describe("groups", () => {
  it("lists them with what wants a look; an alias merges two, and the run keeps to it", async () => {
    const { body } = await service.call<{
      total: number;
      near: { from: string; to: string }[];
      findings: Finding[];
    }>("GET", "/api/v1/datasets/visits/editions/1/groups");
    expect(codes(body)).toEqual(expect.arrayContaining(["near-double", "group-without-recipient"]));
    const [pair] = body.near;
    const before = body.total;
    await service.call("PUT", "/api/v1/datasets/visits/settings", {
      aliases: [{ column: "Site", ...pair, why: undefined }],
    });
    const merged = await service.call<{ total: number }>("GET", "/api/v1/datasets/visits/editions/1/groups");
    expect(merged.body.total).toBe(before - 1);
    const started = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "site-statement",
      period: "2026-10",
      edition: 1,
    });
    const run = await service.waitFor(started.body.id, ["held", "failed"]);
    expect(run.state).toBe("held");
    expect(run.findings.filter((one) => one.code === "near-double")).toEqual([]);
    expect(run.sentences[0]).toMatch(/^2,460 rows = 239 in 25 groups/);
    await service.call("PUT", "/api/v1/datasets/visits/settings", { aliases: [] });
  });

  it("refuses a misspelt column", async () => {
    const { body } = await service.call<Problem>("PUT", "/api/v1/datasets/visits/settings", { key: ["Visit nr"] });
    expect(body.advice).toContain("Visit no");
  });
});

describe("a run over the rows found", () => {
  it("takes those rows only, accounts for the others, and leaves the period's own delivery to come", async () => {
    const query = { search: "", filters: [{ column: "Site", is: "equal", value: "Harbour House" }], sort: [] };
    const started = await service.call<{ id: string; rowsChosen: number }>("POST", "/api/v1/runs", {
      report: "site-statement",
      period: "2026-10",
      edition: 1,
      rows: query,
    });
    const run = await service.waitFor(started.body.id, ["held", "failed"]);
    expect(run.sentences[0]).toContain("in 1 group");
    expect(run.sentences[0]).toContain("not among the rows found");
    await service.call("POST", `/api/v1/runs/${run.id}/release`, {});
    await service.waitFor(run.id, ["done"]);
    const [{ period }] = await service.context.database.select<{ period: string }>(
      "SELECT occasion AS period FROM ledger WHERE run_id = $1",
      [run.id],
    );
    expect(period).not.toBe("2026-10");
  });
});

describe("a sealed report with a table instead of a template", () => {
  const definition = (keep: string) =>
    `report: rows\ntitle: Rows\ndata: parts\nkeep: ${keep}\nsplit: site\nsealed: true\nfiles:\n  rows: { name: "{{ site }}", table: { sheet: "{{ site }}" }, values: true, pdf: too }\n`;

  it("is made, proved and held; another group's name in a row stops it", async () => {
    await load("parts", "Site,Note,Fee\nDock,fine,3\nQuay,as at the Dock,4\n");
    await service.call("PUT", "/api/v1/reports/rows", definition('note = "fine"'));
    const good = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "rows" });
    const held = await service.waitFor(good.body.id, ["held", "failed"]);
    expect(held.state).toBe("held");
    expect(held.sentences.at(-1)).toContain("the names of 1 group; none stands in another's");
    await service.call("PUT", "/api/v1/reports/rows", definition("fee > 0"));
    const bad = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "rows" });
    const stopped = await service.waitFor(bad.body.id, ["held", "failed"]);
    expect(stopped.proof?.mayBeReleased).toBe(false);
    expect(stopped.findings.find((one) => one.code === "other-group-inside")?.what).toContain('"Dock"');
    expect((await service.call("POST", `/api/v1/runs/${stopped.id}/release`, {})).status).toBe(409);
  });
});

describe("the watched folder", () => {
  const inbox = (...path: string[]) => join(service.data, "inbox", ...path);

  it("takes a file when it is fully written, and moves it away", async () => {
    mkdirSync(inbox("drops"), { recursive: true });
    const path = inbox("drops", "october.csv");
    writeFileSync(path, "Site,Fee\nDock,3\n");
    // Still growing: every write puts the taking off.
    for (let piece = 0; piece < 6; piece++) {
      await new Promise((resolve) => setTimeout(resolve, 300));
      expect((await service.call("GET", "/api/v1/datasets/drops")).status).toBe(404);
      writeFileSync(path, `Quay ${piece},4\n`, { flag: "a" });
    }
    const newest = await until(async () => {
      const { status, body } = await service.call<{ newest: Edition }>("GET", "/api/v1/datasets/drops");
      return status === 200 ? body.newest : undefined;
    });
    expect(newest.rowCount).toBe(7);
    await until(async () => (existsSync(path) ? undefined : true));
    expect(readdirSync(inbox("drops", "done"))).toEqual([expect.stringMatching(/ october\.csv$/)]);
  });

  it("moves a refused file aside with a note that says why, and passes over unfinished ones", async () => {
    mkdirSync(inbox("drops"), { recursive: true });
    writeFileSync(inbox("drops", "half.csv.part"), "Site,Fee\nDock");
    writeFileSync(inbox("drops", "~$open.xlsx"), "x");
    writeFileSync(inbox("drops", "new.tmp"), "1,2\n3,4\n");
    renameSync(inbox("drops", "new.tmp"), inbox("drops", "numbers.csv"));
    const note = await until(async () => {
      const names = existsSync(inbox("drops", "refused")) ? readdirSync(inbox("drops", "refused")) : [];
      return names.find((name) => name.endsWith(".txt"));
    });
    expect(readFileSync(inbox("drops", "refused", note), "utf8")).toContain("Cannot find a header row");
    expect(existsSync(inbox("drops", "half.csv.part"))).toBe(true);
    // The note is there before the list of arrivals has it.
    const arrived = await until(async () =>
      (await service.list<{ outcome: string; file: string }>("/api/v1/arrivals")).find(
        (one) => one.file === "numbers.csv",
      ),
    );
    expect(arrived.outcome).toBe("refused");
  });
});

describe("files by mail", () => {
  const mail = (from: string, to: string, attachments: object[], header = from) =>
    nodemailer
      .createTransport({ host: "127.0.0.1", port: mailPort, secure: false, ignoreTLS: true })
      .sendMail({ envelope: { from, to }, from: header, to, subject: "Visits", text: "attached", attachments });
  const csv = { filename: "october.csv", content: "Site,Fee\nDock,3\nQuay,4\n" };

  beforeAll(async () => {
    await load("post", "Site,Fee\nDock,3\n");
    const { body } = await service.call<{ address: string }>("PUT", "/api/v1/datasets/post/settings", {
      mailbox: { name: "post", senders: ["system@lifts.example", "@trusted.example"] },
    });
    expect(body.address).toBe("post@corbix.localhost");
  });

  it("makes the attachment an edition and says so in the answer", async () => {
    const logo = { filename: "logo.png", content: Buffer.from([1, 2, 3]) };
    const sent = await mail("system@lifts.example", "post@corbix.localhost", [logo, csv]);
    expect(sent.response).toContain("october.csv is edition 2 of post, 2 rows");
  });

  it("refuses other senders, also behind a borrowed envelope, other addresses, and messages without a table", async () => {
    await expect(mail("who@else.example", "post@corbix.localhost", [csv])).rejects.toThrow("not allowed");
    await expect(mail("system@lifts.example", "post@corbix.localhost", [csv], "who@else.example")).rejects.toThrow(
      "who@else.example is not allowed",
    );
    await expect(mail("system@lifts.example", "visits@corbix.localhost", [csv])).rejects.toThrow("No dataset");
    await expect(mail("a@trusted.example", "post@corbix.localhost", [])).rejects.toThrow("Cannot find a table");
    await expect(
      mail("a@trusted.example", "post@corbix.localhost", [csv, { ...csv, filename: "b.csv" }]),
    ).rejects.toThrow("Cannot tell which");
    expect(await service.list("/api/v1/datasets/post/editions")).toHaveLength(2);
  });

  it("is not disturbed by a line that breaks off in the middle of a message", async () => {
    await new Promise<void>((resolve) => {
      const socket = createConnection(mailPort, "127.0.0.1");
      const lines = ["EHLO x", "MAIL FROM:<system@lifts.example>", "RCPT TO:<post@corbix.localhost>", "DATA"];
      socket.on("data", () => {
        const line = lines.shift();
        if (line) socket.write(`${line}\r\n`);
        else socket.end("Subject: half\r\n\r\nSite,Fee\r\n", () => socket.destroy());
      });
      socket.on("close", () => resolve());
    });
    expect((await mail("system@lifts.example", "post@corbix.localhost", [csv])).response).toContain("edition 3");
  });
});

describe("new data", () => {
  it("starts the reports that ask for it, held as usual", async () => {
    const source = readFileSync(new URL("../../../demo/files/site-statement.yaml", import.meta.url), "utf8")
      .replace("report: site-statement", "report: on-arrival")
      .replace(/schedule:[\s\S]*$/, "startOnData: true\n");
    const master = readFileSync(new URL("../../../demo/files/visits-2026.xlsx", import.meta.url));
    await service.call("POST", "/api/v1/datasets/visits/editions?file=visits.xlsx", master);
    expect((await service.call("PUT", "/api/v1/reports/on-arrival", source)).status).toBe(201);
    await service.call("POST", "/api/v1/datasets/visits/editions?file=visits.xlsx", master);
    const run = await until(async () => {
      const runs = await service.list<{ id: string; report: string; startedBy: string }>("/api/v1/runs");
      return runs.find((one) => one.report === "on-arrival");
    });
    expect(run.startedBy).toBe("new data");
    expect((await service.waitFor(run.id, ["held"])).state).toBe("held");
  });
});
