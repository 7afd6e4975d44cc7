import { openAsBlob, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { CorbixError, ERRORS, type ErrorCode } from "@corbix/core/common";

/** Talks to a running service over HTTP. */
export interface Client {
  readonly url: string;
  readonly get: <T>(path: string) => Promise<T>;
  readonly send: <T>(method: "POST" | "PUT" | "DELETE", path: string, body?: unknown) => Promise<T>;
  /** Sends a file, or a text, as it is. */
  readonly upload: <T>(method: "POST" | "PUT", path: string, body: Uint8Array | string) => Promise<T>;
  /** Sends a file of this machine piece by piece. Throws `NOT_FOUND` with the path. */
  readonly uploadFile: <T>(path: string, file: string, headers?: Readonly<Record<string, string>>) => Promise<T>;
  readonly download: (path: string) => Promise<Uint8Array>;
  /** Calls back for each event until the signal ends it. */
  readonly events: (
    onEvent: (event: { readonly kind: string; readonly subject: string }) => void,
    signal: AbortSignal,
  ) => Promise<void>;
}

export interface ClientOptions {
  readonly url?: string;
  readonly token?: string;
}

const PROJECT = fileURLToPath(new URL("../..", import.meta.url));

/** The service's address and token: from options, environment, or the data folder of this project. */
export function makeClient(options: ClientOptions): Client {
  const url = (options.url ?? process.env.CORBIX_URL ?? `http://127.0.0.1:${process.env.CORBIX_PORT ?? 8320}`).replace(
    /\/$/,
    "",
  );
  const token = options.token ?? process.env.CORBIX_TOKEN ?? localToken();
  const call = async (path: string, init: RequestInit = {}): Promise<Response> => {
    const headers = { ...(token ? { Authorization: `Bearer ${token}` } : {}), ...init.headers };
    const response = await fetch(url + path, { ...init, headers }).catch((cause: Error) => {
      throw new CorbixError("SERVICE_UNREACHABLE", "Cannot reach the service.", {
        where: url,
        advice: "Start it with npm start, or name its address with --url or CORBIX_URL.",
        cause,
      });
    });
    if (!response.ok) throw await problemOf(response);
    return response;
  };
  return {
    url,
    get: async <T>(path: string) => (await call(path)).json() as Promise<T>,
    send: async <T>(method: string, path: string, body?: unknown) =>
      (
        await call(path, { method, headers: { "Content-Type": "application/json" }, body: JSON.stringify(body ?? {}) })
      ).json() as Promise<T>,
    upload: async <T>(method: string, path: string, body: Uint8Array | string) =>
      (
        await call(path, {
          method,
          headers: { "Content-Type": typeof body === "string" ? "text/plain" : "application/octet-stream" },
          body: body as string,
        })
      ).json() as Promise<T>,
    uploadFile: async <T>(path: string, file: string, headers: Readonly<Record<string, string>> = {}) => {
      const body = await openAsBlob(file).catch((cause: Error) => {
        throw new CorbixError("NOT_FOUND", "Cannot read the file: there is none.", { where: file, cause });
      });
      const response = await call(path, {
        method: "POST",
        headers: { "Content-Type": "application/octet-stream", ...headers },
        body,
      });
      return response.json() as Promise<T>;
    },
    download: async (path) => new Uint8Array(await (await call(path)).arrayBuffer()),
    events: async (onEvent, signal) => {
      const response = await call("/api/events", { signal });
      let rest = "";
      const decoder = new TextDecoder();
      for await (const chunk of response.body ?? []) {
        const lines = (rest + decoder.decode(chunk, { stream: true })).split("\n");
        rest = lines.pop() ?? "";
        for (const line of lines) if (line.startsWith("data: ")) onEvent(JSON.parse(line.slice(6)));
      }
    },
  };
}

function localToken(): string | undefined {
  try {
    const path = join(process.env.CORBIX_DATA ?? join(PROJECT, "data"), "sign-in.json");
    return (JSON.parse(readFileSync(path, "utf8")) as { token: string }).token;
  } catch {
    return undefined;
  }
}

/** The service's problem details as the error they tell of. */
async function problemOf(response: Response): Promise<CorbixError> {
  const problem = (await response.json().catch(() => ({}))) as {
    code?: string;
    title?: string;
    where?: string;
    advice?: string;
  };
  const code = (problem.code && problem.code in ERRORS ? problem.code : "SERVICE_UNREACHABLE") as ErrorCode;
  const advice =
    code === "NOT_SIGNED_IN" ? "Set CORBIX_TOKEN to the token in the service's data/sign-in.json." : problem.advice;
  return new CorbixError(code, problem.title ?? `The service answered ${response.status}.`, {
    ...(problem.where ? { where: problem.where } : {}),
    ...(advice ? { advice } : {}),
  });
}
