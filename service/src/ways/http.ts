/** What files go by over HTTP: questions with sign-in, patience and a certificate authority of one's own. */
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { Agent, type Dispatcher, request } from "undici";
import type { Reach } from "../process/reach.js";
import { PlaceInTrouble } from "./line.js";

export interface WebPlace {
  readonly address: string;
  readonly user?: string | undefined;
  readonly password?: string | undefined;
  readonly token?: string | undefined;
  readonly headers?: Readonly<Record<string, string>> | undefined;
  readonly authority?: string | undefined;
  readonly reach: Reach;
}

export interface WebAnswer {
  readonly status: number;
  /** What was asked for by GET. */
  readonly bytes: Uint8Array;
}

export interface WebLine {
  readonly ask: (
    method: string,
    url: URL,
    sent?: { readonly body?: Uint8Array; readonly headers?: Readonly<Record<string, string>> },
  ) => Promise<WebAnswer>;
  readonly close: () => void;
}

/** A server may be silent for so long. */
const SILENCE_MS = 60_000;
const CONNECT_MS = 20_000;
/** A file that is there already is read to be compared, up to so many bytes. */
const MOST_BYTES = 1_000_000_000;

/** Nothing of a request that broke in this way has reached the server. */
const NOT_REACHED: ReadonlySet<string> = new Set([
  "ECONNREFUSED",
  "ENOTFOUND",
  "EAI_AGAIN",
  "EHOSTUNREACH",
  "ENETUNREACH",
  "UND_ERR_CONNECT_TIMEOUT",
  "DEPTH_ZERO_SELF_SIGNED_CERT",
  "SELF_SIGNED_CERT_IN_CHAIN",
  "UNABLE_TO_VERIFY_LEAF_SIGNATURE",
  "UNABLE_TO_GET_ISSUER_CERT_LOCALLY",
  "CERT_HAS_EXPIRED",
  "ERR_TLS_CERT_ALTNAME_INVALID",
]);

/** Throws `PlaceInTrouble` where the server was not reached; other errors where the line broke. */
export function openWeb({ user, password, token, headers, authority, reach }: WebPlace): WebLine {
  const agent = new Agent({
    connect: {
      timeout: CONNECT_MS,
      lookup: reach.lookup,
      ...(authority === undefined ? {} : { ca: authority }),
    },
    headersTimeout: SILENCE_MS,
    bodyTimeout: SILENCE_MS,
  });
  const signIn =
    token !== undefined
      ? { Authorization: `Bearer ${token}` }
      : user !== undefined
        ? { Authorization: `Basic ${Buffer.from(`${user}:${password ?? ""}`).toString("base64")}` }
        : {};
  return {
    ask: async (method, url, sent = {}) => {
      try {
        reach.check(url.hostname);
        const { statusCode: status, body } = await request(url, {
          method: method as Dispatcher.HttpMethod,
          headers: { ...headers, ...signIn, ...sent.headers },
          dispatcher: agent,
          body: sent.body ?? null,
        });
        if (method === "GET") return { status, bytes: await readAll(body) };
        await body.dump();
        return { status, bytes: new Uint8Array() };
      } catch (error) {
        if (NOT_REACHED.has(codeOf(error)) || error instanceof CorbixError) throw new PlaceInTrouble(wordsOf(error));
        throw error;
      }
    },
    close: () => void agent.close().catch(() => {}),
  };
}

function codeOf(error: unknown): string {
  return error instanceof Error && "code" in error && typeof error.code === "string" ? error.code : "";
}

async function readAll(body: AsyncIterable<Uint8Array>): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of body) {
    size += piece.length;
    if (size > MOST_BYTES) throw new Error(say().serviceWays.tooMuchCame({ bytes: MOST_BYTES }));
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

/** An address below another, with its folders and name written so that nothing of them means more. */
export function addressBelow(address: string, path: string): URL {
  const base = new URL(address);
  const folder = base.pathname.endsWith("/") ? base.pathname : `${base.pathname}/`;
  base.pathname = folder + path.split("/").map(encodeURIComponent).join("/");
  return base;
}
