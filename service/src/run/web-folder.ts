/** A run's files put into a WebDAV folder (RFC 4918), for whoever fetches them there. */

import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import { filesOf, type OwnFile } from "./export-files.js";

export interface WebFolder {
  readonly url: string;
  readonly user?: string | undefined;
  readonly password?: string | undefined;
}

/** A server may be silent for so long. */
const SILENCE_MS = 60_000;

/**
 * Makes a folder for each group and puts its files there. What is there already is never written over: the server is told so, and a
 * file of the same name stops it with what was put so far. Throws `SERVICE_UNREACHABLE` or `CONFLICT`.
 */
export async function putIntoWebFolder(
  context: Context,
  runId: string,
  folder: WebFolder,
  groups: readonly string[] | undefined,
  by: string,
): Promise<{ readonly put: number }> {
  const files = await filesOf(context, runId, groups);
  const base = new URL(folder.url.endsWith("/") ? folder.url : `${folder.url}/`);
  const ask = asker(folder);
  const made = new Set<string>();
  let put = 0;
  for (const own of files) {
    const [group, name] = own.inGroup;
    const at = new URL(`${encodeURIComponent(group)}/`, base);
    if (!made.has(group)) {
      const { status } = await ask("MKCOL", at);
      // 405: it is there already (RFC 4918, 9.3.1).
      if (status !== 201 && status !== 405) throw refused(at, status, put);
      made.add(group);
    }
    put += await putFile(context, ask, own, new URL(encodeURIComponent(name), at), put);
  }
  await noteAction(context.database, by, "files put into a web folder", runId, {
    url: base.origin + base.pathname,
    put,
  });
  return { put };
}

type Ask = (method: string, url: URL, body?: Uint8Array) => Promise<{ readonly status: number }>;

async function putFile(context: Context, ask: Ask, { file }: OwnFile, url: URL, before: number): Promise<number> {
  const { status } = await ask("PUT", url, await context.store.get(file.sha256));
  if (status === 412)
    throw new CorbixError(
      "CONFLICT",
      say().serviceRun.cannotPutFileName({ decodeURIComponent: decodeURIComponent(url.pathname) }),
      {
        where: url.origin,
        advice: say().serviceRun.takeAwayNameAnotherFolder({ before }),
      },
    );
  if (status < 200 || status > 299) throw refused(url, status, before);
  return 1;
}

function asker({ user, password }: WebFolder): Ask {
  const sign: Record<string, string> =
    user === undefined ? {} : { Authorization: `Basic ${Buffer.from(`${user}:${password ?? ""}`).toString("base64")}` };
  return async (method, url, body) => {
    try {
      return await fetch(url, {
        method,
        // Only where nothing is there (RFC 9110, 13.1.2).
        headers: { ...sign, ...(body ? { "If-None-Match": "*", "Content-Type": "application/octet-stream" } : {}) },
        redirect: "error",
        signal: AbortSignal.timeout(SILENCE_MS),
        ...(body ? { body: Buffer.from(body) } : {}),
      });
    } catch (cause) {
      throw new CorbixError("SERVICE_UNREACHABLE", say().serviceRun.cannotReachWebFolder({ wordsOf: wordsOf(cause) }), {
        where: url.origin,
        advice: say().serviceRun.seeAddressRightCanReached(),
        cause,
      });
    }
  };
}

function refused(url: URL, status: number, put: number): CorbixError {
  return new CorbixError("CONFLICT", say().serviceRun.cannotPutWebFolderAnswered({ status }), {
    where: url.origin + url.pathname,
    advice: say().serviceRun.filesPutBefore({ put }),
  });
}
