/** A report that is asked, and how a definition becomes one. */
import type { Column } from "../client.js";
import type { Definition } from "./definition.js";
import { freeName } from "./new-report.js";

export const FIELD_KINDS = ["choose", "between", "search"] as const;
export type FieldKind = (typeof FIELD_KINDS)[number];

/** A field as the definition has it. */
export interface FieldSpec {
  readonly choose?: string;
  readonly between?: string;
  readonly search?: readonly string[];
  readonly label?: string;
  readonly needed?: boolean;
}

export const kindOfField = (field: FieldSpec): FieldKind => FIELD_KINDS.find((kind) => kind in field) ?? "choose";
export const columnsOfField = (field: FieldSpec): readonly string[] =>
  field.search ?? [field.choose ?? field.between ?? ""];

/** A field of another kind, about the same column where that fits. */
export function ofKind(field: FieldSpec, kind: FieldKind, columns: readonly Column[]): FieldSpec {
  const [first = ""] = columnsOfField(field);
  const { label, needed } = field;
  const about = { ...(label === undefined ? {} : { label }), ...(needed === undefined ? {} : { needed }) };
  if (kind === "search") return { search: [first], ...about };
  if (kind === "choose") return { choose: first, ...about };
  const ordered = columns.filter(isOrdered);
  const fitting = ordered.find(({ name }) => name === first) ?? ordered[0];
  return { between: fitting?.name ?? first, ...about };
}

/** Whether something can lie between two values of a column. */
export const isOrdered = ({ type }: Pick<Column, "type">): boolean =>
  type === "date" || type === "datetime" || type === "number";

/** A new field about a column, as its values suggest. */
export function fieldFor(column: Column): FieldSpec {
  return isOrdered(column) ? { between: column.name } : { choose: column.name };
}

/** A free name in addresses and commands for a field about a column. */
export function fieldName(column: string, taken: readonly string[]): string {
  return freeName(column, taken, "field");
}

/** What only a report has that is run. */
const RUN_ONLY = [
  "split",
  "period",
  "once",
  "message",
  "delivery",
  "waysOut",
  "schedule",
  "figures",
  "records",
  "startOnData",
  "whenNothing",
];

/** The definition as one that people ask: what only a run needs is taken out. */
export function asEnquiry(definition: Definition, columns: readonly Column[]): string {
  const without = RUN_ONLY.reduce(
    (one, field) => (one.get([field]) === undefined ? one : one.with([field], undefined)),
    definition,
  );
  const first = columns.find((one) => !isOrdered(one)) ?? columns[0];
  const fields = first ? { [fieldName(first.name, [])]: fieldFor(first) } : {};
  return without.with(["enquiry"], { fields }).text;
}

/** The definition as one that is run again, over all rows until groups are chosen. */
export function asRun(definition: Definition): string {
  return definition.with(["enquiry"], undefined).text;
}
