/** Schemas that several resources share. */
import { nameSchema } from "@corbix/core/report";
import { FILE_KINDS } from "@corbix/core/run";
import { z } from "zod";

export const name = nameSchema;
export const whole = z.number().int();
export const count = whole.min(0);
/** A moment as RFC 3339 writes it, in UTC: `2026-11-02T07:30:00.000Z`. */
export const instant = z.iso.datetime();
/** A time of a schedule. */
export const scheduledTime = z
  .strictObject({
    at: instant,
    movedFrom: z
      .strictObject({ day: z.string(), name: z.string().nullable().describe("What the day off is called.") })
      .nullable()
      .describe("The day off that it was moved from."),
  })
  .meta({ id: "ScheduledTime" });
/** A day of the calendar: `2026-11-02`. */
export const day = z.iso.date("expected a day, such as 2026-11-02");
/** A truth value in an address: `true` or `false`, nothing else. */
export const truth = z
  .enum(["true", "false"], "expected true or false")
  .transform((text) => text === "true")
  .meta({ wire: "boolean" });
export const digest = z.string().regex(/^[0-9a-f]{64}$/, "expected a SHA-256 digest");
/** Rows of a large table have their number as text: it may be larger than a JSON number holds. */
export const rowId = z.string().regex(/^\d{1,18}$/, "expected a number");
export const runId = z.string().regex(/^[0-9a-f]{1,40}$/, "expected an id");
/** A period's key, such as `2026-10`; a day where the report has no period. */
export const period = z.string().max(60);
export const fileKind = z.enum(FILE_KINDS);
export const reason = z.string().trim().min(3, "expected a reason").max(500);
export const groups = z.array(z.string().max(1_000)).min(1);

export const byName = z.strictObject({ name });
export const byFile = z.strictObject({ file: z.string().min(1).max(255) });
export const byRun = z.strictObject({ id: runId });
export const byRowId = z.strictObject({ id: rowId });

const MAX_ITEMS = 1_000;

/** What every list takes: how many at most, and where to go on. */
export const paging = z.strictObject({
  limit: z.coerce.number().int().min(1).max(MAX_ITEMS).default(100).describe("Most items of one answer."),
  cursor: z
    .string()
    .max(2_000)
    .optional()
    .describe("`next` of the answer before; search and order have to be the same as there."),
});

/** A page of a list: `next` leads to the page after it, and is null on the last. */
export function page<Item extends z.ZodType>(item: Item) {
  return z.strictObject({ items: z.array(item), next: z.string().nullable() });
}

/** A page of a list that also tells how many there are on all pages. */
export function countedPage<Item extends z.ZodType>(item: Item) {
  return z.strictObject({ items: z.array(item), next: z.string().nullable(), total: count });
}

/** Order of a list: a field, with a leading `-` downwards. */
export function sorting<const Field extends string>(fields: readonly [Field, ...Field[]], usual: Field | `-${Field}`) {
  const both = fields.flatMap((field) => [field, `-${field}` as const]);
  return z
    .enum(both as [Field | `-${Field}`, ...(Field | `-${Field}`)[]])
    .default(usual as never)
    .describe("Field to sort by; a leading `-` sorts downwards.");
}

export const problem = z
  .strictObject({
    type: z.string(),
    title: z.string(),
    status: whole,
    code: z.string().describe("Stable code of what went wrong; docs/operating.md lists them all."),
    where: z.string().optional().describe("A file, a sheet and cell, a field of a definition, a group."),
    advice: z.string().optional(),
    instance: z.string().optional().describe("By which something unforeseen is found in the log."),
  })
  .meta({ id: "Problem", description: "Problem details (RFC 9457)." });

export const severity = z.enum(["stop", "warn", "note"]);
export const finding = z
  .strictObject({
    code: z.string(),
    severity,
    where: z.string(),
    what: z.string(),
    advice: z.string(),
    count: count.optional().describe("How many cells, rows or groups it concerns."),
    cells: z
      .strictObject({ column: z.string().optional(), rows: z.array(z.number()) })
      .optional()
      .describe("Where to look in the table: a column, and the first of the rows by their number in the origin."),
  })
  .meta({ id: "Finding" });

/** Findings of one kind told as one. */
export const summedFinding = z
  .strictObject({
    ...finding.shape,
    times: whole.min(1).describe("How many findings of this kind there are; the first of them is told."),
  })
  .meta({ id: "SummedFinding" });

export const columnType = z.enum(["text", "number", "date", "datetime", "time", "boolean"]);
export const column = z
  .strictObject({ name: z.string(), type: columnType, unit: z.string().optional() })
  .meta({ id: "Column" });
/** A cell: dates as `2026-11-02`, moments as `2026-11-02T07:30:00`, times as `07:30:00`, by the type of its column. */
export const cell = z.union([z.string(), z.number(), z.boolean(), z.null()]).meta({ id: "Cell" });
export const cells = z
  .array(z.array(cell))
  .describe("Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00.");

/** Rows of a table, a page of them. */
export const rows = z
  .strictObject({
    columns: z.array(column),
    rowNumbers: z.array(z.number()).describe("Numbers of the rows in their origin."),
    rows: cells,
    total: count,
    next: z.string().nullable(),
  })
  .meta({ id: "Rows" });

export const address = z.strictObject({ address: z.string(), name: z.string().optional() }).meta({ id: "Address" });
export const envelope = z
  .strictObject({ to: z.array(address), cc: z.array(address), bcc: z.array(address) })
  .meta({ id: "Envelope" });

/** Somebody who receives for a group, with every address and the rule that names them. */
export const matchedPerson = z.strictObject({
  name: z.string(),
  role: z.enum(["to", "copy", "blind"]),
  to: z.array(address),
  copies: z.array(address),
  blindCopies: z.array(address),
  language: z.string().nullable(),
  why: z.string().describe("The rule that names them."),
});

/** A group with what it has, as previews list it. */
export const triedGroup = z
  .strictObject({ key: z.string(), label: z.string(), rows: count })
  .meta({ id: "TriedGroup" });

/** What one step of a preparation did. */
export const step = z
  .strictObject({
    kind: z.string(),
    what: z.string(),
    rowsIn: count,
    rowsOut: count,
    leftOut: z.array(z.strictObject({ reason: z.string(), count, rowNumbers: z.array(z.number()) })),
    made: count,
    columnsAdded: z.array(z.string()),
    columnsDropped: z.array(z.string()),
    findings: z.array(finding),
  })
  .meta({ id: "Step" });

/** A file made to be looked at. */
export const trial = z
  .strictObject({
    id: z.string().describe("Names its files at /made."),
    period: z.string().nullable(),
    group: z.string(),
    groups: z.array(triedGroup),
    files: z.array(
      z.strictObject({
        kind: fileKind,
        size: count,
        attachedSize: count.describe("About how many bytes it adds to a message."),
        pages: count.optional(),
      }),
    ),
    findings: z.array(finding),
    columns: z.array(column),
    rowNumbers: z.array(z.number()),
    rows: cells,
  })
  .meta({ id: "Trial" });
