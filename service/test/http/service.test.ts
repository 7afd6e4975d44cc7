import { readFileSync } from "node:fs";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";

interface Letter {
  readonly id: string;
  readonly rcptTo: readonly string[];
  readonly subject: string;
  readonly messageId: string;
}

interface Parcel {
  readonly number: number;
  readonly label: string;
  readonly groupKey: string;
  readonly files: readonly {
    readonly id: string;
    readonly path: string;
    readonly kind: string;
    readonly size: number;
  }[];
  readonly message: { readonly state: string; readonly response: string | null } | null;
}

const demo = (name: string): Uint8Array => readFileSync(new URL(`../../../demo/files/${name}`, import.meta.url));

let service: TestService;
let clock = new Date("2026-11-02T09:00:00Z");

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), {}, () => clock);
});
afterAll(() => service?.close());

const start = async (body: object): Promise<string> =>
  (await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "site-statement", ...body })).body.id;
const letters = async (): Promise<readonly Letter[]> => await service.list<Letter>("/api/v1/letters");
const parcels = async (run: string): Promise<readonly Parcel[]> =>
  await service.list<Parcel>(`/api/v1/runs/${run}/parcels`);
const raw = async (id: string) =>
  simpleParser(
    Buffer.from(
      await (
        await fetch(`${service.url}/api/v1/letters/${id}/raw`, {
          headers: { Authorization: `Bearer ${service.signIn.token}` },
        })
      ).arrayBuffer(),
    ),
  );

describe("from the master workbook to the managers' inboxes", () => {
  let run: string;

  it("plans, makes and proves the demo's October, and holds it", async () => {
    run = await start({ period: "2026-10" });
    const held = await service.waitFor(run, ["held", "failed"]);
    expect(held.state).toBe("held");
    expect(held.proof?.mayBeReleased).toBe(true);
    expect(held.sentences[0]).toMatch(/^2,460 rows = 239 in 26 groups \+ 2,221 left out/);
    expect(held.sentences.join(" ")).toContain("fees: 43,839.51 in the master = 43,839.51 in the parcels");
    expect(held.findings.map((finding) => finding.code)).toEqual(
      expect.arrayContaining(
        ["near-double", "group-without-recipient", "recipient-without-rows", "several-spellings"].slice(0, 3),
      ),
    );
    expect(await letters()).toHaveLength(0);
  });

  it("made each group's files of its own rows only", async () => {
    const all = await parcels(run);
    expect(all).toHaveLength(26);
    const rows = await Promise.all(
      all.map(
        async (parcel) =>
          (
            await service.call<{ columns: { name: string }[]; rows: unknown[][]; rowNumbers: number[] }>(
              "GET",
              `/api/v1/runs/${run}/parcels/${parcel.number}/rows`,
            )
          ).body,
      ),
    );
    const site = rows[0].columns.findIndex((column) => column.name === "Site");
    all.forEach((parcel, index) => {
      expect(new Set(rows[index].rows.map((row) => String(row[site]).toLowerCase()))).toEqual(
        new Set([parcel.groupKey]),
      );
      expect(parcel.files.map((file) => file.kind)).toEqual(["xlsx", "pdf", "pdf"]);
    });
    const numbers = rows.flatMap((one) => one.rowNumbers);
    expect(new Set(numbers).size).toBe(239);
  });

  it("sends each their own when it is released, once, with proper names and a fixed Message-ID", async () => {
    await service.call("POST", `/api/v1/runs/${run}/release`, {});
    const done = await service.waitFor(run, ["done"]);
    expect(done.progress.messages).toEqual({ sent: 24 });
    const got = await letters();
    expect(got).toHaveLength(24);
    expect(new Set(got.map((letter) => letter.messageId)).size).toBe(24);
    const quay = got.find((letter) => letter.subject === "Lift inspections at Sjöstad Quay, October 2026");
    expect(quay?.rcptTo).toEqual(["asa.nystrom@sjostad.example"]);
    const mail = await raw(quay?.id ?? "");
    expect(mail.attachments.map((attachment) => attachment.filename)).toEqual(
      ["xlsx", "pdf", "notice"].map((kind) =>
        kind === "notice"
          ? "Sjöstad Quay – notice – October 2026.pdf"
          : `Sjöstad Quay – statement – October 2026.${kind}`,
      ),
    );
    expect(mail.replyTo?.text).toBe("help@lifts.example");
    expect(mail.html).toContain('<table style="border-collapse:collapse');
    expect(mail.text).toContain("Dear Åsa Nyström");
    const others = (await parcels(run)).map((parcel) => parcel.label).filter((label) => label !== "Sjöstad Quay");
    for (const label of others) expect(`${mail.html}${mail.text}`).not.toContain(label);
    const pavilion = got.find((letter) => letter.subject.includes("Pavilion"));
    expect(pavilion?.rcptTo).toEqual(["grace.oyelaran@pavilion.example", "leases@pavilion.example"]);
  });

  it("does not deliver a period twice, unless somebody says again and why", async () => {
    const second = await start({ period: "2026-10" });
    await service.waitFor(second, ["held"]);
    await service.call("POST", `/api/v1/runs/${second}/release`, {});
    expect((await service.waitFor(second, ["done"])).progress.messages).toEqual({ skipped: 24 });
    expect(await letters()).toHaveLength(24);
    const again = await start({
      period: "2026-10",
      groups: ["harbour house"],
      again: "the first went to the old address",
    });
    await service.waitFor(again, ["held"]);
    await service.call("POST", `/api/v1/runs/${again}/release`, {});
    await service.waitFor(again, ["done"]);
    const [newest] = await letters();
    expect(newest.subject).toBe("Sent again: Lift inspections at Harbour House, October 2026");
    expect((await letters()).map((letter) => letter.messageId).filter((id) => id === newest.messageId)).toHaveLength(1);
  });

  it("rehearses for real, but to one address only, and leaves the ledger alone", async () => {
    const before = (await letters()).length;
    const rehearsal = await start({ period: "2026-09", rehearsalTo: "me@lifts.example" });
    const done = await service.waitFor(rehearsal, ["done", "failed"]);
    const got = (await letters()).slice(0, (await letters()).length - before);
    expect(got).toHaveLength(done.progress.messages.sent);
    expect(new Set(got.flatMap((letter) => letter.rcptTo))).toEqual(new Set(["me@lifts.example"]));
    expect(got[0].subject).toMatch(/^Rehearsal: /);
    expect((await raw(got[0].id)).text).toContain("This would go to:");
    const real = await start({ period: "2026-09", groups: ["Alder Court"] });
    await service.waitFor(real, ["held"]);
    await service.call("POST", `/api/v1/runs/${real}/release`, {});
    expect((await service.waitFor(real, ["done"])).progress.messages).toEqual({ sent: 1 });
  });

  it("stops the run when a file's recorded group is not the message's, and sends nothing", async () => {
    const before = (await letters()).length;
    const broken = await start({ period: "2026-08", groups: ["Alder Court"] });
    await service.waitFor(broken, ["held"]);
    await service.context.database.execute(
      "UPDATE files SET group_key = 'harbour house' WHERE run_id = $1 AND kind = 'xlsx'",
      [broken],
    );
    await service.call("POST", `/api/v1/runs/${broken}/release`, {});
    const stopped = await service.waitFor(broken, ["stopped", "done"]);
    expect(stopped.state).toBe("stopped");
    expect(stopped.error?.code).toBe("PROVENANCE_MISMATCH");
    expect(await letters()).toHaveLength(before);
  });

  it("refuses a stored file whose bytes were changed", async () => {
    const store = service.context.store;
    const digest = await store.put(Buffer.from("whole"));
    const { chmodSync, writeFileSync } = await import("node:fs");
    const path = `${service.data}/files/${digest.slice(0, 2)}/${digest}`;
    chmodSync(path, 0o600);
    writeFileSync(path, "cut");
    await expect(store.get(digest)).rejects.toThrow("its bytes were changed");
  });
});

describe("a worker that dies", () => {
  it("loses nothing and sends nothing twice", async () => {
    const before = new Set((await letters()).map((letter) => letter.messageId));
    const run = await start({ period: "2026-07" });
    await service.waitFor(run, ["making", "held"]);
    service.workers[0].kill("SIGKILL");
    await service.waitFor(run, ["held"]);
    await service.call("POST", `/api/v1/runs/${run}/release`, {});
    await new Promise((resolve) => setTimeout(resolve, 60));
    service.workers[0].kill("SIGKILL");
    const done = await service.waitFor(run, ["done"]);
    const got = (await letters()).filter((letter) => !before.has(letter.messageId));
    expect(new Set(got.map((letter) => letter.messageId)).size).toBe(got.length);
    const { sent = 0, unsure = 0 } = done.progress.messages;
    expect(sent + unsure).toBe(done.proof?.messages);
    expect(got.length).toBeGreaterThanOrEqual(sent);
    expect(got.length).toBeLessThanOrEqual(sent + unsure);
  });
});

describe("schedules", () => {
  it("tells the next times in the report's zone, and runs by itself once when its time has come", async () => {
    const { body } = await service.call<{ nextTimes: { at: string }[] }>("GET", "/api/v1/reports/site-statement");
    // The first working day of each month of a year, by the office's calendar.
    expect(body.nextTimes).toHaveLength(12);
    expect(body.nextTimes.slice(0, 2).map(({ at }) => at)).toEqual([
      "2026-12-01T06:15:00.000Z",
      "2027-01-04T06:15:00.000Z",
    ]);
    clock = new Date("2027-03-01T06:20:00Z");
    const end = Date.now() + 20_000;
    let started: { period: string; startedBy: string }[] = [];
    while (started.length === 0 && Date.now() < end) {
      await new Promise((resolve) => setTimeout(resolve, 300));
      started = (await service.list<{ period: string; startedBy: string }>("/api/v1/runs")).filter(
        (run) => run.startedBy === "schedule",
      );
    }
    // The earliest that is over and not delivered.
    expect(started.map((run) => run.period)).toEqual(["2026-01"]);
    clock = new Date("2026-11-02T09:00:00Z");
  });
});

describe("what is wrong is told with the place and what to do", () => {
  it.each([
    ["a run of a report that is not there", "POST", "/api/v1/runs", { report: "site-statment" }, 404, "site-statement"],
    ["a period that is none", "POST", "/api/v1/runs", { report: "site-statement", period: "2026-13" }, 422, "2026-10"],
    ["an unknown field", "POST", "/api/v1/runs", { report: "site-statement", periode: "2026-10" }, 400, "openapi"],
    [
      "a file that is no workbook",
      "POST",
      "/api/v1/datasets/visits/editions?file=x.xlsx",
      Uint8Array.from([80, 75, 3, 4, 1, 2]),
      422,
      "save it again",
    ],
    [
      "an empty upload",
      "POST",
      "/api/v1/datasets/visits/editions?file=x.csv",
      new Uint8Array(),
      422,
      "Export it again",
    ],
    ["a template that cannot be read", "PUT", "/api/v1/templates/x.docx", "hello", 422, ".docx"],
    [
      "a report naming a missing column",
      "PUT",
      "/api/v1/reports/r",
      "{ report: r, title: R, data: visits, split: source }",
      422,
      "Site",
    ],
    [
      "a report with a wrong field",
      "PUT",
      "/api/v1/reports/r",
      "report: r\ntitle: R\ndata: visits\nsplitt: site\n",
      422,
      "definition.md",
    ],
    ["a list without addresses", "PUT", "/api/v1/recipients?file=r.csv", "Site,Phone\nDock,123\n", 422, "address"],
    ["a release of what is not held", "POST", "/api/v1/runs/0000/release", {}, 404, "list of runs"],
    ["an address that is not there", "GET", "/api/v1/nowhere", undefined, 404, "openapi"],
  ] as const)("%s", async (_, method, path, body, status, words) => {
    const before = await service.list<unknown>("/api/v1/datasets");
    const answer = await service.call<{ title: string; advice?: string; code: string }>(method, path, body);
    expect(answer.status).toBe(status);
    expect(`${answer.body.title} ${answer.body.advice}`).toContain(words);
    expect(await service.list<unknown>("/api/v1/datasets")).toEqual(before);
  });

  it("fails a run whose template does not fit its data, before anything is made, and says where", async () => {
    await service.call("PUT", "/api/v1/templates/bad.html", "<p>{{ nosuch }}</p>");
    const source = readFileSync(new URL("../../../demo/files/site-statement.yaml", import.meta.url), "utf8")
      .replace("monthly.html", "bad.html")
      .replace("report: site-statement", "report: bad");
    const saved = await service.call<{ title: string; where: string }>("PUT", "/api/v1/reports/bad", source);
    expect(saved.status).toBe(422);
    expect(saved.body.where).toContain("bad.html");
  });

  it("holds back a run that has nothing to send", async () => {
    const run = await start({ period: "2025-01" });
    const held = await service.waitFor(run, ["held", "failed"]);
    expect(held.proof?.mayBeReleased).toBe(false);
    expect((await service.call<RunAnswer>("POST", `/api/v1/runs/${run}/release`, {})).status).toBe(409);
  });
});

describe("editions", () => {
  it("replaces what the dataset shows, keeps the older ones, and knows the same bytes again", async () => {
    const load = async (name: string, bytes: Uint8Array) =>
      (
        await service.call<{ number: number; findings: { code: string }[] }>(
          "POST",
          `/api/v1/datasets/spare/editions?file=${name}`,
          bytes,
        )
      ).body;
    expect((await load("a.csv", Buffer.from("Site,Fee\nDock,1\n"))).number).toBe(1);
    const second = await load("b.csv", Buffer.from("Site,Fee\nDock,1\n"));
    expect(second.number).toBe(2);
    expect(second.findings.map((finding) => finding.code)).toContain("same-bytes");
    const rows = await service.call<{ total: number }>("GET", "/api/v1/datasets/spare/editions/1/rows");
    expect(rows.body.total).toBe(1);
  });

  it("reads a page of rows from the middle of a large edition", async () => {
    const lines = Array.from({ length: 9000 }, (_, index) => `Site ${index % 7},${index}`).join("\n");
    await service.call("POST", "/api/v1/datasets/large/editions?file=l.csv", Buffer.from(`Site,Number\n${lines}\n`));
    const call = { path: { name: "large", number: 1 }, query: { limit: 2_000 } };
    const seen: unknown[] = [];
    let next: string | null | undefined;
    while (next !== null) {
      const query = { ...call.query, ...(next === undefined ? {} : { cursor: next }) };
      const page = await service.client.get("/datasets/{name}/editions/{number}/rows", { ...call, query });
      expect(page.total).toBe(9000);
      expect(page.rowNumbers[0]).toBe(seen.length + 2);
      seen.push(...page.rows.map((row) => row[1]));
      next = page.next;
    }
    expect(seen).toEqual(Array.from({ length: 9000 }, (_, index) => index));
  });
});

describe("access", () => {
  const plain = (path: string, init: RequestInit = {}) => fetch(service.url + path, init);

  it("answers nobody without a token or sign-in", async () => {
    for (const path of ["/api/v1/runs", "/api/v1/events", "/api/v1/files/1", "/api/v1/letters"])
      expect((await plain(path)).status).toBe(401);
    expect((await plain("/api/v1/runs", { headers: { Authorization: "Bearer wrong" } })).status).toBe(401);
    expect((await plain("/api/v1/health")).status).toBe(200);
  });

  it("signs in with a cookie that pages cannot read, and takes no changes from other sites", async () => {
    const { name, password } = service.signIn;
    const body = JSON.stringify({ name, password });
    const response = await plain("/api/v1/session", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body,
    });
    const cookie = response.headers.get("set-cookie") ?? "";
    expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
    const session = cookie.split(";")[0];
    expect((await plain("/api/v1/runs", { headers: { Cookie: session } })).status).toBe(200);
    const stolen = await plain("/api/v1/runs", {
      method: "POST",
      headers: { Cookie: session, Origin: "http://evil.example", "Content-Type": "application/json" },
      body: "{}",
    });
    expect(stolen.status).toBe(403);
    expect(
      (
        await plain("/api/v1/session", {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ name, password: "wrong" }),
        })
      ).status,
    ).toBe(401);
  });

  it("serves an OpenAPI document that tells every route, and the console under a strict policy", async () => {
    const document = (await (await plain("/openapi.json")).json()) as {
      openapi: string;
      paths: Record<string, object>;
    };
    expect(document.openapi).toBe("3.1.0");
    expect(Object.keys(document.paths).length).toBeGreaterThan(25);
    const page = await plain("/");
    expect(page.headers.get("content-security-policy")).toContain("script-src 'self'");
    expect(await page.text()).toContain("Corbix");
  });

  it("tells what happens as it happens", async () => {
    const stop = new AbortController();
    const response = await plain("/api/v1/events", {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
      signal: stop.signal,
    });
    const reader = (response.body as ReadableStream<Uint8Array>).getReader();
    await reader.read();
    await service.call("PUT", "/api/v1/templates/live.html", "<p>live</p>");
    // What the service does by itself is announced as well, and may come before.
    let heard = "";
    while (!heard.includes('{"kind":"template","subject":"live.html"}')) {
      const { value, done } = await reader.read();
      expect(done).toBe(false);
      heard += Buffer.from(value ?? []).toString();
    }
    stop.abort();
  });
});

describe("the demo's files", () => {
  it("are what the service was given", async () => {
    const { newest } = await service.client.get("/datasets/{name}", { path: { name: "visits" } });
    expect(newest).toMatchObject({ rowCount: 2460, headerRow: 4 });
    expect(newest?.findings.map((finding) => finding.code)).toEqual(
      expect.arrayContaining(["title-left-out", "total-left-out", "read-as-type", "blanks-folded"]),
    );
    expect(demo("recipients.csv").length).toBeGreaterThan(500);
  });
});
