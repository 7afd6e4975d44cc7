/** Files put into a WebDAV folder (RFC 4918). */
import { sha256 } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { addressBelow, openWeb, type WebLine, type WebPlace } from "./http.js";
import { PlaceInTrouble, PutRefused, type PutWish, type WayLine } from "./line.js";

export function openWebDav(place: WebPlace): WayLine {
  const web = openWeb(place);
  const made = new Set<string>();
  return {
    put: async (path, bytes, wish) => {
      const at = addressBelow(place.address, path);
      await makeFolders(web, place.address, path, made);
      const { status, receipt } = await putFile(web, at, bytes, wish);
      if (receipt !== undefined) return receipt;
      if (!NO_FOLDER.has(status)) throw failed(status);
      // Somebody has taken its folder away since it was made.
      made.clear();
      await makeFolders(web, place.address, path, made);
      const again = await putFile(web, at, bytes, wish);
      if (again.receipt === undefined) throw failed(again.status);
      return again.receipt;
    },
    remove: async (path) => {
      await web.ask("DELETE", addressBelow(place.address, path));
    },
    close: web.close,
  };
}

/** Answers to a file whose folder is not there (RFC 4918, 9.7.1), as servers give them. */
const NO_FOLDER: ReadonlySet<number> = new Set([403, 404, 409]);

/** The folders of a path, each where it is not known to be there. */
async function makeFolders(web: WebLine, address: string, path: string, made: Set<string>): Promise<void> {
  const folders = path.split("/").slice(0, -1);
  for (let depth = 1; depth <= folders.length; depth++) {
    const folder = folders.slice(0, depth).join("/");
    if (made.has(folder)) continue;
    await makeFolder(web, address, folder);
    made.add(folder);
  }
}

async function makeFolder(web: WebLine, address: string, folder: string): Promise<void> {
  const at = addressBelow(address, folder);
  at.pathname += "/";
  const { status } = await web.ask("MKCOL", at);
  // 405: it is there already (RFC 4918, 9.3.1).
  if (status === 201 || status === 405) return;
  // Another line may have made it this moment.
  const there = await web.ask("PROPFIND", at, { headers: { Depth: "0" } });
  if (there.status !== 207) throw failed(status);
}

async function putFile(
  web: WebLine,
  at: URL,
  bytes: Uint8Array,
  { over, sha256: digest }: PutWish,
): Promise<{ readonly status: number; readonly receipt?: string }> {
  const { status } = await web.ask("PUT", at, {
    body: bytes,
    // Only where nothing is there (RFC 9110, 13.1.2).
    headers: { "Content-Type": "application/octet-stream", ...(over ? {} : { "If-None-Match": "*" }) },
  });
  if (status === 412 && !over) return { status, receipt: await comparedWith(web, at, bytes, digest) };
  if (status < 200 || status > 299) return { status };
  return { status, receipt: say().serviceWays.answered({ status, bytes: bytes.length, digest }) };
}

/** Something is there: the same bytes, as after an answer that was lost, or others. */
export async function comparedWith(web: WebLine, at: URL, bytes: Uint8Array, digest: string): Promise<string> {
  const there = await web.ask("GET", at);
  if (there.status === 200 && sha256(there.bytes) === digest)
    return say().serviceWays.wasThere({ bytes: bytes.length, digest });
  throw new PutRefused(say().serviceWays.anotherIsThere());
}

/** What an answer that is no success means: to be tried again, a matter of the whole place, or a refusal. */
export function failed(status: number): Error {
  const words = say().serviceWays.answeredOnly({ status });
  if (status === 401 || status === 407) return new PlaceInTrouble(say().serviceWays.notSignedIn({ status }));
  const isForNow = status >= 500 || status === 408 || status === 423 || status === 425 || status === 429;
  return isForNow ? new Error(words) : new PutRefused(words);
}
