import type { z } from "zod";

export type Method = "get" | "post" | "put" | "delete";

/** Body of a call: a schema of its JSON, or a file: `bytes` where it is held in memory, `stream` where it is taken as it comes, `text`. */
export type Body = z.ZodType | "bytes" | "stream" | "text";

/** One address of the API: what it takes and what it answers. Server, document and client are all made from it. */
export interface Endpoint<
  Params extends z.ZodObject | undefined = z.ZodObject | undefined,
  Query extends z.ZodObject | undefined = z.ZodObject | undefined,
  Sent extends Body | undefined = Body | undefined,
  Answer extends z.ZodType | string = z.ZodType | string,
> {
  readonly method: Method;
  /** Path under {@link BASE} in the way of OpenAPI: `/runs/{id}`. */
  readonly path: string;
  readonly summary: string;
  readonly tag: string;
  readonly params: Params;
  readonly query: Query;
  readonly body: Sent;
  /** Schema of the JSON answer, or the media type of another. */
  readonly answer: Answer;
  /** 201 answers say in `Location` where the new thing is; an endpoint that may also find it there already says both. */
  readonly statuses: readonly (200 | 201 | 202)[];
  /** Answers without a sign-in. */
  readonly isOpen: boolean;
  /** Takes an `Idempotency-Key`: the same call with the same key is done once. */
  readonly isOnce: boolean;
  /** Tells its version as `ETag`, or takes one in `If-Match`. */
  readonly version: "told" | "matched" | undefined;
  /** Most bytes of the body, where it is not the usual. */
  readonly limit: number | undefined;
}

/** Where the API lies. */
export const BASE = "/api/v1";

export interface EndpointFacts<
  Params extends z.ZodObject | undefined,
  Query extends z.ZodObject | undefined,
  Sent extends Body | undefined,
  Answer extends z.ZodType | string,
> {
  readonly summary: string;
  readonly tag: string;
  readonly params?: Params;
  readonly query?: Query;
  readonly body?: Sent;
  readonly answer: Answer;
  readonly statuses?: readonly (200 | 201 | 202)[];
  readonly isOpen?: boolean;
  readonly isOnce?: boolean;
  readonly version?: "told" | "matched";
  readonly limit?: number;
}

/** Declares an endpoint; the types of its parts follow from the schemas. */
export function endpoint<
  Answer extends z.ZodType | string,
  Params extends z.ZodObject | undefined = undefined,
  Query extends z.ZodObject | undefined = undefined,
  Sent extends Body | undefined = undefined,
>(
  method: Method,
  path: string,
  facts: EndpointFacts<Params, Query, Sent, Answer>,
): Endpoint<Params, Query, Sent, Answer> {
  return {
    method,
    path,
    summary: facts.summary,
    tag: facts.tag,
    params: facts.params as Params,
    query: facts.query as Query,
    body: facts.body as Sent,
    answer: facts.answer,
    statuses: facts.statuses ?? [200],
    isOpen: facts.isOpen ?? false,
    isOnce: facts.isOnce ?? false,
    version: facts.version,
    limit: facts.limit,
  };
}

export type Endpoints = Readonly<Record<string, Endpoint>>;
