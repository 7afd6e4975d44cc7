import { createParser } from "eventsource-parser";
import createClient from "openapi-fetch";
import type { paths } from "./paths.js";
import { Problem, problemOf } from "./problem.js";

type Method = "get" | "post" | "put" | "delete";

/** Addresses that know a method. */
export type PathOf<M extends Method> = {
  [P in keyof paths]: paths[P] extends { readonly [K in M]: { responses: unknown } } ? P : never;
}[keyof paths];

type Operation<M extends Method, P extends PathOf<M>> = paths[P] extends { readonly [K in M]: infer O } ? O : never;
type Part<O, Name extends "path" | "query"> = O extends { parameters: { [K in Name]: infer Value } }
  ? { readonly [K in Name]: Value }
  : O extends { parameters: { [K in Name]?: infer Value } }
    ? [Value] extends [never]
      ? unknown
      : [Value] extends [undefined]
        ? unknown
        : { readonly [K in Name]?: Value }
    : unknown;
/** What may be left out may also be undefined: JSON has no word for it. */
type Sendable<T> = T extends readonly (infer Item)[]
  ? readonly Sendable<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: object extends Pick<T, Key> ? Sendable<T[Key]> | undefined : Sendable<T[Key]> }
    : T;
type Sent<O> = O extends { requestBody: { content: infer Content } }
  ? {
      readonly body: Content extends { "application/json": infer Json }
        ? Sendable<Json>
        : Content extends { "text/plain": string }
          ? string
          : Blob | Uint8Array;
    }
  : unknown;
type Wanted<O> = Part<O, "path"> & Part<O, "query"> & Sent<O>;
/** Parts of a call: `path` and `query` of its address, its `body`, and headers. */
export type Call<M extends Method, P extends PathOf<M>> = Wanted<Operation<M, P>> & {
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal;
};
/** Nothing has to be said where every part may be left out. */
type Arguments<M extends Method, P extends PathOf<M>> =
  object extends Call<M, P> ? [call?: Call<M, P>] : [call: Call<M, P>];

type Responses<O> = O extends { responses: infer R } ? R : never;
type Done<R> = R extends { 200: infer A } ? A : R extends { 201: infer A } ? A : R extends { 202: infer A } ? A : never;
/** What a call answers. */
export type Answer<M extends Method, P extends PathOf<M>> =
  Done<Responses<Operation<M, P>>> extends { content: { "application/json": infer Json } } ? Json : Uint8Array;

/** Addresses that answer in pages. */
export type ListPath = {
  [P in PathOf<"get">]: Answer<"get", P> extends { readonly items: readonly unknown[] } ? P : never;
}[PathOf<"get">];
type Item<P extends ListPath> = Answer<"get", P> extends { readonly items: readonly (infer I)[] } ? I : never;

/** What the service announces while something happens. */
export interface ServiceEvent {
  readonly kind:
    | "run"
    | "dataset"
    | "recipients"
    | "template"
    | "report"
    | "question"
    | "letter"
    | "message"
    | "anything";
  /** The run's id, the dataset's name… */
  readonly subject: string;
}

export interface ClientOptions {
  /** Where the service lies: `https://reports.lifts.example`. */
  readonly url: string;
  /** A token; without one the page's own sign-in counts. */
  readonly token?: string | undefined;
  readonly fetch?: typeof globalThis.fetch;
}

/** The service's API, typed by its OpenAPI document. Every call throws a {@link Problem} where it is not done. */
export interface CorbixClient {
  readonly url: string;
  readonly get: <P extends PathOf<"get">>(path: P, ...call: Arguments<"get", P>) => Promise<Answer<"get", P>>;
  readonly post: <P extends PathOf<"post">>(path: P, ...call: Arguments<"post", P>) => Promise<Answer<"post", P>>;
  readonly put: <P extends PathOf<"put">>(path: P, ...call: Arguments<"put", P>) => Promise<Answer<"put", P>>;
  readonly delete: <P extends PathOf<"delete">>(
    path: P,
    ...call: Arguments<"delete", P>
  ) => Promise<Answer<"delete", P>>;
  /** As `get`, with the version of what was read: the `If-Match` of a later `put`. */
  readonly read: <P extends PathOf<"get">>(
    path: P,
    ...call: Arguments<"get", P>
  ) => Promise<{ readonly data: Answer<"get", P>; readonly etag: string | undefined }>;
  /** All items of a list, page by page. */
  readonly all: <P extends ListPath>(path: P, ...call: Arguments<"get", P>) => AsyncGenerator<Item<P>, void>;
  /** What is announced, until the signal ends it. */
  readonly events: (signal?: AbortSignal) => AsyncGenerator<ServiceEvent, void>;
}

interface AnyCall {
  readonly path?: object;
  readonly query?: object;
  readonly body?: unknown;
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal;
}

/**
 * Connects to a service; nothing is asked until the first call.
 * @example const runs = await connect({ url, token }).get("/runs", { query: { state: "held" } });
 */
export function connect({ url, token, fetch: ask = globalThis.fetch }: ClientOptions): CorbixClient {
  const base = url.replace(/\/$/, "");
  const reach: typeof globalThis.fetch = (...request) =>
    ask(...request).catch((cause: unknown) => {
      if ((cause as Error).name === "AbortError") throw cause;
      throw new Problem("Cannot reach the service.", 0, "SERVICE_UNREACHABLE", {
        where: base,
        advice: "See that it runs.",
        cause,
      });
    });
  const identity: Record<string, string> = token ? { Authorization: `Bearer ${token}` } : {};
  const api = createClient<Record<string, Record<string, never>>>({
    baseUrl: `${base}/api/v1`,
    fetch: (request) => reach(request),
    headers: identity,
  });
  api.use({
    onResponse: async ({ response }) => {
      if (!response.ok) throw await problemOf(response);
    },
  });
  const call = async (
    method: Method,
    path: string,
    parts: AnyCall = {},
  ): Promise<{ data: unknown; response: Response }> => {
    const { body, headers, signal } = parts;
    const isJson = !(body instanceof Blob || body instanceof Uint8Array || typeof body === "string");
    const type = isJson ? "application/json" : typeof body === "string" ? "text/plain" : "application/octet-stream";
    const { response } = await api.request(
      method,
      path as never,
      {
        params: { path: parts.path, query: parts.query },
        ...(body === undefined ? {} : { body, bodySerializer: (one: unknown) => (isJson ? JSON.stringify(one) : one) }),
        headers: { ...(body === undefined ? {} : { "Content-Type": type }), ...headers },
        ...(signal ? { signal } : {}),
        parseAs: "stream",
      } as never,
    );
    const isAnswer = response.headers.get("content-type")?.startsWith("application/json") ?? false;
    const data = isAnswer ? await response.json() : new Uint8Array(await response.arrayBuffer());
    return { data, response };
  };
  const simple =
    (method: Method) =>
    async (path: string, parts?: AnyCall): Promise<unknown> =>
      (await call(method, path, parts)).data;
  return {
    url: base,
    get: simple("get"),
    post: simple("post"),
    put: simple("put"),
    delete: simple("delete"),
    read: async (path: string, parts?: AnyCall) => {
      const { data, response } = await call("get", path, parts);
      return { data, etag: response.headers.get("etag") ?? undefined };
    },
    all: async function* (path: string, parts: AnyCall = {}) {
      let cursor: string | undefined;
      do {
        const query = { ...parts.query, ...(cursor === undefined ? {} : { cursor }) };
        const page = (await call("get", path, { ...parts, query })).data as { items: unknown[]; next: string | null };
        yield* page.items;
        cursor = page.next ?? undefined;
      } while (cursor !== undefined);
    },
    events: (signal) =>
      eventsOf(() => reach(`${base}/api/v1/events`, { headers: identity, ...(signal ? { signal } : {}) })),
  } as CorbixClient;
}

/** Server-sent events as they come (HTML living standard, 9.2). */
async function* eventsOf(open: () => Promise<Response>): AsyncGenerator<ServiceEvent, void> {
  const response = await open();
  if (!response.ok) throw await problemOf(response);
  const waiting: ServiceEvent[] = [];
  const parser = createParser({ onEvent: ({ data }) => waiting.push(JSON.parse(data)) });
  const decoder = new TextDecoder();
  const reader = response.body?.getReader();
  try {
    for (;;) {
      const { done, value } = (await reader?.read()) ?? { done: true, value: undefined };
      if (done) return;
      parser.feed(decoder.decode(value, { stream: true }));
      yield* waiting.splice(0);
    }
  } finally {
    await reader?.cancel().catch(() => {});
  }
}
