import { z } from "zod";

const column = z.string().min(1).max(500);

/** How the cells of one column are read, where that was corrected. */
export const columnRuleSchema = z.strictObject({
  type: z.enum(["text", "number", "date", "datetime", "time", "boolean"]),
  order: z.enum(["day-first", "month-first"]).optional().describe("Order of day and month in dates written as text."),
  decimal: z.enum(["point", "comma"]).optional().describe("The decimal sign in numbers written as text."),
});

/** What was corrected once about how a dataset's files are read; kept for later editions. Anything left out is found by itself. */
export const intakeRulesSchema = z.strictObject({
  encoding: z
    .string()
    .min(1)
    .max(40)
    .regex(/^[\w .:-]+$/)
    .optional()
    .describe("Of a text file: UTF-8, windows-1250, ISO-8859-2, KOI8-R, CP852, macRoman and others."),
  delimiter: z
    .union([z.enum(["comma", "semicolon", "tabulator", "bar"]), z.string().length(1)])
    .optional()
    .describe("What stands between two cells of a text file: a name, or one sign."),
  quote: z
    .enum(["quotation mark", "apostrophe", "none"])
    .optional()
    .describe("What cells of a text file may be wrapped in."),
  list: column.optional().describe("Of JSON with several lists: the one whose entries are the rows, such as `people`."),
  sheet: column.optional().describe("Name of the sheet."),
  table: column.optional().describe("A defined table or a named range of the workbook."),
  header: z.enum(["none"]).optional().describe("`none` where the file has no header: its first line is a row."),
  names: z
    .array(column)
    .min(1)
    .max(16_384)
    .optional()
    .describe("What the columns of a file without a header are called, from the first on."),
  headerRow: z.int().min(1).optional().describe("Row of the header; of one with several lines the first."),
  headerLines: z.int().min(1).max(4).optional().describe("Lines the header has."),
  firstColumn: z
    .string()
    .regex(/^[A-Za-z]{1,3}$/)
    .optional()
    .describe("Letters of the first column."),
  lastColumn: z
    .string()
    .regex(/^[A-Za-z]{1,3}$/)
    .optional()
    .describe("Letters of the last column."),
  end: z
    .union([z.enum(["found", "blank-row", "last-row"]), z.strictObject({ row: z.int().min(1) })])
    .optional()
    .describe("Where the table ends: as found, at the first blank row, at the last row with content, or at a row."),
  types: z.record(z.string(), columnRuleSchema).optional().describe("Types by column name."),
});

export type ColumnRule = z.output<typeof columnRuleSchema>;
export type IntakeRules = z.output<typeof intakeRulesSchema>;

/**
 * Corrections with others over them. A header row and no header are two words on one thing, a sheet and a table in it too: the later
 * one counts.
 */
export function mergeRules(kept: IntakeRules, given: IntakeRules): IntakeRules {
  const { header, headerRow, headerLines, table, ...rest } = kept;
  const isHeaderless = given.header !== undefined;
  const hasRow = given.headerRow !== undefined;
  const types = { ...kept.types, ...given.types };
  return {
    ...rest,
    ...(header === undefined || hasRow ? {} : { header }),
    ...(headerRow === undefined || isHeaderless ? {} : { headerRow }),
    ...(headerLines === undefined || isHeaderless ? {} : { headerLines }),
    ...(table === undefined || (given.sheet !== undefined && given.table === undefined) ? {} : { table }),
    ...given,
    ...(Object.keys(types).length > 0 ? { types } : {}),
  };
}
