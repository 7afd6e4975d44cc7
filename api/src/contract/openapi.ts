import { readFileSync } from "node:fs";
import { z } from "zod";
import { problem } from "./common.js";
import { BASE, type Body, type Endpoint, type Endpoints } from "./endpoint.js";

const VERSION: string = JSON.parse(readFileSync(new URL("../../package.json", import.meta.url), "utf8")).version;

type Schemas = Record<string, object>;

/** The OpenAPI 3.1 document of the endpoints, made from the same schemas that check calls and answers. */
export function openApiDocument(endpoints: Endpoints): object {
  const schemas: Schemas = {};
  jsonSchema(problem, "output", schemas);
  const paths: Record<string, Record<string, object>> = {};
  for (const [id, one] of Object.entries(endpoints)) {
    paths[one.path] ??= {};
    (paths[one.path] as Record<string, object>)[one.method] = operation(id, one, schemas);
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Corbix",
      version: VERSION,
      description: "Each their own part of one table: split, fill, render, send, prove.",
    },
    servers: [{ url: BASE }],
    security: [{ token: [] }],
    paths,
    components: {
      securitySchemes: { token: { type: "http", scheme: "bearer" } },
      schemas: Object.fromEntries(Object.entries(schemas).sort(([a], [b]) => (a < b ? -1 : 1))),
    },
  };
}

const IDEMPOTENCY = {
  name: "Idempotency-Key",
  in: "header",
  required: false,
  description: "Any text of one's own: the same call with the same key is done once, and answered alike, for a day.",
  schema: { type: "string", minLength: 1, maxLength: 200 },
};
const IF_MATCH = {
  name: "If-Match",
  in: "header",
  required: false,
  description: "The `ETag` of what was read: nothing is written where somebody else has written since (412).",
  schema: { type: "string", maxLength: 200 },
};

function operation(id: string, one: Endpoint, schemas: Schemas): object {
  const parameters = [
    ...parameterList(one.params, "path"),
    ...parameterList(one.query, "query"),
    ...(one.isOnce ? [IDEMPOTENCY] : []),
    ...(one.version === "matched" ? [IF_MATCH] : []),
  ];
  return {
    operationId: id,
    summary: one.summary,
    tags: [one.tag],
    ...(one.isOpen ? { security: [] } : {}),
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(one.body ? { requestBody: { required: true, content: bodyContent(one.body, schemas) } } : {}),
    responses: {
      ...Object.fromEntries(one.statuses.map((status) => [status, done(one, status, schemas)])),
      default: {
        description: "What went wrong, where, and what to do",
        content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
      },
    },
  };
}

function done(one: Endpoint, status: 200 | 201 | 202, schemas: Schemas): object {
  const headers = {
    ...(status === 201 ? { Location: { description: "Where the new thing is.", schema: { type: "string" } } } : {}),
    ...(one.version ? { ETag: { description: "Version, for If-Match.", schema: { type: "string" } } } : {}),
  };
  return {
    description: { 200: "Done", 201: "Made", 202: "Begun" }[status],
    ...(Object.keys(headers).length > 0 ? { headers } : {}),
    content:
      typeof one.answer === "string"
        ? { [one.answer]: { schema: { type: "string", format: "binary" } } }
        : { "application/json": { schema: jsonSchema(one.answer, "output", schemas) } },
  };
}

function bodyContent(body: Body, schemas: Schemas): object {
  if (body === "bytes" || body === "stream")
    return { "application/octet-stream": { schema: { type: "string", format: "binary" } } };
  if (body === "text") return { "text/plain": { schema: { type: "string" } } };
  return { "application/json": { schema: jsonSchema(body, "input", schemas) } };
}

function parameterList(schema: z.ZodObject | undefined, place: "path" | "query"): object[] {
  return Object.entries(schema?.shape ?? {}).map(([name, part]) => {
    const { description, ...own } = jsonSchema(part as z.ZodType, "input", {}) as { description?: string };
    return {
      name,
      in: place,
      required: place === "path" || !(part as z.ZodType).safeParse(undefined).success,
      ...(description === undefined ? {} : { description }),
      schema: own,
    };
  });
}

/** A schema as JSON Schema; those with a name go among the components, the same on both sides. Throws where one name has two shapes. */
function jsonSchema(schema: z.ZodType, io: "input" | "output", schemas: Schemas): object {
  const made = z.toJSONSchema(schema, {
    io,
    unrepresentable: "any",
    override: ({ zodSchema, jsonSchema: own }) => {
      if (z.globalRegistry.get(zodSchema as unknown as z.ZodType)?.wire === "boolean") {
        for (const key of Object.keys(own)) if (key !== "description") delete own[key as keyof typeof own];
        own.type = "boolean";
      }
    },
  }) as Record<string, unknown>;
  const { $schema: _, $defs, ...rest } = toComponents(made) as Record<string, unknown>;
  for (const [name, own] of Object.entries(($defs ?? {}) as Schemas)) keep(name, own, schemas);
  const { id } = z.globalRegistry.get(schema) ?? {};
  if (id === undefined || "$ref" in rest) return rest;
  keep(id, rest, schemas);
  return { $ref: `#/components/schemas/${id}` };
}

function keep(name: string, schema: object, schemas: Schemas): void {
  const { id: _, ...own } = schema as { id?: string };
  const known = schemas[name];
  if (known && JSON.stringify(known) !== JSON.stringify(own))
    throw new Error(
      `The schema ${name} has one shape in calls and another in answers: give one of them a name of its own.`,
    );
  schemas[name] = own;
}

function toComponents(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(toComponents);
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) =>
      key === "$ref" && typeof inner === "string"
        ? [key, inner.replace("#/$defs/", "#/components/schemas/")]
        : [key, toComponents(inner)],
    ),
  );
}
