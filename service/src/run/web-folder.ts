/** A run's files put into a WebDAV folder (RFC 4918), for whoever fetches them there. */

import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import { PlaceInTrouble } from "../ways/line.js";
import { openWebDav } from "../ways/web-dav.js";
import { filesOf } from "./export-files.js";

export interface WebFolder {
  readonly url: string;
  readonly user?: string | undefined;
  readonly password?: string | undefined;
}

/**
 * Makes a folder for each group and puts its files there. What is there already is never written over: the same bytes count as put, and
 * another file of the name stops it with what was put so far. Throws `SERVICE_UNREACHABLE` or `CONFLICT`.
 */
export async function putIntoWebFolder(
  context: Context,
  runId: string,
  folder: WebFolder,
  groups: readonly string[] | undefined,
  by: string,
): Promise<{ readonly put: number }> {
  const files = await filesOf(context, runId, groups);
  const { origin, pathname } = new URL(folder.url);
  const line = openWebDav({
    address: folder.url,
    user: folder.user,
    password: folder.password,
    reach: context.reach,
  });
  let put = 0;
  try {
    for (const { file, inGroup } of files) {
      const path = inGroup.join("/");
      const bytes = await context.store.get(file.sha256);
      await line
        .put(path, bytes, { over: false, sha256: file.sha256, key: `${runId}/${path}` })
        .catch((error: unknown) => {
          throw notPut(error, `${origin}${pathname}`, path, put);
        });
      put++;
    }
  } finally {
    line.close();
  }
  await noteAction(context.database, by, "files put into a web folder", runId, { url: origin + pathname, put });
  return { put };
}

function notPut(cause: unknown, where: string, path: string, put: number): CorbixError {
  if (cause instanceof PlaceInTrouble)
    return new CorbixError("SERVICE_UNREACHABLE", say().serviceRun.cannotReachWebFolder({ wordsOf: wordsOf(cause) }), {
      where,
      advice: say().serviceRun.seeAddressRightCanReached(),
      cause,
    });
  return new CorbixError("CONFLICT", say().serviceRun.cannotPutFile({ path, words: wordsOf(cause) }), {
    where,
    advice: say().serviceRun.filesPutBefore({ put }),
    cause,
  });
}
