/** What a monitoring system counts, as Prometheus' text has it. */
import { statfs } from "node:fs/promises";
import { say } from "@corbix/core/words";
import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";
import type { Context } from "../process/context.js";
import { VERSION } from "../process/version.js";
import { endedSince, livingOfKind, queues, roomFacts, stateCounts } from "../records/index.js";
import type { Ready } from "./ready.js";

/** A process shows itself each second. */
const SILENT_SECONDS = 10;

export interface Metrics {
  readonly contentType: string;
  /** What there is to count now; what cannot be asked of the database is left out, and `corbix_up` is 0. */
  readonly text: () => Promise<string>;
  /** Counts a call that was answered. */
  readonly countCall: (call: {
    readonly method: string;
    readonly route: string;
    readonly status: number;
    readonly seconds: number;
  }) => void;
}

export function openMetrics(context: Context, ready: Ready): Metrics {
  const registry = new Registry();
  const registers = [registry];
  collectDefaultMetrics({ register: registry, prefix: "corbix_" });
  const gauge = (name: string, labelNames: string[] = []) =>
    new Gauge({ name: `corbix_${name}`, help: say().serviceHealth.metric({ name }), labelNames, registers });
  const up = gauge("up");
  const checks = gauge("check_ok", ["check"]);
  gauge("info", ["version"]).set({ version: VERSION }, 1);
  const runs = gauge("runs", ["state"]);
  const messages = gauge("messages", ["state"]);
  const halted = gauge("sending_halted");
  const waiting = gauge("queue_waiting", ["queue"]);
  const oldest = gauge("queue_oldest_seconds", ["queue"]);
  const processes = gauge("processes", ["kind"]);
  const files = gauge("store_files");
  const bytes = gauge("store_bytes");
  const free = gauge("data_free_bytes");
  const databaseBytes = gauge("database_bytes");
  const connections = gauge("database_connections");
  const sent = new Counter({
    name: "corbix_attempts_total",
    help: say().serviceHealth.metric({ name: "attempts_total" }),
    labelNames: ["identity", "outcome"],
    registers,
  });
  const sending = new Histogram({
    name: "corbix_attempt_seconds",
    help: say().serviceHealth.metric({ name: "attempt_seconds" }),
    buckets: [0.01, 0.05, 0.1, 0.5, 1, 5, 30, 120, 600],
    registers,
  });
  const steps = new Histogram({
    name: "corbix_step_seconds",
    help: say().serviceHealth.metric({ name: "step_seconds" }),
    labelNames: ["step"],
    buckets: [0.01, 0.05, 0.1, 0.5, 1, 5, 30, 120, 600],
    registers,
  });
  const calls = new Histogram({
    name: "corbix_http_request_seconds",
    help: say().serviceHealth.metric({ name: "http_request_seconds" }),
    labelNames: ["method", "route", "status"],
    buckets: [0.005, 0.02, 0.1, 0.5, 2, 10, 60],
    registers,
  });
  let since: Date | undefined;
  const look = async (): Promise<void> => {
    const { database, settings } = context;
    const readiness = await ready.look();
    up.set(readiness.ok ? 1 : 0);
    for (const { name, state } of readiness.checks) checks.set({ check: name }, state === "fail" ? 0 : 1);
    const { bavail, bsize } = await statfs(settings.data);
    free.set(bavail * bsize);
    const [states, queued, room, living, ended] = await Promise.all([
      stateCounts(database),
      queues(database),
      roomFacts(database),
      livingOfKind(database, SILENT_SECONDS),
      endedSince(database, since),
    ]);
    since = ended.until;
    runs.reset();
    messages.reset();
    for (const { state, count } of states.runs) runs.set({ state }, count);
    for (const { state, count } of states.messages) messages.set({ state }, count);
    halted.set(states.halted ? 1 : 0);
    for (const one of queued) {
      waiting.set({ queue: one.queue }, one.waiting);
      oldest.set({ queue: one.queue }, one.oldest);
    }
    for (const kind of ["worker", "outbox"] as const) processes.set({ kind }, living[kind]);
    files.set(room.files);
    bytes.set(room.fileBytes);
    databaseBytes.set(room.database);
    connections.set(room.connections);
    for (const { identity, outcome, seconds } of ended.attempts) {
      sent.inc({ identity, outcome });
      sending.observe(seconds);
    }
    for (const { kind, seconds } of ended.steps) steps.observe({ step: kind }, seconds);
  };
  return {
    contentType: registry.contentType,
    text: async () => {
      await look().catch((error: Error) => {
        up.set(0);
        context.log.warn({ error: error.message }, "metrics");
      });
      return registry.metrics();
    },
    countCall: ({ method, route, status, seconds }) =>
      calls.observe({ method, route, status: String(status) }, seconds),
  };
}
