import { existsSync } from "node:fs";
import { join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { describeProblems } from "@corbix/core/report";
import express, { type Express, type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import type { z } from "zod";
import { maybeUser, type User } from "../access/access.js";
import type { Context } from "../context.js";
import { eventStream } from "./event-stream.js";
import { openApiDocument } from "./openapi.js";
import type { Route } from "./route.js";
import { allRoutes } from "./routes/index.js";

export const SESSION_COOKIE = "corbix_session";
/** JSON and text bodies are small; files go their own way. */
const TEXT_LIMIT = "4mb";

/** The HTTP service: API, event stream, OpenAPI document, and the console's files. */
export function makeApp(context: Context, consoleFolder: string): Express {
  const app = express();
  const routes = allRoutes(context);
  app.disable("x-powered-by");
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", "data:", "blob:"],
          fontSrc: ["'self'", "data:"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'", "blob:"],
          frameSrc: ["'self'", "blob:"],
          objectSrc: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  app.get("/openapi.json", (_, response) => {
    response.json(openApiDocument(routes));
  });
  app.get("/api/events", (request, response, next) => {
    identify(context, request).then(() => eventStream(context, request, response), next);
  });
  for (const route of routes) serve(app, context, route);
  app.use("/api", () => {
    throw new CorbixError("NOT_FOUND", "Cannot find this address in the API.", { advice: "See /openapi.json." });
  });
  if (existsSync(consoleFolder)) {
    app.use("/assets", express.static(join(consoleFolder, "assets"), { immutable: true, maxAge: "1y" }));
    app.use(express.static(consoleFolder, { index: "index.html" }));
  }
  app.use((error: unknown, request: Request, response: Response, _next: NextFunction) =>
    sendProblem(context, error, request, response),
  );
  return app;
}

function serve(app: Express, context: Context, route: Route): void {
  const path = route.path.replace(/\{(\w+)\}/g, ":$1");
  const parse =
    route.body === "bytes"
      ? express.raw({ type: () => true, limit: context.settings.uploadLimit })
      : route.body === "text"
        ? express.text({ type: () => true, limit: TEXT_LIMIT })
        : express.json({ limit: TEXT_LIMIT });
  app[route.method](
    path,
    ...(route.body === "stream" ? [] : [parse]),
    (request: Request, response: Response, next: NextFunction) => {
      answer(context, route, request, response).catch(next);
    },
  );
}

async function answer(context: Context, route: Route, request: Request, response: Response): Promise<void> {
  const user = route.isOpen ? { id: 0, name: "" } : await identify(context, request);
  const call = {
    context,
    request,
    response,
    user,
    params: check(route.params, request.params, "address"),
    query: check(route.query, request.query, "query"),
    body:
      route.body === "bytes" || route.body === "stream" || route.body === "text"
        ? request.body
        : check(route.body, request.body ?? {}, "body"),
  };
  const result = await route.handle(call as Parameters<Route["handle"]>[0]);
  if (result !== undefined && !response.headersSent) response.json(result);
}

function check(schema: z.ZodType | undefined, value: unknown, where: string): unknown {
  if (!schema) return undefined;
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw new CorbixError("BAD_REQUEST", `Cannot use the ${where}: ${describeProblems(result.error)}.`, {
    where,
    advice: "See /openapi.json.",
  });
}

/** Whose call it is: by bearer token, or by the console's cookie, which counts only for calls from our own pages. */
async function identify(context: Context, request: Request): Promise<User> {
  const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? "")?.[1];
  const token = bearer ?? sessionToken(request);
  const user = token ? await maybeUser(context.database, token) : undefined;
  if (!user)
    throw new CorbixError("NOT_SIGNED_IN", "Cannot answer without a sign-in.", {
      advice: "Sign in, or send a token: Authorization: Bearer …",
    });
  if (!bearer && request.method !== "GET" && !isOwnOrigin(request))
    throw new CorbixError("NOT_ALLOWED", "Cannot take this call from another site.");
  return user;
}

export function sessionToken(request: Request): string | undefined {
  return new RegExp(`(?:^|;\\s*)${SESSION_COOKIE}=([^;]+)`).exec(request.headers.cookie ?? "")?.[1];
}

function isOwnOrigin(request: Request): boolean {
  const { origin, host } = request.headers;
  if (origin === undefined)
    return request.headers["sec-fetch-site"] === undefined || request.headers["sec-fetch-site"] === "same-origin";
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}

/** Problem details (RFC 9457): errors raised on purpose are told as they are, anything else is logged and told as a plain failure. */
function sendProblem(context: Context, error: unknown, request: Request, response: Response): void {
  if (response.headersSent) {
    response.destroy();
    return;
  }
  const known = toKnown(error, context);
  if (!known) context.log.error({ path: request.path, error: describeError(error) }, "call failed");
  const status = known?.status ?? 500;
  response
    .status(status)
    .type("application/problem+json")
    .send(
      JSON.stringify({
        type: "about:blank",
        title: known?.message ?? "Something went wrong in the service; its log tells more.",
        status,
        code: known?.code ?? "FAILED",
        ...(known?.where ? { where: known.where } : {}),
        ...(known?.advice ? { advice: known.advice } : {}),
      }),
    );
}

function toKnown(error: unknown, context: Context): CorbixError | undefined {
  if (error instanceof CorbixError) return error;
  const { type, status } = error as { type?: string; status?: number };
  if (type === "entity.too.large")
    return new CorbixError(
      "LIMIT_EXCEEDED",
      `Cannot take the upload: it is over the limit of ${context.settings.uploadLimit} bytes.`,
      { where: "body", advice: "Raise CORBIX_UPLOAD_LIMIT, or send a smaller file." },
    );
  if (type === "entity.parse.failed")
    return new CorbixError("BAD_REQUEST", "Cannot read the body as JSON.", { where: "body" });
  return status === 400 ? new CorbixError("BAD_REQUEST", "Cannot read the call.") : undefined;
}

/** Message and place: errors of the database driver carry no message in their stack. */
function describeError(error: unknown): string {
  return error instanceof Error ? `${error.message}\n${error.stack ?? ""}` : String(error);
}
