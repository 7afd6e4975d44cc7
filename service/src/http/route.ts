import type { Request, Response } from "express";
import type { z } from "zod";
import type { User } from "../access/access.js";
import type { Context } from "../process/context.js";

/** What a handler gets: everything checked, nothing raw. */
export interface Call<Params, Query, Body> {
  readonly context: Context;
  readonly params: Params;
  readonly query: Query;
  readonly body: Body;
  readonly user: User;
  readonly request: Request;
  readonly response: Response;
}

export type Method = "get" | "post" | "put" | "delete";

/** One entry of the API: what Express serves and what the OpenAPI document tells come from the same place. */
export interface Route {
  readonly method: Method;
  /** Path in the way of OpenAPI: `/api/runs/{id}`. */
  readonly path: string;
  readonly summary: string;
  readonly tag: string;
  readonly params: z.ZodObject | undefined;
  readonly query: z.ZodObject | undefined;
  /** JSON body, `bytes` for a small file sent as it is, `stream` for one the handler reads from the request itself. */
  readonly body: z.ZodType | "bytes" | "stream" | "text" | undefined;
  /** Most bytes of the body; without it 1 MiB of JSON or text, 64 MiB of a file. */
  readonly limit: number | undefined;
  /** Shape of the JSON answer, or the media type of another. */
  readonly answer: z.ZodType | string;
  readonly isOpen: boolean;
  readonly handle: (call: Call<never, never, never>) => Promise<unknown>;
}

type Shape<T> = T extends z.ZodType ? z.output<T> : undefined;
type BodyOf<T> = T extends "bytes" ? Buffer : T extends "text" ? string : Shape<T>;

/** Declares a route with the types of its parts following from their schemas. A handler that gives `undefined` has answered itself. */
export function route<
  P extends z.ZodObject | undefined = undefined,
  Q extends z.ZodObject | undefined = undefined,
  B extends z.ZodType | "bytes" | "stream" | "text" | undefined = undefined,
>(
  method: Method,
  path: string,
  spec: {
    readonly summary: string;
    readonly tag: string;
    readonly params?: P;
    readonly query?: Q;
    readonly body?: B;
    readonly answer: z.ZodType | string;
    readonly isOpen?: boolean;
    readonly limit?: number;
    readonly handle: (call: Call<Shape<P>, Shape<Q>, BodyOf<B>>) => Promise<unknown>;
  },
): Route {
  return {
    method,
    path,
    params: spec.params,
    query: spec.query,
    body: spec.body,
    limit: spec.limit,
    answer: spec.answer,
    summary: spec.summary,
    tag: spec.tag,
    isOpen: spec.isOpen ?? false,
    handle: spec.handle as Route["handle"],
  };
}
