import { execFileSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import ExcelJS from "exceljs";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { startTestService } from "../../../test/setup/start-service.js";
import { removeToken } from "../../dist/access/access.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), {
    CORBIX_WORKERS: "0",
    CORBIX_INBOX_SETTLE: "0.1",
    CORBIX_PUBLIC_URL: "https://corbix.lifts.example",
  });
});
afterAll(() => service?.close());

const MEBIBYTE = Buffer.alloc(1_048_576, 97);

/** Sends a body piece by piece until the other side closes; gives how much it took and what it answered. */
function pour(path: string, method: string, headers: string, most: number): Promise<{ sent: number; answer: string }> {
  const { port } = new URL(service.url);
  return new Promise((resolve) => {
    const socket = connect(Number(port), "127.0.0.1");
    let answer = "";
    let sent = 0;
    socket.on("error", () => {});
    socket.on("data", (data) => {
      answer += data.toString();
    });
    socket.on("close", () => resolve({ sent, answer }));
    socket.on("connect", () => {
      socket.write(`${method} ${path} HTTP/1.1\r\nHost: x\r\n${headers}Content-Length: ${most}\r\n\r\n`);
      const more = (): void => {
        if (socket.destroyed || sent >= most) return;
        sent += MEBIBYTE.length;
        socket.write(MEBIBYTE, () => setImmediate(more));
      };
      more();
    });
  });
}

describe("before a sign-in", () => {
  it("nothing of a body is read, whatever its address takes", async () => {
    const most = 400 * MEBIBYTE.length;
    for (const [path, method] of [
      ["/api/v1/templates/x.xlsx", "PUT"],
      ["/api/v1/tools/sheets", "POST"],
      ["/api/v1/runs", "POST"],
      ["/api/v1/reports/x", "PUT"],
      ["/api/v1/datasets/x/editions?file=x.csv", "POST"],
      ["/api/v1/recipients?file=x.csv", "PUT"],
    ]) {
      const { sent, answer } = await pour(path, method, "", most);
      expect([path, answer.split("\r\n")[0]]).toEqual([path, "HTTP/1.1 401 Unauthorized"]);
      // What is on its way when the answer comes; the line takes some megabytes by itself.
      expect(sent).toBeLessThan(40 * MEBIBYTE.length);
    }
  }, 120_000);

  it("bodies are limited by their address: a mebibyte of JSON or text, sign-ins less", async () => {
    const long = "x".repeat(1_100_000);
    expect((await service.call("POST", "/api/v1/runs", { report: long })).status).toBe(413);
    expect((await service.call("PUT", "/api/v1/reports/long", `report: long # ${long}`)).status).toBe(413);
    expect((await service.call("POST", "/api/v1/session", { name: "x".repeat(20_000), password: "y" })).status).toBe(
      413,
    );
  });
});

describe("what is heavy", () => {
  it("is a thread's work with an end: a definition of two hundred thousand keys hinders nobody", async () => {
    const keys = Array.from({ length: 120_000 }, (_, n) => `k${n}: 1`).join("\n");
    const some = Array.from({ length: 15_000 }, (_, n) => `  k${n}: fee`).join("\n");
    const [many, healthy] = await Promise.all([
      service.call<{ code: string }>(
        "PUT",
        "/api/v1/reports/many",
        `report: many\ntitle: M\n${keys}`.slice(0, 1_000_000),
      ),
      service.call("GET", "/api/v1/health"),
    ]);
    expect([many.status, many.body.code, healthy.status]).toEqual([413, "LIMIT_EXCEEDED", 200]);
    // Within the stated limit it is read to its end, elsewhere.
    let answered = 0;
    let isOver = false;
    const heavy = service
      .call<{ code: string }>(
        "PUT",
        "/api/v1/reports/some",
        `report: some\ntitle: S\ndata: visits\nsplit: site\nadd:\n${some}\n`,
      )
      .finally(() => {
        isOver = true;
      });
    while (!isOver) {
      expect((await service.call("GET", "/api/v1/health")).status).toBe(200);
      answered++;
    }
    expect((await heavy).status).toBeGreaterThanOrEqual(400);
    expect(answered).toBeGreaterThan(10);
  }, 120_000);

  it("is a thread's work: the pages of a template of sixty thousand rows hold nobody up", async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet("Rows");
    for (let row = 1; row <= 60_000; row++) sheet.addRow([row, `row ${row}`, row / 7]);
    const bytes = Buffer.from(await book.xlsx.writeBuffer());
    expect((await service.call("PUT", "/api/v1/templates/long.xlsx", bytes)).status).toBe(201);
    let answered = 0;
    let isOver = false;
    const pages = fetch(`${service.url}/api/v1/templates/long.xlsx/pages.pdf`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    }).finally(() => {
      isOver = true;
    });
    while (!isOver) {
      expect((await service.call("GET", "/api/v1/health")).status).toBe(200);
      answered++;
    }
    expect([200, 413]).toContain((await pages).status);
    expect(answered).toBeGreaterThan(10);
  }, 120_000);
});

describe("smaller promises", () => {
  it("a day or an expression that cannot be is the caller's mistake", async () => {
    expect((await service.call("GET", "/api/v1/outbox?from=2026-13-45")).status).toBe(400);
    expect((await service.call("GET", "/api/v1/outbox?until=2026-02-30")).status).toBe(400);
    expect((await service.call("GET", "/api/v1/outbox?from=2026-02-28")).status).toBe(200);
    for (const keep of [
      `1${"+1".repeat(4_900)} > 0`,
      `${"not ".repeat(2_400)}true`,
      `${"(".repeat(4_000)}1`,
      `1${"^1".repeat(4_900)} > 0`,
    ]) {
      const { status, body } = await service.call<{ code: string }>(
        "PUT",
        "/api/v1/reports/long",
        JSON.stringify({ report: "long", title: "L", data: "visits", split: "site", keep }),
      );
      expect([status, body.code]).toEqual([422, "BAD_EXPRESSION"]);
    }
  });

  it("files for one dataset wait their turn", async () => {
    await service.call("POST", "/api/v1/datasets/turns/editions?file=a.csv", "No,Fee\n0,1\n");
    await service.call("PUT", "/api/v1/datasets/turns/settings", { mode: "append", key: ["No"] });
    const all = await Promise.all(
      Array.from({ length: 6 }, (_, n) =>
        service.call<{ rowCount: number }>(
          "POST",
          `/api/v1/datasets/turns/editions?file=${n}.csv`,
          `No,Fee\n${n + 1},2\n`,
        ),
      ),
    );
    expect(all.map((one) => one.status)).toEqual([201, 201, 201, 201, 201, 201]);
    expect(all.map((one) => one.body.rowCount).sort()).toEqual([2, 3, 4, 5, 6, 7]);
  });

  it("an inbox that cannot be written loads nothing again and again, and says why", async (context) => {
    const folder = `${service.data}/inbox/readonly`;
    mkdirSync(folder, { recursive: true });
    writeFileSync(`${folder}/a.csv`, "No,Fee\n1,2\n");
    try {
      execFileSync("mount", ["--bind", folder, folder], { stdio: "ignore" });
      execFileSync("mount", ["-o", "remount,ro,bind", folder], { stdio: "ignore" });
    } catch {
      return context.skip("nothing can be mounted here");
    }
    try {
      const arrivals = async () =>
        (await service.list<{ dataset: string; outcome: string; message: string }>("/api/v1/arrivals")).filter(
          (one) => one.dataset === "readonly",
        );
      const end = Date.now() + 60_000;
      while ((await arrivals()).length === 0 && Date.now() < end)
        await new Promise((resolve) => setTimeout(resolve, 100));
      // Some looks more.
      await new Promise((resolve) => setTimeout(resolve, 3_500));
      expect(await arrivals()).toEqual([
        expect.objectContaining({ outcome: "refused", message: expect.stringContaining("cannot be written") }),
      ]);
      expect((await service.call("GET", "/api/v1/datasets/readonly")).status).toBe(404);
    } finally {
      execFileSync("umount", [folder]);
    }
  }, 90_000);

  it("a stream of events ends with its sign-in, and a cookie over TLS goes over TLS only", async () => {
    const { name, password } = JSON.parse(readFileSync(`${service.data}/sign-in.json`, "utf8"));
    const signedIn = await fetch(`${service.url}/api/v1/session`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ name, password }),
    });
    const cookie = signedIn.headers.get("set-cookie") ?? "";
    expect(cookie).toMatch(/; Secure/);
    expect(cookie).toMatch(/HttpOnly/);
    const token = /corbix_session=([^;]+)/.exec(cookie)?.[1] ?? "";
    const stream = await fetch(`${service.url}/api/v1/events`, { headers: { Cookie: `corbix_session=${token}` } });
    expect(stream.status).toBe(200);
    await removeToken(service.context.database, decodeURIComponent(token));
    let ended = false;
    for await (const _ of stream.body as unknown as AsyncIterable<Uint8Array>) ended = false;
    ended = true;
    expect(ended).toBe(true);
  }, 60_000);

  it("the first password is shown when it is made, and not again", async () => {
    const data = mkdtempSync(join(tmpdir(), "corbix-first-"));
    const settings = { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" };
    const first = await startTestService(
      inject("databaseUrl"),
      `first_${randomBytes(5).toString("hex")}`,
      data,
      settings,
    );
    expect(first.signIn.isNew).toBe(true);
    expect(existsSync(`${data}/sign-in.json`)).toBe(true);
    const { firstSignIn } = await import("../../dist/access/first-sign-in.js");
    expect((await firstSignIn(first.context.database, data)).isNew).toBe(false);
    await first.close();
    rmSync(data, { recursive: true });
  });
});
