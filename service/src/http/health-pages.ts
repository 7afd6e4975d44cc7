/** What other programs ask: whether the service lives, whether it can work, and what there is to count. */
import { timingSafeEqual } from "node:crypto";
import { sha256 } from "@corbix/core/common";
import type { Express, Request } from "express";
import type { Metrics } from "../health/metrics.js";
import type { Ready } from "../health/ready.js";
import type { Context } from "../process/context.js";

export function serveHealth(
  app: Express,
  context: Context,
  { ready, metrics }: { ready: Ready; metrics: Metrics },
): void {
  app.get("/health/live", (_, response) => {
    response.json({ ok: true });
  });
  app.get("/health/ready", (_, response, next) => {
    ready.look().then(({ ok, checks }) => {
      // To whoever asks, no more than which of them is not there.
      response
        .status(ok ? 200 : 503)
        .json({ ok, checks: Object.fromEntries(checks.map(({ name, state }) => [name, state])) });
    }, next);
  });
  app.get("/metrics", (request, response, next) => {
    if (!mayCount(context, request)) {
      response
        .status(401)
        .setHeader("WWW-Authenticate", "Bearer")
        .type("text/plain")
        .send("Set CORBIX_METRICS_TOKEN, and send it as a bearer token.\n");
      return;
    }
    metrics.text().then((text) => response.setHeader("Content-Type", metrics.contentType).send(text), next);
  });
}

function mayCount({ settings }: Context, request: Request): boolean {
  const sent = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? "")?.[1];
  if (sent === undefined || settings.metricsToken === undefined) return false;
  return timingSafeEqual(Buffer.from(sha256(sent)), Buffer.from(sha256(settings.metricsToken)));
}
