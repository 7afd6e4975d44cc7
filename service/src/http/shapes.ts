/** Shapes of answers that several routes share. */
import { nameSchema } from "@corbix/core/report";
import { intakeRulesSchema } from "@corbix/core/table";
import { z } from "zod";

export const named = z.object({ name: nameSchema });
export const numbered = named.extend({ number: z.coerce.number().int().min(1) });
export const byId = z.object({ id: z.string().regex(/^[0-9a-f]{1,40}$/, "expected an id") });

export const finding = z.object({
  code: z.string(),
  severity: z.enum(["stop", "warn", "note"]),
  where: z.string(),
  what: z.string(),
  advice: z.string(),
  count: z.number().optional(),
  cells: z
    .object({ column: z.string().optional(), rows: z.array(z.number()) })
    .optional()
    .describe("Where to look in the table: a column, and the first of the rows by their number in the origin."),
});

export const column = z.object({
  name: z.string(),
  type: z.enum(["text", "number", "date", "datetime", "time", "boolean"]),
  unit: z.string().optional(),
});
export const cell = z.union([z.string(), z.number(), z.boolean(), z.null()]);

export const edition = z.object({
  dataset: z.string(),
  number: z.number().int(),
  origin: z.string(),
  sha256: z.string(),
  rowCount: z.number().int(),
  columns: z.array(column),
  reading: z.record(z.string(), z.string()),
  headerRow: z.number().int(),
  leftOut: z
    .array(
      z.object({
        reason: z.string(),
        count: z.number().int(),
        lines: z.array(z.object({ row: z.number(), text: z.string() })),
      }),
    )
    .describe("Lines of the file with content that are no rows, by reason; the first of each."),
  decisions: z
    .array(z.object({ what: z.string(), chosen: z.string(), why: z.string(), corrected: z.boolean() }))
    .describe("What was decided while reading, and why."),
  changes: z
    .array(z.object({ column: z.string(), kind: z.string(), count: z.number().int() }))
    .describe("How many cells stand otherwise than in the file."),
  rules: intakeRulesSchema.describe("Corrections it was read with."),
  appended: z.object({ added: z.number().int(), replaced: z.number().int() }).nullable(),
  findings: z.array(finding),
  createdBy: z.string(),
  createdAt: z.string(),
});

export const rows = z.object({
  columns: z.array(column),
  rowNumbers: z.array(z.number()),
  rows: z.array(z.array(cell)).describe("Dates are serial numbers: days since 1899-12-30."),
  total: z.number().int(),
});

export const anything = z.looseObject({});
