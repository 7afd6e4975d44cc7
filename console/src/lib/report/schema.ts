/** A definition's fields as the service's JSON Schema tells them: what control each has, and what it begins with. */
import type { Path } from "./definition.js";

/** What is used of a JSON Schema. */
export interface Schema {
  readonly type?: string | readonly string[];
  readonly description?: string;
  readonly default?: unknown;
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: Schema | boolean;
  readonly items?: Schema;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly minItems?: number;
  readonly maxLength?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly pattern?: string;
}

/**
 * `fields` are named beforehand, `entries` by whoever writes them; `choice` is of several shapes, of which one is taken.
 * `fixed` has one value only: it is chosen, never typed.
 */
export type Kind = "fixed" | "pick" | "truth" | "number" | "text" | "list" | "fields" | "entries" | "choice";

export function kindOf(schema: Schema): Kind {
  if (schema.const !== undefined) return "fixed";
  if (schema.enum) return "pick";
  const shapes = shapesOf(schema);
  if (shapes.length > 0) return shapes.every((one) => one.const !== undefined || one.enum) ? "pick" : "choice";
  if (schema.type === "boolean") return "truth";
  if (schema.type === "integer" || schema.type === "number") return "number";
  if (schema.type === "array") return "list";
  if (schema.type === "object") return schema.properties ? "fields" : "entries";
  return "text";
}

export function shapesOf(schema: Schema): readonly Schema[] {
  return schema.anyOf ?? schema.oneOf ?? [];
}

/** What a field is for, as those read it who write no code. */
export function helpOf({ description = "" }: Schema): string {
  return description.replace(/`([^`]*)`/g, "“$1”");
}

/** Values of a field that has only some. */
export function valuesOf(schema: Schema): readonly unknown[] {
  if (schema.enum) return schema.enum;
  return shapesOf(schema).flatMap((one) => one.enum ?? (one.const === undefined ? [] : [one.const]));
}

/** Of a field of several shapes the one that a value has. */
export function shapeOf(schema: Schema, value: unknown): number {
  return shapesOf(schema).findIndex((shape) => fits(shape, value));
}

function fits(schema: Schema, value: unknown): boolean {
  if (schema.const !== undefined) return value === schema.const;
  if (schema.enum) return schema.enum.includes(value);
  const shapes = shapesOf(schema);
  if (shapes.length > 0) return shapes.some((shape) => fits(shape, value));
  if (schema.type === "array") return Array.isArray(value);
  if (schema.type === "object") {
    if (typeof value !== "object" || value === null || Array.isArray(value)) return false;
    const { properties } = schema;
    const names = Object.keys(value);
    if (!properties) return true;
    return names.every((name) => name in properties) && (schema.required ?? []).every((name) => name in value);
  }
  if (schema.type === "boolean") return typeof value === "boolean";
  if (schema.type === "integer" || schema.type === "number") return typeof value === "number";
  return typeof value === "string";
}

/** What a field is begun with when it is added. */
export function beginning(schema: Schema): unknown {
  // Who adds a switch means to turn it.
  if (kindOf(schema) === "truth") return !(schema.default ?? false);
  if (
    schema.default !== undefined &&
    JSON.stringify(schema.default) !== "{}" &&
    JSON.stringify(schema.default) !== "[]"
  )
    return schema.default;
  switch (kindOf(schema)) {
    case "fixed":
      return schema.const;
    case "pick":
      return valuesOf(schema)[0];
    case "truth":
      return true;
    case "number":
      return schema.minimum ?? 1;
    case "list":
      return (schema.minItems ?? 0) > 0 && schema.items ? [beginning(schema.items)] : [];
    case "fields":
      return Object.fromEntries(
        (schema.required ?? []).map((name) => [name, beginning(schema.properties?.[name] ?? {})]),
      );
    case "entries":
      return {};
    case "choice":
      return beginning(shapesOf(schema)[0] ?? {});
    case "text":
      return "";
  }
}

/** Where the schema of a field is found, whatever names and places lead to it. */
export function schemaAt(schema: Schema, path: Path): Schema | undefined {
  if (path.length === 0) return schema;
  const [first, ...rest] = path;
  for (const shape of [schema, ...shapesOf(schema)]) {
    const next =
      typeof first === "number"
        ? shape.items
        : (shape.properties?.[first] ??
          (typeof shape.additionalProperties === "object" ? shape.additionalProperties : undefined));
    const found = next && schemaAt(next, rest);
    if (found) return found;
  }
  return undefined;
}
