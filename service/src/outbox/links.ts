/** Pages of files behind signed addresses that end by themselves: for recipients, who have no sign-in. */

import { CorbixError, made } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { siteOf } from "../process/site.js";
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
  const base = siteOf(settings);
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
  if (!context.secrets.signs(`${id}.${last}`).some((one) => isSame(signature, one))) throw none;
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
