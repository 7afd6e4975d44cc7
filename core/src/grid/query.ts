import { z } from "zod";

export const filterSchema = z.strictObject({
  column: z.string(),
  is: z
    .enum(["equal", "not-equal", "containing", "beginning", "at-least", "at-most", "blank", "filled"])
    .describe("How the cell is compared; texts without regard to capitals and blanks."),
  value: z.string().max(2000).default(""),
});

/** What of a table is looked at, and in which order. */
export const gridQuerySchema = z.strictObject({
  search: z.string().max(500).default("").describe("Text in any column, or a number or date that is equal."),
  filters: z.array(filterSchema).max(50).default([]),
  sort: z.array(z.string()).max(8).default([]).describe("Columns; a leading `-` sorts downwards. Blanks come last."),
});

export type GridFilter = z.output<typeof filterSchema>;
export type GridQuery = z.output<typeof gridQuerySchema>;

export const EVERYTHING: GridQuery = { search: "", filters: [], sort: [] };
