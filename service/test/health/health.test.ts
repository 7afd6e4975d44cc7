/** What other programs ask of the service, one id through all its parts, and what there is to count. */
import { randomBytes } from "node:crypto";
import { mkdtempSync, renameSync, rmSync } from "node:fs";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type ServiceProcess, serviceProcess } from "../../../test/setup/service-process.js";

const folder = mkdtempSync(join(tmpdir(), "corbix-health-"));
const TOKEN = "what-the-monitoring-sends";
let service: ServiceProcess;
let collector: Server;
/** Spans that were sent to the collector. */
const spans: { name: string; traceId: string; part: string }[] = [];

beforeAll(async () => {
  collector = createServer((request, response) => {
    let body = "";
    request.on("data", (chunk) => {
      body += chunk;
    });
    request.on("end", () => {
      expect(request.url).toBe("/v1/traces");
      const told = JSON.parse(body) as {
        resourceSpans: {
          resource: { attributes: { key: string; value: { stringValue?: string } }[] };
          scopeSpans: { spans: { name: string; traceId: string }[] }[];
        }[];
      };
      for (const { resource, scopeSpans } of told.resourceSpans) {
        const part = resource.attributes.find(({ key }) => key === "corbix.part")?.value.stringValue ?? "";
        for (const scope of scopeSpans)
          for (const { name, traceId } of scope.spans) spans.push({ name, traceId, part });
      }
      response.setHeader("Content-Type", "application/json").end("{}");
    });
  });
  await new Promise<void>((resolve) => collector.listen(0, "127.0.0.1", () => resolve()));
  service = await serviceProcess(inject("databaseUrl"), join(folder, "data"), {
    CORBIX_METRICS_TOKEN: TOKEN,
    CORBIX_LOG_LEVEL: "debug",
    OTEL_EXPORTER_OTLP_ENDPOINT: `http://127.0.0.1:${(collector.address() as AddressInfo).port}`,
    OTEL_BSP_SCHEDULE_DELAY: "200",
  });
});
afterAll(async () => {
  await service?.close();
  await new Promise((resolve) => collector.close(resolve));
  rmSync(folder, { recursive: true, force: true });
});

async function waitUntil<T>(look: () => Promise<T | undefined | false>): Promise<T> {
  const end = Date.now() + 120_000;
  for (;;) {
    const found = await look();
    if (found) return found;
    if (Date.now() > end) throw new Error(`it did not come to that: ${service.written().slice(-2_000)}`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
const ready = async () => {
  const response = await fetch(`${service.url}/health/ready`);
  const { ok, checks } = (await response.json()) as { ok: boolean; checks: Record<string, string> };
  return { status: response.status, ok, checks };
};
const call = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
  const response = await fetch(`${service.url}/api/v1${path}`, {
    method,
    headers: { Authorization: `Bearer ${service.signIn.token}`, "Content-Type": "application/json", ...headers },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  // biome-ignore lint/suspicious/noExplicitAny: answers of many calls
  return { headers: response.headers, status: response.status, body: (await response.json()) as any };
};
const metrics = async (token = TOKEN): Promise<{ status: number; text: string }> => {
  const response = await fetch(`${service.url}/metrics`, { headers: { Authorization: `Bearer ${token}` } });
  return { status: response.status, text: await response.text() };
};
const valueOf = (text: string, series: string): number =>
  Number(
    text
      .split("\n")
      .find((line) => line.startsWith(`${series} `))
      ?.slice(series.length + 1),
  );

describe("one id", () => {
  it("goes from a call through workers and outbox, in logs and in traces", async () => {
    const trace = randomBytes(16).toString("hex");
    const sent = { traceparent: `00-${trace}-${randomBytes(8).toString("hex")}-01` };
    const begun = await call("POST", "/runs", { report: "site-statement", period: "2026-09" }, sent);
    expect(begun.headers.get("x-request-id")).toBe(trace);
    const { id } = begun.body;
    await waitUntil(async () => (await call("GET", `/runs/${id}`)).body.state === "held");
    await call("POST", `/runs/${id}/release`, {});
    await waitUntil(async () => (await call("GET", `/runs/${id}`)).body.state === "done");
    const lines = service
      .written()
      .split("\n")
      .filter((line) => line.startsWith("{") && line.includes(trace))
      .map((line) => JSON.parse(line) as { msg: string; step?: string });
    expect(lines.filter(({ msg }) => msg === "step").map(({ step }) => step?.split(" ")[0])).toEqual(
      expect.arrayContaining(["plan", "make", "prove"]),
    );
    expect(lines.filter(({ msg }) => msg === "message")).toHaveLength(24);
    const own = await waitUntil(async () => {
      const found = spans.filter(({ traceId }) => traceId === trace);
      return found.filter(({ name }) => name === "send").length === 24 && found;
    });
    const names = new Set(own.map(({ name, part }) => `${part} ${name}`));
    for (const name of ["service POST /api/v1/runs", "worker plan", "worker make", "worker prove", "outbox send"])
      expect([...names]).toContain(name);
    // A call that brings none gets one of its own.
    expect((await call("GET", "/self")).headers.get("x-request-id")).toMatch(/^(?!0{32})[0-9a-f]{32}$/);
    expect((await call("GET", "/self", undefined, { traceparent: "nonsense" })).headers.get("x-request-id")).toMatch(
      /^[0-9a-f]{32}$/,
    );
  });
});

describe("what there is to count", () => {
  it("is told in Prometheus' text, to who sends the token alone", async () => {
    expect((await metrics("another-token-as-long")).status).toBe(401);
    expect((await fetch(`${service.url}/metrics`)).status).toBe(401);
    await metrics();
    const second = await call("POST", "/runs", { report: "site-statement", period: "2026-08" });
    await waitUntil(async () => (await call("GET", `/runs/${second.body.id}`)).body.state === "held");
    await call("POST", `/runs/${second.body.id}/release`, {});
    await waitUntil(async () => (await call("GET", `/runs/${second.body.id}`)).body.state === "done");
    const { text } = await waitUntil(async () => {
      const found = await metrics();
      return valueOf(found.text, 'corbix_attempts_total{identity="office",outcome="sent"}') >= 25 && found;
    });
    expect(valueOf(text, "corbix_up")).toBe(1);
    expect(valueOf(text, 'corbix_runs{state="done"}')).toBe(2);
    expect(valueOf(text, 'corbix_messages{state="sent"}')).toBe(49);
    expect(valueOf(text, 'corbix_queue_waiting{queue="messages"}')).toBe(0);
    expect(valueOf(text, 'corbix_processes{kind="worker"}')).toBe(1);
    expect(valueOf(text, 'corbix_processes{kind="outbox"}')).toBe(1);
    expect(valueOf(text, "corbix_sending_halted")).toBe(0);
    expect(valueOf(text, "corbix_store_files")).toBeGreaterThan(50);
    expect(valueOf(text, "corbix_store_bytes")).toBeGreaterThan(100_000);
    expect(valueOf(text, 'corbix_step_seconds_count{step="prove"}')).toBeGreaterThan(0);
    expect(
      valueOf(text, 'corbix_http_request_seconds_count{method="GET",route="/api/v1/runs/:id",status="200"}'),
    ).toBeGreaterThan(1);
    // Addresses as they were asked for name things, and would be without end.
    expect(text).not.toContain(second.body.id);
    for (const name of new Set(
      [...text.matchAll(/^(corbix_\w+)/gm)].map(([, one]) => one?.replace(/_(bucket|sum|count)$/, "")),
    ))
      expect(text).toMatch(new RegExp(`^# HELP ${name}`, "m"));
  });

  it("is shown to operators with processes and what was slow", async () => {
    const { body } = await call("GET", "/operations");
    expect(body.ok).toBe(true);
    expect(
      body.processes
        .filter(({ endedAt }: { endedAt: string | null }) => endedAt === null)
        .map(({ kind }: { kind: string }) => kind)
        .sort(),
    ).toEqual(["outbox", "worker"]);
    expect(body.processes[0]).toMatchObject({
      pid: expect.any(Number),
      version: expect.stringMatching(/^\d+\.\d+\.\d+$/),
      memory: expect.any(Number),
    });
    expect(body.slow[0].seconds).toBeGreaterThan(0);
    expect(body.versions).toMatchObject({ node: process.version, structure: expect.stringMatching(/^\d{4}-/) });
    expect(body.room.tables.length).toBeGreaterThan(0);
  });
});

describe("whether the service is well", () => {
  it("is told to whoever asks, no more than which thing is there", async () => {
    const found = await waitUntil(async () => {
      const now = await ready();
      return now.ok && now;
    });
    expect(found.status).toBe(200);
    expect(found.checks).toEqual({
      database: "ok",
      store: "ok",
      journal: "ok",
      room: expect.stringMatching(/ok|warn/),
      workers: "ok",
      outbox: "ok",
      clock: "ok",
      sending: "ok",
    });
    expect(await (await fetch(`${service.url}/health/live`)).json()).toEqual({ ok: true });
  });

  it("changes with a store that is away, and with sending that is halted, and comes back", async () => {
    const mark = join(folder, "data/files/.corbix-store");
    renameSync(mark, `${mark}-away`);
    const away = await waitUntil(async () => {
      const now = await ready();
      return now.checks.store === "fail" && now;
    });
    expect([away.status, away.ok]).toEqual([503, false]);
    expect(JSON.stringify(away)).not.toContain(folder);
    expect(valueOf((await metrics()).text, 'corbix_check_ok{check="store"}')).toBe(0);
    renameSync(`${mark}-away`, mark);
    await waitUntil(async () => (await ready()).ok);
    await call("POST", "/halts", { reason: "tried by a test" });
    const halted = await waitUntil(async () => {
      const now = await ready();
      return now.checks.sending === "warn" && now;
    });
    // Nothing is wrong with a service that was told to wait.
    expect(halted.ok).toBe(true);
    expect(valueOf((await metrics()).text, "corbix_sending_halted")).toBe(1);
    await call("POST", "/halts/end", { reason: "tried" });
  });
});
