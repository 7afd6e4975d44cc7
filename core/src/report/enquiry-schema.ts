/** What people are asked who ask a report, and what they get, as written. */
import { z } from "zod";
import { nameSchema } from "../prepare/index.js";
import { text } from "./fields.js";

const about = {
  label: text.optional().describe("What the field is called; its column if left out."),
  needed: z.boolean().default(false).describe("Whether it has to be filled in."),
};

const fieldSchema = z.union([
  z.strictObject({
    choose: text.describe("Column whose values can be chosen, one or several."),
    ...about,
  }),
  z.strictObject({
    between: text.describe("Column of dates or numbers: from, until, or both."),
    ...about,
  }),
  z.strictObject({
    search: z.array(text).min(1).describe("Columns in which words are looked for."),
    ...about,
  }),
]);

export const enquirySchema = z.strictObject({
  fields: z
    .record(nameSchema, fieldSchema)
    .refine((fields) => Object.keys(fields).length > 0, "expected at least one field to fill in")
    .describe("What people fill in, in order, by name."),
  columns: z.array(text).min(1).optional().describe("Columns of the answer in order; all, if none are named."),
  sort: z.array(text).min(1).optional().describe("Columns the answer is sorted by; a leading `-` sorts downwards."),
  page: nameSchema.optional().describe("The file that is one row's page; a plain one is made if left out."),
  most: z
    .number()
    .int()
    .min(1)
    .max(100_000)
    .default(10_000)
    .describe("Most rows of one answer as a file; of more than that people are told to ask more narrowly."),
});

/** A report that is asked: by fields, without recipients. */
export type Enquiry = z.output<typeof enquirySchema>;
export type EnquiryField = Enquiry["fields"][string];
