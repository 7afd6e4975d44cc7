import { openAsBlob, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { type CorbixClient, type components, connect, Problem } from "@corbix/api/client";
import { CorbixError, ERRORS, type ErrorCode } from "@corbix/core/common";
import { say } from "@corbix/core/words";

export type Client = CorbixClient;
/** Shapes of the API by name. */
export type Schemas = components["schemas"];

export interface ClientOptions {
  readonly url?: string;
  readonly token?: string;
}

const PROJECT = fileURLToPath(new URL("../..", import.meta.url));

/** The service's address and token: from options, environment, or the data folder of this project. */
export function makeClient(options: ClientOptions): Client {
  const url = options.url ?? process.env.CORBIX_URL ?? `http://127.0.0.1:${process.env.CORBIX_PORT ?? 8320}`;
  const token = options.token ?? process.env.CORBIX_TOKEN ?? localToken();
  return connect({ url, token });
}

/** A file of this machine as a body that is sent piece by piece. Throws `NOT_FOUND` with the path. */
export async function fileBody(path: string): Promise<Blob> {
  try {
    return await openAsBlob(path);
  } catch (cause) {
    throw new CorbixError("NOT_FOUND", say().command.cannotReadFileNone(), { where: path, cause });
  }
}

/** The first items of a list, however many pages they are on. */
export async function firstOf<Item>(items: AsyncIterable<Item>, most = Number.POSITIVE_INFINITY): Promise<Item[]> {
  const found: Item[] = [];
  for await (const item of items) {
    if (found.length >= most) break;
    found.push(item);
  }
  return found;
}

function localToken(): string | undefined {
  try {
    const path = join(process.env.CORBIX_DATA ?? join(PROJECT, "data"), "sign-in.json");
    return (JSON.parse(readFileSync(path, "utf8")) as { token: string }).token;
  } catch {
    return undefined;
  }
}

/** What the service says went wrong as the error it tells of; anything else as it is. */
export function knownError(error: unknown): unknown {
  if (!(error instanceof Problem)) return error;
  const code: ErrorCode = error.code in ERRORS ? (error.code as ErrorCode) : "SERVICE_UNREACHABLE";
  const advice =
    code === "NOT_SIGNED_IN"
      ? "Set CORBIX_TOKEN to the token in the service's data/sign-in.json."
      : error.status === 0
        ? "Start it with npm start, or name its address with --url or CORBIX_URL."
        : error.advice;
  return new CorbixError(code, error.message, {
    cause: error,
    ...(error.where === undefined ? {} : { where: error.where }),
    ...(advice === undefined ? {} : { advice }),
  });
}
