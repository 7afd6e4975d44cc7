import { BASE, type Endpoint, type Endpoints, type Scope } from "@corbix/api";
import type { Request, Response } from "express";
import type { z } from "zod";
import type { User } from "../access/access.js";
import type { Context } from "../process/context.js";

type Parsed<T> = T extends z.ZodType ? z.output<T> : undefined;
type Sent<T> = T extends "bytes" ? Uint8Array : T extends "text" ? string : Parsed<T>;
/** What a handler gives may be read-only all through. */
type Frozen<T> = T extends readonly (infer Item)[]
  ? readonly Frozen<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: Frozen<T[Key]> }
    : T;
/** The JSON of an answer as its schema has it; nothing where the handler sends bytes itself. */
type Given<T> = T extends z.ZodType ? Frozen<z.output<T>> : void;

/** What a handler gets: everything checked, nothing raw. */
export interface Call<E extends Endpoint = Endpoint> {
  readonly context: Context;
  readonly params: Parsed<E["params"]>;
  readonly query: Parsed<E["query"]>;
  readonly body: Sent<E["body"]>;
  readonly user: User;
  /** The reports for which the caller may do this. */
  readonly scope: Scope;
  readonly request: Request;
  readonly response: Response;
  /** Answers 201 with the new thing's place under the API. */
  readonly created: (path: string) => void;
  /** Tells the version of what is answered. */
  readonly tell: (version: string | number) => void;
  /** The version that what is changed has to have; `undefined` where the caller does not say. */
  readonly expected: string | undefined;
}

/** A function for each endpoint: leaving one out, or answering otherwise than its schema says, does not compile. */
export type HandlersOf<E extends Endpoints> = {
  readonly [Id in keyof E]: (call: Call<E[Id]>) => Promise<Given<E[Id]["answer"]>>;
};

/** An endpoint with its handler. */
export interface Route {
  readonly id: string;
  readonly endpoint: Endpoint;
  readonly handle: (call: Call) => Promise<unknown>;
}

export function routesOf<E extends Endpoints>(endpoints: E, handlers: HandlersOf<E>): Route[] {
  return Object.entries(endpoints).map(([id, endpoint]) => ({
    id,
    endpoint,
    handle: handlers[id] as unknown as Route["handle"],
  }));
}

/** A handler's part of a call that tells versions and places. */
export function answering(request: Request, response: Response): Pick<Call, "created" | "tell" | "expected"> {
  const matched = request.headers["if-match"];
  return {
    created: (path) => {
      response.status(201).location(`${BASE}${path}`);
    },
    tell: (version) => {
      response.setHeader("ETag", `"${version}"`);
    },
    expected: matched === undefined || matched === "*" ? undefined : matched.replace(/^W\//, "").replace(/^"|"$/g, ""),
  };
}

/** A moment as the contract spells it. */
export function iso(time: Date): string;
export function iso(time: Date | null): string | null;
export function iso(time: Date | null): string | null {
  return time === null ? null : time.toISOString();
}
