import { readFileSync } from "node:fs";
import { z } from "zod";
import type { Route } from "./route.js";

const VERSION: string = JSON.parse(readFileSync(new URL("../../package.json", import.meta.url), "utf8")).version;

/** The OpenAPI 3.1 document of the routes, made from the same schemas that check the calls. */
export function openApiDocument(routes: readonly Route[]): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of routes) {
    paths[route.path] ??= {};
    paths[route.path][route.method] = operation(route);
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Corbix",
      version: VERSION,
      description: "Each their own part of one table: split, fill, render, send, prove.",
    },
    servers: [{ url: "/" }],
    components: {
      securitySchemes: { token: { type: "http", scheme: "bearer" } },
      schemas: { Problem: jsonSchema(problemSchema) },
    },
    security: [{ token: [] }],
    paths,
  };
}

/** Problem details of RFC 9457. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string().optional(),
  code: z.string(),
  where: z.string().optional(),
  advice: z.string().optional(),
});

function operation(route: Route): object {
  const parameters = [...parameterList(route.params, "path"), ...parameterList(route.query, "query")];
  return {
    summary: route.summary,
    tags: [route.tag],
    operationId: `${route.method}${route.path.replace(/^\/api/, "").replace(/[/{}.-]+(\w?)/g, (_, letter: string) => letter.toUpperCase())}`,
    ...(route.isOpen ? { security: [] } : {}),
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(route.body ? { requestBody: { required: true, content: bodyContent(route.body) } } : {}),
    responses: {
      200: {
        description: "Done",
        content:
          typeof route.answer === "string"
            ? { [route.answer]: {} }
            : { "application/json": { schema: jsonSchema(route.answer) } },
      },
      default: {
        description: "What went wrong, where, and what to do",
        content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
      },
    },
  };
}

function bodyContent(body: NonNullable<Route["body"]>): object {
  if (body === "bytes" || body === "stream") return { "application/octet-stream": {} };
  return body === "text" ? { "text/plain": {} } : { "application/json": { schema: jsonSchema(body) } };
}

function parameterList(schema: z.ZodObject | undefined, place: "path" | "query"): object[] {
  return Object.entries(schema?.shape ?? {}).map(([name, part]) => ({
    name,
    in: place,
    required: place === "path" || !(part as z.ZodType).safeParse(undefined).success,
    schema: jsonSchema(part as z.ZodType),
  }));
}

function jsonSchema(schema: z.ZodType): object {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: "input", unrepresentable: "any" }) as Record<
    string,
    unknown
  >;
  return rest;
}
