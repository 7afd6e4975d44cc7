/** Files of plain forms, as written. */
import { z } from "zod";
import { ENCODINGS, LIST_FORMS } from "../list/index.js";
import { expressionSchema as expression } from "../prepare/index.js";
import { text } from "./fields.js";

const listColumnSchema = z.union([
  text,
  z.strictObject({
    column: text,
    heading: text.optional(),
    format: text.optional().describe("Number format code of ECMA-376; without one values are as machines read them."),
    width: z.number().int().min(1).max(2_000).optional().describe("Of fixed widths: signs of the field."),
    align: z.enum(["left", "right"]).optional().describe("Of fixed widths; numbers stand right if left out."),
  }),
]);

const eventSchema = z.strictObject({
  title: text.describe("What it is called; marks are filled, here and below, with the line's values."),
  id: text
    .optional()
    .describe("What tells it from others, so that a changed one takes its place; the whole line if left out."),
  begins: expression.describe("Column or expression over a line: a day, or a day with a time."),
  ends: expression.optional().describe("Its last day, or its end."),
  minutes: z.number().int().min(1).max(10_080).optional().describe("How long it takes, where no end is named."),
  place: text.optional(),
  text: z.string().min(1).max(20_000).optional().describe("More about it."),
  zone: text.optional().describe("Time zone of its times; UTC if left out."),
  remind: z.number().int().min(0).max(40_320).optional().describe("Minutes before it that people are reminded."),
});

const cardSchema = z.strictObject({
  name: text.describe("The person's name; marks are filled, here and below, with the line's values."),
  email: text.optional(),
  phone: text.optional(),
  organization: text.optional(),
  role: text.optional(),
  address: text.optional(),
  note: text.optional(),
});

export const listSchema = z
  .strictObject({
    form: z
      .enum(LIST_FORMS)
      .describe("Delimited text, fixed widths, JSON, OpenDocument spreadsheet, HTML, calendar entries or cards."),
    ending: z
      .enum(["csv", "tsv", "txt"])
      .optional()
      .describe("Of delimited text: the ending of its name; csv if left out."),
    lines: z
      .string()
      .optional()
      .describe("Lines it shows, by the name the report gives them; the group's own if left out."),
    title: text.optional().describe("Of HTML and OpenDocument: what the table is called; marks are filled."),
    columns: z.array(listColumnSchema).min(1).optional().describe("Columns in order; all, if none are named."),
    delimiter: z.enum([",", ";", "tab", "|"]).default(","),
    quotes: z
      .enum(["needed", "text", "all", "none"])
      .default("needed")
      .describe("Which values stand in quotes: those that need them, all texts, everything, or none."),
    encoding: z.enum(ENCODINGS).default("utf-8"),
    lineEnds: z.enum(["crlf", "lf"]).default("crlf"),
    decimal: z.enum([".", ","]).default(".").describe("The decimal sign of numbers."),
    headings: z.boolean().default(true).describe("Whether a first line names the columns."),
    guard: z
      .boolean()
      .default(true)
      .describe("Whether texts that a spreadsheet would take for formulas get an apostrophe before them."),
    event: eventSchema.optional().describe("Of calendar entries: what a line becomes."),
    card: cardSchema.optional().describe("Of cards: what a line becomes."),
  })
  .refine(
    (list) => (list.form === "icalendar") === (list.event !== undefined),
    "icalendar needs an event, and nothing else has one",
  )
  .refine(
    (list) => (list.form === "vcard") === (list.card !== undefined),
    "vcard needs a card, and nothing else has one",
  )
  .refine(
    (list) => list.ending === undefined || list.form === "delimited",
    "an ending is chosen for delimited text only",
  );
