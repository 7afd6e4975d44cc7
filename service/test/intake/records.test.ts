/** Records that come in one by one: each a run of its own, at once, and once for its key. */
import { createHmac } from "node:crypto";
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { createServer, type IncomingMessage } from "node:http";
import type { AddressInfo } from "node:net";
import { loadTable } from "@corbix/core/table";
import { createTransport } from "nodemailer";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
let mailPort = 0;
beforeAll(async () => {
  mailPort = await freePort();
  service = await testService(inject("databaseUrl"), {
    CORBIX_WORKERS: "2",
    CORBIX_INBOX_SETTLE: "1",
    CORBIX_INTAKE_MAIL_PORT: String(mailPort),
  });
  const folder = "demo/examples/attendance";
  const csv = readFileSync(`${folder}/trainings.csv`, "utf8");
  expect((await service.call("POST", "/api/v1/datasets/trainings/editions?file=trainings.csv", csv)).status).toBe(201);
  await define();
});
afterAll(() => service?.close());

async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

const define = async (callbacks = ""): Promise<void> => {
  const text = readFileSync("demo/examples/attendance/attendance.yaml", "utf8").replace(
    "lines: participants",
    `lines: participants${callbacks}`,
  );
  const { status, body } = await service.call("PUT", "/api/v1/reports/attendance", text);
  expect([200, 201], JSON.stringify(body)).toContain(status);
};
const training = JSON.parse(readFileSync("demo/examples/attendance/training.json", "utf8")) as Record<string, unknown>;
const record = (no: string, more: object = {}) => ({ ...training, training_no: no, ...more });

interface Taken {
  readonly occasions: {
    readonly key: string;
    readonly run: string;
    readonly edition: number;
    readonly isNew: boolean;
  }[];
  readonly code?: string;
  readonly title?: string;
  readonly where?: string;
  readonly advice?: string;
}
const post = (body: unknown, headers: Record<string, string> = {}, query = "") =>
  service.call<Taken>("POST", `/api/v1/reports/attendance/occasions${query}`, body, headers);
/** As another system sends, without our own sign-in. */
const foreign = async (body: string, headers: Record<string, string>) => {
  const response = await fetch(`${service.url}/api/v1/reports/attendance/occasions`, { method: "POST", body, headers });
  return { status: response.status, body: (await response.json()) as Taken, headers: response.headers };
};
const sender = async (name: string, wish: object) =>
  (await service.call<{ secret: string }>("PUT", `/api/v1/reports/attendance/senders/${name}`, wish)).body.secret;

describe("a record that comes in", () => {
  it("becomes a workbook with a column to be signed, sent at once, and its rows change nothing of the dataset", async () => {
    const { status, body } = await post(training);
    expect([status, body.occasions[0]?.key, body.occasions[0]?.isNew]).toEqual([202, "T-7", true]);
    const { run, edition } = body.occasions[0] ?? { run: "", edition: 0 };
    expect(edition).toBe(-1);
    const done = await service.waitFor(run, ["done"]);
    expect(done.sentences[0]).toBe("3 rows = 3 in 1 group + 0 left out.");
    const [letter] = await service.list<{ id: string; subject: string; to: { address: string }[] }>("/api/v1/letters");
    expect(letter?.subject).toBe("Attendance list: Escalator emergency stop, 12 November");
    const [file] = await service.context.database.select<{ sha256: string; path: string }>(
      "SELECT sha256, path FROM files WHERE run_id = $1 AND kind = 'xlsx'",
      [run],
    );
    const { table } = loadTable(await service.context.store.get(file?.sha256 ?? ""), "list.xlsx");
    expect(table.columns.map(({ name }) => name)).toEqual(["Name", "Company", "Signature"]);
    expect(table.columns[0]?.values).toEqual(["Ann Brook", "Ben Stone", "Lea Frey"]);
    expect(table.columns[2]?.values).toEqual([null, null, null]);
    // The dataset's own newest edition stays what it was.
    const { body: dataset } = await service.call<{ editions: number; newest: { number: number } }>(
      "GET",
      "/api/v1/datasets/trainings",
    );
    expect([dataset.editions, dataset.newest.number]).toEqual([1, 1]);
  });

  it("is answered with the same run when it comes again, and refused when it is another under the key", async () => {
    const first = await post(record("T-20"));
    const again = await post(record("T-20"));
    expect([again.status, again.body.occasions[0]?.isNew]).toEqual([200, false]);
    expect(again.body.occasions[0]?.run).toBe(first.body.occasions[0]?.run);
    const other = await post(record("T-20", { room: "Hall 9" }));
    expect([other.status, other.body.code]).toEqual([422, "KEY_REUSED"]);
  });

  it("may be a form, or one of several; what cannot be read is refused before anything is kept", async () => {
    const form = new URLSearchParams({
      "Training no": "T-30",
      training: "First aid",
      held_on: "2026-11-20",
      name: "Ann Brook",
    });
    const posted = await post(form.toString(), { "Content-Type": "application/x-www-form-urlencoded" });
    expect([posted.status, posted.body.occasions[0]?.key]).toEqual([202, "T-30"]);
    const several = await post([record("T-31"), record("T-32")]);
    expect(several.body.occasions.map(({ key }) => key)).toEqual(["T-31", "T-32"]);
    const count = async () =>
      (await service.context.database.select<{ n: number }>("SELECT count(*)::int AS n FROM record_keys"))[0]?.n;
    const before = await count();
    const bad = async (body: unknown) => {
      const { status, body: said } = await post(body);
      return [status, said.where, said.title].join(" | ");
    };
    expect(await bad([record("T-33"), record("T-34", { held_on: "soon" })])).toMatch(
      /^422 \| record 2, line 1 \| Cannot read `soon` in the field Held on, expected a day/,
    );
    expect(await bad(record(""))).toMatch(/^422 \| record 1 \| .*field training_no is blank/);
    expect(await bad("no json")).toMatch(/^400 \| body/);
    expect(await bad(record("T-35", { fee: 12345678901234567890n.toString(), held_on: 20261112 }))).toContain(
      "Cannot read `20261112` in the field Held on",
    );
    expect(await count()).toBe(before);
  });

  it("comes from other systems by a token for this report alone, at their pace, or signed", async () => {
    const token = await sender("training-desk", { way: "token", perMinute: 2 });
    const send = (no: string, more: Record<string, string> = {}) =>
      foreign(JSON.stringify(record(no)), { Authorization: `Bearer ${token}`, ...more });
    const first = await send("T-40");
    expect([first.status, first.headers.get("ratelimit-policy"), first.headers.get("ratelimit")?.slice(0, 12)]).toEqual(
      [202, '"calls";q=2;w=60', '"calls";r=1;'],
    );
    expect((await send("T-41")).status).toBe(202);
    const third = await send("T-42");
    expect([third.status, third.body.code, third.headers.get("retry-after")]).toEqual([429, "TOO_MANY_TRIES", "60"]);
    // The token opens nothing else.
    const runs = await fetch(`${service.url}/api/v1/runs`, { headers: { Authorization: `Bearer ${token}` } });
    expect(runs.status).toBe(401);
    const secret = await sender("erp", { way: "signature", header: "X-Erp-Signature", form: "base64" });
    const body = JSON.stringify(record("T-43"));
    const signed = createHmac("sha256", secret).update(body).digest("base64");
    expect((await foreign(body, { "X-Erp-Signature": signed })).status).toBe(202);
    expect((await foreign(`${body} `, { "X-Erp-Signature": signed })).status).toBe(401);
    expect((await foreign(body, {})).status).toBe(401);
    const listed = await service.list<{ name: string; usedAt: string | null }>("/api/v1/reports/attendance/senders");
    expect(listed.map(({ name, usedAt }) => [name, usedAt !== null])).toEqual([
      ["erp", true],
      ["training-desk", true],
    ]);
    expect((await service.call("DELETE", "/api/v1/reports/attendance/senders/erp")).status).toBe(200);
    expect((await foreign(JSON.stringify(record("T-44")), { "X-Erp-Signature": signed })).status).toBe(401);
  });

  it("tells an allowed address when its run is over, again until it is taken", async () => {
    const told: string[] = [];
    const signatures: unknown[] = [];
    let isDown = true;
    let tell: () => void = () => {};
    const heard = new Promise<void>((resolve) => {
      tell = resolve;
    });
    const hook = createServer((request: IncomingMessage, response) => {
      let text = "";
      request.on("data", (part) => {
        text += part;
      });
      request.on("end", () => {
        signatures.push(request.headers["x-erp-signature"]);
        response.statusCode = isDown ? 500 : 204;
        response.end();
        told.push(`${isDown ? "refused" : "taken"} ${text}`);
        if (!isDown) tell();
        isDown = false;
      });
    });
    await new Promise<void>((resolve) => hook.listen(0, "127.0.0.1", resolve));
    const origin = `http://127.0.0.1:${(hook.address() as AddressInfo).port}`;
    await define(`, callbacks: ["${origin}/done/"]`);
    const other = await post(record("T-50"), {}, `?callback=${encodeURIComponent(`${origin}/else`)}`);
    expect([other.status, other.body.code]).toEqual([403, "NOT_ALLOWED"]);
    // Whoever signs is told signed.
    const secret = await sender("erp-50", { way: "signature", header: "X-Erp-Signature" });
    const sent = JSON.stringify(record("T-50"));
    const response = await fetch(
      `${service.url}/api/v1/reports/attendance/occasions?callback=${encodeURIComponent(`${origin}/done/erp`)}`,
      {
        method: "POST",
        body: sent,
        headers: { "X-Erp-Signature": createHmac("sha256", secret).update(sent).digest("hex") },
      },
    );
    const body = (await response.json()) as Taken;
    await heard;
    const run = body.occasions[0]?.run;
    const last = told.at(-1) ?? "";
    expect(signatures.at(-1)).toBe(
      createHmac("sha256", secret)
        .update(last.slice(last.indexOf(" ") + 1))
        .digest("hex"),
    );
    expect(told.map((one) => [one.split(" ")[0], JSON.parse(one.slice(one.indexOf(" ")))])).toEqual([
      ["refused", { report: "attendance", key: "T-50", run, state: "done" }],
      ["taken", { report: "attendance", key: "T-50", run, state: "done" }],
    ]);
    hook.close();
    await define();
  }, 60_000);

  it("lies in the watched folder of its dataset, and is moved away once it is taken, or refused with a note", async () => {
    const inbox = `${service.data}/inbox/trainings`;
    await expect.poll(() => existsSync(inbox), { timeout: 30_000 }).toBe(true);
    writeFileSync(`${inbox}/T-80.record.json`, JSON.stringify(record("T-80")));
    writeFileSync(`${inbox}/T-81.record.json`, JSON.stringify(record("T-81", { held_on: "some day" })));
    const moved = (folder: string) => (existsSync(`${inbox}/${folder}`) ? readdirSync(`${inbox}/${folder}`) : []);
    await expect.poll(() => moved("done").length, { timeout: 30_000 }).toBe(1);
    await expect.poll(() => moved("refused").length, { timeout: 30_000 }).toBe(2);
    const note = moved("refused").find((name) => name.endsWith(".txt")) ?? "";
    expect(readFileSync(`${inbox}/refused/${note}`, "utf8")).toContain("Cannot read `some day` in the field Held on");
    const [taken] = await service.context.database.select<{ run_id: string }>(
      "SELECT run_id FROM record_keys WHERE key = 'T-80'",
    );
    await service.waitFor(taken?.run_id ?? "", ["done"]);
    const { body } = await service.call<{ editions: number }>("GET", "/api/v1/datasets/trainings");
    expect(body.editions).toBe(1);
  }, 120_000);

  it("comes by mail from somebody who may send, as a file among the attachments", async () => {
    const mailbox = { name: "trainings", senders: ["desk@lifts.example"] };
    expect((await service.call("PUT", "/api/v1/datasets/trainings/settings", { mailbox })).status).toBe(200);
    const to = `trainings@${service.context.settings.intakeMailDomain}`;
    const send = (from: string, no: string) =>
      createTransport({ host: "127.0.0.1", port: mailPort, secure: false, ignoreTLS: true }).sendMail({
        from,
        to,
        subject: "A training",
        text: "attached",
        attachments: [{ filename: `${no}.record.json`, content: JSON.stringify(record(no)) }],
      });
    expect((await send("desk@lifts.example", "T-90")).response).toMatch(/T-90\.record\.json is run [0-9a-f]{8}/);
    await expect(send("else@lifts.example", "T-91")).rejects.toThrow();
    const keys = await service.context.database.select("SELECT key FROM record_keys WHERE key IN ('T-90', 'T-91')");
    expect(keys).toEqual([{ key: "T-90" }]);
  });

  it("needs a report that takes records, and something that tells it from others", async () => {
    const plain = await service.call<Taken>("POST", "/api/v1/reports/site-statement/occasions", record("T-60"));
    expect([plain.status, plain.body.title]).toEqual([400, "The report `site-statement` takes no single records."]);
    const text = readFileSync("demo/examples/attendance/attendance.yaml", "utf8").replace("key: [training_no], ", "");
    await service.call("PUT", "/api/v1/reports/attendance", text);
    const none = await post(record("T-61"));
    expect([none.status, none.body.title]).toEqual([422, "Cannot tell the record from others: it has no key."]);
    const keyed = await post(record("T-61"), { "Idempotency-Key": "from-erp-61" });
    expect([keyed.status, keyed.body.occasions[0]?.key]).toEqual([202, "from-erp-61"]);
    expect((await post(record("T-61"), { "Idempotency-Key": "from-erp-61" })).status).toBe(200);
    await define();
  });
});

describe("a hundred records at once", () => {
  it("are a hundred runs, each once, none lost, however often they are sent", async () => {
    const numbers = Array.from({ length: 100 }, (_, at) => `H-${at}`);
    const send = (no: string) => post(record(no, { trainer_mail: `t${no.toLowerCase()}@lifts.example` }));
    const started = performance.now();
    const answers = await Promise.all([...numbers, ...numbers.slice(0, 20)].map(send));
    const answered = answers.map(({ status }) => status);
    expect(answered.filter((status) => status === 202)).toHaveLength(100);
    expect(answered.filter((status) => status === 200)).toHaveLength(20);
    const runs = new Set(answers.flatMap(({ body }) => body.occasions?.map(({ run }) => run) ?? []));
    expect(runs.size).toBe(100);
    for (const run of runs) await service.waitFor(run, ["done"]);
    const took = performance.now() - started;
    const received = await service.context.database.select<{ n: number }>(
      "SELECT count(*)::int AS n FROM letters WHERE rcpt_to::text LIKE '%th-%'",
    );
    expect(received[0]?.n).toBe(100);
    const [{ p95 }] = await service.context.database.select<{ p95: number }>(
      `SELECT percentile_cont(0.95) WITHIN GROUP (ORDER BY extract(epoch FROM messages.touched_at - record_keys.at))::float8 AS p95
       FROM record_keys JOIN messages ON messages.run_id = record_keys.run_id WHERE record_keys.key LIKE 'H-%'`,
    );
    process.stdout.write(
      `100 records at once: all sent after ${(took / 1000).toFixed(1)} s, 95th percentile ${p95.toFixed(2)} s\n`,
    );
  }, 180_000);
});
