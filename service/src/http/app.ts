import { BASE, endpoints, openApiDocument, WITHOUT_FACTOR } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import { describeProblems } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import express, { type Express, type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import type { z } from "zod";
import { lacksFactor, type User } from "../access/access.js";
import { CallLimits } from "../access/call-limits.js";
import { checkReach, rightOf, scopeFor } from "../access/rights.js";
import { callingFrom } from "../audit/caller.js";
import { openMetrics } from "../health/metrics.js";
import { Ready } from "../health/ready.js";
import { calledNow } from "../library/keeping.js";
import { monotonicMs } from "../process/clock.js";
import type { Context } from "../process/context.js";
import { languages, speaking } from "../process/languages.js";
import { isByTls } from "../process/site.js";
import { spanned, traceFrom, traceId, traceNow, tracing } from "../process/trace.js";
import { isDatabaseAway, type Kind } from "../records/index.js";
import { askingFailed, serveAsking } from "./ask-pages.js";
import { PAGE_POLICY, serveConsole } from "./console-pages.js";
import { serveDownloads } from "./download-pages.js";
import { eventStream } from "./event-stream.js";
import { answering, type Call, type Route } from "./handler.js";
import { serveHealth } from "./health-pages.js";
import { once } from "./idempotency.js";
import { identify } from "./identify.js";
import { withNonce } from "./nonce.js";
import { serveProvider } from "./provider-pages.js";
import { allRoutes } from "./resources/index.js";

/** JSON and text bodies are small; files go their own way. */
const JSON_LIMIT = 1_048_576;
/** Files that are held in memory while they are worked on, such as templates; tables are stored as they come. */
const BYTES_LIMIT = 67_108_864;

/** The HTTP service: API, event stream, OpenAPI document, and the console's files. */
export function makeApp(context: Context, consoleFolder: string, ready = new Ready(context)): Express {
  const app = express();
  const routes = allRoutes(context, ready);
  const metrics = openMetrics(context, ready);
  app.disable("x-powered-by");
  const { trustedProxies } = context.settings;
  if (trustedProxies)
    app.set(
      "trust proxy",
      trustedProxies.split(",").map((one) => one.trim()),
    );
  app.use((_request, _response, next) => withNonce(() => next()));
  app.use(
    helmet({
      contentSecurityPolicy: { directives: PAGE_POLICY },
      // Only where browsers come by TLS: told otherwise it would lock them out.
      strictTransportSecurity: isByTls(context.settings) ? { maxAge: 31_536_000, includeSubDomains: false } : false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  app.use((request, response, next) => {
    const trace = traceFrom(request.get("traceparent"));
    response.setHeader("X-Request-Id", traceId(trace));
    const started = monotonicMs();
    response.on("finish", () =>
      metrics.countCall({
        method: request.method,
        // Never an address as it was asked for: there are too many of them, and they name things.
        route: (request.route as { path?: string } | undefined)?.path ?? "other",
        status: response.statusCode,
        seconds: (monotonicMs() - started) / 1000,
      }),
    );
    tracing(trace, next);
  });
  app.use((request, response, next) => {
    const language = request.acceptsLanguages(languages()) || languages()[0];
    response.setHeader("Content-Language", language);
    response.vary("Accept-Language");
    speaking(language, next);
  });
  const document = openApiDocument(endpoints);
  app.get("/openapi.json", (_, response) => {
    response.json(document);
  });
  serveHealth(app, context, { ready, metrics });
  serveDownloads(app, context);
  serveAsking(app, context);
  serveProvider(app, context);
  app.get(`${BASE}/events`, (request, response, next) => {
    identify(context, request).then(() => eventStream(context, response, () => identify(context, request)), next);
  });
  const limits = new CallLimits(monotonicMs);
  for (const route of routes) serve(app, context, route, limits);
  app.use(BASE, (request) => refuseUnknown(routes, request));
  app.use("/api", () => {
    throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindAddressApi(), {
      advice: say().serviceHttp.apiLiesUnderSeeOpenapi({ base: BASE }),
    });
  });
  serveConsole(app, consoleFolder);
  app.use("/ask", askingFailed);
  app.use((error: unknown, request: Request, response: Response, _next: NextFunction) =>
    sendProblem(context, error, request, response),
  );
  return app;
}

/** Who calls where nobody is known. */
const NOBODY: User = {
  id: 0,
  name: "",
  shownName: null,
  address: null,
  language: null,
  zone: null,
  roles: {},
  grants: {},
  state: "active",
  signedInAt: null,
  createdBy: null,
  createdAt: new Date(0),
  token: undefined,
};

/** Who calls, known before anything of the body is read. */
const USERS = new WeakMap<Request, User>();

/** An address that is known with another method says which. */
function refuseUnknown(routes: readonly Route[], request: Request): never {
  const methods = routes
    .filter(({ endpoint }) => new RegExp(`^${endpoint.path.replace(/\{\w+\}/g, "[^/]+")}/?$`).test(request.path))
    .map(({ endpoint }) => endpoint.method.toUpperCase());
  if (methods.length === 0)
    throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindAddressApi(), {
      advice: say().serviceHttp.seeOpenapiJson(),
    });
  request.res?.setHeader("Allow", methods.join(", "));
  throw new CorbixError(
    "METHOD_NOT_ALLOWED",
    say().serviceHttp.cannotAddressTakes({ method: request.method, methods: methods.join(" and ") }),
    {
      where: request.originalUrl,
      advice: say().serviceHttp.seeOpenapiJson(),
    },
  );
}

function serve(app: Express, context: Context, route: Route, limits: CallLimits): void {
  const { endpoint } = route;
  const path = BASE + endpoint.path.replace(/\{(\w+)\}/g, ":$1");
  const limit = endpoint.limit ?? (endpoint.body === "bytes" ? BYTES_LIMIT : JSON_LIMIT);
  const parse =
    endpoint.body === "bytes"
      ? express.raw({ type: () => true, limit })
      : endpoint.body === "text"
        ? express.text({ type: () => true, limit })
        : express.json({ limit });
  app[endpoint.method](
    path,
    (request: Request, response: Response, next: NextFunction) => {
      const from = request.ip ?? "";
      if (endpoint.isOpen) return callingFrom(from, next);
      identify(context, request).then(
        (user) => {
          try {
            limits.check(user, response);
            checkFactor(context, user, route);
            scopeFor(user, rightOf(route.id));
            USERS.set(request, user);
            // Who has said how they are spoken to is spoken to so, whatever the browser asks for.
            const own = user.language !== null && languages().includes(user.language) ? user.language : undefined;
            const go = (): void =>
              callingFrom(user.token?.kind === "client" ? `${from}, token ${user.token.id}` : from, next);
            if (own === undefined) go();
            else {
              response.setHeader("Content-Language", own);
              speaking(own, go);
            }
          } catch (error) {
            leaveBody(request);
            next(error);
          }
        },
        (error: unknown) => {
          leaveBody(request);
          next(error);
        },
      );
    },
    ...(endpoint.body === "stream" || endpoint.body === undefined ? [] : [parse]),
    (request: Request, response: Response, next: NextFunction) => {
      spanned(`${request.method} ${path}`, { "http.request.method": request.method, "http.route": path }, () =>
        answer(context, route, request, response),
      ).catch(next);
    },
  );
}

function checkFactor(context: Context, user: User, { id }: Route): void {
  if (WITHOUT_FACTOR.has(id) || !lacksFactor(context, user.token)) return;
  throw new CorbixError("NOT_ALLOWED", say().serviceAccess.mustAddFactor(), {
    advice: say().serviceAccess.addOneUnderAccount(),
  });
}

/** Whoever was refused may finish reading the answer for so long; what they send meanwhile is thrown away, and no more than so much. */
const LEAVE_MS = 2_000;
const LEAVE_BYTES = 16_777_216;

/**
 * Nothing of a body is kept: the line is closed behind the answer. Closed at once it would take the answer with it, since the other
 * side is still writing (RFC 9112, 9.6).
 */
function leaveBody(request: Request): void {
  const { socket } = request;
  request.res?.setHeader("Connection", "close");
  if (request.headers["content-length"] === undefined && request.headers["transfer-encoding"] === undefined) return;
  socket.destroySoon = () => {
    socket.end();
    const before = socket.bytesRead;
    request.on("data", () => {
      if (socket.bytesRead - before > LEAVE_BYTES) socket.destroy();
    });
    request.resume();
    setTimeout(() => socket.destroy(), LEAVE_MS).unref();
  };
}

async function answer(context: Context, route: Route, request: Request, response: Response): Promise<void> {
  const { endpoint } = route;
  const user = USERS.get(request);
  const sent = {
    params: await withNamesNow(context, endpoint.path, check(endpoint.params, request.params, "address")),
    query: check(endpoint.query, request.query, "query"),
    body: bodyOf(endpoint.body, request),
  };
  const scope = user ? await checkReach(context, user, rightOf(route.id), sent) : [];
  const call = {
    context,
    request,
    response,
    user: user ?? NOBODY,
    scope,
    ...sent,
    ...answering(request, response),
  } as Call;
  const given = await once(context, route, call, () => route.handle(call));
  if (given === undefined || response.headersSent) return;
  checkAnswer(context, route, given, response.statusCode);
  // What is asked is somebody's: it stays in no cache.
  if (!response.hasHeader("Cache-Control")) response.setHeader("Cache-Control", "no-store");
  response.json(given);
}

const NAMED = /^\/(reports|datasets|templates)\/\{(name|file)\}/;

/** Addresses go on leading to what they named, also after that was renamed. */
async function withNamesNow(context: Context, path: string, params: unknown): Promise<unknown> {
  const named = NAMED.exec(path);
  const kind = named?.[1] as Kind | undefined;
  const key = named?.[2];
  const given = key === undefined ? undefined : (params as Readonly<Record<string, unknown>>)[key];
  if (kind === undefined || key === undefined || typeof given !== "string") return params;
  return { ...(params as object), [key]: await calledNow(context, kind, given) };
}

function bodyOf(body: Route["endpoint"]["body"], { body: sent }: Request): unknown {
  if (body === "bytes") return Buffer.isBuffer(sent) ? sent : new Uint8Array();
  if (body === "text") return typeof sent === "string" ? sent : "";
  return body === "stream" ? undefined : check(body, sent ?? {}, "body");
}

/** Under test an answer that is not what the contract says is a failure of the service. */
function checkAnswer(context: Context, { id, endpoint }: Route, given: unknown, status: number): void {
  if (!context.settings.checkAnswers || typeof endpoint.answer === "string") return;
  const told = JSON.parse(JSON.stringify(given));
  const read = endpoint.answer.safeParse(told);
  const isStatus = endpoint.statuses.some((one) => one === status);
  if (read.success && isStatus) return;
  const what = read.success ? `it answers ${status}` : describeProblems(read.error);
  throw new Error(`The answer of ${id} is not what the contract says: ${what}`);
}

function check(schema: z.ZodType | undefined, value: unknown, where: string): unknown {
  if (!schema) return undefined;
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw new CorbixError(
    "BAD_REQUEST",
    say().serviceHttp.cannotUse({ where, describeProblems: describeProblems(result.error) }),
    {
      where,
      advice: say().serviceHttp.seeOpenapiJson(),
    },
  );
}

/** Problem details (RFC 9457): errors raised on purpose are told as they are, anything else is logged and told as a plain failure. */
function sendProblem(context: Context, error: unknown, request: Request, response: Response): void {
  if (response.headersSent) {
    response.destroy();
    return;
  }
  const known = toKnown(error);
  if (!known) context.log.error({ path: request.path, error: describeError(error) }, "call failed");
  const status = known?.status ?? 500;
  response
    .status(status)
    .type("application/problem+json")
    .send(
      JSON.stringify({
        type: "about:blank",
        title: known?.message ?? say().serviceHttp.somethingWentWrong(),
        status,
        code: known?.code ?? "FAILED",
        ...(known ? {} : instanceNow()),
        ...(known?.where ? { where: known.where } : {}),
        ...(known?.advice ? { advice: known.advice } : {}),
      }),
    );
}

/** By which what went wrong is found in the log. */
function instanceNow(): { instance?: string } {
  const trace = traceNow();
  return trace === undefined ? {} : { instance: `urn:corbix:request:${traceId(trace)}` };
}

function toKnown(error: unknown): CorbixError | undefined {
  if (error instanceof CorbixError) return error;
  if (isDatabaseAway(error))
    return new CorbixError("DATABASE_UNREACHABLE", say().serviceHttp.cannotAnswerNowDatabaseCannot(), {
      advice: say().serviceHttp.tryAgainMomentNothingChanged(),
      cause: error,
    });
  const { type, status, limit } = error as { type?: string; status?: number; limit?: number };
  if (type === "entity.too.large")
    return new CorbixError("LIMIT_EXCEEDED", say().serviceHttp.cannotTakeBodyOverLimit({ limit }), {
      where: "body",
      advice: say().serviceHttp.sendLessTablesSentAddresses(),
    });
  if (type === "entity.parse.failed")
    return new CorbixError("BAD_REQUEST", say().serviceHttp.cannotReadBodyJson(), { where: "body" });
  return status === 400 ? new CorbixError("BAD_REQUEST", say().serviceHttp.cannotReadCall()) : undefined;
}

/** Message and place: errors of the database driver carry no message in their stack. */
function describeError(error: unknown): string {
  return error instanceof Error ? `${error.message}\n${error.stack ?? ""}` : String(error);
}
