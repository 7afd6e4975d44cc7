/** Shapes of answers that several routes share. */
import { nameSchema } from "@corbix/core/report";
import { z } from "zod";

export const named = z.object({ name: nameSchema });
export const byId = z.object({ id: z.string().regex(/^[0-9a-f]{1,40}$/, "expected an id") });

export const finding = z.object({
  code: z.string(),
  severity: z.enum(["stop", "warn", "note"]),
  where: z.string(),
  what: z.string(),
  advice: z.string(),
  count: z.number().optional(),
});

export const column = z.object({
  name: z.string(),
  type: z.enum(["text", "number", "date", "datetime", "time", "boolean"]),
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
  leftOut: z.array(z.object({ row: z.number(), reason: z.string(), text: z.string() })),
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
