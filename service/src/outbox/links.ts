/** Pages of files behind signed addresses that end by themselves: for recipients, who have no sign-in. */

import { basename } from "node:path";
import { CorbixError, made } from "@corbix/core/common";
import { escapeHtml } from "@corbix/core/message";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import {
  addDownload,
  type FileRow,
  filesOfParcel,
  type MessageRow,
  maybeMessage,
  parcelById,
} from "../records/index.js";

const DAY_MS = 86_400_000;

/** The address of a message's page, and the last day on which it works. The same message has the same address. */
export function downloadLink(
  { settings, secrets }: Pick<Context, "settings" | "secrets">,
  message: Pick<MessageRow, "id" | "datedAt">,
  days: number,
): { readonly url: string; readonly until: string } {
  const last = Math.floor(new Date(message.datedAt ?? 0).getTime() / DAY_MS) + days;
  const what = `${message.id}.${last}`;
  const base = settings.publicUrl ?? `http://${settings.host}:${settings.port}`;
  return { url: `${base}/d/${what}.${secrets.sign(what)}`, until: new Date(last * DAY_MS).toISOString().slice(0, 10) };
}

export interface DownloadPage {
  readonly message: string;
  readonly until: string;
  readonly label: string;
  readonly files: readonly FileRow[];
}

/** What an address leads to. Throws `NOT_FOUND` for one that was not made here, is over, or whose message was taken out. */
export async function openLink(context: Context, token: string): Promise<DownloadPage> {
  const [, id = "", last = "", signature = ""] = /^(\d{1,18})\.(\d{1,6})\.(.+)$/.exec(token) ?? [];
  const none = new CorbixError("NOT_FOUND", say().serviceOutbox.pageAnyMore(), {
    advice: say().serviceOutbox.askOfficeSentYouLink(),
  });
  if (!isSame(signature, context.secrets.sign(`${id}.${last}`))) throw none;
  if (context.now().getTime() >= (Number(last) + 1) * DAY_MS) throw none;
  const message = await maybeMessage(context.database, id);
  if (!message || ["held", "skipped"].includes(message.state)) throw none;
  const parcel = made(await parcelById(context.database, message.parcelId), "the parcel of a message");
  const all = await filesOfParcel(context.database, parcel.id, true);
  const files = all.filter((file) => file.runId === message.runId && file.groupKey === parcel.groupKey);
  return {
    message: message.id,
    until: new Date(Number(last) * DAY_MS).toISOString().slice(0, 10),
    label: parcel.label,
    files: files.filter((file) => parcel.attachments.includes(file.path)),
  };
}

/** Compared without telling by its time how much of it is right. */
function isSame(a: string, b: string): boolean {
  if (a.length !== b.length) return false;
  let difference = 0;
  for (let at = 0; at < a.length; at++) difference |= a.charCodeAt(at) ^ b.charCodeAt(at);
  return difference === 0;
}

export async function noteDownload(context: Context, message: string, file: string): Promise<void> {
  await addDownload(context.database, message, file);
}

/** The page as a recipient sees it: no script, nothing from elsewhere. */
export function downloadHtml(token: string, page: DownloadPage): string {
  const rows = page.files.map((file) => {
    const at = `/d/${escapeHtml(token)}/${escapeHtml(file.id)}`;
    const show = file.kind === "pdf" ? `, <a href="${at}?show=true">show it here</a>` : "";
    return `<li><a href="${at}">${escapeHtml(basename(file.path))}</a> <span>${Math.max(1, Math.round(file.size / 1000)).toLocaleString("en")} kB${show}</span></li>`;
  });
  return shell(
    `Files for ${escapeHtml(page.label)}`,
    `<ul>${rows.join("")}</ul><p>This page works until ${escapeHtml(page.until)}.</p>`,
  );
}

export function noDownloadHtml(): string {
  return shell("This page is not there, or not any more", "<p>Ask the office that sent you the link.</p>");
}

function shell(title: string, content: string): string {
  return `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex"><title>${title}</title><style>body{font:16px/1.5 Carlito,Calibri,Arial,sans-serif;max-width:40rem;margin:3rem auto;padding:0 1rem;color:#1c2526}li{margin:.4rem 0}span{color:#5a6b6b}a{color:#0f5c5c}</style></head><body><h1>${title}</h1>${content}</body></html>`;
}
