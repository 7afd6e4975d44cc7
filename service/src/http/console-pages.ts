/** The console's files: its page with a nonce for the styles that its editors make, and the frame in which mails are looked at. */
import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import compression from "compression";
import express, { type Express, type Response } from "express";
import { nonceNow } from "./nonce.js";

/** Directives that hold for every page, besides those for styles. Scripts come from files of ours alone, and make no code of texts. */
export const PAGE_POLICY = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  styleSrc: ["'self'", () => `'nonce-${nonceNow()}'`],
  imgSrc: ["'self'", "data:", "blob:"],
  fontSrc: ["'self'", "data:"],
  connectSrc: ["'self'"],
  workerSrc: ["'self'", "blob:"],
  frameSrc: ["'self'"],
  objectSrc: ["'none'"],
  baseUri: ["'none'"],
  requireTrustedTypesFor: ["'script'"],
  trustedTypes: ["svelte-trusted-html", "default", "corbix-parsed"],
  upgradeInsecureRequests: null,
};

const FRAME = "mail.html";

export function serveConsole(app: Express, folder: string): void {
  if (!existsSync(folder)) return;
  app.use(compression());
  const page = readFileSync(join(folder, "index.html"), "utf8");
  app.get(["/", "/index.html"], (_, response) => {
    response
      .setHeader("Cache-Control", "no-cache")
      .type("html")
      .send(page.replace("<head>", `<head>\n    <meta name="style-nonce" content="${nonceNow()}" />`));
  });
  const policy = framePolicy(readFileSync(join(folder, FRAME), "utf8"));
  app.get(`/${FRAME}`, (_, response, next) => {
    response.setHeader("Content-Security-Policy", policy);
    next();
  });
  app.use("/assets", express.static(join(folder, "assets"), { immutable: true, maxAge: "1y" }));
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response: Response) => response.setHeader("Cache-Control", "no-cache"),
    }),
  );
}

/** Mails bring styles of their own, and no power: neither scripts nor pictures from elsewhere, in an origin of its own. */
function framePolicy(html: string): string {
  const script = /<script>([\s\S]*?)<\/script>/.exec(html)?.[1] ?? "";
  const digest = createHash("sha256").update(script).digest("base64");
  return [
    "default-src 'none'",
    `script-src 'sha256-${digest}'`,
    "style-src 'unsafe-inline'",
    "img-src data:",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'self'",
    "sandbox allow-scripts",
  ].join("; ");
}
