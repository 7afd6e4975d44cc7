/**
 * One id through everything that a call or a time sets going: the service's lines of its log, a worker's, the outbox's. It is that of
 * W3C Trace Context, so that who sends one along finds it again, and with `OTEL_EXPORTER_OTLP_ENDPOINT` set it is traced by it.
 */
import { AsyncLocalStorage } from "node:async_hooks";
import { randomBytes } from "node:crypto";
import type { Attributes, Span, Tracer } from "@opentelemetry/api";

/** `00-<trace>-<span>-01`, as a `traceparent` header has it. */
export type TraceParent = string;

const PARENT = /^00-([0-9a-f]{32})-([0-9a-f]{16})-[0-9a-f]{2}$/;
const current = new AsyncLocalStorage<TraceParent>();

/** As it was sent along, where that can be used, or a new one. */
export function traceFrom(sent: string | undefined): TraceParent {
  if (sent !== undefined && PARENT.test(sent) && !/^00-0{32}|-0{16}-/.test(sent)) return sent;
  return `00-${randomBytes(16).toString("hex")}-${randomBytes(8).toString("hex")}-01`;
}

/** The id alone, as logs have it. */
export function traceId(parent: TraceParent): string {
  return parent.slice(3, 35);
}

export function traceNow(): TraceParent | undefined {
  return current.getStore();
}

/** Does something under a trace. */
export function tracing<T>(parent: TraceParent, work: () => T): T {
  return current.run(parent, work);
}

/** The tracer, where traces are sent somewhere. */
let tracer: Tracer | undefined;
let api: typeof import("@opentelemetry/api") | undefined;
let shutDown: (() => Promise<void>) | undefined;

/** Sends traces to where `OTEL_EXPORTER_OTLP_ENDPOINT` says, by OTLP over HTTP; without it nothing of that is loaded. */
export async function openTraces(part: string, version: string): Promise<void> {
  if (!process.env.OTEL_EXPORTER_OTLP_ENDPOINT && !process.env.OTEL_EXPORTER_OTLP_TRACES_ENDPOINT) return;
  if (tracer) return;
  const [{ NodeTracerProvider, BatchSpanProcessor }, { OTLPTraceExporter }, { resourceFromAttributes }, loaded] =
    await Promise.all([
      import("@opentelemetry/sdk-trace-node"),
      import("@opentelemetry/exporter-trace-otlp-http"),
      import("@opentelemetry/resources"),
      import("@opentelemetry/api"),
    ]);
  api = loaded;
  const provider = new NodeTracerProvider({
    resource: resourceFromAttributes({
      "service.name": process.env.OTEL_SERVICE_NAME ?? "corbix",
      "service.version": version,
      "corbix.part": part,
    }),
    spanProcessors: [new BatchSpanProcessor(new OTLPTraceExporter())],
  });
  tracer = provider.getTracer("corbix", version);
  shutDown = () => provider.shutdown();
}

export async function closeTraces(): Promise<void> {
  await shutDown?.().catch(() => {});
  tracer = undefined;
  shutDown = undefined;
}

/** Does something as a span of the trace that is current; without a tracer it is only done. */
export async function spanned<T>(name: string, attributes: Attributes, work: () => Promise<T>): Promise<T> {
  const parent = current.getStore();
  if (!tracer || !api) return work();
  const { trace, ROOT_CONTEXT, SpanStatusCode, TraceFlags } = api;
  const [, id = "", spanId = ""] = PARENT.exec(parent ?? "") ?? [];
  const within = parent
    ? trace.setSpanContext(ROOT_CONTEXT, { traceId: id, spanId, traceFlags: TraceFlags.SAMPLED, isRemote: true })
    : ROOT_CONTEXT;
  const span = tracer.startSpan(name, { attributes }, within);
  try {
    return await current.run(parentOf(span), work);
  } catch (error) {
    span.setStatus({ code: SpanStatusCode.ERROR });
    throw error;
  } finally {
    span.end();
  }
}

function parentOf(span: Span): TraceParent {
  const { traceId: id, spanId } = span.spanContext();
  return `00-${id}-${spanId}-01`;
}
