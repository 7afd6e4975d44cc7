/** Files handed over to a web service, one request each. */
import { basename, extname } from "node:path";
import { CONTENT_TYPES } from "@corbix/core/message";
import { say } from "@corbix/core/words";
import { addressBelow, openWeb, type WebPlace } from "./http.js";
import { PlaceInTrouble, PutUnknown, type PutWish, type WayLine } from "./line.js";
import { comparedWith, failed } from "./web-dav.js";

export function openUpload(place: WebPlace & { readonly method: "PUT" | "POST" }): WayLine {
  const web = openWeb(place);
  return {
    put: async (path, bytes, wish) => {
      const at = place.method === "PUT" ? addressBelow(place.address, path) : new URL(place.address);
      const { status } = await web
        .ask(place.method, at, { body: bytes, headers: headersOf(place.method, path, wish) })
        .catch((error: Error) => {
          // A POST is no more than asked for: a server that got it and did not answer may have kept it.
          if (place.method === "PUT" || error instanceof PlaceInTrouble) throw error;
          throw new PutUnknown(say().serviceWays.answerLost({ words: error.message }));
        });
      if (status === 412 && place.method === "PUT" && !wish.over) return comparedWith(web, at, bytes, wish.sha256);
      if (status < 200 || status > 299) throw failed(status);
      return say().serviceWays.answered({ status, bytes: bytes.length, digest: wish.sha256 });
    },
    remove: async (path) => {
      if (place.method === "PUT") await web.ask("DELETE", addressBelow(place.address, path));
    },
    close: web.close,
  };
}

function headersOf(method: "PUT" | "POST", path: string, { over, sha256, key }: PutWish): Record<string, string> {
  const name = basename(path);
  const plain = name.replace(/[^\x20-\x7e]|["\\]/g, "_");
  return {
    "Content-Type": contentType(name),
    // RFC 9530.
    "Content-Digest": `sha-256=:${Buffer.from(sha256, "hex").toString("base64")}:`,
    "Idempotency-Key": `"${key}"`,
    ...(method === "PUT" && !over ? { "If-None-Match": "*" } : {}),
    // RFC 6266 and RFC 8187: the name with all its letters beside one that old servers read.
    ...(method === "POST"
      ? { "Content-Disposition": `attachment; filename="${plain}"; filename*=UTF-8''${quoted(name)}` }
      : {}),
  };
}

function contentType(name: string): string {
  const ending = extname(name).slice(1).toLowerCase();
  return Object.entries(CONTENT_TYPES).find(([known]) => known === ending)?.[1] ?? "application/octet-stream";
}

function quoted(name: string): string {
  return encodeURIComponent(name).replace(/['()*]/g, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`);
}
