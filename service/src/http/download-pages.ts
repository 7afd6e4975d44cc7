/** Pages for recipients whose message holds links in place of files: behind signed addresses that end by themselves. */

import { basename } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { CONTENT_TYPES, escapeHtml } from "@corbix/core/message";
import { say } from "@corbix/core/words";
import type { Express } from "express";
import { type DownloadPage, noteDownload, openLink } from "../outbox/links.js";
import type { Context } from "../process/context.js";
import { plainPage } from "./plain-page.js";

export function serveDownloads(app: Express, context: Context): void {
  app.get("/d/:token", async (request, response) => {
    const { token } = request.params;
    const page = await openLink(context, token).catch(() => undefined);
    response.status(page ? 200 : 404).setHeader("Cache-Control", "no-store");
    response.type("html").send(page ? downloadHtml(token, page) : noDownloadHtml());
  });
  app.get("/d/:token/:file", async (request, response) => {
    const page = await openLink(context, request.params.token);
    const file = page.files.find((one) => one.id === request.params.file);
    if (!file) throw new CorbixError("NOT_FOUND", say().serviceHttp.file());
    const bytes = Buffer.from(await context.store.get(file.sha256));
    await noteDownload(context, page.message, file.id);
    response.attachment(basename(file.path)).type(CONTENT_TYPES[file.kind]);
    // A browser's own reader shows it; a file that could hold a script is never shown here.
    if (file.kind === "pdf" && request.query["show"] === "true")
      response.setHeader(
        "Content-Disposition",
        String(response.getHeader("Content-Disposition")).replace("attachment", "inline"),
      );
    response.send(bytes);
  });
}

/** The page as a recipient sees it: no script, nothing from elsewhere. */
export function downloadHtml(token: string, page: DownloadPage): string {
  const words = say().serviceHttp;
  const rows = page.files.map((file) => {
    const at = `/d/${escapeHtml(token)}/${escapeHtml(file.id)}`;
    const show = file.kind === "pdf" ? `, <a href="${at}?show=true">${escapeHtml(words.showHere())}</a>` : "";
    return `<li><a href="${at}">${escapeHtml(basename(file.path))}</a> <span>${Math.max(1, Math.round(file.size / 1000)).toLocaleString("en")} kB${show}</span></li>`;
  });
  return plainPage(
    escapeHtml(words.filesFor({ label: page.label })),
    `<ul>${rows.join("")}</ul><p>${escapeHtml(words.worksUntil({ until: page.until }))}</p>`,
  );
}

export function noDownloadHtml(): string {
  const words = say().serviceOutbox;
  return plainPage(
    escapeHtml(words.pageAnyMore().replace(/[.]$/, "")),
    `<p>${escapeHtml(words.askOfficeSentYouLink())}</p>`,
  );
}
